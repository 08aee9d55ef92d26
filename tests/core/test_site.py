"""Surface, outliers, keep-outs, tickets, notes and holes: what each must say, and must never say."""

import math
import re
from datetime import date

import numpy as np
import pytest
import shapely
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from openfurrow.core.checks import told_remedy
from openfurrow.core.design import Design
from openfurrow.core.edits import DesignError, apply, differences
from openfurrow.core.plan import plan
from openfurrow.core.site.features import FeatureGivens
from openfurrow.core.site.keepouts import (
    array_shift_m,
    band_m,
    grown,
    keep_outs,
    zone_of,
)
from openfurrow.core.site.measure import MeasureError, along_from, by_offset, by_two_tapes
from openfurrow.core.site.notes import NoteGivens, limits_of
from openfurrow.core.site.outliers import outliers
from openfurrow.core.site.soil import HoleGivens, nearest, soil_of_hole
from openfurrow.core.site.surface import SurfaceError, surface_through
from openfurrow.core.site.survey import SurveyGivens, shots_of
from openfurrow.core.site.tickets import TicketGivens, locate, working_days_after
from openfurrow.demo.larkspur import ground_m
from openfurrow.sheets.drawings.section import section_drawing
from openfurrow.sheets.scene import scene_of
from tests.designs import busy_designs, changed

RANDOM = np.random.default_rng(3)


def scattered(count: int = 150) -> np.ndarray:
    at = np.random.default_rng(count).uniform(-30, 30, (count, 2))
    return np.column_stack((at, 5 + 0.04 * at[:, 0] + 0.3 * np.sin(at[:, 1] / 8)))


# --- the surface ------------------------------------------------------------------------------


def test_beyond_the_shots_nothing_is_known_and_the_nearest_level_is_given() -> None:
    surface = surface_through(scattered(), None, 1e6)
    far_e, far_n = np.array([200.0, -80.0]), np.array([0.0, -90.0])
    assert not surface.known(far_e, far_n).any()
    levels = surface.level_m(far_e, far_n)
    assert (levels >= surface.points_m[:, 2].min() - 1e-9).all()
    assert (levels <= surface.points_m[:, 2].max() + 1e-9).all()


def test_a_gap_wider_than_the_shots_reach_is_not_known() -> None:
    left = np.column_stack((RANDOM.uniform(0, 20, (80, 2)), np.zeros(80)))
    right = left + np.array([60.0, 0.0, 1.0])
    surface = surface_through(np.vstack((left, right)))
    assert surface.known(np.array([10.0, 70.0]), np.array([10.0, 10.0])).all()
    assert not surface.known(40.0, 10.0)
    assert surface.extent.geom_type == "MultiPolygon"


@pytest.mark.parametrize(
    ("points", "says"),
    [
        ([(0, 0, 1), (1, 1, 1)], "three points"),
        ([(k, 2 * k, 1) for k in range(9)], "one line"),
        ([(0, 0, k) for k in range(5)], "three points"),
    ],
)
def test_points_that_make_no_surface_say_why(points: list[tuple[float, ...]], says: str) -> None:
    with pytest.raises(SurfaceError, match=says):
        surface_through(np.array(points, dtype=float))


def test_the_surface_passes_through_every_shot_and_never_over_its_neighbours() -> None:
    points = scattered()
    surface = surface_through(points, None, 1e6)
    on = surface.known(points[:, 0], points[:, 1])
    assert on.mean() > 0.95
    assert np.allclose(surface.level_m(points[on, 0], points[on, 1]), points[on, 2])
    inside = RANDOM.uniform(-20, 20, (2, 500))
    levels = surface.level_m(*inside)
    assert levels.min() >= points[:, 2].min() and levels.max() <= points[:, 2].max()


@settings(max_examples=40, deadline=None)
@given(st.integers(0, 149), st.floats(0.6, 5) | st.floats(-5, -0.6))
def test_one_misread_rod_is_found_and_no_neighbour_is_blamed(which: int, by_m: float) -> None:
    points = scattered()
    inside = np.abs(points[:, :2]).max(axis=1) < 24
    which = int(np.flatnonzero(inside)[which % inside.sum()])
    points[which, 2] += by_m
    found, off = outliers(points)
    assert found.tolist() == [which]
    assert off[0] == pytest.approx(by_m, abs=0.35)


