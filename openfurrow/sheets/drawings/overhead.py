"""The plan seen from above, north up: posts, glass, the way to the building, the diagonals."""

import math
from itertools import pairwise

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.core.rows.travel import swept_ground
from openfurrow.sheets.marks import (
    Drawing,
    Mark,
    Point,
    area,
    bounds,
    dimension,
    dot,
    dots,
    drawing,
    label,
    line,
    outlines,
    owned,
)

Floats = NDArray[np.float64]
SHOWN_POSTS = 20_000
SHOWN_TABLES = 8_000
# So few posts have room for their numbers.
MOST_NUMBERED = 40
# How much of a line that is crossed is drawn either side of the trench.
CROSSING_SHOWN_M = 6.0


def places(east: Floats, north: Floats) -> list[Point]:
    """Columns as points."""
    return list(zip(east.tolist(), north.tolist(), strict=True))


def glass(plan: Plan, layer: str) -> list[Mark]:
    """Each table's glass on the plan, once the tables are laid out."""
    if not plan.has("rows"):
        return []
    return [*outlines(layer, plan.rows.lie.tables.corners[:SHOWN_TABLES]), *swept(plan)]


def swept(plan: Plan) -> list[Mark]:
    """The circles that tables sweep which follow the sun."""
    rows = plan.rows
    if rows.travel is None:
        return []
    circles = swept_ground(rows.lie, rows.travel)[:SHOWN_TABLES]
    return [line("ghost", *map(tuple, shapely.get_coordinates(one).tolist())) for one in circles]


def posts(plan: Plan) -> list[Mark]:
    """Each post on the plan, once it is known where they stand."""
    if not plan.has("structure"):
        return []
    at = np.column_stack((plan.places.east_m, plan.places.north_m))
    return dots("post", at[:SHOWN_POSTS])


