"""Which triangle a point lies in: triangles are sorted into the cells of a grid, then looked up."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

# A point this far outside an edge, as a share of the triangle, still counts as on it.
ON_EDGE = 1e-9
# Up to so many places are asked of all their triangles at once.
FEW = 2000


@dataclass(frozen=True)
class TriangleGrid:
    """Triangles by grid cell: those of cell c stand in ``items[starts[c]:starts[c + 1]]``.

    ``inverse`` (n, 2, 2) and ``corner`` (n, 2) give a point's two free barycentric shares.
    """

    low: Floats
    cell_m: float
    shape: tuple[int, int]
    starts: Integers
    items: Integers
    inverse: Floats
    corner: Floats

    def find(self, east_m: Floats, north_m: Floats) -> Integers:
        """Index of a triangle that holds each point, -1 where there is none; 1-D arrays."""
        column = np.floor((east_m - self.low[0]) / self.cell_m).astype(np.int64)
        line = np.floor((north_m - self.low[1]) / self.cell_m).astype(np.int64)
        on = (column >= 0) & (column < self.shape[0]) & (line >= 0) & (line < self.shape[1])
        found = np.full(east_m.size, -1, dtype=np.int64)
        asked = np.flatnonzero(on)
        cell = column[asked] * self.shape[1] + line[asked]
        at, end = self.starts[cell], self.starts[cell + 1]
        if asked.size <= FEW:
            return self._find_few(found, asked, at, end, east_m, north_m)
        while asked.size:
            left = at < end
            asked, at, end = asked[left], at[left], end[left]
            triangle = self.items[at]
            inside = self._inside(triangle, east_m[asked], north_m[asked])
            found[asked[inside]] = triangle[inside]
            asked, at, end = asked[~inside], at[~inside] + 1, end[~inside]
        return found

    def _find_few(
        self,
        found: Integers,
        asked: Integers,
        at: Integers,
        end: Integers,
        east_m: Floats,
        north_m: Floats,
    ) -> Integers:
        """All triangles of every cell in one pass: for few places the passes cost most."""
        count = end - at
        place = np.repeat(asked, count)
        step = np.arange(place.size) - np.repeat(np.cumsum(count) - count, count)
        triangle = self.items[np.repeat(at, count) + step]
        inside = self._inside(triangle, east_m[place], north_m[place])
        # The last one written stays: backwards, so that it is the cell's first.
        found[place[inside][::-1]] = triangle[inside][::-1]
        return found

    def _inside(self, triangle: Integers, east_m: Floats, north_m: Floats) -> NDArray[np.bool_]:
        corner, inverse = self.corner[triangle], self.inverse[triangle]
        dx, dy = east_m - corner[:, 0], north_m - corner[:, 1]
        u = inverse[:, 0, 0] * dx + inverse[:, 0, 1] * dy
        v = inverse[:, 1, 0] * dx + inverse[:, 1, 1] * dy
        return np.asarray((u >= -ON_EDGE) & (v >= -ON_EDGE) & (u + v <= 1 + ON_EDGE))


def grid_of(points: Floats, triangles: Integers) -> TriangleGrid:
    """Sort triangles (n, 3) over ``points`` (m, 2) into about as many cells as there are triangles."""
    corners = points[triangles]
    low, high = corners.min(axis=1), corners.max(axis=1)
    origin, reach = low.min(axis=0), np.ptp(corners.reshape(-1, 2), axis=0)
    cell = max(float(np.sqrt(reach[0] * reach[1] / len(triangles))), float(reach.max()) / 4000, 1e-9)
    shape = (int(reach[0] / cell) + 1, int(reach[1] / cell) + 1)
    first = np.floor((low - origin) / cell).astype(np.int64)
    last = np.floor((high - origin) / cell).astype(np.int64)
    wide, tall = (last - first + 1).T
    count = wide * tall
    owner = np.repeat(np.arange(len(triangles)), count)
    step = np.arange(count.sum()) - np.repeat(np.cumsum(count) - count, count)
    column = first[owner, 0] + step // tall[owner]
    line = first[owner, 1] + step % tall[owner]
    cells = column * shape[1] + line
    order = np.argsort(cells, kind="stable")
    starts = np.searchsorted(cells[order], np.arange(shape[0] * shape[1] + 1))
    edges: Floats = np.stack((corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0]), axis=2)
    return TriangleGrid(
        origin, cell, shape, starts, owner[order], np.asarray(np.linalg.inv(edges)), corners[:, 0]
    )
