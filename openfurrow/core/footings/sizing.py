"""How deep one kind of post must go in one soil: what each way of failing asks for."""

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.codes.section import Section
from openfurrow.core.footings.axial import Shaft, bearing_depth_m, friction_depth_m, shaft_in, tip_pa
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.footings.lateral import lateral_depth_m, moment_below_ground_n_m
from openfurrow.core.footings.layered import (
    DEEPEST_M,
    PARTS,
    Profile,
    lateral_shares,
    moment_below_n_m,
    profile_of,
)
from openfurrow.core.members.resistance import twist_limit_n_m
from openfurrow.core.quantities import round_up
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.site.soil import Soil
from openfurrow.core.structures.supports import Reactions

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]
Truths = NDArray[np.bool_]
# Said of a need that no depth that is looked at meets.
BEYOND_M = DEEPEST_M + 1.0

LIFTS, PRESSES = "wind lifts it", "weight presses it"
MODES = ("wind tips it", LIFTS, PRESSES, "below frost", "frost lifts it")


@dataclass(frozen=True)
class DepthNeeds:
    """What each way of failing asks for; index arrays point at the governing load case."""

    lateral_m: float
    uplift_m: float
    bearing_m: float
    frost_m: float
    heave_m: float
    lateral_case: int
    uplift_case: int
    bearing_case: int
    uplift_n: float
    bearing_n: float
    heave_n: float
    axial_safety: float
    movement: float
    shaft: Shaft
    tip_n_per_m2: float
    tip_area_m2: float

    @property
    def all_m(self) -> tuple[float, ...]:
        """Depths in the order of MODES."""
        return (self.lateral_m, self.uplift_m, self.bearing_m, self.frost_m, self.heave_m)


def tip_area_m2(post: Section) -> float:
    """The plug's foot: the circle of a pipe, the box of an open section."""
    return math.pi / 4 * post.depth_m**2 if post.shape == "pipe" else post.depth_m * post.width_m


@dataclass(frozen=True, kw_only=True)
class Beside:
    """A post in one soil, before any load: found once for all kinds that stand in it.

    ``profile`` and ``bending`` are its curves by depth, None where the soil is even and the printed
    formulas hold; ``step_m`` is what depths are called out in.
    """

    pack: RulePack
    post: Section
    soil: Soil
    frost_m: float
    movement: float
    axial_safety: float
    shaft: Shaft
    step_m: float
    profile: Profile | None
    bending: Profile | None


def beside(site: SitePlan, soil: Soil, givens: FootingsGivens, post: Section, step_m: float) -> Beside:
    """What the soil does beside a post of this profile."""
    pack = site.rule_pack
    moves = pack == "us" and givens.half_inch_moves
    movement = constant("us", "movement_factor").value if moves else 1.0
    which = "axial_safety_tested" if givens.pull_tested else "axial_safety_untested"
    shaft = shaft_in(
        soil, post.perimeter_m, max(constant("common", "no_credit_m").value, site.frost_depth_m)
    )
    curves: tuple[Profile | None, Profile | None] = (None, None)
    if not soil.even:
        curves = (
            profile_of(pack, soil, post.width_m, post.perimeter_m, shaft.start_m, movement, step_m),
            profile_of("us", soil, post.width_m, 0.0, 0.0, 1.0, step_m),
        )
    return Beside(
        pack=pack,
        post=post,
        soil=soil,
        frost_m=site.frost_depth_m,
        movement=movement,
        axial_safety=constant(pack, which).value,
        shaft=shaft,
        step_m=step_m,
        profile=curves[0],
        bending=curves[1],
    )


def bending_n_m(at: Beside, loads: Reactions) -> float:
    """Largest bending in the post below the ground, by the closed formula where the soil is even."""
    return float(_bent_below_n_m(at, loads.across_n, loads.moment_n_m).max())


def _bent_below_n_m(at: Beside, push_n: Floats, moment_n_m: Floats) -> Floats:
    """The most that a post bends in the ground, case by case."""
    if at.bending is None:
        return moment_below_ground_n_m(push_n, moment_n_m, at.soil, at.post.width_m)
    return moment_below_n_m(at.bending, push_n, moment_n_m)


