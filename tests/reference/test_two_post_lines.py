"""Two post lines by hand: a bent by free body, its frame in PyNiteFEA, crossed cables by joints.

Statics and PyNiteFEA, an independent finite-element library; the shares of both lines, feet that hold
and feet that turn: common practice, no published source.
"""

import itertools
import math
import warnings

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from Pynite import FEModel3D

from openfurrow.core.codes.section import section
from openfurrow.core.design import Design
from openfurrow.core.frames import solved
from openfurrow.core.plan import Plan, untried
from openfurrow.core.structures.bents.shape import (
    BACK,
    BACK_FOOT,
    FRONT_FOOT,
    FRONT_HIGH,
    UNITS,
    frames_of,
    unit_loads,
)
from openfurrow.core.structures.two_post_lines.family import shape_of
from tests.core.test_checks import broken
from tests.reference.test_wind_along import FLAT, GUST, RIBBED, ROUND
from tests.reference.two_lines import Force, about, bent, forces, job

BEAM_END_M = 0.05


def designs() -> st.SearchStrategy[Design]:
    def made(pack: str, tilt: float, high: int, slope: float, share: float, foot: float, post: str):
        chord = {1: 1.72, 2: 3.46, 3: 5.2}[high]
        return job(
            site={
                "rule_pack": pack,
                "slope": abs(slope),
                "falls_toward_deg": 180.0 if slope > 0 else 0.0,
            }
            | ({"wind_speed_m_s": 27.0} if pack == "metric" else {}),
            rows={"modules_high": high, "modules_along": 8, "tilt_deg": tilt, "lower_edge_m": 0.9},
            structure={
                "lines_apart_m": round(share * chord * math.cos(math.radians(tilt)), 3),
                "brace_foot_m": foot,
                "post_section": post,
            },
        )

    return st.builds(
        made,
        st.sampled_from(["us", "metric"]),
        st.floats(5, 42).map(lambda value: round(value, 1)),
        st.sampled_from([1, 2, 3]),
        st.floats(-0.08, 0.08).map(lambda value: round(value, 3)),
        st.floats(0.3, 0.7),
        st.floats(0.1, 0.3).map(lambda value: round(value, 2)),
        st.sampled_from(["I 150 x 100 x 14", "W6x9", "pipe 4 in"]),
    )


def heights(found: Plan) -> tuple[float, float]:
    """The reveals of front and back posts, alike along a level row on even ground."""
    places, reveals = found.structure.supports.places, found.structure.supports.reveals_m
    front, back = (reveals[places.role == role] for role in (0, 1))
    assume(float(np.ptp(front)) < 1e-9 and float(np.ptp(back)) < 1e-9)
    return float(front[0]), float(back[0])


def cases_of(found: Plan, bound: int) -> list[tuple[int, int, int]]:
    """Every case of wind across the row in one bound: combination, wind case, and its column."""
    loads, one = found.structure.loads_at[0], found.structure.reactions
    winds, columns = len(loads.wind.names), len(one.names) // one.bounds
    return [
        (combination, case, bound * columns + combination * winds + case)
        for combination in range(len(loads.strength.names))
        for case in range(winds)
    ]


def kind_of(found: Plan, role: int, *, inner: bool = True) -> int:
    """The kind that carries most of the row among the posts of one role."""
    kinds = found.structure.posts.kinds
    mine = np.flatnonzero(kinds.role == role)
    return int(mine[kinds.tributary_m[mine].argmax()])


@settings(max_examples=20, deadline=None)
@given(design=designs())
def test_with_feet_that_turn_a_bent_stands_as_a_free_body_says(design: Design) -> None:
    found = untried(design)
    front_m, back_m = heights(found)
    one, kinds = found.structure.reactions, found.structure.posts.kinds
    places, brace_foot = bent(design, found, front_m, back_m), design.arrays[0].structure.brace_foot_m
    front, back = kind_of(found, 0), kind_of(found, 1)
    row_m = float(kinds.tributary_m[front])
    assert row_m == pytest.approx(float(kinds.tributary_m[back]))
    pushes = []
    # One height of each: feet held at the ground, held below it, and feet that turn.
    assert one.bounds == 3
    for combination, case, column in cases_of(found, 2):
        acting = forces(found, combination, case, row_m)
        across, up = sum(f.along_x for f in acting), sum(f.up for f in acting)
        # The back post has pins at both ends: it only pushes or pulls along itself.
        lifted = about(places.front_foot, acting)
        apart = places.back_foot[0] - places.front_foot[0]
        # Its upward push stands at the back foot: the moments about the front foot come to nought.
        back_up = -lifted / apart
        assert one.down_n[back, column] == pytest.approx(back_up, rel=1e-6, abs=0.05)
        assert one.down_n[front, column] == pytest.approx(-up - back_up, rel=1e-6, abs=0.05)
        assert one.across_n[front, column] == pytest.approx(across, rel=1e-6, abs=0.05)
        assert one.across_n[back, column] == pytest.approx(0.0, abs=0.05)
        for kind in (front, back):
            assert one.moment_n_m[kind, column] == pytest.approx(0.0, abs=0.05)
        # The front post about its head: what pushes its foot against what the brace takes.
        level = abs(across) * front_m / (front_m - brace_foot)
        long = math.dist((places.front_foot[0], places.front_foot[1] + brace_foot), places.back_head)
        pushes.append(level * long / apart)
    brace = found.structure.members.brace
    assert brace.push_n >= max(pushes) * (1 - 1e-6)
    assert brace.lengths_m[0] == pytest.approx(long, abs=1e-9)


