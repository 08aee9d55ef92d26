"""What a mover answers: its actuator's length and force through the travel, its drive, its cable."""

import math

import numpy as np

from openfurrow.core.frame.mover.arm import Mover
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.working import GEOMETRY, Answer, Input, Source, Working

BALANCE = Source("balance of moments about the head, of the table and of the actuator", "physics")


def mover_answers(found: Mover | None, givens: StructureGivens) -> tuple[Answer, ...]:
    """Lengths at both limits, the force at worst, the head, the drive, the slack."""
    if found is None:
        return ()
    turned = _turned(found, givens)
    return (
        *(_tilting_answers(found, givens) if found.tilts else ()),
        *(_turning_answers(found, givens) if found.turns else ()),
        slack_answer(givens.cable_loop_m, turned, found.winds_m),
    )


def slack_answer(loop_m: float, turned: float, winds_m: float) -> Answer:
    """How much cable goes with what turns by so many radians, so far off its middle."""
    return Answer(
        "frame",
        "cable_slack",
        "Slack for the cable",
        Working(
            "s",
            "r * a",
            (
                Input("r", "cable off the middle", loop_m, "tape"),
                Input("a", "all that it turns and tilts, in radians", turned, "factor"),
            ),
            winds_m,
            "tape",
            GEOMETRY,
            "From the last clip on what stands to the first on what turns, with it turned half "
            "way; a loop that hangs free, with nothing for it to catch on.",
        ),
    )


def _tilting_answers(found: Mover, givens: StructureGivens) -> tuple[Answer, ...]:
    """The actuator at both limits and at worst, and the pins that it pulls at."""
    worst = found.worst
    return (
        *(
            _length_answer(found, givens, key, title, at)
            for key, title, at in (
                ("actuator_flat", "Actuator at its lower limit", 0),
                ("actuator_steep", "Actuator at its upper limit", -1),
            )
        ),
        Answer(
            "frame",
            "actuator_force",
            "The actuator holds, at worst",
            Working(
                "F",
                "T / e",
                (
                    Input(
                        "T", "turns the table about the head", float(found.turning_n_m[worst]), "moment"
                    ),
                    Input("e", "the actuator's line from the head", float(found.arms_m[worst]), "tape"),
                    Input("t", "at a tilt of", float(found.tilts_deg[worst]), "angle"),
                ),
                float(found.forces_n[worst]),
                "force",
                BALANCE,
                "Pushed or pulled: a gust on the upper or the lower half alone, weight and snow, at "
                "the tilt where force over arm is most. Half again the wind is more than twice of it.",
            ),
            True,
        ),
        Answer(
            "frame",
            "head_pins",
            "The head's pins hold",
            Working(
                "P",
                "",
                (Input("F", "the actuator's force with it", float(found.forces_n.max()), "force"),),
                float(found.pins_n.max()),
                "force",
                BALANCE,
                "What the table brings and what the actuator pulls, as if both went the same way.",
            ),
        ),
    )


def _turning_answers(found: Mover, givens: StructureGivens) -> tuple[Answer, ...]:
    """What the drive on the pole holds."""
    return (
        Answer(
            "frame",
            "drive_turns",
            "The drive holds, about the pole",
            Working(
                "T_z",
                "",
                (Input("H", "turns each way", givens.turn_each_way_deg, "angle"),),
                found.drive_turns_n_m,
                "moment",
                BALANCE,
                "A gust on one half of the length: it stands while it holds, or gives and slips.",
            ),
        ),
        Answer(
            "frame",
            "drive_tips",
            "The drive holds, tipping",
            Working(
                "M_h",
                "",
                (Input("T", "about the cross pipe", float(found.turning_n_m.max()), "moment"),),
                found.drive_tips_n_m,
                "moment",
                BALANCE,
                "What turns the table about the cross pipe goes through the drive too, and what a gust "
                "on one half of the length tips it along. What both weigh is not counted.",
            ),
        ),
    )


def _turned(found: Mover, givens: StructureGivens) -> float:
    """All that it turns and tilts from end to end, in radians."""
    tilts = float(np.ptp(found.tilts_deg))
    return math.radians(tilts + (2 * givens.turn_each_way_deg if found.turns else 0.0))


def _length_answer(found: Mover, givens: StructureGivens, key: str, title: str, at: int) -> Answer:
    """Bolt to bolt where a limit switch stops it, and how far it is out then."""
    long = float(found.lengths_m[at])
    return Answer(
        "frame",
        key,
        title,
        Working(
            "L",
            "L_0 + s",
            (
                Input("L_0", "drawn in to its end", givens.drawn_in_m, "tape"),
                Input("s", "out by", long - givens.drawn_in_m, "tape"),
                Input("t", "tilt", float(found.tilts_deg[at]), "angle"),
            ),
            long,
            "tape",
            GEOMETRY,
            "Bolt to bolt. Set the switch by this length, run by hand from a battery, before the "
            "controller is connected.",
        ),
        True,
    )
