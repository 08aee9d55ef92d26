"""The wall from outside and from inside, with the point that both faces share and the holes."""

import math

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.marks import Drawing, Mark, area, box, dimension, drawing, label, line

APART_M, MARGIN_M, STUD_M = 0.35, 0.25, 0.045
SIDES = 28


def wall_drawing(plan: Plan, units: UnitSystem) -> tuple[Drawing, ...]:
    """Both faces side by side, as they are seen; nothing where no wall was measured."""
    holes = plan.trench.holes
    if holes is None:
        return ()
    reach = max(abs(float(holes.right_m.min())), abs(float(holes.right_m.max()))) + MARGIN_M
    ups = (0.0, holes.out_up_m, holes.in_up_m)
    low, high = min(ups) - MARGIN_M, max(ups) + MARGIN_M
    if holes.bay_m is not None:
        reach = max(reach, *(abs(edge) + STUD_M + 0.05 for edge in holes.bay_m))
    marks: list[Mark] = []
    for face, middle, sign, up in (
        ("outside", 0.0, 1.0, holes.out_up_m),
        ("inside", 2 * reach + APART_M, -1.0, holes.in_up_m),
    ):
        marks.append(box("wall", middle - reach, low, middle + reach, high))
        if face == "inside" and holes.bay_m is not None:
            first, last = holes.bay_m
            for edge in (first - STUD_M, last):
                marks.append(box("wall-stud", middle + edge, low, middle + edge + STUD_M, high))
        marks += [
            line("wall-point", (middle - 0.08, 0.0), (middle + 0.08, 0.0)),
            line("wall-point", (middle, -0.08), (middle, 0.08)),
            label(face, (middle, low - 0.08), "note"),
        ]
        for right in holes.right_m.tolist():
            x = middle + sign * right
            marks.append(area("wall-hole", *_circle(x, up, holes.across_m / 2)))
        x = middle + sign * float(holes.right_m[0])
        marks.append(
            dimension(format_value(abs(x - middle), "tape", units), (middle, up), (x, up), sign * 26)
        )
        # Heights stand at the outer edge of each face, off the studs.
        edge_m = middle - sign * reach
        high_m = format_value(abs(up), "tape", units)
        marks.append(dimension(high_m, (edge_m, 0.0), (edge_m, up), sign * 5))
    return (
        drawing(
            "wall",
            "Through the wall, from the point that both faces share",
            marks,
            low=(-reach - 0.4, low - 0.2),
            high=(3 * reach + APART_M + 0.4, high + 0.2),
            legend=(
                f"Holes {format_value(holes.across_m, 'tape', units)} across, through "
                f"{format_value(holes.thick_m, 'tape', units)}, falling outward.",
            ),
        ),
    )


def _circle(x: float, y: float, radius: float) -> list[tuple[float, float]]:
    turns = [2 * math.pi * k / SIDES for k in range(SIDES)]
    return [(x + radius * math.cos(turn), y + radius * math.sin(turn)) for turn in turns]
