"""Post, beam and strut as one plane frame in PyNiteFEA, against the statics of the core."""

import math
import warnings

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from Pynite import FEModel3D

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, plan
from openfurrow.core.structures.givens import StructureGivens
from tests.designs import said_job, said_rows, said_site

DESIGNS = {
    "two portrait": said_job(name="a"),
    "one portrait, steep": said_job(
        name="b",
        rows=said_rows(modules_high=1, tilt_deg=48.0),
        structure=StructureGivens(strut_reach_m=0.5, strut_foot_m=0.25),
    ),
    "three landscape, metric": said_job(
        name="c",
        site=said_site(rule_pack="metric", wind_speed_m_s=27.0, slope=0.0),
        rows=said_rows(orientation="landscape", modules_high=3, tilt_deg=20.0),
        structure=StructureGivens(span_limit_m=3.0),
    ),
}


def frame(found: Plan, strut_foot_m: float, front_n: float, back_n: float) -> FEModel3D:
    """One post with its beam and strut; forces square to the glass on the lower and upper purlins.

    The post is fixed in the ground; bolts are pins; the beam runs through the post's bolt.
    """
    section, beam, posts = found.rows.section, found.structure.members.beam, found.structure.posts
    tilt = math.radians(section.tilt_deg)
    along, normal = (math.cos(tilt), math.sin(tilt)), (-math.sin(tilt), math.cos(tilt))
    reveal = section.reveal_m

    def at(local: float) -> tuple[float, float]:
        return ((local - beam.bolt_m) * along[0], reveal + (local - beam.bolt_m) * along[1])

    model = FEModel3D()
    model.add_material("steel", 200e9, 77e9, 0.3, 7850)
    # Stiff against stretch, so that the frame shares loads as rigid statics does.
    model.add_section("stiff", 1.0, 1e-3, 1e-3, 1e-3)
    places = (beam.places_m - beam.places_m[0] + 0.05).tolist()
    nodes = {
        "base": (0.0, 0.0),
        "foot": (0.0, strut_foot_m),
        "bolt": (0.0, reveal),
        "low": at(0.0),
        "high": at(beam.length_m),
        "head": at(beam.strut_m),
    }
    for name, (x, y) in nodes.items():
        model.add_node(name, x, y, 0)
        model.def_support(name, name == "base", name == "base", True, True, True, name == "base")
    model.add_member("post", "base", "bolt", "steel", "stiff")
    model.add_member("beam", "low", "high", "steel", "stiff")
    model.add_member("strut", "foot", "head", "steel", "stiff")
    model.def_releases("post", Rzj=True)
    model.def_releases("strut", Rzi=True, Rzj=True)
    lower = beam.places_m < section.chord_m / 2
    for place, low in zip(places, lower.tolist(), strict=True):
        force = (front_n if low else back_n) / (len(places) / 2)
        model.add_member_pt_load("beam", "FX", -force * normal[0], place)
        model.add_member_pt_load("beam", "FY", -force * normal[1], place)
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        model.analyze(check_statics=False)
    assert posts.line.count >= 2
    return model


@pytest.mark.filterwarnings("ignore")
@pytest.mark.parametrize("name", DESIGNS)
@pytest.mark.parametrize("halves", [(1000.0, 1000.0), (1300.0, 500.0), (-250.0, -1250.0)])
def test_ground_actions_and_strut_force(name: str, halves: tuple[float, float]) -> None:
    design = DESIGNS[name]
    found = plan(design)
    section, members = found.rows.section, found.structure.members
    beam, strut = members.beam, members.strut
    foot = design.arrays[0].structure.strut_foot_m
    model = frame(found, foot, *halves)
    base = model.nodes["base"]
    tilt = math.radians(section.tilt_deg)
    front, back = halves
    push, down = (front + back) * math.sin(tilt), (front + back) * math.cos(tilt)
    # The purlins of each half stand about its middle, a quarter of the chord from the bolt; where a
    # module straddles the middle (three high) a few per cent off it.
    moment = push * section.reveal_m + (back - front) * section.chord_m / 4
    assert base.RxnFY["Combo 1"] == pytest.approx(down, rel=1e-6)
    assert base.RxnFX["Combo 1"] == pytest.approx(-push, rel=1e-6)
    assert base.RxnMZ["Combo 1"] == pytest.approx(moment, rel=4e-2, abs=15)
    # The beam on its two supports gives the strut's push by its angle.
    share = beam.strut_pull_n / strut.force_n
    assert share == pytest.approx(math.sin(math.radians(strut.angle_to_beam_deg)), rel=1e-6)
    axial = abs(model.members["strut"].max_axial("Combo 1"))
    across = axial * math.sin(math.radians(strut.angle_to_beam_deg))
    places = beam.places_m - beam.places_m[0] + 0.05
    lower = beam.places_m < section.chord_m / 2
    forces = np.where(lower, front, back) / (places.size / 2)
    about_bolt = float(np.sum(forces * (beam.bolt_m - places)))
    assert across == pytest.approx(abs(about_bolt) / (beam.bolt_m - beam.strut_m), rel=1e-5, abs=1e-3)


