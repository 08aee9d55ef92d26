"""The cut: this job from the front edge to the building, to scale, each part a way to its stage."""

import math
from collections.abc import Callable

import numpy as np
from numpy.typing import ArrayLike, NDArray
from pydantic import BaseModel, ConfigDict

from openfurrow.core.plan import Plan
from openfurrow.sheets.drawings.table import edge_z, ground_at, ground_line, ground_z, table_side
from openfurrow.sheets.marks import Drawing, Mark, Point, area, box, dot, drawing, line

# Ground levels of the side view at one place or many.
Levels = Callable[[ArrayLike], NDArray[np.float64]]

SHOWN_TRENCH_M = 26.0
FRONT_M = 7.0
# From the wall to the edge of the sheet: the building, what is laid down, what is handed over.
RIGHT_M = 9.6
WAY_STATIONS = 48
RAY_STEP_M = 0.25
FINER = 65


class Part(BaseModel):
    """A part of the cut that leads to a stage: an outline to point at and where its mark sits."""

    model_config = ConfigDict(frozen=True)

    stage: str
    outline: tuple[Point, ...]
    at: Point


class Cut(BaseModel):
    """The drawing and its parts."""

    model_config = ConfigDict(frozen=True)

    drawing: Drawing
    parts: tuple[Part, ...]


def _part(stage: str, x0: float, y0: float, x1: float, y1: float, at: Point) -> Part:
    return Part(stage=stage, outline=((x0, y0), (x1, y0), (x1, y1), (x0, y1)), at=at)


# How deep the ground is drawn, and how far off the building, while nobody has said.
BARE_DEPTH_M, BARE_WAY_M = 1.2, 12.0


def cut(plan: Plan) -> Cut:
    """The side view: at most two rows, then the trench unrolled (broken where long), the building.

    What cannot be computed yet is left out; its place leads to its stage all the same.
    """
    if not plan.has("rows"):
        return bare_cut(plan)
    section = plan.rows.section
    shown = min(plan.rows.rows, 2)
    last_edge = (shown - 1) * plan.rows.pitch_m
    post_x = last_edge + section.post_x_m
    dug = plan.has("trench")
    way = min(plan.run.route.ground_length_m, SHOWN_TRENCH_M) if dug else BARE_WAY_M
    wall = max(post_x + way, last_edge + section.level_depth_m + 3.0)
    right = wall + RIGHT_M
    behind = last_edge + section.level_depth_m + 0.4
    z = _unrolled(plan, behind, post_x, wall) if dug else _level(plan)
    z_wall = float(z(wall))
    ground = [*ground_line(plan, -FRONT_M, behind), *_way(z, behind, wall), (right, z_wall)]
    at, levels = np.array(ground).T
    deep = plan.footings.posts.depth_m if plan.has("footings") else BARE_DEPTH_M
    floor = float(levels.min()) - deep - 0.5
    marks = _soil(plan, ground, floor)
    marks += _trench(plan, post_x, wall, z) if dug else []
    marks += [line("ground", *ground)]
    # It falls on the ground as it is drawn, between its stations too.
    marks += _shadow(plan, shown - 1, lambda x: np.interp(np.asarray(x), at, levels))
    marks += _others(plan, z, wall)
    for row in range(shown):
        marks += table_side(plan, row)
    marks += _building(wall, z_wall)
    sun_at = _sun(plan)
    marks += [dot("sun-disc", sun_at), *_stake(plan), *_book(-3.6, ground_z(plan, -3.6))]
    top = max(edge_z(plan, shown - 1) + section.rise_m, sun_at[1], z_wall + 3.4)
    parts = _parts(plan, floor, wall, post_x, last_edge, sun_at, z_wall)
    return Cut(
        drawing=drawing(
            "cut", "The job from the side", marks, low=(-FRONT_M, floor), high=(right, top + 0.75)
        ),
        parts=parts,
    )


def _soil(plan: Plan, ground: list[Point], floor: float) -> list[Mark]:
    frost = plan.site.known_frost_m or 0.0
    right = ground[-1][0]
    marks = [area("soil", *ground, (right, floor), (-FRONT_M, floor))]
    return [*marks, line("frost", *((x, y - frost) for x, y in ground))] if frost > 0 else marks


def _level(plan: Plan) -> Levels:
    """Ground of the side view straight on behind the array, while no way is drawn."""
    return lambda x: ground_at(plan, x)


