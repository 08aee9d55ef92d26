"""Wiring givens: the inverters, how strings go to them, and where it all connects."""

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from openfurrow.core.givens import Givens, given, identified
from openfurrow.core.quantities import FOOT_M, INCH_M, either
from openfurrow.core.wiring import backup_givens as backup
from openfurrow.core.wiring.inverter_givens import InverterGivens
from openfurrow.core.wiring.panel_givens import PANELS, Panels
from openfurrow.core.wiring.wall_givens import ON_WALL, OnWall

# What is asked of boxes behind the modules, where there are any.
OF_BOXES = frozenset({"box_hangs", "box_aside_m", "box_input_m", "box_output_m", "box_plugs"})
# What is asked once somebody has said where the job connects, and by which way it does.
OF_BUSES = frozenset({"panel_bus_a", "panel_place", "panel_loads_a", "panel_fed_by", "panels"})
OF_PANELS = OF_BUSES | {"panel_main_a", "panel_other_a"}
OF_A_TRANSFORMER = frozenset({"transformer_va"})
OF_STRINGS_INSIDE = frozenset({"strings_inside", "rapid_shutdown"})
OF_EARTH = frozenset({"rods", "rod_m", "rod_across_m", "rods_apart_m", "soil_ohm_m", "rods_ohm"})
OF_CONNECTION = OF_PANELS | OF_A_TRANSFORMER | {"outputs_meet", "shut_off", "panel_clear_m"}


StringWalk = Literal["row by row", "whole rows", "column by column", "every other and back"]
Plugs = Literal["nobody has looked", "the same make", "another make"]
Hangs = Literal["the module's frame", "the upper purlin", "the lower purlin"]
Connects = Literal[
    "nobody has said",
    "a breaker in the panel",
    "ahead of the main breaker",
    "a transformer of its own",
]
ShutOff = Literal["nobody has said", "beside the meter", "elsewhere, with a plan of it at the meter"]
FedBy = Literal["nobody has looked", "the meter", "another panel"]
Inside = Literal["nobody has looked", "no", "yes"]


@dataclass(frozen=True)
class Box:
    """What hangs behind every module: where, how far aside of its middle, its own leads and plugs.

    ``trunk_m``: it hangs on a trunk cable whose plugs are so far apart, and has no leads to the next.
    """

    hangs: Hangs
    aside_m: float
    input_m: float
    output_m: float
    plugs: Plugs
    trunk_m: float | None = None


@dataclass(frozen=True)
class Laying:
    """In which order strings pass the modules; ``box`` is behind each, None where there is none."""

    walk: StringWalk
    box: Box | None


