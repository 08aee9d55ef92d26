"""Light that comes back from the ground between and below the rows, onto the glass and its back.

In the section square to the rows the ground is a line. Each place of it is lit by the sun unless a
shadow lies there, and by as much of the sky as the rows leave; what a face sees of each place is
weighed once, so that an hour's shadow is an interval of a running sum.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.energy.ahead import level_bearing
from openfurrow.core.energy.sky import Sky
from openfurrow.core.rows.geometry import TableSection

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

# How far to either side the ground is weighed, in chords: one row by itself, and one of many. Into so
# many places, the nearer the closer together.
REACH_ALONE, REACH_CHORDS, PLACES, NEAR = 60.0, 10.0, 200, 0.3
SLICES = 8
# Directions in which a place of the ground looks for sky, rows on either side that it looks past, and
# places of one pitch that are looked from.
LOOKS, ROWS_PAST, WITHIN = 48, 3, 24
LOWEST_SLOPE = 0.02
# Throws of shadows at which the ground in shadow is weighed, evenly apart by the light's slope: those
# of a year are read off between them.
THROWS = np.tan(np.linspace(-np.pi / 2 + 1e-6, np.pi / 2 - 1e-6, 513))
# Places of one pitch, once the others are put on it.
FOLDED = 65
OF_PITCH = np.linspace(0.0, 1.0, FOLDED)[:, None]


@dataclass(frozen=True)
class Face:
    """What one face of a row sees of the ground: ``places_m`` and the running sum of its weight there.

    ``sky_there`` is the sky that the ground it sees sees itself, weighed; the sum ends at the share of
    all that the face sees.
    """

    places_m: Floats
    running: Floats
    sky_there: float

    @property
    def share(self) -> float:
        """Of all that the face sees, the ground's share."""
        return float(self.running[-1])

    def between(self, low_m: Floats, high_m: Floats) -> Floats:
        """The weight of an interval of the ground."""
        at = np.interp(high_m, self.places_m, self.running) - np.interp(
            low_m, self.places_m, self.running
        )
        return np.asarray(at)


@dataclass(frozen=True)
class Strip:
    """Ground from ``front_m`` before to ``back_m`` behind the posts throws back ``times`` as much."""

    front_m: float
    back_m: float
    times: float


@dataclass(frozen=True)
class RowsOver:
    """A section of endless rows at ``pitch_m`` (None: one row by itself), lower edges ``low_m`` up.

    Under each row the ground may be lighter or darker than elsewhere, along a ``strip``.
    """

    section: TableSection
    low_m: float
    pitch_m: float | None
    strip: Strip | None = None


def ground_seen(rows: RowsOver) -> tuple[Face, ...]:
    """What the glass sees of the ground, and what its back does."""
    return grounds_seen((rows,), backs=True)[0]


def grounds_seen(over: Sequence[RowsOver], *, backs: bool) -> list[tuple[Face, ...]]:
    """The same of several, their backs where asked for.

    Rows that differ in their pitch alone share what does not hang on it.
    """
    found: dict[RowsOver, tuple[Face, ...]] = {}
    alike: dict[tuple[TableSection, float, bool, Strip | None], list[RowsOver]] = {}
    for rows in dict.fromkeys(over):
        key = (rows.section, rows.low_m, rows.pitch_m is None, rows.strip)
        alike.setdefault(key, []).append(rows)
    for group in alike.values():
        found |= dict(zip(group, _of_one_section(group, backs=backs), strict=True))
    return [found[rows] for rows in over]


