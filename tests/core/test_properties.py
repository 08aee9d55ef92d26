"""What must hold for any design, whatever its numbers."""

import math

import numpy as np
import pytest
from hypothesis import HealthCheck, assume, given, settings
from hypothesis import strategies as st
from scipy.spatial import KDTree

from openfurrow.core.design import ARRAY_STAGES, Design
from openfurrow.core.footings.piles import Piles
from openfurrow.core.plan import Plan, plan
from openfurrow.exchange.design_json import read_design, write_design
from tests.designs import changed, designs

slow = settings(max_examples=60, suppress_health_check=[HealthCheck.too_slow])


@slow
@given(designs(), st.floats(1, 15))
def test_pitch_grows_with_tilt(design: Design, more_deg: float) -> None:
    low = changed(design, "rows", pitch_m=None, tilt_deg=design.arrays[0].rows.tilt_deg * 0.6)
    steep = changed(low, "rows", tilt_deg=low.arrays[0].rows.tilt_deg + more_deg)
    # Beyond 90° less the profile angle the table's own lean wins over its height.
    assume(steep.arrays[0].rows.tilt_deg + plan(low).rows.profile_deg < 90)
    # What turns about its pole sweeps less, clamped steeper.
    travel = design.arrays[0].structure.travel
    assume(travel is None or travel.tilts)
    assert plan(steep).rows.least_pitch_m >= plan(low).rows.least_pitch_m - 1e-9


@slow
@given(designs(), st.floats(0.5, 10))
def test_pitch_grows_with_distance_from_the_equator(design: Design, further_deg: float) -> None:
    design = changed(design, "rows", turn_deg=0.0)
    design = changed(design, "rows", pitch_m=None)
    latitude = math.copysign(abs(design.site.latitude_deg) * 0.8, design.site.latitude_deg)
    near = changed(design, "site", latitude_deg=latitude, slope=0.0)
    far = changed(near, "site", latitude_deg=latitude + math.copysign(further_deg, latitude))
    assert plan(far).rows.least_pitch_m >= plan(near).rows.least_pitch_m - 1e-9


@slow
@given(designs(), st.floats(0.5, 20))
def test_depth_never_shrinks_with_wind(design: Design, more_m_s: float) -> None:
    design = changed(design, "footings", depth_m=None)
    windier = changed(design, "site", wind_speed_m_s=design.site.wind_speed_m_s + more_m_s)
    before, after = plan(design).footings, plan(windier).footings
    if before.weights is not None and after.weights is not None:
        assert (after.weights.masses_kg >= before.weights.masses_kg - 1e-9).all()
        return
    calm, gusty = before.posts, after.posts
    assert gusty.depth_m >= calm.depth_m - 1e-9
    for needed, before in zip(gusty.needs_m, calm.needs_m, strict=True):
        assert needed >= before - 1e-9


@slow
@given(designs(), st.floats(100, 3000))
def test_more_snow_never_asks_for_less_under_weight(design: Design, more_pa: float) -> None:
    snowier = changed(design, "site", ground_snow_pa=design.site.ground_snow_pa + more_pa)
    before, after = plan(design).footings, plan(snowier).footings
    if isinstance(before.weights, Piles):
        # A pile that wind tips presses on its edge, and snow lays it flat again: what lies on piles
        # never asks for more of them.
        assert isinstance(after.weights, Piles)
        assert int(after.weights.blocks.sum()) <= int(before.weights.blocks.sum())
    elif before.weights is not None and after.weights is not None:
        assert after.weights.press_pa >= before.weights.press_pa - 1e-9
    else:
        assert after.posts.needs_m[2] >= before.posts.needs_m[2] - 1e-9


def mirrored(design: Design) -> Design:
    """The same job on the other half of the globe: north and south exchanged."""
    site = design.site
    return changed(
        changed(
            design,
            "site",
            latitude_deg=-site.latitude_deg,
            falls_toward_deg=(180.0 - site.falls_toward_deg) % 360.0,
            route=tuple((east, -north) for east, north in site.route),
        ),
        "rows",
        turn_deg=-design.arrays[0].rows.turn_deg,
        tables=tuple(
            one.model_copy(update={"turn_deg": -one.turn_deg}) for one in design.arrays[0].rows.tables
        ),
    )


@slow
@given(designs())
def test_the_mirrored_hemisphere_gives_the_mirrored_plan(design: Design) -> None:
    here, there = plan(design), plan(mirrored(design))
    for stage in ARRAY_STAGES:
        for a, b in zip(getattr(here, stage).answers, getattr(there, stage).answers, strict=True):
            if isinstance(a.value, str):
                assert a.value == b.value, (stage, a.key)
            else:
                assert a.value == pytest.approx(b.value, rel=1e-6, abs=1e-6), (stage, a.key)
    # The window is not symmetric about noon on a turned array, but each post has its image.
    # Matched by the nearest: sorted pairs change places on the last digit of what should be equal.
    ours = np.column_stack([here.places.along_m, here.places.back_m])
    theirs = np.column_stack([there.places.along_m, there.places.back_m])
    # Tables that stand on each other have posts in one place: as many here as there.
    mine, image = KDTree(ours), KDTree(theirs)
    assert len(ours) == len(theirs)
    here_m, there_m = (tree.query_ball_point(ours, 1e-6, return_length=True) for tree in (mine, image))
    assert (here_m == there_m).all() and (there_m > 0).all()
    assert np.allclose(np.sort(here.places.north_m), np.sort(-there.places.north_m), atol=1e-6)
    assert np.allclose(np.sort(here.places.east_m), np.sort(there.places.east_m), atol=1e-6)


