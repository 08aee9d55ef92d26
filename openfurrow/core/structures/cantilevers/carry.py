"""What one post feels at the ground: every combination with every wind case at once."""

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.quantities import STANDARD_GRAVITY_M_S2
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.structures.supports import Kinds, Reactions

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Heads:
    """What the table brings to the heads of posts: (kinds, combinations, wind cases).

    ``normal_n`` is wind alone, square to the glass; ``down_n`` all that acts straight down,
    ``across_n`` to the back, ``turning_n_m`` about the bolt, the head to the back.
    """

    normal_n: Floats
    down_n: Floats
    across_n: Floats
    turning_n_m: Floats


def on_heads(
    section: TableSection, loads: TableLoads, tributary_m: Floats, dead_kg_per_m2: Floats
) -> Heads:
    """Of each kind, which carries so much of the row (kinds,), its weight per area of the glass.

    Pressures act on the two halves of the chord; their sum passes through the post's bolt, their
    difference turns the table about it. Weight and snow act at mid-chord, which lies in front of
    the post by the depth of the stack times sin(tilt).
    """
    wind, combined = loads.wind, loads.strength
    tilt = math.radians(section.tilt_deg)
    tributary = tributary_m[:, None, None]
    half_area = section.chord_m / 2 * tributary
    front, back = wind.front_pa * half_area, wind.back_pa * half_area
    dead = (dead_kg_per_m2 * STANDARD_GRAVITY_M_S2 * section.chord_m)[:, None, None] * tributary
    snow = loads.snow_pa * section.level_depth_m * tributary
    weight = combined.dead[:, None] * dead + combined.snow_whole[:, None] * snow
    # Snow on one half alone acts a quarter of the glass off its middle.
    uneven = (combined.snow - combined.snow_back)[:, None] * snow * section.level_depth_m / 8
    ahead = section.stack_m * math.sin(tilt)
    normal = combined.wind[:, None] * (front + back)
    return Heads(
        normal_n=normal,
        down_n=weight + normal * math.cos(tilt),
        across_n=normal * math.sin(tilt),
        turning_n_m=combined.wind[:, None] * (back - front) * section.chord_m / 4
        - weight * ahead
        - uneven,
    )


def reactions(section: TableSection, kinds: Kinds, loads: TableLoads) -> Reactions:
    """Loads on a post of each kind, at the greatest and the least height that it has."""
    dead = loads.dead_of_kg_per_m2[kinds.size_of]
    return reactions_of(on_heads(section, loads, kinds.tributary_m, dead), section, kinds, loads)


def reactions_of(heads: Heads, section: TableSection, kinds: Kinds, loads: TableLoads) -> Reactions:
    """The same of heads that are known already."""
    dead = loads.dead_of_kg_per_m2[kinds.size_of]
    # kinds x heights x combinations x wind cases
    reveal = np.stack((kinds.high_m, kinds.low_m), axis=1)[:, :, None, None]
    moment = heads.across_n[:, None] * reveal + heads.turning_n_m[:, None]

    def flat(values: Floats) -> Floats:
        return np.asarray(np.broadcast_to(values[:, None], moment.shape).reshape(kinds.count, -1))

    nothing = np.zeros((kinds.count, moment[0].size))
    return Reactions(
        names=loads.case_names() * 2,
        bounds=2,
        down_n=flat(heads.down_n),
        across_n=flat(heads.across_n),
        moment_n_m=moment.reshape(kinds.count, -1),
        along_n=nothing,
        along_moment_n_m=nothing,
        twist_n_m=nothing,
        dead_n=dead * STANDARD_GRAVITY_M_S2 * section.chord_m * kinds.least_tributary_m,
    )


ON_ONE_SIDE = ", on one half of the length"


def with_one_side(
    found: Reactions, section: TableSection, kinds: Kinds, loads: TableLoads
) -> Reactions:
    """The reactions with a gust on one half of a table's length besides, each kind under a whole one.

    Its force stands a quarter of the length off the post: it tips the post along the row, and turns
    it about its own axis by what of it lies level.
    """
    wind, tilt = loads.wind, math.radians(section.tilt_deg)
    half = replace(loads, wind=replace(wind, front_pa=wind.front_pa / 2, back_pa=wind.back_pa / 2))
    own = reactions(section, kinds, half)
    dead = loads.dead_of_kg_per_m2[kinds.size_of]
    normal = on_heads(section, half, kinds.tributary_m, dead).normal_n.reshape(kinds.count, -1)
    turned = np.abs(normal) * kinds.tributary_m[:, None] / 4
    windy = np.repeat(loads.strength.wind != 0, len(wind.names))
    cases = windy.size
    more = [
        {
            "down_n": own.down_n[:, at][:, windy],
            "across_n": own.across_n[:, at][:, windy],
            "moment_n_m": own.moment_n_m[:, at][:, windy],
            "along_n": np.zeros((kinds.count, int(windy.sum()))),
            "along_moment_n_m": turned[:, windy] * math.cos(tilt),
            "twist_n_m": turned[:, windy] * math.sin(tilt),
        }
        for at in (slice(0, cases), slice(cases, 2 * cases))
    ]
    names = np.array(loads.case_names(ON_ONE_SIDE))[windy]
    return found.with_cases(tuple(names.tolist()), more)
