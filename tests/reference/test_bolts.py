"""Bolts of the frame against printed strengths, free bodies of beams, and purlins in PyNiteFEA."""

import math
import warnings

import numpy as np
import pytest
from Pynite import FEModel3D

from openfurrow.core.codes.section import section
from openfurrow.core.design import Design
from openfurrow.core.frame.bolts import Bolted, bolted, chosen_bolt
from openfurrow.core.members.bolts import (
    bearing_limit_n,
    bolt,
    pull_n,
    shear_limit_n,
    slip_limit_n,
    torque_n_m,
)
from openfurrow.core.plan import Plan, plan
from openfurrow.core.quantities import INCH_M, KSI_PA, POUND_FORCE_N
from openfurrow.demo.designs import DESIGNS
from tests.designs import changed, plain_larkspur
from tests.reference.test_edge_gusts import US, bent_everywhere
from tests.reference.two_lines import about, bent, forces, job

KIP_N = 1000 * POUND_FORCE_N


def joints(design: Design) -> tuple[Plan, dict[str, Bolted]]:
    found = plan(design)
    array = design.arrays[0]
    told = bolted(found.structure.members, found.frame.lines_cut, array.frame, design.site.rule_pack)
    return found, {one.key: one for one in told}


@pytest.mark.parametrize(("size", "kips"), [("1/2", 5.30), ("5/8", 8.29), ("3/4", 11.9)])
def test_hardened_bolts_shear_as_the_manual_prints_it(size: str, kips: float) -> None:
    """From memory of the AISC Manual, Table 7-1: A325-N in one shear plane, allowable strength."""
    one = bolt("us", size, "A325")
    assert shear_limit_n(one, "us", 1) / KIP_N == pytest.approx(kips, rel=0.005)
    assert shear_limit_n(one, "us", 2) / KIP_N == pytest.approx(2 * kips, rel=0.005)


@pytest.mark.parametrize(
    ("size", "grade", "kilonewtons"),
    [("M12", "8.8", 32.4), ("M16", "8.8", 60.3), ("M20", "8.8", 94.1), ("M16", "4.6", 30.1)],
)
def test_metric_bolts_shear_as_design_tables_print_it(
    size: str, grade: str, kilonewtons: float
) -> None:
    """From memory of tables to EN 1993-1-8: shear resistance of one plane through the thread."""
    assert shear_limit_n(bolt("metric", size, grade), "metric", 1) == pytest.approx(
        kilonewtons * 1000, rel=0.005
    )


def test_a_plate_bears_as_written_out_by_hand() -> None:
    """Both clauses with their numbers put in, far from the edge and near it.

    us: 1/4 in plate of 58 ksi, 3/4 in bolt: 2.4 x 0.75 x 0.25 x 58 / 2 = 13.05 kips; with 1 in to the
    edge the clear distance is 1 - 13/32: 1.2 x 0.594 x 0.25 x 58 / 2 = 5.17 kips.
    metric: 8 mm of 360, M16: 2.5 x 1 x 360 x 16 x 8 / 1.25 = 92.2 kN; with 27 mm, half of 3 d_0, half.
    """
    us, metric = bolt("us", "3/4", "A325"), bolt("metric", "M16", "8.8")
    far = bearing_limit_n(us, "us", 0.25 * INCH_M, 58 * KSI_PA, 10 * INCH_M)
    near = bearing_limit_n(us, "us", 0.25 * INCH_M, 58 * KSI_PA, INCH_M)
    assert far / KIP_N == pytest.approx(13.05, rel=1e-3)
    assert near / KIP_N == pytest.approx(5.17, rel=2e-3)
    assert bearing_limit_n(metric, "metric", 0.008, 360e6, 0.5) == pytest.approx(92.16e3, rel=1e-3)
    assert bearing_limit_n(metric, "metric", 0.008, 360e6, 0.027) == pytest.approx(46.08e3, rel=1e-3)


def test_the_torque_is_a_fifth_of_pull_and_diameter() -> None:
    """Common practice, no published source: M16 of 8.8 stretched to 0.35 of 125 kN."""
    assert torque_n_m(bolt("metric", "M16", "8.8")) == pytest.approx(
        0.2 * 0.016 * 0.35 * 125.4e3, rel=1e-3
    )


SHAPES = [
    {},
    {"rows": {"tilt_deg": 15.0}},
    {"rows": {"tilt_deg": 48.0, "modules_high": 1}},
    {"site": {"wind_speed_m_s": 60.0}, "structure": {"strut_reach_m": 0.5}},
    {"site": {"ground_snow_pa": 3000.0}, "structure": {"strut_foot_m": 0.3}},
]


