"""A pipe grid by hand: piers by columns, rails on two pipes, pipes on posts, what posts bring down.

Four piers for the first column and two for each that follows: common practice, no published source.
Statics by free body; the pipe by PyNiteFEA, an independent finite-element library.
"""

import math
import warnings

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from Pynite import FEModel3D

from openfurrow.core.codes.section import section
from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, untried
from openfurrow.core.structures.bents.carry import bents_of, factors
from openfurrow.core.structures.pipe_grid.family import shape_of
from openfurrow.core.structures.pipe_grid.members import on_pipes_n
from tests.core.test_checks import broken
from tests.designs import plain_larkspur
from tests.reference.test_two_post_lines import cases_of, heights, kind_of
from tests.reference.two_lines import Force, G, about, bent, forces

# Common practice: rails under a module about a fifth to a quarter in from its edges.
ZONE = 0.22


def grid_job(**parts: dict[str, object]) -> Design:
    said = {stage: dict(givens) for stage, givens in parts.items()}
    said["structure"] = {"family": "pipe grid"} | said.get("structure", {})
    said["rows"] = {"rows": 1, "follow_ground": False, "orientation": "landscape"} | said.get(
        "rows", {}
    )
    return broken(plain_larkspur(), said)


def designs() -> st.SearchStrategy[Design]:
    def made(pack: str, tilt: float, high: int, along: int, share: float, brace: str, limit: float):
        chord = 1.134 * high
        return grid_job(
            site={"rule_pack": pack, "slope": 0.02, "falls_toward_deg": 180.0}
            | ({"wind_speed_m_s": 27.0} if pack == "metric" else {}),
            rows={"modules_high": high, "modules_along": along, "tilt_deg": tilt, "lower_edge_m": 0.9},
            structure={
                "lines_apart_m": round(share * chord * math.cos(math.radians(tilt)), 3),
                "bent_brace": brace,
                "span_limit_m": limit,
            },
        )

    return st.builds(
        made,
        st.sampled_from(["us", "metric"]),
        st.floats(5, 42).map(lambda value: round(value, 1)),
        st.sampled_from([2, 3, 4]),
        st.integers(1, 9),
        st.floats(0.35, 0.65),
        st.sampled_from(["cross brace", "none"]),
        st.sampled_from([1.2, 2.4, 4.0, 6.0]),
    )


@pytest.mark.parametrize("columns", range(1, 12))
def test_the_first_column_takes_four_piers_and_each_further_one_two(columns: int) -> None:
    found = untried(grid_job(rows={"modules_high": 3, "modules_along": columns}))
    assert found.structure.supports.count == 4 + 2 * (columns - 1)
    assert found.structure.members.rails == 2 * columns


@settings(max_examples=40, deadline=None)
@given(design=designs())
def test_posts_stand_under_the_joints_of_columns_no_further_apart_than_they_may(design: Design) -> None:
    found = untried(design)
    rows, line = found.rows, found.structure.posts.line
    columns, step = rows.modules_along, rows.module_along_m + rows.gap_along_m
    end, limit = design.arrays[0].modules.purlin_end_m, design.arrays[0].structure.span_limit_m
    # Walk along the row: the edges of the glass, and the middle of every gap.
    joints = [end] + [end + k * step - rows.gap_along_m / 2 for k in range(1, columns)]
    joints.append(end + rows.table_length_m)
    for x in line.along_m.tolist():
        assert min(abs(x - joint) for joint in joints) < 1e-9
    spans = np.diff(line.along_m)
    widest = max(limit, max(np.diff(joints)))
    assert spans.max() <= widest + 1e-9
    # With one post fewer a span would be too long.
    most = max(1, math.floor(limit / step + 1e-9))
    assert line.count == math.ceil(columns / most) + 1
    # What they carry is the glass, and nothing of the pipe past it.
    assert float(line.tributary_m.sum()) == pytest.approx(rows.table_length_m)


