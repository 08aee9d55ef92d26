"""One array on every family of structure, or of footing: what each would stand on, weigh and stop."""

from dataclasses import dataclass
from functools import partial
from typing import get_args

from openfurrow.core.checks import Check
from openfurrow.core.design import ARRAY_STAGES, Design
from openfurrow.core.footings.families import FamilyName as FootingName
from openfurrow.core.footings.plan import can_hold
from openfurrow.core.materials.footings import footing_takes
from openfurrow.core.materials.lines import Take
from openfurrow.core.materials.sawing import sawn, stick_takes
from openfurrow.core.materials.takes import frame_takes
from openfurrow.core.plan import MEMO, Plan, untried
from openfurrow.core.structures.families import FAMILIES
from openfurrow.core.structures.roles import Stands
from openfurrow.core.structures.told import FamilyName as StructureName
from openfurrow.core.to_buy import cuts_of_array, remembered_nest

# What stands on the ground, how, and under what each such footing stands.
STANDS_SO: dict[StructureName, Stands] = {"ballast frame": "in boxes", "table on blocks": "on piles"}
UNDER: dict[FootingName, StructureName] = {
    "ballast": "ballast frame",
    "piled blocks": "table on blocks",
}
# What boxes and bores are filled with, and what lies under blocks.
NO_STEEL = frozenset({"concrete_bag", "fill_blocks", "pile_base"})
# What takes the place of a frame on the ground where something goes into it.
USUAL: StructureName = "two post lines"


@dataclass(frozen=True, kw_only=True)
class OnFamily:
    """The array on one family, all else as it is: ``plan`` with that array open.

    ``structure`` and ``footing`` are what stands there and what holds it, ``takes`` what both are made
    of. ``steel_kg`` is None where its footings lack what only people can say. ``stops`` are the
    array's own, from its structure on.
    """

    structure: StructureName
    footing: FootingName
    plan: Plan
    steel_kg: float | None
    stops: tuple[Check, ...]
    takes: tuple[Take, ...] = ()


def families_of(design: Design, array: str) -> tuple[OnFamily, ...]:
    """The array on each family of structure there is. Raises KeyError for no such array."""
    own = design.array(array).footings.family
    found = []
    for name in FAMILIES:
        can = can_hold(STANDS_SO.get(name, "in the ground"))
        found.append(_on(design, array, name, own if own in can else can[0]))
    return tuple(found)


def footings_of(design: Design, array: str) -> tuple[OnFamily, ...]:
    """The array on each family of footing there is, on another structure where its own cannot stand so.

    Raises KeyError for no such array.
    """
    own = design.array(array).structure.family
    found = []
    for name in get_args(FootingName):
        stands = STANDS_SO.get(own, "in the ground")
        # On its own structure where that can stand so; else on the one that does.
        others = own if stands == "in the ground" else USUAL
        under = own if name in can_hold(stands) else UNDER.get(name, others)
        found.append(_on(design, array, under, name))
    return tuple(found)


def _on(design: Design, array: str, structure: StructureName, footing: FootingName) -> OnFamily:
    own = design.array(array)
    if own.structure.family != structure or own.footings.family != footing:
        stands = {
            "structure": own.structure.model_copy(update={"family": structure}),
            "footings": own.footings.model_copy(update={"family": footing}),
        }
        arrays = tuple(
            one.model_copy(update=stands) if one.id == array else one for one in design.arrays
        )
        design = design.model_copy(update={"arrays": arrays})
    plan = untried(design).on(array)
    stages = [stage for stage in ARRAY_STAGES if stage != "rows" and plan.has(stage)]
    stops = [check for stage in stages for check in plan.shown(stage)[1] if check.level == "stop"]
    kg, takes = None, tuple[Take, ...]()
    if plan.has("footings") and plan.has("frame"):
        buying, alone = design.materials, cuts_of_array(own, plan.array, design.site.display_units)
        takes = (
            *footing_takes(plan.footings, design.site.rule_pack, alone.cuts),
            *frame_takes(plan.structure, plan.frame, alone.cuts),
            *stick_takes(
                sawn((alone,), buying.saw_cut_m, buying.spare_posts, partial(remembered_nest, MEMO))
            ),
        )
        steel = [take for take in takes if take.kind == "count" and take.key not in NO_STEEL]
        kg = sum(take.net * take.piece_kg for take in steel)
    return OnFamily(
        structure=structure,
        footing=footing,
        plan=plan,
        steel_kg=kg,
        stops=tuple(stops),
        takes=takes,
    )
