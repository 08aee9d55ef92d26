"""Where every post of the array stands on the plan, as columns."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.footings.layout import PostLine
from openfurrow.core.rows.plan import RowsPlan

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]


@dataclass(frozen=True)
class PostPlaces:
    """One entry a post, row by row from the front, along each row from its first post.

    ``along_m`` and ``back_m`` are measured from the middle of the front row's post line, ``east_m`` and
    ``north_m`` from the site's origin. ``of_table`` counts tables row by row from the front.
    """

    row: Integers
    table: Integers
    along_m: Floats
    back_m: Floats
    east_m: Floats
    north_m: Floats
    of_table: Integers


def table_starts_m(rows: RowsPlan) -> Floats:
    """Where the glass of each table in a row begins, from the middle of the row."""
    step = rows.table_length_m + rows.table_gap_m
    return np.asarray(np.arange(rows.tables_along) * step - rows.row_length_m / 2)


def post_places(
    rows: RowsPlan, line: PostLine, purlin_end_m: float, shift_m: Floats | None = None
) -> PostPlaces:
    """Every post of the array; ``shift_m`` moves each along its row from its even place."""
    in_table = line.along_m - purlin_end_m
    in_row = (table_starts_m(rows)[:, None] + in_table).ravel()
    table = np.repeat(np.arange(rows.tables_along), line.count)
    along = np.tile(in_row, rows.rows)
    if shift_m is not None:
        along = along + shift_m
    row = np.repeat(np.arange(rows.rows), in_row.size)
    back = np.asarray(row * rows.pitch_m, dtype=float)
    east, north = rows.setting.east_north_m(along, back)
    tables = np.tile(table, rows.rows)
    return PostPlaces(
        row, tables, along, back, east, north, row * rows.tables_along + tables
    )