@pytest.mark.filterwarnings("ignore")
@pytest.mark.parametrize("name", DESIGNS)
def test_bending_of_the_post_at_the_strut(name: str) -> None:
    design = DESIGNS[name]
    found = plan(design)
    section, foot = found.rows.section, design.arrays[0].structure.strut_foot_m
    front, back = 1300.0, 500.0
    model = frame(found, foot, front, back)
    push = (front + back) * math.sin(math.radians(section.tilt_deg))
    ground = push * section.reveal_m + (back - front) * section.chord_m / 4
    theirs = model.members["post"].moment("Mz", foot, "Combo 1")
    assert abs(theirs) == pytest.approx(abs(ground - push * foot), rel=5e-2, abs=15)


@pytest.mark.filterwarnings("ignore")
@pytest.mark.parametrize("name", DESIGNS)
def test_bending_of_the_beam(name: str) -> None:
    """The core's beam on two supports carries what the whole frame's beam carries."""
    from openfurrow.core.beams import continuous_beam

    found = plan(DESIGNS[name])
    beam, section = found.structure.members.beam, found.rows.section
    model = frame(found, DESIGNS[name].arrays[0].structure.strut_foot_m, 900.0, 1100.0)
    places = beam.places_m - beam.places_m[0] + 0.05
    lower = beam.places_m < section.chord_m / 2
    forces = np.where(lower, 900.0, 1100.0) / (places.size / 2)
    ours = continuous_beam(beam.length_m, [beam.strut_m, beam.bolt_m], 0.0, 1e6, places, forces)
    member = model.members["beam"]
    theirs = max(abs(member.max_moment("Mz", "Combo 1")), abs(member.min_moment("Mz", "Combo 1")))
    assert ours.largest_moment_n_m == pytest.approx(theirs, rel=5e-3)


def free_body_pull_n(found: Plan, strut_foot_m: float) -> float:
    """The hardest a strut is pushed or pulled, by the beam cut free: moments about the post's bolt.

    Wind presses square on the two halves of the chord, a quarter of it either side of the bolt; weight
    and snow act straight down at the glass, over the beam by the stack. Level and plumb, no angles of
    the core's: every force by its own place.
    """
    section, posts, beam = found.rows.section, found.structure.posts, found.structure.members.beam
    loads = found.structure.loads_at[0]
    tilt, width = math.radians(section.tilt_deg), float(posts.line.tributary_m.max())
    reach = beam.bolt_m - beam.strut_m
    area = section.chord_m * width
    worst = 0.0
    combinations = {
        "us": [(1.0, 0.0, 0.6), (1.0, 1.0, 0.0), (1.0, 0.75, 0.45), (0.6, 0.0, 0.6)],
        # The job lies above 1,000 m, where psi_0 of snow is 0.7.
        "metric": [(1.35, 1.5, 0.9), (1.35, 1.05, 1.5), (1.0, 0.0, 1.5), (0.9, 0.0, 1.5)],
    }[found.site.rule_pack]
    # Snow lies on all of the glass, or on its lower half alone where the upper has shed it.
    halves = [(d, s, s, w) for d, s, w in combinations] + [
        (d, s, 0.0, w) for d, s, w in combinations if s
    ]
    for dead, below, above, wind in halves if loads.snow_pa else halves[:4]:
        snow = (below + above) / 2
        weight = area * (dead * loads.dead_kg_per_m2 * 9.80665 + snow * loads.snow_pa * math.cos(tilt))
        for front, back in zip(loads.wind.front_pa, loads.wind.back_pa, strict=True):
            # Turning the front down counts as positive.
            turn = wind * (front - back) * area / 2 * section.chord_m / 4
            turn += weight * section.stack_m * math.sin(tilt)
            # Each half's snow is pressed on square, a quarter of the chord off the bolt.
            square = (below - above) / 2 * loads.snow_pa * math.cos(tilt) ** 2 * area
            turn += square * section.chord_m / 4
            worst = max(worst, abs(turn) / reach)
    # The tallest and the shortest post: a flat strut is pushed harder.
    forces = []
    for reveal in (float(posts.supports.reveals_m.min()), float(posts.supports.reveals_m.max())):
        foot = (0.0, strut_foot_m - reveal)
        head = (-reach * math.cos(tilt), -reach * math.sin(tilt))
        run = (head[0] - foot[0], head[1] - foot[1])
        length = math.hypot(*run)
        square = abs(run[0] * math.sin(tilt) - run[1] * math.cos(tilt)) / length
        forces.append(worst / square)
    return max(forces)


