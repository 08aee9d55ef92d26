"""Rows that fill the ground, as givens: one pattern, what differs from it, and how it comes to rest."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
import shapely

from openfurrow.core.codes import constant
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.givens import MOST_TABLES_APART, RowsGivens, TableGivens
from openfurrow.core.rows.strips import Measure, RowAt
from openfurrow.core.rows.tables import NO_ROW, named_place

# An outline that lies over by less ground lies on the line.
OVER_M2 = 1e-3
# Off where it was meant by less a table is left as the ground lays it, where nothing is in its way.
LEFT_SO_M, ROUNDING_M = 0.05, 1e-4
# Laid again with what the ground made of it, until nothing lies where it must not.
SETTLINGS = 12
MOST_ALONG = 200


class FillError(ValueError):
    """Why nothing can be laid: by which ``field``, what is ``allowed`` (spoken), and what helps."""

    def __init__(self, field: str, message: str, allowed: str, remedy: str) -> None:
        """Keep all that is said to the planner."""
        self.field, self.allowed, self.remedy = field, allowed, remedy
        super().__init__(message)


@dataclass(frozen=True)
class Filled:
    """The rows as they fill the ground, and what they come to.

    ``uneven`` tables had no ground that they could follow; ``put_back`` had been taken out by hand
    and have no place in the new pattern: their ground is free, and the next filling forgets them.
    """

    givens: RowsGivens
    modules: int
    tables: int
    rows: int
    uneven: int
    put_back: int


def settled(
    found: tuple[RowAt, ...],
    rows: RowsPlan,
    givens: RowsGivens,
    measure: Measure,
    locked: list[tuple[TableGivens, int]],
    ground: tuple[shapely.Geometry, tuple[shapely.Geometry, ...]],
    laid_by: Callable[[RowsGivens], RowsPlan],
) -> Filled:
    """Write the rows as a pattern and what differs from it, and see where they really come to lie.

    ``ground`` is what is free, in array coordinates, and what tables were taken out of by hand.
    """
    free, held = ground
    pattern = Pattern.of(found, rows, measure)
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
        beyond = np.zeros(len(places), dtype=bool)
        for lie in plan.lies:
            outlines = shapely.transform(
                lie.tables.outlines[kept],
                lambda at: np.column_stack(rows.setting.along_back_m(at[:, 0], at[:, 1])),
            )
            beyond |= shapely.area(shapely.difference(outlines, free)) > OVER_M2
        # Where the ground pushed a table along, it is moved back to where it was meant.
        pushed = (np.abs(off_m) > LEFT_SO_M) | (beyond & (np.abs(off_m) > ROUNDING_M))
        if pushed.any():
            for number in np.flatnonzero(pushed).tolist():
                moves[places[number]] = round(moves[places[number]] + float(off_m[number]), 4)
            continue
        steps = np.max([np.ptp(lie.clear_m[kept], axis=1) for lie in plan.lies], axis=0)
        rough = {place for place, step in zip(places, steps.tolist(), strict=True) if step > limit}
        out = {place for place, one in zip(places, beyond.tolist(), strict=True) if one}
        if not (rough | out) - uneven - over:
            said, still = _still_out(said, plan, held)
            lost = len(held) - still
            return Filled(said, plan.module_count, tables.count, len(found), len(uneven), lost)
        uneven, over = uneven | rough, over | (out - rough)
    raise FillError(
        "tables",
        "the tables do not come to rest on this ground",
        "ground that tables can follow",
        "Let rows be level, or fill a smaller part.",
    )


def held_free(rows: RowsPlan, givens: RowsGivens) -> tuple[shapely.Geometry, ...]:
    """The ground of tables that somebody has taken out, at all tilts: nothing is laid there."""
    tables = rows.even.tables
    named = {
        named_place(row, table): index
        for index, (row, table) in enumerate(
            zip(tables.row.tolist(), tables.table.tolist(), strict=True)
        )
    }
    return tuple(
        shapely.union_all(
            [position.even.tables.outlines[named[one.place]] for position in rows.positions]
        )
        for one in givens.tables
        if one.out and one.by_hand and one.place in named
    )


def _still_out(
    said: RowsGivens, plan: RowsPlan, held: tuple[shapely.Geometry, ...]
) -> tuple[RowsGivens, int]:
    """Places of the new pattern that are those of tables taken out by hand: so they are again.

    A place is one's where it has more than half of its ground; with it how many have one.
    """
    if not held:
        return said, 0
    outlines = plan.even.tables.outlines
    shares = shapely.area(shapely.intersection(np.array(held)[:, None], outlines[None, :]))
    shares = shares / shapely.area(np.array(held))[:, None]
    best = shares.argmax(axis=1)[shares.max(axis=1) > 0.5]
    tables = plan.even.tables
    ours = {named_place(int(tables.row[at]), int(tables.table[at])) for at in best.tolist()}
    told = tuple(
        one.model_copy(update={"laid": ""}) if one.out and one.place in ours else one
        for one in said.tables
    )
    return said.model_copy(update={"tables": told}), len(best)


def _rough(rows: RowsPlan) -> bool:
    return any(not np.allclose(lie.clear_m[:, 0], lie.clear_m[:, 1]) for lie in rows.lies)


@dataclass(frozen=True)
class Pattern:
    """Rows by tables as one pattern: ``middles`` and ``columns`` by place, the array's new origin."""

    rows: int
    along: int
    origin: tuple[float, float]
    middles: dict[tuple[int, int], float]
    columns: dict[tuple[int, int], int]
    new_id: Callable[[], str]

    @classmethod
    def of(cls, found: tuple[RowAt, ...], rows: RowsPlan, measure: Measure) -> "Pattern":
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
        back = found[0].back_m + measure.ahead_m
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
    rows: RowsPlan, locked: list[tuple[TableGivens, int]], pattern: Pattern
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
