"""Every rule can say no: a design that breaks it, and the same design mended."""

from datetime import date

import pytest

from openfurrow.core.checks import Check
from openfurrow.core.design import Design
from openfurrow.core.fields import fields
from openfurrow.core.plan import plan
from tests.core.test_properties import changed

BREAKS = [
    ("site", "slope", "look", {"site": {"slope": 0.25}}),
    ("site", "rock", "stop", {"site": {"soil_class": "crystalline rock"}}),
    ("site", "temperatures", "stop", {"site": {"lowest_temperature_c": 24.0,
                                               "hottest_temperature_c": 10.0}}),
    ("site", "route", "stop", {"site": {"route": ()}}),
    ("sun", "window", "stop", {"site": {"latitude_deg": 63.0}, "sun": {"window_start_h": 9.0}}),
    ("sun", "model", "look", {"sun": {"walk_date": date(2031, 5, 1)}}),
    ("rows", "shade", "look", {"rows": {"pitch_m": 4.5}}),
    ("rows", "overlap", "stop", {"rows": {"pitch_m": 3.0}}),
    ("rows", "grass", "look", {"rows": {"lower_edge_m": 0.3}}),
    ("rows", "reveal", "stop", {"rows": {"lower_edge_m": 0.1, "tilt_deg": 0.0}}),
    ("rows", "level_row", "look", {"rows": {"follow_ground": False},
                                   "site": {"falls_toward_deg": 90.0, "slope": 0.1}}),
    ("footings", "lateral", "stop", {"footings": {"depth_m": 1.2}}),
    ("footings", "uplift", "stop", {"footings": {"depth_m": 1.0}}),
    ("footings", "bearing", "stop", {"footings": {"depth_m": 1.0}}),
    ("footings", "frost", "stop", {"footings": {"depth_m": 0.6}}),
    ("footings", "heave", "stop", {"footings": {"depth_m": 1.0},
                                   "site": {"fine_soil_top_m": 0.6}}),
    ("footings", "drivable", "look", {"footings": {"depth_m": 4.0}}),
    ("footings", "bending", "stop", {"footings": {"post_section": "pipe 3 in"}}),
    ("footings", "wind_figure", "look", {"rows": {"tilt_deg": 50.0}}),
    ("frame", "purlin", "stop", {"frame": {"purlin_section": "Z 100 x 50 x 2.0"},
                                 "footings": {"span_limit_m": 8.0}}),
    ("frame", "beam", "stop", {"frame": {"beam_section": "C 125 x 64 x 2.0"},
                               "footings": {"span_limit_m": 6.0}}),
    ("frame", "sag", "look", {"frame": {"purlin_section": "Z 100 x 50 x 2.0"},
                              "footings": {"span_limit_m": 7.0}}),
    ("frame", "strut", "stop", {"frame": {"strut_section": "pipe 1-1/4 in",
                                          "strut_reach_m": 0.2},
                                "footings": {"span_limit_m": 8.0}}),
    ("frame", "post_at_strut", "stop", {"footings": {"post_section": "pipe 3 in",
                                                    "span_limit_m": 6.0}}),
    ("frame", "strut_reach", "stop", {"frame": {"strut_reach_m": 2.5}}),
    ("frame", "strut_foot", "stop", {"frame": {"strut_foot_m": 1.9}}),
    ("frame", "splices", "look", {"frame": {"stock_length_m": 2.1, "lap_m": 0.3},
                                  "footings": {"span_limit_m": 5.0}}),
    ("modules", "press", "stop", {"modules": {"front_rating_pa": 900.0}}),
    ("modules", "lift", "stop", {"modules": {"back_rating_pa": 600.0}}),
    ("modules", "clamp", "stop", {"modules": {"clamp_hold_n": 400.0}}),
    ("modules", "end", "stop", {"modules": {"purlin_end_m": 0.03}}),
    ("trench", "wall", "stop", {"trench": {"extra_depth_m": 1.0}}),
    ("trench", "width", "look", {"trench": {"width_m": 0.1, "strings_per_conduit": 1}}),
    ("trench", "long", "look", {"site": {"route": ((0.0, 150.0),)}}),
    ("trench", "fill", "stop", {"trench": {"strings_per_conduit": 20},
                                "rows": {"rows": 8}, "site": {"route": ((300.0, 300.0),)}}),
    ("trench", "tension", "stop", {"site": {"route": tuple(
        (40.0 * (k % 2), 12.0 * k) for k in range(1, 12))}}),
    ("trench", "bends", "look", {"site": {"route": tuple(
        (8.0 * (k % 2), 4.0 * k) for k in range(2, 8))}}),
    ("wiring", "hot", "stop", {"wiring": {"start_v": 590.0}}),
    ("wiring", "equal", "look", {"rows": {"modules_along": 19},
                                 "wiring": {"start_v": 330.0, "maximum_dc_v": 500.0}}),
    ("wiring", "inputs", "stop", {"wiring": {"inverter_inputs": 2}}),
    ("wiring", "conductor", "stop", {"site": {"route": ((0.0, 4000.0),)}}),
    ("wiring", "ratio", "look", {"wiring": {"inverter_ac_w": 9000.0}}),
    ("materials", "lift", "look", {"frame": {"stock_length_m": 14.0}}),
    ("stakeout", "sight", "stop", {"stakeout": {"instrument_height_m": 0.2},
                                   "site": {"falls_toward_deg": 270.0, "slope": 0.1}}),
    ("stakeout", "rod", "look", {"stakeout": {"instrument_height_m": 5.5}}),
    ("stakeout", "reveals", "look", {"rows": {"follow_ground": False},
                                     "site": {"falls_toward_deg": 90.0, "slope": 0.1}}),
]
# Kept true by how the number is chosen; it would catch the choice going wrong.
BY_CONSTRUCTION = {("trench", "cover"), ("wiring", "cold")}


def broken(demo: Design, parts: dict[str, dict[str, object]]) -> Design:
    for stage, givens in parts.items():
        demo = changed(demo, stage, **givens)
    return Design.model_validate(demo.model_dump())


def find(checks: tuple[Check, ...], stage: str, key: str) -> Check:
    return next(check for check in checks if (check.stage, check.key) == (stage, key))


@pytest.mark.parametrize(("stage", "key", "level", "parts"), BREAKS,
                         ids=[f"{stage}.{key}" for stage, key, *_ in BREAKS])
def test_a_broken_rule_says_so_and_what_to_do(
    demo: Design, stage: str, key: str, level: str, parts: dict[str, dict[str, object]]
) -> None:
    check = find(plan(broken(demo, parts)).checks, stage, key)
    assert check.level == level
    assert len(check.remedy) > 10
    assert check.given in fields()


def test_every_rule_has_a_design_that_breaks_it(demo: Design) -> None:
    level_row = changed(demo, "rows", follow_ground=False)
    rules = {(c.stage, c.key) for d in (demo, level_row) for c in plan(d).checks}
    assert rules - BY_CONSTRUCTION == {(stage, key) for stage, key, *_ in BREAKS}


def test_checks_come_worst_first(demo: Design) -> None:
    levels = [c.level for c in plan(broken(demo, {"footings": {"depth_m": 1.0}})).checks]
    assert levels == sorted(levels, key=["stop", "look", "sound"].index)
    assert levels[0] == "stop"
