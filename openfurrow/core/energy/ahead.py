"""What the tables before a table take: the band of shade on its glass, and a part of its sky."""

from dataclasses import dataclass, fields, replace

import numpy as np
from numpy.typing import ArrayLike, NDArray

from openfurrow.core.energy.sky import Sky
from openfurrow.core.rows.geometry import TableSection

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

# Places up the glass at which the sky is looked at.
SLICES = 24
# The light along the horizon lies no higher than this.
BAND_DEG = 6.5
# The least slope of light, so that it comes from somewhere.
FLATTEST = 1e-3


@dataclass(frozen=True)
class Ahead:
    """Tables of a kind, and what stands before them: columns (kinds, tables ahead).

    ``before_m`` is the level distance from the lower edge forward to the other's upper edge, and
    ``over_m`` how far that stands over the lower edge; infinite and nought where there is none.
    ``from_m`` to ``to_m`` is the other along, counted from the middle, of a table ``length_m`` (kinds)
    long. ``rise`` (kinds) is the climb along, toward ``along_deg``.
    """

    before_m: Floats
    over_m: Floats
    from_m: Floats
    to_m: Floats
    length_m: Floats
    rise: Floats

    def take(self, which: Integers) -> "Ahead":
        """Those of some of the kinds."""
        return replace(self, **{one.name: getattr(self, one.name)[which] for one in fields(self)})


@dataclass(frozen=True)
class Band:
    """The band of shade over steps, (kinds, steps): how high up the glass, over what share along."""

    height_m: Floats
    along: Floats


def level_bearing(bearing_deg: ArrayLike) -> Floats:
    """The directions of bearings: east, north; (..., 2)."""
    turn = np.radians(bearing_deg)
    return np.stack((np.sin(turn), np.cos(turn)), axis=-1)


def band(
    ahead: Ahead, section: TableSection, sky: Sky, facing_deg: ArrayLike, along_deg: ArrayLike
) -> Band:
    """The band under each sun that stands before the tables; of several ahead the higher one.

    ``facing_deg`` and ``along_deg`` are those of all kinds, or of each.

    In the section square to the table a ray from the other's upper edge, ``before`` away and ``over``
    above, falls by the sun's slope and meets the glass ``s`` up it:
    s = (over - before * tan p) / (sin b + cos b * tan p).
    """
    square = level_bearing(np.atleast_1d(facing_deg)) @ sky.toward[:, :2].T
    aside = level_bearing(np.atleast_1d(along_deg)) @ sky.toward[:, :2].T
    seen = (square > 1e-6) & (sky.toward[:, 2] > 0)
    per = np.where(seen, square, 1.0)
    sideways = np.where(seen, aside / per, 0.0)
    # A row that climbs along is the same figure sheared: so is the sun's slope. Light that comes
    # flatter than the row climbs comes through the ground.
    rise = ahead.rise if np.ptp(ahead.rise) else ahead.rise[:1]
    slope = np.maximum(sky.toward[:, 2] / per - rise[:, None] * sideways, FLATTEST)
    # Higher than this no edge throws its shade as far as the next glass.
    highest = (ahead.over_m / np.maximum(ahead.before_m, 1e-9)).max(initial=0.0)
    low = (seen & (slope < highest)).any(axis=0)
    kinds, steps = len(ahead.length_m), len(sky.at)
    found = Band(np.zeros((kinds, steps)), np.zeros((kinds, steps)))
    height, along = _bands(ahead, section, slope[:, low], sideways[:, low])
    height = np.where(seen[:, low], height, 0.0)
    along = np.where(height > 0, along, 0.0)
    found.height_m[:, low], found.along[:, low] = height, along
    return found


def _bands(
    ahead: Ahead, section: TableSection, slope: Floats, sideways: Floats
) -> tuple[Floats, Floats]:
    """Height and share along, of suns that stand low before the tables."""
    sine, cosine = np.sin(np.radians(section.tilt_deg)), np.cos(np.radians(section.tilt_deg))
    over_glass = 1.0 / (sine + cosine * slope)
    half = ahead.length_m[:, None] / 2
    height = np.zeros((len(ahead.length_m), slope.shape[1]))
    along = height.copy()
    for number in range(ahead.before_m.shape[1]):
        there = np.isfinite(ahead.before_m[:, number, None])
        before = np.where(there, ahead.before_m[:, number, None], 0.0)
        up = np.clip(
            (ahead.over_m[:, number, None] - before * slope) * over_glass, 0.0, section.chord_m
        )
        moved = before * sideways
        ends = (
            np.minimum(ahead.to_m[:, number, None] - moved, half),
            np.maximum(ahead.from_m[:, number, None] - moved, -half),
        )
        share = np.clip((ends[0] - ends[1]) / ahead.length_m[:, None], 0.0, 1.0)
        up = np.where(there & (share > 0), up, 0.0)
        # Bands of several are taken for one, as high and as long as either.
        along = np.where(up > 0, np.maximum(along, share), along)
        height = np.maximum(height, up)
    return height, along


def sky_left(ahead: Ahead, section: TableSection) -> tuple[Floats, Floats]:
    """Share of the even sky's light, and of the horizon's, that the tables ahead leave: (kinds) each.

    Averaged up the glass, each place seeing the sky down to the highest of the edges before it; the
    tables ahead are taken to be long.
    """
    tilt = np.radians(section.tilt_deg)
    up = (np.arange(SLICES) + 0.5) / SLICES * section.chord_m
    level, rise = up * np.cos(tilt), up * np.sin(tilt)
    before, over = ahead.before_m[..., None], ahead.over_m[..., None]
    seen = np.isfinite(before)
    away = np.where(seen, before, 1.0) + level
    mask = np.where(seen, np.arctan2(over - rise, away), 0.0).max(axis=1, initial=0.0)
    mask = np.maximum(mask, 0.0)
    sky = (1.0 + np.cos(tilt + mask)).mean(axis=-1) / (1.0 + np.cos(tilt))
    horizon = np.clip(1.0 - np.degrees(mask) / BAND_DEG, 0.0, 1.0).mean(axis=-1)
    return np.asarray(sky), np.asarray(horizon)


def of_pattern(section: TableSection, pitch_m: float, *, half_m: float = 1e6) -> Ahead:
    """A row ``2 * half_m`` long behind others like it on a slope."""
    before = pitch_m - section.level_depth_m
    over = section.rise_m - section.rise_back * pitch_m
    one = np.ones((1, 1))
    ends, long = one * half_m, np.array([2 * half_m])
    return Ahead(one * before, one * over, -ends, ends, long, np.zeros(1))
