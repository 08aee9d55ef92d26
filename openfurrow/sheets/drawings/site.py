"""Site: the ground with its level lines, what is there, and the job laid over it, north up."""

import math
from itertools import zip_longest

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.core.site.contours import contour_levels_m, contours
from openfurrow.core.site.keepouts import Zone
from openfurrow.core.site.surface import Surface
from openfurrow.sheets.drawings.levels import level_step_m, level_text
from openfurrow.sheets.drawings.overhead import left_out, places, scene
from openfurrow.sheets.marks import (
    Drawing,
    LayerGroup,
    Mark,
    Point,
    bounds,
    dot,
    drawing,
    label,
    line,
    owned,
    rings,
)

Floats = NDArray[np.float64]

MOST_CONTOURS = 20
# Light from the north-west, halfway up, as maps have it.
LIGHT = np.array([-0.5, 0.5, math.sqrt(0.5)])
SHADES = 6
# Surfaces with more triangles are shaded by the cells of a grid this many across.
MOST_TRIANGLES, SHADE_CELLS = 1500, 56
SHOWN_SHOTS = 600
# Of more arrays than this there is room for a name and a count.
MOST_TOLD_WHOLE = 3
# Rounds of a zone are drawn this near to themselves, which no eye sees.
DRAWN_WITHIN_M = 0.02

GROUPS = (
    LayerGroup(name="Shade", layers=("shade",)),
    LayerGroup(name="Contours", layers=("contour",)),
    LayerGroup(name="Shots", layers=("shot", "bend", "extent", "unknown")),
    LayerGroup(name="What is there", layers=("kind", "band")),
    LayerGroup(name="Keep-outs", layers=("keep-out", "hand-dig", "setback")),
    LayerGroup(name="Access", layers=("reach",)),
    LayerGroup(name="Soil", layers=("hole", "load-test")),
    LayerGroup(name="Array", layers=("glass", "post", "array")),
    LayerGroup(name="Way", layers=("pipe", "way")),
)


def site_drawing(plan: Plan, units: UnitSystem) -> tuple[Drawing, ...]:
    """Everything that is known of the site, and the array and its way on it."""
    things = [*things_on(plan, units), *_holes(plan), *_load_tests(plan)]
    job = [*_array(plan), *_words(plan, units)]
    # An empty sheet is as wide as the ground that is looked at first.
    known = [*things, *job, *_shots(plan, units)] or [line("extent", (-20.0, -15.0), (20.0, 15.0))]
    low, high = bounds(known, 3.0)
    back = [*_shade(plan), *_contours(plan, low, high, units), *_unknown(plan, low, high)]
    marks = [*back, *_reach(plan, low, high), *things, *_shots(plan, units), *job]
    marks += [mark for one in plan.each() for mark in post_hits(one)]
    return (
        drawing(
            "site",
            "Site, true north up",
            marks,
            low=low,
            high=high,
            groups=GROUPS,
            legend=left_out(plan),
        ),
    )


def _rings_of(shape: shapely.Geometry) -> list[list[Point]]:
    """Outlines and holes of an area."""
    found = []
    for part in shapely.get_parts(shape):
        if part.geom_type == "Polygon" and not part.is_empty:
            found += [
                shapely.get_coordinates(ring).tolist() for ring in (part.exterior, *part.interiors)
            ]
    return found


def _filled(layer: str, shape: shapely.Geometry) -> list[Mark]:
    """An area as one mark; a way of no length covers none."""
    outlines = _rings_of(shape)
    return [rings(layer, outlines)] if outlines else []


def _rounds(shape: shapely.Geometry) -> list[list[Point]]:
    """Outlines with round corners, in no more points than the eye needs."""
    return _rings_of(shapely.simplify(shape, DRAWN_WITHIN_M, preserve_topology=False))


def _shade(plan: Plan) -> list[Mark]:
    """Slope and direction as light and shade, in a few steps."""
    surface = plan.site.known.surface
    if surface is None:
        return []
    outlines, slopes = _facets(surface)
    normal = np.column_stack((-slopes, np.ones(len(slopes))))
    light = normal @ LIGHT / np.linalg.norm(normal, axis=1)
    # Ground on a job is gentle: differences from level ground are stretched.
    step = np.clip(np.round((light - LIGHT[2]) * 45 + SHADES / 2), 0, SHADES).astype(int)
    return [
        rings(f"shade-{number}", outlines[step == number].tolist())
        for number in np.unique(step).tolist()
        if number != SHADES // 2
    ]


