"""What the material list costs, as lists: stage by stage, and line by line."""

from openfurrow.core.materials.givens import MaterialsGivens
from openfurrow.core.materials.prices import Cost, Priced
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value, in_words
from openfurrow.sheets.models import Column, TableText


def priced_table(plan: Plan, units: UnitSystem) -> TableText:
    """Every line with its price and what it comes to."""
    titles = (("Item", False), ("Order", True), ("Price", True), ("Cost", True), ("From", False))
    return TableText(
        key="priced",
        title="Line by line",
        columns=tuple(Column(title=title, number=number) for title, number in titles),
        rows=tuple(
            (
                in_words(one.line.item, units),
                format_value(one.line.quantity, one.line.kind, units),
                *_price_cells(one),
                one.price.quoted_by if one.price else "",
            )
            for one in plan.materials.cost.priced
        ),
        left_out=0,
        note="By weight: what the plan knows the weight of, waste and spares included.",
    )


def _price_cells(one: Priced) -> tuple[str, str]:
    """A line's price with what it is for, and what the line comes to; else why it has none."""
    if one.price is None or one.cost is None:
        return one.why, ""
    per = "" if one.price.per == "piece" else f" / {one.price.per}"
    amount = format_value(one.price.price or 0.0, "price", "metric")
    return f"{amount}{per}", format_value(one.cost, "price", "metric")


def costs_table(plan: Plan, bought: MaterialsGivens) -> TableText:
    """What every stage comes to, with tax in all; how many of its lines have no price."""
    cost, currency, tax = plan.materials.cost, bought.currency, bought.tax
    stages = tuple(dict.fromkeys(one.line.stage for one in cost.priced))
    told = [(stage, cost.of_stage(stage)) for stage in stages]

    def money(value: float) -> str:
        return format_value(value, "price", "metric")

    def row(words: str, one: Cost) -> tuple[str, ...]:
        return (words, money(one.known), f"{len(one.open)}" if one.open else "")

    taxed = (("Tax", money(cost.known * tax), ""),) if tax else ()
    used = {one.price.id for one in cost.priced if one.price}
    idle = sum(one.price is not None and one.id not in used for one in bought.prices)
    fits = f"{idle} price{'s' * (idle > 1)} fit nothing in the list. " if idle else ""
    oldest = f"The oldest price is of {cost.oldest}. " if cost.oldest else ""
    return TableText(
        key="costs",
        title=f"What materials cost, {currency}",
        columns=(
            Column(title="Stage", number=False),
            Column(title=f"Cost, {currency}", number=True),
            Column(title="Lines without a price", number=True),
        ),
        rows=(
            *(row(stage, one) for stage, one in told),
            *taxed,
            ("All", money(cost.known * (1 + tax)), f"{len(cost.open)}" if cost.open else ""),
        ),
        left_out=0,
        note=f"{oldest}{fits}Work, machines and what is hauled are not in it.",
    )
