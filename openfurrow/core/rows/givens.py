"""Row givens: the module tables, their tilt, their height, how many, and those that differ."""

import re
from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from openfurrow.core.givens import Givens, Thing, given, identified
from openfurrow.core.quantities import INCH_M
from openfurrow.core.year_days import a_day

# More tables than this that differ from the pattern want a pattern, or an array, of their own.
MOST_TABLES_APART = 600
# More often a year nobody goes from table to table.
MOST_POSITIONS = 12
Lying = Literal["as the others", "along the ground", "level"]
AS_OTHERS: Lying = "as the others"
A_PLACE = re.compile(r"[1-9][0-9]{0,2}\.[1-9][0-9]{0,2}")


def a_place(text: str) -> str:
    """A table's place in the pattern, ``2.3``, or nothing. Raises ValueError for anything else."""
    said = text.strip()
    if said and not A_PLACE.fullmatch(said):
        raise ValueError("is no place: write row and table, 2.3 for the third table of the second row")
    return said


class TableGivens(Thing):
    """One table that differs from the pattern, or stands beside it."""

    place: Annotated[str, AfterValidator(a_place)] = given(
        "",
        "Which table",
        "text",
        "Its row, counted from the front, and its place in the row: 2.3. Empty: one more table.",
        "Its number on the plan.",
        length=7,
    )
    name: str = given(
        "",
        "Called",
        "text",
        "What the crew calls it, where it is one more.",
        "By the ditch, the short one.",
        length=20,
    )
    out: bool = given(
        False,
        "Taken out",
        "yes_no",
        "It is not built; the others stay where they are.",
        "A root, a manhole, a way through.",
    )
    modules_along: int | None = given(
        None,
        "Modules along",
        "count",
        "Module columns of this table. Left empty: as many as the others. What stands after it in "
        "the row moves on.",
        "What is left of the modules, or of the row.",
        low=1,
        high=200,
        usual=(1, 40),
    )
    along_m: float = given(
        0.0,
        "Moved along",
        "run",
        "From its place, along the purlins toward the row's last post; of one more table, level from "
        "the middle of the front row's posts.",
        "Off a drain, a root or a line.",
        low=-500,
        high=500,
        usual=(-20, 20),
    )
    back_m: float = given(
        0.0,
        "Moved back",
        "run",
        "From its place away from the sun, level; below nought toward it. Of one more table, from the "
        "front row's posts.",
        "Off a drain, a root or a line.",
        low=-500,
        high=500,
        usual=(-20, 20),
    )
    turn_deg: float = given(
        0.0,
        "Turned",
        "angle",
        "Clockwise seen from above, from the way the rows run.",
        "Along a bank or a fence.",
        low=-60,
        high=60,
        usual=(-20, 20),
    )

    lies: Lying = given(
        AS_OTHERS,
        "Lies",
        "choice",
        "Along the ground: its lower edge runs parallel to the grade. Level: set at the highest ground "
        "below it.",
        "Level by the house where it is looked at; along the ground where the posts would get long.",
    )
    laid: Annotated[str, Field(max_length=120)] = ""

    @property
    def told(self) -> str:
        """Where and how it stands, in words that change with any of it."""
        moved = " ".join(f"{part:.4f}" for part in (self.along_m, self.back_m, self.turn_deg))
        lying = "" if self.lies == AS_OTHERS else f" {self.lies}"
        return f"{self.place} {self.out} {self.modules_along} {moved}{lying}"

    def follows(self, others: bool) -> bool:
        """Whether it runs along the ground, where the others do or do not."""
        return others if self.lies == AS_OTHERS else self.lies == "along the ground"

    @property
    def by_hand(self) -> bool:
        """Whether somebody has set it so: what filling laid and nobody touched is laid anew."""
        return self.laid != self.told


class PositionGivens(Thing):
    """A tilt that the tables are set to by hand, and the day from which it stands, every year."""

    tilt_deg: float = given(
        34.0,
        "Tilt",
        "angle",
        "Angle of the glass from level.",
        "The year by its tilts, on Sun: flatter for summer, steeper for winter.",
        low=0,
        high=75,
        usual=(10, 60),
    )
    day: Annotated[str, AfterValidator(a_day)] = given(
        "1 Jan",
        "From",
        "text",
        "Day and month, the month in letters: 21 Mar.",
        "When somebody comes by anyway: first mowing, leaf fall.",
        length=20,
    )

    @property
    def called(self) -> str:
        """The tilt and its day."""
        return f"{self.tilt_deg:g}° from {self.day}"


