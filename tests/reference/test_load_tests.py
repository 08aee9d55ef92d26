"""Posts tested before a job: what they held stands for the ground that they stood in.

Sideways, us: IBC 1807.3.2.1 the other way round, half of the load that a test held allowed (from
memory of IBC 2018, 1810.3.3.2). Metric: Broms (1964) and Table A.9 of EN 1997-1, both from memory.
Friction and tips by plain sums over the layers, as in the tests of layered ground. Safety of 3 on
soil friction without a test and of 2 with one, and that tested ground often holds at less depth than
the tables ask for: common practice, no published source.
"""

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.codes.section import section
from openfurrow.core.design import Design
from openfurrow.core.plan import untried
from openfurrow.core.site.load_tests import LoadTestGivens
from openfurrow.core.site.soil import HoleGivens
from tests.core.test_checks import broken
from tests.designs import plain_larkspur
from tests.reference.test_layers import CELL, Ground, layers, waters

TWELVE_FEET = 12 * 0.3048
EVEN: dict[str, Any] = {"soil_class": "sand", "test_holes": (), "frost_depth_m": 0.2}
# What a test is read at when nothing else is said.
HALF_INCH, THIRTEEN_MM = 0.0127, 0.013
# Tests, factor on their mean, on their least.
TABLE_A9 = {1: (1.4, 1.4), 2: (1.3, 1.2), 3: (1.2, 1.05), 4: (1.1, 1.0), 5: (1.0, 1.0)}
# What is allowed of the ground's grip: us as working loads, metric with 1.5 on the wind already.
SAFETY = {("us", True): 2.0, ("us", False): 3.0, ("metric", True): 4 / 3, ("metric", False): 2.0}


def pushed(load: float, high: float, deep: float, post: str = "I 150 x 100 x 14", **more: Any) -> dict:
    return {
        "loaded": "pushed sideways",
        "readings": ((load, 0.0127),),
        "height_m": high,
        "depth_m": deep,
        "post": post,
    } | more


def job(site: dict[str, Any] | None = None, *tests: dict, **footings: Any) -> Design:
    said = tuple(LoadTestGivens(id=f"t{n}", name=f"T{n}", **one) for n, one in enumerate(tests))
    ground = (site or EVEN) | {"load_tests": said}
    return broken(plain_larkspur(), {"site": ground, "footings": {"test_moved_m": 0.0127} | footings})


def needed_m(bearing: float, push: np.ndarray, moment: np.ndarray, width: float) -> float:
    """The least depth for every load, by trial in steps of 2 mm."""
    for deep in np.arange(0.1, 12, 0.002):
        stress = bearing * min(deep, TWELVE_FEET) / 3
        a = 2.34 * push / (stress * width)
        asked = 0.5 * (a + np.sqrt(a**2 + 4.36 * 2.34 * moment / (stress * width)))
        if float(asked.max()) <= deep:
            return float(deep)
    return math.inf


def bearing_of(load: float, high: float, deep: float, width: float) -> float:
    """What the formula says of ground in which a post so deep held half of a load."""
    low, top = 1.0, 1e8
    for _ in range(80):
        middle = math.sqrt(low * top)
        enough = needed_by(middle, load / 2, high, width) <= deep
        low, top = (low, middle) if enough else (middle, top)
    return math.sqrt(low * top)


def needed_by(bearing: float, load: float, high: float, width: float) -> float:
    """The formula solved by halving for one load at a height."""
    low, top = 0.0, 30.0
    for _ in range(60):
        deep = (low + top) / 2
        stress = bearing * min(deep, TWELVE_FEET) / 3
        a = 2.34 * load / (stress * width)
        asked = 0.5 * a * (1 + math.sqrt(1 + 4.36 * high / a))
        low, top = (deep, top) if asked > deep else (low, deep)
    return top


