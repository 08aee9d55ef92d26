"""Energy: what the arrays bring in a year at the meter, month by month, and who uses it."""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check
from openfurrow.core.energy.answers import array_answers, energy_answers
from openfurrow.core.energy.array import ArrayYear
from openfurrow.core.energy.checks import Station, energy_checks
from openfurrow.core.energy.meter import Converter, Metered, metered
from openfurrow.core.energy.sky import Sky
from openfurrow.core.energy.use import Use, in_steps, load_w, over_the_year, used
from openfurrow.core.sun.givens import SunGivens
from openfurrow.core.wiring.inverter_givens import InverterGivens
from openfurrow.core.wiring.plan import WiringPlan
from openfurrow.core.working import Answer

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class EnergyPlan:
    """A year at the meter.

    ``year_wh`` and ``by_month_wh`` (12) are behind inverters and wires, ``sums_wh`` those of
    ``Metered`` for all converters together.
    """

    sky: Sky
    arrays: tuple[ArrayYear, ...]
    sums_wh: tuple[float, ...]
    by_month_wh: Floats
    use: Use | None
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]

    @property
    def year_wh(self) -> float:
        """At the meter."""
        return self.sums_wh[-1]

    @property
    def watts(self) -> float:
        """Rated power of all modules."""
        return sum(one.watts for one in self.arrays)


def _of_inverter(
    number: int,
    inverter: InverterGivens,
    sky: Sky,
    arrays: tuple[ArrayYear, ...],
    wiring: WiringPlan,
) -> Metered | None:
    """The year of the strings that land on one inverter; None where none do."""
    power, rated, lost, ac_lost, modules = np.zeros(len(sky.at)), 0.0, 0.0, 0.0, 0.0
    for array, circuit, landed in zip(
        arrays, wiring.circuits, wiring.landed[:, number].tolist(), strict=True
    ):
        watts = array.watts * landed / circuit.lines
        power, rated = power + array.light.power * watts, rated + watts
        modules += float(circuit.strings.lengths.sum()) * landed / circuit.lines
        lost += circuit.string_drop * watts
        ac_lost = max(ac_lost, circuit.output_drop)
    if not rated:
        return None
    ac_lost += wiring.service.lost_of(inverter.id)
    rated_w = inverter.rated_w(round(modules))
    converter = Converter(ac_w=rated_w, conversion=inverter.conversion, ac_drop=ac_lost)
    return metered(power, rated, lost / rated, converter, sky.step_h)


def _wanted_w(said: SunGivens, sky: Sky) -> Floats | None:
    """What is used, step by step: as a meter wrote it, or as a year's figure is spread; None unsaid."""
    if said.year_of_use is not None:
        return in_steps(said.year_of_use.watts, sky.steps)
    if said.load_wh is None:
        return None
    return load_w(said.load_wh, said.load_shape == "by day", sky.step_h)


def plan_energy(
    sky: Sky,
    arrays: tuple[ArrayYear, ...],
    ids: tuple[str, ...],
    wiring: WiringPlan,
    inverters: tuple[InverterGivens, ...],
    said: SunGivens,
    site: Station,
) -> EnergyPlan:
    """The arrays' years through wires and inverters to the meter."""
    by_inverter = [
        found
        for number, inverter in enumerate(inverters)
        if (found := _of_inverter(number, inverter, sky, arrays, wiring))
    ]
    power = np.sum([one.power_w for one in by_inverter], axis=0)
    sums = tuple(np.sum([one.sums_wh for one in by_inverter], axis=0).tolist())
    wanted = _wanted_w(said, sky)
    use = (
        None if wanted is None else used(over_the_year(sky, power), wanted, said.battery_wh, sky.step_h)
    )
    whole = EnergyPlan(
        sky=sky,
        arrays=arrays,
        sums_wh=sums,
        by_month_wh=sky.by_month(power),
        use=use,
        answers=(),
        checks=energy_checks(sky, said, site),
    )
    own = array_answers(sky, arrays, ids)
    return replace(whole, answers=(*energy_answers(whole, said), *own))
