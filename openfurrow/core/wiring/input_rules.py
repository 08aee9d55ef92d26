"""Whether an inverter's inputs stand what is joined on them, and sparks are looked for."""

from dataclasses import dataclass

from openfurrow.core.checks import Check, at_most, holds
from openfurrow.core.codes import RulePack, constant
from openfurrow.core.modules.givens import ModulesGivens
from openfurrow.core.trench.givens import TrenchGivens
from openfurrow.core.wiring.strings import StringPlan
from openfurrow.core.working import COMMON_PRACTICE, Source

SHEET = Source("the inverter's data sheet", "given")
ARC = Source("NEC 2020, 690.11", "from memory")
METAL = frozenset({"rigid metal conduit", "thin-wall metal tubing"})


@dataclass(frozen=True)
class Inputs:
    """What the inputs of the inverters that take an array stand: the least of each, None where unsaid.

    ``joined`` strings come to one input; ``alike`` says that all these inverters join as many.
    ``watched`` that each of them looks for sparks. ``of`` is the id of the weakest.
    """

    of: str
    joined: int = 1
    alike: bool = True
    input_a: float | None = None
    short_a: float | None = None
    watched: bool = False


UNTOLD = Inputs("")


def input_checks(
    inputs: Inputs,
    strings: StringPlan,
    modules: ModulesGivens,
    trench: TrenchGivens,
    pack: RulePack,
    coldest_v: float,
) -> tuple[Check, ...]:
    """Currents of an input, strings that are joined, and arc-fault protection in the us school."""
    base = f"wiring.inverters.{inputs.of}"
    joined = inputs.joined
    return (
        _current(
            "input_current",
            "An input takes what its strings give",
            joined * modules.maximum_power_a,
            inputs.input_a,
            f"{base}.input_a",
            "Fewer strings joined, or another input: what is over it is thrown away, or its maker's "
            "warranty.",
            stops=False,
        ),
        _current(
            "input_short",
            "An input stands its strings' short circuit",
            joined * modules.short_circuit_a * constant("common", "bright_sun").value,
            inputs.short_a,
            f"{base}.input_short_a",
            "Fewer strings joined, or an inverter whose inputs stand more.",
            stops=True,
        ),
        *_joined(inputs, strings, base),
        *_arc(inputs, trench, pack, coldest_v, base),
    )


def _current(
    key: str, label: str, amps: float, most: float | None, given: str, remedy: str, *, stops: bool
) -> Check:
    if most is None:
        return holds(
            "wiring",
            key,
            label,
            False,
            "not looked at",
            "what its sheet says",
            remedy="Read it off the inverter's data sheet.",
            source=SHEET,
            given=given,
            otherwise="look",
        )
    return at_most(
        "wiring",
        key,
        label,
        amps,
        most,
        "current",
        remedy=remedy,
        source=SHEET,
        given=given,
        otherwise="stop" if stops else "look",
    )


def _joined(inputs: Inputs, strings: StringPlan, base: str) -> tuple[Check, ...]:
    """Side by side strings have one voltage: they are of one length, and joined alike."""
    if inputs.joined == 1 and inputs.alike:
        return ()
    return (
        holds(
            "wiring",
            "joined",
            "Strings that are joined are alike",
            strings.equal and inputs.alike,
            strings.words if inputs.alike else "inverters of one array join unlike numbers",
            "one length, joined alike",
            remedy="Equal strings: change the modules along, or join none; the longer ones feed the "
            "shorter.",
            source=COMMON_PRACTICE,
            given=f"{base}.joined",
        ),
    )


def _arc(
    inputs: Inputs, trench: TrenchGivens, pack: RulePack, coldest_v: float, base: str
) -> tuple[Check, ...]:
    """Not asked of what lies buried bare or in metal and enters no building."""
    free = trench.inside_m == 0 and ((trench.is_cable and not trench.is_over) or trench.method in METAL)
    if pack != "us" or coldest_v < constant("us", "arc_v").value or free:
        return ()
    return (
        holds(
            "wiring",
            "arc",
            "Arcs in the strings are looked for",
            inputs.watched,
            "listed for it" if inputs.watched else "nobody has said so",
            "a listed arc-fault circuit interrupter",
            remedy="An inverter that is listed for it; or wires of strings buried or in metal all the "
            "way, and in no building.",
            source=ARC,
            given=f"{base}.arc_fault",
            otherwise="look",
        ),
    )
