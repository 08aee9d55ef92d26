"""What the server answers in a second, beside a route that does nothing, in the same run.

Reads of a stage (packed, and 304 for who has it) and edits, by 1, 4 and 16 clients; other people's
reads while a hostile file is sent again and again; the server's memory over many edits.
Run: ./furrow bench load
"""

import threading
import time
from collections.abc import Callable
from itertools import count
from pathlib import Path

from bench.server import Client, edit_of, seeded, serving
from openfurrow.store.cluster import free_port, private_cluster, throwaway_home

HOSTILE = {
    "a line of 24 MB": b"1," * 12_000_000,
    "nested XML": b"<gpx>" + b"<rte>" * 400_000,
    "100,000 points of a drawing": b"0\nSECTION\n2\nENTITIES\n"
    + b"".join(
        b"0\nPOINT\n8\nL\n10\n%d.5\n20\n%d\n30\n1\n" % (n % 997, n % 991) for n in range(100_000)
    )
    + b"0\nENDSEC\n0\nEOF\n",
}
Ask = Callable[[Client], int]


def rate(clients: list[Client], ask: Ask, seconds: float) -> tuple[float, list[float]]:
    """Answers a second of all clients together, and the time of each answer in ms, sorted."""
    ends = time.perf_counter() + seconds
    times: list[list[float]] = [[] for _ in clients]

    def run(client: Client, mine: list[float]) -> None:
        while (began := time.perf_counter()) < ends:
            status = ask(client)
            # 409: of several who type into one field at once, the second is told.
            assert status in (200, 304, 409), status
            mine.append(1000 * (time.perf_counter() - began))

    threads = [threading.Thread(target=run, args=pair) for pair in zip(clients, times, strict=True)]
    began = time.perf_counter()
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    every = sorted(ms for mine in times for ms in mine)
    return len(every) / (time.perf_counter() - began), every


def share(times: list[float], of: float) -> float:
    """A quantile of sorted times."""
    return times[min(len(times) - 1, int(of * len(times)))]


def memory_mb(pid: int) -> float:
    """What a process holds in memory."""
    status = Path(f"/proc/{pid}/status").read_text()
    return int(status.split("VmRSS:")[1].split()[0]) / 1024


def speeds(port: int, token: str, job: str, seconds: float) -> None:
    numbers = count()

    def bare(client: Client) -> int:
        return client.ask("GET", "/healthz")[0]

    def read(client: Client) -> int:
        return client.ask("GET", f"{job}/stages/rows")[0]

    def known(client: Client) -> int:
        return client.ask("GET", f"{job}/stages/rows", If_None_Match=client.tag)[0]

    def edit(client: Client) -> int:
        words = f"{next(numbers) % 60 + 1} in"
        return client.ask("POST", f"{job}/edits", edit_of("wiring.slack_m", words))[0]

    print(
        f"{'clients':>8} {'bare/s':>8} {'read/s':>8} {'ratio':>6} {'304/s':>8} {'ratio':>6} "
        f"{'edits/s':>8} {'read p99 ms':>12}"
    )
    for size in (1, 4, 16):
        clients = [Client(port, token) for _ in range(size)]
        base, _ = rate(clients, bare, seconds)
        reads, times = rate(clients, read, seconds)
        had, _ = rate(clients, known, seconds)
        edits, _ = rate(clients, edit, seconds)
        print(
            f"{size:>8} {base:>8.0f} {reads:>8.0f} {reads / base:>6.2f} {had:>8.0f} "
            f"{had / base:>6.2f} {edits:>8.1f} {share(times, 0.99):>12.1f}"
        )


def hostile(port: int, token: str, job: str, seconds: float) -> None:
    for name, data in HOSTILE.items():
        stop, refused = threading.Event(), []

        def send(data: bytes = data, stop: threading.Event = stop, refused: list = refused) -> None:
            client = Client(port, token)
            while not stop.is_set():
                began = time.perf_counter()
                status, _ = client.ask("POST", f"{job}/ground/look?units=us", data)
                refused.append((status, time.perf_counter() - began))

        neighbour = threading.Thread(target=send)
        neighbour.start()
        _, times = rate(
            [Client(port, token) for _ in range(4)],
            lambda client: client.ask("GET", f"{job}/stages/rows")[0],
            seconds,
        )
        stop.set()
        neighbour.join()
        slowest = max(took for _, took in refused)
        print(
            f"beside {name}: reads p50 {share(times, 0.5):.0f}, p99 {share(times, 0.99):.0f}, worst "
            f"{times[-1]:.0f} ms; answered {refused[0][0]} in {slowest:.2f} s at most"
        )


def memory(pid: int, port: int, token: str, job: str, edits: int) -> None:
    client = Client(port, token)
    marks = []
    for number in range(edits):
        tilt = edit_of("arrays.1.rows.tilt_deg", f"{10 + number % 400 / 10}")
        status, _ = client.ask("POST", f"{job}/edits", tilt)
        assert status == 200
        if number % max(edits // 4, 1) == 0:
            marks.append(memory_mb(pid))
    marks.append(memory_mb(pid))
    print(f"memory over {edits} edits: {' '.join(f'{mark:.0f}' for mark in marks)} MB")


def main(seconds: float = 4.0, edits: int = 2000) -> None:
    with throwaway_home() as home, private_cluster(home) as url:
        seeded(url)
        port = free_port()
        with serving(url, port) as pid:
            client = Client(port)
            client.sign_in()
            job = client.job()
            speeds(port, client.token, job, seconds)
            hostile(port, client.token, job, seconds)
            memory(pid, port, client.token, job, edits)


if __name__ == "__main__":
    main()
