"""Bored piers by hand: sums over thin slices of ground, fibres of concrete, cones laid out.

Strengths of each class: from memory of IBC Table 1806.2 and common practice. Friction of poured shafts:
O'Neill & Reese (1999), alpha 0.55; Jaky (1944) and Kulhawy (1991), K = 1 - sin phi, delta = phi.
IBC 2018, 1810.3.3.1.4: friction at most a sixth of the bearing value and 500 psf (from memory).
"""

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.footings.bored.bore import concrete_m3
from openfurrow.core.footings.bored.concrete import (
    bedding_pa,
    caged_moment_n_m,
    grip_limit_n,
    plain_moment_n_m,
)
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.footings.lateral import unconstrained_depth_m
from openfurrow.core.footings.posts import SizedKind
from openfurrow.core.plan import Plan, untried
from tests.core.breaks_piers import piers
from tests.core.test_checks import broken
from tests.designs import plain_larkspur

# Bearing and lateral bearing, friction angle, c_u, unit weight, whether frost grips it.
CLASSES = {
    "sandy gravel": (143641.0, 31417.6, 36.0, 0.0, 20e3),
    "sand": (95760.5, 23563.2, 32.0, 0.0, 18e3),
    "clay": (71820.4, 15708.8, 0.0, 50e3, 18e3),
}
CONCRETE_N_M3, WATER_N_M3 = 2400 * 9.80665, 9806.65
FOOT, POUND = 0.3048, 4.4482216
SLICE = 0.002
LIGHTEST, HEAVIEST = {"us": 0.6, "metric": 0.9}, {"us": 1.0, "metric": 1.35}
SAFETY = {"us": 3.0, "metric": 2.0}


class Bore:
    """A pier in layers, slice by slice from the ground down to a depth."""

    def __init__(self, design: Design, deep_m: float) -> None:
        site, self.given = design.site, design.arrays[0].footings
        self.pack, self.deep, self.site = site.rule_pack, deep_m, site
        holes = site.test_holes
        self.layers = holes[0].layers if holes else ((math.inf, site.soil_class, None),)
        self.water = holes[0].water_m if holes and holes[0].water_m is not None else math.inf
        self.width = self.given.pier_diameter_m
        self.bell = max(self.given.bell_diameter_m or 0.0, self.width)
        self.area, self.foot = (math.pi / 4 * d**2 for d in (self.width, self.bell))
        self.starts = max(0.3, site.frost_depth_m)

    def at(self, z: float) -> tuple[float, float, float, float, float]:
        name = next((kind for bottom, kind, _ in self.layers if z < bottom), self.layers[-1][1])
        return CLASSES[name]

    def above_pa(self, z: float) -> float:
        """Pressure of the soil over a depth."""
        depths = np.arange(SLICE / 2, z, SLICE)
        return sum(self.at(d)[4] - (WATER_N_M3 if d > self.water else 0.0) for d in depths) * SLICE

    def own_n(self, z: float) -> float:
        return self.area * (CONCRETE_N_M3 * z - WATER_N_M3 * max(0.0, z - self.water))

    def friction_n(self) -> float:
        if self.given.pier_side == "in a form tube":
            return 0.0
        total, above = 0.0, 0.0
        for z in np.arange(SLICE / 2, self.deep, SLICE):
            bearing, _, angle, cohesion, weight = self.at(z)
            step = (weight - (WATER_N_M3 if z > self.water else 0.0)) * SLICE
            if z > self.starts:
                phi = math.radians(angle)
                held = (1 - math.sin(phi)) * math.tan(phi) * (above + step / 2)
                if cohesion:
                    held = 0.55 * cohesion
                    if self.pack == "us":
                        held = min(held, 3 * min(bearing / 6, 500 * POUND / FOOT**2))
                total += held * math.pi * self.width * SLICE
            above += step
        return total

    def tip_n(self) -> float:
        """The least of what lies within three widths below the foot, by pressure at the foot."""
        worst = math.inf
        for z in np.arange(self.deep + SLICE / 2, self.deep + 3 * self.bell, SLICE * 5):
            bearing, _, angle, cohesion, _ = self.at(z)
            phi = math.radians(angle)
            number = math.exp(math.pi * math.tan(phi)) * math.tan(math.pi / 4 + phi / 2) ** 2
            holds = 9 * cohesion if cohesion else number * self.above_pa(self.deep)
            worst = min(worst, min(holds, 3 * bearing) if self.pack == "us" else holds)
        return worst * self.foot

    def lifts_n(self) -> float:
        """The pull it holds, safety taken off."""
        own, share = self.own_n(self.deep), LIGHTEST[self.pack]
        high = (self.bell - self.width) / 2 * math.tan(math.radians(60))
        over = (self.foot - self.area) * self.above_pa(self.deep - high) if high else 0.0
        return share * own + max(self.friction_n() / SAFETY[self.pack], share * over)

    def presses_n(self) -> float:
        """The weight it bears besides what the pier weighs more than its soil."""
        more = HEAVIEST[self.pack] * self.own_n(self.deep) - self.area * self.above_pa(self.deep)
        return (self.friction_n() + self.tip_n()) / SAFETY[self.pack] - max(more, 0.0)


