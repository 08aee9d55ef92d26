"""Saving, history, comparing, going back, and files."""

import re
import uuid

from fastapi import APIRouter, Response

from openfurrow.core.design import Design
from openfurrow.core.edits import differences
from openfurrow.exchange.exports import EXPORTS
from openfurrow.store.drafts import open_draft, rebase
from openfurrow.store.errors import NotFound
from openfurrow.store.revisions import design_of, history, revision, save_revision
from openfurrow.store.tables import Revision
from openfurrow.web.context import Store, Who, planned
from openfurrow.web.models import (
    CompareView,
    DifferenceView,
    JobView,
    RevisionView,
    SaveBody,
    Stage,
    Units,
)
from openfurrow.web.stages import as_json, draft_to_change, keep
from openfurrow.web.views import job_view, moved_answers

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["revisions"])


def _view(saved: Revision) -> RevisionView:
    return RevisionView(number=saved.number, author=saved.author.name, saved_at=saved.saved_at,
                        note=saved.note)


@router.get("/revisions")
def list_revisions(job_id: uuid.UUID, session: Store, account: Who) -> list[RevisionView]:
    """Every revision, newest first."""
    return [_view(saved) for saved in history(session, account, job_id)]


@router.post("/revisions", status_code=201)
def save(job_id: uuid.UUID, body: SaveBody, session: Store, account: Who) -> RevisionView:
    """Save the draft as a revision; 409 with both sides if someone saved in between."""
    draft = draft_to_change(session, account, job_id)
    saved = save_revision(
        session, account, job_id, draft.design, draft.row.base, body.note.strip(), body.onto,
        frozenset(body.take_theirs),
    )
    rebase(session, draft, saved.number, design_of(saved))
    session.refresh(saved, ["saved_at", "author"])
    return _view(saved)


@router.post("/revisions/{number}/restore", response_model=JobView)
def restore(
    job_id: uuid.UUID, number: int, session: Store, account: Who, stage: Stage = "site",
    units: Units = "us",
) -> Response:
    """Take an old revision's design into the draft, as a step that can be undone."""
    draft = draft_to_change(session, account, job_id)
    then = design_of(revision(session, account, job_id, number))
    kept = keep(session, draft, then, units, f"back to revision {number}")
    return as_json(job_view(kept, stage, units, draft.design))


@router.get("/compare")
def compare(
    job_id: uuid.UUID, session: Store, account: Who, before: int, after: int | None = None,
    units: Units = "us",
) -> CompareView:
    """What differs between two revisions, or between one and the draft."""

    def design(number: int | None) -> Design:
        if number is None:
            return open_draft(session, account, job_id).design
        return design_of(revision(session, account, job_id, number))

    old, new = design(before), design(after)
    return CompareView(
        fields=tuple(DifferenceView.of(d) for d in differences(old, new, units)),
        answers=moved_answers(planned(old), planned(new), units),
    )


@router.get("/files/{name}", response_class=Response)
def file(job_id: uuid.UUID, name: str, session: Store, account: Who) -> Response:
    """The draft as a file: design.json, stakes.csv, materials.csv or plan.geojson."""
    design = open_draft(session, account, job_id).design
    if name not in EXPORTS:
        raise NotFound(f"There is no file {name!r}: choose {', '.join(EXPORTS)}.")
    export = EXPORTS[name]
    slug = re.sub(r"[^a-z0-9]+", "-", design.name.lower()).strip("-") or "job"
    return Response(
        export.write(design, planned(design)),
        media_type=f"{export.media_type}; charset=utf-8",
        headers={"Content-Disposition": f'attachment; filename="{slug}-{name}"'},
    )
