"""Running the application: a database, its schema, the demo, and the web server until Ctrl-C."""

import os
import signal
import socket
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from types import FrameType

import uvicorn
from sqlalchemy.orm import Session

from openfurrow.demo.seed import PASSWORD, PLANNER, seed
from openfurrow.store.cluster import data_home, free_port, private_cluster
from openfurrow.store.database import migrate, open_database
from openfurrow.web.app import create_app


def _stop(number: int, frame: FrameType | None) -> None:
    # Raised in the main thread, so that every `finally` on the way out runs.
    sys.exit(128 + number)


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
def database_url(root: Path) -> Iterator[str]:
    """DATABASE_URL where it is set, else the clone's own cluster."""
    given = os.environ.get("DATABASE_URL")
    if given:
        yield given
    else:
        with private_cluster(data_home(root)) as url:
            yield url


def serve(root: Path, port: int, *, demo: bool = True) -> int:
    """Serve on loopback until Ctrl-C or SIGTERM; leaves nothing running."""
    for number in (signal.SIGTERM, signal.SIGHUP):
        signal.signal(number, _stop)
    try:
        with database_url(root) as url:
            engine = open_database(url)
            migrate(engine)
            if demo:
                with Session(engine) as session, session.begin():
                    seed(session)
            at = free_or(port)
            print(f"Open Furrow on http://127.0.0.1:{at}   (Ctrl-C stops it)", flush=True)
            if demo:
                print(f"Demo: sign in as {PLANNER}, password {PASSWORD}", flush=True)
            app = create_app(engine, root / "frontend" / "dist")
            uvicorn.run(app, host="127.0.0.1", port=at, log_level="warning")
            engine.dispose()
    except KeyboardInterrupt:
        pass
    return 0
