"""Driven posts on one line: what each feels and how deep it must go."""

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant
from openfurrow.core.codes.section import Section
from openfurrow.core.footings.axial import Shaft, bearing_depth_m, friction_depth_m, shaft_in, tip_pa
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.footings.lateral import lateral_depth_m, moment_below_ground_n_m
from openfurrow.core.footings.layered import (
    DEEPEST_M,
    PARTS,
    lateral_share,
    moment_below_n_m,
    profile_of,
)
from openfurrow.core.members.resistance import bending_limit_n_m
from openfurrow.core.quantities import INCH_M, UnitSystem, round_up
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.site.soil import Soil
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.structures.supports import Reactions

Floats = NDArray[np.float64]
Truths = NDArray[np.bool_]
# Said of a need that no depth that is looked at meets.
BEYOND_M = DEEPEST_M + 1.0

MODES = ("wind tips it", "wind lifts it", "weight presses it", "below frost", "frost lifts it")


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

    @property
    def governing(self) -> int:
        """Index of the deepest need in MODES."""
        return int(np.argmax(self.all_m))


@dataclass(frozen=True, kw_only=True)
class Posts:
    """Driven posts, one entry a support: what each is asked for, how deep and how long it is.

    ``asked_m`` is the depth that carries a post, ``depths_m`` what is called out or held. ``soil``,
    ``reactions`` (of one kind) and ``needs`` are those of the kind that asks for most.
    """

    post: Section
    asked_m: Floats
    depths_m: Floats
    lengths_m: Floats
    soil: Soil
    reactions: Reactions
    needs: DepthNeeds
    bending_n_m: float
    bending_limit_n_m: float

    @property
    def depth_m(self) -> float:
        """The deepest."""
        return float(self.depths_m.max())

    @property
    def longest_m(self) -> float:
        """Length of the longest post: into the ground, up to the bolt and past it."""
        return float(self.lengths_m.max())


def tip_area_m2(post: Section) -> float:
    """The plug's foot: the circle of a pipe, the box of an open section."""
    return math.pi / 4 * post.depth_m**2 if post.shape == "pipe" else post.depth_m * post.width_m


def depth_step_m(units: UnitSystem) -> float:
    """Depths are called out in whole inches, or in 25 mm."""
    return INCH_M if units == "us" else 0.025


def size_posts(site: SitePlan, structure: StructurePlan, givens: FootingsGivens) -> Posts:
    """Size each kind of support once, and scatter it back to the posts."""
    stand, found = structure.posts, structure.reactions
    post, kinds, supports = stand.post, stand.kinds, stand.supports
    step = depth_step_m(site.display_units)
    sized = [
        depth_in_soil(site, site.soils[soil], givens, post, found.of(kind), step)
        for kind, soil in enumerate(kinds.soil_of.tolist())
    ]
    asked = np.array([max(needs.all_m) for needs, _ in sized])
    depths = np.array([depth for _, depth in sized])[supports.kind]
    below = [
        moment_in_soil_n_m(site.soils[soil], found.of(kind), post.width_m, step).max()
        for kind, soil in enumerate(kinds.soil_of.tolist())
    ]
    governing = int(asked.argmax())
    return Posts(
        post=post,
        asked_m=asked[supports.kind],
        depths_m=depths,
        lengths_m=depths + supports.reveals_m + stand.givens.post_top_m,
        soil=site.soils[int(kinds.soil_of[governing])],
        reactions=found.of(governing),
        needs=sized[governing][0],
        bending_n_m=float(max(below)),
        bending_limit_n_m=bending_limit_n_m(post, site.rule_pack),
    )


def moment_in_soil_n_m(soil: Soil, loads: Reactions, width_m: float, step_m: float) -> Floats:
    """Largest bending in the post for each load, by the closed formula where the soil is even."""
    if soil.even:
        return moment_below_ground_n_m(loads.across_n, loads.moment_n_m, soil, width_m)
    profile = profile_of("us", soil, width_m, 0.0, 0.0, 1.0, step_m)
    return moment_below_n_m(profile, loads.across_n, loads.moment_n_m)


def depth_in_soil(
    site: SitePlan, soil: Soil, givens: FootingsGivens, post: Section, loads: Reactions, step_m: float
) -> tuple[DepthNeeds, float]:
    """What one kind asks for in its soil, and the depth: held, or the least that carries."""
    needs = depth_needs(site, soil, givens, post, loads)
    if soil.even:
        return needs, givens.depth_m if givens.depth_m is not None else round_up(
            max(needs.all_m), step_m)
    return _scanned(site, soil, givens, post, loads, needs, step_m)


