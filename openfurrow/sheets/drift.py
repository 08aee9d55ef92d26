"""A row of modules that climbs off its string: what the next gaps are opened by, drawn and listed."""

from dataclasses import dataclass
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant
from openfurrow.core.design import Design
from openfurrow.core.lacking import Lacking
from openfurrow.core.modules.drift import Corrected, Row, climb_of, corrected
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import INCH_M, UnitSystem, format_value, in_words, spoken
from openfurrow.sheets.marks import Drawing, Mark, dot, drawing, label, line
from openfurrow.sheets.models import AskedSheet, Column, TableText

Floats = NDArray[np.float64]
# Offsets are drawn so that the largest is this share of the row.
TALL = 0.12
ON_RAILS = (
    "Here modules are clamped up the slope, each column on rails of its own: no clamp stands between "
    "two columns, and each is set to its own marks along the pipe."
)


@dataclass(frozen=True)
class Sighted:
    """Two places of a row by the number of the module before each, and how far off the string they are.

    Above is positive. ``first`` is nought where the row begins.
    """

    table: int
    first: int
    first_off_m: float
    last: int
    last_off_m: float


def drift_sheet(design: Design, plan: Plan, units: UnitSystem, seen: Sighted) -> AskedSheet:
    """What brings the row back.

    Raises Lacking before the modules are told, ValueError for no such place.
    """
    if not plan.has("modules"):
        raise Lacking(plan.lacking("modules"))
    if plan.modules.on_rails:
        return AskedSheet(drawings=(), tables=(), takes=(), note=ON_RAILS)
    rows, givens = plan.rows, design.array(plan.array.id).modules
    row = Row(
        modules=int(rows.tables.columns[seen.table]),
        step_m=rows.column_step_m,
        height_m=rows.module_up_m,
        gap_m=givens.gap_along_m,
        most_m=constant("common", "drift_gap_most_m").value,
        hand_m=constant(units, "gap_step_m").value,
    )
    climb = climb_of(row, seen.first, seen.first_off_m, seen.last, seen.last_off_m)
    if seen.last == row.modules:
        note = "It is the last module: nothing follows."
        return AskedSheet(drawings=(), tables=(), takes=(), note=note)
    found = corrected(row, seen.last, seen.last_off_m, climb)
    left_m = givens.purlin_end_m - found.longer_m
    return AskedSheet(
        drawings=(_drawn(row, seen, found, units),),
        tables=(_table(rows.stands.name_of(seen.table), row, seen, found, units),),
        takes=(),
        note=in_words(" ".join(_words(row, seen, found, left_m)), units),
    )


def _words(row: Row, seen: Sighted, found: Corrected, left_m: float) -> list[str]:
    """What comes of it, and what becomes of the row's end."""
    alone = seen.last_off_m + found.climb * row.step_m * (row.modules - seen.last)
    words = [f"Left alone the row would end {_side(alone)}."]
    opened, again = np.flatnonzero(found.opened_m), int(constant("common", "sight_every").value)
    if not opened.size:
        words.append("It is on the string: go on.")
    elif found.comes_back:
        words.append(
            f"Back on the string after {int(opened[-1]) + 1} gaps; sight again after {again} modules."
        )
    else:
        words.append(
            f"It does not come back in the {found.off_m.size} gaps that follow: then it is "
            f"{_side(float(found.off_m[-1]))}. Loosen the last modules and set them anew."
        )
    room = constant("common", "end_clamp_room_m").value
    words.append(f"The row grows by {spoken(found.longer_m, 'thickness')} in its middle.")
    if left_m < room:
        words.append(
            f"Then {spoken(left_m, 'thickness')} are left for the end clamp: less than it wants."
        )
    return words


def _side(off_m: float) -> str:
    if abs(off_m) < 0.0005:
        return "on the string"
    return f"{spoken(abs(off_m), 'thickness')} {'above' if off_m > 0 else 'below'}"


def _opened(value_m: float, step_m: float, units: UnitSystem) -> str:
    """By how much, as a hand sets it: 1/32 in, or 1.5 mm; nothing where it stays."""
    steps = round(abs(value_m) / step_m)
    if not steps:
        return "as usual"
    if units == "us":
        return f"+ {Fraction(steps) * Fraction(step_m / INCH_M).limit_denominator(1000)} in"
    return f"+ {1000 * steps * step_m:g} mm"


def _table(name: str, row: Row, seen: Sighted, found: Corrected, units: UnitSystem) -> TableText:
    titles = (
        ("Gap after", True),
        ("Lower edge", True),
        ("Upper edge", True),
        ("Then", True),
    )
    opened, again = np.flatnonzero(found.opened_m), int(constant("common", "sight_every").value)
    shown = min(found.off_m.size, (int(opened[-1]) + 1 if opened.size else 0) + again)
    return TableText(
        key="drift",
        title=f"Table {name}: beside the usual gap of {format_value(row.gap_m, 'thickness', units)}",
        columns=tuple(Column(title=title, number=number) for title, number in titles),
        rows=tuple(
            (
                str(seen.last + at),
                _opened(max(push, 0.0), row.hand_m, units),
                _opened(min(push, 0.0), row.hand_m, units),
                in_words(_side(off), units),
            )
            for at, (push, off) in enumerate(
                zip(found.opened_m[:shown].tolist(), found.off_m[:shown].tolist(), strict=True)
            )
        ),
        left_out=0,
        note="Opened at the upper edge the next module dips, at the lower edge it climbs. Little by "
        "little: a large correction starts a wave.",
    )


def _drawn(row: Row, seen: Sighted, found: Corrected, units: UnitSystem) -> Drawing:
    """The lower edge against the string, heights many times too large."""
    at = row.step_m * np.arange(seen.last, seen.last + found.off_m.size + 1)
    way = np.concatenate(([seen.last_off_m], found.off_m))
    alone = np.concatenate(([seen.last_off_m], found.left_alone_m))
    long_m = row.step_m * row.modules
    off = max(np.abs(way).max(), np.abs(alone).max(), abs(seen.first_off_m), 1e-4)
    tall = TALL * long_m / off
    first = (seen.first * row.step_m, seen.first_off_m * tall)

    def points(those: Floats) -> list[tuple[float, float]]:
        return list(zip(at.tolist(), (those * tall).tolist(), strict=True))

    marks: list[Mark] = [
        line("string", (0.0, 0.0), (long_m, 0.0)),
        label("string", (0.0, 0.0), "note", "end"),
        line("strut", first, points(way)[0]),
        line("ghost", *points(alone)),
        line("glass-held", *points(way)),
        *(dot("mid-clamp", one) for one in points(way)[:-1]),
        label("left alone", points(alone)[-1], "note", "start"),
    ]
    told = format_value(abs(seen.last_off_m), "thickness", units)
    marks.append(label(f"{told} off", points(way)[0], "strong"))
    return drawing(
        "drift",
        f"Lower edge and its string, heights x {tall:.0f}",
        marks,
        margin=0.06 * long_m,
        to_scale=False,
    )
