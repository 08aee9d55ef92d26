"""Rows on turning tubes: every gust as a free body, the tube in PyNiteFEA, wind that winds it up.

A gust on half of the table alone, all along the row, with its force a quarter of the chord off: common
practice, no published source. Wind that winds a shaft up and how often it swings: found here as the
least eigenvalue of a chain of discs.
"""

import itertools
import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from Pynite import FEModel3D
from scipy.linalg import eigh

from openfurrow.core.design import Design
from openfurrow.core.footings.plan import plan_footings
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.plan import Plan, plan, untried
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.structures.turning_tube.members import gives_pa, swings_hz
from tests.core.breaks_tubes import TOLD, tube
from tests.core.test_checks import broken, find
from tests.designs import changed, plain_larkspur
from tests.reference.test_wind_along import FLAT, GUST, RIBBED, ROUND

G, STEEL_PA, SHEAR_PA = 9.80665, 200e9, 200e9 / 2.6
PIPES = ["pipe 3 in", "pipe 4 in", "pipe 5 in", "pipe 6 in"]


def job(**said: object) -> Design:
    """Two rows on tubes on Larkspur's slope, and what a test says."""
    rows = dict(said.pop("rows", {}))  # type: ignore[call-overload]
    site = dict(said.pop("site", {}))  # type: ignore[call-overload]
    return broken(plain_larkspur(), tube(rows, **(TOLD | said)) | ({"site": site} if site else {}))


def jobs() -> st.SearchStrategy[Design]:
    def made(pack: str, modules: tuple[int, int], slope: tuple[float, float], span: float, pipe: str):
        site = {"rule_pack": pack, "slope": slope[0], "falls_toward_deg": slope[1]}
        if pack == "metric":
            site["wind_speed_m_s"] = 27.0
        rows = {"modules_high": modules[0], "modules_along": modules[1], "lower_edge_m": 0.9}
        return job(rows=rows, site=site, span_limit_m=round(span, 2), pipe_section=pipe)

    return st.builds(
        made,
        st.sampled_from(["us", "metric"]),
        st.tuples(st.integers(1, 2), st.integers(1, 15)),
        st.tuples(st.floats(0, 0.1), st.sampled_from([0.0, 60.0, 135.0, 180.0, 290.0])),
        st.floats(1.2, 6),
        st.sampled_from(PIPES),
    )


# Statics ------------------------------------------------------------------------------------------


def gusts(loads: TableLoads) -> list[tuple[float, float]]:
    """Pressures on the half that is lower and the one that is higher; each half alone besides."""
    both = list(zip(loads.wind.front_pa.tolist(), loads.wind.back_pa.tolist(), strict=True))
    return [
        *both,
        *((low, 0.0) for low, high in both if low and high),
        *((0.0, high) for low, high in both if low and high),
    ]


def on_a_metre(table: TableSection, loads: TableLoads, dead: float) -> np.ndarray:
    """To the back, down, and turning to the back about the tube (cases, 3), half by half."""
    tilt = math.radians(table.tilt_deg)
    slope, square = (
        np.array([math.cos(tilt), math.sin(tilt)]),
        np.array([math.sin(tilt), -math.cos(tilt)]),
    )
    combined, half = loads.strength, table.chord_m / 2
    found = []
    for combination, gust in itertools.product(range(len(combined.names)), gusts(loads)):
        total = np.zeros(3)
        for side, pressure, snow in zip(
            (-0.5, 0.5), gust, (combined.snow, combined.snow_back), strict=True
        ):
            # Square to the glass is down and to the back; the glass lies the stack over the tube.
            arm = side * half * slope - table.stack_m * square
            wind = float(combined.wind[combination]) * pressure * half * square
            weight = float(combined.dead[combination]) * dead * G * half
            weight += float(snow[combination]) * loads.snow_pa * half * math.cos(tilt)
            force = wind + np.array([0.0, -weight])
            turning = arm[1] * force[0] - arm[0] * force[1]
            total += np.array([force[0], -force[1], turning])
        found.append(total)
    return np.array(found)