@given(
    st.lists(st.tuples(st.floats(1, 5e3), st.floats(0, 0.01)), min_size=1, max_size=8),
    st.floats(0.002, 0.05),
)
def test_what_a_test_held_is_read_off_its_curve(steps: list, moved: float) -> None:
    """By numpy's interpolation over the polygon from nought."""
    load = np.cumsum([step[0] for step in steps])
    move = np.cumsum([step[1] for step in steps])
    test = LoadTestGivens(readings=tuple(zip(load.tolist(), move.tolist(), strict=True)))
    held, gave_way = test.held(moved)
    assert gave_way == bool(move[-1] >= moved)
    if not gave_way:
        assert held == pytest.approx(load[-1])
        return
    # The first time that it gets so far.
    finely = np.linspace(0, load[-1], 20001)
    far = np.interp(finely, np.append(0.0, load), np.append(0.0, move))
    assert held == pytest.approx(float(finely[np.argmax(far >= moved)]), abs=load[-1] / 9000)


@settings(max_examples=20, deadline=None)
@given(
    st.floats(3e3, 4e4),
    st.floats(0.3, 1.5),
    st.floats(1.0, 3.0),
    st.sampled_from([("I 150 x 100 x 14", 0.1), ("pipe 3 in", 0.0889)]),
)
def test_depth_is_that_of_ground_which_held_the_push(
    load: float, high: float, deep: float, tested: tuple[str, float]
) -> None:
    """What was tested may be another post than those that are planned; the least of several counts."""
    more = pushed(load * 1.3, high, deep, tested[0])
    found = untried(job(None, pushed(load, high, deep, tested[0]), more))
    width = found.structure.posts.post.width_m
    bearing = bearing_of(load, high, deep, tested[1])
    for kind in found.footings.posts.kinds:
        push, moment = np.abs(kind.loads.push_n), np.abs(kind.loads.tipping_n_m)
        by_hand = needed_m(bearing, push, moment, width)
        assert kind.needs.lateral_m == pytest.approx(by_hand, abs=4e-3)


def test_no_doubling_stands_on_top_of_a_push() -> None:
    """A push read at half an inch has that movement in it."""
    test = pushed(9000.0, 0.9144, 1.9)
    one, two = (untried(job(None, test, half_inch_moves=moves)) for moves in (True, False))
    assert [k.needs for k in one.footings.posts.kinds] == [k.needs for k in two.footings.posts.kinds]


def test_better_ground_asks_for_less_and_layers_give_way_to_the_push() -> None:
    depths = [
        max(k.needs.lateral_m for k in untried(job(None, pushed(load, 0.9, 1.8))).footings.posts.kinds)
        for load in (4e3, 8e3, 16e3, 32e3)
    ]
    assert depths == sorted(depths, reverse=True)
    # The same test in layered ground comes to the same depth, to the step that is looked at.
    layered = {
        "frost_depth_m": 0.2,
        "test_holes": (
            {"name": "h", "layers": ((0.8, "clay", None), (4.0, "sandy gravel", None)), "water_m": 3.0},
        ),
    }
    held = [
        max(k.needs.lateral_m for k in untried(job(site, pushed(9e3, 0.9, 1.8))).footings.posts.kinds)
        for site in (EVEN, layered)
    ]
    assert held[1] == pytest.approx(held[0], abs=0.0254 / 4 + 1e-6)


METRIC = {"rule_pack": "metric", "terrain": "II"}


def broms_sand_n(width: float, deep: float, high: float, passive: float) -> float:
    return 0.5 * 18e3 * width * deep**3 * passive / (high + deep)


def broms_clay_n(width: float, deep: float, high: float, cohesion: float) -> float:
    """The push that a short free pile bears, by halving: what is left below balances the moment."""
    low, top = 0.0, 1e7
    for _ in range(80):
        push = (low + top) / 2
        f = push / (9 * cohesion * width)
        moment = push * (high + 1.5 * width + 0.5 * f)
        g = max(deep - 1.5 * width - f, 0.0)
        low, top = (push, top) if moment <= 2.25 * width * g**2 * cohesion else (low, push)
    return low


