"""A table on dry piles by hand: what comes on each pile, and whether blocks lift, slide or roll.

Everything is reckoned from pressures, weights and sizes as they were said; nothing of the core's own
statics is called.
Factors: ASCE/SEI 7-16, 2.4.1, 0.6 D + 0.6 W, and EN 1990, Table A1.2(A), 0.9 G + 1.5 W (from memory).
Gusts at a corner: ASCE/SEI 7-16, Figure 30.7-1, clear flow, zone 2 at 7.5 degrees, C_N 2.4 and -2.1
(from memory). Friction of 0.4 in dry joints: EN 1996-1-1, 3.6.2 (from memory), of 0.3 to 0.4 under
concrete on soil: common practice, no published source.
"""

import itertools
import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.codes import constant
from openfurrow.core.design import Design
from openfurrow.core.footings.piles import Piles
from openfurrow.core.plan import Plan, untried
from openfurrow.core.structures.on_blocks.carry import CORNER
from tests.core.breaks import blocks, shot
from tests.core.test_checks import broken
from tests.designs import plain_larkspur
from tests.reference.two_lines import G, about, forces

LIGHTEST = {"us": 0.6, "metric": 0.9}
# Length, width, height and weight as the yard says them.
YARD = {
    "solid 16 x 8 x 4 in": (0.396875, 0.193675, 0.092075, 14.9),
    "dense block 440 x 215 x 100": (0.44, 0.215, 0.1, 19.9),
    "paving slab 400 x 400 x 50": (0.4, 0.4, 0.05, 16.8),
    "kerb 1000 x 250 x 100": (1.0, 0.25, 0.1, 52.5),
}
STRAP, ANCHORS, NOTHING = "a strap around the pile", "anchors in its top blocks", "nothing"


def job(**parts: dict[str, object]) -> Design:
    """Larkspur with one table on blocks, and what a test says."""
    plain = blocks()
    said = {
        stage: dict(plain.get(stage, {})) | dict(parts.get(stage, {})) for stage in {*plain, *parts}
    }
    return broken(plain_larkspur(), said)


def designs() -> st.SearchStrategy[Design]:
    def made(
        pack: str,
        tilt: float,
        high: int,
        wind: float,
        ground: tuple[float, float],
        friction: float,
        said: tuple[str, str, str, str, str],
    ) -> Design:
        block, tied, joints, on, alike = said
        return job(
            site={
                "rule_pack": pack,
                "slope": ground[0],
                "falls_toward_deg": ground[1],
                "wind_speed_m_s": wind if pack == "us" else 0.6 * wind,
            },
            rows={"tilt_deg": tilt, "modules_high": high, "modules_along": 5, "lower_edge_m": 0.6},
            footings={
                "sliding_friction": friction,
                "block": block,
                "tied_by": tied,
                "pile_joints": joints,
                "pile_on": on,
                "weights": alike,
            },
        )

    return st.builds(
        made,
        st.sampled_from(["us", "metric"]),
        st.floats(0, 14).map(lambda value: round(value, 1)),
        st.integers(1, 3),
        st.floats(26, 55).map(lambda value: round(value, 1)),
        st.tuples(st.floats(0, 0.06), st.sampled_from([0.0, 90.0, 180.0, 230.0])),
        st.floats(0.25, 0.6).map(lambda value: round(value, 2)),
        st.tuples(
            st.sampled_from(sorted(YARD)),
            st.sampled_from([STRAP, STRAP, ANCHORS, NOTHING]),
            st.sampled_from(["laid dry", "glued or mortared"]),
            st.sampled_from(["the ground", "a paving slab 600 x 600 x 50", "a pallet 1200 x 1000"]),
            st.sampled_from(["alike in a line", "each its own"]),
        ),
    )


def piles_of(found: Plan) -> Piles:
    piles = found.footings.weights
    assert isinstance(piles, Piles)
    return piles


def worst_line(found: Plan) -> list[int]:
    """Of every line of piles the kind that carries most of the row."""
    kinds = found.structure.posts.kinds
    return [
        int(np.flatnonzero(kinds.role == role)[kinds.tributary_m[kinds.role == role].argmax()])
        for role in range(len(found.structure.posts.roles))
    ]


