"""Profiles of one's own, steel and aluminium, against outlines, printed tables and curves written anew.

Grades: ASTM and EN figures from memory; aluminium: Aluminum Design Manual 2015, Tables A.3.4, B.4.2 and
2-19, EN 1999-1-1, Tables 3.2b, 6.3 and 6.6, from memory.
"""

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from shapely import Polygon, affinity
from shapely.geometry import box
from shapely.ops import unary_union

from openfurrow.core.codes.metal import grade, grade_names
from openfurrow.core.codes.section import Section, section
from openfurrow.core.members.bending import bends, web_shear_limit_n
from openfurrow.core.members.bolts import bearing_limit_n, bolt
from openfurrow.core.members.buckling import (
    flange_turns_pa,
    plates_m,
    pressed_flange_turns_pa,
    turns_over_pa,
)
from openfurrow.core.members.columns import column_limit_n
from tests.reference.test_members import inertia_about_level_axis, outline

KSI_PA, INCH_M, POUND_PER_FOOT = 6.894757e6, 0.0254, 1.488164


def millimetres(low: float, high: float) -> st.SearchStrategy[float]:
    """Lengths as a catalogue has them, to a tenth."""
    return st.integers(round(low * 10), round(high * 10)).map(lambda tenths: tenths / 10)


def names(shapes: tuple[str, ...] = ("C", "Z", "I", "box", "pipe")) -> st.SearchStrategy[str]:
    """Names of profiles that a merchant could have."""

    def one(shape: str, deep: float, wide: float, lip: float, wall: float, more: float, of: str) -> str:
        sizes = {
            "C": (deep, wide, lip, wall),
            "Z": (deep, wide, lip, wall),
            "I": (deep, wide, wall, wall + more),
            "box": (deep, wide, wall),
            "pipe": (deep, wall),
        }[shape]
        return f"{shape} {' x '.join(f'{size:g}' for size in sizes)} {of}"

    return st.builds(
        one,
        st.sampled_from(shapes),
        millimetres(50, 250),
        millimetres(30, 90),
        millimetres(11, 20),
        millimetres(1.2, 5),
        millimetres(0, 3),
        st.sampled_from(grade_names()),
    )


def found(name: str) -> Section:
    """The section; names that are refused are left out of the search."""
    try:
        return section(name)
    except KeyError:
        assume(False)
        raise


def drawn(name: str) -> Polygon:
    """Its metal as an outline, read from the name alone."""
    shape, *sizes, _ = name.replace(" x ", " ").split()
    mm = [float(size) / 1000 for size in sizes]
    if shape == "I":
        return outline("I", mm[0], mm[1], mm[2], mm[3], 0.0)
    if shape == "box":
        deep, wide, wall = mm
        outer = box(0, -deep / 2, wide, deep / 2)
        return outer.difference(box(wall, wall - deep / 2, wide - wall, deep / 2 - wall))
    deep, wide, lip, wall = mm
    return outline(shape, deep, wide, wall, wall, lip)


@given(name=names(("C", "Z", "I", "box")))
def test_what_a_name_means_against_the_outline_that_it_draws(name: str) -> None:
    """shapely; about the other axis by turning the outline."""
    known, metal = found(name), drawn(name)
    density = 2700 if name.split()[-1][0] == "6" else 7850
    assert known.area_m2 == pytest.approx(metal.area, rel=1e-6)
    assert known.mass_kg_per_m == pytest.approx(metal.area * density, rel=1e-6)
    assert known.inertia_m4 == pytest.approx(inertia_about_level_axis(metal), rel=2e-3)
    assert known.modulus_m3 == pytest.approx(known.inertia_m4 * 2 / known.depth_m)
    if known.shape != "Z":
        turned = affinity.rotate(metal, 90, origin=(0, 0))
        level = affinity.translate(turned, 0, -turned.centroid.y)
        assert known.weak_inertia_m4 == pytest.approx(inertia_about_level_axis(level), rel=4e-3)
        edge = max(level.bounds[3], -level.bounds[1])
        assert known.weak_modulus_m3 == pytest.approx(known.weak_inertia_m4 / edge, rel=4e-3)