def job(pack: str, footing: dict[str, Any], site: dict[str, Any], wind: float) -> Design:
    said = {"rule_pack": pack, "wind_speed_m_s": wind if pack == "us" else 0.6 * wind} | site
    return broken(
        plain_larkspur(), piers(**footing) | {"site": said, "rows": {"rows": 1, "tables_along": 1}}
    )


def designs() -> st.SearchStrategy[Design]:
    def made(
        pack: str,
        width: float,
        bell: float,
        side: str,
        kinds: list[str],
        water: float | None,
        wind: float,
        frost: float,
        even: bool,
    ) -> Design:
        layers = tuple((0.9 * (k + 1), kind, None) for k, kind in enumerate(kinds))
        ground: dict[str, Any] = {"frost_depth_m": frost, "fine_soil_top_m": None}
        if even:
            ground |= {"soil_class": kinds[0], "test_holes": ()}
        else:
            ground["test_holes"] = ({"name": "h", "layers": layers, "water_m": water},)
        footing = {
            "pier_diameter_m": width,
            "bell_diameter_m": width * bell if bell > 1.2 else None,
            "pier_side": side,
        }
        return job(pack, footing, ground, wind)

    return st.builds(
        made,
        st.sampled_from(["us", "metric"]),
        st.floats(0.3, 0.8).map(lambda d: round(d, 3)),
        st.floats(1.0, 2.0).map(lambda d: round(d, 2)),
        st.sampled_from(["against the soil", "against the soil", "in a form tube"]),
        st.lists(st.sampled_from(list(CLASSES)), min_size=1, max_size=3),
        st.none() | st.floats(0.5, 3).map(lambda d: round(d, 2)),
        st.floats(30, 65),
        st.sampled_from([0.0, 0.4, 1.0]),
        st.booleans(),
    )


def lifted_n(kind: SizedKind, width: float) -> float:
    """The pull and the twist at the face of the pier, added as vectors."""
    loads = kind.loads
    up = np.maximum(-loads.down_n, 0.0)
    return float(np.hypot(up, loads.twist_n_m / (width / 2)).max())


@settings(max_examples=40, deadline=None)
@given(designs())
def test_every_pier_is_held_down_and_carried_at_its_depth_and_no_deeper_than_it_must(
    design: Design,
) -> None:
    found = untried(design)
    asserted = 0
    for kind in found.footings.posts.kinds:
        if kind.depth_m > 8:
            continue
        here = Bore(design, kind.depth_m)
        pull, press = lifted_n(kind, here.width), float(kind.loads.down_n.max())
        assert here.lifts_n() >= pull * 0.995 - 20
        assert here.presses_n() >= press * 0.995 - 20
        assert kind.depth_m >= design.site.frost_depth_m - 1e-9
        asserted += 1
        needs = dict(zip(("tip", "lift", "press", "frost", "heave"), kind.needs.all_m, strict=True))
        # What asks for most would not hold three steps higher.
        if needs["lift"] == max(needs.values()) and needs["lift"] > 0.8:
            assert Bore(design, needs["lift"] - 0.08).lifts_n() < pull
    if not asserted:
        # Nothing of it is called sound.
        stopped = {check.key for check in found.checks if check.level == "stop"}
        assert "borable" in stopped


