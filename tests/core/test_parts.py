"""Single pieces of the core, each against its own defining equation."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from openfurrow.core.codes import constant, table
from openfurrow.core.codes.section import known_section, section
from openfurrow.core.footings.axial import (
    Shaft,
    adhesion_factor,
    bearing_depth_m,
    friction_depth_m,
    tip_pa,
)
from openfurrow.core.footings.lateral import (
    broms_clay_depth_m,
    broms_sand_depth_m,
    cubic_depth_m,
    unconstrained_depth_m,
)
from openfurrow.core.frame.cutting import cut_line, splice_places_m
from openfurrow.core.plan import Plan
from openfurrow.core.site.ground import GroundPlane
from openfurrow.core.site.soil import soil_in_class
from openfurrow.core.structures.layout import post_line
from openfurrow.core.trench.conduit import pull_boxes
from openfurrow.core.trench.route import turns_deg
from openfurrow.core.wiring.conductors import (
    Way,
    bundling_factor,
    choose,
    conductors,
    protection_a,
)
from openfurrow.core.wiring.strings import divide, homeruns_m
from openfurrow.core.wiring.walks import modules_at, walked

positive = st.floats(0.01, 1e5)


@given(st.floats(0, 1e4), st.floats(0, 1e4))
def test_the_cubic_is_solved(shear: float, moment: float) -> None:
    depth = float(cubic_depth_m(shear, moment))
    assert depth**3 - shear * depth - moment == pytest.approx(0, abs=1e-6 * (1 + depth**3))


@given(st.floats(10, 2e4), st.floats(0, 5e4), st.floats(2e4, 8e4), st.floats(0.05, 0.6))
def test_the_ibc_depth_satisfies_the_formula_as_printed(
    push_n: float, moment_n_m: float, bearing: float, width_m: float
) -> None:
    depth = float(unconstrained_depth_m(push_n, moment_n_m, bearing, width_m))
    stress = bearing * min(depth, 3.6576) / 3
    a = 2.34 * push_n / (stress * width_m)
    printed = 0.5 * a * (1 + math.sqrt(1 + 4.36 * (moment_n_m / push_n) / a))
    assert depth == pytest.approx(printed, rel=1e-6)


@given(st.floats(10, 2e4), st.floats(0, 5e4), st.floats(0.05, 0.6))
def test_broms_in_sand_balances_moments_at_the_tip(
    push_n: float, moment_n_m: float, width_m: float
) -> None:
    depth = float(broms_sand_depth_m(push_n, moment_n_m, 18e3, 32.0, width_m))
    passive = math.tan(math.radians(61)) ** 2
    about_tip = 0.5 * 18e3 * width_m * depth**3 * passive
    assert push_n * depth + moment_n_m == pytest.approx(about_tip, rel=1e-6)


def test_broms_in_clay_grows_with_push_and_shrinks_with_strength() -> None:
    soft = broms_clay_depth_m([1e3, 2e3], [2e3, 4e3], 20e3, 0.1)
    firm = broms_clay_depth_m([1e3, 2e3], [2e3, 4e3], 60e3, 0.1)
    assert soft[1] > soft[0]
    assert np.all(firm < soft)


@given(positive, st.floats(0.1, 2), st.floats(0, 1.5), st.floats(500, 2e4))
def test_friction_depth_gives_back_the_friction(
    wanted: float, perimeter: float, start: float, growing: float
) -> None:
    shaft = Shaft(perimeter, start, growing, 0.0)
    assert shaft.friction_n(friction_depth_m(shaft, wanted)) == pytest.approx(wanted, rel=1e-6)


@given(positive, st.sampled_from(["sandy gravel", "sand", "clay"]))
def test_bearing_depth_carries_the_weight(wanted: float, soil_class: str) -> None:
    soil = soil_in_class(soil_class, None, 0.9)
    growing, steady = (0.0, 35e3) if soil.cohesion_pa else (8e3, 0.0)
    shaft = Shaft(0.5, 0.6, growing, steady)
    depth = bearing_depth_m(shaft, soil, 0.015, wanted)
    carried = shaft.friction_n(depth) + tip_pa(soil, depth) * 0.015
    assert carried >= wanted * (1 - 1e-6)


def test_adhesion_falls_from_one_to_a_half() -> None:
    assert [adhesion_factor(c) for c in (10e3, 25e3, 70e3, 200e3)] == [1.0, 1.0, 0.5, 0.5]
    assert adhesion_factor(47.5e3) == pytest.approx(0.75)


@given(st.floats(2, 60), st.floats(1, 6), st.floats(0, 0.5))
def test_post_lines_cover_the_purlin(length: float, limit: float, ratio: float) -> None:
    line = post_line(length, limit, ratio)
    assert line.count >= 2
    assert line.span_m <= limit + 1e-9 or line.count == 2
    assert line.overhang_m * 2 + line.span_m * (line.count - 1) == pytest.approx(length)


@given(st.floats(2.5, 80), st.floats(2.5, 12), st.floats(0, 0.6))
def test_purlin_pieces_overlap_by_the_lap_and_fit_the_stock(
    length: float, stock: float, lap: float
) -> None:
    supports = np.linspace(0.3, length - 0.3, max(2, math.ceil(length / 3)))
    line = cut_line(length, supports, stock, lap)
    ends = [s + p for s, p in zip(line.starts_m, line.lengths_m, strict=True)]
    assert max(line.lengths_m) <= stock + 1e-9
    assert ends[-1] == pytest.approx(length)
    for end, start in zip(ends[:-1], line.starts_m[1:], strict=True):
        assert end - start == pytest.approx(lap, abs=1e-9)


def test_splices_are_asked_for_a_fifth_of_a_span_from_a_post() -> None:
    assert splice_places_m(np.array([0.0, 5.0, 10.0])) == pytest.approx([1, 4, 6, 9])
    with pytest.raises(ValueError, match="two laps"):
        cut_line(10, np.array([1.0, 9.0]), 1.0, 0.6)


@given(st.integers(1, 3000), st.integers(1, 30), st.integers(1, 30), st.integers(1, 40))
def test_strings_are_the_fewest_that_divide(
    modules: int, longest: int, shortest: int, inputs: int
) -> None:
    lengths = divide(modules, longest, min(shortest, longest), inputs)
    assert lengths.sum() == modules
    assert lengths.max() <= longest and np.ptp(lengths) <= 1
    fewest = math.ceil(modules / longest)
    assert fewest <= lengths.size <= 1.5 * fewest
    assert lengths.size <= inputs or fewest > inputs
    allowed = [
        count
        for count in range(fewest, int(1.5 * fewest) + 1)
        if modules / count >= min(shortest, longest) and (count <= inputs or fewest > inputs)
    ]
    equal = [count for count in allowed if modules % count == 0]
    assert lengths.size == (equal[0] if equal else fewest)


def test_homeruns_reach_from_both_ends_of_a_string(demo_plan: Plan) -> None:
    rows, lengths = demo_plan.rows, np.array([36])
    at, middle = modules_at(rows), rows.module_along_m / 2
    box = (-rows.row_length_m / 2, 0.0)
    # Counted off column by column it ends at the far end of the table; along and back it comes home.
    first, last = homeruns_m(at, np.arange(36), lengths, box)
    assert first[0] == pytest.approx(middle)
    assert last[0] == pytest.approx(rows.table_length_m - middle)
    first, last = homeruns_m(at, walked(at, lengths, "row by row"), lengths, box)
    assert first[0] == last[0] == pytest.approx(middle)


def test_pull_boxes_are_set_before_the_bends_add_up_too_far() -> None:
    assert pull_boxes((90, 90, 90, 90), 360) == 0
    assert pull_boxes((90, 90, 90, 90, 10), 360) == 1
    assert pull_boxes((90,) * 9, 360) == 2


def test_turns_of_a_route_are_measured_either_way() -> None:
    east, north = np.array([0.0, 0.0, 10.0, 10.0]), np.array([0.0, 10.0, 10.0, 0.0])
    assert turns_deg(east, north) == pytest.approx((90, 90))


def test_a_longer_way_or_more_strings_never_ask_for_thinner_wire() -> None:
    def size(way_m: float, loaded: int) -> float:
        return choose(
            "us", 17.5, Way(way_m, 2.0, 0.05, 13.0, 390.0), 0.02, loaded, 33.0, 25.0
        ).conductor.copper_mm2

    assert size(20, 6) <= size(80, 6) <= size(200, 6)
    assert size(20, 6) <= size(20, 40)
    far = choose("us", 17.5, Way(5000, 2.0, 0.05, 13.0, 390.0), 0.02, 6, 33.0, 25.0)
    assert not far.fits and far.conductor == conductors("us")[-1]


def test_fuses_and_bundles_end_with_their_tables() -> None:
    assert protection_a("us", 21.9) == 25
    assert protection_a("us", 1e6) == 400
    assert bundling_factor("us", 3) == 1.0
    assert bundling_factor("us", 400) == 0.4


def test_the_plane_falls_where_it_is_said_to() -> None:
    ground = GroundPlane(0.1, 90.0)
    assert ground.level_m([0, 10], [5, 5]) == pytest.approx([0, -1])
    assert ground.rise_toward(270.0) == pytest.approx(0.1)


def test_tables_name_their_source_and_unknown_rows_their_choices() -> None:
    for pack in ("us", "metric", "common"):
        assert constant(pack, {"common": "fixity_m"}.get(pack, "current_factor")).source.text
    with pytest.raises(KeyError, match="sandy gravel"):
        table("us", "soil_bearing").row("soil_class", "peat")
    with pytest.raises(ValueError, match="is none of"):
        known_section("post")("Z 100 x 50 x 2.0")
    assert section("pipe 4 in").depth_m == pytest.approx(0.1143)