@given(deep=millimetres(30, 170), wall=millimetres(1.2, 6), of=st.sampled_from(["S235", "6061-T6"]))
def test_an_own_pipe_bears_by_the_wall_that_mills_leave_and_weighs_by_all_of_it(
    deep: float, wall: float, of: str
) -> None:
    """AISC 360-16, B4.2; of aluminium nothing is left out. shapely rings of 512 corners a quarter."""
    known = found(f"pipe {deep:g} x {wall:g} {of}")

    def ring(thick: float) -> Polygon:
        outer = box(0, 0, 0, 0).centroid.buffer(deep / 2000, 512)
        return outer.difference(outer.centroid.buffer(deep / 2000 - thick / 1000, 512))

    bears, whole = ring(0.93 * wall if of == "S235" else wall), ring(wall)
    assert known.area_m2 == pytest.approx(bears.area, rel=1e-4)
    assert known.inertia_m4 == pytest.approx(inertia_about_level_axis(bears), rel=2e-3)
    density = 7850 if of == "S235" else 2700
    assert known.mass_kg_per_m == pytest.approx(whole.area * density, rel=1e-4)


@pytest.mark.parametrize(
    ("own", "listed"),
    [
        ("C 150 x 64 x 18 x 2.5 S350GD", "C 150 x 64 x 2.5"),
        ("Z 200 x 75 x 20 x 2.5 S350GD", "Z 200 x 75 x 2.5"),
        ("I 150 x 100 x 4.3 x 5.9 A992", "I 150 x 100 x 14"),
        ("pipe 60.325 x 3.912 A53-B", "pipe 2 in"),
    ],
)
def test_a_profile_of_the_lists_told_by_its_measures_is_the_same(own: str, listed: str) -> None:
    """The lists of sections."""
    mine, theirs = section(own), section(listed)
    for of in ("area_m2", "inertia_m4", "modulus_m3", "mass_kg_per_m", "perimeter_m", "yield_pa"):
        assert getattr(mine, of) == pytest.approx(getattr(theirs, of), rel=1e-3)
    for pack in ("us", "metric"):
        assert bends(mine, pack, 1.2).limit_n_m == pytest.approx(
            bends(theirs, pack, 1.2).limit_n_m, rel=2e-3
        )
        assert column_limit_n(mine, 2.0, pack) == pytest.approx(
            column_limit_n(theirs, 2.0, pack), rel=2e-3
        )


@pytest.mark.parametrize(
    ("name", "yields", "breaks"),
    [
        # ksi: ASTM A653, A53, A500 (round), A992; B221.
        ("A653-33", 33, 45),
        ("A653-50", 50, 65),
        ("A653-55", 55, 70),
        ("A500-C", 46, 62),
        ("A992", 50, 65),
        ("A53-B", 35, 60),
        ("6061-T6", 35, 38),
    ],
)
def test_grades_against_printed_strengths(name: str, yields: float, breaks: float) -> None:
    """From memory of the standards; those that are known in MPa are a little less."""
    known = grade(name)
    assert known.yield_pa == pytest.approx(yields * KSI_PA, rel=6e-3)
    assert known.yield_pa <= yields * KSI_PA * 1.001 or name == "A653-33"
    assert known.ultimate_pa <= breaks * KSI_PA * 1.005
    assert known.ultimate_pa >= breaks * KSI_PA * 0.985


def test_columns_of_6061_t6_against_the_printed_line() -> None:
    """Aluminum Design Manual, Table 2-19: 20.3 - 0.127 S ksi up to S = 66, then 51 352 / S^2."""
    pipe = section("pipe 60.3 x 3.9 6061-T6")
    radius = math.sqrt(pipe.inertia_m4 / pipe.area_m2)
    for slender in (15, 30, 45, 60, 80, 100, 140):
        printed = 20.3 - 0.127 * slender if slender < 66 else 51352 / slender**2
        told = float(column_limit_n(pipe, slender * radius, "us")) / pipe.area_m2 / KSI_PA
        assert told == pytest.approx(printed, rel=0.015)


def bowed(slender: float, part: float, flat: float) -> float:
    """EN 1999-1-1, 6.3.1.2, by the closed form of its quadratic."""
    half = (1 + part * (slender - flat) + slender**2) / 2
    return min(1.0, (half - math.sqrt(half**2 - slender**2)) / slender**2)


def wall_left(ratio: float, stands_out: bool) -> float:
    """EN 1999-1-1, Table 6.3, class A without welds."""
    if ratio <= (6 if stands_out else 22):
        return 1.0
    return 10 / ratio - 24 / ratio**2 if stands_out else 32 / ratio - 220 / ratio**2


ALUMINIUM = [name for name in grade_names() if name[0] == "6"]