@settings(max_examples=20, deadline=None)
@given(design=designs())
def test_with_feet_that_hold_a_bent_asks_of_the_ground_what_acts_on_it(design: Design) -> None:
    found = untried(design)
    front_m, back_m = heights(found)
    one, kinds = found.structure.reactions, found.structure.posts.kinds
    places = bent(design, found, front_m, back_m)
    front, back = kind_of(found, 0), kind_of(found, 1)
    row_m = float(kinds.tributary_m[front])
    for combination, case, column in (*cases_of(found, 0), *cases_of(found, 1)):
        acting = forces(found, combination, case, row_m)
        scale = sum(abs(f.along_x) + abs(f.up) for f in acting)
        given_up = [
            Force(*foot, float(one.across_n[kind, column]), -float(one.down_n[kind, column]))
            for kind, foot in ((front, places.front_foot), (back, places.back_foot))
        ]
        across = sum(f.along_x for f in acting) - sum(f.along_x for f in given_up)
        up = sum(f.up for f in acting) - sum(f.up for f in given_up)
        # A moment that tips heads to the back turns from z to x.
        turned = -sum(float(one.moment_n_m[kind, column]) for kind in (front, back))
        left = about((0.0, 0.0), acting) - about((0.0, 0.0), given_up) - turned
        assert abs(across) < 1e-6 * scale
        assert abs(up) < 1e-6 * scale
        assert abs(left) < 1e-6 * scale * 3


@settings(max_examples=20, deadline=None)
@given(design=designs())
def test_without_a_brace_posts_share_a_push_as_cantilevers_do(design: Design) -> None:
    """Heads move together: each takes by the cube of its height, at the ground or 1.2 m below it."""
    bare = broken(design, {"structure": {"bent_brace": "none"}})
    found = untried(bare)
    front_m, back_m = heights(found)
    one = found.structure.reactions
    assert one.bounds == 2
    front, back = kind_of(found, 0), kind_of(found, 1)
    row_m = float(found.structure.posts.kinds.tributary_m[front])
    # Weight at the glass turns the beam: its push on the heads is no push of the wind.
    for bound, deep in ((0, 0.0), (1, 1.2)):
        stiff = [(height + deep) ** -3 for height in (front_m, back_m)]
        for combination, case, column in cases_of(found, bound):
            acting = forces(found, combination, case, row_m)
            across = sum(f.along_x for f in acting)
            if abs(across) < 0.2 * sum(abs(f.up) for f in acting):
                continue
            share = stiff[1] / sum(stiff)
            scale = sum(abs(f.along_x) + abs(f.up) for f in acting)
            # Posts that are pressed shorten a little, and the beam between them too.
            assert float(one.across_n[back, column]) == pytest.approx(share * across, abs=0.02 * scale)
            moment = float(one.moment_n_m[back, column])
            assert moment == pytest.approx(float(one.across_n[back, column]) * back_m, rel=1e-6)


