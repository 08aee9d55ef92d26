"""Rods: what so many of them have to earth, by the soil's resistivity, and what was measured."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check, Mend, at_least, holds, mended_by
from openfurrow.core.codes import RulePack, constant
from openfurrow.core.quantities import spoken
from openfurrow.core.wiring.givens import WiringGivens
from openfurrow.core.working import COMMON_PRACTICE, Answer, Input, Source, Working

Floats = NDArray[np.float64]

RODS = Source(
    "rods as lines in even soil under their mirror: Dwight, 1936; Sunde, Earth Conduction Effects",
    "physics",
)


@dataclass(frozen=True, kw_only=True)
class Earthing:
    """``alone_ohm`` is one rod, ``all_ohm`` those of an array together; None where no soil is told.

    ``measured_ohm`` is what a meter read of them, ``most_ohm`` what the school lets them have, and
    ``asks_most`` whether it asks that of so many.
    """

    rods: int
    alone_ohm: float | None
    all_ohm: float | None
    measured_ohm: float | None
    most_ohm: float
    asks_most: bool


def rods_ohm(soil_ohm_m: float, length_m: float, across_m: float, apart_m: float, count: int) -> float:
    """Resistance to far earth of so many rods in a line, their heads at the ground and joined.

    Each gives off its current evenly along itself. What one raises another by is the mean potential
    beside a line and its mirror above the ground; itself it raises at its own radius.
    """
    places = np.arange(count) * apart_m
    away = np.abs(places[:, None] - places)
    np.fill_diagonal(away, across_m / 2)
    ratio = 2 * length_m / away
    mean = ratio * np.arcsinh(ratio) - np.sqrt(1 + ratio**2) + 1
    raised = soil_ohm_m * away / (4 * math.pi * length_m**2) * mean
    return float(1 / np.linalg.solve(raised, np.ones(count)).sum())


def earthing_of(pack: RulePack, given: WiringGivens) -> Earthing:
    """The rods of each array."""

    def of(count: int) -> float | None:
        if given.soil_ohm_m is None:
            return None
        return rods_ohm(given.soil_ohm_m, given.rod_m, given.rod_across_m, given.rods_apart_m, count)

    most = constant(pack, "most_rod_ohm").value
    return Earthing(
        rods=given.rods,
        alone_ohm=of(1),
        all_ohm=of(given.rods),
        measured_ohm=given.rods_ohm,
        most_ohm=most,
        # A second rod is what the us school asks for instead of a reading.
        asks_most=pack != "us" or given.rods == 1,
    )


def earthing_answers(found: Earthing, given: WiringGivens) -> tuple[Answer, ...]:
    """How many rods, and what they are expected to have."""
    rods = Answer(
        "wiring",
        "rods",
        "Rods at each array",
        Working(
            "n",
            "",
            (
                Input("L", "each", given.rod_m, "tape"),
                Input("s", "from one to the next", given.rods_apart_m, "tape"),
            ),
            float(found.rods),
            "count",
            COMMON_PRACTICE,
            "Driven until their heads are below grade, after the locate; one bare copper joins them, "
            "the frames, and the building's own earth: rods that hang by themselves are a hazard. They "
            "do not keep lightning out: arresters and their place are for who designs that.",
        ),
        True,
    )
    if found.alone_ohm is None or found.all_ohm is None or given.soil_ohm_m is None:
        return (rods,)
    inputs = (
        Input("rho", "resistivity of the soil", given.soil_ohm_m, "resistivity"),
        Input("L", "rod in the soil", given.rod_m, "tape"),
        Input("d", "rod across", given.rod_across_m, "thickness"),
    )
    return (
        rods,
        Answer(
            "wiring",
            "rod_alone",
            "One rod to earth",
            Working(
                "R_1",
                "",
                inputs,
                found.alone_ohm,
                "resistance",
                RODS,
                "In even soil. What is frozen or dry has many times as much: it is measured in the "
                "worst season, or the rods go deeper than that.",
            ),
        ),
        Answer(
            "wiring",
            "rods_together",
            "All of them to earth",
            Working(
                "R_n",
                "",
                (
                    Input("R_1", "one alone", found.alone_ohm, "resistance"),
                    Input("n", "rods", float(found.rods), "count"),
                    Input("s", "from one to the next", given.rods_apart_m, "tape"),
                ),
                found.all_ohm,
                "resistance",
                RODS,
                "Rods near each other share the soil between them: two are never half of one.",
            ),
        ),
    )


def earthing_checks(found: Earthing, given: WiringGivens, pack: RulePack) -> tuple[Check, ...]:
    """Whether rods are enough, as measured; long enough, and far enough from each other."""
    return (_enough(found, pack), *_laid_out(found, given, pack))


def _enough(found: Earthing, pack: RulePack) -> Check:
    most, read = spoken(found.most_ohm, "resistance"), found.measured_ohm
    low = read is not None and read <= found.most_ohm
    if not found.asks_most:
        measured = f"{found.rods} rods" + ("" if read is None else f", {spoken(read, 'resistance')}")
        limit = f"two at least, or one of {most}"
    else:
        measured = "not looked at" if read is None else spoken(read, "resistance")
        limit = f"{most} at most" + (", or a second rod" if pack == "us" else "")
    check = holds(
        "wiring",
        "rods",
        "Rods reach earth",
        low or not found.asks_most,
        measured,
        limit,
        remedy="Drive another a rod's length away, or longer ones into wet soil, and measure again."
        if read is not None
        else "Measure them before they are joined to anything else, with the three-point method.",
        source=constant(pack, "most_rod_ohm").source,
        given="wiring.rods_ohm",
        otherwise="look" if read is None else "stop",
    )
    if pack != "us" or found.rods > 1:
        return check
    return mended_by(check, Mend("Drive a second rod", (("wiring.rods", "2"),)))


def _laid_out(found: Earthing, given: WiringGivens, pack: RulePack) -> tuple[Check, ...]:
    least = constant(pack, "least_rod_m")
    long = at_least(
        "wiring",
        "rod_long",
        "A rod is long enough",
        given.rod_m,
        least.value,
        "tape",
        remedy="Longer rods; where rock stops them, slanted or laid in a trench, as the code has it.",
        source=least.source,
        given="wiring.rod_m",
    )
    if found.rods == 1:
        return (long,)
    apart = constant(pack, "rods_apart_m").value
    return (
        long,
        at_least(
            "wiring",
            "rods_apart",
            "Rods stand apart",
            given.rods_apart_m,
            apart,
            "tape",
            remedy="Further from each other: the soil between them is shared.",
            source=constant(pack, "rods_apart_m").source,
            given="wiring.rods_apart_m",
        ),
    )
