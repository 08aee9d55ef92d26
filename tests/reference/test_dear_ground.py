"""Ways through ground that is dear to dig: bent as light is, round what costs more than the way round.

Snell's law, from any book of optics: the dearest medium is crossed the steepest. Nothing of the search.
"""

import math
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from numpy.typing import ArrayLike, NDArray
from scipy.optimize import minimize

from openfurrow.core.found_way import found_ways
from openfurrow.core.plan import untried
from openfurrow.core.site.features import FeatureGivens
from openfurrow.core.site.keepouts import keep_outs
from openfurrow.core.site.ways import SpurGivens
from openfurrow.core.trench.dear import Prices
from openfurrow.core.trench.finding import Costs, NoWayError, find_spur, find_way
from openfurrow.demo.designs import larkspur_with_pump_house
from tests.designs import changed
from tests.reference.test_found_ways import (
    BAND_M,
    BOXES,
    HAND_M,
    OFF_M,
    Box,
    along,
    from_box_m,
    from_line_m,
    tanks,
)

Floats = NDArray[np.float64]


def road(wide: float, *points: tuple[float, float]) -> FeatureGivens:
    return FeatureGivens(id="r", kind="road", name="lane", width_m=wide, points=points)


@settings(max_examples=25, deadline=None)
@given(
    wide=st.floats(3.0, 7.0),
    times=st.floats(1.5, 9.0),
    at=st.floats(10.0, 20.0),
    north=st.floats(-14.0, 14.0),
)
def test_a_road_is_crossed_as_light_is_bent(wide: float, times: float, at: float, north: float) -> None:
    """Where its edges are passed is found by a minimiser that knows nothing but lengths."""
    lane = road(wide, (at, -60.0), (at, 60.0))
    costs = Costs(10.0, 6.0, 0.0, Prices(road=times))
    wall = np.array([35.0, north])
    way = find_way(keep_outs([lane], HAND_M, None), np.array([[0.0, 0.0]]), wall, costs)
    left, right = at - wide / 2, at + wide / 2

    def cost(passed: Floats) -> float:
        first, last = float(passed[0]), float(passed[1])
        return (
            math.hypot(left, first)
            + times * math.hypot(wide, last - first)
            + math.hypot(35.0 - right, north - last)
        )

    best = minimize(cost, np.array([north / 3, north / 2])).fun
    # It passes the edges where it was let: half a metre or so apart, a hair outside.
    assert best - 1e-6 <= way.cost_m <= best * 1.015 + 0.25
    assert way.straight_m is None or way.cost_m <= way.straight_m + 1e-6
    (told,) = way.dear
    inside = [place for place in along(way, 0.01) if left <= place[0] <= right]
    seen = sum(math.dist(a, b) for a, b in pairwise(inside))
    assert told[0] == "lane" and told[1] == pytest.approx(seen, abs=0.1)
    # No dearer than straight over, and never further in the road than a straight line goes.
    assert told[1] <= wide * math.hypot(35.0, north) / 35.0 + 0.05


@settings(max_examples=25, deadline=None)
@given(
    east=st.floats(12, 20),
    north=st.floats(-3, 3),
    wide=st.floats(2, 8),
    deep=st.floats(2, 8),
    times=st.floats(1.5, 12),
)
def test_rock_is_gone_round_where_that_is_cheaper(
    east: float, north: float, wide: float, deep: float, times: float
) -> None:
    # Along its very edge a hair decides.
    assume(min(abs(north), abs(north - deep)) > 0.3)
    corners = ((east, north - deep), (east + wide, north - deep), (east + wide, north), (east, north))
    rock = FeatureGivens(id="k", kind="rock outcrop", how_sure="measured", points=corners)
    costs = Costs(10.0, 6.0, 0.0, Prices(rock=times))
    keepouts = keep_outs([rock], HAND_M, None)
    way = find_way(keepouts, np.array([[0.0, 0.0]]), np.array([35.0, 0.0]), costs)
    # Over it, straight; over or under it past its corners, grown by its band.
    grow = 0.05
    xs, ys = (east - grow, east + wide + grow), (north - deep - grow, north + grow)
    through = max(0.0, xs[1] - xs[0]) if ys[0] <= 0 <= ys[1] else 0.0
    straight = 35.0 + (times - 1) * through
    rounds = [
        math.hypot(xs[0], y) + (xs[1] - xs[0]) + math.hypot(35 - xs[1], y)
        for y in ys
        if (y >= 0) == (y == ys[1])
    ]
    best = min(straight, *rounds) if rounds else straight
    assert way.cost_m <= best * 1.01 + 0.3
    assert way.cost_m >= 35.0 - 1e-6
    told = sum(long for _, long in way.dear)
    priced = way.length_m + (times - 1) * told
    assert way.cost_m == pytest.approx(priced, rel=0.01, abs=0.2)


