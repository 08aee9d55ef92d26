"""Tables that differ from the pattern: taken out, made longer, moved, turned, or of no row."""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.rows.givens import A_PLACE, RowsGivens, TableGivens
from openfurrow.core.rows.lie import Lie, lay, lay_in_place
from openfurrow.core.rows.tables import NO_ROW, Tables, named_place
from openfurrow.core.site.ground import Ground

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]
Truths = NDArray[np.bool_]


@dataclass(frozen=True)
class Placed:
    """The tables as they stand.

    ``apart`` are those that do not stand as the pattern alone has them, ``as_even`` which of the
    pattern's own do and ``out`` which of them are taken out; ``ids`` is by what those of no row are
    known, ``wrong`` what could not be.
    """

    lie: Lie
    apart: Integers
    as_even: Truths
    out: Integers
    ids: tuple[str, ...]
    names: tuple[str, ...]
    wrong: tuple[str, ...]

    @property
    def words(self) -> str:
        """How many tables are taken out, stand otherwise, or are of no row."""
        own = len(self.ids)
        said = {"taken out": self.out.size, "otherwise": self.apart.size - own, "of no row": own}
        return ", ".join(f"{count} {what}" for what, count in said.items() if count) or "none otherwise"

    def id_of(self, index: int) -> str:
        """By what a table is known for good: its place in the pattern, or its own id."""
        tables = self.lie.tables
        row, table = int(tables.row[index]), int(tables.table[index])
        return self.ids[table] if row == NO_ROW else named_place(row, table)

    def place_of(self, index: int) -> tuple[int | None, int | str]:
        """Its row and its place there, counted from one; of one of no row its name alone."""
        row, table = int(self.lie.tables.row[index]), int(self.lie.tables.table[index])
        return (None, self.names[table]) if row == NO_ROW else (row + 1, table + 1)

    def index_of(self, table_id: str) -> int | None:
        """Which table is known by that id; None where there is none such."""
        tables = self.lie.tables
        if table_id in self.ids:
            row, table = NO_ROW, self.ids.index(table_id)
        elif A_PLACE.fullmatch(table_id):
            row, table = (int(part) - 1 for part in table_id.split("."))
        else:
            return None
        found = np.flatnonzero((tables.row == row) & (tables.table == table))
        return int(found[0]) if found.size else None

    def name_of(self, index: int) -> str:
        """What people call it."""
        tables = self.lie.tables
        row, table = int(tables.row[index]), int(tables.table[index])
        return self.names[table] if row == NO_ROW else named_place(row, table)


@dataclass(frozen=True)
class Glass:
    """A module along the row and the gap to the next, metres."""

    along_m: float
    gap_m: float

    def lengths_m(self, columns: Integers) -> Floats:
        """The glass of tables of so many columns."""
        return np.asarray(columns * self.along_m + (columns - 1) * self.gap_m, dtype=float)


def placed(ground: Ground, even: Lie, givens: RowsGivens, glass: Glass) -> Placed:
    """The pattern as it lies, ``even``, with each table that differs as it is told."""
    count, none = even.tables.count, np.empty(0, dtype=np.int64)
    if not givens.tables:
        return Placed(even, none, np.ones(count, dtype=bool), none, (), (), ())
    of_pattern, wrong = _by_index(even.tables, givens.tables)
    own = [one for one in givens.tables if not one.place and not one.out]
    there = np.ones(count, dtype=bool)
    there[[index for index, one in of_pattern.items() if one.out]] = False
    if not (there.any() or own):
        # Nothing could be said of an array of nothing.
        first = next(iter(of_pattern))
        there[first] = True
        row, table = int(even.tables.row[first]), int(even.tables.table[first])
        wrong.append(f"no table is left: {named_place(row, table)} stands until another does")
    lie = _lengthened(ground, even, of_pattern, givens, glass)
    lie = _moved(ground, lie, of_pattern, givens)
    as_even = (
        (lie.tables.lengths_m == even.tables.lengths_m)
        & (lie.tables.turn_deg == 0.0)
        & (lie.rise_along == even.rise_along)
        & (
            np.hypot(lie.tables.middle_m - even.tables.middle_m, lie.tables.back_m - even.tables.back_m)
            < 1e-9
        )
    )
    lie = lie.take(there)
    apart = np.flatnonzero(~as_even[there])
    if own:
        follows = np.array([one.follows(givens.follow_ground) for one in own])
        others = _laid_each(ground, _of_no_row(even.tables, own, givens, glass), follows)
        apart = np.concatenate((apart, lie.tables.count + np.arange(len(own))))
        lie = lie.joined(others)
    names = tuple(one.name.strip() or f"extra {number + 1}" for number, one in enumerate(own))
    return Placed(
        lie=lie,
        apart=apart,
        as_even=as_even & there,
        out=np.flatnonzero(~there),
        ids=tuple(one.id for one in own),
        names=names,
        wrong=tuple(wrong),
    )


