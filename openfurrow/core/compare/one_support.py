"""One support by itself: the same rules over what it carries and where it stands, and nothing else."""

from dataclasses import fields, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.design import Design
from openfurrow.core.footings.plan import plan_footings
from openfurrow.core.plan import Plan
from openfurrow.core.stamping import stamped_stage
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.structures.stand import NotShifted

Integers = NDArray[np.int64]
# Of all supports together; of one alone they say nothing.
OF_ALL = frozenset({"enough_tests", "tested_soils", "piers_apart", "boxes_apart", "locate", "family"})


def on_one_support(design: Design, plan: Plan, index: int, depth_m: float | None = None) -> Plan:
    """The plan as if the array that is open stood on this support alone, at its depth as called out,
    or at another.

    Weights stay with the others of their bent, which hold together. Loads, soil and rules are those of
    the whole: each number is computed anew from them. Raises Lacking before footings can be told.
    """
    whole, footings = plan.structure, plan.footings
    weighed = footings.weights is not None
    structure = only(whole, bent_with(plan, index) if weighed else np.array([index]))
    own = design.array(plan.array.id).footings
    if not weighed:
        deep = float(footings.posts.depths_m[index]) if depth_m is None else depth_m
        own = own.model_copy(update={"depth_m": deep})
    found = stamped_stage(plan_footings(plan.site, plan.rows, structure, own), plan.array.id, own=True)
    stands = plan.array.with_stages({"structure": structure, "footings": found})
    return replace(plan, arrays=tuple(stands if one.id == stands.id else one for one in plan.arrays))


def bent_with(plan: Plan, index: int) -> Integers:
    """The supports of the bent that one is of."""
    bents = plan.structure.posts.bent_of
    return np.flatnonzero(bents == bents[index])


def only(structure: StructurePlan, which: Integers) -> StructurePlan:
    """The same with some of its supports alone: their places, kinds and reactions."""
    stand, supports = structure.posts, structure.supports
    kinds, kind = np.unique(supports.kind[which], return_inverse=True)
    kept = replace(_taken(supports, which), places=_taken(supports.places, which), kind=kind)
    return replace(
        structure,
        posts=replace(
            stand,
            supports=kept,
            kinds=_taken(stand.kinds, kinds),
            shift_m=stand.shift_m[which],
            not_shifted=NotShifted((), ""),
        ),
        reactions=_taken(structure.reactions, kinds),
    )


def _taken(of: Any, which: Integers) -> Any:
    """Some entries of what is kept in columns."""
    columns = {one.name: getattr(of, one.name) for one in fields(of)}
    return replace(
        of, **{name: kept[which] for name, kept in columns.items() if isinstance(kept, np.ndarray)}
    )
