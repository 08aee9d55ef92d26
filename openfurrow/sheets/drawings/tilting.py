"""What other tilts and turns bring, and settings that follow the seasons."""

from collections.abc import Sequence

import numpy as np

from openfurrow.core.energy.seasons import SeasonPlan
from openfurrow.core.energy.tilts import Curve
from openfurrow.core.year_days import DAYS, DAYS_OF_MONTH, SHORT_MONTHS
from openfurrow.sheets.drawings.chart import HIGH, Axis, Chart, plain, ticks
from openfurrow.sheets.marks import Drawing, Mark, Point, label, line


def curve_drawing(key: str, title: str, across: str, curve: Curve, now_deg: float | None) -> Drawing:
    """Full hours of a year over tilts or turns, with what is, if that is on it, and what is best."""
    hours, (best, most) = curve.year_h, curve.best
    low, high = float(hours.min()) * 0.97, most * 1.02
    chart = Chart(
        Axis(
            float(curve.at_deg[0]),
            float(curve.at_deg[-1]),
            across,
            tuple((one, f"{one:.0f}°".replace("-", "−")) for one in _degrees(curve)),
        ),
        Axis(low, high, "kWh/kW a year", tuple((one, plain(one)) for one in ticks(low, high))),
    )
    fine = np.linspace(curve.at_deg[0], curve.at_deg[-1], 121)
    marks: list[Mark] = [
        chart.curve("chart-line", fine, np.array([curve.year_at(one) for one in fine.tolist()])),
        line("chart-mark", chart.at(best, low), chart.at(best, most)),
        label(f"best {best:.0f}°".replace("-", "−"), (chart.at(best, low)[0], HIGH * 0.97), "strong"),
        *(() if now_deg is None else _now(chart, curve, now_deg)),
    ]
    return chart.drawn(key, title, marks)


def _now(chart: Chart, curve: Curve, now_deg: float) -> tuple[Mark, ...]:
    """Where it is set now, and what is lost by that."""
    (best, most), now, low = curve.best, curve.year_at(now_deg), chart.up.low
    foot = chart.at(now_deg, low)
    near = abs(chart.at(best, low)[0] - foot[0]) < 24
    side = 1 if now_deg >= best else -1
    return (
        line("chart-now", foot, chart.at(now_deg, now)),
        label(
            f"now {now_deg:.0f}°: {(1 - now / most) * 100:.1f} % less".replace("-", "−"),
            (foot[0] + side * 3, 6.0 if near else 14.0),
            "note",
            "start" if side > 0 else "end",
        ),
    )


def _degrees(curve: Curve) -> tuple[float, ...]:
    return tuple(float(one) for one in np.arange(curve.at_deg[0], curve.at_deg[-1] + 1e-9, 15.0))


def seasons_drawing(plans: Sequence[tuple[str, SeasonPlan]], latitude_deg: float) -> Drawing:
    """The year as a strip: each way of setting the tilt as steps, beside what the noon sun asks for."""
    starts = np.concatenate(([0], np.cumsum(DAYS_OF_MONTH)[:-1]))
    chart = Chart(
        Axis(
            0.0,
            float(DAYS),
            "",
            tuple((float(day) + 15.0, name) for day, name in zip(starts, SHORT_MONTHS, strict=True)),
        ),
        Axis(
            0.0,
            75.0,
            "tilt",
            tuple((one, f"{one:.0f}°") for one in (0.0, 15.0, 30.0, 45.0, 60.0, 75.0)),
        ),
    )
    days = np.arange(0, DAYS + 1, 5.0)
    declination = -23.44 * np.cos(2 * np.pi * (days + 10) / DAYS)
    noon = np.clip(abs(latitude_deg) - np.sign(latitude_deg or 1.0) * declination, 0.0, 75.0)
    marks: list[Mark] = [chart.curve("ray", days, noon)]
    for number, (_, plan) in enumerate(plans):
        points: list[Point] = []
        for day in range(DAYS):
            tilt = plan.on(day).tilt_deg
            if not points or points[-1][1] != tilt:
                points += [(float(day), points[-1][1])] if points else []
                points.append((float(day), tilt))
        points.append((float(DAYS), points[-1][1]))
        marks.append(line(f"chart-way-{number}", *(chart.at(*one) for one in points)))
        marks += [
            label(
                f"{one.tilt_deg:.0f}°",
                (chart.at(one.from_day + 3, 0)[0], chart.at(0, one.tilt_deg)[1] + 1.4),
                "strong",
                "start",
            )
            for one in (plan.settings if number == 0 else ())
        ]
    names = ", ".join(
        f"{way}: {name}" for way, (name, _) in zip(("thick", "dashed", "thin"), plans, strict=False)
    )
    return chart.drawn(
        "seasons",
        "Tilts through the year",
        marks,
        (f"{names[:1].upper()}{names[1:]}.", "Marigold: the tilt that looks into the sun at noon."),
    )
