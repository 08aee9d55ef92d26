"""Pieces of the side view that several drawings share: ground, post, table, trench."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from openfurrow.core.plan import Plan
from openfurrow.sheets.marks import Mark, Point, area, line, turned

Floats = NDArray[np.float64]


def _middle_along_m(plan: Plan) -> float:
    """Where along the rows the side view is taken: the middle of the middle table."""
    tables = plan.rows.even.tables
    return float(tables.middle_m[plan.rows.tables_along // 2])


def ground_at(plan: Plan, x: ArrayLike) -> Floats:
    """Ground level in the side view, over the ground below the first lower edge.

    ``x`` runs level from the first lower edge to the back.
    """
    setting, ground = plan.rows.setting, plan.site.ground
    along = _middle_along_m(plan)
    edge = -plan.rows.section.post_x_m
    level = ground.level_m(*setting.east_north_m(along, np.asarray(x, dtype=float) + edge))
    return np.asarray(level - ground.level_m(*setting.east_north_m(along, edge)))


def ground_z(plan: Plan, x: float) -> float:
    """The same at one place."""
    return float(ground_at(plan, x))


def ground_line(plan: Plan, x0: float, x1: float) -> list[Point]:
    """The ground between two places of the side view; an even slope needs its ends only."""
    flat = plan.site.known.surface is None
    stations = np.linspace(x0, x1, 2 if flat else max(3, round((x1 - x0) / 0.25)))
    return list(zip(stations.tolist(), ground_at(plan, stations).tolist(), strict=True))


def edge_z(plan: Plan, row: int) -> float:
    """The lower edge of a row in the side view; a row that is not there lies like the first."""
    x = row * plan.rows.pitch_m
    if row >= plan.rows.rows:
        return ground_z(plan, x) + plan.rows.section.lower_edge_m
    along = _middle_along_m(plan)
    setting, ground = plan.rows.setting, plan.site.ground
    table = row * plan.rows.tables_along + plan.rows.tables_along // 2
    first = float(ground.level_m(*setting.east_north_m(along, -plan.rows.section.post_x_m)))
    # The side view is the pattern's: tables that differ are seen from above.
    away = (along - float(plan.rows.even.tables.middle_m[table])) / float(
        plan.rows.even.tables.level_share[table]
    )
    return float(plan.rows.even.edge_at(table, away)) - first


def table_side(plan: Plan, row: int) -> tuple[Mark, ...]:
    """One table seen from its end: post, strut, beam, purlins and glass."""
    section = plan.rows.section
    x_edge = row * plan.rows.pitch_m
    base = (x_edge, edge_z(plan, row))
    tilt = section.tilt_deg
    members = plan.structure.members
    purlin, beam = members.purlin.section, members.beam
    thick = section.stack_m - purlin.depth_m - beam.section.depth_m / 2
    post_x = x_edge + section.post_x_m
    ground, bolt = ground_z(plan, post_x), base[1] + section.bolt_z_m
    half = plan.structure.posts.post.depth_m / 2
    top_of_post = bolt + plan.structure.posts.givens.post_top_m
    depth = plan.footings.posts.depth_m

    def strip(y0: float, y1: float, z0: float, z1: float) -> tuple[Point, ...]:
        return turned(((y0, z0), (y1, z0), (y1, z1), (y0, z1)), base, tilt)

    start = beam.start_m
    top = -thick - purlin.depth_m
    foot = (post_x, ground + members.strut.foot_m)
    head = turned(((start + beam.strut_m, -section.stack_m),), base, tilt)[0]
    glass = []
    for y0 in plan.rows.lows_m.tolist():
        glass.append(area("glass", *strip(y0, y0 + plan.rows.module_up_m, -thick, 0)))
    return (
        area(
            "post-buried",
            (post_x - half, ground - depth),
            (post_x + half, ground - depth),
            (post_x + half, ground),
            (post_x - half, ground),
        ),
        area(
            "post",
            (post_x - half, ground),
            (post_x + half, ground),
            (post_x + half, top_of_post),
            (post_x - half, top_of_post),
        ),
        line("strut", foot, head),
        area("beam", *strip(start, start + beam.length_m, top - beam.section.depth_m, top)),
        *(
            area("purlin", *strip(y - 0.03, y + 0.03, -thick - purlin.depth_m, -thick))
            for y in beam.places_m.tolist()
        ),
        *glass,
    )


def soil_under(plan: Plan, x0: float, x1: float, floor: float) -> tuple[Mark, ...]:
    """Ground with its line, and the frost line below it."""
    frost = plan.site.frost_depth_m
    ground = ground_line(plan, x0, x1)
    marks = [area("soil", *ground, (x1, floor), (x0, floor)), line("ground", *ground)]
    if frost > 0:
        marks.append(line("frost", *((x, z - frost) for x, z in ground)))
    return tuple(marks)