@given(
    deep=millimetres(40, 160),
    wide=millimetres(25, 80),
    wall=millimetres(1.5, 4),
    of=st.sampled_from(ALUMINIUM),
    long=st.floats(0.3, 6),
)
def test_an_aluminium_box_by_its_walls_and_its_length(
    deep: float, wide: float, wall: float, of: str, long: float
) -> None:
    """EN 1999-1-1 6.1.5 and 6.3.1 over 1.10, reckoned from the name; about its weaker axis."""
    name = f"box {deep:g} x {wide:g} x {wall:g} {of}"
    known, metal = found(name), drawn(name)
    yields = {"6060-T66": 150, "6063-T5": 110, "6063-T6": 160, "6005A-T6": 215}.get(of, 0) or {
        "6061-T6": 240,
        "6082-T6": 250,
    }[of]
    root = math.sqrt(250 / yields)
    walls = [(size - 2 * wall) / wall / root for size in (wide, deep)]
    bent = min(wall_left(walls[0], False), wall_left(0.4 * walls[1], False))
    modulus = inertia_about_level_axis(metal) / (deep / 2000)
    assert bends(known, "metric", long).limit_n_m == pytest.approx(
        bent * modulus * yields * 1e6 / 1.1, rel=3e-3
    )
    assert bends(known, "us", long).limit_n_m == pytest.approx(
        bent * modulus * yields * 1e6 / 1.65, rel=3e-3
    )
    turned = affinity.rotate(metal, 90, origin=(0, 0))
    aside = inertia_about_level_axis(affinity.translate(turned, 0, -turned.centroid.y))
    least = min(aside, inertia_about_level_axis(metal))
    critical = math.pi**2 * 69.6e9 * least / long**2
    squash = metal.area * yields * 1e6
    left = bowed(math.sqrt(squash / critical), 0.20, 0.10)
    pressed = min(wall_left(one, False) for one in walls)
    assert float(column_limit_n(known, long, "metric")) == pytest.approx(
        left * pressed * squash / 1.1, rel=3e-3
    )


@given(name=names(("C", "Z")), free=st.floats(0.05, 5))
def test_an_open_aluminium_profile_by_each_way_that_it_fails(name: str, free: float) -> None:
    """Walls, flanges and length by curves written anew over the elastic stresses, in both schools."""
    known = found(name)
    assume(known.aluminium)
    deep, wide, lip, thick = plates_m(known)
    fy, modulus = known.yield_pa, known.modulus_m3
    root = math.sqrt(250e6 / fy)
    edges = min(wall_left(wide / thick / root, False), wall_left(lip / thick / root, True))
    walls = min(edges, wall_left(0.4 * deep / thick / root, False))
    slender = math.sqrt(fy / flange_turns_pa(known))
    turned = 1.0 if slender <= 0.25 else 1.155 - 0.62 * slender if slender < 1.04 else 0.53 / slender
    stress = float(turns_over_pa(known, free))
    metric = min(1.0, bowed(math.sqrt(fy / stress), 0.2, 0.4))
    # Aluminum Design Manual, F.4, in ksi.
    start = fy / KSI_PA * (1 + math.sqrt(fy / KSI_PA / 2250))
    falls = start / 10 * math.sqrt(start / (69.6e9 / KSI_PA))
    ratio, long = math.pi * math.sqrt(69.6e9 / stress), 0.41 * start / falls
    moment = fy * modulus
    if ratio <= long:
        told = moment * (1 - ratio / long) + math.pi**2 * 69.6e9 * ratio * modulus / long**3
    else:
        told = math.pi**2 * 69.6e9 * modulus / ratio**2
    us = min(1.0, told / moment)
    for pack, left, factor in (("us", us, 1.65), ("metric", metric, 1.1)):
        least = left * min(walls, edges * turned)
        assert bends(known, pack, free).limit_n_m == pytest.approx(moment * least / factor, rel=2e-3)


@given(name=names(("C", "Z")))
def test_a_stub_of_open_aluminium_is_pressed_to_what_its_walls_leave(name: str) -> None:
    """Walls by EN 1999-1-1 6.1.5, flanges by EN 1999-1-4 5.5.3; us besides 0.85 of B_c."""
    known = found(name)
    assume(known.aluminium)
    deep, wide, lip, thick = plates_m(known)
    fy, root = known.yield_pa, math.sqrt(250e6 / known.yield_pa)
    edges = min(wall_left(wide / thick / root, False), wall_left(lip / thick / root, True))
    slender = math.sqrt(fy / pressed_flange_turns_pa(known))
    turned = 1.0 if slender <= 0.25 else 1.155 - 0.62 * slender if slender < 1.04 else 0.53 / slender
    least = min(edges * turned, wall_left(deep / thick / root, False))
    squash = known.area_m2 * fy * least
    assert float(column_limit_n(known, 0.002, "metric")) == pytest.approx(squash / 1.1, rel=5e-3)
    start = min(0.85 * (1 + math.sqrt(fy / KSI_PA / 2250)), 1.0)
    assert float(column_limit_n(known, 0.002, "us")) == pytest.approx(squash * start / 1.65, rel=5e-3)


