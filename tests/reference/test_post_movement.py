"""How far posts move: the beam on springs against closed forms, and the head by a free body.

From memory of Hetényi (1946), semi-infinite beam on an even bed; Matlock & Reese (1960), long pile in a
bed that stiffens with depth; Broms (1964), rigid pile. Springs: Terzaghi (1955), Davisson (1970).
"""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.codes.section import section
from openfurrow.core.footings.movement import sways
from openfurrow.core.plan import untried
from openfurrow.core.site.soil import Soil, soil_in_class
from tests.core.test_checks import broken
from tests.designs import changed, plain_larkspur

SAND, GRAVEL = 6.6e6, 17.6e6
E = 200e9


def soil(name: str) -> Soil:
    return soil_in_class(name, None, 0.5)


@settings(max_examples=25)
@given(st.floats(100, 2e4), st.floats(0, 4e4), st.floats(1e-6, 2e-5))
def test_long_in_clay_as_on_an_even_bed(push: float, moment: float, inertia: float) -> None:
    bed = 67 * 50e3
    beta = (bed / (4 * E * inertia)) ** 0.25
    moved, turned = sways(soil("clay"), E * inertia, 8 / beta, (push, moment))
    assert moved == pytest.approx(2 * push * beta / bed + 2 * moment * beta**2 / bed, rel=0.03)
    assert turned == pytest.approx(2 * push * beta**2 / bed + 4 * moment * beta**3 / bed, rel=0.03)


@pytest.mark.parametrize(("name", "rate"), [("sand", SAND), ("sandy gravel", GRAVEL)])
@pytest.mark.parametrize("push", [0.0, 5e3])
@pytest.mark.parametrize("moment", [0.0, 9e3])
def test_long_in_sand_by_the_coefficients(name: str, rate: float, push: float, moment: float) -> None:
    if not push and not moment:
        return
    stiff = E * 8e-6
    length = (stiff / rate) ** 0.2
    moved, turned = sways(soil(name), E * 8e-6, 5.5 * length, (push, moment))
    by_hand = 2.435 * push * length**3 / stiff + 1.623 * moment * length**2 / stiff
    assert moved == pytest.approx(by_hand, rel=0.02)
    slope = 1.623 * push * length**2 / stiff + 1.75 * moment * length / stiff
    assert turned == pytest.approx(slope, rel=0.02)


@settings(max_examples=25)
@given(st.floats(100, 2e4), st.floats(0.1, 3.0), st.floats(0.8, 3.0))
def test_stiff_ones_turn_as_rigid_ones(push: float, high: float, deep: float) -> None:
    """Sand: y = 18 H (1 + 1.33 e/L) / (L² n); clay: y = 4 H (1 + 1.5 e/L) / (k L)."""
    rigid = E * 1.0
    moved, _ = sways(soil("sand"), rigid, deep, (push, push * high))
    assert moved == pytest.approx(18 * push * (1 + 4 / 3 * high / deep) / (deep**2 * SAND), rel=0.01)
    moved, _ = sways(soil("clay"), rigid, deep, (push, push * high))
    assert moved == pytest.approx(4 * push * (1 + 1.5 * high / deep) / (deep * 67 * 50e3), rel=0.01)


def test_a_loose_top_and_water_let_it_move_further() -> None:
    load = 4e3, 6e3
    post = E * section("I 150 x 100 x 14").inertia_m4
    firm = sways(soil("sand"), post, 2.0, load)
    assert sways(soil("sand"), post, 2.0, load, 0.4)[0] > firm[0] * 1.1
    wet = replace(soil("sand"), water_m=0.0)
    assert sways(wet, post, 2.0, load)[0] > firm[0] * 1.1


def test_the_head_by_integrating_curvature_above_the_ground() -> None:
    design = changed(plain_larkspur(), "footings", life_years=5)
    design = changed(design, "site", soil_class="sand", test_holes=(), fine_soil_top_m=None)
    found = untried(design)
    told = {answer.key: answer for answer in found.footings.answers}
    head = told["moves_head"].working
    said = {one.symbol: float(one.value) for one in head.inputs}
    post = E * found.footings.posts.post.inertia_m4
    ground, turn = sways(soil("sand"), post, said["d"], (said["P"], said["M"]))
    there = {one.symbol: float(one.value) for one in told["moves_ground"].working.inputs}
    moved, _ = sways(soil("sand"), post, there["d"], (there["P"], there["M"]))
    steps = np.linspace(0.0, said["h"], 20001)
    curvature = (said["M"] - said["P"] * steps) / post
    bends = float(np.trapezoid(curvature * (said["h"] - steps), steps))
    assert float(told["moves_ground"].value) == pytest.approx(moved) and moved >= ground - 1e-12
    assert float(head.value) == pytest.approx(ground + turn * said["h"] + bends, rel=1e-4)
    worst = max(float(np.abs(kind.loads.tipping_n_m).max()) for kind in found.footings.posts.kinds)
    assert said["M"] == pytest.approx(worst)


