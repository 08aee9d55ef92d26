"""Running the application: a database, its schema, the demo, and the web server until Ctrl-C."""

import os
import signal
import socket
import subprocess
import sys
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from types import FrameType

import uvicorn
from sqlalchemy.orm import Session

from openfurrow.certificate import Secured, certificate_for
from openfurrow.demo.seed import PASSWORD, PLANNER, seed
from openfurrow.jobs.apart import make_ready
from openfurrow.jobs.worker import run_worker
from openfurrow.store.cluster import data_home, free_port, private_cluster
from openfurrow.store.database import migrate, open_database
from openfurrow.store.errors import StoreError
from openfurrow.web.app import create_app
from openfurrow.web.guard import LOOPBACK

# A request has this long to be answered once the end is asked for; then it ends whatever is going on.
GRACE_S, ENDS_WITHIN_S = 2, 7.5


_ending = threading.Event()


def _stop(number: int, frame: FrameType | None) -> None:
    _ending.set()
    # Raised in the main thread, so that every `finally` on the way out runs.
    sys.exit(0 if number == signal.SIGINT else 128 + number)


def free_or(wanted: int) -> int:
    """The wanted port if nobody listens there, else a free one; 0 asks for any."""
    if wanted == 0:
        return free_port()
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", wanted))
        except OSError:
            return free_port()
    return wanted


@contextmanager
def database_url(home: Path) -> Iterator[str]:
    """DATABASE_URL where it is set, else the clone's own cluster in ``home``."""
    given = os.environ.get("DATABASE_URL")
    if given:
        yield given
    else:
        with private_cluster(home) as url:
            yield url


def _end_anyway(server: uvicorn.Server) -> None:
    """Once the end is asked for it comes, whatever a thread is still computing.

    What was confirmed is stored; what was not is nobody's. The cluster, left behind, is ended or
    recovered by the next start.
    """
    while not (server.should_exit or _ending.is_set()):
        time.sleep(0.2)
    # A process that has ended by then takes this thread with it.
    time.sleep(ENDS_WITHIN_S)
    print("furrow: ended while something was still being computed", file=sys.stderr, flush=True)
    os._exit(1)


@contextmanager
def _worker(url: str) -> Iterator[None]:
    """A worker beside the server; it ends with it, even if the server is killed outright."""
    worker = subprocess.Popen(
        [sys.executable, "-m", "openfurrow.cli", "work", "--until-stdin-closes"],
        env=os.environ | {"DATABASE_URL": url},
        stdin=subprocess.PIPE,
    )
    try:
        yield
    finally:
        worker.terminate()
        try:
            worker.wait(timeout=2)
        except subprocess.TimeoutExpired:
            # What it was at waits in the queue, or is said to be lost.
            worker.kill()
            worker.wait()
        if worker.stdin:
            worker.stdin.close()


def _end_with_stdin() -> None:
    sys.stdin.buffer.read()
    os.kill(os.getpid(), signal.SIGTERM)
    time.sleep(2)
    os._exit(1)


def work_on(*, until_stdin_closes: bool = False) -> int:
    """A worker over DATABASE_URL until Ctrl-C or SIGTERM."""
    if until_stdin_closes:
        threading.Thread(target=_end_with_stdin, daemon=True).start()
    url = os.environ.get("DATABASE_URL")
    if not url:
        raise StoreError(
            "Say in DATABASE_URL which database the work is in: ./furrow start runs a "
            "worker of its own."
        )
    engine = open_database(url)
    run_worker(url.replace("postgres://", "postgresql://", 1), engine)
    engine.dispose()
    return 0


@dataclass(frozen=True)
class Reached:
    """By which name or address others reach it, with a certificate that was given, if any."""

    host: str
    certificate: Path | None = None
    key: Path | None = None

    def secured(self, home: Path) -> Secured:
        """The certificate that is given, or one that is made. Raises StoreError."""
        if (self.certificate is None) != (self.key is None):
            raise StoreError("A certificate goes with its key: give --certificate and --key together.")
        if self.certificate and self.key:
            for path in (self.certificate, self.key):
                if not path.is_file():
                    raise StoreError(
                        f"There is no file {path}: give a certificate in PEM, and its key."
                    )
            return Secured(self.certificate, self.key)
        return certificate_for(home, self.host)


def _tell(at: int, reached: Reached | None, secured: Secured | None) -> None:
    """Where it is, and how a phone gets there."""
    if not reached or not secured:
        print(f"Open Furrow on http://127.0.0.1:{at}   (Ctrl-C stops it)", flush=True)
        return
    here = f"https://{reached.host}:{at}"
    print(f"Open Furrow on {here}   (Ctrl-C stops it)", flush=True)
    if secured.authority:
        print(
            f"A phone, once: open {here}/authority.crt, go past the warning, install it as a CA\n"
            f"certificate and compare its SHA-256 fingerprint:\n  {secured.fingerprint()}\n"
            f"Then open {here}, sign in, and add the page to the home screen.",
            flush=True,
        )


def serve(root: Path, port: int, *, demo: bool = True, reached: Reached | None = None) -> int:
    """Serve on loopback, or for others too, until Ctrl-C or SIGTERM; leaves nothing running."""
    for number in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        signal.signal(number, _stop)
    hosts = LOOPBACK | frozenset(os.environ.get("FURROW_HOSTS", "").lower().split())
    if reached:
        hosts |= {reached.host.lower()}
    # The demo's passwords are in its sources: they open nothing that others can reach.
    demo = demo and "DATABASE_URL" not in os.environ and hosts == LOOPBACK
    home = data_home(root)
    # Nor does a store that has held the demo.
    home = home.with_name(f"{home.name}-shared") if reached else home
    secured = reached.secured(home.with_name(f"{home.name}-tls")) if reached else None
    try:
        with database_url(home) as url:
            engine = open_database(url)
            migrate(engine)
            if demo:
                with Session(engine) as session, session.begin():
                    seed(session)
            at = free_or(port)
            authority = secured.authority if secured else None
            app = create_app(engine, root / "frontend" / "dist", hosts, authority)
            server = uvicorn.Server(
                uvicorn.Config(
                    app,
                    host="0.0.0.0" if reached else "127.0.0.1",
                    port=at,
                    log_level="warning",
                    timeout_graceful_shutdown=GRACE_S,
                    ssl_certfile=str(secured.certificate) if secured else None,
                    ssl_keyfile=str(secured.key) if secured else None,
                )
            )
            threading.Thread(target=_end_anyway, args=(server,), daemon=True).start()
            make_ready()
            _tell(at, reached, secured)
            if demo:
                print(f"Demo: sign in as {PLANNER}, password {PASSWORD}", flush=True)
            else:
                print("Make an account on the first page to begin.", flush=True)
            with _worker(url):
                server.run()
            engine.dispose()
    except KeyboardInterrupt:
        pass
    return 0
