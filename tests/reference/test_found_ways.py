"""Ways that are found, against a fine grid walked cell by cell and against points along them."""

import heapq
import math
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.found_way import found_way
from openfurrow.core.plan import plan, untried
from openfurrow.core.site.features import FeatureGivens
from openfurrow.core.site.keepouts import KeepOuts, keep_outs
from openfurrow.core.trench.finding import Costs, FoundWay, NoWayError, find_way
from openfurrow.core.trench.ways import tree_of
from openfurrow.demo.designs import DESIGNS, larkspur, larkspur_with_pump_house
from tests.designs import changed

# A tank keeps 1.5 m off and may lie 0.05 m beside where it was measured; a line is dug by hand so near.
OFF_M, BAND_M, HAND_M = 1.5, 0.05, 0.6
PLAIN = Costs(10.0, 6.0, 0.6)
Box = tuple[float, float, float, float]


def tanks(boxes: list[Box]) -> list[FeatureGivens]:
    return [
        FeatureGivens(
            id=f"t{number}",
            kind="septic tank",
            how_sure="measured",
            points=((e, n), (e + w, n), (e + w, n + d), (e, n + d)),
        )
        for number, (e, n, w, d) in enumerate(boxes)
    ]


def pipe(*points: tuple[float, float]) -> FeatureGivens:
    return FeatureGivens(id="p", kind="buried water", how_sure="measured", points=points)


def from_box_m(box: Box, e: float, n: float) -> float:
    """How far a place is from a box; nought inside."""
    x, y, wide, deep = box
    return math.hypot(max(x - e, 0.0, e - x - wide), max(y - n, 0.0, n - y - deep))


def from_line_m(points: list[tuple[float, float]], e: float, n: float) -> float:
    """How far a place is from a chain of straights."""
    best = math.inf
    for (x0, y0), (x1, y1) in pairwise(points):
        run = (x1 - x0) ** 2 + (y1 - y0) ** 2
        share = max(0.0, min(1.0, ((e - x0) * (x1 - x0) + (n - y0) * (y1 - y0)) / run))
        best = min(best, math.hypot(e - x0 - share * (x1 - x0), n - y0 - share * (y1 - y0)))
    return best


def along(way: FoundWay, step_m: float = 0.02) -> list[tuple[float, float]]:
    """Places along a way."""
    found = []
    for (e0, n0), (e1, n1) in pairwise(way.points_m.tolist()):
        count = max(2, math.ceil(math.hypot(e1 - e0, n1 - n0) / step_m))
        found += [(e0 + (e1 - e0) * k / count, n0 + (n1 - n0) * k / count) for k in range(count + 1)]
    return found


SIDES = [(1, 0), (0, 1), (1, 1), (1, -1), (2, 1), (1, 2), (2, -1), (1, -2)]
MOVES = [*SIDES, *((-a, -b) for a, b in SIDES)]


def clear_of(boxes: list[Box], e: float, n: float) -> bool:
    """Whether a place is clear of all, by a little more than bends are."""
    return all(from_box_m(box, e, n) > OFF_M + BAND_M + 0.2 for box in boxes)


def by_grid_m(boxes: list[Box], start: tuple[int, int], goal: tuple[int, int]) -> float:
    """The shortest chain of steps from place to place of a half metre's grid, in sixteen directions."""
    queue, away = [(0.0, start)], {start: 0.0}
    while queue:
        far, at = heapq.heappop(queue)
        if at == goal:
            return far
        if far > away[at]:
            continue
        for de, dn in MOVES:
            to = (at[0] + de, at[1] + dn)
            on_grid = -40 <= to[0] <= 100 and -60 <= to[1] <= 60
            if not (on_grid and clear_of(boxes, to[0] / 2, to[1] / 2)):
                continue
            # Half way too: a step goes over the place between.
            if not clear_of(boxes, (at[0] + to[0]) / 4, (at[1] + to[1]) / 4):
                continue
            new = far + math.hypot(de, dn) / 2
            if new < away.get(to, math.inf):
                away[to] = new
                heapq.heappush(queue, (new, to))
    return math.inf


BOXES = st.lists(
    st.tuples(st.floats(4, 24), st.floats(-8, 6), st.floats(0.5, 7), st.floats(0.5, 7)),
    min_size=0,
    max_size=4,
)
START, WALL = np.array([[0.0, 0.0]]), np.array([35.0, 0.0])


