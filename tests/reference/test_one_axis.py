"""Movers about one axis: one turns about its pole at its tilt, one tilts and looks one way.

The tilt and the bearing that meet the sun best are looked for by trying all of them: the cosine
between the sun and the square to the glass (spherical geometry). What does not move is told nothing of.
"""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.frame.assembly import steps_of
from openfurrow.core.plan import plan, untried
from openfurrow.core.rows.travel import Travel
from openfurrow.demo.designs import varnbeck
from openfurrow.sheets.travel import travel_sheet
from tests.core.breaks_movers import RATED
from tests.designs import changed
from tests.reference.test_movers import changed_array, job

TURNS, TILTS, BOTH, FIXED = "turns about the pole", "tilts alone", "follows the sun", "stands fixed"


def cosine(altitude: float, off: float, tilt: np.ndarray, turned: np.ndarray) -> np.ndarray:
    """Sun over the square to glass that is tilted, and turned from the middle of its turning."""
    up, level = np.sin(np.radians(altitude)), np.cos(np.radians(altitude))
    return up * np.cos(np.radians(tilt)) + level * np.sin(np.radians(tilt)) * np.cos(
        np.radians(off - turned)
    )


@settings(max_examples=300, deadline=None)
@given(
    altitude=st.floats(0.5, 89.5),
    off=st.floats(-179.0, 179.0),
    low=st.floats(0.0, 30.0),
    more=st.floats(1.0, 45.0),
    facing=st.floats(0.0, 359.0),
)
def test_what_only_tilts_meets_the_sun_as_well_as_any_tilt_of_its_travel(
    altitude: float, off: float, low: float, more: float, facing: float
) -> None:
    travel = Travel(flattest_deg=low, steepest_deg=low + more, turn_deg=0.0, stow_deg=low, loop_m=0.2)
    tilt, bearing = travel.looks(altitude, (facing + off) % 360.0, facing)
    assert float(bearing) % 360.0 == pytest.approx(facing % 360.0)
    assert low - 1e-9 <= float(tilt) <= low + more + 1e-9
    every = np.linspace(low, low + more, 2001)
    best = float(cosine(altitude, off, every, np.zeros(1)).max())
    assert float(cosine(altitude, off, np.array([float(tilt)]), np.zeros(1))[0]) >= best - 1e-6


@settings(max_examples=200, deadline=None)
@given(
    altitude=st.floats(0.5, 89.5),
    off=st.floats(-179.0, 179.0),
    held=st.floats(5.0, 70.0),
    each_way=st.floats(10.0, 180.0),
)
def test_what_only_turns_meets_it_as_well_as_any_bearing_at_its_tilt(
    altitude: float, off: float, held: float, each_way: float
) -> None:
    said = Travel(
        flattest_deg=0.0,
        steepest_deg=75.0,
        turn_deg=each_way,
        stow_deg=0.0,
        loop_m=0.2,
        tilts=False,
    ).held_at(held)
    tilt, bearing = said.looks(altitude, 180.0 + off, 180.0)
    assert float(tilt) == pytest.approx(held)
    every = np.linspace(-each_way, each_way, 4001)
    best = float(cosine(altitude, off, np.array([held]), every).max())
    mine = cosine(altitude, off, np.array([held]), np.array([float(bearing) - 180.0]))
    assert float(mine[0]) >= best - 1e-5


