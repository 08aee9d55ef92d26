"""What may go wrong: how often which number comes out, with what is ordered marked on it."""

import numpy as np

from openfurrow.core.as_built import book_of
from openfurrow.core.compare.risk import COVERS, SEED, Odds, odds_of
from openfurrow.core.compare.risk_beside import odds_beside
from openfurrow.core.design import Design
from openfurrow.core.lacking import Lacking
from openfurrow.core.paths import in_array
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value, shown
from openfurrow.sheets.beside import edit
from openfurrow.sheets.drawings.chart import Axis, Chart, plain, short, ticks
from openfurrow.sheets.marks import Drawing, area, label, line
from openfurrow.sheets.models import AskedSheet, Column, MendText, TableText
from openfurrow.sheets.odds_beside import beside_charts, beside_table

BARS = 24
# No chance is typed that is larger.
MOST_CHANCE = 0.9
# So many tests of one kind in one soil say how much its strength spreads; what spread can be typed.
LEAST_TESTS, LEAST_SPREAD, MOST_SPREAD = 3, 0.01, 0.6
PLANNED = {
    "stopped": "reckoned with",
    "hours": "reckoned with",
    "weak": "reckoned with",
    "concrete": "ordered, with waste",
}


def odds_sheet(design: Design, plan: Plan, units: UnitSystem) -> AskedSheet:
    """The odds of the open array. Raises Lacking before its footings can be told."""
    if not plan.has("footings"):
        raise Lacking(plan.lacking("footings"))
    givens, currency = design.array(plan.array.id).footings, design.materials.currency
    every, families = odds_of(plan, givens, design.materials), odds_beside(design, plan.array.id)
    return AskedSheet(
        drawings=(
            # Hours go with what is stopped.
            *(_drawn(one, units) for one in every if one.key != "hours"),
            *(beside_charts(families, units, currency) if families else ()),
        ),
        tables=(
            *((_table(every, units),) if every else ()),
            *((beside_table(families, units, currency),) if families else ()),
        ),
        takes=(*_learned(plan), *_spread_found(plan)),
        note=_note(plan, every),
    )


def _learned(plan: Plan) -> tuple[MendText, ...]:
    """The chance that the field book of this array met, where anything was driven or bored."""
    if "fieldbook" not in plan.built:
        return ()
    down = [one for one in book_of(plan).posts if one.array == plan.array.id and one.depth_m]
    metres = sum(one.depth_m or 0.0 for one in down)
    stopped = sum(one.refused for one in down)
    if not stopped or stopped / metres > MOST_CHANCE:
        return ()
    chance = f"{100 * stopped / metres:.3g} %"
    return (
        MendText(
            words=f"Take what the field book met: {stopped} of {len(down)} stopped, {chance} a metre",
            edits=(edit(in_array(plan.array.id, "footings.stone_chance_per_m"), chance),),
        ),
    )


def _spread_found(plan: Plan) -> tuple[MendText, ...]:
    """The spread that tests in one soil found, where there are enough of one kind to say any."""
    strengths = [
        one
        for kind in plan.footings.posts.kinds
        for one in (kind.ground.proved.pulled, kind.ground.proved.pressed, kind.ground.proved.sideways)
        if one is not None and one.shares.size >= LEAST_TESTS and one.spread >= LEAST_SPREAD
    ]
    if not strengths:
        return ()
    widest = max(strengths, key=lambda one: one.spread)
    spread = f"{100 * min(widest.spread, MOST_SPREAD):.3g} %"
    return (
        MendText(
            words=f"Take the spread that {widest.shares.size} tests found: {spread}",
            edits=(edit(in_array(plan.array.id, "footings.strength_spread"), spread),),
        ),
    )


