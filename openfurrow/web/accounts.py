"""Signing in and out."""

from typing import Annotated

from fastapi import APIRouter, Cookie, Response

from openfurrow.store.accounts import create_account, sign_in, sign_out
from openfurrow.web.context import COOKIE, Store, Who
from openfurrow.web.models import AccountView, SignInBody

router = APIRouter(prefix="/api", tags=["accounts"])


def _give(response: Response, token: str) -> None:
    response.set_cookie(COOKIE, token, httponly=True, samesite="strict", max_age=30 * 86400)


@router.get("/session")
def who(account: Who) -> AccountView:
    """Who is signed in."""
    return AccountView(name=account.name)


@router.post("/session")
def enter(body: SignInBody, session: Store, response: Response) -> AccountView:
    """Sign in with name and password."""
    _give(response, sign_in(session, body.name, body.password))
    return AccountView(name=body.name.strip())


@router.post("/accounts")
def join(body: SignInBody, session: Store, response: Response) -> AccountView:
    """A new account, signed in at once."""
    account = create_account(session, body.name, body.password)
    _give(response, sign_in(session, body.name, body.password))
    return AccountView(name=account.name)


@router.delete("/session", status_code=204)
def leave(
    session: Store, response: Response, furrow_sign_in: Annotated[str | None, Cookie()] = None
) -> None:
    """Sign out."""
    if furrow_sign_in:
        sign_out(session, furrow_sign_in)
    response.delete_cookie(COOKIE)
