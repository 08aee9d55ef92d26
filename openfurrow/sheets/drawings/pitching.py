"""Pitch against what modules earn and what the ground does, with the marks of three schools."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from openfurrow.core.energy.pitches import PitchCurve
from openfurrow.core.quantities import UnitSystem, format_value, shown
from openfurrow.sheets.drawings.chart import HIGH, Axis, Chart, ticks
from openfurrow.sheets.marks import Drawing, Mark, label, line


@dataclass(frozen=True)
class School:
    """A way to choose the pitch, and what it comes to; none where it cannot be had."""

    key: str
    name: str
    pitch_m: float | None


def pitch_drawing(
    curves: Sequence[PitchCurve], schools: Sequence[School], now_m: float, units: UnitSystem
) -> Drawing:
    """Both ways the modules may lie: falling lines are the ground's, rising ones the modules'."""
    far = [one.pitch_m for one in schools if one.pitch_m is not None and math.isfinite(one.pitch_m)]
    low = float(min(curve.pitch_m[0] for curve in curves))
    high = max(float(min(curve.pitch_m[-1] for curve in curves)), *far, now_m) * 1.02
    length = shown("run", units)
    places = ticks(low / length.si_per_unit, high / length.si_per_unit, 8)
    chart = Chart(
        Axis(
            low * 0.97,
            high,
            f"level from row to row, {length.unit}",
            tuple((one * length.si_per_unit, f"{one:g}") for one in places),
        ),
        Axis(0.0, 104.0, "of the most, %", tuple((float(n), f"{n}") for n in range(0, 101, 20))),
    )
    marks: list[Mark] = []
    most = max(float(curve.per_ground_h.max()) for curve in curves)
    for number, curve in enumerate(curves):
        inside = (curve.pitch_m >= low * 0.97) & (curve.pitch_m <= high)
        pitch = curve.pitch_m[inside]
        of_module = 100 * curve.per_watt_h[inside] / curve.free_h
        of_ground = 100 * curve.per_ground_h[inside] / most
        marks += [
            chart.curve(f"chart-module-{number}", pitch, of_module),
            chart.curve(f"chart-ground-{number}", pitch, of_ground),
        ]
        if not number:
            end = len(pitch) - 1
            middle = end * 2 // 3
            marks += [
                label(
                    "each module",
                    (chart.at(float(pitch[middle]), 0)[0], 87 * HIGH / 104),
                    "strong",
                    "start",
                ),
                label(
                    "each area of ground",
                    (
                        chart.at(float(pitch[middle]), 0)[0],
                        chart.at(0, float(of_ground[middle]))[1] + 2,
                    ),
                    "strong",
                    "start",
                ),
            ]
    for number, school in enumerate(one for one in schools if one.pitch_m is not None):
        pitch_m = float(school.pitch_m or 0.0)
        if not math.isfinite(pitch_m):
            continue
        foot, head = chart.at(pitch_m, 0.0), chart.at(pitch_m, 100.0)
        marks += [
            line("chart-mark", foot, head),
            label(
                f"{school.name} {format_value(pitch_m, 'run', units)}",
                (foot[0] + 1.0, 3.0 + 7.5 * number),
                "note",
                "start" if foot[0] < 110 else "end",
            ),
        ]
    marks.append(line("chart-now", chart.at(now_m, 0.0), chart.at(now_m, 104.0)))
    ways = ["portrait" if curve.upright else "landscape" for curve in curves]
    return chart.drawn(
        "pitch",
        "What a wider pitch earns, and what it costs the ground",
        marks,
        (f"Thick: {ways[0]}, as now; thin: {ways[1]}.", "Dashed: the pitch as it is."),
    )


def interpolated(curve: PitchCurve, pitch_m: float) -> tuple[float, float]:
    """Full hours of a watt, and share lost, at a pitch."""
    return float(np.interp(pitch_m, curve.pitch_m, curve.per_watt_h)), curve.lost_at(pitch_m)
