"""The light between tables that do not stand in one plane: rough ground, and level tables in steps.

A ray from a lower edge toward the sun passes the row in front ``d`` nearer and ``d * tan(turn)``
further along, where ``turn`` is the sun's bearing off square to the row. So a table may stand in the
shade of one that is a step higher, though the one right in front of it is low enough.
"""

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from openfurrow.core.quantities import round_up
from openfurrow.core.rows.lie import Lie

Floats = NDArray[np.float64]
Truths = NDArray[np.bool_]

# Rows in front that are looked past.
ROWS_AHEAD = 2
# The pitch is opened so often at most; a later look then says that it was not enough.
OPENINGS = 20


@dataclass(frozen=True)
class Sight:
    """A sun before the rows: its height per level length square to them, and how far it runs along."""

    rise: float
    along: float


@dataclass(frozen=True)
class Meeting:
    """Where a ray from a table's edge meets the upper edge of the table ``over`` places further along.

    ``own_m`` and ``other_m`` are measured from the two tables' middles, ``back_m`` is how far behind
    the lower edge the ray starts on the glass.
    """

    over: int
    own_m: float
    other_m: float
    back_m: float


def sights_of(lie: Lie, altitude_deg: ArrayLike, azimuth_deg: ArrayLike) -> list[Sight]:
    """The suns that stand up and before the rows; those behind them cast no row's shade backward."""
    setting = lie.tables.setting
    altitude, azimuth = np.radians(altitude_deg), np.radians(azimuth_deg)
    before = np.cos(azimuth - math.radians(setting.facing_deg))
    along = np.cos(azimuth - math.radians(setting.along_deg))
    seen = (before > 1e-6) & (altitude > 0)
    rise, run = np.tan(altitude[seen]) / before[seen], along[seen] / before[seen]
    return [Sight(float(r), float(a)) for r, a in zip(rise, run, strict=True)]


def needed_pitch_m(
    lie: Lie, altitude_deg: ArrayLike, azimuth_deg: ArrayLike, of: Truths | None = None
) -> float:
    """Level pitch that the tables as they lie ask for: at least theirs, and no row shades another.

    ``lie`` is that of a whole pattern; only the tables ``of`` it are looked at, if not all. Exact for
    straight edges: both edges are straight between the places where a table ends, so only those places
    are looked at. Minus infinity where nothing stands in front of anything.
    """
    tables = lie.tables
    depth = tables.section.level_depth_m
    needed = -math.inf
    for ahead in range(1, min(ROWS_AHEAD, int(tables.row.max())) + 1):
        gap = ahead * tables.pitch_m - depth
        for sight in sights_of(lie, altitude_deg, azimuth_deg):
            over = max(
                (_over_m(lie, ahead, sight, meeting, of) for meeting in _meetings(lie, gap, sight)),
                default=-math.inf,
            )
            needed = max(needed, (depth + over / sight.rise) / ahead)
    return needed


def _meetings(lie: Lie, gap_m: float, sight: Sight) -> Iterator[Meeting]:
    """The ends of every stretch of an edge that sees one and the same table."""
    tables = lie.tables
    half, step = _level_half_and_step_m(lie)
    shift = gap_m * sight.along
    nearest = math.floor((shift - 2 * half) / step)
    for over in range(nearest, nearest + 4):
        low, high = max(-half, over * step - half - shift), min(half, over * step + half - shift)
        if low <= high:
            for own in {low, high}:
                yield Meeting(over, own, own + shift - over * step, 0.0)
    if abs(sight.along) < 1e-9:
        return
    # From higher up the glass, at the end that is nearer to the sun, one more table comes in sight.
    toward = math.copysign(1.0, sight.along)
    for away in (0, 1, 2):
        over = int(toward) * (math.floor(abs(shift) / step) + away)
        back = (over * step - toward * 2 * half) / sight.along - gap_m
        if 0 < back <= tables.section.level_depth_m:
            yield Meeting(over, toward * half, -toward * half, back)


