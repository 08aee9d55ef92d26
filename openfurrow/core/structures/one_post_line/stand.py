"""Where the posts of every table stand, how high, and which of them are alike."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes.section import Section, section
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.kinds import kinds_of
from openfurrow.core.structures.one_post_line.layout import PostLine, fits, post_line, shifted
from openfurrow.core.structures.supports import Kinds, SupportPlaces, Supports

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class NotShifted:
    """Posts that were told to shift and cannot, counted from nought, and why."""

    posts: tuple[int, ...]
    words: str


@dataclass(frozen=True, kw_only=True)
class Stand:
    """Posts of every table. ``line`` is the table whose posts stand worst where some are shifted;
    ``not_shifted`` says which shifts could not be.
    """

    givens: StructureGivens
    post: Section
    line: PostLine
    not_shifted: NotShifted
    supports: Supports
    kinds: Kinds


def stand(site: SitePlan, rows: RowsPlan, givens: StructureGivens, purlin_end_m: float) -> Stand:
    """Place the posts of every table on the ground."""
    even = post_line(
        rows.table_length_m + 2 * purlin_end_m, givens.span_limit_m, givens.cantilever_ratio
    )
    shift, not_shifted = shifts_of(givens, even, rows)
    places = support_places(rows, even, purlin_end_m, shift)
    line = worst_line(even, shift)
    ground = site.ground.level_m(places.east_m, places.north_m)
    reveals = rows.lie.edge_at(places.of_table, places.along_m) + rows.section.bolt_z_m - ground
    soil_of = site.soil_at(places.east_m, places.north_m)
    tributary = tributaries_m(even, shift)
    kinds, kind = kinds_of(reveals, tributary, soil_of)
    return Stand(
        givens=givens,
        post=section(givens.post_section),
        line=line,
        not_shifted=not_shifted,
        supports=Supports(
            places=places,
            ground_m=ground,
            reveals_m=reveals,
            tributary_m=tributary,
            soil_of=soil_of,
            kind=kind,
        ),
        kinds=kinds,
    )


def support_places(
    rows: RowsPlan, line: PostLine, purlin_end_m: float, shift_m: Floats | None = None
) -> SupportPlaces:
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
    return SupportPlaces(row, tables.table[of_table], along, run, back, east, north, of_table)


def shifts_of(givens: StructureGivens, line: PostLine, rows: RowsPlan) -> tuple[Floats, NotShifted]:
    """The shift of every post, and which were not possible: those posts stay."""
    count = line.count * rows.tables_along * rows.rows
    shift = np.zeros(count)
    beyond = [number for number, _ in givens.shifts if number > count]
    for number, by_m in givens.shifts:
        if number <= count:
            shift[number - 1] = by_m
    by_table = shift.reshape(-1, line.count)
    moved = np.flatnonzero(by_table.any(axis=1))
    unfit = [index for index in moved.tolist() if not fits(line, by_table[index])]
    by_table[unfit] = 0.0
    words = [f"there is no post {number}" for number in beyond]
    words += [f"table {index + 1}: posts would cross or leave the purlin" for index in unfit]
    stay = {
        number - 1
        for number, _ in givens.shifts
        if number <= count and (number - 1) // line.count in unfit
    }
    return shift, NotShifted(tuple(sorted(stay)), "; ".join(words[:3]))


def _patterns(line: PostLine, shift_m: Floats) -> tuple[list[PostLine], NDArray[np.int64]]:
    """The lines of posts that differ, and of each table which is its own."""
    by_table = shift_m.reshape(-1, line.count)
    if not shift_m.any():
        return [line], np.zeros(len(by_table), dtype=np.int64)
    patterns, which = np.unique(by_table, axis=0, return_inverse=True)
    return [shifted(line, by_m) if by_m.any() else line for by_m in patterns], which


def tributaries_m(line: PostLine, shift_m: Floats) -> Floats:
    """How much of the row each post carries: that of its own table as its posts are shifted."""
    lines, which = _patterns(line, shift_m)
    return np.asarray(np.stack([one.tributary_m for one in lines])[which].ravel())


def worst_line(line: PostLine, shift_m: Floats) -> PostLine:
    """The table whose busiest post carries most, of all patterns of shifts; usually the even one."""
    lines, _ = _patterns(line, shift_m)
    return max([line, *lines], key=lambda one: (float(one.tributary_m.max()), one.longest_span_m))