@settings(max_examples=40, deadline=None)
@given(designs())
def test_piles_take_all_that_acts_on_the_table_and_its_moments(design: Design) -> None:
    """Front to back: what piles push and press with is in equilibrium with wind, snow and weight."""
    found = untried(design)
    asked, loads, kinds = (
        found.structure.reactions,
        found.structure.loads_at[0],
        found.structure.posts.kinds,
    )
    line, section = worst_line(found), found.rows.section
    row_m = float(kinds.tributary_m[line[0]])
    assert kinds.tributary_m[line] == pytest.approx(row_m)
    tilt, stack = math.radians(section.tilt_deg), section.stack_m
    # Purlins lie in the clamp zone of each module, their foot square under the glass by the stack.
    up = [
        row * (found.rows.module_up_m + found.rows.gap_up_m) + share * found.rows.module_up_m
        for row in range(found.rows.modules_high)
        for share in (0.22, 0.78)
    ]
    tops = [
        (
            y * math.cos(tilt) + stack * math.sin(tilt),
            y * math.sin(tilt) - stack * math.cos(tilt),
        )
        for y in up
    ]
    for combination, name in enumerate(loads.strength.names):
        for case, wind in enumerate(loads.wind.names):
            said = f"{name}, {wind}" if loads.strength.wind[combination] else name
            column = asked.names.index(said)
            acting = forces(found, combination, case, row_m)
            down, across = asked.down_n[line, column], asked.across_n[line, column]
            scale = sum(abs(one.up) + abs(one.along_x) for one in acting) + 1.0
            assert down.sum() == pytest.approx(-sum(one.up for one in acting), abs=1e-6 * scale)
            assert across.sum() == pytest.approx(sum(one.along_x for one in acting), abs=1e-6 * scale)
            # About the middle of the front purlin's foot; what holds is what presses, turned about.
            held = sum(
                (x - tops[0][0]) * press + (z - tops[0][1]) * push
                for (x, z), press, push in zip(tops, down.tolist(), across.tolist(), strict=True)
            )
            assert held + about(tops[0], acting) == pytest.approx(0.0, abs=2e-5 * scale)


def test_a_gust_at_a_corner_by_hand() -> None:
    """US, 7.5 degrees: what one pile carries is larger than a square of a, so zone 2 counts."""
    found = untried(job(rows={"tilt_deg": 7.5}, site={"ground_snow_pa": 0.0}))
    structure = found.structure
    asked, kinds, section = structure.reactions, structure.posts.kinds, found.rows.section
    line = worst_line(found)
    area = section.chord_m / 2 * float(kinds.tributary_m[line[0]])
    # a: a tenth of the least width, at least 3 ft.
    edge = 3 * 0.3048
    assert edge**2 < area <= 4 * edge**2
    q, tilt = structure.loads_at[0].wind.velocity_pa, math.radians(7.5)
    weight = float(structure.loads_at[0].dead_of_kg_per_m2[0]) * G * area
    # Modules' weight down the slope, the stack above the purlins, tips them on these.
    apart = 0.56 * found.rows.module_up_m
    couple = 0.6 * 2 * weight * math.sin(tilt) * section.stack_m / apart
    for kind, way in ((line[0], 1.0), (line[1], -1.0)):
        column = asked.names.index(f"0.6 D + 0.6 W, {CORNER}, lifting")
        by_hand = 0.6 * weight + (0.6 * 0.85 * -2.1 * q * area + way * couple) * math.cos(tilt)
        assert asked.down_n[kind, column] == pytest.approx(by_hand, rel=2e-3)


def layer_sides_m(block: str, count: int) -> tuple[float, float]:
    """The lesser and greater side of a layer, all blocks one way, of all ways the squarest."""
    length, width, _, _ = YARD[block]
    ways = [
        sorted((rows * length, count / rows * width))
        for rows in range(1, count + 1)
        if count % rows == 0
    ]
    lesser, greater = max(ways)
    return lesser, greater


