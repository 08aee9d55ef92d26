"""Filling the ground: rows of tables inside the boundary, past all that glass must keep off.

A row is a strip as deep as its glass. What of the strip is not free is blocked for whatever table would
cover it, so that the free stretches of a row are what lies between the blocked ones, seen along it:
exact for the rectangles that tables are from above. Tables are set end to end in each stretch.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.codes import constant
from openfurrow.core.quantities import spoken
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.givens import MOST_TABLES_APART, RowsGivens, TableGivens
from openfurrow.core.rows.tables import NO_ROW, named_place
from openfurrow.core.site.plan import SitePlan

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

# Beginnings of the front row that are tried, within one pitch.
BEGINNINGS = 24
# Nearer than this to an edge is on it; an outline that lies over by less ground lies on the line.
EDGE_M, OVER_M2 = 1e-6, 1e-3
# Off where it was meant by less a table is left as the ground lays it, where nothing is in its way.
LEFT_SO_M, ROUNDING_M = 0.05, 1e-4
# Laid again with what the ground made of it, until nothing lies where it must not.
SETTLINGS = 12
MOST_ROWS = 500
MOST_ALONG = 200


class FillError(ValueError):
    """Why nothing can be laid: by which ``field``, what is ``allowed`` (spoken), and what helps."""

    def __init__(self, field: str, message: str, allowed: str, remedy: str) -> None:
        """Keep all that is said to the planner."""
        self.field, self.allowed, self.remedy = field, allowed, remedy
        super().__init__(message)


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
class Filled:
    """The rows as they fill the ground, and what they come to.

    ``uneven`` tables had no ground that they could follow; ``put_back`` had been taken out by hand.
    """

    givens: RowsGivens
    modules: int
    tables: int
    rows: int
    uneven: int
    put_back: int


@dataclass(frozen=True)
class _Table:
    """A table from above: its middle along, and its columns."""

    middle_m: float
    columns: int


@dataclass(frozen=True)
class _Row:
    """A row: how far back its glass begins, and its tables from the first."""

    back_m: float
    tables: tuple[_Table, ...]

    @property
    def columns(self) -> int:
        """Columns of all its tables."""
        return sum(one.columns for one in self.tables)


def fill(
    site: SitePlan,
    rows: RowsPlan,
    givens: RowsGivens,
    wanted: Wanted,
    laid_by: Callable[[RowsGivens], RowsPlan],
    others: tuple[shapely.Geometry, ...] = (),
) -> Filled:
    """Lay the array's tables over the ground inside the boundary. Raises FillError.

    ``rows`` is the array as it stands: its tilt, pitch and table are kept, and so are tables that were
    moved by hand. ``laid_by`` plans rows; ``others`` are outlines of other arrays.
    """
    locked = _locked(rows, givens)
    free = _free(site, rows, wanted, locked, others)
    measure = _Measure(rows, wanted, float(rows.even.tables.level_share.mean()))
    found = _best(free, measure)
    if wanted.modules is not None:
        columns = int(rows.tables.columns[[index for _, index in locked]].sum()) if locked else 0
        left = max(0, wanted.modules - columns * rows.modules_high)
        found = _no_more_than(found, left, rows.modules_high, wanted.shortest)
    if not found:
        raise FillError(
            "edge",
            "no table finds room inside the boundary",
            f"a free stretch {spoken(rows.table_length_m, 'run')} long and "
            f"{spoken(measure.depth_m, 'run')} deep",
            "Shorten the table, lower the edge that is kept free, or look at the setbacks.",
        )
    return _settled(found, rows, givens, measure, locked, free, laid_by)


@dataclass(frozen=True)
class _Measure:
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


def _locked(rows: RowsPlan, givens: RowsGivens) -> list[tuple[TableGivens, int]]:
    """Tables that were set by hand, and their numbers among those that stand."""
    found = []
    for one in givens.tables:
        index = rows.stands.index_of(one.place or one.id)
        if one.by_hand and not one.out and index is not None:
            found.append((one, index))
    return found


def _free(
    site: SitePlan,
    rows: RowsPlan,
    wanted: Wanted,
    locked: list[tuple[TableGivens, int]],
    others: tuple[shapely.Geometry, ...],
) -> shapely.Geometry:
    """The ground for glass in array coordinates: x along, y back from the front row's posts."""
    inside = site.keepouts.inside
    if inside is None or inside.is_empty:
        raise FillError(
            "boundary",
            "there is no boundary to fill",
            "an outline of the land on Site",
            "Draw the boundary, or bring it by a file.",
        )
    taken = [site.keepouts.merged("glass"), *others]
    kept = [rows.tables.outlines[index] for _, index in locked]
    taken += [shapely.buffer(one, rows.table_gap_m, join_style="mitre") for one in kept]
    if site.known.surface is not None:
        # Where nobody has shot the ground nobody knows how a table would stand.
        inside = shapely.intersection(inside, site.known.surface.extent)
    ground = shapely.difference(inside, shapely.union_all(taken))
    if wanted.edge_m:
        ground = shapely.buffer(ground, -wanted.edge_m)

    def in_array(at: Floats) -> Floats:
        return np.column_stack(rows.setting.along_back_m(at[:, 0], at[:, 1]))

    return shapely.transform(ground, in_array)


