"""Signing in and out."""

from fastapi import APIRouter, Request, Response

from openfurrow.store.accounts import add_account, hashed_password, open_sign_in, sign_in, sign_out
from openfurrow.web.context import COOKIE, Asking
from openfurrow.web.models import AccountView, SignInBody

router = APIRouter(prefix="/api", tags=["accounts"])


def _give(request: Request, response: Response, token: str) -> None:
    response.set_cookie(
        COOKIE,
        token,
        httponly=True,
        samesite="strict",
        max_age=30 * 86400,
        secure=request.url.scheme == "https",
    )


@router.get("/session")
def who(caller: Asking) -> AccountView:
    """Who is signed in."""
    with caller.reads() as (_, account):
        return AccountView(name=account.name)


@router.post("/session")
def enter(body: SignInBody, caller: Asking, request: Request, response: Response) -> AccountView:
    """Sign in with name and password; 429 after too many wrong ones."""
    _give(request, response, sign_in(caller.anyone, body.name, body.password, caller.address))
    return AccountView(name=body.name.strip())


@router.post("/accounts")
def join(body: SignInBody, caller: Asking, request: Request, response: Response) -> AccountView:
    """A new account, signed in at once."""
    name, kept = hashed_password(body.name, body.password)
    with caller.anyone() as session:
        account = add_account(session, name, kept)
        token = open_sign_in(session, account.id)
    _give(request, response, token)
    return AccountView(name=name)


@router.delete("/session", status_code=204)
def leave(caller: Asking, response: Response) -> None:
    """Sign out."""
    if caller.token:
        with caller.anyone() as session:
            sign_out(session, caller.token)
    response.delete_cookie(COOKIE)
