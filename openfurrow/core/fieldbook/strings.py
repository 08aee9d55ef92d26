"""Strings: open voltage against the modules' warmth, insulation, running current against light."""

import math
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from openfurrow.core.checks import MENDED_THERE, Check, holds
from openfurrow.core.codes import constant
from openfurrow.core.design import Design
from openfurrow.core.fieldbook.places import Known, named
from openfurrow.core.fieldbook.records import Record
from openfurrow.core.planned import Plan
from openfurrow.core.quantities import spoken
from openfurrow.core.wiring.strings import at_temperature

CurrentVerdict = Literal["not yet", "dim", "sound", "not sound", "weak", "asked"]
StringVerdict = Literal["not yet", "sound", "not sound", "reversed", "asked"]
# What is measured of a string.
ABOUT_STRINGS = ("voltage", "insulation", "current")
# Modules are rated in it.
FULL_LIGHT_W_M2 = 1000.0
# Meters that agree to this part of the reading agree.
ALIKE_SHARE = 0.01


@dataclass(frozen=True, kw_only=True)
class Tested:
    """One string: its modules, ``volts`` open at 25 °C, and what was measured of it.

    ``coefficient`` is the relative change of the voltage for each degree, ``amperes`` its current at
    full power under 1,000 W/m², ``back`` how much as well its back takes light, ``usual`` the share of
    what their light gives that strings like it gave.
    """

    of: str
    array: str
    name: str
    modules: int
    volts: float
    coefficient: float
    amperes: float
    back: float
    records: tuple[Record, ...] = ()
    insulation: tuple[Record, ...] = ()
    currents: tuple[Record, ...] = ()
    usual: float | None = None

    def expected_v(self, warm_c: float) -> float:
        """Its open voltage while its modules are so warm."""
        return at_temperature(self.volts, self.coefficient, warm_c)

    def missing(self, record: Record) -> int:
        """How many modules too few, negative too many, a reading looks like; nought where none."""
        one = self.expected_v(_beside(record)) / self.modules
        return self.modules - round(abs(record.value) / one)

    def right(self, record: Record) -> bool:
        """Whether a reading is what its modules should give, the right way round."""
        expected = self.expected_v(_beside(record))
        return abs(record.value - expected) <= share() * expected

    @property
    def asked(self) -> bool:
        """Whether two who read it differ, by its voltage or by whether it is insulated."""
        parts = [record.value / self.expected_v(_beside(record)) for record in self.records]
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

    def expected_a(self, light_w_m2: float) -> float:
        """Its current while it runs at full power in so much light on its glass."""
        return self.amperes * light_w_m2 / FULL_LIGHT_W_M2

    @property
    def shares(self) -> tuple[float, ...]:
        """What was read of its current, each as a share of what its light gives, in enough light."""
        least = constant("common", "least_light_w_m2").value
        return tuple(
            one.value / self.expected_a(_beside(one)) for one in self.currents if _beside(one) >= least
        )

    @property
    def bounds(self) -> tuple[float, float]:
        """The least and the most that it may run at, as shares of what its light gives."""
        off = constant("common", "string_current_share").value
        # A sensor on the front sees nothing of what the back gets.
        return 1 - off, 1 + off + self.back * constant("common", "back_light_share").value

    @property
    def runs(self) -> CurrentVerdict:
        """What may be said of its current. One reading that is wrong is enough."""
        if not self.currents:
            return "not yet"
        shares = self.shares
        if not shares:
            return "dim"
        low, high = self.bounds
        if any(not low <= one <= high for one in shares):
            return "not sound"
        apart = constant("common", "alike_current_share").value
        if max(shares) - min(shares) > apart:
            return "asked"
        if self.usual is not None and any(one < self.usual * (1 - apart) for one in shares):
            return "weak"
        return "sound"

    @property
    def insulated(self) -> bool | None:
        """Whether its insulation is enough; None where nobody has measured it."""
        least = constant("common", "least_insulation_ohm").value
        return all(one.value >= least for one in self.insulation) if self.insulation else None


def share() -> float:
    """By what part a string may be off what is expected."""
    return constant("common", "string_voltage_share").value


def _beside(record: Record) -> float:
    # A reading without its warmth, or its light, cannot be judged: none is kept so.
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
                    amperes=array.modules.maximum_power_a,
                    back=array.modules.back_share,
                    records=known.get((of, "voltage"), ()),
                    insulation=known.get((of, "insulation"), ()),
                    currents=known.get((of, "current"), ()),
                )
            )
    names = {string.of for string in found}
    loose += [
        record
        for (of, about), those in known.items()
        if about in ABOUT_STRINGS and of not in names
        for record in those
    ]
    return _beside_each_other(found)


def _beside_each_other(strings: list[Tested]) -> tuple[Tested, ...]:
    """Each with what the others of its array gave, of what they should: their median."""
    shares: dict[str, list[float]] = {}
    for one in strings:
        shares.setdefault(one.array, []).extend(one.shares)
    usual = {array: float(np.median(those)) for array, those in shares.items() if len(those) > 1}
    return tuple(replace(one, usual=usual.get(one.array)) for one in strings)


def string_checks(strings: tuple[Tested, ...]) -> tuple[Check, ...]:
    """Nothing is said of strings that nobody has measured."""
    read = [one for one in strings if one.records]
    if not read and not any(one.insulation or one.currents for one in strings):
        return ()
    return (
        *_voltage_checks(strings, read),
        *_insulation_check(strings),
        _current_check(strings),
    )


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


# What is said of a current that is not as it should be.
CURRENT_WORDS: dict[CurrentVerdict, str] = {
    "not sound": "off",
    "weak": "weaker than the others",
    "asked": "read twice, and they differ",
    "dim": "read in too little light",
    "not yet": "not read",
}


def _current_check(strings: tuple[Tested, ...]) -> Check:
    """Whether every string runs as its light lets it, and as the others do."""
    limit = constant("common", "string_current_share")
    wrong = [one for one in strings if one.runs in ("not sound", "weak")]
    left = [one for one in strings if one.runs in ("not yet", "dim", "asked")]
    told = wrong or left
    return holds(
        "fieldbook",
        "current",
        "Strings run as their light lets them",
        not told,
        f"otherwise: {named(f'{one.name} {CURRENT_WORDS[one.runs]}' for one in wrong)}"
        if wrong
        else f"not looked at on {len(left)} of {len(strings)}"
        if left
        else f"all {len(strings)} measured",
        f"within {spoken(limit.value, 'ratio')} of their light, and of each other within "
        + spoken(constant("common", "alike_current_share").value, "ratio"),
        remedy="Look for shade, dirt, a module that is bypassed or a string that is not joined; where "
        "the inverter holds back, because it is full or its battery is, a current tells nothing."
        if wrong
        else "Once it runs, clamp each string's wire in steady light of "
        f"{spoken(constant('common', 'least_light_w_m2').value, 'irradiance')} at least, with a "
        "sensor in the plane of the modules.",
        source=limit.source,
        given=MENDED_THERE,
        otherwise="look",
    )
