"""Where clamps grip a module's frame: inside the zone that its data sheet rates them in."""

from openfurrow.core.checks import Check, at_least, at_most, holds
from openfurrow.core.codes import constant
from openfurrow.core.modules.givens import ModulesGivens
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.working import Answer, Input, Source, Working

ZONE = Source("the module's installation manual: the clamping zone that its loads go with", "given")
UNSAID = "The zone stands in the module's manual; outside it neither rating nor warranty hold."


def grip_answer(rows: RowsPlan, side_m: float) -> Answer:
    """How far from a corner clamps grip the side that they hold."""
    grip = rows.clamped_m(side_m)
    return Answer(
        "modules",
        "grip",
        "Clamps grip, from a corner",
        Working(
            "z",
            "",
            (
                Input("L", "side that clamps grip", side_m, "tape"),
                Input("z_o", "from the other corner", side_m - grip, "tape"),
            ),
            grip,
            "tape",
            constant("common", "clamp_zone").source,
            "Where the purlins or rails under it lie; the two of a module are as far from its corners.",
        ),
    )


def grip_checks(givens: ModulesGivens, side_m: float, rows: RowsPlan) -> tuple[Check, ...]:
    """``side_m`` is the side that clamps grip: up the slope on purlins, along the row on rails."""
    grip = rows.clamped_m(side_m)
    apart = constant("common", "clamps_apart_least")
    typed = grip if givens.clamps_in_m is None else givens.clamps_in_m
    return (
        at_most(
            "modules",
            "clamps_apart",
            "Two clamps grip one side well apart",
            typed,
            apart.value * side_m,
            "tape",
            remedy="Nearer to the corner: so far in, both clamps of a side come together and the "
            "module rocks on them.",
            source=apart.source,
            given="modules.clamps_in_m",
        ),
        _zone_check(givens, grip),
    )


def _zone_check(givens: ModulesGivens, grip_m: float) -> Check:
    title = "Clamps grip where they are rated"
    first, last = givens.zone_from_m, givens.zone_to_m
    if first is not None and last is not None and last < first:
        return holds(
            "modules",
            "clamp_zone",
            title,
            condition=False,
            measured="it ends before it begins",
            wanted="from the lesser to the greater",
            remedy="Both are measured from the same corner.",
            source=ZONE,
            given="modules.zone_to_m",
        )
    if last is not None and (first is None or grip_m > last):
        check = at_most(
            "modules",
            "clamp_zone",
            title,
            grip_m,
            last,
            "tape",
            remedy="Purlins or rails further apart: nearer to the modules' corners.",
            source=ZONE,
            given="modules.clamps_in_m",
        )
        if first is not None or check.level == "stop":
            return check
    if first is not None and (last is not None or grip_m < first):
        return at_least(
            "modules",
            "clamp_zone",
            title,
            grip_m,
            first,
            "tape",
            remedy="Purlins or rails nearer to each other: further from the modules' corners.",
            source=ZONE,
            given="modules.clamps_in_m",
        )
    return holds(
        "modules",
        "clamp_zone",
        title,
        condition=False,
        measured="not looked at: nobody has said where they are rated",
        wanted="inside the zone",
        remedy=UNSAID,
        source=ZONE,
        given="modules.zone_from_m" if first is None else "modules.zone_to_m",
        otherwise="look",
    )
