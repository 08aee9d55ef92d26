"""Magnetic declination: how far a compass points from true north."""

import math
from dataclasses import dataclass
from datetime import date
from functools import lru_cache

from pygeomag import GeoMag

from openfurrow.core.working import Source

WORLD_MAGNETIC_MODEL = Source("World Magnetic Model 2025 (NOAA/BGS)", "published")
FIRST_YEAR, LAST_YEAR = 2025.0, 2030.0
LAST_DAY = date(2029, 12, 31)
# Error model of declination published with the model: a steady part, and one that grows as the
# horizontal field (nanotesla) gets weak toward the poles.
STEADY_DEG, WEAK_FIELD_DEG_NT = 0.26, 5417.0


def decimal_year(day: date) -> float:
    """Year with the elapsed share of it."""
    start, end = date(day.year, 1, 1), date(day.year + 1, 1, 1)
    return day.year + (day - start).days / (end - start).days


@dataclass(frozen=True)
class Declination:
    """How far a compass points from true north, east positive, and how well the model knows it."""

    degrees: float
    uncertainty_deg: float
    horizontal_nt: float


@lru_cache(maxsize=256)
def declination(
    latitude_deg: float, longitude_deg: float, elevation_m: float, day: date
) -> Declination:
    """The model holds from 2025 to 2030; outside, its nearest year is used.

    The uncertainty is the model's own one sigma: sqrt(0.26² + (5417/H)²) degrees, H in nanotesla.
    """
    year = min(max(decimal_year(day), FIRST_YEAR), LAST_YEAR - 1e-6)
    result = _model().calculate(
        glat=latitude_deg, glon=longitude_deg, alt=elevation_m / 1000, time=year
    )
    horizontal = float(result.h)
    return Declination(
        float(result.d), math.hypot(STEADY_DEG, WEAK_FIELD_DEG_NT / horizontal), horizontal
    )


@lru_cache(maxsize=1)
def _model() -> GeoMag:
    return GeoMag(coefficients_file="wmm/WMM_2025.COF")
