"""A post in layers: what each depth would carry, summed over the layers that are there.

Depths are looked at one by one, never bisected: what a depth carries may fall again where it ends in a
weak layer. For one even soil every curve equals the printed formula.
"""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant
from openfurrow.core.footings.axial import Gripped, bearing_number, grip_of
from openfurrow.core.footings.body import Body
from openfurrow.core.footings.turned.helix import helix_holds_pa
from openfurrow.core.site.soil import WATER_N_M3, Soil, SoilLayer

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]
Truths = NDArray[np.bool_]

DEEPEST_M = 12.0
# Parts of a step of the depths that are called out: each of those is looked at itself.
PARTS = 4


@dataclass(frozen=True)
class Profile:
    """The ground beside a post at depths 0, h, 2h … (n + 1), and in the cells between them (n).

    ``push_n_per_m``: what the soil holds sideways in a cell, by the school of the pack, reduced;
    ``soil_n_per_m`` the same unreduced. ``friction_n`` up to each depth and ``tip_pa`` under it are
    ultimate, ``pressure_pa`` that of the soil above it; ``helix_pa`` on a helix that is pulled, if any.
    """

    depth_m: Floats
    middle_m: Floats
    push_n_per_m: Floats
    soil_n_per_m: Floats
    friction_n: Floats
    tip_pa: Floats
    pressure_pa: Floats
    helix_pa: Floats | None
    cohesive: bool


def _in_layers(soil: Soil, at_m: Floats) -> NDArray[np.int64]:
    bottoms = np.array([layer.bottom_m for layer in soil.layers[:-1]])
    return np.searchsorted(bottoms, at_m - 1e-9, side="left")


def overburden_pa(soil: Soil, depth_m: Floats, cell_m: float) -> Floats:
    """Effective pressure of the soil above each depth; under water it weighs less by the water."""
    middle = depth_m[:-1] + cell_m / 2
    weight = np.array([layer.unit_weight_n_m3 for layer in soil.layers])[_in_layers(soil, middle)]
    if soil.water_m is not None:
        # The share of each cell that lies under water.
        wet = np.clip((depth_m[1:] - soil.water_m) / cell_m, 0.0, 1.0)
        weight = weight - WATER_N_M3 * wet
    return np.concatenate(([0.0], np.cumsum(weight * cell_m)))


def _reduced(pack: str, layer: SoilLayer) -> tuple[float, float]:
    """Strength and passive factor of a layer for sideways work, by the pack's partial factors."""
    tangent = math.tan(math.radians(layer.friction_angle_deg))
    cohesion = layer.cohesion_pa
    if pack == "metric":
        tangent /= constant("metric", "friction_partial").value
        cohesion /= constant("metric", "cohesion_partial").value
    return cohesion, math.tan(math.pi / 4 + math.atan(tangent) / 2) ** 2


def _broms_pa(soil: Soil, middle_m: Floats, pressure_pa: Floats, width_m: float, pack: str) -> Floats:
    """Broms (1964): 9 c_u below 1.5 widths in clay, 3 K_p times the overburden in sand."""
    reduced = [_reduced(pack, layer) for layer in soil.layers]
    cohesion, passive = (np.array(column) for column in zip(*reduced, strict=True))
    clay = np.array([layer.cohesion_pa > 0 for layer in soil.layers])
    at = _in_layers(soil, middle_m)
    dead = constant("common", "clay_dead_zone_widths").value * width_m
    held = constant("common", "clay_lateral_factor").value * cohesion[at]
    return np.asarray(
        np.where(clay[at], np.where(middle_m > dead, held, 0.0), 3 * passive[at] * pressure_pa)
    )


def _allowable_pa(soil: Soil, middle_m: Floats, movement: float) -> Floats:
    """The us school: presumptive bearing growing to 12 ft; a measured clay may hold less, not more."""
    deepest = constant("us", "lateral_depth_limit_m").value
    at = _in_layers(soil, middle_m)
    gradient = np.array([layer.lateral_pa_per_m for layer in soil.layers])[at] * movement
    strength = np.array(
        [
            constant("common", "clay_lateral_factor").value
            * layer.cohesion_pa
            / constant("common", "lateral_strength_safety").value
            if layer.measured
            else math.inf
            for layer in soil.layers
        ]
    )[at]
    return np.asarray(np.minimum(gradient * np.minimum(middle_m, deepest), strength))


