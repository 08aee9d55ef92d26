"""Trench givens: how the wires go to the building."""

from typing import Literal

from openfurrow.core.codes import table
from openfurrow.core.givens import Givens, given
from openfurrow.core.quantities import FOOT_M, INCH_M, either
from openfurrow.core.trench import end_givens as ends

OF_STUDS = frozenset({"bay_from_m", "bay_to_m"})
OF_WALLS = frozenset({"wall_thick_m", "hole_right_m", "hole_up_m", "reference_higher_m"}) | OF_STUDS
Wall = Literal[
    "nobody has said",
    "boards on studs",
    "sheet metal on studs",
    "masonry",
    "concrete",
    "logs",
    "no wall is passed",
]
Laid = Literal["in a trench", "over the ground"]
PutBack = Literal["nobody has said", "seeded grass", "bare earth", "gravel", "paving laid again"]
NOBODY_SAID: PutBack = "nobody has said"
OF_BACK = frozenset({"strip_m", "topsoil_m", "tracks_told"})
OF_DIGGING = OF_BACK | {
    "width_m",
    "bedding_m",
    "extra_depth_m",
    "swell",
    "by_hand_costs",
    "crossing_costs_m",
    "put_back",
}
OF_OVER = frozenset({"over_m", "expansion_m", "over_seen"})
Method = Literal[
    "PVC conduit",
    "rigid metal conduit",
    "thin-wall metal tubing",
    "direct-buried cable",
    "armoured cable",
]
ARMOURED: Method = "armoured cable"
CABLES: frozenset[Method] = frozenset({"direct-buried cable", ARMOURED})
Bonded = Literal["nobody has said", "at both ends", "at one end"]
OF_ARMOUR = frozenset({"circuits_a_cable", "armour_bonded"})


