"""Which tables stand in the shelter of others: rows before and behind them, tables on both sides."""

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.rows.tables import Tables

Bools = NDArray[np.bool_]
Floats = NDArray[np.float64]

# Tables of a row that stand further from each other than their gap and this leave a hole for the wind.
HOLE_M = 0.3


def in_shelter(tables: Tables, outer_rows: int, end_tables: int) -> Bools:
    """Tables that have ``outer_rows`` whole rows before and behind them, ``end_tables`` on both sides.

    What was taken out, turned or moved off its row shelters nothing, and stands in none.
    """
    found = np.zeros(tables.count, dtype=bool)
    runs = {row: _runs(tables, row) for row in np.unique(tables.row[tables.in_line]).tolist()}
    for row, own in runs.items():
        for which in own:
            inner = which[end_tables : which.size - end_tables]
            if not inner.size:
                continue
            beside = [row + step for step in range(-outer_rows, outer_rows + 1) if step]
            found[inner] = np.all(
                [_covered(tables, inner, runs.get(one, [])) for one in beside], axis=0
            )
    return found


def _edges(tables: Tables, which: NDArray[np.int64]) -> tuple[Floats, Floats]:
    """Where tables begin and end along their row."""
    half = tables.lengths_m[which] / 2
    return tables.run_m[which] - half, tables.run_m[which] + half


def _runs(tables: Tables, row: int) -> list[NDArray[np.int64]]:
    """The tables of a row from its first end, parted where a hole lies between them."""
    mine = np.flatnonzero(tables.in_line & (tables.row == row))
    mine = mine[np.argsort(tables.run_m[mine], kind="stable")]
    starts, ends = _edges(tables, mine)
    holes = np.flatnonzero(starts[1:] - ends[:-1] > tables.gap_m + HOLE_M) + 1
    return list(np.split(mine, holes))


def _covered(tables: Tables, which: NDArray[np.int64], runs: list[NDArray[np.int64]]) -> Bools:
    """Whether some run of another row reaches from one end of each table to the other."""
    starts, ends = _edges(tables, which)
    found = np.zeros(which.size, dtype=bool)
    for run in runs:
        first, last = _edges(tables, run)
        found |= (starts >= first.min() - HOLE_M) & (ends <= last.max() + HOLE_M)
    return found
