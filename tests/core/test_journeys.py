"""What a planner or a crew asks of the core, one question a test."""

import numpy as np
import pytest

from openfurrow.core.checks import Check
from openfurrow.core.design import Design
from openfurrow.core.edits import apply
from openfurrow.core.plan import Plan, plan
from tests.designs import changed


def value(found: Plan, stage: str, key: str) -> float:
    answer = found.answer(stage, key).value
    assert isinstance(answer, float)
    return answer


def check(found: Plan, stage: str, key: str) -> Check:
    return next(c for c in found.checks if (c.stage, c.key) == (stage, key))


def test_a_post_that_refused_short_is_judged_by_the_depth_it_reached(plain: Design) -> None:
    """Driven to 8 ft, then rock: does it still carry?"""
    short = plan(apply(plain, [("arrays.1.footings.depth_m", "8 ft")], "us"))
    assert check(short, "footings", "lateral").level == "stop"
    # Closer posts share the load: at a span of 5 ft the reached depth does.
    edits = [("arrays.1.footings.depth_m", "8 ft"), ("arrays.1.structure.span_limit_m", "5 ft")]
    closer = plan(apply(plain, edits, "us"))
    assert check(closer, "footings", "lateral").level == "sound"
    assert closer.structure.supports.count > short.structure.supports.count


def test_a_pull_test_lets_posts_be_shorter_where_lift_governs(plain: Design) -> None:
    tested = plan(changed(plain, "footings", pull_tested=True)).footings.posts.worst.needs
    untested = plan(plain).footings.posts.worst.needs
    assert tested.uplift_m < untested.uplift_m
    assert tested.bearing_m < untested.bearing_m
    assert tested.lateral_m == pytest.approx(untested.lateral_m)


def test_fine_soil_on_top_lets_the_frost_lift(plain: Design) -> None:
    depths = [
        plan(changed(plain, "site", fine_soil_top_m=top)).footings.posts.needs_m[4]
        for top in (0.0, 0.15, 0.4, 0.9, 2.0)
    ]
    assert depths[0] == 0
    assert depths == sorted(depths)
    # Soil below the frost line is not gripped.
    assert depths[-1] == depths[-2]


def test_clay_is_gripped_through_the_whole_frost_depth(plain: Design) -> None:
    clay = changed(plain, "site", soil_class="clay", fine_soil_top_m=None)
    assert plan(clay).site.soils[0].frost_grip_m == clay.site.frost_depth_m


def test_a_wider_window_or_a_further_turn_asks_for_more_pitch(plain: Design) -> None:
    base = plan(plain).rows.least_pitch_m
    assert plan(changed(plain, "sun", window_start_h=9.0, window_end_h=15.0)).rows.least_pitch_m > base
    assert plan(changed(plain, "sun", window_start_h=11.0, window_end_h=13.0)).rows.least_pitch_m < base
    assert plan(changed(plain, "rows", turn_deg=20.0)).rows.facing_deg == 200.0


def test_ground_rising_to_the_back_lets_rows_stand_closer(plain: Design) -> None:
    def pitch(slope: float, falls: float) -> float:
        return plan(changed(plain, "site", slope=slope, falls_toward_deg=falls)).rows.least_pitch_m

    assert pitch(0.08, 180.0) < pitch(0.0, 180.0) < pitch(0.08, 0.0)


def test_ground_falling_away_faster_than_the_light_has_no_shadeless_pitch(plain: Design) -> None:
    steep = changed(
        changed(plain, "site", slope=0.3, falls_toward_deg=0.0, latitude_deg=52.0), "rows", rows=2
    )
    found = plan(steep)
    assert np.isinf(found.rows.least_pitch_m) and np.isfinite(found.rows.pitch_m)
    assert check(found, "rows", "shade").level == "look"
    assert "faster than the light" in found.answer("rows", "pitch").working.note


def test_a_pitch_held_by_the_planner_is_kept_and_judged(plain: Design) -> None:
    held = plan(changed(plain, "rows", pitch_m=6.0, rows=3))
    assert value(held, "rows", "pitch") == 6.0
    assert check(held, "rows", "shade").level == "look"
    assert value(held, "rows", "footprint") == pytest.approx(12.0 + held.rows.section.level_depth_m)


def test_landscape_turns_the_module(plain: Design) -> None:
    portrait, landscape = plan(plain).rows, plan(changed(plain, "rows", orientation="landscape")).rows
    assert (portrait.module_up_m, portrait.module_along_m) == (1.762, 1.134)
    assert (landscape.module_up_m, landscape.module_along_m) == (1.134, 1.762)
    assert landscape.table_length_m > portrait.table_length_m


def test_a_level_table_has_posts_of_many_lengths_one_that_follows_has_one(plain: Design) -> None:
    following = plan(plain).setting_out.stakes.length_m
    level = plan(changed(plain, "rows", follow_ground=False)).setting_out.stakes
    assert np.ptp(following) == pytest.approx(0, abs=1e-9)
    assert np.ptp(level.length_m) > 0.2
    assert np.ptp(level.top_m) == pytest.approx(0, abs=1e-9)


def test_each_table_of_a_level_row_steps_down_the_slope(plain: Design) -> None:
    stepped = changed(plain, "rows", follow_ground=False, tables_along=3)
    stakes = plan(stepped).setting_out.stakes
    tops = [set(np.round(stakes.top_m[stakes.places.of_table == k], 6)) for k in range(3)]
    assert all(len(top) == 1 for top in tops)
    assert len(set().union(*tops)) == 3