@settings(max_examples=30, deadline=None)
@given(designs())
def test_soil_beside_a_pier_holds_what_pushes_it(design: Design) -> None:
    """In one soil: IBC 1807.3.2.1 by trial and error, Broms by equilibrium about the foot."""
    found, given = untried(design), design.arrays[0].footings
    if design.site.test_holes:
        return
    _, lateral, angle, cohesion, weight = CLASSES[design.site.soil_class]
    moves = 2.0 if given.half_inch_moves else 1.0
    for kind in found.footings.posts.kinds:
        push, moment = (np.abs(one) for one in (kind.loads.push_n, kind.loads.tipping_n_m))
        deep, width = kind.needs.lateral_m, given.pier_diameter_m
        if design.site.rule_pack == "us":
            stress = moves * lateral * min(deep, 12 * FOOT) / 3
            a = 2.34 * push / (stress * width)
            asked = (
                0.5
                * a
                * (1 + np.sqrt(1 + 4.36 * moment / np.maximum(push, 1e-9) / np.maximum(a, 1e-12)))
            )
            assert float(asked.max()) == pytest.approx(deep, rel=2e-3)
        elif cohesion:
            held = 9 * cohesion / 1.4 * width
            f = push / held
            rest = deep - 1.5 * width - f
            most = moment + push * (1.5 * width + f / 2)
            assert float((most / (held * rest**2 / 4)).max()) == pytest.approx(1.0, rel=2e-3)
        else:
            phi = math.atan(math.tan(math.radians(angle)) / 1.25)
            passive = math.tan(math.pi / 4 + phi / 2) ** 2
            held = 0.5 * weight * width * deep**3 * passive
            assert float(((moment + push * deep) / held).max()) == pytest.approx(1.0, rel=2e-3)


def test_published_pole_as_a_pier() -> None:
    """500 lb at 5 ft, 150 psf/ft, 2 ft wide: 4.96 ft (IBC 1807.3.2.1, worked through)."""
    push = 500 * POUND
    deep = unconstrained_depth_m(push, push * 5 * FOOT, 150 * POUND / FOOT**3, 2 * FOOT)
    assert float(deep) / FOOT == pytest.approx(4.96, abs=0.005)


def test_frost_grips_the_face_of_a_pier() -> None:
    """65 kPa (CFEM, from memory) along the frost, less load and weight, is held by friction below."""
    cold = {"soil_class": "clay", "frost_depth_m": 1.2, "fine_soil_top_m": None, "test_holes": ()}
    design = job("metric", {"bored_diameter_m": 0.42}, cold, 40.0)
    for kind in untried(design).footings.posts.kinds:
        deep, width = kind.needs.heave_m, 0.35
        # The face is as wide as the bore came out.
        grip = 65e3 * math.pi * 0.42 * 1.2 - float(kind.loads.dead_n[0])
        friction = 0.55 * 50e3 * math.pi * width * (deep - 1.2)
        weight = CONCRETE_N_M3 * math.pi / 4 * width**2 * deep
        assert friction + weight == pytest.approx(grip, rel=1e-6)


@settings(max_examples=60, deadline=None)
@given(st.floats(0.2, 1.2), st.floats(1.0, 2.2), st.floats(0.8, 4), st.floats(0, 0.4))
def test_concrete_is_what_fills_the_bore(width: float, bell: float, deep: float, over: float) -> None:
    """Discs of 0.5 mm, one on the other."""
    foot = width * bell
    step = 0.0005
    heights = np.arange(step / 2, deep + over, step)
    cone = foot - 2 * heights / math.tan(math.radians(60))
    wide = np.maximum(width, cone)
    laid = float((math.pi / 4 * wide**2).sum() * step)
    if (foot - width) / 2 * math.tan(math.radians(60)) < deep:
        assert float(concrete_m3(width, foot, np.array([deep]), over)[0]) == pytest.approx(
            laid, rel=2e-3
        )


def test_facts_of_concrete() -> None:
    """Common practice, no published source: what bores swallow."""

    def feet(diameter: float, deep: float) -> float:
        return float(concrete_m3(diameter * FOOT, None, np.array([deep * FOOT]), 0.0)[0]) / FOOT**3

    assert feet(15 / 12, 5.5) / feet(1.0, 5.5) == pytest.approx(1.56, abs=0.005)
    fourteen = 14 * feet(1.0, 5.5)
    assert fourteen == pytest.approx(60.5, abs=0.05)
    # 60 lb give 0.45 cu ft.
    assert math.floor(fourteen / 0.45) == 134
    assert 14 * feet(15 / 12, 5.5) / 0.45 > 200
    assert 9 * feet(2.0, 6.0) / 27 == pytest.approx(6.28, abs=0.005)