def _of_one_section(group: Sequence[RowsOver], *, backs: bool) -> list[tuple[Face, ...]]:
    """Rows of one section and height, at pitches or alone."""
    section, low_m = group[0].section, group[0].low_m
    pitches = np.array([rows.pitch_m for rows in group if rows.pitch_m is not None])
    far_out = np.arcsinh((REACH_CHORDS if pitches.size else REACH_ALONE) / NEAR)
    edges = section.chord_m * NEAR * np.sinh(np.linspace(-far_out, far_out, PLACES + 1))
    places = (edges[1:] + edges[:-1]) / 2
    tilt = np.radians(section.tilt_deg)
    up = (np.arange(SLICES) + 0.5) / SLICES * section.chord_m
    at = np.stack((up * np.cos(tilt), low_m + up * np.sin(tilt)), axis=1)
    gone = np.stack((places[None, :] - at[:, :1], np.broadcast_to(-at[:, 1:], (SLICES, PLACES))), -1)
    far = np.hypot(gone[..., 0], gone[..., 1])
    front = (-np.sin(tilt) * gone[..., 0] + np.cos(tilt) * gone[..., 1]) / far
    seen = at[:, 1, None] / far / (2 * far) * np.diff(edges)
    if pitches.size:
        open_way = ~_hidden(section, low_m, pitches, at, places)
        sky = _sky_between(section, low_m, pitches, places)
    else:
        open_way = np.ones((1, 1, 1), dtype=bool)
        sky = _sky_past(section, low_m, np.zeros((1, 1)), places[None, :])
    brighter = _brighter(group[0].strip, section, pitches, places)
    faces = []
    for turned in (front, -front) if backs else (front,):
        weight = (np.maximum(turned, 0.0) * seen * open_way).mean(axis=1) * brighter
        total = weight.sum(axis=1)
        there = np.where(total > 0, (weight * sky).sum(axis=1) / np.where(total > 0, total, 1.0), 1.0)
        running = np.concatenate((np.zeros((len(weight), 1)), np.cumsum(weight, axis=1)), axis=1)
        faces.append([Face(edges, *one) for one in zip(running, there.tolist(), strict=True)])
    return list(zip(*faces, strict=True))


def _brighter(strip: Strip | None, section: TableSection, pitches: Floats, places: Floats) -> Floats:
    """How much more light places of the ground throw back than elsewhere, (pitches or 1, places)."""
    if strip is None:
        return np.ones((1, 1))
    off = np.broadcast_to(places - section.post_x_m, (max(pitches.size, 1), places.size))
    if pitches.size:
        # Each row has its strip: the one that a place lies nearest before or behind counts.
        apart = pitches[:, None]
        off = (off + strip.front_m) % apart - strip.front_m
    return np.where((off >= -strip.front_m) & (off <= strip.back_m), strip.times, 1.0)


def _hidden(
    section: TableSection, low_m: float, pitches: Floats, at: Floats, places: Floats
) -> NDArray[np.bool_]:
    """Whether a neighbour stands between places on the chord and on the ground.

    (pitches, slices, places).
    """
    depth, rise = section.level_depth_m, section.rise_m
    found = np.zeros((len(pitches), len(at), len(places)), dtype=bool)
    east, up = places[None, :] - at[:, :1], -at[:, 1:]
    for shift in (-pitches[:, None, None], pitches[:, None, None]):
        # On which side of the line from eye to ground the neighbour's edges lie.
        sides = [
            east * (z - at[:, 1:]) - up * (x + shift - at[:, :1])
            for x, z in ((0.0, low_m), (depth, low_m + rise))
        ]
        # And on which side of the neighbour's plane eye and ground do.
        eye = depth * (at[:, 1:] - low_m) - rise * (at[:, :1] - shift)
        ground = -depth * low_m - rise * (places[None, :] - shift)
        found |= (sides[0] * sides[1] < 0) & (eye * ground < 0)
    return found


def _sky_between(section: TableSection, low_m: float, pitches: Floats, places: Floats) -> Floats:
    """Share of the even sky that places of the ground see between endless rows, (pitches, places).

    Places a pitch apart see the same: some of one pitch are asked, and those between are read off.
    """
    steps = np.arange(-ROWS_PAST, ROWS_PAST + 1)
    own = np.arange(WITHIN) / WITHIN * pitches[:, None]
    seen = _sky_past(section, low_m, steps * pitches[:, None], own)
    place = (places / pitches[:, None]) % 1.0 * WITHIN
    low = place.astype(np.int64) % WITHIN
    share = place - np.floor(place)
    each = np.arange(len(pitches))[:, None]
    return np.asarray(seen[each, low] * (1 - share) + seen[each, (low + 1) % WITHIN] * share)


def _sky_past(section: TableSection, low_m: float, shifts: Floats, places: Floats) -> Floats:
    """Share of the even sky that places (n, places) see past rows at ``shifts`` (n, rows)."""
    looks = (np.arange(LOOKS) + 0.5) / LOOKS * np.pi
    weight = np.sin(looks) * (np.pi / LOOKS) / 2
    # Each row covers the directions between its two edges.
    gone = shifts[:, :, None] - places[:, None, :]
    ends = (
        np.arctan2(low_m, gone),
        np.arctan2(low_m + section.rise_m, gone + section.level_depth_m),
    )
    low, high = np.minimum(*ends)[..., None], np.maximum(*ends)[..., None]
    hidden = ((looks >= low) & (looks <= high)).any(axis=1)
    return np.asarray(~hidden @ weight)


