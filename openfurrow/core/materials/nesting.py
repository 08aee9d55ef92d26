"""How few sticks serve: pieces nested in stock of one or more lengths."""

from dataclasses import dataclass

import numpy as np

from openfurrow.core.materials.patterns import (
    Column,
    Integers,
    Task,
    every_pattern,
    first_patterns,
    priced_patterns,
)
from openfurrow.core.materials.sticks import best_of_all, bought_m, first_fit, whole_sticks
from openfurrow.core.quantities import INCH_M

# Lengths are counted in marks of a tape where all of them stand on one, else in tenths of a millimetre.
GRAIN_M = 1e-4
GRAINS_M = (INCH_M / 16, 1e-3, GRAIN_M)


@dataclass(frozen=True)
class Pattern:
    """One way to cut a stick of ``stock_m``, and how many sticks are cut so; the longest first."""

    stock_m: float
    pieces_m: tuple[float, ...]
    sticks: int

    def left_m(self, kerf_m: float) -> float:
        """What is left of each stick after its last cut."""
        used = sum(self.pieces_m) + kerf_m * len(self.pieces_m)
        return max(0.0, self.stock_m - used)


@dataclass(frozen=True)
class Nest:
    """How pieces of one profile are cut; no way of cutting them buys less than ``bound_m``."""

    patterns: tuple[Pattern, ...]
    bound_m: float

    @property
    def sticks(self) -> int:
        """Sticks of all lengths."""
        return sum(one.sticks for one in self.patterns)

    @property
    def bought_m(self) -> float:
        """All of them, end to end."""
        return sum(one.sticks * one.stock_m for one in self.patterns)

    @property
    def cut_m(self) -> float:
        """The pieces, end to end."""
        return sum(one.sticks * sum(one.pieces_m) for one in self.patterns)

    def of_stock(self) -> dict[float, int]:
        """Sticks of each length, the longest first."""
        found: dict[float, int] = {}
        for one in sorted(self.patterns, key=lambda one: -one.stock_m):
            found[one.stock_m] = found.get(one.stock_m, 0) + one.sticks
        return found


def nested(pieces: dict[float, int], stocks_m: tuple[float, ...], kerf_m: float) -> Nest:
    """``pieces`` by length with their counts, cut from sticks so that the least metres are bought.

    Raises ValueError for a piece longer than the longest stick.
    """
    lengths = sorted((length for length, count in pieces.items() if count > 0), reverse=True)
    if not lengths:
        return Nest((), 0.0)
    task = _task(pieces, lengths, sorted(set(stocks_m)), kerf_m)
    least_m = sum(length * pieces[length] for length in lengths)
    every = every_pattern(task)
    if every is not None:
        chosen, bound_m = best_of_all(task, every)
    else:
        priced = priced_patterns(task, first_patterns(task), task.rounds)
        chosen, bound_m = whole_sticks(task, priced), priced.bound_m
    return Nest(_patterns(task, lengths, chosen), max(bound_m, least_m))


def _task(pieces: dict[float, int], lengths: list[float], stocks_m: list[float], kerf_m: float) -> Task:
    if lengths[0] > stocks_m[-1] + GRAIN_M / 2:
        raise ValueError(f"a piece of {lengths[0]:.3f} m is longer than a stick, {stocks_m[-1]:.3f} m")
    all_m = np.array([*lengths, *stocks_m, kerf_m])
    grain_m = next(
        (one for one in GRAINS_M if np.abs(all_m - np.rint(all_m / one) * one).max() < GRAIN_M / 20),
        GRAIN_M,
    )

    def grains(those_m: list[float]) -> Integers:
        return np.rint((np.array(those_m)) / grain_m).astype(np.int64)

    kerf = int(grains([kerf_m])[0])
    return Task(
        grains(lengths) + kerf,
        np.array([pieces[length] for length in lengths]),
        grains(stocks_m) + kerf,
        np.array(stocks_m),
        grain_m,
    )


def _patterns(
    task: Task, lengths: list[float], chosen: list[tuple[Column, int]]
) -> tuple[Pattern, ...]:
    """Patterns of no more than is wanted: what the last sticks would have too much of is not cut."""
    left, made = task.wanted.copy(), []
    for (stock, fits), times in sorted(chosen, key=lambda one: -one[1]):
        while times:
            take = np.minimum(fits, left)
            if not take.any():
                break
            some = take > 0
            repeat = min(times, int((left[some] // take[some]).min()))
            cuts = tuple(np.repeat(np.array(lengths), take).tolist())
            # With less to cut a shorter stick may do.
            least = int(np.searchsorted(task.rooms, int(take @ task.weights)))
            made.append(Pattern(float(task.costs_m[min(least, stock)]), cuts, repeat))
            left, times = left - take * repeat, times - repeat
    joined: dict[tuple[float, tuple[float, ...]], int] = {}
    for one in made:
        joined[one.stock_m, one.pieces_m] = joined.get((one.stock_m, one.pieces_m), 0) + one.sticks
    inside = (Pattern(stock, cuts, sticks) for (stock, cuts), sticks in joined.items())
    return tuple(sorted(inside, key=lambda one: (one.pieces_m, one.stock_m), reverse=True))


def offcut_share(pieces: dict[float, int], stocks_m: tuple[float, ...], kerf_m: float) -> float:
    """What first fit leaves of all that is bought: near the least, and quick.

    Raises ValueError for a piece longer than a stick.
    """
    lengths = sorted((length for length, count in pieces.items() if count > 0), reverse=True)
    task = _task(pieces, lengths, sorted(set(stocks_m)), kerf_m)
    bought = bought_m(task, first_fit(task))
    return 1 - sum(length * count for length, count in pieces.items()) / bought
