"""Depth a post needs so that the soil beside it holds it upright."""

import math

import numpy as np
from numpy.typing import ArrayLike, NDArray

from openfurrow.core.codes import constant
from openfurrow.core.site.soil import Soil

Floats = NDArray[np.float64]


def cubic_depth_m(shear: ArrayLike, moment: ArrayLike) -> Floats:
    """The positive root d of d³ - shear·d - moment = 0, for arrays of non-negative coefficients.

    Newton from above: the cubic is convex right of its root, so the steps only go down to it.
    """
    k, m = np.broadcast_arrays(np.asarray(shear, dtype=float), np.asarray(moment, dtype=float))
    depth = np.sqrt(k) + np.cbrt(m) + 1e-9
    for _ in range(60):
        slope = np.maximum(3 * depth**2 - k, 1e-12)
        depth = depth - (depth**3 - k * depth - m) / slope
    return np.asarray(np.maximum(depth, 0.0))


def unconstrained_depth_m(
    lateral_n: ArrayLike, moment_n_m: ArrayLike, bearing_pa_per_m: float, width_m: float
) -> Floats:
    """Embedment without restraint at ground, IBC 1807.3.2.1.

    d = 0.5 A (1 + sqrt(1 + 4.36 h/A)) with A = 2.34 P / (S1 b) and S1 = bearing × d/3 is a cubic
    in d; below 12 ft S1 grows no more and the formula stands as printed. ``moment_n_m`` = P h.
    """
    lateral, moment = np.abs(lateral_n), np.abs(moment_n_m)
    a, lever = (constant("us", n).value for n in ("lateral_coefficient", "lever_coefficient"))
    deepest = constant("us", "lateral_depth_limit_m").value
    scale = 3 * a / (bearing_pa_per_m * width_m)
    depth = cubic_depth_m(scale * lateral, scale * lever / 4 * moment)
    a_m = a * lateral / (bearing_pa_per_m * deepest / 3 * width_m)
    a_h = a * moment / (bearing_pa_per_m * deepest / 3 * width_m)
    beyond = 0.5 * (a_m + np.sqrt(a_m**2 + lever * a_h))
    return np.where(depth <= deepest, depth, beyond)


def bearing_held_pa_per_m(lateral_n: float, height_m: float, depth_m: float, width_m: float) -> float:
    """The lateral bearing by depth that a test shows, IBC 1807.3.2.1 the other way round.

    A = d² / (d + k h / 4), S1 = 2.34 P / (A b), and S1 is the bearing at a third of the depth.
    """
    a, lever = (constant("us", n).value for n in ("lateral_coefficient", "lever_coefficient"))
    deepest = constant("us", "lateral_depth_limit_m").value
    third = min(depth_m, deepest) / 3
    return a * lateral_n * (depth_m + lever * height_m / 4) / (depth_m**2 * width_m * third)


def broms_sand_depth_m(
    lateral_n: ArrayLike,
    moment_n_m: ArrayLike,
    unit_weight_n_m3: float,
    friction_angle_deg: float,
    width_m: float,
) -> Floats:
    """Embedment of a short rigid pile, free head, in cohesionless soil.

    H (e + L) = 0.5 gamma b L³ K_p from the pressure 3 K_p gamma b z. Source: Broms (1964).
    """
    passive = math.tan(math.radians(45 + friction_angle_deg / 2)) ** 2
    scale = 2 / (unit_weight_n_m3 * width_m * passive)
    return cubic_depth_m(scale * np.abs(lateral_n), scale * np.abs(moment_n_m))


def broms_clay_depth_m(
    lateral_n: ArrayLike, moment_n_m: ArrayLike, cohesion_pa: float, width_m: float
) -> Floats:
    """Embedment of a short rigid pile, free head, in clay: 9 c_u b below 1.5 b. Broms (1964)."""
    strength = constant("common", "clay_lateral_factor").value * cohesion_pa * width_m
    dead_zone = constant("common", "clay_dead_zone_widths").value * width_m
    lateral, moment = np.abs(lateral_n), np.abs(moment_n_m)
    turn = lateral / strength
    largest = moment + lateral * (dead_zone + 0.5 * turn)
    # M_max = 9/4 c_u b g², the couple of the two halves of the lowest stretch g.
    lowest = np.sqrt(4 * largest / strength)
    return np.asarray(dead_zone + turn + lowest)


def lateral_depth_m(
    pack: str, lateral_n: Floats, moment_n_m: Floats, soil: Soil, width_m: float, movement: float
) -> Floats:
    """Embedment each load case needs by the school of the rule pack.

    ``movement`` multiplies the us bearing where 13 mm at ground does no harm (IBC 1806.3.4).
    """
    if pack == "us":
        bearing = soil.lateral_pa_per_m * movement
        return unconstrained_depth_m(lateral_n, moment_n_m, bearing, width_m)
    if soil.cohesion_pa > 0:
        reduced = soil.cohesion_pa / constant("metric", "cohesion_partial").value
        return broms_clay_depth_m(lateral_n, moment_n_m, reduced, width_m)
    tangent = math.tan(math.radians(soil.friction_angle_deg))
    angle = math.degrees(math.atan(tangent / constant("metric", "friction_partial").value))
    return broms_sand_depth_m(lateral_n, moment_n_m, soil.unit_weight_n_m3, angle, width_m)


def moment_below_ground_n_m(
    lateral_n: ArrayLike, moment_n_m: ArrayLike, soil: Soil, width_m: float
) -> Floats:
    """Largest bending in the post, where the soil has taken up the shear.

    The soil's push grows with depth as 3 K_p gamma b z, or is 9 c_u b below 1.5 widths in clay.
    """
    lateral, moment = np.abs(lateral_n), np.abs(moment_n_m)
    if soil.cohesion_pa > 0:
        strength = constant("common", "clay_lateral_factor").value * soil.cohesion_pa * width_m
        dead_zone = constant("common", "clay_dead_zone_widths").value * width_m
        return np.asarray(moment + lateral * (dead_zone + lateral / strength / 2))
    passive = math.tan(math.radians(45 + soil.friction_angle_deg / 2)) ** 2
    zero_shear = np.sqrt(lateral / (1.5 * passive * soil.unit_weight_n_m3 * width_m))
    return np.asarray(moment + lateral * zero_shear * 2 / 3)
