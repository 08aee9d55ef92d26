"""What every route needs: who asks, short transactions, plans by their design.

A route is a plain function, run in a thread; on the event loop it would wait for a row whose holder
needs the loop. It opens one transaction at a time, inside its own call, and none while it computes:
forty who wait must not hold what sixteen need to go on.
"""

import os
import threading
import uuid
from collections.abc import Awaitable, Callable, Iterator
from contextlib import AbstractContextManager, contextmanager
from dataclasses import dataclass
from functools import lru_cache
from typing import Annotated, Any

import anyio.from_thread
from fastapi import Depends, HTTPException, Request
from sqlalchemy import Engine
from sqlalchemy.orm import Session

from openfurrow.core.as_built import as_built
from openfurrow.core.design import Design
from openfurrow.core.fieldbook.records import Record
from openfurrow.core.plan import Plan, plan
from openfurrow.exchange import design_json, ground_file, load_in, merchant_file, weather_in
from openfurrow.store.accounts import account_of
from openfurrow.store.database import for_reading
from openfurrow.store.drafts import mark_now
from openfurrow.store.errors import NotFound
from openfurrow.store.jobs import role_in
from openfurrow.store.tables import Account
from openfurrow.store.turns import turn

COOKIE = "furrow_sign_in"
# Plans share their caches, so they run in threads; more at once than cores only wait for each other.
PLANS_AT_ONCE = max(2, os.cpu_count() or 2)
PLAN_WAITS_S = 15.0
_planning = threading.BoundedSemaphore(PLANS_AT_ONCE)


@dataclass(frozen=True)
class Caller:
    """Who asks, by the token of the sign-in, and the database that knows it."""

    engine: Engine
    token: str
    address: str

    @contextmanager
    def anyone(self) -> Iterator[Session]:
        """A transaction of someone who need not have signed in."""
        with Session(self.engine, expire_on_commit=False) as session, session.begin():
            yield session

    @contextmanager
    def writes(self) -> Iterator[tuple[Session, Account]]:
        """A transaction that is stored whole or not at all; 401 for who has not signed in."""
        with self.anyone() as session:
            yield session, self._account(session)

    @contextmanager
    def reads(self) -> Iterator[tuple[Session, Account]]:
        """A look at one moment of the database, without locks; 401 for who has not signed in."""
        with Session(for_reading(self.engine), expire_on_commit=False) as session, session.begin():
            yield session, self._account(session)

    def glance(self, job_id: uuid.UUID) -> tuple[object, ...]:
        """The mark of the draft as it stands, by one statement; 401, or NotFound."""
        with self.engine.connect().execution_options(isolation_level="AUTOCOMMIT") as connection:
            found = mark_now(connection, self.token, job_id) if self.token else None
        if found is None:
            with self.reads() as (session, account):
                role_in(session, account, job_id)
                raise NotFound("The job has no revision.")
        return found

    def _account(self, session: Session) -> Account:
        account = account_of(session, self.token) if self.token else None
        if account is None:
            raise HTTPException(401, "Sign in first.")
        return account


async def _caller(request: Request) -> Caller:
    host = request.client.host if request.client else ""
    return Caller(request.app.state.engine, request.cookies.get(COOKIE, ""), host)


Asking = Annotated[Caller, Depends(_caller)]


async def _leaving(request: Request) -> Callable[[], bool]:
    return lambda: anyio.from_thread.run(request.is_disconnected)


# Asked in a route's thread: whether the client has gone, so that nobody waits for the answer.
Gone = Annotated[Callable[[], bool], Depends(_leaving)]


def computing() -> AbstractContextManager[None]:
    """A turn to compute. Raises Busy where none comes in time."""
    return turn(
        _planning, PLAN_WAITS_S, "Too many jobs are being planned at once: try again in a moment."
    )


@lru_cache(maxsize=64)
def _planned(design: Design) -> Plan:
    return plan(design)


@lru_cache(maxsize=32)
def _built(design: Design, records: tuple[Record, ...]) -> Plan:
    return as_built(design, _planned(design), records)


def planned(design: Design, records: tuple[Record, ...] = ()) -> Plan:
    """The plan of a design and of what was measured, kept for those seen lately. Raises Busy."""
    with computing():
        return _built(design, records)


def body_of(largest: int) -> Callable[[Request], Awaitable[bytes]]:
    """A dependency that reads a body, no further than what is expected may be long."""

    async def read_body(request: Request) -> bytes:
        data = bytearray()
        async for chunk in request.stream():
            data += chunk
            if len(data) > largest:
                break
        return bytes(data)

    return read_body


# How the API description tells of a body that is a file.
FILE_BODY: dict[str, Any] = {
    "requestBody": {
        "required": True,
        "content": {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}},
    }
}
DesignBody = Annotated[bytes, Depends(body_of(design_json.LARGEST_BYTES))]
WeatherBody = Annotated[bytes, Depends(body_of(weather_in.LARGEST_BYTES))]
MerchantBody = Annotated[bytes, Depends(body_of(merchant_file.LARGEST_BYTES))]
LoadBody = Annotated[bytes, Depends(body_of(load_in.LARGEST_BYTES))]
GroundBody = Annotated[bytes, Depends(body_of(ground_file.LARGEST_BYTES))]
