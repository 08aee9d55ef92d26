"""What the API says and hears."""

import uuid
from datetime import datetime
from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from openfurrow.core.edits import Difference
from openfurrow.core.givens import ID_PATTERN, LONGEST_ID
from openfurrow.sheets.marks import Drawing, Point
from openfurrow.sheets.models import AnswerText, CheckText, JobSheet, StageSheet, TableText

Stage = Literal[
    "site",
    "sun",
    "rows",
    "structure",
    "footings",
    "frame",
    "modules",
    "trench",
    "wiring",
    "materials",
    "stakeout",
    "schedule",
    "fieldbook",
    "handover",
]
Units = Literal["us", "metric"]
# What PostgreSQL's integer holds: a larger number is no step and no revision.
MOST_NUMBER = 2**31 - 1
Number = Annotated[int, Field(ge=0, le=MOST_NUMBER)]
NO_TEXT = "holds a character that is not text: type it again"


def _written(text: str) -> str:
    if "\x00" in text:
        raise ValueError(NO_TEXT)
    return text


# What people type; a lone half of a character pair is refused by Pydantic itself.
Text = Annotated[str, AfterValidator(_written)]


def _says_something(text: str) -> str:
    if not text.strip():
        raise ValueError("says nothing")
    return text.strip()


JobName = Annotated[
    str, Field(max_length=120), AfterValidator(_written), AfterValidator(_says_something)
]
FieldPath = Annotated[Text, Field(max_length=200)]


class Body(BaseModel):
    """A request body; unknown fields are refused."""

    model_config = ConfigDict(extra="forbid")


class SignInBody(Body):
    """Name and password."""

    name: Annotated[Text, Field(max_length=80)]
    password: Annotated[Text, Field(max_length=200)]


class AccountView(BaseModel):
    """Who is signed in."""

    name: str


class JobSummary(BaseModel):
    """What the list shows of a job's plan."""

    modules: int
    power: str
    missing: int
    stops: int
    looks: int
    place: str
    headlines: tuple[AnswerText, ...]
    cut: Drawing


class JobLineView(JobSummary):
    """A job in the list, with enough to know it by."""

    id: uuid.UUID
    name: str
    role: str
    revision: int
    saved_at: datetime
    author: str
    state: Literal["open", "archived", "deleted"]
    usual: bool


class JobStateBody(Body):
    """Into the archive, deleted, or open again."""

    state: Literal["open", "archived", "deleted"]


class CopyBody(Body):
    """What the copy is called."""

    name: JobName


class NewJobBody(Body):
    """A job from nothing, or ``like`` another: with its arrays."""

    name: JobName
    rule_pack: Units = "us"
    like: uuid.UUID | None = None


class UsualBody(Body):
    """Whether others are begun from a job."""

    usual: bool


class JobMade(BaseModel):
    """Where the new job is."""

    id: uuid.UUID


class EditText(Body):
    """What was typed into one field."""

    path: FieldPath
    text: Annotated[Text, Field(max_length=60_000)]


# An array's id; empty for the first, which is the only one of most jobs.
ArrayId = Annotated[str, Field(max_length=LONGEST_ID, pattern=ID_PATTERN)]


class EditsBody(Body):
    """Edits, and what the screen shows afterwards."""

    stage: Stage
    array: ArrayId = ""
    units: Units
    # The step that was on the screen, as `draft.position` said; without one, the present step.
    step: Number | None = None
    edits: Annotated[tuple[EditText, ...], Field(max_length=100)]


class GoToBody(Body):
    """A step to undo or redo to."""

    stage: Stage
    array: ArrayId = ""
    units: Units
    step: Number


class StepView(BaseModel):
    """One step of the draft."""

    number: int
    made_at: datetime
    label: str


class DraftView(BaseModel):
    """Where the draft stands."""

    base: int
    head: int
    head_author: str
    changed: bool
    position: int
    steps: tuple[StepView, ...]


class MovedView(BaseModel):
    """An answer that an edit moved."""

    array: str
    stage: str
    key: str
    label: str
    before: str
    after: str


class ArrayView(BaseModel):
    """An array of the job, with enough to know it by; its modules once they are laid out."""

    id: str
    name: str
    modules: int | None
    standing: bool | None


class JobView(BaseModel):
    """Everything one screen shows; ``array`` is the one that is open."""

    id: uuid.UUID
    name: str
    role: str
    units: Units
    display_units: Units
    draft: DraftView
    arrays: tuple[ArrayView, ...]
    array: str
    sheet: JobSheet
    stage: StageSheet
    moved: tuple[MovedView, ...]


class PracticeView(BaseModel):
    """A value that is practice and that nobody has looked at."""

    path: str
    stage: str
    array: str
    label: str
    value: str


class RevisionView(BaseModel):
    """A saved revision; of one that is issued, what nobody had looked at by then."""

    number: int
    author: str
    saved_at: datetime
    note: str
    issued: tuple[PracticeView, ...] | None


class DifferenceView(BaseModel):
    """A field that differs."""

    path: str
    label: str
    before: str
    after: str

    @classmethod
    def of(cls, difference: Difference) -> "DifferenceView":
        """From the core's own."""
        return cls(
            path=difference.path,
            label=difference.label,
            before=difference.before,
            after=difference.after,
        )


class MeasureBody(Body):
    """A place as a crew measures it; every length, bearing and place as it is typed."""

    units: Units
    way: Literal["coordinates", "offset", "bearing", "tapes"]
    start: Annotated[Text, Field(max_length=80)] = ""
    end: Annotated[Text, Field(max_length=80)] = ""
    first: Annotated[Text, Field(max_length=40)] = ""
    second: Annotated[Text, Field(max_length=40)] = ""


