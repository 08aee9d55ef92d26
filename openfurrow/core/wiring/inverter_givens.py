"""What is given of an inverter: at the building, out at an array, or one behind every module."""

from typing import Annotated, Literal

from pydantic import Field

from openfurrow.core.givens import Thing, given
from openfurrow.core.quantities import INCH_M

# What is asked of one that stands by itself, and of those behind every module.
OF_ONE = frozenset(
    {"units", "inverter_ac_w", "inverter_inputs", "joined", "input_a", "input_short_a", "arc_fault"}
)
OF_BRANCHES = frozenset({"box_ac_w", "branch_most", "branch_guard_a", "plug_spacing_m"})
# More than any array has.
NO_END_OF_BRANCHES = 1_000_000


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
    stands: Literal["at the building", "at the array", "behind each module"] = given(
        "at the building",
        "Stands",
        "choice",
        "At the building the strings come to it through the trench; out at the array its output does. "
        "Behind each module: a small one for each, side by side on branches of a trunk cable, which go "
        "through the trench.",
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
    phases: Literal["one phase", "three phases", "to a battery"] = given(
        "one phase",
        "Output",
        "choice",
        "Two lines and a neutral, or three and a neutral; or a charger that feeds a battery and goes "
        "to no panel.",
        "Inverter data sheet, and what the building has.",
    )
    maximum_dc_v: float = given(
        600.0,
        "Most volts at the inverter",
        "voltage",
        "The input voltage never to be exceeded.",
        "Inverter data sheet, and the limit for the building.",
        low=20,
        high=1500,
        usual=(50, 1000),
        caution="A string is live as soon as light falls on it. Covers on, connectors apart, "
        "and a licensed electrician for the landing.",
    )
    start_v: float = given(
        150.0,
        "Least volts to run",
        "voltage",
        "Lower end of the tracking range.",
        "Inverter data sheet.",
        low=8,
        high=1000,
        usual=(20, 400),
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
        "Inputs it has, a string to each unless some are joined; of several alike, all together.",
        "Inverter data sheet.",
        low=1,
        high=50_000,
        usual=(2, 12),
    )

    joined: int = given(
        1,
        "Strings joined on an input",
        "count",
        "So many come together in a combiner at the array and go on as one pair of wires.",
        "One on small inverters. Three and more are fused each: two would feed a fault in the third.",
        low=1,
        high=24,
        usual=(1, 2),
    )
    input_a: float | None = given(
        None,
        "An input takes",
        "current",
        "The most current at work that one input makes use of.",
        "Inverter data sheet: maximum input current of a tracker, over its inputs.",
        low=1,
        high=2000,
        usual=(10, 40),
    )
    input_short_a: float | None = given(
        None,
        "An input stands",
        "current",
        "The most short-circuit current of what is joined on one input.",
        "Inverter data sheet: maximum short-circuit current of a tracker, over its inputs.",
        low=1,
        high=3000,
        usual=(12, 60),
    )
    arc_fault: Literal["nobody has looked", "it is listed for it", "it is not"] = given(
        "nobody has looked",
        "Arc-fault protection",
        "choice",
        "Whether it hears an arc in its strings, and shuts them off.",
        "Inverter data sheet: AFCI, type 1.",
        pack="us",
    )

    box_ac_w: float = given(
        350.0,
        "Output of one",
        "power",
        "What the inverter behind one module gives for hours.",
        "Its data sheet: continuous, not peak.",
        low=50,
        high=5000,
        usual=(240, 800),
    )
    branch_most: int = given(
        11,
        "Most on a branch",
        "count",
        "So many may hang on one trunk cable.",
        "Its data sheet, for the breaker and the voltage there.",
        low=1,
        high=100,
        usual=(6, 17),
    )
    branch_guard_a: float = given(
        20.0,
        "Breaker of a branch, at most",
        "current",
        "The trunk cable and its plugs bear no larger one.",
        "Its data sheet.",
        low=6,
        high=100,
        usual=(16, 25),
    )
    plug_spacing_m: float = given(
        1.3,
        "Trunk: plug to plug",
        "tape",
        "How far apart the plugs of the trunk cable are.",
        "Ordered for modules that stand or that lie: a little more than from one to the next.",
        low=0.3,
        high=6,
        usual=(1.0, 2.4),
        us=52 * INCH_M,
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
    def to_panel(self) -> bool:
        """Whether it gives alternating current, which is connected somewhere."""
        return self.phases != "to a battery"

    @property
    def at_array(self) -> bool:
        """Whether its output comes from the array that it takes."""
        return self.stands != "at the building"

    @property
    def behind(self) -> bool:
        """Whether there is one behind every module."""
        return self.stands == "behind each module"

    @property
    def each_w(self) -> float:
        """What one of them gives."""
        return self.box_ac_w if self.behind else self.inverter_ac_w / self.units

    def rated_w(self, modules: int) -> float:
        """What it gives at most; of those behind modules, with so many of them."""
        return self.box_ac_w * modules if self.behind else self.inverter_ac_w

    @property
    def takes_strings(self) -> int:
        """How many strings it has inputs for; branches need none."""
        return NO_END_OF_BRANCHES if self.behind else self.inverter_inputs

    def shown(self) -> frozenset[str]:
        """What is asked of one behind each module, or of one that stands by itself."""
        return super().shown() - (OF_ONE if self.behind else OF_BRANCHES)
