"""Cells under partial shade: what a string, or a module by itself, still gives.

Cells in series carry one current, that of the weakest, unless the diode of their group lets it past.
A band of shade over the lower edge climbs the glass: upright modules it meets cell row after cell row,
all their groups at once; modules that lie across it meets group after group.
"""

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]

Electronics = Literal["by the string", "by the module"]
# Cells beside each other in one group of a module.
CELLS_OF_GROUP = 2


@dataclass(frozen=True)
class Cells:
    """How a table's modules meet a band of shade: they lie ``upright`` or across, ``high`` of them.

    ``up_m`` is a module's measure up the slope, ``gap_m`` between two of them. ``groups`` are the
    diodes of a module along its short side, ``halved`` says that its cells are cut and its two ends
    work side by side.
    """

    upright: bool
    high: int
    up_m: float
    across_m: float
    gap_m: float
    groups: int
    halved: bool

    @property
    def parts(self) -> Floats:
        """Where groups begin and how high the first cells that shade must cover are: (n, 2), metres.

        From the lower edge of the table up; a halved upright module is two parts that lie one over the
        other and share a diode.
        """
        lows = np.arange(self.high) * (self.up_m + self.gap_m)
        short = self.across_m if self.upright else self.up_m
        cell = short / (CELLS_OF_GROUP * self.groups)
        if not self.upright:
            within = np.arange(self.groups) * CELLS_OF_GROUP * cell
            starts = (lows[:, None] + within).ravel()
            return np.column_stack((starts, np.full(starts.size, cell)))
        if self.halved:
            starts = (lows[:, None] + np.array([0.0, self.up_m / 2])).ravel()
            return np.column_stack((starts, np.full(starts.size, cell / 2)))
        return np.column_stack((lows, np.full(lows.size, cell)))

    @property
    def of_diode(self) -> int:
        """Parts that share a diode, side by side: they add their currents."""
        return 2 if self.upright and self.halved else 1

    @property
    def of_module(self) -> int:
        """Diodes one over the other in a module, as the band meets them."""
        return 1 if self.upright else self.groups


def shaded_groups(cells: Cells, height_m: Floats) -> Floats:
    """Share of light that each group's weakest cells lose under a band so high: (groups, ...).

    Groups from the lower edge up; none is shaded more than one below it.
    """
    start, cell = cells.parts.T
    extra = (slice(None), *(None,) * height_m.ndim)
    lost = np.clip((height_m[None] - start[extra]) / cell[extra], 0.0, 1.0)
    by_diode = lost.reshape(-1, cells.of_diode, *height_m.shape)
    return np.asarray(by_diode.mean(axis=1))


def kept_power(
    cells: Cells, height_m: Floats, along: Floats, diffuse: Floats, electronics: Electronics
) -> Floats:
    """Share of its power that a table keeps, of what it had without the band.

    ``height_m`` the band's height up the glass, ``along`` the share of the table's length that it
    covers, ``diffuse`` the share of the light that shade does not take. Voltage hardly falls with
    light, so power goes with current; a diode that lets past costs its group's volts.
    """
    current = 1.0 - shaded_groups(cells, height_m) * (1.0 - diffuse)
    if electronics == "by the module":
        count = cells.of_module
        by_module = current.reshape(-1, count, *height_m.shape)
        best = _best(by_module.swapaxes(0, 1)).mean(axis=0)
        return np.asarray(along * best + (1.0 - along))
    groups = len(current)
    # Run at the current of one group, and all that are stronger: with the length that is in the sun.
    above = (groups - np.arange(groups)).reshape(-1, *(1,) * height_m.ndim) / groups
    kept = (current * (along * above + (1.0 - along))).max(axis=0)
    # Or let all of the shaded length past.
    return np.asarray(np.maximum(kept, 1.0 - along))


def _best(current: Floats) -> Floats:
    """The best of running at each group's current, groups from the weakest on: (groups, ...)."""
    groups = len(current)
    above = (groups - np.arange(groups)).reshape(-1, *(1,) * (current.ndim - 1)) / groups
    return np.asarray((current * above).max(axis=0))


def kept_in_patches(share: Floats, diffuse: Floats, electronics: Electronics) -> Floats:
    """Share of power kept where crowns and walls shade whole modules here and there.

    A string lets the shaded modules past or runs at their current, whichever gives more.
    """
    if electronics == "by the module":
        return np.asarray(1.0 - share * (1.0 - diffuse))
    return np.asarray(np.maximum(1.0 - share, diffuse))
