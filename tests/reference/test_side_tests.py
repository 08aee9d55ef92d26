"""Posts tested sideways: what they held stands for the ground, by IBC 1807.3.2.1 the other way round.

Half of the load that a test held is allowed: from memory of IBC 2018, 1810.3.3.2. Tested ground often
holds at less depth than the tables ask for: common practice, no published source.
"""

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.plan import untried
from tests.core.test_checks import broken
from tests.designs import plain_larkspur

TWELVE_FEET = 12 * 0.3048
EVEN: dict[str, Any] = {"soil_class": "sand", "test_holes": (), "frost_depth_m": 0.2}


def job(site: dict[str, Any] | None = None, **footings: Any) -> Design:
    return broken(plain_larkspur(), {"site": site or EVEN, "footings": footings})


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


@settings(max_examples=20, deadline=None)
@given(
    st.floats(3e3, 4e4),
    st.floats(0.3, 1.5),
    st.floats(1.0, 3.0),
    st.sampled_from([("I 150 x 100 x 14", 0.1), ("pipe 3 in", 0.0889)]),
)
def test_depth_is_that_of_ground_which_held_the_test(
    load: float, high: float, deep: float, tested: tuple[str, float]
) -> None:
    """What was tested may be another post than those that are planned."""
    design = job(
        side_test_n=load, side_test_height_m=high, side_test_depth_m=deep, side_test_post=tested[0]
    )
    found = untried(design)
    width = found.structure.posts.post.width_m
    bearing = bearing_of(load, high, deep, tested[1])
    for kind in found.footings.posts.kinds:
        push, moment = np.abs(kind.loads.push_n), np.abs(kind.loads.tipping_n_m)
        by_hand = needed_m(bearing, push, moment, width)
        assert kind.needs.lateral_m == pytest.approx(by_hand, abs=4e-3)


def test_no_doubling_stands_on_top_of_a_test() -> None:
    """A push read at half an inch has that movement in it."""
    plain = {"side_test_n": 9000.0, "side_test_depth_m": 1.9}
    one, two = (untried(job(**plain, half_inch_moves=moves)) for moves in (True, False))
    assert [k.needs for k in one.footings.posts.kinds] == [k.needs for k in two.footings.posts.kinds]


def test_better_ground_asks_for_less_and_layers_give_way_to_the_test() -> None:
    depths = [
        max(k.needs.lateral_m for k in untried(job(side_test_n=load)).footings.posts.kinds)
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
        max(k.needs.lateral_m for k in untried(job(site, side_test_n=9e3)).footings.posts.kinds)
        for site in (EVEN, layered)
    ]
    assert held[1] == pytest.approx(held[0], abs=0.0254 / 4 + 1e-6)


@pytest.mark.parametrize("family", ["bored pier", "ground screw"])
def test_a_driven_post_says_nothing_of_another_footing(family: str) -> None:
    said, silent = (untried(job(family=family, side_test_n=load)) for load in (60e3, None))
    assert said.footings.posts.depth_m == silent.footings.posts.depth_m
    keys = {check.key for check in said.checks}
    assert not keys & {"side_tests", "side_test_depth"}


def test_only_the_us_school_reads_them_so() -> None:
    ground = EVEN | {"rule_pack": "metric"}
    said, silent = (untried(job(ground, side_test_n=load)) for load in (30e3, None))
    assert said.footings.posts.depth_m == silent.footings.posts.depth_m