@pytest.mark.parametrize("parts", SHAPES)
def test_the_pivot_holds_what_a_free_body_of_the_beam_asks(parts: dict[str, dict[str, object]]) -> None:
    """Of every case the strut by moments about the bolt, and the bolt by what is left of all forces."""
    structure = {"family": "one post line"} | dict(parts.get("structure", {}))
    design = job(**{**parts, "structure": structure})
    found, told = joints(design)
    section = found.rows.section
    line = found.structure.posts.lines[0]
    row_m, reveal = float(line.tributary_m.max()), float(found.structure.supports.reveals_m[0])
    tilt = math.radians(section.tilt_deg)
    # A strut reaches no further than the beam, which ends 50 mm past the lowest purlin.
    end = section.chord_m / 2 - 0.22 * found.rows.module_up_m + 0.05
    reach = min(design.arrays[0].structure.strut_reach_m, end)
    # The bolt stands under mid-glass by the stack, square to it; the strut's head down the slope.
    pivot = (
        section.chord_m / 2 * math.cos(tilt) + section.stack_m * math.sin(tilt),
        section.chord_m / 2 * math.sin(tilt) - section.stack_m * math.cos(tilt),
    )
    head = (pivot[0] - reach * math.cos(tilt), pivot[1] - reach * math.sin(tilt))
    foot = (pivot[0], pivot[1] - reveal + design.arrays[0].structure.strut_foot_m)
    long = math.dist(head, foot)
    way = ((head[0] - foot[0]) / long, (head[1] - foot[1]) / long)
    most = 0.0
    loads = found.structure.loads_at[0]
    for combination in range(loads.strength.dead.size):
        for case in range(len(loads.wind.names)):
            acting = forces(found, combination, case, row_m)
            # A push of one newton up the strut turns the beam by its arm about the bolt.
            arm = (head[0] - pivot[0]) * way[1] - (head[1] - pivot[1]) * way[0]
            push = -about(pivot, acting) / arm
            left = (
                sum(one.along_x for one in acting) + push * way[0],
                sum(one.up for one in acting) + push * way[1],
            )
            most = max(most, abs(push), math.hypot(*left))
    held = told["post_bolt"].force_n
    assert most * (1 - 1e-6) <= held <= 1.6 * most


@pytest.mark.parametrize("family", ["two post lines", "ballast frame"])
@pytest.mark.parametrize("wind", [35.0, 55.0])
def test_heads_of_a_bent_hold_what_moments_about_the_other_ask(family: str, wind: float) -> None:
    """The beam is a body on two bolts: square to it each holds what moments about the other leave."""
    rows = {"rows": 1, "modules_high": 1, "tilt_deg": 20.0, "lower_edge_m": 1.0}
    structure: dict[str, object] = {"family": family, "lines_apart_m": 1.1, "brace_foot_m": 0.4}
    design = job(rows=rows, structure=structure, site={"wind_speed_m_s": wind})
    found, told = joints(design)
    tilt = math.radians(found.rows.section.tilt_deg)
    stands = bent(design, found, 1.0, 1.4)
    row_m = float(found.structure.posts.lines[0].tributary_m.max())
    square, apart = (math.sin(tilt), -math.cos(tilt)), math.dist(stands.front_head, stands.back_head)
    most = 0.0
    loads = found.structure.loads_at[0]
    for combination in range(loads.strength.dead.size):
        for case in range(len(loads.wind.names)):
            acting = forces(found, combination, case, row_m)
            for other in (stands.front_head, stands.back_head):
                most = max(most, abs(about(other, acting)) / apart)
    assert square[1] < 0
    held = told["post_bolt"].force_n
    assert most * (1 - 1e-6) <= held <= 3 * most
    brace = found.structure.members.used
    assert any(one.what == "brace" for one in brace) == ("brace_bolt" in told)