@settings(max_examples=16, deadline=None)
@given(
    st.lists(st.floats(0.5, 3.0), min_size=1, max_size=7),
    st.floats(0.3, 1.5),
    st.floats(1.2, 3.0),
    st.sampled_from(["sand", "clay"]),
)
def test_metric_ground_holds_what_broms_says_times_what_was_pushed(
    shares: list[float], high: float, deep: float, soil: str
) -> None:
    passive = math.tan(math.radians(45 + 16)) ** 2
    whole = (
        broms_sand_n(0.1, deep, high, passive)
        if soil == "sand"
        else broms_clay_n(0.1, deep, high, 50e3)
    )
    tests = [pushed(share * whole, high, deep) for share in shares]
    found = untried(job(EVEN | METRIC | {"soil_class": soil}, *tests)).footings.posts
    on_mean, on_least = TABLE_A9[min(len(shares), 5)]
    taken = min(float(np.mean(shares)) / on_mean, min(shares) / on_least)
    (share,) = {kind.ground.proved.sideways.taken for kind in found.kinds}
    assert share == pytest.approx(taken, rel=0.02)
    width = found.post.width_m
    reduced = math.tan(math.pi / 4 + math.atan(math.tan(math.radians(32)) / 1.25) / 2) ** 2
    for kind in found.kinds:
        pairs = zip(np.abs(kind.loads.push_n), np.abs(kind.loads.tipping_n_m), strict=True)
        for push, moment in pairs:
            if push < 1.0:
                continue
            at = moment / push

            def held(depth: float, at: float = at) -> float:
                if soil == "sand":
                    return share * broms_sand_n(width, depth, at, reduced)
                return broms_clay_n(width, depth, at, share * 50e3 / 1.4)

            assert held(kind.needs.lateral_m + 0.01) >= push * 0.995
        worst = kind.needs.lateral_case
        push, moment = abs(kind.loads.push_n[worst]), abs(kind.loads.tipping_n_m[worst])
        if push > 1.0 and kind.needs.lateral_m > 0.3:
            short = kind.needs.lateral_m - 0.03
            weak = (
                share * broms_sand_n(width, short, moment / push, reduced)
                if soil == "sand"
                else broms_clay_n(width, short, moment / push, share * 50e3 / 1.4)
            )
            assert weak < push * 1.01


@pytest.mark.parametrize("pack", ["us", "metric"])
def test_a_post_bends_more_in_ground_that_held_less(pack: str) -> None:
    """Shear is taken up deeper: M + 2/3 P z, with 1.5 K_p gamma b z² of the share that was held."""
    passive = math.tan(math.radians(45 + 16)) ** 2
    ground = EVEN | (METRIC if pack == "metric" else {})
    whole = broms_sand_n(0.1, 2.0, 1.0, passive)
    for share in (0.3, 0.6, 2.5):
        # Five that agree leave the factors of their number at one.
        found = untried(job(ground, *[pushed(share * whole, 1.0, 2.0)] * 5)).footings.posts
        by_hand = 0.0
        for kind in found.kinds:
            push, moment = np.abs(kind.loads.across_n), np.abs(kind.loads.moment_n_m)
            held = 1.5 * passive * 18e3 * found.post.width_m * min(share, 1.0)
            by_hand = max(by_hand, float((moment + push * np.sqrt(push / held) * 2 / 3).max()))
        assert found.bending_n_m == pytest.approx(by_hand, rel=0.01)