class Lying:
    """A table's tube in PyNiteFEA: a newton a metre across, and a newton metre a metre about it."""

    def __init__(self, found: Plan) -> None:
        posts, rows = found.structure.posts, found.rows
        line, self.pipe = posts.line, found.structure.members.purlin.section
        of = found.places.of_table == 0
        self.supports = np.sort(found.places.from_middle_m[of]) + line.purlin_m / 2
        # Two rails under each column, gripped in so far from its edges.
        side, step = rows.module_along_m, rows.column_step_m
        edge = (line.purlin_m - rows.table_length_m) / 2
        grip = rows.clamped_m(side)
        starts = edge + np.arange(rows.modules_along) * step
        self.rails = np.sort(np.concatenate((starts + grip, starts + side - grip)))
        self.each = rows.table_length_m / self.rails.size
        self.drive = int(np.abs(self.supports - line.purlin_m / 2).round(6).argmin())
        self.at = np.unique(
            np.round(np.concatenate((self.rails, self.supports, [0, line.purlin_m])), 7)
        )
        model = FEModel3D()
        model.add_material("steel", STEEL_PA, SHEAR_PA, 0.3, 7850)
        inertia = self.pipe.inertia_m4
        model.add_section("pipe", self.pipe.area_m2, inertia, inertia, 2 * inertia)
        for number, x in enumerate(self.at.tolist()):
            model.add_node(f"n{number}", x, 0, 0)
        for number in range(len(self.at) - 1):
            model.add_member(f"m{number}", f"n{number}", f"n{number + 1}", "steel", "pipe")
        self.held = [self.node(x) for x in self.supports.tolist()]
        for number, node in enumerate(self.held):
            drives = number == self.drive
            model.def_support(node, drives, True, True, drives, False, False)
        for x in self.rails.tolist():
            model.add_node_load(self.node(x), "FY", -self.each)
            model.add_node_load(self.node(x), "MX", self.each)
        model.analyze(check_statics=False)
        self.model = model

    def node(self, x: float) -> str:
        return f"n{int(np.abs(self.at - x).argmin())}"

    @property
    def shares(self) -> np.ndarray:
        return np.array([self.model.nodes[node].RxnFY["Combo 1"] for node in self.held])

    def inside(self) -> np.ndarray:
        """Moment, shear and twist at both ends of every piece: (places, 3)."""
        found = []
        for member in self.model.members.values():
            for x in (1e-6, member.L() - 1e-6):
                found.append((member.moment("Mz", x), member.shear("Fy", x), member.torque(x)))
        return np.abs(np.array(found))

    def twists_deg(self) -> float:
        return math.degrees(max(abs(node.RX["Combo 1"]) for node in self.model.nodes.values()))


@settings(max_examples=14, deadline=None)
@given(jobs())
def test_posts_and_tube_get_what_acts_on_the_glass(design: Design) -> None:
    """Every position, every combination, every gust and its halves; bearings hold no turning at all."""
    found = untried(design)
    lying, asked = Lying(found), found.structure.reactions
    supports, kinds = found.structure.supports, found.structure.posts.kinds
    mine = np.flatnonzero(found.places.of_table == 0)
    mine = mine[np.argsort(found.places.from_middle_m[mine])]
    reveals = supports.reveals_m[mine]
    drives = np.arange(mine.size) == lying.drive
    assert kinds.drives[supports.kind[mine]].tolist() == drives.tolist()
    long, shares = found.rows.table_length_m, lying.shares
    assert shares.sum() == pytest.approx(long)
    inside, tube_of = lying.inside(), found.structure.members.tube
    used, most, turned = 0.0, np.zeros((3, mine.size)), 0.0
    for position, loads in zip(found.rows.positions, found.structure.loads_at, strict=True):
        dead = float(loads.dead_of_kg_per_m2[0])
        across, down, turning = on_a_metre(position.section, loads, dead).T
        moments = np.outer(across, shares * reveals) + np.outer(turning, drives * long)
        for row, one in enumerate((np.outer(down, shares), np.outer(across, shares), moments)):
            most[row] = np.maximum(most[row], np.abs(one).max(axis=0))
        turned = max(turned, float(np.abs(turning).max()) * long)
        load = np.hypot(across, down)[:, None]
        twisted = tube_of.twisted
        use = load * inside[:, 0] / twisted.moment_limit_n_m
        use = (
            use
            + (
                load * inside[:, 1] / twisted.shear_limit_n
                + np.abs(turning)[:, None] * inside[:, 2] / twisted.twist_limit_n_m
            )
            ** 2
        )
        used = max(used, float(use.max()))
    # Both sides of a support count together: a little more than either, never less.
    assert used * 0.999 <= tube_of.twisted.used <= used * 1.05
    assert tube_of.turning_n_m == pytest.approx(turned, rel=1e-6)
    assert tube_of.passed_n_m == pytest.approx(turned / long * float(inside[:, 2].max()), rel=1e-6)
    for row, name in enumerate(("down_n", "across_n", "moment_n_m")):
        told = np.abs(getattr(asked, name)).max(axis=1)[supports.kind[mine]]
        # Alike posts are sized as one: never less than any, and no more than a step of theirs.
        assert (told >= most[row] * (1 - 1e-6)).all()
        assert (told <= most[row] * 1.12 + 0.11 * most[row].max()).all()
    for which in (drives, ~drives):
        if which.any():
            told = np.abs(asked.moment_n_m)[supports.kind[mine[which]]].max()
            assert told == pytest.approx(float(most[2][which].max()), rel=0.12)
    if find(plan(design).checks, "structure", "tube").level == "sound":
        assert used <= 1.0


