"""The start command in a process of its own, for benchmarks that load or kill it."""

import http.client
import json
import os
import select
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass, field
from pathlib import Path

from sqlalchemy.orm import Session

from openfurrow.demo.seed import PASSWORD, PLANNER, seed
from openfurrow.store.database import migrate, open_database

ROOT = Path(__file__).resolve().parents[1]
COOKIE = "furrow_sign_in"


def seeded(url: str) -> None:
    """The schema and the demo in a database."""
    engine = open_database(url)
    migrate(engine)
    with Session(engine) as session, session.begin():
        seed(session)
    engine.dispose()


def started(url: str, port: int) -> subprocess.Popen[str]:
    """The server over a database, answering."""
    process = subprocess.Popen(
        [sys.executable, "-m", "openfurrow.cli", "start", "--port", str(port), "--no-demo"],
        cwd=ROOT,
        env=os.environ | {"DATABASE_URL": url},
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
        text=True,
        start_new_session=True,
    )
    deadline = time.monotonic() + 30
    while time.monotonic() < deadline:
        with suppress(OSError, http.client.HTTPException):
            connection = http.client.HTTPConnection("127.0.0.1", port, timeout=2)
            connection.request("GET", "/readyz")
            if connection.getresponse().status == 200:
                return process
        time.sleep(0.05)
    raise RuntimeError("the server did not answer")


@contextmanager
def serving(url: str, port: int) -> Iterator[int]:
    """The server, until its end; gives its process id."""
    process = started(url, port)
    try:
        yield process.pid
    finally:
        process.terminate()
        process.wait(timeout=15)


@dataclass
class Client:
    """One who keeps a connection open: cheaper than the server it loads."""

    port: int
    token: str = ""
    timeout_s: float = 30.0
    _connection: http.client.HTTPConnection | None = field(default=None, repr=False)

    def ask(
        self, method: str, path: str, body: bytes | None = None, **headers: str
    ) -> tuple[int, bytes]:
        """Status and body. Raises OSError or HTTPException where there is no answer."""
        if self._connection is None:
            self._connection = http.client.HTTPConnection(
                "127.0.0.1", self.port, timeout=self.timeout_s
            )
        sent = {
            "Accept-Encoding": "gzip",
            "Cookie": f"{COOKIE}={self.token}",
            "Content-Type": "application/json",
        }
        sent |= {name.replace("_", "-"): text for name, text in headers.items()}
        # A connection that was idle may have been closed since: one is opened anew to look.
        if (
            method == "GET"
            and self._connection.sock is not None
            and select.select([self._connection.sock], [], [], 0)[0]
        ):
            self._connection.close()
        try:
            self._connection.request(method, path, body, sent)
            answer = self._connection.getresponse()
            self.tag = answer.headers.get("ETag", "")
            self.cookie = answer.headers.get("Set-Cookie", "")
            return answer.status, answer.read()
        except (OSError, http.client.HTTPException):
            self._connection.close()
            self._connection = None
            raise

    def sign_in(self, name: str = PLANNER) -> None:
        """Keep the token of a demo account."""
        status, _ = self.ask(
            "POST", "/api/session", json.dumps({"name": name, "password": PASSWORD}).encode()
        )
        assert status == 200
        self.token = self.cookie.split("=", 1)[1].split(";")[0]

    def job(self) -> str:
        """The address of the demo job."""
        status, _ = self.ask("GET", "/api/jobs", Accept_Encoding="identity")
        assert status == 200
        _, found = self.ask("GET", "/api/jobs", Accept_Encoding="identity")
        return next(
            f"/api/jobs/{line['id']}"
            for line in json.loads(found)
            if line["name"].startswith("Larkspur")
        )


def edit_of(path: str, words: str) -> bytes:
    """One field typed into, as a body."""
    edits = [{"path": path, "text": words}]
    return json.dumps({"stage": "rows", "units": "us", "edits": edits}).encode()
