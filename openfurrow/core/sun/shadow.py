"""The shadow school: where a plumb pole's shadow falls, minute by minute, and against the string."""

import math
from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.sun.givens import SunGivens
from openfurrow.core.sun.position import sun_at, sun_through_day
from openfurrow.core.sun.spot import Spot

Floats = NDArray[np.float64]

SLIP_STEP_MIN = 10
# Lower than this a shadow is too long and too faint to lay a string by.
LOWEST_SUN_DEG = 5.0


@dataclass(frozen=True)
class ShadowSlip:
    """A day's shadows, one entry every few minutes while the sun is high enough.

    ``shadow_deg`` is the true bearing from the pole along its shadow, ``compass_deg`` the same by
    compass, ``from_string_deg`` how far clockwise of the string along the row it lies (-90 to 90, the
    string taken in both directions), ``length`` the shadow over the pole's height. ``chosen`` is the
    moment that is read on site, with the sun's altitude and azimuth then.
    """

    clock_h: Floats
    altitude_deg: Floats
    shadow_deg: Floats
    compass_deg: Floats
    from_string_deg: Floats
    length: Floats
    chosen: datetime
    chosen_altitude_deg: float
    chosen_azimuth_deg: float

    @property
    def chosen_shadow_deg(self) -> float:
        """True bearing of the shadow at the chosen moment."""
        return (self.chosen_azimuth_deg + 180.0) % 360.0


def from_string_deg(shadow_deg: Floats | float, facing_deg: float) -> Floats:
    """Clockwise angle from the string, which runs square to where the array faces, to a shadow."""
    return np.asarray((np.asarray(shadow_deg) - (facing_deg - 90.0) + 90.0) % 180.0 - 90.0)


def shadow_slip(
    site: Spot, givens: SunGivens, facing_deg: float, declination_deg: float, noon: datetime
) -> ShadowSlip:
    """The shadows of the day on site."""
    clock, altitude, azimuth = sun_through_day(
        site.latitude_deg,
        site.longitude_deg,
        site.elevation_m,
        site.time_zone,
        givens.walk_date,
        SLIP_STEP_MIN,
    )
    up = altitude >= LOWEST_SUN_DEG
    shadow = (azimuth[up] + 180.0) % 360.0
    chosen = noon - timedelta(hours=1)
    if givens.shadow_at_h is not None:
        minutes = round(givens.shadow_at_h * 60)
        chosen = noon.replace(hour=minutes // 60 % 24, minute=minutes % 60, second=0, microsecond=0)
    height, toward = sun_at(site.latitude_deg, site.longitude_deg, site.elevation_m, chosen)
    return ShadowSlip(
        clock_h=clock[up],
        altitude_deg=altitude[up],
        shadow_deg=shadow,
        compass_deg=(shadow - declination_deg) % 360.0,
        from_string_deg=from_string_deg(shadow, facing_deg),
        length=1.0 / np.tan(np.radians(altitude[up])),
        chosen=chosen,
        chosen_altitude_deg=height,
        chosen_azimuth_deg=toward,
    )


def shadow_length(altitude_deg: float) -> float:
    """A pole's shadow over its height on level ground; infinite with the sun at the horizon."""
    return 1.0 / math.tan(math.radians(altitude_deg)) if altitude_deg > 0 else math.inf