def test_a_second_row_doubles_posts_modules_and_steel_but_not_the_trench(plain: Design) -> None:
    one, two = plan(plain), plan(changed(plain, "rows", rows=2))
    assert two.structure.supports.count == 2 * one.structure.supports.count
    assert two.materials.quantity("module") == 72
    assert two.frame.purlin_lines == 2 * one.frame.purlin_lines
    assert two.run.route.ground_length_m <= one.run.route.ground_length_m
    assert two.circuit.strings.count == 6


def test_the_trench_begins_at_the_post_nearest_its_first_bend(plain: Design) -> None:
    for east in (-9.0, 0.0, 9.0):
        found = plan(changed(plain, "site", route=((east, 8.0), (20.0, 30.0))))
        start = found.run.route.start_post
        away = np.hypot(found.places.east_m - east, found.places.north_m - 8.0)
        assert start == int(away.argmin())


def test_a_bend_given_twice_does_not_break_the_plan(plain: Design) -> None:
    twice = plan(changed(plain, "site", route=((4.0, 7.0), (4.0, 7.0), (20.0, 20.0))))
    once = plan(changed(plain, "site", route=((4.0, 7.0), (20.0, 20.0))))
    assert twice.run.route.ground_length_m == once.run.route.ground_length_m


def test_cover_follows_method_and_driveway(plain: Design) -> None:
    def cover(**givens: object) -> float:
        return plan(changed(plain, "trench", **givens)).run.route.least_cover_m

    assert cover(method="rigid metal conduit") < cover(method="PVC conduit")
    assert cover(method="direct-buried cable") > cover(method="PVC conduit")
    assert cover(method="rigid metal conduit", under_driveway=True) > cover(
        method="rigid metal conduit"
    )


def test_cable_without_conduit_is_bedded_twice_and_pulled_through_nothing(plain: Design) -> None:
    cable = plan(changed(plain, "trench", method="direct-buried cable"))
    pipe = plan(plain)
    # As deep again over it as below, and round it.
    bed = plain.trench.bedding_m
    assert cable.trench.bedding_m3 / pipe.trench.bedding_m3 == pytest.approx(
        (2 * bed + cable.run.outside_m) / bed
    )
    assert cable.materials.quantity("conduit") == cable.materials.quantity("sweep") == 0
    assert cable.materials.quantity("sand") > pipe.materials.quantity("sand")


def test_many_strings_take_several_conduits_and_a_wider_trench(plain: Design) -> None:
    many = plan(changed(plain, "rows", rows=8))
    assert many.circuit.conduits == 3
    assert many.materials.quantity("junction_box") == 3
    assert many.trench.width_m > plain.trench.width_m


def test_cold_shortens_strings_and_heat_lengthens_the_shortest(plain: Design) -> None:
    def strings(**givens: object) -> tuple[int, int]:
        found = plan(changed(plain, "site", **givens)).circuit.strings
        return found.longest_allowed, found.shortest_allowed

    assert strings(lowest_temperature_c=-40.0)[0] < strings(lowest_temperature_c=0.0)[0]
    assert strings(hottest_temperature_c=50.0)[1] >= strings(hottest_temperature_c=10.0)[1]


def test_a_far_building_asks_for_thicker_wire_by_drop(plain: Design) -> None:
    near, far = plan(plain), plan(changed(plain, "site", route=((4.0, 7.0), (4.0, 140.0))))
    assert near.circuit.choice.asked_by == "ampacity"
    assert far.circuit.choice.asked_by == "voltage drop"
    assert far.circuit.choice.drop <= plain.wiring.drop_limit
    thick, thin = (p.circuit.choice.conductor.copper_mm2 for p in (far, near))
    assert thick > thin


def test_straps_where_clamps_do_not_bond(plain: Design) -> None:
    biting = plan(plain).modules.bonding_straps
    sliding = plan(changed(plain, "modules", clamps_bond=False)).modules.bonding_straps
    assert sliding == biting + 36


def test_longer_stock_means_fewer_splices_and_bolts(plain: Design) -> None:
    short, long = (
        plan(changed(plain, "frame", stock_length_m=6.0)),
        plan(changed(plain, "frame", stock_length_m=12.0)),
    )
    assert len(long.frame.line.lengths_m) < len(short.frame.line.lengths_m)
    assert long.materials.quantity("splice_bolt") < short.materials.quantity("splice_bolt")


def test_units_change_the_marks_on_the_tape_not_the_loads(plain: Design) -> None:
    feet, metres = plan(plain), plan(changed(plain, "site", display_units="metric"))
    assert feet.footings.posts.needs_m == metres.footings.posts.needs_m
    for found, step in ((feet, 0.0254), (metres, 0.025)):
        marks = found.footings.posts.depth_m / step
        assert marks == pytest.approx(round(marks))


def test_the_two_schools_disagree_within_reason(plain: Design) -> None:
    """47 m/s as a gust is about 33 m/s as a ten-minute mean: depths then lie near each other."""
    metric = changed(plain, "site", rule_pack="metric", wind_speed_m_s=33.0)
    us_m, metric_m = plan(plain).footings.posts.depth_m, plan(metric).footings.posts.depth_m
    assert 0.6 < metric_m / us_m < 1.6


def test_a_rod_on_the_benchmark_reads_the_instruments_height(plain: Design) -> None:
    for height in (0.9, 1.6, 2.4):
        found = plan(changed(plain, "stakeout", instrument_height_m=height))
        assert value(found, "stakeout", "rod_first") == height
        assert found.setting_out.stakes.rod_top_m[0] == pytest.approx(
            height - found.setting_out.stakes.top_m[0]
        )