# The places of the stages on ground with nothing on it: left, right, low and high in metres.
BARE_PARTS: dict[str, tuple[float, float, float, float]] = {
    "site": (-FRONT_M, -2.2, -1.7, 0.3),
    "sun": (-FRONT_M, -1.0, 1.6, 4.2),
    "stakeout": (-2.2, -0.3, -0.6, 1.1),
    "modules": (-0.3, 4.6, 1.9, 3.4),
    "frame": (-0.3, 4.6, 1.1, 1.9),
    "structure": (-0.3, 4.6, 0.0, 1.1),
    "footings": (-0.3, 4.6, -1.7, 0.0),
    "rows": (4.8, 9.0, 0.2, 2.6),
    "trench": (4.8, 16.4, -1.7, 0.0),
    "wiring": (16.4, 18.3, 0.4, 2.4),
    "schedule": (18.5, 21.1, 0.4, 2.4),
    "materials": (21.6, 24.0, 0.0, 1.6),
    "fieldbook": (-4.7, -2.6, 0.3, 1.2),
    "handover": (24.2, 25.9, 0.0, 1.6),
}


def bare_cut(plan: Plan) -> Cut:
    """The ground with nothing on it yet, and where each stage will stand."""
    wall, floor = 16.5, -BARE_DEPTH_M - 0.5
    right = wall + RIGHT_M
    ground = [(-FRONT_M, 0.0), (right, 0.0)]
    marks: list[Mark] = [*_soil(plan, ground, floor), line("ground", *ground)]
    marks += [*_building(wall, 0.0), dot("sun-disc", (-FRONT_M + 2.2, 2.9))]
    marks += [line("stake", (-1.5, -0.3), (-1.5, 0.75)), *_book(-3.6, 0.0)]
    parts = tuple(
        _part(stage, x0, y0, x1, y1, ((x0 + x1) / 2, (y0 + y1) / 2))
        for stage, (x0, x1, y0, y1) in BARE_PARTS.items()
    )
    return Cut(
        drawing=drawing(
            "cut", "The job from the side", marks, low=(-FRONT_M, floor), high=(right, 4.2)
        ),
        parts=parts,
    )


def _others(plan: Plan, z: Levels, wall: float) -> list[Mark]:
    """Other arrays as far behind this one, or before it, as they stand; in outline."""
    own = plan.rows.setting
    back = math.radians(own.facing_deg + 180.0)
    marks: list[Mark] = []
    for one in plan.each():
        if one.open == plan.open or not one.has("rows"):
            continue
        setting, section = one.rows.setting, one.rows.section
        # What is turned another way is seen at a slant.
        share = math.cos(math.radians(setting.facing_deg - own.facing_deg))
        behind = (setting.east_m - own.east_m) * math.sin(back) + (
            setting.north_m - own.north_m
        ) * math.cos(back)
        for row in range(min(one.rows.rows, 2)):
            post = plan.rows.section.post_x_m + behind + row * one.rows.pitch_m * share
            lower = post - section.post_x_m * share
            upper = lower + section.level_depth_m * share
            if min(lower, upper) < -FRONT_M or max(lower, upper) > wall:
                continue
            ground = float(z(post))
            marks += [
                line(
                    "ghost",
                    (lower, ground + section.lower_edge_m),
                    (upper, ground + section.upper_edge_m),
                ),
                line("ghost", (post, ground), (post, ground + section.reveal_m)),
            ]
    return marks


def _trench(plan: Plan, start: float, wall: float, z: Levels) -> list[Mark]:
    depth, cover = plan.trench.depth_m, plan.run.route.cover_m
    steps = np.linspace(start + 0.25, wall - 0.15, 40)
    bed = _points(steps, z(steps) - depth)
    run = np.linspace(start + 0.5, wall - 0.4, 40)
    z_start, z_wall = z([start, wall]).tolist()
    marks: list[Mark] = [
        *((area("backfill", *_points(steps, z(steps)), *reversed(bed)),) if depth > 0 else ()),
        line(
            "pipe",
            (start + 0.14, z_start + 1.1),
            (start + 0.14, z_start - cover + 0.3),
            *_points(run, z(run) - cover),
            (wall - 0.12, z_wall - cover + 0.3),
            (wall - 0.12, z_wall + 1.1),
        ),
    ]
    if plan.run.route.ground_length_m > SHOWN_TRENCH_M:
        middle = (start + wall) / 2
        for x in (middle - 0.12, middle + 0.12):
            over = float(z(x))
            marks.append(
                line(
                    "break",
                    (x - 0.15, over - depth - 0.3),
                    (x + 0.15, over - depth / 2),
                    (x - 0.15, over - depth / 2),
                    (x + 0.15, over + 0.3),
                )
            )
    return marks


def _points(x: NDArray[np.float64], y: NDArray[np.float64]) -> list[Point]:
    return list(zip(x.tolist(), y.tolist(), strict=True))


