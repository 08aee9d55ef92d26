"""A section along any line: the ground, what lies in it, and what of the array stands over it."""

import math

import numpy as np
import shapely

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.drawings.levels import level_step_m, level_text
from openfurrow.sheets.marks import Drawing, Mark, Point, area, dot, drawing, label, line

STATIONS = 160
BURIED_UNKNOWN_M = 0.6
CUT_OFF_M = 4.0
MOST_LEVELS = 7
# A row's post is shown where the line passes it within about half a span.
BESIDE_M = 1.5


def section_drawing(plan: Plan, start: Point, end: Point, units: UnitSystem) -> Drawing:
    """Heights are drawn larger than lengths. Raises ValueError for a line of no length."""
    length = math.dist(start, end)
    if length < 0.1:
        raise ValueError("the two ends are the same place")
    share = np.linspace(0.0, 1.0, STATIONS)
    east = start[0] + share * (end[0] - start[0])
    north = start[1] + share * (end[1] - start[1])
    level = plan.site.ground.level_m(east, north)
    known = plan.site.ground.known(east, north)
    along = share * length
    ground = list(zip(along.tolist(), level.tolist(), strict=True))
    line_of = shapely.LineString((start, end))
    things = [
        *_features(plan, line_of, ground, units),
        *(mark for one in plan.each() for mark in _tables(one, line_of, start, end)),
    ]
    tops = [y for mark in things for _, y in mark.points] + level.tolist()
    low = min([*tops, float(level.min()) - 1.2]) - 0.3
    high = max(tops) + 1.2
    marks: list[Mark] = [area("soil", *ground, (length, low), (0.0, low)), line("ground", *ground)]
    marks += _off_survey(along.tolist(), level.tolist(), known.tolist())
    step = level_step_m(high - low, MOST_LEVELS, units)
    for number in range(math.ceil(low / step), math.floor(high / step) + 1):
        at = number * step
        marks += [
            line("grid", (0.0, at), (length, at)),
            label(level_text(at, units), (length * 0.004, at), "contour-note", "start"),
        ]
    marks += things
    words = (
        f"Section, {format_value(length, 'run', units)}, ground "
        f"{format_value(float(level[0]), 'coordinate', units)} to "
        f"{format_value(float(level[-1]), 'coordinate', units)}"
    )
    return drawing(
        "section",
        f"{words}; heights stretched",
        marks,
        low=(-length * 0.01, low),
        high=(length * 1.01, high),
        to_scale=False,
    )


def _off_survey(along: list[float], level: list[float], known: list[bool]) -> list[Mark]:
    """Stretches where the ground is only the nearest that was shot."""
    marks, run = [], []
    for x, z, sure in zip([*along, along[-1]], [*level, level[-1]], [*known, True], strict=True):
        if not sure:
            run.append((x, z))
        elif run:
            marks.append(line("extent", *run, (x, z)))
            run = []
    return marks


def _features(
    plan: Plan, line_of: shapely.LineString, ground: list[Point], units: UnitSystem
) -> list[Mark]:
    xs, zs = zip(*ground, strict=True)
    marks: list[Mark] = []
    for zone in plan.site.keepouts.zones:
        feature = zone.feature
        layer = f"kind-{feature.kind.replace(' ', '-')}"
        for part in shapely.get_parts(shapely.intersection(line_of, zone.band)):
            at = shapely.line_locate_point(line_of, shapely.points(shapely.get_coordinates(part)))
            if not at.size:
                continue
            first, last = float(at.min()), float(at.max())
            middle = (first + last) / 2
            z = float(np.interp(middle, xs, zs))
            if feature.facts.lies == "buried":
                depth = BURIED_UNKNOWN_M if feature.depth_m is None else feature.depth_m
                sure = "" if feature.depth_m is not None else ", depth not known"
                marks += [
                    line("band-section", (first, z - depth), (last, z - depth)),
                    dot(layer, (middle, z - depth)),
                    label(f"{feature.label}{sure}", (middle, z - depth - 0.35), "kind-note", free=True),
                ]
                continue
            # What towers over the ground is cut off, and says how high it is.
            top = z + min(feature.height_m or 0.5, CUT_OFF_M)
            if feature.facts.lies == "overhead":
                marks += [dot(layer, (middle, top))]
            elif last - first > 0.05:
                marks += [
                    area(
                        layer,
                        (first, float(np.interp(first, xs, zs))),
                        (first, top),
                        (last, top),
                        (last, float(np.interp(last, xs, zs))),
                    )
                ]
            else:
                marks += [line(layer, (middle, z), (middle, top))]
            height = feature.height_m or 0.0
            words = f", {format_value(height, 'run', units)} high" if height > CUT_OFF_M else ""
            marks.append(label(f"{feature.label}{words}", (middle, top + 0.3), "kind-note", free=True))
    return marks


def _tables(plan: Plan, line_of: shapely.LineString, start: Point, end: Point) -> list[Mark]:
    """The glass where the line passes under it, and of each line of posts the nearest to the line."""
    if not plan.has("rows"):
        return []
    lie, tables = plan.rows.lie, plan.rows.lie.tables
    section = plan.rows.section
    length = math.dist(start, end)
    way = ((end[0] - start[0]) / length, (end[1] - start[1]) / length)
    marks: list[Mark] = []
    hit = np.flatnonzero(shapely.intersects(tables.outlines, line_of))[:60]
    for index in hit.tolist():
        cut = shapely.get_coordinates(shapely.intersection(tables.outlines[index], line_of))
        points = []
        for x, y in cut:
            from_middle, behind = tables.on_table_m(index, x, y)
            depth = float(behind) - tables.edge_back_m
            rise = depth / max(section.level_depth_m, 1e-9) * section.rise_m
            chainage = (x - start[0]) * way[0] + (y - start[1]) * way[1]
            points.append((chainage, float(lie.edge_at(index, from_middle)) + rise))
        if len(points) > 1:
            marks.append(line("glass-line", *points))
    if not plan.has("structure"):
        return marks
    supports = plan.structure.supports
    deep = plan.footings.posts.depths_m if plan.has("footings") else np.zeros(supports.ground_m.size)
    east, north = supports.places.east_m - start[0], supports.places.north_m - start[1]
    chainage, aside = east * way[0] + north * way[1], east * way[1] - north * way[0]
    near = np.flatnonzero((abs(aside) <= BESIDE_M) & (chainage >= 0) & (chainage <= length))
    near = near[np.argsort(abs(aside[near]), kind="stable")]
    _, first = np.unique(supports.places.line[near], return_index=True)
    for index in near[first].tolist():
        z, x = float(supports.ground_m[index]), float(chainage[index])
        marks.append(
            line(
                "post-line-section",
                (x, z - float(deep[index])),
                (x, z + float(supports.reveals_m[index])),
            )
        )
    return marks
