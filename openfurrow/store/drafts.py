"""Drafts: every edit kept as a step, so that nothing typed is lost and any step can be returned to.

Looking at a draft takes no lock and writes nothing. What follows is computed from what was seen, and
written in one short transaction that expects the draft to stand where it was seen; `Moved` says that it
does not, and the caller looks again.

A step's number is given once and never again: whoever says which step an edit was made on says which
design. What was typed over or undone and left stays a while, out of sight, for edits that come late.
"""

import uuid
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta

from sqlalchemy import Connection, delete, select, text, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from openfurrow.core.design import Design
from openfurrow.core.fieldbook.records import Record
from openfurrow.store.accounts import token_hash
from openfurrow.store.errors import Moved, NotAllowed, StoreError
from openfurrow.store.field_records import kept_records
from openfurrow.store.jobs import role_in
from openfurrow.store.revisions import design_of, head, revision
from openfurrow.store.shots import put_away, taken_out
from openfurrow.store.tables import Account, Draft, DraftStep, Member, Revision

# Typing in one field within this time is one step, not one a keystroke.
ONE_STEP = timedelta(seconds=2)
MOST_STEPS = 400
# So many numbers back an edit made on a step that is no longer shown still finds what it meant.
LATE_STEPS = 100


@dataclass(frozen=True)
class Step:
    """A step in words."""

    number: int
    path: str
    made_at: datetime
    label: str


@dataclass(frozen=True)
class Stand:
    """Where a draft stands: on which revision and step; ``counter`` is the last number given."""

    base: int
    position: int
    counter: int


@dataclass(frozen=True, kw_only=True)
class OpenDraft:
    """A draft as it was seen. ``kept`` is what the store has of it, None where that is nothing.

    A draft without changes of its own is seen on the newest revision, whether or not it is kept so.
    ``records`` are what was measured on site by then.
    """

    job_id: uuid.UUID
    account_id: int
    role: str
    kept: Stand | None
    stand: Stand
    design: Design
    base_design: Design
    head: int
    head_author: str
    steps: tuple[Step, ...]
    records: tuple[Record, ...] = ()

    @property
    def changed(self) -> bool:
        """Whether the draft differs from the revision it began from."""
        return self.design != self.base_design

    @property
    def present(self) -> Step:
        """The step the draft stands on."""
        return next(step for step in self.steps if step.number == self.stand.position)


def open_draft(session: Session, account: Account, job_id: uuid.UUID) -> OpenDraft:
    """The account's draft of a job as it stands; nothing is locked or written."""
    role = role_in(session, account, job_id)
    newest = head(session, job_id)
    row = session.get(Draft, (job_id, account.id))
    latest = design_of(session, newest)
    if row is None:
        number = newest.number - 1
        return OpenDraft(
            job_id=job_id,
            account_id=account.id,
            role=role,
            kept=None,
            stand=Stand(newest.number, number, number),
            design=latest,
            base_design=latest,
            head=newest.number,
            head_author=newest.author.name,
            steps=(Step(number, "", newest.saved_at, f"revision {newest.number}"),),
            records=kept_records(session, job_id),
        )
    kept = Stand(row.base, row.position, row.counter)
    began = newest if kept.base == newest.number else revision(session, account, job_id, kept.base)
    seen = OpenDraft(
        job_id=job_id,
        account_id=account.id,
        role=role,
        kept=kept,
        stand=kept,
        design=_design_at(session, job_id, account.id, kept.position),
        base_design=design_of(session, began),
        head=newest.number,
        head_author=newest.author.name,
        steps=_steps(session, job_id, account.id),
        records=kept_records(session, job_id),
    )
    return seen if kept.base == newest.number or seen.changed else _following(session, seen, newest)


