"""Where on the ground the sun is: the year's sky summed once, a horizon for every spot."""

from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.energy.horizon import (
    BEARINGS,
    STEP_DEG,
    FarHorizon,
    bearings_deg,
    horizons_deg,
)
from openfurrow.core.energy.plane import on_plane
from openfurrow.core.energy.sky import Sky
from openfurrow.core.rows.shade import Standing
from openfurrow.core.site.ground import Ground
from openfurrow.core.year_days import DAYS_OF_MONTH

Floats = NDArray[np.float64]

# Heights of a horizon that are told apart.
LEVELS = 91
MOST_SPOTS, MOST_TRIED = 10_000, 400_000
# Where glass is: the spots are looked from so high over the ground.
GLASS_OVER_M = 1.2


@dataclass(frozen=True)
class SkySums:
    """What of a year's light on a plane comes from over each height at each bearing, kWh/m².

    ``beam`` and ``even`` are (BEARINGS, LEVELS): the sum of all that lies higher; ``ground`` comes
    whatever stands around. ``hours`` (12, BEARINGS, LEVELS) are those of sun on a day of each month.
    """

    beam: Floats
    even: Floats
    ground: float
    hours: Floats

    @property
    def whole(self) -> float:
        """With nothing around."""
        return float(self.beam[:, 0].sum() + self.even[:, 0].sum() + self.ground)

    def left(self, horizons: Floats) -> Floats:
        """What is left over horizons (n, BEARINGS): kWh/m² of a year."""
        return np.asarray(self._over(self.beam + self.even, horizons) + self.ground)

    def open_hours(self, horizons: Floats) -> Floats:
        """Hours of open sun on a day of each month, (n, 12), by the sun's way alone, cloud or none."""
        return np.stack([self._over(month, horizons) for month in self.hours], axis=1)

    def _over(self, sums: Floats, horizons: Floats) -> Floats:
        """Summed over bearings, straight between two heights."""
        at = np.clip(horizons, 0.0, LEVELS - 1.001)
        low = at.astype(np.int64)
        share = at - low
        bearing = np.arange(BEARINGS)[None, :]
        under, over = sums[bearing, low], sums[bearing, low + 1]
        return np.asarray((under + (over - under) * share).sum(axis=1))


def sky_sums(sky: Sky, normal: Floats, albedo: float) -> SkySums:
    """The year once, for a plane whose normal is given."""
    light = on_plane(sky, normal[None, :], albedo)
    to_kwh = sky.step_h / 1000.0
    up = sky.altitude_deg > 0
    sector = np.asarray(sky.azimuth_deg // STEP_DEG, dtype=np.int64) % BEARINGS
    level = np.clip(sky.altitude_deg, 0.0, LEVELS - 1.001).astype(np.int64)

    def above(weight: Floats) -> Floats:
        sums = np.zeros((BEARINGS, LEVELS))
        np.add.at(sums, (sector[up], level[up]), weight[up])
        return np.asarray(np.cumsum(sums[:, ::-1], axis=1)[:, ::-1])

    days = DAYS_OF_MONTH
    hours = np.stack(
        [above(np.where(sky.month == month, sky.step_h / days[month], 0.0)) for month in range(12)]
    )
    even = float((light.sky + light.horizon).sum()) * to_kwh
    return SkySums(
        beam=above(light.beam[0] * to_kwh),
        even=even * _even_above(normal),
        ground=float(light.ground.sum()) * to_kwh,
        hours=hours,
    )


def _even_above(normal: Floats) -> Floats:
    """Share of the even sky's light on a plane from over each height at each bearing."""
    middles = np.arange(LEVELS) + 0.5
    turn, up = np.radians(bearings_deg())[:, None], np.radians(middles)[None, :]
    to = np.stack(
        np.broadcast_arrays(np.sin(turn) * np.cos(up), np.cos(turn) * np.cos(up), np.sin(up)), axis=-1
    )
    weight = np.maximum(to @ normal, 0.0) * np.cos(up)
    weight[:, -1] = 0.0
    return np.asarray(np.cumsum(weight[:, ::-1], axis=1)[:, ::-1] / weight.sum())


@dataclass(frozen=True)
class SunMap:
    """Spots (n, 2) a step apart, and what of a year's light each keeps, kWh/m².

    ``whole`` is what a spot with nothing around would have.
    """

    places_m: Floats
    step_m: float
    light: Floats
    whole: float


def spots(area: shapely.Geometry, most: int = MOST_SPOTS) -> tuple[Floats, float]:
    """A square grid of at most so many places inside an area, and its step.

    One place at the least, however small the area; no finer than its box can be looked through.
    """
    west, south, east, north = area.bounds
    box = (east - west) * (north - south)
    step = max(0.5, float(np.sqrt(max(area.area, 1.0) / most)), float(np.sqrt(box / MOST_TRIED)))
    # What a grid cuts off at the edges may bring a few more than the area says.
    while True:
        x = np.arange(west + step / 2, east, step)
        y = np.arange(south + step / 2, north, step)
        grid = np.stack(np.meshgrid(x, y), axis=-1).reshape(-1, 2)
        inside = grid[shapely.contains_xy(area, grid[:, 0], grid[:, 1])] if len(grid) else grid
        if not len(inside):
            return shapely.get_coordinates(shapely.point_on_surface(area)), step
        if len(inside) <= most:
            return inside, step
        step *= 1.05


def on_ground(ground: Ground, places_m: Floats) -> Floats:
    """Places as glass stands over them, (n, 3)."""
    level = ground.level_m(places_m[:, 0], places_m[:, 1]) + GLASS_OVER_M
    return np.column_stack((places_m, level))


def sun_map(
    sums: SkySums, standing: Standing, far: FarHorizon, ground: Ground, area: shapely.Geometry
) -> SunMap:
    """The light of every spot of an area, what stands on the site and around it counted."""
    places, step = spots(area)
    horizons = horizons_deg(standing, far, on_ground(ground, places))
    return SunMap(places, step, sums.left(horizons), sums.whole)


def takes_of_things(sums: SkySums, standing: Standing, far: FarHorizon, places_m: Floats) -> Floats:
    """What each thing takes that nothing else would: share of a year's light, the places' mean.

    What two trees take together goes by neither of them alone.
    """
    whole = sums.left(horizons_deg(standing, far, places_m)).mean()
    rests = (_without(standing, index) for index in range(len(standing.names)))
    gained = [sums.left(horizons_deg(rest, far, places_m)).mean() - whole for rest in rests]
    return np.array(gained) / sums.whole


def _without(standing: Standing, index: int) -> Standing:
    walls, crowns = standing.wall_of != index, standing.crown_of != index
    return Standing(
        standing.names,
        standing.walls[walls],
        standing.tops_m[walls],
        standing.wall_of[walls],
        standing.crowns[crowns],
        standing.radii_m[crowns],
        standing.crown_of[crowns],
        standing.no_height,
    )
