"""A top that holds nothing, and a slab that holds: recomputed by balance, cell by cell.

IBC 2018, 1807.3.2.2, equation 18-3, from memory: d² = 4.25 M / (S3 b), S3 the bearing at the depth d.
"""

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.plan import plan, untried
from openfurrow.core.site.soil import HoleGivens
from tests.core.test_checks import broken, find
from tests.designs import changed, plain_larkspur
from tests.reference.test_layers import CELL, Ground, layers, rigid_limit, waters

TWELVE_FEET = 12 * 0.3048


def job(pack: str = "us", site: dict[str, Any] | None = None, **footings: Any) -> Design:
    ground = {"soil_class": "sand", "test_holes": (), "frost_depth_m": 0.2, "rule_pack": pack}
    ground |= {"terrain": "II"} if pack == "metric" else {}
    return broken(plain_larkspur(), {"site": ground | (site or {}), "footings": footings})


@pytest.mark.parametrize("moves", [True, False])
def test_with_a_slab_the_depth_is_that_of_the_printed_formula(moves: bool) -> None:
    posts = untried(job(slab_holds=True, half_inch_moves=moves)).footings.posts
    width, bearing = posts.post.width_m, 23563.2 * (2 if moves else 1)
    for kind in posts.kinds:
        moment = float(np.abs(kind.loads.tipping_n_m).max())
        deep = next(
            d
            for d in np.arange(0.05, 12, 0.001)
            if d**2 >= 4.25 * moment / (bearing * min(d, TWELVE_FEET) * width)
        )
        assert kind.needs.lateral_m == pytest.approx(float(deep), abs=0.0254 / 4 + 2e-3)


def test_a_slab_spares_depth_and_asks_who_designs_it() -> None:
    free, held = (untried(job(slab_holds=slab)).footings for slab in (False, True))
    assert held.posts.needs_m[0] < free.posts.needs_m[0]
    assert not [check for check in free.checks if check.key == "slab"]
    check = next(check for check in held.checks if check.key == "slab")
    # The push, and what the soil pushes with at two thirds of the depth.
    takes = max(
        float((np.abs(k.loads.push_n) + np.abs(k.loads.tipping_n_m) / (2 / 3 * k.depth_m)).max())
        for k in held.posts.kinds
    )
    assert check.level == "look" and check.measured == pytest.approx(takes)


@settings(max_examples=12, deadline=None)
@given(found=layers, water=waters)
def test_in_layers_a_slab_lets_so_much_of_what_they_hold_about_the_ground_be_used(
    found: tuple, water: float | None
) -> None:
    hole = HoleGivens(name="h", layers=found, water_m=water)
    posts = untried(job(site={"test_holes": (hole,)}, slab_holds=True)).footings.posts
    width, ground = posts.post.width_m, Ground(hole, 12.0)
    for kind in posts.kinds:
        need = kind.needs.lateral_m
        if not 0.3 < need < 11.5:
            continue
        moment = float(np.abs(kind.loads.tipping_n_m).max())
        bears = [
            3
            / 4.25
            * sum(
                ground.presumed_pa(k, 2.0) * width * CELL * z
                for k, z in enumerate(ground.middle)
                if z < need + off
            )
            for off in (0.01, -0.02)
        ]
        assert bears[0] >= moment * 0.99
        if kind.depth_m >= need:
            assert bears[1] <= moment * 1.02


@settings(max_examples=12, deadline=None)
@given(
    found=layers.filter(lambda these: any(kind == "clay" for _, kind, _ in these)),
    water=waters,
    loose=st.floats(0.05, 1.2),
)
def test_a_loose_top_holds_nothing_in_any_balance(
    found: tuple, water: float | None, loose: float
) -> None:
    """By linear programming over all pressures that the firm ground below it may take."""
    hole = HoleGivens(name="h", layers=found, water_m=water)
    design = job("metric", {"test_holes": (hole,)}, loose_top_m=loose)
    posts = untried(design).footings.posts
    width = posts.post.width_m
    for kind in posts.kinds[-1:]:
        depth = kind.depth_m
        if depth >= 11.9:
            continue
        ground = Ground(hole, depth)
        held = [
            ground.broms_pa(k, width) * width if z > loose else 0.0 for k, z in enumerate(ground.middle)
        ]
        worst = int(kind.needs.lateral_case)
        push = abs(float(kind.loads.push_n[worst]))
        moment = abs(float(kind.loads.tipping_n_m[worst]))
        if push + moment > 1:
            assert rigid_limit(held, ground.middle, push, moment) > 0.98


def test_even_sand_with_a_loose_top_by_moments_about_the_tip() -> None:
    """Metric: all that is firm pushes one way, about the tip."""
    reduced = math.tan(math.pi / 4 + math.atan(math.tan(math.radians(32)) / 1.25) / 2) ** 2
    for loose in (0.3, 0.9):
        posts = untried(job("metric", loose_top_m=loose)).footings.posts
        for kind in posts.kinds:
            depth = kind.needs.lateral_m
            z = np.arange(loose, depth, 1e-4) + 5e-5
            lever = float((3 * reduced * 18e3 * z * posts.post.width_m * 1e-4 * (depth - z)).sum())
            push, moment = np.abs(kind.loads.push_n), np.abs(kind.loads.tipping_n_m)
            asked = float((moment + push * depth).max())
            assert lever == pytest.approx(asked, rel=0.02)


@pytest.mark.parametrize("pack", ["us", "metric"])
@pytest.mark.parametrize("family", ["driven post", "bored pier"])
def test_the_looser_the_top_the_deeper_and_the_more_it_bends(pack: str, family: str) -> None:
    found = [
        untried(job(pack, family=family, loose_top_m=loose)).footings.posts
        for loose in (0.0, 0.2, 0.5, 1.0)
    ]
    depths = [one.needs_m[0] for one in found]
    assert depths == sorted(depths) and depths[-1] > depths[0] + 0.1
    bent = [one.bending_n_m for one in found]
    if family == "driven post":
        assert bent == sorted(bent) and bent[-1] > bent[0] * 1.05
    # What grips is not touched.
    assert all(one.needs_m[1] == pytest.approx(found[0].needs_m[1], abs=0.02) for one in found)


def test_a_slab_is_of_the_us_school_alone(plain: Design) -> None:
    assert find(plan(changed(plain, "footings", slab_holds=True)).checks, "footings", "slab")
    said, silent = (untried(job("metric", slab_holds=slab)) for slab in (True, False))
    assert said.footings.posts.depth_m == silent.footings.posts.depth_m
