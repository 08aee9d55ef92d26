"""Wind along the row where nothing braces it: posts bend about their weak axis as cantilevers."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import RulePack
from openfurrow.core.loads.along import SeenAlong, along_n
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.quantities import STANDARD_GRAVITY_M_S2
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.supports import Reactions

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Along:
    """Wind along the row, unfactored: on each table, and what each post gets of it at the ground."""

    table_n: Floats
    post_n: Floats
    post_n_m: Floats


def wind_along(
    pack: RulePack,
    rows: RowsPlan,
    posts: Stand,
    loads: TableLoads,
    glass: SeenAlong,
    alone: NDArray[np.bool_] | None = None,
) -> Along:
    """Spread over a table's posts, whose heads are tied together; ``glass`` is all that they carry.

    As cantilevers in the ground the short ones take most; where the ground gives they share alike.
    Each post is given the more of the two, those that may hold their table ``alone`` all of it.
    """
    section, supports = rows.section, posts.supports
    of = supports.places.of_table
    count = np.bincount(of, minlength=rows.tables.count)
    pipe, seen_m2 = posts.post.shape == "pipe", posts.post.depth_m * supports.reveals_m
    own = SeenAlong(
        rubbed_m2=np.zeros(supports.count),
        flat_m2=np.zeros(supports.count) if pipe else seen_m2,
        round_m2=seen_m2 if pipe else np.zeros(supports.count),
    )
    on_glass, on_post = (along_n(pack, loads.wind.velocity_pa, seen) for seen in (glass, own))
    # All that hangs on the heads is taken at the middle of the glass.
    height = supports.reveals_m + section.stack_m * math.cos(math.radians(section.tilt_deg))
    stiff = height**-3.0
    share = np.maximum(stiff / np.bincount(of, stiff)[of], 1.0 / count[of])
    if alone is not None:
        share = np.where(alone, 1.0, share)
    head = on_glass[of] * share
    return Along(
        table_n=on_glass + np.bincount(of, on_post, rows.tables.count),
        post_n=head + on_post,
        post_n_m=head * height + on_post * supports.reveals_m / 2,
    )


def with_wind_along(
    found: Reactions,
    along: Along,
    rows: RowsPlan,
    posts: Stand,
    loads: TableLoads,
    held_m: Floats | None = None,
) -> Reactions:
    """The reactions with a case more for each combination that wind is part of.

    Each kind is given the most that any of its posts gets; nothing blows across meanwhile. ``held_m``
    is how much of the row each holds against turning over its head: where it is not said, its share.
    """
    combined, kinds, section = loads.strength, posts.kinds, rows.section
    windy = np.flatnonzero(combined.wind)
    push, turn = np.zeros(kinds.count), np.zeros(kinds.count)
    np.maximum.at(push, posts.supports.kind, along.post_n)
    np.maximum.at(turn, posts.supports.kind, along.post_n_m)
    area = kinds.tributary_m * section.chord_m
    dead = loads.dead_of_kg_per_m2[kinds.size_of] * STANDARD_GRAVITY_M_S2 * area
    snow = loads.snow_pa * section.level_depth_m * kinds.tributary_m
    down = combined.dead[windy] * dead[:, None] + combined.snow_whole[windy] * snow[:, None]
    # Snow on one half alone acts a quarter of the glass off its middle.
    uneven = (combined.snow - combined.snow_back)[windy]
    ahead = section.stack_m * math.sin(math.radians(section.tilt_deg))
    nothing, factor = np.zeros_like(down), combined.wind[windy]
    turning = -down * ahead - uneven * snow[:, None] * section.level_depth_m / 8
    if held_m is not None:
        turning = turning * (held_m / kinds.tributary_m)[:, None]
    more = {
        "down_n": down,
        "across_n": nothing,
        "moment_n_m": turning,
        "along_n": factor * push[:, None],
        "along_moment_n_m": factor * turn[:, None],
        "twist_n_m": nothing,
    }
    names = tuple(f"{combined.names[index]}, along the row" for index in windy.tolist())
    return found.with_cases(names, [more] * found.bounds)