class Ridge:
    """A bank across the way: it rises by half its run between two lines, and is level elsewhere."""

    def level_m(self, east_m: ArrayLike, north_m: ArrayLike) -> Floats:
        east = np.asarray(east_m, dtype=float) + 0 * np.asarray(north_m, dtype=float)
        north = np.asarray(north_m, dtype=float)
        up = np.clip(east - 15.0, 0.0, 4.0) * 0.5
        # Where it ends, at the north, one walks round it on the level.
        return np.asarray(up * np.clip((28.0 - north) / 20.0, 0.0, 1.0))

    def known(self, east_m: ArrayLike, north_m: ArrayLike) -> NDArray[np.bool_]:
        return np.ones(np.broadcast(east_m, north_m).shape, dtype=bool)


def test_steep_ground_is_crossed_or_gone_round_by_its_price() -> None:
    keepouts = keep_outs([], HAND_M, None)
    start, wall = np.array([[0.0, 0.0]]), np.array([35.0, 0.0])
    ways = {
        times: find_way(keepouts, start, wall, Costs(10.0, 6.0, 0.0, Prices(steep=times)), Ridge())
        for times in (1.0, 1.5, 30.0)
    }
    assert ways[1.0].dear == () and ways[1.0].length_m == pytest.approx(35.0, abs=0.02)
    (cheap,) = ways[1.5].dear
    # Half a metre's rise on a metre of run over four metres, and the cells on its borders.
    assert cheap[0] == "steep ground" and 3.0 <= cheap[1] <= 7.0
    # So dear that the level end of the bank is worth the way.
    far = ways[30.0]
    steep = sum(long for _, long in far.dear)
    assert steep < 0.5 < far.length_m - 35.0
    for e, n in along(far, 0.2):
        if 15.6 < e < 18.4:
            level = [float(Ridge().level_m(e + d, n)) for d in (-0.05, 0.05)]
            assert abs(level[1] - level[0]) / 0.1 < 0.25


def test_roots_lie_round_a_crown_that_is_kept_off_anyway() -> None:
    tree = FeatureGivens(
        id="t", kind="tree", name="oak", width_m=8.0, points=((17.0, 1.0),), how_sure="measured"
    )
    keepouts = keep_outs([tree], HAND_M, None)
    costs = Costs(10.0, 6.0, 0.0, Prices(roots=6.0))
    way = find_way(keepouts, np.array([[0.0, 0.0]]), np.array([35.0, 0.0]), costs)
    plain = find_way(keepouts, np.array([[0.0, 0.0]]), np.array([35.0, 0.0]), Costs(10.0, 6.0, 0.0))
    nearest = min(math.dist(place, (17.0, 1.0)) for place in along(way))
    before = min(math.dist(place, (17.0, 1.0)) for place in along(plain))
    # Off the crown as ever; with roots priced, off half as far again.
    assert before == pytest.approx(4.0 + 0.05 + 0.15, abs=0.12)
    assert nearest >= 5.9
    assert plain.dear == () and way.dear == ()
    assert way.length_m > plain.length_m
    assert from_line_m(way.points_m.tolist(), 17.0, 1.0) == pytest.approx(nearest, abs=0.02)