def test_ordered_for_bores_as_they_come_out() -> None:
    def order(found: Plan, key: str) -> float:
        return next(line.net for line in found.materials.lines if line.key == key)

    shared = {"pier_diameter_m": 0.4, "depth_m": 1.6, "pier_top_m": 0.1}
    wide = untried(job("metric", shared | {"bored_diameter_m": 0.5}, {}, 45.0))
    plain = untried(job("metric", shared, {}, 45.0))
    bags = untried(job("metric", shared | {"concrete_from": "bags", "bag_yield_m3": 0.01}, {}, 45.0))
    tube = untried(
        job("metric", shared | {"bored_diameter_m": 0.5, "pier_side": "in a form tube"}, {}, 45.0)
    )
    count = plain.structure.supports.count
    net = count * math.pi / 4 * 0.4**2 * 1.7
    assert order(plain, "concrete") == pytest.approx(net)
    assert order(wide, "concrete") == pytest.approx(net * 1.25**2)
    assert order(tube, "concrete") == pytest.approx(net)
    assert order(bags, "concrete_bag") == pytest.approx(net / 0.01)
    ordered = next(line for line in bags.materials.lines if line.key == "concrete_bag").quantity
    assert ordered == math.ceil(net / 0.01 * 1.05)
    # What holds is as wide as the auger, however wide a bore comes out.
    held = [[k.needs.all_m[:4] for k in one.footings.posts.kinds] for one in (wide, plain)]
    assert held[0] == held[1]


def test_plain_concrete_by_hand() -> None:
    """12 in of 3000 psi: 0.6 x 5 x root(3000) x 169.6 cu in, over 1.6 (from memory of ACI 318-14)."""
    inch = 0.0254
    by_hand = 0.6 * 5 * math.sqrt(3000) * math.pi * 12**3 / 32 / 1.6
    shown = plain_moment_n_m("us", 12 * inch, 3000 * POUND / inch**2) / (POUND * inch)
    assert shown == pytest.approx(by_hand, rel=2e-3)
    # C20/25: f_ctk,0.05 is 1.5 MPa (EN 1992-1-1, Table 3.1), 0.8 of it over 1.5.
    section = math.pi * 0.4**3 / 32
    assert plain_moment_n_m("metric", 0.4, 20e6) == pytest.approx(0.8 * 1.5e6 / 1.5 * section, rel=0.04)


@settings(max_examples=40, deadline=None)
@given(
    st.sampled_from(["us", "metric"]),
    st.floats(0.35, 0.8),
    st.floats(17e6, 28e6),
    st.integers(3, 10),
    st.sampled_from([0.01, 0.012, 0.016, 0.02]),
)
def test_a_cage_by_fibres(pack: Any, width: float, strength: float, bars: int, bar: float) -> None:
    """Strips of concrete and single bars, the neutral axis sought by halving."""
    ring = width / 2 - 0.09
    fy, block, share, factor = (
        (413.7e6, 0.85, 0.85, 0.9 / 1.6) if pack == "us" else (500e6 / 1.15, 0.85 / 1.5, 0.8, 1.0)
    )
    y = (np.arange(4000) + 0.5) / 4000 * width
    strips = 2 * np.sqrt(np.maximum((width / 2) ** 2 - (width / 2 - y) ** 2, 0)) * width / 4000
    worst = math.inf
    for turn in (0.0, math.pi / bars):
        at = width / 2 - ring * np.cos(turn + 2 * math.pi * np.arange(bars) / bars)

        def sums(axis: float, at: Any = at) -> tuple[float, float]:
            concrete = block * strength * strips * (y <= share * axis)
            steel = math.pi / 4 * bar**2 * np.clip(200e9 * 0.003 * (axis - at) / axis, -fy, fy)
            push = float(concrete.sum() + steel.sum())
            about = float((concrete * (width / 2 - y)).sum() + (steel * (width / 2 - at)).sum())
            return push, about

        low, high = 0.02 * width, width
        for _ in range(60):
            middle = (low + high) / 2
            low, high = (middle, high) if sums(middle)[0] < 0 else (low, middle)
        worst = min(worst, sums((low + high) / 2)[1])
    assert caged_moment_n_m(pack, width, strength, bars, bar, ring) == pytest.approx(
        factor * worst, rel=0.02
    )


@pytest.mark.parametrize("post_in", [0.5, 1.0, 1.4, None])
def test_what_bends_a_pier_below_its_post(post_in: float | None) -> None:
    """No more than anywhere (M + 2/3 V z in sand), nor than 3 K_p gamma d b over what is left below."""
    ground = {"soil_class": "sand", "test_holes": (), "frost_depth_m": 0.3}
    found = untried(job("metric", {"post_in_m": post_in}, ground, 45.0))
    taken, width, most = found.footings.piers, 0.35, 0.0
    assert taken is not None
    passive = math.tan(math.radians(45 + 16)) ** 2
    for kind in found.footings.posts.kinds:
        push, moment = np.abs(kind.loads.push_n), np.abs(kind.loads.tipping_n_m)
        z = np.sqrt(push / (1.5 * passive * 18e3 * width))
        anywhere = float((moment + push * z * 2 / 3).max())
        rest = kind.depth_m - min(post_in or math.inf, kind.depth_m - 0.075)
        most = max(most, min(anywhere, 3 * passive * 18e3 * kind.depth_m * width * rest**2 / 2))
    assert taken.below_post.asked == pytest.approx(most, rel=1e-6)


