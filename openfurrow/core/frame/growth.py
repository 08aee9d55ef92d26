"""Metal along a row grows by day and shrinks by night: by how much, and whether its ends have room."""

from openfurrow.core.checks import Check, at_least, within
from openfurrow.core.codes import constant
from openfurrow.core.codes.metal import Metal, MetalName
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.members import Stock
from openfurrow.core.structures.stand import Stand
from openfurrow.core.working import Answer, Input, Source, Working

EXPANSION: dict[MetalName, Source] = {
    name: constant("common", f"{name}_grows_per_k").source for name in ("steel", "aluminium")
}


def grows_m(of: Metal, length_m: float) -> float:
    """What a line so long moves between its coldest and its hottest, both ends together."""
    return of.grows_per_k * swing_k() * length_m


def swing_k() -> float:
    """From a clear winter's night to a summer's sun on it."""
    return constant("common", "steel_swing_k").value


def growth_answers(posts: Stand, stock: Stock, of: Metal) -> tuple[Answer, ...]:
    """Of the longest line of the array."""
    length = max(line.purlin_m for line in posts.lines)
    return (
        Answer(
            "frame",
            "grows",
            f"The longest {stock.word} line grows and shrinks by",
            Working(
                "g",
                "a * L * K / 100",
                (
                    Input(
                        "a",
                        f"a metre of {of.name}, for 100 kelvins",
                        grows_m(of, 100 / swing_k()),
                        "thickness",
                    ),
                    Input("L", "line", length, "run"),
                    Input("K", "kelvins from coldest to hottest", swing_k(), "count"),
                ),
                grows_m(of, length),
                "thickness",
                EXPANSION[of.name],
                "Half of it at each end, about the middle: posts lean with it. On a hot day pieces are "
                "joined close, on a cold one they are left that much apart where holes are slotted.",
            ),
        ),
    )


def growth_checks(rows: RowsPlan, posts: Stand, stock: Stock, of: Metal) -> tuple[Check, ...]:
    """Whether lines are broken often enough, and whether neighbours in a row have room to grow."""
    length = max(line.purlin_m for line in posts.lines)
    found = [
        within(
            "frame",
            "unbroken",
            f"{stock.word.capitalize()} lines are broken before growth bends posts",
            length,
            constant("common", f"{of.name}_unbroken_m"),
            "run",
            most=True,
            remedy="Shorter tables with a gap between them, or a splice whose holes are slotted.",
            given="rows.modules_along",
            otherwise="look",
        )
    ]
    if rows.tables_along > 1:
        found.append(
            at_least(
                "frame",
                "ends_apart",
                "Tables of a row have room to grow",
                rows.table_gap_m - (length - float(rows.tables.lengths_m.max())),
                grows_m(of, length),
                "thickness",
                remedy="A wider gap between tables: metal and glass of two must not meet.",
                source=EXPANSION[of.name],
                given="rows.table_gap_m",
            )
        )
    return tuple(found)
