"""Posts and piers: each kind of support sized once in its soil, and scattered back to the posts."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.codes.section import Section
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.footings.layered import DEEPEST_M
from openfurrow.core.footings.sizing import (
    LIFTS,
    MODES,
    PRESSES,
    Beside,
    Called,
    DepthNeeds,
    bending_n_m,
    beside,
    sized,
    used_along,
)
from openfurrow.core.footings.tested import Tested, proved_in, tests_of
from openfurrow.core.members.bending import Bends, bends, free_post_m
from openfurrow.core.members.rust import loss_m, thinned
from openfurrow.core.quantities import INCH_M, UnitSystem, round_up
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.site.soil import Soil
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.supports import Reactions

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class SizedKind:
    """Posts that are alike: the soil they stand in, their loads, what these ask for and the depth."""

    ground: Beside
    loads: Reactions
    needs: DepthNeeds
    depth_m: float

    @property
    def soil(self) -> Soil:
        """The soil they stand in."""
        return self.ground.soil


@dataclass(frozen=True, kw_only=True)
class Posts:
    """What stands in the ground, one entry a support: what is asked of it, its depth and length.

    ``asked_m`` is the depth that carries a post, ``depths_m`` what is called out or held; ``kinds``
    were sized and scattered back. Legs that stand on the ground have none, and no depth; each has a
    weight, ``masses_kg``. Bores go ``below_m`` deeper than the foot of their pier, for the stone;
    ``torque_n_m`` is what each screw has to have taken, ``tests`` what posts held before the job,
    ``lost_m`` what rusts away of each face in their life: limits are of what is left then.
    ``bends`` is what the post that is used most bears, over the ground as long as it is.
    """

    steel: Section | None
    kinds: tuple[SizedKind, ...]
    asked_m: Floats
    depths_m: Floats
    lengths_m: Floats
    bending_n_m: float
    bends: Bends | None
    along_used: float
    below_m: float = 0.0
    masses_kg: Floats | None = None
    torque_n_m: Floats | None = None
    tests: tuple[Tested, ...] = ()
    lost_m: float = 0.0

    @property
    def post(self) -> Section:
        """The profile of every post or leg; piles of blocks have none."""
        assert self.steel is not None
        return self.steel

    @property
    def modes(self) -> tuple[str, ...]:
        """The ways of failing in words, in the order of MODES; a twist takes its share of the grip."""
        twisted = any(kind.loads.twist_n_m.any() for kind in self.kinds)
        return tuple(
            f"{mode}, twisted" if twisted and mode in (LIFTS, PRESSES) else mode for mode in MODES
        )

    @property
    def needs_m(self) -> tuple[float, ...]:
        """What each way of failing asks for at most, whichever post it is of; in the order of MODES."""
        return tuple(np.max([kind.needs.all_m for kind in self.kinds], axis=0).tolist())

    @property
    def bending_limit_n_m(self) -> float:
        """What the post that is used most may be bent with; legs that stand on the ground are not."""
        return 1.0 if self.bends is None else self.bends.limit_n_m

    @property
    def governing(self) -> int:
        """The way of failing that asks for the greatest depth, as an index of MODES."""
        return int(np.argmax(self.needs_m))

    def asking_most(self, mode: int) -> SizedKind:
        """The kind for which a way of failing asks for the greatest depth."""
        return max(self.kinds, key=lambda kind: kind.needs.all_m[mode])

    def shortest_of(self, mode: int) -> SizedKind:
        """The kind whose depth has least to spare over what a way of failing asks for."""
        return min(self.kinds, key=lambda kind: kind.depth_m - kind.needs.all_m[mode])

    @property
    def worst(self) -> SizedKind:
        """The kind that asks for most of all."""
        return self.asking_most(self.governing)

    @property
    def ends_m(self) -> Floats:
        """How deep the ground is opened."""
        return self.depths_m + self.below_m

    @property
    def depth_m(self) -> float:
        """The deepest."""
        return float(self.depths_m.max())

    @property
    def longest_m(self) -> float:
        """Length of the longest post: into the ground, up to the bolt and past it."""
        return float(self.lengths_m.max())


def depth_step_m(units: UnitSystem) -> float:
    """Depths are called out in whole inches, or in 25 mm."""
    return INCH_M if units == "us" else 0.025


def called_in(units: UnitSystem, givens: FootingsGivens) -> Called:
    """What depths are called out in: of screws, so that they are as long as they are sold."""
    step = depth_step_m(units)
    if givens.family != "ground screw":
        return Called(step_m=step)
    sold = constant("us" if units == "us" else "metric", "screw_step_m").value
    return Called(step_m=step, every=round(sold / step), out_m=round_up(givens.screw_out_m, step))


def standing_piles(stand: Stand, masses_kg: Floats) -> Posts:
    """Piles of blocks: no steel stands in them, each is as high as its purlin lies."""
    nothing = np.zeros(stand.supports.count)
    return Posts(
        steel=None,
        kinds=(),
        asked_m=nothing,
        depths_m=nothing,
        lengths_m=stand.supports.reveals_m,
        bending_n_m=0.0,
        bends=None,
        along_used=0.0,
        masses_kg=masses_kg,
    )


def standing_legs(stand: Stand, masses_kg: Floats) -> Posts:
    """Legs that stand on the ground: nothing of them is driven, and no soil holds them upright."""
    count = stand.supports.count
    nothing = np.zeros(count)
    return Posts(
        steel=stand.post,
        kinds=(),
        asked_m=nothing,
        depths_m=nothing,
        lengths_m=stand.supports.reveals_m - (stand.bent.foot_m or 0.0) + stand.bent.top_m,
        bending_n_m=0.0,
        bends=None,
        along_used=0.0,
        masses_kg=masses_kg,
    )


def size_posts(site: SitePlan, structure: StructurePlan, givens: FootingsGivens) -> Posts:
    """Size each kind of support once, and scatter it back to the posts."""
    stand, found = structure.posts, structure.reactions
    post, kinds, supports = stand.post, stand.kinds, stand.supports
    called = called_in(site.display_units, givens)
    driven = givens.family == "driven post"
    # A rock screw is proved by its own bond, not by what a helix held in soil.
    rock = givens.family == "ground screw" and givens.screw_kind == "rock screw"
    tests = () if rock else tests_of(site, givens.family, givens.test_moved_m, called.step_m)
    # Kinds are given soil by soil.
    grounds = [
        (
            beside(
                site,
                site.soils[soil],
                givens,
                post,
                called,
                proved_in(soil, tests, site.rule_pack),
            ),
            [found.of(kind) for kind in np.flatnonzero(kinds.soil_of == soil).tolist()],
        )
        for soil in np.unique(kinds.soil_of).tolist()
    ]
    # What is driven to one depth: every kind by itself, those of a soil, all.
    together = [grounds] if givens.depths == "alike for all" else [[ground] for ground in grounds]
    alike = givens.depths != "each post's own" and givens.depth_m is None
    sizes = [
        size
        for some in together
        for size in (_one_depth(some, called) if alike else _sized(some, givens.depth_m))
    ]
    # What stands in concrete does not rust away.
    lost = lost_m(site.rule_pack, givens) if driven else 0.0
    left = thinned(post, lost)
    free = [float(free_post_m(high)) for high in kinds.high_m.tolist()]
    worst = max(
        (
            (bending_n_m(size.ground, size.loads), bends(left, site.rule_pack, free_m))
            for size, free_m in zip(sizes, free, strict=True)
        ),
        key=lambda one: one[0] / one[1].limit_n_m,
    )
    asked = np.array([max(size.needs.all_m) for size in sizes])
    depths = np.array([size.depth_m for size in sizes])[supports.kind]
    return Posts(
        steel=post,
        below_m=givens.stone_m if givens.family == "bored pier" else 0.0,
        kinds=tuple(sizes),
        asked_m=asked[supports.kind],
        depths_m=depths,
        lengths_m=_in_ground_m(depths, givens, called) + supports.reveals_m + stand.bent.top_m,
        bending_n_m=worst[0],
        bends=worst[1],
        along_used=max(
            used_along(size.ground, size.loads, left, free_m)
            for size, free_m in zip(sizes, free, strict=True)
        ),
        lost_m=lost,
        tests=tests,
    )


def lost_m(pack: RulePack, givens: FootingsGivens) -> float:
    """What rusts away of each face that stands in soil."""
    return loss_m(pack, givens.ground_bites, givens.life_years, givens.zinc_m)


def in_pier_m(depth_m: Floats, givens: FootingsGivens) -> Floats:
    """How far below the ground posts reach in piers: never nearer to the foot than is usual."""
    deepest = np.maximum(depth_m - constant("common", "post_off_foot_m").value, 0.0)
    if givens.post_in_m is None:
        return np.asarray(deepest)
    return np.asarray(np.minimum(givens.post_in_m, deepest))


def _in_ground_m(depth_m: Floats, givens: FootingsGivens, called: Called) -> Floats:
    """How far below the ground posts reach; on screws they end above it."""
    match givens.family:
        case "bored pier":
            return in_pier_m(depth_m, givens)
        case "ground screw":
            return np.full_like(depth_m, -called.out_m)
        case _:
            return depth_m


Grounds = list[tuple[Beside, list[Reactions]]]


def _sized(grounds: Grounds, held_m: float | None) -> list[SizedKind]:
    """Every kind, ground by ground, at the depth that is held or at its own."""
    return [
        SizedKind(ground=ground, loads=one, needs=needs, depth_m=depth)
        for ground, loads in grounds
        for one, (needs, depth) in zip(loads, sized(ground, loads, held_m), strict=True)
    ]


def _one_depth(grounds: Grounds, called: Called) -> list[SizedKind]:
    """All kinds to one depth: the least that carries each, for what is deeper may hold less.

    It only grows from look to look, so that it comes to an end.
    """
    sizes = _sized(grounds, None)
    while True:
        depth = called.rounded(max(max(size.depth_m, _asked_m(size)) for size in sizes))
        if all(abs(size.depth_m - depth) < 1e-9 for size in sizes):
            return sizes
        sizes = _sized(grounds, depth)


def _asked_m(size: SizedKind) -> float:
    """The depth that carries a kind; in layers that carry it nowhere, the deepest that is looked at."""
    need = max(size.needs.all_m)
    return min(need, DEEPEST_M) if size.ground.profile is not None else need