def _level_half_and_step_m(lie: Lie) -> tuple[float, float]:
    """Half a table and the step from table to table, level; on rough ground those of the mean."""
    tables, share = lie.tables, float(lie.tables.level_share.mean())
    length_m = float(tables.lengths_m[0])
    return length_m / 2 * share, (length_m + tables.gap_m) * share


def _over_m(lie: Lie, ahead: int, sight: Sight, meeting: Meeting, of: Truths | None) -> float:
    """The most by which an upper edge stands over the place on the glass that sees it."""
    tables = lie.tables
    count = tables.in_row
    behind = np.flatnonzero(
        (tables.row >= ahead)
        & (tables.table + meeting.over >= 0)
        & (tables.table + meeting.over < count)
    )
    front = behind - ahead * count + meeting.over
    if of is not None:
        both = of[behind] & of[front]
        behind, front = behind[both], front[both]
    if not behind.size:
        return -math.inf
    share = tables.level_share
    upper = lie.edge_at(front, meeting.other_m / share[front]) + tables.section.rise_m
    own = lie.edge_at(behind, meeting.own_m / share[behind])
    up = meeting.back_m * (math.tan(math.radians(tables.section.tilt_deg)) + sight.rise)
    return float((upper - own).max()) - up


def beside_m(
    lie: Lie, altitude_deg: ArrayLike, azimuth_deg: ArrayLike, of: Truths | None = None
) -> float:
    """The most by which a neighbour in the same row stands over the ray past it; below nought: clear.

    From a table's end the ray reaches the neighbour's end after the gap. It has risen by then, and the
    neighbour's glass is lower there, since the ray has run toward the sun as well. Under a level table
    that stands high enough it comes out at the front again.
    """
    tables = lie.tables
    if tables.in_row < 2:
        return -math.inf
    left = np.flatnonzero(tables.table < tables.in_row - 1)
    if of is not None:
        left = left[of[left] & of[left + 1]]
    if not left.size:
        return -math.inf
    half, depth = float(tables.lengths_m[0]) / 2, tables.section.level_depth_m
    step = lie.edge_at(left + 1, -half) - lie.edge_at(left, half)
    tilt = math.tan(math.radians(tables.section.tilt_deg))
    level = not lie.rise_along.any()
    gap = tables.gap_m * float(tables.level_share.min())
    worst = -math.inf
    for sight in sights_of(lie, altitude_deg, azimuth_deg):
        if abs(sight.along) < 1e-9:
            continue
        climb = sight.rise + tilt
        higher = math.copysign(1.0, sight.along) * step
        higher = higher[higher <= depth * climb] if level else higher
        # How far toward the sun the ray has run when it has crossed the gap.
        run = gap / abs(sight.along)
        if run <= depth and higher.size:
            worst = max(worst, float(higher.max()) - run * climb)
    return worst


def out_of_plane(lie: Lie, *, rough: bool) -> bool:
    """Whether rows stand behind each other whose tables do not all lie in one plane.

    ``rough``: the ground is a surveyed surface.
    """
    tables = lie.tables
    stepped = (
        tables.in_row > 1
        and not lie.rise_along.any()
        and not np.allclose(lie.edge_level_m, lie.edge_level_m[0], atol=1e-6)
    )
    return int(tables.row.max()) > 0 and (rough or stepped)


def opened(
    laid: Callable[[float], Lie], pitch_m: float, window: tuple[Floats, Floats], step_m: float
) -> tuple[float, Lie]:
    """Open the pitch until no table, as it lies, stands in another row's shade.

    ``laid`` lays the tables at a pitch; ``window`` are the sun's altitudes and azimuths, degrees.
    """
    lie = laid(pitch_m)
    for _ in range(OPENINGS):
        needed = needed_pitch_m(lie, *window)
        if needed <= pitch_m + 1e-9:
            break
        pitch_m = round_up(needed, step_m)
        lie = laid(pitch_m)
    return pitch_m, lie
