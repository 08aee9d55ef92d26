"""What is built, counted for the schedule: from the trench, the wires and the ground."""

from openfurrow.core.schedule.tasks import WayWork
from openfurrow.core.site.soil import Soil
from openfurrow.core.trench.plan import TrenchPlan
from openfurrow.core.wiring.circuit import Circuit

GLUED = "PVC conduit"


def soils_met(soils: tuple[Soil, ...]) -> tuple[str, ...]:
    """Every class of soil that any layer is of: the slowest of them sets the pace."""
    return tuple(dict.fromkeys(layer.soil_class for soil in soils for layer in soil.layers))


def circuits_in_trench(circuit: Circuit) -> int:
    """How many circuits of an array lie in the trench: its strings, or its inverters' outputs."""
    return circuit.feed.wires.circuits


def way_work(
    trench: TrenchPlan,
    circuits: tuple[Circuit, ...],
    method: str,
    inverters: int,
    soils: tuple[str, ...],
    cover_m2: float = 0.0,
    fence_m: float = 0.0,
) -> WayWork:
    """What is done between the arrays and the building; what several share is dug once."""
    stretches = () if trench.over is not None else trench.dug
    dug_m = sum(piece.stretch.line.ground_length_m for piece in stretches)
    by_hand_m = sum(crossing.length_m for piece in trench.dug for crossing in piece.crossings)
    return WayWork(
        dug_m=dug_m,
        # Zones of two lines may lie over each other: no more is dug by hand than is dug.
        by_hand_m=min(by_hand_m, dug_m),
        joints=sum(run.sticks for run in trench.runs),
        glued=method == GLUED,
        cable=any(run.conduit is None for run in trench.runs),
        circuit_m=sum(
            circuits_in_trench(circuit) * run.route.ground_length_m
            for circuit, run in zip(circuits, trench.runs, strict=True)
        ),
        inverters=inverters,
        soils=soils,
        cover_m2=cover_m2,
        fence_m=fence_m,
        back_m2=0.0 if trench.back is None else trench.back.worn_m2,
    )
