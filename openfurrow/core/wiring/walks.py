"""In which order a string goes from module to module."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.wiring.givens import StringWalk

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]


@dataclass(frozen=True, kw_only=True)
class ModulesAt:
    """Every module as strings are counted off: table by table, column by column, upward.

    ``table``, ``column`` and ``row`` up the slope, ``from_middle_m`` of its column from the table's
    middle, and its column along the lines of tables and back from the first.
    """

    table: Integers
    column: Integers
    row: Integers
    from_middle_m: Floats
    along_m: Floats
    back_m: Floats
    line: Integers


def modules_at(rows: RowsPlan) -> ModulesAt:
    """The modules of an array."""
    of, number, from_middle = rows.each_column
    along, back = rows.tables.along_lines_m(of, from_middle)
    high = rows.modules_high
    return ModulesAt(
        table=np.repeat(of, high),
        column=np.repeat(number, high),
        row=np.tile(np.arange(high), of.size),
        from_middle_m=np.repeat(from_middle, high),
        along_m=np.repeat(along, high),
        back_m=np.repeat(back, high),
        line=np.repeat(rows.tables.line[of], high),
    )


def strings_of(lengths: Integers) -> Integers:
    """The string of every module in the order in which they are counted off."""
    return np.repeat(np.arange(lengths.size), lengths)


def walked(at: ModulesAt, lengths: Integers, walk: StringWalk, *, from_far: bool = False) -> Integers:
    """Modules in the order in which strings pass them, string after string.

    ``from_far``: each begins at the other end of what it passes of a line; whole rows never do.

    ``row by row``: along the lowest row over all tables of a line, back along the next. ``whole rows``:
    strings are cut from one way through each table, along its lowest row and back along the next.
    ``column by column``: up one, down the next. ``every other and back``: in each row every other
    module on the way out and the others on the way back, so that both ends are at one place.
    """
    count = int(lengths.sum())
    string = strings_of(lengths)
    if walk == "whole rows":
        way = np.where(at.row % 2 == 0, at.column, -at.column)[:count]
        return np.lexsort((way, at.row[:count], at.table[:count]))
    table, row, column = at.table[:count], at.row[:count], at.column[:count]
    # Tables that follow each other in one line are passed as one; those of a string keep their order.
    stretch = np.cumsum(np.concatenate(([0], np.diff(at.line[:count]) != 0)))
    place = _ranks(string, stretch, table, column)
    if from_far:
        place = _from_far(string, stretch, place)
    if walk == "column by column":
        up = np.where(place % 2 == 0, row, -row)
        return np.lexsort((up, place, stretch, string))
    if walk == "row by row":
        on = np.where(row % 2 == 0, place, -place)
        return np.lexsort((on, row, stretch, string))
    # Counted within its own row: where a string begins in the middle of a column its rows differ.
    nth = _counted(string, stretch, row, place)
    back = nth % 2
    return np.lexsort((np.where(back == 0, nth, -nth), back, row, stretch, string))


def _ranks(string: Integers, stretch: Integers, table: Integers, column: Integers) -> Integers:
    """Which column of its string and stretch each module stands in, from nought."""
    keys = np.stack((string, stretch, table, column))
    new = np.concatenate(([True], (np.diff(keys) != 0).any(axis=0)))
    group = np.concatenate(([True], (np.diff(keys[:2]) != 0).any(axis=0)))
    which = np.cumsum(new) - 1
    first = np.maximum.accumulate(np.where(group, which, 0))
    return np.asarray(which - first, dtype=np.int64)


def _from_far(string: Integers, stretch: Integers, place: Integers) -> Integers:
    """The same places counted from the last of each string's stretch."""
    new = (np.diff(np.stack((string, stretch))) != 0).any(axis=0)
    group = np.concatenate(([0], np.cumsum(new)))
    last = np.zeros(group[-1] + 1, dtype=np.int64)
    np.maximum.at(last, group, place)
    return np.asarray(last[group] - place)


def _counted(string: Integers, stretch: Integers, row: Integers, place: Integers) -> Integers:
    """How many of its string's row come before each module in its stretch."""
    order = np.lexsort((place, row, stretch, string))
    keys = np.stack((string, stretch, row))[:, order]
    new = np.concatenate(([True], (np.diff(keys) != 0).any(axis=0)))
    at = np.arange(order.size)
    nth = np.empty(order.size, dtype=np.int64)
    nth[order] = at - np.maximum.accumulate(np.where(new, at, 0))
    return nth
