"""Wiring givens: the inverters at the building, and how much may be lost on the way to them."""

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from openfurrow.core.givens import Givens, Thing, given, identified
from openfurrow.core.quantities import INCH_M, either

# What is asked of inverters that stand out at an array alone: their outputs lie in the trench.
OUT_AT_ARRAY = frozenset({"units", "ac_v", "phases"})


class InverterGivens(Thing):
    """One inverter at the building or out at an array, or several that are alike and stand together."""

    name: str = given(
        "",
        "Called",
        "text",
        "What it is called, where there are several.",
        "Its label.",
        length=40,
    )
    takes: Annotated[tuple[str, ...], Field(max_length=40)] = given(
        (),
        "Takes",
        "arrays",
        "Whose strings it takes. None said: those of every array that no other inverter names.",
        "Strings of different modules, tilts or ages want inverters, or trackers, of their own.",
    )
    stands: Literal["at the building", "at the array"] = given(
        "at the building",
        "Stands",
        "choice",
        "At the building the strings come to it through the trench; out at the array its output does.",
        "Out there: shorter strings, thinner wires on the way, a walk to each in the snow.",
        caution="An output that comes from the array is as live as the building's own mains.",
    )
    units: int = given(
        1,
        "How many alike",
        "count",
        "Each has an output, a breaker and wires of its own.",
        "The inverters' list.",
        low=1,
        high=200,
        usual=(1, 12),
    )
    ac_v: float = given(
        240.0,
        "Output voltage",
        "voltage",
        "Between two lines; of one phase between its two wires.",
        "Inverter data sheet, and what the building has.",
        low=100,
        high=1000,
        usual=(208, 480),
    )
    phases: Literal["one phase", "three phases"] = given(
        "one phase",
        "Output",
        "choice",
        "How many wires go to the building: two and a neutral, or three and a neutral.",
        "Inverter data sheet, and what the building has.",
    )
    maximum_dc_v: float = given(
        600.0,
        "Most volts at the inverter",
        "voltage",
        "The input voltage never to be exceeded.",
        "Inverter data sheet, and the limit for the building.",
        low=50,
        high=1500,
        usual=(500, 1000),
        caution="A string is live as soon as light falls on it. Covers on, connectors apart, "
        "and a licensed electrician for the landing.",
    )
    start_v: float = given(
        150.0,
        "Least volts to run",
        "voltage",
        "Lower end of the tracking range.",
        "Inverter data sheet.",
        low=20,
        high=1000,
        usual=(80, 400),
    )
    inverter_ac_w: float = given(
        12500.0,
        "Inverter output",
        "power",
        "Rated AC power; of several alike, all together.",
        "Inverter data sheet.",
        low=100,
        high=5e7,
        usual=(3000, 100000),
    )
    inverter_inputs: int = given(
        3,
        "String inputs",
        "count",
        "Strings it takes; of several alike, all together.",
        "Inverter data sheet.",
        low=1,
        high=50_000,
        usual=(2, 12),
    )

    conversion: float = given(
        0.965,
        "Gives of what it takes",
        "ratio",
        "AC power over DC power at its rating.",
        "Inverter data sheet, weighted efficiency.",
        low=0.7,
        high=0.995,
        usual=(0.94, 0.985),
    )

    @property
    def at_array(self) -> bool:
        """Whether it stands out at the array that it takes."""
        return self.stands == "at the array"

    def shown(self) -> frozenset[str]:
        """Outputs are asked for where they lie in the trench."""
        return super().shown() - (frozenset() if self.at_array else OUT_AT_ARRAY)


@dataclass(frozen=True)
class Losses:
    """What is lost on the way: the share of the volts aimed at, and the wire left over at each end."""

    drop_limit: float
    slack_m: float


class WiringGivens(Givens):
    """The inverters, and how much may be lost on the way."""

    inverters: Annotated[
        tuple[InverterGivens, ...], Field(min_length=1, max_length=60), AfterValidator(identified)
    ] = given(
        (InverterGivens(id="1"),),
        "Inverters",
        "list",
        "At the building, where the ways end, or out at an array: limits, and the arrays each takes.",
        "Their data sheets.",
    )
    drop_limit: float = given(
        0.02,
        "Voltage drop aimed at",
        "ratio",
        "Share of the string's voltage lost on the way.",
        "2 % is usual, 3 % is tolerated.",
        low=0.001,
        high=0.1,
        usual=(0.01, 0.03),
        group="On the way",
    )
    electronics: Literal["by the string", "by the module"] = given(
        "by the string",
        "Current is set",
        "choice",
        "By the string: one current through all its modules. By the module: each has a converter of "
        "its own, and shade on one leaves the others.",
        "By the module where shade comes and goes; one more box behind every module.",
        group="On the way",
    )
    slack_m: float = given(
        1.5,
        "Slack at each end",
        "tape",
        "Wire left over for landing and for a mistake.",
        f"{either('5 ft', '1.5 m')} at each end.",
        low=0,
        high=20,
        usual=(1, 3),
        group="On the way",
        us=60 * INCH_M,
    )

    @property
    def losses(self) -> Losses:
        """What the wires of every array are held to."""
        return Losses(self.drop_limit, self.slack_m)
