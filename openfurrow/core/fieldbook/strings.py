"""Strings before they are joined: open voltage against the warmth of the modules, insulation."""

import math
from dataclasses import dataclass
from typing import Literal

from openfurrow.core.checks import MENDED_THERE, Check, holds
from openfurrow.core.codes import constant
from openfurrow.core.design import Design
from openfurrow.core.fieldbook.places import Known, named
from openfurrow.core.fieldbook.records import Record
from openfurrow.core.planned import Plan
from openfurrow.core.quantities import spoken
from openfurrow.core.wiring.strings import at_temperature

StringVerdict = Literal["not yet", "sound", "not sound", "reversed", "asked"]
# Meters that agree to this part of the reading agree.
ALIKE_SHARE = 0.01


@dataclass(frozen=True, kw_only=True)
class Tested:
    """One string: its modules, ``volts`` open at 25 °C, and what was measured of it.

    ``coefficient`` is the relative change of the voltage for each degree.
    """

    of: str
    array: str
    name: str
    modules: int
    volts: float
    coefficient: float
    records: tuple[Record, ...] = ()
    insulation: tuple[Record, ...] = ()

    def expected_v(self, warm_c: float) -> float:
        """Its open voltage while its modules are so warm."""
        return at_temperature(self.volts, self.coefficient, warm_c)

    def missing(self, record: Record) -> int:
        """How many modules too few, negative too many, a reading looks like; nought where none."""
        one = self.expected_v(_warm(record)) / self.modules
        return self.modules - round(abs(record.value) / one)

    def right(self, record: Record) -> bool:
        """Whether a reading is what its modules should give, the right way round."""
        expected = self.expected_v(_warm(record))
        return abs(record.value - expected) <= share() * expected

    @property
    def asked(self) -> bool:
        """Whether two who read it differ, by its voltage or by whether it is insulated."""
        parts = [record.value / self.expected_v(_warm(record)) for record in self.records]
        dry = {one.value >= constant("common", "least_insulation_ohm").value for one in self.insulation}
        return max(parts, default=0.0) - min(parts, default=0.0) > ALIKE_SHARE or len(dry) > 1

    @property
    def verdict(self) -> StringVerdict:
        """What may be said of its voltage. One reading that is wrong is enough."""
        if not self.records:
            return "not yet"
        if any(record.value < 0 for record in self.records):
            return "reversed"
        if not all(map(self.right, self.records)):
            return "not sound"
        return "asked" if self.asked else "sound"

    @property
    def insulated(self) -> bool | None:
        """Whether its insulation is enough; None where nobody has measured it."""
        least = constant("common", "least_insulation_ohm").value
        return all(one.value >= least for one in self.insulation) if self.insulation else None


def share() -> float:
    """By what part a string may be off what is expected."""
    return constant("common", "string_voltage_share").value


def _warm(record: Record) -> float:
    # A reading without its warmth cannot be judged: none is kept so.
    assert record.beside is not None and math.isfinite(record.beside)
    return record.beside


def tested(design: Design, plan: Plan, known: Known, loose: list[Record]) -> tuple[Tested, ...]:
    """Every string of every array, those that stood before among them: they are wired too."""
    found = []
    for array, circuit in zip(design.arrays, plan.wiring.circuits, strict=True):
        # Branches carry alternating current: there is no string to be measured.
        if circuit.branch is not None:
            continue
        for number, modules in enumerate(circuit.strings.lengths.tolist(), start=1):
            of = f"{array.id}:s{number}"
            found.append(
                Tested(
                    of=of,
                    array=array.id,
                    name=f"S{number}",
                    modules=modules,
                    volts=modules * array.modules.open_circuit_v,
                    coefficient=array.modules.voltage_coefficient_per_c,
                    records=known.get((of, "voltage"), ()),
                    insulation=known.get((of, "insulation"), ()),
                )
            )
    names = {string.of for string in found}
    loose += [
        record
        for (of, about), those in known.items()
        if about in ("voltage", "insulation") and of not in names
        for record in those
    ]
    return tuple(found)


def string_checks(strings: tuple[Tested, ...]) -> tuple[Check, ...]:
    """Nothing is said of strings that nobody has measured."""
    read = [one for one in strings if one.records]
    if not read and not any(one.insulation for one in strings):
        return ()
    return (*_voltage_checks(strings, read), *_insulation_check(strings))


def _voltage_checks(strings: tuple[Tested, ...], read: list[Tested]) -> tuple[Check, ...]:
    if not read:
        return ()
    wrong = [one for one in read if one.verdict in ("not sound", "reversed")]
    asked = [one for one in read if one.verdict == "asked"]
    limit, left = constant("common", "string_voltage_share"), len(strings) - len(read)
    return (
        holds(
            "fieldbook",
            "voltage",
            "Strings give what their modules should",
            not wrong,
            f"otherwise: {named(map(_said, wrong))}" if wrong else f"all {len(read)} measured",
            f"within {spoken(limit.value, 'ratio')}, plus on plus",
            remedy="Join nothing to the inverter: look for a reversed plug, a module too few or too "
            "many, or one in shade, and measure again in steady sun.",
            source=limit.source,
            given=MENDED_THERE,
        ),
        holds(
            "fieldbook",
            "voltage-read",
            "Every string was measured",
            not left and not asked,
            f"not looked at: {left} of {len(strings)}"
            if left
            else f"two differ on {named(one.name for one in asked)}"
            if asked
            else f"all {len(strings)}",
            "each, before it is joined",
            remedy="Measure each by itself before it is joined to others or to the inverter.",
            source=limit.source,
            given=MENDED_THERE,
            otherwise="look",
        ),
    )


def _said(one: Tested) -> str:
    """A wrong string, and what it looks like."""
    if one.verdict == "reversed":
        return f"{one.name} reversed"
    count = next(one.missing(record) for record in one.records if not one.right(record))
    if count == 0:
        return f"{one.name} off"
    return f"{one.name} as if {abs(count)} {'fewer' if count > 0 else 'more'}"


def _insulation_check(strings: tuple[Tested, ...]) -> tuple[Check, ...]:
    read = [one for one in strings if one.insulated is not None]
    low = [one for one in read if not one.insulated]
    limit, left = constant("common", "least_insulation_ohm"), len(strings) - len(read)
    remedy = (
        "Leave it open and find the wire that is hurt, wet or pinched."
        if low
        else "Measure each string to earth, isolated from the inverter, with the test voltage that its "
        "system asks for."
    )
    return (
        holds(
            "fieldbook",
            "insulation",
            "Wires are insulated from earth",
            not low and not left,
            f"too little on {named(one.name for one in low)}"
            if low
            else f"not looked at on {left} of {len(strings)}"
            if left
            else f"all {len(read)} measured",
            f"at least {spoken(limit.value, 'insulation')}",
            remedy=remedy,
            source=limit.source,
            given=MENDED_THERE,
            otherwise="stop" if low else "look",
        ),
    )
