"""Posts in layered ground, recomputed from outside: plastic limits by linear programming, friction and
tips by plain sums. Nothing of the core is called but the plan that is checked.

Strengths and factors of each class: from memory of the sources named in the code tables. Broms (1964):
9 c_u below 1.5 widths, 3 K_p times the overburden. IBC 2018, 1807.3.2.1, for one soil.
"""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import linprog

from openfurrow.core.codes.section import Section
from openfurrow.core.design import Design
from openfurrow.core.footings.posts import SizedKind
from openfurrow.core.plan import plan
from openfurrow.core.site.soil import HoleGivens
from tests.designs import changed

# Class: presumptive lateral Pa/m, friction angle, c_u, unit weight, K; from memory of IBC Table 1806.2
# and common practice.
CLASSES = {
    "sandy gravel": (31417.6, 36.0, 0.0, 20e3, 1.0),
    "sand": (23563.2, 32.0, 0.0, 18e3, 0.8),
    "clay": (15708.8, 0.0, 50e3, 18e3, 0.0),
}
WATER, TWELVE_FEET = 9806.65, 3.6576
CELL = 0.005


class Ground:
    """Layers as a hole has them, cell by cell, with the overburden summed in a plain loop."""

    def __init__(self, hole: HoleGivens, deep_m: float) -> None:
        self.middle = [CELL * (k + 0.5) for k in range(round(deep_m / CELL))]
        self.facts, self.pressure, above = [], [], 0.0
        for z in self.middle:
            name, strength = next(
                ((kind, cu) for bottom, kind, cu in hole.layers if z < bottom), hole.layers[-1][1:]
            )
            lateral, angle, cohesion, weight, k = CLASSES[name]
            cohesion = strength if strength and cohesion else cohesion
            wet = hole.water_m is not None and z > hole.water_m
            own = weight - (WATER if wet else 0.0)
            self.facts.append((lateral, angle, cohesion, k, bool(strength and cohesion)))
            self.pressure.append(above + own * CELL / 2)
            above += own * CELL

    def friction_pa(self, number: int) -> float:
        _, angle, cohesion, k, _ = self.facts[number]
        if cohesion:
            return cohesion * min(1.0, max(0.5, 1.0 - 0.5 * (cohesion - 25e3) / 45e3))
        return k * math.tan(math.radians(angle * 2 / 3)) * self.pressure[number]

    def broms_pa(self, number: int, width: float) -> float:
        """With the partial factors of EN 1997-1, set M2: 1.4 on c_u, 1.25 on tan phi."""
        _, angle, cohesion, _, _ = self.facts[number]
        if cohesion:
            return 9 * cohesion / 1.4 if self.middle[number] > 1.5 * width else 0.0
        phi = math.atan(math.tan(math.radians(angle)) / 1.25)
        return 3 * math.tan(math.pi / 4 + phi / 2) ** 2 * self.pressure[number]

    def presumed_pa(self, number: int, movement: float) -> float:
        lateral, _, cohesion, _, measured = self.facts[number]
        allowed = lateral * movement * min(self.middle[number], TWELVE_FEET)
        return min(allowed, 9 * cohesion / 2) if measured else allowed


def rigid_limit(resistances: list[float], middles: list[float], push: float, moment: float) -> float:
    """The largest multiple of a load that any pressures within the resistances balance (N/m each)."""
    r, z = np.array(resistances) * CELL, np.array(middles)
    n = len(r)
    # Unknowns: pressure share of each cell in -1..1 (positive: against the push), and the multiple.
    balance = np.vstack((np.append(r, -push), np.append(-r * z, -moment)))
    found = linprog(
        np.append(np.zeros(n), -1.0),
        A_eq=balance,
        b_eq=[0.0, 0.0],
        bounds=[(-1, 1)] * n + [(0, None)],
        method="highs",
    )
    assert found.status == 0
    return float(found.x[-1])


layers = st.lists(
    st.tuples(
        st.floats(0.2, 1.2),
        st.sampled_from(sorted(CLASSES)),
        st.one_of(st.none(), st.floats(15e3, 120e3)),
    ),
    min_size=2,
    max_size=4,
).map(
    lambda parts: tuple(
        (float(sum(p[0] for p in parts[: k + 1])), kind, cu) for k, (_, kind, cu) in enumerate(parts)
    )
)
waters = st.one_of(st.none(), st.floats(0.3, 4.0))


