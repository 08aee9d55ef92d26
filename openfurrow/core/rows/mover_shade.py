"""Shade from mover to mover: all look the same way, so that shadows are rectangles on rectangles.

Seen along the light, with the plane of the glass as paper, one that stands toward the sun covers

    +--------+          w  by  c, moved aside by dx and up by dy:
    |    +---+----+     what both have in common is shaded.
    +----+---+    |
         +--------+
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

# Suns lower than this bring nothing.
LOWEST_SINE = np.sin(np.radians(0.5))
# Only suns lower than three degrees throw the shade of a table from further than this.
NEARBY_M = 100.0
# Suns that are looked at in one go: bounds what is held at once.
AT_ONCE = 512


@dataclass(frozen=True)
class Standing:
    """Movers by the middles of their glass (n, 3), as long along (n) as they are, one chord for all."""

    middles_m: Floats
    lengths_m: Floats
    chord_m: float


def axes_of(tilt_deg: Floats, bearing_deg: Floats) -> tuple[Floats, Floats, Floats]:
    """Square to the glass, along it and up it, each east, north, up: (suns, 3)."""
    tilt, bearing = np.radians(tilt_deg), np.radians(bearing_deg)
    east, north = np.sin(bearing), np.cos(bearing)
    square = np.stack((np.sin(tilt) * east, np.sin(tilt) * north, np.cos(tilt)), axis=-1)
    along = np.stack((north, -east, np.zeros_like(east)), axis=-1)
    up = np.stack((-np.cos(tilt) * east, -np.cos(tilt) * north, np.sin(tilt)), axis=-1)
    return square, along, up


def shaded_shares(
    movers: Standing, which: Integers, tilt_deg: Floats, bearing_deg: Floats, toward: Floats
) -> Floats:
    """Share of the glass of some movers that others shade under each sun: (which, suns).

    ``toward`` (suns, 3) points at the sun. Where shadows of several lie over each other they are
    added, to the whole at most: never less than there is.
    """
    found = np.zeros((which.size, len(toward)))
    up_enough = np.flatnonzero(toward[:, 2] > LOWEST_SINE)
    for first in range(0, up_enough.size, AT_ONCE):
        suns = up_enough[first : first + AT_ONCE]
        axes = axes_of(tilt_deg[suns], bearing_deg[suns])
        for row, one in enumerate(which.tolist()):
            found[row, suns] = _on_one(movers, one, axes, toward[suns])
    return found


def _on_one(movers: Standing, one: int, axes: tuple[Floats, Floats, Floats], toward: Floats) -> Floats:
    """Share of one mover's glass that is shaded under each sun."""
    square, along, up = axes
    far = np.hypot(*(movers.middles_m - movers.middles_m[one])[:, :2].T)
    far[one] = np.inf
    others = np.flatnonzero(far < NEARBY_M)
    away = movers.middles_m[others] - movers.middles_m[one]
    # Others before the plane of the glass may shade it; those behind it do not.
    before = away @ square.T
    lit = np.einsum("sk,sk->s", square, toward)
    slid = before / np.maximum(lit, 1e-9)
    aside = away @ along.T - slid * np.einsum("sk,sk->s", toward, along)
    over = away @ up.T - slid * np.einsum("sk,sk->s", toward, up)
    own, their = movers.lengths_m[one] / 2, movers.lengths_m[others, None] / 2
    wide = np.minimum(own, aside + their) - np.maximum(-own, aside - their)
    high = movers.chord_m - np.abs(over)
    shared = np.maximum(wide, 0.0) * np.maximum(high, 0.0) / (2 * own * movers.chord_m)
    shared[(before <= 1e-9) | (lit <= 1e-9)] = 0.0
    return np.asarray(np.minimum(shared.sum(axis=0), 1.0))
