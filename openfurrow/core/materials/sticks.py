"""Whole sticks over patterns: first fit, filled one by one, dived for, or searched for."""

import math
from collections.abc import Callable
from dataclasses import replace
from functools import partial

import numpy as np
from scipy.optimize import LinearConstraint, milp
from scipy.sparse import csr_array

from openfurrow.core.materials.patterns import (
    NEAR,
    Column,
    Floats,
    Integers,
    Priced,
    Task,
    first_patterns,
    fullest,
    priced_patterns,
    programme,
    sticks_at_least,
)

# Numbers of sticks of each length that are looked at together, times the lengths of pieces; of more
# pieces than so many a stick is a small part.
MOST_COUNTS, FEW_PIECES = 500_000, 150
# So many of them are tried with pieces, the cheapest first.
TRIED = 24
# Two ways of cutting that differ by less than this buy the same.
SAME_M = 1e-4
# Nodes of the search: a bound on work, not on time, so that a plan stays pure.
NODES = 500
# So many lengths are many; and how much of a stick may stay empty while small pieces are saved.
MANY, SPARE_M = 40, (0.0, 0.004, 0.02)
# What the programme takes so much of a stick of is cut at once; rounds of pricing between two cuts.
SURE, DIVE_ROUNDS = 0.6, 3
# With fewer rounds than this at hand a dive would take too long.
DIVE_FROM = 40


def best_of_all(task: Task, columns: list[Column]) -> tuple[list[tuple[Column, int]], float]:
    """Whole sticks of all patterns that there are, and what the programme over them comes to."""
    priced = programme(task, columns)
    bound_m = priced.least_m
    ways = [first_fit(task), filled(task)]
    ways += _in_whole_counts(task, bound_m, min(bought_m(task, one) for one in ways))
    best_m = min(bought_m(task, one) for one in ways)
    if best_m - bound_m > room_m(task, bound_m) and best_m - whole_least_m(task, bound_m) > SAME_M:
        # A pattern that its pieces' prices miss by more than may be saved is in no better way.
        missed = [task.costs_m[stock] - priced.prices @ fits for stock, fits in columns]
        saved_m = best_m - bound_m
        able = [one for one, by in zip(columns, missed, strict=True) if by < saved_m]
        searched = _searched(task, able)
        ways += [] if searched is None else [searched]
    return min(ways, key=lambda one: round(bought_m(task, one), 4)), bound_m


def whole_sticks(task: Task, priced: Priced) -> list[tuple[Column, int]]:
    """Whole sticks: first fit, filled stick by stick, or dived for, as long as one may be saved."""
    # Of many lengths a stick over the bound is near enough.
    enough = room_m(task, priced.bound_m)
    enough += float(task.costs_m[0]) if task.wanted.size > MANY else 0.0
    ways: tuple[Callable[[], list[tuple[Column, int]]], ...] = (
        *(partial(filled, task, round(spare / task.grain_m)) for spare in SPARE_M),
        *((partial(_dived, task, priced),) if task.rounds >= DIVE_FROM else ()),
    )
    best = first_fit(task)
    for way in ways:
        if bought_m(task, best) - priced.bound_m <= enough:
            break
        found = way()
        if bought_m(task, found) < bought_m(task, best) - SAME_M:
            best = found
    better = _in_whole_counts(task, priced.bound_m, bought_m(task, best))
    return better[0] if better else best


