"""Where the posts of one table stand."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.beams import continuous_beam

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class PostLine:
    """Posts of one table along its purlin; ``along_m`` runs from the purlin's first end."""

    purlin_m: float
    span_m: float
    overhang_m: float
    along_m: Floats
    tributary_m: Floats

    @property
    def count(self) -> int:
        """Posts in one table."""
        return int(self.along_m.size)


def post_line(purlin_m: float, span_limit_m: float, cantilever_ratio: float) -> PostLine:
    """The fewest equal spans with both ends overhanging by ``cantilever_ratio`` of a span.

    Each post's share of the row is the reaction of a continuous purlin under a unit load.
    """
    spans = max(1, math.ceil(purlin_m / span_limit_m - 2 * cantilever_ratio - 1e-9))
    span = purlin_m / (spans + 2 * cantilever_ratio)
    overhang = cantilever_ratio * span
    along = np.asarray(overhang + span * np.arange(spans + 1), dtype=float)
    unit = continuous_beam(purlin_m, along, 1.0, 1.0)
    return PostLine(purlin_m, span, overhang, along, unit.reactions_n)
