"""Arrays against each other: the clear way between them, and the shade that one throws on another."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.checks import Check, holds, within
from openfurrow.core.codes import constant
from openfurrow.core.rows.lie import Lie
from openfurrow.core.sun.plan import SunPlan
from openfurrow.core.working import Source

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

RAYS_OVER_GLASS = Source("straight rays from points on the glass over that of other arrays", "geometry")
# Points on a table from which the sun is looked for: along it and up its slope, its edges among them.
LOOKED_FROM = (13, 5)
# A point on the very edge lies this far in.
INSET = 1e-6
# Pairs of tables are looked at so many at a time.
AT_ONCE = 400
# Lower than this the sun has no strength, and every shadow reaches over the horizon.
LOWEST_SUN_DEG = 2.0


@dataclass(frozen=True)
class Faces:
    """The glass of every table as a flat piece: a corner and its two sides, (n, 3) each, metres."""

    corner_m: Floats
    along_m: Floats
    up_m: Floats

    @property
    def low_m(self) -> Floats:
        """The level of each one's lowest corner."""
        return np.asarray(self.corner_m[:, 2] + np.minimum(self.along_m[:, 2], 0.0))

    @property
    def top_m(self) -> Floats:
        """The level of each one's highest corner."""
        return np.asarray(self.corner_m[:, 2] + np.maximum(self.along_m[:, 2], 0.0) + self.up_m[:, 2])


def faces_of(lie: Lie) -> Faces:
    """The glass of an array's tables in space."""
    tables = lie.tables
    every, half = np.arange(len(tables.row)), tables.length_m / 2
    left, right = (lie.edge_at(every, tables.along_m(every, end)) for end in (-half, half))
    at = tables.corners
    corner = np.column_stack((at[:, 0], left))
    along = np.column_stack((at[:, 1] - at[:, 0], right - left))
    up = np.column_stack((at[:, 3] - at[:, 0], np.full(len(every), tables.section.rise_m)))
    return Faces(corner, along, up)


def toward_sun(altitude_deg: Floats, azimuth_deg: Floats) -> Floats:
    """Unit vectors to the sun, (n, 3): east, north, up."""
    altitude, azimuth = np.radians(altitude_deg), np.radians(azimuth_deg)
    level = np.cos(altitude)
    return np.column_stack((level * np.sin(azimuth), level * np.cos(azimuth), np.sin(altitude)))


def shaded(
    own: Faces, other: Faces, pairs: tuple[Integers, Integers], sun: Floats
) -> NDArray[np.bool_]:
    """Which pairs of a table of ``own`` and one of ``other`` have the sun hidden at any moment.

    A ray from a point of the first meets the plane of the second at t > 0; it is hidden where the
    place lies between that one's edges. ``sun`` (k, 3) points to it.
    """
    mine, theirs = pairs
    share = [np.linspace(INSET, 1 - INSET, count) for count in LOOKED_FROM]
    a, b = (grid.ravel()[None, :, None] for grid in np.meshgrid(*share))
    points = own.corner_m[mine, None] + a * own.along_m[mine, None] + b * own.up_m[mine, None]
    along, up = other.along_m[theirs], other.up_m[theirs]
    normal = np.cross(along, up)
    facing = normal @ sun.T
    # Of a ray along the glass nothing is said: it meets the edge, not the face.
    steep = np.where(np.abs(facing) > 1e-9, facing, np.nan)
    off = other.corner_m[theirs, None] - points
    far = np.einsum("pni,pi->pn", off, normal)[:, :, None] / steep[:, None, :]
    # Sides that give how far along and up a place lies, whatever their angle.
    share_along = np.cross(up, normal)
    share_along /= np.einsum("pi,pi->p", along, share_along)[:, None]
    share_up = np.cross(normal, along)
    share_up /= np.einsum("pi,pi->p", up, share_up)[:, None]
    hidden = far > 0
    for axis in (share_along, share_up):
        place = far * (axis @ sun.T)[:, None, :] - np.einsum("pni,pi->pn", off, axis)[:, :, None]
        hidden &= (place >= 0) & (place <= 1)
    return np.asarray(hidden.any(axis=(1, 2)))


def _near(own: Lie, other: Lie, reach_m: float) -> Iterator[tuple[Integers, Integers]]:
    """Pairs of tables near enough for a shadow, some at a time."""
    tree = shapely.STRtree(other.tables.outlines)
    mine, theirs = tree.query(own.tables.outlines, predicate="dwithin", distance=reach_m)
    for start in range(0, mine.size, AT_ONCE):
        part = slice(start, start + AT_ONCE)
        yield mine[part], theirs[part]


def shaded_tables(own: Lie, other: Lie, altitude_deg: Floats, azimuth_deg: Floats) -> int:
    """How many tables lose the sun to another array, in part or whole, at any of these moments."""
    up = altitude_deg >= LOWEST_SUN_DEG
    if not up.any():
        return 0
    mine, theirs = faces_of(own), faces_of(other)
    over = float(theirs.top_m.max() - mine.low_m.min())
    if over <= 0:
        return 0
    reach = over / float(np.tan(np.radians(altitude_deg[up].min())))
    sun = toward_sun(altitude_deg[up], azimuth_deg[up])
    hit: set[int] = set()
    for pairs in _near(own, other, reach):
        hit |= set(pairs[0][shaded(mine, theirs, pairs, sun)].tolist())
    return len(hit)


def clear_m(own: Lie, other: Lie) -> float:
    """The least level distance between the glass of two arrays; nought where they overlap."""
    tree = shapely.STRtree(other.tables.outlines)
    _, distance = tree.query_nearest(own.tables.outlines, return_distance=True, all_matches=False)
    return float(distance.min())


def between_checks(
    names: tuple[str, ...], lies: tuple[Lie, ...], sun: SunPlan
) -> tuple[tuple[Check, ...], ...]:
    """For each array what stands between it and the others; nothing where it is alone."""
    if len(lies) < 2:
        return ((),) * len(lies)
    return tuple(_of(number, names, lies, sun) for number in range(len(lies)))


def _of(
    number: int, names: tuple[str, ...], lies: tuple[Lie, ...], sun: SunPlan
) -> tuple[Check, ...]:
    own = lies[number]
    others = [other for other in range(len(lies)) if other != number]
    apart = {other: clear_m(own, lies[other]) for other in others}
    nearest = min(apart, key=lambda other: apart[other])
    losing = {
        other: shaded_tables(own, lies[other], sun.window_altitude_deg, sun.window_azimuth_deg)
        for other in others
    }
    by = [f"{count} of {len(own.tables.row)} by {names[other]}"
          for other, count in losing.items() if count]
    return (
        within(
            "rows", "apart", "Arrays stand clear of each other", apart[nearest],
            constant("common", "walk_between_m"), "run", most=False,
            remedy=f"Move it off {names[nearest]}: room to walk and work between them.",
            given="rows.at_north_m",
        ),
        holds(
            "rows", "shade_other", "No other array shades this one in the winter window", not by,
            f"tables shaded: {'; '.join(by[:3])}" if by else "none shaded", "none shaded",
            remedy="Stand it further off, lower the one toward the sun, or accept winter shade there.",
            source=RAYS_OVER_GLASS, given="rows.at_north_m", otherwise="look",
        ),
    )