@dataclass(frozen=True)
class OverGround:
    """A sky as rows of one facing see it, over the steps.

    How far back a metre of height throws its shadow (below nought: forward) lies by ``share`` between
    the throw ``node`` and the next; ``beam`` and ``even`` are the light on level ground.
    """

    node: Integers
    share: Floats
    beam: Floats
    even: Floats

    @classmethod
    def of(cls, sky: Sky, facing_deg: float) -> "OverGround":
        """Square to rows that face so."""
        square = sky.toward[:, :2] @ level_bearing(facing_deg)
        throw = square / np.maximum(sky.toward[:, 2], LOWEST_SLOPE)
        place = (np.arctan(throw) / np.pi + 0.5) * (len(THROWS) - 1)
        node = np.minimum(place.astype(np.int64), len(THROWS) - 2)
        return cls(
            node=node,
            share=place - node,
            beam=np.maximum(sky.level_w_m2 - sky.diffuse_w_m2, 0.0),
            even=np.minimum(sky.diffuse_w_m2, sky.level_w_m2),
        )

    def read(self, at_throws: Floats) -> Floats:
        """What is known at each of ``THROWS`` (..., throws), over the steps."""
        found = np.take(np.diff(at_throws), self.node, axis=-1)
        found *= self.share
        found += np.take(at_throws, self.node, axis=-1)
        return found


def ground_light(
    rows: Sequence[RowsOver], faces: Sequence[Face], over: OverGround, albedo: float
) -> Floats:
    """Watts a square metre that a face of each of some rows gets from the ground, (rows, steps).

    The beam falls where no shadow lies; shadows of rows one behind the other do not add up.
    """
    found = over.read(np.stack([_in_shadow(*one) for one in zip(rows, faces, strict=True)]))
    shares = np.array([face.share for face in faces])
    from_sky = shares * np.array([face.sky_there for face in faces])
    np.subtract(shares[:, None], found, out=found)
    found *= albedo * over.beam
    found += from_sky[:, None] * (albedo * over.even)
    return found


def _in_shadow(rows: RowsOver, face: Face) -> Floats:
    """The weight of the ground in shadow at each of ``THROWS``."""
    section = rows.section
    near = rows.low_m * THROWS
    far = section.level_depth_m + (rows.low_m + section.rise_m) * THROWS
    return _shaded(rows, face, np.minimum(near, far), np.maximum(near, far))


def _shaded(rows: RowsOver, face: Face, low: Floats, high: Floats) -> Floats:
    """The weight of the ground in shadow."""
    if rows.pitch_m is None:
        return face.between(low, high)
    pitch = rows.pitch_m
    high = np.minimum(high, low + pitch)
    # Places a pitch apart are in shadow together: their weights are put on one another.
    past = int(np.ceil(face.places_m[-1] / pitch)) + 1
    runs = np.interp((OF_PITCH + np.arange(-past, past)) * pitch, face.places_m, face.running)
    folded = runs.sum(axis=1)
    folded -= folded[0]
    steps = np.zeros(FOLDED)
    np.subtract(folded[1:], folded[:-1], out=steps[:-1])
    # Evenly apart: the place is a quotient, no search.
    place = np.stack((low, high)) / pitch
    turns = np.floor(place)
    place -= turns
    place *= FOLDED - 1
    index = place.astype(np.int64)
    place -= index
    before, after = turns * folded[-1] + folded[index] + steps[index] * place
    return np.asarray(after - before)


def back_sky_share(rows: RowsOver) -> float:
    """What the back sees of the even sky, past the row behind; all that it sees being 1."""
    tilt = np.radians(rows.section.tilt_deg)
    if rows.pitch_m is None:
        return float((1 - np.cos(tilt)) / 2)
    up = (np.arange(SLICES) + 0.5) / SLICES * rows.section.chord_m
    level, height = up * np.cos(tilt), up * np.sin(tilt)
    top = rows.section.rise_m + rows.section.rise_back * rows.pitch_m
    away = rows.pitch_m + rows.section.level_depth_m - level
    mask = np.minimum(np.maximum(np.arctan2(top - height, away), 0.0), tilt)
    # The back looks away from the sun; over its plane the sky ends at the tilt.
    return float(((1 - np.cos(tilt - mask)) / 2).mean())