def test_stronger_ground_in_layers_spares_the_post_nothing() -> None:
    """What was pushed is no proof of how a post bends in ground that held more than Broms says."""
    hole = {"name": "h", "layers": ((1.0, "sand", None), (6.0, "sandy gravel", None)), "water_m": 2.0}
    ground = {"test_holes": (hole,), "frost_depth_m": 0.2} | METRIC
    whole = broms_sand_n(0.1, 2.0, 1.0, math.tan(math.radians(45 + 16)) ** 2)
    plain, strong, weak = (
        untried(job(ground, *tests)).footings.posts.bending_n_m
        for tests in ([], [pushed(9 * whole, 1.0, 2.0)] * 5, [pushed(0.2 * whole, 1.0, 2.0)] * 5)
    )
    assert strong == pytest.approx(plain) and weak > 1.02 * plain


def test_pressed_in_layers_the_safety_is_that_of_the_press() -> None:
    """Nobody pulled: what lifts keeps its safety of 3, what presses has 2, cell by cell."""
    layered = ((0.8, "clay", 60e3), (2.0, "sandy gravel", None), (9.0, "sand", None))
    hole = HoleGivens(name="h", layers=layered)
    ground = Ground(hole, 12.0)
    post = section("I 150 x 100 x 14")
    across, area = post.width_m, post.depth_m * post.width_m
    whole = grip_n(ground, post.perimeter_m, 0.0, 1.6) + tip_n(ground, area, across, 1.6)
    test = {"loaded": "pressed", "readings": ((0.7 * whole, 0.0127),), "depth_m": 1.6}
    site = {"test_holes": (hole,), "frost_depth_m": 0.3, "ground_snow_pa": 6000.0}
    posts = untried(job(site, test, depths="each post's own")).footings.posts
    for kind in posts.kinds:
        depth = kind.needs.bearing_m
        bears = [
            0.7
            * (
                grip_n(ground, post.perimeter_m, 0.3, depth + off)
                + tip_n(ground, area, across, depth + off)
            )
            for off in (0.01, -0.03)
        ]
        assert bears[0] >= 2 * kind.needs.bearing_n * 0.98
        if kind.depth_m >= depth:
            assert bears[1] <= 2 * kind.needs.bearing_n * 1.02
        lifted = grip_n(ground, post.perimeter_m, 0.3, kind.needs.uplift_m + 0.012)
        assert lifted >= 3 * kind.needs.uplift_n * 0.98


def grip_n(ground: Ground, perimeter: float, start: float, depth: float) -> float:
    """Friction on a shaft between two depths, cell by cell."""
    return sum(
        ground.friction_pa(k) * perimeter * CELL
        for k, z in enumerate(ground.middle)
        if start < z < depth
    )


def tip_n(ground: Ground, area: float, across: float, depth: float) -> float:
    """Under the tip, the least that is met down to two widths below it."""
    least = math.inf
    for k, z in enumerate(ground.middle):
        if depth <= z <= depth + 2 * across:
            _, angle, cohesion, _, _ = ground.facts[k]
            phi = math.radians(angle)
            number = math.exp(math.pi * math.tan(phi)) * math.tan(math.pi / 4 + phi / 2) ** 2
            at = round(depth / CELL)
            least = min(least, 9 * cohesion if cohesion else number * ground.pressure[at])
    return least * area


