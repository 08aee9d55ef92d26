"""Ground screws by hand: soil over a helix slice by slice, torque by published factors, thread in rock.

Breakout in sand: Meyerhof & Adams (1968); in clay: Vesic (1971), 1.2 H / B to 9; deep: Reissner (1924).
Torque: Hoyt & Clemence (1989), ICC-ES AC358: K_t 10 per ft for 60 mm shafts, 9 for 73 mm, 7 for 89 mm.
All from memory. Friction of a thread, and strengths of each class: common practice.
"""

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.footings.turned.helix import torque_factor_per_m
from openfurrow.core.plan import Plan, untried
from tests.core.breaks_piers import screws
from tests.core.test_checks import broken
from tests.designs import plain_larkspur

FOOT = 0.3048
# Friction angle, c_u, unit weight, K of pushed soil.
CLASSES = {
    "crystalline rock": (40.0, 0.0, 22e3, 1.0),
    "sandy gravel": (36.0, 0.0, 20e3, 1.0),
    "sand": (32.0, 0.0, 18e3, 0.8),
    "clay": (0.0, 50e3, 18e3, 0.0),
}
WEDGE = {32.0: (0.19, 0.922), 36.0: (0.27, 0.944), 40.0: (0.35, 0.96)}
WATER, SLICE = 9806.65, 0.002
OUTSIDE = {"pipe 2-1/2 in": 0.073025, "pipe 3 in": 0.0889, "pipe 4 in": 0.1143}
# A helix proved by its torque; a rock screw that nobody pulled in number.
SAFETY = {("us", True): 2.0, ("us", False): 3.0, ("metric", True): 4 / 3, ("metric", False): 2.0}


class Hole:
    """Layers, and what a screw finds in them."""

    def __init__(self, design: Design) -> None:
        self.given, hole = design.arrays[0].footings, design.site.test_holes[0]
        self.layers = hole.layers
        self.water = math.inf if hole.water_m is None else hole.water_m
        self.shaft = OUTSIDE[self.given.screw_section]
        self.starts = max(0.3, design.site.frost_depth_m)
        self.proved = self.given.screw_kind == "with a helix"
        self.safety = SAFETY[design.site.rule_pack, self.proved]

    def named(self, z: float) -> str:
        return next((kind for bottom, kind, _ in self.layers if z < bottom), self.layers[-1][1])

    def over_pa(self, deep: float) -> float:
        return (
            sum(
                CLASSES[self.named(z)][2] - (WATER if z > self.water else 0.0)
                for z in np.arange(SLICE / 2, deep, SLICE)
            )
            * SLICE
        )

    def on_helix_n(self, deep: float) -> float:
        """The weakest of what lies within three widths over it."""
        wide = self.given.helix_diameter_m
        names = {self.named(z) for z in np.linspace(max(deep - 3 * wide, 0), deep, 400)}
        worst = math.inf
        for name in names:
            angle, cohesion, _, _ = CLASSES[name]
            ratio = deep / wide
            if cohesion:
                holds = cohesion * min(1.2 * ratio, 9.0)
            else:
                spread, k = WEDGE[angle]
                phi = math.radians(angle)
                wedge = 1 + 2 * (1 + spread * ratio) * ratio * k * math.tan(phi)
                deep_one = math.exp(math.pi * math.tan(phi)) * math.tan(math.pi / 4 + phi / 2) ** 2
                holds = self.over_pa(deep) * min(wedge, deep_one)
            worst = min(worst, holds)
        return worst * math.pi / 4 * wide**2

    def on_thread_n(self, deep: float) -> float:
        total, over = 0.0, 0.0
        for z in np.arange(SLICE / 2, deep, SLICE):
            name = self.named(z)
            angle, cohesion, weight, k = CLASSES[name]
            step = (weight - (WATER if z > self.water else 0.0)) * SLICE
            if z > self.starts:
                held = k * math.tan(math.radians(angle * 2 / 3)) * (over + step / 2)
                if cohesion:
                    held = cohesion * (1.0 - 0.5 * (cohesion - 25e3) / 45e3)
                if name.endswith("rock") and self.given.rock_bond_pa is not None:
                    held = self.given.rock_bond_pa
                total += held * math.pi * self.shaft * SLICE
            over += step
        return total

    def holds_n(self, deep: float) -> float:
        return (self.on_helix_n(deep) if self.proved else self.on_thread_n(deep)) / self.safety


