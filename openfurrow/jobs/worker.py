"""A worker: takes long work from the queue, any number of them on any number of hosts."""

import asyncio
import time
import uuid
from collections.abc import Callable, Mapping

from procrastinate import App, PsycopgConnector
from sqlalchemy import Engine
from sqlalchemy.orm import Session

from openfurrow.core.design import Design
from openfurrow.core.edits import DesignError
from openfurrow.exchange.package import write_package
from openfurrow.jobs.apart import Left, apart, have_ready
from openfurrow.store.errors import StoreError
from openfurrow.store.tables import Work
from openfurrow.store.work import QUEUE, TASK, begin, design_of, finish, tell

KINDS: Mapping[str, Callable[..., bytes]] = {"package": write_package}
LONGEST_S = 600.0
HEARD_EVERY_S = 1.0


class _Progress:
    """What is told by the process, kept in the database; and whether it is still wanted."""

    def __init__(self, engine: Engine, work_id: uuid.UUID) -> None:
        self._engine, self._id = engine, work_id
        self._share, self._words, self._heard = 0.0, "", 0.0

    def told(self, share: float, words: str) -> None:
        self._share, self._words = share, words
        self._heard = 0.0

    def given_up(self) -> bool:
        if time.monotonic() - self._heard < HEARD_EVERY_S:
            return False
        self._heard = time.monotonic()
        with Session(self._engine) as session, session.begin():
            return not tell(session, self._id, self._share, self._words)


def _design(engine: Engine, work: Work) -> Design:
    with Session(engine) as session:
        return design_of(session, work)


def carry_out(engine: Engine, work_id: uuid.UUID) -> None:
    """Do one piece of work in a process that can be killed, and keep what came of it."""
    with Session(engine, expire_on_commit=False) as session, session.begin():
        work = begin(session, work_id)
    if work is None:
        return
    progress = _Progress(engine, work_id)
    result = None
    try:
        result = apart(
            KINDS[work.kind],
            _design(engine, work),
            left=progress.given_up,
            told=progress.told,
            longest_s=LONGEST_S,
        )
        state, words = "done", f"{len(result):,} bytes"
    except Left:
        return
    except (DesignError, StoreError) as error:
        state, words = "failed", str(error)
    except Exception as error:
        state, words = "failed", f"something went wrong here ({type(error).__name__})"
    with Session(engine) as session, session.begin():
        finish(session, work_id, state, words, result)


def run_worker(url: str, engine: Engine) -> None:
    """Work until SIGTERM or Ctrl-C; what is at work then has a moment to end."""
    have_ready("openfurrow.exchange.package")
    app = App(connector=PsycopgConnector(conninfo=url))

    @app.task(name=TASK)
    def task(work_id: str) -> None:
        carry_out(engine, uuid.UUID(work_id))

    async def work() -> None:
        async with app.open_async():
            await app.run_worker_async(
                queues=[QUEUE],
                concurrency=1,
                install_signal_handlers=True,
                shutdown_graceful_timeout=1.0,
                delete_jobs="always",
            )

    asyncio.run(work())
