"""The ground as a surface of triangles between surveyed points, and where it stops knowing."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np
import shapely
from numpy.typing import ArrayLike, NDArray
from scipy.spatial import Delaunay, QhullError, cKDTree

from openfurrow.core.codes import constant
from openfurrow.core.site.breaks import conformed
from openfurrow.core.site.locate import TriangleGrid, grid_of

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]
Truths = NDArray[np.bool_]

# Triangles at the rim thinner than this (height over longest edge) bridge shots that are not
# neighbours; peeled off from outside, at most this many times.
SLIVER, PEELS = 0.12, 6
# Twice the area over the longest edge's square below which a triangle has no plane of its own.
FLAT = 1e-9


class SurfaceError(ValueError):
    """Points that make no surface; the text says why."""


@dataclass(frozen=True)
class Surface:
    """``points_m`` (n, 3) east, north, level; ``triangles`` (t, 3) rows of it, all known ground."""

    points_m: Floats
    triangles: Integers

    @cached_property
    def grid(self) -> TriangleGrid:
        """Where to look for the triangle of a place."""
        return grid_of(self.points_m[:, :2], self.triangles)

    @cached_property
    def slopes(self) -> Floats:
        """Rise per level length of each triangle toward east and toward north, (t, 2)."""
        corners = self.points_m[self.triangles]
        edges = corners[:, 1:] - corners[:, :1]
        return np.asarray(np.linalg.solve(edges[:, :, :2], edges[:, :, 2:])[:, :, 0], dtype=float)

    @cached_property
    def _used(self) -> tuple[cKDTree, Integers]:
        used = np.unique(self.triangles)
        return cKDTree(self.points_m[used, :2]), used

    @cached_property
    def extent(self) -> shapely.Geometry:
        """The known ground as one polygon or several."""
        return shapely.coverage_union_all(shapely.polygons(self.points_m[self.triangles][:, :, :2]))

    @property
    def spacing_m(self) -> float:
        """Middle length of the triangles' edges."""
        return float(np.median(edge_lengths_m(self.points_m, self.triangles)))

    def level_m(self, east_m: ArrayLike, north_m: ArrayLike) -> Floats:
        """Level by the plane of each point's triangle; beyond, that of the nearest place known."""
        east, north = np.broadcast_arrays(
            np.asarray(east_m, dtype=float), np.asarray(north_m, dtype=float)
        )
        flat_e, flat_n = east.ravel(), north.ravel()
        triangle = self.grid.find(flat_e, flat_n)
        level = self._on(triangle, flat_e, flat_n)
        off = triangle < 0
        if off.any():
            level[off] = self._nearest(flat_e[off], flat_n[off])
        return level.reshape(east.shape)

    def known(self, east_m: ArrayLike, north_m: ArrayLike) -> Truths:
        """Whether each point lies on a triangle."""
        east, north = np.broadcast_arrays(
            np.asarray(east_m, dtype=float), np.asarray(north_m, dtype=float)
        )
        return np.asarray(self.grid.find(east.ravel(), north.ravel()) >= 0).reshape(east.shape)

    def _on(self, triangle: Integers, east: Floats, north: Floats) -> Floats:
        corner = self.points_m[self.triangles[triangle, 0]]
        slope = self.slopes[triangle]
        return np.asarray(
            corner[:, 2] + slope[:, 0] * (east - corner[:, 0]) + slope[:, 1] * (north - corner[:, 1])
        )

    def _nearest(self, east: Floats, north: Floats) -> Floats:
        """Level at the nearest place of the rim."""
        places = shapely.points(east, north)
        at = shapely.get_point(shapely.shortest_line(self.extent.boundary, places), 0)
        x, y = shapely.get_x(at), shapely.get_y(at)
        triangle = self.grid.find(x, y)
        level = self._on(triangle, x, y)
        missed = triangle < 0
        if missed.any():
            tree, used = self._used
            _, near = tree.query(np.column_stack((x[missed], y[missed])))
            level[missed] = self.points_m[used[near], 2]
        return level


def edge_lengths_m(points_m: Floats, triangles: Integers) -> Floats:
    """Level length of each triangle's three edges, (t, 3)."""
    corners = points_m[triangles][:, :, :2]
    return np.asarray(np.linalg.norm(corners - np.roll(corners, 1, axis=1), axis=2))