def used_along(at: Beside, loads: Reactions, limits: tuple[float, float]) -> float:
    """How much of the post is used where wind tips it along the row, about both axes together.

    ``limits`` are its moments about the weak and the strong axis. A pipe bends about whichever axis
    lies across, and what twists it takes the square of its share besides.
    """
    weak, strong = limits
    tipped = (loads.along_n > 0) | (loads.along_moment_n_m > 0)
    if not tipped.any():
        return 0.0
    if at.post.shape == "pipe":
        used = _bent_below_n_m(at, loads.push_n[tipped], loads.tipping_n_m[tipped]) / strong
        used = used + (loads.twist_n_m[tipped] / twist_limit_n_m(at.post, at.pack)) ** 2
    else:
        below = _bent_below_n_m(at, loads.along_n[tipped], loads.along_moment_n_m[tipped])
        used = below / weak + np.abs(loads.moment_n_m[tipped]) / strong
    return float(used.max())


def gripped_n(loads: Reactions, post: Section) -> tuple[Floats, Floats]:
    """What the soil's grip holds in every case, lifted and pressed: along the post and around it.

    Friction acts once, whichever way the face would slide: what twists a post takes its share of what
    would hold it down.
    """
    around = loads.twist_n_m / (post.width_m / 2)
    lifted, pressed = np.maximum(-loads.down_n, 0.0), np.maximum(loads.down_n, 0.0)
    return np.hypot(lifted, around), np.hypot(pressed, around)


def sized(at: Beside, loads: list[Reactions], held_m: float | None) -> list[tuple[DepthNeeds, float]]:
    """What each kind asks for in its soil, and the depth: held, or the least that carries."""
    needs = [_needs(at, one) for one in loads]
    if at.profile is None:
        return [
            (one, held_m if held_m is not None else round_up(max(one.all_m), at.step_m))
            for one in needs
        ]
    called = np.arange(0, len(at.profile.depth_m), PARTS)
    pushes = np.stack([one.push_n for one in loads]), np.stack([one.tipping_n_m for one in loads])
    upright = lateral_shares(at.pack, at.profile, at.post.width_m, pushes, called) >= 1.0
    return [
        _scanned(at, at.profile, *of_kind, held_m)
        for of_kind in zip(loads, needs, upright, strict=True)
    ]


def _needs(at: Beside, loads: Reactions) -> DepthNeeds:
    """The five depths of one kind as if its soil were even. Frost lifts the lightest post first."""
    soil, post = at.soil, at.post
    lateral = (
        lateral_depth_m(at.pack, loads.push_n, loads.tipping_n_m, soil, post.width_m, at.movement)
        if at.profile is None
        else np.zeros(1)
    )
    lifted, pressed = gripped_n(loads, post)
    up, down = int(lifted.argmax()), int(pressed.argmax())
    uplift, bearing = float(lifted[up]), float(pressed[down])
    heave = max(0.0, soil.adfreeze_pa * post.perimeter_m * soil.frost_grip_m - float(loads.dead_n[0]))
    tip = tip_area_m2(post)
    bearing_depth = bearing_depth_m(at.shaft, soil, tip, bearing * at.axial_safety)
    return DepthNeeds(
        lateral_m=float(lateral.max()),
        uplift_m=friction_depth_m(at.shaft, uplift * at.axial_safety),
        bearing_m=bearing_depth,
        frost_m=at.frost_m,
        heave_m=friction_depth_m(at.shaft, heave),
        lateral_case=int(lateral.argmax()),
        uplift_case=up,
        bearing_case=down,
        uplift_n=uplift,
        bearing_n=bearing,
        heave_n=heave,
        axial_safety=at.axial_safety,
        movement=at.movement,
        shaft=at.shaft,
        tip_n_per_m2=tip_pa(soil, max(bearing_depth, at.shaft.start_m)),
        tip_area_m2=tip,
    )