def test_heads_without_a_brace_hold_what_posts_bring_in_pynite() -> None:
    """Two posts built in at the ground, the beam hinged on both: pull and shear at each head."""
    design = job(
        rows={"rows": 1, "modules_high": 1, "tilt_deg": 45.0, "lower_edge_m": 0.8},
        structure={"family": "two post lines", "lines_apart_m": 0.9, "bent_brace": "none"},
    )
    found, told = joints(design)
    assert "brace_bolt" not in told
    supports, given_s = found.structure.supports, design.arrays[0].structure
    of_role = supports.places.role
    front, back = (float(supports.reveals_m[of_role == role][0]) for role in (0, 1))
    stands, row_m = bent(design, found, front, back), float(supports.tributary_m.max())
    post, beam = section(given_s.post_section), section(given_s.beam_section)
    loads, most = found.structure.loads_at[0], 0.0
    for combination in range(loads.strength.dead.size):
        for case in range(len(loads.wind.names)):
            acting = forces(found, combination, case, row_m)
            model = FEModel3D()
            model.add_material("steel", 200e9, 77e9, 0.3, 7850)
            for name, one in (("post", post), ("beam", beam)):
                inertia = one.inertia_m4
                model.add_section(name, one.area_m2, inertia, inertia, inertia)
            for name, (x, z) in vars(stands).items():
                model.add_node(name, x, z, 0)
                foot = name.endswith("foot")
                model.def_support(name, foot, foot, True, True, True, foot)
            model.add_member("front", "front_foot", "front_head", "steel", "post")
            model.add_member("back", "back_foot", "back_head", "steel", "post")
            model.add_member("beam", "front_head", "back_head", "steel", "beam")
            model.def_releases("front", Rzj=True)
            model.def_releases("back", Rzj=True)
            # All that acts, carried to the front head as a force and a moment.
            model.add_node_load("front_head", "FX", sum(one.along_x for one in acting))
            model.add_node_load("front_head", "FY", sum(one.up for one in acting))
            model.add_node_load("front_head", "MZ", about(stands.front_head, acting))
            with warnings.catch_warnings():
                warnings.simplefilter("ignore")
                model.analyze(check_statics=False)
            for foot in ("front_foot", "back_foot"):
                node = model.nodes[foot]
                # Nothing acts on a post between: what holds its foot is what its head is pushed with.
                most = max(most, math.hypot(node.RxnFX["Combo 1"], node.RxnFY["Combo 1"]))
    assert most * (1 - 1e-4) <= told["post_bolt"].force_n <= 1.2 * most


def test_crossings_and_splices_in_pynite() -> None:
    """The purlin of Larkspur as a beam on its posts: its largest reaction, and what a lap takes."""
    design = changed(plain_larkspur(), "frame", stock_length_m=5.0)
    design = changed(design, "rows", tilt_deg=30.0)
    found, told = joints(design)
    purlin, line = found.structure.members.purlin, found.frame.line
    model = FEModel3D()
    model.add_material("steel", 200e9, 77e9, 0.3, 7850)
    inertia = purlin.section.inertia_m4
    model.add_section("z", purlin.section.area_m2, inertia, inertia, 2 * inertia)
    model.add_node("start", 0, 0, 0)
    model.add_node("end", purlin.line.purlin_m, 0, 0)
    for number, x in enumerate(purlin.line.along_m.tolist()):
        model.add_node(f"post {number}", x, 0, 0)
        model.def_support(f"post {number}", True, True, True, True, False, False)
    model.add_member("purlin", "start", "end", "steel", "z")
    worst = max(purlin.load_n_per_m, purlin.lift_n_per_m)
    model.add_member_dist_load("purlin", "Fy", -worst, -worst)
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        model.analyze(check_statics=False)
    most = max(abs(model.nodes[f"post {n}"].RxnFY["Combo 1"]) for n in range(len(purlin.line.along_m)))
    tilt = math.radians(found.rows.section.tilt_deg)
    loads = found.structure.loads_at[0]
    combined, dead = loads.strength, float(loads.dead_of_kg_per_m2[0]) * 9.80665
    share = found.rows.section.chord_m / 4
    slope = max(
        (float(d) * dead + max(float(s), float(b)) * loads.snow_pa * math.cos(tilt)) * math.sin(tilt)
        for d, s, b in zip(combined.dead, combined.snow, combined.snow_back, strict=True)
    )
    slid = slope * share * most / worst
    # A gust on what one crossing carries, by the figure: so much is in zone 2.
    row_m = float(purlin.line.tributary_m.max())
    wind = float(combined.wind.max()) * loads.wind.velocity_pa * 0.85 * US[30][0][1]
    snow = max(
        float(d) * dead * math.cos(tilt)
        + max(float(s), float(b)) * loads.snow_pa * math.cos(tilt) ** 2
        + float(w) / float(combined.wind.max()) * wind
        for d, s, b, w in zip(
            combined.dead, combined.snow, combined.snow_back, combined.wind, strict=True
        )
    )
    assert 0.9**2 < row_m * share < 4 * 0.9**2
    held = max(most, snow * row_m * share)
    assert told["purlin_bolt"].force_n == pytest.approx(math.hypot(held, slid) / 2, rel=1e-3)
    lap, past = design.arrays[0].frame.lap_m, design.arrays[0].frame.beyond_bolt_m
    member, asked = model.members["purlin"], 0.0
    # A gust on one bay bends it at a splice too; what cuts there grows as the most of the bending.
    lies = (purlin.line.purlin_m, share, True)
    at, pressed, lifted = bent_everywhere(
        design, lies, purlin.line.along_m, float(loads.dead_of_kg_per_m2[0])
    )
    blown = np.maximum(pressed, lifted)
    worse = max(
        1.0, float(blown.max()) / abs(worst * purlin.bending.pressing_n_m / purlin.load_n_per_m)
    )
    for start in line.starts_m[1:]:
        moment = abs(member.moment("Mz", start + lap / 2))
        moment = max(moment, float(np.interp(start + lap / 2, at, blown)))
        shear = abs(member.shear("Fy", start + lap / 2)) * worse
        asked = max(asked, moment / (lap - 2 * past) / 2 + shear / 4)
    assert told["splice_bolt"].force_n == pytest.approx(asked, rel=0.03)


