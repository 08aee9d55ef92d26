"""A year of weather that was brought: where it was measured, and its hours, packed."""

from functools import lru_cache
from typing import Annotated, NamedTuple

import numpy as np
from numpy.typing import NDArray
from pydantic import Field, model_validator

from openfurrow.core.givens import Thing, given
from openfurrow.core.sun.packing import pack, unpack

Floats = NDArray[np.float64]

HOURS = 8760
MOST_STEPS = 4 * HOURS
# What is kept of each step, and how many parts of its unit are told apart.
COLUMNS = ("level_w_m2", "beam_w_m2", "diffuse_w_m2", "air_c", "wind_m_s")
PARTS = np.array([1.0, 1.0, 1.0, 10.0, 10.0])
LONGEST_PACKED = 1_000_000
SIZE = "<i2"


class Hours(NamedTuple):
    """The columns of a year, step after step from the first of January, by standard time there."""

    level_w_m2: Floats
    beam_w_m2: Floats
    diffuse_w_m2: Floats
    air_c: Floats
    wind_m_s: Floats


class WeatherGivens(Thing):
    """One year of weather from a file: whose, from where, and every step of it."""

    name: str = given(
        "",
        "Weather file",
        "text",
        "What the file is called; every number that used it says so.",
        "The file's own name, or the station's.",
        length=80,
    )
    latitude_deg: Annotated[float, Field(ge=-90, le=90)] = 0.0
    longitude_deg: Annotated[float, Field(ge=-180, le=180)] = 0.0
    elevation_m: Annotated[float, Field(ge=-500, le=6000)] = 0.0
    zone_h: Annotated[float, Field(ge=-13, le=14)] = 0.0
    steps: Annotated[int, Field(ge=HOURS, le=MOST_STEPS)] = HOURS
    packed: Annotated[str, Field(max_length=LONGEST_PACKED)] = ""

    @model_validator(mode="after")
    def _unpacks(self) -> "WeatherGivens":
        if self.steps % HOURS:
            raise ValueError("its steps are no whole number an hour")
        if self.packed:
            unpacked(self.packed, self.steps)
        return self


def packed(hours: Hours) -> str:
    """The columns as text: to a watt, a tenth of a degree, a tenth of a metre a second."""
    return pack(np.round(np.stack(hours) * PARTS[:, None]), SIZE)


@lru_cache(maxsize=16)
def unpacked(text: str, steps: int) -> Hours:
    """The columns again. Raises ValueError for what no year was packed into."""
    values = unpack(text, (len(COLUMNS), steps), SIZE, "year of weather") / PARTS[:, None]
    values.setflags(write=False)
    return Hours(*values)
