"""Records of the field: added once however often they are sent, never changed."""

import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import get_args

from sqlalchemy import func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session, joinedload

from openfurrow.core.fieldbook.records import Record, RecordKind
from openfurrow.store.errors import NotAllowed, StoreError
from openfurrow.store.jobs import role_in
from openfurrow.store.tables import Account, FieldRecord

# More than any field is measured in; each is read with the field book.
MOST_RECORDS = 50_000


@dataclass(frozen=True, kw_only=True)
class Sent:
    """A record as a device sends it, its value read."""

    id: uuid.UUID
    device: str
    kind: RecordKind
    of: str
    value: float
    typed: str
    east_m: float
    north_m: float
    note: str
    settles: tuple[str, ...]
    device_time: datetime
    beside: float | None = None
    photo: str | None = None


def add_records(session: Session, account: Account, job_id: uuid.UUID, sent: Sequence[Sent]) -> int:
    """Add what is not there yet; how many were new. Raises NotAllowed, StoreError.

    An id that another job, person or device has used already is refused: nobody overwrites another's.
    """
    if role_in(session, account, job_id) == "viewer":
        raise NotAllowed("This job is shared with you for reading only.")
    held = session.scalar(select(func.count()).where(FieldRecord.job_id == job_id)) or 0
    if held + len(sent) > MOST_RECORDS:
        raise StoreError(f"The field book is full: {MOST_RECORDS:,} records at most.")
    if not sent:
        return 0
    rows = [
        {**vars(one), "settles": list(one.settles), "job_id": job_id, "account_id": account.id}
        for one in sent
    ]
    added = session.execute(
        insert(FieldRecord).values(rows).on_conflict_do_nothing().returning(FieldRecord.id)
    ).all()
    ids = [one.id for one in sent]
    own = session.scalar(
        select(func.count()).where(
            FieldRecord.id.in_(ids),
            FieldRecord.job_id == job_id,
            FieldRecord.account_id == account.id,
        )
    )
    if own != len(set(ids)):
        raise StoreError("A record's id is in use by another record: nothing was added.")
    return len(added)


def _record(row: FieldRecord) -> Record:
    return Record(
        id=str(row.id),
        kind=row.kind,  # type: ignore[arg-type]
        of=row.of,
        value=row.value,
        typed=row.typed,
        by=row.account.name,
        device=row.device,
        # A clock that is ahead must not have the last word for good.
        at=min(row.device_time, row.server_time),
        east_m=row.east_m,
        north_m=row.north_m,
        note=row.note,
        settles=tuple(row.settles),
        beside=row.beside,
        photo=row.photo or "",
    )


def kept_records(session: Session, job_id: uuid.UUID) -> tuple[Record, ...]:
    """Every record of a job in the order they came; for who is known to be allowed to see it."""
    rows = session.scalars(
        select(FieldRecord)
        .where(FieldRecord.job_id == job_id)
        .order_by(FieldRecord.server_time, FieldRecord.id)
        .options(joinedload(FieldRecord.account))
    ).all()
    return tuple(_record(row) for row in rows if row.kind in get_args(RecordKind))


def records_of(session: Session, account: Account, job_id: uuid.UUID) -> tuple[Record, ...]:
    """Every record of a job that the account may see, in the order they came."""
    role_in(session, account, job_id)
    return kept_records(session, job_id)
