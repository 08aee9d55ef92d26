"""Structure: one bent at its worst with what it asks of the ground, and how a purlin bends."""

import numpy as np

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.core.structures.members import Used
from openfurrow.sheets.drawings.carried import carried_drawing
from openfurrow.sheets.drawings.strained import strained_drawings
from openfurrow.sheets.marks import Drawing, area, drawing, label, line

SHOWN_MOMENTS = 160


def structure_drawing(plan: Plan, units: UnitSystem) -> tuple[Drawing, ...]:
    """Bents with their forces and their bending, the moment along a purlin, supports from above."""
    return (*strained_drawings(plan, units), _moments(plan, units), carried_drawing(plan, units))


def _profiles(plan: Plan) -> tuple[str, ...]:
    """Each member with its profile and how much of it is used."""
    used = list(plan.structure.members.used)
    # What bends a post follows from the ground that holds it.
    if plan.has("footings") and plan.footings.weights is None:
        posts = plan.footings.posts
        share = max(posts.bending_n_m / posts.bending_limit_n_m, posts.along_used)
        stood = plan.structure.posts
        # Of a pole the part over the ground is told by itself.
        name = "post" if stood.spaced else f"{stood.roles[0].name} in the ground"
        used.append(Used(name, stood.post.name.removeprefix("pipe "), share))
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
        f"Bending along one {plan.structure.members.stock.word}, drawn on the pulled side",
        marks,
        low=(-0.4, -1.35 * peak),
        high=(float(stations[-1]) + 0.4, 1.35 * peak),
        to_scale=False,
        legend=_profiles(plan),
    )
