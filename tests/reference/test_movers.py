"""A mover by hand: what it sweeps by turning corners, its shade by rays, its actuator by what it does.

A gust on half of the table alone, its force a quarter of the chord off; the actuator's own short arm at
its worst angle; about 43 sq ft at 25 lb/sq ft (90 mph) on an arm of 12 to 13 in are 632 lb, and 1.78 as
much at 120 mph: common practice, no published source. Work done by the actuator is work done on the
table: mechanics. Glass that looks into the sun: `pvlib` (Anderson et al., JOSS 8, 2023).
"""

import itertools
import math

import numpy as np
import pvlib
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from openfurrow.core.codes import constant
from openfurrow.core.design import Design
from openfurrow.core.frame.assembly import steps_of
from openfurrow.core.frame.mover.arm import Mover, Triangle, mover_of
from openfurrow.core.plan import Plan, plan, untried
from openfurrow.core.rows.mover_shade import Standing, axes_of, shaded_shares
from openfurrow.core.rows.sweep import least_between
from openfurrow.core.site.notes import NoteGivens
from openfurrow.demo.designs import varnbeck
from tests.core.breaks_movers import HIGH, RATED, mover
from tests.core.test_checks import broken, find
from tests.designs import changed, plain_larkspur
from tests.reference.test_single_pole import acting, foot_of, gusts, summed

POUND_N, POUND_SQ_FT_PA, FOOT, INCH = 4.4482216, 47.880259, 0.3048, 0.0254


def job(**said: object) -> Design:
    """Two modules on a pole that follow the sun on Larkspur's slope, and what a test says."""
    rows = dict(said.pop("rows", {}))  # type: ignore[call-overload]
    site = dict(said.pop("site", {}))  # type: ignore[call-overload]
    parts = mover(rows, **said)
    return broken(plain_larkspur(), parts | ({"site": site} if site else {}))


def jobs() -> st.SearchStrategy[Design]:
    def made(pack: str, low: float, more: float, modules: tuple[int, int], slope: tuple[float, float]):
        site = {"rule_pack": pack, "slope": slope[0], "falls_toward_deg": slope[1]}
        if pack == "metric":
            site["wind_speed_m_s"] = 27.0
        high = min(75.0, low + more)
        rows = {"modules_high": modules[0], "modules_along": modules[1], "tilt_deg": round(high, 1)}
        return job(
            rows=rows | {"rows": 2, "lower_edge_m": 1.0},
            site=site,
            flattest_deg=round(low, 1),
            steepest_deg=round(high, 1),
            stow_deg=round(low, 1),
            **RATED,
        )

    return st.builds(
        made,
        st.sampled_from(["us", "metric"]),
        st.floats(0, 30),
        st.floats(5, 60),
        st.tuples(st.integers(1, 2), st.integers(1, 3)),
        st.tuples(st.floats(0, 0.25), st.sampled_from([0.0, 60.0, 135.0, 180.0, 290.0])),
    )


def turned(tilt_deg: float, bearing_deg: float, at: np.ndarray) -> np.ndarray:
    """Places on a table (n, 3) along, up the slope and square to it, as it looks: east, north, up.

    Two turns of space, one after the other: about the level axis, then about the pole.
    """
    t, b = math.radians(tilt_deg), math.radians(bearing_deg)
    along, up, square = at.T
    back = up * math.cos(t) - square * math.sin(t)
    level = up * math.sin(t) + square * math.cos(t)
    # Looking north, up the slope leads south and along leads east or west: corners are even about it.
    east, north = along, -back
    return np.column_stack(
        (
            east * math.cos(b) + north * math.sin(b),
            -east * math.sin(b) + north * math.cos(b),
            level,
        )
    )


def heads(found: Plan) -> np.ndarray:
    """Where the middles of the cross pipes are: over each support by its reveal."""
    supports = found.structure.supports
    return np.column_stack(
        (supports.places.east_m, supports.places.north_m, supports.ground_m + supports.reveals_m)
    )