def _by_index(
    tables: Tables, said: tuple[TableGivens, ...]
) -> tuple[dict[int, TableGivens], list[str]]:
    """What is told of tables of the pattern, by their index, and what is told of none."""
    rows, along = int(tables.row.max()) + 1, tables.in_row
    found: dict[int, TableGivens] = {}
    wrong = []
    for one in said:
        if not one.place:
            continue
        row, table = (int(part) - 1 for part in one.place.split("."))
        index = row * along + table
        if row >= rows or table >= along:
            wrong.append(f"there is no table {one.place}")
        elif index in found:
            wrong.append(f"{one.place} is told twice: the first counts")
        else:
            found[index] = one
    return found, wrong


def _lengthened(
    ground: Ground, even: Lie, told: dict[int, TableGivens], givens: RowsGivens, glass: Glass
) -> Lie:
    """The rows laid again with their longer and shorter tables; each begins where it did."""
    tables = even.tables
    columns = tables.columns.copy()
    for index, one in told.items():
        columns[index] = one.modules_along or columns[index]
    if (columns == tables.columns).all():
        return even
    usual_m = float(tables.lengths_m[0])
    lengths = glass.lengths_m(columns)
    more = (lengths - usual_m).reshape(-1, tables.in_row)
    # What stands before a table in its row pushes it on; its own middle moves by half of its own.
    moved = (np.cumsum(more, axis=1) - more / 2).ravel()
    longer = replace(
        tables,
        columns=columns,
        lengths_m=lengths,
        run_m=tables.run_m + moved,
        middle_m=tables.middle_m + tables.level_share * moved,
    )
    laid = lay(ground, longer, givens.follow_ground, usual_m)
    return _where(laid, even, (moved != 0) | (more.ravel() != 0))


def _where(changed: Lie, before: Lie, which: Truths) -> Lie:
    """``changed`` where it is meant, ``before`` elsewhere, to the last digit."""
    order = np.argsort(np.concatenate((np.flatnonzero(which), np.flatnonzero(~which))))
    return changed.take(which).joined(before.take(~which)).take(order)


def _moved(ground: Ground, lie: Lie, told: dict[int, TableGivens], givens: RowsGivens) -> Lie:
    """Tables of the pattern off their places; one that leaves its row's line has one of its own."""
    others = givens.follow_ground
    follows = {index: one.follows(others) for index, one in told.items()}
    chosen = sorted(
        index
        for index, one in told.items()
        if one.along_m or one.back_m or one.turn_deg or follows[index] != others
    )
    if not chosen:
        return lie
    tables = lie.tables
    which = np.zeros(tables.count, dtype=bool)
    which[chosen] = True
    mine = tables.take(which)
    along, back, turn = (
        np.array([getattr(told[index], name) for index in chosen], dtype=float)
        for name in ("along_m", "back_m", "turn_deg")
    )
    off = (back != 0) | (turn != 0)
    moved = replace(
        mine,
        line=np.where(off, givens.rows + np.array(chosen), mine.line),
        run_m=np.where(off, 0.0, mine.run_m + along),
        middle_m=mine.middle_m + mine.level_share * along,
        back_m=mine.back_m + back,
        turn_deg=turn,
    )
    laid = _laid_each(ground, moved, np.array([follows[index] for index in chosen]))
    order = np.argsort(np.concatenate((np.array(chosen), np.flatnonzero(~which))))
    return laid.joined(lie.take(~which)).take(order)


def _laid_each(ground: Ground, tables: Tables, follow: Truths) -> Lie:
    """Tables each by itself, along the ground those that ``follow`` it and level the others."""
    if follow.all() or not follow.any():
        return lay_in_place(ground, tables, bool(follow[0]))
    along = lay_in_place(ground, tables.take(follow), follow=True)
    level = lay_in_place(ground, tables.take(~follow), follow=False)
    order = np.argsort(np.concatenate((np.flatnonzero(follow), np.flatnonzero(~follow))))
    return along.joined(level).take(order)


def _of_no_row(tables: Tables, own: list[TableGivens], givens: RowsGivens, glass: Glass) -> Tables:
    """Tables beside the pattern, each its own line, placed from the middle of the front row's posts."""
    count = len(own)
    columns = np.array([one.modules_along or givens.modules_along for one in own])
    return replace(
        tables,
        row=np.full(count, NO_ROW),
        table=np.arange(count),
        line=givens.rows + tables.count + np.arange(count),
        columns=columns,
        lengths_m=glass.lengths_m(columns),
        run_m=np.zeros(count),
        middle_m=np.array([one.along_m for one in own], dtype=float),
        back_m=np.array([one.back_m for one in own], dtype=float),
        turn_deg=np.array([one.turn_deg for one in own], dtype=float),
        level_share=np.ones(count),
    )
