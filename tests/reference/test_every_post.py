"""Every post of an array reckoned alone, from outside: what it is given carries what it bears.

Statics by free body, shares of the row by three moments, depths by the printed formulas.
"""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, plan
from openfurrow.core.structures.kinds import MOST_KINDS, kinds_of
from tests.core.breaks import grid, shot
from tests.core.test_checks import broken
from tests.designs import plain_larkspur

G = 9.80665
# IBC 2018, Table 1806.2, sandy gravel: 200 psf per foot of depth, doubled by 1806.3.4.
BEARING_PA_PER_M = 2 * 200 * 47.88026 / 0.3048
TWELVE_FEET = 12 * 0.3048
INCH = 0.0254


def shares_m(places: list[float], length: float) -> list[float]:
    """Reactions of a continuous purlin under a unit load, overhangs at both ends, by three moments."""
    spans = np.diff(places)
    count = len(places)
    matrix, right = np.zeros((count, count)), np.zeros(count)
    first, last = places[0], length - places[-1]
    matrix[0, 0] = matrix[-1, -1] = 1.0
    right[0], right[-1] = -(first**2) / 2, -(last**2) / 2
    for at in range(1, count - 1):
        left, next_ = float(spans[at - 1]), float(spans[at])
        matrix[at, at - 1 : at + 2] = left, 2 * (left + next_), next_
        right[at] = -(left**3 + next_**3) / 4
    moments = np.linalg.solve(matrix, right)
    found = np.zeros(count)
    found[0] += first
    found[-1] += last
    for at, span in enumerate(spans.tolist()):
        turn = (moments[at + 1] - moments[at]) / span
        found[at] += span / 2 + turn
        found[at + 1] += span / 2 - turn
    return [float(one) for one in found]


def ibc_depth_m(push: float, moment: float, width: float) -> float:
    """IBC 1807.3.2.1 as printed, the depth put in until it comes out."""
    if push < 1e-9:
        return 0.0
    low, high = 0.0, 40.0
    for _ in range(80):
        depth = (low + high) / 2
        s1 = BEARING_PA_PER_M * min(depth, TWELVE_FEET) / 3
        a = 2.34 * push / (s1 * width)
        asked = 0.5 * a * (1 + math.sqrt(1 + 4.36 * (moment / push) / a))
        low, high = (depth, high) if asked > depth else (low, depth)
    return high


def free_body(found: Plan, reveal: float, share: float) -> list[tuple[float, float, float]]:
    """Down, across and moment at the ground for every combination and wind case of one post."""
    section, loads = found.rows.section, found.structure.loads_at[0]
    tilt, chord = math.radians(section.tilt_deg), section.chord_m
    # Forces on the halves act at quarter points, over the bolt by the stack, square to the glass.
    normal = np.array([-math.sin(tilt), math.cos(tilt)])
    along = np.array([math.cos(tilt), math.sin(tilt)])
    bolt = np.array([0.0, reveal])
    middle = bolt + section.stack_m * normal
    actions = []
    combined = loads.strength
    for dead, snow, above, wind in zip(
        combined.dead, combined.snow, combined.snow_back, combined.wind, strict=True
    ):
        weight = dead * loads.dead_kg_per_m2 * G * chord * share
        # Snow on either half, straight down at its own middle.
        half = loads.snow_pa * chord / 2 * math.cos(tilt) * share
        lying = ((-chord / 4, snow * half), (chord / 4, above * half))
        for front, back in zip(loads.wind.front_pa, loads.wind.back_pa, strict=True):
            pieces = [(middle, np.array([0.0, -weight]))]
            pieces += [(middle + at * along, np.array([0.0, -force])) for at, force in lying]
            for at, pressure in ((-chord / 4, front), (chord / 4, back)):
                force = wind * float(pressure) * chord / 2 * share
                pieces.append((middle + at * along, -force * normal))
            total = sum((force for _, force in pieces), np.zeros(2))
            # Tipping toward the back is clockwise seen with the back to the right.
            turn = sum(force[0] * at[1] - force[1] * at[0] for at, force in pieces)
            actions.append((-float(total[1]), float(total[0]), float(turn)))
    return actions


