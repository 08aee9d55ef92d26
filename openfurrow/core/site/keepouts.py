"""Where posts, glass and trench may not be: zones round what is there, and the way out of them."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.codes import table
from openfurrow.core.site.features import FeatureGivens

Purpose = Literal["post", "glass", "trench"]
Floats = NDArray[np.float64]
Truths = NDArray[np.bool_]
Shapes = Sequence[shapely.Geometry] | NDArray[np.object_]

# How far the search for a clearing shift goes, and how finely.
SHIFT_REACH_M, SHIFT_STEP_M = 15.0, 0.05
# Rounds drawn with this many sides a quarter: within 0.5 % of the radius.
QUARTER_SIDES = 16
# Corners nearer to each other than this are one.
SAME_CORNER_M = 1e-6


@dataclass(frozen=True)
class Zone:
    """One feature with the ground that each kind of work must leave to it.

    ``shapes`` lacks a purpose that may stand on it or cross it. ``band`` is where it may lie;
    ``by_hand`` where digging is done by hand, if at all.
    """

    feature: FeatureGivens
    thing: shapely.Geometry
    band: shapely.Geometry
    by_hand: shapely.Geometry | None
    shapes: dict[Purpose, shapely.Geometry]


def band_m(feature: FeatureGivens) -> float:
    """How far a feature may lie from where it is drawn."""
    if feature.band_m is not None:
        return feature.band_m
    sure = table("common", "sureness")
    return sure.number("band_m", sure.row("how_sure", feature.how_sure))


def grown(shape: shapely.Geometry, by_m: float) -> shapely.Geometry:
    """A shape and everything within a distance of it; never less than the shape."""
    if by_m <= 0:
        return shape
    # Points that all but coincide are divided by within; what comes back is whole all the same.
    with np.errstate(divide="ignore", invalid="ignore"):
        wider = shapely.buffer(shape, by_m, quad_segs=QUARTER_SIDES)
    # An outline without an area comes back as nothing where it grows by less than a hair.
    return shape if shapely.is_empty(wider) else wider


def zone_of(feature: FeatureGivens, hand_dig_m: float) -> Zone:
    """The zones round one complete feature."""
    facts = feature.facts
    width = feature.width_m or 0.0
    thing = grown(feature.geometry(), width / 2)
    off = band_m(feature)
    band = grown(thing, off)
    by_hand = grown(band, hand_dig_m) if facts.by_hand else None
    shapes: dict[Purpose, shapely.Geometry] = {}
    for purpose in ("post", "glass", "trench"):
        usual = getattr(facts, f"{purpose}_m")
        if usual is None:
            continue
        # A setback that was asked for replaces the usual one; it is not about the trench.
        asked = feature.setback_m if purpose != "trench" else None
        keep = usual if asked is None else asked
        if facts.by_hand and purpose == "post":
            keep = max(keep, hand_dig_m)
        shapes[purpose] = grown(band, keep)
    return Zone(feature, thing, band, by_hand, shapes)


@dataclass(frozen=True)
class Hit:
    """Something of the job on something that is there; ``which`` are indices of posts or tables."""

    zone: Zone | None
    which: tuple[int, ...]

    @property
    def label(self) -> str:
        """What is hit."""
        return self.zone.feature.label if self.zone else "outside the boundary"


@dataclass(frozen=True)
class KeepOuts:
    """All zones, and the ground inside the boundary less its setback (None: no boundary drawn).

    ``boundaries`` are drawn outlines of the land; ``zones`` everything else.
    """

    zones: tuple[Zone, ...]
    boundaries: tuple[Zone, ...]
    inside: shapely.Geometry | None
    setback_m: float
    trench_inside: shapely.Geometry | None

    def wider(self, by_m: float) -> "KeepOuts":
        """The same for posts that reach out by so much: every zone and the boundary come nearer."""
        if by_m <= 0:
            return self
        zones = tuple(
            replace(zone, shapes=zone.shapes | {"post": grown(zone.shapes["post"], by_m)})
            if "post" in zone.shapes
            else zone
            for zone in self.zones
        )
        inside = None if self.inside is None else shapely.buffer(self.inside, -by_m, join_style="mitre")
        return replace(self, zones=zones, inside=inside)

    @cached_property
    def _merged(self) -> dict[Purpose, shapely.Geometry]:
        merged = {
            purpose: shapely.union_all([z.shapes[purpose] for z in self.zones if purpose in z.shapes])
            for purpose in ("post", "glass", "trench")
        }
        for shape in merged.values():
            shapely.prepare(shape)
        return merged  # type: ignore[return-value]

    def merged(self, purpose: Purpose) -> shapely.Geometry:
        """Everything that a purpose must keep off, as one shape."""
        return self._merged[purpose]

    def of(self, purpose: Purpose) -> tuple[Zone, ...]:
        """The zones a purpose must keep off."""
        return tuple(zone for zone in self.zones if purpose in zone.shapes)

    def posts_on(self, east_m: Floats, north_m: Floats) -> tuple[Hit, ...]:
        """Which posts stand in which zone."""
        found = []
        for zone in self.of("post"):
            shape = zone.shapes["post"]
            shapely.prepare(shape)
            on = np.flatnonzero(shapely.contains_xy(shape, east_m, north_m))
            if on.size:
                found.append(Hit(zone, tuple(on.tolist())))
        return tuple(found)

    def shapes_on(self, shapes: Shapes, purpose: Purpose) -> tuple[Hit, ...]:
        """Which shapes (tables, stretches) reach into which zone; touching alone does not count."""
        parts = np.array(shapes, dtype=object)
        found = []
        for zone in self.of(purpose):
            other = zone.shapes[purpose]
            shapely.prepare(other)
            on = np.flatnonzero(shapely.intersects(other, parts) & ~shapely.touches(other, parts))
            if on.size:
                found.append(Hit(zone, tuple(on.tolist())))
        return tuple(found)

    def points_outside(self, east_m: Floats, north_m: Floats) -> Truths:
        """Which places lie beyond the boundary less its setback; none where no boundary is drawn."""
        if self.inside is None:
            return np.zeros(east_m.shape, dtype=bool)
        shapely.prepare(self.inside)
        return np.asarray(~shapely.intersects_xy(self.inside, east_m, north_m))

    def shapes_outside(self, shapes: Shapes) -> Truths:
        """Which shapes reach beyond the boundary less its setback."""
        if self.inside is None:
            return np.zeros(len(shapes), dtype=bool)
        shapely.prepare(self.inside)
        return np.asarray(~shapely.covers(self.inside, np.array(shapes, dtype=object)))


def keep_outs(
    features: Sequence[FeatureGivens], hand_dig_m: float, setback_m: float | None
) -> KeepOuts:
    """The zones of all complete features. ``setback_m`` is the authority's own, from the boundary."""
    zones = tuple(zone_of(feature, hand_dig_m) for feature in features if feature.complete)
    boundaries = tuple(zone for zone in zones if zone.feature.kind == "boundary")
    others = tuple(zone for zone in zones if zone.feature.kind != "boundary")
    if not boundaries:
        return KeepOuts(others, (), None, 0.0, None)
    keep = max(
        (setback_m or 0.0), *((b.feature.setback_m or 0.0) + band_m(b.feature) for b in boundaries)
    )
    whole = shapely.union_all([b.thing for b in boundaries])
    # A corner given twice has no direction that a mitre could follow.
    plain = shapely.remove_repeated_points(whole, SAME_CORNER_M)
    inside = shapely.buffer(plain, -keep, join_style="mitre")
    return KeepOuts(others, boundaries, inside, keep, whole)


def array_shift_m(
    keepouts: KeepOuts,
    posts: tuple[Floats, Floats],
    tables: Shapes,
    bearing_deg: float,
) -> float | None:
    """The least shift of the whole array along a bearing that frees every post and table.

    Positive along the bearing, in steps of 5 cm; None where there is none within 15 m.
    """
    turn = math.radians(bearing_deg)
    steps = np.arange(1, int(SHIFT_REACH_M / SHIFT_STEP_M) + 1) * SHIFT_STEP_M
    shifts = np.stack((steps, -steps), axis=1).ravel()
    post_zone, glass_zone = keepouts.merged("post"), keepouts.merged("glass")
    outlines = np.array(tables, dtype=object)
    for shift in shifts.tolist():
        dx, dy = shift * math.sin(turn), shift * math.cos(turn)
        east, north = posts[0] + dx, posts[1] + dy
        if shapely.intersects_xy(post_zone, east, north).any():
            continue
        if keepouts.points_outside(east, north).any():
            continue
        moved = shapely.transform(outlines, lambda at, by=(dx, dy): at + np.asarray(by))
        if shapely.intersects(glass_zone, moved).any() or keepouts.shapes_outside(moved).any():
            continue
        return float(shift)
    return None
