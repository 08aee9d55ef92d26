"""Soil to move: what stands over a level within an outline, and what is missing below it."""

from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.site.surface import Surface

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Earthwork:
    """Volumes over and below ``level_m`` within an outline, and the level area they were taken over."""

    level_m: float
    cut_m3: float
    fill_m3: float
    area_m2: float


def _cells(surface: Surface, outline: shapely.Geometry) -> tuple[NDArray[np.object_], Floats]:
    """The triangles cut to an outline, and each one's plane (a, b, c): level = a + b east + c north."""
    corners = surface.points_m[surface.triangles]
    shapes = shapely.polygons(corners[:, :, :2])
    shapely.prepare(outline)
    on = np.flatnonzero(shapely.intersects(outline, shapes))
    slopes = surface.slopes[on]
    corner = corners[on, 0]
    constant = corner[:, 2] - (slopes * corner[:, :2]).sum(axis=1)
    cut = shapely.intersection(shapes[on], outline)
    return np.asarray(cut), np.column_stack((constant, slopes))


def _volume(shapes: NDArray[np.object_], planes: Floats, level_m: float) -> float:
    """Exact under a plane: area times the level at the middle of area."""
    area = shapely.area(shapes)
    middle = shapely.centroid(shapes)
    used = area > 0
    x, y = shapely.get_x(middle[used]), shapely.get_y(middle[used])
    level = planes[used, 0] + planes[used, 1] * x + planes[used, 2] * y
    return float((area[used] * (level - level_m)).sum())


def _above(shapes: NDArray[np.object_], planes: Floats, level_m: float) -> NDArray[np.object_]:
    """The part of each cell whose ground stands over a level."""
    found = []
    for shape, (a, b, c) in zip(shapes, planes.tolist(), strict=True):
        at = shapely.get_coordinates(shape)
        over = a + b * at[:, 0] + c * at[:, 1] - level_m
        if not len(at) or over.max() <= 0:
            found.append(shapely.Polygon())
        elif over.min() >= 0:
            found.append(shape)
        else:
            # Half the plane beyond the level line, as a square large enough to cover the cell.
            steep = float(np.hypot(b, c))
            down, across = np.array([b, c]) / steep, np.array([-c, b]) / steep
            foot = at[0] - down * over[0] / steep
            reach = 4 * float(np.ptp(at, axis=0).max()) + 1.0
            square = [
                foot + s * reach * across + t * reach * down
                for s, t in ((-1, 0), (1, 0), (1, 1), (-1, 1))
            ]
            found.append(shapely.intersection(shape, shapely.Polygon(square)))
    return np.array(found, dtype=object)


def earthwork(
    surface: Surface, outline: shapely.Geometry, level_m: float | None = None
) -> Earthwork | None:
    """Cut and fill to a level; without one, the level at which both are alike.

    None where the outline holds no known ground.
    """
    shapes, planes = _cells(surface, outline)
    area = float(shapely.area(shapes).sum()) if len(shapes) else 0.0
    if area <= 0:
        return None
    if level_m is None:
        level_m = _volume(shapes, planes, 0.0) / area
    whole = _volume(shapes, planes, level_m)
    cut = _volume(_above(shapes, planes, level_m), planes, level_m)
    return Earthwork(level_m, cut, cut - whole, area)
