"""The plan seen from above, north up: posts, glass, the way to the building, the diagonals."""

import math
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.footings.places import east_north_m, table_starts_m
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.marks import Drawing, Mark, Point, area, dimension, dot, drawing, label, line

Floats = NDArray[np.float64]
SHOWN_POSTS = 1500


def _points(east: Floats, north: Floats) -> list[Point]:
    return list(zip(east.tolist(), north.tolist(), strict=True))


def table_outlines(plan: Plan) -> list[list[Point]]:
    """Corners of each table's glass on the plan, at most a few hundred tables."""
    rows, section = plan.rows, plan.rows.section
    outlines = []
    starts = table_starts_m(rows)
    for row in range(min(rows.rows, 60)):
        front = row * rows.pitch_m - section.post_x_m
        for start in starts[:40].tolist():
            along = np.array([start, start + rows.table_length_m, start + rows.table_length_m,
                              start])
            back = np.array([front, front, front + section.level_depth_m,
                             front + section.level_depth_m])
            outlines.append(_points(*east_north_m(rows, along, back)))
    return outlines


def _north(at: Point, size: float) -> list[Mark]:
    x, y = at
    return [
        line("north", (x, y - size), (x, y + size)),
        area("north", (x - size * 0.28, y + size * 0.35), (x, y + size), (x + size * 0.28,
                                                                          y + size * 0.35)),
        label("N", (x, y + size * 1.35), "strong"),
    ]


def _wall(end: Point, before: Point) -> list[Mark]:
    """A corner of the building, its face square to the last stretch of the trench."""
    bearing = math.atan2(end[0] - before[0], end[1] - before[1])
    along = (math.cos(bearing), -math.sin(bearing))
    out = (math.sin(bearing), math.cos(bearing))
    corner = [
        (end[0] + a * along[0] + b * out[0], end[1] + a * along[1] + b * out[1])
        for a, b in ((-2.5, 0.0), (2.5, 0.0), (2.5, 3.2), (-2.5, 3.2))
    ]
    return [area("building", *corner)]


def _scene(plan: Plan) -> list[Mark]:
    route = plan.trench.route
    way = _points(route.east_m, route.north_m)
    marks: list[Mark] = [area("glass", *outline) for outline in table_outlines(plan)]
    if len(way) > 1:
        marks += [*_wall(way[-1], way[-2]), line("pipe", *way)]
    posts = _points(plan.places.east_m[:SHOWN_POSTS], plan.places.north_m[:SHOWN_POSTS])
    return marks + [dot("post", at) for at in posts]


def _bounds(marks: list[Mark], pad: float) -> tuple[Point, Point]:
    points = np.array([point for mark in marks for point in mark.points])
    low, high = points.min(axis=0) - pad, points.max(axis=0) + pad
    return (float(low[0]), float(low[1])), (float(high[0]), float(high[1]))


def site_drawing(plan: Plan, units: UnitSystem) -> tuple[Drawing, ...]:
    """The plane's level lines, the array, and the way to the building."""
    marks = [*_scene(plan), *_names(plan, units)]
    low, high = _bounds(marks, 4.0)
    contours = _contours(plan, low, high, units)
    size = max(high[0] - low[0], high[1] - low[1]) * 0.035
    return (
        drawing("site", "Site, north up", [*contours, *marks,
                *_north((low[0] + 2 * size, high[1] - 3.2 * size), size)], low=low, high=high),
    )


def _names(plan: Plan, units: UnitSystem) -> list[Mark]:
    """What stands where, and which way the ground falls."""
    rows, route = plan.rows, plan.trench.route
    (east,), (north,) = east_north_m(rows, [0.0], [-rows.section.post_x_m - 1.2])
    words = (f"{rows.module_count} modules on {plan.footings.posts.posts} posts, "
             f"facing {rows.facing_deg:.0f}° true")
    marks = [label(words, (float(east), float(north)), "strong")]
    for number, at in enumerate(_points(route.east_m[1:-1], route.north_m[1:-1])):
        marks.append(label(f"bend {number + 1}", (at[0] + 1.3, at[1] - 0.8), "note", "start"))
    slope = plan.site.ground.slope
    if slope > 0:
        bearing = math.radians(plan.site.ground.falls_toward_deg)
        start = (float(route.east_m[0]) - rows.row_length_m * 0.25, float(route.north_m[-1]) * 0.6)
        end = (start[0] + 5 * math.sin(bearing), start[1] + 5 * math.cos(bearing))
        wing = [(end[0] - 1.1 * math.sin(bearing + turn), end[1] - 1.1 * math.cos(bearing + turn))
                for turn in (-0.4, 0.4)]
        marks += [
            line("fall", start, end), line("fall", wing[0], end, wing[1]),
            label(f"falls {format_value(slope, 'ratio', units)}", (start[0], start[1] + 0.7),
                  "contour-note"),
        ]
    return marks


