"""Strings: how many modules in series, how many strings, and how far each is from the box."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant
from openfurrow.core.rows.array import RowsPlan

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
    rows: RowsPlan, lengths: NDArray[np.int64], box_run_m: float, box_back_m: float
) -> tuple[Floats, Floats]:
    """Wire from the two ends of each string to the box, along the rows and square across them.

    Modules are counted row by row, table by table, column by column.
    """
    last = np.cumsum(lengths) - 1
    first = last - lengths + 1

    def distance(module: Integers) -> Floats:
        along, back = _middles_m(rows, module)
        return np.asarray(np.abs(along - box_run_m) + np.abs(back - box_back_m))

    return distance(first), distance(last)


def _middles_m(rows: RowsPlan, module: Integers) -> tuple[Floats, Floats]:
    """Along the row and back, the middle of each module's column."""
    columns = rows.modules_along * rows.tables_along
    in_table = rows.columns_m + rows.module_along_m / 2
    column_along = (rows.lie.tables.starts_m[:, None] + in_table).ravel()
    column = module // rows.modules_high
    return (
        np.asarray(column_along[column % columns], dtype=np.float64),
        np.asarray((column // columns) * rows.pitch_m, dtype=np.float64),
    )


def jumpers_m(rows: RowsPlan, lengths: NDArray[np.int64]) -> tuple[Floats, Integers]:
    """Wire inside each string from one table to another, and how many such jumpers it has.

    A string that runs on in the next row, or across a gap that no module's lead reaches, is joined by a
    wire of its own: along the rows and square across them.
    """
    module = np.arange(int(lengths.sum()) - 1)
    string = np.repeat(np.arange(lengths.size), lengths)
    along, back = _middles_m(rows, np.arange(int(lengths.sum())))
    apart = np.abs(np.diff(along)) + np.abs(np.diff(back))
    reach = rows.column_step_m + constant("common", "lead_reach_m").value
    wired = (string[:-1] == string[1:]) & ((np.diff(back) > 0) | (apart > reach))
    of = string[module[wired]]
    return (
        np.asarray(np.bincount(of, apart[wired], lengths.size), dtype=np.float64),
        np.asarray(np.bincount(of, minlength=lengths.size), dtype=np.int64),
    )
