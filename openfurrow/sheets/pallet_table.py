"""Where each pallet of modules is set down, and what it feeds, as a list for the driver."""

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.models import Column, TableText

TITLES = (
    ("Pallet", True),
    ("Set down before", False),
    ("Feeds", False),
    ("Modules", True),
    ("Furthest walk", True),
)
# A page or two; of a field the first are read.
SHOWN_PALLETS = 60


def pallet_tables(plan: Plan, units: UnitSystem) -> tuple[TableText, ...]:
    """One line a pallet, in the order in which they are used up; none where nothing is to be set."""
    rows: list[tuple[str, ...]] = []
    total = 0
    built = [one for one in plan.arrays if not one.standing]
    for array, (name, own) in zip(built, plan.hauling.walks, strict=True):
        total += own.count
        called = array.rows.stands.name_of
        for number in range(min(own.count, SHOWN_PALLETS - len(rows))):
            (first, last), (begin, end) = own.tables[number].tolist(), own.columns[number].tolist()
            feeds = (
                f"columns {min(begin, end) + 1} to {max(begin, end) + 1}"
                if first == last
                else f"column {begin + 1} of {called(first)} to column {end + 1} of {called(last)}"
            )
            where = f"{name}, " if len(plan.hauling.walks) > 1 else ""
            at = "table" if first == last else "tables"
            tables = called(first) if first == last else f"{called(first)} and {called(last)}"
            rows.append(
                (
                    str(number + 1),
                    f"{where}{at} {tables}",
                    feeds,
                    str(int(own.modules[number])),
                    format_value(float(own.furthest_m[number]), "run", units),
                )
            )
    if not rows:
        return ()
    return (
        TableText(
            key="load-pallets",
            title="Where pallets of modules are set down",
            columns=tuple(Column(title=title, number=number) for title, number in TITLES),
            rows=tuple(rows),
            left_out=total - len(rows),
            note="In the lane before the lower edge, in the middle of what each feeds, its long side "
            "along the row and its label to the lane: two people lift a module off sideways and walk "
            "with it as it will lie. Not on a trench that is open or fresh, not on a slope it can roll "
            "down.",
        ),
    )