@settings(max_examples=16, deadline=None)
@given(
    west=layers,
    east=layers,
    water=waters,
    pack=st.sampled_from(["us", "metric"]),
    held=st.lists(st.tuples(st.floats(2e3, 6e4), st.floats(0.8, 3.0)), min_size=1, max_size=6),
)
def test_what_was_pulled_in_one_soil_speaks_for_that_soil_alone(
    west: tuple, east: tuple, water: float | None, pack: str, held: list[tuple[float, float]]
) -> None:
    """West was tested, east was not: one is planned by what it held, the other by the tables."""
    holes = (
        HoleGivens(id="w", name="west", east_m=-50.0, layers=west, water_m=water),
        HoleGivens(id="e", name="east", east_m=50.0, layers=east),
    )
    tests = [
        {"readings": ((load, 0.0127),), "depth_m": deep, "east_m": -40.0, "post": "W6x9"}
        for load, deep in held
    ]
    site = {"test_holes": holes, "frost_depth_m": 0.5} | (METRIC if pack == "metric" else {})
    # Each post to its own depth, so that none has to go deeper for another.
    # That pulls were made is said as well: where they are written down it proves nothing elsewhere.
    found = untried(job(site, *tests, depths="each post's own", pull_tested=True))
    posts, tested = found.footings.posts, section("W6x9")
    grounds = {hole.name: Ground(hole, 12.5) for hole in holes}
    shares = [load / grip_n(grounds["west"], tested.perimeter_m, 0.0, deep) for load, deep in held]
    on_mean, on_least = TABLE_A9[min(len(held), 5)] if pack == "metric" else (math.inf, 1.0)
    least = min(shares) / on_least
    taken = least if pack == "us" else min(float(np.mean(shares)) / on_mean, least)
    for kind in posts.kinds:
        ground, here = grounds[kind.soil.hole], kind.soil.hole == "west"
        share = taken if here else 1.0
        asked = SAFETY[pack, here] * kind.needs.uplift_n
        got = [
            share * grip_n(ground, posts.post.perimeter_m, 0.5, kind.needs.uplift_m + off)
            for off in (0.012, -0.03)
        ]
        if 0.55 < kind.needs.uplift_m < 11.9:
            assert got[0] >= asked * 0.985
        if 0.6 < kind.needs.uplift_m < 11.9 and kind.depth_m >= kind.needs.uplift_m:
            assert got[1] <= asked * 1.02
    # And pressed: friction as it was pulled, of the tip no more than the tables say.
    for kind in posts.kinds:
        ground, here = grounds[kind.soil.hole], kind.soil.hole == "west"
        share = taken if here else 1.0
        depth = kind.needs.bearing_m
        if not 0.6 < depth < 11.0:
            continue
        across, area = posts.post.width_m, posts.post.depth_m * posts.post.width_m
        bears = share * grip_n(ground, posts.post.perimeter_m, 0.5, depth + 0.012)
        bears += min(1.0, share) * tip_n(ground, area, across, depth + 0.012)
        edge = any(abs(depth - layer[0]) < 2.2 * across + 0.03 for layer in (*west, *east))
        if not edge:
            assert bears >= SAFETY[pack, here] * kind.needs.bearing_n * 0.98


def test_posts_that_were_pressed_prove_their_tips_too() -> None:
    """In even clay: friction from 0.3 m on, nine times its strength under the tip, times the share."""
    ground = EVEN | {"soil_class": "clay", "frost_depth_m": 0.0}
    around, foot = 2 * (0.1 + 0.15), 0.1 * 0.15
    grip = 50e3 * (1 - 0.5 * 25 / 45)
    whole = around * grip * 1.5 + 9 * 50e3 * foot
    for share in (0.6, 1.7):
        test = {"loaded": "pressed", "readings": ((share * whole, 0.0127),), "depth_m": 1.5}
        posts = untried(job(ground, test | {"post": "I 150 x 100 x 14"})).footings.posts
        for kind in posts.kinds:
            need = 2 * kind.needs.bearing_n / share - 9 * 50e3 * foot
            assert kind.needs.bearing_m == pytest.approx(0.3 + max(need, 0) / (around * grip), rel=1e-6)
            # Nobody pulled: what lifts is held by the tables.
            lifted = 3 * kind.needs.uplift_n / (around * grip)
            assert kind.needs.uplift_m == pytest.approx(0.3 + lifted, rel=1e-6)


@pytest.mark.parametrize("family", ["bored pier", "ground screw"])
def test_a_driven_post_says_nothing_of_another_footing(family: str) -> None:
    said, silent = (untried(job(None, *tests, family=family)) for tests in ([pushed(60e3, 1, 2)], []))
    assert said.footings.posts.depth_m == silent.footings.posts.depth_m
    assert not {check.key for check in said.checks} & {"enough_tests", "tested_soils", "test_depth"}


