"""What a profile carries along itself, pushed, by the school of the rule pack.

AISC 360-16 E3 and E4 over 1.67, or EN 1993-1-1 6.3.1 curve c; of a C or a Z besides what its plates
leave, by the direct strength method, AISI S100-16 E3 and E4, over its own factor. Aluminium by itself.
"""

import math
from functools import lru_cache

import numpy as np
from numpy.typing import ArrayLike, NDArray

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.codes.section import MOST_KEPT, Section
from openfurrow.core.members.aluminium import pressed_limit_n
from openfurrow.core.members.buckling import (
    pressed_flange_turns_pa,
    pressed_local_pa,
)
from openfurrow.core.members.open_profile import open_profile
from openfurrow.core.members.walls import pressed_walls

Floats = NDArray[np.float64]


def column_limit_n(
    profile: Section, length_m: ArrayLike, pack: str, free_m: ArrayLike | None = None
) -> Floats:
    """Axial strength, pinned ends: ``length_m`` about its strong axis.

    ``free_m`` is how far nothing holds it sideways and against twisting; as long where none is said.
    """
    length = np.maximum(np.asarray(length_m, dtype=float), 1e-3)
    free = length if free_m is None else np.maximum(np.asarray(free_m, dtype=float), 1e-3)
    stress, yields = _elastic_pa(profile, length, free), profile.yield_pa
    thin = profile.shape in ("C", "Z")
    if profile.aluminium:
        return pressed_limit_n(profile, pack, stress)
    if pack == "us":
        ratio = yields / stress
        column = np.where(ratio <= 2.25, 0.658**ratio * yields, 0.877 * stress)
    else:
        slender = np.sqrt(yields / stress)
        phi = 0.5 * (1 + 0.49 * (slender - 0.2) + slender**2)
        left = np.sqrt(np.maximum(phi**2 - slender**2, 0.0))
        column = np.minimum(1.0, 1 / (phi + left)) * yields
    school: RulePack = "us" if pack == "us" else "metric"
    if not thin:
        factor = constant(school, "bending_resistance_factor").value
        return np.asarray(column * profile.area_m2 * pressed_walls(profile) / factor)
    column = np.minimum(_by_plates(column, pressed_local_pa(profile)), _by_flange(profile))
    return np.asarray(column * profile.area_m2 / constant(school, "thin_column_factor").value)


def _elastic_pa(profile: Section, length_m: Floats, free_m: Floats) -> Floats:
    """The least stress at which it bows either way or, of an open profile, twists as it bows."""
    along, aside = ((math.pi / long) ** 2 * profile.elastic_pa for long in (length_m, free_m))
    strong = along * profile.inertia_m4 / profile.area_m2
    if profile.closed:
        return np.minimum(strong, aside * profile.weak_inertia_m4 / profile.area_m2)
    found = open_profile(profile)
    weak = aside * found.least_m4 / found.area_m2
    turning = profile.metal.shear_pa * found.twist_m4 + aside * found.warping_m6
    twists = turning / (found.area_m2 * found.polar_m**2)
    # AISC 360-16 E4-5: bowing across its web's plane and twisting go together.
    share = 1 - (found.off_m / found.polar_m) ** 2
    both = strong + twists
    together = (both - np.sqrt(np.maximum(both**2 - 4 * strong * twists * share, 0.0))) / (2 * share)
    return np.minimum(weak, together)


def _by_plates(column_pa: Floats, local_pa: float) -> Floats:
    """AISI S100-16 E3.2.1: what plates that buckle by themselves leave of a column."""
    ratio = (local_pa / column_pa) ** 0.4
    return np.where(ratio >= (1 / 0.776**2) ** 0.4, 1.0, (1 - 0.15 * ratio) * ratio) * column_pa


@lru_cache(maxsize=MOST_KEPT)
def _by_flange(profile: Section) -> float:
    """AISI S100-16 E4.1: what flanges that turn with their lips leave of a short one."""
    ratio = (pressed_flange_turns_pa(profile) / profile.yield_pa) ** 0.6
    left = 1.0 if ratio >= (1 / 0.561**2) ** 0.6 else (1 - 0.25 * ratio) * ratio
    return left * profile.yield_pa
