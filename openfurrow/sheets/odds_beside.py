"""Odds of every family of footing on one chart: in how many jobs it takes no more than so much."""

from collections.abc import Sequence
from typing import get_args

import numpy as np

from openfurrow.core.compare.risk import COVERS, Odds
from openfurrow.core.compare.risk_beside import FamilyOdds
from openfurrow.core.footings.families import FamilyName
from openfurrow.core.quantities import UnitSystem, format_value, shown
from openfurrow.sheets.drawings.chart import Axis, Chart, plain, short, ticks
from openfurrow.sheets.marks import Drawing, Mark, dot, label
from openfurrow.sheets.models import Column, TableText

# Each has a line of its own, whichever of them are compared.
FAMILIES = get_args(FamilyName)
# Points of a curve, and at what height the first name stands on its own, each next one lower.
POINTS, FIRST_NAME, NEXT_NAME = 101, 0.9, 0.16


def beside_charts(
    every: tuple[FamilyOdds, ...], units: UnitSystem, currency: str
) -> tuple[Drawing, ...]:
    """Hours family by family, and what each costs where all of it has a price."""
    found = [_curves("hours_beside", [(one.footing, one.hours) for one in every], units, "")]
    costs = [(one.footing, one.cost) for one in every if one.cost is not None]
    if len(costs) > 1:
        found.append(_curves("cost_beside", costs, units, f", {currency}"))
    return tuple(found)


def _curves(
    key: str, every: Sequence[tuple[FamilyName, Odds]], units: UnitSystem, unit_words: str
) -> Drawing:
    """One curve a family: across what it takes, up in how many of a hundred jobs that is enough."""
    kind = every[0][1].kind
    unit = shown(kind, units)
    scale, words = unit.si_per_unit, unit_words or (f", {unit.unit}" if unit.unit else "")
    low = min(float(one.values[0]) for _, one in every)
    high = max(float(one.values[-1]) for _, one in every)
    pad = 0.05 * (high - low) or 0.5
    title = every[0][1].title
    chart = Chart(
        Axis(
            low - pad,
            high + pad,
            title + words,
            tuple((at * scale, short(at)) for at in ticks((low - pad) / scale, (high + pad) / scale)),
        ),
        Axis(
            0.0,
            1.0,
            "enough in so many of 100 jobs",
            tuple((at / 100, plain(at)) for at in ticks(0.0, 100.0, 5)),
        ),
    )
    shares = np.linspace(0.0, 1.0, POINTS)
    marks: list[Mark] = []
    for number, (name, one) in enumerate(every):
        values = np.array([one.at(share) for share in shares.tolist()])
        marks.append(chart.curve(f"chart-family-{FAMILIES.index(name)}", values, shares))
        planned = float((one.values <= one.planned + 1e-9).mean())
        marks.append(dot("chart-dot", chart.at(one.planned, planned)))
        height = FIRST_NAME - number * NEXT_NAME
        x, y = chart.at(one.at(height), height)
        right = chart.across.share(one.at(height)) < 0.6
        marks.append(label(name, (x + (2 if right else -2), y), "note", "start" if right else "end"))
    return chart.drawn(key, f"{title}, family by family", marks)


def beside_table(every: tuple[FamilyOdds, ...], units: UnitSystem, currency: str) -> TableText:
    """Each family a row: half of the jobs, 19 of 20, and what is reckoned with."""
    priced = any(one.cost is not None for one in every)
    poured = any(one.concrete is not None for one in every)

    def of(odds: Odds | None, share: float | None) -> str:
        if odds is None:
            return ""
        value = odds.planned if share is None else odds.at(share)
        return format_value(value, odds.kind, units)

    heads = (
        "Stopped, 19 of 20",
        *("Hours reckoned", "half the jobs", "19 of 20"),
        *(("Concrete drawn", "19 of 20") if poured else ()),
        *((f"Cost reckoned, {currency}", "19 of 20") if priced else ()),
    )
    rows = tuple(
        (
            one.footing.capitalize(),
            of(one.stopped, COVERS),
            *(of(one.hours, share) for share in (None, 0.5, COVERS)),
            *((of(one.concrete, None), of(one.concrete, COVERS)) if poured else ()),
            *((of(one.cost, None), of(one.cost, COVERS)) if priced else ()),
        )
        for one in every
    )
    return TableText(
        key="odds_beside",
        title="Each family by trials of its own",
        columns=(
            Column(title="Footing", number=False),
            *(Column(title=head, number=True) for head in heads),
        ),
        rows=rows,
        left_out=0,
        note="A stone costs hours here, and more concrete costs its price; a post that is spoilt by "
        "it, and a day that is lost, are not counted. Dots stand where each is reckoned with.",
    )
