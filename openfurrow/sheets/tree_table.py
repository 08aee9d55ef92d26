"""The list as a tree, each branch over what hangs on it, set in by its level."""

from openfurrow.core.design import Design
from openfurrow.core.materials.tree import Branch, tree_of
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value, in_words
from openfurrow.sheets.models import Column, TableText

# Spaces that no browser and no paper runs together.
SET_IN = "\u2003"
# A large job has a few hundred branches.
SHOWN_BRANCHES = 600


def tree_table(plan: Plan, design: Design, units: UnitSystem) -> TableText:
    """One line a branch; costs where anything has a price."""
    cost = plan.materials.cost
    names = tuple(one.name for one in design.arrays)
    branches = tree_of(cost.priced, names)
    priced = any(one.cost is not None for one in cost.priced)
    titles = [("Part of", False), ("Order", True), ("Weight", True)]
    if priced:
        titles += [(f"Cost, {design.materials.currency}", True), ("Not priced", True)]
    return TableText(
        key="tree",
        title="By array, stage and what is put together",
        columns=tuple(Column(title=title, number=number) for title, number in titles),
        rows=tuple(_row(one, units, priced=priced) for one in branches[:SHOWN_BRANCHES]),
        left_out=max(0, len(branches) - SHOWN_BRANCHES),
        note="What is ordered together is shared out by what each array takes of it, sticks by what is "
        "cut of them.",
    )


def _row(one: Branch, units: UnitSystem, *, priced: bool) -> tuple[str, ...]:
    name = in_words(one.name, units)
    found = (
        f"{SET_IN * one.level}{name[:1].upper()}{name[1:]}",
        "" if one.quantity is None else _amount(one.quantity, one.kind, units),
        format_value(one.mass_kg, "haul", units) if one.mass_kg else "",
    )
    if not priced:
        return found
    money = format_value(one.cost, "price", "metric") if one.cost else ""
    return (*found, money, str(one.unpriced) if one.unpriced else "")


def _amount(quantity: float, kind: str, units: UnitSystem) -> str:
    """A share of what is counted may be a part of one."""
    if kind == "count" and abs(quantity - round(quantity)) > 0.05:
        return f"{quantity:.1f}"
    return format_value(quantity, kind, units)
