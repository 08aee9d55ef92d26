"""The sky of a year of weather that was brought."""

import math

import numpy as np

from openfurrow.core.codes import constant
from openfurrow.core.energy.sky import HOUR_S, LOWEST_SUN_DEG, Sky, steps_of, sun_way
from openfurrow.core.sun.spot import Spot
from openfurrow.core.sun.weather import HOURS, WeatherGivens, unpacked

EARTH_M = 6_371_000.0


def measured_sky(weather: WeatherGivens) -> Sky:
    """Each step with light, the sun where it stood over the station in the middle of the step."""
    step_h = HOURS / weather.steps
    at = steps_of(step_h)
    hours = unpacked(weather.packed, weather.steps)
    middles = (at + 0.5) * step_h * HOUR_S - weather.zone_h * HOUR_S
    way = sun_way(weather.latitude_deg, weather.longitude_deg, weather.elevation_m, middles)
    light = way.altitude_deg > LOWEST_SUN_DEG
    level, beam, diffuse, air, wind = (column[light] for column in hours)
    return Sky(
        source=f"the file {weather.name}" if weather.name else "a file",
        estimate=False,
        band=constant("common", "measured_band").value,
        step_h=step_h,
        steps=weather.steps,
        at=at[light],
        altitude_deg=way.altitude_deg[light],
        azimuth_deg=way.azimuth_deg[light],
        level_w_m2=level,
        beam_w_m2=beam,
        diffuse_w_m2=diffuse,
        air_c=air,
        wind_m_s=wind,
    )


def far_m(spot: Spot, weather: WeatherGivens) -> float:
    """How far the station lies from the site, over the globe."""
    here, there = (np.radians((one.latitude_deg, one.longitude_deg)) for one in (spot, weather))
    half = np.sin((there - here) / 2) ** 2
    between = half[0] + math.cos(here[0]) * math.cos(there[0]) * half[1]
    return float(2 * EARTH_M * math.asin(math.sqrt(min(1.0, between))))
