"""Shots that do not fit their neighbours: a misread rod, a wrong code, a boulder."""

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant
from openfurrow.core.site.surface import edges_of, on_rim, triangulated

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

ROUNDS = 8
# At the rim the neighbours all stand on one side, and bent ground looks like a bad shot.
RIM_LEEWAY = 4.0
MISFITS = 4.0
# Ground between shots bends by this much of their distance before anyone wonders.
BEND = 0.03
# From median absolute deviation to standard deviation of a normal spread.
MAD_TO_SPREAD = 1.4826


def neighbours(count: int, triangles: Integers) -> tuple[Integers, Integers]:
    """Who shares a triangle's edge with whom: pairs (point, neighbour), sorted by point."""
    pairs = np.concatenate([triangles[:, [a, b]] for a in range(3) for b in range(3) if a != b])
    keys = np.unique(pairs[:, 0] * count + pairs[:, 1])
    return keys // count, keys % count


def residuals_m(points_m: Floats, triangles: Integers) -> tuple[Floats, Floats]:
    """Each point's level over the plane that fits its neighbours best, and how ill they fit it.

    The second is the root mean square of the neighbours' own distances from that plane (least squares,
    three of them taken by the plane), nan for three. Points with fewer than three neighbours have no
    plane to judge by: nan.
    """
    count = len(points_m)
    point, near = neighbours(count, triangles)
    away = points_m[near] - points_m[point]
    terms = np.column_stack((np.ones(len(away)), away[:, :2]))
    normal = np.zeros((count, 3, 3))
    right = np.zeros((count, 3))
    for row in range(3):
        right[:, row] = np.bincount(point, terms[:, row] * away[:, 2], count)
        for column in range(3):
            normal[:, row, column] = np.bincount(point, terms[:, row] * terms[:, column], count)
    scale = np.maximum(normal[:, 1, 1] + normal[:, 2, 2], 1e-12)
    several = np.bincount(point, minlength=count)
    judged = (several >= 3) & (np.linalg.det(normal) > 1e-6 * scale**2 * normal[:, 0, 0] * 1e-2)
    found, misfit = np.full(count, np.nan), np.full(count, np.nan)
    fit = np.linalg.solve(normal[judged], right[judged][:, :, None])[:, :, 0]
    squares = np.bincount(point, away[:, 2] ** 2, count)[judged] - (fit * right[judged]).sum(axis=1)
    found[judged] = -fit[:, 0]
    # Three neighbours always agree: how well is not known.
    with np.errstate(divide="ignore", invalid="ignore"):
        spare = np.where(several[judged] > 3, several[judged] - 3.0, np.nan)
        misfit[judged] = np.sqrt(np.maximum(squares, 0.0) / spare)
    return found, misfit


def _reach_m(points_m: Floats, triangles: Integers) -> Floats:
    """Mean level distance of each point from its neighbours."""
    count = len(points_m)
    point, near = neighbours(count, triangles)
    away = np.linalg.norm(points_m[near, :2] - points_m[point, :2], axis=1)
    several = np.maximum(np.bincount(point, minlength=count), 1)
    return np.asarray(np.bincount(point, away, count) / several)


def outliers(points_m: Floats, bending: NDArray[np.bool_] | None = None) -> tuple[Integers, Floats]:
    """Shots far off their neighbours, worst first, and by how much each.

    The worst of every neighbourhood is set aside and the rest judged again without it, so that one
    bad shot does not blame those around it. ``points_m`` (n, 3) must hold no place twice. Points that
    are ``bending`` stand on a break line: the ground bends there as was said, so they are not judged.
    """
    free = np.ones(len(points_m), dtype=bool) if bending is None else ~bending
    least, spread = (constant("common", n).value for n in ("outlier_least_m", "outlier_spread"))
    kept = np.arange(len(points_m))
    found: list[int] = []
    by: list[float] = []
    for _ in range(ROUNDS):
        if len(kept) < 6:
            break
        points = points_m[kept]
        triangles = triangulated(points)
        off, misfit = residuals_m(points, triangles)
        judged = free[kept] & ~np.isnan(off)
        if not judged.any():
            break
        size = np.where(judged, np.abs(off), 0.0)
        rim = edges_of(triangles)[on_rim(triangles, len(points))]
        size[np.unique(rim)] /= RIM_LEEWAY
        usual = MAD_TO_SPREAD * float(np.median(size[judged]))
        # Where the neighbours agree on no plane themselves, or stand far off, the ground may bend.
        allowed = np.maximum(max(least, spread * usual), MISFITS * np.nan_to_num(misfit))
        bad = size > np.maximum(allowed, BEND * _reach_m(points, triangles))
        if not bad.any():
            break
        point, near = neighbours(len(points), triangles)
        worst_near = np.zeros(len(points))
        np.maximum.at(worst_near, point, size[near])
        chosen = np.flatnonzero(bad & (size >= worst_near))
        found += kept[chosen].tolist()
        by += off[chosen].tolist()
        kept = np.delete(kept, chosen)
    order = np.argsort(-np.abs(by), kind="stable") if by else np.array([], dtype=np.int64)
    return np.array(found, dtype=np.int64)[order], np.array(by, dtype=float)[order]
