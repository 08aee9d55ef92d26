"""Tables that differ from the pattern, against the others: room, overlap, shade."""

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.checks import Check, holds, within
from openfurrow.core.codes import constant
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.between import RAYS_OVER_GLASS, shaded_by_each
from openfurrow.core.rows.givens import RowsGivens
from openfurrow.core.sun.plan import SunPlan
from openfurrow.core.working import GEOMETRY

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

# Tables that touch along a line share no ground; what is shared by less than this is rounding.
LEAST_SHARED_M2 = 1e-6
SHOWN = 3


def apart_checks(plan: RowsPlan, givens: RowsGivens, sun: SunPlan) -> tuple[Check, ...]:
    """Whether each can be, whether it stands on or too near to another, and who shades whom."""
    if not givens.tables:
        return ()
    wrong = plan.stands.wrong
    found = [
        holds(
            "rows",
            "tables",
            "Every table that differs has its place",
            not wrong,
            "; ".join(wrong[:SHOWN]) or "each has",
            "a table of the pattern, once",
            remedy="Change its place, or take it off the list.",
            source=GEOMETRY,
            given="rows.tables",
        )
    ]
    if plan.stands.apart.size and plan.tables.count > 1:
        found += _room(plan)
        found.append(_shade(plan, sun))
    return tuple(found)


def near_pairs(plan: RowsPlan, reach_m: float) -> tuple[Integers, Integers]:
    """Pairs of a table that stands apart and any other within reach, level; each once."""
    outlines, apart = plan.tables.outlines, plan.stands.apart
    own, other = shapely.STRtree(outlines).query(outlines[apart], predicate="dwithin", distance=reach_m)
    own = apart[own]
    both_apart = np.isin(other, apart)
    once = (own != other) & (~both_apart | (own < other))
    return own[once], other[once]


def _room(plan: RowsPlan) -> list[Check]:
    """Glass over glass is a stop; too little to walk between is told, but end to end in a row."""
    tables, room = plan.tables, constant("common", "walk_between_m")
    own, other = near_pairs(plan, room.value)
    shared = shapely.area(shapely.intersection(tables.outlines[own], tables.outlines[other]))
    over = np.flatnonzero(shared > LEAST_SHARED_M2)
    words = [_pair(plan, int(own[k]), int(other[k])) for k in over[:SHOWN].tolist()]
    aside = (tables.line[own] != tables.line[other]) & (shared <= LEAST_SHARED_M2)
    apart_m = shapely.distance(tables.outlines[own[aside]], tables.outlines[other[aside]])
    nearest = _pair(plan, *_least(own[aside], other[aside], apart_m)) if apart_m.size else ""
    return [
        holds(
            "rows",
            "tables_over",
            "No table that differs stands over another",
            not over.size,
            "; ".join(words) or "clear",
            "clear",
            remedy="Move it on, or take the other out.",
            source=GEOMETRY,
            given="rows.tables",
        ),
        within(
            "rows",
            "tables_room",
            "Room to walk round tables that differ",
            float(apart_m.min(initial=room.value)),
            room,
            "tape",
            most=False,
            remedy=f"{nearest}: leave 0.6 m (2 ft) to walk and work." if nearest else "Leave room.",
            given="rows.tables",
            otherwise="look",
        ),
    ]


def _least(own: Integers, other: Integers, apart_m: Floats) -> tuple[int, int]:
    worst = int(apart_m.argmin())
    return int(own[worst]), int(other[worst])


def _pair(plan: RowsPlan, first: int, second: int) -> str:
    return f"table {plan.stands.name_of(first)} and {plan.stands.name_of(second)}"


def _shade(plan: RowsPlan, sun: SunPlan) -> Check:
    """Rays over the glass both ways between tables that differ and all others in reach."""
    window = sun.window_altitude_deg, sun.window_azimuth_deg
    shaded = shaded_by_each(plan.lie, plan.stands.apart, *window)
    words = [
        f"{plan.stands.name_of(by)} shades {plan.stands.name_of(one)}" for one, by in shaded[:SHOWN]
    ]
    more = f" and {len(shaded) - SHOWN} more" if len(shaded) > SHOWN else ""
    return holds(
        "rows",
        "shade_tables",
        "Tables that differ neither shade others nor stand in their shade",
        not shaded,
        "; ".join(words) + more if words else "none in the winter window",
        "none in the winter window",
        remedy="Move it further off, or accept winter shade there.",
        source=RAYS_OVER_GLASS,
        given="rows.tables",
        otherwise="look",
    )