def _note(plan: Plan, every: tuple[Odds, ...]) -> str:
    if plan.footings.weights is not None:
        return "Weights enter nothing: nothing stops them on their way."
    if not every:
        return (
            "Nobody has said any chance, so nothing is looked at. Type the chance of a stone, by how "
            "much bores differ, or by how much the ground's strength spreads, among the givens: a "
            "guess counts as the planner's own."
        )
    trials = format_value(float(every[0].values.size), "count", "metric")
    return (
        f"{trials} trials, drawn with seed {SEED}: the same givens give the same odds. "
        "Chances are the planner's own. What is shared by the whole job moves all footings together, "
        "the rest each by itself. "
        + (
            "Weak ground: by how much tests spread, about what is planned with; such a footing eats "
            "into its safety, and does not fall. Weather is not looked at."
            if any(one.key == "weak" for one in every)
            else "Soil weaker than its class, and weather, are not looked at."
        )
    )


def _bars(one: Odds) -> tuple[np.ndarray, np.ndarray]:
    """Edges and the share of the trials between them; whole numbers get a bar each where few."""
    low, high = float(one.values[0]), float(one.values[-1])
    if one.kind == "count" and high - low < BARS:
        edges = np.arange(low - 0.5, high + 1.0)
    else:
        edges = np.linspace(low, max(high, low + 1e-6), BARS + 1)
    counts, _ = np.histogram(one.values, edges)
    return edges, counts / one.values.size


def _drawn(one: Odds, units: UnitSystem) -> Drawing:
    """Bars of how often, a line where what is planned lies, one where 19 of 20 are covered."""
    edges, shares = _bars(one)
    unit = shown(one.kind, units)
    covers = one.at(COVERS)
    low, high = min(edges[0], one.planned), max(edges[-1], one.planned, covers)
    pad = 0.04 * (high - low) or 0.5
    scale = unit.si_per_unit
    across = Axis(
        low - pad,
        high + pad,
        one.title + (f", {unit.unit}" if unit.unit else ""),
        tuple(
            (at * scale, short(at))
            for at in ticks((low - pad) / scale, (high + pad) / scale)
            if one.kind != "count" or at == round(at)
        ),
    )
    top = float(shares.max()) * 1.15
    up = Axis(0.0, top, "of 100 jobs", tuple((at / 100, plain(at)) for at in ticks(0.0, top * 100, 5)))
    chart = Chart(across, up)
    marks = [
        area(
            "chart-bar",
            chart.at(start, 0.0),
            chart.at(stop, 0.0),
            chart.at(stop, share),
            chart.at(start, share),
        )
        for start, stop, share in zip(edges[:-1], edges[1:], shares, strict=True)
        if share > 0
    ]
    for layer, at, words, height in (
        ("chart-use", one.planned, PLANNED[one.key], 0.93),
        ("chart-line", covers, "19 of 20 jobs", 0.83),
    ):
        marks.append(line(layer, chart.at(at, 0.0), chart.at(at, top)))
        x, y = chart.at(at, top * height)
        right = chart.across.share(at) < 0.6
        marks.append(
            label(words, (x + (1.5 if right else -1.5), y), "note", "start" if right else "end")
        )
    return chart.drawn(one.key, one.title, marks)


def _table(every: tuple[Odds, ...], units: UnitSystem) -> TableText:
    cheapest = any(one.cheapest is not None for one in every)
    titles = (
        *("Of this array", "Half the jobs", "19 of 20 jobs", "Planned", "Short in", "Left over"),
        *(("Cheapest order",) if cheapest else ()),
    )

    def row(one: Odds) -> tuple[str, ...]:
        values = (one.at(0.5), one.at(COVERS), one.planned)
        return (
            one.title,
            *(format_value(value, one.kind, units) for value in values),
            f"{100 * one.short:.0f} of 100 jobs",
            format_value(one.left, one.kind, units) if one.key == "concrete" else "",
            *(
                (format_value(one.cheapest, one.kind, units) if one.cheapest is not None else "",)
                if cheapest
                else ()
            ),
        )

    return TableText(
        key="odds",
        title="Odds",
        columns=tuple(Column(title=title, number=number > 0) for number, title in enumerate(titles)),
        rows=tuple(row(one) for one in every),
        left_out=0,
        note="Left over: on average, of what is ordered. A second truck costs a day; what is left over "
        "has to go somewhere: have a form ready.",
    )
