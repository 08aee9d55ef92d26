"""What the field book says and hears."""

import uuid
from datetime import date, datetime
from typing import Annotated

from pydantic import AwareDatetime, BaseModel, Field

from openfurrow.core.fieldbook.inspections import InspectionState
from openfurrow.core.fieldbook.loads import LoadVerdict
from openfurrow.core.fieldbook.posts import Verdict
from openfurrow.core.fieldbook.records import RecordKind
from openfurrow.core.fieldbook.strings import StringVerdict
from openfurrow.core.fieldbook.trench import CoverVerdict
from openfurrow.sheets.models import CheckText
from openfurrow.web.models import Body, Text, Units

# A day's work of a crew, and what a phone sends in one breath.
MOST_SENT = 500
Place = Annotated[float, Field(ge=-6000, le=6000, allow_inf_nan=False)]


class RecordBody(Body):
    """One measurement as a device sends it; ``id`` is the device's own, and makes it a row once.

    ``beside`` is what was read with it, the warmth of the modules beside a voltage; ``photo`` is the
    SHA-256 of one that is sent by itself.
    """

    id: uuid.UUID
    device: Annotated[Text, Field(min_length=1, max_length=64)]
    kind: RecordKind
    of: Annotated[Text, Field(min_length=1, max_length=60)]
    typed: Annotated[Text, Field(min_length=1, max_length=60)]
    beside: Annotated[Text, Field(max_length=20)] = ""
    photo: Annotated[str, Field(pattern="^([0-9a-f]{64})?$")] = ""
    east_m: Place
    north_m: Place
    note: Annotated[Text, Field(max_length=500)] = ""
    settles: Annotated[tuple[uuid.UUID, ...], Field(max_length=20)] = ()
    device_time: AwareDatetime


class RecordsBody(Body):
    """Measurements in the order they were made, and the units that bare numbers are in."""

    units: Units
    records: Annotated[tuple[RecordBody, ...], Field(max_length=MOST_SENT)]


class AddedView(BaseModel):
    """How many of those that were sent were new; all of them are kept."""

    added: int
    kept: int


class RecordView(BaseModel):
    """A measurement that is kept."""

    id: uuid.UUID
    kind: RecordKind
    text: str
    by: str
    device: str
    at: datetime
    note: str
    beside: str
    photo: str


class RungView(BaseModel):
    """A depth that a post may reach: whether it carries there, and what to do."""

    depth_m: float
    depth: str
    carries: bool
    words: str


class PostView(BaseModel):
    """A post to be built: where it stands on the string, what is planned, how it stands.

    ``ladder`` is which of the ladders is its own.
    """

    of: str
    array: str
    name: str
    east_m: float
    north_m: float
    tape: str
    planned_m: float
    planned: str
    rod_m: float
    rod_top: str
    rod_off: str
    ladder: int
    depth: str
    difference: str
    leans: str
    refused: bool
    ways: str
    verdict: Verdict
    asked: bool
    words: str
    records: tuple[RecordView, ...]


class CoverView(BaseModel):
    """A place of the trench where the tape goes in; from ``as_planned_m`` on it is as planned."""

    of: str
    name: str
    east_m: float
    north_m: float
    least_m: float
    least: str
    as_planned_m: float
    planned: str
    cover: str
    verdict: CoverVerdict
    asked: bool
    words: str
    records: tuple[RecordView, ...]


class WarmthView(BaseModel):
    """What a string gives open while its modules are so warm, in the reader's whole degrees."""

    warm: int
    expected_v: float
    low_v: float
    high_v: float


class StringView(BaseModel):
    """A string to be measured; ``warmth`` is which of the lists is its own.

    ``low_a`` to ``high_a`` it may run at in 1,000 W/m²; in less light by as much less.
    """

    of: str
    array: str
    name: str
    modules: int
    warmth: int
    volts: str
    insulation: str
    running: str
    low_a: float
    high_a: float
    verdict: StringVerdict
    asked: bool
    words: str
    records: tuple[RecordView, ...]


class ModuleGridView(BaseModel):
    """A table's modules: each is known as ``of`` with ``/c`` column ``.`` up, both from one."""

    of: str
    array: str
    name: str
    columns: int
    high: int


class SerialView(BaseModel):
    """What was written down of a module."""

    of: str
    text: str
    by: str
    asked: bool


class PartView(BaseModel):
    """A part on a load; ``pieces`` is how many there are to count, none where it is not counted."""

    of: str
    item: str
    much: str
    pieces: int | None
    weight: str
    where: str
    verdict: LoadVerdict
    words: str
    records: tuple[RecordView, ...]


class LoadView(BaseModel):
    """What comes together: on which day, on what, how heavy, and part by part."""

    key: str
    name: str
    day: date | None
    when: str
    weight: str
    parts: tuple[PartView, ...]


class InspectionView(BaseModel):
    """What others have to say, and all that was said of it."""

    of: str
    name: str
    state: InspectionState
    holds_up: str
    records: tuple[RecordView, ...]


class DayLineView(BaseModel):
    """What is done on a day, from when, by how many, and what to see to first."""

    day: date
    begins: str
    ends: str
    what: str
    people: str
    first: str


class FieldView(BaseModel):
    """The field book of what a crew builds from: a revision that was ``issued``, or the newest."""

    id: uuid.UUID
    name: str
    role: str
    units: Units
    revision: int
    issued: bool
    step_m: float
    posts: tuple[PostView, ...]
    ladders: tuple[tuple[RungView, ...], ...]
    covers: tuple[CoverView, ...]
    strings: tuple[StringView, ...]
    warmths: tuple[tuple[WarmthView, ...], ...]
    warm_unit: str
    least_insulation_mohm: float
    least_light_w_m2: float
    grids: tuple[ModuleGridView, ...]
    serials: tuple[SerialView, ...]
    inspections: tuple[InspectionView, ...]
    loads: tuple[LoadView, ...]
    days: tuple[DayLineView, ...]
    checks: tuple[CheckText, ...]
    loose: int
    measured: int
