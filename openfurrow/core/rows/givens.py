"""Row givens: the module tables, their tilt, their height and how many."""

from typing import Literal

from openfurrow.core.givens import Givens, given


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
    modules_along: int = given(
        18,
        "Modules along",
        "count",
        "Module columns in one table.",
        "As the site and the equal strings allow.",
        low=1,
        high=200,
        usual=(6, 40),
        group="Table",
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
    lower_edge_m: float = given(
        0.9,
        "Lower edge",
        "tape",
        "Lowest clearance from ground to glass along the whole row.",
        "About a metre: grass can be cut beneath and snow has somewhere to slide.",
        low=0.1,
        high=4,
        usual=(0.5, 1.2),
        group="Rows",
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
        "Clockwise seen from above. A site with only a few sunny hours is turned to them.",
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