def _scanned(
    at: Beside,
    profile: Profile,
    loads: Reactions,
    needs: DepthNeeds,
    called_upright: Truths,
    held_m: float | None,
) -> tuple[DepthNeeds, float]:
    """The same in layers: every depth that can be called out is looked at for every way of failing.

    ``called_upright`` says which of those stand sideways. A need is the least depth that holds where
    the depth itself holds, else the next one that does.
    """
    depth_m, tip_n = profile.depth_m, profile.tip_pa * needs.tip_area_m2
    upright = np.zeros(len(depth_m), dtype=bool)
    upright[::PARTS] = called_upright
    holds = _holds(at, profile, needs, upright)
    depth = held_m
    if depth is None:
        fits = np.flatnonzero(np.all(holds, axis=0)[::PARTS])
        depth = float(depth_m[::PARTS][fits[0]]) if len(fits) else DEEPEST_M
    # A depth that is held between two that were looked at counts as the shallower.
    here = int(np.searchsorted(depth_m, depth + 1e-9, side="right")) - 1
    _look_between(at, profile, loads, upright, here)
    asked = [_need(depth_m, holding, here) for holding in holds]
    strained = min(int(np.searchsorted(depth_m, asked[2])), len(tip_n) - 1)
    return replace(
        needs,
        lateral_m=asked[0],
        uplift_m=asked[1],
        bearing_m=asked[2],
        frost_m=asked[3],
        heave_m=asked[4],
        tip_n_per_m2=float(profile.tip_pa[strained]),
        lateral_case=int(np.argmax(np.abs(loads.tipping_n_m) + np.abs(loads.push_n) * depth)),
    ), depth


def _holds(at: Beside, profile: Profile, needs: DepthNeeds, upright: Truths) -> list[Truths]:
    """At which depths of the profile each way of failing is withstood, in the order of MODES."""
    friction_n, tip_n = profile.friction_n, profile.tip_pa * needs.tip_area_m2
    return [
        upright,
        friction_n >= needs.uplift_n * needs.axial_safety,
        friction_n + tip_n >= needs.bearing_n * needs.axial_safety,
        profile.depth_m >= at.frost_m - 1e-9,
        friction_n >= needs.heave_n,
    ]


def withstood(at: Beside, loads: Reactions) -> tuple[Floats, Truths]:
    """Every depth that can be called out (n,), and which ways of failing it withstands (modes, n).

    For a soil that has a profile; in an even one what is asked for does not depend on the depth.
    """
    profile = at.profile
    assert profile is not None
    called = np.arange(0, len(profile.depth_m), PARTS)
    pushes = loads.push_n[None, :], loads.tipping_n_m[None, :]
    upright = np.zeros(len(profile.depth_m), dtype=bool)
    upright[::PARTS] = lateral_shares(at.pack, profile, at.post.width_m, pushes, called)[0] >= 1.0
    holds = _holds(at, profile, _needs(at, loads), upright)
    return profile.depth_m[::PARTS], np.array(holds)[:, ::PARTS]


def _look_between(at: Beside, profile: Profile, loads: Reactions, upright: Truths, here: int) -> None:
    """Look sideways at the depths between those called out that matter: here, and where it begins."""
    whole = here - here % PARTS
    held_between = [here] if here != whole else []
    begins = [_first(upright, -1), _first(upright, here)]
    near = sorted({*held_between, *(k for end in begins for k in range(max(end - PARTS, 0), end))})
    loads_of = loads.push_n[None, :], loads.tipping_n_m[None, :]
    upright[near] = (
        lateral_shares(at.pack, profile, at.post.width_m, loads_of, np.array(near, dtype=np.int64))[0]
        >= 1.0
    )


def _first(holds: Truths, after: int) -> int:
    """Where it first holds after a place; the last place where it never does."""
    found = np.flatnonzero(holds[after + 1 :])
    return int(found[0]) + after + 1 if len(found) else len(holds) - 1


def _need(depth_m: Floats, holds: Truths, at: int) -> float:
    """The least depth that holds, if the one that is chosen does; else the next deeper that does."""
    from_here = np.flatnonzero(holds)
    if not holds[at]:
        from_here = from_here[from_here > at]
    return float(depth_m[from_here[0]]) if len(from_here) else BEYOND_M
