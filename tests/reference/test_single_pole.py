"""A single pole by hand: the table as a free body in space, its cross pipe in PyNiteFEA, the grip.

Two to four modules on one pole, and a gust on half of the table alone with its force a quarter of the
length off: common practice, no published source. What a pipe bears of shear and twist: AISC 360-16, G5
and H3, and EN 1993-1-1, 6.2.6 and 6.2.7 (from memory).
"""

import itertools
import math
from dataclasses import dataclass

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from Pynite import FEModel3D

from openfurrow.core.codes.section import section
from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, untried
from tests.core.test_checks import broken
from tests.designs import changed, plain_larkspur
from tests.reference.test_wind_along import FLAT, GUST, RIBBED, ROUND

G = 9.80665
PIPES = ["pipe 2 in", "pipe 2-1/2 in", "pipe 3 in", "pipe 4 in"]


def job(**parts: dict[str, object]) -> Design:
    """Larkspur with a table of two modules on one pole, and what a test says."""
    said = {stage: dict(givens) for stage, givens in parts.items()}
    small = {"rows": 1, "tables_along": 1, "modules_high": 1, "modules_along": 2}
    said["rows"] = small | said.get("rows", {})
    said["structure"] = {"family": "single pole", "pipe_section": "pipe 3 in"} | said.get(
        "structure", {}
    )
    return broken(plain_larkspur(), said)


def designs() -> st.SearchStrategy[Design]:
    def made(pack: str, tilt: float, high: int, along: int, slope: float, pipes: tuple[str, str]):
        return job(
            site={"rule_pack": pack, "slope": slope, "falls_toward_deg": 180.0}
            | ({"wind_speed_m_s": 27.0} if pack == "metric" else {}),
            rows={"modules_high": high, "modules_along": along, "tilt_deg": tilt, "lower_edge_m": 0.8},
            structure={"pole_section": pipes[0], "pipe_section": pipes[1]},
        )

    return st.builds(
        made,
        st.sampled_from(["us", "metric"]),
        st.floats(0, 55).map(lambda value: round(value, 1)),
        st.integers(1, 3),
        st.integers(1, 5),
        st.floats(0, 0.08),
        st.tuples(st.sampled_from(PIPES[2:]), st.sampled_from(PIPES)),
    )


@dataclass(frozen=True)
class Push:
    """A force in space: x level to the back, y along the row, z up."""

    at: np.ndarray
    force: np.ndarray


def gusts(found: Plan) -> list[tuple[str, np.ndarray]]:
    """Every gust as pressures on the quarters of the glass: lower and upper, left and right."""
    wind = found.structure.loads_at[0].wind
    told: list[tuple[str, float, float]] = []
    for name, low, high in zip(wind.names, wind.front_pa.tolist(), wind.back_pa.tolist(), strict=True):
        told.append((name, low, high))
        if low and high:
            told += [(f"{name}, lower half alone", low, 0.0), (f"{name}, upper half alone", 0.0, high)]
    return [
        (f"{name}{words}", np.array([[low * left, low], [high * left, high]]))
        for name, low, high in told
        for words, left in (("", 1.0), (", on one half of the length", 0.0))
    ]


def acting(found: Plan, combination: int, pressures: np.ndarray) -> list[Push]:
    """What acts on the quarters of the table, from the middle of its lower edge."""
    rows, loads = found.rows, found.structure.loads_at[0]
    table, combined = rows.section, loads.strength
    tilt, up, long = math.radians(table.tilt_deg), table.chord_m / 2, rows.table_length_m / 2
    dead = float(loads.dead_of_kg_per_m2[0]) * G * float(combined.dead[combination])
    pushes = []
    for (half, side), pressure in np.ndenumerate(pressures):
        middle = (half + 0.5) * up
        at = np.array([middle * math.cos(tilt), (side - 0.5) * long, middle * math.sin(tilt)])
        square = np.array([math.sin(tilt), 0.0, -math.cos(tilt)])
        wind = float(combined.wind[combination]) * pressure * up * long
        snow = float((combined.snow, combined.snow_back)[half][combination])
        weight = (dead + snow * loads.snow_pa * math.cos(tilt)) * up * long
        pushes += [Push(at, wind * square), Push(at, np.array([0.0, 0.0, -weight]))]
    return pushes


def foot_of(found: Plan, reveal_m: float) -> np.ndarray:
    """The foot: the pipe lies under mid-glass by the stack, square to it, the ground so far below."""
    table = found.rows.section
    tilt = math.radians(table.tilt_deg)
    up, under = table.chord_m / 2, table.stack_m
    x = up * math.cos(tilt) + under * math.sin(tilt)
    return np.array([x, 0.0, up * math.sin(tilt) - under * math.cos(tilt) - reveal_m])