@settings(max_examples=20, deadline=None)
@given(design=designs())
def test_a_pair_of_posts_asks_of_the_ground_what_acts_on_it(design: Design) -> None:
    found = untried(design)
    front_m, back_m = heights(found)
    one, kinds = found.structure.reactions, found.structure.posts.kinds
    places = bent(design, found, front_m, back_m)
    front, back = kind_of(found, 0), kind_of(found, 1)
    row_m = float(kinds.tributary_m[front])
    braced = design.arrays[0].structure.bent_brace == "cross brace"
    assert one.bounds == (3 if braced else 2)
    for bound in range(one.bounds):
        for combination, case, column in cases_of(found, bound):
            acting = forces(found, combination, case, row_m)
            scale = sum(abs(f.along_x) + abs(f.up) for f in acting)
            asked = [
                Force(*foot, float(one.across_n[kind, column]), -float(one.down_n[kind, column]))
                for kind, foot in ((front, places.front_foot), (back, places.back_foot))
            ]
            across = sum(f.along_x for f in acting) - sum(f.along_x for f in asked)
            up = sum(f.up for f in acting) - sum(f.up for f in asked)
            turned = -sum(float(one.moment_n_m[kind, column]) for kind in (front, back))
            left = about((0.0, 0.0), acting) - about((0.0, 0.0), asked) - turned
            assert max(abs(across), abs(up), abs(left) / 3) < 1e-6 * scale


@settings(max_examples=15, deadline=None)
@given(design=designs())
def test_posts_end_under_their_pipe_and_braces_meet_them_there(design: Design) -> None:
    found = untried(design)
    given_s, posts = design.arrays[0].structure, found.footings.posts
    front_m, back_m = heights(found)
    half = section(given_s.pipe_section).depth_m / 2
    reveals = found.structure.supports.reveals_m
    assert posts.lengths_m == pytest.approx(posts.depths_m + reveals - half)
    if (brace := found.structure.members.brace) is not None:
        places = bent(design, found, front_m, back_m)
        low = (places.front_foot[0], places.front_foot[1] + given_s.brace_foot_m)
        # A bolt stands 3 cm off the end of its post.
        high = (places.back_head[0], places.back_head[1] - half - 0.03)
        assert float(brace.lengths_m.max()) == pytest.approx(math.dist(low, high), abs=1e-6)


@settings(max_examples=15, deadline=None)
@given(design=designs())
def test_pipes_get_what_lies_on_the_rails(design: Design) -> None:
    """Both together bear all that acts, and about the front pipe the back one holds the balance."""
    found = untried(design)
    front_m, back_m = heights(found)
    posts, loads = found.structure.posts, found.structure.loads_at[0]
    shape = shape_of(found.rows, posts, design.arrays[0].structure)
    bents = bents_of(shape, posts.kinds)
    dead = loads.dead_of_kg_per_m2[posts.kinds.size_of]
    ours = on_pipes_n(shape, bents, factors(loads, loads.strength, dead))
    places, winds = bent(design, found, front_m, back_m), len(loads.wind.names)
    for combination in range(len(loads.strength.names)):
        for case in range(winds):
            acting = forces(found, combination, case, 1.0)
            scale = sum(abs(f.along_x) + abs(f.up) for f in acting)
            for bound in range(ours.shape[1]):
                front, back = ours[0, bound, combination * winds + case]
                assert front + back == pytest.approx(
                    [sum(f.along_x for f in acting), sum(f.up for f in acting)], abs=1e-6 * scale
                )
                brought = [Force(*places.back_head, float(back[0]), float(back[1]))]
                assert about(places.front_head, brought) == pytest.approx(
                    about(places.front_head, acting), abs=1e-5 * scale
                )
    most = float(np.hypot(ours[..., 0], ours[..., 1]).max())
    assert found.structure.members.purlin.load_n_per_m == pytest.approx(most)


@settings(max_examples=20, deadline=None)
@given(design=designs())
def test_a_rail_bends_as_a_beam_that_reaches_past_two_pipes(design: Design) -> None:
    """Even load square to it on either half, and the couple of weight at the glass: closed forms."""
    found = untried(design)
    table, loads = found.rows.section, found.structure.loads_at[0]
    tilt, chord = math.radians(table.tilt_deg), table.chord_m
    apart = design.arrays[0].structure.lines_apart_m / math.cos(tilt)
    low, high = (chord - apart) / 2, (chord + apart) / 2
    share = found.rows.table_length_m / (2 * found.rows.modules_along)
    stations = np.linspace(0, chord, 1601)
    largest = 0.0
    combined = loads.strength
    held = section(design.arrays[0].structure.rail_section)
    strong = held.yield_pa * held.modulus_m3 / (1.67 if design.site.rule_pack == "us" else 1.0)
    used = found.structure.members.beam.strained
    for combination in range(len(combined.names)):
        for case in range(len(loads.wind.names)):
            dead = float(combined.dead[combination] * loads.dead_of_kg_per_m2[0]) * G
            square, turn = [], []
            for pressure, snow in (
                (loads.wind.front_pa[case], combined.snow[combination]),
                (loads.wind.back_pa[case], combined.snow_back[combination]),
            ):
                weight = dead + float(snow) * loads.snow_pa * math.cos(tilt)
                press = float(combined.wind[combination] * pressure) + weight * math.cos(tilt)
                square.append(press * share)
                turn.append(weight * math.sin(tilt) * table.stack_m * share)
            lower = stations < chord / 2
            at = np.where(lower, square[0], square[1])
            couple = np.where(lower, turn[0], turn[1])
            step = stations[1] - stations[0]
            # The lower end is turned down: a couple of moments along the rail.
            total, first = at.sum() * step, (at * stations).sum() * step
            turned = couple.sum() * step
            upper = (first - low * total - turned) / (high - low)
            under = total - upper
            moment = (
                under * np.clip(stations - low, 0, None)
                + upper * np.clip(stations - high, 0, None)
                - np.cumsum(at) * step * stations
                + np.cumsum(at * stations) * step
                - np.cumsum(couple) * step
            )
            largest = max(largest, float(np.abs(moment).max()))
    assume(largest > 1.0)
    assert used.moment_limit_n_m <= strong * 1.0001
    # The case that uses most of it need not bend it most, where one flange is free.
    assert abs(used.moment_n_m) <= largest * 1.03
    free = used.moment_limit_n_m < strong * 0.999
    assert abs(used.moment_n_m) >= largest * (0.6 if free else 0.97)


