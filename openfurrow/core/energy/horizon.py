"""How high what stands around reaches into the sky, seen from a place: hills, crowns, walls."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.energy.sky import Sky
from openfurrow.core.rows.shade import LEAST_CROWN_M, Standing

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
    for crown, (wide, tall) in zip(standing.crowns, standing.radii_m.tolist(), strict=True):
        if wide < LEAST_CROWN_M:
            continue
        gone = crown[None, :2] - places_m[:, :2]
        half = np.arcsin(np.minimum(wide / np.maximum(np.hypot(*gone.T), wide), 1.0))
        half = np.where(half > np.pi / 2 - 1e-9, np.pi, half)
        for seen in _sectors(np.arctan2(*gone.T), half):
            height = _over_crown(crown, (wide, tall), places_m[seen.places], seen.ways)
            seen.raise_to(found, height)
    for wall, top in zip(standing.walls, standing.tops_m.tolist(), strict=True):
        ends = [np.arctan2(*(end[None, :] - places_m[:, :2]).T) for end in wall]
        half = ((ends[1] - ends[0] + np.pi) % (2 * np.pi) - np.pi) / 2
        for seen in _sectors(ends[0] + half, np.abs(half)):
            seen.raise_to(found, _over_wall(wall, top, places_m[seen.places], seen.ways))
    return found


@dataclass(frozen=True)
class _Seen:
    """Places that see a thing within equally many sectors: (n) and (n, sectors)."""

    places: Integers
    sectors: Integers

    @property
    def ways(self) -> Floats:
        """Directions east and north, (n, sectors, 2)."""
        turn = np.radians((self.sectors + 0.5) * STEP_DEG)
        return np.stack((np.sin(turn), np.cos(turn)), axis=-1)

    def raise_to(self, horizons: Floats, height_deg: Floats) -> None:
        """Raise the horizons of these places where the thing stands higher."""
        at = self.places[:, None], self.sectors
        horizons[at] = np.maximum(horizons[at], height_deg)


def _sectors(middle: Floats, half: Floats) -> Iterator[_Seen]:
    """Which sectors a thing lies in that is seen at a bearing to so far on either side, radians.

    Far away that are few: places are taken together by powers of two of their number.
    """
    first = np.floor(np.degrees(middle - half) / STEP_DEG).astype(np.int64) - 1
    count = np.ceil(np.degrees(2 * half) / STEP_DEG).astype(np.int64) + 3
    size = np.minimum(2 ** np.ceil(np.log2(count)).astype(np.int64), BEARINGS)
    for of in np.unique(size).tolist():
        places = np.flatnonzero(size == of)
        yield _Seen(places, (first[places, None] + np.arange(of)) % BEARINGS)


def _over_crown(crown: Floats, radii: tuple[float, float], places: Floats, ways: Floats) -> Floats:
    """The tangent over an ellipsoid in each upright plane: (n, sectors), degrees, nought beside it.

    A plane at a bearing cuts it in an ellipse of half axes a, b with its middle D away and z up; the
    tangent's slope m has (z - m D)² = b² + m² a².
    """
    wide, tall = radii
    gone = crown[None, :2] - places[:, :2]
    away = np.einsum("nk,nsk->ns", gone, ways)
    far_2 = (gone**2).sum(axis=1)[:, None]
    up = (crown[2] - places[:, 2])[:, None]
    share = np.clip(1.0 - (far_2 - away**2) / wide**2, 0.0, None)
    a_2, b_2 = wide**2 * share, tall**2 * share
    under = away**2 - a_2
    with np.errstate(invalid="ignore", divide="ignore"):
        root = np.sqrt(np.maximum(b_2 * under + a_2 * up**2, 0.0))
        height = np.degrees(np.arctan((away * up + root) / under))
    # Who stands under the crown looks into it wherever it is.
    below = (far_2 < wide**2) & (under <= 0)
    seen = np.where(below, 90.0, np.where((away > 0) & (under > 0), height, 0.0))
    covered = (share > 0) & (up + np.sqrt(b_2) > 0)
    return np.where(covered, np.maximum(seen, 0.0), 0.0)


def _over_wall(wall: Floats, top: float, places: Floats, ways: Floats) -> Floats:
    """Over an upright wall where a ray at a bearing meets it: (n, sectors), degrees."""
    start = (wall[0] - places[:, :2])[:, None, :]
    run = wall[1] - wall[0]
    across = ways[..., 0] * run[1] - ways[..., 1] * run[0]
    safe = np.where(np.abs(across) < 1e-12, np.inf, across)
    away = (start[..., 0] * run[1] - start[..., 1] * run[0]) / safe
    share = (start[..., 0] * ways[..., 1] - start[..., 1] * ways[..., 0]) / safe
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
