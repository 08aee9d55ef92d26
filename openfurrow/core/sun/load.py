"""What is used through a year, step by step, as a meter has written it."""

from functools import lru_cache
from typing import Annotated

import numpy as np
from numpy.typing import NDArray
from pydantic import Field, model_validator

from openfurrow.core.givens import Thing, given
from openfurrow.core.sun.packing import pack, unpack
from openfurrow.core.sun.weather import HOURS, LONGEST_PACKED, MOST_STEPS

Floats = NDArray[np.float64]

WHAT, SIZE = "year of use", "<i4"
# Of a difference between two steps, what its place in the text has room for.
MOST_W = 1_000_000_000


class LoadGivens(Thing):
    """One year of use from a file: every step of it, in watts."""

    name: str = given(
        "",
        "Meter's file",
        "text",
        "What the file is called; every number that used it says so.",
        "The file's own name, or the meter's.",
        length=80,
    )
    steps: Annotated[int, Field(ge=HOURS, le=MOST_STEPS)] = HOURS
    packed: Annotated[str, Field(max_length=LONGEST_PACKED)] = ""

    @model_validator(mode="after")
    def _unpacks(self) -> "LoadGivens":
        if self.steps % HOURS:
            raise ValueError("its steps are no whole number an hour")
        if self.packed and not (self.watts.min() >= 0 and self.watts.max() <= MOST_W):
            raise ValueError("uses less than nothing, or more than a town: bring the file again")
        return self

    @property
    def watts(self) -> Floats:
        """What is used, step after step from the first of January, by standard time there."""
        return unpacked(self.packed, self.steps)


def packed(watts: Floats) -> str:
    """The steps as text, to a watt."""
    return pack(np.round(watts)[None], SIZE)


@lru_cache(maxsize=16)
def unpacked(text: str, steps: int) -> Floats:
    """The steps again. Raises ValueError for what no year was packed into."""
    watts: Floats = unpack(text, (1, steps), SIZE, WHAT)[0]
    watts.setflags(write=False)
    return watts
