"""What is answered of armoured cable: its size and weight, its glands, and whether it can be laid."""

import numpy as np

from openfurrow.core.checks import Check, at_least, holds, within
from openfurrow.core.codes import RulePack, constant, table
from openfurrow.core.quantities import spoken
from openfurrow.core.trench.armoured import ArmouredCable
from openfurrow.core.trench.conduit import Pull
from openfurrow.core.trench.givens import TrenchGivens
from openfurrow.core.trench.route import Route
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, Answer, Input, Working


def armoured_answers(
    cable: ArmouredCable | None, route: Route, cables: int, pack: RulePack
) -> tuple[Answer, ...]:
    """Which cable, what one piece weighs, and what holds it at its ends."""
    if cable is None:
        return ()
    side = "" if cables == 1 else f", {cables} side by side"
    return (
        Answer(
            "trench",
            "armoured",
            "Armoured cable",
            Working(
                "cable",
                "",
                (
                    Input("n", "cores, one of them the ground", float(cable.cores), "count"),
                    Input("d", "a core across", cable.core_m, "thickness"),
                    Input("D", "outside, about", cable.outside_m, "thickness"),
                    Input("r", "bent no tighter than", cable.bend_m, "tape"),
                ),
                f"{cable.label}{side}",
                "text",
                table(pack, "armour").source,
                "Built up layer by layer; the maker's own may differ by some millimetres: measure it "
                "before glands are bought. It lies in one piece from box to inverter, no joint in the "
                "ground.",
            ),
            True,
        ),
        Answer(
            "trench",
            "piece_weighs",
            "One piece weighs",
            Working(
                "m",
                "L * w",
                (
                    Input("L", "one way, without slack", route.wire_m, "run"),
                    Input("w", "cable", cable.kg_per_m, "line_mass"),
                ),
                route.wire_m * cable.kg_per_m,
                "mass",
                GEOMETRY,
                "Off a drum on stands, over rollers; never dragged over stones.",
            ),
        ),
        Answer(
            "trench",
            "glands",
            "Glands",
            Working(
                "n_g",
                "2 * k",
                (Input("k", "cables", float(cables), "count"),),
                2.0 * cables,
                "count",
                table(pack, "gland").source,
                f"{cable.gland or 'None listed'} at both ends of each, tight on the armour, with a tag "
                "and a bonding wire where the box is plastic; a shroud or a seal against water.",
            ),
            True,
        ),
    )


def _room_m(route: Route, bend_m: float) -> float:
    """The least that any straight has over what the bends at its ends take up, at that radius.

    A bend by an angle takes r tan(angle / 2) of both straights that meet in it; both ends turn up.
    """
    long = np.hypot(np.diff(route.east_m), np.diff(route.north_m))
    if not long.size:
        return 0.0
    turns = np.radians(np.minimum((90.0, *route.turns_deg, 90.0), 179.0))
    takes = bend_m * np.tan(turns / 2)
    return float((long - takes[:-1] - takes[1:]).min())


def armoured_checks(
    cable: ArmouredCable | None, route: Route, pull: Pull, givens: TrenchGivens, way: str
) -> tuple[Check, ...]:
    """Whether such a cable is made and fits a gland, bends where the way does, is bonded and laid."""
    if cable is None:
        return ()
    most = constant("common", "most_cores")
    bonded = givens.armour_bonded
    return (
        holds(
            "trench",
            "cores",
            "Such a cable is made",
            pull.conductors <= most.value and cable.gland is not None,
            f"{cable.label}, {spoken(cable.outside_m, 'thickness')}",
            f"{most.value:.0f} cores at most, and a gland that takes it",
            remedy="One circuit in a cable, or conduit.",
            source=most.source,
            given="trench.circuits_a_cable",
        ),
        at_least(
            "trench",
            "armoured_bends",
            "The way leaves room for the cable's bends",
            _room_m(route, cable.bend_m),
            0.0,
            "tape",
            remedy="Draw its bends further apart, or fewer of them: bent tighter, its armour opens.",
            source=GEOMETRY,
            given=way,
            otherwise="look",
        ),
        holds(
            "trench",
            "armour_bonded",
            "Its armour is bonded at both ends",
            bonded == "at both ends",
            bonded,
            "at both ends",
            remedy="Gland, tag and bonding wire at either end; one end alone only as an engineer says.",
            source=COMMON_PRACTICE,
            given="trench.armour_bonded",
            otherwise="look",
        ),
        within(
            "trench",
            "armoured_lift",
            "Two people can lay a piece",
            route.wire_m * cable.kg_per_m,
            constant("common", "hand_load_kg"),
            "mass",
            most=True,
            remedy="A drum on stands, rollers every few metres, and more hands or a winch.",
            given=way,
            otherwise="look",
        ),
    )
