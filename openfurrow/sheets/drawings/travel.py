"""A table through its travel: how it stands at a tilt, and the actuator's force along all of it."""

import numpy as np

from openfurrow.core.frame.mover.arm import Mover
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import Shown, UnitSystem, format_value, shown
from openfurrow.core.rows.geometry import TableSection
from openfurrow.sheets.drawings.carrying import Side, carrying
from openfurrow.sheets.drawings.chart import Axis, Chart, short, ticks
from openfurrow.sheets.drawings.table import glass_m, glass_of, ground_z, side_at, soil_under
from openfurrow.sheets.marks import Anchor, Drawing, Mark, Point, dimension, drawing, label, line

# Tilts between the limits through which the edges' ways are drawn.
ARC = 25
# What is drawn to each side of what the edges reach.
BESIDE_M, BELOW_M, OVER_M = 0.7, 0.35, 0.35


def side_drawing(plan: Plan, tilt_deg: float, units: UnitSystem) -> Drawing:
    """The table seen from its end at a tilt; the ways of its edges are those of all its tilts."""
    tilts = [one.tilt_deg for one in plan.rows.positions]
    lows, highs = _ways(plan, np.linspace(min(tilts), max(tilts), ARC).tolist())
    side = side_at(plan, _section(plan, tilt_deg))
    every, mover = [*lows, *highs], plan.frame.mover
    left, right = min(x for x, _ in every) - BESIDE_M, max(x for x, _ in every) + BESIDE_M
    floor = min(ground_z(plan, x) for x in (left, right)) - BELOW_M
    marks: list[Mark] = [
        *(mark for mark in soil_under(plan, left, right, floor) if mark.layer != "frost"),
        line("ghost", *lows),
        line("ghost", *highs),
        *carrying(plan, side, glass_m(plan)),
        *glass_of(plan, side),
        *_tilt_words(plan, side, tilt_deg),
        *(_actuator_words(plan, mover, side, units) if mover and mover.tilts else ()),
    ]
    return drawing(
        f"side_{tilt_deg:g}",
        f"At {tilt_deg:.0f}°",
        marks,
        low=(left, floor),
        high=(right, max(z for _, z in every) + OVER_M),
    )


def _section(plan: Plan, tilt_deg: float) -> TableSection:
    return plan.rows.steepest.section.turned(tilt_deg)


def _ways(plan: Plan, tilts: list[float]) -> tuple[list[Point], list[Point]]:
    """Where the lower and the upper edge go."""
    chord = plan.rows.section.chord_m
    sides = [side_at(plan, _section(plan, tilt)) for tilt in tilts]
    return [one.at(0.0, 0.0) for one in sides], [one.at(chord, 0.0) for one in sides]


def _tilt_words(plan: Plan, side: Side, tilt_deg: float) -> tuple[Mark, ...]:
    upper = side.at(plan.rows.section.chord_m, 0.0)
    return (label(f"{tilt_deg:.0f}°", (upper[0], upper[1] + 0.12), "strong"),)


def _actuator_words(plan: Plan, found: Mover, side: Side, units: UnitSystem) -> tuple[Mark, ...]:
    """Bolt to bolt, and what it holds at worst at that tilt."""
    (pole,), triangle = side.posts, found.triangle
    head = np.array([pole.x, pole.bolt])
    foot, bolt = (
        (float(x), float(z)) for x, z in (head + triangle.foot_m, head + triangle.bolt_m(side.tilt_deg))
    )
    long = format_value(float(triangle.length_m(side.tilt_deg)), "tape", units)
    holds = format_value(force_at_n(found, side.tilt_deg), "force", units)
    ends = (foot, bolt) if triangle.side < 0 else (bolt, foot)
    away: Anchor = "end" if triangle.side < 0 else "start"
    return (
        dimension(long, *ends, 12),
        label(f"holds {holds}", (foot[0], foot[1] - 0.18), "strong", away),
    )


def force_at_n(found: Mover, tilt_deg: float) -> float:
    """The actuator's force at a tilt: the greater of the two between which it lies."""
    at = int(np.searchsorted(found.tilts_deg, tilt_deg))
    return float(found.forces_n[max(at - 1, 0) : at + 1].max())


def force_drawing(found: Mover, rated_n: float | None, tilt_deg: float, units: UnitSystem) -> Drawing:
    """Force over tilt, what it is rated for, and where it stands now."""
    force = shown("force", units)
    most = 1.15 * max(float(found.forces_n.max()), rated_n or 0.0)
    low, high = float(found.tilts_deg[0]), float(found.tilts_deg[-1])
    chart = Chart(
        Axis(low, high, "tilt from level", tuple((one, f"{one:.0f}°") for one in ticks(low, high))),
        Axis(0.0, most, f"actuator holds, {force.unit}", _ticks(most, force)),
    )
    now = force_at_n(found, tilt_deg)
    marks: list[Mark] = [
        chart.curve("chart-line", found.tilts_deg, found.forces_n),
        line("chart-now", chart.at(tilt_deg, 0.0), chart.at(tilt_deg, now)),
    ]
    if rated_n is not None:
        marks.append(line("chart-use", chart.at(low, rated_n), chart.at(high, rated_n)))
        marks.append(
            label(
                "rated", (chart.at(low, rated_n)[0] + 2, chart.at(low, rated_n)[1] + 2), "note", "start"
            )
        )
    return chart.drawn(f"force_{tilt_deg:g}", "Force through the travel", marks)


def _ticks(most: float, unit: Shown) -> tuple[tuple[float, str], ...]:
    return tuple((one * unit.si_per_unit, short(one)) for one in ticks(0.0, most / unit.si_per_unit, 5))