def _scanned(
    site: SitePlan, soil: Soil, givens: FootingsGivens, post: Section, loads: Reactions,
    needs: DepthNeeds, step_m: float,
) -> tuple[DepthNeeds, float]:
    """The same in layers: every depth that can be called out is looked at for every way of failing.

    A need is the least depth that holds where the depth itself holds, else the next one that does.
    """
    profile = profile_of(site.rule_pack, soil, post.width_m, post.perimeter_m, needs.shaft.start_m,
                         needs.movement, step_m)
    lateral = lateral_share(site.rule_pack, profile, post.width_m, loads.across_n, loads.moment_n_m)
    tip_n = profile.tip_pa * needs.tip_area_m2
    holds: list[Truths] = [
        lateral >= 1.0,
        profile.friction_n >= needs.uplift_n * needs.axial_safety,
        profile.friction_n + tip_n >= needs.bearing_n * needs.axial_safety,
        profile.depth_m >= site.frost_depth_m - 1e-9,
        profile.friction_n >= needs.heave_n,
    ]
    depth = givens.depth_m
    if depth is None:
        fits = np.flatnonzero(np.all(holds, axis=0)[::PARTS])
        depth = float(profile.depth_m[::PARTS][fits[0]]) if len(fits) else DEEPEST_M
    # A depth that is held between two that were looked at counts as the shallower.
    at = int(np.searchsorted(profile.depth_m, depth + 1e-9, side="right")) - 1
    asked = [_need(profile.depth_m, holding, at) for holding in holds]
    strained = min(int(np.searchsorted(profile.depth_m, asked[2])), len(tip_n) - 1)
    return replace(
        needs, lateral_m=asked[0], uplift_m=asked[1], bearing_m=asked[2], frost_m=asked[3],
        heave_m=asked[4], tip_n_per_m2=float(profile.tip_pa[strained]),
        lateral_case=int(np.argmax(np.abs(loads.moment_n_m) + np.abs(loads.across_n) * depth)),
    ), depth


def _need(depth_m: Floats, holds: Truths, at: int) -> float:
    """The least depth that holds, if the one that is chosen does; else the next deeper that does."""
    from_here = np.flatnonzero(holds)
    if not holds[at]:
        from_here = from_here[from_here > at]
    return float(depth_m[from_here[0]]) if len(from_here) else BEYOND_M


def depth_needs(
    site: SitePlan, soil: Soil, givens: FootingsGivens, post: Section, loads: Reactions
) -> DepthNeeds:
    """The five depths of one kind in one even soil. Frost lifts the lightest post first."""
    pack = site.rule_pack
    movement = (
        constant("us", "movement_factor").value
        if pack == "us" and givens.half_inch_moves
        else 1.0
    )
    lateral = lateral_depth_m(
        pack, loads.across_n, loads.moment_n_m, soil, post.width_m, movement
    )
    which = "axial_safety_tested" if givens.pull_tested else "axial_safety_untested"
    safety = constant(pack, which).value
    start = max(constant("common", "no_credit_m").value, site.frost_depth_m)
    shaft = shaft_in(soil, post.perimeter_m, start)
    up, down = int(loads.down_n.argmin()), int(loads.down_n.argmax())
    uplift = max(0.0, -float(loads.down_n[up]))
    bearing = max(0.0, float(loads.down_n[down]))
    heave = max(0.0, soil.adfreeze_pa * post.perimeter_m * soil.frost_grip_m - float(loads.dead_n[0]))
    tip = tip_area_m2(post)
    bearing_depth = bearing_depth_m(shaft, soil, tip, bearing * safety)
    return DepthNeeds(
        lateral_m=float(lateral.max()),
        uplift_m=friction_depth_m(shaft, uplift * safety),
        bearing_m=bearing_depth,
        frost_m=site.frost_depth_m,
        heave_m=friction_depth_m(shaft, heave),
        lateral_case=int(lateral.argmax()),
        uplift_case=up,
        bearing_case=down,
        uplift_n=uplift,
        bearing_n=bearing,
        heave_n=heave,
        axial_safety=safety,
        movement=movement,
        shaft=shaft,
        tip_n_per_m2=tip_pa(soil, max(bearing_depth, start)),
        tip_area_m2=tip,
    )
