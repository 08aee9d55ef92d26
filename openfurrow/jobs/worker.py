"""A worker: takes long work from the queue, any number of them on any number of hosts."""

import asyncio
import time
import uuid
from collections.abc import Callable, Mapping
from datetime import UTC, datetime
from typing import Any

from procrastinate import App, PsycopgConnector
from sqlalchemy import Engine
from sqlalchemy.orm import Session

from openfurrow.core.as_built import as_built
from openfurrow.core.design import Design
from openfurrow.core.edits import DesignError
from openfurrow.core.fieldbook.records import Record
from openfurrow.core.plan import plan
from openfurrow.exchange.package import Tell, write_package
from openfurrow.exchange.papers.content import Issue
from openfurrow.exchange.papers.write import Setting, write_papers
from openfurrow.jobs.apart import Left, apart, have_ready
from openfurrow.store.errors import StoreError
from openfurrow.store.field_records import kept_records
from openfurrow.store.tables import Work
from openfurrow.store.work import QUEUE, TASK, begin, design_of, finish, tell

How = Mapping[str, Any]


def _package(design: Design, records: tuple[Record, ...], how: How, tell: Tell) -> bytes:
    return write_package(design, records, tell)


def _papers(design: Design, records: tuple[Record, ...], how: How, tell: Tell) -> bytes:
    tell(0.0, "planning")
    issue = Issue(
        revision=how["revision"],
        saved=datetime.fromisoformat(how["saved"]),
        issued=how["issued"],
        made=datetime.now(UTC),
    )
    found = as_built(design, plan(design), records)
    return write_papers(design, found, issue, Setting(how["paper"], how["units"]), tell)


KINDS: Mapping[str, Callable[..., bytes]] = {"package": _package, "papers": _papers}
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


def _given(engine: Engine, work: Work) -> tuple[Design, tuple[Record, ...]]:
    """The design as it was asked, and what has been measured by now."""
    with Session(engine) as session:
        return design_of(session, work), kept_records(session, work.job_id)


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
            *_given(engine, work),
            work.how,
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
    have_ready("openfurrow.jobs.worker")
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
