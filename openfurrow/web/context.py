"""What every route needs: a transaction, the signed-in account, plans by their design."""

from collections.abc import Awaitable, Callable, Iterator
from functools import lru_cache
from typing import Annotated, Any

from fastapi import Cookie, Depends, HTTPException, Request
from sqlalchemy.orm import Session

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, plan
from openfurrow.exchange import design_json, ground_file
from openfurrow.store.accounts import account_of
from openfurrow.store.tables import Account

COOKIE = "furrow_sign_in"


def transaction(request: Request) -> Iterator[Session]:
    """One transaction a request: all of it is stored or none."""
    with Session(request.app.state.engine, expire_on_commit=False) as session, session.begin():
        yield session


# The commit must happen before the answer is sent: what was confirmed is stored.
Store = Annotated[Session, Depends(transaction, scope="function")]


def signed_in(session: Store, furrow_sign_in: Annotated[str | None, Cookie()] = None) -> Account:
    """The account of the request; 401 without one."""
    account = account_of(session, furrow_sign_in) if furrow_sign_in else None
    if account is None:
        raise HTTPException(401, "Sign in first.")
    return account


Who = Annotated[Account, Depends(signed_in)]


@lru_cache(maxsize=64)
def planned(design: Design) -> Plan:
    """The plan of a design, kept for designs seen lately."""
    return plan(design)


def body_of(largest: int) -> Callable[[Request], Awaitable[bytes]]:
    """A dependency that reads a body, no further than what is expected may be long.

    Only this waits on the event loop. A route that touches the database or computes is a plain
    function, run in a thread: on the loop it would wait for a row whose holder needs the loop.
    """

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
GroundBody = Annotated[bytes, Depends(body_of(ground_file.LARGEST_BYTES))]
