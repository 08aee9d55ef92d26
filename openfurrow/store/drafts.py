"""Drafts: every edit kept as a step, so that nothing typed is lost and any step can be returned to."""

import uuid
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta

from sqlalchemy import delete, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from openfurrow.core.design import Design
from openfurrow.core.design_versions import read_document
from openfurrow.store.errors import StoreError
from openfurrow.store.jobs import role_in
from openfurrow.store.revisions import design_of, head, revision
from openfurrow.store.tables import Account, Draft, DraftStep, Revision

# Typing in one field within this time is one step, not one a keystroke.
ONE_STEP = timedelta(seconds=2)
MOST_STEPS = 400


@dataclass(frozen=True)
class Step:
    """A step in words."""

    number: int
    path: str
    made_at: datetime
    label: str


@dataclass(frozen=True)
class OpenDraft:
    """A draft held open by its owner for one transaction; its row is locked until the end."""

    row: Draft
    role: str
    design: Design
    base_design: Design
    head: int
    head_author: str
    steps: tuple[Step, ...]

    @property
    def changed(self) -> bool:
        """Whether the draft differs from the revision it began from."""
        return self.design != self.base_design

    @property
    def present(self) -> Step:
        """The step the draft stands on."""
        return next(step for step in self.steps if step.number == self.row.position)


def open_draft(session: Session, account: Account, job_id: uuid.UUID) -> OpenDraft:
    """The account's draft of a job, made from the newest revision where there is none.

    A draft without changes of its own follows the newest revision.
    """
    role = role_in(session, account, job_id)
    newest = head(session, job_id)
    row = session.get(Draft, (job_id, account.id), with_for_update=True)
    if row is None:
        row = _begin(session, account, newest)
    began = newest if row.base == newest.number else revision(session, account, job_id, row.base)
    draft = OpenDraft(
        row=row,
        role=role,
        design=read_document(_kept(session, row, row.position).design),
        base_design=design_of(began),
        head=newest.number,
        head_author=newest.author.name,
        steps=_steps(session, row),
    )
    if row.base == newest.number or draft.changed:
        return draft
    row.base = newest.number
    label = f"revision {newest.number} by {newest.author.name}"
    return replace(
        record(session, draft, "", label, design_of(newest)), base_design=design_of(newest)
    )


def _begin(session: Session, account: Account, newest: Revision) -> Draft:
    """A new draft; of two tabs that open a job at once, one makes it and the other finds it."""
    key = (newest.job_id, account.id)
    made = session.execute(
        insert(Draft)
        .values(job_id=key[0], account_id=key[1], base=newest.number, position=0)
        .on_conflict_do_nothing()
        .returning(Draft.position)
    ).first()
    row = session.get_one(Draft, key, with_for_update=True, populate_existing=True)
    if made:
        _add(session, row, 0, "", f"revision {newest.number}", design_of(newest))
    return row


def _steps(session: Session, row: Draft) -> tuple[Step, ...]:
    found = session.execute(
        select(DraftStep.number, DraftStep.path, DraftStep.made_at, DraftStep.label)
        .where(DraftStep.job_id == row.job_id, DraftStep.account_id == row.account_id)
        .order_by(DraftStep.number)
    )
    return tuple(Step(*line) for line in found)


def _kept(session: Session, row: Draft, number: int) -> DraftStep:
    found = session.get(DraftStep, (row.job_id, row.account_id, number))
    if found is None:
        raise StoreError("There is no such step: the list of steps shows those that are kept.")
    return found


def _add(
    session: Session, row: Draft, number: int, path: str, label: str, design: Design
) -> Step:
    step = Step(number, path[:80], datetime.now(UTC), label[:300])
    session.add(
        DraftStep(
            job_id=row.job_id, account_id=row.account_id, number=number, path=step.path,
            label=step.label, design=design.model_dump(mode="json"), made_at=step.made_at,
        )
    )
    row.position = number
    session.flush()
    return step


def record(
    session: Session, draft: OpenDraft, path: str, label: str, design: Design
) -> OpenDraft:
    """Keep an edit; what had been undone is dropped.

    Typing on in the same field replaces its own step, whose label keeps the oldest value.
    """
    row, last, present = draft.row, draft.steps[-1], draft.present
    now = datetime.now(UTC)
    if path and present.path == path and present == last and now - present.made_at < ONE_STEP:
        kept = _kept(session, row, present.number)
        words = f"{present.label.split(' → ')[0]} → {label.split(' → ')[-1]}"[:300]
        kept.label, kept.made_at, kept.design = words, now, design.model_dump(mode="json")
        session.flush()
        step = replace(present, label=words, made_at=now)
        return replace(draft, design=design, steps=(*draft.steps[:-1], step))
    steps = [step for step in draft.steps if step.number <= row.position]
    oldest = row.position + 1 - MOST_STEPS
    session.execute(
        delete(DraftStep).where(
            DraftStep.job_id == row.job_id, DraftStep.account_id == row.account_id,
            (DraftStep.number > row.position) | (DraftStep.number <= oldest),
        )
    )
    steps.append(_add(session, row, row.position + 1, path, label, design))
    return replace(
        draft, design=design, steps=tuple(step for step in steps if step.number > oldest)
    )


def go_to(session: Session, draft: OpenDraft, number: int) -> OpenDraft:
    """Undo or redo to a step. Raises StoreError where there is none."""
    design = read_document(_kept(session, draft.row, number).design)
    draft.row.position = number
    session.flush()
    return replace(draft, design=design)


def rebase(session: Session, draft: OpenDraft, number: int, design: Design) -> None:
    """After a save: the draft stands on the new revision, its steps stay to be undone."""
    draft.row.base = number
    if draft.design != design:
        record(session, draft, "", f"merged as revision {number}", design)
    session.flush()
