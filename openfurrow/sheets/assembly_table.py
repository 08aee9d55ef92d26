"""The order of assembly as a list for the crew."""

from openfurrow.core.frame.assembly import steps_of
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, in_words
from openfurrow.sheets.models import Column, TableText


def assembly_table(plan: Plan, units: UnitSystem) -> TableText:
    """One line a step, numbered as they are done."""
    titles = (("Step", True), ("Do", False), ("Takes", False), ("Mind", False))
    return TableText(
        key="assembly",
        title="In this order",
        columns=tuple(Column(title=title, number=number) for title, number in titles),
        rows=tuple(
            (
                str(number),
                in_words(step.do, units),
                "; ".join(f"{count} x {title[:1].lower()}{title[1:]}" for title, count in step.takes),
                in_words(step.mind, units),
            )
            for number, step in enumerate(steps_of(plan.rows, plan.structure, plan.frame), start=1)
        ),
        left_out=0,
        note="Snug is what a short wrench gives with one hand. The frame's own instructions go before "
        "this list.",
    )
