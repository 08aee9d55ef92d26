"""What a meter should read: each kind of string open by its warmth, and running by its light."""

import math
from collections import Counter
from dataclasses import dataclass

from openfurrow.core.codes import constant
from openfurrow.core.design import Design
from openfurrow.core.fieldbook.strings import FULL_LIGHT_W_M2
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value, shown
from openfurrow.core.site.said import air_of
from openfurrow.core.wiring.strings import at_temperature
from openfurrow.sheets.models import Column, TableText

# Warmths are told in steps of so many of the reader's degrees, up to what the sun makes of a module.
STEPS = {"us": 20.0, "metric": 10.0}
WARMEST_C = 70.0
LIGHTS_W_M2 = (400.0, 600.0, 800.0, 1000.0, 1200.0)


@dataclass(frozen=True)
class _Kind:
    """Strings that read alike: so many ``modules`` of one array."""

    array: str
    modules: int
    count: int
    volts: float
    coefficient: float
    amperes: float


def _kinds(design: Design, plan: Plan) -> list[_Kind]:
    """The longest strings of each array first; branches carry alternating current."""
    found = []
    for array, circuit in zip(design.arrays, plan.wiring.circuits, strict=True):
        if circuit.branch is not None:
            continue
        module = array.modules
        lengths = Counter(circuit.strings.lengths.tolist())
        for modules, count in sorted(lengths.items(), reverse=True):
            volts = modules * module.open_circuit_v
            found.append(
                _Kind(
                    array.name,
                    modules,
                    count,
                    volts,
                    module.voltage_coefficient_per_c,
                    module.maximum_power_a,
                )
            )
    return found


def _warmths_c(coldest_c: float, units: UnitSystem) -> list[float]:
    """Round degrees of the reader from the coldest that is reckoned with."""
    how, step = shown("temperature", units), STEPS[units]
    low = math.floor((coldest_c / how.si_per_unit + how.offset) / step) * step
    high = WARMEST_C / how.si_per_unit + how.offset
    count = math.floor((high - low) / step + 1e-9) + 1
    return [(low + step * n - how.offset) * how.si_per_unit for n in range(count)]


def _table(
    kinds: list[_Kind], words: tuple[str, str, str], heads: list[str], cells: list[list[str]]
) -> TableText:
    """One line a kind; ``words`` are the table's key, its title and its note."""
    key, title, note = words
    named = len({kind.array for kind in kinds}) > 1
    first = (("Array", False),) if named else ()
    titles = (*first, ("Modules", True), ("Strings", True), *((head, True) for head in heads))
    return TableText(
        key=key,
        title=title,
        columns=tuple(Column(title=head, number=number) for head, number in titles),
        rows=tuple(
            (*((kind.array,) if named else ()), str(kind.modules), str(kind.count), *line)
            for kind, line in zip(kinds, cells, strict=True)
        ),
        left_out=0,
        note=note,
    )


def readings_tables(design: Design, plan: Plan, units: UnitSystem) -> tuple[TableText, ...]:
    """Open volts by how warm modules are, running amperes by the light on them; none of branches."""
    kinds = _kinds(design, plan)
    if not kinds:
        return ()
    warmths = _warmths_c(air_of(design.site).lowest_temperature_c, units)
    share, off, alike = (
        format_value(constant("common", name).value, "ratio", units)
        for name in ("string_voltage_share", "string_current_share", "alike_current_share")
    )
    return (
        _table(
            kinds,
            (
                "readings-open",
                "Open, before it is joined: by how warm its modules are",
                f"Plus on plus, within {share}; a thermometer at the back of one. A module's volts "
                "less tells of one too few, or of one that is passed by. In light it is live: rated "
                "gloves and meter, nobody alone.",
            ),
            [format_value(one, "temperature", units) for one in warmths],
            [
                [
                    format_value(at_temperature(kind.volts, kind.coefficient, one), "voltage", units)
                    for one in warmths
                ]
                for kind in kinds
            ],
        ),
        _table(
            kinds,
            (
                "readings-running",
                "Running: by the light in the plane of its modules",
                f"One wire in the clamp, steady light: within {off} of this, {alike} of each other. "
                "Two-faced modules give more; where the inverter holds back it is less. Never pull a "
                "plug that carries current.",
            ),
            [format_value(one, "irradiance", units) for one in LIGHTS_W_M2],
            [
                [
                    format_value(kind.amperes * one / FULL_LIGHT_W_M2, "current", units)
                    for one in LIGHTS_W_M2
                ]
                for kind in kinds
            ],
        ),
    )