@given(name=names(("box",)), pack=st.sampled_from(["us", "metric"]))
def test_a_slender_steel_box_is_not_taken_for_a_stout_one(name: str, pack: Any) -> None:
    """EN 1993-1-5, 4.4 and Table 4.1, walls between corners, in stress ratios written anew."""
    known = found(name)
    assume(not known.aluminium)
    deep, wide, wall = (float(one) for one in name.replace(" x ", " ").split()[1:4])
    root = math.sqrt(235e6 / known.yield_pa) * math.sqrt(200 / 210)

    def left(size: float, k: float, ratio: float) -> float:
        slender = (size - 2 * wall) / wall / (28.4 * root * math.sqrt(k))
        if slender <= 0.5 + math.sqrt(0.085 - 0.055 * ratio):
            return 1.0
        return (slender - 0.055 * (3 + ratio)) / slender**2

    bent = min(left(wide, 4, 1), left(deep, 23.9, -1))
    factor = 1.67 if pack == "us" else 1.0
    moment = known.yield_pa * known.modulus_m3
    assert bends(known, pack, 3.0).limit_n_m == pytest.approx(moment * bent / factor, rel=4e-3)
    # A stub is pressed to its squash load, less what its walls leave.
    pressed = min(left(wide, 4, 1), left(deep, 4, 1))
    squash = known.area_m2 * known.yield_pa * pressed / factor
    assert float(column_limit_n(known, 0.01, pack)) == pytest.approx(squash, rel=6e-3)


@given(name=names(), free=st.floats(0.1, 4), pack=st.sampled_from(["us", "metric"]))
def test_nothing_bears_more_than_its_yield_nor_more_for_being_longer(
    name: str, free: float, pack: Any
) -> None:
    """Bounds that hold of every profile: first yield, the squash load, length never helps."""
    known = found(name)
    told = bends(known, pack, free).limit_n_m
    assert 0 < told <= known.yield_pa * known.modulus_m3
    assert bends(known, pack, free * 1.5).limit_n_m <= told * (1 + 1e-9)
    near, far = column_limit_n(known, np.array([free, 1.5 * free]), pack)
    assert 0 < far <= near * (1 + 1e-9)
    assert near <= known.area_m2 * known.yield_pa
    if known.shape in ("C", "Z", "box"):
        webs = 2 if known.shape == "box" else 1
        shear = known.yield_pa / math.sqrt(3) * webs * known.depth_m * known.web_m
        assert 0 < web_shear_limit_n(known, pack) <= shear * 1.05
    # Euler's load about its weaker axis, its own factor aside.
    elastic = 69.6e9 if known.aluminium else 200e9
    aside = min(known.inertia_m4, known.weak_inertia_m4)
    assert near <= math.pi**2 * elastic * aside / free**2


def test_aluminium_bears_around_a_bolt_by_its_own_rule() -> None:
    """Aluminum Design Manual 2015, J.3.6: 2 d t F_tu or e t F_tu, the lesser, over 1.95; 1/2 in bolt,
    1/8 in of 6061-T6, 38 ksi: 2.44 kip far from the edge, 1.83 kip at 3/4 in."""
    kip_n, one = 4448.22, bolt("us", "1/2", "A325")
    of = 38 * KSI_PA
    far = bearing_limit_n(one, "us", INCH_M / 8, of, 3 * INCH_M, aluminium=True)
    near = bearing_limit_n(one, "us", INCH_M / 8, of, 0.75 * INCH_M, aluminium=True)
    assert far / kip_n == pytest.approx(2 * 0.5 * 0.125 * 38 / 1.95, rel=1e-3)
    assert near / kip_n == pytest.approx(0.75 * 0.125 * 38 / 1.95, rel=1e-3)


def test_outlines_that_are_drawn_hold_together() -> None:
    """The drawing itself: one piece, as wide and as deep as it says."""
    for name in ("C 100 x 50 x 15 x 2 S235", "Z 100 x 50 x 15 x 2 S235", "box 80 x 40 x 2 6063-T6"):
        metal = unary_union(drawn(name))
        assert metal.geom_type == "Polygon"
        assert metal.bounds[3] - metal.bounds[1] == pytest.approx(section(name).depth_m)
