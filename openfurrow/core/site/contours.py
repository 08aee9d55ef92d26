"""Level lines of a surface: cut triangle by triangle, then joined into runs."""

from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]


@dataclass(frozen=True)
class Contour:
    """One run of a level line; ``points_m`` (n, 2). A closed run ends where it began."""

    level_m: float
    points_m: Floats


def crossings_m(points_m: Floats, triangles: Integers, level_m: float) -> Floats:
    """Where a level cuts each triangle it passes through: (k, 2, 2) ends of segments.

    A corner exactly at the level counts as just above it, so no segment is drawn twice or lost.
    """
    above = points_m[:, 2][triangles] >= level_m
    upper = above.sum(axis=1)
    cut = triangles[(upper == 1) | (upper == 2)]
    if not len(cut):
        return np.empty((0, 2, 2))
    sides = points_m[:, 2][cut] >= level_m
    # The corner that stands alone on its side of the level.
    alone = np.where(sides.sum(axis=1) == 1, sides.argmax(axis=1), (~sides).argmax(axis=1))
    rows = np.arange(len(cut))
    ends = []
    for other in (1, 2):
        pair = np.sort(np.column_stack((cut[rows, alone], cut[rows, (alone + other) % 3])), axis=1)
        # From the lower index to the higher: both triangles of an edge find the same point.
        start, end = points_m[pair[:, 0]], points_m[pair[:, 1]]
        share = (level_m - start[:, 2]) / (end[:, 2] - start[:, 2])
        ends.append(start[:, :2] + share[:, None] * (end[:, :2] - start[:, :2]))
    return np.stack(ends, axis=1)


def contours(points_m: Floats, triangles: Integers, levels_m: Floats) -> tuple[Contour, ...]:
    """The level lines of a surface at each of ``levels_m``, joined into the longest runs."""
    found: list[Contour] = []
    for level in levels_m.tolist():
        segments = crossings_m(points_m, triangles, level)
        long = np.any(segments[:, 0] != segments[:, 1], axis=1)
        if not long.any():
            continue
        merged = shapely.line_merge(shapely.multilinestrings(shapely.linestrings(segments[long])))
        found += [Contour(level, shapely.get_coordinates(run)) for run in shapely.get_parts(merged)]
    return tuple(found)


def contour_levels_m(low_m: float, high_m: float, step_m: float) -> Floats:
    """Whole multiples of a step between two levels."""
    first, last = int(np.ceil(low_m / step_m - 1e-9)), int(np.floor(high_m / step_m + 1e-9))
    return np.asarray(np.arange(first, last + 1) * step_m)
