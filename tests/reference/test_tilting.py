"""Struts at each tilt, holes and turns of a jack: triangles by their corners, holes one by one.

Plane trigonometry; 10 to 15 turns of each jack in rotation and half a degree are common practice, no
published source.
"""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.frame.tilting import rounds_of
from openfurrow.core.plan import Plan, plan
from openfurrow.sheets.tilt_tables import tilts_table
from tests.core.breaks import SEASONS
from tests.core.test_checks import broken
from tests.designs import changed, plain_larkspur


def seasonal(tilts: tuple[float, float], **structure: object) -> Design:
    design = broken(plain_larkspur(), SEASONS)
    low, high = tilts
    positions = tuple(
        one.model_copy(update={"tilt_deg": tilt})
        for one, tilt in zip(design.arrays[0].rows.positions, (low, high), strict=True)
    )
    design = changed(design, "rows", positions=positions)
    return changed(design, "structure", strut_travel_m=1.0, **structure)


def level(found: Plan, key: str) -> str:
    return next((c.level for c in found.frame.checks if c.key == key), "none")


def corner_to_corner_m(reach: float, drop: float, tilt: float) -> float:
    """Both bolts as points: the foot on the post under the beam's bolt, the head on the beam."""
    foot = np.array([0.0, -drop])
    head = -reach * np.array([math.cos(math.radians(tilt)), math.sin(math.radians(tilt))])
    return float(np.linalg.norm(head - foot))


@settings(max_examples=40, deadline=None)
@given(
    low=st.floats(5, 30),
    more=st.floats(2, 30),
    reach=st.floats(0.5, 1.4),
    hole=st.floats(0.01, 0.1),
    slope=st.floats(0, 0.12),
)
def test_every_strut_is_as_long_as_its_own_triangle_and_its_hole_is_the_nearest(
    low: float, more: float, reach: float, hole: float, slope: float
) -> None:
    design = changed(
        seasonal((low, low + more), strut_reach_m=reach, strut_hole_m=hole),
        "site",
        slope=slope,
        falls_toward_deg=90.0,
    )
    found = plan(design)
    tilting = found.frame.tilting
    assert tilting is not None and tilting.turns is None
    tilts = [one.tilt_deg for one in found.rows.positions]
    assert list(tilting.tilts_deg) == tilts
    foot = design.arrays[0].structure.strut_foot_m
    drops = (found.structure.supports.reveals_m - foot).tolist()
    longest = max(corner_to_corner_m(reach, drop, tilt) for drop in drops for tilt in tilts)
    worst = 0.0
    for at, tilt in enumerate(tilts):
        for post, drop in enumerate(drops):
            long = corner_to_corner_m(reach, drop, tilt)
            assert tilting.lengths_m[at, post] == pytest.approx(long)
            # Holes one by one from the longest: the one that is nearest in length.
            options = [longest - k * hole for k in range(int(longest / hole) + 1)]
            nearest = min(options, key=lambda one: abs(one - long))
            chosen = longest - int(tilting.holes[at, post]) * hole
            assert abs(chosen - long) <= abs(nearest - long) + 1e-9
            # The tilt that it holds, found by trying.
            holds = float(tilting.holds_deg[at, post])
            if math.isfinite(holds):
                assert corner_to_corner_m(reach, drop, holds) == pytest.approx(chosen)
            worst = max(worst, abs(holds - tilt) if math.isfinite(holds) else 90.0)
    assert level(found, "tilt_holes") == ("sound" if worst <= 0.5 + 1e-9 else "look")


@settings(max_examples=30, deadline=None)
@given(low=st.floats(5, 30), more=st.floats(2, 30), turn=st.floats(0.002, 0.02))
def test_a_jack_is_turned_as_often_as_its_thread_goes_into_what_is_lacking(
    low: float, more: float, turn: float
) -> None:
    design = seasonal((low, low + more), strut_held_by="a jack", strut_turn_m=turn)
    found = plan(design)
    tilting = found.frame.tilting
    assert tilting is not None and tilting.holes is None
    given_of = design.arrays[0].structure
    reach, foot = given_of.strut_reach_m, given_of.strut_foot_m
    tilts = [one.tilt_deg for one in found.rows.positions]
    most = 0.0
    for post, reveal in enumerate(found.structure.supports.reveals_m.tolist()):
        for at in range(len(tilts) - 1):
            long, then = (corner_to_corner_m(reach, reveal - foot, t) for t in tilts[at : at + 2])
            assert tilting.turns[at, post] == pytest.approx((long - then) / turn)
            most = max(most, abs(long - then) / turn)
    said = next(a for a in found.frame.answers if a.key == "jack_turns")
    assert said.working.value == pytest.approx(most)
    rounds = next(i.value for i in said.working.inputs if i.symbol == "r")
    each = next(i.value for i in said.working.inputs if i.symbol == "n_r")
    assert rounds * each == pytest.approx(most) and each <= 12 + 1e-9
    assert rounds == 1 or most / (rounds - 1) > 12


@settings(max_examples=30, deadline=None)
@given(slope=st.floats(0, 0.15), travel=st.floats(0.05, 1.2))
def test_struts_that_come_alike_must_suit_the_highest_and_the_lowest_post(
    slope: float, travel: float
) -> None:
    design = seasonal((15.0, 45.0))
    design = changed(design, "rows", follow_ground=False)
    design = changed(design, "site", slope=slope, falls_toward_deg=90.0)
    design = changed(design, "structure", strut_travel_m=travel)
    found = plan(design)
    given_of = design.arrays[0].structure
    reach, foot = given_of.strut_reach_m, given_of.strut_foot_m
    every = [
        corner_to_corner_m(reach, reveal - foot, tilt)
        for reveal in found.structure.supports.reveals_m.tolist()
        for tilt in (one.tilt_deg for one in found.rows.positions)
    ]
    enough = travel >= max(every) - min(every) - 1e-9
    assert level(found, "strut_range") == ("sound" if enough else "stop")


def test_of_struts_that_nobody_said_can_be_set_no_hole_is_told() -> None:
    found = plan(changed(seasonal((15.0, 45.0)), "structure", strut_travel_m=0.0))
    tilting, table = found.frame.tilting, tilts_table(found, "us")
    assert tilting is not None and tilting.holes is None and tilting.turns is None
    assert level(found, "tilt_holes") == level(found, "strut_range") == "none"
    assert table is not None and "Nobody has said" in table.note


def test_40_turns_are_four_rounds_of_ten() -> None:
    assert rounds_of(np.array([40.0, -12.0])) == (4, 10.0)
    assert rounds_of(np.array([12.0])) == (1, 12.0)
    assert rounds_of(np.zeros(0)) == (1, 0.0)


def test_the_list_is_there_where_tables_are_set_to_several_tilts_alone() -> None:
    assert tilts_table(plan(plain_larkspur()), "us") is None
    found = plan(seasonal((15.0, 55.0), strut_hole_m=0.0254))
    table = tilts_table(found, "us")
    assert table is not None and len(table.rows) == found.structure.supports.count
    assert all("hole" in cell for row in table.rows for cell in row[1:])
    by_slot = plan(seasonal((15.0, 55.0), strut_held_by="a slot"))
    assert level(by_slot, "tilt_holes") == "none"
    slotted = tilts_table(by_slot, "us")
    assert slotted is not None and "slot" in slotted.note
