"""What one post feels at the ground: every combination with every wind case at once."""

import math

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.quantities import STANDARD_GRAVITY_M_S2
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.structures.supports import Kinds, Reactions

Floats = NDArray[np.float64]


def reactions(section: TableSection, kinds: Kinds, loads: TableLoads) -> Reactions:
    """Loads on a post of each kind, at the least and the greatest height that it has.

    Pressures act on the two halves of the chord; their sum passes through the post's bolt, their
    difference turns the table about it. Weight and snow act at mid-chord, which lies in front of
    the post by the depth of the stack times sin(tilt).
    """
    wind, combined = loads.wind, loads.strength
    tilt = math.radians(section.tilt_deg)
    # kinds x heights x combinations x wind cases
    tributary = kinds.tributary_m[:, None, None, None]
    reveal = np.stack((kinds.high_m, kinds.low_m), axis=1)[:, :, None, None]
    half_area = section.chord_m / 2 * tributary
    front, back = wind.front_pa * half_area, wind.back_pa * half_area
    normal, turning = front + back, (back - front) * section.chord_m / 4
    weight_n_per_m = loads.dead_of_kg_per_m2[kinds.size_of] * STANDARD_GRAVITY_M_S2 * section.chord_m
    dead = weight_n_per_m[:, None, None, None] * tributary
    snow = loads.snow_pa * section.level_depth_m * tributary
    weight = combined.dead[:, None] * dead + combined.snow_whole[:, None] * snow
    # Snow on one half alone acts a quarter of the glass off its middle.
    uneven = (combined.snow - combined.snow_back)[:, None] * snow * section.level_depth_m / 8
    ahead = section.stack_m * math.sin(tilt)
    factor = combined.wind[:, None]
    down = weight + factor * normal * math.cos(tilt)
    across = factor * normal * math.sin(tilt)
    moment = across * reveal + factor * turning - weight * ahead - uneven
    names = tuple(
        f"{combination}, {case}" if used else combination
        for combination, used in zip(combined.names, combined.wind, strict=True)
        for case in wind.names
    )

    def flat(values: Floats) -> Floats:
        return np.asarray(np.broadcast_to(values, moment.shape).reshape(kinds.count, -1))

    return Reactions(
        names=names + names,
        bounds=2,
        down_n=flat(down),
        across_n=flat(across),
        moment_n_m=flat(moment),
        along_n=flat(np.zeros_like(moment)),
        along_moment_n_m=flat(np.zeros_like(moment)),
        dead_n=weight_n_per_m * kinds.least_tributary_m,
    )