def edges(found: Plan, index: int, under: float) -> np.ndarray:
    half, long = found.rows.section.chord_m / 2, float(found.rows.tables.lengths_m[index]) / 2
    stack = found.rows.section.stack_m * under
    every = [(a * long, u * half, stack) for a in np.linspace(-1, 1, 9) for u in np.linspace(-1, 1, 9)]
    return np.array(every)


@settings(max_examples=25, deadline=None)
@given(jobs(), st.floats(0, 1), st.floats(-180, 180))
def test_glass_and_rails_never_come_nearer_than_is_told(
    design: Design, share: float, bearing: float
) -> None:
    found = untried(design)
    givens = design.arrays[0].structure
    tilt = givens.flattest_deg + share * (givens.steepest_deg - givens.flattest_deg)
    told = {
        one.key: float(one.working.value)
        for one in found.rows.answers
        if one.key != "positions"
        if isinstance(one.working.value, float)
    }
    site, reach, low = found.site, 0.0, math.inf
    for index, head in enumerate(heads(found)):
        for under in (0.0, 1.0):
            at = turned(tilt, bearing, edges(found, index, under))
            reach = max(reach, float(np.hypot(at[:, 0], at[:, 1]).max()) if under else 0.0)
            ground = site.ground.level_m(head[0] + at[:, 0], head[1] + at[:, 1])
            low = min(low, float((head[2] + at[:, 2] - ground).min()))
    assert reach <= told["swept"] + 1e-6
    # Between two bearings that are looked at a corner may come a hair nearer.
    assert low >= told["swept_clear"] - 0.02


@settings(max_examples=25, deadline=None)
@given(jobs())
def test_the_circle_and_the_least_clearance_are_reached(design: Design) -> None:
    """Neither is a number on the safe side of nowhere: some turn comes as far, and as near."""
    found = untried(changed(design, "site", notes=(NoteGivens.model_validate(HIGH),)))
    givens = design.arrays[0].structure
    told = {one.key: one.working.value for one in found.rows.answers}
    tilts = np.linspace(givens.flattest_deg, givens.steepest_deg, 31).tolist()
    reach, low, top = 0.0, math.inf, -math.inf
    for index, head in enumerate(heads(found)):
        for tilt in tilts:
            glass = turned(tilt, 0.0, edges(found, index, 1.0))
            reach = max(reach, float(np.hypot(glass[:, 0], glass[:, 1]).max()))
            for bearing in range(0, 360, 5):
                for under in (0.0, 1.0):
                    at = turned(tilt, bearing, edges(found, index, under))
                    ground = found.site.ground.level_m(head[0] + at[:, 0], head[1] + at[:, 1])
                    low = min(low, float((head[2] + at[:, 2] - ground).min()))
                    top = max(top, float((head[2] + at[:, 2] - ground).max())) if under else top
    assert top == pytest.approx(float(find(found.checks, "rows", "swept_height").measured), abs=0.01)
    assert reach == pytest.approx(float(told["swept"]), rel=2e-3)
    assert low == pytest.approx(float(told["swept_clear"]), abs=0.02)


@settings(max_examples=20, deadline=None)
@given(jobs(), st.floats(2.0, 8.0), st.lists(st.floats(-180, 180), min_size=8, max_size=8))
def test_two_that_stop_anyhow_never_meet_where_that_is_sound(
    design: Design, pitch: float, bearings: list[float]
) -> None:
    found = untried(changed(design, "rows", pitch_m=pitch))
    check = find(found.checks, "rows", "swept_apart")
    travel = found.rows.travel
    assert travel is not None
    at = heads(found)[:, :2]
    apart = float(np.hypot(*(at[0] - at[1])))
    glass = [edges(found, index, 1.0) for index in range(2)]
    nearest = math.inf
    for first, second in zip(bearings[::2], bearings[1::2], strict=True):
        for tilt in (travel.flattest_deg, travel.steepest_deg):
            one = turned(tilt, first, glass[0])[:, :2] + at[0]
            other = turned(travel.flattest_deg, second, glass[1])[:, :2] + at[1]
            nearest = min(nearest, float(np.linalg.norm(one[:, None] - other[None], axis=2).min()))
    if check.level == "sound":
        assert nearest >= float(check.measured) - 1e-6
    assert float(check.measured) == pytest.approx(apart - 2 * found_radius(found), abs=1e-6)


