"""Links for who only looks: made by one who may change the job, for a while, taken back at will."""

import secrets
import uuid
from datetime import UTC, datetime, timedelta

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from openfurrow.store.accounts import token_hash
from openfurrow.store.errors import NotAllowed, NotFound, StoreError
from openfurrow.store.jobs import role_in
from openfurrow.store.tables import Account, Job, LookLink

LONGEST = timedelta(days=366)
MOST_LINKS = 50


def make_link(
    session: Session, account: Account, job_id: uuid.UUID, words: str, days: int
) -> tuple[LookLink, str]:
    """A link and its token, which is told once and never again. Raises NotAllowed, StoreError."""
    if role_in(session, account, job_id) == "viewer":
        raise NotAllowed("This job is shared with you for reading only.")
    if not 1 <= days <= LONGEST.days:
        raise StoreError(f"A link lasts from 1 to {LONGEST.days} days.")
    now = datetime.now(UTC)
    good = select(func.count()).where(
        LookLink.job_id == job_id, LookLink.expires_at > now, LookLink.taken_back_at.is_(None)
    )
    if (session.scalar(good) or 0) >= MOST_LINKS:
        raise StoreError(f"A job has {MOST_LINKS} links at most: take some back first.")
    token = secrets.token_urlsafe(32)
    link = LookLink(
        id=uuid.uuid4(),
        token_hash=token_hash(token),
        job_id=job_id,
        account_id=account.id,
        words=words.strip(),
        made_at=now,
        expires_at=now + timedelta(days=days),
    )
    session.add(link)
    session.flush()
    return link, token


def links_of(session: Session, account: Account, job_id: uuid.UUID) -> tuple[LookLink, ...]:
    """Every link of a job that is still good, the newest first."""
    role_in(session, account, job_id)
    return tuple(
        session.scalars(
            select(LookLink)
            .where(
                LookLink.job_id == job_id,
                LookLink.expires_at > datetime.now(UTC),
                LookLink.taken_back_at.is_(None),
            )
            .order_by(LookLink.made_at.desc())
        )
    )


def take_back(session: Session, account: Account, job_id: uuid.UUID, link_id: uuid.UUID) -> None:
    """Nobody looks by it from now on. Raises NotAllowed, NotFound."""
    if role_in(session, account, job_id) == "viewer":
        raise NotAllowed("This job is shared with you for reading only.")
    link = session.get(LookLink, link_id)
    if link is None or link.job_id != job_id:
        raise NotFound("There is no such link.")
    link.taken_back_at = link.taken_back_at or datetime.now(UTC)


def job_by(session: Session, token: str) -> uuid.UUID:
    """The job that a token leads to; NotFound once it has run out, was taken back, or the job is gone.

    Which of them is not told: who guesses learns nothing.
    """
    found = session.scalar(
        select(LookLink.job_id)
        .join(Job, Job.id == LookLink.job_id)
        .where(
            LookLink.token_hash == token_hash(token),
            LookLink.expires_at > datetime.now(UTC),
            LookLink.taken_back_at.is_(None),
            Job.deleted_at.is_(None),
        )
    )
    if found is None:
        raise NotFound("This link leads nowhere: it has run out or was taken back. Ask for another.")
    return found