@settings(max_examples=40, deadline=None)
@given(BOXES)
def test_no_walk_over_a_grid_is_shorter_and_no_place_of_the_way_is_too_near(boxes: list[Box]) -> None:
    keepouts = keep_outs(tanks(boxes), HAND_M, None)
    way = find_way(keepouts, START, WALL, PLAIN)
    for e, n in along(way):
        for box in boxes:
            # Round corners are drawn with sides, a hair inside.
            assert from_box_m(box, e, n) > OFF_M + BAND_M - 0.01
    assert way.points_m[0] == pytest.approx(START[0]) and way.points_m[-1] == pytest.approx(WALL)
    assert 35.0 - 1e-6 <= way.length_m <= by_grid_m(boxes, (0, 0), (70, 0)) + 0.5
    bends = len(way.points_m) - 2
    assert way.cost_m == pytest.approx(way.length_m + PLAIN.bend_m * bends, abs=0.15)
    assert way.by_hand_m == 0 and way.crossings == 0
    straight = all(from_box_m(box, e / 10, 0.0) > OFF_M + BAND_M for box in boxes for e in range(351))
    assert (way.straight_m is not None) == straight
    if straight:
        assert way.cost_m <= way.straight_m + 1e-6  # type: ignore[operator]


@settings(max_examples=30, deadline=None)
@given(BOXES)
def test_what_a_thing_costs_is_what_the_way_costs_less_without_it(boxes: list[Box]) -> None:
    way = find_way(keep_outs(tanks(boxes), HAND_M, None), START, WALL, PLAIN)
    told = [one.costs_m for one in way.avoided]
    assert told == sorted(told, reverse=True)
    without = []
    for number in range(len(boxes)):
        others = keep_outs(tanks(boxes[:number] + boxes[number + 1 :]), HAND_M, None)
        without.append(way.cost_m - find_way(others, START, WALL, PLAIN).cost_m)
    # Its own corners are bends too, so that what goes past them may be found a hair shorter.
    assert sum(told) <= sum(max(one, 0.0) for one in without) + 0.3 * len(boxes)
    hair = 0.3 * max(1, len(boxes))
    assert max(told, default=0.0) == pytest.approx(max([0.0, *without]), abs=hair)


@settings(max_examples=40, deadline=None)
@given(
    st.tuples(st.floats(8, 27), st.floats(-25, 25)),
    st.tuples(st.floats(8, 27), st.floats(-25, 25)),
    st.floats(1.0, 20.0),
    st.floats(0.0, 15.0),
)
def test_ground_dug_by_hand_is_counted_as_a_tape_counts_it(
    first: tuple[float, float], last: tuple[float, float], by_hand: float, crossing_m: float
) -> None:
    """Places along the way that lie near the pipe, each so much of a metre; and how often it is met."""
    # One that lies in the way from end to end is crossed as often as anybody likes.
    assume(abs(first[1] - last[1]) > 0.5 or min(abs(first[1]), abs(last[1])) > 1)
    assume(math.dist(first, last) > 2)
    keepouts = keep_outs([pipe(first, last)], HAND_M, None)
    costs = Costs(by_hand, crossing_m, 0.5)
    way = find_way(keepouts, START, WALL, costs)
    places = along(way, 0.01)
    near = sum(from_line_m([first, last], e, n) <= HAND_M + BAND_M for e, n in places)
    # Round the end of a pipe a way may graze what is drawn there with sides.
    assert way.by_hand_m == pytest.approx(way.length_m * near / len(places), abs=0.2)
    crossed = sum(
        (_side(first, last, a) > 0) != (_side(first, last, b) > 0)
        and (_side(a, b, first) > 0) != (_side(a, b, last) > 0)
        for a, b in pairwise(way.points_m.tolist())
    )
    assert way.crossings == crossed
    bends = len(way.points_m) - 2
    reckoned = way.length_m + (by_hand - 1) * way.by_hand_m + crossing_m * crossed + 0.5 * bends
    assert way.cost_m == pytest.approx(reckoned, abs=0.3 + 0.05 * by_hand)
    # The straight line over it is no bar: nothing dearer is ever taken.
    assert way.straight_m is not None and way.cost_m <= way.straight_m + 1e-6


def _side(a: tuple[float, float], b: tuple[float, float], of: tuple[float, float]) -> float:
    return (b[0] - a[0]) * (of[1] - a[1]) - (b[1] - a[1]) * (of[0] - a[0])


def test_a_long_pipe_is_crossed_square_where_digging_by_hand_is_dear() -> None:
    """A slanting pipe from far to far: the straight line lies long in its zone, the way does not."""
    keepouts = keep_outs([pipe((-60.0, -12.0), (95.0, 12.0))], HAND_M, None)
    wall = np.array([35.0, 14.0])
    dear = find_way(keepouts, np.array([[0.0, -14.0]]), wall, Costs(40.0, 5.0, 0.2))
    cheap = find_way(keepouts, np.array([[0.0, -14.0]]), wall, Costs(1.0, 5.0, 0.2))
    assert cheap.length_m == pytest.approx(math.hypot(35, 28), abs=0.01)
    assert dear.by_hand_m < 1.08 * 2 * (HAND_M + BAND_M) < cheap.by_hand_m
    assert dear.length_m > cheap.length_m and dear.crossings == cheap.crossings == 1