@settings(max_examples=14, deadline=None)
@given(jobs())
def test_ends_twist_as_a_shaft_does(design: Design) -> None:
    found = untried(design)
    lying, worst = Lying(found), 0.0
    for position, loads in zip(found.rows.positions, found.structure.loads_at, strict=True):
        use = replace(loads, strength=loads.service)
        turning = on_a_metre(position.section, use, float(loads.dead_of_kg_per_m2[0]))[:, 2]
        worst = max(worst, float(np.abs(turning).max()))
    assert found.structure.members.tube.ends_deg == pytest.approx(worst * lying.twists_deg(), rel=1e-3)


@settings(max_examples=10, deadline=None)
@given(jobs(), st.floats(0, 1))
def test_at_any_turn_the_drive_holds_no_more_than_is_told(design: Design, share: float) -> None:
    """At turns between those that are looked at, over to both sides, every gust as a free body."""
    found = untried(design)
    held = found.frame.tube
    assert held is not None
    turn = round(share * float(held.tilts_deg[-1]), 3)
    one = untried(changed_tilt(design, turn, found))
    at = [position.tilt_deg for position in one.rows.positions].index(turn)
    loads = one.structure.loads_at[at]
    table = one.rows.positions[at].section
    turning = on_a_metre(table, loads, float(loads.dead_of_kg_per_m2[0]))[:, 2]
    here = float(np.abs(turning).max()) * one.rows.table_length_m
    assert here <= held.most_n_m * 1.005
    # Over to the other side all is as in a mirror: the same forces, turned the other way.
    mirrored = on_a_metre(table.turned(turn), loads, float(loads.dead_of_kg_per_m2[0]))[:, 2]
    assert np.abs(mirrored).max() == pytest.approx(np.abs(turning).max())
    assert held.most_n_m >= found.structure.members.tube.turning_n_m * (1 - 1e-9)
    assert held.winds_m == pytest.approx(0.2 * 2 * math.radians(60.0))


def changed_tilt(design: Design, tilt_deg: float, found: Plan) -> Design:
    array = design.arrays[0]
    rows = array.rows.model_copy(update={"tilt_deg": tilt_deg, "pitch_m": found.rows.pitch_m})
    return design.model_copy(update={"arrays": (array.model_copy(update={"rows": rows}),)})


@pytest.mark.parametrize("family", ["driven post", "bored pier", "ground screw"])
def test_over_to_the_other_side_the_ground_is_asked_alike(family: str) -> None:
    """Rolled the other way all pushes and moments across turn round: no footing may know a side."""
    site = {"slope": 0.08, "falls_toward_deg": 60.0}
    design = changed(job(site=site, pipe_section="pipe 5 in"), "footings", family=family)
    found = untried(design)
    asked = found.structure.reactions
    mirrored = replace(asked, across_n=-asked.across_n, moment_n_m=-asked.moment_n_m)
    other = replace(found.structure, reactions=mirrored)
    one, two = (
        plan_footings(found.site, found.rows, stands, design.arrays[0].footings)
        for stands in (found.structure, other)
    )
    assert one.posts.depths_m == pytest.approx(two.posts.depths_m)
    for mine, theirs in zip(one.answers, two.answers, strict=True):
        assert mine.working.value == pytest.approx(theirs.working.value), mine.key
    for mine, theirs in zip(one.checks, two.checks, strict=True):
        assert mine.level == theirs.level


