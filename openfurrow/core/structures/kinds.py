"""Which supports are alike: a few kinds for any number of them, never to the unsafe side."""

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.structures.supports import Kinds

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

# Supports whose heights, and whose shares of the row, lie within such a step are one kind.
REVEAL_STEP_M, TRIBUTARY_STEP_M = 0.05, 0.10
# More kinds than this would be slow to size: then the steps are doubled until they are fewer.
MOST_KINDS = 24


def _steps(values: Floats, step: float) -> Integers:
    """In which step each lies, counted from the lowest that there is."""
    found = np.floor(values / step + 1e-9).astype(np.int64)
    return np.asarray(found - found.min())


def kinds_of(
    reveals_m: Floats, tributary_m: Floats, soil_of: Integers, size_of: Integers
) -> tuple[Kinds, Integers]:
    """The kinds, soil by soil, and of each support which it is.

    A kind bears the largest share of its supports at their greatest and at their least height, and
    weighs what the smallest share weighs.
    """
    step, sizes = 1.0, int(size_of.max()) + 1
    apart = soil_of * sizes + size_of
    while True:
        high = _steps(reveals_m, step * REVEAL_STEP_M)
        share = _steps(tributary_m, step * TRIBUTARY_STEP_M)
        # One number a group, soil first: far faster to sort than rows of three.
        groups = (apart * (high.max() + 1) + high) * (share.max() + 1) + share
        found, kind = np.unique(groups, return_inverse=True)
        # Soils and lengths of tables are never thrown together, however many there are.
        if len(found) <= max(MOST_KINDS, 2 * len(np.unique(apart))):
            break
        step *= 2
    kept_apart = found // ((high.max() + 1) * (share.max() + 1))
    order = np.argsort(kind, kind="stable")
    starts = np.searchsorted(kind[order], np.arange(len(found)))

    def each(pick: np.ufunc, values: Floats) -> Floats:
        return np.asarray(pick.reduceat(values[order], starts))

    return Kinds(
        low_m=each(np.minimum, reveals_m),
        high_m=each(np.maximum, reveals_m),
        tributary_m=each(np.maximum, tributary_m),
        least_tributary_m=each(np.minimum, tributary_m),
        soil_of=kept_apart // sizes,
        size_of=kept_apart % sizes,
    ), kind
