"""Piers: what is bored, what concrete goes in, and what that has to carry besides the soil."""

import math
from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.spatial import KDTree

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.footings.body import bell_high_m, circle_m2
from openfurrow.core.footings.bored.concrete import (
    bedding_limit_pa,
    bedding_pa,
    caged_moment_n_m,
    grip_limit_n,
    plain_moment_n_m,
)
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.footings.posts import Posts, SizedKind, in_pier_m
from openfurrow.core.footings.sizing import gripped_n, in_ground_moment_n_m
from openfurrow.core.structures.stand import Stand

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Carried:
    """What one part of a pier has to carry, and what it can: of the kind that uses most of it."""

    asked: float
    limit: float

    @property
    def used(self) -> float:
        """Share of the limit."""
        return self.asked / self.limit if self.limit > 0 else math.inf


@dataclass(frozen=True, kw_only=True)
class Piers:
    """Piers by support: ``depths_m`` to the foot of the concrete, ``net_m3`` as drawn.

    ``bored_m3`` is what goes into bores as wide as they come out. ``below_post``, ``bedded`` and
    ``pulled`` are what the concrete under a post, beside it and around it carries. ``cover_m`` is
    concrete over the steel, ``apart_m`` from middle to middle of the nearest two.
    """

    diameter_m: float
    bell_m: float | None
    bored_m: float
    formed: bool
    stone_m: float
    top_m: float
    depths_m: Floats
    post_in_m: Floats
    net_m3: Floats
    bored_m3: Floats
    below_post: Carried
    bedded: Carried
    pulled: Carried
    cover_m: float
    bars: int
    bar_m: float
    ring_m: float
    apart_m: float
    bag_m3: float | None
    foot_bar: bool
    concrete_pa: float
    cure_days: int

    @property
    def order_m3(self) -> float:
        """What all bores take, nothing spilt."""
        return float(self.bored_m3.sum())

    @property
    def bags(self) -> float:
        """So many bags, not rounded up; none where a truck comes."""
        return self.order_m3 / self.bag_m3 if self.bag_m3 else 0.0

    @property
    def bore_m(self) -> float:
        """How deep the deepest bore is."""
        return float(self.depths_m.max()) + self.stone_m

    @property
    def stone_m3(self) -> float:
        """Stone under all of them."""
        foot = circle_m2(max(self.bored_m, self.bell_m or 0.0))
        return foot * self.stone_m * self.depths_m.size

    @property
    def steel_share(self) -> float:
        """Bars as a share of the shaft."""
        return self.bars * circle_m2(self.bar_m) / circle_m2(self.diameter_m)


def concrete_m3(diameter_m: float, bell_m: float | None, depth_m: Floats, top_m: float) -> Floats:
    """Concrete of piers of one width: the shaft, what stands above the ground, the cone of a bell."""
    shaft = circle_m2(diameter_m) * (depth_m + top_m)
    if bell_m is None or bell_m <= diameter_m:
        return np.asarray(shaft)
    # A frustum, less the shaft through its middle.
    cone = bell_m**2 + bell_m * diameter_m - 2 * diameter_m**2
    return np.asarray(shaft + math.pi / 12 * bell_high_m(diameter_m, bell_m) * cone)