def modelled(design: Design, found: Plan, unit: str, *, hold: bool) -> FEModel3D:
    """One bent of a metre of the row in PyNiteFEA, under one pascal of one kind."""
    given = design.arrays[0].structure
    table = found.rows.section
    tilt = math.radians(table.tilt_deg)
    front_m, back_m = heights(found)
    places = bent(design, found, front_m, back_m)
    beam, post = section(given.beam_section), section(given.post_section)
    model = FEModel3D()
    model.add_material("steel", 200e9, 77e9, 0.3, 7850)
    profiles = {"post": post, "beam": beam, "brace": section(given.brace_section)}
    for name, one in profiles.items():
        model.add_section(name, one.area_m2, one.inertia_m4, one.inertia_m4, one.inertia_m4)
    lows = [
        row * (found.rows.module_up_m + found.rows.gap_up_m) for row in range(found.rows.modules_high)
    ]
    up_m = found.rows.module_up_m
    purlins = [low + share * up_m for low in lows for share in (0.22, 0.78)]

    def on_beam(up: float) -> tuple[float, float]:
        return (
            up * math.cos(tilt) + table.stack_m * math.sin(tilt),
            up * math.sin(tilt) - table.stack_m * math.cos(tilt),
        )

    apart = given.lines_apart_m / 2 / math.cos(tilt)
    bolts = {"front head": table.chord_m / 2 - apart, "back head": table.chord_m / 2 + apart}
    joints = {f"purlin {number}": up for number, up in enumerate(purlins)} | bolts
    for name, up in joints.items():
        model.add_node(name, *on_beam(up), 0.0)
    for name, place in {
        "front foot": places.front_foot,
        "tie": (places.front_foot[0], places.front_foot[1] + given.brace_foot_m),
        "back foot": places.back_foot,
    }.items():
        model.add_node(name, *place, 0.0)
    for name in model.nodes:
        foot = name in ("front foot", "back foot")
        model.def_support(name, foot, foot, True, True, True, foot and hold)
    order = sorted(joints, key=lambda name: joints[name])
    for first, second in itertools.pairwise(order):
        model.add_member(f"beam {first}", first, second, "steel", "beam")
    model.add_member("front low", "front foot", "tie", "steel", "post")
    model.add_member("front high", "tie", "front head", "steel", "post")
    model.add_member("back", "back foot", "back head", "steel", "post")
    model.add_member("brace", "tie", "back head", "steel", "brace")
    model.def_releases("front high", Rzj=True)
    model.def_releases("back", Rzj=True)
    model.def_releases("brace", Rzi=True, Rzj=True)
    # A module lies on its two purlins: what presses a slice of it goes to them by the lever.
    edges = [0.0, *(low - found.rows.gap_up_m / 2 for low in lows[1:]), table.chord_m]
    half = table.chord_m / 2
    wanted = (
        (0.0, half)
        if unit == "front"
        else (half, table.chord_m)
        if unit == "back"
        else (0.0, table.chord_m)
    )
    for row in range(found.rows.modules_high):
        begin, end = max(edges[row], wanted[0]), min(edges[row + 1], wanted[1])
        if end <= begin:
            continue
        low, high = purlins[2 * row], purlins[2 * row + 1]
        share = ((begin + end) / 2 - low) / (high - low)
        for number, part in ((2 * row, 1 - share), (2 * row + 1, share)):
            force = part * (end - begin)
            node = f"purlin {number}"
            if unit == "weight":
                model.add_node_load(node, "FY", -force)
                model.add_node_load(node, "MZ", force * table.stack_m * math.sin(tilt))
            else:
                model.add_node_load(node, "FX", force * math.sin(tilt))
                model.add_node_load(node, "FY", -force * math.cos(tilt))
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        model.analyze(check_statics=False)
    return model


GRID = [
    (high, tilt, apart, foot, brace)
    for high, apart in ((1, 0.8), (2, 1.7), (3, 2.6))
    for tilt in (8.0, 25.0, 40.0)
    for foot in (0.1, 0.25)
    for brace in ("cross brace", "none")
]


@pytest.mark.filterwarnings("ignore")
@pytest.mark.parametrize(("high", "tilt", "apart", "foot", "brace"), GRID)
def test_a_bent_is_what_another_program_makes_of_it(
    high: int, tilt: float, apart: float, foot: float, brace: str
) -> None:
    design = job(
        site={"slope": 0.03, "falls_toward_deg": 180.0},
        rows={"modules_high": high, "modules_along": 6, "tilt_deg": tilt, "lower_edge_m": 0.8},
        structure={"lines_apart_m": apart, "brace_foot_m": foot, "bent_brace": brace},
    )
    found = untried(design)
    given = design.arrays[0].structure
    shape = shape_of(found.rows, found.structure.posts, given)
    reveals = np.array([heights(found)])
    for hold in (True, False) if brace == "cross brace" else (True,):
        ours = solved(frames_of(shape, reveals, np.array([hold])), unit_loads(shape))
        for unit in ("front", "back", "weight"):
            at = UNITS.index(unit)
            model = modelled(design, found, unit, hold=hold)
            if brace == "none":
                # The same without its brace: a bar that weighs and holds nothing.
                model = without_brace(design, found, unit)
            for foot_at, name in ((FRONT_FOOT, "front foot"), (BACK_FOOT, "back foot")):
                node, own = model.nodes[name], ours.reactions[0, at, foot_at]
                for value, theirs in zip(
                    own.tolist(),
                    (node.RxnFX["Combo 1"], node.RxnFY["Combo 1"], node.RxnMZ["Combo 1"]),
                    strict=True,
                ):
                    assert value == pytest.approx(theirs, rel=1e-6, abs=2e-6)
            for bar, name in ((FRONT_HIGH, "front high"), (BACK, "back")):
                moments = ours.moments_n_m[0, at, bar]
                member = model.members[name]
                largest = max(
                    abs(member.max_moment("Mz", "Combo 1")), abs(member.min_moment("Mz", "Combo 1"))
                )
                assert float(np.abs(moments).max()) == pytest.approx(largest, rel=1e-6, abs=2e-6)
            beams = [member for name, member in model.members.items() if name.startswith("beam")]
            largest = max(
                max(abs(one.max_moment("Mz", "Combo 1")), abs(one.min_moment("Mz", "Combo 1")))
                for one in beams
            )
            mine = np.abs(ours.moments_n_m[0, at, BACK + 1 : BACK + 1 + len(beams)]).max()
            assert float(mine) == pytest.approx(largest, rel=1e-6, abs=2e-6)
            if brace == "cross brace":
                theirs = model.members["brace"].max_axial("Combo 1")
                assert abs(float(ours.pull_n[0, at, -1])) == pytest.approx(
                    max(abs(theirs), abs(model.members["brace"].min_axial("Combo 1"))),
                    rel=1e-6,
                    abs=2e-6,
                )


