"""Saved designs: immutable, in one line of descent, with conflicts shown instead of lost."""

import uuid
from collections.abc import Sequence
from dataclasses import asdict
from typing import Any

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from openfurrow.core.design import Design
from openfurrow.core.edits import differences
from openfurrow.core.merging import kept_together, merged
from openfurrow.core.practice_list import practice_list
from openfurrow.store.errors import Conflict, Moved, NotFound, clashes_of
from openfurrow.store.jobs import role_in
from openfurrow.store.shots import put_away, taken_out
from openfurrow.store.tables import Account, Revision, RevisionSummary


def design_of(session: Session, revision: Revision) -> Design:
    """The design a revision holds, brought up to the current schema."""
    return taken_out(session, revision.job_id, revision.document)


def history(session: Session, account: Account, job_id: uuid.UUID) -> Sequence[Revision]:
    """All revisions, newest first."""
    role_in(session, account, job_id)
    return session.scalars(
        select(Revision).where(Revision.job_id == job_id).order_by(Revision.number.desc())
    ).all()


def head(session: Session, job_id: uuid.UUID) -> Revision:
    """The newest revision."""
    found = session.scalar(
        select(Revision).where(Revision.job_id == job_id).order_by(Revision.number.desc()).limit(1)
    )
    if found is None:
        raise NotFound("The job has no revision.")
    return found


def built_from(session: Session, account: Account, job_id: uuid.UUID) -> Revision:
    """What a crew builds from: the newest revision that was issued, else the newest."""
    role_in(session, account, job_id)
    return to_build_from(session, job_id)


def to_build_from(session: Session, job_id: uuid.UUID) -> Revision:
    """The same, for who is known to be allowed to see it."""
    issued = session.scalar(
        select(Revision)
        .where(Revision.job_id == job_id, Revision.issued.is_not(None))
        .order_by(Revision.number.desc())
        .limit(1)
    )
    return issued or head(session, job_id)


def revision(session: Session, account: Account, job_id: uuid.UUID, number: int) -> Revision:
    """One revision; NotFound where there is none or the account may not see it."""
    role_in(session, account, job_id)
    found = session.get(Revision, (job_id, number))
    if found is None:
        raise NotFound(f"There is no revision {number}.")
    return found


def design_to_save(
    session: Session,
    account: Account,
    job_id: uuid.UUID,
    design: Design,
    base: int,
    onto: int | None = None,
    take_theirs: frozenset[str] = frozenset(),
) -> tuple[int, Design]:
    """The newest revision, and what a save of a design begun from revision ``base`` would add to it.

    Raises Conflict if someone saved since; saving again with ``onto`` the newest revision merges
    the two field by field and lists thing by thing, taking theirs for ``take_theirs``.
    """
    newest = head(session, job_id)
    if newest.number == base:
        return newest.number, design
    units = design.site.display_units
    began = design_of(session, revision(session, account, job_id, base))
    theirs = design_of(session, newest)
    if onto != newest.number:
        raise Conflict(
            newest.number,
            newest.author.name,
            newest.note,
            clashes_of(
                differences(began, design, units),
                differences(began, theirs, units),
                kept_together(began, design, theirs),
            ),
        )
    return newest.number, merged(began, design, theirs, take_theirs)


def add_revision(
    session: Session,
    account: Account,
    job_id: uuid.UUID,
    parent: int,
    design: Design,
    note: str,
    *,
    issued: bool = False,
) -> Revision:
    """Put a revision on its parent. Raises Moved where another has been put there.

    With one that is ``issued`` it is kept what nobody had looked at by then.
    """
    practice = practice_list(design, design.site.display_units)
    saved = Revision(
        job_id=job_id,
        number=parent + 1,
        parent=parent,
        author_id=account.id,
        note=note,
        design=put_away(session, job_id, design),
        issued=[asdict(line) for line in practice] if issued else None,
    )
    try:
        # The unique parent decides a race that the look at the head did not see.
        with session.begin_nested():
            session.add(saved)
            session.flush()
    except IntegrityError:
        raise Moved from None
    return saved


def keep_summary(
    session: Session, job_id: uuid.UUID, number: int, build: str, summary: dict[str, Any]
) -> None:
    """Keep what a list shows of a revision; one of another program is written over."""
    values = {"build": build, "summary": summary}
    session.execute(
        insert(RevisionSummary)
        .values(job_id=job_id, number=number, **values)
        .on_conflict_do_update(index_elements=["job_id", "number"], set_=values)
    )
