"""Long work in the background: asked for, looked at, given up, fetched."""

import uuid
from typing import Any

from fastapi import APIRouter, Response

from openfurrow.exchange.package import file_stem
from openfurrow.exchange.papers.write import Paper
from openfurrow.store import work as store
from openfurrow.store.errors import NotFound
from openfurrow.store.tables import Work
from openfurrow.web.built import Built, built
from openfurrow.web.changing import draft_of
from openfurrow.web.context import Asking
from openfurrow.web.models import Units, WorkBody, WorkView

router = APIRouter(prefix="/api/jobs/{job_id}/work", tags=["work"])
MEDIA_TYPES = {"pdf": "application/pdf", "zip": "application/zip"}
LOST = "the worker was not heard of for a while: ask again"


def _view(work: Work) -> WorkView:
    lost = store.is_lost(work)
    return WorkView(
        id=work.id,
        kind=work.kind,
        state="failed" if lost else work.state,
        share=work.share,
        words=LOST if lost else work.words,
    )


@router.post("", status_code=202)
def ask(job_id: uuid.UUID, body: WorkBody, caller: Asking) -> WorkView:
    """Queue work; what one asked for before on this job is given up.

    An archive is of the draft as it stands, papers are of the newest revision that was issued.
    """
    design, how = draft_of(caller, job_id).design, {}
    if body.kind == "papers":
        found = built(caller, job_id)
        design, how = found.design, issued_as(found, body.paper, body.units)
    with caller.writes() as (session, account):
        return _view(store.ask(session, account, job_id, body.kind, design, how))


def issued_as(found: Built, paper: Paper, units: Units | None) -> dict[str, Any]:
    """What stands on every sheet of the papers, and how they are wanted."""
    return {
        "revision": found.revision,
        "saved": found.saved.isoformat(),
        "issued": found.issued,
        "paper": paper,
        "units": units or found.design.site.display_units,
    }


@router.get("/{work_id}")
def look(job_id: uuid.UUID, work_id: uuid.UUID, caller: Asking) -> WorkView:
    """How far it is."""
    with caller.reads() as (session, account):
        return _view(store.work_of(session, account, job_id, work_id))


@router.delete("/{work_id}", status_code=204)
def give_up(job_id: uuid.UUID, work_id: uuid.UUID, caller: Asking) -> None:
    """Stop it; its process is ended within a second or two."""
    with caller.writes() as (session, account):
        store.cancel(session, account, job_id, work_id)


@router.get("/{work_id}/result", response_class=Response)
def result(job_id: uuid.UUID, work_id: uuid.UUID, caller: Asking) -> Response:
    """What came of it, as a file."""
    with caller.reads() as (session, account):
        work = store.work_of(session, account, job_id, work_id)
        content, design = work.result, store.design_of(session, work)
        ending = "pdf" if work.kind == "papers" else "zip"
    if content is None:
        raise NotFound("There is nothing yet: look how far it is.")
    return Response(
        content,
        media_type=MEDIA_TYPES[ending],
        headers={"Content-Disposition": f'attachment; filename="{file_stem(design)}.{ending}"'},
    )
