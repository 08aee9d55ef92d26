"""A year of weather from a file: EPW of building simulation, or TMY3 of the national tables."""

import io
from typing import Any

import numpy as np
import pandas as pd
from numpy.typing import NDArray
from pvlib import iotools
from pydantic import ValidationError

from openfurrow.core.design import Design
from openfurrow.core.sun.weather import HOURS, MOST_STEPS, Hours, WeatherGivens, packed
from openfurrow.core.year_days import DAYS_OF_MONTH
from openfurrow.exchange.bounds import check_lines, refuse
from openfurrow.exchange.read_ground import new_id

Floats = NDArray[np.float64]

LARGEST_BYTES = 24_000_000
# Lines before the hours, at most.
HEAD = 10
LONGEST_LINE = 4000
ALLOWED = "EPW, or TMY3 as CSV"
REMEDY = "Take the file as the weather service gives it, not a copy from a spreadsheet."
# What a column may hold; beyond it lies what files write for nothing measured.
BOUNDS = {
    "level_w_m2": (0.0, 1800.0, "light on level ground"),
    "beam_w_m2": (0.0, 1500.0, "beam"),
    "diffuse_w_m2": (0.0, 1200.0, "diffuse light"),
    "air_c": (-80.0, 65.0, "air temperature"),
    "wind_m_s": (0.0, 80.0, "wind"),
}
# One in which every day of a file has a date.
LEAP_YEAR, LEAP_DAY = 2024, 59


def read_weather(data: bytes, name: str) -> WeatherGivens:
    """What a file says, as a thing of the design. Raises DesignError for what is no such year."""
    if len(data) > LARGEST_BYTES:
        raise refuse("is too large", f"at most {LARGEST_BYTES // 1_000_000} MB", REMEDY)
    check_lines(data, MOST_STEPS + MOST_STEPS // 365 + HEAD, LONGEST_LINE)
    text = data.decode("utf-8", errors="replace").lstrip("\ufeff")
    table, about, months = _epw(text) if text.startswith("LOCATION") else _tmy3(text)
    hours, months = _without_leap_day(_columns(table), months)
    steps = len(months)
    if steps % HOURS or not HOURS <= steps <= MOST_STEPS:
        raise refuse(f"holds {steps:,} steps", f"a whole year: {HOURS:,}, or a multiple of it", REMEDY)
    if not (months == np.repeat(np.arange(1, 13), DAYS_OF_MONTH * (steps // 365))).all():
        raise refuse("does not go from January to December", "one year in its order", REMEDY)
    _check(hours)
    try:
        return WeatherGivens(
            id=new_id(),
            name=(name.strip() or about["name"])[:80],
            latitude_deg=about["latitude"],
            longitude_deg=about["longitude"],
            elevation_m=about["altitude"],
            zone_h=about["TZ"],
            steps=steps,
            packed=packed(hours),
        )
    except ValidationError:
        where = f"{about['latitude']:g}, {about['longitude']:g}, {about['altitude']:g} m"
        raise refuse(f"says it was measured at {where}", "a place on the globe", REMEDY) from None


def with_weather(design: Design, data: bytes, name: str) -> tuple[Design, str]:
    """The design with the file's year in the place of any other, and the step in words."""
    found = read_weather(data, name)
    sun = design.sun.model_copy(update={"weather": (found,)})
    return design.model_copy(update={"sun": sun}), f"weather of {found.name}"


def _epw(text: str) -> tuple[pd.DataFrame, dict[str, Any], NDArray[np.int64]]:
    try:
        table, about = iotools.read_epw(io.StringIO(text), coerce_year=LEAP_YEAR)
        months = table["month"].to_numpy(np.int64)
        return table, {**_about(about), "name": str(about["city"])}, months
    except (KeyError, ValueError, IndexError, TypeError) as error:
        raise refuse("cannot be read as EPW", ALLOWED, f"{REMEDY} ({error})"[:300]) from None


def _tmy3(text: str) -> tuple[pd.DataFrame, dict[str, Any], NDArray[np.int64]]:
    second = text.split("\n", 2)[1:2]
    if not second or "GHI" not in second[0]:
        raise refuse("is no weather file that is known here", ALLOWED, REMEDY)
    try:
        table, about = iotools.read_tmy3(io.StringIO(text), map_variables=True)
        dates = table["Date (MM/DD/YYYY)"].str.slice(0, 2)
        return (
            table,
            {**_about(about), "name": str(about["Name"]).strip('"')},
            dates.to_numpy().astype(np.int64),
        )
    except (KeyError, ValueError, IndexError, TypeError) as error:
        raise refuse("cannot be read as TMY3", ALLOWED, f"{REMEDY} ({error})"[:300]) from None


def _about(about: dict[str, Any]) -> dict[str, float]:
    return {name: float(about[name]) for name in ("latitude", "longitude", "altitude", "TZ")}


def _columns(table: pd.DataFrame) -> Hours:
    names = ("ghi", "dni", "dhi", "temp_air", "wind_speed")
    missing = [name for name in names if name not in table]
    if missing:
        raise refuse(f"has no column for {', '.join(missing)}", ALLOWED, REMEDY)
    return Hours(*(pd.to_numeric(table[name], errors="coerce").to_numpy(float) for name in names))


def _without_leap_day(hours: Hours, months: NDArray[np.int64]) -> tuple[Hours, NDArray[np.int64]]:
    """A year of 366 days without its twenty-ninth of February."""
    if len(months) % 366 or len(months) % 24:
        return hours, months
    day = np.arange(len(months)) // (len(months) // 366)
    kept = day != LEAP_DAY
    return Hours(*(column[kept] for column in hours)), months[kept]


def _check(hours: Hours) -> None:
    for name, column in hours._asdict().items():
        low, high, words = BOUNDS[name]
        wrong = ~((column >= low) & (column <= high))
        if wrong.any():
            first = int(wrong.argmax())
            raise refuse(
                f"lacks {words} in {int(wrong.sum()):,} steps, the first being number {first + 1}",
                f"{low:g} to {high:g} in every step",
                "Take a year without gaps: a typical year has none.",
            )