def test_a_purlin_that_nothing_holds_bends_down_the_slope_too() -> None:
    """By hand: weight and snow down the slope on its share, over the spans it has anyway."""
    design = plain_larkspur()
    found = plan(design)
    purlin = found.structure.members.purlin
    loads, tilt = found.structure.loads_at[0], math.radians(found.rows.section.tilt_deg)
    dead = float(loads.dead_of_kg_per_m2[0]) * 9.80665
    combined = loads.strength
    area = [
        (float(d) * dead + max(float(s), float(b)) * loads.snow_pa * math.cos(tilt)) * math.sin(tilt)
        for d, s, b in zip(combined.dead, combined.snow, combined.snow_back, strict=True)
    ]
    assert purlin.slope_n_per_m == pytest.approx(max(area) * found.rows.section.chord_m / 4)
    # It bends sideways over the same spans as square to the glass: in the ratio of the loads.
    per_load = purlin.bending.pressing_n_m / purlin.load_n_per_m
    assert purlin.loose is not None
    assert purlin.loose.sideways_n_m == pytest.approx(purlin.slope_n_per_m * per_load)
    loose = plan(changed(design, "structure", modules_hold_purlins=False))
    check = next(c for c in loose.checks if c.key == "purlin")
    own = next(c for c in found.checks if c.key == "purlin")
    # Loose it turns over too, so that bending square to the glass uses more than it did.
    free = loose.structure.members.purlin
    assert free.bending.limit_n_m < purlin.bending.limit_n_m
    assert float(check.measured) > float(own.measured) + purlin.sideways
    assert float(check.measured) == pytest.approx(free.used)


def test_more_wind_thinner_bolts_and_one_side_never_use_less() -> None:
    design = plain_larkspur()

    def used(of: Design) -> float:
        _, told = joints(of)
        return max(one.used for one in told.values())

    usual = used(design)
    assert used(changed(design, "site", wind_speed_m_s=60.0)) > usual
    assert used(changed(design, "frame", bolt_us="1/2")) > usual
    assert used(changed(design, "frame", grade_us="A307")) >= usual
    assert used(changed(design, "frame", bolt_faces="both sides")) <= usual
    assert used(changed(design, "frame", beyond_bolt_m=0.02)) > usual
    assert used(changed(design, "structure", post_top_m=0.02)) >= usual
    # A pipe of 2 in: its nearer wall alone, or both where it is held on both sides.
    _, one = joints(design)
    _, both = joints(changed(design, "frame", bolt_faces="both sides"))
    wall_m, bolt_58 = 0.93 * 0.154 * INCH_M, bolt("us", "5/8", "A325")
    single = bearing_limit_n(bolt_58, "us", wall_m, 1.2 * 240e6, 1.5 * INCH_M)
    assert one["post_bolt"].weakest.name == "pipe 2 in"
    assert one["post_bolt"].bearing_n == pytest.approx(single, rel=2e-3)
    assert one["post_bolt"].bearing_n < both["post_bolt"].bearing_n <= 2 * single * 1.002
    # The check says what the joints say.
    found, told = joints(changed(design, "frame", bolt_us="3/8", grade_us="A307"))
    check = next(c for c in found.checks if c.key == "bolts")
    assert check.level == "stop" and check.measured == pytest.approx(
        max(one.used for one in told.values())
    )
    assert chosen_bolt(design.arrays[0].frame, "us").label == "5/8 in, A325"
    assert np.isfinite(float(check.measured))


def test_a_hole_at_the_very_edge_bears_next_to_nothing_and_says_so() -> None:
    edge = changed(plain_larkspur(), "frame", bolt_us="3/4", beyond_bolt_m=0.01)
    found, told = joints(edge)
    assert told["post_bolt"].bearing_n == 0.0
    check = next(c for c in found.checks if c.key == "bolts")
    assert check.level == "stop" and math.isfinite(float(check.measured))


