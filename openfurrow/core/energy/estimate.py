"""A year where nobody has measured one: a clear year dimmed by how clear its months are."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import pandas as pd
from numpy.typing import NDArray
from pvlib import clearsky, irradiance
from scipy import stats

from openfurrow.core.codes import constant
from openfurrow.core.energy.sky import (
    HOUR_S,
    LOWEST_SUN_DEG,
    YEAR,
    Sky,
    SunWay,
    beyond_air_w_m2,
    pressure_mbar,
    relative_air_mass,
    steps_of,
    sun_way,
)
from openfurrow.core.year_days import DAYS, DAYS_OF_MONTH

Floats = NDArray[np.float64]

# Neighbouring days are as unlike as those of a month are: they are dealt out by the golden section.
GOLDEN = 0.6180339887498949
# How far days are spread between overcast and clear: a large number has them all alike.
SPREAD = 0.9
DULLEST, CLEAREST = 0.08, 1.02


@dataclass(frozen=True)
class Climate:
    """What is known of a place's weather where there is no file of it.

    ``clearness`` (12) is each month's light over that of a month without a cloud; ``said`` whether
    people said so. ``coldest_c`` and ``hottest_c`` are the extremes that the wires are laid for.
    """

    clearness: tuple[float, ...]
    said: bool
    coldest_c: float
    hottest_c: float


@lru_cache(maxsize=16)
def turbidity_by_month(latitude_deg: float, longitude_deg: float) -> tuple[float, ...]:
    """Linke's turbidity of the air in each month, from the climatology that pvlib ships."""
    middles = pd.DatetimeIndex([f"{YEAR}-{month:02d}-15" for month in range(1, 13)])
    found = clearsky.lookup_linke_turbidity(
        middles, latitude_deg, longitude_deg, interp_turbidity=False
    )
    return tuple(float(one) for one in found)


def estimated_sky(
    latitude_deg: float, longitude_deg: float, elevation_m: float, climate: Climate
) -> Sky:
    """A year by the hour: Ineichen's clear sky, its days dimmed until each month is as clear as said.

    Days run from overcast to clear within a month, since a month of haze has another sky than one of
    cloud and sun; what of the dimmed light is diffuse follows Erbs, Klein & Duffie (1982).
    """
    zone_h = round(longitude_deg / 15.0)
    at = steps_of(1.0)
    middles = (at + 0.5 - zone_h) * HOUR_S
    way = sun_way(latitude_deg, longitude_deg, elevation_m, middles)
    light = way.altitude_deg > LOWEST_SUN_DEG
    at, way = at[light], SunWay(*(column[light] for column in way))
    day = at // 24
    month = np.searchsorted(np.cumsum(DAYS_OF_MONTH), day, side="right")
    mass = relative_air_mass(way.altitude_deg) * pressure_mbar(elevation_m) / 1013.25
    beyond = beyond_air_w_m2(day + 1.0)
    turbidity = np.array(turbidity_by_month(latitude_deg, longitude_deg))[month]
    # Below the horizon nothing comes, and the formula divides by it.
    zenith = 90.0 - np.maximum(way.altitude_deg, 0.01)
    clear = clearsky.ineichen(zenith, mass, turbidity, altitude=elevation_m, dni_extra=beyond)
    up = way.altitude_deg > 0
    clear_level = np.where(up, np.asarray(clear["ghi"]), 0.0)
    by_day = np.bincount(day, clear_level, minlength=DAYS).astype(float)
    index = _clearness_by_day(np.array(climate.clearness), by_day)[day]
    level = clear_level * index
    split = irradiance.erbs(level, 90.0 - way.altitude_deg, day + 1)
    beam, diffuse = np.asarray(split["dni"]), np.asarray(split["dhi"])
    clear_beam = np.asarray(clear["dni"])
    # No beam is stronger than that of a clear sky.
    over = beam > clear_beam
    sine = np.maximum(np.sin(np.radians(way.altitude_deg)), 0.0)
    beam = np.where(over, clear_beam, beam)
    diffuse = np.where(over, np.maximum(level - beam * sine, 0.0), diffuse)
    return Sky(
        source="clear sky of the place, dimmed by month",
        estimate=True,
        band=constant("common", "estimate_said" if climate.said else "estimate_unsaid").value,
        step_h=1.0,
        steps=DAYS * 24,
        at=at,
        altitude_deg=way.altitude_deg,
        azimuth_deg=way.azimuth_deg,
        level_w_m2=level,
        beam_w_m2=beam,
        diffuse_w_m2=diffuse,
        air_c=_air_c(at, latitude_deg, climate),
        wind_m_s=np.full(len(at), constant("common", "usual_wind_m_s").value),
    )


def _clearness_by_day(clearness: Floats, by_day: Floats) -> Floats:
    """Each day's light over a clear day's, so that each month comes to what was said."""
    found = np.empty(DAYS)
    for month, (first, days) in enumerate(
        zip(np.cumsum(DAYS_OF_MONTH) - DAYS_OF_MONTH, DAYS_OF_MONTH, strict=True)
    ):
        wanted = float(clearness[month])
        share = np.clip((wanted - DULLEST) / (CLEAREST - DULLEST), 0.02, 0.98)
        order = np.argsort(np.argsort((np.arange(days) * GOLDEN) % 1.0))
        dealt = stats.beta.ppf((order + 0.5) / days, SPREAD * share, SPREAD * (1 - share))
        index = DULLEST + (CLEAREST - DULLEST) * dealt
        light = by_day[first : first + days]
        total = float((index * light).sum())
        found[first : first + days] = index * (wanted * light.sum() / total) if total else wanted
    return found


def _air_c(at: NDArray[np.int64], latitude_deg: float, climate: Climate) -> Floats:
    """A wave over the year and one over the day between the extremes; the coldest day is in midwinter.

    Common practice, no published source: extremes are rare, so the waves stay within them.
    """
    half = (climate.hottest_c - climate.coldest_c) / 2
    middle = climate.coldest_c + half
    year = constant("common", "air_year").value * half
    day = constant("common", "air_day").value * half
    coldest_day = 20.0 if latitude_deg >= 0 else 203.0
    season = -np.cos(2 * np.pi * (at / 24 - coldest_day) / DAYS)
    # The tropics have hardly a season.
    year = year * min(1.0, abs(latitude_deg) / 35.0)
    return np.asarray(middle + year * season - day * np.cos(2 * np.pi * (at % 24 + 0.5 - 3.0) / 24))