@pytest.mark.filterwarnings("ignore")
@pytest.mark.parametrize(("columns", "limit"), [(1, 2.4), (4, 2.4), (7, 4.0), (9, 6.0)])
def test_the_pipe_is_that_of_another_program(columns: int, limit: float) -> None:
    design = grid_job(
        rows={"modules_high": 3, "modules_along": columns},
        structure={"span_limit_m": limit, "pipe_section": "pipe 2-1/2 in"},
    )
    found = untried(design)
    pipe, line, rows = found.structure.members.purlin, found.structure.posts.line, found.rows
    profile = section("pipe 2-1/2 in")
    model = FEModel3D()
    model.add_material("steel", 200e9, 77e9, 0.3, 7850)
    inertia = profile.inertia_m4
    model.add_section("pipe", profile.area_m2, inertia, inertia, 2 * inertia)
    end = design.arrays[0].modules.purlin_end_m
    model.add_node("start", 0, 0, 0)
    model.add_node("end", line.purlin_m, 0, 0)
    for number, x in enumerate(line.along_m.tolist()):
        model.add_node(f"post {number}", x, 0, 0)
        model.def_support(f"post {number}", True, True, True, True, False, False)
    model.add_member("pipe", "start", "end", "steel", "pipe")
    share = rows.table_length_m / (2 * columns)
    for column in range(columns):
        left = end + column * (rows.module_along_m + rows.gap_along_m)
        for x in (left + ZONE * rows.module_along_m, left + (1 - ZONE) * rows.module_along_m):
            model.add_member_pt_load("pipe", "Fy", -pipe.load_n_per_m * share, x)
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        model.analyze(check_statics=False)
    member = model.members["pipe"]
    largest = max(abs(member.max_moment("Mz", "Combo 1")), abs(member.min_moment("Mz", "Combo 1")))
    assert pipe.bending.pressing_n_m == pytest.approx(largest, rel=1e-4)
    for number in range(line.count):
        up = model.nodes[f"post {number}"].RxnFY["Combo 1"]
        assert float(line.tributary_m[number]) * pipe.load_n_per_m == pytest.approx(up, rel=1e-6)
    # Round steel bends alike whichever way it is pushed.
    limit_n_m = profile.yield_pa * profile.modulus_m3 / 1.67
    assert pipe.bending.limit_n_m == pytest.approx(limit_n_m)


def test_a_grid_is_counted_as_it_is_laid_out(plain: Design) -> None:
    found: Plan = untried(grid_job(rows={"modules_high": 3, "modules_along": 5, "rows": 2}))
    lines = {line.key: line for line in found.materials.lines}
    columns = 2 * 5
    (sawn,) = found.materials.sawing.arrays
    assert sum(cut.count for cut in sawn.cuts if cut.key == "rail") == 2 * columns
    assert lines["rail_clamp"].net == 2 * 2 * columns
    assert lines["saddle"].net == found.structure.supports.count == 2 * (4 + 2 * 4)
    # Two at each end of every column, and two at each joint of two modules in it.
    assert lines["end_clamp"].net == 4 * columns
    assert lines["mid_clamp"].net == 2 * 2 * columns
    # Pipes meet end to end: what is cut is as long as both lines of both tables.
    cut = sum(sum(one.pieces.lengths_m) * one.lines for one in found.frame.cuts)
    assert cut == pytest.approx(4 * found.structure.posts.line.purlin_m)