def _friction_pa(
    soil: Soil, middle_m: Floats, pressure_pa: Floats, *, cast: bool, gripped: Gripped
) -> Floats:
    """Ultimate friction, layer by layer; none above where it begins."""
    grips = [
        (gripped.rock_pa, 0.0)
        if gripped.rock_pa is not None and layer.soil_class.endswith("rock")
        else grip_of(layer, cast=cast)
        for layer in soil.layers
    ]
    at = _in_layers(soil, middle_m)
    steady, slide = (np.array(column)[at] for column in zip(*grips, strict=True))
    most = np.array([gripped.most_pa(layer.vertical_pa) for layer in soil.layers])[at]
    held = np.minimum(steady, most) + slide * pressure_pa
    return np.asarray(np.where(middle_m > gripped.start_m, held, 0.0))


def _tip_pa(
    soil: Soil, depth_m: Floats, pressure_pa: Floats, width_m: float, gripped: Gripped
) -> Floats:
    """Ultimate under a tip: the least of the layer it stands in and what lies close below it."""
    factor = constant("common", "clay_tip_factor").value
    steady = np.array([factor * layer.cohesion_pa for layer in soil.layers])
    number = np.array(
        [
            0.0 if layer.cohesion_pa > 0 else bearing_number(layer.friction_angle_deg)
            for layer in soil.layers
        ]
    )
    below = constant("common", "tip_zone_widths").value * width_m
    bottoms = np.array([layer.bottom_m for layer in soil.layers])
    tops = np.concatenate(([0.0], bottoms[:-1]))
    most = np.array([gripped.tip_most_pa(layer.vertical_pa) for layer in soil.layers])
    each = np.minimum(steady[:, None] + number[:, None] * pressure_pa, most[:, None])
    near = (tops[:, None] <= depth_m + below) & (bottoms[:, None] >= depth_m)
    return np.asarray(np.where(near, each, np.inf).min(axis=0))


def profile_of(
    pack: str,
    soil: Soil,
    body: Body,
    gripped: Gripped,
    movement: float,
    step_m: float,
    loose_m: float = 0.0,
) -> Profile:
    """The curves of a soil beside a post or a pier; sideways it holds nothing down to ``loose_m``."""
    cell, width_m = step_m / PARTS, body.across_m
    depth = np.asarray(np.arange(math.ceil(DEEPEST_M / step_m) * PARTS + 1) * cell, dtype=np.float64)
    middle = np.asarray(depth[:-1] + cell / 2, dtype=np.float64)
    pressure = overburden_pa(soil, depth, cell)
    half = (pressure[:-1] + pressure[1:]) / 2
    ultimate = _broms_pa(soil, middle, half, width_m, "")
    held = (
        _allowable_pa(soil, middle, movement)
        if pack == "us"
        else _broms_pa(soil, middle, half, width_m, pack)
    )
    if loose_m > 0:
        firm = middle > loose_m
        ultimate, held = np.where(firm, ultimate, 0.0), np.where(firm, held, 0.0)
    friction_pa = _friction_pa(soil, middle, half, cast=body.cast, gripped=gripped)
    # What a helix has turned through holds its shaft no more.
    loose = body.formed or body.helix_m > 0
    friction = np.cumsum(friction_pa) * cell * (0.0 if loose else body.perimeter_m)
    return Profile(
        depth_m=depth,
        middle_m=middle,
        push_n_per_m=held * width_m,
        soil_n_per_m=ultimate * width_m,
        friction_n=np.concatenate(([0.0], friction)),
        tip_pa=_tip_pa(soil, depth, pressure, body.foot_across_m, gripped),
        pressure_pa=pressure,
        helix_pa=helix_holds_pa(soil, depth, pressure, body.helix_m) if body.helix_m else None,
        cohesive=any(layer.cohesion_pa > 0 for layer in soil.layers),
    )


