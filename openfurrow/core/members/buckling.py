"""The stress at which the plates of a C or a Z buckle in bending, and at which a profile turns over.

All are elastic; what of it is borne is for `bending`.
"""

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import ArrayLike, NDArray

from openfurrow.core.codes.metal import Metal
from openfurrow.core.codes.section import MOST_KEPT, Section
from openfurrow.core.members.open_profile import middle_line_m, open_profile

Floats = NDArray[np.float64]

# Plates that are held at both edges under even pressure, in bending, and at one edge.
FLANGE_K, WEB_K, LIP_K = 4.0, 24.0, 0.43
# How much the stress falls from edge to edge of a web in pure bending.
WEB_GRADIENT = 2.0


def plate_pa(of: Metal, thick_m: float, wide_m: float, k: float) -> float:
    """A plate of such a slenderness by itself."""
    return k * math.pi**2 * of.elastic_pa / (12 * (1 - of.poisson**2)) * (thick_m / wide_m) ** 2


@dataclass(frozen=True)
class _Flange:
    """The flange that is pressed with its lip, about its own middle: AISI S100-16, Table 2.3.3-1.

    ``joint_x_m`` is the corner at the web seen from there, ``centre_x_m`` its shear centre.
    """

    area_m2: float
    x_m4: float
    y_m4: float
    xy_m4: float
    twist_m4: float
    centre_x_m: float
    centre_y_m: float
    joint_x_m: float

    @property
    def _arm_m(self) -> float:
        return self.centre_x_m - self.joint_x_m

    @property
    def skewed_m6(self) -> float:
        """What bends it as it turns about the corner."""
        return (self.x_m4 - self.xy_m4**2 / self.y_m4) * self._arm_m**2

    def holds(self, of: Metal, wave: float) -> float:
        """How stiffly it turns there by itself, in waves of pi over so much."""
        return wave**4 * of.elastic_pa * self.skewed_m6 + wave**2 * of.shear_pa * self.twist_m4

    def asks(self, wave: float) -> float:
        """What a unit of stress takes of that."""
        arm, share = self._arm_m, self.xy_m4 / self.y_m4
        about = (arm * share - self.centre_y_m) ** 2 + self.joint_x_m**2
        return wave**2 * (self.area_m2 * about + self.x_m4 + self.y_m4)


def _flange(wide: float, lip: float, thick: float) -> _Flange:
    both = wide + lip
    return _Flange(
        area_m2=both * thick,
        x_m4=thick
        * (thick**2 * wide**2 + 4 * wide * lip**3 + thick**2 * wide * lip + lip**4)
        / (12 * both),
        y_m4=thick * (wide**4 + 4 * lip * wide**3) / (12 * both),
        xy_m4=thick * wide**2 * lip**2 / (4 * both),
        twist_m4=both * thick**3 / 3,
        centre_x_m=wide**2 / (2 * both),
        centre_y_m=-(lip**2) / (2 * both),
        joint_x_m=-(wide**2 + 2 * lip * wide) / (2 * both),
    )


@lru_cache(maxsize=MOST_KEPT)
def plates_m(profile: Section) -> tuple[float, float, float, float]:
    """Web, flange and lip of a C or a Z along the middle of their walls, and how thick they are."""
    lip, wide, deep = (float(one) for one in np.hypot(*np.diff(middle_line_m(profile), axis=0)[:3].T))
    return deep, wide, lip, profile.web_m


def local_pa(profile: Section, web_k: float = WEB_K) -> float:
    """Where the first of its plates buckles by itself, bent; what the others hold of it is left out."""
    deep, wide, lip, thick = plates_m(profile)
    of = profile.metal
    plates = [plate_pa(of, thick, wide, FLANGE_K), plate_pa(of, thick, deep, web_k)]
    return min([*plates, plate_pa(of, thick, lip, LIP_K)] if lip > thick else plates)


def pressed_local_pa(profile: Section) -> float:
    """The same where all of it is pressed alike."""
    return local_pa(profile, FLANGE_K)


def flange_turns_pa(profile: Section) -> float:
    """Where the flange that is pressed turns about its corner with its lip: AISI S100-16, 2.3.3.3.

    The length at which it is least is taken, for nothing holds it nearer than that.
    """
    deep, wide, lip, thick = plates_m(profile)
    part = _flange(wide, lip, thick)
    skewed, plate = part.skewed_m6, 1 - profile.metal.poisson**2
    wave = math.pi / (
        (4 * math.pi**4 * deep * plate / thick**3 * skewed + math.pi**4 * deep**4 / 720) ** 0.25
    )
    web_holds = (
        profile.elastic_pa
        * thick**3
        / (12 * plate)
        * (3 / deep + wave**2 * 19 * deep / 60 + wave**4 * deep**3 / 240)
    )
    ratio, eased = math.pi / wave / deep, 1 - WEB_GRADIENT
    web_asks = (
        (deep * thick * math.pi**2 / 13440)
        * (
            (45360 * eased + 62160) * ratio**2
            + 448 * math.pi**2
            + (53 + 3 * eased) * math.pi**4 / ratio**2
        )
        / (math.pi**4 + 28 * math.pi**2 * ratio**2 + 420 * ratio**4)
    )
    return float((part.holds(profile.metal, wave) + web_holds) / (part.asks(wave) + web_asks))


def pressed_flange_turns_pa(profile: Section) -> float:
    """The same where all of it is pressed alike: AISI S100-16, 2.3.1.3."""
    deep, wide, lip, thick = plates_m(profile)
    part, plate = _flange(wide, lip, thick), 1 - profile.metal.poisson**2
    wave = math.pi / (6 * math.pi**4 * deep * plate / thick**3 * part.skewed_m6) ** 0.25
    web_holds = profile.elastic_pa * thick**3 / (6 * deep * plate)
    web_asks = wave**2 * thick * deep**3 / 60
    return float((part.holds(profile.metal, wave) + web_holds) / (part.asks(wave) + web_asks))


def turns_over_pa(profile: Section, free_m: ArrayLike) -> Floats:
    """Where a profile turns over sideways that is held at both ends of ``free_m``, evenly bent.

    AISC 360-16 F2-4 and AISI S100-16 F2.1: of a Z half of what it were as a C.
    """
    found, length = open_profile(profile), np.maximum(np.asarray(free_m, dtype=float), 1e-3)
    elastic, shear = profile.elastic_pa, profile.metal.shear_pa
    wave = (math.pi / length) ** 2
    sideways = wave * elastic * found.weak_m4
    twists = shear * found.twist_m4 + wave * elastic * found.warping_m6
    if profile.shape == "I":
        return np.asarray(np.sqrt(sideways * twists) / profile.modulus_m3)
    # r_0 A sqrt(s_y s_t) is r_0 sqrt(N_y N_t), N_t = twists / r_0^2.
    half = 0.5 if profile.shape == "Z" else 1.0
    return np.asarray(half * np.sqrt(sideways * twists) / profile.modulus_m3)