Mark = tuple[object, ...]
# Everything a draft's screen depends on, by one statement: numbers of steps are never given twice.
_MARK = text("""
select m.job_id, m.account_id, m.role, d.base, d.position, d.counter,
  (select max(r.number) from revision r where r.job_id = m.job_id),
  (select count(*) from field_record f where f.job_id = m.job_id)
from sign_in s
join member m on m.account_id = s.account_id and m.job_id = :job
join job j on j.id = m.job_id and j.deleted_at is null
left join draft d on d.job_id = m.job_id and d.account_id = m.account_id
where s.token_hash = :token and s.expires_at > now()
""")


def mark_now(connection: Connection, token: str, job_id: uuid.UUID) -> Mark | None:
    """What tells one state of a draft from every other; None for who may not see it."""
    found = connection.execute(_MARK, {"job": job_id, "token": token_hash(token)}).first()
    return tuple(found) if found else None


def mark_of(draft: OpenDraft) -> Mark:
    """The same of a draft that was seen."""
    kept = draft.kept
    stand = (kept.base, kept.position, kept.counter) if kept else (None, None, None)
    return (draft.job_id, draft.account_id, draft.role, *stand, draft.head, len(draft.records))


def _following(session: Session, seen: OpenDraft, newest: Revision) -> OpenDraft:
    """An unchanged draft, seen on a revision that came after its own.

    The number such a step has follows from the two revisions alone, for until something is written
    every look must give the same.
    """
    number = seen.stand.counter + newest.number - seen.stand.base
    label = f"revision {newest.number} by {newest.author.name}"
    design = design_of(session, newest)
    return replace(
        seen,
        stand=Stand(newest.number, number, number),
        design=design,
        base_design=design,
        steps=(*_up_to_here(seen), Step(number, "", newest.saved_at, label)),
    )


def _up_to_here(draft: OpenDraft) -> tuple[Step, ...]:
    return tuple(step for step in draft.steps if step.number <= draft.stand.position)


def _steps(session: Session, job_id: uuid.UUID, account_id: int) -> tuple[Step, ...]:
    found = session.execute(
        select(DraftStep.number, DraftStep.path, DraftStep.made_at, DraftStep.label)
        .where(
            DraftStep.job_id == job_id, DraftStep.account_id == account_id, DraftStep.dropped.is_(False)
        )
        .order_by(DraftStep.number)
    )
    return tuple(Step(*line) for line in found)


def _design_at(session: Session, job_id: uuid.UUID, account_id: int, number: int) -> Design:
    found = session.get(DraftStep, (job_id, account_id, number))
    if found is None:
        raise StoreError("There is no such step: the list of steps shows those that are kept.")
    return taken_out(session, job_id, found.document)


def design_seen(session: Session, draft: OpenDraft, number: int) -> Design | None:
    """The design an edit was made on, by its step's number; None where that is no longer kept."""
    if number == draft.stand.position:
        return draft.design
    row = session.get(DraftStep, (draft.job_id, draft.account_id, number))
    return taken_out(session, draft.job_id, row.document) if row else None


def step_design(session: Session, draft: OpenDraft, number: int) -> Design:
    """The design of a step that can be gone to. Raises StoreError where there is none."""
    if number not in {step.number for step in draft.steps}:
        raise StoreError("There is no such step: the list of steps shows those that are kept.")
    if number == draft.stand.position:
        return draft.design
    return _design_at(session, draft.job_id, draft.account_id, number)


def _expect(session: Session, seen: OpenDraft) -> None:
    """Lock the draft and see that it stands where it was seen; make it where there was none.

    Raises Moved where someone was there in between, NotAllowed for one who may only look.
    """
    member = session.get(Member, (seen.job_id, seen.account_id))
    if member is None or member.role == "viewer" or member.job.deleted_at is not None:
        raise NotAllowed("This job is shared with you for reading only.")
    key = (seen.job_id, seen.account_id)
    if seen.kept is None:
        stand = seen.stand
        made = session.execute(
            insert(Draft)
            .values(
                job_id=key[0],
                account_id=key[1],
                base=stand.base,
                position=stand.position,
                counter=stand.counter,
            )
            .on_conflict_do_nothing()
            .returning(Draft.position)
        ).first()
        if not made:
            raise Moved
    else:
        row = session.get(Draft, key, with_for_update=True, populate_existing=True)
        if row is None or Stand(row.base, row.position, row.counter) != seen.kept:
            raise Moved
    if seen.kept != seen.stand:
        # What was only seen until now (a revision that is followed) becomes a step of its own.
        if seen.kept is not None:
            _drop(session, seen, DraftStep.number > seen.kept.position)
        _add(session, seen, seen.present, seen.design)