def _best(free: shapely.Geometry, measure: _Measure) -> tuple[_Row, ...]:
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
        _Row(float(found.back_m[row]), tables)
        for row in np.flatnonzero(by_row).tolist()
        if (tables := _tables_in(found, row, measure, lined_m))
    )


@dataclass(frozen=True)
class _Stretches:
    """Free stretches of all rows: of which ``row`` each is, where it begins, how long it is.

    ``back_m`` is how far back each row's glass begins.
    """

    back_m: Floats
    row: Integers
    low_m: Floats
    room_m: Floats


def _stretches(free: shapely.Geometry, measure: _Measure, first_back_m: float) -> _Stretches:
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
    return _Stretches(
        np.asarray(backs, dtype=float),
        of[open_ones],
        low[open_ones],
        np.asarray(room, dtype=float)[open_ones],
    )


def _tables_in(found: _Stretches, row: int, measure: _Measure, lined_m: float) -> tuple[_Table, ...]:
    """A row's stretches filled end to end, in step with ``lined_m`` where slack allows."""
    own = found.row == row
    tables: list[_Table] = []
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
            _Table(first + start + measure.length_m(one) / 2, one)
            for start, one in zip(starts.tolist(), columns, strict=True)
        ]
    return tuple(tables)


def _no_more_than(found: tuple[_Row, ...], modules: int, high: int, shortest: int) -> tuple[_Row, ...]:
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
            kept.append(_Row(row.back_m, tuple(tables)))
        if left <= 0:
            break
    return tuple(kept)


def _settled(
    found: tuple[_Row, ...],
    rows: RowsPlan,
    givens: RowsGivens,
    measure: _Measure,
    locked: list[tuple[TableGivens, int]],
    free: shapely.Geometry,
    laid_by: Callable[[RowsGivens], RowsPlan],
) -> Filled:
    """Write the rows as a pattern and what differs from it, and see where they really come to lie."""
    pattern = _Pattern.of(found, rows, measure)
    own = _beside(rows, locked, pattern)
    limit = constant("common", "level_table_m").value if _rough(rows) else np.inf
    moves = {place: 0.0 for place in pattern.columns}
    uneven: set[tuple[int, int]] = set()
    over: set[tuple[int, int]] = set()
    for _ in range(SETTLINGS):
        said = pattern.givens(givens, moves, uneven | over, own, rows)
        plan = laid_by(said)
        tables = plan.tables
        kept = tables.row != NO_ROW
        places = list(zip(tables.row[kept].tolist(), tables.table[kept].tolist(), strict=True))
        meant = np.array([pattern.middles[place] for place in places])
        off_m = (meant - tables.middle_m[kept]) / tables.level_share[kept]
        outlines = shapely.transform(
            tables.outlines[kept],
            lambda at: np.column_stack(rows.setting.along_back_m(at[:, 0], at[:, 1])),
        )
        beyond = shapely.area(shapely.difference(outlines, free)) > OVER_M2
        # Where the ground pushed a table along, it is moved back to where it was meant.
        pushed = (np.abs(off_m) > LEFT_SO_M) | (beyond & (np.abs(off_m) > ROUNDING_M))
        if pushed.any():
            for number in np.flatnonzero(pushed).tolist():
                moves[places[number]] = round(moves[places[number]] + float(off_m[number]), 4)
            continue
        steps = plan.lie.clear_m[kept, 1] - plan.lie.clear_m[kept, 0]
        rough = {place for place, step in zip(places, steps.tolist(), strict=True) if step > limit}
        out = {place for place, one in zip(places, beyond.tolist(), strict=True) if one}
        if not (rough | out) - uneven - over:
            gone = sum(one.out and one.by_hand for one in givens.tables)
            return Filled(said, plan.module_count, tables.count, len(found), len(uneven), gone)
        uneven, over = uneven | rough, over | (out - rough)
    raise FillError(
        "tables",
        "the tables do not come to rest on this ground",
        "ground that tables can follow",
        "Let rows be level, or fill a smaller part.",
    )


