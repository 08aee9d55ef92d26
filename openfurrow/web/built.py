"""What a crew builds from, planned, with what was measured beside it."""

import uuid
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy.orm import Session

from openfurrow.core.as_built import book_of
from openfurrow.core.design import Design
from openfurrow.core.fieldbook.book import FieldBook
from openfurrow.core.fieldbook.records import Record
from openfurrow.core.plan import Plan
from openfurrow.store.field_records import kept_records
from openfurrow.store.jobs import role_in
from openfurrow.store.revisions import design_of, to_build_from
from openfurrow.store.tables import Revision
from openfurrow.web.context import Caller, planned


@dataclass(frozen=True, kw_only=True)
class Built:
    """The newest revision that was issued, else the newest; ``role`` is that of who asks."""

    job_id: uuid.UUID
    role: str
    design: Design
    records: tuple[Record, ...]
    plan: Plan
    revision: int
    saved: datetime
    issued: bool

    @property
    def book(self) -> FieldBook:
        """Its field book. Raises Lacking where it cannot be written."""
        return book_of(self.plan)


def _seen(session: Session, job_id: uuid.UUID) -> tuple[Revision, Design, tuple[Record, ...]]:
    saved = to_build_from(session, job_id)
    return saved, design_of(session, saved), kept_records(session, job_id)


def built(caller: Caller, job_id: uuid.UUID) -> Built:
    """What is built of a job, for one of its people. Raises NotFound."""
    with caller.reads() as (session, account):
        role = role_in(session, account, job_id)
        seen = _seen(session, job_id)
    return _built(job_id, role, *seen)


def built_for_looking(session: Session, job_id: uuid.UUID) -> Callable[[], Built]:
    """The same for who came by a link; planned when it is called, outside of the transaction."""
    seen = _seen(session, job_id)
    return lambda: _built(job_id, "viewer", *seen)


def _built(
    job_id: uuid.UUID, role: str, saved: Revision, design: Design, records: tuple[Record, ...]
) -> Built:
    return Built(
        job_id=job_id,
        role=role,
        design=design,
        records=records,
        plan=planned(design, records),
        revision=saved.number,
        saved=saved.saved_at,
        issued=saved.issued is not None,
    )
