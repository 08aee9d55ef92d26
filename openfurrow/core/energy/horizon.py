"""How high what stands around reaches into the sky, seen from a place: hills, crowns, walls."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.energy.sky import Sky
from openfurrow.core.rows.shade import Standing

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

# Bearings at which a horizon is kept, evenly from north clockwise.
BEARINGS = 180
STEP_DEG = 360.0 / BEARINGS
# Rays that are worked out at once, so that a map of a large site fits the memory.
AT_ONCE = 4_000_000


@dataclass(frozen=True)
class FarHorizon:
    """Hills as an inclinometer reads them: bearings, ascending, and heights, degrees; may be empty."""

    bearing_deg: tuple[float, ...]
    height_deg: tuple[float, ...]

    def heights(self) -> Floats:
        """By ``BEARINGS``: straight from reading to reading, all the way round."""
        if not self.bearing_deg:
            return np.zeros(BEARINGS)
        return np.asarray(
            np.interp(bearings_deg(), self.bearing_deg, self.height_deg, period=360.0), dtype=float
        )


NO_HILLS = FarHorizon((), ())


def bearings_deg() -> Floats:
    """The bearings of a horizon: middles of its sectors."""
    return np.asarray((np.arange(BEARINGS) + 0.5) * STEP_DEG)


def horizons_deg(standing: Standing, far: FarHorizon, places_m: Floats) -> Floats:
    """The horizon of each place (n, 3): degrees by bearing, (n, BEARINGS).

    A crown is taken for closed down to the ground: what shines in under it is not counted.
    """
    things = max(1, len(standing.walls) + len(standing.crowns))
    together = max(1, AT_ONCE // (things * BEARINGS))
    parts = [
        _some(standing, far, places_m[start : start + together])
        for start in range(0, max(len(places_m), 1), together)
    ]
    return np.vstack(parts)


def _some(standing: Standing, far: FarHorizon, places_m: Floats) -> Floats:
    found = np.broadcast_to(far.heights(), (len(places_m), BEARINGS)).copy()
    turn = np.radians(bearings_deg())
    ways = np.stack((np.sin(turn), np.cos(turn)), axis=1)
    for crown, (wide, tall) in zip(standing.crowns, standing.radii_m, strict=True):
        np.maximum(found, _over_crown(crown, float(wide), float(tall), places_m, ways), out=found)
    for wall, top in zip(standing.walls, standing.tops_m, strict=True):
        np.maximum(found, _over_wall(wall, float(top), places_m, ways), out=found)
    return found


def _over_crown(crown: Floats, wide: float, tall: float, places: Floats, ways: Floats) -> Floats:
    """The tangent over an ellipsoid in each upright plane: (n, bearings), degrees, nought beside it.

    A plane at a bearing cuts it in an ellipse of half axes a, b with its middle D away and z up; the
    tangent's slope m has (z - m D)² = b² + m² a².
    """
    if wide < 1e-3:
        return np.zeros((len(places), len(ways)))
    gone = crown[None, :2] - places[:, :2]
    away = gone @ ways.T
    beside_2 = (gone**2).sum(axis=1)[:, None] - away**2
    up = (crown[2] - places[:, 2])[:, None]
    share = np.clip(1.0 - beside_2 / wide**2, 0.0, None)
    a_2, b_2 = wide**2 * share, tall**2 * share
    under = away**2 - a_2
    with np.errstate(invalid="ignore", divide="ignore"):
        root = np.sqrt(np.maximum(b_2 * under + a_2 * up**2, 0.0))
        slope = (away * up + root) / under
    height = np.degrees(np.arctan(slope))
    # Who stands under the crown looks into it wherever it is.
    inside = (gone**2).sum(axis=1)[:, None] < wide**2
    covered = (share > 0) & (up + np.sqrt(b_2) > 0)
    seen = np.where(inside & (under <= 0), 90.0, np.where((away > 0) & (under > 0), height, 0.0))
    return np.where(covered, np.maximum(seen, 0.0), 0.0)


def _over_wall(wall: Floats, top: float, places: Floats, ways: Floats) -> Floats:
    """Over an upright wall where a ray at a bearing meets it: (n, bearings), degrees."""
    start = wall[0] - places[:, :2]
    run = wall[1] - wall[0]
    across = ways[:, 0] * run[1] - ways[:, 1] * run[0]
    safe = np.where(np.abs(across) < 1e-12, np.inf, across)
    away = (start[:, :1] * run[1] - start[:, 1:] * run[0]) / safe
    share = (start[:, :1] * ways[:, 1] - start[:, 1:] * ways[:, 0]) / safe
    met = (away > 1e-9) & (share >= 0) & (share <= 1)
    height = np.degrees(np.arctan2((top - places[:, 2])[:, None], np.maximum(away, 1e-9)))
    return np.where(met, np.maximum(height, 0.0), 0.0)


def behind(horizons: Floats, sky: Sky) -> NDArray[np.bool_]:
    """Whether the sun stands behind each horizon: (n, steps)."""
    sector = np.asarray(sky.azimuth_deg // STEP_DEG, dtype=np.int64) % BEARINGS
    return np.asarray(sky.altitude_deg[None, :] < horizons[:, sector])


# Heights at which the even sky is summed.
LEVELS = 30


def sky_seen(horizons: Floats, normals: Floats) -> tuple[Floats, Floats]:
    """Share of the even sky's light on planes, and of the horizon's, over horizons: (n) each.

    ``normals`` (n, 3) are the planes'; a plane that sees no sky keeps all of nothing.
    """
    level = (np.arange(LEVELS) + 0.5) / LEVELS * 90.0
    turn, up = np.radians(bearings_deg())[:, None], np.radians(level)[None, :]
    to = np.stack(
        np.broadcast_arrays(np.sin(turn) * np.cos(up), np.cos(turn) * np.cos(up), np.sin(up)), axis=-1
    )
    weight = np.maximum(np.einsum("ni,bli->nbl", normals, to), 0.0) * np.cos(up)
    total = weight.sum(axis=(1, 2))
    # A level that a horizon cuts counts in part.
    share = np.clip((level[None, None, :] - horizons[:, :, None]) / (90.0 / LEVELS) + 0.5, 0.0, 1.0)
    seen = (weight * share).sum(axis=(1, 2)) / np.where(total > 0, total, 1.0)
    low = weight[:, :, 0]
    low_total = low.sum(axis=1)
    band = np.clip(1.0 - horizons / 6.5, 0.0, 1.0)
    return (
        np.where(total > 0, seen, 1.0),
        np.where(
            low_total > 0, (low * band).sum(axis=1) / np.where(low_total > 0, low_total, 1.0), 1.0
        ),
    )
