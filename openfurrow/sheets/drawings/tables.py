"""An array's tables from above, each with its number, to be taken hold of one by one."""

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem
from openfurrow.core.rows.tables import named_place
from openfurrow.sheets.drawings.overhead import glass, posts, swept, ways
from openfurrow.sheets.drawings.site import GROUPS, post_hits, things_on
from openfurrow.sheets.marks import Drawing, Mark, Point, area, bounds, drawing, label, owned

# More tables than this have no room for their numbers, and are named by them in the list alone.
MOST_HELD = 400
# Round the array so much is shown: what a table might be moved to.
ROUND_M = 6.0


def held_tables(plan: Plan) -> tuple[tuple[str, str, Point], ...]:
    """Each table's id and name and the middle of its posts, those taken out at the end.

    None where they are very many.
    """
    stands, even = plan.rows.stands, plan.rows.even.tables
    if stands.lie.tables.count + stands.out.size > MOST_HELD:
        return ()
    tables = stands.lie.tables
    east, north = tables.setting.east_north_m(tables.middle_m, tables.back_m)
    found = [
        (stands.id_of(index), stands.name_of(index), (x, y))
        for index, (x, y) in enumerate(zip(east.tolist(), north.tolist(), strict=True))
    ]
    for index in stands.out.tolist():
        x, y = even.setting.east_north_m(even.middle_m[index], even.back_m[index])
        name = named_place(int(even.row[index]), int(even.table[index]))
        found.append((name, name, (float(x), float(y))))
    return tuple(found)


def tables_drawing(plan: Plan, units: UnitSystem) -> Drawing:
    """The array that is open over what is there; tables taken out in outline."""
    rows, stands = plan.rows, plan.rows.stands
    own: list[Mark] = []
    held = rows.tables.count + stands.out.size <= MOST_HELD
    if held:
        for index, corners in enumerate(rows.tables.corners.tolist()):
            layer = "glass-apart" if index in stands.apart else "glass"
            own += owned([area(layer, *map(tuple, corners))], table_mark(stands.id_of(index)))
        for index in stands.out.tolist():
            corners = rows.even.tables.corners[index].tolist()
            name = named_place(int(rows.even.tables.row[index]), int(rows.even.tables.table[index]))
            own += owned([area("glass-out", *map(tuple, corners))], table_mark(name))
        own += swept(plan)
    else:
        own += glass(plan, "glass")
    low, high = bounds(own, ROUND_M)
    if held:
        # Behind the posts, where the glass is bare.
        corners = rows.tables.corners
        middles = (0.2 * corners[:, :2] + 0.8 * corners[:, 2:]).mean(axis=1)
        own += [
            label(stands.name_of(index), (x, y), "table-note", free=True)
            for index, (x, y) in enumerate(middles.tolist())
        ]
    others = [
        mark for one in plan.each() if one.open != plan.open for mark in glass(one, "glass-faint")
    ]
    return drawing(
        "tables",
        "The tables from above, true north up",
        [*things_on(plan, units), *others, *ways(plan), *own, *posts(plan), *post_hits(plan)],
        low=low,
        high=high,
        groups=GROUPS,
        legend=() if held else (f"{rows.tables.count} tables: name one by row and place in the list.",),
    )


def table_mark(name: str) -> str:
    """By what a table on the drawing is known."""
    return f"table {name}"
