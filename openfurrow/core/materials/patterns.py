"""Patterns of one stick, generated as Gilmore and Gomory (1961) do.

A linear programme over the patterns that are known prices the pieces, a knapsack finds the pattern that
these prices miss most, until there is none. What the programme then comes to is a bound that no way of
cutting beats.
"""

import itertools
import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import linprog

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

# A pattern that saves less of a stick than this is noise of the programme.
SAVES = 1e-7
# So few patterns of so few lengths are all looked at.
FEW_PATTERNS, FEW_LENGTHS = 3000, 12
# Looking at more fillings than this, full or not, costs more than pricing.
MOST_FILLINGS = 40_000
# How near to the bound, in sticks, is at it.
NEAR = 0.1
# Cells of knapsacks that are gone over at the most, and rounds of them: bounds on work, not on time, so
# that a plan stays pure.
MOST_WORK, LEAST_ROUNDS, MOST_ROUNDS = 150_000_000, 4, 400
# Patterns of one stock that are taken up in a round.
AT_ONCE = 12


@dataclass(frozen=True)
class Task:
    """Pieces and sticks in grains, a saw cut added to each: the last piece of a stick needs none.

    ``weights`` fall, as ``wanted`` goes with them; ``rooms`` are those of ``costs_m``.
    """

    weights: Integers
    wanted: Integers
    rooms: Integers
    costs_m: Floats
    grain_m: float

    @property
    def rounds(self) -> int:
        """Rounds of pricing that are worth their work: many where lengths are few or marks coarse."""
        room = int(self.rooms.max())
        work = room * int(np.minimum(self.wanted, room // self.weights).sum())
        return int(min(max(MOST_WORK // work, LEAST_ROUNDS), MOST_ROUNDS))


Column = tuple[int, Integers]


def fullest(task: Task, stock: int, left: Integers) -> Integers:
    """The longest pieces that still fit, then the next: what a saw hand takes without thinking."""
    room, found = int(task.rooms[stock]), np.zeros(left.size, dtype=np.int64)
    for index, weight in enumerate(task.weights.tolist()):
        found[index] = min(int(left[index]), room // weight)
        room -= int(found[index]) * weight
    return found


def first_patterns(task: Task) -> list[Column]:
    """Patterns to begin with: each piece alone, and first fit by falling length in each stock."""
    columns = []
    for stock in range(task.rooms.size):
        for index in np.flatnonzero((task.weights <= task.rooms[stock]) & (task.wanted > 0)):
            alone = np.zeros(task.wanted.size, dtype=np.int64)
            alone[index] = min(task.rooms[stock] // task.weights[index], task.wanted[index])
            columns.append((stock, alone))
    left, longest = task.wanted.copy(), task.rooms.size - 1
    while left.any():
        fits = fullest(task, longest, left)
        columns.append((longest, fits))
        taken = fits > 0
        left = left - fits * int((left[taken] // fits[taken]).min())
    return columns


def every_pattern(task: Task) -> list[Column] | None:
    """All ways to fill a stick so that nothing more fits; None where many are to be looked at."""
    found: list[Column] = []
    looked = itertools.count(1)
    weights, wanted = task.weights.tolist(), task.wanted.tolist()

    def fill(stock: int, at: int, room: int, fits: list[int]) -> bool:
        """Whether there are still few."""
        if at == len(weights):
            full = all(fits[one] == wanted[one] or weight > room for one, weight in enumerate(weights))
            if full:
                found.append((stock, np.array(fits)))
            return len(found) <= FEW_PATTERNS and next(looked) < MOST_FILLINGS
        most = min(wanted[at], room // weights[at])
        # The last length takes all that fits: less of it is never full.
        least = most if at == len(weights) - 1 else 0
        return all(
            fill(stock, at + 1, room - times * weights[at], [*fits, times])
            for times in range(most, least - 1, -1)
        )

    few = len(weights) <= FEW_LENGTHS and all(
        fill(stock, 0, room, []) for stock, room in enumerate(task.rooms.tolist())
    )
    return found if few else None


@dataclass(frozen=True)
class Programme:
    """The linear programme over patterns: how much of each, what pieces are worth, what it comes to."""

    shares: Floats
    prices: Floats
    least_m: float


def programme(task: Task, columns: list[Column]) -> Programme:
    """The least that is bought where sticks may be shared. Raises ArithmeticError where none serves."""
    costs = task.costs_m[[stock for stock, _ in columns]]
    matrix = np.array([fits for _, fits in columns], dtype=float).T
    solved = linprog(costs, A_ub=-matrix, b_ub=-task.wanted, method="highs")
    if solved.x is None or solved.fun is None:
        raise ArithmeticError(f"the pieces cannot be priced: {solved.message}")
    prices = np.maximum(-solved.ineqlin.marginals, 0.0)
    return Programme(np.asarray(solved.x), prices, float(solved.fun))


@dataclass(frozen=True)
class Priced:
    """The programme over patterns: them, how much of each it takes, and the bound on what is bought."""

    columns: list[Column]
    shares: Floats
    bound_m: float


def priced_patterns(task: Task, columns: list[Column], rounds: int) -> Priced:
    """The programme over ``columns`` and all patterns that pay, as far as the rounds reach.

    The bound is the dual prices' worth of the pieces, made smaller by the pattern that they miss most
    (Farley 1990), so that it holds wherever the rounds end.
    """
    known, bound = list(columns), 0.0
    while True:
        solved = programme(task, known)
        worth = _worth(task, solved.prices)
        over = float((worth.most[task.rooms] / task.costs_m).max())
        bound = max(bound, float(solved.prices @ task.wanted) / max(1.0, over))
        new = _missed(task, solved.prices, worth)
        rounds -= 1
        if not new or rounds <= 0 or proven(task, bound, solved.least_m):
            return Priced(known, solved.shares, bound)
        known += new


def proven(task: Task, bound: float, found: float) -> bool:
    """Whether nothing more is to be gained: no whole stick lies between the bound and the programme."""
    if task.costs_m.size == 1:
        stock = float(task.costs_m[0])
        return sticks_at_least(bound, stock) >= sticks_at_least(found, stock)
    return found - bound < NEAR * float(task.costs_m[0])


@dataclass(frozen=True)
class _Worth:
    """A knapsack: the most that pieces in so many grains are worth, each as often as it is wanted.

    ``taken`` (pieces, grains) is how many of a piece the best of it and those before it has.
    """

    most: Floats
    taken: NDArray[np.int16]

    def fits(self, task: Task, room: int) -> Integers:
        """The pieces that come to the most in ``room``, read back."""
        found = np.zeros(task.weights.size, dtype=np.int64)
        for index in range(task.weights.size - 1, -1, -1):
            found[index] = self.taken[index, room]
            room -= int(found[index]) * int(task.weights[index])
        return found


def _worth(task: Task, prices: Floats) -> _Worth:
    room = int(task.rooms.max())
    most = np.zeros(room + 1)
    taken = np.zeros((task.weights.size, room + 1), dtype=np.int16)
    for index, (weight, price, wanted) in enumerate(
        zip(task.weights.tolist(), prices.tolist(), task.wanted.tolist(), strict=True)
    ):
        if price <= 0:
            continue
        before, own = most, taken[index]
        most = before.copy()
        for times in range(1, min(wanted, room // weight) + 1):
            offered = before[: room + 1 - times * weight] + times * price
            better = offered > most[times * weight :]
            most[times * weight :][better] = offered[better]
            own[times * weight :][better] = times
    return _Worth(most, taken)


def _missed(task: Task, prices: Floats, worth: _Worth) -> list[Column]:
    """Patterns worth more than their stick: of each stock the best with each of a few pieces in it."""
    found: dict[tuple[int, bytes], Column] = {}
    for stock, room in enumerate(task.rooms.tolist()):
        least = task.costs_m[stock] * (1 + SAVES)
        offers = [worth.fits(task, room)]
        left = room - task.weights
        with_it = np.where(left >= 0, prices + worth.most[np.maximum(left, 0)], 0.0)
        for index in np.argsort(-with_it, kind="stable")[:AT_ONCE].tolist():
            if with_it[index] <= least:
                break
            fits = worth.fits(task, int(left[index]))
            fits[index] = min(fits[index] + 1, task.wanted[index])
            offers.append(fits)
        for fits in offers:
            if prices @ fits > least:
                found.setdefault((stock, fits.tobytes()), (stock, fits))
    return list(found.values())


def sticks_at_least(bound_m: float, stock_m: float) -> int:
    """Sticks of one length that the bound asks for."""
    return math.ceil(bound_m / stock_m - 1e-6)