@dataclass(frozen=True)
class Losses:
    """What is lost on the way: the share of the volts aimed at, and the wire left over at each end.

    ``indoors_m`` is what the outputs of inverters out at an array still run past the trench's end.
    """

    drop_limit: float
    slack_m: float
    indoors_m: float = 0.0


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

    connects: Connects = given(
        "nobody has said",
        "It connects at",
        "choice",
        "A breaker in the panel: it shares the bus with the main breaker. Ahead of the main breaker: a "
        "tap on the service, guarded by a switch of its own. A transformer of its own: nothing else "
        "hangs on it.",
        "The panel, its label and its free places; the utility's letter of consent.",
        group="Point of connection",
        caution="The service stays live with the main breaker off. Only the utility takes it off; a "
        "licensed electrician makes the connection.",
    )
    inverter_to_panel_m: float | None = given(
        None,
        "In the building, to there",
        "run",
        "Wire from the inverters to where it connects; of those out at an array, from where the "
        "trench ends.",
        "A tape along the wall, up and down counted.",
        low=0,
        high=500,
        usual=(0.5, 30),
        group="Point of connection",
    )
    ac_drop_limit: float = given(
        0.01,
        "Lost in the building, aimed at",
        "ratio",
        "Share of the output's voltage lost from the inverters to where it connects.",
        "1 % is usual; more of it lifts the voltage at the inverter, which stops at its limit.",
        low=0.001,
        high=0.1,
        usual=(0.005, 0.02),
        group="Point of connection",
    )
    outputs_meet: Literal["each on its own breaker", "in a panel of their own"] = given(
        "each on its own breaker",
        "Outputs of several",
        "choice",
        "Each on its own breaker: in the panel. In a panel of their own: beside the inverters, and "
        "one feeder goes on.",
        "Free places in the panel; a panel of their own takes one.",
        group="Point of connection",
    )
    panel_bus_a: float | None = given(
        None,
        "Panel: its bus bears",
        "current",
        "What the bus bars of the panel are rated for; not the main breaker.",
        "The label inside its door.",
        low=20,
        high=6000,
        usual=(100, 400),
        group="Point of connection",
    )
    panel_main_a: float | None = given(
        None,
        "Its main breaker",
        "current",
        "What guards the bus from the utility's side; ahead of the main breaker, the rating of the "
        "service.",
        "The number on its handle.",
        low=15,
        high=6000,
        usual=(60, 400),
        group="Point of connection",
    )
    panel_other_a: float = given(
        0.0,
        "Other sources already on it",
        "current",
        "Breakers of what feeds this bus already, together: an older array, a battery, a generator.",
        "The labels in the panel.",
        low=0,
        high=4000,
        usual=(0, 100),
        group="Point of connection",
    )
    panel_place: Literal["at the far end of the bus", "anywhere on it"] = given(
        "at the far end of the bus",
        "Its breaker sits",
        "choice",
        "At the end away from the main breaker no piece of the bus carries both; anywhere else it may.",
        "The panel: which end the main feeds, and what is free at the other.",
        group="Point of connection",
        pack="us",
    )
    panel_fed_by: FedBy = given(
        "nobody has looked",
        "The panel is fed by",
        "choice",
        "The meter: nothing lies between but the service. Another panel: its bus, and the feeder from "
        "it, carry what comes back too.",
        "The cable at its main lugs, followed to where it comes from.",
        group="Point of connection",
    )
    panel_loads_a: float | None = given(
        None,
        "All its load breakers together",
        "current",
        "Their ratings added up, the main and the sources left out. Where they and the sources stay "
        "within the bus, it serves whatever the main breaker is.",
        "Counted in the open panel, two poles as one.",
        low=0,
        high=10000,
        usual=(60, 500),
        group="Point of connection",
        pack="us",
    )
    transformer_va: float | None = given(
        None,
        "Transformer",
        "power",
        "What it is rated for.",
        "Its plate.",
        low=1000,
        high=1e8,
        usual=(25e3, 5e6),
        group="Point of connection",
    )
    shut_off: ShutOff = given(
        "nobody has said",
        "Lockable shut-off",
        "choice",
        "The switch by which the utility or a fire crew takes it off, and which can be locked open.",
        "The utility's rules, and where its meter is.",
        group="Point of connection",
    )
    panel_clear_m: float | None = given(
        None,
        "Clear floor before the panel",
        "tape",
        "From the panel's face to the nearest thing, or to the wall across.",
        "A tape, doors and shelves counted.",
        low=0,
        high=10,
        usual=(0.7, 3),
        group="Point of connection",
    )
    panels: Panels = PANELS
    on_wall: OnWall = ON_WALL
    strings_inside: Inside = given(
        "nobody has looked",
        "Strings run inside a building",
        "choice",
        "No: the inverter hangs outside, or in a house that is for it alone. Yes: wires that are live "
        "in light run where people live or work.",
        "Where the inverter hangs, and by which wall the wires come to it.",
        group="Point of connection",
    )
    rapid_shutdown: bool = given(
        False,
        "Rapid shutdown",
        "yes_no",
        "Something that is listed for it brings the strings inside down to a harmless voltage, from a "
        "switch outside.",
        "Data sheets of the inverter and of what sits at the array.",
        group="Point of connection",
        pack="us",
    )

    backs_up: bool = backup.BACKS_UP
    kept_on: backup.KeptOn = backup.KEPT_ON
    backup_v: float = backup.BACKUP_V
    standby_there: bool = backup.STANDBY_THERE
    battery_wh: float | None = backup.BATTERY_WH
    battery_w: float | None = backup.BATTERY_W
    battery_peak_w: float | None = backup.BATTERY_PEAK_W
    hours_wanted: float = backup.HOURS_WANTED
    transfer: backup.Transfer = backup.TRANSFER
    transfer_a: float | None = backup.TRANSFER_A
    backup_bus_a: float | None = backup.BACKUP_BUS_A
    backup_m: float | None = backup.BACKUP_M
    generator_w: float | None = backup.GENERATOR_W
    generator_starts: backup.Starts = backup.GENERATOR_STARTS
    generator_m: float | None = backup.GENERATOR_M

    rods: int = given(
        2,
        "Rods at each array",
        "count",
        "Driven at the array's end of the way, in a line, joined by bare copper.",
        "Two are usual; one only where it was measured.",
        low=1,
        high=12,
        usual=(1, 4),
        group="Earth",
    )
    rod_m: float = given(
        2.5,
        "Rod in the soil",
        "tape",
        "How long each is, head below grade.",
        f"{either('8 ft', '1.5 m or more')} by the rules; longer where the top dries out.",
        low=1.0,
        high=12,
        usual=(1.5, 3.1),
        us=8 * FOOT_M,
        group="Earth",
    )
    rod_across_m: float = given(
        0.016,
        "Rod across",
        "thickness",
        "Its diameter.",
        "What is listed: copper on steel, or stainless.",
        low=0.008,
        high=0.06,
        usual=(0.0127, 0.02),
        us=0.625 * INCH_M,
        group="Earth",
    )
    rods_apart_m: float = given(
        2.5,
        "From rod to rod",
        "tape",
        "Along the line.",
        "A rod's length or more: nearer ones share the soil between them.",
        low=0.3,
        high=60,
        usual=(1.8, 5),
        us=8 * FOOT_M,
        group="Earth",
    )
    soil_ohm_m: float | None = given(
        None,
        "Soil's resistivity",
        "resistivity",
        "Measured by four pins in a line; empty where nobody has.",
        "Clay some 10 to 100 Ω·m, sand 100 to 1000, rock more; wet and salty less.",
        low=1,
        high=100_000,
        usual=(10, 2000),
        group="Earth",
    )
    rods_ohm: float | None = given(
        None,
        "Rods measured",
        "resistance",
        "What the rods of the array that has most were read at together, joined to nothing else; empty "
        "until it was.",
        "Three-point meter, the far pin ten rod lengths away.",
        low=0.01,
        high=100_000,
        usual=(1, 200),
        group="Earth",
        caution="An earth wire is never opened while anything runs: what leaks stands on it.",
    )

    @property
    def at_the_building(self) -> bool:
        """Whether strings come to any inverter there."""
        return any(not one.at_array for one in self.inverters)

    @property
    def several_outputs(self) -> bool:
        """Whether more than one output comes to where it connects; branches are as good as always."""
        own = [one for one in self.inverters if one.to_panel]
        return any(one.behind for one in own) or sum(one.units for one in own) > 1

    def shown(self) -> frozenset[str]:
        """Boxes are asked for where there are any, and panels where it connects to one."""
        behind = any(one.behind for one in self.inverters)
        hidden = set(() if behind or self.box is not None else OF_BOXES)
        if all(one.behind for one in self.inverters):
            hidden |= {"electronics", "box_output_m"}
        if self.connects == "nobody has said":
            hidden |= OF_CONNECTION
        if self.connects == "a transformer of its own":
            hidden |= OF_PANELS
        else:
            hidden |= OF_A_TRANSFORMER
        if self.connects == "ahead of the main breaker":
            hidden |= OF_BUSES
        if self.panel_fed_by != "another panel":
            hidden.add("panels")
        if not self.backs_up:
            hidden |= backup.OF_BACKUP
        if not self.backs_up or self.generator_w is None:
            hidden |= backup.OF_A_GENERATOR
        if self.rods == 1:
            hidden.add("rods_apart_m")
        if not self.several_outputs:
            hidden.add("outputs_meet")
        if not self.at_the_building:
            hidden.add("strings_inside")
        if not self.at_the_building or self.strings_inside != "yes":
            hidden.add("rapid_shutdown")
        return super().shown() - hidden

    @property
    def gathers(self) -> bool:
        """Whether outputs meet in a panel of their own before they connect."""
        said = self.connects != "nobody has said"
        return self.several_outputs and said and self.outputs_meet == "in a panel of their own"

    @property
    def box(self) -> Box | None:
        """What hangs behind every module, if anything does."""
        return self._box() if self.electronics == "by the module" else None

    def _box(self, trunk_m: float | None = None) -> Box:
        own = (self.box_hangs, self.box_aside_m, self.box_input_m, self.box_output_m)
        return Box(*own, self.box_plugs, trunk_m)

    def laying(self, trunk_m: float | None) -> Laying:
        """How strings go from module to module; branches along a trunk with plugs so far apart."""
        return Laying(self.string_walk, self.box if trunk_m is None else self._box(trunk_m))

    @property
    def losses(self) -> Losses:
        """What the wires of every array are held to."""
        # A feeder of all outputs has its own way and its own wire.
        indoors = 0.0 if self.gathers else self.inverter_to_panel_m or 0.0
        return Losses(self.drop_limit, self.slack_m, indoors)
