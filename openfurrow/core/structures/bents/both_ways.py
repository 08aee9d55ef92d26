"""Wind along the row added to what wind across it asks of the ground."""

import numpy as np

from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.structures.bents.along import Along
from openfurrow.core.structures.bents.carry import Bents, factors, under_loads
from openfurrow.core.structures.bents.line import WAYS
from openfurrow.core.structures.bents.shape import BACK_FOOT, FRONT_FOOT
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.supports import Reactions


def with_wind_along(
    found: Reactions, bents: Bents, along: Along, posts: Stand, loads: TableLoads
) -> Reactions:
    """The reactions with two cases more for each combination that wind is part of.

    Each kind is given the most that any of its posts gets, pressed and lifted by the cables; nothing
    blows across meanwhile.
    """
    kinds, combined = bents.kinds, loads.strength
    each = np.stack((along.post_n, along.post_n_m, along.post_down_n))
    most = np.zeros((*each.shape[:2], kinds.count))
    for row in np.ndindex(most.shape[:2]):
        np.maximum.at(most[row], posts.supports.kind, each[row])
    windy = np.flatnonzero(combined.wind)
    still = factors(loads, combined, loads.dead_of_kg_per_m2[kinds.size_of])
    # One wind case of each combination is enough, with its wind taken off.
    still = still[:, windy * len(loads.wind.names)] * np.array([0.0, 0.0, 1.0, 1.0, 1.0])
    feet = under_loads(bents, still, bents.forces.reactions[:, :, [FRONT_FOOT, BACK_FOOT]])
    own = feet[np.arange(kinds.count), :, :, kinds.role]
    factor = combined.wind[windy]
    # The ground does along the row what it does across it.
    push, turn, press = (
        [np.tile(factor * one[WAYS.index(foot)][:, None], 2) for foot in bents.feet] for one in most
    )
    lifted = np.concatenate((-np.ones(windy.size), np.ones(windy.size)))
    more = [
        {
            "down_n": np.tile(own[:, bound, :, 1], 2) + lifted * press[bound],
            "across_n": np.tile(-own[:, bound, :, 0], 2),
            "moment_n_m": np.tile(own[:, bound, :, 2], 2),
            "along_n": push[bound],
            "along_moment_n_m": turn[bound],
            "twist_n_m": np.zeros_like(turn[bound]),
        }
        for bound in range(found.bounds)
    ]
    names = tuple(
        f"{combined.names[index]}, along the row, {way}"
        for way in ("lifted", "pressed")
        for index in windy.tolist()
    )
    return found.with_cases(names, more)
