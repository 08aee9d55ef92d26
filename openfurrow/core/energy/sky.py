"""A year's sky: where the sun stands and what comes down, step after step, while there is light."""

from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray
from pvlib import spa

from openfurrow.core.codes import table
from openfurrow.core.rows.shade import toward_sun
from openfurrow.core.year_days import DAYS, DAYS_OF_MONTH

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

# A year without a leap day; the sun stands within a third of a degree of where it does in any other.
YEAR = 2025
YEAR_STARTS_S = 1735689600.0
HOUR_S = 3600.0
# Seconds that the earth's turning lags behind the clock in that year.
DELTA_T_S = 69.2
SOLAR_CONSTANT_W_M2 = 1366.1
# Lower than this the air is looked through so far that the sums of its weight end.
LOWEST_SUN_DEG = -1.0


class SunWay(NamedTuple):
    """Where the sun is seen: its height, as the air lifts it, and true bearing."""

    altitude_deg: Floats
    azimuth_deg: Floats


def sun_way(
    latitude_deg: float, longitude_deg: float, elevation_m: float, middles_s: ArrayLike
) -> SunWay:
    """The sun at moments of ``YEAR``, seconds from its first midnight of the world's clock.

    Source: Reda & Andreas, NREL/TP-560-34302, through pvlib's spa module.
    """
    zenith, _, _, _, azimuth, _ = spa.solar_position(
        YEAR_STARTS_S + np.asarray(middles_s, dtype=float),
        latitude_deg,
        longitude_deg,
        elevation_m,
        pressure_mbar(elevation_m),
        12.0,
        DELTA_T_S,
        0.5667,
        numthreads=1,
    )
    return SunWay(90.0 - np.asarray(zenith), np.asarray(azimuth))


def pressure_mbar(elevation_m: float) -> float:
    """Of the standard atmosphere."""
    return float(1013.25 * (1 - 2.25577e-5 * elevation_m) ** 5.25588)


def relative_air_mass(altitude_deg: Floats) -> Floats:
    """How many times the air overhead the sun is seen through, at sea level.

    Source: Kasten & Young, Applied Optics 28 (1989).
    """
    height = np.maximum(altitude_deg, 0.0)
    return np.asarray(1.0 / (np.sin(np.radians(height)) + 0.50572 * (height + 6.07995) ** -1.6364))


def beyond_air_w_m2(day_of_year: ArrayLike) -> Floats:
    """The sun's beam before it meets the air; source: Spencer (1971)."""
    turn = 2 * np.pi * (np.asarray(day_of_year, dtype=float) - 1) / DAYS
    return np.asarray(
        SOLAR_CONSTANT_W_M2
        * (
            1.00011
            + 0.034221 * np.cos(turn)
            + 0.00128 * np.sin(turn)
            + 0.000719 * np.cos(2 * turn)
            + 7.7e-5 * np.sin(2 * turn)
        )
    )


@dataclass(frozen=True, kw_only=True)
class Sky:
    """The steps of a year in which it is light; all columns run over them.

    ``at`` is the step's number in the year of ``steps``, each ``step_h`` long, counted by standard time
    there. ``level_w_m2`` falls on level ground, of it ``diffuse_w_m2`` from the sky without the sun;
    ``beam_w_m2`` is square to the sun. ``source`` names what it was read from; where that is an
    estimate ``band`` is how far a year may lie from it, up or down.
    """

    source: str
    estimate: bool
    band: float
    step_h: float
    steps: int
    at: Integers
    altitude_deg: Floats
    azimuth_deg: Floats
    level_w_m2: Floats
    beam_w_m2: Floats
    diffuse_w_m2: Floats
    air_c: Floats
    wind_m_s: Floats

    @cached_property
    def toward(self) -> Floats:
        """Directions to the sun, (n, 3)."""
        return toward_sun(self.altitude_deg, self.azimuth_deg)

    @cached_property
    def day(self) -> Integers:
        """Day of the year, from nought."""
        return np.asarray(self.at * self.step_h // 24, dtype=np.int64)

    @cached_property
    def month(self) -> Integers:
        """Month of each step, January being nought."""
        return np.searchsorted(np.cumsum(DAYS_OF_MONTH), self.day, side="right")

    @cached_property
    def air_mass(self) -> Floats:
        """Relative air mass."""
        return relative_air_mass(self.altitude_deg)

    @cached_property
    def brightening(self) -> tuple[Floats, Floats]:
        """How much of the sky's light comes from about the sun, and how much along the horizon.

        Source: Perez, Ineichen, Seals, Michalsky & Stewart, Solar Energy 44 (1990).
        """
        beyond = beyond_air_w_m2(self.day + 1.0)
        zenith = np.radians(90.0 - self.altitude_deg)
        cubed = 1.041 * zenith**3
        some = np.maximum(self.diffuse_w_m2, 1e-9)
        clearness = ((some + self.beam_w_m2) / some + cubed) / (1 + cubed)
        brightness = self.diffuse_w_m2 * self.air_mass / beyond
        data = table("common", "perez").numbers
        row = np.searchsorted(data["clearness_from"], clearness, side="right") - 1

        def joined(part: str) -> Floats:
            first, second, third = (data[f"{part}_{term}"][row] for term in "123")
            return np.asarray(first + second * brightness + third * zenith)

        return np.maximum(joined("sun"), 0.0), joined("horizon")

    def by_month(self, per_step: Floats) -> Floats:
        """A power over the steps as energy by month, (..., 12): watts become watt hours."""
        months = np.zeros((*per_step.shape[:-1], 12))
        for month in range(12):
            months[..., month] = per_step[..., self.month == month].sum(axis=-1)
        return months * self.step_h


def steps_of(step_h: float) -> Integers:
    """Every step of the year by its number."""
    return np.arange(round(DAYS * 24 / step_h))