@settings(max_examples=20, deadline=None)
@given(BOXES, st.floats(-25, -12), st.floats(6, 26))
def test_a_spur_joins_where_that_is_cheapest(boxes: list[Box], south: float, east: float) -> None:
    """Against every place of the trunk tried by itself."""
    keepouts = keep_outs(tanks(boxes), HAND_M, None)
    costs = Costs(10.0, 6.0, 0.6)
    start, joins = (
        np.array([[east, south]]),
        np.column_stack((np.arange(0.0, 35.0, 3.5), np.full(10, 12.0))),
    )
    each = []
    for one in joins:
        try:
            each.append(find_way(keepouts, start, one, costs).cost_m)
        except NoWayError:
            continue
    if not each:
        with pytest.raises(NoWayError):
            find_spur(keepouts, start, joins, costs)
        return
    way = find_spur(keepouts, start, joins, costs)
    assert way.cost_m == pytest.approx(min(each), rel=0.02, abs=0.3)
    assert min(math.dist(way.points_m[-1], one) for one in joins.tolist()) < 0.02
    for e, n in along(way):
        for box in boxes:
            assert from_box_m(box, e, n) > OFF_M + BAND_M - 0.01


def test_every_array_gets_its_way_into_what_is_dug_already() -> None:
    design = larkspur_with_pump_house()
    bare = changed(design, "site", route=(), spurs=())
    new, ways = found_ways(bare, untried(bare), lambda: "made")
    assert [name for name, _ in ways] == [one.name for one in design.arrays]
    (spur,) = new.site.spurs
    assert (spur.id, spur.array) == ("made", design.arrays[1].id)
    made = untried(new)
    # It ends on the trunk, and begins at the array's own posts.
    assert from_line_m([tuple(p) for p in ways[0][1].points_m.tolist()], *spur.points[-1]) < 0.03
    places = made.on(design.arrays[1].id).structure.supports.places
    posts = np.column_stack((places.east_m, places.north_m))
    assert min(math.dist(spur.points[0], one) for one in posts.tolist()) < 0.6
    # Nothing that is dug passes what is kept off.
    off = [c for c in made.checks if c.stage == "trench" and c.key in ("keep_out", "outside")]
    assert off and {c.level for c in off} == {"sound"}
    # Less is dug than if each went to the wall by itself.
    own = find_way(made.site.keepouts, posts[::4], np.array(new.site.route[-1]), Costs(10.0, 6.0, 0.6))
    assert ways[1][1].length_m < own.length_m
    # A spur that was drawn keeps its id and its note.
    kept = design.site.spurs
    if kept:
        again, _ = found_ways(design, untried(design), lambda: "other")
        assert [(one.id, one.note) for one in again.site.spurs] == [(one.id, one.note) for one in kept]


def test_nothing_that_was_drawn_is_lost_and_each_spur_runs_into_what_stands_before_it() -> None:
    design = larkspur_with_pump_house()
    second, first = design.arrays[1], design.arrays[0]
    third = second.model_copy(
        update={
            "id": "3",
            "name": "Third",
            "rows": second.rows.model_copy(update={"at_north_m": second.rows.at_north_m - 9.0}),
        }
    )
    bends = ((5.0, 5.0), (6.0, 9.0))
    drawn = (
        SpurGivens(id="late", array="3", points=bends, note="kept"),
        SpurGivens(id="loose", array="", points=bends),
        SpurGivens(id="other", array="", points=bends),
    )
    design = design.model_copy(update={"arrays": (first, second, third)})
    design = changed(design, "site", spurs=drawn)
    new, ways = found_ways(design, untried(design), lambda: "new")
    assert [name for name, _ in ways] == [first.name, second.name, "Third"]
    # The one of the second array is found first, and stands first: the third may run into it.
    assert [one.id for one in new.site.spurs] == ["new", "late", "loose", "other"]
    assert new.site.spurs[1].note == "kept" and new.site.spurs[1].points != bends
    assert new.site.spurs[2:] == drawn[1:]
    before = [way.points_m.tolist() for _, way in ways]
    for number in (1, 2):
        joins = [from_line_m([tuple(p) for p in line], *before[number][-1]) for line in before[:number]]
        assert min(joins) < 0.03
    # An array that does not stand yet keeps nobody from finding the ways of those that do.
    lacking = third.model_copy(update={"rows": third.rows.model_copy(update={"modules_along": None})})
    without = design.model_copy(update={"arrays": (first, second, lacking)})
    _, fewer = found_ways(without, untried(without), lambda: "new")
    assert [name for name, _ in fewer] == [first.name, second.name]
