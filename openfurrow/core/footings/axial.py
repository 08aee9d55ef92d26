"""Depth a post needs so that soil friction and its tip hold it down, up and against frost."""

import math
from dataclasses import dataclass

import numpy as np

from openfurrow.core.codes import constant
from openfurrow.core.site.soil import Soil


@dataclass(frozen=True)
class Shaft:
    """Ultimate resistance of a shaft per unit perimeter below the ``start_m`` that earns no credit.

    ``growing`` (Pa/m) multiplies depth, ``steady`` (Pa) does not: friction at depth z is
    growing·z + steady.
    """

    perimeter_m: float
    start_m: float
    growing: float
    steady: float

    def friction_n(self, depth_m: float) -> float:
        """Ultimate friction between ``start_m`` and ``depth_m``."""
        deep = max(depth_m, self.start_m)
        stretch = self.growing * (deep**2 - self.start_m**2) / 2
        return self.perimeter_m * (stretch + self.steady * (deep - self.start_m))


def adhesion_factor(cohesion_pa: float) -> float:
    """Alpha of the alpha method: 1 at c_u of 25 kPa and less, falling to 0.5 at 70 kPa."""
    return float(np.interp(cohesion_pa, (25e3, 70e3), (1.0, 0.5)))


def shaft_in(soil: Soil, perimeter_m: float, start_m: float) -> Shaft:
    """The shaft's friction in a soil: alpha method in clay, beta method in sand and gravel."""
    if soil.cohesion_pa > 0:
        return Shaft(perimeter_m, start_m, 0.0, adhesion_factor(soil.cohesion_pa) * soil.cohesion_pa)
    roughness = constant("common", "shaft_roughness").value
    slide = math.tan(math.radians(soil.friction_angle_deg * roughness))
    return Shaft(perimeter_m, start_m, soil.earth_pressure_k * slide * soil.unit_weight_n_m3, 0.0)


def bearing_number(friction_angle_deg: float) -> float:
    """N_q by Reissner (1924): what a tip in sand bears, as a multiple of the pressure beside it."""
    angle = math.radians(friction_angle_deg)
    return math.exp(math.pi * math.tan(angle)) * math.tan(math.pi / 4 + angle / 2) ** 2


def tip_pa(soil: Soil, depth_m: float) -> float:
    """Ultimate pressure under the tip: 9 c_u (Skempton), or N_q gamma d with Reissner's N_q (1924)."""
    if soil.cohesion_pa > 0:
        return constant("common", "clay_tip_factor").value * soil.cohesion_pa
    return bearing_number(soil.friction_angle_deg) * soil.unit_weight_n_m3 * depth_m


def friction_depth_m(shaft: Shaft, wanted_n: float) -> float:
    """The depth at which friction reaches ``wanted_n`` (ultimate); nought when nothing is wanted."""
    if wanted_n <= 0:
        return 0.0
    per_metre = wanted_n / shaft.perimeter_m
    if shaft.growing == 0:
        return shaft.start_m + per_metre / shaft.steady
    return math.sqrt(shaft.start_m**2 + 2 * per_metre / shaft.growing)


def bearing_depth_m(shaft: Shaft, soil: Soil, tip_area_m2: float, wanted_n: float) -> float:
    """The depth at which friction and tip together reach ``wanted_n`` (ultimate)."""
    if wanted_n <= 0:
        return 0.0
    if shaft.growing == 0:
        rest = wanted_n - tip_pa(soil, 0.0) * tip_area_m2
        return friction_depth_m(shaft, rest) if rest > 0 else shaft.start_m
    # Friction grows with the square of depth and the tip with depth: a quadratic.
    a = shaft.perimeter_m * shaft.growing / 2
    b = tip_pa(soil, 1.0) * tip_area_m2
    depth = (-b + math.sqrt(b**2 + 4 * a * (wanted_n + a * shaft.start_m**2))) / (2 * a)
    return depth if depth >= shaft.start_m else wanted_n / b
