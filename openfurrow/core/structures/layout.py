"""Where the posts of one table stand."""

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.beams import BeamResult, continuous_beam
from openfurrow.core.rows.array import RowsPlan

Floats = NDArray[np.float64]

# Posts nearer to each other than this are one post.
LEAST_SPAN_M = 0.3


@dataclass(frozen=True)
class PostLine:
    """Posts of one table along its purlin; ``along_m`` runs from the purlin's first end.

    Where rails lie on it, ``rails_m`` is where, and each brings ``rail_m`` of the row; else the row
    lies on it evenly.
    """

    purlin_m: float
    span_m: float
    overhang_m: float
    along_m: Floats
    tributary_m: Floats
    rails_m: Floats | None = None
    rail_m: float = 0.0

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
    return replace(line, along_m=along, tributary_m=carried(replace(line, along_m=along)).reactions_n)


def carried(line: PostLine, stiffness_n_m2: float = 1.0) -> BeamResult:
    """The purlin under a newton a metre of the row; its reactions are what each post carries of it."""
    if line.rails_m is None:
        return continuous_beam(line.purlin_m, line.along_m, 1.0, stiffness_n_m2)
    forces = np.full(line.rails_m.size, line.rail_m)
    return continuous_beam(line.purlin_m, line.along_m, 0.0, stiffness_n_m2, line.rails_m, forces)


def bays_of(rows: RowsPlan, columns: int, span_limit_m: float) -> int:
    """The fewest bays of whole columns: as many from post to post as the span allows, one at least."""
    return math.ceil(columns / max(1, math.floor(span_limit_m / rows.column_step_m + 1e-9)))


def grid_line(rows: RowsPlan, columns: int, end_m: float, bays: int) -> PostLine:
    """Posts at the joints of columns of modules, two rails under each column.

    ``end_m`` is the pipe beyond the last module.
    """
    step_m, module_m = rows.column_step_m, rows.module_along_m
    length = (columns - 1) * step_m + module_m
    gap = step_m - module_m
    # The first and the last post stand under the edges of the glass, the others under its gaps.
    joints = np.round(np.linspace(0, columns, bays + 1)) * step_m - gap / 2
    along = end_m + np.clip(joints, 0.0, length)
    rails = rail_places_m(rows, columns, end_m)
    line = PostLine(
        length + 2 * end_m,
        float(np.diff(along).max()),
        end_m,
        along,
        np.empty(0),
        rails_m=rails,
        rail_m=length / rails.size,
    )
    return replace(line, tributary_m=carried(line).reactions_n)


def lone_line(rows: RowsPlan, columns: int, end_m: float) -> PostLine:
    """One post in the middle of a table; what lies on it reaches out to both sides."""
    length = (columns - 1) * rows.column_step_m + rows.module_along_m
    pipe = length + 2 * end_m
    rails = rail_places_m(rows, columns, end_m)
    return PostLine(
        purlin_m=pipe,
        span_m=pipe,
        overhang_m=pipe / 2,
        along_m=np.array([pipe / 2]),
        tributary_m=np.array([length]),
        rails_m=rails,
        rail_m=length / rails.size,
    )


def rail_places_m(rows: RowsPlan, columns: int, end_m: float) -> Floats:
    """Two rails under each column of modules, where clamps grip, from the end of what they lie on."""
    side, grip = rows.module_along_m, rows.clamped_m(rows.module_along_m)
    starts = end_m + np.arange(columns) * rows.column_step_m
    return np.sort(np.concatenate((starts + grip, starts + side - grip)))


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
