"""Strings: how many modules in series, how many strings, and how far each is from the box."""

import math
from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.codes import constant
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.tables import Tables
from openfurrow.core.wiring.walks import ModulesAt

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]


def at_temperature(value_v: float, coefficient_per_c: float, cell_c: float) -> float:
    """A voltage of the data sheet (25 °C) at another cell temperature."""
    return value_v * (1 + coefficient_per_c * (cell_c - 25.0))


@dataclass(frozen=True)
class StringPlan:
    """Strings of the array. ``lengths`` is the module count of each."""

    longest_allowed: int
    shortest_allowed: int
    lengths: NDArray[np.int64]

    @property
    def count(self) -> int:
        """How many strings there are."""
        return int(self.lengths.size)

    @property
    def words(self) -> str:
        """How many of which length, the longest first: ``2 x 13 and 1 x 12``."""
        lengths, counts = np.unique(self.lengths, return_counts=True)
        each = zip(lengths[::-1].tolist(), counts[::-1].tolist(), strict=True)
        return " and ".join(f"{count} x {length}" for length, count in each)

    @property
    def equal(self) -> bool:
        """Whether all strings are of one length."""
        return bool((self.lengths == self.lengths[0]).all())


def divide(modules: int, longest: int, shortest: int, inputs: int) -> NDArray[np.int64]:
    """Fewest equal strings within the limits, else the fewest that differ by one at most.

    Equal ones are worth some more strings, but not many short ones, and none without an input of its
    own where the fewest all have one.
    """
    fewest = math.ceil(modules / max(longest, 1))
    worth = math.floor(constant("common", "more_strings").value * fewest)
    most = min(worth, modules // max(shortest, 1))
    if fewest <= inputs:
        most = min(most, inputs)
    counts = np.arange(fewest, max(fewest, most) + 1)
    equal = counts[modules % counts == 0]
    count = int(equal[0]) if equal.size else fewest
    lengths = np.full(count, modules // count)
    lengths[: modules % count] += 1
    return lengths


def share_inputs(fewest: tuple[int, ...], inputs: int) -> tuple[int, ...]:
    """How many inputs each array may take: its ``fewest`` strings, and its part of what is left over.

    Where there are too few, each has its part of those, and one at least: that they do not suffice is
    seen where all strings are counted.
    """
    wanted = sum(fewest)
    if wanted > inputs:
        return tuple(max(1, inputs * one // wanted) for one in fewest)
    return tuple(one + (inputs - wanted) * one // wanted for one in fewest)


def homeruns_m(
    at: ModulesAt, order: Integers, lengths: Integers, box_m: tuple[float, float]
) -> tuple[Floats, Floats]:
    """Wire from the two ends of each string to the box, along the rows and square across them.

    ``order`` is that in which strings pass the modules, each from one of its ends to the other;
    ``box_m`` is the box along and back.
    """
    last = np.cumsum(lengths) - 1
    first = last - lengths + 1

    def distance(module: Integers) -> Floats:
        away = np.abs(at.along_m[module] - box_m[0]) + np.abs(at.back_m[module] - box_m[1])
        return np.asarray(away)

    return distance(order[first]), distance(order[last])


def tour_m(rows: RowsPlan) -> float:
    """Bare copper along every line of posts and from each to the next.

    Rows are joined at their ends, square across; a table off its row is joined to the nearest line.
    """
    tables = rows.tables
    start, end = tables.run_m - tables.lengths_m / 2, tables.run_m + tables.lengths_m / 2
    lines, of = np.unique(tables.line, return_inverse=True)
    first, last = np.full(lines.size, np.inf), np.full(lines.size, -np.inf)
    np.minimum.at(first, of, start)
    np.maximum.at(last, of, end)
    along = float((last - first).sum())
    whole_rows = np.unique(tables.row[tables.in_line])
    between = float(np.ptp(whole_rows)) * rows.pitch_m if whole_rows.size else 0.0
    return along + between + _spurs_m(tables)


def _spurs_m(tables: Tables) -> float:
    """From each table off its row to the nearest line: of the rows, or of one before it."""
    off = np.flatnonzero(~tables.in_line)
    if not off.size:
        return 0.0
    half = tables.lengths_m / 2
    every = np.arange(tables.count)
    ends = [np.column_stack(tables.east_north_m(every, end, 0.0)) for end in (-half, half)]
    posts = shapely.linestrings(np.stack(ends, axis=1))
    before = list(posts[tables.in_line])
    total = 0.0
    for one in posts[off]:
        total += float(shapely.distance(one, before).min()) if before else 0.0
        before.append(one)
    return total
