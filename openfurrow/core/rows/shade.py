"""What stands on the site and takes the sun from the glass: crowns of trees, walls, fences.

A crown is an ellipsoid between its foot and its top, without gaps; a wall is upright. Both are met by
the straight ray from a place on the glass toward the sun.
"""

from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.codes import constant
from openfurrow.core.rows.lie import Lie
from openfurrow.core.site.ground import Ground
from openfurrow.core.site.keepouts import KeepOuts, Zone

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]
Truths = NDArray[np.bool_]

# Tables over which hours are averaged; of larger arrays as many are taken evenly.
AVERAGED = 12
# Corners of an outline nearer to its line than this cast no shade of their own.
OUTLINE_M = 0.05
LEAST_CROWN_M = 1e-3
# Rays past walls that are worked out at once, so that a field of outlines fits the memory.
RAYS_AT_ONCE = 1_000_000


@dataclass(frozen=True)
class Standing:
    """Things that cast shade, by ``names``.

    ``walls`` (w, 2, 2) stretches from above, ``tops_m`` their upper levels, ``wall_of`` whose they are.
    ``crowns`` (c, 3) middles, ``radii_m`` (c, 2) across and up, ``crown_of`` whose they are.
    ``no_height`` names things that stand, of which nobody said how high.
    """

    names: tuple[str, ...]
    walls: Floats
    tops_m: Floats
    wall_of: Integers
    crowns: Floats
    radii_m: Floats
    crown_of: Integers
    no_height: tuple[str, ...]


def standing_of(keepouts: KeepOuts, ground: Ground) -> Standing:
    """Trees, buildings and fences with their heights over the ground they stand on."""
    zones = [zone for zone in keepouts.zones if zone.feature.facts.lies == "standing"]
    told = [zone for zone in zones if zone.feature.height_m]
    walls, tops, wall_of = [np.empty((0, 2, 2))], [np.empty(0)], [np.empty(0, dtype=np.int64)]
    crowns, radii, crown_of = [], [], []
    for index, zone in enumerate(told):
        height = zone.feature.height_m or 0.0
        if zone.feature.kind == "tree":
            middle, size = _crown(zone, height, ground)
            crowns.append(middle)
            radii.append(size)
            crown_of.append(index)
            continue
        runs = _stretches(zone)
        levels = ground.level_m(runs[:, :, 0], runs[:, :, 1]).max(axis=1)
        walls.append(runs)
        tops.append(levels + height)
        wall_of.append(np.full(len(runs), index))
    return Standing(
        tuple(zone.feature.label for zone in told),
        np.vstack(walls),
        np.concatenate(tops),
        np.concatenate(wall_of),
        np.array(crowns, dtype=float).reshape(-1, 3),
        np.array(radii, dtype=float).reshape(-1, 2),
        np.array(crown_of, dtype=np.int64),
        tuple(zone.feature.label for zone in zones if not zone.feature.height_m),
    )


def _crown(zone: Zone, height_m: float, ground: Ground) -> tuple[list[float], list[float]]:
    """Middle of a crown, and its half width and half height."""
    east, north = zone.feature.points[0]
    foot = constant("common", "crown_foot").value * height_m
    width = zone.feature.width_m or constant("common", "crown_width").value * height_m
    level = float(ground.level_m(east, north))
    return [east, north, level + (foot + height_m) / 2], [width / 2, (height_m - foot) / 2]


def _stretches(zone: Zone) -> Floats:
    # To the micrometre: points that differ by less than floats divide by are thinned for ever.
    outline = shapely.transform(zone.feature.geometry(), lambda at: np.round(at, 6))
    shape = shapely.simplify(outline, OUTLINE_M)
    at = shapely.get_coordinates(shape.exterior if zone.feature.facts.shape == "area" else shape)
    return np.array(list(pairwise(at.tolist())), dtype=float)


def toward_sun(altitude_deg: Floats, azimuth_deg: Floats) -> Floats:
    """Directions east, north, up of length one, (s, 3)."""
    altitude, azimuth = np.radians(altitude_deg), np.radians(azimuth_deg)
    level = np.cos(altitude)
    return np.column_stack((level * np.sin(azimuth), level * np.cos(azimuth), np.sin(altitude)))