class RowsGivens(Givens):
    """Tables of modules and how they lie on the ground."""

    orientation: Literal["portrait", "landscape"] = given(
        "portrait",
        "Modules lie",
        "choice",
        "Portrait: long side up the slope. Landscape: long side along the row.",
        "Landscape loses less to a band of row shade.",
        group="Table",
    )
    modules_high: int = given(
        2,
        "Modules high",
        "count",
        "Modules up the slope of one table.",
        "Two portrait on one post line; three or four landscape on two.",
        low=1,
        high=6,
        usual=(1, 4),
        group="Table",
    )
    modules_along: int | None = given(
        None,
        "Modules along",
        "count",
        "Module columns in one table.",
        "As the site and the equal strings allow.",
        low=1,
        high=200,
        usual=(6, 40),
        group="Table",
        needed=True,
    )
    tables_along: int = given(
        1,
        "Tables in a row",
        "count",
        "Tables standing end to end.",
        "Break a row for drains, access and expansion.",
        low=1,
        high=200,
        usual=(1, 10),
        group="Table",
    )
    table_gap_m: float = given(
        0.5,
        "Gap between tables",
        "tape",
        "Clear distance between table ends.",
        "Enough to walk and to trim grass.",
        low=0,
        high=30,
        usual=(0.1, 3),
        group="Table",
        us=18 * INCH_M,
    )
    rows: int = given(
        1,
        "Rows",
        "count",
        "Rows one behind the other.",
        "As the ground allows.",
        low=1,
        high=500,
        usual=(1, 40),
        group="Rows",
    )
    tilt_deg: float = given(
        34.0,
        "Tilt",
        "angle",
        "Angle of the glass from level.",
        "Near latitude for winter, about 15° less for summer and for wind.",
        low=0,
        high=75,
        usual=(10, 50),
        group="Rows",
    )
    positions: Annotated[
        tuple[PositionGivens, ...], Field(max_length=MOST_POSITIONS), AfterValidator(identified)
    ] = given(
        (),
        "Set through the year to",
        "list",
        "Tilts that the tables are set to by hand, each from its day on. The loads of all are carried, "
        "and those of the tilt above, at which they are put up and drawn. Empty: fixed.",
        "Two to four pay where somebody comes by anyway.",
        group="Rows",
    )
    lower_edge_m: float = given(
        0.9,
        "Lower edge",
        "tape",
        "Lowest clearance from ground to glass along the whole row; where tilts are set through the "
        "year, at the steepest.",
        "About a metre: grass can be cut beneath and snow has somewhere to slide.",
        low=0.1,
        high=4,
        usual=(0.5, 1.2),
        group="Rows",
        us=36 * INCH_M,
    )
    pitch_m: float | None = given(
        None,
        "Pitch held at",
        "run",
        "Level distance from row to row. Left empty: the least that keeps the winter window free.",
        "Leave empty unless access or a fence fixes it.",
        low=1,
        high=60,
        usual=(4, 15),
        group="Rows",
    )
    at_east_m: float = given(
        0.0,
        "Array stands, east",
        "coordinate",
        "East of the site's origin: the middle of the front row's posts.",
        "Move it off a drain, a root or a line.",
        low=-5000,
        high=5000,
        usual=(-100, 100),
        group="Place",
    )
    at_north_m: float = given(
        0.0,
        "Array stands, north",
        "coordinate",
        "North of the site's origin: the middle of the front row's posts.",
        "Move it off a drain, a root or a line.",
        low=-5000,
        high=5000,
        usual=(-100, 100),
        group="Place",
    )
    turn_deg: float = given(
        0.0,
        "Turned from the equator",
        "angle",
        "Clockwise seen from above. A site with only a few sunny hours is turned to them. Turning "
        "tubes lie from north to south, and are turned from that.",
        "0 unless trees or a hill take the morning or the afternoon.",
        low=-60,
        high=60,
        usual=(-20, 20),
        group="Place",
    )
    follow_ground: bool = given(
        True,
        "Follow the ground",
        "yes_no",
        "Yes: the row runs parallel to the grade so the gap below is even. "
        "No: the row is level and the lower edge is set at the highest ground.",
        "Owners like level, crews like even.",
        group="Rows",
    )
    tables: Annotated[
        tuple[TableGivens, ...], Field(max_length=MOST_TABLES_APART), AfterValidator(identified)
    ] = given(
        (),
        "Tables that differ",
        "list",
        "Tables taken out, moved, turned or made longer one by one, and tables of no row.",
        "What the ground leaves, and what is left of the modules.",
        group="Rows",
    )