def test_metric_movement_is_of_loads_without_their_factor() -> None:
    design = broken(plain_larkspur(), {"site": {"rule_pack": "metric", "terrain": "II"}})
    found = untried(design).footings
    told = next(answer for answer in found.answers if answer.key == "moves_ground")
    said = {one.symbol: float(one.value) for one in told.working.inputs}
    loads = [
        (abs(float(push)) / 1.5, abs(float(tips)) / 1.5)
        for kind in found.posts.kinds
        for push, tips in zip(kind.loads.push_n, kind.loads.tipping_n_m, strict=True)
    ]
    assert any(said["P"] == pytest.approx(p) and said["M"] == pytest.approx(m) for p, m in loads)
    assert math.isfinite(float(told.value))


@settings(max_examples=8, deadline=None)
@given(st.sampled_from(["sand", "clay", "sandy gravel"]), st.floats(0.0, 0.6))
def test_no_load_of_any_post_moves_it_further(name: str, loose: float) -> None:
    """Every kind in every case, one by one."""
    design = changed(plain_larkspur(), "site", soil_class=name, test_holes=(), fine_soil_top_m=None)
    found = untried(changed(design, "footings", life_years=5, loose_top_m=loose)).footings
    told = {answer.key: float(answer.value) for answer in found.answers if "moves" in answer.key}
    post = E * found.posts.post.inertia_m4
    most = max(
        sways(kind.soil, post, kind.depth_m, (abs(float(p)), abs(float(m))), loose)[0]
        for kind in found.posts.kinds
        for p, m in zip(kind.loads.push_n, kind.loads.tipping_n_m, strict=True)
    )
    assert told["moves_ground"] >= most * 0.98


@pytest.mark.parametrize("family", ["bored pier", "ground screw"])
@pytest.mark.parametrize("pack", ["us", "metric"])
def test_what_stands_on_a_pier_or_a_screw_moves_with_it_and_bends_above_it(
    family: str, pack: str
) -> None:
    """Concrete of 25 MPa, 4700 sqrt(f_c) and 0.35 of its inertia (ACI 318-19, from memory), or the
    screw's own shaft, below; the steel of the post from there to its bolt.
    """
    said_of = {
        "bored pier": {"pier_diameter_m": 0.4, "pier_top_m": 0.15, "concrete_pa": 25e6},
        "ground screw": {"screw_section": "pipe 3 in", "screw_out_m": 0.1, "life_years": 5},
    }[family]
    site = {"rule_pack": pack, "soil_class": "sand", "test_holes": (), "fine_soil_top_m": None}
    site |= {"terrain": "II", "wind_speed_m_s": 27.0} if pack == "metric" else {}
    structure = {"structure": {"family": "two post lines"}} if family == "ground screw" else {}
    footings = {"footings": {"family": family, "head_moves_m": 0.05} | said_of}
    found = untried(broken(plain_larkspur(), {"site": site} | structure | footings))
    told = {answer.key: answer for answer in found.footings.answers}
    below = (
        4700e6 * 25**0.5 * math.pi / 64 * 0.4**4 * 0.35
        if family == "bored pier"
        else E * section("pipe 3 in").inertia_m4
    )
    stands = 0.15 if family == "bored pier" else found.footings.screws.out_m  # type: ignore[union-attr]
    above = E * found.structure.posts.post.inertia_m4
    head = told["moves_head"].working
    at = {one.symbol: float(one.value) for one in head.inputs}
    ground, turn = sways(soil("sand"), below, at["d"], (at["P"], at["M"]))
    steps = np.linspace(stands, at["h"], 20001)
    curvature = (at["M"] - at["P"] * steps) / above
    bends = float(np.trapezoid(curvature * (at["h"] - steps), steps))
    assert float(head.value) == pytest.approx(ground + turn * at["h"] + bends, rel=2e-3)
    (check,) = [one for one in found.checks if one.key == "moves"]
    assert (check.level == "sound") is (float(head.value) <= 0.05)


def test_doubled_bearing_asks_whether_piers_and_screws_move_no_further_than_it_allows() -> None:
    for family in ("bored pier", "ground screw"):
        footings = {"family": family, "half_inch_moves": True}
        design = {"structure": {"family": "two post lines"}, "footings": footings}
        keys = {one.key for one in untried(broken(plain_larkspur(), design)).footings.checks}
        assert "half_inch" in keys
