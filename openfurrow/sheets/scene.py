"""The job in three dimensions, for a viewer that draws triangles: metres east, north and up.

Levels are over the lowest known ground of the scene, so that numbers stay small.
"""

from typing import Annotated

import numpy as np
import shapely
from numpy.typing import NDArray
from pydantic import Field

from openfurrow.core.plan import Plan
from openfurrow.core.site.contours import contour_levels_m, contours
from openfurrow.core.site.keepouts import Zone
from openfurrow.core.site.surface import Surface, surface_through
from openfurrow.sheets.drawings.levels import level_step_m
from openfurrow.sheets.models import Frozen

Floats = NDArray[np.float64]
Flat = Annotated[tuple[float, ...], Field(description="Coordinates one after another")]

MARGIN_M = 12.0
MOST_CONTOURS, CONTOUR_OVER_M = 20, 0.03
LINE_STEP_M = 1.0
OVERHEAD_M, STANDING_M = 6.0, 2.0


class Mesh(Frozen):
    """Triangles: ``positions`` x, y, z of each corner, ``triangles`` indices of three each."""

    positions: Flat
    triangles: tuple[int, ...]


class SceneLine(Frozen):
    """A line in space in the colour of a layer."""

    layer: str
    name: str
    points: Flat


class SceneSolid(Frozen):
    """An upright prism over an outline (x, y pairs), from its ground to its top."""

    layer: str
    name: str
    outline: Flat
    bottom_m: float
    top_m: float


class SceneTree(Frozen):
    """A tree: trunk and crown."""

    name: str
    at: tuple[float, float, float]
    height_m: float
    crown_m: float


class SceneArray(Frozen):
    """One array.

    ``modules`` holds for each module the middle of its glass (x, y, z), then the rise of its table
    along its length and its turn, clockwise from ``facing_deg``; all share size and tilt. ``posts``:
    x, y, foot, top of each.
    """

    name: str
    modules: Flat
    module_along_m: float
    module_up_m: float
    tilt_deg: float
    facing_deg: float
    posts: Flat


class Scene(Frozen):
    """Everything a viewer draws."""

    ground: Mesh
    known: bool
    arrays: tuple[SceneArray, ...]
    lines: tuple[SceneLine, ...]
    solids: tuple[SceneSolid, ...]
    trees: tuple[SceneTree, ...]
    middle: tuple[float, float, float]
    reach_m: float


def _rounded(values: Floats) -> tuple[float, ...]:
    return tuple(np.round(values, 3).ravel().tolist())


def _ground(plan: Plan) -> tuple[Surface, bool]:
    """The survey's surface, or a square of the plane round the job."""
    surface = plan.site.known.surface
    if surface is not None:
        return surface, True
    corners = [np.zeros((1, 2))] if plan.lacking("rows") else []
    corners += [one.rows.lie.tables.corners.reshape(-1, 2) for one in plan.each() if one.has("rows")]
    corners += [way.points_m for way in plan.trench.tree.ways] if plan.has("trench") else []
    corners += [shapely.get_coordinates(zone.thing) for zone in plan.site.keepouts.zones]
    points = np.vstack(corners)
    low, high = points.min(axis=0) - MARGIN_M, points.max(axis=0) + MARGIN_M
    x, y = np.meshgrid(np.linspace(low[0], high[0], 13), np.linspace(low[1], high[1], 13))
    level = plan.site.ground.level_m(x.ravel(), y.ravel())
    return surface_through(np.column_stack((x.ravel(), y.ravel(), level)), None, 1e6), False


def modules_m(plan: Plan) -> Floats:
    """Middle of each module's glass, its table's rise along it and turn from the rows, (n, 5).

    Of the open array.
    """
    rows, lie, tables = plan.rows, plan.rows.lie, plan.rows.tables
    section = rows.section
    of, _, from_middle = rows.each_column
    up = (rows.lows_m + rows.module_up_m / 2) / section.chord_m
    table, away = of[:, None], from_middle[:, None]
    east, north = tables.east_north_m(table, away, tables.edge_back_m + up * section.level_depth_m)
    level = lie.edge_at(table, away) + up * section.rise_m
    turned = np.broadcast_to(tables.turn_deg[table], level.shape)
    rise = np.broadcast_to(lie.rise_along[table], level.shape)
    return np.stack((east, north, level, rise, turned), axis=-1).reshape(-1, 5)


def scene_of(plan: Plan) -> Scene:
    """The scene of a plan."""
    surface, known = _ground(plan)
    datum = float(surface.points_m[np.unique(surface.triangles), 2].min())
    ground = surface.points_m - np.array([0.0, 0.0, datum])
    extent = surface.points_m[np.unique(surface.triangles)]
    laid = [one for one in plan.each() if one.has("rows")]
    glass = [modules_m(one)[:, :3] for one in laid] or [extent]
    middle = np.concatenate(glass).mean(axis=0)
    zones = plan.site.keepouts.zones
    return Scene(
        ground=Mesh(positions=_rounded(ground), triangles=tuple(surface.triangles.ravel().tolist())),
        known=known,
        arrays=tuple(_array(one, datum) for one in laid),
        lines=(*_level_lines(plan, surface, datum), *_lines(plan, zones, datum), *_trench(plan, datum)),
        solids=tuple(_solid(plan, z, datum) for z in zones if z.feature.kind == "building"),
        trees=tuple(_tree(plan, zone, datum) for zone in zones if zone.feature.kind == "tree"),
        middle=(float(middle[0]), float(middle[1]), float(middle[2]) - datum),
        reach_m=float(np.ptp(extent[:, :2], axis=0).max()),
    )