def _contours(plan: Plan, low: Point, high: Point, units: UnitSystem) -> list[Mark]:
    """Level lines of the plane, a quarter of a metre or a foot apart, clipped to the sheet."""
    ground = plan.site.ground
    if ground.slope < 1e-4:
        return [label("level ground", ((low[0] + high[0]) / 2, low[1] + 1.0), "contour-note")]
    bearing = math.radians(ground.falls_toward_deg)
    down, across = (math.sin(bearing), math.cos(bearing)), (math.cos(bearing), -math.sin(bearing))
    corners = [(x, y) for x in (low[0], high[0]) for y in (low[1], high[1])]
    reach = [x * down[0] + y * down[1] for x, y in corners]
    step = 0.25 if units == "metric" else 0.3048
    span = math.dist(low, high)
    while (max(reach) - min(reach)) * ground.slope / step > 14:
        step *= 2
    marks: list[Mark] = []
    first = math.ceil(-max(reach) * ground.slope / step)
    last = math.floor(-min(reach) * ground.slope / step)
    for number in range(first, last + 1):
        level = number * step
        away = -level / ground.slope
        middle = (down[0] * away, down[1] * away)
        ends = [(middle[0] + s * across[0] * span, middle[1] + s * across[1] * span)
                for s in (-1, 1)]
        clipped = _clip(ends[0], ends[1], low, high)
        if clipped:
            marks.append(line("contour", *clipped))
            text = format_value(level, "tape" if units == "us" else "coordinate", units)
            x, y = clipped[0]
            marks.append(label(text, (x + 0.3, y + 0.35), "contour-note", "start"))
    return marks


def _clip(start: Point, end: Point, low: Point, high: Point) -> tuple[Point, Point] | None:
    """The part of a segment inside a box (Liang and Barsky)."""
    enter, leave = 0.0, 1.0
    for axis in (0, 1):
        delta = end[axis] - start[axis]
        for sign, bound in ((-1, low[axis]), (1, high[axis])):
            p, q = sign * delta, sign * (bound - start[axis])
            if abs(p) < 1e-12:
                if q < 0:
                    return None
                continue
            if p < 0:
                enter = max(enter, q / p)
            else:
                leave = min(leave, q / p)
    if enter > leave:
        return None
    dx, dy = end[0] - start[0], end[1] - start[1]
    return ((start[0] + enter * dx, start[1] + enter * dy),
            (start[0] + leave * dx, start[1] + leave * dy))


def route_drawing(plan: Plan, units: UnitSystem) -> Drawing:
    """The way with the length of each stretch and each turn."""
    marks = _scene(plan)
    route = plan.trench.route
    way = _points(route.east_m, route.north_m)
    for a, b in pairwise(way):
        marks.append(dimension(format_value(math.dist(a, b), "run", units), a, b, 7))
    for at, turn in zip(way[1:-1], route.turns_deg, strict=True):
        marks.append(label(f"{turn:.0f}°", (at[0] + 0.8, at[1] - 0.9), "note", "start"))
    low, high = _bounds(marks, 3.0)
    return drawing("route", "The way, from above", marks, low=low, high=high)


def stakes_drawing(plan: Plan, units: UnitSystem) -> tuple[Drawing, ...]:
    """Posts by number, the running tape and the two diagonals."""
    posts = _points(plan.places.east_m[:SHOWN_POSTS], plan.places.north_m[:SHOWN_POSTS])
    marks: list[Mark] = [area("glass-faint", *outline) for outline in table_outlines(plan)]
    stakeout = plan.stakeout
    corners = _points(stakeout.corners_east_m, stakeout.corners_north_m)
    marks += [
        line("string", *corners, corners[0]),
        line("diagonal", corners[0], corners[2]),
        line("diagonal", corners[1], corners[3]),
        *(dot("post", at) for at in posts),
        *(dot("stake", at) for at in corners[2:]),
    ]
    if len(posts) <= 40:
        marks += [label(str(number + 1), (x, y - 0.75), "strong")
                  for number, (x, y) in enumerate(posts)]
    marks.append(dimension(format_value(math.dist(corners[0], corners[1]), "run", units),
                           corners[0], corners[1], -14))
    marks.append(dimension(format_value(math.dist(corners[1], corners[2]), "run", units),
                           corners[1], corners[2], -8))
    middle = ((corners[0][0] + corners[2][0]) / 2, (corners[0][1] + corners[2][1]) / 2 + 0.5)
    marks.append(label(f"both {format_value(stakeout.diagonal_level_m, 'tape', units)}", middle,
                       "strong"))
    low, high = _bounds(marks, 2.2)
    size = max(high[0] - low[0], high[1] - low[1]) * 0.03
    return (drawing("stakes", "Stakes, north up", [
        *marks, *_north((high[0] - 1.5 * size, high[1] - 2.2 * size), size)], low=low, high=high),)
