"""Whether what was confirmed is there after the server, or the database, was killed outright.

Ten writers type into their own fields of drafts while, at random moments, the server or the database is
killed with SIGKILL and started again. Afterwards every edit that was answered 200 must be what the
draft holds, or have been typed over by one that came later. Two and ten who save one job: each revision
has one parent, and every 201 is a revision. Run: ./furrow bench durable
"""

import http.client
import json
import os
import random
import signal
import subprocess
import threading
import time
from contextlib import suppress

from bench.server import Client, edit_of, seeded, started
from openfurrow.core.design_versions import read_document
from openfurrow.core.fields import value_at
from openfurrow.demo.seed import CREW_LEAD, PLANNER
from openfurrow.store.cluster import free_port, private_cluster, throwaway_home

FIELDS = (
    "wiring.slack_m",
    "trench.width_m",
    "trench.extra_depth_m",
    "arrays.1.rows.lower_edge_m",
    "stakeout.instrument_height_m",
)
GONE = (OSError, http.client.HTTPException)


class Writer(threading.Thread):
    """Types numbers into one field; remembers what was confirmed last and what was sent after it."""

    def __init__(self, port: int, token: str, job: str, field: str, rng: random.Random) -> None:
        super().__init__(daemon=True)
        self.client, self.job, self.field, self.rng = Client(port, token, 10.0), job, field, rng
        self.confirmed = 0
        self.last: str | None = None
        self.maybe: set[str] = set()
        self.failed = ""
        self.stop = threading.Event()

    def run(self) -> None:
        while not self.stop.is_set():
            words = f"{self.rng.uniform(0.5, 0.9):.4f} m"
            try:
                self.maybe.add(words)
                status, _ = self.client.ask("POST", f"{self.job}/edits", edit_of(self.field, words))
            except GONE:
                time.sleep(0.02)
                continue
            if status == 200:
                self.last, self.confirmed, self.maybe = words, self.confirmed + 1, set()
            elif status not in (409, 503):
                self.failed = f"{status}"
                return

    def holds(self, design: dict) -> bool:
        """Whether the draft holds what was confirmed last, or something sent after it."""
        found = value_at(read_document(design), self.field)
        sent = {self.last, *self.maybe} - {None}
        return not self.confirmed or any(abs(found - float(words.split()[0])) < 1e-9 for words in sent)


def killing(kills: int, seed: int) -> None:
    rng = random.Random(seed)
    with throwaway_home() as home, private_cluster(home) as url:
        seeded(url)
        port = free_port()
        server = started(url, port)
        tokens = []
        for name in (PLANNER, CREW_LEAD):
            client = Client(port)
            client.sign_in(name)
            tokens.append(client.token)
            job = client.job()
        writers = [
            Writer(port, token, job, name, random.Random(rng.random()))
            for token in tokens
            for name in FIELDS
        ]
        for writer in writers:
            writer.start()
        for number in range(kills):
            time.sleep(rng.uniform(0.05, 0.8))
            if number % 4 == 1:
                pid = int((home / "postgres" / "postmaster.pid").read_text().split()[0])
                os.kill(pid, signal.SIGKILL)
                time.sleep(rng.uniform(0.3, 1.0))
            else:
                os.killpg(server.pid, signal.SIGKILL)
                server.wait()
                server = started(url, port)
        _go_on(writers)
        for writer in writers:
            writer.stop.set()
        lost = 0
        for writer in writers:
            writer.join(15)
            status, found = _patiently(writer.client, f"{job}/files/design.json")
            lost += not (status == 200 and writer.holds(json.loads(found)))
        confirmed = sum(writer.confirmed for writer in writers)
        # A writer that died, or hardly wrote, would have nothing to lose.
        assert all(writer.confirmed > 0 and not writer.failed for writer in writers)
        print(
            f"{kills} kills (every fourth the database): {confirmed} edits confirmed, {lost} of "
            f"{len(writers)} writers lost one"
        )
        server.terminate()
        server.wait(timeout=15)
        assert lost == 0


def _go_on(writers: list[Writer]) -> None:
    """Wait until each has written again since the last kill: who cannot has found one that hangs."""
    before = [writer.confirmed for writer in writers]
    deadline = time.monotonic() + 90
    while time.monotonic() < deadline:
        if all(writer.confirmed > count for writer, count in zip(writers, before, strict=True)):
            return
        time.sleep(0.1)
    raise AssertionError("a writer did not come through again within 90 s")


def _patiently(client: Client, path: str) -> tuple[int, bytes]:
    for _ in range(200):
        with suppress(*GONE):
            status, found = client.ask("GET", path, Accept_Encoding="identity")
            if status != 503:
                return status, found
        time.sleep(0.1)
    raise AssertionError("the server did not come back")


def saving(writers: int, saves: int) -> None:
    """Many who save one job at once: no revision is lost, none has two children."""
    with throwaway_home() as home, private_cluster(home, lasting=False) as url:
        seeded(url)
        port = free_port()
        server: subprocess.Popen[str] = started(url, port)
        names = [PLANNER, CREW_LEAD]
        clients = [Client(port) for _ in range(writers)]
        for number, client in enumerate(clients):
            client.sign_in(names[number % 2])
        job = clients[0].job()
        answers: list[int] = []

        def save(client: Client, mine: int) -> None:
            for number in range(saves):
                client.ask(
                    "POST",
                    f"{job}/edits",
                    edit_of(FIELDS[mine % len(FIELDS)], f"{0.5 + (number + mine) / 1000:.3f} m"),
                )
                note = json.dumps({"note": f"{mine}"}).encode()
                status, _ = client.ask("POST", f"{job}/revisions", note)
                answers.append(status)

        threads = [threading.Thread(target=save, args=(c, k)) for k, c in enumerate(clients)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        _, found = clients[0].ask("GET", f"{job}/revisions", Accept_Encoding="identity")
        numbers = [revision["number"] for revision in json.loads(found)]
        assert numbers == list(range(len(numbers), 0, -1))
        assert len(numbers) == 1 + answers.count(201), (len(numbers), answers.count(201))
        assert set(answers) <= {201, 409}, set(answers)
        print(
            f"{writers} writers: {answers.count(201)} saved, {answers.count(409)} told of the other, "
            f"{len(numbers)} revisions in one line"
        )
        server.terminate()
        server.wait(timeout=15)


def main(kills: int = 200, seed: int = 11, saves: int = 20) -> None:
    killing(kills, seed)
    for writers in (2, 10):
        saving(writers, saves)


if __name__ == "__main__":
    main()
