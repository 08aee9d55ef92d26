"""What is said of leads: how far they have to reach, what is made up, and whose plugs meet."""

from openfurrow.core.checks import Check, at_most, holds
from openfurrow.core.modules.givens import ModulesGivens
from openfurrow.core.quantities import spoken
from openfurrow.core.wiring.givens import Box, Laying
from openfurrow.core.wiring.leads import ANOTHER, Leads
from openfurrow.core.working import GEOMETRY, Answer, Input, Source, Working

PLUGS = Source(
    "IEC 62548 and the listing of plugs: only those tested together are mated", "from memory"
)


def lead_answers(leads: Leads, modules: ModulesGivens, laying: Laying) -> tuple[Answer, ...]:
    """The longest way from a module to the next on its table, and what is made up."""
    what, each = ("box", laying.box.output_m) if laying.box else ("module", modules.lead_m)
    words = (
        "Strings go {walk}. Along frames and purlins, a hand's breadth at each end for bend and plug; "
        "two leads have {reach}."
    )
    if laying.box and laying.box.trunk_m:
        each = laying.box.trunk_m / 2
        words = "Branches go {walk}. Along frames and purlins; from plug to plug the trunk has {reach}."
    return (
        Answer(
            "wiring",
            "lead_need",
            f"Farthest from {what} to {what}",
            Working(
                "d",
                "",
                (
                    Input("a", "each lead, or half of the trunk's spacing", each, "tape"),
                    Input("n", "links from one to the next", float(leads.within.sum()), "count"),
                ),
                leads.farthest_m,
                "tape",
                GEOMETRY,
                words.format(walk=laying.walk, reach=spoken(leads.reach_m, "tape")),
            ),
        ),
        Answer(
            "wiring",
            "jumpers",
            "Jumpers to make up",
            Working(
                "n_j",
                "n_l + n_b",
                (
                    Input("n_l", f"from {what} to {what}", float(leads.wired.sum()), "count"),
                    Input("n_b", "from module to box", float(leads.box_short), "count"),
                ),
                float(leads.jumpers),
                "count",
                GEOMETRY,
                "Sunlight-rated wire with a plug of each make that it meets; found out at the desk, "
                "not behind the last module.",
            ),
            bool(leads.jumpers),
        ),
    )


def lead_checks(leads: Leads, laying: Laying) -> tuple[Check, ...]:
    """Whether leads reach, else how many jumpers are in the list; whether plugs may be mated."""
    what, trunk = "box" if laying.box else "module", laying.box is not None and laying.box.trunk_m
    return (
        at_most(
            "wiring",
            "lead_reach",
            "Plugs of the trunk reach from box to box"
            if trunk
            else f"Leads reach from {what} to {what}",
            leads.farthest_m,
            leads.reach_m,
            "tape",
            remedy=f"{leads.sealed} plugs stay empty and are sealed. Or let branches go another way, "
            "or order a trunk with its plugs farther apart."
            if trunk
            else f"{int(leads.wired.sum())} jumpers are in the list. Or turn every second row, let "
            "strings go another way, or order longer leads.",
            source=GEOMETRY,
            given="wiring.string_walk",
            otherwise="look",
        ),
        *(_box_checks(leads, laying.box) if laying.box else ()),
    )


def _box_checks(leads: Leads, box: Box) -> tuple[Check, ...]:
    """Whether module and box reach each other, and may be plugged together."""
    looked = box.plugs != "nobody has looked"
    told = f"another make: {leads.box_short} jumpers" if box.plugs == ANOTHER else box.plugs
    return (
        at_most(
            "wiring",
            "box_reach",
            "Module leads reach the boxes",
            float(leads.box_need_m.max()),
            leads.box_reach_m,
            "tape",
            remedy=f"{leads.box_short} jumpers are in the list. Or hang the boxes nearer to where the "
            "leads leave, or order longer leads.",
            source=GEOMETRY,
            given="wiring.box_hangs",
            otherwise="look",
        ),
        holds(
            "wiring",
            "box_plugs",
            "Plugs of module and box are of one make",
            box.plugs == "the same make",
            told if looked else "not looked at",
            "one make and type",
            remedy="Order boxes with the module's plugs, or jumpers with one of each: plugs that were "
            "not tested together burn.",
            source=PLUGS,
            given="wiring.box_plugs",
            otherwise="look",
        ),
    )