class TrenchGivens(Givens):
    """The trench and what lies in it."""

    method: Method = given(
        "PVC conduit",
        "Wiring method",
        "choice",
        "What protects the conductors in the ground. Direct-buried cable: single wires in sand. "
        "Armoured cable: all cores of a circuit and its ground under one armour.",
        "PVC conduit is usual; armoured or direct-buried cable saves pulling.",
        caution="Nothing is dug before the utility locate has answered. Hand-dig within "
        f"{either('2 ft', '0.6 m')} of any mark.",
    )
    laid: Laid = given(
        "in a trench",
        "It is laid",
        "choice",
        "In a trench. Over the ground: on blocks or sleepers where nothing may be dug; it lies in "
        "the sun, grows and shrinks, and is tripped over.",
        "The owner of the ground, and what lies in it.",
    )
    over_m: float = given(
        0.1,
        "Over the ground",
        "tape",
        "Air below it, on its supports.",
        "Over grass and melt water, below where a foot catches.",
        low=0,
        high=1,
        usual=(0.05, 0.3),
        group="Over the ground",
        us=4 * INCH_M,
    )
    expansion_m: float = given(
        0.1,
        "An expansion fitting takes",
        "thickness",
        "How far its sleeve slides from end to end.",
        "Its sheet.",
        low=0.02,
        high=0.4,
        usual=(0.05, 0.2),
        group="Over the ground",
        us=4 * INCH_M,
    )
    over_seen: Literal["nobody has looked", "looked at, covered where it must be"] = given(
        "nobody has looked",
        "Where people walk and machines mow",
        "choice",
        "Whether somebody has walked it, and covered or marked what lies in a foot's or a machine's "
        "way.",
        "Who lives there, and who mows.",
        group="Over the ground",
    )
    under_driveway: bool = given(
        False,
        "Crosses a driveway",
        "yes_no",
        "Wheels over it ask for more cover there; the whole trench is dug to the deeper of that and "
        "open ground. A road that is drawn counts by itself, as a road.",
        "Walk the way.",
    )
    of_dwelling: bool = given(
        True,
        "Driveway of a dwelling",
        "yes_no",
        "Of one or two families, for their own cars. Roads, yards and parking ask for more.",
        "Who drives there, and with what.",
    )
    width_m: float = given(
        0.3048,
        "Trench width",
        "tape",
        "Width of the bucket or of the trencher's chain.",
        "The machine you rent.",
        low=0.08,
        high=1.5,
        usual=(0.15, 0.45),
        metric=0.3,
    )
    bedding_m: float = given(
        0.1,
        "Sand bedding",
        "tape",
        "Stone-free sand below the conduit, and the same again above it for cable without conduit.",
        f"None needed in stone-free soil; {either('4 in', '100 mm')} in gravel.",
        low=0,
        high=0.3,
        usual=(0, 0.15),
        us=4 * INCH_M,
    )
    extra_depth_m: float = given(
        0.05,
        "Deeper than the rule",
        "tape",
        "What the trench is dug beyond the least cover.",
        f"{either('2 in', '50 mm')}: an inspector's tape should not find the one high spot.",
        low=0,
        high=1,
        usual=(0.03, 0.3),
        us=2 * INCH_M,
    )
    room_for_growth: bool = given(
        True,
        "Room for growth",
        "yes_no",
        "One conduit size larger than the fill asks for.",
        "Costs little now, saves a dig later.",
    )
    strings_per_conduit: int = given(
        10,
        "Circuits in one conduit",
        "count",
        "A circuit is a string, or the output of one inverter. More than this take a second conduit.",
        "Crowded wires heat each other: ten strings halve what a wire may carry.",
        low=1,
        high=20,
        usual=(2, 10),
    )
    circuits_a_cable: int = given(
        1,
        "Circuits in one cable",
        "count",
        "Two strings share a cable of five cores: two pairs and the ground. An output has its own.",
        "What the merchant has on drums: up to five cores.",
        low=1,
        high=2,
        usual=(1, 2),
    )
    armour_bonded: Bonded = given(
        "nobody has said",
        "Armour is bonded",
        "choice",
        "Where glands, tags and bonding wires join the armour to earth.",
        "Both ends, unless an engineer has a reason for one.",
    )
    wire_listed_v: float | None = given(
        None,
        "Its wires are listed for",
        "voltage",
        "Volts printed on the jacket; open: what is usual of its kind.",
        "The jacket: 600 V is printed on much building wire, 1,000 V or 2,000 V on some.",
        low=50,
        high=3000,
        usual=(600, 2000),
    )
    plates_over: bool = given(
        False,
        "Plates over it",
        "yes_no",
        "Cover plates on the sand above cable, so that a spade finds them first; tape lies over it "
        "besides.",
        "Where somebody will dig again: gardens, verges.",
    )
    swell: float = given(
        0.25,
        "Spoil swells by",
        "ratio",
        "Dug soil takes more room than it did in the ground.",
        "Sand and gravel 10-15 %, common earth 25 %, clay 30-40 %.",
        low=0,
        high=1,
        usual=(0.1, 0.4),
    )

    by_hand_costs: float = given(
        10.0,
        "A metre by hand costs",
        "factor",
        "As much as so many metres dug by machine, where a way is found.",
        "What a crew digs by hand in a day against what a small excavator does.",
        low=1,
        high=100,
        usual=(5, 20),
        group="Finding a way",
    )
    crossing_costs_m: float = given(
        6.0,
        "Crossing a buried line costs",
        "run",
        "As much as so much plain trench: to find it, to bare it, to have it looked at.",
        "The firm's own jobs.",
        low=0,
        high=200,
        usual=(2, 20),
        group="Finding a way",
        us=20 * FOOT_M,
    )
    road_costs: float = given(
        5.0,
        "A metre of road costs",
        "factor",
        "As much as so many metres of plain trench: cut, filled in layers, and its surface put back.",
        "The owner of the road, and who paves.",
        low=1,
        high=100,
        usual=(2, 12),
        group="Finding a way",
    )
    roots_costs: float = given(
        4.0,
        "A metre through roots costs",
        "factor",
        "As much as so many metres of plain trench: by hand beside them, none cut.",
        "The owner of the tree; a licensed arborist where it is protected.",
        low=1,
        high=100,
        usual=(2, 10),
        group="Finding a way",
    )
    rock_costs: float = given(
        8.0,
        "A metre of rock costs",
        "factor",
        "As much as so many metres of plain trench: a hammer, or a saw.",
        "The firm's own jobs.",
        low=1,
        high=100,
        usual=(3, 20),
        group="Finding a way",
    )
    wet_costs: float = given(
        3.0,
        "A metre of wet ground costs",
        "factor",
        "As much as so many metres of plain trench: mats under the machine, a pump.",
        "The firm's own jobs; wet ground may be protected.",
        low=1,
        high=100,
        usual=(1.5, 8),
        group="Finding a way",
    )
    steep_costs: float = given(
        2.0,
        "A metre of steep ground costs",
        "factor",
        "As much as so many metres of plain trench, where the ground falls by more than 15 %.",
        "What the machine's maker allows on a slope.",
        low=1,
        high=100,
        usual=(1.2, 5),
        group="Finding a way",
    )
    bend_costs_m: float = given(
        0.6,
        "A bend costs",
        "tape",
        "As much as so much plain trench: a sweep, its glue, a harder pull.",
        "The firm's own jobs.",
        low=0,
        high=20,
        usual=(0.3, 3),
        group="Finding a way",
        us=24 * INCH_M,
    )

    box_up_m: float = ends.BOX_UP
    rise_up_m: float = ends.RISE_UP
    comes_up: ends.ComesUp = ends.COMES_UP
    before_pour: ends.BeforePour = ends.BEFORE_POUR
    inside_m: float = ends.INSIDE
    data: ends.Data = ends.DATA

    wall_kind: Wall = given(
        "nobody has said",
        "The wall is of",
        "choice",
        "What the wires pass on their way in; no wall where all of it hangs outside.",
        "Knock, and look at a window's reveal.",
        group="Through the wall",
        caution="A finder first, on both faces: wires, water and gas run in walls. Boards of old "
        "houses may hold asbestos: those are not drilled before they were tested.",
    )
    wall_thick_m: float | None = given(
        None,
        "Wall, face to face",
        "tape",
        "All its layers together.",
        "A tape through a window or a door beside it.",
        low=0.01,
        high=1.5,
        usual=(0.1, 0.5),
        group="Through the wall",
    )
    hole_right_m: float = given(
        0.0,
        "Hole, right of the shared point",
        "tape",
        "Seen from outside, from a point that both faces share to the middle of the first hole; less "
        "than nought to its left.",
        "A window's corner is a point that can be touched from both sides.",
        low=-10,
        high=10,
        usual=(-3, 3),
        group="Through the wall",
    )
    hole_up_m: float = given(
        0.0,
        "Hole, over the shared point",
        "tape",
        "Outside; less than nought below it.",
        "Where the rise comes up, over splash water and snow.",
        low=-5,
        high=5,
        usual=(-2, 2),
        group="Through the wall",
    )
    reference_higher_m: float = given(
        0.0,
        "The point is higher inside by",
        "tape",
        "A sill that slopes, or a thicker frame, puts the inner corner higher than the outer one.",
        "A level through the open window.",
        low=-0.5,
        high=0.5,
        usual=(-0.1, 0.1),
        group="Through the wall",
    )
    bay_from_m: float | None = given(
        None,
        "Stud to the left, its right edge",
        "tape",
        "Seen from inside, right of the shared point; less than nought to its left.",
        "A finder along the wall, and a thin nail to be sure.",
        low=-10,
        high=10,
        usual=(-3, 3),
        group="Through the wall",
    )
    bay_to_m: float | None = given(
        None,
        "Stud to the right, its left edge",
        "tape",
        "Seen from inside, right of the shared point; less than nought to its left.",
        "The same finder, on from there.",
        low=-10,
        high=10,
        usual=(-3, 3),
        group="Through the wall",
    )

    put_back: PutBack = given(
        NOBODY_SAID,
        "Put back as",
        "choice",
        "What lies on top in the end. Grass: topsoil, seed and straw. Bare earth: topsoil, raked. "
        "Gravel: over what was opened. Paving: what was taken up.",
        "Whoever owns the ground.",
        group="Putting back",
    )
    strip_m: float = given(
        1.2,
        "Strip worn beside it",
        "tape",
        "Driven over by the machine and under the heap: it is put back with the trench.",
        "The machine's tracks, and the heap.",
        low=0,
        high=10,
        usual=(0.5, 3),
        group="Putting back",
        us=4 * FOOT_M,
    )
    topsoil_m: float = given(
        0.1,
        "Topsoil",
        "tape",
        "As deep as it is dark; stripped first and laid apart.",
        "A spade, at both ends of the way.",
        low=0,
        high=0.6,
        usual=(0.05, 0.25),
        group="Putting back",
        us=4 * INCH_M,
    )
    tracks_told: bool = given(
        False,
        "Owner knows of tracks",
        "yes_no",
        "What will be seen for a season has been said beforehand.",
        "Whoever walked it with the owner.",
        group="Putting back",
    )

    @property
    def is_over(self) -> bool:
        """Whether nothing is dug, and all of it lies over the ground."""
        return self.laid == "over the ground"

    @property
    def ups_m(self) -> tuple[float, float]:
        """How high the wires come up at the array, and at the building."""
        return self.box_up_m, self.rise_up_m

    @property
    def is_cable(self) -> bool:
        """Whether it lies without conduit."""
        return self.method in CABLES

    @property
    def has_data(self) -> bool:
        """Whether data goes through the trench beside the power."""
        return self.data != "none" and not self.is_over

    @property
    def is_armoured(self) -> bool:
        """Whether all cores of a circuit lie under one armour."""
        return self.method == ARMOURED

    @property
    def circuits_together(self) -> int:
        """How many circuits one conduit or cable takes."""
        return self.circuits_a_cable if self.is_armoured else self.strings_per_conduit

    @property
    def passes_wall(self) -> bool:
        """Whether somebody has said that wires go through a wall."""
        return self.wall_kind not in ("nobody has said", "no wall is passed")

    @property
    def hollow_wall(self) -> bool:
        """Whether studs stand in it."""
        data = table("common", "wall")
        return self.passes_wall and data.texts["hollow"][data.row("kind", self.wall_kind)] == "yes"

    def shown(self) -> frozenset[str]:
        """Whose driveway it is matters where one is crossed, studs where a wall has some.

        What is asked of digging and of lying over the ground stands for one of both.
        """
        hidden = set(OF_DIGGING if self.is_over else OF_OVER)
        hidden |= {"strings_per_conduit"} if self.is_armoured else OF_ARMOUR
        if self.is_cable:
            hidden.add("room_for_growth")
        if self.is_over or not self.is_cable:
            hidden.add("plates_over")
        if self.is_over:
            hidden.add("data")
        if self.comes_up == ends.ALONG:
            hidden |= ends.OF_POURED
        if self.is_over or not self.under_driveway:
            hidden.add("of_dwelling")
        if self.put_back == NOBODY_SAID:
            hidden |= OF_BACK
        if self.put_back not in ("seeded grass", "bare earth"):
            hidden.add("topsoil_m")
        if not self.passes_wall:
            hidden |= OF_WALLS
        if not self.hollow_wall:
            hidden |= OF_STUDS
        return super().shown() - hidden