def test_clean_shots_have_no_outlier() -> None:
    assert outliers(scattered())[0].size == 0
    assert outliers(scattered()[:5])[0].size == 0


def test_shots_of_ground_that_is_rough_all_over_are_not_blamed() -> None:
    """Ploughed ground: every shot is off its neighbours by as much as the next."""
    place = np.random.default_rng(7)
    east, north = (part.ravel() for part in np.meshgrid(np.arange(12) * 5.0, np.arange(12) * 5.0))
    level = place.uniform(-0.4, 0.4, east.size)
    points = np.column_stack((east + place.uniform(-1, 1, east.size), north, level))
    assert outliers(points)[0].size <= 2


# --- shots ------------------------------------------------------------------------------------


def test_rod_readings_hang_from_the_benchmark_and_the_line_of_sight() -> None:
    survey = SurveyGivens(
        way="rod readings",
        benchmark_m=100.0,
        backsight_m=1.4,
        readings=((1.0, 2.0, 1.9, ""), (3.0, 4.0, 0.9, "top")),
    )
    assert shots_of([survey]).points_m[:, 2] == pytest.approx([99.5, 100.5])


def test_tape_and_level_runs_along_its_bearing_with_offsets_to_the_right() -> None:
    survey = SurveyGivens(
        way="tape and level",
        start_east_m=10.0,
        start_north_m=5.0,
        start_level_m=50.0,
        bearing_deg=90.0,
        readings=((4.0, 0.0, 0.2, ""), (4.0, 3.0, -0.1, "")),
    )
    assert shots_of([survey]).points_m.tolist() == [
        pytest.approx([14.0, 5.0, 50.2]),
        pytest.approx([14.0, 2.0, 49.9]),
    ]


def test_readings_left_out_are_not_used_and_keep_their_numbers() -> None:
    survey = SurveyGivens(readings=tuple((float(k), 0.0, 0.0, "") for k in range(5)), left_out=(2, 4))
    shots = shots_of([survey, survey])
    assert shots.number.tolist() == [1, 3, 5, 1, 3, 5]
    assert shots.sitting.tolist() == [0, 0, 0, 1, 1, 1]


def test_the_demos_surface_is_the_ground_it_was_read_off(demo: Design) -> None:
    """The made-up ground is known; shots are eight metres apart, rod readings to a quarter inch."""
    found = plan(demo).site
    assert len(found.known.shots.points_m) >= 60
    assert len(found.known.off) == 0
    # On the row itself shots are two metres apart.
    east = np.linspace(-11, 11, 60)
    truth = np.array([ground_m(float(e), 0.0) for e in east])
    assert np.abs(found.ground.level_m(east, 0 * east) - truth).max() < 0.03
    spoilt = demo.site.surveys[0].model_copy(update={"left_out": ()})
    bad = changed(demo, "site", surveys=(spoilt, *demo.site.surveys[1:]))
    known = plan(bad).site.known
    assert known.shots.number[known.off[0]] == 47
    assert known.off_m[0] == pytest.approx(-0.3048, abs=0.1)


# --- the stages stand on it -------------------------------------------------------------------


def test_posts_stand_on_the_ground_under_them(demo: Design) -> None:
    found = plan(demo)
    posts, supports = found.footings.posts, found.structure.supports
    stakes = found.setting_out.stakes
    east, north = supports.places.east_m, supports.places.north_m
    assert supports.ground_m == pytest.approx(found.site.ground.level_m(east, north))
    # Bolts of a straight table lie on one line; lengths take up what the ground does not.
    bolts = supports.ground_m + supports.reveals_m
    assert np.ptp(np.diff(bolts)) < 1e-9
    over = supports.reveals_m + demo.arrays[0].structure.post_top_m
    assert stakes.length_m == pytest.approx(over + posts.depths_m)
    assert stakes.rod_ground_m + supports.ground_m - supports.ground_m[0] == pytest.approx(
        np.full(9, demo.stakeout.instrument_height_m)
    )
    clear = found.rows.lie.clear_m
    assert clear[:, 0] == pytest.approx(demo.arrays[0].rows.lower_edge_m)
    assert (clear[:, 1] > clear[:, 0] + 0.02).all()


