"""Trench givens: how the wires go to the building."""

from typing import Literal

from openfurrow.core.givens import Givens, given
from openfurrow.core.quantities import FOOT_M, INCH_M, either

Method = Literal["PVC conduit", "rigid metal conduit", "thin-wall metal tubing", "direct-buried cable"]


class TrenchGivens(Givens):
    """The trench and what lies in it."""

    method: Method = given(
        "PVC conduit",
        "Wiring method",
        "choice",
        "What protects the conductors in the ground.",
        "PVC conduit is usual; armoured or direct-buried cable saves pulling.",
        caution="Nothing is dug before the utility locate has answered. Hand-dig within "
        f"{either('2 ft', '0.6 m')} of any mark.",
    )
    under_driveway: bool = given(
        False,
        "Crosses a driveway",
        "yes_no",
        "Wheels over it ask for more cover there; the whole trench is dug to the deeper of that and "
        "open ground.",
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

    def shown(self) -> frozenset[str]:
        """Whose driveway it is matters where one is crossed."""
        return super().shown() - (frozenset() if self.under_driveway else {"of_dwelling"})