def _rough(rows: RowsPlan) -> bool:
    return not np.allclose(rows.lie.clear_m[:, 0], rows.lie.clear_m[:, 1])


@dataclass(frozen=True)
class _Pattern:
    """Rows by tables as one pattern: ``middles`` and ``columns`` by place, the array's new origin."""

    rows: int
    along: int
    origin: tuple[float, float]
    middles: dict[tuple[int, int], float]
    columns: dict[tuple[int, int], int]
    new_id: Callable[[], str]

    @classmethod
    def of(cls, found: tuple[_Row, ...], rows: RowsPlan, measure: _Measure) -> "_Pattern":
        """Each row's tables in the places of the pattern that are nearest to them."""
        step, usual = measure.step_m, measure.length_m(rows.modules_along)
        # Where a whole table would begin whose end the first one shares.
        first = min(
            row.tables[0].middle_m - measure.length_m(row.tables[0].columns) / 2 for row in found
        )
        first += usual / 2
        numbers = [round((row.back_m - found[0].back_m) / rows.pitch_m) for row in found]
        middles: dict[tuple[int, int], float] = {}
        columns: dict[tuple[int, int], int] = {}
        along = 1
        for number, row in zip(numbers, found, strict=True):
            last = -1
            for one in row.tables:
                last = max(last + 1, round((one.middle_m - first) / step))
                middles[number, last] = one.middle_m
                columns[number, last] = one.columns
            along = max(along, last + 1)
        if along > MOST_ALONG:
            raise FillError(
                "tables",
                f"a row would have {along} places",
                f"at most {MOST_ALONG} tables in a row",
                "Make tables longer, or fill parts of the ground with arrays of their own.",
            )
        # The array's origin is the middle of the front row's posts.
        middle = first + (along * usual + (along - 1) * measure.gap_m) / 2 - usual / 2
        back = found[0].back_m + rows.section.post_x_m
        moved = {place: at - middle for place, at in middles.items()}
        return cls(max(numbers) + 1, along, (middle, back), moved, columns, measure.wanted.new_id)

    def givens(
        self,
        before: RowsGivens,
        moves: dict[tuple[int, int], float],
        out: set[tuple[int, int]],
        own: tuple[TableGivens, ...],
        rows: RowsPlan,
    ) -> RowsGivens:
        """The rows as they are said."""
        told = []
        for row in range(self.rows):
            for table in range(self.along):
                place = row, table
                gone = place not in self.columns or place in out
                columns = None if gone else self.columns[place]
                columns = None if columns == rows.modules_along else columns
                along = 0.0 if gone else moves[place]
                if gone or columns is not None or along:
                    one = TableGivens(
                        id=self.new_id(),
                        place=named_place(row, table),
                        out=gone,
                        modules_along=columns,
                        along_m=along,
                    )
                    told.append(one.model_copy(update={"laid": one.told}))
        if len(told) + len(own) > MOST_TABLES_APART:
            raise FillError(
                "tables",
                f"{len(told) + len(own)} tables would differ from the pattern",
                f"at most {MOST_TABLES_APART}",
                "Fill parts of the ground with arrays of their own, or leave out short tables.",
            )
        east, north = rows.setting.east_north_m(*self.origin)
        return before.model_copy(
            update={
                "rows": self.rows,
                "tables_along": self.along,
                "pitch_m": rows.pitch_m,
                "at_east_m": round(float(east), 4),
                "at_north_m": round(float(north), 4),
                "tables": (*own, *told),
            }
        )


def _beside(
    rows: RowsPlan, locked: list[tuple[TableGivens, int]], pattern: _Pattern
) -> tuple[TableGivens, ...]:
    """Tables set by hand as tables of no row, where they stand, seen from the new origin."""
    tables = rows.tables
    return tuple(
        one.model_copy(
            update={
                "place": "",
                "name": one.name or f"was {one.place}",
                "modules_along": int(tables.columns[index]),
                "along_m": round(float(tables.middle_m[index]) - pattern.origin[0], 4),
                "back_m": round(float(tables.back_m[index]) - pattern.origin[1], 4),
                "laid": "",
            }
        )
        for one, index in locked
    )
