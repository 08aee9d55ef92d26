"""What posts under a turning tube get: bearings hold it in place, the drive alone its turning."""

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.structures.cantilevers.carry import Heads, on_heads
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.supports import Kinds
from openfurrow.core.structures.turning_tube.line import twisting

Floats = NDArray[np.float64]


def held_m(posts: Stand) -> Floats:
    """How much of the row each kind holds against turning: all of its table at the drive, else none."""
    whole = np.array([twisting(size).row_m for size in posts.sizes])
    return np.where(posts.kinds.drives, whole[posts.kinds.size_of], 0.0)


def row_heads(section: TableSection, loads: TableLoads, dead_kg_per_m2: float) -> Heads:
    """What a metre of the row brings to the tube."""
    return on_heads(section, loads, np.ones(1), np.array([dead_kg_per_m2]))


def tube_heads(section: TableSection, loads: TableLoads, kinds: Kinds, held_row_m: Floats) -> Heads:
    """What each kind of head gets; bearings let the tube turn."""
    dead = loads.dead_of_kg_per_m2[kinds.size_of]
    heads = on_heads(section, loads, kinds.tributary_m, dead)
    turning = heads.turning_n_m * (held_row_m / kinds.tributary_m)[:, None, None]
    return replace(heads, turning_n_m=turning)
