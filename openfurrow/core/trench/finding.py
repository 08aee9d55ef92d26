"""A way found: the cheapest from an array to the wall, round what it keeps off, at any angle.

Corners of what is kept off, and places along the edges of ground that is dug by hand, are joined by
straights; of those that lie free the cheapest chain is taken::

    post o        ______
          \\      |tank  |
           `-----o      |        a straight pays for its length, dearer where it is dug by hand,
                 |______|\\      for every line it crosses, and for the bend at its end
                          `---o wall
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field

import numpy as np
import shapely
from numpy.typing import NDArray
from scipy.sparse import csr_array
from scipy.sparse.csgraph import dijkstra

from openfurrow.core.site.ground import Ground
from openfurrow.core.site.keepouts import KeepOuts, Zone
from openfurrow.core.trench.dear import (
    Dear,
    Prices,
    dear_things,
    extra_m,
    steep_ground,
    within_m,
)

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]
Truths = NDArray[np.bool_]

# Bends stand so far off what the way keeps off, and what is drawn round is simplified by less.
CLEAR_M, SIMPLE_M = 0.15, 0.05
# Edges of ground that is dug by hand are looked at so many times, and this often at the most.
EDGE_PLACES, EDGE_STEP_M = 90, 0.5
# More corners than these make no way better that anybody could dig.
MOST_CORNERS = 260
# Nothing further off the two ends than this, as a share of what lies between them, is looked at.
ROUND_SHARE, ROUND_LEAST_M = 0.75, 30.0
# Straights that differ by less than this from one line are one.
STRAIGHT_M = 0.02


class NoWayError(ValueError):
    """Nothing leads there: the message says what stands in the way."""


@dataclass(frozen=True)
class Costs:
    """What a way costs besides its length: a metre by hand in metres, a crossing, a bend.

    ``prices`` are those of ground that is dear to dig.
    """

    by_hand: float
    crossing_m: float
    bend_m: float
    prices: Prices = field(default_factory=Prices)


@dataclass(frozen=True)
class Avoided:
    """What the way keeps off or goes round, and how much dearer that makes it."""

    label: str
    costs_m: float


@dataclass(frozen=True, kw_only=True)
class FoundWay:
    """Bends from the start to the wall, both ends among them.

    ``start`` is which of the places it was let begin at. ``cost_m`` is what it costs in metres of plain
    trench, ``straight_m`` what the straight line would where it may be dug; None where not. ``dear``
    are metres through dear ground, by what it is.
    """

    points_m: Floats
    start: int
    cost_m: float
    by_hand_m: float
    crossings: int
    straight_m: float | None
    avoided: tuple[Avoided, ...]
    dear: tuple[tuple[str, float], ...] = ()

    @property
    def length_m(self) -> float:
        """On the map."""
        return float(np.hypot(*np.diff(self.points_m, axis=0).T).sum())


@dataclass(frozen=True)
class _Straights:
    """Every straight between two corners: what it is charged, and which zones keep it from being dug.

    ``barred`` is (zones, straights); the last row is the boundary.
    """

    ends: Integers
    cost_m: Floats
    barred: Truths


def find_way(
    keepouts: KeepOuts, starts_m: Floats, wall_m: Floats, costs: Costs, ground: Ground | None = None
) -> FoundWay:
    """The cheapest way from any of ``starts_m`` (n, 2) to ``wall_m``. Raises NoWayError.

    Without ``ground`` none of it is called steep.
    """
    kept = _kept(keepouts, _near(starts_m, wall_m[None]))
    gate = _outside(kept, wall_m)
    tail = wall_m[None] if np.hypot(*(gate - wall_m)) > STRAIGHT_M else np.empty((0, 2))
    return _found(keepouts, starts_m, gate[None], tail, costs, ground)


def find_spur(
    keepouts: KeepOuts, starts_m: Floats, joins_m: Floats, costs: Costs, ground: Ground | None = None
) -> FoundWay:
    """The cheapest way from any of ``starts_m`` to any of ``joins_m``, places along ways that are dug.

    Raises NoWayError.
    """
    return _found(keepouts, starts_m, joins_m, np.empty((0, 2)), costs, ground)


def _kept(keepouts: KeepOuts, near: shapely.Geometry) -> tuple[Zone, ...]:
    """What a trench keeps off there."""
    return tuple(
        zone for zone in keepouts.of("trench") if shapely.intersects(zone.shapes["trench"], near)
    )


def _found(
    keepouts: KeepOuts,
    starts_m: Floats,
    goals_m: Floats,
    tail: Floats,
    costs: Costs,
    ground: Ground | None,
) -> FoundWay:
    """From a start to a goal, and on over ``tail``: a wall that stands in its house."""
    near = _near(starts_m, np.vstack((goals_m, tail)))
    dear = dear_things(keepouts.zones, costs.prices)
    if ground is not None:
        dear += steep_ground(ground, near, costs.prices.steep)
    dear = tuple(one for one in dear if shapely.intersects(one.shape, near))
    kept = _kept(keepouts, near)
    by_hand = tuple(
        zone
        for zone in keepouts.zones
        if zone.by_hand is not None
        and "trench" not in zone.shapes
        and shapely.intersects(zone.by_hand, near)
    )
    edges = (
        [zone.by_hand for zone in by_hand if zone.by_hand is not None],
        # A little wide of it: bends are told to the centimetre, and straightened.
        [shapely.buffer(one.shape, 2 * STRAIGHT_M, quad_segs=4) for one in dear],
    )
    corners = _corners(keepouts, kept, edges, near, (starts_m, goals_m))
    places = np.vstack((starts_m, goals_m, corners))
    counts = len(starts_m), len(goals_m)
    told = _straights(keepouts, kept, (by_hand, dear), places, counts, costs)
    goals = np.arange(len(starts_m), len(starts_m) + len(goals_m))
    free = np.asarray(~told.barred.any(axis=0))
    away, before = _cheapest(told, free, len(places), goals)
    if not np.isfinite(away[: len(starts_m)]).any():
        full = len(corners) == MOST_CORNERS
        raise NoWayError(_why(kept, keepouts, starts_m, goals_m, full=full))
    start = int(np.argmin(away[: len(starts_m)]))
    points = _bends(np.vstack((places[_chain(before, start)], tail)))
    # As it is told, after all is rounded: by hand and crossed as the plan will count them.
    lines = shapely.linestrings(np.stack((points[:-1], points[1:]), axis=1))
    dug, crossings = _met(by_hand, lines)
    through = [(one.label, float(within_m(one, lines).sum())) for one in dear]
    return FoundWay(
        points_m=points,
        start=start,
        cost_m=float(away[start]) - costs.bend_m,
        by_hand_m=float(dug.sum()),
        crossings=int(crossings.sum()),
        straight_m=_straight(told, free, start, goals, costs),
        avoided=_avoided(told, kept, (len(places), goals, start), float(away[start])),
        dear=tuple((label, long) for label, long in through if long > STRAIGHT_M),
    )


def _near(starts_m: Floats, ends_m: Floats) -> shapely.Geometry:
    """The ground that is looked at: between both ends, and round them."""
    ends = shapely.MultiPoint(np.vstack((starts_m, ends_m)))
    span = float(np.hypot(*(starts_m[:, None] - ends_m).T).max())
    return shapely.buffer(shapely.convex_hull(ends), max(ROUND_LEAST_M, ROUND_SHARE * span))


def _outside(kept: Sequence[Zone], place_m: Floats) -> Floats:
    """A place, or where one is out of what it stands in soonest: a wall stands in its house."""
    point = shapely.Point(place_m)
    around = [z.shapes["trench"] for z in kept if shapely.intersects(z.shapes["trench"], point)]
    if not around:
        return np.array(place_m, dtype=float)
    edge = shapely.buffer(shapely.union_all(around), CLEAR_M).boundary
    found = shapely.line_interpolate_point(edge, shapely.line_locate_point(edge, point))
    return np.asarray(shapely.get_coordinates(found)[0])


def _rounded(shape: shapely.Geometry) -> Floats:
    """Corners to go round a shape by: clear of it, and as few as show it."""
    wide = shapely.simplify(
        shapely.buffer(shape, CLEAR_M, quad_segs=4), SIMPLE_M, preserve_topology=False
    )
    return np.asarray(shapely.get_coordinates(wide))


def _along_edge(shape: shapely.Geometry, near: shapely.Geometry, step_m: float) -> Floats:
    """Places along the edge of a shape, so far apart."""
    edge = shapely.intersection(shapely.buffer(shape, CLEAR_M / 3).boundary, near)
    long = float(shapely.length(edge))
    if long <= 0:
        return np.empty((0, 2))
    parts = []
    for part in shapely.get_parts(edge):
        count = max(2, int(np.ceil(float(shapely.length(part)) / step_m)))
        at = np.linspace(0.0, float(shapely.length(part)), count, endpoint=False)
        parts.append(shapely.get_coordinates(shapely.line_interpolate_point(part, at)))
    return np.vstack(parts)


def _corners(
    keepouts: KeepOuts,
    kept: Sequence[Zone],
    edges: tuple[list[shapely.Geometry], list[shapely.Geometry]],
    near: shapely.Geometry,
    ends_m: tuple[Floats, Floats],
) -> Floats:
    """Where a way may bend; of very many those that lead the least way round, end to end."""
    found = [_rounded(zone.shapes["trench"]) for zone in kept]
    for alike in edges:
        long = sum(float(shapely.length(shapely.intersection(e.boundary, near))) for e in alike)
        step = max(EDGE_STEP_M, long / EDGE_PLACES)
        found += [_along_edge(edge, near, step) for edge in alike]
    # Dear ground is gone round at its corners.
    found += [_rounded(shape) for shape in edges[1]]
    if keepouts.trench_inside is not None:
        inner = shapely.buffer(keepouts.trench_inside, -CLEAR_M, join_style="mitre")
        found.append(np.asarray(shapely.get_coordinates(inner)))
    every = np.vstack([np.empty((0, 2)), *found])
    every = every[shapely.intersects_xy(near, every[:, 0], every[:, 1])]
    round_m = [np.hypot(*(every[:, None] - end).T).min(axis=0) for end in ends_m]
    return np.asarray(every[np.argsort(sum(round_m), kind="stable")[:MOST_CORNERS]])


def _straights(
    keepouts: KeepOuts,
    kept: Sequence[Zone],
    asked: tuple[Sequence[Zone], tuple[Dear, ...]],
    places: Floats,
    counts: tuple[int, int],
    costs: Costs,
) -> _Straights:
    """``asked`` is what is dug by hand, and what is dear; ``counts`` how many starts and goals are.

    What cannot be of a cheapest way costs more than anything.
    """
    by_hand, dear = asked
    ends = np.stack(np.triu_indices(len(places), 1), axis=1)
    lines = shapely.linestrings(places[ends])
    barred = np.zeros((len(kept) + 1, len(lines)), dtype=bool)
    for number, zone in enumerate(kept):
        shape = zone.shapes["trench"]
        shapely.prepare(shape)
        barred[number] = shapely.intersects(shape, lines)
    if keepouts.trench_inside is not None:
        inside = keepouts.trench_inside
        shapely.prepare(inside)
        barred[-1] = ~shapely.covers(inside, lines)
    # Of no length at all none is an edge of the graph.
    long = np.maximum(shapely.length(lines), 1e-9)

    def priced(which: Integers) -> Floats:
        dug, crossings = _met(by_hand, lines[which])
        more = (costs.by_hand - 1) * dug + costs.crossing_m * crossings + extra_m(dear, lines[which])
        return np.asarray(long[which] + costs.bend_m + more)

    plain = _Straights(ends, long + costs.bend_m, barred)
    # What two things bar is dug by nobody, whichever one were not there.
    wanted = np.flatnonzero((barred.sum(axis=0) <= 1) & _worth(plain, places, counts, priced))
    cost = np.full(len(lines), np.inf)
    cost[wanted] = priced(wanted)
    return _Straights(ends, cost, barred)


def _worth(
    plain: _Straights,
    places: Floats,
    counts: tuple[int, int],
    priced: Callable[[Integers], Floats],
) -> Truths:
    """Which straights may be of a cheapest way: those that cost no more at best than one that is known.

    That one is the shortest, at its true price. From a start to a goal all are, to be told.
    """
    starts, goals = np.arange(counts[0]), np.arange(counts[0], sum(counts))
    first, last = plain.ends.T
    direct = (first < counts[0]) & np.isin(last, goals)
    away, before = _cheapest(plain, np.asarray(~plain.barred.any(axis=0)), len(places), goals)
    if not np.isfinite(away[starts]).any():
        return np.ones(len(first), dtype=bool)
    chain = _chain(before, int(np.argmin(away[starts])))
    low, high = np.sort(np.stack((chain[:-1], chain[1:])), axis=0)
    # Where a pair stands in the list of all pairs.
    known = priced(low * (2 * len(places) - low - 1) // 2 + high - low - 1).sum()
    begins, leads = (
        np.hypot(*(places[:, None] - places[which]).T).min(axis=0) for which in (starts, goals)
    )
    least = np.minimum(begins[first] + leads[last], begins[last] + leads[first]) + plain.cost_m
    return np.asarray(direct | (least <= known + STRAIGHT_M))


def _met(by_hand: Sequence[Zone], lines: NDArray[np.object_]) -> tuple[Floats, Integers]:
    """How much of each straight is dug by hand, and how many buried lines it crosses."""
    dug, crossings = np.zeros(len(lines)), np.zeros(len(lines), dtype=np.int64)
    for zone in by_hand:
        shapely.prepare(zone.by_hand)
        meets = np.flatnonzero(shapely.intersects(zone.by_hand, lines))
        dug[meets] += shapely.length(shapely.intersection(lines[meets], zone.by_hand))
        crossings[meets] += shapely.intersects(zone.feature.geometry(), lines[meets])
    # Zones of two lines may lie over each other: no more is dug by hand than is dug.
    return np.minimum(dug, shapely.length(lines)), crossings


def _cheapest(told: _Straights, free: Truths, count: int, goals: Integers) -> tuple[Floats, Integers]:
    """What the cheapest chain from every corner to a goal costs, and which corner is next on it."""
    ends, cost = told.ends[free], told.cost_m[free]
    graph = csr_array((cost, (ends[:, 0], ends[:, 1])), shape=(count, count))
    away, before, _ = dijkstra(
        graph, directed=False, indices=goals, return_predecessors=True, min_only=True
    )
    return np.asarray(away), np.asarray(before, dtype=np.int64)


def _chain(before: Integers, start: int) -> Integers:
    """From a start to the goal that it leads to, before which there is nothing."""
    chain = [start]
    while before[chain[-1]] >= 0:
        chain.append(int(before[chain[-1]]))
    return np.array(chain)


def _straight(
    told: _Straights, free: Truths, start: int, goals: Integers, costs: Costs
) -> float | None:
    """What the cheapest straight line costs, where any may be dug: starts come before goals."""
    straight = (told.ends[:, 0] == start) & np.isin(told.ends[:, 1], goals) & free
    return float(told.cost_m[straight].min()) - costs.bend_m if straight.any() else None


def _avoided(
    told: _Straights, kept: Sequence[Zone], where: tuple[int, Integers, int], cost_m: float
) -> tuple[Avoided, ...]:
    """Zone by zone, what the way would cost were that one not there."""
    count, goals, start = where
    found = []
    for number, zone in enumerate(kept):
        others = np.delete(told.barred, number, axis=0)
        away, _ = _cheapest(told, np.asarray(~others.any(axis=0)), count, goals)
        if cost_m - away[start] > STRAIGHT_M:
            found.append(Avoided(zone.feature.label, cost_m - float(away[start])))
    return tuple(sorted(found, key=lambda one: -one.costs_m))


def _bends(points: Floats) -> Floats:
    """To the centimetre, without bends that are none."""
    line = shapely.simplify(shapely.LineString(points), STRAIGHT_M, preserve_topology=False)
    return np.asarray(np.round(shapely.get_coordinates(line), 2))


def _why(
    kept: Sequence[Zone], keepouts: KeepOuts, starts_m: Floats, goals_m: Floats, *, full: bool
) -> str:
    """What bars every way; ``full``: there was more to go round than was looked at."""
    inside = keepouts.trench_inside
    end = "the wall" if len(goals_m) == 1 else "what it would run into"
    for words, places in ((end, goals_m), ("the array", starts_m)):
        if inside is not None and not shapely.intersects_xy(inside, *places.T).any():
            return f"{words} lies outside the boundary"
        for zone in kept:
            if shapely.intersects_xy(zone.shapes["trench"], *places.T).all():
                return f"{words} lies in what is kept off {zone.feature.label}"
    if full:
        return f"none over the {MOST_CORNERS} bends that were looked at: draw one past what lies there"
    return "what is kept off closes every way"
