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

    ``footing`` is the family of footings that can hold it.
    ``steel_kg`` is None where its footings lack what only people can say. ``stops`` are the array's
    own, from its structure on.
    """

    name: str
    footing: str
    plan: Plan
    steel_kg: float | None
    stops: tuple[Check, ...]


def families_of(design: Design, array: str) -> tuple[OnFamily, ...]:
    """The array on each family there is. Raises KeyError for no such array."""
    return tuple(_on(design, array, name) for name in FAMILIES)


def _on(design: Design, array: str, name: str) -> OnFamily:
    own = design.array(array)
    footing = "ballast" if name == "ballast frame" else "driven post"
    if own.structure.family != name or own.footings.family != footing:
        stands = {
            "structure": own.structure.model_copy(update={"family": name}),
            "footings": own.footings.model_copy(update={"family": footing}),
        }
        arrays = tuple(
            one.model_copy(update=stands) if one.id == array else one for one in design.arrays
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
        # What boxes are filled with is no steel, and is told by its mass.
        kg = sum(take.net * take.piece_kg for take in takes if take.kind == "count")
    return OnFamily(name=name, footing=footing, plan=plan, steel_kg=kg, stops=tuple(stops))