def test_one_that_is_left_out_counts_for_nothing_and_says_so() -> None:
    weak = {"readings": ((900.0, 0.02),), "depth_m": 2.0}
    good = {"readings": ((20e3, 0.004),), "depth_m": 2.0}
    both, without, alone = (
        untried(job(None, *tests)).footings
        for tests in ([good, weak], [good, weak | {"left_out": "it stood on a stone"}], [good])
    )
    assert both.posts.depth_m > without.posts.depth_m == alone.posts.depth_m
    assert any(check.key == "tests_left_out" and check.level == "look" for check in without.checks)


def test_grip_that_was_pulled_holds_against_frost_as_well() -> None:
    """In even sand over silt: what heaves is held below frost by as much as was pulled."""
    ground = EVEN | {"frost_depth_m": 0.9, "fine_soil_top_m": 0.9}
    plain = untried(job(ground)).footings.posts.needs_m[4]
    slides = 0.8 * math.tan(math.radians(32 * 2 / 3)) * 18e3
    whole = slides * 2 * (0.1 + 0.15) * 2.0**2 / 2
    for share in (0.5, 2.0):
        test = {"readings": ((share * whole, 0.0127),), "depth_m": 2.0, "post": "I 150 x 100 x 14"}
        found = untried(job(ground, test)).footings.posts.needs_m[4]
        # k (d² - 0.9²) is the same force.
        assert share * (found**2 - 0.81) == pytest.approx(plain**2 - 0.81, rel=5e-3)


# Screws and piers --------------------------------------------------------------------------------

CLAY_PA = 60e3
CLAY: dict[str, Any] = {
    "frost_depth_m": 0.2,
    "test_holes": (
        HoleGivens(id="h", name="h", layers=((8.0, "clay", CLAY_PA),), east_m=0.0, north_m=0.0),
    ),
}
BREADTHS = st.floats(0.2, 0.6)


def of(design: Design, family: str) -> Any:
    """What it is sized with on one family of footing, on two lines of posts."""
    both = {"structure": {"family": "two post lines"}, "footings": {"family": family}}
    return untried(broken(design, both)).footings.posts


@settings(max_examples=30, deadline=None)
@given(st.floats(1.0, 3.0), BREADTHS, st.floats(1.2, 4.0))
def test_a_pier_that_was_pulled_held_by_its_side_and_by_its_weight(
    deep: float, across: float, times: float
) -> None:
    """Clay, alpha 0.55 of a bored pier (O'Neill & Reese 1999, from memory), 2,400 kg/m3."""
    weight = math.pi / 4 * across**2 * deep * 2400 * 9.80665
    side = 0.55 * CLAY_PA * math.pi * across * deep
    held = weight + times * side
    test = {
        "footing": "bored pier",
        "across_m": across,
        "depth_m": deep,
        "readings": ((held, 0.0127),),
    }
    posts = of(job(CLAY, test), "bored pier")
    (read,) = posts.tests
    assert read.share == pytest.approx(times, rel=0.02)
    assert all(kind.ground.lift.share == pytest.approx(times, rel=0.02) for kind in posts.kinds)


@settings(max_examples=30, deadline=None)
@given(st.floats(0.8, 3.0), st.floats(0.15, 0.4), st.floats(0.4, 3.0))
def test_a_screw_that_was_pulled_held_by_its_helix(deep: float, helix: float, times: float) -> None:
    """Clay: 1.2 H / B to 9 times its strength on the helix (Vesic 1971, from memory)."""
    holds = CLAY_PA * min(1.2 * deep / helix, 9.0) * math.pi / 4 * helix**2
    test = {
        "footing": "ground screw",
        "across_m": helix,
        "depth_m": deep,
        "torque_n_m": times * holds / 20,
        "readings": ((times * holds, 0.0127),),
    }
    posts = of(job(CLAY, test), "ground screw")
    (read,) = posts.tests
    assert read.share == pytest.approx(times, rel=0.03)