def used(design: Design, found: Plan, fewer: int | None = None) -> dict[str, float]:
    """How near piles are to lifting, lines of them to sliding and to rocking, in any case.

    With ``fewer`` blocks to a layer, where that is said.
    """
    most = {"lifts": 0.0, "slides": 0.0, "tips": 0.0}

    def told(way: str, asked: np.ndarray, held: np.ndarray | float) -> None:
        share = np.where(asked < 1e-3, 0.0, asked / np.maximum(held, 1e-9))
        most[way] = max(most[way], float(share.max()))

    pack, said = design.site.rule_pack, design.arrays[0].footings
    structure, piles = found.structure, piles_of(found)
    _, width, thick, mass = YARD[said.block]
    base_m = {"the ground": 0.0, "a paving slab 600 x 600 x 50": 0.05}.get(said.pile_on, 0.15)
    partial = 1.25 if pack == "metric" else 1.0
    ground, joint, light = said.sliding_friction / partial, 0.4 / partial, LIGHTEST[pack] * G
    asked, kind, posts = structure.reactions, structure.supports.kind, structure.posts
    whole = np.array([CORNER not in name for name in asked.names])
    loads = structure.loads_at[0]
    gust = 0.85 if pack == "us" else 1.0
    wind_pa = gust * 1.4 * loads.wind.velocity_pa * float(loads.strength.wind.max())
    # Its modules tie the heads of the two piles under a row of them; nothing ties row to row.
    pair_of = posts.bent_of * len(posts.roles) + posts.supports.places.role // 2
    for pair in np.unique(pair_of).tolist():
        mine = np.flatnonzero(pair_of == pair)
        assert mine.size == 2
        push = np.hypot(asked.across_n[kind[mine]].sum(axis=0), asked.along_n[kind[mine]].sum(axis=0))
        holds, rights, on_piles = np.zeros_like(push), np.zeros_like(push), 0.0
        for pile in mine.tolist():
            high = float(structure.supports.reveals_m[pile])
            layers, top = 0, base_m
            while top + thick <= high + 0.005:
                layers, top = layers + 1, top + thick
            layers = max(layers, 1)
            count = int(piles.to_a_layer[pile]) if fewer is None else fewer
            lesser, greater = layer_sides_m(said.block, count)
            down, own = asked.down_n[kind[pile]], light * mass * count * layers
            hung = {STRAP: own, ANCHORS: light * mass * min(2, count), NOTHING: 0.0}[said.tied_by]
            told("lifts", -down, hung)
            on_piles += wind_pa * greater * high
            under = np.maximum(down + own, 0.0) * ground
            top_layer = light * mass * count
            over = np.maximum(down + hung, 0.0)
            if said.tied_by == STRAP:
                over = top_layer + np.maximum(down, 0.0)
            free = (layers == 1 or said.pile_joints != "laid dry") and said.tied_by != NOTHING
            holds += under if free else np.minimum(under, joint * over)
            side = 1.0 if "pallet" in said.pile_on and said.tied_by == STRAP else 0.0
            lever = np.maximum(down + own, 0.0) * max(side, lesser) / 2 / high
            if said.tied_by != STRAP:
                lever = np.minimum(lever, np.maximum(down + hung, 0.0) * width / 2 / thick)
            rights += lever
        places = posts.supports.places
        east, north = places.east_m[mine], places.north_m[mine]

        level = found.site.ground.level_m
        rises = (
            level(east + 0.5, north) - level(east - 0.5, north),
            level(east, north + 0.5) - level(east, north - 0.5),
        )
        fall = float(np.hypot(*rises).max())
        # Down a plane that falls so: V sin + H cos against what friction makes of V cos - H sin.
        angle, pushed = math.atan(fall), push + on_piles
        wanted = pushed * (math.cos(angle) + ground * math.sin(angle))
        got = holds / ground * (ground * math.cos(angle) - math.sin(angle))
        told("slides", wanted[whole], got[whole])
        told("tips", (push + on_piles / 2)[whole], rights[whole])
    return most


def stands(design: Design, found: Plan, fewer: int | None = None) -> bool:
    """Whether every pile stays down and every line of piles stays where it is, in every case."""
    return max(used(design, found, fewer).values()) <= 1 + 1e-6


COUNTS = (1, 2, 3, 4, 6, 8, 9, 12)
OF_PILES = ("pile_lifts", "pile_slides", "pile_tips")


@settings(max_examples=60, deadline=None)
@given(designs())
def test_what_is_called_sound_stands_and_with_fewer_blocks_it_would_not(design: Design) -> None:
    found = untried(design)
    piles = piles_of(found)
    sound = all(one.level == "sound" for one in found.footings.checks if one.key in OF_PILES)
    assert stands(design, found) is sound
    # On even ground piles of a kind are alike but for a hair: what is told is theirs.
    for way, share in used(design, found).items():
        told = piles.way(way).used  # type: ignore[arg-type]
        assert min(share, 99.0) <= told * (1 + 1e-6)
        if design.site.slope == 0:
            assert told == pytest.approx(min(share, 99.0), rel=1e-5, abs=1e-6)
    many = set(piles.to_a_layer.tolist())
    if len(many) == 1 and sound:
        (count,) = many
        laid = [one for one in COUNTS if one < count]
        assert not any(stands(design, found, fewer) for fewer in laid)
    if not sound and design.arrays[0].footings.weights == "alike in a line":
        assert not any(stands(design, found, other) for other in COUNTS)


