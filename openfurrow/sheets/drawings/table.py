"""Pieces of the side view that several drawings share: ground, post, table, trench."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from openfurrow.core.plan import Plan
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.rows.positions import Position
from openfurrow.core.structures.roles import ONE_LINE
from openfurrow.sheets.drawings.carrying import Side, Upright, buried, carrying
from openfurrow.sheets.marks import Mark, Point, area, line

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


def _side(plan: Plan, row: int) -> Side:
    section = plan.rows.section
    x, edge = row * plan.rows.pitch_m, edge_z(plan, row)
    roles = plan.structure.posts.roles if plan.has("structure") else ONE_LINE
    stands = [x + section.post_x_m + role.back_m for role in roles]
    return Side(
        (x, edge),
        section.tilt_deg,
        tuple(
            Upright(at, ground_z(plan, at), edge + section.bolt_z_m + role.up_m)
            for at, role in zip(stands, roles, strict=True)
        ),
    )


def side_at(plan: Plan, section: TableSection) -> Side:
    """The first row set to another tilt: its posts stay where they are, and their bolts."""
    now, put_up = _side(plan, 0), plan.rows.section
    x = now.base[0] + put_up.post_x_m - section.post_x_m
    low = x, now.base[1] + put_up.bolt_z_m - section.bolt_z_m
    return Side(low, section.tilt_deg, now.posts)


def table_side(plan: Plan, row: int) -> tuple[Mark, ...]:
    """One table seen from its end, as far as it is known: post, strut, beam, purlins and glass."""
    side = _side(plan, row)
    return (
        *(buried(plan, side) if plan.has("footings") else ()),
        *(carrying(plan, side, glass_m(plan)) if plan.has("structure") else ()),
        *glass_of(plan, side),
        *(line("ghost", *edges) for _, edges in other_tilts(plan, row)),
    )


def other_tilts(plan: Plan, row: int) -> tuple[tuple[Position, tuple[Point, Point]], ...]:
    """The other tilts that a row is set to, and the glass at each from its lower to its upper edge.

    Of what travels both limits alone; of what goes over to the other side its limit there too.
    """
    side, now, positions = _side(plan, row), plan.rows.section, plan.rows.positions
    travel = plan.rows.travel
    limits = positions if travel is None else (positions[0], positions[-1])
    every = [(one, one.section) for one in limits]
    if travel is not None and travel.rolls:
        steepest = positions[-1]
        every.append((steepest, steepest.section.turned(-steepest.tilt_deg)))
    found = []
    for one, section in every:
        if section.tilt_deg != now.tilt_deg:
            x = side.base[0] + now.post_x_m - section.post_x_m
            low = x, side.base[1] + now.bolt_z_m - section.bolt_z_m
            found.append((one, (low, (low[0] + section.level_depth_m, low[1] + section.rise_m))))
    return tuple(found)


# How deep glass is drawn while nobody can say what carries it.
BARE_GLASS_M = 0.03


def glass_m(plan: Plan) -> float:
    """From the glass to the purlins."""
    if not plan.has("structure"):
        return BARE_GLASS_M
    members = plan.structure.members
    if members.beam is None:
        return plan.rows.section.stack_m - members.purlin.section.depth_m
    on, under = members.purlin.section.depth_m, members.beam.section.depth_m
    # Purlins lie on beams, rails on pipes: what is under is counted to its middle.
    if members.stock.under_rails:
        on, under = under, on
    return plan.rows.section.stack_m - on - under / 2


def glass_of(plan: Plan, side: Side) -> tuple[Mark, ...]:
    """The modules seen from their ends."""
    thick, up_m = glass_m(plan), plan.rows.module_up_m
    return tuple(
        area("glass", *side.strip(y0, y0 + up_m, -thick, 0)) for y0 in plan.rows.lows_m.tolist()
    )


def soil_under(plan: Plan, x0: float, x1: float, floor: float) -> tuple[Mark, ...]:
    """Ground with its line, and the frost line below it."""
    frost = plan.site.known_frost_m or 0.0
    ground = ground_line(plan, x0, x1)
    marks = [area("soil", *ground, (x1, floor), (x0, floor)), line("ground", *ground)]
    if frost > 0:
        marks.append(line("frost", *((x, z - frost) for x, z in ground)))
    return tuple(marks)