def standing_in(plain: Design, pack: str, found: tuple, water: float | None) -> tuple:
    hole = HoleGivens(name="h", layers=found, water_m=water)
    design = changed(plain, "site", rule_pack=pack, test_holes=(hole,), terrain="II")
    return hole, plan(design).footings.posts, design


@settings(max_examples=25)
@given(found=layers, water=waters)
def test_in_metric_layers_the_depth_is_what_any_balance_of_pressures_needs(
    plain: Design, found: tuple, water: float | None
) -> None:
    hole, posts, _ = standing_in(plain, "metric", found, water)
    if posts.depth_m >= 11.9 or not any(kind == "clay" for _, kind, _ in found):
        return
    width = posts.post.width_m

    def least(kind: SizedKind, depth_m: float) -> float:
        ground = Ground(hole, depth_m)
        pairs = np.column_stack((abs(kind.loads.across_n), abs(kind.loads.moment_n_m))).round(3)
        held = [ground.broms_pa(k, width) * width for k in range(len(ground.middle))]
        worst = np.unique(pairs, axis=0)[-3:].tolist()
        return min(rigid_limit(held, ground.middle, p, m) for p, m in worst if p + m > 0)

    for kind in posts.kinds:
        assert least(kind, kind.depth_m) > 0.98
    if posts.governing == 0 and posts.worst.needs.lateral_m > 0.5:
        assert least(posts.worst, posts.worst.needs.lateral_m - 0.05) < 1.02


@settings(max_examples=25)
@given(found=layers, water=waters)
def test_in_us_layers_the_depth_bears_as_ibc_scaled_by_the_balance_of_the_layers(
    plain: Design, found: tuple, water: float | None
) -> None:
    """The printed formula for one soil, times how much more or less a rigid post bears in layers."""
    hole, posts, design = standing_in(plain, "us", found, water)
    if posts.depth_m >= 11.9:
        return
    width = posts.post.width_m
    movement = 2.0 if design.arrays[0].footings.half_inch_moves else 1.0
    for kind in posts.kinds:
        depth, ground = kind.depth_m, Ground(hole, kind.depth_m)
        numbers = range(len(ground.middle))
        held = [ground.presumed_pa(k, movement) * width for k in numbers]
        one = [min(z, TWELVE_FEET) * width for z in ground.middle]
        # A smaller push with a smaller moment is never worse: the two that lead are looked at.
        for case in {
            int(np.argmax(abs(kind.loads.moment_n_m))),
            int(np.argmax(abs(kind.loads.across_n))),
        }:
            push, moment = abs(kind.loads.across_n[case]), abs(kind.loads.moment_n_m[case])
            s1 = min(depth, TWELVE_FEET) / 3
            a = depth**2 / (depth + 4.36 / 4 * moment / push)
            alone = a * s1 * width / 2.34 / push
            share = (
                alone
                * rigid_limit(held, ground.middle, push, moment)
                / rigid_limit(one, ground.middle, push, moment)
            )
            assert share > 0.98


@settings(max_examples=40)
@given(found=layers, water=waters, pack=st.sampled_from(["us", "metric"]))
def test_friction_and_tip_in_layers_summed_cell_by_cell_carry_lift_and_weight(
    plain: Design, found: tuple, water: float | None, pack: str
) -> None:
    hole, posts, design = standing_in(plain, pack, found, water)
    for kind in posts.kinds:
        if kind.depth_m < 11.9:
            carries(hole, posts.post, design.site.frost_depth_m, kind)


def carries(hole: HoleGivens, post: Section, frost_m: float, kind: SizedKind) -> None:
    """Cells summed one by one: friction below frost and the tip against all that pulls or presses."""
    depth, needs = kind.depth_m, kind.needs
    ground = Ground(hole, depth + 3 * post.width_m + 0.1)
    start = max(0.3, frost_m)
    held = sum(ground.friction_pa(k) * CELL for k, z in enumerate(ground.middle) if start < z < depth)
    held *= post.perimeter_m
    assert held >= 0.98 * needs.uplift_n * kind.ground.lift.safety
    assert held >= 0.98 * needs.heave_n
    tips = []
    for k, z in enumerate(ground.middle):
        if depth - CELL <= z <= depth + 3 * post.width_m:
            _, angle, cohesion, _, _ = ground.facts[k]
            phi = math.radians(angle)
            nq = math.exp(math.pi * math.tan(phi)) * math.tan(math.pi / 4 + phi / 2) ** 2
            at_tip = ground.pressure[min(k, round(depth / CELL) - 1)]
            tips.append(9 * cohesion if cohesion else nq * at_tip)
    box = post.depth_m * post.width_m
    assert held + min(tips) * box >= 0.97 * needs.bearing_n * kind.ground.press.safety


