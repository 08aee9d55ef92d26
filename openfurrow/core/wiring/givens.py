"""Wiring givens: the inverters at the building, and how much may be lost on the way to them."""

from dataclasses import dataclass
from typing import Annotated

from pydantic import AfterValidator, Field

from openfurrow.core.givens import Givens, Thing, given, identified


class InverterGivens(Thing):
    """One inverter at the building, or several that are alike and take the same arrays."""

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
        high=5000,
        usual=(2, 12),
    )


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
        "At the building, where the ways end. Each with its limits and the arrays that it takes.",
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
    slack_m: float = given(
        1.5,
        "Slack at each end",
        "tape",
        "Wire left over for landing and for a mistake.",
        "1.5 m (5 ft) at each end.",
        low=0,
        high=20,
        usual=(1, 3),
        group="On the way",
    )

    @property
    def losses(self) -> Losses:
        """What the wires of every array are held to."""
        return Losses(self.drop_limit, self.slack_m)
