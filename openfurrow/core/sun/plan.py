"""Sun: true bearing to the equator, the compass that finds it, solar noon, the winter window."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check, holds, within
from openfurrow.core.codes import constant
from openfurrow.core.sun.directions import direction_answers, facing_of
from openfurrow.core.sun.givens import SunGivens
from openfurrow.core.sun.magnetic import (
    FIRST_YEAR,
    LAST_DAY,
    LAST_YEAR,
    WORLD_MAGNETIC_MODEL,
    Declination,
    decimal_year,
    declination,
)
from openfurrow.core.sun.position import altitude_azimuth_deg, local_noon, winter_declination_deg
from openfurrow.core.sun.shadow import ShadowSlip, shadow_slip
from openfurrow.core.sun.spot import Spot
from openfurrow.core.working import (
    Answer,
    Input,
    Source,
    Working,
)

WINDOW_SAMPLES = 49
# Six minutes apart.
DAY_SAMPLES = 241
SPHERICAL_TRIANGLE = Source("spherical triangle at the solstice, no refraction", "physics")


@dataclass(frozen=True)
class SunDay:
    """The sun above the horizon of a day of the year, by solar time; evenly sampled."""

    name: str
    solar_h: NDArray[np.float64]
    altitude_deg: NDArray[np.float64]
    azimuth_deg: NDArray[np.float64]

    @property
    def step_h(self) -> float:
        """Hours between two samples."""
        return 24.0 / (DAY_SAMPLES - 1)


def _days(latitude_deg: float, winter_deg: float) -> tuple[SunDay, ...]:
    hours = np.linspace(0.0, 24.0, DAY_SAMPLES)
    days = []
    for name, declination_deg in (("winter", winter_deg), ("equinox", 0.0), ("summer", -winter_deg)):
        altitude, azimuth = altitude_azimuth_deg(latitude_deg, declination_deg, hours)
        up = altitude >= 0
        days.append(SunDay(name, hours[up], altitude[up], azimuth[up]))
    return tuple(days)


@dataclass(frozen=True)
class SunPlan:
    """Bearings are true and clockwise from north; the window is sampled at ``window_h``.

    ``days`` are the winter solstice, the equinox and the summer solstice.
    """

    facing_deg: float
    declination: Declination
    slip: ShadowSlip
    window_h: NDArray[np.float64]
    window_altitude_deg: NDArray[np.float64]
    window_azimuth_deg: NDArray[np.float64]
    days: tuple[SunDay, ...]
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]


def plan_sun(site: Spot, givens: SunGivens, turn_deg: float, *, on_tubes: bool = False) -> SunPlan:
    """Everything about direction and light that the later stages ask for.

    ``turn_deg`` is how far the array that is set out first is turned from the equator, or, where it
    lies ``on_tubes``, its tubes from north to south.
    """
    looks = facing_of(site.latitude_deg, turn_deg, on_tubes=on_tubes)
    facing = looks.bearing_deg
    magnetic = declination(site.latitude_deg, site.longitude_deg, site.elevation_m, givens.walk_date)
    noon = local_noon(site.latitude_deg, site.longitude_deg, site.time_zone, givens.walk_date)
    window_h = np.linspace(givens.window_start_h, givens.window_end_h, WINDOW_SAMPLES)
    slip = shadow_slip(site, givens, facing, magnetic.degrees, noon)
    winter = winter_declination_deg(site.latitude_deg)
    altitude, azimuth = altitude_azimuth_deg(site.latitude_deg, winter, window_h)
    answers = (
        *direction_answers(site, givens, looks, magnetic, noon, slip),
        *_window_answers(site, winter, window_h, altitude, azimuth),
    )
    year = decimal_year(givens.walk_date)
    checks = (
        within(
            "sun",
            "window",
            "Sun is up through the winter window",
            float(altitude.min()),
            constant("common", "window_sun_deg"),
            "angle",
            most=False,
            remedy="Narrow the window: at its ends the sun is at or below the horizon.",
            given="sun.window_start_h",
        ),
        holds(
            "sun",
            "model",
            "Declination model is in date",
            FIRST_YEAR <= year < LAST_YEAR,
            givens.walk_date.isoformat(),
            f"2025-01-01 to {LAST_DAY.isoformat()}",
            remedy=f"Take the declination from a current map; the model expires on "
            f"{LAST_DAY.isoformat()}.",
            source=WORLD_MAGNETIC_MODEL,
            given="sun.walk_date",
            otherwise="look",
        ),
    )
    return SunPlan(
        facing,
        magnetic,
        slip,
        window_h,
        altitude,
        azimuth,
        _days(site.latitude_deg, winter),
        answers,
        checks,
    )


def _window_answers(
    site: Spot,
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