def _facets(surface: Surface) -> tuple[Floats, Floats]:
    """Outlines and slopes to shade: the triangles, or cells of a grid where they are too many."""
    if len(surface.triangles) <= MOST_TRIANGLES:
        return surface.points_m[surface.triangles][:, :, :2], surface.slopes
    low, high = surface.points_m[:, :2].min(axis=0), surface.points_m[:, :2].max(axis=0)
    cell = float((high - low).max()) / SHADE_CELLS
    x, y = (np.arange(low[axis] + cell / 2, high[axis], cell) for axis in (0, 1))
    east, north = (grid.ravel() for grid in np.meshgrid(x, y))
    triangle = surface.grid.find(east, north)
    on = triangle >= 0
    middle = np.column_stack((east, north))[on]
    corner = np.array([(-1, -1), (1, -1), (1, 1), (-1, 1)]) * cell / 2
    return middle[:, None, :] + corner, surface.slopes[triangle[on]]


def _contours(plan: Plan, low: Point, high: Point, units: UnitSystem) -> list[Mark]:
    """Level lines of the surface, or of the plane over the whole sheet."""
    surface = plan.site.known.surface
    if surface is None:
        x = np.array([low[0], high[0], high[0], low[0]])
        y = np.array([low[1], low[1], high[1], high[1]])
        points = np.column_stack((x, y, plan.site.ground.level_m(x, y)))
        triangles = np.array([[0, 1, 2], [0, 2, 3]])
    else:
        points, triangles = surface.points_m, surface.triangles
    levels = points[np.unique(triangles)][:, 2]
    bottom, top = float(levels.min()), float(levels.max())
    step = level_step_m(top - bottom, MOST_CONTOURS, units)
    if surface is None and plan.falls_unknown:
        return []
    if top - bottom < 0.01:
        return [label("level ground", ((low[0] + high[0]) / 2, low[1] + 1.0), "contour-note")]
    marks: list[Mark] = []
    for run in contours(points, triangles, contour_levels_m(bottom, top, step)):
        strong = round(run.level_m / step) % 5 == 0
        marks.append(line("contour-strong" if strong else "contour", *map(tuple, run.points_m)))
        middle = run.points_m[len(run.points_m) // 2]
        if strong or len(run.points_m) > 4 or surface is None:
            at = (run.points_m[0] + run.points_m[-1]) / 2 if surface is None else middle
            text = level_text(run.level_m, units)
            marks.append(label(text, (float(at[0]), float(at[1])), "contour-note", free=True))
    return marks


def _unknown(plan: Plan, low: Point, high: Point) -> list[Mark]:
    """Where nothing was shot."""
    surface = plan.site.known.surface
    if surface is None:
        return []
    known = _rings_of(surface.extent)
    sheet = [low, (high[0], low[1]), high, (low[0], high[1])]
    return [rings("unknown", [sheet, *known]), *(line("extent", *ring) for ring in known)]


def _shots(plan: Plan, units: UnitSystem) -> list[Mark]:
    """Shots, and those that do not fit with how far they are off."""
    known = plan.site.known
    if known.surface is None:
        return []
    points = known.shots.points_m
    marks: list[Mark] = [line("bend", *map(tuple, points[:, :2])) for _, points in known.breaks]
    for index, by_m in zip(known.off.tolist(), known.off_m.tolist(), strict=True):
        at = (float(points[index, 0]), float(points[index, 1]))
        text = f"{known.shots.number[index]}: {format_value(by_m, 'tape', units)} off"
        words = label(text, (at[0] + 0.5, at[1] + 0.5), "shot-off", "start")
        survey = plan.site.survey_ids[known.shots.sitting[index]]
        marks += owned((dot("shot-off", at), words), f"site.surveys.{survey}")
    if len(points) <= SHOWN_SHOTS:
        marks += [dot("shot", at) for at in places(points[:, 0], points[:, 1])]
    return marks


def _slug(kind: str) -> str:
    return kind.replace(" ", "-")


def _zones(plan: Plan) -> list[Mark]:
    """Keep-outs, hand-dig zones and the bands of what is not sure; the setback line."""
    keepouts = plan.site.keepouts
    marks: list[Mark] = []
    outline = _rounds(keepouts.merged("post"))
    if outline:
        marks.append(rings("keep-out", outline))
    for zone in keepouts.zones:
        if zone.by_hand is not None:
            marks += [line("hand-dig", *ring) for ring in _rounds(zone.by_hand)]
        if shapely.area(zone.band) > shapely.area(zone.thing) + 0.05:
            marks += [rings("band", _rounds(zone.band))]
    if keepouts.inside is not None and keepouts.setback_m > 0.2:
        marks += [line("setback", *ring) for ring in _rings_of(keepouts.inside)]
    return marks


def things_on(plan: Plan, units: UnitSystem) -> list[Mark]:
    """What is there, with the zones round it."""
    return [*_zones(plan), *_features(plan, units)]


def _features(plan: Plan, units: UnitSystem) -> list[Mark]:
    marks: list[Mark] = []
    for zone in plan.site.keepouts.boundaries:
        marks += owned((line("kind-boundary", *ring) for ring in _rings_of(zone.thing)), _path(zone))
    for zone in plan.site.keepouts.zones:
        marks += owned(_feature(zone, units), _path(zone))
    return marks


def _path(zone: Zone) -> str:
    return f"site.features.{zone.feature.id}"


def _feature(zone: Zone, units: UnitSystem) -> list[Mark]:
    """One thing, in the line or hatch of its kind, with its name and depth or height."""
    feature, layer = zone.feature, f"kind-{_slug(zone.feature.kind)}"
    words = feature.label
    if feature.depth_m is not None:
        words += f", {format_value(feature.depth_m, 'tape', units)} deep"
    elif feature.height_m is not None and feature.kind != "building":
        words += f", {format_value(feature.height_m, 'run', units)} high"
    match feature.facts.shape:
        case "area":
            at = shapely.get_coordinates(shapely.point_on_surface(zone.thing))[0]
            return [*_filled(layer, zone.thing), label(words, tuple(at), "kind-note", free=True)]
        case "line":
            at = shapely.get_coordinates(
                shapely.line_interpolate_point(feature.geometry(), 0.3, normalized=True)
            )[0]
            wide = _filled(f"{layer}-wide", zone.thing) if feature.width_m else []
            return [
                *wide,
                line(layer, *feature.points),
                label(words, (at[0], at[1] + 0.6), "kind-note", free=True),
            ]
        case "point":
            at = feature.points[0]
            crown = _filled(layer, zone.thing) if feature.width_m and (feature.kind == "tree") else []
            return [*crown, dot(layer, at), label(words, (at[0], at[1] + 0.8), "kind-note", free=True)]


def _holes(plan: Plan) -> list[Mark]:
    marks: list[Mark] = []
    # What a hole says of the ground is worked out once it is known how deep it freezes.
    site = plan.site
    soils = site.known_soils[: len(site.hole_ids)]
    holes = zip_longest(site.hole_ids, site.hole_places_m.tolist(), soils)
    for hole_id, at, soil in holes:
        said = f"{soil.hole}: {soil.words}" if soil else "test hole"
        words = label(said, (at[0] + 0.7, at[1]), "hole-note", "start", free=True)
        marks += owned((dot("hole", tuple(at)), words), f"site.test_holes.{hole_id}")
    return marks


def _load_tests(plan: Plan) -> list[Mark]:
    """Posts that were tested, each by its name."""
    return [
        mark
        for test in plan.site.load_tests
        for mark in owned(
            (
                dot("load-test", (test.east_m, test.north_m)),
                label(
                    f"{test.called}, {test.loaded}",
                    (test.east_m + 0.7, test.north_m),
                    "hole-note",
                    "start",
                    free=True,
                ),
            ),
            f"site.load_tests.{test.id}",
        )
    ]


def _reach(plan: Plan, low: Point, high: Point) -> list[Mark]:
    """How far a chute reaches from the truck's path."""
    path = plan.site.access.path
    if path is None:
        return []
    sheet = shapely.box(*low, *high)
    reached = shapely.buffer(path, plan.site.access.chute.value)
    return _filled("reach", shapely.intersection(reached, sheet))


def _array(plan: Plan) -> list[Mark]:
    return scene(
        plan, wall=not any(zone.feature.kind == "building" for zone in plan.site.keepouts.zones)
    )


def post_hits(plan: Plan) -> list[Mark]:
    """Posts of the array that is open that stand where they must not."""
    if not plan.has("structure"):
        return []
    reach = plan.footings.reach_m if plan.has("footings") else 0.0
    at, keepouts = plan.places, plan.site.keepouts.wider(reach)
    bad = {index for hit in keepouts.posts_on(at.east_m, at.north_m) for index in hit.which}
    bad |= set(np.flatnonzero(keepouts.points_outside(at.east_m, at.north_m)).tolist())
    points = places(at.east_m, at.north_m)
    return [
        mark
        for index in sorted(bad)[:SHOWN_SHOTS]
        for mark in (
            dot("post-hit", points[index]),
            label(str(index + 1), (points[index][0], points[index][1] - 0.9), "post-hit"),
        )
    ]


def _words(plan: Plan, units: UnitSystem) -> list[Mark]:
    """What the array is, the bends, and how the ground falls where it is a plane."""
    marks: list[Mark] = []
    for one in plan.each():
        if not one.has("rows"):
            continue
        rows = one.rows
        (east,), (north,) = rows.setting.east_north_m([0.0], [-rows.section.post_x_m - 1.2])
        stands = " (standing)" if one.array.standing else ""
        words = f"{rows.module_count} modules"
        if len(plan.arrays) <= MOST_TOLD_WHOLE:
            posts = f" on {one.structure.supports.count} posts" if one.has("structure") else ""
            words += f"{posts}, facing {rows.facing_deg:.0f}° true"
        words = (f"{one.array.name}{stands}: " if plan.several else "") + words
        marks.append(label(words, (float(east), float(north)), "array-note", free=True))
    if plan.has("trench"):
        marks += _way_words(plan, units)
    if plan.has("rows") and plan.site.known.surface is None and plan.rows.local.slope > 0:
        marks += _fall(plan, units)
    return marks


def _way_words(plan: Plan, units: UnitSystem) -> list[Mark]:
    """The bends of the trunk by number, and where the trench is dug by hand."""
    marks: list[Mark] = []
    for trunk in plan.trench.tree.ways[:1]:
        inner = trunk.points_m[1 if trunk.array is not None else 0 : -1].tolist()
        marks += [
            label(f"bend {number + 1}", (x + 1.3, y - 0.8), "way-note", "start", free=True)
            for number, (x, y) in enumerate(inner)
        ]
    for piece in plan.trench.dug:
        line_of = piece.stretch.line
        for crossing in piece.crossings:
            middle = (crossing.from_m + crossing.to_m) / 2
            at = (
                float(np.interp(middle, line_of.chainage_m, line_of.profile_east_m)),
                float(np.interp(middle, line_of.chainage_m, line_of.profile_north_m)),
            )
            # From where it is measured is plain where there is one way alone.
            where = "" if plan.several else f" at {format_value(crossing.from_m, 'run', units)}"
            marks += [
                dot("way-crossing", at),
                label(f"dig by hand{where}", (at[0] + 0.8, at[1]), "way-note", "start", free=True),
            ]
    return marks


def _fall(plan: Plan, units: UnitSystem) -> list[Mark]:
    """An arrow down the plane."""
    local, rows = plan.rows.local, plan.rows
    bearing = math.radians(local.falls_toward_deg)
    (east,), (north,) = rows.setting.east_north_m(
        [-rows.row_length_m * 0.25], [rows.footprint_depth_m + 5.0]
    )
    start = (float(east), float(north))
    end = (start[0] + 5 * math.sin(bearing), start[1] + 5 * math.cos(bearing))
    wing = [
        (end[0] - 1.1 * math.sin(bearing + turn), end[1] - 1.1 * math.cos(bearing + turn))
        for turn in (-0.4, 0.4)
    ]
    return [
        line("fall", start, end),
        line("fall", wing[0], end, wing[1]),
        label(
            f"falls {format_value(local.slope, 'ratio', units)}",
            (start[0], start[1] + 0.7),
            "contour-note",
            free=True,
        ),
    ]