def designs() -> st.SearchStrategy[Design]:
    def made(
        pack: str,
        kind: str,
        shaft: str,
        helix: float,
        out: float,
        layers: list[str],
        water: float | None,
        wind: float,
        bond: float | None,
        frost: float,
        depths: str,
    ) -> Design:
        ground = tuple((0.7 * (k + 1), name, None) for k, name in enumerate(layers))
        said = screws(
            screw_kind=kind,
            screw_section=shaft,
            helix_diameter_m=helix,
            screw_out_m=out,
            rock_bond_pa=bond,
            depths=depths,
        )
        site = {
            "rule_pack": pack,
            "wind_speed_m_s": wind if pack == "us" else 0.6 * wind,
            "frost_depth_m": frost,
            "test_holes": ({"name": "h", "layers": ground, "water_m": water},),
        }
        return broken(plain_larkspur(), said | {"site": site, "rows": {"rows": 1, "tables_along": 1}})

    return st.builds(
        made,
        st.sampled_from(["us", "metric"]),
        st.sampled_from(["with a helix", "with a helix", "rock screw"]),
        st.sampled_from(list(OUTSIDE)),
        st.floats(0.15, 0.4).map(lambda d: round(d, 3)),
        st.floats(0, 0.2).map(lambda d: round(d, 3)),
        st.lists(st.sampled_from(list(CLASSES)), min_size=1, max_size=3),
        st.none() | st.floats(0.5, 3).map(lambda d: round(d, 2)),
        st.floats(30, 60),
        st.none() | st.floats(1e5, 5e5),
        st.sampled_from([0.0, 0.6]),
        st.sampled_from(["each post's own", "alike in one soil"]),
    )


@settings(max_examples=40, deadline=None)
@given(designs())
def test_every_screw_is_held_at_its_depth(design: Design) -> None:
    found, hole = untried(design), Hole(design)
    assert found.footings.screws is not None
    for kind in found.footings.posts.kinds:
        pull = float(np.maximum(-kind.loads.down_n, 0.0).max())
        need = kind.needs.uplift_m
        if need <= kind.depth_m and kind.depth_m < 8:
            assert hole.holds_n(kind.depth_m) >= pull * 0.97 - 20
        # Where it is the pull that asks for the depth, some depth shortly above does not hold.
        if 0.5 < need < 8 and need >= kind.depth_m - 0.2:
            above = [hole.holds_n(need - off) for off in (0.03, 0.06, 0.12)]
            assert min(above) < pull * 1.03 + 20


@settings(max_examples=30, deadline=None)
@given(designs(), st.lists(st.floats(0.4, 4.0), min_size=3, max_size=3))
def test_what_lies_close_over_a_helix_holds_it_too(design: Design, depths: list[float]) -> None:
    """At any depth, whichever way of failing asks for it."""
    hole, found = Hole(design), untried(design)
    profile = found.footings.posts.kinds[0].ground.profile
    assert profile is not None
    if not hole.proved:
        assert profile.helix_pa is None
        return
    assert profile.helix_pa is not None
    wide = design.arrays[0].footings.helix_diameter_m
    bottoms = [bottom for bottom, _, _ in hole.layers[:-1]]
    for deep in depths:
        # Not where a layer ends just there: the slices are not cut alike.
        if any(abs(deep - b) < 0.02 or abs(deep - 3 * wide - b) < 0.02 for b in bottoms):
            continue
        here = float(np.interp(deep, profile.depth_m, profile.helix_pa))
        by_hand = hole.on_helix_n(deep) / (math.pi / 4 * wide**2)
        assert here == pytest.approx(by_hand, rel=0.02)


@settings(max_examples=30, deadline=None)
@given(designs())
def test_a_screw_is_as_long_as_it_is_sold_and_ends_where_it_is_reckoned(design: Design) -> None:
    found = untried(design)
    sold, mark = (0.1524, 0.0254) if design.site.display_units == "us" else (0.1, 0.025)
    taken = found.footings.screws
    assert taken is not None
    out = math.ceil(design.arrays[0].footings.screw_out_m / mark - 1e-9) * mark
    for depth, length in zip(taken.depths_m.tolist(), taken.lengths_m.tolist(), strict=True):
        assert length == pytest.approx(depth + out)
        assert length / sold == pytest.approx(round(length / sold), abs=1e-6)
    # A post begins where the head of its screw stands out of the ground.
    tops = found.structure.supports.reveals_m + found.structure.posts.bent.top_m
    assert found.footings.posts.lengths_m == pytest.approx(tops - out)


