"""One support by its number: it in its layers, what each layer holds, where it stands."""

from openfurrow.core.compare.one_support import on_one_support
from openfurrow.core.design import Design
from openfurrow.core.lacking import Lacking
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem
from openfurrow.core.structures.supports import called_in_full
from openfurrow.sheets.drawings.footings import footings_drawing
from openfurrow.sheets.drawings.in_layers import in_layers_drawing
from openfurrow.sheets.layers_table import layers_table
from openfurrow.sheets.marks import Drawing
from openfurrow.sheets.models import AskedSheet
from openfurrow.sheets.support import own_table


def one_footing_sheet(design: Design, plan: Plan, units: UnitSystem, index: int) -> AskedSheet:
    """The support with this index in the open array. Raises Lacking before footings can be told."""
    if not plan.has("footings"):
        raise Lacking(plan.lacking("footings"))
    alone = on_one_support(design, plan, index)
    kinds = alone.footings.posts.kinds
    return AskedSheet(
        drawings=(drawn_alone(plan, alone, index, units),),
        tables=(
            *(layers_table(one, one.depth_m, units) for one in kinds),
            own_table(plan, index, units),
        ),
        takes=(),
        note="Its loads are those of its kind, which stands as high and carries as much or more."
        if kinds
        else "Its box lies on the ground: it is looked at with the other feet of its bent.",
        support=index + 1,
    )


def drawn_alone(plan: Plan, alone: Plan, index: int, units: UnitSystem) -> Drawing:
    """A support that stands alone in its layers; weights enter none."""
    kinds = alone.footings.posts.kinds
    if not kinds:
        return footings_drawing(alone, units)[0]
    supports = plan.structure.supports
    called = called_in_full(plan.rows, supports.places, index)
    return in_layers_drawing(alone, kinds[0], 0, called.capitalize(), units)
