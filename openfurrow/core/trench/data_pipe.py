"""A pipe for data in the same trench: kept off the power, from every array to the wall."""

import math
from dataclasses import dataclass

from openfurrow.core.codes import RulePack, constant, table
from openfurrow.core.trench.crossings import Dug
from openfurrow.core.trench.givens import TrenchGivens
from openfurrow.core.trench.runs import Run
from openfurrow.core.working import Answer, Input, Source, Working

APART = Source("NEC 2020, 800.47(B) and NESC 354", "from memory")


@dataclass(frozen=True, kw_only=True)
class DataPipe:
    """The smallest pipe there is, ``apart_m`` of earth between it and the power beside it.

    ``sticks`` lie along every stretch once, ``sweeps`` turn it up, ``cable_m`` runs from each array.
    """

    label: str
    outside_m: float
    apart_m: float
    sticks: int
    sweeps: int
    cable_m: float

    @property
    def room_m(self) -> float:
        """What the trench is wider for it."""
        return self.apart_m + self.outside_m


def room_for_data_m(pack: RulePack, givens: TrenchGivens) -> float:
    """What the trench is wider where data lies in it."""
    if not givens.has_data:
        return 0.0
    return constant("common", "data_apart_m").value + table(pack, "conduit").number("outside_m", 0)


def data_of(
    pack: RulePack, givens: TrenchGivens, dug: tuple[Dug, ...], runs: tuple[Run, ...], slack_m: float
) -> DataPipe | None:
    """None where no data goes through the trench; ``slack_m`` is left at either end of each cable."""
    if not givens.has_data:
        return None
    pipes, stick = table(pack, "conduit"), constant(pack, "stick_m").value
    return DataPipe(
        label=pipes.texts["label"][0],
        outside_m=pipes.number("outside_m", 0),
        apart_m=constant("common", "data_apart_m").value,
        sticks=sum(math.ceil(one.stretch.line.ground_length_m / stick - 1e-9) for one in dug),
        sweeps=2 * len(runs),
        cable_m=sum(run.route.wire_m + 2 * slack_m for run in runs),
    )


def data_answers(data: DataPipe | None) -> tuple[Answer, ...]:
    """Where it lies."""
    if data is None:
        return ()
    return (
        Answer(
            "trench",
            "data",
            "Data in a pipe of its own",
            Working(
                "size_d",
                "",
                (
                    Input("a", "earth between it and power", data.apart_m, "tape"),
                    Input("L", "data cable in all", data.cable_m, "run"),
                ),
                data.label,
                "text",
                APART,
                "Along one wall of the trench, power along the other; never in one box with it. A "
                "cable made for wet places: pipes fill with water.",
            ),
        ),
    )