@settings(max_examples=10, deadline=None)
@given(jobs())
def test_along_the_row_the_drives_post_holds_its_table_by_itself(design: Design) -> None:
    """Bearings may slide: all that rubs on the glass and pushes on its edges, up at its middle."""
    found = untried(design)
    asked, structure = found.structure.reactions, found.structure
    rows, supports, rail = found.rows, structure.supports, structure.members.beam
    pipe, post = structure.members.purlin.section, structure.posts.post
    of_post = ROUND if post.shape == "pipe" else FLAT
    count = np.bincount(found.places.of_table)
    most = np.zeros((2, supports.count))
    for position, loads in zip(rows.positions, structure.loads_at, strict=True):
        q = loads.wind.velocity_pa * GUST[design.site.rule_pack]
        table = position.section
        edge = (table.stack_m - rail.section.depth_m - pipe.depth_m / 2) * table.chord_m
        rails = 2 * rows.modules_along * rail.section.depth_m * rail.length_m
        glass = q * (RIBBED * 2 * table.chord_m * rows.table_length_m + FLAT * (edge + rails))
        own = q * of_post * post.depth_m * supports.reveals_m
        middle = supports.reveals_m + table.stack_m * math.cos(math.radians(table.tilt_deg))
        factor = float(loads.strength.wind.max())
        drives = structure.posts.kinds.drives[supports.kind]
        # As cantilevers the short ones take most, and never less than an even share.
        stiff = middle**-3.0
        share = stiff / np.bincount(found.places.of_table, stiff)[found.places.of_table]
        share = np.maximum(share, 1 / count[found.places.of_table])
        head = glass * np.where(drives, 1.0, share)
        tips = head * middle + own * supports.reveals_m / 2
        most = np.maximum(most, factor * np.stack((head + own, tips)))
    for told, each in zip((asked.along_n, asked.along_moment_n_m), most, strict=True):
        by_kind = np.zeros(structure.posts.kinds.count)
        np.maximum.at(by_kind, supports.kind, each)
        assert told.max(axis=1) == pytest.approx(by_kind, rel=1e-6)


@settings(max_examples=20, deadline=None)
@given(jobs())
def test_snow_finds_room_on_the_side_that_comes_lower(design: Design) -> None:
    """Both edges at the limit to either side, over the plane that was said."""
    found, site = untried(design), design.site
    table, roll = found.rows.section, math.radians(60.0)
    reveal = float(table.reveal_m)
    rise_east = -site.slope * math.sin(math.radians(site.falls_toward_deg))
    edges = []
    for side in (-1, 1):
        # The edge that hangs low on that side, from the tube's middle: level, then up.
        level = side * (table.chord_m / 2 * math.cos(roll) + table.stack_m * math.sin(roll))
        up = table.stack_m * math.cos(roll) - table.chord_m / 2 * math.sin(roll)
        edges.append(reveal + up - rise_east * level)
    room = find(found.checks, "structure", "snow_room")
    assert room.limit == pytest.approx(min(edges), abs=1e-6)


def test_of_tubes_of_two_lengths_the_longer_one_counts() -> None:
    """One of a row of short tables is long: what is asked of its tube is what a row of such asks."""
    long_one = {"id": "a", "place": "2.1", "modules_along": 13}
    rows = {"rows": 5, "modules_along": 3, "pitch_m": 5.0}
    mixed = untried(job(rows=rows | {"tables": (long_one,)}))
    even = untried(job(rows=rows | {"modules_along": 13}))
    short = untried(job(rows=rows))
    one, two, less = (found.structure.members.tube for found in (mixed, even, short))
    for name in ("turning_n_m", "passed_n_m", "ends_deg", "gives_pa", "gives_m_s", "swings_hz"):
        assert getattr(one, name) == pytest.approx(getattr(two, name), rel=0.02), name
        assert getattr(one, name) != pytest.approx(getattr(less, name), rel=0.2), name
    assert one.used >= two.used
    drives = [found.frame.tube for found in (mixed, even)]
    assert drives[0].most_n_m == pytest.approx(drives[1].most_n_m, rel=0.02)  # type: ignore[union-attr]
    spans = [np.diff(line.along_m).max() for line in mixed.structure.posts.lines]
    check = find(mixed.checks, "structure", "column_span")
    assert float(check.measured) == pytest.approx(max(spans))
    assert min(spans) < max(spans) - 0.05
    # The long one's drive holds what turns the long one.
    held = np.abs(mixed.structure.reactions.moment_n_m).max(axis=1)
    drives_of = mixed.structure.posts.kinds.drives
    sizes = mixed.structure.posts.kinds.size_of[drives_of]
    by_size = [float(held[drives_of][sizes == size].max()) for size in np.unique(sizes).tolist()]
    assert len(by_size) == 2
    assert max(by_size) > 2.5 * min(by_size)