@settings(max_examples=25, deadline=None)
@given(
    st.floats(-0.06, 0.06),
    st.floats(-0.004, 0.004),
    st.floats(15, 45),
    st.booleans(),
    st.integers(1, 2),
    st.sampled_from(["each post's own", "alike in one soil", "alike for all"]),
    st.floats(-0.3, 0.3),
)
def test_each_post_is_as_deep_as_it_alone_would_have_to_be(
    lean: float, bend: float, tilt: float, follow: bool, rows: int, depths: str, aside: float
) -> None:
    """On rough ground, with a post shifted: none is short, and none of one kind is far too deep."""
    design: Design = broken(
        plain_larkspur(),
        {
            "site": shot(grid(lambda e, n: lean * e + bend * e * e + 0.01 * n, 6, 60))
            | {"soil_class": "sandy gravel"},
            "rows": {"rows": rows, "tilt_deg": tilt, "follow_ground": follow, "modules_along": 14},
            "structure": {"shifts": (("1.1/2", aside),), "span_limit_m": 2.6},
            "footings": {"depths": depths},
        },
    )
    found = plan(design)
    supports, posts, line = found.structure.supports, found.footings.posts, found.structure.posts.line
    even = [line.overhang_m + k * line.span_m for k in range(line.count)]
    moved = [x + (aside if k == 1 else 0.0) for k, x in enumerate(even)]
    width = posts.post.width_m
    own = []
    for index in range(supports.count):
        of_table = moved if index < line.count else even
        share = shares_m(of_table, line.purlin_m)[index % line.count]
        assert supports.tributary_m[index] == pytest.approx(share, rel=1e-6)
        actions = free_body(found, float(supports.reveals_m[index]), share)
        kind = posts.kinds[int(supports.kind[index])]
        assert kind.loads.down_n.max() >= max(down for down, _, _ in actions) - 1e-3
        assert kind.loads.down_n.min() <= min(down for down, _, _ in actions) + 1e-3
        turns = np.abs(kind.loads.moment_n_m).max()
        assert turns >= max(abs(moment) for _, _, moment in actions) - 1e-3
        weight = found.structure.loads_at[0].dead_kg_per_m2 * G * found.rows.section.chord_m * share
        assert float(kind.loads.dead_n[0]) <= weight + 1e-3
        own.append(max(ibc_depth_m(abs(push), abs(moment), width) for _, push, moment in actions))
        assert posts.depths_m[index] >= own[-1] - 1e-6
    if depths == "each post's own":
        # 50 mm of height and 0.1 m of row is what a kind throws together, and an inch what is called.
        sideways = [
            k
            for k in range(supports.count)
            if posts.kinds[int(supports.kind[k])].needs.all_m[0]
            == max(posts.kinds[int(supports.kind[k])].needs.all_m)
        ]
        for k in sideways:
            assert posts.depths_m[k] <= own[k] + INCH + 0.12
    else:
        assert np.ptp(posts.depths_m) == pytest.approx(0.0, abs=1e-9)
    # The moment that is shown is that of the post it says: of its own height and share.
    said = found.answer("structure", "moment").working
    values = {one.symbol: float(one.value) for one in said.inputs if not isinstance(one.value, str)}
    turned = max(abs(m) for _, _, m in free_body(found, values["h"], values["w"]))
    assert turned == pytest.approx(float(said.value), rel=1e-6)
    # What is thrown together over all posts stands in the stakes post by post.
    assert posts.lengths_m == pytest.approx(
        posts.depths_m + supports.reveals_m + design.arrays[0].structure.post_top_m
    )


@settings(max_examples=200, deadline=None)
@given(st.integers(0, 2**32 - 1), st.integers(1, 3000), st.floats(0.001, 3), st.integers(1, 40))
def test_kinds_are_few_and_hold_every_support_of_theirs(
    seed: int, count: int, spread: float, soils: int
) -> None:
    random = np.random.default_rng(seed)
    reveals = 1.0 + spread * random.random(count)
    shares = 1.0 + spread * random.random(count)
    soil_of = random.integers(0, soils, count)
    size_of = random.integers(0, 3, count)
    lee = random.integers(0, 2, count) == 1
    apart = set(zip(soil_of.tolist(), size_of.tolist(), lee.tolist(), strict=True))
    kinds, (kind,) = kinds_of(reveals[None], shares, soil_of[None], size_of, lee)
    assert kinds.count <= max(MOST_KINDS, 2 * len(apart))
    assert (np.diff(kinds.soil_of) >= 0).all()
    for k in range(count):
        of = int(kind[k])
        assert kinds.low_m[of] <= reveals[k] <= kinds.high_m[of]
        assert kinds.least_tributary_m[of] <= shares[k] <= kinds.tributary_m[of]
        assert kinds.soil_of[of] == soil_of[k]
        assert kinds.size_of[of] == size_of[k]
        assert kinds.sheltered[of] == lee[k]
    # Each bound is some support's own.
    assert set(kinds.high_m.tolist()) <= set(reveals.tolist())
    assert set(kinds.tributary_m.tolist()) <= set(shares.tolist())


@settings(max_examples=60, deadline=None)
@given(st.integers(0, 2**32 - 1), st.integers(1, 800), st.floats(0.001, 2), st.integers(1, 8))
def test_kinds_of_two_lines_hold_both_posts_of_every_bent(
    seed: int, count: int, spread: float, soils: int
) -> None:
    random = np.random.default_rng(seed)
    reveals = np.array([[0.5], [1.4]]) + spread * random.random((2, count))
    shares = 1.0 + spread * random.random(count)
    soil_of, size_of = random.integers(0, soils, (2, count)), random.integers(0, 2, count)
    lee = random.integers(0, 2, count) == 1
    kinds, kind = kinds_of(reveals, shares, soil_of, size_of, lee)
    assert (np.diff(kinds.soil_of) >= 0).all()
    for role in (0, 1):
        of = kind[role]
        assert (kinds.role[of] == role).all()
        assert (kinds.lows_m[of] <= reveals.T).all()
        assert (kinds.highs_m[of] >= reveals.T).all()
        assert (kinds.least_tributary_m[of] <= shares).all()
        assert (kinds.tributary_m[of] >= shares).all()
        assert (kinds.soil_of[of] == soil_of[role]).all()
        assert (kinds.size_of[of] == size_of).all()
        assert (kinds.sheltered[of] == lee).all()


def test_a_held_depth_is_looked_at_for_every_kind_not_for_the_one_that_asks_most() -> None:
    """The lightest post is lifted by frost first, though wind asks more of a heavier one."""
    base = broken(plain_larkspur(), {"site": {"fine_soil_top_m": 0.15}})
    own = plan(base).footings.posts
    heave = [kind.needs.heave_m for kind in own.kinds]
    most = own.kinds[int(np.argmax([max(kind.needs.all_m) for kind in own.kinds]))]
    assert max(heave) > most.needs.heave_m + 0.005
    between = (max(heave) + most.needs.heave_m) / 2
    held = plan(broken(base, {"footings": {"depth_m": between}}))
    levels = {check.key: check.level for check in held.checks if check.stage == "footings"}
    assert levels["heave"] == "stop"
