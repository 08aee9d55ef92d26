"""What every answer carries, and what is turned away before a route sees it."""

import logging
import traceback
from urllib.parse import urlsplit

from sqlalchemy.exc import DBAPIError
from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from openfurrow.web.models import ProblemDetails
from openfurrow.web.problems import answer_problem

# Everything a page needs comes from here; nothing else may run, frame it or be asked.
SAFE = {
    "Content-Security-Policy": "default-src 'self'; img-src 'self' data:; "
    "style-src 'self' 'unsafe-inline'; frame-ancestors 'none'; base-uri 'none'; "
    "form-action 'self'; object-src 'none'",
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Permissions-Policy": "camera=(), geolocation=(self), microphone=(), payment=(), usb=()",
}
A_YEAR_S = 31_536_000
LOOKING = frozenset({"GET", "HEAD", "OPTIONS"})
LOOPBACK = frozenset({"127.0.0.1", "localhost", "::1"})


def _host(text: str) -> str:
    """The host of ``host:port`` or of an address, in small letters."""
    try:
        return (urlsplit(text if "//" in text else f"//{text}").hostname or "").lower()
    except ValueError:
        return ""


def log_safely(error: BaseException) -> None:
    """Where it happened and of what kind; not what was typed, nor the database's words of it."""
    where = "".join(traceback.format_tb(error.__traceback__))
    state = ""
    if isinstance(error, DBAPIError):
        state = f" (SQLSTATE {getattr(error.orig, 'sqlstate', None)})"
    logging.getLogger("openfurrow").error("%s%s\n%s", type(error).__name__, state, where)


class Guard:
    """Hosts we go by, changes from our own pages only, headers on every answer, errors too."""

    def __init__(self, app: ASGIApp, hosts: frozenset[str] = LOOPBACK) -> None:
        """``hosts``: the names this server is asked by."""
        self.app, self.hosts = app, hosts

    def _refused(self, scope: Scope) -> ProblemDetails | None:
        headers = Headers(scope=scope)
        if _host(headers.get("host", "")) not in self.hosts:
            return ProblemDetails(
                title="Cannot be done", status=400, detail="This server does not go by that name."
            )
        if scope["method"] in LOOKING:
            return None
        origin = headers.get("origin")
        own = f"{scope['scheme']}://{headers['host']}".lower()
        foreign = (origin is not None and origin.lower() != own) or (
            headers.get("sec-fetch-site", "same-origin") not in ("same-origin", "none")
        )
        if foreign:
            return ProblemDetails(
                title="Cannot be done",
                status=403,
                detail="A change must come from this server's own pages.",
            )
        return None

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer, or hand on."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        begun = False

        async def sending(message: Message) -> None:
            nonlocal begun
            if message["type"] == "http.response.start":
                begun = True
                _add_headers(MutableHeaders(scope=message), scope)
            await send(message)

        problem = self._refused(scope)
        if problem:
            await answer_problem(problem)(scope, receive, sending)
            return
        try:
            await self.app(scope, receive, sending)
        except Exception as error:
            log_safely(error)
            if begun:
                raise
            await answer_problem(
                ProblemDetails(
                    title="Something went wrong here",
                    status=500,
                    detail="It is not your doing and nothing was stored. What happened is in the log.",
                )
            )(scope, receive, sending)


def _add_headers(headers: MutableHeaders, scope: Scope) -> None:
    headers.update(SAFE)
    if scope["scheme"] == "https":
        headers["Strict-Transport-Security"] = f"max-age={A_YEAR_S}"
    if scope["path"].startswith("/api") and "cache-control" not in headers:
        headers["Cache-Control"] = "no-store"
