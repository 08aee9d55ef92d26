"""Load combinations: which share of weight, snow and wind acts together."""

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import RulePack, constant, table

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Combinations:
    """Factors on dead load, snow and wind, one entry a combination.

    ``snow`` is on the lower half of the glass, ``snow_back`` on the upper, which sheds it first.
    """

    names: tuple[str, ...]
    dead: Floats
    snow: Floats
    snow_back: Floats
    wind: Floats

    @property
    def snow_whole(self) -> Floats:
        """On the glass as a whole."""
        return (self.snow + self.snow_back) / 2


Use = Literal["combination", "service"]


def combinations(
    pack: RulePack, elevation_m: float, use: Use = "combination", *, uneven: bool = False
) -> Combinations:
    """Load combinations of a rule pack; ``use`` is ``combination`` (strength) or ``service`` (sag).

    On high ground snow lies long: in the metric pack more of it goes with the wind. Where it may
    lie ``uneven`` each that snow is part of stands once more, with the upper half of the glass bare.
    """
    data = table(pack, use)
    high = pack == "metric" and elevation_m > constant(pack, "snow_high_m").value
    rows = [
        index
        for index, ground in enumerate(data.texts["ground"])
        if ground in ("any", "high" if high else "low")
    ]
    snowy = [row for row in rows if uneven and data.numbers["snow"][row]]
    names = [data.texts["combination"][row] for row in rows]
    names += [f"{data.texts['combination'][row]}, snow on the lower half" for row in snowy]
    both = [*rows, *snowy]
    snow = data.numbers["snow"][both]
    return Combinations(
        tuple(names),
        data.numbers["dead"][both],
        snow,
        np.where(np.arange(len(both)) < len(rows), snow, 0.0),
        data.numbers["wind"][both],
    )
