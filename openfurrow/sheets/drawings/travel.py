"""A table through its travel: how it stands at a tilt, and what holds it along all of it."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.frame.mover.arm import Mover
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import Shown, UnitSystem, format_value, shown
from openfurrow.core.rows.geometry import TableSection
from openfurrow.sheets.drawings.carrying import Side, carrying
from openfurrow.sheets.drawings.chart import Axis, Chart, short, ticks
from openfurrow.sheets.drawings.table import glass_m, glass_of, ground_z, side_at, soil_under
from openfurrow.sheets.marks import Anchor, Drawing, Mark, Point, dimension, drawing, label, line

Floats = NDArray[np.float64]

# Tilts between the limits through which the edges' ways are drawn.
ARC = 25
# What is drawn to each side of what the edges reach.
BESIDE_M, BELOW_M, OVER_M = 0.7, 0.35, 0.35


def side_drawing(plan: Plan, tilt_deg: float, units: UnitSystem) -> Drawing:
    """The table seen from its end at a tilt; the ways of its edges are those of all its tilts."""
    lows, highs = _ways(plan, np.linspace(*limits_deg(plan), ARC).tolist())
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
        *_drive_words(plan, side, tilt_deg, units),
    ]
    return drawing(
        f"side_{tilt_deg:g}",
        f"At {_looking(plan, tilt_deg)}",
        marks,
        low=(left, floor),
        high=(right, max(z for _, z in every) + OVER_M),
    )


def limits_deg(plan: Plan) -> tuple[float, float]:
    """From which tilt to which it goes; below nought where it goes over to the other side."""
    tilts = [one.tilt_deg for one in plan.rows.positions]
    travel = plan.rows.travel
    return (-max(tilts) if travel is not None and travel.rolls else min(tilts)), max(tilts)


def _looking(plan: Plan, tilt_deg: float) -> str:
    """The tilt, and the way that it looks then where that changes."""
    travel = plan.rows.travel
    if travel is None or not travel.rolls or round(tilt_deg) == 0:
        return f"{abs(tilt_deg):.0f}°"
    east = np.sin(np.radians(plan.rows.facing_deg)) * tilt_deg > 0
    return f"{abs(tilt_deg):.0f}°, looking {'east' if east else 'west'}"


def _drive_words(plan: Plan, side: Side, tilt_deg: float, units: UnitSystem) -> tuple[Mark, ...]:
    """What a tube's drive holds at that tilt, beside its post."""
    curve = curve_of(plan)
    if plan.frame.tube is None or curve is None:
        return ()
    post = side.posts[0]
    holds = format_value(held_at(curve, tilt_deg), curve.kind, units)
    return (label(f"drive holds {holds}", (post.x + 0.15, post.ground + 0.15), "strong", "start"),)


def _section(plan: Plan, tilt_deg: float) -> TableSection:
    return plan.rows.steepest.section.turned(tilt_deg)


def _ways(plan: Plan, tilts: list[float]) -> tuple[list[Point], list[Point]]:
    """Where the lower and the upper edge go."""
    chord = plan.rows.section.chord_m
    sides = [side_at(plan, _section(plan, tilt)) for tilt in tilts]
    return [one.at(0.0, 0.0) for one in sides], [one.at(chord, 0.0) for one in sides]


def _tilt_words(plan: Plan, side: Side, tilt_deg: float) -> tuple[Mark, ...]:
    upper = side.at(plan.rows.section.chord_m, 0.0)
    lower = side.at(0.0, 0.0)
    high = max(upper, lower, key=lambda one: one[1])
    return (label(degrees(abs(tilt_deg)), (high[0], high[1] + 0.12), "strong"),)


def _actuator_words(plan: Plan, found: Mover, side: Side, units: UnitSystem) -> tuple[Mark, ...]:
    """Bolt to bolt, and what it holds at worst at that tilt."""
    (pole,), triangle = side.posts, found.triangle
    head = np.array([pole.x, pole.bolt])
    foot, bolt = (
        (float(x), float(z)) for x, z in (head + triangle.foot_m, head + triangle.bolt_m(side.tilt_deg))
    )
    long = format_value(float(triangle.length_m(side.tilt_deg)), "tape", units)
    curve = curve_of(plan)
    assert curve is not None
    holds = format_value(held_at(curve, side.tilt_deg), "force", units)
    ends = (foot, bolt) if triangle.side < 0 else (bolt, foot)
    away: Anchor = "end" if triangle.side < 0 else "start"
    return (
        dimension(long, *ends, 12),
        label(f"holds {holds}", (foot[0], foot[1] - 0.18), "strong", away),
    )


@dataclass(frozen=True)
class Curve:
    """What holds a table through its travel (steps), of which kind, what it is rated for, its words."""

    tilts_deg: Floats
    holds: Floats
    rated: float | None
    kind: str
    words: str


def curve_of(plan: Plan) -> Curve | None:
    """An actuator's force or a tube's drive's moment; None where neither holds the table."""
    givens, frame = plan.structure.posts.givens, plan.frame
    if frame.tube is not None:
        tube = frame.tube
        return Curve(
            np.concatenate((-tube.tilts_deg[:0:-1], tube.tilts_deg)),
            np.concatenate((tube.turning_n_m[:0:-1], tube.turning_n_m)),
            givens.tube_drive_n_m,
            "moment",
            "drive holds",
        )
    if frame.mover is None or not frame.mover.tilts:
        return None
    mover = frame.mover
    return Curve(mover.tilts_deg, mover.forces_n, givens.actuator_rated_n, "force", "actuator holds")


def held_at(curve: Curve, tilt_deg: float) -> float:
    """What holds it at a tilt: the greater of the two between which it lies."""
    first, past = np.searchsorted(curve.tilts_deg, (tilt_deg - 1e-6, tilt_deg + 1e-6)).tolist()
    return float(curve.holds[max(first - (first == past), 0) : max(past, first + 1)].max())


def force_drawing(curve: Curve, tilt_deg: float, units: UnitSystem) -> Drawing:
    """What holds it over tilt, what that is rated for, and where it stands now."""
    unit, rated = shown(curve.kind, units), curve.rated
    most = 1.15 * max(float(curve.holds.max()), rated or 0.0)
    low, high = float(curve.tilts_deg[0]), float(curve.tilts_deg[-1])
    chart = Chart(
        Axis(low, high, "tilt from level", tuple((one, degrees(one)) for one in ticks(low, high))),
        Axis(0.0, most, f"{curve.words}, {unit.unit}", _ticks(most, unit)),
    )
    now = held_at(curve, tilt_deg)
    marks: list[Mark] = [
        chart.curve("chart-line", curve.tilts_deg, curve.holds),
        line("chart-now", chart.at(tilt_deg, 0.0), chart.at(tilt_deg, now)),
    ]
    if rated is not None:
        marks.append(line("chart-use", chart.at(low, rated), chart.at(high, rated)))
        marks.append(
            label("rated", (chart.at(low, rated)[0] + 2, chart.at(low, rated)[1] + 2), "note", "start")
        )
    return chart.drawn(f"force_{tilt_deg:g}", f"{curve.kind.capitalize()} through the travel", marks)


def degrees(tilt_deg: float) -> str:
    """A tilt, with a minus that is one."""
    return f"{tilt_deg:.0f}°".replace("-0°", "0°").replace("-", "\N{MINUS SIGN}")


def _ticks(most: float, unit: Shown) -> tuple[tuple[float, str], ...]:
    return tuple((one * unit.si_per_unit, short(one)) for one in ticks(0.0, most / unit.si_per_unit, 5))