def _array(plan: Plan, datum: float) -> SceneArray:
    """The array that is open."""
    return SceneArray(
        name=plan.array.name,
        modules=_rounded(modules_m(plan) - np.array([0.0, 0.0, datum, 0.0, 0.0])),
        module_along_m=plan.rows.module_along_m,
        module_up_m=plan.rows.module_up_m,
        tilt_deg=plan.rows.section.tilt_deg,
        facing_deg=plan.rows.facing_deg,
        posts=_rounded(_uprights(plan, datum)) if plan.has("structure") else (),
    )


def _uprights(plan: Plan, datum: float) -> Floats:
    """East, north, foot and top of each post; one whose depth is not known yet ends at the ground."""
    supports = plan.structure.supports
    foot = supports.ground_m - datum
    depths = plan.footings.posts.depths_m if plan.has("footings") else np.zeros(foot.size)
    top = foot + supports.reveals_m + plan.structure.posts.bent.top_m
    return np.column_stack((supports.places.east_m, supports.places.north_m, foot - depths, top))


def _level_lines(plan: Plan, surface: Surface, datum: float) -> list[SceneLine]:
    """Level lines, so that the fall of the ground is seen from above."""
    levels = surface.points_m[np.unique(surface.triangles), 2]
    low, high = float(levels.min()), float(levels.max())
    step = level_step_m(high - low, MOST_CONTOURS, plan.site.display_units)
    return [
        SceneLine(
            layer="contour",
            name="level line",
            points=_rounded(
                np.column_stack(
                    (run.points_m, np.full(len(run.points_m), run.level_m - datum + CONTOUR_OVER_M))
                )
            ),
        )
        for run in contours(surface.points_m, surface.triangles, contour_levels_m(low, high, step))
    ]


def _draped(plan: Plan, shape: shapely.Geometry, datum: float, over_m: float) -> Floats:
    """A line laid on the ground, ``over_m`` above it."""
    at = shapely.get_coordinates(shapely.segmentize(shape, LINE_STEP_M))
    level = plan.site.ground.level_m(at[:, 0], at[:, 1]) - datum + over_m
    return np.column_stack((at, level))


def _lines(plan: Plan, zones: tuple[Zone, ...], datum: float) -> list[SceneLine]:
    found = []
    boundary = plan.site.keepouts.trench_inside
    if boundary is not None:
        found += [
            SceneLine(
                layer="kind-boundary",
                name="boundary",
                points=_rounded(_draped(plan, part.exterior, datum, 0.15)),
            )
            for part in shapely.get_parts(boundary)
        ]
    for zone in zones:
        feature, facts = zone.feature, zone.feature.facts
        if facts.shape == "point" or feature.kind == "building":
            continue
        over = 0.12
        if facts.lies == "buried":
            over = -(feature.depth_m if feature.depth_m is not None else 0.6)
        elif facts.lies == "overhead":
            over = feature.height_m or OVERHEAD_M
        elif facts.lies == "standing":
            over = feature.height_m or STANDING_M
        shape = feature.geometry()
        outline = shape.exterior if facts.shape == "area" else shape
        found.append(
            SceneLine(
                layer=f"kind-{feature.kind.replace(' ', '-')}",
                name=feature.label,
                points=_rounded(_draped(plan, outline, datum, over)),
            )
        )
    return found


def _trench(plan: Plan, datum: float) -> list[SceneLine]:
    """Every stretch that is dug, each once."""
    if not plan.has("trench"):
        return []
    cover = plan.run.route.cover_m
    return [
        SceneLine(
            layer="pipe",
            name=piece.stretch.name if plan.several else "trench",
            points=_rounded(
                np.column_stack(
                    (line.profile_east_m, line.profile_north_m, line.ground_m - datum - cover)
                )
            ),
        )
        for piece in plan.trench.dug
        for line in (piece.stretch.line,)
    ]


def _solid(plan: Plan, zone: Zone, datum: float) -> SceneSolid:
    at = shapely.get_coordinates(zone.thing.exterior)
    level = plan.site.ground.level_m(at[:, 0], at[:, 1]) - datum
    return SceneSolid(
        layer="building",
        name=zone.feature.label,
        outline=_rounded(at[:-1]),
        bottom_m=float(level.min()),
        top_m=float(level.max()) + (zone.feature.height_m or 3.0),
    )


def _tree(plan: Plan, zone: Zone, datum: float) -> SceneTree:
    east, north = zone.feature.points[0]
    level = float(plan.site.ground.level_m(east, north)) - datum
    return SceneTree(
        name=zone.feature.label,
        at=(east, north, level),
        height_m=zone.feature.height_m or 8.0,
        crown_m=zone.feature.width_m or 4.0,
    )