@settings(max_examples=60)
@given(
    tilt=st.floats(15, 50),
    snow=st.floats(0, 4000),
    wind=st.floats(30, 55),
    reach=st.floats(0.45, 0.7),
    pack=st.sampled_from(["us", "metric"]),
)
def test_the_strut_bears_what_the_free_beam_asks(
    plain: Design, tilt: float, snow: float, wind: float, reach: float, pack: str
) -> None:
    """Weight and snow lie over the beam: along the slope they have an arm, and turn it front down."""
    data = plain.model_dump(mode="json")
    data["site"] |= {"ground_snow_pa": snow, "rule_pack": pack, "wind_speed_m_s": wind}
    data["arrays"][0]["rows"] |= {"tilt_deg": tilt}
    data["arrays"][0]["structure"] |= {"strut_reach_m": reach}
    design = Design.model_validate(data)
    found = plan(design)
    # Purlins of each half stand about its middle; the figure takes the half as one.
    force_n = found.structure.members.strut.force_n
    by_hand_n = free_body_pull_n(found, design.arrays[0].structure.strut_foot_m)
    assert 0.99 * by_hand_n <= force_n <= 1.02 * by_hand_n


def test_every_strut_is_as_long_as_its_own_post_asks(demo: Design, demo_plan: Plan) -> None:
    """By rays on the surveyed ground: from the bolt on the post to the bolt on the beam, in level and
    plumb metres."""
    members, posts = demo_plan.structure.members, demo_plan.structure.posts
    beam, strut = members.beam, members.strut
    tilt = math.radians(demo_plan.rows.section.tilt_deg)
    reach = beam.bolt_m - beam.strut_m
    assert float(np.ptp(posts.supports.reveals_m)) > 0.05
    supports = posts.supports
    for ground, reveal, length in zip(
        supports.ground_m, supports.reveals_m, strut.lengths_m, strict=True
    ):
        bolt = ground + reveal
        head = bolt - reach * math.sin(tilt)
        foot = ground + demo.arrays[0].structure.strut_foot_m
        assert math.hypot(reach * math.cos(tilt), head - foot) == pytest.approx(length, abs=1e-9)
    assert strut.length_m == pytest.approx(float(strut.lengths_m.max()))


def test_on_stepped_ground_the_longest_strut_buckles_first(plain: Design) -> None:
    """A metre deeper ground under one end makes that post's strut longer, and the check sees it."""
    data = plain.model_dump(mode="json")
    shots = [
        (e, n, 100.0 - (1.0 if e > 4 else 0.0), "")
        for e in range(-30, 31, 2)
        for n in range(-20, 21, 4)
    ]
    data["site"] |= {
        "ground": "survey",
        "surveys": [{"name": "step", "way": "levels", "readings": shots}],
    }
    found = plan(Design.model_validate(data))
    lengths = found.structure.members.strut.lengths_m
    assert float(lengths.max()) - float(lengths.min()) > 0.5
    assert found.structure.members.strut.length_m == pytest.approx(float(lengths.max()))
    # Euler's load of the longest bounds what any of them may be pushed with.
    section = found.structure.members.strut.section
    euler = math.pi**2 * 200e9 * section.inertia_m4 / float(lengths.max()) ** 2
    assert found.structure.members.strut.limit_n <= euler
