"""Pitch against what modules earn and what the ground does, with the marks of three schools."""

from collections.abc import Sequence

from openfurrow.core.energy.pitches import PitchCurve, School
from openfurrow.core.quantities import UnitSystem, format_value, shown
from openfurrow.sheets.drawings.chart import HIGH, Axis, Chart, ticks
from openfurrow.sheets.marks import Anchor, Drawing, Mark, label, line

# The most, in per cent, with room for a line above it.
TOP = 104.0


def pitch_drawing(
    curves: Sequence[PitchCurve], schools: Sequence[School], now_m: float, units: UnitSystem
) -> Drawing:
    """Each way that modules may lie: falling lines are the ground's, rising ones the modules'."""
    chart = _chart(curves, schools, now_m, units)
    marks = [*_curves(chart, curves)]
    for number, school in enumerate(one for one in schools if one.pitch_m is not None):
        marks += _school(chart, school, number, units)
    marks.append(line("chart-now", chart.at(now_m, 0.0), chart.at(now_m, TOP)))
    ways = ["portrait" if curve.upright else "landscape" for curve in curves]
    which = (f"Thick: {ways[0]}, as now; thin: {ways[1]}.",) if len(ways) > 1 else ()
    return chart.drawn(
        "pitch",
        "What a wider pitch earns, and what it costs the ground",
        marks,
        (*which, "Dashed: the pitch as it is."),
    )


def _chart(
    curves: Sequence[PitchCurve], schools: Sequence[School], now_m: float, units: UnitSystem
) -> Chart:
    """From the closest pitch to the widest that is spoken of."""
    spoken = [one.pitch_m for one in schools if one.pitch_m is not None]
    low = min(now_m, *(float(curve.pitch_m[0]) for curve in curves)) * 0.97
    high = max(now_m, *spoken, *(float(curve.pitch_m[-1]) for curve in curves)) * 1.02
    length = shown("run", units)
    places = ticks(low / length.si_per_unit, high / length.si_per_unit, 8)
    return Chart(
        Axis(
            low,
            high,
            f"level from row to row, {length.unit}",
            tuple((one * length.si_per_unit, f"{one:g}") for one in places),
        ),
        Axis(0.0, TOP, "of the most, %", tuple((float(n), f"{n}") for n in range(0, 101, 20))),
    )


def _curves(chart: Chart, curves: Sequence[PitchCurve]) -> list[Mark]:
    """Of each way what a module and what the ground brings; the first is named."""
    most = max(float(curve.per_ground_h.max()) for curve in curves)
    marks: list[Mark] = []
    for number, curve in enumerate(curves):
        of_module, of_ground = curve.per_watt_h / curve.free_h, curve.per_ground_h / most
        marks += [
            chart.curve(f"chart-module-{number}", curve.pitch_m, 100 * of_module),
            chart.curve(f"chart-ground-{number}", curve.pitch_m, 100 * of_ground),
        ]
    first = curves[0]
    middle = len(first.pitch_m) * 2 // 3
    x, y = chart.at(float(first.pitch_m[middle]), 100 * float(first.per_ground_h[middle]) / most)
    return [
        *marks,
        label("each module", (x, 87 * HIGH / TOP), "strong", "start"),
        label("each area of ground", (x, y + 2), "strong", "start"),
    ]


def _school(chart: Chart, school: School, number: int, units: UnitSystem) -> list[Mark]:
    """An upright line with the school's name beside its foot, one over the other."""
    pitch_m = school.pitch_m or 0.0
    foot, head = chart.at(pitch_m, 0.0), chart.at(pitch_m, 100.0)
    words = f"{school.name} {format_value(pitch_m, 'run', units)}"
    side: Anchor = "start" if foot[0] < 110 else "end"
    aside = 1.0 if side == "start" else -1.0
    at = foot[0] + aside, 3.0 + 7.5 * number
    return [line("chart-mark", foot, head), label(words, at, "note", side)]
