"""Where pallets of modules stand along the rows, and how far each module is walked from its pallet.

Modules are set row by row, every other row back the way one came, column by column from the lower edge
up. Each pallet stands in the lane before the lower edge, in the middle of what it feeds, its long side
along the row: two people lift a module off sideways and walk with it as it will lie.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.tables import NO_ROW
from openfurrow.core.working import GEOMETRY, Answer, Input, Working

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]


@dataclass(frozen=True, eq=False)
class Walks:
    """The pallets of one array, in the order in which they are used up.

    ``tables`` and ``columns`` (pallets, 2) are where the first and the last module of each go,
    ``east_north_m`` (pallets, 2) where it stands, ``modules`` how many it feeds; ``furthest_m`` the
    longest walk from it and ``walked_m`` all of them, with a module in hand, one way.
    """

    tables: Integers
    columns: Integers
    east_north_m: Floats
    modules: Integers
    furthest_m: Floats
    walked_m: Floats

    @property
    def count(self) -> int:
        """How many pallets."""
        return int(self.modules.size)


def walks_of(rows: RowsPlan, a_pallet: int) -> Walks:
    """The walks of an array; every module is walked by itself, for it takes two people."""
    of, number = _in_order(rows)
    high = rows.modules_high
    # The pallet of each module, and of each module its column.
    column = np.repeat(np.arange(of.size), high)
    pallet = np.arange(column.size) // a_pallet
    count = int(pallet[-1]) + 1
    first = np.searchsorted(pallet, np.arange(count))
    last = np.searchsorted(pallet, np.arange(count), side="right") - 1
    x, y = _before_edge(rows, of[column], number[column])
    # It stands before the middle one of its modules.
    middle = (first + last) // 2
    stands = np.column_stack((x[middle], y[middle]))
    far = (
        np.hypot(x - stands[pallet, 0], y - stands[pallet, 1])
        + constant("common", "pallet_off_m").value
    )
    return Walks(
        tables=np.column_stack((of[column[first]], of[column[last]])),
        columns=np.column_stack((number[column[first]], number[column[last]])),
        east_north_m=stands,
        modules=last - first + 1,
        furthest_m=np.maximum.reduceat(far, first),
        walked_m=np.add.reduceat(far, first),
    )


def _in_order(rows: RowsPlan) -> tuple[Integers, Integers]:
    """Table and number of every column of modules as they are set, back and forth."""
    tables = rows.tables
    of, number, _ = rows.each_column
    # Tables of no row come last, each by itself, as they are counted.
    row = np.where(tables.row == NO_ROW, int(tables.row.max()) + 1, tables.row)[of]
    along = np.where(tables.row[of] == NO_ROW, tables.table[of] * 1e6, tables.middle_m[of]) + number
    back = (row % 2 == 1) & (tables.row[of] != NO_ROW)
    order = np.lexsort((np.where(back, -number, number), np.where(back, -along, along), row))
    return of[order], number[order]


def _before_edge(rows: RowsPlan, of: Integers, number: Integers) -> tuple[Floats, Floats]:
    """Where one stands before the lower edge of a column, in the lane."""
    from_end = number * rows.column_step_m + rows.module_along_m / 2
    middle = from_end - rows.tables.lengths_m[of] / 2
    back = rows.tables.edge_back_m - constant("common", "pallet_off_m").value
    return rows.tables.east_north_m(of, middle, back)


def walk_answers(walks: tuple[tuple[str, Walks], ...]) -> tuple[Answer, ...]:
    """How often two people walk with a module, how far in all, and the furthest of them."""
    if not walks:
        return ()
    own = [one for _, one in walks]
    total = float(sum(one.walked_m.sum() for one in own))
    count = float(sum(one.modules.sum() for one in own))
    return (
        Answer(
            "materials",
            "walks",
            "Walks of two people with a module",
            Working(
                "n",
                "",
                (Input("m", "furthest from its pallet", max_walk_m(own), "run"),),
                count,
                "count",
                GEOMETRY,
                "One each: never two at once, never alone, none in wind that takes it. Pallets stand "
                "where the list says.",
            ),
        ),
        Answer(
            "materials",
            "walked",
            "Walked with a module in hand",
            Working(
                "W",
                "n * d",
                (
                    Input("n", "walks", count, "count"),
                    Input("d", "from pallet to place, on average", total / count, "run"),
                ),
                total,
                "run",
                GEOMETRY,
                "One way, straight; as far back without one.",
            ),
        ),
    )


def max_walk_m(walks: list[Walks]) -> float:
    """The furthest of all."""
    return max(float(one.furthest_m.max()) for one in walks)
