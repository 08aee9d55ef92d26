"""The field book: what was measured beside what was planned, and records as devices send them."""

import uuid
from dataclasses import dataclass
from typing import Annotated

from fastapi import APIRouter, Depends, Path, Response

from openfurrow.core.edits import DesignError, Problem
from openfurrow.core.fieldbook.records import BESIDE, MEASURES
from openfurrow.core.quantities import QuantityError, UnitSystem, format_value
from openfurrow.core.reading import parse
from openfurrow.store.field_records import Sent, add_records
from openfurrow.store.photos import MOST_OF_ONE, keep_photo, photo_of
from openfurrow.web.built import built
from openfurrow.web.context import FILE_BODY, Asking, body_of
from openfurrow.web.field_models import AddedView, FieldView, RecordBody, RecordsBody
from openfurrow.web.field_views import field_view
from openfurrow.web.models import Units
from openfurrow.web.views import as_json

router = APIRouter(prefix="/api/jobs/{job_id}/field", tags=["field"])


def _beside(number: int, record: RecordBody, units: UnitSystem) -> float | None:
    """What was read with it. Raises DesignError where it is wanted and missing, or is no such thing."""
    kind = MEASURES[record.kind].beside
    if not kind:
        return None
    of = BESIDE[kind]
    bounds = Allowed(f"records.{number}.beside", of.label, kind, of.low, of.high, of.remedy)
    return bounds.read(record.beside, units)


@dataclass(frozen=True)
class Allowed:
    """A quantity that is typed: where, what it is called, its kind and bounds, what to do."""

    path: str
    label: str
    kind: str
    low: float
    high: float
    remedy: str

    def read(self, typed: str, units: UnitSystem) -> float:
        """As the trade writes it. Raises DesignError with the field, what is allowed, what to do."""
        low, high = (format_value(value, self.kind, units) for value in (self.low, self.high))

        def refused(message: str) -> DesignError:
            allowed = f"from {low} to {high}"
            return DesignError((Problem(self.path, self.label, message, allowed, self.remedy),))

        try:
            value = parse(typed, self.kind, units)
        except QuantityError as error:
            raise refused(str(error)) from None
        if not self.low <= value <= self.high:
            raise refused(f"'{typed}' is outside of what is measured")
        return value


def _value(number: int, record: RecordBody, units: UnitSystem) -> float:
    """A record's value; nought where words are written down. Raises DesignError naming the record."""
    measure = MEASURES[record.kind]
    path = f"records.{number}"
    if not measure.quantity:
        if record.kind in ("passed", "failed") and not record.note.strip():
            problem = Problem(
                f"{path}.note",
                measure.label,
                "does not say who said so",
                "a name and what was said",
                "Write down who said what.",
            )
            raise DesignError((problem,))
        return 0.0
    bounds = Allowed(
        f"{path}.typed",
        measure.label,
        measure.quantity,
        measure.low,
        measure.high,
        "Read it again.",
    )
    return bounds.read(record.typed, units)


def _read(number: int, record: RecordBody, units: UnitSystem) -> Sent:
    """A record with its value read as the trade writes it. Raises DesignError naming the record."""
    return Sent(
        id=record.id,
        device=record.device,
        kind=record.kind,
        of=record.of,
        value=_value(number, record, units),
        typed=record.typed.strip(),
        east_m=record.east_m,
        north_m=record.north_m,
        note=record.note,
        settles=tuple(str(one) for one in record.settles),
        device_time=record.device_time,
        beside=_beside(number, record, units),
        photo=record.photo or None,
    )


@router.get("", response_model=FieldView)
def field(job_id: uuid.UUID, caller: Asking, units: Units | None = None) -> Response:
    """What is built, post by post, and what each carries at any depth it may reach."""
    return as_json(field_view(built(caller, job_id), units))


@router.post("/records")
def add(job_id: uuid.UUID, body: RecordsBody, caller: Asking) -> AddedView:
    """Add measurements: each once, however often it is sent; all of them or none.

    Nothing is planned here: what was measured is kept however long that would take.
    """
    sent = [_read(number, record, body.units) for number, record in enumerate(body.records)]
    with caller.writes() as (session, account):
        return AddedView(added=add_records(session, account, job_id, sent), kept=len(sent))


PhotoBody = Annotated[bytes, Depends(body_of(MOST_OF_ONE))]
PhotoName = Annotated[str, Path(pattern="^[0-9a-f]{64}$")]


@router.put("/photos/{named}", status_code=204, openapi_extra=FILE_BODY)
def send_photo(job_id: uuid.UUID, named: PhotoName, data: PhotoBody, caller: Asking) -> None:
    """Keep a photo under the SHA-256 of its content."""
    with caller.writes() as (session, account):
        keep_photo(session, account, job_id, named, data)


@router.get("/photos/{named}", response_class=Response)
def see_photo(job_id: uuid.UUID, named: PhotoName, caller: Asking) -> Response:
    """A photo."""
    with caller.reads() as (session, account):
        media_type, content = photo_of(session, account, job_id, named)
    return Response(
        content,
        media_type=media_type,
        headers={"Cache-Control": "private, max-age=31536000, immutable"},
    )