@settings(max_examples=25, deadline=None)
@given(st.floats(0, 0.12), st.floats(0, 360), st.booleans())
def test_a_plane_said_and_a_plane_shot_give_the_same_plan(
    plain: Design, slope: float, toward: float, follow: bool
) -> None:
    said = changed(
        changed(plain, "site", slope=slope, falls_toward_deg=toward),
        "rows",
        follow_ground=follow,
        rows=2,
    )
    bearing = math.radians(toward)
    readings = tuple(
        (float(e), float(n), -slope * (e * math.sin(bearing) + n * math.cos(bearing)), "")
        for e in range(-60, 61, 12)
        for n in range(-60, 61, 12)
    )
    shot = changed(said, "site", ground="survey", surveys=(SurveyGivens(readings=readings),))
    a, b = plan(said), plan(shot)
    for key in (
        ("rows", "pitch"),
        ("footings", "depth"),
        ("trench", "length"),
        ("rows", "upper_edge"),
        ("stakeout", "diagonal_a"),
    ):
        assert b.answer(*key).value == pytest.approx(a.answer(*key).value, abs=0.002), key
    assert b.structure.supports.reveals_m == pytest.approx(a.structure.supports.reveals_m, abs=1e-6)
    assert b.setting_out.stakes.length_m == pytest.approx(a.setting_out.stakes.length_m, abs=0.03)


def test_the_trench_follows_every_dip(plain: Design) -> None:
    readings = tuple(
        (float(e), float(n), 0.5 * math.cos(n), "")
        for e in range(-30, 40, 5)
        for n in np.arange(-10, 40, 0.5)
    )
    site = {"ground": "survey", "surveys": (SurveyGivens(readings=readings),), "route": ((4.8, 20.0),)}
    found = plan(changed(plain, "site", **site)).run.route
    # The length of half a cosine's wave for wave, by summing the curve itself.
    n = np.linspace(found.north_m[0], found.north_m[-1], 20001)
    curve = np.hypot(np.diff(n), np.diff(0.5 * np.cos(n))).sum()
    assert found.ground_length_m == pytest.approx(curve, rel=0.01)
    assert found.ground_length_m > found.level_length_m * 1.03


def test_moving_the_array_moves_posts_glass_and_stakes_alike(plain: Design) -> None:
    moved = plan(changed(plain, "rows", at_east_m=7.0, at_north_m=-3.0))
    here = plan(plain)
    assert moved.places.east_m == pytest.approx(here.places.east_m + 7)
    assert moved.rows.lie.tables.corners == pytest.approx(
        here.rows.lie.tables.corners + np.array([7.0, -3.0])
    )
    assert moved.arrays[0].rows.pitch_m == here.rows.pitch_m


# --- keep-outs --------------------------------------------------------------------------------


def feature(kind: str, points: object, **more: object) -> FeatureGivens:
    return FeatureGivens.model_validate({"kind": kind, "points": points, **more})


@pytest.mark.parametrize(
    ("sure", "band"), [("measured", 0.05), ("marked", 0.3), ("from a plan", 1.0), ("guessed", 2.0)]
)
def test_what_is_less_sure_has_a_wider_band_and_keeps_posts_further_off(sure: str, band: float) -> None:
    line = feature("buried water", ((0, -50), (0, 50)), how_sure=sure)
    assert band_m(line) == band
    keepouts = keep_outs([line], 0.6, None)
    edge = band + 0.6
    assert len(keepouts.posts_on(np.array([edge - 0.01]), np.array([0.0]))) == 1
    assert keepouts.posts_on(np.array([edge + 0.01]), np.array([0.0])) == ()
    assert "trench" not in zone_of(line, 0.6).shapes