def test_the_post_carries_all_that_bends_its_pier() -> None:
    """Concrete without bars may crack: what bends most is below the ground (M + 2/3 V z in sand)."""
    ground = {"soil_class": "sand", "test_holes": (), "frost_depth_m": 0.3}
    found, most = untried(job("metric", {}, ground, 45.0)), 0.0
    passive = math.tan(math.radians(45 + 16)) ** 2
    for kind in found.footings.posts.kinds:
        push, moment = np.abs(kind.loads.across_n), np.abs(kind.loads.moment_n_m)
        z = np.sqrt(push / (1.5 * passive * 18e3 * 0.35))
        most = max(most, float(np.maximum(moment + push * z * 2 / 3, moment + push * 0.1).max()))
    assert found.footings.posts.bending_n_m == pytest.approx(most, rel=1e-6)


@given(st.floats(-2e4, 2e4), st.floats(-3e4, 3e4), st.floats(0.05, 0.3), st.floats(0.2, 2))
def test_a_stub_in_concrete_is_in_balance(push: float, moment: float, wide: float, deep: float) -> None:
    """A straight line of pressure down the stub takes push and moment, whichever way each acts."""
    z = (np.arange(20000) + 0.5) / 20000 * deep
    # Pressure a - b z, from the two sums: of forces, and of moments about the ground.
    lines = np.array([[deep, -(deep**2) / 2], [deep**2 / 2, -(deep**3) / 3]]) * wide
    a, b = np.linalg.solve(lines, [push, -moment])
    pressed = a - b * z
    assert float((pressed * wide).sum() * deep / 20000) == pytest.approx(push, rel=1e-3, abs=1)
    assert bedding_pa(push, moment, wide, deep) == pytest.approx(float(np.abs([a, a - b * deep]).max()))


def test_a_bar_through_the_foot_holds_what_two_cuts_of_it_do() -> None:
    """60 psi over 3.33 on the face, 0.6 F_y over 1.67 in two cuts (from memory of AISC 360)."""
    face = 60 * POUND / 0.0254**2 / 3.33 * 0.4 * 1.2
    bar = 2 * math.pi / 4 * 0.0127**2 * 0.6 * 60e3 * POUND / 0.0254**2 / 1.67
    assert grip_limit_n("us", 0.4, 1.2, barred=False) == pytest.approx(face, rel=5e-3)
    assert grip_limit_n("us", 0.4, 1.2, barred=True) == pytest.approx(face + bar, rel=5e-3)


def test_more_wind_never_asks_for_less_and_deeper_never_holds_less() -> None:
    depths = [
        untried(job("us", {}, {"soil_class": "clay", "test_holes": ()}, wind)).footings.posts.depth_m
        for wind in (30.0, 45.0, 60.0, 75.0)
    ]
    assert depths == sorted(depths)
    design = job("metric", {"bell_diameter_m": 0.6}, {"soil_class": "clay", "test_holes": ()}, 40.0)
    holds = [(one.lifts_n(), one.presses_n()) for one in (Bore(design, d) for d in (1.2, 1.6, 2.0))]
    assert holds == sorted(holds)


def test_schools_agree_in_depth_at_the_same_pull() -> None:
    """Both schools' depth for one and the same wind pressure, within 0.6 to 1.6."""
    ground = {"soil_class": "sandy gravel", "test_holes": (), "frost_depth_m": 0.3}
    us = untried(job("us", {}, ground, 50.0))
    metric = untried(job("metric", {}, ground, 50.0))
    pulls = [lifted_n(one.footings.posts.worst, 0.35) for one in (us, metric)]
    # 0.6 W with 3 against 1.5 W with 2 and what is left of each weight.
    held = [max(kind.needs.lateral_m for kind in one.footings.posts.kinds) for one in (us, metric)]
    scale = (pulls[1] / pulls[0] / 2.5) ** (1 / 3)
    assert 0.6 <= held[1] / held[0] / scale <= 1.6


def test_everything_typed_of_piers_survives_another_family() -> None:
    given = FootingsGivens(family="bored pier", pier_diameter_m=0.45, bell_diameter_m=0.7, cure_days=10)
    other = given.model_copy(update={"family": "ballast"})
    back = other.model_copy(update={"family": "bored pier"})
    assert back == given
    assert "pier_diameter_m" not in other.shown() and "pier_diameter_m" in given.shown()
