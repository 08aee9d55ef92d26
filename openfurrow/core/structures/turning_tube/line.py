"""Where posts stand under a turning tube, and which of them holds its drive."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.layout import PostLine, bays_of, grid_line

Floats = NDArray[np.float64]


def tube_line(rows: RowsPlan, columns: int, end_m: float, span_limit_m: float) -> PostLine:
    """Posts at the joints of columns, an odd number of them, so that one stands in the middle."""
    bays = bays_of(rows, columns, span_limit_m)
    if bays % 2 and columns > bays:
        bays += 1
    return grid_line(rows, columns, end_m, bays)


def drive_of(line: PostLine) -> int:
    """The post that stands nearest to the middle of the tube, of two the first."""
    return int(np.abs(line.along_m - line.purlin_m / 2).round(6).argmin())


@dataclass(frozen=True)
class Twisting:
    """A tube that its drive alone holds against turning, under a newton metre on each metre of the row.

    ``row_m`` is how much of the row turns it, ``arms_m`` (rails) how far rails are from the drive, and
    ``rail_m`` what each brings of the row; ``reach_m`` is to the end that is further off.
    """

    row_m: float
    rail_m: float
    arms_m: Floats
    reach_m: float

    @property
    def longest_m(self) -> float:
        """How much of the row turns the tube on the side of the drive where that is more."""
        sides = (self.arms_m > 0).sum(), (self.arms_m < 0).sum()
        return float(max(sides)) * self.rail_m

    @property
    def turned_m2(self) -> float:
        """The twist of the end that turns furthest, times what the tube resists."""
        return max(float(np.abs(self.arms_m[side]).sum()) * self.rail_m for side in self._sides)

    @property
    def _sides(self) -> tuple[NDArray[np.bool_], NDArray[np.bool_]]:
        return self.arms_m > 0, self.arms_m < 0

    def beyond_m(self, from_drive_m: Floats) -> Floats:
        """How much of the row lies past each place, seen from the drive: what twists the tube there."""
        at = np.asarray(from_drive_m)[:, None]
        past = np.abs(self.arms_m) >= np.abs(at) - 1e-9
        # At the drive itself both sides meet: the one that brings more counts.
        same = np.sign(self.arms_m) == np.sign(at)
        found = (past & same).sum(axis=1) * self.rail_m
        return np.where(np.abs(at[:, 0]) < 1e-9, self.longest_m, found)


def twisting(line: PostLine) -> Twisting:
    """Of a table's tube."""
    assert line.rails_m is not None
    drive = float(line.along_m[drive_of(line)])
    return Twisting(
        row_m=line.rail_m * line.rails_m.size,
        rail_m=line.rail_m,
        arms_m=line.rails_m - drive,
        reach_m=max(drive, line.purlin_m - drive),
    )
