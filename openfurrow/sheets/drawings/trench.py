"""Trench: the cross-section with everything in it, and the way from above."""

import math

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.codes import constant
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.core.trench.plan import plates_across
from openfurrow.core.trench.runs import Run
from openfurrow.sheets.drawings.overhead import route_drawing
from openfurrow.sheets.marks import (
    Drawing,
    Mark,
    Point,
    area,
    box,
    dimension,
    dot,
    drawing,
    label,
    line,
)

Floats = NDArray[np.float64]
# Finer than the thinnest line on any sheet.
PEN_M = 0.005
# Cover plates over cable, as thick as they are drawn.
PLATE_M = 0.012


def _circle(centre: Point, radius: float) -> tuple[Point, ...]:
    return tuple(
        (
            centre[0] + radius * math.cos(2 * math.pi * k / 28),
            centre[1] + radius * math.sin(2 * math.pi * k / 28),
        )
        for k in range(28)
    )


def trench_drawing(plan: Plan, units: UnitSystem) -> tuple[Drawing, ...]:
    """Across the trench, the route, and the trench along its whole length; or what lies on supports."""
    across = _across if plan.trench.over is None else _across_over
    both = (across(plan, units), route_drawing(plan, units))
    # Before a way is drawn there is nothing to unroll.
    return (*both, _along(plan, units)) if plan.run.route.level_length_m > 0 else both


def _drawn(chainage_m: Floats, ground_m: Floats) -> list[Point]:
    """The profile in as few points as show it: none lies further off than a pen's width."""
    profile = shapely.linestrings(chainage_m, ground_m)
    # It runs on to the right and cannot cross itself. Kept from crossing, a profile that falls by less
    # than floats can divide by is thinned for ever.
    thin = shapely.simplify(profile, PEN_M, preserve_topology=False)
    return [(x, z) for x, z in shapely.get_coordinates(thin).tolist()]


def _along(plan: Plan, units: UnitSystem) -> Drawing:
    """The way unrolled: ground, bottom of the trench, what is crossed and where it is dug by hand."""
    trench, route, crossings = plan.trench, plan.run.route, plan.run.crossings
    ground = _drawn(route.chainage_m, route.ground_m)
    bottom = [(x, z - trench.depth_m) for x, z in ground]
    length = float(route.chainage_m[-1])
    deepest = max([trench.depth_m, *(c.zone.feature.depth_m or 0.0 for c in crossings)])
    low = float(route.ground_m.min()) - deepest - 0.5
    marks: list[Mark] = [
        area("soil", *ground, (length, low), (0.0, low)),
        *((area("backfill", *ground, *reversed(bottom)),) if trench.over is None else ()),
        line("pipe", *((x, z - route.cover_m) for x, z in ground)),
        line("ground", *ground),
    ]
    for crossing in crossings:
        feature = crossing.zone.feature
        middle = (crossing.from_m + crossing.to_m) / 2
        z = float(np.interp(middle, route.chainage_m, route.ground_m))
        depth = feature.depth_m if feature.depth_m is not None else trench.depth_m
        ends = [
            (x, float(np.interp(x, route.chainage_m, route.ground_m)))
            for x in (crossing.from_m, crossing.to_m)
        ]
        marks += [
            area("keep-out", *ends, *((x, y - deepest - 0.2) for x, y in reversed(ends))),
            dot(f"kind-{feature.kind.replace(' ', '-')}", (middle, z - depth)),
            label(
                f"{feature.label}: by hand {format_value(crossing.from_m, 'run', units)} to "
                f"{format_value(crossing.to_m, 'run', units)}",
                (middle, z + 0.55),
                "strong",
            ),
        ]
    steps = np.hypot(np.diff(route.east_m), np.diff(route.north_m))
    for number, at in enumerate(np.cumsum(steps)[:-1]):
        z = float(np.interp(at, route.chainage_m, route.ground_m))
        marks += [
            line("fine", (float(at), z), (float(at), z - trench.depth_m)),
            label(f"bend {number + 1}", (float(at), z + 0.35), "note", free=True),
        ]
    rise = float(route.ground_m[-1] - route.ground_m[0])
    words = (
        f"Along the {'trench' if trench.over is None else 'way'}, "
        f"{format_value(route.ground_length_m, 'run', units)}, "
        f"{format_value(abs(rise), 'tape', units)} {'up' if rise >= 0 else 'down'}; "
        "heights stretched"
    )
    high = float(route.ground_m.max()) + 0.9
    return drawing(
        "along",
        words,
        marks,
        low=(-0.01 * max(length, 1.0), low),
        high=(1.01 * max(length, 1.0), high),
        to_scale=False,
    )


# A support on the ground is drawn so much wider than what lies on it, and so deep a bearer.
BESIDE_M, BEARER_M = 0.12, 0.04