def distinct(points_m: Floats) -> Floats:
    """Points without those that stand on another: of two shots at one place the first is kept."""
    places = np.round(points_m[:, :2] * 1e4)
    _, first = np.unique(places[:, 0] + 1j * places[:, 1], return_index=True)
    return points_m[np.sort(first)]


def _delaunay(points_m: Floats) -> Delaunay:
    if len(points_m) < 3:
        raise SurfaceError("three points at least make a surface")
    try:
        return Delaunay(points_m[:, :2] - points_m[:, :2].mean(axis=0))
    except QhullError:
        raise SurfaceError("all points stand on one line") from None


def _twice_area_m2(points_m: Floats, triangles: Integers) -> Floats:
    corners = points_m[triangles][:, :, :2]
    first, second = corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0]
    return np.asarray(np.abs(first[:, 0] * second[:, 1] - first[:, 1] * second[:, 0]))


def triangulated(points_m: Floats) -> Integers:
    """Delaunay triangles over the points' places.

    Raises SurfaceError for fewer than three points or points on one line.
    """
    triangles = _delaunay(points_m).simplices.astype(np.int64)
    longest = edge_lengths_m(points_m, triangles).max(axis=1)
    return np.asarray(triangles[_twice_area_m2(points_m, triangles) > FLAT * longest**2])


def edges_of(triangles: Integers) -> Integers:
    """The three edges of each triangle, (t, 3, 2); the lower index of each edge first."""
    return np.asarray(np.sort(triangles[:, [[0, 1], [1, 2], [2, 0]]], axis=2))


def on_rim(triangles: Integers, count: int) -> Truths:
    """Which edges (t, 3) belong to one triangle only. ``count`` is the number of points."""
    edges = edges_of(triangles)
    key = edges[:, :, 0] * count + edges[:, :, 1]
    _, back, times = np.unique(key, return_inverse=True, return_counts=True)
    return np.asarray(times[back].reshape(key.shape) == 1)


def _without_slivers(kept: Truths, thin: Truths, beyond: Integers) -> Truths:
    """Which triangles are left when thin ones whose longest edge is the rim are peeled off.

    ``beyond`` is the triangle across each one's longest edge, -1 where there is none.
    """
    for _ in range(PEELS):
        on_the_rim = (beyond < 0) | ~kept[beyond]
        off = kept & thin & on_the_rim
        if not off.any() or not (kept & ~off).any():
            break
        kept = kept & ~off
    return kept


def _reach_m(points_m: Floats, mesh: Delaunay) -> float:
    """How far apart shots may lie that know the ground between them, where nobody said."""
    triangles = mesh.simplices.astype(np.int64)
    edges = edge_lengths_m(points_m, triangles)
    solid = _twice_area_m2(points_m, triangles) > FLAT * edges.max(axis=1) ** 2
    if not solid.any():
        raise SurfaceError("all points stand on one line")
    return constant("common", "reach_spacings").value * float(np.median(edges[solid]))


def surface_through(
    points_m: Floats,
    faces: Integers | None = None,
    reach_m: float | None = None,
    breaks: tuple[Floats, ...] = (),
) -> Surface:
    """The surface through points: their own ``faces`` where a file brought them, else Delaunay.

    Where the shots lie further apart than ``reach_m`` (usually three spacings) nothing is known, so
    such triangles are left out; a file's own faces all count. Triangles keep to ``breaks``, lines
    (k, 3) through some of the points.
    """
    if faces is not None:
        return Surface(points_m, faces)
    points = distinct(points_m)
    mesh = _delaunay(points)
    reach = reach_m or _reach_m(points, mesh)
    if breaks:
        points = conformed(points, breaks)
        mesh = _delaunay(points)
    triangles = mesh.simplices.astype(np.int64)
    # Edge k runs from corner k - 1 to corner k; across it lies the neighbour opposite corner k + 1.
    edges = edge_lengths_m(points, triangles)
    longest = edges.argmax(axis=1)
    rows = np.arange(len(triangles))
    length = edges[rows, longest]
    beyond = mesh.neighbors[rows, (longest + 1) % 3]
    twice = _twice_area_m2(points, triangles)
    solid = twice > FLAT * length**2
    if not solid.any():
        raise SurfaceError("all points stand on one line")
    kept = _without_slivers(solid & (length <= reach), twice < SLIVER * length**2, beyond)
    if not kept.any():
        raise SurfaceError("no two shots are near enough to each other")
    return Surface(points, triangles[kept])