@given(
    st.lists(
        st.tuples(st.floats(-30, 30), st.floats(-30, 30), st.floats(0.5, 9)), min_size=2, max_size=9
    )
)
def test_of_circles_of_any_size_the_two_that_are_nearest_are_found(
    circles: list[tuple[float, float, float]],
) -> None:
    """A small one may stand between two that nearly meet: every pair is looked at."""
    pairs = itertools.combinations(circles, 2)
    least = min(math.hypot(a[0] - b[0], a[1] - b[1]) - a[2] - b[2] for a, b in pairs)
    every = np.array(circles)
    assert least_between(every[:, :2], every[:, 2]) == pytest.approx(least, abs=1e-9)


def found_radius(found: Plan) -> float:
    """Half the length, and the furthest edge over all tilts, put together by turning them."""
    givens = found.structure.posts.givens
    tilts = np.linspace(givens.flattest_deg, givens.steepest_deg, 61).tolist()
    return max(
        float(np.hypot(*turned(tilt, 0.0, edges(found, 0, 1.0))[:, :2].T).max()) for tilt in tilts
    )


@settings(max_examples=60, deadline=None)
@given(
    st.lists(
        st.tuples(st.floats(-9, 9), st.floats(-9, 9), st.floats(-0.5, 0.5)), min_size=2, max_size=6
    ),
    st.floats(1, 5),
    st.floats(1, 4),
    st.floats(0, 75),
    st.floats(0, 360),
    st.floats(4, 80),
    st.floats(0, 360),
)
def test_shade_from_mover_to_mover_is_that_of_rays(
    places: list[tuple[float, float, float]],
    long: float,
    chord: float,
    tilt: float,
    bearing: float,
    altitude: float,
    azimuth: float,
) -> None:
    """Rays from a fine grid on the glass to the sun, each against every other table's plane."""
    a, z = math.radians(altitude), math.radians(azimuth)
    toward = np.array([math.cos(a) * math.sin(z), math.cos(a) * math.cos(z), math.sin(a)])
    square = turned(tilt, bearing, np.array([[0.0, 0.0, 1.0]]))[0]
    along = turned(tilt, bearing, np.array([[1.0, 0.0, 0.0]]))[0]
    up = turned(tilt, bearing, np.array([[0.0, 1.0, 0.0]]))[0]
    assume(float(square @ toward) > 0.05)
    middles = np.array(places)
    fine = (np.arange(60) + 0.5) / 60 - 0.5
    grid = (middles[0] + fine[:, None, None] * long * along + fine[None, :, None] * chord * up).reshape(
        -1, 3
    )
    counted = np.zeros(len(grid))
    for other in middles[1:]:
        far = (other - grid) @ square / (square @ toward)
        at = grid + far[:, None] * toward - other
        inside = (np.abs(at @ along) < long / 2) & (np.abs(at @ up) < chord / 2) & (far > 1e-9)
        counted += inside
    standing = Standing(middles, np.full(len(middles), long), chord)
    told = float(
        shaded_shares(standing, np.array([0]), np.array([tilt]), np.array([bearing]), toward[None])[
            0, 0
        ]
    )
    assert told >= float((counted > 0).mean()) - 0.05
    # What several shade at once is counted for each of them, up to the whole.
    assert told == pytest.approx(min(float(counted.mean()), 1.0), abs=0.05)


