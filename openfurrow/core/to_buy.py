"""What each planned array has cut and takes, and nests that are remembered by their pieces."""

from openfurrow.core.design import ArrayGivens, Design
from openfurrow.core.fed import behind_modules
from openfurrow.core.fields import array_labels
from openfurrow.core.hauling.laydown import Glass
from openfurrow.core.hauling.walks import Walks, walks_of
from openfurrow.core.materials.cuts import Cut, cut_list
from openfurrow.core.materials.fencing import fence_takes
from openfurrow.core.materials.lines import Take
from openfurrow.core.materials.nesting import Nest
from openfurrow.core.materials.sawing import ArrayCuts, nest_of
from openfurrow.core.materials.service import (
    backup_takes,
    inverter_takes,
    rod_takes,
    service_takes,
)
from openfurrow.core.materials.takes import Built
from openfurrow.core.memo import Kept, Memo
from openfurrow.core.planned import ArrayPlan
from openfurrow.core.quantities import UnitSystem
from openfurrow.core.site.fencing import Fence
from openfurrow.core.site.said import Air
from openfurrow.core.trench.runs import Run
from openfurrow.core.wiring.backup import backup_of
from openfurrow.core.wiring.circuit import Circuit
from openfurrow.core.wiring.inverter_givens import InverterGivens
from openfurrow.core.wiring.inverters import takers
from openfurrow.core.wiring.service import Branches


def cuts_of_array(given: ArrayGivens, array: ArrayPlan, units: UnitSystem) -> ArrayCuts:
    """The pieces of one array; its tables by the names that they have there."""
    called = array.rows.stands.name_of
    cuts = cut_list(array.structure, array.footings.posts, array.frame, given.frame, units, called)
    return ArrayCuts(array=given.id, name=given.name, cuts=cuts, table_names=called)


def cuts_of_arrays(
    given: tuple[ArrayGivens, ...], arrays: tuple[ArrayPlan, ...], units: UnitSystem
) -> tuple[ArrayCuts, ...]:
    """The pieces of all that are to be built."""
    return tuple(
        cuts_of_array(one, array, units)
        for one, array in zip(given, arrays, strict=True)
        if not one.standing
    )


def built_of(
    given: ArrayGivens, array: ArrayPlan, cuts: tuple[Cut, ...], circuit: Circuit, run: Run
) -> Built:
    """One array's finished stages, as the list of materials reads them."""
    return Built(
        name=given.name,
        # Before that is said nothing of it is planned.
        standing=bool(given.standing),
        rows=array.rows,
        structure=array.structure,
        footings=array.footings,
        frame=array.frame,
        modules=array.modules,
        module_givens=given.modules,
        cuts=cuts,
        circuit=circuit,
        run=run,
    )


def bought_inverters(design: Design) -> tuple[InverterGivens, ...]:
    """Those that take any array that is to be built; one that serves what stands alone is there."""
    inverters, ids = design.wiring.inverters, tuple(one.id for one in design.arrays)
    wanted = {
        number
        for one, those in zip(design.arrays, takers(inverters, ids), strict=True)
        if not one.standing
        for number in those
    }
    return tuple(one for number, one in enumerate(inverters) if number in wanted)


def glass_of(given: tuple[ArrayGivens, ...], arrays: tuple[ArrayPlan, ...]) -> tuple[Glass, ...]:
    """The modules of every array that is to be built."""
    return tuple(
        Glass(one.id, array.rows.module_count, one.modules.mass_kg, one.modules.length_m)
        for one, array in zip(given, arrays, strict=True)
        if not one.standing
    )


def connected_takes(
    design: Design, counts: tuple[int, ...], air: Air, branches: Branches, fence: Fence | None
) -> tuple[Take, ...]:
    """What is the job's own: its fence, rods, inverters, and all that follows them.

    ``counts`` are the modules of every array.
    """
    given, inverters = design.wiring, bought_inverters(design)
    return (
        *fence_takes(fence),
        *rod_takes(given, len(design.arrays)),
        *inverter_takes(inverters, behind_modules(design, counts)),
        *service_takes(air, given, inverters, branches),
        *backup_takes(backup_of(air, given), given, air.rule_pack),
    )


def remembered_walks(
    memo: Memo,
    laid: tuple[int, ...],
    given: tuple[ArrayGivens, ...],
    arrays: tuple[ArrayPlan, ...],
    a_pallet: int,
) -> Kept[tuple[tuple[str, Walks], ...]]:
    """How modules are carried to their places in every array that is to be built, by its name.

    ``laid`` are the numbers of their rows.
    """
    return memo.remember(
        "walks",
        (laid, a_pallet, tuple((one.id, one.name, one.standing) for one in given)),
        lambda: _walks(given, arrays, a_pallet),
    )


def _walks(
    given: tuple[ArrayGivens, ...], arrays: tuple[ArrayPlan, ...], a_pallet: int
) -> tuple[tuple[str, Walks], ...]:
    labels = array_labels(given)
    return tuple(
        (labels[one.id], walks_of(array.rows, a_pallet))
        for one, array in zip(given, arrays, strict=True)
        if not one.standing
    )


def remembered_nest(
    memo: Memo, pieces: tuple[tuple[float, int], ...], stocks_m: tuple[float, ...], saw_m: float
) -> Nest:
    """The nest of these pieces: an edit that changes none of them nests nothing again."""
    return memo.remember(
        "nest", (pieces, stocks_m, saw_m), lambda: nest_of(pieces, stocks_m, saw_m)
    ).value
