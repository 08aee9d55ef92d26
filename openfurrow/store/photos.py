"""Photos of the field, kept once by the hash of what they are."""

import hashlib
import uuid

from sqlalchemy import func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from openfurrow.store.errors import NotAllowed, NotFound, StoreError
from openfurrow.store.jobs import role_in
from openfurrow.store.tables import Account, FieldPhoto

# A phone makes them smaller before it sends them.
MOST_OF_ONE = 4_000_000
MOST_OF_JOB = 512_000_000
# What a file of each kind begins with.
BEGINNINGS = {"image/jpeg": b"\xff\xd8\xff", "image/png": b"\x89PNG\r\n\x1a\n"}


def media_type_of(content: bytes) -> str:
    """Which picture it is, by its content and nothing else. Raises StoreError for what is none."""
    for media_type, begins in BEGINNINGS.items():
        if content.startswith(begins):
            return media_type
    raise StoreError("A photo is a JPEG or a PNG file.")


def keep_photo(
    session: Session, account: Account, job_id: uuid.UUID, named: str, content: bytes
) -> None:
    """Keep a photo under the hash of its content; sent again it is the same one.

    Raises NotAllowed, StoreError for what is no photo, is too large, or is named otherwise.
    """
    if role_in(session, account, job_id) == "viewer":
        raise NotAllowed("This job is shared with you for reading only.")
    if len(content) > MOST_OF_ONE:
        raise StoreError(f"A photo has {MOST_OF_ONE // 1_000_000} MB at most: make it smaller.")
    if hashlib.sha256(content).hexdigest() != named:
        raise StoreError("A photo is named by the SHA-256 of its content: it was hurt on its way.")
    media_type = media_type_of(content)
    held = session.scalar(select(func.sum(FieldPhoto.size)).where(FieldPhoto.job_id == job_id)) or 0
    there = session.scalar(
        select(FieldPhoto.hash).where(FieldPhoto.job_id == job_id, FieldPhoto.hash == named)
    )
    if not there and held + len(content) > MOST_OF_JOB:
        raise StoreError(
            f"The photos of this job take {MOST_OF_JOB // 1_000_000} MB: no more are kept."
        )
    session.execute(
        insert(FieldPhoto)
        .values(
            job_id=job_id,
            hash=named,
            account_id=account.id,
            media_type=media_type,
            content=content,
            size=len(content),
        )
        .on_conflict_do_nothing()
    )


def photo_of(session: Session, account: Account, job_id: uuid.UUID, named: str) -> tuple[str, bytes]:
    """A photo's media type and content; NotFound where there is none."""
    role_in(session, account, job_id)
    found = session.get(FieldPhoto, (job_id, named))
    if found is None:
        raise NotFound("There is no such photo, or it has not been sent yet.")
    return found.media_type, found.content