def test_it_looks_at_the_sun_as_far_as_its_limits_let_it() -> None:
    travel = untried(job(turn_each_way_deg=60.0, **RATED)).rows.travel
    assert travel is not None
    tilt, bearing = travel.looks(np.array([50.0, 2.0, 89.0]), np.array([170.0, 300.0, 20.0]), 180.0)
    # 40° toward the sun; as steep as it goes, 60° round; as flat as it goes, 60° the other way.
    assert tilt == pytest.approx([40.0, 60.0, 5.0])
    assert bearing == pytest.approx([170.0, 240.0, 120.0])
    # Over north the shorter way round counts.
    _, bearing = travel.looks(np.array([10.0]), np.array([350.0]), 10.0)
    assert bearing[0] % 360 == pytest.approx(350.0)


def test_just_below_the_figures_first_tilt_a_level_roofs_figures_hold() -> None:
    """ASCE/SEI 7-16, Figure 27.3-4, note: at less than 7.5° those of 0°, on a table that is tilted."""
    design = job(rows={"tilt_deg": 9.0}, flattest_deg=2.0, steepest_deg=9.0, stow_deg=2.0, **RATED)
    found = untried(design)
    fixed = at_tilt(design, found, 7.4)
    for name in ("push_n", "tipping_n_m", "twist_n_m"):
        most, there = getattr(found.structure.reactions, name), getattr(fixed.structure.reactions, name)
        assert there.max() <= most.max() * 1.003


def test_axes_stand_square_to_each_other_and_look_where_they_should() -> None:
    square, along, up = axes_of(np.array([30.0]), np.array([180.0]))
    assert square[0] == pytest.approx([0.0, -0.5, math.cos(math.radians(30))])
    assert (np.cross(along[0], up[0]) @ square[0]) ** 2 == pytest.approx(1.0)


# The actuator -------------------------------------------------------------------------------------


def triangles() -> st.SearchStrategy[Triangle]:
    return st.builds(
        Triangle,
        arm_m=st.floats(0.2, 0.9),
        under_m=st.floats(0, 0.2),
        down_m=st.floats(0.5, 1.8),
        out_m=st.floats(0.05, 0.3),
        side=st.sampled_from([-1.0, 1.0]),
    )


@given(triangles(), st.floats(0, 75))
def test_the_actuator_is_as_long_as_the_law_of_cosines_says(triangle: Triangle, tilt: float) -> None:
    """From the head: to both bolts, and the angle between them."""
    to_foot = math.hypot(triangle.out_m, triangle.down_m)
    to_bolt = math.hypot(triangle.arm_m, triangle.under_m)
    # Angles from straight down, toward the actuator's own side.
    foot_at = math.atan2(triangle.out_m, triangle.down_m)
    under = math.degrees(math.atan2(triangle.under_m, triangle.arm_m))
    # On the lower half the arm sinks with the tilt, on the upper one it rises.
    sinks = tilt if triangle.side < 0 else -tilt
    bolt_at = math.radians(90.0 - sinks - under)
    squared = to_foot**2 + to_bolt**2 - 2 * to_foot * to_bolt * math.cos(bolt_at - foot_at)
    assert float(triangle.length_m(tilt)) == pytest.approx(math.sqrt(squared), abs=1e-9)


@given(triangles(), st.floats(1, 74))
def test_what_the_actuator_does_is_done_to_the_table(triangle: Triangle, tilt: float) -> None:
    """A little more tilt by d turns T d of work into F dL of the actuator's."""
    little = 1e-4
    longer = float(triangle.length_m(tilt + little) - triangle.length_m(tilt - little))
    per_radian = longer / math.radians(2 * little)
    assert float(triangle.turns_on_m(tilt)) == pytest.approx(per_radian, abs=1e-5)


