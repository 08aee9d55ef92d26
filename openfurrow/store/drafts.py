"""Drafts: every edit kept as a step, so that nothing typed is lost and any step can be returned to."""

import uuid
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session

from openfurrow.core.design import Design
from openfurrow.core.design_versions import read_document
from openfurrow.store.errors import StoreError
from openfurrow.store.jobs import role_in
from openfurrow.store.revisions import design_of, head, revision
from openfurrow.store.tables import Account, Draft, DraftStep

# Typing in one field within this time is one step, not one a keystroke.
ONE_STEP = timedelta(seconds=2)
MOST_STEPS = 400


@dataclass(frozen=True)
class Step:
    """A step in words."""

    number: int
    made_at: datetime
    label: str


@dataclass(frozen=True)
class Opened:
    """A draft as its owner sees it."""

    design: Design
    base: int
    head: int
    head_author: str
    changed: bool
    position: int
    steps: tuple[Step, ...]


def open_draft(session: Session, account: Account, job_id: uuid.UUID) -> Opened:
    """The account's draft of a job, made from the newest revision where there is none.

    A draft without changes of its own follows the newest revision.
    """
    role_in(session, account, job_id)
    newest = head(session, job_id)
    draft = session.get(Draft, (job_id, account.id), with_for_update=True)
    if draft is None:
        draft = Draft(job_id=job_id, account_id=account.id, base=newest.number, position=0)
        session.add(draft)
        session.flush()
        _add(session, draft, 0, "", f"revision {newest.number}", design_of(newest))
    design = read_document(_step(session, draft).design)
    base_design = design_of(revision(session, account, job_id, draft.base))
    if draft.base != newest.number and design == base_design:
        design = base_design = design_of(newest)
        draft.base = newest.number
        _after(session, draft, "", f"revision {newest.number} by {newest.author.name}", design)
    steps = session.execute(
        select(DraftStep.number, DraftStep.made_at, DraftStep.label)
        .where(DraftStep.job_id == job_id, DraftStep.account_id == account.id)
        .order_by(DraftStep.number)
    )
    return Opened(
        design=design,
        base=draft.base,
        head=newest.number,
        head_author=newest.author.name,
        changed=design != base_design,
        position=draft.position,
        steps=tuple(Step(row.number, row.made_at, row.label) for row in steps),
    )


def _step(session: Session, draft: Draft) -> DraftStep:
    found = session.get(DraftStep, (draft.job_id, draft.account_id, draft.position))
    if found is None:
        raise StoreError("The draft has lost its step: take it up again from a revision.")
    return found


def _add(
    session: Session, draft: Draft, number: int, path: str, label: str, design: Design
) -> None:
    session.add(
        DraftStep(
            job_id=draft.job_id, account_id=draft.account_id, number=number, path=path[:80],
            label=label[:300], design=design.model_dump(mode="json"),
            made_at=datetime.now(UTC),
        )
    )
    draft.position = number
    session.flush()


def _after(session: Session, draft: Draft, path: str, label: str, design: Design) -> None:
    """A new step after the present one; what had been undone is dropped."""
    mine = (DraftStep.job_id == draft.job_id, DraftStep.account_id == draft.account_id)
    session.execute(delete(DraftStep).where(*mine, DraftStep.number > draft.position))
    _add(session, draft, draft.position + 1, path, label, design)
    session.execute(
        delete(DraftStep).where(*mine, DraftStep.number <= draft.position - MOST_STEPS)
    )


def record(
    session: Session, account: Account, job_id: uuid.UUID, path: str, label: str, design: Design
) -> None:
    """Keep an edit. Typing on in the same field replaces its own step; the label keeps the old."""
    draft = session.get(Draft, (job_id, account.id), with_for_update=True)
    if draft is None:
        raise StoreError("Open the draft before editing it.")
    last = _step(session, draft)
    newest = session.scalar(
        select(func.max(DraftStep.number)).where(
            DraftStep.job_id == job_id, DraftStep.account_id == account.id
        )
    )
    fresh = datetime.now(UTC) - last.made_at < ONE_STEP
    if path and last.path == path and fresh and newest == draft.position:
        before = last.label.split(" → ")[0]
        last.label = f"{before} → {label.split(' → ')[-1]}"[:300]
        last.design = design.model_dump(mode="json")
        last.made_at = datetime.now(UTC)
        session.flush()
    else:
        _after(session, draft, path, label, design)


def go_to(session: Session, account: Account, job_id: uuid.UUID, number: int) -> None:
    """Undo or redo to a step. Raises StoreError where there is none."""
    role_in(session, account, job_id)
    draft = session.get(Draft, (job_id, account.id), with_for_update=True)
    if draft is None or session.get(DraftStep, (job_id, account.id, number)) is None:
        raise StoreError("There is no such step: the list of steps shows those that are kept.")
    draft.position = number
    session.flush()


def rebase(
    session: Session, account: Account, job_id: uuid.UUID, number: int, design: Design
) -> None:
    """After a save: the draft stands on the new revision, its steps stay to be undone."""
    draft = session.get(Draft, (job_id, account.id), with_for_update=True)
    if draft is None:
        raise StoreError("Open the draft before saving it.")
    draft.base = number
    if read_document(_step(session, draft).design) != design:
        _after(session, draft, "", f"merged as revision {number}", design)
    session.flush()