@settings(max_examples=10, deadline=None)
@given(jobs())
def test_rails_are_held_to_the_turn_that_bends_them_most(design: Design) -> None:
    """Each half of a rail reaches out from the tube under the pressure on it, at every position."""
    found = untried(design)
    rail, chord = found.structure.members.beam, found.rows.section.chord_m
    each = found.rows.table_length_m / (2 * found.rows.modules_along)
    pressed = lifted = 0.0
    for position, loads in zip(found.rows.positions, found.structure.loads_at, strict=True):
        cosine, combined = math.cos(math.radians(position.tilt_deg)), loads.strength
        for combination, gust in itertools.product(range(len(combined.names)), gusts(loads)):
            weight = float(combined.dead[combination]) * float(loads.dead_of_kg_per_m2[0]) * G
            snows = combined.snow, combined.snow_back
            for pressure, snow in zip(gust, snows, strict=True):
                square = float(combined.wind[combination]) * pressure + weight * cosine
                square += float(snow[combination]) * loads.snow_pa * cosine**2
                bent = square * each * (chord / 2) ** 2 / 2
                pressed, lifted = max(pressed, bent), max(lifted, -bent)
    limits = rail.gust_bending
    bent = max(pressed / limits.limit_n_m, lifted / limits.lifting_limit_n_m)
    # What weighs down the slope pushes along it besides; a gust on one bay may bend it more.
    assert bent * (1 - 1e-9) <= rail.used
    assert rail.strained.used <= bent * 1.1


# Wind that winds it up ----------------------------------------------------------------------------


@settings(max_examples=30, deadline=None)
@given(st.floats(1e4, 5e6), st.floats(2, 60), st.floats(0.8, 5), st.floats(5, 200))
def test_a_chain_of_discs_gives_way_and_swings_where_it_is_told(
    resists: float, reach: float, chord: float, inertia: float
) -> None:
    """Discs on a shaft held at one end; wind turns each by q c c pi / 2 for a radian of its turn."""
    discs = 240
    step = reach / discs
    stiff = (
        np.diag(np.full(discs, 2.0)) - np.diag(np.ones(discs - 1), 1) - np.diag(np.ones(discs - 1), -1)
    )
    stiff[-1, -1] = 1.0
    stiff *= resists / step
    share = np.full(discs, step)
    share[-1] = step / 2
    (least,) = eigh(
        stiff, np.diag(share * chord**2 * math.pi / 2), eigvals_only=True, subset_by_index=[0, 0]
    )
    assert gives_pa(resists, reach, chord) == pytest.approx(least, rel=1e-3)
    (square,) = eigh(stiff, np.diag(share * inertia), eigvals_only=True, subset_by_index=[0, 0])
    assert swings_hz(resists, reach, inertia) == pytest.approx(
        math.sqrt(square) / (2 * math.pi), rel=1e-3
    )


@settings(max_examples=12, deadline=None)
@given(jobs())
def test_what_gives_is_the_longest_free_end_of_this_tube(design: Design) -> None:
    found = untried(design)
    lying, members = Lying(found), found.structure.members
    free = max(
        lying.supports[lying.drive], found.structure.posts.line.purlin_m - lying.supports[lying.drive]
    )
    resists = SHEAR_PA * 2 * lying.pipe.inertia_m4
    chord, stack = found.rows.section.chord_m, found.rows.section.stack_m
    assert members.tube.gives_pa == pytest.approx(
        (math.pi / 2 / free) ** 2 * resists / (chord**2 * math.pi / 2), rel=1e-6
    )
    weight = max(float(loads.dead_of_kg_per_m2[0]) for loads in found.structure.loads_at)
    heavy = weight * chord * (chord**2 / 12 + stack**2)
    assert members.tube.swings_hz == pytest.approx(math.sqrt(resists / heavy) / (4 * free), rel=1e-6)
    # Held as strong wind is: the pressure at the highest that the glass stands, its factor in.
    most = max(
        loads.wind.velocity_pa * float(loads.strength.wind.max()) for loads in found.structure.loads_at
    )
    check = find(plan(design).checks, "structure", "gives")
    assert check.measured == pytest.approx(most)
    assert (check.level == "sound") == (most <= members.tube.gives_pa)
