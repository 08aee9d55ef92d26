"""The ground as a plane through the array's origin, in local metres: east, north, up."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray


@dataclass(frozen=True)
class GroundPlane:
    """``slope`` is fall per level length along the true bearing ``falls_toward_deg``."""

    slope: float
    falls_toward_deg: float

    def level_m(self, east_m: ArrayLike, north_m: ArrayLike) -> NDArray[np.float64]:
        """Ground level at points, metres above the ground at the origin."""
        bearing = math.radians(self.falls_toward_deg)
        fall = np.asarray(east_m) * math.sin(bearing) + np.asarray(north_m) * math.cos(bearing)
        return np.asarray(-self.slope * fall, dtype=float)

    def rise_toward(self, bearing_deg: float) -> float:
        """Rise per level length when walking along a true bearing (negative is downhill)."""
        return -self.slope * math.cos(math.radians(bearing_deg - self.falls_toward_deg))
