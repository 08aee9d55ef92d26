"""Where every post of the array stands on the plan, as columns."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.footings.layout import PostLine
from openfurrow.core.rows.array import RowsPlan

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]


@dataclass(frozen=True)
class PostPlaces:
    """One entry a post, row by row from the front, along each row from its first post.

    ``along_m`` and ``back_m`` are measured level from the middle of the front row's post line,
    ``run_m`` along the row's own purlins from its middle, ``east_m`` and ``north_m`` from the site's
    origin. ``of_table`` counts tables row by row from the front.
    """

    row: Integers
    table: Integers
    along_m: Floats
    run_m: Floats
    back_m: Floats
    east_m: Floats
    north_m: Floats
    of_table: Integers


def post_places(
    rows: RowsPlan, line: PostLine, purlin_end_m: float, shift_m: Floats | None = None
) -> PostPlaces:
    """Every post of the array; ``shift_m`` moves each along its purlin from its even place."""
    tables = rows.lie.tables
    in_table = np.tile(line.along_m - purlin_end_m, len(tables.row))
    if shift_m is not None:
        in_table = in_table + shift_m
    of_table = np.repeat(np.arange(len(tables.row)), line.count)
    run = tables.starts_m[tables.table[of_table]] + in_table
    along = tables.along_m(of_table, in_table - tables.length_m / 2)
    row = tables.row[of_table]
    back = np.asarray(row * rows.pitch_m, dtype=float)
    east, north = rows.setting.east_north_m(along, back)
    return PostPlaces(row, tables.table[of_table], along, run, back, east, north, of_table)
