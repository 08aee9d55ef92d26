"""Arrays against each other: the clear way between them, and the shade that one throws on another."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from itertools import product

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.checks import Check, holds, within
from openfurrow.core.codes import constant
from openfurrow.core.rows.lie import Lie
from openfurrow.core.rows.shade import toward_sun
from openfurrow.core.sun.plan import SunPlan
from openfurrow.core.working import Source

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]
Outlines = NDArray[np.object_]

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
class Stood:
    """An array at each of the tilts that it is set to, and the ground that it takes at each."""

    lies: tuple[Lie, ...]
    taken: tuple[Outlines, ...]


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
    every, half = np.arange(tables.count), tables.lengths_m / 2
    left, right = (lie.edge_at(every, end) for end in (-half, half))
    at = tables.corners
    corner = np.column_stack((at[:, 0], left))
    along = np.column_stack((at[:, 1] - at[:, 0], right - left))
    up = np.column_stack((at[:, 3] - at[:, 0], np.full(len(every), tables.section.rise_m)))
    return Faces(corner, along, up)


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
    reach = reach_m(own, other, altitude_deg)
    if reach <= 0:
        return 0
    mine, theirs = faces_of(own), faces_of(other)
    sun = toward_sun(altitude_deg[up], azimuth_deg[up])
    hit: set[int] = set()
    for pairs in _near(own, other, reach):
        hit |= set(pairs[0][shaded(mine, theirs, pairs, sun)].tolist())
    return len(hit)


def shaded_by_each(
    lie: Lie, apart: Integers, altitude_deg: Floats, azimuth_deg: Floats
) -> list[tuple[int, int]]:
    """Which table of an array stands in the shade of which, where either is one of ``apart``."""
    up = altitude_deg >= LOWEST_SUN_DEG
    reach = reach_m(lie, lie, altitude_deg)
    if reach <= 0:
        return []
    faces, sun = faces_of(lie), toward_sun(altitude_deg[up], azimuth_deg[up])
    outlines = lie.tables.outlines
    own, near = shapely.STRtree(outlines).query(outlines[apart], predicate="dwithin", distance=reach)
    own = apart[own]
    both = np.vstack((np.column_stack((own, near)), np.column_stack((near, own))))
    both = np.unique(both[both[:, 0] != both[:, 1]], axis=0)
    found: list[tuple[int, int]] = []
    for start in range(0, len(both), AT_ONCE):
        part = both[start : start + AT_ONCE]
        hit = shaded(faces, faces, (part[:, 0], part[:, 1]), sun)
        found += [(one, by) for one, by in part[hit].tolist()]
    return found


def reach_m(own: Lie, other: Lie, altitude_deg: Floats) -> float:
    """The longest shadow that another array's highest glass throws over this one's lowest."""
    over = float(faces_of(other).top_m.max() - faces_of(own).low_m.min())
    return max(0.0, over) * _per_metre(altitude_deg)


def _per_metre(altitude_deg: Floats) -> float:
    """How long the shadow of a metre is at the lowest of these moments; nought with the sun down."""
    up = altitude_deg[altitude_deg >= LOWEST_SUN_DEG]
    return 1 / float(np.tan(np.radians(up.min()))) if up.size else 0.0


def clear_m(own: Outlines, other: Outlines) -> float:
    """The least level distance between what two arrays take; nought where they overlap."""
    tree = shapely.STRtree(other)
    _, distance = tree.query_nearest(own, return_distance=True, all_matches=False)
    return float(distance.min())


@dataclass(frozen=True)
class Met:
    """What two arrays are to each other: how far apart, how many tables of each the other shades."""

    clear_m: float
    first_shaded: int
    second_shaded: int


def meet(first: Stood, second: Stood, sun: SunPlan) -> Met:
    """Two arrays against each other through the winter window, at the worst of all their tilts."""
    window = sun.window_altitude_deg, sun.window_azimuth_deg
    pairs = list(product(first.lies, second.lies))
    return Met(
        min(clear_m(one, other) for one, other in product(first.taken, second.taken)),
        max(shaded_tables(one, other, *window) for one, other in pairs),
        max(shaded_tables(other, one, *window) for one, other in pairs),
    )


def neighbours(arrays: tuple[Stood, ...], sun: SunPlan) -> tuple[tuple[int, int], ...]:
    """Pairs that can shade each other or be the nearest, by the boxes round them: the lower first.

    What is left out stands further off than any shadow reaches, and than some other array.
    """
    outlines = [np.concatenate(one.taken) for one in arrays]
    boxes = np.array([shapely.total_bounds(one) for one in outlines])
    gap = np.maximum(boxes[:, None, :2] - boxes[None, :, 2:], boxes[None, :, :2] - boxes[:, None, 2:])
    least = np.hypot(*np.moveaxis(np.maximum(gap, 0.0), -1, 0))
    # From anywhere in one box to anywhere in the other it is no further than this.
    most = np.hypot(
        *np.moveaxis(
            np.maximum(
                boxes[:, None, 2:] - boxes[None, :, :2], boxes[None, :, 2:] - boxes[:, None, :2]
            ),
            -1,
            0,
        )
    )
    np.fill_diagonal(most, np.inf)
    faces = [[faces_of(lie) for lie in one.lies] for one in arrays]
    low = np.array([min(face.low_m.min() for face in one) for one in faces])
    top = np.array([max(face.top_m.max() for face in one) for one in faces])
    over = np.maximum(top[:, None] - low, top - low[:, None])
    reach = np.maximum(over, 0.0) * _per_metre(sun.window_altitude_deg)
    nearest = np.maximum(most.min(axis=0)[:, None], most.min(axis=0))
    pairs = np.argwhere(np.triu(least <= np.maximum(reach, nearest), 1))
    return tuple((first, second) for first, second in pairs.tolist())


def between_checks(
    names: tuple[str, ...], tables: tuple[int, ...], met: Mapping[tuple[int, int], Met]
) -> tuple[tuple[Check, ...], ...]:
    """For each array what stands between it and the others; ``tables`` is how many each has."""
    return tuple(_of(number, names, tables[number], met) for number in range(len(names)))


def _of(
    number: int, names: tuple[str, ...], tables: int, met: Mapping[tuple[int, int], Met]
) -> tuple[Check, ...]:
    own = {pair: one for pair, one in met.items() if number in pair}
    nearest = min(own, key=lambda pair: own[pair].clear_m)
    by = []
    for (first, second), one in own.items():
        count, other = (one.first_shaded, second) if first == number else (one.second_shaded, first)
        if count:
            by.append(f"{count} of {tables} by {names[other]}")
    nearby = names[nearest[0] if nearest[1] == number else nearest[1]]
    return (
        within(
            "rows",
            "apart",
            "Arrays stand clear of each other",
            own[nearest].clear_m,
            constant("common", "walk_between_m"),
            "run",
            most=False,
            remedy=f"Move it off {nearby}: room to walk and work between them.",
            given="rows.at_north_m",
        ),
        holds(
            "rows",
            "shade_other",
            "No other array shades this one in the winter window",
            not by,
            f"tables shaded: {'; '.join(by[:3])}" if by else "none shaded",
            "none shaded",
            remedy="Stand it further off, lower the one toward the sun, or accept winter shade there.",
            source=RAYS_OVER_GLASS,
            given="rows.at_north_m",
            otherwise="look",
        ),
    )
