"""The wall as one stands before it: what hangs there, what room it wants, where a person stands."""

import math
from collections.abc import Iterator

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.core.wiring.on_wall import standing
from openfurrow.core.wiring.wall_givens import OF_THE_BUILDING, OnWallGivens
from openfurrow.sheets.marks import Drawing, Mark, box, dimension, drawing, label, line, owned

MARGIN_M, OVER_M, HEAD_M = 0.6, 0.55, 2.2
# Words stand in rows where they would lie on each other: how high a row is, how wide a letter, each in
# parts of the wall that is drawn.
ROW, LETTER, ROWS = 0.024, 0.0115, 3
# What is as high as a person has its name in its middle.
TALL_M = 1.2


def on_wall_drawing(plan: Plan, units: UnitSystem) -> tuple[Drawing, ...]:
    """To scale, with everything's left edge from the point and its height over the floor."""
    things = plan.wiring.given.on_wall
    if not things:
        return ()
    left = min(0.0, *(one.left_m for one in things)) - MARGIN_M
    right = max(0.0, *(one.right_m for one in things)) + MARGIN_M
    top, wide = max(HEAD_M, *(one.top_m for one in things)) + OVER_M, right - left
    marks: list[Mark] = [box("wall", left, 0.0, right, top)]
    for place in standing(things, plan.site.rule_pack):
        layer = "wall-standing" if place.short_m <= 0 else "wall-short"
        path = f"wiring.on_wall.{place.of.id}"
        marks += owned([box(layer, place.from_m, 0.0, place.to_m, place.up_m)], path)
    for one in things:
        marks += owned([*_wants(one), *_thing(one, units)], f"wiring.on_wall.{one.id}")
    for one, row in _in_rows(things, [one.called for one in things], wide, middle=True):
        if one.height_m < TALL_M:
            at = (one.left_m + one.right_m) / 2, one.top_m + (0.6 + row) * ROW * wide
            marks.append(label(one.called, at, "note"))
    marks += [
        line("ground", (left, 0.0), (right, 0.0)),
        line("wall-point", (0.0, -0.1), (0.0, top)),
        label("the point", (0.0, top + 0.06), "note"),
        *_running(things, units, wide),
    ]
    return (
        drawing(
            "on-wall",
            "The wall, from the point that all is measured from",
            marks,
            low=(left - 0.2, -(ROWS + 1.5) * ROW * wide),
            high=(right + 0.2, top + 0.2),
            legend=(
                "Hatched: where a person stands before what is opened, free of all that stands out "
                "further. Dashed: the room that a thing wants. Doors that swing over it are not "
                "looked at.",
            ),
        ),
    )


def _wants(one: OnWallGivens) -> list[Mark]:
    """The room around it, where it wants any."""
    if one.kind in OF_THE_BUILDING or not (one.clear_beside_m or one.clear_over_m or one.clear_under_m):
        return []
    low, high = one.bottom_m - one.clear_under_m, one.top_m + one.clear_over_m
    first, last = one.left_m - one.clear_beside_m, one.right_m + one.clear_beside_m
    return [line("wall-wants", (first, low), (last, low), (last, high), (first, high), (first, low))]


def _thing(one: OnWallGivens, units: UnitSystem) -> list[Mark]:
    layer = "wall-opening" if one.kind == "door or window" else "wall-thing"
    x = (one.left_m + one.right_m) / 2
    found = [box(layer, one.left_m, one.bottom_m, one.right_m, one.top_m)]
    if one.height_m >= TALL_M:
        found.append(label(one.called, (x, (one.bottom_m + one.top_m) / 2), "note"))
    if one.bottom_m > 0:
        found.append(
            dimension(format_value(one.bottom_m, "tape", units), (x, 0.0), (x, one.bottom_m), 0.0)
        )
    return found


def _in_rows(
    things: tuple[OnWallGivens, ...], words: list[str], wide: float, *, middle: bool
) -> Iterator[tuple[OnWallGivens, int]]:
    """Each thing from left to right, and the row in which its words lie on no others."""
    ends = [-math.inf] * ROWS
    for one, text in sorted(zip(things, words, strict=True), key=lambda pair: pair[0].left_m):
        half = len(text) * LETTER * wide / 2
        x = (one.left_m + one.right_m) / 2 if middle else one.left_m
        row = next((at for at in range(ROWS) if ends[at] <= x - half), ROWS - 1)
        ends[row] = x + half
        yield one, row


def _running(things: tuple[OnWallGivens, ...], units: UnitSystem, wide: float) -> list[Mark]:
    """Left edges as a tape along the wall reads them."""
    said = {one.id: format_value(one.left_m, "tape", units) for one in things}
    found = []
    for one, row in _in_rows(things, list(said.values()), wide, middle=False):
        low = -(row + 1) * ROW * wide
        found += [
            line("fine", (one.left_m, 0.0), (one.left_m, low + 0.3 * ROW * wide)),
            label(said[one.id], (one.left_m, low), "note"),
        ]
    return found