def _building(wall: float, z_wall: float) -> list[Mark]:
    return [
        area(
            "building",
            (wall, z_wall - 0.5),
            (right := wall + 4.6, z_wall - 0.5),
            (right, z_wall + 2.5),
            (wall, z_wall + 2.5),
        ),
        line(
            "roof",
            (wall - 0.35, z_wall + 2.45),
            (wall + 2.3, z_wall + 3.35),
            (right + 0.35, z_wall + 2.45),
        ),
        *_stack(wall + 5.3, z_wall),
        *_papers(wall + 7.9, z_wall),
        *_board(wall + 2.6, z_wall + 0.9),
        box("inverter", wall + 0.12, z_wall + 1.0, wall + 0.62, z_wall + 1.75),
    ]


def _board(x: float, low: float) -> list[Mark]:
    """The plan of the week, nailed to the wall."""
    rulings = [line("fine", (x, low + k * 0.24), (x + 1.1, low + k * 0.24)) for k in (1, 2, 3)]
    bars = [
        box("task", x + left, low + up, x + left + 0.4, low + up + 0.1)
        for left, up in ((0.1, 0.79), (0.35, 0.55), (0.6, 0.31))
    ]
    return [box("paper", x, low, x + 1.1, low + 0.96), *rulings, *bars]


def _book(x: float, ground: float) -> list[Mark]:
    """A rod with its marks, and the book that is written beside it."""
    marks = [
        line("axis", (x + 0.75, ground + 0.15 * k), (x + 0.9, ground + 0.15 * k)) for k in range(1, 8)
    ]
    page = [(x - 0.35, ground + 0.5), (x + 0.25, ground + 0.42), (x + 0.33, ground + 1.05)]
    return [
        line("string", (x + 0.75, ground), (x + 0.75, ground + 1.15)),
        *marks,
        line("stake", (x, ground), (x, ground + 0.5)),
        area("paper", *page, (x - 0.27, ground + 1.13)),
        *(
            line("fine", (x - 0.22, ground + up), (x + 0.2, ground + up - 0.055))
            for up in (0.98, 0.84, 0.7)
        ),
    ]


def _papers(x: float, ground: float) -> list[Mark]:
    """The set of papers on a board by the gate: what was built, for who comes after."""
    return [
        *(line("stake", (at, ground), (at, ground + 0.6)) for at in (x + 0.2, x + 1.0)),
        box("building", x, ground + 0.55, x + 1.2, ground + 1.45),
        box("paper", x + 0.12, ground + 0.66, x + 0.72, ground + 1.34),
        line("axis", (x + 0.2, ground + 0.85), (x + 0.64, ground + 0.85)),
        line("axis", (x + 0.26, ground + 0.95), (x + 0.58, ground + 1.15)),
        box("paper", x + 0.8, ground + 0.66, x + 1.08, ground + 1.04),
    ]


def _stack(x: float, ground: float) -> list[Mark]:
    """Material laid down: a crate of modules, and bundled steel on bearers."""
    steel = [
        box("purlin", x + 0.9, ground + 0.12 + 0.16 * k, x + 2.0, ground + 0.24 + 0.16 * k)
        for k in range(4)
    ]
    bearers = [box("stake", at, ground, at + 0.12, ground + 0.12) for at in (x + 1.0, x + 1.75)]
    return [box("glass", x, ground, x + 0.7, ground + 1.2), *bearers, *steel]


def _unrolled(plan: Plan, behind: float, post_x: float, wall: float) -> Levels:
    """Ground of the side view: under the array, then along the trench, then level at the wall.

    A trench longer than there is room for is drawn shorter, and broken.
    """
    route = plan.run.route
    stretch = route.level_length_m / max(wall - post_x, 1e-6)
    z_behind = ground_z(plan, behind)
    at_behind = np.interp((behind - post_x) * stretch, route.chainage_m, route.ground_m)

    def z(x: ArrayLike) -> NDArray[np.float64]:
        at = np.asarray(x, dtype=float)
        along = np.interp((np.minimum(at, wall) - post_x) * stretch, route.chainage_m, route.ground_m)
        level = np.asarray(z_behind + along - at_behind)
        under = at <= behind
        level[under] = ground_at(plan, at[under])
        return level

    return z


def _way(z: Levels, behind: float, wall: float) -> list[Point]:
    stations = np.linspace(behind, wall, WAY_STATIONS)
    return _points(stations, z(stations))


def _shadow(plan: Plan, row: int, z: Levels) -> list[Mark]:
    """The last ray of the winter window behind the last row, down to the ground."""
    section, profile = plan.rows.section, math.radians(plan.rows.profile_deg)
    # What follows the sun turns its edge with it.
    if not 0 < plan.rows.profile_deg < 89 or plan.rows.travel is not None:
        return []
    x = row * plan.rows.pitch_m + section.level_depth_m
    top = edge_z(plan, row) + section.rise_m
    end = _where_it_lands((x, top), math.tan(profile), z)
    if end is None:
        return []
    back = min(2.2, 1.2 / math.tan(profile))
    return [
        line("ray", (x - back, top + back * math.tan(profile)), (x, top), end),
    ]


