"""Families of structure side by side: each on this ground to one scale, with what it comes to."""

import numpy as np

from openfurrow.core.compare.families import OnFamily, families_of
from openfurrow.core.design import Design
from openfurrow.core.lacking import Lacking
from openfurrow.core.paths import in_array
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.drawings.table import ground_z, soil_under, table_side
from openfurrow.sheets.marks import Drawing, drawing
from openfurrow.sheets.models import AskedSheet, Column, EditText, MendText, TableText

# Ground on both sides of a table, and below the deepest post.
BESIDE_M, BELOW_M = 0.7, 0.4
# So many stops of a family are named; more are counted.
NAMED = 3


def families_sheet(design: Design, plan: Plan, units: UnitSystem) -> AskedSheet:
    """The open array on every family. Raises Lacking before its structure can be told."""
    array = plan.array.id
    if not plan.has("structure"):
        raise Lacking(plan.lacking("structure"))
    every = families_of(design, array)
    now = design.array(array).structure.family
    path = in_array(array, "structure.family")
    return AskedSheet(
        drawings=_drawings(every),
        tables=(_table(every, units),),
        takes=tuple(
            MendText(
                words=f"Take {one.name}",
                edits=(
                    EditText(path=path, text=one.name),
                    *(
                        (EditText(path=in_array(array, "footings.family"), text=one.footing),)
                        if one.footing != design.array(array).footings.family
                        else ()
                    ),
                ),
            )
            for one in every
            if one.name != now
        ),
        note="Each with its own givens as they stand: one that stops may want another profile or span. "
        "Posts are driven; a ballast frame stands in weights. What each costs, and how long it takes, "
        "is not looked at.",
    )


def _drawings(every: tuple[OnFamily, ...]) -> tuple[Drawing, ...]:
    """The first table of each from its side, all within the same bounds."""
    section = every[0].plan.rows.section
    left, right = -BESIDE_M, section.level_depth_m + BESIDE_M
    # What cannot be driven is cut off, that the others are seen.
    driven = [one for one in every if "drivable" not in {check.key for check in one.stops}] or every
    deepest = max(
        one.plan.footings.posts.depth_m if one.plan.has("footings") else 0.0 for one in driven
    )
    lowest = min(ground_z(every[0].plan, x) for x in np.linspace(left, right, 9).tolist())
    floor = lowest - deepest - BELOW_M
    top = max(one.plan.rows.section.lower_edge_m + one.plan.rows.section.rise_m for one in every)
    return tuple(
        drawing(
            one.name,
            one.name.capitalize(),
            [*soil_under(one.plan, left, right, floor), *table_side(one.plan, 0)],
            low=(left, floor),
            high=(right, top + BELOW_M),
        )
        for one in every
    )


def _table(every: tuple[OnFamily, ...], units: UnitSystem) -> TableText:
    """What each comes to, a column a family."""

    def row(title: str, values: list[float | None], kind: str) -> tuple[str, ...]:
        said = ["" if value is None else format_value(value, kind, units) for value in values]
        return (title, *said)

    structures = [one.plan.structure for one in every]
    footed = [one.plan.footings if one.plan.has("footings") else None for one in every]
    driven = [None if one is None or one.weights else one.posts for one in footed]
    weights = [None if one is None else one.weights for one in footed]
    found = [one.reactions for one in structures]
    rows = (
        row("Posts", [float(one.supports.count) for one in structures], "count"),
        row("Deepest post", [None if one is None else one.depth_m for one in driven], "tape"),
        row(
            "All posts in the ground",
            [None if one is None else float(one.depths_m.sum()) for one in driven],
            "run",
        ),
        row(
            "Weights on the ground", [None if one is None else one.total_kg for one in weights], "haul"
        ),
        row("Pull on a post", [max(0.0, -float(one.down_n.min())) for one in found], "force"),
        row("Weight on a post", [float(one.down_n.max()) for one in found], "force"),
        row("Push at the ground", [float(np.abs(one.push_n).max()) for one in found], "force"),
        row("Moment at the ground", [float(np.abs(one.tipping_n_m).max()) for one in found], "moment"),
        row("Steel", [one.steel_kg for one in every], "haul"),
        row("Stops", [float(len(one.stops)) for one in every], "count"),
    )
    return TableText(
        key="families",
        title="On each",
        columns=(
            Column(title="Of this array", number=False),
            *(Column(title=one.name.capitalize(), number=True) for one in every),
        ),
        rows=rows,
        left_out=0,
        note=" ".join(f"{one.name.capitalize()}, {_stops(one)}." for one in every if one.stops),
    )


def _stops(one: OnFamily) -> str:
    """What would stop it, the first few by name."""
    more = len(one.stops) - NAMED
    named = "; ".join(check.title for check in one.stops[:NAMED])
    return f"not met: {named}" + (f", and {more} more" if more > 0 else "")