@pytest.mark.parametrize("pack", ["us", "metric"])
@pytest.mark.parametrize("kind", sorted(CLASSES))
def test_one_soil_told_in_layers_is_that_soil(plain: Design, pack: str, kind: str) -> None:
    """Water far below makes the same ground be looked at depth by depth: within one look of it."""
    one = ((4.0, kind, None),)
    _, even, _ = standing_in(plain, pack, one, None)
    _, scanned, _ = standing_in(plain, pack, one, 29.0)
    assert even.worst.soil.even and not scanned.worst.soil.even
    for closed, looked in zip(even.needs_m, scanned.needs_m, strict=True):
        assert looked == pytest.approx(closed, abs=0.03)
    assert scanned.depth_m == pytest.approx(even.depth_m, abs=0.027)
    assert scanned.bending_n_m == pytest.approx(even.bending_n_m, rel=0.01)


@pytest.mark.parametrize("pack", ["us", "metric"])
def test_soft_clay_below_is_not_hidden_by_what_lies_over_it(plain: Design, pack: str) -> None:
    stiff = ((1.2, "clay", 90e3), (6.0, "clay", 90e3))
    over_soft = ((1.2, "clay", 90e3), (6.0, "clay", 15e3))
    _, firm, _ = standing_in(plain, pack, stiff, None)
    _, soft, _ = standing_in(plain, pack, over_soft, None)
    assert soft.needs_m[1] > firm.needs_m[1]
    assert soft.depth_m > firm.depth_m
    # Water that the post reaches counts at any depth, and makes nothing better.
    sand = ((6.0, "sand", None),)
    depths = [standing_in(plain, pack, sand, water)[1].needs_m[1] for water in (0.5, 2.5, None)]
    assert depths[0] > depths[1] >= depths[2] - 0.01


def test_a_held_depth_that_ends_in_a_soft_layer_is_stopped_though_a_shallower_one_holds(
    plain: Design,
) -> None:
    """What a depth carries may fall again: deeper is not always enough."""
    found = ((1.6, "sandy gravel", None), (9.0, "clay", 5e3))
    hole = HoleGivens(name="h", layers=found)
    design = changed(plain, "site", test_holes=(hole,), frost_depth_m=0.3, ground_snow_pa=9000.0)
    design = changed(design, "footings", pull_tested=True)
    posts = plan(design).footings.posts
    held = plan(changed(design, "footings", depth_m=1.75))
    levels = {c.key: c.level for c in held.checks if c.stage == "footings"}
    needs = held.footings.posts.needs_m
    for key, need in zip(("lateral", "uplift", "bearing", "frost", "heave"), needs, strict=True):
        assert (levels[key] == "sound") == (need <= 1.75 + 1e-9)
    assert posts.depth_m > 0 and "stop" in levels.values()


@settings(max_examples=25)
@given(found=layers, water=waters, pack=st.sampled_from(["us", "metric"]))
def test_all_posts_to_one_depth_is_a_depth_that_carries_every_one(
    plain: Design, found: tuple, water: float | None, pack: str
) -> None:
    """What is deeper may hold less in layers: the common depth is not merely the deepest of all."""
    hole = HoleGivens(name="h", layers=found, water_m=water)
    design = changed(plain, "site", rule_pack=pack, test_holes=(hole,), terrain="II")
    whole = plan(changed(design, "footings", depths="alike for all"))
    posts = whole.footings.posts
    assert float(np.ptp(posts.depths_m)) == 0.0
    if posts.depth_m >= 11.9:
        return
    assert {c.level for c in whole.checks if c.given == "arrays.1.footings.depth_m"} == {"sound"}
    for kind in posts.kinds:
        carries(hole, posts.post, design.site.frost_depth_m, kind)
