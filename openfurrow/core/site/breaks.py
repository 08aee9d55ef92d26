"""Break lines: the top of a bank, the bed of a ditch, where ground bends and no triangle may bridge it.

Crews shoot along such a line and give every shot of it the same code, which begins with "break"; the
shots are joined in the order of the book.
"""

from itertools import combinations

import numpy as np
import shapely
from numpy.typing import NDArray
from scipy.spatial import Delaunay, cKDTree

from openfurrow.core.site.survey import Shots

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

BREAK = "break"
# A stretch is halved until the triangles keep to it, but not below this length.
SHORTEST_M = 0.1
MOST_ADDED = 20_000


def break_lines(shots: Shots) -> tuple[tuple[str, Floats], ...]:
    """Code and shots (k, 3) of each line that has two shots or more, in the order of the book."""
    found: dict[tuple[int, str], list[int]] = {}
    for index, (sitting, code) in enumerate(zip(shots.sitting.tolist(), shots.codes, strict=True)):
        words = code.strip().lower()
        if words.startswith(BREAK):
            found.setdefault((sitting, words), []).append(index)
    return tuple(
        (code, shots.points_m[indices]) for (_, code), indices in found.items() if len(indices) > 1
    )


def crossing_lines(lines: tuple[tuple[str, Floats], ...]) -> tuple[tuple[str, str], ...]:
    """Codes of lines that cross each other between their shots, or themselves: one level too many."""
    drawn = [(code, shapely.LineString(points[:, :2])) for code, points in lines]
    found = [(code, code) for code, line in drawn if not line.is_simple]
    return tuple(
        found + [(a, b) for (a, one), (b, other) in combinations(drawn, 2) if one.crosses(other)]
    )


def _places(points_m: Floats, lines: tuple[Floats, ...]) -> Integers:
    """Which point each shot of the lines is, one line after another."""
    found = cKDTree(points_m[:, :2]).query(np.vstack(lines)[:, :2])[1]
    return np.asarray(found, dtype=np.int64)


def bending(points_m: Floats, lines: tuple[Floats, ...], shot: int) -> NDArray[np.bool_]:
    """Which points stand on a line; those after the first ``shot`` were added along one."""
    on = np.arange(len(points_m)) >= shot
    if lines:
        on[_places(points_m, lines)] = True
    return on


def _segments(points_m: Floats, lines: tuple[Floats, ...]) -> Integers:
    """Stretches of the lines as pairs of indices into the points; those of no length are left out."""
    index = _places(points_m, lines)
    ends = np.cumsum([len(line) for line in lines])
    start = np.setdiff1d(np.arange(len(index)), ends - 1)
    pairs = np.column_stack((index[start], index[start + 1]))
    return np.asarray(pairs[pairs[:, 0] != pairs[:, 1]], dtype=np.int64)


def _edge_keys(pairs: Integers, count: int) -> Integers:
    low, high = np.sort(pairs, axis=1).T
    return np.asarray(low * count + high)


def conformed(points_m: Floats, lines: tuple[Floats, ...]) -> Floats:
    """The points, with as many more along the lines as make each stretch an edge of their triangles.

    ``points_m`` (n, 3) holds every point of the lines and no place twice. A stretch that is no edge of
    the Delaunay triangles is halved, its middle level between its ends, and all is tried again
    (conforming triangulation). Crossing lines, which no surface can hold, end at a decimetre.
    """
    if not lines:
        return points_m
    points = points_m
    segments = _segments(points, lines)
    while len(points) - len(points_m) < MOST_ADDED:
        triangles = Delaunay(points[:, :2] - points[:, :2].mean(axis=0)).simplices
        edges = np.concatenate([triangles[:, [a, b]] for a, b in ((0, 1), (1, 2), (2, 0))])
        kept = np.isin(_edge_keys(segments, len(points)), _edge_keys(edges, len(points)))
        length_m = np.linalg.norm(np.diff(points[segments][:, :, :2], axis=1)[:, 0], axis=1)
        long = length_m > 2 * SHORTEST_M
        halved = segments[~kept & long]
        if not len(halved):
            break
        new = np.arange(len(points), len(points) + len(halved))
        points = np.vstack((points, points[halved].mean(axis=1)))
        segments = np.vstack(
            (
                segments[kept | ~long],
                np.column_stack((halved[:, 0], new)),
                np.column_stack((new, halved[:, 1])),
            )
        )
    return points