@pytest.mark.parametrize("wind", [29.0, 32.0, 33.0, 34.0, 38.0, 41.0])
def test_on_ground_that_gets_steeper_the_steepest_pile_of_a_line_counts(wind: float) -> None:
    """Hollow ground: level under the front piles, falling ever more under those behind."""
    shots = tuple(
        (float(east), float(north), 0.02 * (north + 1.4) ** 2)
        for east in np.arange(-9.0, 9.1, 3.0)
        for north in np.arange(-3.0, 3.1, 0.75)
    )
    hollow = shot(shots)
    design = job(
        site=hollow | {"wind_speed_m_s": wind, "ground_snow_pa": 0.0},
        rows={"modules_high": 2, "lower_edge_m": 1.2},
        footings={"pile_joints": "glued or mortared", "sliding_friction": 0.45},
    )
    found = untried(design)
    count = int(piles_of(found).to_a_layer[0])
    sound = all(one.level == "sound" for one in found.footings.checks if one.key in OF_PILES)
    assert stands(design, found) is sound
    for way, share in used(design, found).items():
        assert share <= piles_of(found).way(way).used * (1 + 1e-6)  # type: ignore[arg-type]
    assert not any(stands(design, found, one) for one in COUNTS if one < count or not sound)


@settings(max_examples=25, deadline=None)
@given(designs())
def test_blocks_are_counted_by_laying_them(design: Design) -> None:
    found = untried(design)
    piles, said = piles_of(found), design.arrays[0].footings
    _, _, thick, mass = YARD[said.block]
    base_m = {"the ground": 0.0, "a paving slab 600 x 600 x 50": 0.05}.get(said.pile_on, 0.15)
    laid = 0
    for pile, high in enumerate(found.structure.supports.reveals_m.tolist()):
        top = base_m + thick
        laid += int(piles.to_a_layer[pile])
        while top + thick <= high + 0.005:
            top += thick
            laid += int(piles.to_a_layer[pile])
        assert piles.packing_m[pile] == pytest.approx(high - top)
    bought = {one.key: one for one in found.materials.lines}
    assert laid == int(piles.blocks.sum())
    assert piles.total_kg == pytest.approx(laid * mass)
    assert bought["fill_blocks"].net == laid
    tied = {STRAP: "pile_strap", ANCHORS: "block_anchor"}
    for name, key in tied.items():
        assert (key in bought) is (said.tied_by == name)
    assert ("pile_base" in bought) is (said.pile_on != "the ground")
    glued = said.pile_joints != "laid dry" and int(piles.layers.max()) > 1
    assert ("block_glue" in bought) is glued
    assert not any(one.key == "post" for one in found.materials.lines)


@pytest.mark.parametrize("on", ["the ground", "a paving slab 600 x 600 x 50"])
def test_a_pile_about_to_tip_presses_on_what_is_left_beside_its_edge(on: str) -> None:
    """By hand, of the heaviest case: V over the part of the layer that is not lifted off the ground.

    A slab of 50 mm spreads it by as much on each side, and no further than it reaches.
    """
    said = {"pile_joints": "glued or mortared", "sliding_friction": 0.6, "pile_on": on}
    found = untried(job(footings=said))
    thick, slab_kg = (0.0, 0.0) if on == "the ground" else (0.05, 41.0)
    piles, structure = piles_of(found), found.structure
    count = int(piles.to_a_layer[0])
    lesser, greater = layer_sides_m("dense block 440 x 215 x 100", count)
    line = worst_line(found)
    asked = structure.reactions
    most = 0.0
    for case, name in enumerate(asked.names):
        down = asked.down_n[line, case]
        high = structure.posts.kinds.high_m[line]
        layers = np.floor((high - thick + 0.005) / 0.1)
        own = (19.9 * count * layers + slab_kg) * G
        wind_pa = 0.85 * 1.4 * structure.loads_at[0].wind.velocity_pa * 0.6
        push = math.hypot(asked.across_n[line, case].sum(), asked.along_n[line, case].sum())
        push += float((wind_pa * greater * high).sum()) / 2
        rights = float((np.maximum(down + 0.6 * (own - slab_kg * G), 0) * lesser / 2 / high).sum())
        tipped = 0.0 if CORNER in name else min(push / rights, 0.95)
        wide, long = lesser, greater
        if thick:
            wide, long = min(0.6, lesser + 2 * thick), min(0.6, greater + 2 * thick)
        most = max(most, *((down + own) / (wide * long * (1 - tipped))).tolist())
    assert piles.press_pa == pytest.approx(most, rel=1e-6)