def test_crews_know_what_a_gust_on_half_of_it_does_to_an_actuator() -> None:
    """43 sq ft at 25 lb/sq ft on an arm of 12 to 13 in: 632 lb, about 1,100 at 120 mph.

    The lever of half of a table is a quarter of its chord: that force asks for one of 4.7 to 5.1 ft.
    """
    area, pressure = 43 * FOOT**2, 25 * POUND_SQ_FT_PA
    asked = [4 * 632 * POUND_N * arm * INCH / (pressure * area / 2) / FOOT for arm in (12, 13)]
    assert asked == pytest.approx([4.70, 5.10], abs=0.02)
    # The same table here, its actuator square to its arm.
    chord = 4.9 * FOOT
    turning = pressure * (area / 2) * chord / 4
    triangle = Triangle(arm_m=12.5 * INCH, under_m=0.0, down_m=50.0, out_m=12.5 * INCH, side=-1.0)
    force = turning / abs(float(triangle.turns_on_m(0.0))) / POUND_N
    assert force == pytest.approx(632, rel=0.01)
    assert force * (120 / 90) ** 2 == pytest.approx(1124, rel=0.01)
    assert force * 1.78 == pytest.approx(1100, rel=0.03)


def at_tilt(design: Design, found: Plan, tilt: float) -> Plan:
    """The same table standing fixed at a tilt, its head where the mover's is."""
    section = found.rows.steepest.section.turned(tilt)
    fixed = changed(design, "structure", moved="stands fixed")
    return untried(changed(fixed, "rows", tilt_deg=tilt, lower_edge_m=section.lower_edge_m))


@settings(max_examples=12, deadline=None)
@given(jobs(), st.floats(0, 1))
def test_at_any_tilt_of_its_travel_no_more_acts_than_is_held(design: Design, share: float) -> None:
    """Stood fixed at a tilt between the limits it asks for no more of ground, actuator and drive.

    Every gust as a free body in space about the head; snow at its most, since what was taken up in the
    snow is still there.
    """
    found = untried(design)
    givens = design.arrays[0].structure
    assume(givens.steepest_deg > givens.flattest_deg)
    low, high = givens.flattest_deg, givens.steepest_deg
    tilt = round(low + share * (high - low), 3)
    fixed = at_tilt(design, found, tilt)
    held = found.structure.reactions
    for name in ("down_n", "push_n", "tipping_n_m", "twist_n_m"):
        most, there = getattr(held, name), getattr(fixed.structure.reactions, name)
        # Half a percent: between corners of the figure a pressure times a sine is no straight line.
        assert there.max() <= most.max() * 1.005 + 1.0
        assert there.min() >= most.min() - 0.005 * abs(most.min()) - 1.0
    moving = found.frame.mover
    assert moving is not None
    turning, tips = 0.0, 0.0
    # The foot of no height is the head itself.
    head = foot_of(fixed, 0.0)
    for combination in range(len(fixed.structure.loads_at[0].strength.names)):
        for _, pressures in gusts(fixed):
            _, moment = summed(acting(fixed, combination, pressures), head)
            turning = max(turning, abs(moment[1]))
            tips = max(tips, math.hypot(moment[0], moment[1]))
    arm = abs(float(moving.triangle.turns_on_m(tilt)))
    assert turning / arm <= force_near(moving, tilt) * 1.02
    assert turning / arm <= moving.forces_n.max() * 1.005
    assert tips <= moving.drive_tips_n_m * 1.005


def force_near(found: Mover, tilt: float) -> float:
    near = np.abs(found.tilts_deg - tilt) <= 3.0
    return float(found.forces_n[near].max())