def test_helixes_go_as_deep_as_what_was_held_asks_and_torque_counts_for_what_it_proved() -> None:
    def pulled(times: float) -> dict[str, Any]:
        holds = CLAY_PA * 9.0 * math.pi / 4 * 0.25**2
        return {
            "footing": "ground screw",
            "across_m": 0.25,
            "depth_m": 2.5,
            "torque_n_m": times * holds / 15,
            "readings": ((times * holds, 0.0127),),
        }

    site = CLAY | {"wind_speed_m_s": 30.0}
    needs = [of(job(site, pulled(times)), "ground screw").needs_m[1] for times in (0.3, 1.0, 3.0)]
    # Near the surface a helix holds with its depth: a third of the strength, three times as deep.
    assert needs[0] == pytest.approx(needs[1] / 0.3, abs=0.05)
    assert needs[1] == pytest.approx(3 * needs[2], abs=0.08)
    # 15 newtons a newton metre were proved; by its shaft 23 would be taken.
    design = broken(
        job(site, pulled(1.0)),
        {"structure": {"family": "two post lines"}, "footings": {"family": "ground screw"}},
    )
    (look,) = [one for one in untried(design).checks if one.key == "torque_tested"]
    assert look.level == "look" and look.limit == pytest.approx(15.0)
    said = broken(design, {"footings": {"torque_factor_per_m": 15.0}})
    (sound,) = [one for one in untried(said).checks if one.key == "torque_tested"]
    assert sound.level == "sound"


def test_each_speaks_for_its_own_kind_alone() -> None:
    post = {"readings": ((3e4, 0.0127),), "depth_m": 2.0}
    pier = post | {"footing": "bored pier", "across_m": 0.4}
    screw = post | {"footing": "ground screw", "across_m": 0.25}
    design = job(CLAY, post, pier, screw)
    for family, test in (("driven post", "T0"), ("bored pier", "T1"), ("ground screw", "T2")):
        assert [one.test.name for one in of(design, family).tests] == [test]
    # A thread in drilled rock is proved by its own bond.
    rock = {"family": "ground screw", "screw_kind": "rock screw", "rock_bond_pa": 4e5}
    threaded = broken(design, {"structure": {"family": "two post lines"}, "footings": rock})
    assert untried(threaded).footings.posts.tests == ()


@settings(max_examples=20, deadline=None)
@given(st.sampled_from(["us", "metric"]), st.floats(0.3, 0.6), st.floats(1.2, 2.5), st.floats(5e3, 6e4))
def test_a_pier_that_was_pushed_stands_in_ground_that_held_it(
    pack: str, across: float, deep: float, push: float
) -> None:
    """us: IBC 1807.3.2.1 the other way round, with the pier's width; metric: what Broms would hold."""
    test = pushed(push, 0.5, deep) | {"footing": "bored pier", "across_m": across}
    posts = of(job(EVEN | {"rule_pack": pack}, test), "bored pier")
    (read,) = posts.tests
    if pack == "us":
        assert read.pa_per_m == pytest.approx(bearing_of(push, 0.5, deep, across), rel=2e-3)
        return
    # Broms (1964), sand, free head: 3 K_p gamma b d^3 / 2 about the foot, over e + d.
    soil = posts.kinds[0].ground.soil
    angle = math.radians(soil.friction_angle_deg)
    passive = math.tan(math.pi / 4 + angle / 2) ** 2
    holds = 0.5 * 3 * passive * soil.unit_weight_n_m3 * across * deep**3 / (3 * (0.5 + deep))
    assert read.share > 0
    assert read.held_n / read.share == pytest.approx(holds, rel=0.02)