def _drop(session: Session, draft: OpenDraft, which: object) -> None:
    """Take steps out of sight; those too old to be meant by a late edit go for good."""
    here = (DraftStep.job_id == draft.job_id, DraftStep.account_id == draft.account_id)
    session.execute(update(DraftStep).where(*here, which).values(dropped=True))  # type: ignore[arg-type]
    session.execute(
        delete(DraftStep).where(
            *here, DraftStep.dropped, DraftStep.number < draft.stand.counter - LATE_STEPS
        )
    )


def _add(session: Session, draft: OpenDraft, step: Step, design: Design) -> None:
    session.add(
        DraftStep(
            job_id=draft.job_id,
            account_id=draft.account_id,
            number=step.number,
            path=step.path,
            label=step.label,
            design=put_away(session, draft.job_id, design),
            made_at=step.made_at,
        )
    )


def _stand_on(session: Session, draft: OpenDraft, stand: Stand) -> None:
    session.execute(
        update(Draft)
        .where(Draft.job_id == draft.job_id, Draft.account_id == draft.account_id)
        .values(base=stand.base, position=stand.position, counter=stand.counter)
    )
    session.flush()


def record(session: Session, seen: OpenDraft, path: str, label: str, design: Design) -> OpenDraft:
    """Keep an edit of a draft that still stands where it was seen; what had been undone is dropped.

    ``path`` names the one field that was typed into, or nothing. Typing on in the same field takes the
    place of its own step, whose label keeps the oldest value. Raises Moved.
    """
    _expect(session, seen)
    now = datetime.now(UTC)
    last, present = seen.steps[-1], seen.present
    number = seen.stand.counter + 1
    path = path[:200]
    steps = _up_to_here(seen)
    if path and present.path == path and present == last and now - present.made_at < ONE_STEP:
        label = f"{present.label.split(' → ')[0]} → {label.split(' → ')[-1]}"
        _drop(session, seen, DraftStep.number == present.number)
        steps = steps[:-1]
    elif present != last:
        _drop(session, seen, DraftStep.number > present.number)
    steps = (*steps, Step(number, path, now, label[:300]))
    _add(session, seen, steps[-1], design)
    if len(steps) > MOST_STEPS:
        _drop(session, seen, DraftStep.number < steps[-MOST_STEPS].number)
    stand = Stand(seen.stand.base, number, number)
    _stand_on(session, seen, stand)
    return replace(seen, kept=stand, stand=stand, design=design, steps=steps[-MOST_STEPS:])


def go_to(session: Session, seen: OpenDraft, number: int, design: Design) -> OpenDraft:
    """Undo or redo to a step whose design has been looked up. Raises Moved."""
    _expect(session, seen)
    stand = replace(seen.stand, position=number)
    _stand_on(session, seen, stand)
    return replace(seen, kept=stand, stand=stand, design=design)


def rebase(session: Session, seen: OpenDraft, number: int, design: Design) -> OpenDraft:
    """After a save: the draft stands on the new revision, its steps stay to be undone. Raises Moved."""
    seen = replace(seen, base_design=design, head=number)
    if seen.design != design:
        seen = record(session, seen, "", f"merged as revision {number}", design)
    else:
        _expect(session, seen)
    stand = replace(seen.stand, base=number)
    _stand_on(session, seen, stand)
    return replace(seen, kept=stand, stand=stand)