def north_arrow(at: Point, size: float) -> list[Mark]:
    """Which way is up."""
    x, y = at
    return [
        line("north", (x, y - size), (x, y + size)),
        area(
            "north",
            (x - size * 0.28, y + size * 0.35),
            (x, y + size),
            (x + size * 0.28, y + size * 0.35),
        ),
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


def left_out(plan: Plan) -> tuple[str, ...]:
    """What a plan of a large array does not draw, in words."""
    found = []
    for one in plan.each():
        if not one.has("structure"):
            continue
        of = f" of {one.array.name}" if plan.several else ""
        shown = (
            (SHOWN_POSTS, one.places.line.size, "posts"),
            (SHOWN_TABLES, one.rows.tables.count, "tables"),
        )
        found += [
            f"the first {most:,} of {count:,} {what}{of} are drawn".replace(",", "\u202f")
            for most, count, what in shown
            if count > most
        ]
    return tuple(found)


def ways(plan: Plan) -> list[Mark]:
    """The trunk first, then the spurs; one that nobody drew is dashed."""
    if not plan.has("trench"):
        # As it was drawn, before it is known from which post it starts.
        drawn = plan.site.route_m
        return [line("pipe-straight", *drawn)] if len(drawn) > 1 else []
    marks: list[Mark] = []
    for way in plan.trench.tree.ways:
        at = [(x, y) for x, y in way.points_m.tolist()]
        # What a line begins at is a post, or the junction with nothing: it is no bend to be moved.
        at = at if way.array is not None else [at[0], *at]
        if len(at) > 1:
            mark = line("pipe" if way.drawn else "pipe-straight", *at)
            marks += (
                owned([mark], way.given.removesuffix(".points"))
                if way.into is not None and (way.drawn)
                else [mark]
            )
    return marks


def scene(plan: Plan, wall: bool = True) -> list[Mark]:
    """Glass, ways and posts of all arrays; ``wall`` draws a corner of the building where none was."""
    marks = [mark for one in plan.each() for mark in glass(one, "glass")]
    trunk: list[list[float]] = [list(at) for at in plan.site.route_m]
    if plan.has("trench"):
        trunk = next((way.points_m.tolist() for way in plan.trench.tree.ways), [])
    if wall and len(trunk) > 1:
        marks += _wall((trunk[-1][0], trunk[-1][1]), (trunk[-2][0], trunk[-2][1]))
    return [*marks, *ways(plan), *(mark for one in plan.each() for mark in posts(one))]


def route_drawing(plan: Plan, units: UnitSystem) -> Drawing:
    """The way with the length of each stretch and each turn."""
    others = [
        mark for one in plan.each() if one.open != plan.open for mark in glass(one, "glass-faint")
    ]
    marks: list[Mark] = [*others, *(ways(plan) if plan.several else [])]
    route = plan.run.route
    way = places(route.east_m, route.north_m)
    own = glass(plan, "glass")
    if len(way) > 1:
        own += [*_wall(way[-1], way[-2]), line("pipe", *way)]
    own += posts(plan)
    marks += own
    for crossing in plan.run.crossings:
        feature = crossing.zone.feature
        middle = (crossing.from_m + crossing.to_m) / 2
        at = tuple(
            float(np.interp(middle, route.chainage_m, part))
            for part in (route.profile_east_m, route.profile_north_m)
        )
        near = shapely.intersection(feature.geometry(), shapely.Point(at).buffer(CROSSING_SHOWN_M))
        # Where only its zone is met it may lie further off than is drawn.
        for part in shapely.get_parts(near)[~shapely.is_empty(shapely.get_parts(near))]:
            marks.append(
                line(
                    f"kind-{feature.kind.replace(' ', '-')}", *map(tuple, shapely.get_coordinates(part))
                )
            )
        marks.append(dot("way-crossing", (at[0], at[1])))
    for a, b in pairwise(way):
        marks.append(dimension(format_value(math.dist(a, b), "run", units), a, b, 7))
    for at, turn in zip(way[1:-1], route.turns_deg, strict=True):
        marks.append(label(f"{turn:.0f}°", (at[0] + 0.8, at[1] - 0.9), "note", "start"))
    # The sheet is the array's own: of the others what lies on it is seen.
    low, high = bounds(own, 3.0)
    of = f" of {plan.array.name}" if plan.several else ""
    return drawing(
        "route", f"The way{of}, from above", marks, low=low, high=high, legend=left_out(plan)
    )


def _squared(plan: Plan, units: UnitSystem) -> list[Mark]:
    """The strings around the array, the two diagonals and what the tape reads."""
    stakeout = plan.setting_out
    corners = places(stakeout.corners_east_m, stakeout.corners_north_m)
    # What the tape reads along the purlins; the drawing itself is level.
    taped = plan.answer("stakeout", "tape").value
    deep = math.dist(corners[1], corners[2])
    middle = ((corners[0][0] + corners[2][0]) / 2, (corners[0][1] + corners[2][1]) / 2 + 0.5)
    return [
        line("string", *corners, corners[0]),
        line("diagonal", corners[0], corners[2]),
        line("diagonal", corners[1], corners[3]),
        *(dot("stake", at) for at in corners[2:]),
        dimension(format_value(taped, "tape", units), corners[0], corners[1], -14),
        dimension(format_value(deep, "tape", units), corners[1], corners[2], -8),
        label(f"both {format_value(stakeout.diagonal_level_m, 'tape', units)}", middle, "strong"),
    ]


def stakes_drawing(plan: Plan, units: UnitSystem) -> tuple[Drawing, ...]:
    """Posts by number, the running tape and the two diagonals."""
    marks: list[Mark] = glass(plan, "glass-faint")
    stakeout = plan.setting_out
    squared = _squared(plan, units) if stakeout.squared else []
    marks += [*squared, *posts(plan)]
    stood = plan.places
    if stood.east_m.size <= MOST_NUMBERED:
        marks += [
            label(str(number + 1), (x, y - 0.75), "strong")
            for number, (x, y) in enumerate(places(stood.east_m, stood.north_m))
        ]
    # Dimensions stand a width of paper off what they measure: more metres on a larger sheet.
    low, high = bounds(marks, max(2.2, 0.05 * stakeout.diagonal_level_m))
    size = max(high[0] - low[0], high[1] - low[1]) * 0.03
    return (
        drawing(
            "stakes",
            "Stakes, north up",
            [*marks, *north_arrow((high[0] - 1.5 * size, high[1] - 2.2 * size), size)],
            low=low,
            high=high,
            legend=left_out(plan),
        ),
    )