@pytest.mark.parametrize(
    ("shaft_m", "per_foot", "within"), [(0.0603, 10.0, 0.02), (0.073, 9.0, 0.08), (0.0889, 7.0, 0.02)]
)
def test_torque_factors_of_published_shafts(shaft_m: float, per_foot: float, within: float) -> None:
    assert torque_factor_per_m(shaft_m) * FOOT == pytest.approx(per_foot, rel=within)


@settings(max_examples=30, deadline=None)
@given(designs(), st.none() | st.floats(10, 40))
def test_torque_is_what_it_holds_over_its_factor(design: Design, factor: float | None) -> None:
    first = design.arrays[0]
    footings = first.footings.model_copy(
        update={"screw_kind": "with a helix", "torque_factor_per_m": factor}
    )
    design = design.model_copy(update={"arrays": (first.model_copy(update={"footings": footings}),)})
    found = untried(design)
    stakes = found.setting_out.stakes.torque_n_m
    assert stakes is not None
    per_m = factor or 22.285 / FOOT / (OUTSIDE[footings.screw_section] / 0.0254) ** 0.92
    safety = SAFETY[design.site.rule_pack, True]
    for index, kind in enumerate(found.structure.supports.kind.tolist()):
        loads = found.footings.posts.kinds[kind].loads
        assert float(stakes[index]) * per_m / safety == pytest.approx(
            float(np.abs(loads.down_n).max()), rel=1e-4
        )


def test_what_bends_a_shaft_in_even_sand() -> None:
    """Where 1.5 K_p gamma b z² takes up the push: M + 2/3 V z, the head's moment added as vectors."""
    said = screws(screw_section="pipe 4 in")
    site: dict[str, Any] = {"rule_pack": "metric", "soil_class": "sand", "test_holes": ()}
    found = untried(broken(plain_larkspur(), said | {"site": site | {"wind_speed_m_s": 26.0}}))
    taken, most = found.footings.screws, 0.0
    assert taken is not None
    passive = math.tan(math.radians(45 + 16)) ** 2
    for kind in found.footings.posts.kinds:
        loads = kind.loads
        push = np.hypot(loads.across_n, loads.along_n)
        tips = np.hypot(loads.moment_n_m, loads.along_moment_n_m)
        z = np.sqrt(push / (1.5 * passive * 18e3 * 0.1143))
        most = max(most, float((tips + push * z * 2 / 3).max()))
    # Both pushes and both moments are taken at once, which is no less.
    assert most * 0.98 <= taken.bent_n_m <= most * 1.02


def test_frost_does_not_lift_a_helix_below_it() -> None:
    """100 kPa on the shaft along the frost, less its load, is held by the soil over the helix."""
    said = screws(helix_diameter_m=0.35)
    site = {
        "rule_pack": "metric",
        "soil_class": "clay",
        "frost_depth_m": 1.0,
        "fine_soil_top_m": None,
        "test_holes": (),
    }
    found = untried(broken(plain_larkspur(), said | {"site": site}))
    for kind in found.footings.posts.kinds:
        grip = 100e3 * math.pi * 0.0889 - float(kind.loads.dead_n[0])
        deep = kind.needs.heave_m
        assert deep > 1.0
        over = min(1.2 * deep / 0.35, 9.0) * 50e3 * math.pi / 4 * 0.35**2
        assert over >= grip * 0.999
    helix = found.footings.screws
    assert helix is not None and float(helix.depths_m.min()) > 1.0


def order(found: Plan, key: str) -> float:
    return next((line.net for line in found.materials.lines if line.key == key), 0.0)


def test_what_is_bought_and_who_turns_it() -> None:
    plain = untried(broken(plain_larkspur(), screws()))
    count = plain.structure.supports.count
    assert order(plain, "ground_screw") == count == order(plain, "post")
    long = untried(broken(plain_larkspur(), screws(depth_m=4.4)))
    assert order(long, "screw_extension") == count
    names = [task.name for task in plain.schedule.tasks]
    assert any("urn in the screws" in name for name in names)
    assert not any("rive" in name or "pour" in name for name in names)
