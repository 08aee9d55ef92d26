"""Load combinations: which share of weight, snow and wind acts together."""

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import RulePack, constant, table

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Combinations:
    """Factors on dead load, snow and wind, one entry a combination."""

    names: tuple[str, ...]
    dead: Floats
    snow: Floats
    wind: Floats


Use = Literal["combination", "service"]


def combinations(pack: RulePack, elevation_m: float, use: Use = "combination") -> Combinations:
    """Load combinations of a rule pack; ``use`` is ``combination`` (strength) or ``service`` (sag).

    On high ground snow lies long: in the metric pack more of it goes with the wind.
    """
    data = table(pack, use)
    high = pack == "metric" and elevation_m > constant(pack, "snow_high_m").value
    rows = [
        index
        for index, ground in enumerate(data.texts["ground"])
        if ground in ("any", "high" if high else "low")
    ]
    return Combinations(
        tuple(data.texts["combination"][row] for row in rows),
        data.numbers["dead"][rows],
        data.numbers["snow"][rows],
        data.numbers["wind"][rows],
    )