@settings(max_examples=20, deadline=None)
@given(jobs(), triangles(), st.floats(0.3, 1.2), st.floats(0.1, 0.8), st.floats(0, 6))
def test_an_actuator_that_is_sound_goes_all_the_way_and_never_turns_over(
    design: Design, triangle: Triangle, short: float, stroke: float, past: float
) -> None:
    design = changed(
        design,
        "structure",
        actuator_on="lower half" if triangle.side < 0 else "upper half",
        arm_m=triangle.arm_m,
        arm_under_m=triangle.under_m,
        foot_down_m=triangle.down_m,
        foot_out_m=triangle.out_m,
        drawn_in_m=short,
        stroke_m=stroke,
        past_limit_deg=past,
    )
    found, givens = untried(design), design.arrays[0].structure
    tilts = np.linspace(givens.flattest_deg - past, givens.steepest_deg + past, 700)
    lengths = np.array([law_of_cosines(triangle, tilt) for tilt in tilts.tolist()])
    said = {
        key: find(found.checks, "frame", key).level for key in ("mover_in", "mover_out", "mover_over")
    }
    if said["mover_in"] == "sound":
        assert lengths.min() >= short - 1e-4
    if said["mover_out"] == "sound":
        assert lengths.max() <= short + stroke + 1e-4
    one_way = bool((np.diff(lengths) > 0).all() or (np.diff(lengths) < 0).all())
    # A turn back within one step of the ends is seen by the finer walk alone.
    inner = np.diff(lengths[12:-12])
    if said["mover_over"] == "sound":
        assert (inner > 0).all() or (inner < 0).all()
    elif said["mover_over"] == "stop":
        assert not one_way
    assert said["mover_in"] == "sound" or lengths.min() < short + 1e-4
    assert said["mover_out"] == "sound" or lengths.max() > short + stroke - 1e-4


def test_what_runs_on_past_its_limit_wants_stroke_for_that_too() -> None:
    givens = job(**RATED).arrays[0].structure
    triangle = Triangle(givens.arm_m, 0.0, givens.foot_down_m, givens.foot_out_m, -1.0)
    flat, steep = (law_of_cosines(triangle, tilt) for tilt in (5.0, 60.0))
    assert flat > steep
    tight = {"drawn_in_m": steep - 0.002, "stroke_m": flat - steep + 0.004}
    for past, level in ((0.0, "sound"), (3.0, "stop")):
        checks = untried(job(past_limit_deg=past, **tight, **RATED)).checks
        assert find(checks, "frame", "mover_in").level == level
        assert find(checks, "frame", "mover_out").level == level


def turned_by_hand(found: Plan) -> tuple[float, float]:
    """The most about the cross pipe, and along it by a gust on half of the length; snow left out."""
    head, turning, along = foot_of(found, 0.0), 0.0, 0.0
    for combination in range(len(found.structure.loads_at[0].strength.names)):
        for name, pressures in gusts(found):
            _, moment = summed(acting(found, combination, pressures), head)
            if "length" in name:
                along = max(along, abs(moment[0]))
            else:
                turning = max(turning, abs(moment[1]))
    return turning, along


def test_between_two_tilts_that_are_known_the_greater_is_held_and_both_tip_the_drive() -> None:
    """By hand at two tilts of the figure, without snow: what lies between holds the greater."""
    site = {"ground_snow_pa": 0.0, "slope": 0.0}
    design = job(
        site=site, flattest_deg=15.0, steepest_deg=22.5, stow_deg=15.0, rows={"tilt_deg": 22.5}, **RATED
    )
    found = untried(design)
    moving = found.frame.mover
    assert moving is not None
    known = [table.tilt_deg for table, _ in found.structure.travel_at]
    by_hand = {tilt: turned_by_hand(at_tilt(design, found, tilt)) for tilt in known}
    for low, high in itertools.pairwise(known):
        most = max(by_hand[low][0], by_hand[high][0])
        between = (moving.tilts_deg > low + 1e-6) & (moving.tilts_deg < high - 1e-6)
        assert between.any()
        assert moving.turning_n_m[between] == pytest.approx(most, rel=1e-6)
    tips = max(math.hypot(*one) for one in by_hand.values())
    assert moving.drive_tips_n_m == pytest.approx(tips, rel=1e-6)


def law_of_cosines(triangle: Triangle, tilt: float) -> float:
    """From corner to corner, by complex numbers: the arm turned by the tilt."""
    arm = complex(triangle.side * triangle.arm_m, -triangle.under_m)
    turn = complex(math.cos(math.radians(tilt)), math.sin(math.radians(tilt)))
    return abs(arm * turn - complex(triangle.side * triangle.out_m, -triangle.down_m))


