"""The year, month by month, and where its light is lost."""

from openfurrow.core.design import Design
from openfurrow.core.energy.answers import of_what
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem
from openfurrow.sheets.drawings.table_years import tables_drawing
from openfurrow.sheets.drawings.year import losses_drawing, months_drawing, months_table
from openfurrow.sheets.models import AskedSheet


def year_sheet(design: Design, plan: Plan, units: UnitSystem) -> AskedSheet:
    """Months, where the light is lost, and what each of several tables brings."""
    return AskedSheet(
        drawings=(
            months_drawing(plan, units),
            losses_drawing(plan),
            *((tables_drawing(plan, units),) if plan.rows.tables.count > 1 else ()),
        ),
        tables=(months_table(plan, units),),
        takes=(),
        note=of_what(plan.energy.sky),
    )
