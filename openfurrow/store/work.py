"""Long work: asked for and queued in one transaction, taken by a worker, looked at, cancelled."""

import json
import uuid
from collections.abc import Mapping
from datetime import UTC, datetime, timedelta
from types import MappingProxyType
from typing import Any

from sqlalchemy import delete, select, text, update
from sqlalchemy.orm import Session

from openfurrow.core.design import Design
from openfurrow.store.errors import NotFound
from openfurrow.store.jobs import role_in
from openfurrow.store.shots import put_away, taken_out
from openfurrow.store.tables import Account, Work

QUEUE, TASK = "work", "openfurrow.jobs.worker.carry_out"
KEPT_FOR = timedelta(days=1)
# A worker is heard of every second; one that is not was killed or lost its database.
SILENT_FOR = timedelta(seconds=20)
UNFINISHED = ("waiting", "working")
_DEFER = text("""
select procrastinate_defer_jobs_v1(array[
  row(:queue, :task, 0, null, null, cast(:args as jsonb), null)::procrastinate_job_to_defer_v1])
""")


def ask(
    session: Session,
    account: Account,
    job_id: uuid.UUID,
    kind: str,
    design: Design,
    how: Mapping[str, Any] = MappingProxyType({}),
) -> Work:
    """Queue work on a design as it stands now; the account's earlier one on this job is given up."""
    role_in(session, account, job_id)
    session.execute(delete(Work).where(Work.asked_at < datetime.now(UTC) - KEPT_FOR))
    session.execute(
        update(Work)
        .where(Work.job_id == job_id, Work.account_id == account.id, Work.state.in_(UNFINISHED))
        .values(state="cancelled")
    )
    work = Work(
        id=uuid.uuid4(),
        job_id=job_id,
        account_id=account.id,
        kind=kind,
        state="waiting",
        share=0.0,
        words="waiting for a worker",
        design=put_away(session, job_id, design),
        how=dict(how),
    )
    session.add(work)
    session.flush()
    session.execute(
        _DEFER, {"queue": QUEUE, "task": TASK, "args": json.dumps({"work_id": str(work.id)})}
    )
    session.refresh(work)
    return work


def work_of(session: Session, account: Account, job_id: uuid.UUID, work_id: uuid.UUID) -> Work:
    """One's own work on a job; NotFound where there is none."""
    role_in(session, account, job_id)
    found = session.scalar(
        select(Work).where(Work.id == work_id, Work.job_id == job_id, Work.account_id == account.id)
    )
    if found is None:
        raise NotFound("There is no such work, or it was put away after a day.")
    return found


def design_of(session: Session, work: Work) -> Design:
    """The design that is worked on, as it stood when it was asked."""
    return taken_out(session, work.job_id, work.design)


def is_lost(work: Work) -> bool:
    """Whether who worked on it has not been heard of."""
    return work.state == "working" and datetime.now(UTC) - work.heard_at > SILENT_FOR


def cancel(session: Session, account: Account, job_id: uuid.UUID, work_id: uuid.UUID) -> None:
    """Give work up; what is done stays."""
    work_of(session, account, job_id, work_id)
    session.execute(
        update(Work).where(Work.id == work_id, Work.state.in_(UNFINISHED)).values(state="cancelled")
    )


def begin(session: Session, work_id: uuid.UUID) -> Work | None:
    """Take work that waits; None for what was given up meanwhile."""
    taken = session.execute(
        update(Work)
        .where(Work.id == work_id, Work.state == "waiting")
        .values(state="working", heard_at=datetime.now(UTC))
        .returning(Work.id)
    ).first()
    return session.get(Work, work_id) if taken else None


def tell(session: Session, work_id: uuid.UUID, share: float, words: str) -> bool:
    """Say how far it is; False where it has been given up."""
    return (
        session.execute(
            update(Work)
            .where(Work.id == work_id, Work.state == "working")
            .values(share=share, words=words[:300], heard_at=datetime.now(UTC))
            .returning(Work.id)
        ).first()
        is not None
    )


def finish(
    session: Session, work_id: uuid.UUID, state: str, words: str, result: bytes | None = None
) -> None:
    """Keep what came of it, unless it was given up."""
    session.execute(
        update(Work)
        .where(Work.id == work_id, Work.state == "working")
        .values(state=state, words=words[:300], result=result, share=1.0 if result else Work.share)
    )
