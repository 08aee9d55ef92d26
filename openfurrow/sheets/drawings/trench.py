"""Trench: the cross-section with everything in it, and the way from above."""

import math

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.drawings.overhead import route_drawing
from openfurrow.sheets.marks import (
    Drawing,
    Mark,
    Point,
    area,
    box,
    dimension,
    drawing,
    label,
    line,
)


def _circle(centre: Point, radius: float) -> tuple[Point, ...]:
    return tuple(
        (centre[0] + radius * math.cos(2 * math.pi * k / 28),
         centre[1] + radius * math.sin(2 * math.pi * k / 28))
        for k in range(28)
    )


def trench_drawing(plan: Plan, units: UnitSystem) -> tuple[Drawing, ...]:
    """Across the trench, and the route."""
    return (_across(plan, units), route_drawing(plan, units))


def _across(plan: Plan, units: UnitSystem) -> Drawing:
    trench = plan.trench
    width, depth = trench.width_m, trench.depth_m
    outside = trench.conduit.outside_m if trench.conduit else math.sqrt(
        4 * trench.pull.area_m2 / math.pi
    )
    top_of_pipe = -trench.route.cover_m
    bottom = -depth
    sand_top = top_of_pipe - outside if trench.conduit else top_of_pipe + 0.1
    side = 0.32
    half = width / 2
    marks: list[Mark] = [
        area("soil", (-half - side, 0.0), (-half, 0.0), (-half, bottom), (half, bottom),
             (half, 0.0), (half + side, 0.0), (half + side, bottom - 0.18),
             (-half - side, bottom - 0.18)),
        box("backfill", -half, sand_top, half, 0.0),
        box("sand", -half, bottom, half, sand_top),
        line("ground", (-half - side, 0.0), (half + side, 0.0)),
        line("tape-warning", (-half * 0.7, top_of_pipe / 2), (half * 0.7, top_of_pipe / 2)),
        label("warning tape", (half + 0.04, top_of_pipe / 2), "note", "start"),
    ]
    spread = 2 * outside * (trench.conduits - 1) / 2
    for number in range(trench.conduits):
        centre = (-spread + 2 * outside * number, top_of_pipe - outside / 2)
        layer = "pipe-end" if trench.conduit else "copper-end"
        marks.append(area(layer, *_circle(centre, outside / 2)))
    text = trench.conduit.label if trench.conduit else "cable"
    marks += [
        label(text, (half + 0.04, top_of_pipe - outside / 2), "strong", "start"),
        dimension(format_value(trench.route.cover_m, "tape", units),
                  (-half, top_of_pipe), (-half, 0.0), 8),
        dimension(format_value(depth, "tape", units), (-half, bottom), (-half, 0.0), 22),
        dimension(format_value(width, "tape", units), (-half, 0.0), (half, 0.0), 5),
    ]
    return drawing("across", "Across the trench", marks,
                   low=(-half - side - 0.12, bottom - 0.18), high=(half + side + 0.12, 0.16))
