"""The ground filled with one array's tables: an action on a design, as one step."""

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from openfurrow.core.design import ArrayGivens, Design
from openfurrow.core.lacking import said
from openfurrow.core.plan import Plan
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.filling import fill
from openfurrow.core.rows.givens import RowsGivens
from openfurrow.core.rows.plan import plan_rows
from openfurrow.core.rows.settling import Filled, FillError
from openfurrow.core.rows.strips import Wanted
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.structures.families import FAMILIES
from openfurrow.core.structures.givens import MOST_SHIFTS, StructureGivens
from openfurrow.core.structures.plan import stack_m
from openfurrow.core.structures.shifting import freed
from openfurrow.core.structures.supports import bent_id
from openfurrow.core.sun.directions import facing_of
from openfurrow.core.wiring.strings import divide

# Further from the equator rows are not turned.
MOST_TURN_DEG = 60.0
# Strings come out even or not before anybody knows on how many inputs.
MANY_INPUTS = 1_000_000


def equal_strings(plan: Plan, array: str) -> Callable[[int], bool]:
    """Of how many modules equal strings come, within the inverter's limits; any, if none are known."""
    if not plan.has("wiring"):
        return lambda modules: True
    number = next(at for at, one in enumerate(plan.arrays) if one.id == array)
    strings = plan.wiring.circuits[number].strings
    longest, shortest = max(strings.longest_allowed, 1), max(strings.shortest_allowed, 1)

    def even(modules: int) -> bool:
        lengths = divide(modules, longest, shortest, MANY_INPUTS)
        return bool(lengths.size and (lengths == lengths[0]).all() and lengths[0] >= shortest)

    return even


def turned_along(design: Design, array: str, feature: str) -> Design:
    """The design whose array's rows run along the longest stretch of what stands or lies on the site.

    Raises KeyError for no such thing or array, ValueError where rows would look too far from the
    equator.
    """
    thing = next((one for one in design.site.features if one.id == feature), None)
    if thing is None or thing.facts.shape == "point" or not thing.complete:
        raise KeyError(feature)
    points = np.array([*thing.points, *(thing.points[:1] if thing.facts.shape == "area" else ())])
    stretches = np.diff(points, axis=0)
    east, north = stretches[np.hypot(*stretches.T).argmax()]
    latitude = said("site.latitude_deg", design.site.latitude_deg)
    equator = facing_of(latitude, 0.0, on_tubes=design.array(array).structure.on_tubes).bearing_deg
    # Of the two ways square to it that which looks nearer to the equator.
    square = math.degrees(math.atan2(east, north)) + 90.0
    turn = min(((square + half - equator + 180) % 360 - 180 for half in (0, 180)), key=abs)
    rows = design.array(array).rows.model_copy(update={"turn_deg": round(turn, 2)})
    arrays = tuple(
        one.model_copy(update={"rows": rows}) if one.id == array else one for one in design.arrays
    )
    if abs(turn) > MOST_TURN_DEG:
        raise ValueError(f"rows along it look {abs(turn):.0f}° from the equator")
    return design.model_copy(update={"arrays": arrays})


@dataclass(frozen=True)
class Ground:
    """Ground as it is filled: ``tables``, posts ``shifted`` clear, tables whose posts are ``stuck``."""

    tables: Filled
    shifted: int
    stuck: int


def filled(design: Design, plan: Plan, array: str, wanted: Wanted) -> tuple[Design, Ground]:
    """The design whose array fills the ground inside the boundary.

    Raises KeyError for an array that is none, FillError where nothing can be laid and Lacking where
    nobody has said what rows stand on.
    """
    seen, own = plan.on(array), design.array(array)
    if own.structure.travel is not None:
        raise FillError(
            "structure.family" if own.structure.on_tubes else "structure.moved",
            "movers are not laid by filling: it counts ground under the glass, not what that sweeps",
            "what stands fixed",
            "Say rows, pitch and gaps by hand, or let what stands there stand fixed.",
        )
    given = own.modules
    size = given.size
    stack = stack_m(own.structure, given.thickness_m)

    def laid_by(rows: RowsGivens) -> RowsPlan:
        return plan_rows(seen.site, seen.sun, rows, size, stack)

    others = tuple(
        outline
        for one in plan.arrays
        if one.id != array and "rows" in one.made
        for taken in one.rows.taken
        for outline in taken.tolist()
    )
    found = fill(seen.site, seen.rows, own.rows, wanted, laid_by, others)
    structure, shifted, stuck = _freed(seen.site, laid_by(found.givens), own)
    arrays = tuple(
        one.model_copy(update={"rows": found.givens, "structure": structure})
        if one.id == array
        else one
        for one in design.arrays
    )
    return design.model_copy(update={"arrays": arrays}), Ground(found, shifted, stuck)


def _freed(site: SitePlan, rows: RowsPlan, own: ArrayGivens) -> tuple[StructureGivens, int, int]:
    """The structure with posts shifted inside their spans off what they may not stand on.

    Shifts of tables of the pattern that was are let go: another table bears their name.
    """
    kept = tuple(one for one in own.structure.shifts if _table(one) in rows.stands.ids)
    bare = own.structure.model_copy(update={"shifts": kept})
    posts = FAMILIES[bare.family].stand(site, rows, bare, own.modules.purlin_end_m)
    told, shifted, stuck = dict(bare.shifts), 0, 0
    for table in freed(posts, site, rows):
        # The posts of one table are shifted together or not at all.
        if table is None or len(told) + len(table) > MOST_SHIFTS:
            stuck += 1
            continue
        told |= {
            bent_id(rows, posts.supports.places, index): round(by_m, 4) for index, by_m in table.items()
        }
        shifted += len(table)
    return bare.model_copy(update={"shifts": tuple(told.items())}), shifted, stuck


def _table(shift: tuple[str, float]) -> str:
    return shift[0].rsplit("/", 1)[0]
