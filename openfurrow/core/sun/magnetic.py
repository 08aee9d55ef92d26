"""Magnetic declination: how far a compass points from true north."""

from datetime import date
from functools import lru_cache

from pygeomag import GeoMag

from openfurrow.core.working import Source

WORLD_MAGNETIC_MODEL = Source("World Magnetic Model 2025 (NOAA/BGS)", "published")
FIRST_YEAR, LAST_YEAR = 2025.0, 2030.0
# The model's own root-mean-square error of declination away from the poles.
UNCERTAINTY_DEG = 0.5


def decimal_year(day: date) -> float:
    """Year with the elapsed share of it."""
    start, end = date(day.year, 1, 1), date(day.year + 1, 1, 1)
    return day.year + (day - start).days / (end - start).days


@lru_cache(maxsize=256)
def declination_deg(
    latitude_deg: float, longitude_deg: float, elevation_m: float, day: date
) -> float:
    """East positive. The model holds from 2025 to 2030; outside, its nearest year is used."""
    year = min(max(decimal_year(day), FIRST_YEAR), LAST_YEAR - 1e-6)
    result = _model().calculate(
        glat=latitude_deg, glon=longitude_deg, alt=elevation_m / 1000, time=year
    )
    return float(result.d)


@lru_cache(maxsize=1)
def _model() -> GeoMag:
    return GeoMag(coefficients_file="wmm/WMM_2025.COF")