def test_one_that_turns_at_its_tilt_asks_what_a_fixed_one_asks_and_has_no_actuator() -> None:
    found, fixed = (
        untried(job(moved=moved, rows={"tilt_deg": 35.0}, **RATED)) for moved in (TURNS, FIXED)
    )
    assert [one.tilt_deg for one in found.rows.positions] == [35.0]
    for name in ("down_n", "across_n", "moment_n_m", "along_n", "along_moment_n_m", "twist_n_m"):
        own, bare = (getattr(one.structure.reactions, name) for one in (found, fixed))
        assert own == pytest.approx(bare)
    keys = {one.key for one in found.structure.members.fixings}
    assert {"drive", "controller", "bond_braid"} <= keys
    assert not keys & {"actuator", "arm", "foot_clamp", "pole_head", "pivot_head"}
    counts = {one.key: one.count for one in found.structure.members.fixings}
    assert counts["bond_braid"] == 1
    told = {one.key for one in found.frame.answers}
    assert {"drive_turns", "drive_tips", "cable_slack"} <= told
    assert not told & {"actuator_force", "actuator_flat", "actuator_steep", "head_pins"}
    rules = {one.key for one in found.frame.checks}
    assert {"drive_turns", "drive_tips"} <= rules
    assert not rules & {"mover_in", "mover_out", "mover_over", "mover_foot", "mover_force"}
    assert not {one.key for one in found.checks} & {"stow", "away_said", "away_wind"}
    mover = found.frame.mover
    assert mover is not None
    # It turns by 100 degrees to each side, and its cable hangs 0.2 m off the middle.
    assert mover.winds_m == pytest.approx(np.radians(200.0) * 0.2)
    order = [one.key for one in steps_of(found.rows, found.structure, found.frame)]
    assert not {"limits", "lies_down", "actuator"} & set(order)
    assert order.index("drive") < order.index("tilted_pole") < order.index("bare")
    # The limits that it would have if it tilted are kept, and are no matter of its now.
    shown = job(moved=TURNS).arrays[0].structure.shown()
    assert "steepest_deg" not in shown and "turn_each_way_deg" in shown
    assert not any(
        one.key.startswith("force") for one in travel_sheet(job(moved=TURNS), found, "us").drawings
    )


def test_one_that_tilts_alone_has_an_actuator_and_no_drive() -> None:
    found, both = (untried(job(moved=moved, **RATED)) for moved in (TILTS, BOTH))
    alone, two = found.frame.mover, both.frame.mover
    assert alone is not None and two is not None
    assert alone.forces_n == pytest.approx(two.forces_n)
    assert alone.winds_m == pytest.approx(0.2 * np.radians(np.ptp(alone.tilts_deg)))
    keys = {one.key for one in found.structure.members.fixings}
    assert {"pivot_head", "actuator", "arm", "foot_clamp"} <= keys
    assert "drive" not in keys
    told = {one.key for one in found.frame.answers}
    assert "actuator_force" in told and not told & {"drive_turns", "drive_tips"}
    rules = {one.key for one in found.frame.checks}
    assert "mover_force" in rules and not rules & {"drive_turns", "drive_tips"}
    order = [one.key for one in steps_of(found.rows, found.structure, found.frame)]
    assert "pivot" in order and "drive" not in order
    assert order.index("pivot") < order.index("actuator") < order.index("limits")
    shown = job(moved=TILTS).arrays[0].structure.shown()
    assert "steepest_deg" in shown and not shown & {"turn_each_way_deg", "drive_turns_n_m"}
    # Nobody waits for what it never does.
    assert found.rows.travel is not None and found.rows.travel.wound_m == 0.0


def test_a_year_about_one_axis_lies_between_standing_fixed_and_two() -> None:
    design = varnbeck()

    def hours(moved: str) -> float:
        gate = changed_array(design, moved=moved, tilt=40.0)
        both = design.model_copy(update={"arrays": (design.arrays[0], gate)})
        return float(plan(both).energy.arrays[1].light.open_h)

    fixed, turns, tilts, both = (hours(one) for one in (FIXED, TURNS, TILTS, BOTH))
    assert fixed < tilts < both
    assert fixed < turns < both
    # About the pole a flat-plate year gains most of what two axes gain, tilting alone a few per cent.
    assert turns > 1.15 * fixed
    assert tilts < 1.15 * fixed


def test_there_and_back_everything_that_was_said_is_still_there() -> None:
    design = job(**RATED)
    for moved in (TURNS, TILTS, FIXED):
        assert changed(changed(design, "structure", moved=moved), "structure", moved=BOTH) == design