def test_what_the_snow_holds_at_one_tilt_is_carried_at_every_tilt() -> None:
    """Steep it stands in the snow and keeps what lies on it; then it goes flat, and carries that."""
    site = {"rule_pack": "metric", "wind_speed_m_s": 27.0, "slope": 0.0}
    found = untried(job(site=site, rows={"lower_edge_m": 0.9}, **RATED))
    edges = [one.section.lower_edge_m for one in found.rows.positions]
    deep = found.structure.loads_at[0].snow.ground_depth_m
    assert min(edges) < deep < max(edges)
    # EN 1991-1-3, 5.3.2(2): 0.8 of the ground's where it is held, whatever the tilt.
    ground = plain_larkspur().site.ground_snow_pa
    assert ground is not None
    for loads in (*found.structure.loads_at, *(one for _, one in found.structure.travel_at)):
        assert loads.snow_pa == pytest.approx(0.8 * ground)
    # With its edge over the snow at every tilt it slides, less and less from 30° on.
    high = untried(job(site=site, rows={"lower_edge_m": 2.0}, **RATED)).structure.loads_at
    assert high[-1].snow_pa < high[0].snow_pa == pytest.approx(0.8 * ground)


def test_stowed_it_holds_the_storm_there_alone() -> None:
    """The design wind at its stow, so much less elsewhere as the square of the wind says."""
    always = untried(job(**RATED))
    counted = untried(job(full_wind="where it is stowed", away_wind_m_s=23.5, stow_deg=5.0, **RATED))
    # The site's is 47 m/s, and 23.5 its half.
    for full, less, position in zip(
        always.structure.loads_at, counted.structure.loads_at, always.rows.positions, strict=True
    ):
        share = 1.0 if position.tilt_deg == 5.0 else 0.25
        assert less.wind.front_pa == pytest.approx(share * full.wind.front_pa)
        assert less.snow_pa == full.snow_pa
    assert find(counted.checks, "structure", "stow").level == "look"
    assert find(always.checks, "structure", "stow").level == "sound"
    moved, fixed = counted.frame.mover, always.frame.mover
    assert moved is not None
    assert fixed is not None
    assert moved.forces_n.max() <= fixed.forces_n.max()
    # Nobody said by how much: then all of it counts.
    unsaid = untried(job(full_wind="where it is stowed", **RATED))
    assert unsaid.structure.reactions.down_n == pytest.approx(always.structure.reactions.down_n)


def test_what_stows_it_is_not_there_while_it_is_built() -> None:
    """Half glazed its members are used as if nothing ever stowed it; no snow, so that wind decides."""
    stows: dict[str, object] = {"full_wind": "where it is stowed", "away_wind_m_s": 23.5}
    half = [
        next(one.working for one in found.structure.answers if one.key == "half_glazed")
        for found in (
            untried(job(site={"ground_snow_pa": 0.0}, stow_deg=5.0, **more, **RATED))
            for more in ({}, stows)
        )
    ]
    assert float(half[1].value) <= float(half[0].value) * 1.001
    members = [{one.symbol: one.value for one in each.inputs}["b"] for each in half]
    assert members[0] == pytest.approx(members[1])


# The year -----------------------------------------------------------------------------------------


def test_a_years_light_is_that_of_glass_that_looks_into_the_sun() -> None:
    """pvlib's Perez sky on surfaces turned by hand, hour by hour, for the demo's own pole."""
    found = plan(varnbeck())
    sky, rows = found.energy.sky, found.arrays[1].rows
    year = found.energy.arrays[1]
    zenith = 90.0 - np.asarray(sky.altitude_deg)
    tilt = np.clip(zenith, 10.0, 60.0)
    off = (np.asarray(sky.azimuth_deg) - rows.facing_deg + 180.0) % 360.0 - 180.0
    facing = rows.facing_deg + np.clip(off, -110.0, 110.0)
    extra = pvlib.irradiance.get_extra_radiation(np.asarray(sky.day) + 1)
    light = pvlib.irradiance.get_total_irradiance(
        tilt,
        facing,
        zenith,
        np.asarray(sky.azimuth_deg),
        np.asarray(sky.beam_w_m2),
        np.asarray(sky.level_w_m2),
        np.asarray(sky.diffuse_w_m2),
        dni_extra=extra,
        airmass=pvlib.atmosphere.get_relative_airmass(zenith),
        albedo=year.upkeep.albedo,
        model="perez",
    )
    whole = float(np.nansum(light["poa_global"])) * sky.step_h / 1000
    assert year.light.open_h == pytest.approx(whole, rel=0.01)


