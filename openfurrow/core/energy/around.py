"""What stands around an array as its tables see it: hills, trees, buildings, and other arrays' rows."""

from collections.abc import Iterable

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.energy.horizon import FarHorizon, behind, horizons_deg, sky_seen
from openfurrow.core.energy.sky import Sky
from openfurrow.core.energy.year import Around, nothing_around
from openfurrow.core.rows.lie import Lie
from openfurrow.core.rows.shade import Standing, evenly, glass_places_m
from openfurrow.core.sun.givens import HorizonGivens

Floats = NDArray[np.float64]

# A row further away stands less than two degrees over another.
NEARBY_M = 100.0


def far_horizon(readings: tuple[HorizonGivens, ...]) -> FarHorizon:
    """The readings in the order of their bearings; of several at one bearing the highest counts."""
    by_bearing: dict[float, float] = {}
    for one in readings:
        bearing = one.bearing_deg % 360.0
        by_bearing[bearing] = max(one.height_deg, by_bearing.get(bearing, 0.0))
    bearings = tuple(sorted(by_bearing))
    return FarHorizon(bearings, tuple(by_bearing[bearing] for bearing in bearings))


def with_rows(standing: Standing, others: Iterable[Lie], own: Lie) -> Standing:
    """What stands, and the rows of other arrays nearby as walls up to their upper edges."""
    here = shapely.box(*shapely.total_bounds(own.tables.outlines))
    walls, tops, names = [standing.walls], [standing.tops_m], list(standing.names)
    of = [standing.wall_of]
    for lie in others:
        ends, levels = _upper_edges(lie)
        near = shapely.distance(shapely.linestrings(ends), here) < NEARBY_M
        ends, levels = ends[near], levels[near]
        walls.append(ends)
        tops.append(levels)
        of.append(np.full(len(ends), len(names)))
        names.append("another array")
    return Standing(
        tuple(names),
        np.vstack(walls),
        np.concatenate(tops),
        np.concatenate(of),
        standing.crowns,
        standing.radii_m,
        standing.crown_of,
        standing.no_height,
    )


def _upper_edges(lie: Lie) -> tuple[Floats, Floats]:
    """From end to end of each line of tables: (lines, 2, 2), and the highest level of each."""
    tables = lie.tables
    _, of = np.unique(tables.line, return_inverse=True)
    order = np.lexsort((tables.middle_m, of))
    first = np.searchsorted(of[order], np.arange(of.max() + 1))
    last = np.append(first[1:], len(order)) - 1
    # The two back corners of a table's outline are its upper edge.
    starts, ends = tables.corners[order[first], 3], tables.corners[order[last], 2]
    half = np.abs(lie.rise_along) * tables.lengths_m * tables.level_share / 2
    level = np.full(of.max() + 1, -np.inf)
    np.maximum.at(level, of, lie.edge_level_m + tables.section.rise_m + half)
    return np.stack((starts, ends), axis=1), level


def around_of(sky: Sky, standing: Standing, far: FarHorizon, lie: Lie, normal: Floats) -> Around:
    """What is left of the light over tables taken evenly from all; each looks out from six places."""
    if not (len(standing.walls) or len(standing.crowns) or far.bearing_deg):
        return nothing_around(sky)
    chosen = evenly(lie.tables.count)
    horizons = horizons_deg(standing, far, glass_places_m(lie, chosen))
    hidden = behind(horizons, sky)
    # Places come edge by edge; each table has three on either.
    by_table = hidden.reshape(2, len(chosen), 3, -1).mean(axis=(0, 2))
    seen, band = sky_seen(horizons, np.broadcast_to(normal, (len(horizons), 3)))
    return Around(by_table, seen, band)