def test_friction_in_a_slot_against_worked_examples() -> None:
    """EN 1993-1-8, 3.9: M16 8.8 at 0.7 f_ub A_s = 87.9 kN, k_s 0.63, class D: 8.86 kN a face.

    AISC 360-16, J3.8, without its D_u: 19 kip, class A, omega 2.14: 2.66 kip a face.
    """
    preload = 0.7 * 800e6 * 157e-6
    assert slip_limit_n("metric", preload, 1) == pytest.approx(8.86e3, rel=1e-3)
    assert slip_limit_n("metric", preload, 2) == pytest.approx(2 * 8.86e3, rel=1e-3)
    kip = 4448.22
    assert slip_limit_n("us", 19 * kip, 1) / kip == pytest.approx(2.664, rel=1e-3)
    # T = K d F, both ways: common practice.
    one = bolt("metric", "M16", "8.8")
    assert pull_n(one, 0.2 * 0.016 * 30e3) == pytest.approx(30e3)
    assert pull_n(one, torque_n_m(one)) == pytest.approx(0.35 * 800e6 * one.thread_area_m2)


@pytest.mark.parametrize("name", ["larkspur", "grifo", "varnbeck"])
def test_a_slotted_head_slides_long_before_its_bolt_is_cut(name: str) -> None:
    """Friction by hand from the torque that is told; round holes are asked nothing."""
    design = DESIGNS[name]()
    slotted = changed(design, "frame", slot_m=0.04)
    pack = design.site.rule_pack
    found = plan(slotted)
    told = {one.key: one for one in found.frame.answers}
    torque = told["bolt_torque"].working.value
    force = told["holds_post_bolt"].working.value
    assert not isinstance(torque, str) and not isinstance(force, str)
    size = design.arrays[0].frame.bolt_us if pack == "us" else design.arrays[0].frame.bolt_metric
    across = {"5/8": 0.015875, "1/2": 0.0127, "3/8": 0.009525}.get(size) or int(size[1:]) / 1000
    pull = torque / 0.2 / across
    faces = 2 if design.arrays[0].frame.bolt_faces == "both sides" else 1
    holds = pull * faces * (0.3 / 2.14 if pack == "us" else 0.63 * 0.2 / 1.25)
    (check,) = (one for one in found.frame.checks if one.key == "slip")
    assert check.measured == pytest.approx(force / holds, rel=1e-6)
    assert (check.level == "sound") == (force <= holds)
    # Twice the torque holds twice as much.
    tighter = plan(changed(slotted, "frame", bolt_torque_n_m=2 * torque))
    (again,) = (one for one in tighter.frame.checks if one.key == "slip")
    assert again.measured == pytest.approx(check.measured / 2, rel=1e-6)
    for held in ("teeth", "a second bolt in a round hole"):
        (bears,) = (
            one
            for one in plan(changed(slotted, "frame", slot_held=held)).frame.checks
            if one.key == "slip"
        )
        assert bears.level == "sound"
    assert "slip" not in {one.key for one in plan(design).frame.checks}


@pytest.mark.parametrize("pack", ["us", "metric"])
def test_a_thin_bracket_bears_less_than_what_it_holds(pack: str) -> None:
    """By hand, plain steel of 360 MPa: AISC 360-16, J3.10, or EN 1993-1-8, Table 3.4, per face."""
    design = DESIGNS["larkspur" if pack == "us" else "varnbeck"]()
    frame = design.arrays[0].frame
    _, before = joints(design)
    thin = 0.001
    _, told = joints(changed(design, "frame", bracket_m=thin))
    one = chosen_bolt(frame, design.site.rule_pack)
    faces = 2 if frame.bolt_faces == "both sides" else 1
    edge = frame.beyond_bolt_m
    if pack == "us":
        clear = edge - one.hole_m / 2
        bears = min(2.4 * one.diameter_m, 1.2 * clear) * thin * 360e6 / 2
    else:
        alpha = min(edge / (3 * one.hole_m), 1.0)
        bears = 2.5 * alpha * 360e6 * one.diameter_m * thin / 1.25
    for key, joint in told.items():
        if key in ("splice_bolt", "purlin_bolt"):
            # Webs and flanges lie on each other: nothing is between.
            assert joint == before[key]
            continue
        assert joint.weakest.name == "bracket"
        assert joint.bearing_n == pytest.approx(faces * bears, rel=1e-6)
    # A thick one changes nothing.
    _, thick = joints(changed(design, "frame", bracket_m=0.03))
    assert thick == before
