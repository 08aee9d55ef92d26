"""Steel that rusts away in the soil, and what is left: tables by a second route, shapes by strips.

Losses: from memory of AASHTO LRFD 11.10.6.4.2a (zinc 15 µm a year for two years, then 4; steel 12) and
of EN 1993-5:2007, Table 4-1. Moduli: strips of the outline, nothing of the core.
"""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.codes.section import section
from openfurrow.core.design import Design
from openfurrow.core.plan import plan, untried
from tests.core.test_checks import broken, find
from tests.designs import changed, designs, plain_larkspur

TABLE = {
    "natural ground": {5: 0.0, 25: 0.3, 50: 0.6, 75: 0.9, 100: 1.2},
    "peaty or polluted ground": {5: 0.2, 25: 1.0, 50: 1.75, 75: 2.5, 100: 3.25},
    "loose fill that bites": {5: 0.5, 25: 2.0, 50: 3.25, 75: 4.5, 100: 5.75},
}


def by_years(years: int, zinc_um: float) -> float:
    """Micrometres of steel lost, year by year in steps of a thousandth."""
    zinc, steel = zinc_um, 0.0
    for step in range(years * 1000):
        rate = (15.0 if step < 2000 else 4.0) / 1000
        if zinc > 0:
            zinc -= rate
        else:
            steel += 12.0 / 1000
    return steel


@settings(max_examples=20, deadline=None)
@given(st.integers(5, 100), st.floats(0, 300))
def test_zinc_goes_first_and_steel_after_it(years: int, zinc_um: float) -> None:
    design = changed(plain_larkspur(), "footings", life_years=years, zinc_m=zinc_um * 1e-6)
    lost = untried(design).footings.posts.lost_m
    assert lost * 1e6 == pytest.approx(by_years(years, zinc_um), abs=0.1)


@pytest.mark.parametrize("ground", TABLE)
@pytest.mark.parametrize("pack", ["us", "metric"])
def test_other_ground_by_its_table(plain: Design, ground: str, pack: str) -> None:
    for years in (5, 15, 25, 40, 50, 100):
        design = changed(plain, "site", rule_pack=pack, terrain="II")
        design = changed(design, "footings", life_years=years, ground_bites=ground, zinc_m=0.0)
        lost = untried(design).footings.posts.lost_m
        if pack == "us" and ground == "natural ground":
            assert lost == pytest.approx(years * 12e-6)
            continue
        told = TABLE[ground]
        assert lost * 1e3 == pytest.approx(float(np.interp(years, list(told), list(told.values()))))


def strips(name: str, lost: float) -> float:
    """Elastic modulus about the strong axis of what is left, by strips of its height."""
    one = section(name)
    high, wide = one.depth_m - 2 * lost, one.width_m - 2 * lost
    web, flange = (max(thick - 2 * lost, 0.0) for thick in (one.web_m, one.flange_m))
    z = (np.arange(40_000) + 0.5) / 40_000 * high - high / 2
    if one.shape == "pipe":
        outer, inner = high / 2, high / 2 - web
        chord = 2 * (np.sqrt(np.maximum(outer**2 - z**2, 0)) - np.sqrt(np.maximum(inner**2 - z**2, 0)))
    else:
        chord = np.where(np.abs(z) > high / 2 - flange, wide, web)
    return float((chord * z**2).sum() * high / 40_000 / (high / 2))


@pytest.mark.parametrize("name", ["I 150 x 100 x 14", "W6x9", "pipe 3 in", "C 200 x 75 x 4.0"])
@pytest.mark.parametrize("ground", TABLE)
def test_what_is_left_carries_as_much_less_as_its_outline_says(
    plain: Design, name: str, ground: str
) -> None:
    """What the table of profiles says of it new, fillets and all, times the share of the outline."""
    if name == "pipe 3 in":
        plain = broken(plain, {"structure": {"family": "two post lines"}})
    design = changed(plain, "structure", post_section=name)
    design = changed(design, "footings", life_years=30, ground_bites=ground, zinc_m=0.0)
    posts = untried(design).footings.posts
    new = section(name).modulus_m3 * section(name).yield_pa
    share = strips(name, posts.lost_m) / strips(name, 0.0)
    assert posts.bends is not None
    assert posts.bends.yields_n_m == pytest.approx(new * share, rel=4e-3, abs=10.0)
    # What is thinner buckles and turns over all the sooner.
    fresh = changed(design, "footings", life_years=0)
    assert posts.bends.share <= untried(fresh).footings.posts.bends.share + 1e-9
    assert posts.bending_limit_n_m <= new * share / 1.67 + 5.0


def test_a_post_that_is_eaten_through_is_a_stop(plain: Design) -> None:
    design = changed(plain, "footings", life_years=60, ground_bites="loose fill that bites")
    assert find(plan(design).checks, "footings", "bending").level == "stop"
    assert find(plan(plain).checks, "footings", "bending").level == "sound"


@settings(max_examples=20, deadline=None)
@given(design=designs(), more=st.integers(1, 60))
def test_longer_lives_never_carry_more(design: Design, more: int) -> None:
    short, long = (untried(changed(design, "footings", life_years=years)) for years in (10, 10 + more))
    if not short.has("footings") or short.footings.weights is not None:
        return
    a, b = short.footings.posts, long.footings.posts
    assert b.lost_m >= a.lost_m and b.bending_limit_n_m <= a.bending_limit_n_m + 1e-9
    assert b.along_used >= a.along_used - 1e-9
    # How deep it goes has nothing to do with it.
    np.testing.assert_array_equal(a.depths_m, b.depths_m)


def test_along_the_row_it_is_of_what_is_left_as_well(plain: Design) -> None:
    """Both axes lose about as much: no less than the outline of the strong one says."""
    new, old = (
        untried(changed(plain, "footings", life_years=years, zinc_m=0.0)).footings.posts
        for years in (5, 80)
    )
    name = new.post.name
    share = strips(name, new.lost_m) / strips(name, old.lost_m)
    assert old.along_used >= new.along_used * share * 0.97 > new.along_used * 1.1


def test_a_screw_rusts_and_concrete_keeps_its_post() -> None:
    old = {"life_years": 60, "ground_bites": "peaty or polluted ground"}
    lines = broken(plain_larkspur(), {"structure": {"family": "two post lines"}})
    screws = [
        untried(changed(lines, "footings", family="ground screw", screw_section="pipe 4 in", **more))
        for more in ({"life_years": 5}, old)
    ]
    made = [one.footings.screws for one in screws]
    assert made[0] is not None and made[1] is not None
    share = strips("pipe 4 in", made[1].lost_m) / strips("pipe 4 in", made[0].lost_m)
    assert made[1].bent_limit_n_m == pytest.approx(made[0].bent_limit_n_m * share, rel=2e-3)
    piers = [
        untried(changed(plain_larkspur(), "footings", family="bored pier", **more)).footings.posts
        for more in ({"life_years": 5}, old)
    ]
    assert piers[0].bending_limit_n_m == piers[1].bending_limit_n_m
    assert math.isclose(piers[1].lost_m, 0.0)
