"""One stage's screen and the edits made on it. All stages answer alike, so one router serves all."""

import uuid

from fastapi import APIRouter, Request, Response

from openfurrow.core.design import Design
from openfurrow.core.edits import DesignError, Problem, apply
from openfurrow.core.paths import NEW, within
from openfurrow.exchange.design_json import read_design
from openfurrow.exchange.read_ground import new_id
from openfurrow.jobs.apart import apart
from openfurrow.store.drafts import OpenDraft, design_seen, go_to, mark_of, step_design
from openfurrow.store.errors import Clash, Late
from openfurrow.web.changing import (
    TURNS,
    Change,
    draft_of,
    draft_to_change,
    keep,
    to_change,
    until_stored,
)
from openfurrow.web.context import FILE_BODY, Asking, Caller, DesignBody, Gone
from openfurrow.web.kept import KEPT
from openfurrow.web.models import ArrayId, EditsBody, GoToBody, JobView, Stage, Units
from openfurrow.web.views import as_json, job_view

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["stages"])


def _seen_on(caller: Caller, job_id: uuid.UUID, step: int | None) -> tuple[OpenDraft, Design | None]:
    """The draft, and the design that was on the screen; None where it is no longer kept."""
    with caller.reads() as (session, account):
        draft = to_change(session, account, job_id)
        return draft, draft.design if step is None else design_seen(session, draft, step)


def _one_of_a_list(path: str) -> bool:
    """Whether a path names a thing of a list or an array: gone, it would be nothing's."""
    at = within(path)
    return at is not None and bool(at.thing or (at.array and not at.name))


def _named(path: str) -> str:
    """The path of a new thing with an id of its own, where none was said."""
    return f"{path}{new_id()}" if path.endswith(f".{NEW}") else path


def _typed(body: EditsBody, then: Design | None, draft: OpenDraft) -> Change:
    """The edits made on the design they were meant for.

    Where that is gone, a field of its own is still itself, but a number in a list may by now be
    another thing's: that is refused. Raises Late, DesignError.
    """
    if then is None:
        lost = [edit for edit in body.edits if _one_of_a_list(edit.path)]
        if lost:
            raise Late(
                tuple(Clash(edit.path, "List", "", edit.text, "", False) for edit in lost),
                "This list was changed in another tab since it was last seen here. Nothing "
                "was changed: look at it again, and do it again if you still want it so.",
            )
        then = draft.design
    mine = apply(then, ((_named(edit.path), edit.text) for edit in body.edits), body.units)
    one = body.edits[0] if len(body.edits) == 1 else None
    # A thing put in or taken out is a step of its own; only typing on in one field is not.
    typing = one and f".{NEW}" not in one.path and (one.text.strip() or not _one_of_a_list(one.path))
    return Change(then, mine, path=one.path if one and typing else "")


@router.get("/stages/{stage}", response_model=JobView)
def show(
    job_id: uuid.UUID,
    stage: Stage,
    caller: Asking,
    request: Request,
    units: Units | None = None,
    array: ArrayId = "",
) -> Response:
    """The screen of a stage, from the account's draft; 304 for who has it already."""
    asked = (str(stage), units, array)
    mark = caller.glance(job_id)
    found = KEPT.get((*mark, *asked))
    if found is None and not KEPT.is_known(request, (*mark, *asked)):
        draft = draft_of(caller, job_id)
        view = job_view(draft, stage, units, array=array)
        found = KEPT.keep((*mark_of(draft), *asked), view.model_dump_json().encode())
    return KEPT.answer(request, (*mark, *asked), found)


@router.post("/edits", response_model=JobView)
def edit(job_id: uuid.UUID, body: EditsBody, caller: Asking) -> Response:
    """Read what was typed on a step, keep it in the draft, and show what follows.

    Made on an older step than the draft stands on, it is put onto what stands now where both can be
    had; where they cannot, 409 tells both sides and nothing is changed.
    """
    if body.step is None and any(_one_of_a_list(edit.path) for edit in body.edits):
        raise DesignError(
            (
                Problem(
                    "step",
                    "Step",
                    "is missing",
                    "the step the edit was made on",
                    "Say draft.position of the answer that showed the list.",
                ),
            )
        )
    with TURNS.of(job_id, caller.token):
        draft, then = _seen_on(caller, job_id, body.step)
        kept = keep(caller, draft, _typed(body, then, draft), body.units)
    return as_json(job_view(kept, body.stage, body.units, draft.design, body.array))


@router.post("/step", response_model=JobView)
def step_to(job_id: uuid.UUID, body: GoToBody, caller: Asking) -> Response:
    """Undo or redo to any step."""

    def go() -> tuple[OpenDraft, OpenDraft]:
        with caller.reads() as (session, account):
            seen = to_change(session, account, job_id)
            design = step_design(session, seen, body.step)
        with caller.writes() as (session, _):
            return seen, go_to(session, seen, body.step, design)

    before, there = until_stored(go)
    return as_json(job_view(there, body.stage, body.units, before.design, body.array))


@router.put("/design", response_model=JobView, openapi_extra=FILE_BODY)
def replace_design(
    job_id: uuid.UUID,
    data: DesignBody,
    caller: Asking,
    gone: Gone,
    stage: Stage = "site",
    units: Units = "us",
) -> Response:
    """Import a design document into the draft, as one step that can be undone."""
    draft = draft_to_change(caller, job_id)
    change = Change(draft.design, apart(read_design, data, left=gone), "imported from a file")
    kept = keep(caller, draft, change, units)
    return as_json(job_view(kept, stage, units, draft.design))