def _across_over(plan: Plan, units: UnitSystem) -> Drawing:
    """One support on the ground, with all that lies on it at the widest."""
    trench, over_m = plan.trench, -plan.run.route.cover_m
    widest = max(trench.dug, key=lambda piece: len(piece.stretch.carries), default=None)
    runs = [trench.runs[number] for number in widest.stretch.carries] if widest else [plan.run]
    lines = [run for run in runs for _ in range(run.conduits)]
    outsides = [run.outside_m for run in lines]
    thickest = max(outsides)
    half = (sum(outsides) + (len(outsides) - 1) * thickest) / 2
    side, foot = half + BESIDE_M, max(over_m - BEARER_M, 0.0)
    marks: list[Mark] = [
        box("soil", -side - 0.3, -0.2, side + 0.3, 0.0),
        line("ground", (-side - 0.3, 0.0), (side + 0.3, 0.0)),
        box("weight", -side, 0.0, side, foot),
        box("beam", -side, foot, side, over_m),
    ]
    left = -half
    for run in lines:
        marks += _end((left + run.outside_m / 2, over_m + run.outside_m / 2), run)
        left += run.outside_m + thickest
    sizes = dict.fromkeys(run.label for run in runs)
    spacing = format_value(trench.over.spacing_m, "run", units) if trench.over else ""
    marks += [
        line("strut", (-half - 0.03, over_m + thickest), (half + 0.03, over_m + thickest)),
        label(", ".join(sizes), (side + 0.04, over_m + thickest / 2), "strong", "start"),
        label(f"held every {spacing}", (0.0, -0.12), "strong"),
        dimension(format_value(over_m, "tape", units), (-side, 0.0), (-side, over_m), 8),
    ]
    return drawing(
        "across",
        "On a support, nothing in the ground",
        marks,
        low=(-side - 0.42, -0.22),
        high=(side + 0.42, over_m + thickest + 0.12),
    )


def _end(middle: tuple[float, float], run: Run) -> list[Mark]:
    """A pipe, bare wires, or cores in a ring under their armour, as they are seen when cut through."""
    radius = run.outside_m / 2
    if run.cable is None:
        return [area("copper-end" if run.conduit is None else "pipe-end", *_circle(middle, radius))]
    core, out = run.cable.core_m / 2, (run.cable.laid_up_m - run.cable.core_m) / 2
    turns = np.arange(run.cable.cores) * 2 * math.pi / run.cable.cores
    return [
        area("pipe-end", *_circle(middle, radius)),
        *(
            area(
                "copper-end",
                *_circle((middle[0] + out * math.sin(turn), middle[1] + out * math.cos(turn)), core),
            )
            for turn in turns.tolist()
        ),
    ]


def _across(plan: Plan, units: UnitSystem) -> Drawing:
    """The widest stretch, with everything that lies in it."""
    trench, cover = plan.trench, plan.run.route.cover_m
    # Of those as wide the one in which most lies.
    widest = max(
        trench.dug, key=lambda piece: (piece.width_m, len(piece.stretch.carries)), default=None
    )
    runs = [trench.runs[number] for number in widest.stretch.carries] if widest else [plan.run]
    width, depth = trench.width_m, trench.depth_m
    lines = [run for run in runs for _ in range(run.conduits)]
    outsides = [run.outside_m for run in lines]
    thickest = max(outsides)
    bottom = -depth
    cable = runs[0].conduit is None
    sand_top = trench.sand_over_m - cover if cable else -cover - thickest
    side = 0.32
    half = width / 2
    marks: list[Mark] = [
        area(
            "soil",
            (-half - side, 0.0),
            (-half, 0.0),
            (-half, bottom),
            (half, bottom),
            (half, 0.0),
            (half + side, 0.0),
            (half + side, bottom - 0.18),
            (-half - side, bottom - 0.18),
        ),
        box("backfill", -half, sand_top, half, 0.0),
        box("sand", -half, bottom, half, sand_top),
        line("ground", (-half - side, 0.0), (half + side, 0.0)),
        line("tape-warning", (-half * 0.7, -cover / 2), (half * 0.7, -cover / 2)),
        label("warning tape", (half + 0.04, -cover / 2), "note", "start"),
    ]
    # Side by side on the sand, as wide apart as the thickest is thick.
    data_m = trench.data.room_m if trench.data else 0.0
    left = -(sum(outsides) + (len(outsides) - 1) * thickest + data_m) / 2
    bed = -cover - thickest
    for run in lines:
        marks += _end((left + run.outside_m / 2, bed + run.outside_m / 2), run)
        left += run.outside_m + thickest
    if trench.data is not None:
        radius = trench.data.outside_m / 2
        at = (left - thickest + trench.data.apart_m + radius, bed + radius)
        marks += [
            area("pipe-end", *_circle(at, radius)),
            label("data", (at[0] - radius, at[1] + 0.05), "note", "end"),
        ]
    if trench.plates:
        reach = plates_across(tuple(runs)) * constant("common", "cover_plate_wide_m").value / 2
        # Over the power alone: data lies beside it.
        ends = (-reach - data_m / 2, reach - data_m / 2)
        marks.append(box("beam", ends[0], sand_top, ends[1], sand_top + PLATE_M))
        marks.append(label("plates", (half + 0.04, sand_top), "note", "start"))
    sizes = dict.fromkeys(run.label for run in runs)
    marks += [
        label(", ".join(sizes), (half + 0.04, -cover - thickest / 2), "strong", "start"),
        dimension(format_value(cover, "tape", units), (-half, -cover), (-half, 0.0), 8),
        dimension(format_value(depth, "tape", units), (-half, bottom), (-half, 0.0), 22),
        dimension(format_value(width, "tape", units), (-half, 0.0), (half, 0.0), 5),
    ]
    where = f", {widest.stretch.name}" if widest and len(trench.dug) > 1 else ""
    return drawing(
        "across",
        f"Across the trench{where}",
        marks,
        low=(-half - side - 0.12, bottom - 0.18),
        high=(half + side + 0.12, 0.16),
    )
