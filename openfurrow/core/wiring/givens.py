"""Wiring givens: the inverters at the building, and how much may be lost on the way to them."""

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from openfurrow.core.givens import Givens, Thing, given, identified
from openfurrow.core.quantities import INCH_M, either

# What is asked of inverters that stand out at an array alone: their outputs lie in the trench.
OUT_AT_ARRAY = frozenset({"units", "ac_v", "phases"})
# What is asked of boxes behind the modules, where there are any.
OF_BOXES = frozenset({"box_hangs", "box_aside_m", "box_input_m", "box_output_m", "box_plugs"})


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


StringWalk = Literal["row by row", "whole rows", "column by column", "every other and back"]
Plugs = Literal["nobody has looked", "the same make", "another make"]
Hangs = Literal["the module's frame", "the upper purlin", "the lower purlin"]


@dataclass(frozen=True)
class Box:
    """What hangs behind every module: where, how far aside of its middle, its own leads and plugs."""

    hangs: Hangs
    aside_m: float
    input_m: float
    output_m: float
    plugs: Plugs


@dataclass(frozen=True)
class Laying:
    """In which order strings pass the modules; ``box`` is behind each, None where there is none."""

    walk: StringWalk
    box: Box | None


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
    string_walk: StringWalk = given(
        "row by row",
        "Strings go",
        "choice",
        "Row by row: a string takes whole columns, along their lower modules and back along the upper. "
        "Whole rows: along the lower row of a table to its end, then back along the next. Column by "
        "column: up one and down the next. Every other and back: both ends of a row at one place.",
        "Row by row is usual. Whole rows where winter shade lies on the lower row alone; every other "
        "where leads are long enough, it saves the wire home.",
        group="From module to module",
    )
    box_hangs: Hangs = given(
        "the module's frame",
        "Boxes hang on",
        "choice",
        "Beside the module's own box on its frame, or on the purlin under it.",
        "What the box's maker allows; on the frame its leads always reach.",
        group="From module to module",
    )
    box_aside_m: float = given(
        0.0,
        "Aside of the module's middle",
        "tape",
        "How far along the row from the middle of the module the box hangs, to either side.",
        "A tape, from the hole it is bolted to.",
        low=0,
        high=1.5,
        usual=(0, 0.5),
        group="From module to module",
    )
    box_input_m: float = given(
        0.15,
        "Box: leads to the module",
        "tape",
        "How long each of them is, to the plug.",
        "Data sheet of the box.",
        low=0,
        high=3,
        usual=(0.1, 0.7),
        group="From module to module",
        us=6 * INCH_M,
    )
    box_plugs: Plugs = given(
        "nobody has looked",
        "Box: its plugs are of",
        "choice",
        "Whether plugs of the box and of the module are of one make and one type.",
        "The name moulded into both, read with glasses; that they go together says nothing.",
        group="From module to module",
        caution="Plugs of different makers are never mated: a leading cause of fires.",
    )
    box_output_m: float = given(
        1.2,
        "Box: leads to the next",
        "tape",
        "How long each of them is, to the plug.",
        "Data sheet of the box: ordered for modules that stand or for those that lie.",
        low=0.1,
        high=5,
        usual=(0.9, 2.4),
        group="From module to module",
        us=48 * INCH_M,
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

    def shown(self) -> frozenset[str]:
        """Boxes are asked for where there are any."""
        boxes = frozenset(() if self.box is not None else OF_BOXES)
        return super().shown() - boxes

    @property
    def box(self) -> Box | None:
        """What hangs behind every module, if anything does."""
        if self.electronics != "by the module":
            return None
        return Box(
            self.box_hangs, self.box_aside_m, self.box_input_m, self.box_output_m, self.box_plugs
        )

    @property
    def laying(self) -> Laying:
        """How strings go from module to module."""
        return Laying(self.string_walk, self.box)

    @property
    def losses(self) -> Losses:
        """What the wires of every array are held to."""
        return Losses(self.drop_limit, self.slack_m)
