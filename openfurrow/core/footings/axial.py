"""Depth that a post or a pier needs so that friction, foot and weight hold it down, up and in frost."""

import math
from dataclasses import dataclass

import numpy as np

from openfurrow.core.codes import constant
from openfurrow.core.site.soil import Soil, SoilLayer


@dataclass(frozen=True, kw_only=True)
class Gripped:
    """Where friction begins, and the most that a school takes of it and under a tip (ultimate).

    ``share`` and ``flat_pa`` bound friction: so much of what a soil bears, and no more than that.
    ``tip_share`` is how many times what a soil bears may be taken under a tip, ``rock_pa`` what was
    measured to grip in drilled rock.
    """

    start_m: float
    share: float = math.inf
    flat_pa: float = math.inf
    tip_share: float = math.inf
    rock_pa: float | None = None

    def most_pa(self, vertical_pa: float) -> float:
        """The most friction in a soil that bears so much."""
        return min(self.share * vertical_pa, self.flat_pa)

    def tip_most_pa(self, vertical_pa: float) -> float:
        """The most under a tip in it."""
        return self.tip_share * vertical_pa


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

    def times(self, share: float) -> "Shaft":
        """The same where so much of it was measured."""
        return Shaft(self.perimeter_m, self.start_m, self.growing * share, self.steady * share)

    def friction_n(self, depth_m: float) -> float:
        """Ultimate friction between ``start_m`` and ``depth_m``."""
        deep = max(depth_m, self.start_m)
        stretch = self.growing * (deep**2 - self.start_m**2) / 2
        return self.perimeter_m * (stretch + self.steady * (deep - self.start_m))


def adhesion_factor(cohesion_pa: float) -> float:
    """Alpha of the alpha method: 1 at c_u of 25 kPa and less, falling to 0.5 at 70 kPa."""
    return float(np.interp(cohesion_pa, (25e3, 70e3), (1.0, 0.5)))


def grip_of(soil: Soil | SoilLayer, *, cast: bool) -> tuple[float, float]:
    """What grips a shaft: steady (Pa) in clay, by the alpha method; in sand a share of the pressure
    of the soil above, by the beta method.

    ``cast``: concrete poured into a bore. Clay that was bored softens (O'Neill & Reese 1999); sand
    presses as it lay, 1 - sin phi (Jaky 1944), and slides on itself (Kulhawy 1991).
    """
    if soil.cohesion_pa > 0:
        adhesion = adhesion_factor(soil.cohesion_pa)
        if cast:
            adhesion = min(adhesion, constant("common", "bored_adhesion").value)
        return adhesion * soil.cohesion_pa, 0.0
    angle = math.radians(soil.friction_angle_deg)
    if cast:
        return 0.0, (1 - math.sin(angle)) * math.tan(angle)
    slides = math.tan(angle * constant("common", "shaft_roughness").value)
    return 0.0, soil.earth_pressure_k * slides


def shaft_in(soil: Soil, perimeter_m: float, gripped: Gripped, *, cast: bool = False) -> Shaft:
    """The shaft's friction in an even soil."""
    steady, slide = grip_of(soil, cast=cast)
    most = gripped.most_pa(soil.vertical_pa)
    return Shaft(perimeter_m, gripped.start_m, slide * soil.unit_weight_n_m3, min(steady, most))


def bearing_number(friction_angle_deg: float) -> float:
    """N_q by Reissner (1924): what a tip in sand bears, as a multiple of the pressure beside it."""
    angle = math.radians(friction_angle_deg)
    return math.exp(math.pi * math.tan(angle)) * math.tan(math.pi / 4 + angle / 2) ** 2


def tip_pa(soil: Soil, depth_m: float) -> float:
    """Ultimate pressure under the tip: 9 c_u (Skempton), or N_q gamma d with Reissner's N_q (1924)."""
    if soil.cohesion_pa > 0:
        return constant("common", "clay_tip_factor").value * soil.cohesion_pa
    return bearing_number(soil.friction_angle_deg) * soil.unit_weight_n_m3 * depth_m


def friction_depth_m(shaft: Shaft, wanted_n: float, weight_n_per_m: float = 0.0) -> float:
    """The depth at which friction, and what it weighs by the metre, reach ``wanted_n`` (ultimate).

    Nought when nothing is wanted, infinite where nothing holds. A weight below nought is one that
    presses instead.
    """
    if wanted_n <= 0:
        return 0.0
    if weight_n_per_m > 0 and wanted_n <= weight_n_per_m * shaft.start_m:
        return wanted_n / weight_n_per_m
    return _held_depth_m(shaft, wanted_n, weight_n_per_m)


def _held_depth_m(shaft: Shaft, wanted_n: float, weight_n_per_m: float) -> float:
    """The depth below its start at which friction and weight hold what is wanted.

    a d² + (s + w) d = wanted + a z² + s z: friction grows with the square of depth, or with depth.
    """
    a = shaft.perimeter_m * shaft.growing / 2
    s = shaft.perimeter_m * shaft.steady
    held, asked = s + weight_n_per_m, wanted_n + a * shaft.start_m**2 + s * shaft.start_m
    if a > 0:
        return (-held + math.sqrt(held**2 + 4 * a * asked)) / (2 * a)
    return asked / held if held > 0 else math.inf


def bearing_depth_m(
    shaft: Shaft,
    soil: Soil,
    tip_area_m2: float,
    wanted_n: float,
    weight_n_per_m: float = 0.0,
    tip_most_pa: float = math.inf,
) -> float:
    """The depth at which friction and tip together reach ``wanted_n`` (ultimate).

    What it weighs by the metre is wanted besides. No more than ``tip_most_pa`` is taken under a tip.
    """
    if wanted_n <= 0:
        return 0.0
    steady_n = min(tip_pa(soil, 0.0), tip_most_pa) * tip_area_m2
    growing_n = 0.0 if soil.cohesion_pa > 0 else tip_pa(soil, 1.0) * tip_area_m2
    if growing_n > 0:
        # The tip grows with depth as a weight does, up to what it may bear.
        depth = friction_depth_m(shaft, wanted_n, growing_n - weight_n_per_m)
        if tip_pa(soil, depth) <= tip_most_pa:
            return depth
        steady_n = tip_most_pa * tip_area_m2
    if wanted_n + weight_n_per_m * shaft.start_m <= steady_n:
        # The tip holds before friction begins: no depth above that is asked about.
        return shaft.start_m
    return _held_depth_m(shaft, wanted_n - steady_n, -weight_n_per_m)
