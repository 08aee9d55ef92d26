"""Footings side by side: each under this array to one scale, what it comes to, and which is advised."""

from openfurrow.core.compare.families import footings_of
from openfurrow.core.compare.footings import (
    COMES_OUT,
    MACHINES,
    WEATHER,
    Comes,
    comes_to,
    priced,
    recommended,
    stops_of,
)
from openfurrow.core.design import Design
from openfurrow.core.lacking import Lacking
from openfurrow.core.paths import in_array
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.beside import beside_drawings, edit, row_of, stops_words
from openfurrow.sheets.models import AskedSheet, Column, MendText, TableText


def choosing_sheet(design: Design, plan: Plan, units: UnitSystem) -> AskedSheet:
    """The open array on every family of footing. Raises Lacking before its footings can be told."""
    array = plan.array.id
    if not plan.has("footings"):
        raise Lacking(plan.lacking("footings"))
    own = design.array(array)
    chance = own.footings.stone_chance_per_m
    every = tuple(comes_to(one, design.materials, chance) for one in footings_of(design, array))
    return AskedSheet(
        drawings=beside_drawings(tuple((one.on.footing, one.on) for one in every)),
        tables=(_table(every, design.materials.currency, units), _words(every)),
        takes=tuple(
            MendText(
                words=f"Take {one.on.footing}"
                + (f" under a {one.on.structure}" if one.on.structure != own.structure.family else ""),
                edits=(
                    edit(in_array(array, "footings.family"), one.on.footing),
                    *(
                        (edit(in_array(array, "structure.family"), one.on.structure),)
                        if one.on.structure != own.structure.family
                        else ()
                    ),
                ),
            )
            for one in every
            if one.on.footing != own.footings.family
        ),
        note=f"{_advice(every, own.footings.family, own.footings.why, units)} Each with its own givens "
        "as they stand: one that stops may want another width or section. Hours are common practice in "
        f"the slowest soil met, until a crew's own are typed. {_priced(every)} "
        + (
            "How likely one is to go wrong is looked at by what test holes met alone."
            if chance is None
            else "Stones by the chance a metre that was said; what else goes wrong is not looked at."
        ),
    )


def _priced(every: tuple[Comes, ...]) -> str:
    """What the costs are of: the day of the oldest price, and what has none."""
    known = [one for one in every if any(line.cost is not None for line in one.cost.priced)]
    if not known:
        return "What each costs is not looked at: nothing has a price yet."
    days = [day for one in known if (day := one.cost.oldest)]
    said = f"Prices are of {min(days)} and later. " if days else "Prices say no day. "
    lacking = {line.line.item.split(",")[0] for one in known for line in one.cost.open}
    if lacking:
        said += f"Without a price: {', '.join(sorted(lacking))}. "
    if any(one.hour_cost is None for one in known):
        said += "An hour of work has no price. "
    return f"{said}Machines, and hauling, are not in the costs."


def _advice(every: tuple[Comes, ...], now: str, why: str, units: UnitSystem) -> str:
    """Which one is advised and why; what the planner says who took another."""
    best = recommended(every)
    if best is None:
        return "None is advised: each has a stop as it stands, or the schedule is not known."
    by = (
        "least cost of what is priced to its last line"
        if priced(every)
        else f"fewest hours of people ({format_value(best.hours or 0.0, 'hours', units)})"
    )
    rest = [one for one in every if stops_of(one.on)]
    without = f"{len(every) - len(rest)} of {len(every)} without a stop" if rest else "none has a stop"
    said = f"Advised: {best.on.footing}, {without}, and {by}."
    if now == best.on.footing:
        return said
    return f"{said} {now.capitalize()} was taken" + (f": {why}." if why else "; nobody said why.")


def _table(every: tuple[Comes, ...], currency: str, units: UnitSystem) -> TableText:
    """What each comes to, a column a family."""

    def row(title: str, values: list[float | None], kind: str) -> tuple[str, ...]:
        return row_of(title, values, kind, units)

    footed = [one.on.plan.footings if one.on.plan.has("footings") else None for one in every]
    posts = [None if one is None or one.weights else one.posts for one in footed]
    best = recommended(every)
    rows = (
        ("Possible", *("advised" if one is best else _possible(one) for one in every)),
        ("Under a", *(one.on.structure for one in every)),
        row("How many", [float(one.on.plan.structure.supports.count) for one in every], "count"),
        row("Depth", [None if one is None else one.depth_m for one in posts], "tape"),
        ("Governed by", *("" if one is None else one.modes[one.governing] for one in posts)),
        row("Weights", [one.ballast_kg for one in every], "haul"),
        row("Concrete", [one.concrete_m3 for one in every], "volume"),
        row("Bored out", [one.dug_m3 or None for one in every], "volume"),
        row("Steel", [one.on.steel_kg for one in every], "haul"),
        row("Hours of people", [one.hours for one in every], "hours"),
        *_cost_rows(every, currency, units),
        row("Days before load", [float(one.wait_days) for one in every], "count"),
        row(
            "Over a refusal",
            [None if one.stopped is None else float(one.stopped) for one in every],
            "count",
        ),
        *(
            (row("Stopped by a stone, on average", [one.stones for one in every], "factor"),)
            if any(one.stones is not None for one in every)
            else ()
        ),
    )
    return TableText(
        key="footings",
        title="On each",
        columns=(
            Column(title="Of this array", number=False),
            *(Column(title=one.on.footing.capitalize(), number=True) for one in every),
        ),
        rows=rows,
        left_out=0,
        note=" ".join(
            f"{one.on.footing.capitalize()}, {stops_words(one.on)}." for one in every if one.on.stops
        ),
    )


def _cost_rows(
    every: tuple[Comes, ...], currency: str, units: UnitSystem
) -> tuple[tuple[str, ...], ...]:
    """What materials and people cost, once anything has a price; never a sum that lacks some."""
    if not any(line.cost is not None for one in every for line in one.cost.priced):
        return ()
    known = [one.cost.known if one.cost.priced else None for one in every]
    some = [float(len(one.cost.open)) if one.cost.priced else None for one in every]
    return (
        row_of(f"Footings and frame, {currency}", known, "price", units),
        row_of("Lines without a price", some, "count", units),
        row_of(f"With the hours, {currency}", [one.comes_to for one in every], "price", units),
    )


def _words(every: tuple[Comes, ...]) -> TableText:
    """What each takes to put in, what stops it on a day, whether it comes out again."""
    titles = ("Footing", "Machine", "A day is lost to", "Comes out again")
    return TableText(
        key="words",
        title="What each takes",
        columns=tuple(Column(title=title, number=False) for title in titles),
        rows=tuple(
            (
                one.on.footing.capitalize(),
                *(told[one.on.footing] for told in (MACHINES, WEATHER, COMES_OUT)),
            )
            for one in every
        ),
        left_out=0,
        note="Over a refusal: how many stand where the nearest test hole was stopped above their foot.",
    )


def _possible(one: Comes) -> str:
    count = len(stops_of(one.on))
    return "yes" if not count else f"no, {count} stop{'s' * (count > 1)}"
