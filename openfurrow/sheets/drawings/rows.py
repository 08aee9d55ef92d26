"""Rows: the side view square to the row, with the last ray of the window and the pitch."""

import math

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.drawings.table import (
    edge_z,
    ground_line,
    ground_z,
    other_tilts,
    soil_under,
    table_side,
)
from openfurrow.sheets.marks import Drawing, Mark, dimension, drawing, label, line


def rows_drawing(plan: Plan, units: UnitSystem) -> tuple[Drawing, ...]:
    """Two rows at their pitch; a single row is drawn with the place the next would take."""
    section, pitch = plan.rows.section, plan.rows.pitch_m
    left, right = -2.2, pitch + section.level_depth_m + 1.2
    lowest = min(z for _, z in ground_line(plan, left, right)) - 0.8
    edge, next_z = edge_z(plan, 0), edge_z(plan, 1)
    upper = (section.level_depth_m, edge + section.rise_m)
    marks: list[Mark] = [*soil_under(plan, left, right, lowest)]
    marks = [m for m in marks if m.layer != "frost"]
    marks += [m for m in table_side(plan, 0) if m.layer != "post-buried"]
    second = [m for m in table_side(plan, 1) if m.layer != "post-buried"]
    if plan.rows.rows < 2:
        second = [line("ghost", *m.points, m.points[0]) for m in second if m.layer == "glass"]
    marks += second
    tilts = other_tilts(plan, 0)
    marks += [
        label(f"{one.tilt_deg:g}°", (high[0] + 0.1, high[1] + 0.06), "array-note", "start")
        for one, (_, high) in tilts
    ]
    next_edge = (pitch, next_z)
    profile = math.radians(plan.rows.profile_deg)
    # What follows the sun is not held to the ray over its upper edge.
    if 0 < plan.rows.profile_deg < 90 and plan.rows.travel is None:
        reach = next_edge[0] - upper[0]
        end = (next_edge[0], upper[1] - reach * math.tan(profile))
        back = 3.2
        start = (upper[0] - back, upper[1] + back * math.tan(profile))
        marks.append(line("ray", start, upper, end))
        words = f"sun at {plan.rows.profile_deg:.1f}° across the row"
        marks.append(label(words, (start[0] + 0.3, start[1] + 0.25), "sun-note", "start"))

    def tape(value: float, kind: str = "tape") -> str:
        return format_value(value, kind, units)

    first_post, second_post = section.post_x_m, pitch + section.post_x_m
    marks += [
        dimension(
            f"pitch {tape(pitch, 'run')}", (first_post, lowest + 0.45), (second_post, lowest + 0.45)
        ),
        dimension(tape(edge), (0.0, 0.0), (0.0, edge), 7),
        dimension(
            tape(upper[1] - ground_z(plan, upper[0])), (upper[0], ground_z(plan, upper[0])), upper, -7
        ),
        dimension(f"{tape(section.chord_m)} at {section.tilt_deg:.0f}°", (0.0, edge), upper, 8),
    ]
    return (
        drawing(
            "rows",
            "Across the rows",
            marks,
            low=(left, lowest),
            high=(
                right,
                max(
                    upper[1],
                    next_edge[1] + section.rise_m,
                    *(high[1] + (next_z - edge) for _, (_, high) in tilts),
                )
                + 1.25,
            ),
        ),
    )