@slow
@given(designs())
def test_materials_are_never_fewer_than_the_drawing_shows(design: Design) -> None:
    found = plan(design)
    quantity = found.materials.quantity
    modules = found.rows.module_count
    assert quantity("module") == modules
    cuts = found.materials.sawing.arrays[0].cuts
    cut_here = sum(cut.count for cut in cuts if cut.key == "post" and cut.from_stick)
    stakes = found.setting_out.stakes.tape_m.size
    if found.footings.posts.steel is None:
        # A pile at every stake: of one block at least, with what ties the purlin to it.
        assert quantity("fill_blocks") >= stakes
        assert quantity("pile_clip") >= stakes
    else:
        assert quantity("post") + cut_here >= stakes
    assert quantity("end_clamp") + quantity("mid_clamp") >= 2 * modules
    assert 4 * modules <= quantity("end_clamp") + 2 * quantity("mid_clamp")
    sticks = [line for line in found.materials.lines if line.key.startswith("sticks")]
    bought = sum(line.quantity * line.length_m for line in sticks if "purlin" in line.key)
    # Where tables differ each has lines of its own length.
    assert bought >= sum(cut.lines * cut.length_m for cut in found.frame.cuts) - 1e-6
    assert sum(cut.lines for cut in found.frame.cuts) == found.frame.purlin_lines
    wire = 2 * found.circuit.strings.count * found.run.route.ground_length_m
    assert quantity("trench_wire") >= wire
    if found.run.conduit:
        assert quantity("conduit") * 3.048 >= found.run.route.ground_length_m - 1e-6
    for line in found.materials.lines:
        assert line.quantity >= line.net - 1e-9, line.key


@slow
@given(designs())
def test_an_exported_design_read_again_gives_the_same_plan(design: Design) -> None:
    again = read_design(write_design(design).encode())
    assert again == design
    assert [a.value for a in plan(again).answers] == [a.value for a in plan(design).answers]


@slow
@given(designs())
def test_string_lengths_add_up_and_stay_under_the_limit(design: Design) -> None:
    strings = plan(design).circuit.strings
    assert strings.lengths.sum() == plan(design).rows.module_count
    assert strings.lengths.max() - strings.lengths.min() <= 1
    assert strings.lengths.max() <= strings.longest_allowed


@slow
@given(designs())
def test_posts_stand_inside_the_purlin_and_no_further_apart_than_allowed(design: Design) -> None:
    found = plan(design)
    line, limit = found.structure.posts.line, design.arrays[0].structure.span_limit_m
    assert line.along_m[0] >= -1e-9
    assert line.along_m[-1] <= line.purlin_m + 1e-9
    carried = line.purlin_m
    if design.arrays[0].structure.family in ("pipe grid", "turning tube"):
        # One column of modules stands between two posts at least; rails bring what lies on them.
        limit, carried = max(limit, found.rows.column_step_m), found.rows.table_length_m
    if design.arrays[0].structure.family == "single pole":
        assert line.count == 1
        carried = found.rows.table_length_m
    assert np.all(np.diff(line.along_m) <= limit + 1e-9)
    assert line.tributary_m.sum() == pytest.approx(carried, rel=1e-6)


@slow
@given(designs())
def test_stakes_agree_with_ground_depth_and_instrument(design: Design) -> None:
    found = plan(design)
    stakes = found.setting_out.stakes
    height = design.stakeout.instrument_height_m
    assert stakes.ground_m[0] == 0
    assert np.allclose(stakes.rod_ground_m + stakes.ground_m, height)
    footings, below = found.footings, stakes.depth_m - (found.structure.posts.bent.foot_m or 0.0)
    if footings.piers is not None:
        below = footings.piers.post_in_m
    if footings.screws is not None:
        below = np.full_like(below, -footings.screws.out_m)
    assert np.allclose(stakes.length_m, stakes.top_m - stakes.ground_m + below)
    # Under the table's own bolt, midway between two lines of posts, none stands lower than was asked.
    roles, section = found.structure.posts.roles, found.rows.section
    role = stakes.places.role
    aside = np.array([section.rise_back * one.back_m - one.up_m for one in roles])[role]
    bolts = stakes.top_m - found.structure.posts.bent.top_m
    # The ground falls otherwise under a table that is turned by itself.
    even = found.rows.tables.turn_deg[stakes.places.of_table] == 0
    # A post may stand past the glass, under the purlin's end, where the ground still rises.
    past = design.arrays[0].modules.purlin_end_m * design.site.slope + 1e-6
    assert np.all((bolts - stakes.ground_m + aside >= section.reveal_m - past)[even])
    assert stakes.length_m.max() <= found.footings.posts.longest_m + 1e-6


@slow
@given(designs())
def test_the_level_diagonals_agree_and_ground_ones_are_never_shorter(design: Design) -> None:
    stakeout = plan(design).setting_out
    east, north = stakeout.corners_east_m, stakeout.corners_north_m
    first = math.hypot(east[2] - east[0], north[2] - north[0])
    second = math.hypot(east[3] - east[1], north[3] - north[1])
    assert first == pytest.approx(second) == pytest.approx(stakeout.diagonal_level_m)
    assert min(stakeout.diagonal_a_m, stakeout.diagonal_b_m) >= stakeout.diagonal_level_m - 1e-9


def test_only_the_late_owner_stops_the_demo(demo_plan: Plan, plain_plan: Plan) -> None:
    stops = [(c.stage, c.key) for c in demo_plan.checks if c.level == "stop"]
    assert stops == [("footings", "locate"), ("trench", "locate"), ("schedule", "locate")]
    assert [c.title for c in plain_plan.checks if c.level == "stop"] == []
