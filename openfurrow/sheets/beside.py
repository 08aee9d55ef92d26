"""One array on several families, drawn beside each other within the same bounds."""

import numpy as np

from openfurrow.core.compare.families import OnFamily
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.drawings.table import ground_z, soil_under, table_side
from openfurrow.sheets.marks import Drawing, drawing
from openfurrow.sheets.models import EditText

# Ground on both sides of a table, and below the deepest post.
BESIDE_M, BELOW_M = 0.7, 0.4
# So many stops of a family are named; more are counted.
NAMED = 3
# What goes deeper than any machine.
TOO_DEEP = frozenset({"drivable", "borable", "one_piece"})


def beside_drawings(every: tuple[tuple[str, OnFamily], ...]) -> tuple[Drawing, ...]:
    """The first table of each from its side; each comes with the name it is taken by."""
    plans = [one.plan for _, one in every]
    section = plans[0].rows.section
    left, right = -BESIDE_M, section.level_depth_m + BESIDE_M
    # What is too deep is cut off, that the others are seen.
    within = [one for _, one in every if not TOO_DEEP & {check.key for check in one.stops}]
    deepest = max(
        one.plan.footings.posts.depth_m if one.plan.has("footings") else 0.0
        for one in within or [one for _, one in every]
    )
    lowest = min(ground_z(plans[0], x) for x in np.linspace(left, right, 9).tolist())
    floor = lowest - deepest - BELOW_M
    top = max(plan.rows.section.lower_edge_m + plan.rows.section.rise_m for plan in plans)
    return tuple(
        drawing(
            name,
            name.capitalize(),
            [*soil_under(one.plan, left, right, floor), *table_side(one.plan, 0)],
            low=(left, floor),
            high=(right, top + BELOW_M),
        )
        for name, one in every
    )


def row_of(title: str, values: list[float | None], kind: str, units: UnitSystem) -> tuple[str, ...]:
    """A line of a list with a column a family; what is not known stays open."""
    said = ["" if value is None else format_value(value, kind, units) for value in values]
    return (title, *said)


def stops_words(one: OnFamily) -> str:
    """What would stop it, the first few by name."""
    more = len(one.stops) - NAMED
    named = "; ".join(check.title for check in one.stops[:NAMED])
    return f"not met: {named}" + (f", and {more} more" if more > 0 else "")


def edit(path: str, text: str) -> EditText:
    """One field put to a text."""
    return EditText(path=path, text=text)
