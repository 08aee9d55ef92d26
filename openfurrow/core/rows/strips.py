"""Rows of tables in strips of free ground: what fits into each stretch, end to end.

A row is a strip as deep as its glass. What of the strip is not free is blocked for whatever table would
cover it, so that the free stretches of a row are what lies between the blocked ones, seen along it:
exact for the rectangles that tables are from above.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.rows.array import RowsPlan

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

# Beginnings of the front row that are tried, within one pitch.
BEGINNINGS = 24
# Nearer than this to an edge is on it.
EDGE_M = 1e-6
MOST_ROWS = 500


@dataclass(frozen=True, kw_only=True)
class Wanted:
    """What is wanted: so many ``modules`` (None: as many as fit), ``edge_m`` free inside every edge.

    A table at the end of a stretch may be as short as ``shortest`` columns; after every
    ``aisle_every`` tables (nought: none) an aisle ``aisle_m`` wide is left, no narrower than the gap
    that is left anyway. ``new_id`` gives ids that no other thing of any job has.
    """

    modules: int | None
    edge_m: float
    shortest: int
    aisle_every: int
    aisle_m: float
    new_id: Callable[[], str]


@dataclass(frozen=True)
class TableAt:
    """A table from above: its middle along, and its columns."""

    middle_m: float
    columns: int


@dataclass(frozen=True)
class RowAt:
    """A row: how far back its glass begins, and its tables from the first."""

    back_m: float
    tables: tuple[TableAt, ...]

    @property
    def columns(self) -> int:
        """Columns of all its tables."""
        return sum(one.columns for one in self.tables)


@dataclass(frozen=True)
class Measure:
    """Lengths of a table and between two of them, level, metres: a row that climbs covers less."""

    rows: RowsPlan
    wanted: Wanted
    share: float

    @property
    def depth_m(self) -> float:
        """Level depth of the glass."""
        return self.rows.section.level_depth_m

    @property
    def gap_m(self) -> float:
        """Between two tables."""
        return self.share * self.rows.table_gap_m

    @property
    def aisle_m(self) -> float:
        """An aisle, at the least as wide as the gap that is left anyway."""
        return max(self.wanted.aisle_m, self.gap_m)

    @property
    def step_m(self) -> float:
        """From a table's beginning to the next one's."""
        return self.length_m(self.rows.modules_along) + self.gap_m

    def length_m(self, columns: int) -> float:
        """The glass of so many columns."""
        return self.share * (columns * self.rows.column_step_m - self.rows.gap_along_m)

    def full(self, room_m: Floats) -> Integers:
        """Whole tables that fit into rooms end to end, an aisle after every so many."""
        usual, gap = self.length_m(self.rows.modules_along), self.gap_m
        every, aisle = self.wanted.aisle_every, self.aisle_m
        if not every:
            return np.maximum((room_m + gap + EDGE_M) // (usual + gap), 0).astype(np.int64)
        block = every * usual + (every - 1) * gap + aisle
        blocks = np.maximum((room_m + aisle + EDGE_M) // block, 0)
        more = np.maximum((room_m - blocks * block + gap + EDGE_M) // (usual + gap), 0)
        return np.asarray(blocks * every + np.minimum(more, every - 1), dtype=np.int64)

    def used_m(self, tables: Integers) -> Floats:
        """The room that so many whole tables take, and the gap or aisle before one more."""
        every, usual = self.wanted.aisle_every, self.length_m(self.rows.modules_along)
        aisles = tables // every if every else np.zeros_like(tables)
        return np.asarray(tables * (usual + self.gap_m) + aisles * (self.aisle_m - self.gap_m))

    def short(self, room_m: Floats, tables: Integers) -> Integers:
        """Columns of one shorter table behind so many whole ones; nought where too few fit."""
        step = self.share * self.rows.column_step_m
        left = room_m - self.used_m(tables) + self.share * self.rows.gap_along_m + EDGE_M
        columns = np.maximum(left // step, 0).astype(np.int64)
        columns = np.minimum(columns, self.rows.modules_along - 1)
        return np.where(columns >= self.wanted.shortest, columns, 0)


def best_rows(free: shapely.Geometry, measure: Measure) -> tuple[RowAt, ...]:
    """The rows of the beginning that has room for most columns, tables lined up where they can be."""
    if free.is_empty:
        return ()
    shapely.prepare(free)
    most, best = 0, None
    for start in np.arange(BEGINNINGS) / BEGINNINGS * measure.rows.pitch_m:
        found = _stretches(free, measure, float(free.bounds[1] + start))
        whole = measure.full(found.room_m)
        columns = whole * measure.rows.modules_along + measure.short(found.room_m, whole)
        if columns.sum() > most:
            most, best = int(columns.sum()), (found, columns)
    if best is None:
        return ()
    found, columns = best
    by_row = np.bincount(found.row, columns)
    lined_m = float(found.low_m[columns > 0][found.row[columns > 0] == by_row.argmax()].min())
    return tuple(
        RowAt(float(found.back_m[row]), tables)
        for row in np.flatnonzero(by_row).tolist()
        if (tables := _tables_in(found, row, measure, lined_m))
    )


@dataclass(frozen=True)
class Stretches:
    """Free stretches of all rows: of which ``row`` each is, where it begins, how long it is.

    ``back_m`` is how far back each row's glass begins.
    """

    back_m: Floats
    row: Integers
    low_m: Floats
    room_m: Floats


def _stretches(free: shapely.Geometry, measure: Measure, first_back_m: float) -> Stretches:
    """What lies free along each strip, between what is blocked of it."""
    west, _, east, north = free.bounds
    west, east = west - 1.0, east + 1.0
    pitch, depth = measure.rows.pitch_m, measure.depth_m
    count = min(max(int((north - depth - first_back_m) // pitch) + 1, 0), MOST_ROWS)
    backs = first_back_m + np.arange(count) * pitch
    strips = shapely.box(west, backs, east, backs + depth)
    parts, row = shapely.get_parts(shapely.difference(strips, free), return_index=True)
    bounds = shapely.bounds(parts).reshape(-1, 4)
    # Rows one after the other on one line, so that all are sorted and joined at once.
    apart = (east - west) * 4
    starts, ends = bounds[:, 0] + row * apart, bounds[:, 2] + row * apart
    order = np.argsort(starts)
    starts, row = starts[order], row[order]
    ends = np.maximum.accumulate(ends[order])
    # The ends of every strip are blocked: what is free lies between two blocked parts of one row.
    inner = row[1:] == row[:-1]
    low, room = ends[:-1][inner], (starts[1:] - ends[:-1])[inner]
    of = row[1:][inner]
    open_ones = room > EDGE_M
    low = np.asarray(low - of * apart, dtype=float)
    return Stretches(
        np.asarray(backs, dtype=float),
        of[open_ones],
        low[open_ones],
        np.asarray(room, dtype=float)[open_ones],
    )


def _tables_in(found: Stretches, row: int, measure: Measure, lined_m: float) -> tuple[TableAt, ...]:
    """A row's stretches filled end to end, in step with ``lined_m`` where slack allows."""
    own = found.row == row
    tables: list[TableAt] = []
    for low, room in zip(found.low_m[own].tolist(), found.room_m[own].tolist(), strict=True):
        rooms = np.array([room])
        whole = measure.full(rooms)
        short = int(measure.short(rooms, whole)[0])
        columns = [measure.rows.modules_along] * int(whole[0]) + [short] * (short > 0)
        if not columns:
            continue
        starts = measure.used_m(np.arange(len(columns)))
        slack = room - float(starts[-1]) - measure.length_m(columns[-1])
        ahead = (lined_m - low) % measure.step_m
        # Nearly a whole step ahead is in step.
        ahead = 0.0 if measure.step_m - ahead < EDGE_M else ahead
        first = low + (ahead if ahead <= slack else 0.0)
        tables += [
            TableAt(first + start + measure.length_m(one) / 2, one)
            for start, one in zip(starts.tolist(), columns, strict=True)
        ]
    return tuple(tables)


def no_more_than(found: tuple[RowAt, ...], modules: int, high: int, shortest: int) -> tuple[RowAt, ...]:
    """The front rows with so many modules; the last table is as short as that asks."""
    left = -(-modules // high)
    kept = []
    for row in found:
        tables = []
        for one in row.tables:
            columns = min(one.columns, left)
            if columns < one.columns and columns < shortest:
                break
            tables.append(replace(one, columns=columns))
            left -= columns
        if tables:
            kept.append(RowAt(row.back_m, tuple(tables)))
        if left <= 0:
            break
    return tuple(kept)
