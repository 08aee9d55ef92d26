"""Rows of tables in strips of free ground: what fits into each stretch, end to end.

A row is a strip as deep as its glass. What of the strip is not free is blocked for whatever table would
cover it, so that the free stretches of a row are what lies between the blocked ones, seen along it:
exact for the rectangles that tables are from above.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace
from itertools import combinations_with_replacement

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
# So many tables of the lengths that there are may end a stretch.
MOST_SHORTER = 3
# No more modules than this are left out for strings that come out even.
MOST_LET_GO = 200


@dataclass(frozen=True, kw_only=True)
class Wanted:
    """What is wanted: so many ``modules`` (None: as many as fit), ``edge_m`` free inside every edge.

    A table at the end of a stretch may be as short as ``shortest`` columns, and tables of ``lengths``
    columns may stand there too; ``even`` says of how many modules equal strings come, where that is
    wanted (of as many as fit; a number that is wanted is what was asked for). After every
    ``aisle_every`` tables (nought: none) an aisle ``aisle_m`` wide is left, no narrower than the gap
    that is left anyway. ``new_id`` gives ids that no other thing of any job has.
    """

    modules: int | None
    edge_m: float
    shortest: int
    aisle_every: int
    aisle_m: float
    new_id: Callable[[], str]
    lengths: tuple[int, ...] = ()
    even: Callable[[int], bool] | None = None


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
    def ahead_m(self) -> float:
        """Glass before the posts, level, at the tilt that reaches furthest."""
        return max(one.section.post_x_m for one in self.rows.positions)

    @property
    def depth_m(self) -> float:
        """Level depth of the glass, of all tilts together."""
        behind = (one.section.level_depth_m - one.section.post_x_m for one in self.rows.positions)
        return self.ahead_m + max(behind)

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

    def between_m(self, tables: Integers | int) -> Floats:
        """Gaps and aisles between so many tables end to end."""
        joints = np.maximum(np.asarray(tables) - 1, 0)
        aisles = joints // self.wanted.aisle_every if self.wanted.aisle_every else 0
        return np.asarray(joints * self.gap_m + aisles * (self.aisle_m - self.gap_m))

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

    def short(self, room_m: Floats, tables: Integers) -> Integers:
        """Columns of one shorter table behind so many whole ones; nought where too few fit."""
        usual = self.length_m(self.rows.modules_along)
        step = self.share * self.rows.column_step_m
        left = room_m - tables * usual - self.between_m(tables + 1)
        left = left + self.share * self.rows.gap_along_m + EDGE_M
        columns = np.maximum(left // step, 0).astype(np.int64)
        columns = np.minimum(columns, self.rows.modules_along - 1)
        return np.where(columns >= self.wanted.shortest, columns, 0)

    @property
    def ends(self) -> tuple[tuple[int, ...], ...]:
        """What may stand behind whole tables, of the lengths that there are: none, or some of them."""
        shorter = sorted({one for one in self.wanted.lengths if one < self.rows.modules_along})
        return tuple(
            one
            for count in range(MOST_SHORTER + 1)
            for one in combinations_with_replacement(shorter[::-1], count)
        )

    def allowed(self, columns: int) -> int:
        """The longest table that may be laid of at most so many columns; nought for none."""
        usual = self.rows.modules_along
        if columns >= usual:
            return usual
        any_length = columns if columns >= self.wanted.shortest else 0
        return max([any_length, *(one for one in self.wanted.lengths if one <= columns)])

    def filled(self, room_m: Floats) -> "Contents":
        """The most columns in each room, of whole tables and what may stand behind them."""
        most = self.full(room_m)
        short = self.short(room_m, most)
        usual = self.rows.modules_along
        best = Contents(most, np.zeros_like(most), short, most * usual + short)
        for number, end in enumerate(self.ends):
            glass = sum(map(self.length_m, end))
            # Shorter ones take the place of whole ones, of as many as they are at the most.
            for fewer in range(len(end) + 1) if end else ():
                whole = np.maximum(most - fewer, 0)
                used = whole * self.length_m(usual) + glass + self.between_m(whole + len(end))
                columns = np.where(used <= room_m + EDGE_M, whole * usual + sum(end), -1)
                better = columns > best.columns
                best = Contents(
                    np.where(better, whole, best.whole),
                    np.where(better, number, best.end),
                    np.where(better, 0, best.short),
                    np.where(better, columns, best.columns),
                )
        return best


@dataclass(frozen=True)
class Contents:
    """What stands in each of some rooms: so many ``whole`` tables, then which of the ends.

    ``short`` is the columns of one table of any length behind them, nought for none, ``columns`` those
    of all.
    """

    whole: Integers
    end: Integers
    short: Integers
    columns: Integers


def best_rows(free: shapely.Geometry, measure: Measure) -> tuple[RowAt, ...]:
    """The rows of the beginning that has room for most columns, tables lined up where they can be."""
    if free.is_empty:
        return ()
    shapely.prepare(free)
    most, best = 0, None
    for start in np.arange(BEGINNINGS) / BEGINNINGS * measure.rows.pitch_m:
        found = _stretches(free, measure, float(free.bounds[1] + start))
        columns = measure.filled(found.room_m).columns
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
    inside = measure.filled(found.room_m[own])
    for number, (low, room) in enumerate(
        zip(found.low_m[own].tolist(), found.room_m[own].tolist(), strict=True)
    ):
        short = int(inside.short[number])
        columns = [measure.rows.modules_along] * int(inside.whole[number])
        columns += [*measure.ends[int(inside.end[number])], *([short] if short else [])]
        if not columns:
            continue
        lengths = [measure.length_m(one) for one in columns]
        starts = np.concatenate(([0.0], np.cumsum(lengths)[:-1])) + measure.between_m(
            np.arange(1, len(columns) + 1)
        )
        slack = room - float(starts[-1]) - lengths[-1]
        ahead = (lined_m - low) % measure.step_m
        # Nearly a whole step ahead is in step.
        ahead = 0.0 if measure.step_m - ahead < EDGE_M else ahead
        first = low + (ahead if ahead <= slack else 0.0)
        tables += [
            TableAt(first + start + length / 2, one)
            for start, length, one in zip(starts.tolist(), lengths, columns, strict=True)
        ]
    return tuple(tables)


def no_more_than(found: tuple[RowAt, ...], modules: int, measure: Measure) -> tuple[RowAt, ...]:
    """The front rows with so many modules; the last table is as short as that asks, if it may be."""
    left = -(-modules // measure.rows.modules_high)
    kept = []
    for row in found:
        tables = []
        for one in row.tables:
            columns = min(one.columns, left)
            columns = columns if columns == one.columns else measure.allowed(columns)
            if not columns:
                break
            tables.append(replace(one, columns=columns))
            left -= columns
        if tables:
            kept.append(RowAt(row.back_m, tuple(tables)))
        if left <= 0:
            break
    return tuple(kept)


def come_out_even(
    found: tuple[RowAt, ...], others: int, measure: Measure, even: Callable[[int], bool]
) -> tuple[RowAt, ...]:
    """As few tables shorter, or gone, as bring the modules to a number of equal strings.

    ``others`` are modules beside them. Where no number near enough is one, all stay.
    """
    high = measure.rows.modules_high
    whole = sum(row.columns for row in found) * high
    for fewer in range(0, min(whole, MOST_LET_GO), high):
        if even(others + whole - fewer):
            kept = no_more_than(found, whole - fewer, measure)
            if sum(row.columns for row in kept) * high == whole - fewer:
                return kept
    return found
