"""Jobs and who may see them. Every query is scoped to an account."""

import uuid
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from openfurrow.core.design import Design
from openfurrow.store.errors import NotAllowed, NotFound, StoreError
from openfurrow.store.shots import put_away
from openfurrow.store.tables import Account, Job, Member, Revision, RevisionSummary

ROLES = ("owner", "editor", "viewer")


@dataclass(frozen=True)
class JobLine:
    """A job in the list; ``summary`` is what the program ``build`` last said of its newest revision."""

    id: uuid.UUID
    name: str
    role: str
    revision: int
    saved_at: datetime
    author: str
    build: str | None
    summary: dict[str, Any] | None


def create_job(session: Session, account: Account, design: Design, note: str) -> uuid.UUID:
    """A new job with its first revision, owned by the account."""
    job = Job(id=uuid.uuid4())
    session.add(job)
    session.flush()
    session.add(Member(job_id=job.id, account_id=account.id, role="owner"))
    session.add(
        Revision(
            job_id=job.id,
            number=1,
            parent=None,
            author_id=account.id,
            note=note,
            design=put_away(session, job.id, design),
        )
    )
    session.flush()
    return job.id


def role_in(session: Session, account: Account, job_id: uuid.UUID) -> str:
    """The account's role in a job; NotFound where it has none."""
    member = session.get(Member, (job_id, account.id))
    if member is None:
        raise NotFound("There is no such job, or it is not shared with you.")
    return member.role


def jobs_of(session: Session, account: Account) -> list[JobLine]:
    """The account's jobs, newest saved first, then by name."""
    # The designs themselves stay where they are: a list of jobs with surveys would carry megabytes.
    name = Revision.design["name"].astext
    newest = (
        select(
            Revision.job_id,
            Revision.number,
            Revision.saved_at,
            Revision.author_id,
            name.label("job_name"),
        )
        .join(Member, Member.job_id == Revision.job_id)
        .where(Member.account_id == account.id)
        .distinct(Revision.job_id)
        .order_by(Revision.job_id, Revision.number.desc())
        .subquery()
    )
    rows = session.execute(
        select(newest, Member.role, Account.name, RevisionSummary.build, RevisionSummary.summary)
        .join(Member, Member.job_id == newest.c.job_id)
        .join(Account, Account.id == newest.c.author_id)
        .outerjoin(
            RevisionSummary,
            (RevisionSummary.job_id == newest.c.job_id) & (RevisionSummary.number == newest.c.number),
        )
        .where(Member.account_id == account.id)
        .order_by(newest.c.saved_at.desc(), newest.c.job_name)
    )
    return [
        JobLine(
            row.job_id,
            row.job_name,
            row.role,
            row.number,
            row.saved_at,
            row.name,
            row.build,
            row.summary,
        )
        for row in rows
    ]


def share(session: Session, owner: Account, job_id: uuid.UUID, name: str, role: str) -> None:
    """Let another account in, or change its role. Only the owner may."""
    if role_in(session, owner, job_id) != "owner":
        raise NotAllowed("Only the job's owner shares it.")
    if role not in ("editor", "viewer"):
        raise StoreError("Share for reading (viewer) or for work (editor).")
    other = session.scalar(select(Account).where(Account.name == name.strip()))
    if other is None:
        raise NotFound(f"Nobody is called {name.strip()!r} here.")
    if other.id == owner.id:
        raise StoreError("The owner is in already.")
    session.execute(
        insert(Member)
        .values(job_id=job_id, account_id=other.id, role=role)
        .on_conflict_do_update(index_elements=["job_id", "account_id"], set_={"role": role})
    )
