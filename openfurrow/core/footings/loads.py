"""What one post feels at the ground: every combination with every wind case at once."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.loads.combinations import Combinations
from openfurrow.core.loads.wind import WindCases
from openfurrow.core.quantities import STANDARD_GRAVITY_M_S2
from openfurrow.core.rows.geometry import TableSection

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class PostLoads:
    """Actions at ground level, one entry a combination and wind case.

    ``vertical_n`` is positive downward, ``horizontal_n`` toward the back, ``moment_n_m`` tipping
    the top toward the back.
    """

    names: tuple[str, ...]
    vertical_n: Floats
    horizontal_n: Floats
    moment_n_m: Floats


def post_loads(
    section: TableSection,
    reveal_m: float,
    tributary_m: float,
    dead_kg_per_m2: float,
    snow_pa: float,
    wind: WindCases,
    combined: Combinations,
) -> PostLoads:
    """Loads on the post that carries ``tributary_m`` of the row.

    Pressures act on the two halves of the chord; their sum passes through the post's bolt, their
    difference turns the table about it. Weight and snow act at mid-chord, which lies in front of
    the post by the depth of the stack times sin(tilt).
    """
    tilt = math.radians(section.tilt_deg)
    half_area = section.chord_m / 2 * tributary_m
    front, back = wind.front_pa * half_area, wind.back_pa * half_area
    normal, turning = front + back, (back - front) * section.chord_m / 4
    dead = dead_kg_per_m2 * STANDARD_GRAVITY_M_S2 * section.chord_m * tributary_m
    snow = snow_pa * section.level_depth_m * tributary_m
    weight = combined.dead * dead + combined.snow * snow
    ahead = section.stack_m * math.sin(tilt)
    factor = combined.wind[:, None]
    vertical = weight[:, None] + factor * normal * math.cos(tilt)
    horizontal = factor * normal * math.sin(tilt)
    moment = horizontal * reveal_m + factor * turning - weight[:, None] * ahead
    names = tuple(
        f"{combination}, {case}" if used else combination
        for combination, used in zip(combined.names, combined.wind, strict=True)
        for case in wind.names
    )
    return PostLoads(names, vertical.ravel(), horizontal.ravel(), moment.ravel())
