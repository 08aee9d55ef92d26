"""What a year brings month by month, and where its light is lost on the way to the meter."""

import numpy as np

from openfurrow.core.energy.answers import LOSSES
from openfurrow.core.energy.plan import EnergyPlan
from openfurrow.core.energy.year import LOST
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.core.year_days import DAYS, DAYS_OF_MONTH, MONTHS, SHORT_MONTHS
from openfurrow.sheets.drawings.chart import Axis, Chart, plain, ticks
from openfurrow.sheets.marks import Drawing, Mark, box, drawing, label, line
from openfurrow.sheets.models import Column, TableText

# A bar's half width, of the room of a month.
HALF = 0.34
ABOVE = "As far as what else was said: of the array that is open. From the wires on: of all arrays."


def months_drawing(plan: Plan, units: UnitSystem) -> Drawing:
    """A bar a month at the meter, how far it may be off, and what is used beside it."""
    energy = plan.energy
    kwh = energy.by_month_wh / 1000
    band = energy.sky.band
    used = None if energy.use is None else energy.use.wanted_wh / 1000 * DAYS_OF_MONTH / DAYS
    top = float(kwh.max() * (1 + band)) if used is None else max(kwh.max() * (1 + band), used.max())
    top = max(float(top) * 1.06, 1.0)
    chart = Chart(
        Axis(-0.6, 11.6, "", tuple(enumerate(SHORT_MONTHS))),
        Axis(0.0, top, "kWh at the meter", tuple((one, plain(one)) for one in ticks(0, top))),
    )
    marks: list[Mark] = []
    for month, value in enumerate(kwh.tolist()):
        foot, head = chart.at(month - HALF, 0.0), chart.at(month + HALF, value)
        marks.append(box("chart-bar", *foot, *head))
        low, high = (chart.at(month, value * (1 + side * band)) for side in (-1, 1))
        marks.append(line("chart-band", low, high))
        text = format_value(value * 1000, "energy", units).removesuffix(" kWh")
        marks.append(label(text, (high[0], high[1] + 1.2), "strong"))
        if used is not None:
            ends = (chart.at(month + side * 0.46, float(used[month])) for side in (-1, 1))
            marks.append(line("chart-use", *ends))
    words = [f"Thin upright lines: {band * 100:.0f} % lower or higher, a year's weather."]
    if used is not None:
        words.append("Across: what is used in the month.")
    return chart.drawn("months", "What the year brings, month by month", marks, tuple(words))


def months_table(plan: Plan, units: UnitSystem) -> TableText:
    """The same as a list."""
    energy = plan.energy
    light = energy.arrays[plan.open].light.open_month_h
    titles = ("Month", "Light on the plane", "At the meter", "A day", "For each kW")
    rows = tuple(
        (
            MONTHS[month].capitalize(),
            format_value(float(light[month]), "irradiation", units),
            format_value(float(energy.by_month_wh[month]), "energy", units),
            format_value(
                float(energy.by_month_wh[month]) / int(DAYS_OF_MONTH[month]), "small_energy", units
            ),
            format_value(float(energy.by_month_wh[month]) / energy.watts, "full_hours", units),
        )
        for month in range(12)
    )
    return TableText(
        key="months",
        title="Month by month",
        columns=tuple(Column(title=one, number=number > 0) for number, one in enumerate(titles)),
        rows=rows,
        left_out=0,
        note="Light: on the open plane of the array that is open.",
    )


def losses_drawing(plan: Plan) -> Drawing:
    """Bar under bar: what is left of the light after each loss, down to the meter."""
    steps = _steps(plan.energy, plan.open)
    top, room = max(1.0, *(left for _, left in steps)), 100.0 / len(steps)
    marks: list[Mark] = []
    before = 1.0
    for number, (words, left) in enumerate(steps):
        high = 100.0 - (number + 0.16) * room
        low = high - 0.68 * room
        wide, was = (160.0 * share / top for share in (left, before))
        marks.append(box("chart-bar", 0.0, low, wide, high))
        if number and abs(was - wide) > 1e-6:
            layer = "chart-lost" if was > wide else "chart-won"
            marks.append(box(layer, min(wide, was), low, max(wide, was), high))
        change = (left / before - 1.0) * 100 if number and before else 0.0
        said = f"{change:+.1f} %".replace("-", "−") if number else ""
        middle = (low + high) / 2 - 1.3
        marks.append(label(words, (-2.0, middle), "note", "end"))
        if said:
            marks.append(label(said, (max(wide, was) + 2.0, middle), "strong", "start"))
        before = left
    return drawing(
        "losses",
        "From the light on the open plane to the meter",
        [*marks, line("chart-foot", (0.0, 0.0), (0.0, 100.0))],
        low=(-52.0, -2.0),
        high=(178.0, 102.0),
        to_scale=False,
    ).model_copy(update={"legend": (ABOVE,) if plan.several else ()})


def _steps(energy: EnergyPlan, number: int) -> list[tuple[str, float]]:
    """Shares of the light on the open plane; behind the strings those of all arrays together."""
    array = energy.arrays[number]
    found = [("light on the plane", 1.0)]
    found += [(LOSSES[name].takes, left) for name, left in zip(LOST, array.light.left, strict=True)]
    if not array.panel.back:
        found = [step for step in found if step[0] != LOSSES["back"].takes]
    last = found[-1][1]
    strings = max(energy.sums_wh[0], 1e-9)
    shares = np.array(energy.sums_wh[1:]) / strings * last
    names = ("wires to the inverter", "inverter", "its limit", "wires behind it")
    found += list(zip(names, shares.tolist(), strict=True))
    return found
