"""How much of a steel section's walls counts where they are slender: EN 1993-1-5 4.4, in both schools.

Of an I the flange that stands out from its web, of a box the walls between their corners. The least of
its walls is taken for all of them. C and Z go by the direct strength method instead.
"""

import math

from openfurrow.core.codes.section import Section
from openfurrow.core.members.buckling import FLANGE_K, LIP_K, plate_pa

# Of a wall between two corners in pure bending, and how its stress runs from edge to edge.
BENT_K, BENT_RATIO, EVEN_RATIO = 23.9, -1.0, 1.0


def bent_walls(profile: Section) -> float:
    """What is left of an I, a box or a pipe, bent about its strong axis."""
    if profile.shape == "box":
        wide, deep = _inside_m(profile)
        return min(
            _between(profile, wide, FLANGE_K, EVEN_RATIO), _between(profile, deep, BENT_K, BENT_RATIO)
        )
    if profile.shape != "I":
        return 1.0
    slender = _slender(profile, profile.flange_m, profile.width_m / 2, LIP_K)
    return 1.0 if slender <= 0.748 else (slender - 0.188) / slender**2


def pressed_walls(profile: Section) -> float:
    """What is left of a box that is pressed along itself; all of any other."""
    if profile.shape != "box":
        return 1.0
    return min(_between(profile, wide, FLANGE_K, EVEN_RATIO) for wide in _inside_m(profile))


def _inside_m(profile: Section) -> tuple[float, float]:
    """Clear width and depth of a box."""
    return profile.width_m - 2 * profile.web_m, profile.depth_m - 2 * profile.flange_m


def _slender(profile: Section, thick_m: float, wide_m: float, k: float) -> float:
    return math.sqrt(profile.yield_pa / plate_pa(profile.metal, thick_m, wide_m, k))


def _between(profile: Section, wide_m: float, k: float, ratio: float) -> float:
    slender = _slender(profile, profile.web_m, wide_m, k)
    if slender <= 0.5 + math.sqrt(0.085 - 0.055 * ratio):
        return 1.0
    return (slender - 0.055 * (3 + ratio)) / slender**2
