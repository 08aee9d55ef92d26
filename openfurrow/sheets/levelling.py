"""A top that is off its line: every way to level it, what is left, and the tilt that comes of it."""

import math

from openfurrow.core.codes import constant
from openfurrow.core.design import Design
from openfurrow.core.frame.levelling import (
    Way,
    head_of,
    strut_then_m,
    tilt_then_deg,
    ways_to_level,
)
from openfurrow.core.lacking import Lacking
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.core.structures.supports import support_id
from openfurrow.sheets.models import AskedSheet, Column, TableText

# What each way asks of the hand besides.
AND = {
    "leave it": "",
    "another hole": "Its neighbours stay; look along the line again.",
    "inside the slot": "Tighten where it is; mark it.",
    "another hole, then the slot": "Tighten where it is; mark it.",
    "a shim": "Steel plates as wide as the head, never wood; bolts as much longer.",
    "drive it on": "With the cap on, while the string hangs; never past it.",
    "turn it": "A turn more or less, and its torque read again; holes must face as before.",
    "cut it": "Drill its holes anew as far below the cut; zinc paint on both.",
}


def levelling_sheet(
    design: Design, plan: Plan, units: UnitSystem, index: int, off_m: float
) -> AskedSheet:
    """Ways for the support ``index`` whose top is ``off_m`` above its line.

    Raises Lacking before depths are told.
    """
    if not plan.has("footings"):
        raise Lacking(plan.lacking("footings"))
    array, footings = design.array(plan.array.id), plan.footings
    ways = ways_to_level(
        off_m,
        head_of(array.structure, array.frame),
        driven=array.footings.family == "driven post",
        turned=footings.screws is not None,
    )
    return AskedSheet(
        drawings=(),
        tables=(_table(design, plan, units, index, off_m, ways),),
        takes=(),
        note=_note(design, plan, units, index, ways),
    )


def _table(
    design: Design, plan: Plan, units: UnitSystem, index: int, off_m: float, ways: tuple[Way, ...]
) -> TableText:
    titles = (
        ("Way", False),
        ("Left over", True),
        ("Tilt then", True),
        ("Verdict", False),
        ("And", False),
    )
    structure, planned = design.array(plan.array.id).structure, plan.rows.section.tilt_deg
    rows = []
    for way in ways:
        tilt = tilt_then_deg(plan.structure, structure, planned, index, way)
        rows.append(
            (
                _named(way, units),
                _side(way.left_m, units),
                "" if tilt is None or math.isnan(tilt) else format_value(tilt, "angle", units),
                _verdict(way, tilt, planned, units),
                AND[way.name],
            )
        )
    name = support_id(plan.rows, plan.places, index)
    return TableText(
        key="level",
        title=f"Support {index + 1}, {name}: its top {_side(off_m, units)}",
        columns=tuple(Column(title=title, number=number) for title, number in titles),
        rows=tuple(rows),
        left_out=0,
        note="",
    )


def _named(way: Way, units: UnitSystem) -> str:
    """The way with its number: 2 holes down, 0.5 in."""
    if not way.by_m:
        return way.name.capitalize()
    by = format_value(abs(way.by_m), "thickness", units)
    down = "down" if way.by_m > 0 else "up"
    if way.name == "another hole":
        count = abs(way.holes)
        return f"{count} hole{'s' if count > 1 else ''} {down}, {by}"
    if way.name == "another hole, then the slot":
        return f"{abs(way.holes)} {down}, then the slot: {by}"
    if way.name in ("a shim", "cut it"):
        return f"{way.name.capitalize()}, {by}"
    return f"{way.name.capitalize()}, {by} {down}"


def _side(off_m: float, units: UnitSystem) -> str:
    if abs(off_m) < 5e-5:
        return "on the line"
    return f"{format_value(abs(off_m), 'thickness', units)} {'above' if off_m > 0 else 'below'}"


def _verdict(way: Way, tilt: float | None, planned: float, units: UnitSystem) -> str:
    line, turn = constant("common", "top_off_line_m"), constant("common", "tilt_off_deg")
    wrong = []
    if abs(way.left_m) > line.value + 1e-9:
        wrong.append(f"more than {format_value(line.value, 'thickness', units)} off")
    if tilt is not None and math.isnan(tilt):
        wrong.append("the strut does not reach")
    elif tilt is not None and abs(tilt - planned) > turn.value + 1e-9:
        wrong.append(f"tilt off by more than {format_value(turn.value, 'angle', units)}")
    return "; ".join(wrong) if wrong else "accepted"


def _note(design: Design, plan: Plan, units: UnitSystem, index: int, ways: tuple[Way, ...]) -> str:
    """What keeps the tilt where a bolt goes into another hole; and what is not looked at."""
    structure, tilt = design.array(plan.array.id).structure, plan.rows.section.tilt_deg
    words = []
    moved = next((way for way in ways if way.holes), ways[0])
    long_m = strut_then_m(plan.structure, structure, tilt, index, moved)
    if moved.holes and long_m is not None:
        words.append(
            "The strut's foot goes as many holes the same way, and the tilt stays; where it cannot, "
            f"the strut must be {format_value(long_m, 'tape', units)} from bolt to bolt."
        )
    line = format_value(constant("common", "top_off_line_m").value, "thickness", units)
    turn = format_value(constant("common", "tilt_off_deg").value, "angle", units)
    words.append(
        f"Within {line} of the line and {turn} of the tilt is accepted. A post that was driven on, "
        "turned or cut is as deep as it is: whether that carries stands with the footings."
    )
    return " ".join(words)
