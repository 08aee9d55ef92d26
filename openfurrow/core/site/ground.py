"""The ground to build on: what any stage may ask of it, and the simplest one, a plane.

Places are local metres: east and north of the stated origin, true north up. Levels are metres over
the survey's own datum (for a plane: over the ground at the origin).
"""

import math
from dataclasses import dataclass
from typing import Protocol

import numpy as np
from numpy.typing import ArrayLike, NDArray

Floats = NDArray[np.float64]
Truths = NDArray[np.bool_]


class Ground(Protocol):
    """Ground whose level can be asked for anywhere, and that says where it knows it."""

    def level_m(self, east_m: ArrayLike, north_m: ArrayLike) -> Floats:
        """Level at points; off the known ground that of the nearest known place."""

    def known(self, east_m: ArrayLike, north_m: ArrayLike) -> Truths:
        """Whether each point lies on ground that was measured."""


@dataclass(frozen=True)
class GroundPlane:
    """``slope`` is fall per level length along the true bearing ``falls_toward_deg``."""

    slope: float
    falls_toward_deg: float

    def level_m(self, east_m: ArrayLike, north_m: ArrayLike) -> Floats:
        """Ground level at points, metres above the ground at the origin."""
        bearing = math.radians(self.falls_toward_deg)
        fall = np.asarray(east_m) * math.sin(bearing) + np.asarray(north_m) * math.cos(bearing)
        return np.asarray(-self.slope * fall, dtype=float)

    def known(self, east_m: ArrayLike, north_m: ArrayLike) -> Truths:
        """A plane is taken to go on for ever: whoever says plane answers for it."""
        return np.ones(np.broadcast(np.asarray(east_m), np.asarray(north_m)).shape, dtype=bool)

    def rise_toward(self, bearing_deg: float) -> float:
        """Rise per level length when walking along a true bearing (negative is downhill)."""
        return -self.slope * math.cos(math.radians(bearing_deg - self.falls_toward_deg))


def plane_through(east_m: ArrayLike, north_m: ArrayLike, level_m: ArrayLike) -> GroundPlane:
    """The plane that fits points best (least squares of level); its own height is left out.

    Points on one line leave the slope across it at nought.
    """
    east, north, level = (np.asarray(a, dtype=float).ravel() for a in (east_m, north_m, level_m))
    along = np.column_stack((east - east.mean(), north - north.mean()))
    (a, b), *_ = np.linalg.lstsq(along, level - level.mean(), rcond=1e-9)
    slope = math.hypot(a, b)
    return GroundPlane(slope, math.degrees(math.atan2(-a, -b)) % 360.0 if slope > 0 else 0.0)