def test_a_setback_that_was_asked_for_counts_instead_of_the_usual() -> None:
    pond = feature("water", ((0, 0), (4, 0), (4, 4), (0, 4)), setback_m=8.0)
    east = np.array([4.0 + 0.05 + 7.9, 4.0 + 0.05 + 8.1])
    (hit,) = keep_outs([pond], 0.6, None).posts_on(east, np.array([2.0, 2.0]))
    assert hit.which == (0,)


def test_the_shift_of_the_array_frees_every_post_and_table(demo: Design) -> None:
    """Laid on the drain, the array is told the way off it; having gone that way it is clear."""
    on = changed(demo, "rows", at_east_m=1.2)
    found = plan(on)
    check = next(c for c in found.checks if (c.stage, c.key) == ("footings", "keep_out"))
    assert check.level == "stop" and "tile drain" in str(check.measured)
    assert "shift the array" in told_remedy(check)
    tables = found.rows.lie.tables
    places = found.places
    shift = array_shift_m(
        found.site.keepouts, (places.east_m, places.north_m), tables.outlines, found.rows.along_deg
    )
    assert shift is not None
    again = plan(
        changed(on, "rows", at_east_m=1.2 + shift * math.sin(math.radians(found.rows.along_deg)))
    )
    assert [c.key for c in again.checks if c.level == "stop" and c.key == "keep_out"] == []


def test_a_post_shifted_as_it_was_told_is_clear_and_the_spans_are_judged(plain: Design) -> None:
    spacious = changed(plain, "structure", span_limit_m=3.0)
    at = plan(spacious).places.east_m[4]
    drain = feature("drain", ((at + 0.5, -30.0), (at + 0.5, 30.0)))
    roomy = changed(spacious, "site", features=(drain,))
    check = next(c for c in plan(roomy).checks if (c.stage, c.key) == ("footings", "keep_out"))
    assert "post 5" in str(check.measured)
    assert re.match(r"Shift post 5 by .*, alone$", check.mends[0].words)
    clear = apply(roomy, check.mends[0].edits, "us")
    found = plan(clear)
    assert not [c for c in found.checks if c.key in ("keep_out", "shifted") and c.level == "stop"]
    even = plan(changed(plain, "structure", span_limit_m=3.0))
    moved = found.places.east_m - even.places.east_m
    assert np.flatnonzero(np.abs(moved) > 1e-9).tolist() == [4]
    # A wider span loads its posts more, and the stakes' running tape moves with the post.
    assert found.structure.supports.tributary_m.max() > even.structure.supports.tributary_m.max()
    assert found.structure.supports.tributary_m.sum() == pytest.approx(
        even.structure.supports.tributary_m.sum()
    )
    level = math.cos(math.atan(float(found.rows.lie.rise_along[0])))
    on_tape = found.setting_out.stakes.tape_m[4] - even.setting_out.stakes.tape_m[4]
    assert on_tape * level == pytest.approx(moved[4])


def test_a_line_may_be_crossed_squarely_but_not_followed(plain: Design) -> None:
    def trench(points: object) -> object:
        there = feature("buried gas or fuel", points, depth_m=1.5)
        return plan(changed(plain, "site", features=(there,), route=((5.0, 25.0),))).trench

    square = trench(((-20.0, 12.0), (30.0, 12.0)))
    (crossing,) = square.runs[0].crossings
    assert crossing.crossed and not crossing.runs_along and crossing.angle_deg > 80
    # Hand-dig zone and band either side: 2 (0.6096 + 0.05), a hair more where it is not quite square.
    assert crossing.length_m == pytest.approx(2 * 0.6596, rel=0.01)
    level = {c.key: c.level for c in square.checks}
    assert level["keep_out"] == "sound" and level["crossings"] == "sound"
    along = trench(((5.2, -5.0), (5.4, 30.0)))
    assert {c.key: c.level for c in along.checks}["keep_out"] == "stop"
    shallow = plan(
        changed(
            plain,
            "site",
            route=((5.0, 25.0),),
            features=(feature("drain", ((-20.0, 12.0), (30.0, 12.0)), depth_m=0.5),),
        )
    ).trench
    assert {c.key: c.level for c in shallow.checks}["crossings"] == "look"


