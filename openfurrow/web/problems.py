"""Errors as RFC 9457 problem details: what is wrong, where, what is allowed, what to do."""

import logging

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from sqlalchemy.exc import OperationalError
from starlette.exceptions import HTTPException

from openfurrow.core.edits import DesignError
from openfurrow.store.errors import Conflict, NotAllowed, NotFound, StoreError
from openfurrow.web.models import ClashView, ProblemDetails, ProblemItem

RESPONSES = {
    code: {"model": ProblemDetails, "description": text}
    for code, text in {
        401: "Not signed in", 403: "For reading only", 404: "Not there, or not yours",
        409: "Saved in between", 422: "A field is wrong",
        503: "The database is away",
    }.items()
}


def _answer(problem: ProblemDetails) -> JSONResponse:
    return JSONResponse(
        problem.model_dump(mode="json"), problem.status, media_type="application/problem+json"
    )


def _design(request: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, DesignError)
    items = tuple(ProblemItem(**vars(problem)) for problem in error.problems)
    first = error.problems[0]
    return _answer(ProblemDetails(
        title="The design is not valid", status=422,
        detail=f"{first.label} {first.message}. Allowed: {first.allowed}. {first.remedy}",
        problems=items,
    ))


def _request(request: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, RequestValidationError)
    items = tuple(
        ProblemItem(
            path=".".join(str(part) for part in item["loc"][1:]) or "request",
            label=str(item["loc"][-1]), message=item["msg"], allowed="",
            remedy="See the API description.",
        )
        for item in error.errors()
    )
    return _answer(ProblemDetails(title="The request is not valid", status=422,
                                  detail=items[0].message, problems=items))


def _store(request: Request, error: Exception) -> JSONResponse:
    if isinstance(error, Conflict):
        return _answer(ProblemDetails(
            title="Saved in between", status=409, detail=str(error), head=error.head,
            author=error.author, note=error.note,
            clashes=tuple(ClashView(**vars(clash)) for clash in error.clashes),
        ))
    status = 404 if isinstance(error, NotFound) else 403 if isinstance(error, NotAllowed) else 422
    return _answer(ProblemDetails(title="Cannot be done", status=status, detail=str(error)))


def _http(request: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, HTTPException)
    return _answer(ProblemDetails(title="Cannot be done", status=error.status_code,
                                  detail=str(error.detail)))


def _database(request: Request, error: Exception) -> JSONResponse:
    # What went wrong stands in the server's log; a page is told only what it can do.
    logging.getLogger("openfurrow").error("database: %s", error)
    return _answer(ProblemDetails(
        title="The database does not answer", status=503,
        detail="Nothing was stored. What you typed is kept in this browser: try again.",
    ))


def add_problem_handlers(app: FastAPI) -> None:
    """Answer every known error with problem details."""
    app.add_exception_handler(DesignError, _design)
    app.add_exception_handler(RequestValidationError, _request)
    app.add_exception_handler(StoreError, _store)
    app.add_exception_handler(HTTPException, _http)
    app.add_exception_handler(OperationalError, _database)
