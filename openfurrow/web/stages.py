"""One stage's screen and the edits made on it. All stages answer alike, so one router serves all."""

import uuid

from fastapi import APIRouter, Response
from pydantic import BaseModel
from sqlalchemy.orm import Session

from openfurrow.core.design import Design
from openfurrow.core.edits import apply, differences
from openfurrow.core.quantities import UnitSystem
from openfurrow.exchange.design_json import read_design
from openfurrow.store.drafts import OpenDraft, go_to, open_draft, record
from openfurrow.store.errors import NotAllowed
from openfurrow.store.tables import Account
from openfurrow.web.context import FILE_BODY, DesignBody, Store, Who
from openfurrow.web.models import EditsBody, GoToBody, JobView, Stage, Units
from openfurrow.web.views import job_view

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["stages"])


def as_json(view: BaseModel) -> Response:
    """A view that is valid by how it was made is written once and not checked again."""
    return Response(view.model_dump_json(), media_type="application/json")


def draft_to_change(session: Session, account: Account, job_id: uuid.UUID) -> OpenDraft:
    """The account's draft; NotAllowed for one who may only look."""
    draft = open_draft(session, account, job_id)
    if draft.role == "viewer":
        raise NotAllowed("This job is shared with you for reading only.")
    return draft


def keep(
    session: Session, draft: OpenDraft, new: Design, units: UnitSystem, label: str = ""
) -> OpenDraft:
    """Record what changed as one step in words; nothing where nothing did."""
    changes = differences(draft.design, new, units)
    if not changes:
        return draft
    first = changes[0]
    words = label or f"{first.label} {first.before} → {first.after}"
    if len(changes) > 1 and not label:
        words = f"{first.label} and {len(changes) - 1} more"
    path = first.path if len(changes) == 1 and not label else ""
    return record(session, draft, path, words, new)


@router.get("/stages/{stage}", response_model=JobView)
def show(
    job_id: uuid.UUID, stage: Stage, session: Store, account: Who, units: Units | None = None
) -> Response:
    """The screen of a stage, from the account's draft."""
    return as_json(job_view(open_draft(session, account, job_id), stage, units))


@router.post("/edits", response_model=JobView)
def edit(job_id: uuid.UUID, body: EditsBody, session: Store, account: Who) -> Response:
    """Read what was typed, keep it in the draft, and show what follows."""
    draft = draft_to_change(session, account, job_id)
    new = apply(draft.design, ((edit.path, edit.text) for edit in body.edits), body.units)
    kept = keep(session, draft, new, body.units)
    return as_json(job_view(kept, body.stage, body.units, draft.design))


@router.post("/step", response_model=JobView)
def step_to(job_id: uuid.UUID, body: GoToBody, session: Store, account: Who) -> Response:
    """Undo or redo to any step."""
    draft = draft_to_change(session, account, job_id)
    there = go_to(session, draft, body.step)
    return as_json(job_view(there, body.stage, body.units, draft.design))


@router.put("/design", response_model=JobView, openapi_extra=FILE_BODY)
def replace_design(
    job_id: uuid.UUID, data: DesignBody, session: Store, account: Who, stage: Stage = "site",
    units: Units = "us",
) -> Response:
    """Import a design document into the draft, as one step that can be undone."""
    draft = draft_to_change(session, account, job_id)
    kept = keep(session, draft, read_design(data), units, "imported from a file")
    return as_json(job_view(kept, stage, units, draft.design))