class FillBody(Body):
    """How the ground is to be filled; lengths and counts as they are typed, empty: none asked for."""

    units: Units
    array: Annotated[Text, Field(max_length=LONGEST_ID)]
    modules: Annotated[Text, Field(max_length=20)] = ""
    edge: Annotated[Text, Field(max_length=40)] = ""
    shortest: Annotated[Text, Field(max_length=20)] = ""
    lengths: Annotated[Text, Field(max_length=60)] = ""
    even: bool = False
    along: Annotated[Text, Field(max_length=LONGEST_ID)] = ""
    aisle_every: Annotated[Text, Field(max_length=20)] = ""
    aisle: Annotated[Text, Field(max_length=40)] = ""


class FindBody(Body):
    """A way that is asked for, and the units that it is told in."""

    units: Units


class SnappedView(BaseModel):
    """Where a table that is moved by hand comes to stand, and why it may not; empty where it may."""

    along: str
    back: str
    refused: str


class SectionView(BaseModel):
    """A section, and its two ends on the plan in metres."""

    drawing: Drawing
    ends: tuple[Point, Point]


class FoundView(BaseModel):
    """A place that was measured, written as a list of places is, and how it was come by."""

    text: str
    east_m: float
    north_m: float
    words: str


class LayerView(BaseModel):
    """A layer of a file, and what it becomes; ``bends``: its lines may be break lines."""

    name: str
    shots: int
    shapes: int
    shape: str
    becomes: str
    bends: bool


class GridView(BaseModel):
    """A map grid by its EPSG number."""

    epsg: int
    name: str
    unit: str


class GroundFileView(BaseModel):
    """What a file holds, before anything is taken.

    ``asks`` is what has to be answered first; the sample is then as the file has it. ``grids`` are map
    grids in which its places would lie at the site.
    """

    asks: tuple[str, ...]
    grids: tuple[GridView, ...]
    format: str
    shots: int
    columns: tuple[str, ...]
    roles: tuple[str, ...]
    sample: tuple[tuple[str, ...], ...]
    layers: tuple[LayerView, ...]
    grid: int
    unit: str
    notes: tuple[str, ...]
    reach: str
    lowest: str
    highest: str


class SunView(BaseModel):
    """Where the sun stands through a local day: clock hours, altitude and true azimuth in degrees."""

    clock_h: tuple[float, ...]
    altitude_deg: tuple[float, ...]
    azimuth_deg: tuple[float, ...]


class CompareView(BaseModel):
    """What differs between two designs: what was decided, and what follows from it."""

    fields: tuple[DifferenceView, ...]
    answers: tuple[MovedView, ...]


class SaveBody(Body):
    """A named save, ``issue`` to build from; ``onto`` and ``take_theirs`` settle a conflict."""

    note: Annotated[Text, Field(max_length=300)] = ""
    issue: bool = False
    onto: Number | None = None
    take_theirs: Annotated[tuple[FieldPath, ...], Field(max_length=500)] = ()


class ShareBody(Body):
    """Whom to let in, and as what."""

    name: Annotated[Text, Field(max_length=80)]
    role: Literal["editor", "viewer"] = "editor"


class WorkBody(Body):
    """Long work that is asked for: all files of the draft in one archive, or the set of papers.

    Papers are of what is built from, on ``paper``.
    """

    kind: Literal["package", "papers"]
    paper: Literal["letter", "a4"] = "letter"
    units: Units | None = None


class WorkView(BaseModel):
    """How far long work is; ``share`` from 0 to 1, ``words`` what is being done or what went wrong."""

    id: uuid.UUID
    kind: str
    state: Literal["waiting", "working", "done", "failed", "cancelled"]
    share: float
    words: str


class MemberView(BaseModel):
    """Someone a job is shared with."""

    name: str
    role: str


class ProblemItem(BaseModel):
    """What is wrong with one field."""

    path: str
    label: str
    message: str
    allowed: str
    remedy: str


class ClashView(BaseModel):
    """Both sides of one field in a conflict; ``together``: a list that keeps what both did."""

    path: str
    label: str
    base: str
    mine: str
    theirs: str
    together: bool


class ProblemDetails(BaseModel):
    """RFC 9457 problem details, with the fields or the conflict behind it."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    problems: tuple[ProblemItem, ...] = ()
    head: int | None = None
    author: str = ""
    note: str = ""
    clashes: tuple[ClashView, ...] = ()


class LinkBody(Body):
    """A link for someone who only looks: whom it is for, and for how many days."""

    words: Annotated[Text, Field(min_length=1, max_length=80), AfterValidator(_says_something)]
    days: Annotated[int, Field(ge=1, le=366)]


class LinkView(BaseModel):
    """A link that is good until it runs out; ``token`` is told once, when it is made."""

    id: uuid.UUID
    words: str
    by: str
    expires_at: datetime
    token: str = ""


class PageView(BaseModel):
    """One subject of the papers, as it stands in them."""

    title: str
    caution: str
    drawings: tuple[Drawing, ...]
    answers: tuple[AnswerText, ...]
    checks: tuple[CheckText, ...]
    tables: tuple[TableText, ...]
    lines: tuple[str, ...]


class LookView(BaseModel):
    """What who comes by a link is shown: the papers of what is built from."""

    name: str
    issue: str
    units: Units
    missing: int
    pages: tuple[PageView, ...]