@pytest.mark.parametrize(("pack", "light", "partial"), [("us", 0.6, 1.0), ("metric", 0.9, 1.25)])
@pytest.mark.parametrize(
    ("under", "joints", "holds"),
    [(0.3, "laid dry", 0.3), (0.5, "laid dry", 0.4), (0.5, "glued or mortared", 0.5)],
)
def test_an_earthquake_slides_what_it_shakes_harder_than_friction_holds(
    pack: str, light: float, partial: float, under: float, joints: str, holds: float
) -> None:
    """Under the pile, or where it is laid dry in any joint of it, whichever holds less."""
    said = {"sliding_friction": under, "pile_joints": joints}
    push = {"us": 0.56, "metric": 2.5 / 1.5}[pack]
    limit = light * holds / partial / push
    levels = []
    for acceleration in (0.98 * limit, 1.02 * limit):
        site = {"rule_pack": pack, "quake_acceleration": acceleration}
        checks = untried(job(site=site, footings=said)).footings.checks
        levels.append(next(one.level for one in checks if one.key == "quake_slides"))
    assert levels == ["sound", "stop"]


@settings(max_examples=15, deadline=None)
@given(designs())
def test_the_slenderest_pile_is_looked_at_by_its_own_side(design: Design) -> None:
    found = untried(design)
    piles = piles_of(found)
    name = design.arrays[0].footings.block
    ratios = [
        high / layer_sides_m(name, int(count))[0]
        for high, count in zip(found.structure.supports.reveals_m, piles.to_a_layer, strict=True)
    ]
    assert piles.slender == pytest.approx(max(ratios))
    check = next(one for one in found.footings.checks if one.key == "pile_slender")
    assert (check.level == "sound") is bool(max(ratios) <= constant("common", "pile_slender").value)


def test_more_wind_never_asks_for_fewer_blocks() -> None:
    counts = [
        int(piles_of(untried(job(site={"wind_speed_m_s": wind}))).blocks.sum())
        for wind in (20.0, 28.0, 36.0, 44.0, 52.0)
    ]
    assert counts == sorted(counts)
    assert counts[0] < counts[-1]


def test_dry_piles_are_said_to_be_loose_where_nothing_ties_them() -> None:
    """In any wind worth the name modules that only lie there fly."""
    loose = untried(job(footings={"tied_by": NOTHING}))
    stop = next(one for one in loose.checks if one.key == "pile_lifts")
    assert stop.level == "stop"
    assert [mend.words for mend in stop.mends] == ["Strap every pile"]
    assert constant("common", "dry_joint_friction").value == 0.4


def test_lines_of_piles_are_named_once_each() -> None:
    names = [
        [role.letter for role in untried(job(rows={"modules_high": high})).structure.posts.roles]
        for high in range(1, 7)
    ]
    for high, letters in enumerate(names, start=1):
        assert len(set(letters)) == len(letters) == 2 * high
        assert letters[0] == "f"
        assert letters[-1] == "b"
    assert len(list(itertools.chain(*names))) == 42


def test_a_low_table_is_no_post_that_is_too_short() -> None:
    """Purlins may lie as low as one block: whether one goes under is asked instead."""
    low = untried(job(rows={"lower_edge_m": 0.3, "tilt_deg": 3.0}))
    keys = {one.key: one.level for one in low.checks if one.stage in ("rows", "footings")}
    assert "reveal" not in keys and "pile_low" in keys
    post = untried(broken(plain_larkspur(), {"rows": {"lower_edge_m": 0.3, "tilt_deg": 3.0}}))
    assert {one.key: one.level for one in post.checks if one.stage == "rows"}["reveal"] == "stop"
