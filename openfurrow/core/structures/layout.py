"""Where the posts of one table stand."""

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.beams import continuous_beam

Floats = NDArray[np.float64]

# Posts nearer to each other than this are one post.
LEAST_SPAN_M = 0.3


@dataclass(frozen=True)
class PostLine:
    """Posts of one table along its purlin; ``along_m`` runs from the purlin's first end."""

    purlin_m: float
    span_m: float
    overhang_m: float
    along_m: Floats
    tributary_m: Floats

    @property
    def longest_span_m(self) -> float:
        """The widest distance between two of its posts, or twice an overhang that is wider."""
        ends = 2 * max(float(self.along_m[0]), self.purlin_m - float(self.along_m[-1]))
        spans = float(np.diff(self.along_m).max()) if self.along_m.size > 1 else 0.0
        return max(spans, ends)

    @property
    def count(self) -> int:
        """Posts in one table."""
        return int(self.along_m.size)


def shifted(line: PostLine, by_m: Floats) -> PostLine:
    """The same table with each post shifted along it; the shares are those of the uneven spans.

    Posts must keep their order and stay on the purlin.
    """
    along = line.along_m + by_m
    unit = continuous_beam(line.purlin_m, along, 1.0, 1.0)
    return replace(line, along_m=along, tributary_m=unit.reactions_n)


def fits(line: PostLine, by_m: Floats) -> bool:
    """Whether shifted posts keep their order, a post's width apart, and stay on the purlin."""
    along = line.along_m + by_m
    return bool((np.diff(along) > LEAST_SPAN_M).all() and along[0] >= 0 and along[-1] <= line.purlin_m)


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
