"""What is done for each planned array, counted for the schedule."""

from openfurrow.core.planned import ArrayPlan
from openfurrow.core.schedule.tasks import ArrayWork, PierWork
from openfurrow.core.wiring.circuit import Circuit


def _pier_work(array: ArrayPlan) -> PierWork | None:
    """What pouring its piers takes, where it has any."""
    piers = array.footings.piers
    return None if piers is None else PierWork(piers.bags, piers.cure_days)


def array_work(array: ArrayPlan, name: str, circuit: Circuit, soils: tuple[str, ...]) -> ArrayWork:
    """An array by its counts: no more of it matters to the schedule."""
    return ArrayWork(
        id=array.id,
        name=name,
        posts=array.structure.supports.count,
        modules=array.rows.module_count,
        strings=circuit.strings.count,
        soils=soils,
        weighed=array.structure.posts.bent.stands == "in boxes",
        piled=array.structure.posts.bent.stands == "on piles",
        piers=_pier_work(array),
        screwed=array.footings.screws is not None,
    )