def _sums(profile: Profile, push_n_per_m: Floats, end: int | None = None) -> tuple[Floats, Floats]:
    """What the soil holds above each of the first depths, and its moment about the ground."""
    cell, upto = float(profile.depth_m[1]), None if end is None else end - 1
    push, middle = push_n_per_m[:upto] * cell, profile.middle_m[:upto]
    return (np.concatenate(([0.0], np.cumsum(push))), np.concatenate(([0.0], np.cumsum(push * middle))))


def _interpolated(at: Floats, rising: Floats, values: Floats) -> Floats:
    """``values`` at ``at``, row by row: (r, m) in rows of their own that rise from nought, (r, n).

    Each row is laid behind the one before, so that one search serves all.
    """
    rows, per_row = rising.shape
    behind = 2.0 * np.arange(rows)[:, None]
    whole = rising[:, -1:]
    laid, wanted = rising / whole + behind, at / whole + behind
    right = (
        np.searchsorted(laid.ravel(), wanted.ravel()).reshape(at.shape)
        - per_row * np.arange(rows)[:, None]
    )
    right = np.clip(right, 1, per_row - 1)
    row = np.arange(rows)[:, None]
    low, high = rising[row, right - 1], rising[row, right]
    share = (at - low) / np.where(high > low, high - low, 1.0)
    return np.asarray(values[right - 1] + share * (values[right] - values[right - 1]))


def _turning(
    depth: Floats, sums: tuple[Floats, Floats], push: Floats, tips: Floats, at: Integers
) -> Floats:
    """How many times each load (r) a rigid post in such soil bears, its tip at some of the depths.

    The post turns about a point a. Above it the soil pushes back, below it forward:
    λ P = 2 R(a) - R(d) and λ M = Q(d) - 2 Q(a), with R what the soil holds above a depth and Q its
    moment. Both together say that F(a) = F(d) / 2 for F = M R + P Q, which only grows.
    """
    force, moment = sums
    both = tips * force + push * moment
    turns_at = _interpolated(both[:, at] / 2, both, depth)
    along = 2 * np.interp(turns_at, depth, force) - force[at]
    about = moment[at] - 2 * np.interp(turns_at, depth, moment)
    return np.asarray((along * push + about * tips) / (push**2 + tips**2))


def _unmatched(push: Floats, tips: Floats) -> Truths:
    """Which loads of each kind no other of it outdoes both ways: a smaller push with a smaller moment
    is never worse.
    """
    count = push.shape[1]
    as_large = (push[:, None, :] >= push[:, :, None]) & (tips[:, None, :] >= tips[:, :, None])
    # Of equal ones the first stands for all.
    larger = as_large & ~(as_large.transpose(0, 2, 1) & ~np.tri(count, k=-1, dtype=bool))
    return np.asarray(~larger.any(axis=2))


def lateral_shares(
    pack: str,
    profile: Profile,
    width_m: float,
    loads: tuple[Floats, Floats],
    at: Integers,
    *,
    slab: bool = False,
) -> Floats:
    """How many times the worst of each kind's loads a post bears sideways, its tip at ``at``.

    ``loads`` are push and moment, kinds x cases; given is kinds x depths. us: the printed formula of
    IBC 1807.3.2.1 for a soil of bearing 1, times how many times more a rigid post bears in these layers
    than in that soil. metric: Broms' rigid post; without clay all the soil above the tip pushes one way
    and its moment is taken about the tip. ``slab``: it turns about the ground, which holds its push.
    """
    push, tips = np.abs(loads[0]), np.abs(loads[1])
    # What a depth bears goes with the load's size: only loads of another direction are looked at anew.
    size = np.hypot(push, tips)
    loaded = _unmatched(push, tips) & (size > 1e-6)
    angle = np.arctan2(tips, push)[loaded].round(9)
    angles, which = np.unique(angle, return_inverse=True)
    worst = np.full((len(push), len(at)), np.inf)
    if not angles.size:
        return worst
    directions = np.cos(angles), np.sin(angles)
    if slab:
        curves = _slab_shares(profile, directions[1], at)
    else:
        curves = _shares(pack, profile, width_m, directions, at)
    each = curves[which] / size[loaded][:, None]
    counts = loaded.sum(axis=1)
    # Loads stand kind by kind: the worst of each stretch.
    starts = (np.cumsum(counts) - counts)[counts > 0]
    worst[counts > 0] = np.minimum.reduceat(each, starts, axis=0)
    return worst


