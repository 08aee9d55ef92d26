"""What every route needs: a transaction, the signed-in account, plans by their design."""

from collections.abc import Iterator
from functools import lru_cache
from typing import Annotated

from fastapi import Cookie, Depends, HTTPException, Request
from sqlalchemy.orm import Session

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, plan
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