def test_an_area_whose_sides_cross_is_not_placed_and_says_so(plain: Design) -> None:
    bow = feature("building", ((0, 0), (4, 4), (4, 0), (0, 4)))
    assert not bow.complete and keep_outs([bow], 0.6, None).zones == ()


def test_outside_the_boundary_less_its_setback(plain: Design) -> None:
    land = feature("boundary", ((-30, -30), (30, -30), (30, 30), (-30, 30)))
    keepouts = keep_outs([land], 0.6, 5.0)
    east = np.array([24.9, 25.1])
    assert keepouts.points_outside(east, np.zeros(2)).tolist() == [False, True]
    assert keepouts.setback_m == pytest.approx(5.0)


# --- tickets, notes, holes ----------------------------------------------------------------------


@pytest.mark.parametrize(
    ("ticket", "state"),
    [
        ({}, "not asked"),
        ({"requested": "2026-04-17"}, "waiting"),
        ({"requested": "2026-04-10"}, "late"),
        ({"requested": "2026-04-10", "responded": "2026-04-14"}, "late"),
        ({"requested": "2026-04-10", "responded": "2026-04-14", "reply": "marked"}, "marked"),
        ({"requested": "2026-03-01", "responded": "2026-03-04", "reply": "marked"}, "expired"),
        ({"responded": "2026-04-14", "reply": "nothing here", "expires": "2026-04-19"}, "expired"),
        ({"responded": "2026-04-14", "reply": "nothing here"}, "nothing here"),
        ({"requested": "2026-04-19", "responded": "2026-04-22", "reply": "marked"}, "waiting"),
    ],
)
def test_a_ticket_on_the_day_digging_starts(ticket: dict[str, str], state: str) -> None:
    given_ticket = TicketGivens.model_validate({"utility": "water", **ticket})
    found = locate((given_ticket,), date(2026, 4, 20), 3, 28)
    line = next(item for item in found.lines if item.utility == "water")
    assert line.state == state
    assert not found.settled


def test_working_days_skip_the_weekend() -> None:
    assert working_days_after(date(2026, 4, 10), 3) == date(2026, 4, 15)
    assert working_days_after(date(2026, 4, 11), 1) == date(2026, 4, 13)


def test_the_tightest_limit_counts_and_says_who_said_it() -> None:
    notes = (
        NoteGivens(topic="height limit", limit_m=3.0, who="A", said_on=date(2026, 1, 2)),
        NoteGivens(topic="height limit", limit_m=2.4, who="B"),
        NoteGivens(topic="boundary setback", limit_m=3.0),
        NoteGivens(topic="boundary setback", limit_m=7.5, who="C"),
    )
    limits = limits_of(notes)
    assert (limits.height_m, limits.setback_m) == (2.4, 7.5)
    assert limits.height_source.text == "B"


def test_every_layer_of_a_hole_counts_and_fine_soil_on_top_is_gripped() -> None:
    hole = HoleGivens.model_validate(
        {
            "layers": ((0.4, "clay", None), (1.5, "sandy gravel", None), (2.5, "sand", None)),
            "water_m": 5.2,
        }
    )
    soil = soil_of_hole(hole, 0.9)
    assert (soil.words, soil.frost_grip_m, soil.water_m) == (
        "clay over sandy gravel over sand",
        0.4,
        5.2,
    )
    assert [layer.bottom_m for layer in soil.layers] == [0.4, 1.5, math.inf] and not soil.even
    stiff = HoleGivens.model_validate({"layers": ((3.0, "clay", 90e3),)})
    assert soil_of_hole(stiff, 0.9).layers[0].cohesion_pa == 90e3
    plain = HoleGivens.model_validate({"layers": ((1.0, "sand", None), (3.0, "sand", None))})
    assert soil_of_hole(plain, 0.9).even


