"""Post, beam and strut as one plane frame in PyNiteFEA, against the statics of the core."""

import math
import warnings

import numpy as np
import pytest
from Pynite import FEModel3D

from openfurrow.core.design import Design
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.frame.givens import FrameGivens
from openfurrow.core.plan import Plan, plan
from openfurrow.core.rows.givens import RowsGivens
from openfurrow.core.site.givens import SiteGivens

DESIGNS = {
    "two portrait": Design(name="a"),
    "one portrait, steep": Design(
        name="b", rows=RowsGivens(modules_high=1, tilt_deg=48.0),
        frame=FrameGivens(strut_reach_m=0.5, strut_foot_m=0.25),
    ),
    "three landscape, metric": Design(
        name="c", site=SiteGivens(rule_pack="metric", wind_speed_m_s=27.0, slope=0.0),
        rows=RowsGivens(orientation="landscape", modules_high=3, tilt_deg=20.0),
        footings=FootingsGivens(span_limit_m=3.0),
    ),
}


def frame(found: Plan, strut_foot_m: float, front_n: float, back_n: float) -> FEModel3D:
    """One post with its beam and strut; forces square to the glass on the lower and upper purlins.

    The post is fixed in the ground; bolts are pins; the beam runs through the post's bolt.
    """
    section, beam, posts = found.rows.section, found.frame.beam, found.footings.posts
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
    nodes = {"base": (0.0, 0.0), "foot": (0.0, strut_foot_m), "bolt": (0.0, reveal),
             "low": at(0.0), "high": at(beam.length_m), "head": at(beam.strut_m)}
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
    section, beam, strut = found.rows.section, found.frame.beam, found.frame.strut
    foot = design.frame.strut_foot_m
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
    section, foot = found.rows.section, design.frame.strut_foot_m
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
    beam, section = found.frame.beam, found.rows.section
    model = frame(found, DESIGNS[name].frame.strut_foot_m, 900.0, 1100.0)
    places = beam.places_m - beam.places_m[0] + 0.05
    lower = beam.places_m < section.chord_m / 2
    forces = np.where(lower, 900.0, 1100.0) / (places.size / 2)
    ours = continuous_beam(beam.length_m, [beam.strut_m, beam.bolt_m], 0.0, 1e6, places, forces)
    member = model.members["beam"]
    theirs = max(abs(member.max_moment("Mz", "Combo 1")), abs(member.min_moment("Mz", "Combo 1")))
    assert ours.largest_moment_n_m == pytest.approx(theirs, rel=5e-3)
