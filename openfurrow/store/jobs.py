"""Jobs and who may see them. Every query is scoped to an account."""

import uuid
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any, Literal

from sqlalchemy import delete, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from openfurrow.core.design import Design
from openfurrow.store.errors import NotAllowed, NotFound, StoreError
from openfurrow.store.shots import put_away
from openfurrow.store.tables import Account, Job, Member, Revision, RevisionSummary

JobState = Literal["open", "archived", "deleted"]
# A job that was deleted can be brought back for so long.
KEPT_FOR = timedelta(days=30)
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
    state: JobState
    usual: bool


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
    """The account's role in a job; NotFound where it has none, or where the job is deleted."""
    member = session.get(Member, (job_id, account.id))
    if member is None or member.job.deleted_at is not None:
        raise NotFound("There is no such job, or it is not shared with you.")
    return member.role


def state_of(job: Job) -> JobState:
    """Where a job stands among the others."""
    return "deleted" if job.deleted_at else "archived" if job.archived_at else "open"


def _owned(session: Session, account: Account, job_id: uuid.UUID) -> Job:
    """A job of one's own, deleted or not. Raises NotFound, NotAllowed."""
    member = session.get(Member, (job_id, account.id))
    if member is None or (member.job.deleted_at is not None and member.role != "owner"):
        raise NotFound("There is no such job, or it is not shared with you.")
    if member.role != "owner":
        raise NotAllowed("Only the job's owner puts it away or deletes it.")
    return member.job


def put(session: Session, account: Account, job_id: uuid.UUID, state: JobState) -> None:
    """Put a job into the archive, delete it, or bring it back; only its owner may.

    What was deleted longer ago than can be brought back goes for good, with all that is kept of it.
    """
    job, now = _owned(session, account, job_id), datetime.now(UTC)
    session.execute(delete(Job).where(Job.deleted_at < now - KEPT_FOR, Job.id != job.id))
    if job.deleted_at is not None and job.deleted_at < now - KEPT_FOR:
        raise NotFound(f"It was deleted more than {KEPT_FOR.days} days ago.")
    job.archived_at = (job.archived_at or now) if state == "archived" else None
    job.deleted_at = (job.deleted_at or now) if state == "deleted" else None
    session.flush()


def set_usual(session: Session, account: Account, job_id: uuid.UUID, usual: bool) -> None:
    """Say whether others are begun from a job; only its owner may."""
    if role_in(session, account, job_id) != "owner":
        raise NotAllowed("Only the job's owner says whether it is the usual.")
    job = session.get_one(Job, job_id)
    job.usual = usual
    session.flush()


def jobs_of(session: Session, account: Account) -> list[JobLine]:
    """The account's jobs, newest saved first, then by name; deleted ones only if they are its own."""
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
        select(newest, Member.role, Account.name, RevisionSummary.build, RevisionSummary.summary, Job)
        .join(Member, Member.job_id == newest.c.job_id)
        .join(Job, Job.id == newest.c.job_id)
        .join(Account, Account.id == newest.c.author_id)
        .outerjoin(
            RevisionSummary,
            (RevisionSummary.job_id == newest.c.job_id) & (RevisionSummary.number == newest.c.number),
        )
        .where(Member.account_id == account.id)
        .where(
            Job.deleted_at.is_(None)
            | ((Member.role == "owner") & (Job.deleted_at > datetime.now(UTC) - KEPT_FOR))
        )
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
            state_of(row.Job),
            row.Job.usual,
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
