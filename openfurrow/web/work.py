"""Long work in the background: asked for, looked at, given up, fetched."""

import uuid

from fastapi import APIRouter, Response

from openfurrow.exchange.package import file_stem
from openfurrow.store import work as store
from openfurrow.store.errors import NotFound
from openfurrow.store.tables import Work
from openfurrow.web.changing import draft_of
from openfurrow.web.context import Asking
from openfurrow.web.models import WorkBody, WorkView

router = APIRouter(prefix="/api/jobs/{job_id}/work", tags=["work"])
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
    """Queue work on the draft as it stands; what one asked for before on this job is given up."""
    design = draft_of(caller, job_id).design
    with caller.writes() as (session, account):
        return _view(store.ask(session, account, job_id, body.kind, design))


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
    if content is None:
        raise NotFound("There is nothing yet: look how far it is.")
    return Response(
        content,
        media_type="application/zip",
        headers={"Content-Disposition": f'attachment; filename="{file_stem(design)}.zip"'},
    )
