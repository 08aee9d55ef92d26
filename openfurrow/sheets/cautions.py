"""The usual caution at each step, once, where the hand is. Local code and licensed people decide."""

from openfurrow.core.footings.piles import Piles
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import either

CAUTIONS = {
    "site": "Have every buried line located and marked before anything enters the ground. "
    "The authority's own wind, snow and frost figures go before these.",
    "sun": "Never look at the sun to find south: read the shadow on the ground.",
    "structure": "Loads and profiles are for review by an engineer licensed where the array stands. "
    "Earthquakes count where the site says how it shakes; a frame whose braces or bolts are not in "
    "yet is not looked at.",
    "footings": "Ear and eye protection at the driver, nobody beside it, hands off the post. "
    "Depths are for review by an engineer licensed where the array stands.",
    "frame": "Beams go up by machine or by enough people. Nobody stands under a frame whose bolts "
    "are only snug.",
    "modules": "Two to lift a module, nobody in gusts. From the first module in light the wires "
    "are live.",
    "trench": f"Locate first; dig by hand within {either('2 ft', '0.6 m')} of any mark. Deeper than "
    f"about {either('4 ft', '1.2 m')}: shored, sloped or not entered. Inspection before backfill.",
    "wiring": "A string in light cannot be switched off at its source. Connectors of different "
    "makers are never mated. A licensed electrician lands and tests.",
    "materials": "Reversing trucks and swinging bundles hurt people: one person guides, everyone "
    "else stands clear.",
    "stakeout": "Stakes only after the locate marks are down: a stake is the first thing that "
    "enters the ground.",
    "schedule": "A day that is planned is no leave: a hold is lifted by its record, not by its date. "
    "Rain and soft ground are not looked at. Who is tired stops.",
    "fieldbook": "Strings in light are live: rated gloves and meter, one hand, nobody alone. Nobody "
    "climbs into an open trench to read a tape.",
    "handover": "Nothing is switched on before those whose leave it takes have given it. What was "
    "not looked at is handed over as not looked at.",
}
# Of footings that nothing is driven for.
OF_WEIGHTS = (
    "Boxes and bags by machine or by two, feet and hands clear; wet concrete burns skin and eyes. "
    "Weights are for review by an engineer licensed where the array stands; flood, and a frame whose "
    "boxes are not filled yet, are not looked at."
)


OF_PILES = (
    "Blocks are lifted by the knees, gloves on, two to a slab; a pile is never left higher than it is "
    "level. Nothing is laid out loose: no module lies overnight on a pile that is not strapped. Some "
    "places want a permit for it too: ask. Piles are for review by an engineer where wind or snow is "
    "strong; flood and beasts that push are not looked at."
)


OF_PIERS = (
    "Ear and eye protection at the auger, no loose sleeves, nobody beside it while it turns. Open "
    "bores are covered whenever nobody stands at them, and nobody climbs into one. Wet concrete burns "
    "skin and eyes. Depths and concrete are for review by an engineer licensed where the array stands; "
    "what splits the concrete around a post, and rust where the post leaves it, are not looked at."
)


OF_SCREWS = (
    "Hands and sleeves off the drive head, nobody beside it while it turns, the arm held where the "
    "torque throws it. A helix is proved by the torque of each screw, a rock screw by pulling some. "
    "Depths are for review by an engineer licensed where the array stands; rust over the years is not "
    "looked at."
)


OF_MOVERS = (
    " It follows the sun: it starts without a warning, so nobody stands within what it sweeps while it "
    "has power; who works there locks it off by its own switch and keeps the key. Run by hand from a "
    "battery it is stopped by pulling the lead."
)


OVER_GROUND = (
    "What lies over the ground is tripped over and mown into: steel or a board where anybody walks. "
    "Rods are driven still: locate before the first of them. In the sun it burns hands."
)


def caution(stage: str, plan: Plan) -> str:
    """What a stage cautions for the array that is open."""
    moves = stage in ("frame", "modules") and plan.has("rows") and plan.rows.travel is not None
    return _caution(stage, plan) + (OF_MOVERS if moves else "")


def _caution(stage: str, plan: Plan) -> str:
    if stage == "trench" and plan.has(stage) and plan.trench.over is not None:
        return OVER_GROUND
    if stage == "footings" and plan.has(stage):
        if isinstance(plan.footings.weights, Piles):
            return OF_PILES
        if plan.footings.weights is not None:
            return OF_WEIGHTS
        if plan.footings.piers is not None:
            return OF_PIERS
        if plan.footings.screws is not None:
            return OF_SCREWS
    return CAUTIONS.get(stage, "")


def cautions(plan: Plan) -> dict[str, str]:
    """What every stage that is planned cautions, for all arrays together."""
    every = {
        stage: dict.fromkeys(caution(stage, one) for one in plan.each() if one.has(stage))
        for stage in CAUTIONS
    }
    return {stage: " ".join(words) for stage, words in every.items() if words}
