"""What a steel profile resists in bending and as a strut, by the school of the rule pack."""

import math

import numpy as np
from numpy.typing import ArrayLike, NDArray

from openfurrow.core.codes import constant
from openfurrow.core.codes.section import Section

Floats = NDArray[np.float64]


def bending_limit_n_m(profile: Section, pack: str) -> float:
    """Moment that a profile carries about its strong axis, held against turning over.

    us: allowable, M_n / 1.67; metric: design resistance, partial factor 1.0.
    """
    factor = constant("us" if pack == "us" else "metric", "bending_resistance_factor").value
    return profile.yield_pa * profile.modulus_m3 / factor


def weak_limit_n_m(profile: Section, pack: str) -> float:
    """Moment that a profile carries about its weak axis: it does not turn over that way."""
    factor = constant("us" if pack == "us" else "metric", "bending_resistance_factor").value
    return profile.yield_pa * profile.weak_modulus_m3 / factor


def shear_limit_n(pipe: Section, pack: str) -> float:
    """Shear that a pipe carries: AISC 360-16 G5, half of it at 0.6 F_y; EN 1993-1-1 6.2.6, 2 A / pi."""
    if pack == "us":
        factor = constant("us", "bending_resistance_factor").value
        return constant("us", "shear_yield").value * pipe.yield_pa * pipe.area_m2 / 2 / factor
    return 2 / math.pi * pipe.area_m2 * pipe.yield_pa / math.sqrt(3)


def twist_limit_n_m(pipe: Section, pack: str) -> float:
    """Twist at which a pipe's outermost fibre yields: twice the bending modulus is its polar one.

    AISC 360-16 H3.1 takes the middle of the wall, which bears a little more; EN 1993-1-1 6.2.7.
    """
    polar = 4 * pipe.inertia_m4 / pipe.depth_m
    if pack == "us":
        factor = constant("us", "bending_resistance_factor").value
        return constant("us", "shear_yield").value * pipe.yield_pa * polar / factor
    return polar * pipe.yield_pa / math.sqrt(3)


def bending_limits(profile: Section, pack: str) -> tuple[float, float]:
    """What a profile carries with the outer flange held by modules, and with it free (uplift)."""
    held = bending_limit_n_m(profile, pack)
    free = constant("us" if pack == "us" else "metric", "free_flange_factor").value
    return held, held * free


def column_limit_n(strut: Section, length_m: ArrayLike, pack: str) -> Floats:
    """Axial strength, pinned ends: AISC 360-16 E3 over 1.67, or EN 1993-1-1 6.3.1 curve c."""
    length = np.maximum(np.asarray(length_m, dtype=float), 1e-3)
    elastic = (
        math.pi**2
        * constant("common", "steel_modulus_pa").value
        * strut.inertia_m4
        / (length**2 * strut.area_m2)
    )
    if pack == "us":
        ratio = strut.yield_pa / elastic
        critical = np.where(ratio <= 2.25, 0.658**ratio * strut.yield_pa, 0.877 * elastic)
        return np.asarray(critical * strut.area_m2 / constant("us", "bending_resistance_factor").value)
    slenderness = np.sqrt(strut.yield_pa / elastic)
    phi = 0.5 * (1 + 0.49 * (slenderness - 0.2) + slenderness**2)
    chi = np.minimum(1.0, 1 / (phi + np.sqrt(np.maximum(phi**2 - slenderness**2, 0.0))))
    return np.asarray(chi * strut.area_m2 * strut.yield_pa)
