"""Where shade lies on the ground at one moment: of tables, of crowns, of walls."""

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.rows.lie import Lie
from openfurrow.core.rows.shade import Standing
from openfurrow.core.site.ground import Ground

Floats = NDArray[np.float64]

# The ground where a ray ends is asked for again with what the last asking found.
ASKINGS = 6
# Points of a crown that are thrown, and no shadow is followed further than this.
ROUND, RISES, FARTHEST_M = 24, 9, 400.0


def thrown(ground: Ground, places_m: Floats, toward: Floats) -> Floats:
    """Where rays from places (..., 3) away from the sun meet the ground: (..., 2).

    ``toward`` is the direction to the sun, which stands above level.
    """
    level = toward[:2] / toward[2]
    most = FARTHEST_M / max(float(np.hypot(*level)), 1e-9)

    def over(fallen: Floats) -> Floats:
        """How far a ray that has fallen so far stands over the ground."""
        at = places_m[..., :2] - fallen[..., None] * level
        return np.asarray(places_m[..., 2] - fallen - ground.level_m(at[..., 0], at[..., 1]))

    # By secants: on a plane the first is right.
    before, was = np.zeros(places_m.shape[:-1]), over(np.zeros(places_m.shape[:-1]))
    fallen = np.clip(was, 1e-6, most)
    for _ in range(ASKINGS):
        left = over(fallen)
        turned = np.where(np.abs(left - was) > 1e-12, left - was, -1.0)
        following = fallen - left * (fallen - before) / turned
        before, was = fallen, left
        fallen = np.clip(following, 0.0, most)
    return np.asarray(places_m[..., :2] - fallen[..., None] * level)


def corners_m(lie: Lie) -> Floats:
    """The glass of every table in space, lower edge first, then back: (n, 4, 3)."""
    tables = lie.tables
    ends = np.array([-0.5, 0.5, 0.5, -0.5]) * tables.lengths_m[:, None]
    up = np.array([0.0, 0.0, 1.0, 1.0]) * tables.section.rise_m
    level = lie.edge_at(np.arange(tables.count)[:, None], ends) + up
    return np.concatenate((tables.corners, level[..., None]), axis=2)


def table_shadows(lie: Lie, ground: Ground, toward: Floats) -> Floats:
    """The shadow of each table's glass, (n, 4, 2)."""
    return thrown(ground, corners_m(lie), toward)


def thing_shadows(standing: Standing, ground: Ground, toward: Floats) -> list[shapely.Geometry]:
    """The shadows of crowns and walls, one after the other."""
    found = []
    turn, rise = np.meshgrid(
        np.linspace(0, 2 * np.pi, ROUND, endpoint=False), np.linspace(-np.pi / 2, np.pi / 2, RISES)
    )
    ball = np.stack(
        (np.cos(rise) * np.cos(turn), np.cos(rise) * np.sin(turn), np.sin(rise)), axis=-1
    ).reshape(-1, 3)
    for crown, (wide, tall) in zip(standing.crowns, standing.radii_m.tolist(), strict=True):
        points = thrown(ground, crown + ball * np.array([wide, wide, tall]), toward)
        found.append(shapely.convex_hull(shapely.multipoints(points)))
    for wall, top in zip(standing.walls, standing.tops_m.tolist(), strict=True):
        foot = ground.level_m(wall[:, 0], wall[:, 1])
        tops = thrown(ground, np.column_stack((wall, np.maximum(top, foot))), toward)
        found.append(shapely.Polygon([*wall.tolist(), *tops[::-1].tolist()]))
    return found
