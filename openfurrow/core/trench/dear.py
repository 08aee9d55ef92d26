"""Ground that is dear to dig: roads that are put back, roots, rock, wet and steep ground."""

from dataclasses import dataclass, replace

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.codes import constant
from openfurrow.core.site.ground import Ground
from openfurrow.core.site.keepouts import Zone, grown

Floats = NDArray[np.float64]
# Ground is called steep cell by cell, so many across what is looked at, none smaller than this.
CELLS, LEAST_CELL_M = 48, 1.0
# Twice over an edge that is two cells' is one edge.
HAIR_M = 0.01
# Round shapes are taken with so few sides.
SIMPLE_M = 0.05


@dataclass(frozen=True)
class Prices:
    """What a metre costs there, in metres of plain trench."""

    road: float = 1.0
    roots: float = 1.0
    rock: float = 1.0
    wet: float = 1.0
    steep: float = 1.0


@dataclass(frozen=True)
class Dear:
    """An area in which a metre of trench costs ``times`` as much as a plain one."""

    label: str
    shape: shapely.Geometry
    times: float


def dear_things(zones: tuple[Zone, ...], prices: Prices) -> tuple[Dear, ...]:
    """Roads over their width, a ring of roots round each crown, rock, wet ground."""
    found = []
    for zone in zones:
        kind, width = zone.feature.kind, zone.feature.width_m or 0.0
        match kind:
            case "road" | "truck path":
                lane = max(width, constant("common", "lane_m").value)
                found.append(
                    Dear(zone.feature.label, grown(zone.feature.geometry(), lane / 2), prices.road)
                )
            case "rock outcrop":
                found.append(Dear(zone.feature.label, zone.band, prices.rock))
            case "wet ground":
                found.append(Dear(zone.feature.label, zone.band, prices.wet))
            case "tree" if width > 0:
                reach = constant("common", "roots_past_crown").value * width / 2
                roots = grown(zone.feature.geometry(), reach)
                found.append(Dear(f"roots of {zone.feature.label}", roots, prices.roots))
    return tuple(
        replace(one, shape=shapely.simplify(one.shape, SIMPLE_M))
        for one in found
        if one.times > 1 and not shapely.is_empty(one.shape)
    )


def steep_ground(ground: Ground, near: shapely.Geometry, times: float) -> tuple[Dear, ...]:
    """Where the ground falls more than a machine digs across without care, as one area."""
    if times <= 1:
        return ()
    low_e, low_n, high_e, high_n = shapely.bounds(near)
    step = max(LEAST_CELL_M, max(high_e - low_e, high_n - low_n) / CELLS)
    east = np.arange(low_e, high_e + step, step)
    north = np.arange(low_n, high_n + step, step)
    e, n = np.meshgrid(east, north)
    level = np.asarray(ground.level_m(e, n), dtype=float)
    # Each cell by the fall across its middle, both ways together.
    rise_e = (level[:-1, 1:] + level[1:, 1:] - level[:-1, :-1] - level[1:, :-1]) / 2 / step
    rise_n = (level[1:, :-1] + level[1:, 1:] - level[:-1, :-1] - level[:-1, 1:]) / 2 / step
    with np.errstate(invalid="ignore"):
        steep = np.hypot(rise_e, rise_n) > constant("common", "plane_slope").value
    rows, columns = np.nonzero(steep)
    if not rows.size:
        return ()
    cells = shapely.box(
        east[columns] - HAIR_M,
        north[rows] - HAIR_M,
        east[columns] + step + HAIR_M,
        north[rows] + step + HAIR_M,
    )
    # Steps of the cells are no steps of the ground.
    area = shapely.simplify(shapely.buffer(shapely.union_all(cells), step / 2, quad_segs=2), step / 2)
    return (Dear("steep ground", area, times),)


def extra_m(dear: tuple[Dear, ...], lines: NDArray[np.object_]) -> Floats:
    """What each straight costs more than its length, in metres of plain trench."""
    more = np.zeros(len(lines))
    for one in dear:
        more += (one.times - 1) * within_m(one, lines)
    return more


def within_m(one: Dear, lines: NDArray[np.object_]) -> Floats:
    """How much of each straight lies in it."""
    found = np.zeros(len(lines))
    shapely.prepare(one.shape)
    meets = np.flatnonzero(shapely.intersects(one.shape, lines))
    found[meets] = shapely.length(shapely.intersection(lines[meets], one.shape))
    return found
