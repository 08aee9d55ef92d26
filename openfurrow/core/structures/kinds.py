"""Which supports are alike: a few kinds for any number of them, never to the unsafe side."""

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.structures.supports import Kinds

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

# Supports whose heights, and whose shares of the row, lie within such a step are one kind.
REVEAL_STEP_M, TRIBUTARY_STEP_M = 0.05, 0.10
# More kinds of one role would be slow to size: then the steps are doubled until they are fewer.
MOST_KINDS = 24


def _steps(values: Floats, step: float) -> Integers:
    """In which step each lies, counted from the lowest that there is."""
    found = np.floor(values / step + 1e-9).astype(np.int64)
    return np.asarray(found - found.min())


def kinds_of(
    reveals_m: Floats,
    tributary_m: Floats,
    soil_of: Integers,
    size_of: Integers,
    sheltered: NDArray[np.bool_],
    drives: NDArray[np.bool_] | None = None,
) -> tuple[Kinds, Integers]:
    """The kinds, soil by soil, and of each post of every bent which it is (roles, bents).

    ``sheltered`` are bents of tables in the shelter of others, ``drives`` those that hold a tube
    against turning. ``reveals_m`` and ``soil_of`` are (roles, bents): what a post feels depends on the
    others of its bent too. A kind bears the largest share of its supports at their greatest and at
    their least heights, and weighs what the smallest share weighs.
    """
    roles, bents = reveals_m.shape
    step, sizes = 1.0, int(size_of.max()) + 1
    holds = np.zeros(bents, dtype=bool) if drives is None else drives
    stands = (size_of * 2 + holds) * 2 + sheltered
    apart = ((soil_of * sizes * 4 + stands) * roles + np.arange(roles)[:, None]).ravel()
    while True:
        high, spans = np.zeros(bents, dtype=np.int64), 1
        for of_role in reveals_m:
            steps = _steps(of_role, step * REVEAL_STEP_M)
            high, spans = high * (steps.max() + 1) + steps, spans * int(steps.max() + 1)
        share = _steps(tributary_m, step * TRIBUTARY_STEP_M)
        # One number a group, soil first: far faster to sort than rows of several.
        shares = int(share.max()) + 1
        groups = (apart * spans + np.tile(high, roles)) * shares + np.tile(share, roles)
        found, kind = np.unique(groups, return_inverse=True)
        # Soils, lengths of tables, what is in shelter: never thrown together, however many there are.
        if len(found) <= max(MOST_KINDS * roles, 2 * len(np.unique(apart))):
            break
        step *= 2
    kept_apart = found // (spans * shares)
    order = np.argsort(kind, kind="stable")
    starts = np.searchsorted(kind[order], np.arange(len(found)))
    bent = order % bents

    def each(pick: np.ufunc, values: Floats) -> Floats:
        return np.asarray(pick.reduceat(values[..., bent], starts, axis=-1))

    return Kinds(
        role=kept_apart % roles,
        lows_m=each(np.minimum, reveals_m).T,
        highs_m=each(np.maximum, reveals_m).T,
        tributary_m=each(np.maximum, tributary_m),
        least_tributary_m=each(np.minimum, tributary_m),
        soil_of=kept_apart // (4 * sizes * roles),
        size_of=kept_apart // (4 * roles) % sizes,
        drives=kept_apart // (2 * roles) % 2 == 1,
        sheltered=kept_apart // roles % 2 == 1,
    ), kind.reshape(roles, bents)
