"""Structure: one table from its side with what it asks of its post, and how a purlin bends."""

import math

import numpy as np

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.core.structures.members import Used
from openfurrow.sheets.drawings.table import edge_z, ground_z, soil_under, table_side
from openfurrow.sheets.marks import Drawing, Mark, Point, area, drawing, label, line, turned

SHOWN_MOMENTS = 160
# The greatest of the forces drawn is as long as this, in metres of the drawing.
LONGEST_M = 0.95
# The side of an arrow's head.
HEAD_M = 0.11


def structure_drawing(plan: Plan, units: UnitSystem) -> tuple[Drawing, ...]:
    """The side view with the worst reactions, and the moment along a purlin line."""
    return (_reactions(plan, units), _moments(plan, units))


def _arrow(tail: Point, tip: Point) -> tuple[Mark, ...]:
    """A force from its tail to its tip."""
    turn = math.degrees(math.atan2(tip[1] - tail[1], tip[0] - tail[0]))
    head = turned(((0.0, 0.0), (-HEAD_M, HEAD_M / 2.4), (-HEAD_M, -HEAD_M / 2.4)), tip, turn)
    return line("force", tail, tip), area("force-head", *head)


def _turning(centre: Point, radius: float, clockwise: bool) -> tuple[Mark, ...]:
    """A moment as three quarters of a turn about its place."""
    angles = np.radians(np.linspace(-45, 225, 40) if not clockwise else np.linspace(225, -45, 40))
    points = [
        (centre[0] + radius * math.cos(a), centre[1] + radius * math.sin(a)) for a in angles.tolist()
    ]
    return line("force", *points[:-1]), *_arrow(points[-3], points[-1])[1:]


def _reactions(plan: Plan, units: UnitSystem) -> Drawing:
    """The worst pull, weight and push that a post brings to the ground, as long as they are large."""
    section, found = plan.rows.section, plan.structure.reactions
    x = section.post_x_m
    ground = ground_z(plan, x)
    pull, press = max(0.0, -float(found.down_n.min())), max(0.0, float(found.down_n.max()))
    strongest = int(np.abs(found.moment_n_m).argmax())
    hardest = int(np.abs(found.across_n).argmax())
    push, moment = float(found.across_n.flat[hardest]), float(found.moment_n_m.flat[strongest])
    scale = LONGEST_M / max(pull, press, abs(push), 1.0)
    left, right = -0.9, section.level_depth_m + 0.9
    floor = ground - LONGEST_M - 0.45
    marks: list[Mark] = [m for m in soil_under(plan, left, right, floor) if m.layer != "frost"]
    marks += [m for m in table_side(plan, 0) if m.layer != "post-buried"]

    def said(value: float, kind: str) -> str:
        return format_value(abs(value), kind, units)

    if pull > 0:
        foot = (x + 0.42, ground - 0.25 - pull * scale)
        marks += [
            *_arrow(foot, (x + 0.42, ground - 0.25)),
            label(f"pull {said(pull, 'force')}", (x + 0.52, ground - 0.62), "force-note", "start"),
        ]
    marks += [
        *_arrow((x - 0.42, ground - 0.25), (x - 0.42, ground - 0.25 - press * scale)),
        label(f"weight {said(press, 'force')}", (x - 0.52, ground - 0.62), "force-note", "end"),
    ]
    way = math.copysign(1.0, push)
    start = x - way * (0.36 + abs(push) * scale)
    marks += [
        *_arrow((start, ground + 0.12), (x - way * 0.36, ground + 0.12)),
        label(
            f"push {said(push, 'force')}",
            (start - way * 0.1, ground + 0.22),
            "force-note",
            "end" if way > 0 else "start",
        ),
    ]
    marks += [
        *_turning((x, ground - 0.05), 0.26, moment > 0),
        label(
            f"moment {said(moment, 'moment')}",
            (x + way * 0.6, ground + 0.3),
            "force-note",
            "end" if way < 0 else "start",
        ),
    ]
    upper = edge_z(plan, 0) + section.rise_m
    return drawing(
        "reactions",
        "One table, and the worst that a post brings to the ground",
        marks,
        low=(left, floor),
        high=(right, upper + 0.25),
        legend=_profiles(plan),
    )


def _profiles(plan: Plan) -> tuple[str, ...]:
    """Each member with its profile and how much of it is used."""
    used = list(plan.structure.members.used)
    # What bends a post follows from the ground that holds it.
    if plan.has("footings"):
        posts = plan.footings.posts
        share = posts.bending_n_m / posts.bending_limit_n_m
        used.append(Used("post", plan.structure.posts.post.name, share))
    return tuple(f"{one.what} {one.profile}: {one.share:.0%} used" for one in used)


def _moments(plan: Plan, units: UnitSystem) -> Drawing:
    purlin = plan.structure.members.purlin
    line_of = purlin.line
    supports = line_of.along_m
    stations = np.linspace(0, line_of.purlin_m, SHOWN_MOMENTS)
    moments = np.interp(stations, purlin.stations_m, purlin.shape_moment_n_m)
    points = list(zip(stations.tolist(), (-moments).tolist(), strict=True))
    peak = float(np.abs(moments).max()) or 1.0
    worst = int(np.abs(moments).argmax())
    marks = [
        area("moment", (float(stations[0]), 0.0), *points, (float(stations[-1]), 0.0)),
        line("axis", (0.0, 0.0), (float(stations[-1]), 0.0)),
        *(line("support", (x, -peak * 0.12), (x, peak * 0.12)) for x in supports.tolist()),
        label(
            format_value(abs(float(moments[worst])), "moment", units),
            (float(stations[worst]), -float(moments[worst]) * 1.14),
            "strong",
        ),
    ]
    return drawing(
        "moments",
        "Bending along one purlin, drawn on the pulled side",
        marks,
        low=(-0.4, -1.35 * peak),
        high=(float(stations[-1]) + 0.4, 1.35 * peak),
        to_scale=False,
    )
