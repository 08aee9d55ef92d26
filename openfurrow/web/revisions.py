"""Saving, history, comparing, going back, and files."""

import uuid
from typing import Annotated

from fastapi import APIRouter, Path, Query, Response
from pydantic import Field

from openfurrow.core.edits import DesignError, Problem, differences
from openfurrow.core.quantities import UnitSystem
from openfurrow.exchange.exports import BUILT_FILES, EXPORTS
from openfurrow.exchange.package import file_stem
from openfurrow.exchange.wanted import Length, Wanted
from openfurrow.sheets.models import TableText
from openfurrow.sheets.side_by_side import side_by_side
from openfurrow.store.drafts import open_draft, rebase, step_design
from openfurrow.store.errors import NotFound
from openfurrow.store.revisions import (
    add_revision,
    design_of,
    design_to_save,
    history,
    keep_summary,
    revision,
)
from openfurrow.store.tables import Revision
from openfurrow.web.built import built
from openfurrow.web.changing import Change, draft_of, keep, to_change, until_stored
from openfurrow.web.context import Asking, computing, planned
from openfurrow.web.kept import build
from openfurrow.web.models import (
    MOST_NUMBER,
    CompareView,
    DifferenceView,
    JobView,
    Number,
    PracticeView,
    RevisionView,
    SaveBody,
    Stage,
    Units,
)
from openfurrow.web.views import as_json, job_view, moved_answers, summary_of

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["revisions"])
MOST_PINNED = 3
Pinned = Annotated[
    tuple[Annotated[int, Field(ge=0, le=MOST_NUMBER)], ...],
    Query(description="Numbers of what stands beside the draft"),
]
NumberInPath = Annotated[int, Path(ge=0, le=MOST_NUMBER)]


def _view(saved: Revision) -> RevisionView:
    return RevisionView(
        number=saved.number,
        author=saved.author.name,
        saved_at=saved.saved_at,
        note=saved.note,
        issued=None if saved.issued is None else tuple(PracticeView(**line) for line in saved.issued),
    )


@router.get("/revisions")
def list_revisions(job_id: uuid.UUID, caller: Asking) -> list[RevisionView]:
    """Every revision, newest first."""
    with caller.reads() as (session, account):
        return [_view(saved) for saved in history(session, account, job_id)]


@router.post("/revisions", status_code=201)
def save(job_id: uuid.UUID, body: SaveBody, caller: Asking) -> RevisionView:
    """Save the draft as a revision; 409 with both sides if someone saved in between."""

    def stored() -> RevisionView:
        with caller.reads() as (session, account):
            seen = to_change(session, account, job_id)
            parent, design = design_to_save(
                session,
                account,
                job_id,
                seen.design,
                seen.stand.base,
                body.onto,
                frozenset(body.take_theirs),
            )
        summary = summary_of(design)
        with caller.writes() as (session, account):
            saved = add_revision(
                session, account, job_id, parent, design, body.note.strip(), issued=body.issue
            )
            keep_summary(session, job_id, saved.number, build(), summary)
            rebase(session, seen, saved.number, design)
            session.refresh(saved, ["saved_at", "author"])
            return _view(saved)

    return until_stored(stored)


@router.post("/revisions/{number}/restore", response_model=JobView)
def restore(
    job_id: uuid.UUID,
    number: NumberInPath,
    caller: Asking,
    stage: Stage = "site",
    units: Units = "us",
) -> Response:
    """Take an old revision's design into the draft, as a step that can be undone."""
    with caller.reads() as (session, account):
        draft = to_change(session, account, job_id)
        then = design_of(session, revision(session, account, job_id, number))
    kept = keep(caller, draft, Change(draft.design, then, f"back to revision {number}"), units)
    return as_json(job_view(kept, stage, units, draft.design))


@router.get("/compare")
def compare(
    job_id: uuid.UUID,
    caller: Asking,
    before: Number,
    after: Number | None = None,
    units: Units = "us",
) -> CompareView:
    """What differs between two revisions, or between one and the draft."""

    with caller.reads() as (session, account):
        old = design_of(session, revision(session, account, job_id, before))
        new = (
            open_draft(session, account, job_id).design
            if after is None
            else design_of(session, revision(session, account, job_id, after))
        )
    return CompareView(
        fields=tuple(DifferenceView.of(d) for d in differences(old, new, units)),
        answers=moved_answers(planned(old), planned(new), units),
    )


@router.get("/variants")
def variants(
    job_id: uuid.UUID,
    caller: Asking,
    revisions: Pinned = (),
    steps: Pinned = (),
    units: Units = "us",
) -> TableText:
    """The draft beside as many as three of its revisions and steps."""
    if len(revisions) + len(steps) > MOST_PINNED:
        raise DesignError(
            (
                Problem(
                    "revisions",
                    "Pinned",
                    f"are {len(revisions) + len(steps)}",
                    f"at most {MOST_PINNED}",
                    "Take one off before another is pinned.",
                ),
            )
        )
    with caller.reads() as (session, account):
        draft = open_draft(session, account, job_id)
        found = [("Now", draft.design)]
        found += [
            (f"Revision {one}", design_of(session, revision(session, account, job_id, one)))
            for one in revisions
        ]
        found += [(f"Step {one}", step_design(session, draft, one)) for one in steps]
    planned_ones = [(name, design, planned(design)) for name, design in found]
    with computing():
        return side_by_side(planned_ones, units)


@router.get("/files/{name}", response_class=Response)
def file(
    job_id: uuid.UUID,
    name: str,
    caller: Asking,
    units: UnitSystem | None = None,
    length: Length | None = None,
    grid: Annotated[int, Query(ge=0, le=999_999)] = 0,
) -> Response:
    """The draft as a file, in the units, the length unit and the map grid that are wanted.

    What was built stands beside what it was built from: the newest revision that was issued.
    """
    if name not in EXPORTS:
        raise NotFound(f"There is no file {name[:40]!r}: choose {', '.join(EXPORTS)}.")
    export = EXPORTS[name]
    if name in BUILT_FILES:
        found = built(caller, job_id)
        design, plan = found.design, found.plan
    else:
        draft = draft_of(caller, job_id)
        design = draft.design
        plan = planned(design, draft.records)
    with computing():
        content = export.write(
            design, plan, Wanted(units=units or design.site.display_units, length=length, grid=grid)
        )
    return Response(
        content,
        media_type=export.media_type
        if isinstance(content, bytes)
        else f"{export.media_type}; charset=utf-8",
        headers={"Content-Disposition": f'attachment; filename="{file_stem(design)}-{name}"'},
    )
