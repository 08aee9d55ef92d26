"""Families of structure side by side: each on this ground to one scale, with what it comes to."""

import numpy as np

from openfurrow.core.compare.families import OnFamily, families_of
from openfurrow.core.design import Design
from openfurrow.core.lacking import Lacking
from openfurrow.core.paths import in_array
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem
from openfurrow.sheets.beside import beside_drawings, edit, row_of, stops_words
from openfurrow.sheets.models import AskedSheet, Column, MendText, TableText


def families_sheet(design: Design, plan: Plan, units: UnitSystem) -> AskedSheet:
    """The open array on every family. Raises Lacking before its structure can be told."""
    array = plan.array.id
    if not plan.has("structure"):
        raise Lacking(plan.lacking("structure"))
    every = families_of(design, array)
    own = design.array(array)
    return AskedSheet(
        drawings=beside_drawings(tuple((one.structure, one) for one in every)),
        tables=(_table(every, units),),
        takes=tuple(
            MendText(
                words=f"Take {one.structure}",
                edits=(
                    edit(in_array(array, "structure.family"), one.structure),
                    *(
                        (edit(in_array(array, "footings.family"), one.footing),)
                        if one.footing != own.footings.family
                        else ()
                    ),
                ),
            )
            for one in every
            if one.structure != own.structure.family
        ),
        note="Each with its own givens as they stand: one that stops may want another profile or span. "
        "Posts keep the footing that is chosen where it can hold them; a ballast frame stands in "
        "weights. What each costs, and how long it takes, is not looked at.",
    )


def _table(every: tuple[OnFamily, ...], units: UnitSystem) -> TableText:
    """What each comes to, a column a family."""

    def row(title: str, values: list[float | None], kind: str) -> tuple[str, ...]:
        return row_of(title, values, kind, units)

    structures = [one.plan.structure for one in every]
    footed = [one.plan.footings if one.plan.has("footings") else None for one in every]
    driven = [None if one is None or one.weights else one.posts for one in footed]
    weights = [None if one is None else one.weights for one in footed]
    found = [one.reactions for one in structures]
    rows = (
        row("Posts", [float(one.supports.count) for one in structures], "count"),
        row("Deepest in the ground", [None if one is None else one.depth_m for one in driven], "tape"),
        row(
            "All posts in the ground",
            [None if one is None else float(one.depths_m.sum()) for one in driven],
            "run",
        ),
        row(
            "Weights on the ground", [None if one is None else one.total_kg for one in weights], "haul"
        ),
        row(
            "Concrete in bores",
            [None if one is None or one.piers is None else one.piers.order_m3 for one in footed],
            "volume",
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
            *(Column(title=one.structure.capitalize(), number=True) for one in every),
        ),
        rows=rows,
        left_out=0,
        note=" ".join(
            f"{one.structure.capitalize()}, {stops_words(one)}." for one in every if one.stops
        ),
    )
