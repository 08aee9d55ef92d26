"""The ground filled with one array's tables: an action on a design, as one step."""

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan
from openfurrow.core.rows.array import ModuleSize, RowsPlan
from openfurrow.core.rows.filling import fill
from openfurrow.core.rows.givens import RowsGivens
from openfurrow.core.rows.plan import plan_rows
from openfurrow.core.rows.settling import Filled
from openfurrow.core.rows.strips import Wanted
from openfurrow.core.structures.plan import stack_m


def filled(design: Design, plan: Plan, array: str, wanted: Wanted) -> tuple[Design, Filled]:
    """The design whose array fills the ground inside the boundary.

    Raises KeyError for an array that is none, FillError where nothing can be laid and Lacking where
    nobody has said what rows stand on.
    """
    seen, own = plan.on(array), design.array(array)
    given = own.modules
    size = ModuleSize(given.length_m, given.width_m, given.gap_along_m, given.gap_up_m)
    stack = stack_m(own.structure, given.thickness_m)

    def laid_by(rows: RowsGivens) -> RowsPlan:
        return plan_rows(seen.site, seen.sun, rows, size, stack)

    others = tuple(
        outline
        for one in plan.arrays
        if one.id != array and "rows" in one.made
        for outline in one.rows.tables.outlines.tolist()
    )
    found = fill(seen.site, seen.rows, own.rows, wanted, laid_by, others)
    arrays = tuple(
        one.model_copy(update={"rows": found.givens}) if one.id == array else one
        for one in design.arrays
    )
    return design.model_copy(update={"arrays": arrays}), found
