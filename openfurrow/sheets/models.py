"""What a screen, a printout or a terminal shows: text in the reader's units, nothing to compute."""

from typing import Literal

from pydantic import BaseModel, ConfigDict

from openfurrow.sheets.drawings.cut import Cut
from openfurrow.sheets.marks import Drawing

Level = Literal["sound", "look", "stop"]
# Of a stage: nothing can be said before more is known.
State = Literal["nothing", "sound", "look", "stop"]
FieldInput = Literal["quantity", "choice", "yes_no", "date", "text", "route", "arrays"]


class Frozen(BaseModel):
    """A sheet is written once."""

    model_config = ConfigDict(frozen=True)


class InputText(Frozen):
    """One value put into a formula."""

    symbol: str
    meaning: str
    value: str


class WorkingText(Frozen):
    """The working behind an answer."""

    symbol: str
    formula: str
    inputs: tuple[InputText, ...]
    value: str
    source: str
    sureness: str
    note: str


class AnswerText(Frozen):
    """A number a crew would write down. ``value`` is SI where it is a number, for comparing."""

    array: str
    stage: str
    key: str
    label: str
    text: str
    headline: bool
    working: WorkingText


class EditText(Frozen):
    """A field by its path and what to put in it."""

    path: str
    text: str


class MendText(Frozen):
    """A change that would clear a check, for a button."""

    words: str
    edits: tuple[EditText, ...]


class CheckText(Frozen):
    """A rule applied: measured against limit, what to do, and the field that mends it.

    ``array`` is whose rule it is, ``given_array`` whose field; empty for the job's own.
    """

    array: str
    stage: str
    key: str
    title: str
    level: Level
    measured: str
    relation: str
    limit: str
    remedy: str
    source: str
    given: str
    given_stage: str
    given_array: str
    mends: tuple[MendText, ...]


class GivenText(Frozen):
    """One field of a form; ``practice``: what it holds is practice, and nobody has looked at it."""

    path: str
    label: str
    input: FieldInput
    text: str
    placeholder: str
    unit: str
    meaning: str
    where: str
    usual: str
    allowed: str
    group: str
    caution: str
    choices: tuple[str, ...]
    needed: bool
    practice: bool


class ItemText(Frozen):
    """One thing of a list: its name, a line about it, and what its fields hold, by their names.

    Fields that do not matter for what it is are left out; so is a text too long for a form, whose
    ``placeholder`` says so. ``practice`` are the names of those that nobody has looked at.
    """

    path: str
    title: str
    about: str
    values: dict[str, str]
    placeholders: dict[str, str]
    practice: tuple[str, ...]


class ListText(Frozen):
    """A list of things with fields of their own; ``choices`` is what a new one may be.

    What is ``brought`` comes by a file alone.

    A field's path here is its name; in a thing it follows the thing's own path.
    """

    path: str
    label: str
    meaning: str
    where: str
    group: str
    choices: tuple[str, ...]
    brought: bool
    fields: tuple[GivenText, ...]
    items: tuple[ItemText, ...]


class PlaceText(Frozen):
    """A place on the ground that has a name, to measure from and to snap to.

    ``of`` is the path of the thing whose point it is; such points stand in their order. Of a table of
    an array ``text`` is the id by which it is known, ``of`` what is told of it alone.
    """

    name: str
    of: str
    east_m: float
    north_m: float
    text: str


class Column(Frozen):
    """A column of a table."""

    title: str
    number: bool


class TableText(Frozen):
    """A list a crew works from. Long lists are cut off; ``left_out`` says how much."""

    key: str
    title: str
    columns: tuple[Column, ...]
    rows: tuple[tuple[str, ...], ...]
    left_out: int
    note: str


class RecordText(Frozen):
    """What would be written into the field book of a thing, and where that is planned."""

    kind: Literal["refusal"]
    of: str
    typed: str
    east_m: float
    north_m: float


class AskedSheet(Frozen):
    """What is worked out when it is asked for: drawings, lists, and changes made at one press.

    ``record`` is what could be written into the field book, ``support`` the number of the one that is
    shown.
    """

    drawings: tuple[Drawing, ...]
    tables: tuple[TableText, ...]
    takes: tuple[MendText, ...]
    note: str
    record: RecordText | None = None
    support: int | None = None


class StageSheet(Frozen):
    """Everything one stage's screen shows; ``array`` is whose stage it is, empty for the job's.

    ``tilts`` says at how many tilts its tables are looked at.
    """

    stage: str
    array: str
    tilts: int
    givens: tuple[GivenText, ...]
    lists: tuple[ListText, ...]
    places: tuple[PlaceText, ...]
    answers: tuple[AnswerText, ...]
    checks: tuple[CheckText, ...]
    drawings: tuple[Drawing, ...]
    tables: tuple[TableText, ...]
    caution: str


class StageMark(Frozen):
    """A stage's state and its first headline, for the cut; how many values nobody has looked at."""

    stage: str
    state: State
    short: str
    headline: str
    practice: int


class MissingText(Frozen):
    """A field that only people can fill and nobody has; ``where`` is where its value comes from."""

    path: str
    label: str
    stage: str
    array: str
    where: str


class PracticeText(Frozen):
    """A group of fields that hold practice: what they are called, and the path of the first."""

    stage: str
    array: str
    group: str
    path: str
    labels: tuple[str, ...]


class JobSheet(Frozen):
    """What stands on every screen: the cut, the state of each stage, what would stop the job.

    ``missing`` comes before all of it: in the order that people learn it. ``practice`` is what nobody
    has looked at yet.
    """

    cut: Cut
    stages: tuple[StageMark, ...]
    missing: tuple[MissingText, ...]
    practice: tuple[PracticeText, ...]
    stops: tuple[CheckText, ...]
    sound: int
