"""Lists for the saw: the pieces and their marks, the sticks in the order of sawing, the bundles."""

from collections.abc import Iterator, Sequence

from openfurrow.core.materials.sawing import Bar
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.models import Column, TableText

SHOWN_ROWS = 200
# Of each column its title, and whether it holds numbers.
Titles = tuple[tuple[str, bool], ...]


def _table(
    key: str,
    title: str,
    titles: Titles,
    rows: Sequence[tuple[str, ...]],
    note: str,
) -> TableText:
    return TableText(
        key=key,
        title=title,
        columns=tuple(Column(title=name, number=number) for name, number in titles),
        rows=tuple(rows[:SHOWN_ROWS]),
        left_out=max(0, len(rows) - SHOWN_ROWS),
        note=note,
    )


def cuts_table(plan: Plan, units: UnitSystem) -> TableText:
    """What the saw cuts, alike pieces together."""
    sawing = plan.materials.sawing
    titles = (
        ("Mark", False),
        ("Piece", False),
        ("Profile", False),
        ("Cut at", True),
        ("How many", True),
        ("Which", False),
    )
    rows = [
        (
            sawing.mark_of(cut) or "comes cut",
            cut.item,
            cut.profile,
            format_value(cut.length_m, "tape", units),
            str(cut.count),
            f"{own.name}, {cut.where}" if plan.several else cut.where,
        )
        for own in sawing.arrays
        for cut in own.cuts
    ]
    return _table(
        "cuts",
        "What to cut",
        titles,
        rows,
        "To the nearest mark of the tape; posts up to whole inches or 25 mm, and driven to their "
        "level. What ends in bolts is as much longer as it runs on past them. Write the mark on each "
        "piece.",
    )


def _cuts_on(bar: Bar, pieces_m: tuple[float, ...], units: UnitSystem) -> str:
    """The cuts of one stick in their order: 2 x A1 at 12 ft, A3 at 2 ft."""
    told = []
    for length in dict.fromkeys(pieces_m):
        count = pieces_m.count(length)
        words = f"{bar.marks[length]} at {format_value(length, 'tape', units)}"
        told.append(f"{count} x {words}" if count > 1 else words)
    return ", ".join(told)


def _sticks(plan: Plan, units: UnitSystem) -> Iterator[tuple[str, ...]]:
    for bar in plan.materials.sawing.bars:
        first = 1
        for pattern in bar.nest.patterns:
            last = first + pattern.sticks - 1
            yield (
                f"{bar.letter} {first}" if first == last else f"{bar.letter} {first} to {last}",
                bar.profile,
                format_value(pattern.stock_m, "tape", units),
                _cuts_on(bar, pattern.pieces_m, units),
                format_value(pattern.left_m(bar.saw_m), "tape", units),
            )
            first = last + 1


def sticks_table(plan: Plan, units: UnitSystem) -> TableText:
    """Stick after stick as the saw takes them, the longest pieces first."""
    titles = (
        ("Stick", False),
        ("Profile", False),
        ("From", True),
        ("Cut, in this order", False),
        ("Left over", True),
    )
    return _table(
        "sticks",
        "At the saw, stick by stick",
        titles,
        list(_sticks(plan, units)),
        "Sticks of one way of cutting follow each other: the stop is set once. What is left over is "
        "kept until the last piece stands. Eyes and ears covered; cut ends get zinc paint.",
    )


def bundles_table(plan: Plan) -> TableText:
    """What is tied together for each table."""
    rows = [
        (
            f"{one.name}, {one.table}" if plan.several else one.table,
            ", ".join(f"{count} x {mark}" for mark, count in one.counts),
            str(sum(count for _, count in one.counts)),
        )
        for one in plan.materials.sawing.bundles()
    ]
    return _table(
        "bundles",
        "Bundles, one a table",
        (("Table", False), ("Pieces by their marks", False), ("In all", True)),
        rows,
        "Tied and laid down where the table stands. Spare posts and what comes cut are in no bundle.",
    )
