"""Sun: true bearing to the equator, the compass that finds it, solar noon, the winter window."""

from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check, holds, within
from openfurrow.core.codes import constant
from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.sun.givens import SunGivens
from openfurrow.core.sun.magnetic import (
    FIRST_YEAR,
    LAST_YEAR,
    UNCERTAINTY_DEG,
    WORLD_MAGNETIC_MODEL,
    decimal_year,
    declination_deg,
)
from openfurrow.core.sun.position import (
    altitude_azimuth_deg,
    local_noon,
    sun_at,
    winter_declination_deg,
)
from openfurrow.core.working import (
    GEOMETRY,
    Answer,
    Input,
    Source,
    Working,
)

WINDOW_SAMPLES = 49
SPHERICAL_TRIANGLE = Source("spherical triangle at the solstice, no refraction", "physics")
SOLAR_NOON = Source("Reda & Andreas, NREL/TP-560-34302 (rev. 2008)", "published")


@dataclass(frozen=True)
class SunPlan:
    """Bearings are true and clockwise from north; the window is sampled at ``window_h``."""

    facing_deg: float
    declination_deg: float
    noon_clock_h: float
    window_h: NDArray[np.float64]
    window_altitude_deg: NDArray[np.float64]
    window_azimuth_deg: NDArray[np.float64]
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]


def plan_sun(site: SiteGivens, givens: SunGivens) -> SunPlan:
    """Everything about direction and light that the later stages ask for."""
    equator = 180.0 if site.latitude_deg >= 0 else 0.0
    facing = (equator + givens.turn_deg) % 360.0
    declination = declination_deg(
        site.latitude_deg, site.longitude_deg, site.elevation_m, givens.walk_date
    )
    noon = local_noon(site.latitude_deg, site.longitude_deg, site.time_zone, givens.walk_date)
    noon_h = noon.hour + noon.minute / 60 + noon.second / 3600
    window_h = np.linspace(givens.window_start_h, givens.window_end_h, WINDOW_SAMPLES)
    winter = winter_declination_deg(site.latitude_deg)
    altitude, azimuth = altitude_azimuth_deg(site.latitude_deg, winter, window_h)
    answers = (
        *_direction_answers(site, givens, equator, facing, declination, noon),
        *_window_answers(site, winter, window_h, altitude, azimuth),
    )
    year = decimal_year(givens.walk_date)
    checks = (
        within(
            "sun", "window", "Sun is up through the winter window", float(altitude.min()),
            constant("common", "window_sun_deg"), "angle", most=False,
            remedy="Narrow the window: at its ends the sun is at or below the horizon.",
            given="sun.window_start_h",
        ),
        holds(
            "sun", "model", "Declination model is in date", FIRST_YEAR <= year < LAST_YEAR,
            givens.walk_date.isoformat(), "2025 to 2029",
            remedy="Take the declination from a current map; the model ends with 2029.",
            source=WORLD_MAGNETIC_MODEL, given="sun.walk_date", otherwise="look",
        ),
    )
    return SunPlan(facing, declination, noon_h, window_h, altitude, azimuth, answers, checks)


def _direction_answers(
    site: SiteGivens,
    givens: SunGivens,
    equator: float,
    facing: float,
    declination: float,
    noon: datetime,
) -> tuple[Answer, ...]:
    """Which way to lay the string, by compass and by shadow."""
    noon_h = noon.hour + noon.minute / 60 + noon.second / 3600
    facing_working = Working(
        "A",
        "bearing(A_eq + turn)",
        (
            Input("A_eq", "true bearing to the equator", equator, "bearing"),
            Input("turn", "turned from the equator", givens.turn_deg, "angle"),
        ),
        facing,
        "bearing",
        GEOMETRY,
    )
    compass = (facing - declination) % 360.0
    compass_working = Working(
        "A_mag",
        "bearing(A - D)",
        (
            Input("A", "true bearing the array faces", facing, "bearing"),
            Input("D", "declination, east positive", declination, "angle"),
        ),
        compass,
        "bearing",
        WORLD_MAGNETIC_MODEL,
        f"Good to about {UNCERTAINTY_DEG}°; iron in posts, rebar and trucks turns the needle more.",
    )
    return (
        Answer("sun", "compass", "Walk this compass bearing", compass_working, headline=True),
        Answer(
            "sun", "noon",
            f"Solar noon, {givens.walk_date.isoformat()}",
            Working(
                "t_noon", "", (
                    Input("longitude", "east positive", site.longitude_deg, "coordinate_angle"),
                    Input("zone", "local clock", f"{site.time_zone}, {noon.tzname()}", "text"),
                ),
                noon_h, "clock", SOLAR_NOON,
                "At this minute the shadow of a plumb pole lies true north and south.",
            ),
            headline=True,
        ),
        _shadow_answer(site, noon),
        Answer("sun", "facing", "True bearing faced", facing_working),
        Answer(
            "sun", "declination", "Declination",
            Working(
                "D", "", (
                    Input("day", "date", givens.walk_date.isoformat(), "text"),
                    Input("latitude", "north positive", site.latitude_deg, "coordinate_angle"),
                    Input("longitude", "east positive", site.longitude_deg, "coordinate_angle"),
                ),
                declination, "angle", WORLD_MAGNETIC_MODEL,
                f"East positive; the model's own error is about {UNCERTAINTY_DEG}°.",
            ),
        ),
    )


def _shadow_answer(site: SiteGivens, noon: datetime) -> Answer:
    """Where a plumb pole's shadow points an hour before noon: a check while there is time left."""
    hour_before = noon - timedelta(hours=1)
    altitude, azimuth = sun_at(
        site.latitude_deg, site.longitude_deg, site.elevation_m, hour_before
    )
    if altitude <= 0:
        return Answer("sun", "shadow", "Shadow an hour before", Working(
            "A_s", "", (), "sun is down", "text", SOLAR_NOON,
            "On this day the sun is not up an hour before noon.",
        ))
    return Answer("sun", "shadow", f"Shadow of a pole at {hour_before:%H:%M}", Working(
        "A_s", "bearing(A_sun + 180)",
        (
            Input("A_sun", "true bearing of the sun then", azimuth, "bearing"),
            Input("a", "its height", altitude, "angle"),
        ),
        (azimuth + 180.0) % 360.0, "bearing", SOLAR_NOON,
        "True bearing. Lay the string, wait for the minute, and see that the shadow agrees.",
    ))


def _window_answers(
    site: SiteGivens,
    winter_deg: float,
    hours: NDArray[np.float64],
    altitude: NDArray[np.float64],
    azimuth: NDArray[np.float64],
) -> tuple[Answer, ...]:
    """Altitude and azimuth at both ends of the window."""
    answers = []
    for index, end in ((0, "opens"), (-1, "closes")):
        inputs = (
            Input("lat", "latitude", site.latitude_deg, "coordinate_angle"),
            Input("dec", "declination of the sun at the winter solstice", winter_deg, "angle"),
            Input("w", "hour angle, 15° an hour from noon", 15 * (hours[index] - 12), "angle"),
        )
        shown = Working(
            "a",
            "arcsin(sin(lat) * sin(dec) + cos(lat) * cos(dec) * cos(w))",
            inputs,
            float(altitude[index]),
            "angle",
            SPHERICAL_TRIANGLE,
            f"It stands at true bearing {azimuth[index]:.1f}° then.",
        )
        answers.append(Answer("sun", f"altitude_{end}", f"Sun when the window {end}", shown))
    return tuple(answers)