def summed(pushes: list[Push], about: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    force = sum((one.force for one in pushes), np.zeros(3))
    moment = sum((np.cross(one.at - about, one.force) for one in pushes), np.zeros(3))
    return force, moment


@settings(max_examples=30, deadline=None)
@given(designs())
def test_the_ground_is_asked_for_what_acts_on_the_table(design: Design) -> None:
    found = untried(design)
    asked, loads = found.structure.reactions, found.structure.loads_at[0]
    reveal = float(found.structure.supports.reveals_m[0])
    assert asked.bounds == 2
    looked = set()
    for combination, (name, pressures) in itertools.product(
        range(len(loads.strength.names)), gusts(found)
    ):
        if not loads.strength.wind[combination]:
            continue
        words = f"{loads.strength.names[combination]}, {name}"
        column = asked.names.index(words)
        looked.add(words)
        force, moment = summed(acting(found, combination, pressures), foot_of(found, reveal))
        scale = float(np.abs(force).sum()) + 1.0
        assert asked.down_n[0, column] == pytest.approx(-force[2], abs=1e-9 * scale)
        assert asked.across_n[0, column] == pytest.approx(force[0], abs=1e-9 * scale)
        # Head to the back is about +y, along the row about x; whichever way, where the side is any.
        assert asked.moment_n_m[0, column] == pytest.approx(moment[1], abs=1e-9 * scale)
        assert asked.along_moment_n_m[0, column] == pytest.approx(abs(moment[0]), abs=1e-9 * scale)
        assert asked.twist_n_m[0, column] == pytest.approx(abs(moment[2]), abs=1e-9 * scale)
    windy = {name for name in asked.names if "along the row" not in name} - set(loads.strength.names)
    assert windy == looked


@settings(max_examples=20, deadline=None)
@given(designs())
def test_wind_along_the_row_is_all_the_poles_own(design: Design) -> None:
    found = untried(design)
    rows, structure = found.rows, found.structure
    pole, rail = structure.posts.post, structure.members.beam
    q = structure.loads_at[0].wind.velocity_pa * GUST[design.site.rule_pack]
    tilt, reveal = math.radians(rows.section.tilt_deg), float(structure.supports.reveals_m[0])
    edge = design.arrays[0].modules.thickness_m * rows.section.chord_m
    rails = 2 * rows.modules_along * rail.section.depth_m * rail.length_m
    glass = q * (RIBBED * 2 * rows.section.chord_m * rows.table_length_m + FLAT * (edge + rails))
    own = q * ROUND * pole.depth_m * reveal
    turned = glass * (reveal + rows.section.stack_m * math.cos(tilt)) + own * reveal / 2
    asked, combined = structure.reactions, structure.loads_at[0].strength
    for name, factor in zip(combined.names, combined.wind.tolist(), strict=True):
        if factor:
            column = asked.names.index(f"{name}, along the row")
            assert asked.along_n[0, column] == pytest.approx(factor * (glass + own))
            assert asked.along_moment_n_m[0, column] == pytest.approx(factor * turned)


def bears(name: str, pack: str) -> tuple[float, float, float]:
    """Bending, shear and twist that a pipe bears, from its outside and its wall."""
    pipe = section(name)
    outside, inside = pipe.depth_m, pipe.depth_m - 2 * pipe.web_m
    inertia = math.pi / 64 * (outside**4 - inside**4)
    area = math.pi / 4 * (outside**2 - inside**2)
    bending = inertia / (outside / 2) * pipe.yield_pa
    twist = 2 * inertia / (outside / 2) * pipe.yield_pa
    if pack == "us":
        return bending / 1.67, 0.6 * pipe.yield_pa * area / 2 / 1.67, 0.6 * twist / 1.67
    return bending, 2 / math.pi * area * pipe.yield_pa / 3**0.5, twist / 3**0.5


def by_fem(design: Design, found: Plan, row: np.ndarray, turning: float) -> tuple[float, ...]:
    """One side of the cross pipe as a cantilever in space: bending, shear, twist, and how far it sags.

    ``row`` is the force on a metre of the row, across and down; ``turning`` its couple about the pipe.
    """
    rows, pipe = found.rows, section(design.arrays[0].structure.pipe_section)
    model = FEModel3D()
    modulus = 200e9
    model.add_material("steel", modulus, modulus / 2.6, 0.3, 7850)
    model.add_section("pipe", pipe.area_m2, pipe.inertia_m4, pipe.inertia_m4, 2 * pipe.inertia_m4)
    # Two rails a module, a fifth to a quarter in from its edges; those past the pole on one side.
    step, zone = rows.module_along_m + rows.gap_along_m, 0.22
    middle = rows.table_length_m / 2
    places = sorted(
        column * step + share * rows.module_along_m - middle
        for column in range(rows.modules_along)
        for share in (zone, 1 - zone)
    )
    side = [place for place in places if place > 1e-9]
    end = middle + design.arrays[0].modules.purlin_end_m
    joints = [0.0, *side, end]
    for number, x in enumerate(joints):
        model.add_node(f"n{number}", x, 0, 0)
    for number in range(len(joints) - 1):
        model.add_member(f"m{number}", f"n{number}", f"n{number + 1}", "steel", "pipe")
    model.def_support("n0", True, True, True, True, True, True)
    each = rows.table_length_m / len(places)
    for number in range(1, len(joints) - 1):
        model.add_node_load(f"n{number}", "FY", -float(row[1]) * each)
        model.add_node_load(f"n{number}", "FZ", float(row[0]) * each)
        model.add_node_load(f"n{number}", "MX", turning * each)
    model.analyze(check_statics=False)
    held, tip = model.nodes["n0"], model.nodes[f"n{len(joints) - 1}"]
    shear = math.hypot(held.RxnFY["Combo 1"], held.RxnFZ["Combo 1"])
    moment = math.hypot(held.RxnMY["Combo 1"], held.RxnMZ["Combo 1"])
    sag = math.hypot(tip.DY["Combo 1"], tip.DZ["Combo 1"])
    return moment, shear, abs(held.RxnMX["Combo 1"]), sag


def of_row(found: Plan, combination: int, pressures: np.ndarray) -> tuple[np.ndarray, float]:
    """What a metre of the row brings to the pipe: across and down, and its couple about the pipe."""
    force, moment = summed(acting(found, combination, pressures), foot_of(found, 0.0))
    long = found.rows.table_length_m
    return np.array([force[0], -force[2]]) / long, float(moment[1]) / long


@settings(max_examples=12, deadline=None)
@given(designs())
def test_the_cross_pipe_is_a_cantilever_to_both_sides(design: Design) -> None:
    found = untried(design)
    loads, name = found.structure.loads_at[0], design.arrays[0].structure.pipe_section
    bending, shearing, twisting = bears(name, design.site.rule_pack)
    worst = 0.0
    unit = by_fem(design, found, np.array([0.0, 1.0]), 1.0)
    for combination in range(len(loads.strength.names)):
        for _, pressures in gusts(found)[::2]:
            row, turning = of_row(found, combination, pressures)
            load = float(np.hypot(*row))
            shear, twist = load * unit[1] / shearing, abs(turning) * unit[2] / twisting
            worst = max(worst, load * unit[0] / bending + (shear + twist) ** 2)
    members = found.structure.members
    assert members.pipe.used == pytest.approx(worst, rel=1e-3)
    # The last case in full, not by parts.
    moment, shear, twist, _ = by_fem(design, found, row, turning)
    assert (moment, shear, twist) == pytest.approx(
        (load * unit[0], load * unit[1], abs(turning) * unit[2]), rel=1e-9
    )
    # Sag scales with the service load, which is a metre's most.
    service = members.purlin.sag_m / unit[3]
    used = 0.0
    for combination in range(len(loads.service.names)):
        for _, pressures in gusts(found)[::2]:
            of_use = found.structure.loads_at[0].service
            force = float(of_use.wind[combination]) * pressures.sum() / 4 * found.rows.section.chord_m
            tilt = math.radians(found.rows.section.tilt_deg)
            weight = float(of_use.dead[combination] * loads.dead_of_kg_per_m2[0]) * G
            snow = float(of_use.snow[combination] + of_use.snow_back[combination]) / 2
            weight += snow * loads.snow_pa * math.cos(tilt)
            down = force * math.cos(tilt) + weight * found.rows.section.chord_m
            used = max(used, math.hypot(force * math.sin(tilt), down))
    assert service == pytest.approx(used, rel=1e-6)


@settings(max_examples=20, deadline=None)
@given(designs())
def test_rails_are_cantilevers_up_and_down_the_slope(design: Design) -> None:
    found = untried(design)
    loads, table = found.structure.loads_at[0], found.rows.section
    rail, tilt = found.structure.members.beam, math.radians(table.tilt_deg)
    carried = found.rows.table_length_m / (2 * found.rows.modules_along)
    reach, most = table.chord_m / 2, 0.0
    for combination in range(len(loads.strength.names)):
        combined = loads.strength
        for _, pressures in gusts(found):
            for half in (0, 1):
                dead = float(combined.dead[combination] * loads.dead_of_kg_per_m2[0]) * G
                snow = float((combined.snow, combined.snow_back)[half][combination])
                weight = dead + snow * loads.snow_pa * math.cos(tilt)
                square = float(combined.wind[combination] * pressures[half, 1])
                square += weight * math.cos(tilt)
                most = max(most, abs(square) * reach * carried * reach / 2)
    # What uses it most bends it no more than the most, and uses no less than a held flange would.
    assert abs(rail.strained.moment_n_m) <= most * (1 + 1e-9)
    limit = section(rail.section.name).modulus_m3 * rail.section.yield_pa
    limit /= 1.67 if design.site.rule_pack == "us" else 1.0
    assert rail.strained.used >= most / limit - 1e-9
    assert rail.places_m.tolist() == pytest.approx([reach])


@settings(max_examples=20, deadline=None)
@given(designs())
def test_a_pole_that_is_sound_does_not_yield_at_the_ground(design: Design) -> None:
    """The fibres' stress by von Mises stays under what the school allows, in every case."""
    found = untried(design)
    pole, asked = found.structure.posts.post, found.structure.reactions
    bending, _, twisting = bears(pole.name, design.site.rule_pack)
    squash = pole.area_m2 * pole.yield_pa / (1.67 if design.site.rule_pack == "us" else 1.0)
    tipped = np.hypot(asked.moment_n_m, asked.along_moment_n_m)[0]
    stress = np.abs(asked.down_n[0]) / squash + tipped / bending
    together = np.sqrt(stress**2 + (asked.twist_n_m[0] / twisting) ** 2)
    used = found.structure.members.pole.used
    assert used >= tipped.max() / bending - 1e-3
    if used <= 1:
        assert float(together.max()) <= 1 + 1e-6


@settings(max_examples=15, deadline=None)
@given(designs(), st.sampled_from(["sandy gravel", "sand", "clay"]))
def test_the_grip_of_the_soil_holds_lift_and_twist_together(design: Design, soil: str) -> None:
    """Walk down the pole: every ring of its face grips so much, whichever way it is drawn."""
    found = untried(changed(design, "site", soil_class=soil, frost_depth_m=0.5))
    posts, asked = found.footings.posts, found.structure.reactions
    kind, pole = posts.kinds[0], posts.post
    if posts.depth_m > 12:
        # No depth that is looked at carries it: that is a stop.
        assert any(one.key == "drivable" and one.level == "stop" for one in found.footings.checks)
        return
    shaft = kind.needs.shaft
    depth, ring = posts.depth_m, 0.001
    downs = np.arange(shaft.start_m + ring / 2, depth, ring)
    around = math.pi * pole.depth_m
    grip = float((around * ring * (shaft.growing * downs + shaft.steady)).sum())
    wanted = np.hypot(np.maximum(-asked.down_n[0], 0), asked.twist_n_m[0] / (pole.depth_m / 2))
    assert grip * 1.001 + 1 >= float(wanted.max()) * kind.ground.lift.safety
    assert shaft.start_m >= 0.5 - 1e-9


def test_a_lone_pole_is_found_from_marks_and_needs_no_diagonals() -> None:
    found = untried(job(rows={"at_east_m": 12.0, "at_north_m": 5.0}))
    keys = {one.key for one in found.answers if one.stage == "stakeout"}
    assert "from_origin" in keys
    assert not keys & {"tape", "diagonal", "diagonal_a"}
    assert found.structure.supports.count == 1
    assert float(found.answer("stakeout", "from_origin").value) == pytest.approx(13.0)
    # Its top is under the pipe: depth, reveal, less half of the pipe's outside.
    posts = found.footings.posts
    assert posts.longest_m == pytest.approx(
        posts.depth_m + found.structure.supports.tallest_m - 0.0889 / 2
    )


def test_poles_in_a_row_are_squared_as_posts_are() -> None:
    found = untried(job(rows={"tables_along": 3, "table_gap_m": 1.0}))
    assert found.structure.supports.count == 3
    apart = found.rows.table_length_m + 1.0
    assert float(found.answer("stakeout", "tape").value) == pytest.approx(2 * apart, rel=1e-3)


def test_ends_of_one_stick_and_two_ubolts_a_rail() -> None:
    found = untried(job(rows={"modules_along": 3}))
    members = found.structure.members
    (cross,) = (bar for bar in found.materials.sawing.bars if bar.key == "purlin")
    assert cross.nest.sticks == 1 and found.frame.splices == 0
    assert {one.key: one.count for one in members.fixings} == {"pole_head": 1, "rail_clamp": 12}
    assert members.rails == 6 and members.modules_a_pole == 3
