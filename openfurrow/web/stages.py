"""One stage's screen and the edits made on it. All stages answer alike, so one router serves all."""

import uuid

from fastapi import APIRouter, Request
from sqlalchemy.orm import Session

from openfurrow.core.design import Design
from openfurrow.core.edits import apply, differences
from openfurrow.core.quantities import UnitSystem
from openfurrow.exchange.design_json import read_design
from openfurrow.store.drafts import go_to, open_draft, record
from openfurrow.store.jobs import may_change
from openfurrow.store.tables import Account
from openfurrow.web.context import Store, Who
from openfurrow.web.jobs import read_body
from openfurrow.web.models import EditsBody, GoToBody, JobView, Stage, Units
from openfurrow.web.views import job_view

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["stages"])


@router.get("/stages/{stage}")
def show(
    job_id: uuid.UUID, stage: Stage, session: Store, account: Who, units: Units | None = None
) -> JobView:
    """The screen of a stage, from the account's draft."""
    return job_view(session, account, job_id, stage, units)


def keep(
    session: Session, account: Account, job_id: uuid.UUID, old: Design, new: Design,
    units: UnitSystem, label: str = "",
) -> None:
    """Record what changed as one step in words; nothing where nothing did."""
    changes = differences(old, new, units)
    if not changes:
        return
    first = changes[0]
    words = label or f"{first.label} {first.before} → {first.after}"
    if len(changes) > 1 and not label:
        words = f"{first.label} and {len(changes) - 1} more"
    path = first.path if len(changes) == 1 and not label else ""
    record(session, account, job_id, path, words, new)


@router.post("/edits")
def edit(job_id: uuid.UUID, body: EditsBody, session: Store, account: Who) -> JobView:
    """Read what was typed, keep it in the draft, and show what follows."""
    may_change(session, account, job_id)
    old = open_draft(session, account, job_id).design
    new = apply(old, ((edit.path, edit.text) for edit in body.edits), body.units)
    keep(session, account, job_id, old, new, body.units)
    return job_view(session, account, job_id, body.stage, body.units, old)


@router.post("/step")
def step_to(job_id: uuid.UUID, body: GoToBody, session: Store, account: Who) -> JobView:
    """Undo or redo to any step."""
    may_change(session, account, job_id)
    old = open_draft(session, account, job_id).design
    go_to(session, account, job_id, body.step)
    return job_view(session, account, job_id, body.stage, body.units, old)


@router.put("/design")
async def replace_design(
    job_id: uuid.UUID, request: Request, session: Store, account: Who, stage: Stage = "site",
    units: Units = "us",
) -> JobView:
    """Import a design document into the draft, as one step that can be undone."""
    data = await read_body(request)
    may_change(session, account, job_id)
    new = read_design(data)
    old = open_draft(session, account, job_id).design
    keep(session, account, job_id, old, new, units, "imported from a file")
    return job_view(session, account, job_id, stage, units, old)
