"""What would stop a mover: an actuator too short, turned over or too weak; a drive that slips."""

from openfurrow.core.checks import Check, at_least, at_most, holds, within
from openfurrow.core.codes import constant
from openfurrow.core.frame.mover.answers import BALANCE
from openfurrow.core.frame.mover.arm import Mover
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.working import GEOMETRY, Source

SHEET = Source("the maker's sheet of the drive or the actuator", "given")


def mover_checks(
    found: Mover | None, structure: StructurePlan, givens: StructureGivens
) -> tuple[Check, ...]:
    """Stroke at both ends past the limits, one way round, the lower bolt, three ratings."""
    if found is None:
        return ()
    return (
        *(_tilting_checks(found, structure, givens) if found.tilts else ()),
        *(_turning_checks(found, givens) if found.turns else ()),
    )


def _tilting_checks(
    found: Mover, structure: StructurePlan, givens: StructureGivens
) -> tuple[Check, ...]:
    """The actuator: whether it reaches, whether it turns over, where its foot is, how strong it is."""
    least, most = found.past_m
    return (
        at_least(
            "frame",
            "mover_in",
            "The actuator draws in as far as it is asked to",
            least,
            givens.drawn_in_m,
            "tape",
            remedy="It meets its own end before the switch has stopped it: a lower foot, a longer arm, "
            "a limit that stops sooner, or an actuator that is shorter drawn in.",
            source=GEOMETRY,
            given="structure.drawn_in_m",
        ),
        at_most(
            "frame",
            "mover_out",
            "The actuator comes out as far as it is asked to",
            most,
            givens.drawn_in_m + givens.stroke_m,
            "tape",
            remedy="A longer stroke, a shorter arm, a foot that is nearer to the head, or a limit that "
            "stops sooner.",
            source=GEOMETRY,
            given="structure.stroke_m",
        ),
        holds(
            "frame",
            "mover_over",
            "The actuator never turns over",
            not found.turns_over,
            "in the way of its travel its line meets the head" if found.turns_over else "one way round",
            "its line stays on one side of the head",
            remedy="Past that line it pushes the table back: a foot further down or out, the other "
            "half of the table, or a limit that stops sooner.",
            source=GEOMETRY,
            given="structure.foot_down_m",
        ),
        within(
            "frame",
            "mover_foot",
            "The lower bolt is on the pole, over the ground",
            float(structure.supports.reveals_m.min()) - givens.foot_down_m,
            constant("common", "steel_clear_m"),
            "tape",
            most=False,
            remedy="A longer pole, or a foot that is nearer to the head.",
            given="structure.foot_down_m",
        ),
        rated(
            "mover_force",
            "The actuator holds a gust on half of the table",
            float(found.forces_n.max()),
            givens.actuator_rated_n,
            "force",
            "structure.actuator_rated_n",
            "A stronger one, a longer arm with more stroke, or fewer modules.",
        ),
    )


def _turning_checks(found: Mover, givens: StructureGivens) -> tuple[Check, ...]:
    """The drive on the pole, by its two ratings."""
    return (
        rated(
            "drive_turns",
            "The drive holds a gust on one half of the length",
            found.drive_turns_n_m,
            givens.drive_turns_n_m,
            "moment",
            "structure.drive_turns_n_m",
            "A stronger drive, or a table that is shorter along.",
        ),
        rated(
            "drive_tips",
            "The drive is not tipped off the pole",
            found.drive_tips_n_m,
            givens.drive_tips_n_m,
            "moment",
            "structure.drive_tips_n_m",
            "A stronger drive, or fewer modules.",
        ),
    )


def rated(
    key: str,
    title: str,
    measured: float,
    rated: float | None,
    kind: str,
    given: str,
    remedy: str,
) -> Check:
    """Against what its maker rates it for; nobody has looked where that is not said."""
    if rated is None:
        return holds(
            "frame",
            key,
            title,
            False,
            "not looked at",
            "what it is rated for",
            remedy="Say what its maker rates it for, standing: what it moves is not what it holds.",
            source=SHEET,
            given=given,
            otherwise="look",
        )
    return at_most(
        "frame", key, title, measured, rated, kind, remedy=remedy, source=BALANCE, given=given
    )
