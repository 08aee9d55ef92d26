"""Glass in space and rays over it, put together from outside the core."""

import math

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.plan import Plan

Floats = NDArray[np.float64]


def corners_of(found: Plan) -> list[Floats]:
    """The four corners in space of each table, put together from places, tilt and lower edge."""
    rows = found.rows
    tables = rows.lie.tables
    quads = []
    for index, level in enumerate(tables.corners):
        half = float(tables.lengths_m[index] / 2 * tables.level_share[index])
        low, rise = float(rows.lie.edge_level_m[index]), float(rows.lie.rise_along[index])
        up = rows.section.chord_m * math.sin(math.radians(rows.section.tilt_deg))
        ends = np.array([low - rise * half, low + rise * half])
        quads.append(np.column_stack((level, [ends[0], ends[1], ends[1] + up, ends[0] + up])))
    return quads


def suns_of(found: Plan) -> list[Floats]:
    """Unit vectors toward the sun through the winter window, where it is up."""
    suns = []
    for altitude, azimuth in zip(
        found.sun.window_altitude_deg, found.sun.window_azimuth_deg, strict=True
    ):
        if altitude >= 2.0:
            a, z = math.radians(altitude), math.radians(azimuth)
            suns.append(np.array([math.cos(a) * math.sin(z), math.cos(a) * math.cos(z), math.sin(a)]))
    return suns


def meets(start: Floats, way: Floats, triangle: Floats) -> bool:
    """Moeller and Trumbore (1997): whether a ray meets a triangle."""
    a, b, c = triangle
    side, other = b - a, c - a
    h = np.cross(way, other)
    d = float(side @ h)
    if abs(d) < 1e-12:
        return False
    s = start - a
    u = float(s @ h) / d
    q = np.cross(s, side)
    v = float(way @ q) / d
    return min(u, v) >= 0 and u + v <= 1 and float(other @ q) / d > 1e-9


def hidden(own: list[Floats], other: list[Floats], suns: list[Floats]) -> set[int]:
    """Tables with a point on the glass from which one of the suns is behind another's glass."""
    return {
        index
        for index, quad in enumerate(own)
        if any(
            meets(point, sun, wall[list(triangle)])
            for point in _points(quad)
            for sun in suns
            for wall in other
            for triangle in ((0, 1, 2), (0, 2, 3))
        )
    }


def _points(quad: Floats) -> list[Floats]:
    """A grid over the glass, its outermost points a hair inside the edges."""
    return [
        quad[0]
        + (1e-6 + a * (1 - 2e-6)) * (quad[1] - quad[0])
        + (1e-6 + b * (1 - 2e-6)) * (quad[3] - quad[0])
        for a in np.linspace(0.0, 1.0, 13)
        for b in np.linspace(0.0, 1.0, 5)
    ]