def _where_it_lands(start: Point, fall: float, z: Levels) -> Point | None:
    """Where a ray that falls by ``fall`` per metre first meets the ground; None within 200 m."""
    stations = start[0] + np.arange(0.0, 200.0, RAY_STEP_M)
    # The ground may break within a step: the one in which it lands is looked at once more.
    for last in (False, True):
        clear = start[1] - fall * (stations - start[0]) - z(stations)
        below = np.flatnonzero(clear <= 0)
        if not below.size or below[0] == 0:
            return None
        before, first = below[0] - 1, below[0]
        if not last:
            stations = np.linspace(stations[before], stations[first], FINER)
    x = np.interp(0.0, clear[[first, before]], stations[[first, before]])
    return (float(x), float(z(x)))


def _sun(plan: Plan) -> Point:
    profile = math.radians(min(max(plan.rows.profile_deg, 5), 60))
    height = plan.rows.section.upper_edge_m + 0.2
    return (-FRONT_M + 2.2, max(2.6, min(height + 1.2 * math.tan(profile) + 0.3, 4.4)))


def _stake(plan: Plan) -> list[Mark]:
    x = -1.5
    ground = ground_z(plan, x)
    return [
        line("stake", (x, ground - 0.3), (x, ground + 0.75)),
        line(
            "string",
            (x, ground + 0.6),
            (plan.rows.section.post_x_m, ground_z(plan, plan.rows.section.post_x_m) + 0.6),
        ),
    ]


def _parts(
    plan: Plan,
    floor: float,
    wall: float,
    post_x: float,
    last_edge: float,
    sun_at: Point,
    z_wall: float,
) -> tuple[Part, ...]:
    section = plan.rows.section
    end = last_edge + section.level_depth_m
    ground = ground_z(plan, post_x)
    mid = ground + plan.rows.section.reveal_m * 0.5
    glass_low, glass_high = section.lower_edge_m + section.rise_m * 0.3, section.upper_edge_m + 0.3
    shade_end = min(end + 4.5, wall - 1.0)
    footed, dug = plan.has("footings"), plan.has("trench")
    bed = plan.trench.depth_m if dug else BARE_DEPTH_M
    cover = plan.run.route.cover_m if dug else BARE_DEPTH_M / 2
    return (
        _part("site", -FRONT_M, floor, -2.2, 0.3, (-FRONT_M + 1.4, -1.2)),
        _part("fieldbook", -4.7, 0.3, -2.6, 1.2, (-3.6, 0.8)),
        _part("sun", -FRONT_M, 1.2, -0.4, sun_at[1] + 0.7, sun_at),
        _part("stakeout", -2.2, -0.6, -0.3, 1.1, (-1.5, 0.95)),
        _part(
            "rows",
            end + 0.2,
            ground + 0.05,
            shade_end,
            glass_high + ground,
            ((end + shade_end) / 2, ground + 1.35),
        ),
        _part(
            "modules",
            -0.3,
            glass_low,
            end + 0.2,
            glass_high + ground + 0.2,
            (
                last_edge + section.level_depth_m * 0.5,
                ground + section.lower_edge_m + section.rise_m * 0.62,
            ),
        ),
        _part(
            "frame",
            last_edge - 0.3,
            mid,
            end + 0.2,
            glass_low + ground,
            (post_x, ground + section.reveal_m * 0.8),
        ),
        _part(
            "structure",
            last_edge - 0.3,
            ground,
            end + 0.2,
            mid,
            (post_x, ground + section.reveal_m * 0.25),
        ),
        _part(
            "footings",
            -0.3,
            floor,
            end + 0.2,
            ground,
            (post_x, ground - (plan.footings.posts.depth_m if footed else BARE_DEPTH_M) * 0.55),
        ),
        _part(
            "trench",
            end + 0.2,
            ground - bed - 0.5,
            wall,
            z_wall + 0.05,
            ((end + wall) / 2, (ground + z_wall) / 2 - cover),
        ),
        _part("wiring", wall - 0.3, z_wall, wall + 1.7, z_wall + 2.4, (wall + 0.37, z_wall + 1.4)),
        _part("schedule", wall + 1.9, z_wall, wall + 4.6, z_wall + 2.4, (wall + 3.15, z_wall + 1.4)),
        _part("materials", wall + 5.1, z_wall, wall + 7.4, z_wall + 1.4, (wall + 6.2, z_wall + 0.6)),
        _part("handover", wall + 7.6, z_wall, wall + 9.4, z_wall + 1.6, (wall + 8.5, z_wall + 1.0)),
    )
