"""Errors as RFC 9457 problem details: what is wrong, where, what is allowed, what to do."""

import json
import logging

from fastapi import FastAPI, Request, Response
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from sqlalchemy.exc import DataError, InterfaceError, InternalError, OperationalError
from sqlalchemy.exc import TimeoutError as PoolTimeout
from starlette.exceptions import HTTPException

from openfurrow.core.edits import DesignError
from openfurrow.core.fields import field_at
from openfurrow.core.labels import label_of, named
from openfurrow.core.lacking import Lacking
from openfurrow.core.own_words import own_words
from openfurrow.jobs.apart import Left
from openfurrow.store.errors import (
    Busy,
    Clash,
    Conflict,
    Late,
    NotAllowed,
    NotFound,
    StoreError,
    TooMany,
)
from openfurrow.web.models import ClashView, ProblemDetails, ProblemItem

RESPONSES = {
    code: {"model": ProblemDetails, "description": text}
    for code, text in {
        401: "Not signed in",
        403: "For reading only",
        404: "Not there, or not yours",
        409: "Saved or changed in between",
        422: "A field is wrong",
        429: "Too many wrong passwords",
        503: "Busy, or the database is away; Retry-After says when",
    }.items()
}
# More than a person would mend one by one.
MOST_PROBLEMS, MOST_CLASHES = 50, 500
PASSES_IN_S = 1


class _Told(JSONResponse):
    """Problem details: what cannot be written as text is told as a question mark, never a new error."""

    media_type = "application/problem+json"

    def render(self, content: object) -> bytes:
        """As JSON."""
        return json.dumps(content, ensure_ascii=False).encode("utf-8", "replace")


def answer_problem(problem: ProblemDetails, wait_s: int | None = None) -> Response:
    """The answer that tells a problem; ``wait_s`` for one that passes."""
    headers = None if wait_s is None else {"Retry-After": str(wait_s)}
    shown = problem.model_copy(update={"problems": problem.problems[:MOST_PROBLEMS]})
    return _Told(shown.model_dump(mode="python"), problem.status, headers)


def _design(request: Request, error: Exception) -> Response:
    assert isinstance(error, DesignError)
    items = tuple(ProblemItem(**vars(problem)) for problem in error.problems)
    first = error.problems[0]
    return answer_problem(
        ProblemDetails(
            title="The design is not valid",
            status=422,
            detail=f"{first.label} {first.message}. Allowed: {first.allowed}. {first.remedy}",
            problems=items,
        )
    )


def _lacking(request: Request, error: Exception) -> Response:
    assert isinstance(error, Lacking)
    items = tuple(
        ProblemItem(
            path=path,
            label=label_of(path),
            message="is not said yet",
            allowed="",
            remedy=field.where if (field := field_at(path)) else "",
        )
        for path in error.paths
    )
    return answer_problem(
        ProblemDetails(
            title="Not known yet",
            status=422,
            detail=f"Not said yet: {named(error.paths)}.",
            problems=items,
        )
    )


def _request(request: Request, error: Exception) -> Response:
    assert isinstance(error, RequestValidationError)
    items = tuple(
        ProblemItem(
            path=".".join(str(part) for part in item["loc"][1:])[:200] or "request",
            label=str(item["loc"][-1])[:200],
            message=own_words(item),
            allowed="",
            remedy="See the API description.",
        )
        for item in error.errors()[:MOST_PROBLEMS]
    )
    return answer_problem(
        ProblemDetails(
            title="The request is not valid", status=422, detail=items[0].message, problems=items
        )
    )


def _store(request: Request, error: Exception) -> Response:
    if isinstance(error, Conflict):
        return answer_problem(
            ProblemDetails(
                title="Saved in between",
                status=409,
                detail=str(error),
                head=error.head,
                author=error.author,
                note=error.note,
                clashes=_both(error.clashes),
            )
        )
    if isinstance(error, Late):
        return answer_problem(
            ProblemDetails(
                title="Changed in between", status=409, detail=str(error), clashes=_both(error.clashes)
            )
        )
    if isinstance(error, TooMany):
        return answer_problem(
            ProblemDetails(title="Wait a little", status=429, detail=str(error)), error.wait_s
        )
    if isinstance(error, Busy):
        return answer_problem(
            ProblemDetails(title="Busy just now", status=503, detail=str(error)), PASSES_IN_S
        )
    status = 404 if isinstance(error, NotFound) else 403 if isinstance(error, NotAllowed) else 422
    return answer_problem(ProblemDetails(title="Cannot be done", status=status, detail=str(error)))


def _both(clashes: tuple[Clash, ...]) -> tuple[ClashView, ...]:
    return tuple(ClashView(**vars(clash)) for clash in clashes[:MOST_CLASHES])


def _http(request: Request, error: Exception) -> Response:
    assert isinstance(error, HTTPException)
    return answer_problem(
        ProblemDetails(title="Cannot be done", status=error.status_code, detail=str(error.detail))
    )


def _database(request: Request, error: Exception) -> Response:
    # What went wrong stands in the server's log, by its kind; a page is told only what it can do.
    state = getattr(getattr(error, "orig", None), "sqlstate", None)
    logging.getLogger("openfurrow").error("database: %s, SQLSTATE %s", type(error).__name__, state)
    return answer_problem(
        ProblemDetails(
            title="The database does not answer",
            status=503,
            detail="Nothing was stored. What you typed is kept in this browser: try again.",
        ),
        PASSES_IN_S,
    )


def _unkept(request: Request, error: Exception) -> Response:
    logging.getLogger("openfurrow").error("database: %s", type(error).__name__)
    return answer_problem(
        ProblemDetails(
            title="Cannot be kept",
            status=422,
            detail="Something in it cannot be stored: a number too large, or text that is not text.",
        )
    )


def _left(request: Request, error: Exception) -> Response:
    # Nobody hears it; the log of a proxy in front of us shows what happened.
    return Response(status_code=499)


def add_problem_handlers(app: FastAPI) -> None:
    """Answer every known error with problem details."""
    app.add_exception_handler(DesignError, _design)
    app.add_exception_handler(Lacking, _lacking)
    app.add_exception_handler(RequestValidationError, _request)
    app.add_exception_handler(StoreError, _store)
    app.add_exception_handler(HTTPException, _http)
    for away in (OperationalError, InterfaceError, InternalError, PoolTimeout):
        app.add_exception_handler(away, _database)
    app.add_exception_handler(DataError, _unkept)
    app.add_exception_handler(Left, _left)
