"""A way to the building found, and put in place of the one that is drawn: an action, as one step."""

import math
from collections.abc import Callable

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.design import Design
from openfurrow.core.lacking import Lacking
from openfurrow.core.plan import Plan
from openfurrow.core.site.keepouts import KeepOuts
from openfurrow.core.site.ways import Bends, SpurGivens
from openfurrow.core.trench.dear import Prices
from openfurrow.core.trench.finding import Costs, FoundWay, NoWayError, find_spur, find_way
from openfurrow.core.trench.givens import TrenchGivens

Floats = NDArray[np.float64]
# Of more posts every so many is looked at as a place to begin.
MOST_STARTS = 40
# A way leaves its post by so much before its first bend: that post is the nearest then.
LEAVES_M = 0.5
# A spur may run into a way so often along it.
JOIN_STEP_M, MOST_JOINS = 1.5, 40


def trunk_array(design: Design) -> int:
    """Whose way the trunk is: the first one's that has no spur of its own, else the first one's."""
    spurs = {spur.array for spur in design.site.spurs if spur.points}
    return next((n for n, one in enumerate(design.arrays) if one.id not in spurs), 0)


def costs_of(trench: TrenchGivens) -> Costs:
    """What was said of each."""
    prices = Prices(
        road=trench.road_costs,
        roots=trench.roots_costs,
        rock=trench.rock_costs,
        wet=trench.wet_costs,
        steep=trench.steep_costs,
    )
    return Costs(trench.by_hand_costs, trench.crossing_costs_m, trench.bend_costs_m, prices)


def wall_of(design: Design, keepouts: KeepOuts, near_m: Floats) -> Floats:
    """Where the way ends: where it does now, else the wall that is nearest to the array.

    Raises Lacking where neither is known.
    """
    if design.site.route:
        return np.array(design.site.route[-1], dtype=float)
    walls = [zone.thing for zone in keepouts.zones if zone.feature.kind == "building"]
    if not walls:
        raise Lacking(("site.route",))
    here = shapely.Point(near_m)
    nearest = min(walls, key=lambda one: float(shapely.distance(one, here)))
    return np.asarray(shapely.get_coordinates(shapely.shortest_line(here, nearest))[-1])


def found_way(design: Design, plan: Plan) -> tuple[Design, FoundWay]:
    """The design with the cheapest way that is found.

    Raises NoWayError where none leads there, Lacking where its ends are not known.
    """
    array, trench = plan.arrays[trunk_array(design)], design.trench
    starts = _starts(plan.on(array.id))
    keepouts = plan.site.keepouts
    wall = wall_of(design, keepouts, starts.mean(axis=0))
    way = find_way(keepouts, starts, wall, costs_of(trench), plan.site.ground)
    site = design.site.model_copy(update={"route": _drawn(way, starts)})
    return design.model_copy(update={"site": site}), way


def _starts(array: Plan) -> Floats:
    """Posts that a way may begin at."""
    places = array.structure.supports.places
    posts = np.column_stack((places.east_m, places.north_m))
    return posts[:: math.ceil(len(posts) / MOST_STARTS)]


def _drawn(way: FoundWay, starts: Floats) -> Bends:
    """Its bends as they are drawn: the post is none of them, for it follows from what lies nearest."""
    points, post = way.points_m, starts[way.start]
    first = points[1] - post
    long = float(np.hypot(*first))
    leaves = post + first * min(1.0, LEAVES_M / max(long, 1e-9))
    bends = [leaves, *points[1:]] if long > LEAVES_M else [*points[1:]]
    # Finer than anybody stakes, so that it leaves its post without a bend.
    return tuple((round(float(e), 5), round(float(n), 5)) for e, n in bends)


def found_ways(
    design: Design, plan: Plan, new_id: Callable[[], str]
) -> tuple[Design, tuple[tuple[str, FoundWay], ...]]:
    """The trunk, then a spur for every other array into what is dug already, each by its array's name.

    Of an array that does not stand yet none is looked for. Spurs that were found stand first, in that
    order, for each runs into what stands before it; what else was drawn stays. Raises as `found_way`
    does; NoWayError says from which array none leads on.
    """
    found, trunk = found_way(design, plan)
    first, costs = trunk_array(design), costs_of(design.trench)
    told = [(design.arrays[first].name, trunk)]
    left, made = list(design.site.spurs), list[SpurGivens]()
    dug = [trunk.points_m]
    for number, array in enumerate(design.arrays):
        seen = plan.on(array.id)
        if number == first or not seen.has("structure"):
            continue
        starts = _starts(seen)
        try:
            way = find_spur(plan.site.keepouts, starts, _joins(dug), costs, plan.site.ground)
        except NoWayError as error:
            raise NoWayError(f"from {array.name}: {error}") from None
        dug.append(way.points_m)
        told.append((array.name, way))
        old = next((spur for spur in left if spur.array == array.id), None)
        if old is not None:
            left.remove(old)
        spur = old or SpurGivens(id=new_id(), array=array.id)
        made.append(spur.model_copy(update={"points": _drawn(way, starts)}))
    site = found.site.model_copy(update={"spurs": (*made, *left)})
    return found.model_copy(update={"site": site}), tuple(told)


def _joins(ways: list[Floats]) -> Floats:
    """Places along ways at which another may run into them, evenly from where each begins."""
    found = []
    for points in ways:
        line = shapely.LineString(points)
        count = max(2, min(MOST_JOINS, math.ceil(line.length / JOIN_STEP_M)))
        at = np.linspace(0.0, line.length, count, endpoint=False)
        found.append(shapely.get_coordinates(shapely.line_interpolate_point(line, at)))
    return np.vstack(found)