def test_a_mover_earns_about_what_people_say() -> None:
    """About 40 % more than modules that lie flat: common practice; a third more at least here."""
    design = varnbeck()
    flat = design.model_copy(
        update={
            "arrays": (
                design.arrays[0],
                changed_array(design, moved="stands fixed", tilt=0.0),
            )
        }
    )
    hours = [plan(one).energy.arrays[1].light.open_h for one in (design, flat)]
    assert 1.33 <= hours[0] / hours[1] <= 1.6


def changed_array(design: Design, moved: str, tilt: float) -> object:
    gate = design.arrays[1]
    return gate.model_copy(
        update={
            "structure": gate.structure.model_copy(update={"moved": moved}),
            "rows": gate.rows.model_copy(update={"tilt_deg": tilt}),
        }
    )


def test_two_far_apart_earn_what_one_does_and_two_near_lose() -> None:
    def hours(pitch: float) -> float:
        found = plan(job(rows={"rows": 2, "pitch_m": pitch}, **RATED))
        return float(found.energy.arrays[0].light.power.sum())

    alone = float(plan(job(**RATED)).energy.arrays[0].light.power.sum())
    assert hours(60.0) == pytest.approx(alone, rel=2e-3)
    near, further = hours(3.0), hours(4.0)
    assert near < further < alone
    # Of two one stands free at any hour: no more than half of the beam can go.
    assert near > 0.75 * alone


def test_what_it_takes_and_in_which_order() -> None:
    found = plan(varnbeck()).on("2")
    counts = {one.key: one.count for one in found.structure.members.fixings}
    assert counts == {
        "drive": 1,
        "actuator": 1,
        "arm": 1,
        "foot_clamp": 1,
        # One from the rails to the head, one from the head to the pole.
        "bond_braid": 2,
        "controller": 1,
        "rail_clamp": 8,
    }
    order = [one.key for one in steps_of(found.rows, found.structure, found.frame)]
    # Limits by hand before the controller, all of it before glass; nothing is clamped at a tilt.
    for first, second in (
        ("rails", "actuator"),
        ("actuator", "travel"),
        ("travel", "limits"),
        ("limits", "braids"),
        ("limits", "polarity"),
        ("polarity", "lies_down"),
        ("lies_down", "bare"),
    ):
        assert order.index(first) < order.index(second)
    assert "tilted_pole" not in order
    lines = {line.key for line in found.materials.lines}
    assert {"drive", "actuator", "controller"} <= lines


def test_slack_is_what_a_cord_round_the_pole_takes() -> None:
    found = untried(job(turn_each_way_deg=90.0, cable_loop_m=0.25, **RATED)).frame.mover
    assert found is not None
    # Half a turn, and what it tilts, round a circle of 0.25 m.
    tilts = found.tilts_deg[-1] - found.tilts_deg[0]
    assert found.winds_m == pytest.approx(0.25 * math.pi + 0.25 * math.radians(tilts))


def test_the_mast_is_known_by_its_bore_up_to_six_inches() -> None:
    design = job(pole_section="pipe 5 in", **RATED)
    assert untried(design).structure.posts.post.depth_m == pytest.approx(5.563 * INCH, abs=1e-4)
    assert constant("common", "modules_on_pole").value >= 2


def test_nothing_moves_where_nothing_is_said_to() -> None:
    found = untried(changed(job(), "structure", moved="stands fixed"))
    assert found.rows.travel is None
    assert found.frame.mover is None
    assert mover_of(found.structure, found.structure.posts.givens) is None