def shaded_by(standing: Standing, places_m: Floats, toward: Floats) -> Truths:
    """Whether each thing stands between each place (p, 3) and each sun (s, 3): (things, s, p)."""
    found = np.zeros((len(standing.names), len(toward), len(places_m)), dtype=bool)
    found[standing.crown_of] = _crowns_meet(standing, places_m, toward)
    together = max(1, RAYS_AT_ONCE // max(len(toward) * len(places_m), 1))
    for start in range(0, len(standing.walls), together):
        part = slice(start, start + together)
        met = _walls_meet(standing.walls[part], standing.tops_m[part], places_m, toward)
        # Stretches of one thing stand together.
        things, first = np.unique(standing.wall_of[part], return_index=True)
        found[things] |= np.logical_or.reduceat(met, first)
    return found


def _crowns_meet(standing: Standing, places_m: Floats, toward: Floats) -> Truths:
    """(c, s, p): the ray's quadratic in a space where each crown is the unit ball."""
    # What is no wider than a wire has no crown: its ball would be divided by nothing.
    size = np.maximum(standing.radii_m[:, [0, 0, 1]], LEAST_CROWN_M)
    away = (places_m[None] - standing.crowns[:, None]) / size[:, None]
    way = toward[None] / size[:, None]
    along = np.einsum("csk,cpk->csp", way, away)
    ahead = np.einsum("csk,csk->cs", way, way)[:, :, None]
    off = (np.einsum("cpk,cpk->cp", away, away) - 1.0)[:, None, :]
    return np.asarray((along**2 >= ahead * off) & (along < 0))


def _walls_meet(walls: Floats, tops_m: Floats, places_m: Floats, toward: Floats) -> Truths:
    """(w, s, p): where from above the ray crosses the stretch, it is lower than the wall's top.

    Both lengths, along the ray and along the stretch, are quotients by the same cross product (w, s);
    a ray along the stretch has none and meets it nowhere.
    """
    run = walls[:, 1] - walls[:, 0]
    gap = walls[:, None, 0] - places_m[None, :, :2]
    turn = np.outer(run[:, 1], toward[:, 0]) - np.outer(run[:, 0], toward[:, 1])
    with np.errstate(divide="ignore"):
        per_turn = np.where(turn == 0, np.nan, 1.0 / turn)[:, :, None]
    distance = (gap[:, :, 0] * run[:, None, 1] - gap[:, :, 1] * run[:, None, 0])[:, None] * per_turn
    aside = gap[:, None, :, 0] * toward[:, 1, None] - gap[:, None, :, 1] * toward[:, 0, None]
    share = aside * per_turn
    hit = (distance > 0) & (share >= 0) & (share <= 1)
    below = (tops_m[:, None] - places_m[:, 2])[:, None]
    return np.asarray(hit & (distance * toward[:, 2, None] < below))


def evenly(count: int, most: int = AVERAGED) -> Integers:
    """So many of ``count`` things at most, spread evenly."""
    return np.unique(np.linspace(0, count - 1, min(count, most)).round().astype(np.int64))


def reached(standing: Standing, lie: Lie, lowest_sun_deg: float) -> list[Integers]:
    """For each thing, the tables that its shade can fall on while the sun stands no lower.

    A shadow is no longer than the thing's top stands over the lowest glass, over the sun's slope.
    """
    tables = lie.tables
    middle = shapely.points(tables.corners.mean(axis=1))
    longest = float(tables.lengths_m.max())
    half = float(np.hypot(longest, tables.section.level_depth_m)) / 2
    over = float(lie.edge_level_m.min() - np.abs(lie.rise_along).max() * longest)
    slope = np.tan(np.radians(max(lowest_sun_deg, 1e-3)))
    found = []
    for index in range(len(standing.names)):
        crowns = standing.crown_of == index
        stands = shapely.union_all(
            [
                *shapely.linestrings(standing.walls[standing.wall_of == index]),
                *shapely.points(standing.crowns[crowns, :2]),
            ]
        )
        tops = [
            *standing.tops_m[standing.wall_of == index],
            *(standing.crowns[crowns, 2] + standing.radii_m[crowns, 1]),
        ]
        wide = max((float(r) for r in standing.radii_m[crowns, 0]), default=0.0)
        reach = max(0.0, max(tops) - over) / slope + wide + half
        found.append(np.flatnonzero(shapely.distance(stands, middle) <= reach))
    return found


def alone(standing: Standing, index: int) -> Standing:
    """One thing by itself."""
    walls, crowns = standing.wall_of == index, standing.crown_of == index
    return Standing(
        (standing.names[index],),
        standing.walls[walls],
        standing.tops_m[walls],
        np.zeros(int(walls.sum()), dtype=np.int64),
        standing.crowns[crowns],
        standing.radii_m[crowns],
        np.zeros(int(crowns.sum()), dtype=np.int64),
        (),
    )


def glass_places_m(lie: Lie, chosen: Integers) -> Floats:
    """Ends and middle of the lower and upper edges of the chosen tables, (p, 3)."""
    tables = lie.tables
    along = np.array([-0.5, 0.0, 0.5]) * tables.lengths_m[chosen][:, None]
    level = lie.edge_at(chosen[:, None], along)
    edges = []
    for back, up in ((0.0, 0.0), (tables.section.level_depth_m, tables.section.rise_m)):
        east, north = tables.east_north_m(chosen[:, None], along, tables.edge_back_m + back)
        edges.append(np.stack((east, north, level + up), axis=-1).reshape(-1, 3))
    return np.vstack(edges)