def piers_of(posts: Posts, stand: Stand, givens: FootingsGivens, pack: RulePack) -> Piers:
    """The piers around posts that were sized, and what their concrete carries."""
    post, across = stand.post, givens.pier_diameter_m
    bored = across if givens.bored_diameter_m is None else max(givens.bored_diameter_m, across)
    formed = givens.pier_side == "in a form tube"
    wide = across if formed else bored
    net, filled = (
        concrete_m3(width, givens.bell_diameter_m, posts.depths_m, givens.pier_top_m)
        for width in (across, wide)
    )
    cover = constant("common", "cover_formed_m" if formed else "cover_soil_m").value
    ring = across / 2 - cover - constant("common", "ring_and_tie_m").value - givens.pier_bar_m / 2
    corner = post.depth_m if post.shape == "pipe" else math.hypot(post.depth_m, post.width_m)
    plain = plain_moment_n_m(pack, across, givens.concrete_pa)
    held = (
        max(
            plain,
            caged_moment_n_m(
                pack, across, givens.concrete_pa, givens.pier_bars, givens.pier_bar_m, ring
            ),
        )
        if givens.pier_bars and ring > 0
        else plain
    )
    return Piers(
        diameter_m=across,
        bell_m=givens.bell_diameter_m,
        bored_m=wide,
        formed=formed,
        stone_m=givens.stone_m,
        top_m=givens.pier_top_m,
        depths_m=posts.depths_m,
        post_in_m=in_pier_m(posts.depths_m, givens),
        net_m3=net,
        bored_m3=filled,
        below_post=_most(
            Carried(asked=_below_post_n_m(kind, givens), limit=held) for kind in posts.kinds
        ),
        bedded=_most(_bedded(kind, givens, pack) for kind in posts.kinds),
        pulled=_most(_pulled(kind, givens, pack) for kind in posts.kinds),
        cover_m=(across - corner) / 2,
        bars=givens.pier_bars,
        bar_m=givens.pier_bar_m,
        ring_m=ring,
        apart_m=nearest_m(stand.supports.places.east_m, stand.supports.places.north_m),
        bag_m3=givens.bag_yield_m3 if givens.concrete_from == "bags" else None,
        foot_bar=givens.foot_bar,
        concrete_pa=givens.concrete_pa,
        cure_days=givens.cure_days,
    )


def _most(carried: Iterable[Carried]) -> Carried:
    return max(carried, key=lambda one: one.used)


def _in_m(kind: SizedKind, givens: FootingsGivens) -> float:
    return in_pier_m(np.array([kind.depth_m]), givens).item()


def _below_post_n_m(kind: SizedKind, givens: FootingsGivens) -> float:
    """Moment in the concrete where the post ends.

    No more than the most anywhere in the pier, nor than all the soil beside the rest can bring about.
    """
    at, rest = kind.ground, kind.depth_m - _in_m(kind, givens)
    anywhere = float(in_ground_moment_n_m(at, kind.loads.push_n, kind.loads.tipping_n_m).max())
    return min(anywhere, soil_push_n_per_m(kind) * rest**2 / 2)


def soil_push_n_per_m(kind: SizedKind) -> float:
    """The most that any layer holds beside the pier down to its foot, unreduced: Broms (1964)."""
    soil, width = kind.soil, kind.ground.body.across_m
    most = []
    for layer in soil.layers:
        if layer.cohesion_pa > 0:
            most.append(constant("common", "clay_lateral_factor").value * layer.cohesion_pa)
        else:
            passive = math.tan(math.radians(45 + layer.friction_angle_deg / 2)) ** 2
            heaviest = max(one.unit_weight_n_m3 for one in soil.layers)
            most.append(3 * passive * heaviest * kind.depth_m)
    return max(most) * width


def _bedded(kind: SizedKind, givens: FootingsGivens, pack: RulePack) -> Carried:
    """What the post presses the concrete beside it with."""
    loads, deep = kind.loads, max(_in_m(kind, givens), 0.05)
    pressed = [
        bedding_pa(float(push), float(moment), kind.ground.post.width_m, deep)
        for push, moment in zip(loads.push_n, loads.tipping_n_m, strict=True)
    ]
    return Carried(asked=max(pressed), limit=bedding_limit_pa(pack, givens.concrete_pa))


def _pulled(kind: SizedKind, givens: FootingsGivens, pack: RulePack) -> Carried:
    """What would pull the post out of the concrete, or turn it there."""
    post = kind.ground.post
    lifted, _ = gripped_n(kind.loads, post.width_m)
    limit = grip_limit_n(pack, post.perimeter_m, _in_m(kind, givens), barred=givens.foot_bar)
    return Carried(asked=float(lifted.max()), limit=limit)


def nearest_m(east_m: Floats, north_m: Floats) -> float:
    """How near the nearest two places are; infinite for one alone."""
    if east_m.size < 2:
        return math.inf
    places = np.column_stack((east_m, north_m))
    away = np.asarray(KDTree(places).query(places, k=2)[0])
    return float(away[:, 1].min())