def without_brace(design: Design, found: Plan, unit: str) -> FEModel3D:
    """The bent whose posts alone hold it."""
    model = modelled(design, found, unit, hold=True)
    model.delete_member("brace")
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        model.analyze(check_statics=False)
    return model


@settings(max_examples=15, deadline=None)
@given(
    pack=st.sampled_from(["us", "metric"]),
    tilt=st.floats(8, 40).map(lambda value: round(value, 1)),
    along=st.integers(4, 14),
    bays=st.integers(1, 4),
    foot=st.sampled_from([0.1, 0.2, 0.3]),
)
def test_cables_pull_as_joint_after_joint_says(
    pack: str, tilt: float, along: int, bays: int, foot: float
) -> None:
    """Feet that turn: each crossed bay carries its share, its cable meets a post over the ground."""
    design = job(
        site={"rule_pack": pack, "slope": 0.0} | ({"wind_speed_m_s": 27.0} if pack == "metric" else {}),
        rows={"modules_along": along, "tilt_deg": tilt},
        structure={"braced_bays": bays, "brace_foot_m": foot, "lines_apart_m": 1.6},
    )
    found = untried(design)
    front_m, back_m = heights(found)
    given, table = design.arrays[0].structure, found.rows.section
    q = found.structure.loads_at[0].wind.velocity_pa * GUST[pack]
    post, beam, brace = (
        section(name) for name in (given.post_section, given.beam_section, given.brace_section)
    )
    line = found.structure.posts.line
    places = bent(design, found, front_m, back_m)
    long = math.dist((places.front_foot[0], places.front_foot[1] + foot), places.back_head)
    beam_m = found.structure.members.beam.length_m
    flat = design.arrays[0].modules.thickness_m * table.chord_m + line.count * beam.depth_m * beam_m
    on_glass = q * (
        RIBBED * 2 * table.chord_m * found.rows.table_length_m
        + FLAT * flat
        + ROUND * brace.depth_m * long * line.count
    )
    along_ = found.structure.members.along
    over = table.stack_m * math.cos(math.radians(tilt))
    spans = line.count - 1
    crossed = min(bays, spans)
    assert along_.cable.lengths_m.size == crossed * 2 * 2
    factor = float(found.structure.loads_at[0].strength.wind.max())
    for role, reveal in ((0, front_m), (1, back_m)):
        mine = found.structure.supports.places.role == role
        own = q * FLAT * post.depth_m * reveal
        heads = on_glass / 2 + line.count * own / 2
        height = reveal + over
        # A post over its pinned foot: the cable's pull at the tie against the push of its head.
        level = heads * height / (height - foot)
        pressed = along_.post_down_n[2, mine]
        # Of one crossed bay its two posts are lifted and pressed alike; of several each takes a part.
        if crossed == 1:
            assert pressed.max() == pytest.approx(level * (height - foot) / line.span_m, rel=2e-3)
            assert along_.post_n[2, mine].max() == pytest.approx(heads + own / 2, rel=2e-3)
        assert along_.post_n[2, mine].sum() >= heads + line.count * own / 2 - 1e-6
        pull = level * math.hypot(line.span_m, height - foot) / line.span_m * factor
        assert along_.cable.pull_n >= pull / crossed * (1 - 2e-3)
        assert along_.post_n_m[0, mine].max() > 0
    if crossed == 1:
        assert along_.cable.pull_n == pytest.approx(pull, rel=2e-3)