def test_the_nearest_hole_governs_each_post(plain: Design) -> None:
    holes = (
        HoleGivens(name="w", east_m=-10.0, layers=((4.0, "sandy gravel", None),)),
        HoleGivens(name="e", east_m=10.0, layers=((4.0, "clay", None),)),
    )
    whole = plan(changed(plain, "site", test_holes=holes))
    found, soil_of = whole.footings.posts, whole.structure.supports.soil_of.tolist()
    assert soil_of in ([0, 0, 0, 0, 0, 1, 1, 1, 1], [0, 0, 0, 0, 1, 1, 1, 1, 1])
    assert found.depths_m[-1] > found.depths_m[0]
    assert found.worst.soil.hole == "e" and found.depth_m == found.depths_m[soil_of.index(1) :].max()
    # Alike in one soil: one depth each; alike for all: the deeper.
    for soil in (0, 1):
        assert np.ptp([d for d, of in zip(found.depths_m, soil_of, strict=True) if of == soil]) == 0
    alike = plan(changed(changed(plain, "site", test_holes=holes), "footings", depths="alike for all"))
    assert set(alike.footings.posts.depths_m.tolist()) == {found.depth_m}
    own = plan(changed(changed(plain, "site", test_holes=holes), "footings", depths="each post's own"))
    assert (own.footings.posts.depths_m <= found.depths_m + 1e-9).all()
    assert len(set(own.footings.posts.depths_m.tolist())) > 2
    assert nearest([0.0], [0.0], [3.0, -1.0], [0.0, 0.0]).tolist() == [1]


# --- things of lists ----------------------------------------------------------------------------


def test_things_are_added_changed_and_removed_one_at_a_time(plain: Design) -> None:
    one = apply(plain, [("site.features.+", "drain")], "us")
    assert one.site.features[0].kind == "drain"
    two = apply(
        one,
        [("site.features.0.depth_m", "2 ft"), ("site.features.0.points", "0 ft, 0 ft\n10 ft, 0 ft")],
        "us",
    )
    assert two.site.features[0].depth_m == pytest.approx(0.6096)
    (difference,) = differences(one, two, "us")
    assert difference.path == "site.features" and "drain, depth to its top: 2' 0\"" in difference.after
    assert apply(two, [("site.features.0", "")], "us") == plain


@pytest.mark.parametrize(
    ("path", "text", "says"),
    [
        ("site.features.7", "", "not a field"),
        ("site.features.0.depth_m", "deep", "length"),
        ("site.features.0.depth_m", "900 ft", "above what is allowed"),
        ("site.features.0.colour", "red", "not a field"),
        ("site.features", "x", "one by one"),
        ("site.features.0", "drain", "field by field"),
        ("site.features.0.kind", "castle", "one of"),
        ("site.test_holes.0.layers", "2 ft, mud", "is none of"),
        ("site.test_holes.0.layers", "2 ft, sand; 1 ft, clay", "deeper than the one above"),
        ("site.surveys.0.readings", "1, 2", "three lengths"),
        ("site.surveys.0.left_out", "one", "not a whole number"),
    ],
)
def test_a_wrong_entry_in_a_thing_names_its_field(
    demo: Design, path: str, text: str, says: str
) -> None:
    target = "site.features.99" if path == "site.features.7" else path
    with pytest.raises(DesignError) as error:
        apply(demo, [(target, text)], "us")
    problem = error.value.problems[0]
    assert problem.path.startswith(target.rsplit(".", 1)[0] if "kind" in target else target[:15])
    assert says in problem.message + problem.allowed


# --- measuring ----------------------------------------------------------------------------------


def test_tapes_that_do_not_meet_say_by_how_much() -> None:
    with pytest.raises(MeasureError, match=r"2\.000 m shorter"):
        by_two_tapes((0, 0), 3, (10, 0), 5)
    with pytest.raises(MeasureError, match=r"4\.000 m too long"):
        by_two_tapes((0, 0), 20, (10, 0), 6)
    with pytest.raises(MeasureError, match="the same"):
        by_two_tapes((1, 1), 3, (1, 1), 5)
    right, left = by_two_tapes((0, 0), 6, (10, 0), 8)
    assert right == pytest.approx((3.6, -4.8)) and left == pytest.approx((3.6, 4.8))