def test_what_is_closed_all_round_has_no_way_and_says_by_what() -> None:
    ring = [
        (-4.0, 6.0, 8.0, 1.0),
        (-4.0, -7.0, 8.0, 1.0),
        (-5.0, -7.0, 1.0, 14.0),
        (4.0, -7.0, 1.0, 14.0),
    ]
    with pytest.raises(NoWayError, match="closes every way"):
        find_way(keep_outs(tanks(ring), HAND_M, None), START, WALL, PLAIN)
    with pytest.raises(NoWayError, match="the array lies in what is kept off"):
        find_way(keep_outs(tanks([(-1.0, -1.0, 2.0, 2.0)]), HAND_M, None), START, WALL, PLAIN)
    land = FeatureGivens(
        id="b",
        kind="boundary",
        how_sure="measured",
        points=((-9.0, -9.0), (20.0, -9.0), (20.0, 9.0), (-9.0, 9.0)),
    )
    with pytest.raises(NoWayError, match="the wall lies outside the boundary"):
        find_way(keep_outs([land], HAND_M, None), START, WALL, PLAIN)


def test_it_keeps_inside_the_land_and_begins_at_the_post_that_is_cheapest() -> None:
    corner = FeatureGivens(
        id="b",
        kind="boundary",
        how_sure="measured",
        points=((-5.0, -5.0), (45.0, -5.0), (45.0, 30.0), (25.0, 30.0), (25.0, 5.0), (-5.0, 5.0)),
    )
    keepouts: KeepOuts = keep_outs([corner], HAND_M, None)
    posts = np.array([[0.0, 0.0], [4.0, 0.0], [8.0, 0.0]])
    way = find_way(keepouts, posts, np.array([40.0, 25.0]), PLAIN)
    assert way.start == 2
    for e, n in along(way):
        assert -5 <= e <= 45 and -5 <= n <= 30 and (n <= 5 or e >= 25)
    # Round the inner corner of the land, which stands between.
    assert way.length_m == pytest.approx(
        math.dist((8, 0), (25, 5)) + math.dist((25, 5), (40, 25)), abs=0.3
    )


@pytest.mark.parametrize("name", ["larkspur", "grifo", "quillay", "varnbeck"])
def test_a_demo_has_a_way_that_its_plan_follows(name: str) -> None:
    """It begins where the plan begins it, keeps off all, and is told as the plan tells it."""
    design = DESIGNS[name]()
    before = untried(design)
    new, way = found_way(design, before)
    after = plan(new)
    route = after.run.route
    assert route.level_length_m == pytest.approx(way.length_m, abs=0.05)
    assert (route.east_m[0], route.north_m[0]) == pytest.approx(tuple(way.points_m[0]), abs=0.02)
    # It leaves its post without a bend that would be none.
    assert route.turns_deg[0] < 0.05 or len(way.points_m) == 2
    off = [c for c in after.checks if c.stage == "trench" and c.key in ("keep_out", "outside")]
    assert {c.level for c in off} == {"sound"}
    dug = sum(c.length_m for piece in after.trench.dug for c in piece.crossings)
    assert dug == pytest.approx(way.by_hand_m, abs=0.4)
    assert sum(c.crossed for piece in after.trench.dug for c in piece.crossings) == way.crossings


def test_from_nothing_drawn_it_ends_at_the_nearest_wall() -> None:
    design: Design = larkspur()
    bare, found = changed(design, "site", route=()), plan(design)
    new, way = found_way(bare, untried(bare))
    assert new.site.route and way.length_m > 10
    post = found.places.east_m.mean(), found.places.north_m.mean()
    walls = [[*one.points, one.points[0]] for one in design.site.features if one.kind == "building"]
    nearest = min(walls, key=lambda one: from_line_m(one, *post))
    assert from_line_m(nearest, *new.site.route[-1]) < 0.02
    assert plan(new).has("trench")


def test_the_trunk_is_that_of_the_first_array_without_a_spur() -> None:
    design = larkspur_with_pump_house()
    new, way = found_way(design, untried(design))
    found = plan(new)
    tree = tree_of(
        found.site,
        tuple(one.id for one in found.arrays),
        tuple(one.name for one in found.arrays),
        tuple(one.places for one in found.arrays),
    )
    assert tree.ways[0].points_m[0] == pytest.approx(way.points_m[0], abs=0.02)
