"""Where the sun stands at a solar time, by the spherical triangle, and what the local clock says."""

import math
from datetime import UTC, date, datetime, timedelta
from functools import lru_cache
from zoneinfo import ZoneInfo

import numpy as np
from numpy.typing import ArrayLike, NDArray
from pvlib import spa

# Obliquity of the ecliptic (degrees): the sun's declination at a solstice.
SOLSTICE_DECLINATION_DEG = 23.44

Floats = NDArray[np.float64]


def altitude_azimuth_deg(
    latitude_deg: float, declination_deg: float, solar_time_h: ArrayLike
) -> tuple[Floats, Floats]:
    """Altitude and true azimuth (clockwise from north) at solar times, without refraction.

    Source: spherical triangle of pole, zenith and sun.
    """
    hour_angle = np.radians(15.0 * (np.asarray(solar_time_h, dtype=float) - 12.0))
    latitude, declination = math.radians(latitude_deg), math.radians(declination_deg)
    east = -math.cos(declination) * np.sin(hour_angle)
    north = math.sin(declination) * math.cos(latitude) - math.cos(declination) * math.sin(
        latitude
    ) * np.cos(hour_angle)
    up = math.sin(declination) * math.sin(latitude) + math.cos(declination) * math.cos(
        latitude
    ) * np.cos(hour_angle)
    altitude = np.degrees(np.arcsin(np.clip(up, -1, 1)))
    return altitude, np.degrees(np.arctan2(east, north)) % 360.0


def winter_declination_deg(latitude_deg: float) -> float:
    """The sun's declination at the winter solstice of this half of the globe."""
    return -SOLSTICE_DECLINATION_DEG if latitude_deg >= 0 else SOLSTICE_DECLINATION_DEG


@lru_cache(maxsize=256)
def solar_noon_utc(latitude_deg: float, longitude_deg: float, day: date) -> datetime:
    """The instant the sun crosses the meridian on a local date.

    Source: Reda & Andreas, NREL/TP-560-34302, through pvlib's spa module.
    """
    midnight = datetime(day.year, day.month, day.day, tzinfo=UTC).timestamp()
    around = np.array([midnight])
    delta_t = spa.calculate_deltat(day.year, day.month)
    transit, _, _ = spa.transit_sunrise_sunset(
        around, latitude_deg, longitude_deg, delta_t=delta_t, numthreads=1
    )
    return datetime.fromtimestamp(float(transit[0]), tz=UTC)


STANDARD_PRESSURE_MBAR, MILD_AIR_C, REFRACTION_DEG = 1013.25, 12.0, 0.5667


@lru_cache(maxsize=256)
def sun_at(
    latitude_deg: float,
    longitude_deg: float,
    elevation_m: float,
    when: datetime,
    *,
    pressure_mbar: float | None = None,
    air_c: float = MILD_AIR_C,
    delta_t_s: float | None = None,
) -> tuple[float, float]:
    """Apparent altitude and true azimuth (degrees) at an instant, refraction counted.

    ``when`` must know its zone. Pressure falls with elevation by the standard atmosphere where it
    is not given. Source: Reda & Andreas, NREL/TP-560-34302, through pvlib's spa module.
    """
    if delta_t_s is None:
        delta_t_s = float(spa.calculate_deltat(when.year, when.month))
    altitude, azimuth = _apparent(
        latitude_deg,
        longitude_deg,
        elevation_m,
        np.array([when.timestamp()]),
        delta_t_s,
        pressure_mbar,
        air_c,
    )
    return float(altitude[0]), float(azimuth[0])


def sun_through_day(
    latitude_deg: float, longitude_deg: float, elevation_m: float, zone: str, day: date, step_min: int
) -> tuple[Floats, Floats, Floats]:
    """Clock hours of a local day, and the sun's apparent altitude and true azimuth at each.

    Every ``step_min`` minutes from local midnight, by the clock with summer time. Where the clock is
    put on or back, an hour is missing or comes twice.
    """
    local = ZoneInfo(zone)
    start = datetime(day.year, day.month, day.day, tzinfo=local).astimezone(UTC)
    following = day + timedelta(days=1)
    end = datetime(following.year, following.month, following.day, tzinfo=local).astimezone(UTC)
    count = int((end - start).total_seconds() // (60 * step_min))
    moments = [start + timedelta(minutes=step_min * k) for k in range(count)]
    clocks = [moment.astimezone(local) for moment in moments]
    altitude, azimuth = _apparent(
        latitude_deg,
        longitude_deg,
        elevation_m,
        np.array([m.timestamp() for m in moments]),
        float(spa.calculate_deltat(day.year, day.month)),
    )
    return np.array([c.hour + c.minute / 60 for c in clocks]), altitude, azimuth


def _apparent(
    latitude_deg: float,
    longitude_deg: float,
    elevation_m: float,
    moments_s: Floats,
    delta_t_s: float,
    pressure_mbar: float | None = None,
    air_c: float = MILD_AIR_C,
) -> tuple[Floats, Floats]:
    if pressure_mbar is None:
        pressure_mbar = STANDARD_PRESSURE_MBAR * (1 - 2.25577e-5 * elevation_m) ** 5.25588
    zenith, _, _, _, azimuth, _ = spa.solar_position(
        moments_s,
        latitude_deg,
        longitude_deg,
        elevation_m,
        pressure_mbar,
        air_c,
        delta_t_s,
        REFRACTION_DEG,
        numthreads=1,
    )
    return np.asarray(90.0 - zenith), np.asarray(azimuth)


def local_noon(latitude_deg: float, longitude_deg: float, zone: str, day: date) -> datetime:
    """Solar noon by the local clock, with summer time where the zone keeps it."""
    noon = solar_noon_utc(latitude_deg, longitude_deg, day).astimezone(ZoneInfo(zone))
    if noon.date() != day:
        # Near the date line the local day is not the UTC day.
        shift = timedelta(days=(day - noon.date()).days)
        noon = solar_noon_utc(latitude_deg, longitude_deg, day + shift).astimezone(ZoneInfo(zone))
    return noon
