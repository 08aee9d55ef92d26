"""One array on every family of structure: what each would stand on, weigh and stop."""

from dataclasses import dataclass

from openfurrow.core.checks import Check
from openfurrow.core.design import ARRAY_STAGES, Design
from openfurrow.core.materials.takes import footing_takes, frame_takes
from openfurrow.core.plan import Plan, untried
from openfurrow.core.structures.families import FAMILIES


@dataclass(frozen=True, kw_only=True)
class OnFamily:
    """The array on one family, all else as it is: ``plan`` with that array open.

    ``steel_kg`` is None where its footings lack what only people can say. ``stops`` are the array's
    own, from its structure on.
    """

    name: str
    plan: Plan
    steel_kg: float | None
    stops: tuple[Check, ...]


def families_of(design: Design, array: str) -> tuple[OnFamily, ...]:
    """The array on each family there is. Raises KeyError for no such array."""
    return tuple(_on(design, array, name) for name in FAMILIES)


def _on(design: Design, array: str, name: str) -> OnFamily:
    own = design.array(array)
    if own.structure.family != name:
        structure = own.structure.model_copy(update={"family": name})
        arrays = tuple(
            one.model_copy(update={"structure": structure}) if one.id == array else one
            for one in design.arrays
        )
        design = design.model_copy(update={"arrays": arrays})
    plan = untried(design).on(array)
    stages = [stage for stage in ARRAY_STAGES if stage != "rows" and plan.has(stage)]
    stops = [check for stage in stages for check in plan.shown(stage)[1] if check.level == "stop"]
    kg = None
    if plan.has("footings") and plan.has("frame"):
        stock_m = design.array(array).frame.stock_length_m
        takes = (
            *footing_takes(plan.footings),
            *frame_takes(plan.structure, plan.frame, stock_m),
        )
        kg = sum(take.net * take.piece_kg for take in takes)
    return OnFamily(name=name, plan=plan, steel_kg=kg, stops=tuple(stops))