def _dived(task: Task, priced: Priced) -> list[tuple[Column, int]]:
    """What the programme takes most of is cut, and the programme run on what is left, to the end."""
    left, found = task.wanted.copy(), list[tuple[Column, int]]()
    while left.any():
        cut = False
        for index in np.argsort(-priced.shares, kind="stable").tolist():
            share, (stock, fits) = float(priced.shares[index]), priced.columns[index]
            some = fits > 0
            can = int((left[some] // fits[some]).min())
            # At least one of what is taken most, so that there comes an end.
            sure = max(math.floor(share + 1e-6), int(share >= SURE or not cut))
            if times := min(can, sure):
                found.append(((stock, fits), times))
                left, cut = left - fits * times, True
        rest = replace(task, wanted=left)
        clipped = ((stock, np.minimum(fits, left)) for stock, fits in priced.columns)
        known = {(stock, fits.tobytes()): (stock, fits) for stock, fits in clipped if fits.any()}
        if left.any():
            priced = priced_patterns(rest, [*known.values(), *first_patterns(rest)], DIVE_ROUNDS)
    return found


def bought_m(task: Task, those: list[tuple[Column, int]]) -> float:
    """All sticks end to end."""
    return float(sum(task.costs_m[stock] * times for (stock, _), times in those))


def room_m(task: Task, bound_m: float) -> float:
    """How far over the bound nothing is to be gained any more."""
    stock = float(task.costs_m[0])
    if task.costs_m.size > 1:
        return NEAR * stock
    return sticks_at_least(bound_m, stock) * stock - bound_m + SAME_M


def whole_least_m(task: Task, bound_m: float) -> float:
    """The least that whole sticks come to which have room for all pieces, no less than the bound."""
    found = _whole_counts(task, bound_m)
    return bound_m if found is None else float(found[1].min())


def _whole_counts(task: Task, bound_m: float) -> tuple[Integers, Floats] | None:
    """How many sticks of each length may have room for all pieces, and what they cost; None of many.

    Of the pieces down to every length, all of them must have room end to end, and in number: no stick
    takes more of them than of the shortest among them. What costs less than that cannot be cut. The
    last stands for all that have still more sticks of a length.
    """
    count = [math.ceil(bound_m / cost) + task.rooms.size for cost in task.costs_m.tolist()]
    if math.prod(count) * task.weights.size > MOST_COUNTS:
        return None
    sticks = np.stack(np.meshgrid(*(np.arange(most + 1) for most in count), indexing="ij"), axis=-1)
    able = np.ones(sticks.shape[:-1], dtype=bool)
    for last in range(task.weights.size):
        own, times = task.weights[: last + 1][::-1], task.wanted[: last + 1][::-1]
        # As many as fit of the shortest of these first.
        ends = np.cumsum(np.repeat(own, np.minimum(times, task.rooms.max() // own)))
        most = np.searchsorted(ends, task.rooms, side="right")
        able &= (sticks @ most >= times.sum()) & (sticks @ task.rooms >= own @ times)
    costs = sticks @ task.costs_m
    enough = able & (costs >= bound_m - SAME_M)
    beyond = ((np.array(count) + 1) * task.costs_m).min()
    return np.vstack((sticks[enough], np.array(count) + 1)), np.append(costs[enough], beyond)


def _in_whole_counts(task: Task, bound_m: float, best_m: float) -> list[list[tuple[Column, int]]]:
    """The pieces in the cheapest numbers of sticks into which they go, if those cost less than so much.

    Stick after stick, the longest first: the longest piece that is left, and what fills it best.
    """
    few = task.rooms.size > 1 and task.wanted.sum() <= FEW_PIECES
    if not few or (found := _whole_counts(task, bound_m)) is None:
        return []
    counts, costs = (one[:-1] for one in found)
    tried = [one for one in np.argsort(costs, kind="stable").tolist() if costs[one] < best_m - SAME_M]
    for one in tried[:TRIED]:
        packed = _packed(task, counts[one])
        if packed is not None:
            return [packed]
    return []


def _packed(task: Task, count: Integers) -> list[tuple[Column, int]] | None:
    left, found = task.wanted.copy(), list[tuple[Column, int]]()
    for stock in np.repeat(np.arange(count.size), count)[::-1].tolist():
        if not left.any():
            break
        longest = int(np.flatnonzero(left)[0])
        room = int(task.rooms[stock]) - int(task.weights[longest])
        others = left - (np.arange(left.size) == longest)
        if room < 0:
            return None
        each = np.repeat(np.arange(left.size), np.minimum(others, room // task.weights))
        fits = _fullest_subset(task.weights, each, room, 0)
        fits[longest] += 1
        found.append(((stock, fits), 1))
        left = left - fits
    return None if left.any() else found


def filled(task: Task, spare: int = 0) -> list[tuple[Column, int]]:
    """Stick after stick: the longest piece that is left, and with it what fills the stick best.

    Within ``spare`` grains of that the longest pieces are taken: small ones are for the last sticks.
    """
    left, found = task.wanted.copy(), []
    while left.any():
        longest = int(np.flatnonzero(left)[0])
        weight = int(task.weights[longest])
        others = left - (np.arange(left.size) == longest)
        most = np.minimum(others, task.rooms.max() // task.weights)
        each = np.repeat(np.arange(left.size), most)
        ways = []
        for stock, room in enumerate(task.rooms.tolist()):
            if weight <= room:
                fits = _fullest_subset(task.weights, each, room - weight, spare)
                fits[longest] += 1
                ways.append((float(fits @ task.weights) / float(task.costs_m[stock]), stock, fits))
        _, stock, fits = max(ways, key=lambda way: way[0])
        some = fits > 0
        times = int((left[some] // fits[some]).min())
        found.append(((stock, fits), times))
        left = left - fits * times
    return found


def _fullest_subset(weights: Integers, each: Integers, room: int, spare: int) -> Integers:
    """Of pieces that are there once ``each``, the longest first, those that fill ``room`` best.

    Sums that can be reached are the bits of a number: another piece shifts it by its length. As soon as
    one lies within ``spare`` of the room no shorter piece is looked at.
    """
    sums, within, steps = 1, (1 << (room + 1)) - 1, []
    for index in each.tolist():
        if sums.bit_length() > room - spare:
            break
        steps.append(sums)
        sums |= (sums << int(weights[index])) & within
    at, fits = sums.bit_length() - 1, np.zeros(weights.size, dtype=np.int64)
    for index, before in zip(reversed(each[: len(steps)].tolist()), reversed(steps), strict=True):
        if not before >> at & 1:
            fits[index] += 1
            at -= int(weights[index])
    return fits


def _searched(task: Task, columns: list[Column]) -> list[tuple[Column, int]] | None:
    """The patterns that buy least by branch and bound, as far as its nodes reach."""
    fits = np.minimum(np.array([fits for _, fits in columns]), task.wanted)
    useful = np.flatnonzero(fits.any(axis=1))
    own = [columns[index] for index in useful]
    solved = milp(
        task.costs_m[[stock for stock, _ in own]],
        constraints=LinearConstraint(csr_array(fits[useful].T), lb=task.wanted),
        integrality=np.ones(useful.size, dtype=np.int64),
        options={"node_limit": NODES, "mip_rel_gap": 0.0},
    )
    if solved.x is None:
        return None
    found = [
        (column, round(times)) for column, times in zip(own, solved.x, strict=True) if round(times)
    ]
    served = sum((times * fits for (_, fits), times in found), np.zeros_like(task.wanted))
    return found if (served >= task.wanted).all() else None


def first_fit(task: Task) -> list[tuple[Column, int]]:
    """First fit by falling length; each stick is then the shortest that its pieces fit in."""
    left, found = task.wanted.copy(), []
    while left.any():
        fits = fullest(task, task.rooms.size - 1, left)
        taken = fits > 0
        times = int((left[taken] // fits[taken]).min())
        stock = int(np.searchsorted(task.rooms, int(fits @ task.weights)))
        found.append(((stock, fits), times))
        left = left - fits * times
    return found