def lateral_capacity_n(profile: Profile, width_m: float, depth_m: float, height_m: float) -> float:
    """The push at a height that the soil of a profile bears on a post so deep; no less than it does."""
    at = np.array([math.ceil(depth_m / float(profile.depth_m[1]) - 1e-9)], dtype=np.int64)
    one = np.array([[1.0]]), np.array([[height_m]])
    return float(lateral_shares("", profile, width_m, one, at)[0, 0])


def _shares(
    pack: str, profile: Profile, width_m: float, loads: tuple[Floats, Floats], at: Integers
) -> Floats:
    """The same of loads one by one (r x depths)."""
    # What lies below the deepest that is asked about does not count.
    end = int(at.max()) + 1
    depth, push, tips = profile.depth_m[:end], loads[0][:, None], loads[1][:, None]
    force, moment = sums = _sums(profile, profile.push_n_per_m, end)
    with np.errstate(invalid="ignore", divide="ignore"):
        if pack != "us" and not profile.cohesive:
            found = (depth * force - moment)[at] / (tips + push * depth[at])
        else:
            found = _turning(depth, sums, push, tips, at)
        if pack == "us":
            found = (
                _ibc_share(depth[at], width_m, push, tips)
                * found
                / _turning(depth, _unit_sums(profile, width_m, end), push, tips, at)
            )
    # At the ground nothing holds.
    return np.where(depth[at] <= 0, 0.0, found)


def _slab_shares(profile: Profile, tips: Floats, at: Integers) -> Floats:
    """How many times each moment (r) soil bears about the ground, tip at some depths: IBC 1807.3.2.2.

    d² = 4.25 M / (S3 b) lets 3 / 4.25 of what the soil holds about the ground be used.
    """
    _, moment = _sums(profile, profile.push_n_per_m, int(at.max()) + 1)
    share = 3.0 / constant("us", "slab_coefficient").value
    tipped = tips[:, None] > 0
    # What does not tip is the slab's alone; at the ground nothing holds.
    found = np.where(tipped, share * moment[at] / np.where(tipped, tips[:, None], 1.0), np.inf)
    return np.where(profile.depth_m[at] <= 0, 0.0, found)


def _unit_sums(profile: Profile, width_m: float, end: int) -> tuple[Floats, Floats]:
    """The same of a soil whose bearing grows by 1 Pa/m to 12 ft."""
    deepest = constant("us", "lateral_depth_limit_m").value
    return _sums(profile, np.minimum(profile.middle_m, deepest) * width_m, end)


def _ibc_share(depth_m: Floats, width_m: float, push: Floats, moment: Floats) -> Floats:
    """IBC 1807.3.2.1 the other way round: how much of a load a depth bears in a soil of bearing 1 Pa/m.

    d = 0.5 A (1 + sqrt(1 + k h / A)) is A = d² / (d + k h / 4), and A = 2.34 P / (S1 b).
    """
    a, lever = (constant("us", n).value for n in ("lateral_coefficient", "lever_coefficient"))
    deepest = constant("us", "lateral_depth_limit_m").value
    bearing = np.minimum(depth_m, deepest) / 3 * width_m
    asked = a * (push * depth_m + lever / 4 * moment)
    return np.asarray(depth_m**2 * bearing / (asked + 1e-12))


def moment_below_n_m(profile: Profile, push_n: Floats, moment_n_m: Floats) -> Floats:
    """Largest bending in the post for each load, where the soil has taken up the push."""
    force, moment = _sums(profile, profile.soil_n_per_m)
    rising = force + np.arange(len(force)) * 1e-9
    at = np.interp(np.abs(push_n), rising, profile.depth_m)
    return np.abs(moment_n_m) + np.interp(at, profile.depth_m, moment)
