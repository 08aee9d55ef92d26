"""What the field book says and hears."""

import uuid
from datetime import datetime
from typing import Annotated

from pydantic import AwareDatetime, BaseModel, Field

from openfurrow.core.fieldbook.built import Verdict
from openfurrow.core.fieldbook.records import RecordKind
from openfurrow.sheets.models import CheckText
from openfurrow.web.models import Body, Text, Units

# A day's work of a crew, and what a phone sends in one breath.
MOST_SENT = 500
Place = Annotated[float, Field(ge=-6000, le=6000, allow_inf_nan=False)]


class RecordBody(Body):
    """One measurement as a device sends it; ``id`` is the device's own, and makes it a row once."""

    id: uuid.UUID
    device: Annotated[Text, Field(min_length=1, max_length=64)]
    kind: RecordKind
    of: Annotated[Text, Field(min_length=1, max_length=60)]
    typed: Annotated[Text, Field(min_length=1, max_length=60)]
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
    refused: bool
    verdict: Verdict
    words: str
    records: tuple[RecordView, ...]


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
    checks: tuple[CheckText, ...]
    loose: int
    measured: int
