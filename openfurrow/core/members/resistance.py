"""What a steel profile resists about its weak axis, in shear and twisted, by the school."""

import math

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant
from openfurrow.core.codes.section import Section
from openfurrow.core.members.aluminium import resistance_factor

Floats = NDArray[np.float64]


def weak_limit_n_m(profile: Section, pack: str) -> float:
    """Moment that a profile carries about its weak axis: it does not turn over that way."""
    factor = (
        resistance_factor(pack)
        if profile.aluminium
        else constant("us" if pack == "us" else "metric", "bending_resistance_factor").value
    )
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
