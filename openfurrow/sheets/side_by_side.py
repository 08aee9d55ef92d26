"""Designs side by side as a list: what each comes to, and where each differs from the first."""

from collections.abc import Sequence

from openfurrow.core.compare.figures import figures
from openfurrow.core.design import Design
from openfurrow.core.edits import differences
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.models import Column, TableText

# So many differences are named; more are counted.
NAMED = 12


def side_by_side(variants: Sequence[tuple[str, Design, Plan]], units: UnitSystem) -> TableText:
    """A column for each; the first is the one that the others are held against."""
    by_variant = [figures(plan) for _, _, plan in variants]
    rows = [
        (
            own[0].label,
            *("" if one.value is None else format_value(one.value, one.kind, units) for one in own),
        )
        for own in zip(*by_variant, strict=True)
    ]
    first = variants[0][1]
    differs = " ".join(
        f"{name} differs in: {_differs(first, other, units)}." for name, other, _ in variants[1:]
    )
    return TableText(
        key="variants",
        title="Side by side",
        columns=(
            Column(title="Of all arrays", number=False),
            *(Column(title=name, number=True) for name, _, _ in variants),
        ),
        rows=tuple(rows),
        left_out=0,
        note=f"{differs} Open: what a design lacks before it can be told.",
    )


def _differs(first: Design, other: Design, units: UnitSystem) -> str:
    found = differences(first, other, units)
    if not found:
        return "nothing"
    named = "; ".join(
        f"{one.label} {next(iter(one.after.splitlines()), 'none')}" for one in found[:NAMED]
    )
    return named + (f"; and {len(found) - NAMED} more" if len(found) > NAMED else "")