@given(st.floats(-50, 50), st.floats(-50, 50))
def test_offset_and_back_again(chainage: float, offset: float) -> None:
    start, end = (3.0, 4.0), (-20.0, 31.0)
    place = by_offset(start, end, chainage, offset)
    assert along_from(start, end, place) == pytest.approx((chainage, offset), abs=1e-9)


# --- whatever the ground ------------------------------------------------------------------------


@settings(max_examples=50, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(busy_designs())
def test_whatever_is_there_the_plan_stands_and_its_keep_outs_are_true(design: Design) -> None:
    found = plan(design)
    supports, rows = found.structure.supports, found.rows
    # Every post bears its table: bolts on one straight line a table, never below what was asked.
    bolts = supports.ground_m + supports.reveals_m
    places = supports.places
    for table in range(rows.tables.count):
        for role in range(len(places.roles)):
            own = (places.of_table == table) & (places.role == role)
            along = places.from_middle_m[own]
            if along.size < 2:
                continue
            straight = np.polyval(np.polyfit(along, bolts[own], 1), along)
            assert np.allclose(bolts[own], straight, atol=1e-6)
    # What follows the sun has its lower edge as said where it stands steepest.
    lie = rows.lie if rows.travel is None else rows.steepest.lie
    said = np.full(len(lie.clear_m), design.arrays[0].rows.lower_edge_m)
    assert lie.clear_m[:, 0] == pytest.approx(said)
    driven = found.footings.weights is None
    assert ((found.footings.posts.depths_m > 0) == driven).all()
    assert np.isfinite(supports.reveals_m).all()
    # The keep-out rule says exactly what distances say.
    check = next(c for c in found.checks if (c.stage, c.key) == ("footings", "keep_out"))
    places = shapely.points(supports.places.east_m, supports.places.north_m)
    shapes = [z.shapes["post"] for z in found.site.keepouts.zones if "post" in z.shapes]
    near = min((float(shapely.distance(one, places).min()) for one in shapes), default=math.inf)
    assert near > 0 or check.level == "stop"
    # Of an outline that crosses itself, or is all but a line, inside and beside are not told apart by
    # distances alone.
    if shapely.is_valid(shapes).all():
        assert check.level != "stop" or near < 1e-6
    unknown = [c for c in found.checks if (c.stage, c.key) == ("footings", "known")]
    if unknown:
        off = ~found.site.ground.known(supports.places.east_m, supports.places.north_m)
        assert (unknown[0].level == "stop") == bool(off.any())


@pytest.mark.parametrize("by_m", [1e-300, 1e-12, 1e-6, 0.5])
def test_an_outline_without_an_area_is_never_lost_by_growing(by_m: float) -> None:
    flat = shapely.Polygon([(0, 0), (4, 3), (8, 6)])
    wider = grown(flat, by_m)
    assert not wider.is_empty
    assert shapely.distance(wider, shapely.points([0, 4, 8], [0, 3, 6])).max() < 1e-9


@settings(max_examples=25, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(busy_designs())
def test_the_scene_and_any_section_hold_what_the_plan_holds(design: Design) -> None:
    found = plan(design)
    scene = scene_of(found)
    (one,) = scene.arrays
    assert len(one.modules) == 5 * found.rows.module_count
    modules = np.array(one.modules).reshape(-1, 5)
    # Glass stands over the ground by the clearance at least.
    datum = float(found.rows.lie.edge_level_m.min()) - modules[:, 2].min()
    below = found.site.ground.level_m(modules[:, 0], modules[:, 1])
    assert np.isfinite(modules).all() and np.isfinite(datum) and np.isfinite(below).all()
    cut = section_drawing(found, (-30.0, -12.0), (28.0, 17.0), "metric")
    assert all(np.isfinite(mark.points).all() for mark in cut.marks)
