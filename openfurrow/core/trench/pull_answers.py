"""What is said of a pull: how hard, from which end, what presses in bends, whether wires wedge."""

import math

from openfurrow.core.checks import Check, at_most, holds
from openfurrow.core.codes import constant
from openfurrow.core.quantities import spoken
from openfurrow.core.trench.conduit import Conduit, Pull
from openfurrow.core.trench.pulling import Pulls, jams
from openfurrow.core.working import Answer, Input, Source, Working

PULLING = Source("IEEE 525/576 practice", "from memory")


def pull_answers(pulls: Pulls, pull: Pull, conduit: Conduit, bends: Input) -> tuple[Answer, ...]:
    """The pull from the easier end, and what presses the wires against a bend."""
    hardest_n = pulls.easier.sidewall_n_per_m * conduit.bend_radius_m
    return (
        Answer(
            "trench",
            "tension",
            "Pull, from the easier end",
            Working(
                "T",
                "",
                (
                    Input("m", "wires together", pull.mass_kg_per_m, "line_mass"),
                    bends,
                    Input(
                        "mu",
                        "friction, lubricated",
                        constant("common", "pulling_friction").value,
                        "factor",
                    ),
                ),
                pulls.easier.tension_n,
                "force",
                PULLING,
                f"Toward {pulls.easier.toward}; toward {pulls.harder.toward} it would be "
                f"{spoken(pulls.harder.tension_n, 'force')}. T grows by w μ L on each straight, by "
                "the weight where it climbs, and by e^(μθ) in each bend; wires that wedge rub more.",
            ),
        ),
        Answer(
            "trench",
            "sidewall",
            "Pressed against a bend with",
            Working(
                "P",
                "T / R",
                (
                    Input("T", "pull where it leaves the hardest bend", hardest_n, "force"),
                    Input("R", "the tightest bend of this size", conduit.bend_radius_m, "tape"),
                    Input("P_m", "what wires stand", pulls.limits.sidewall_n_per_m, "line_load"),
                ),
                pulls.easier.sidewall_n_per_m,
                "line_load",
                PULLING,
                "A metre of the bend's radius; where it is warmed wider it is less.",
            ),
        ),
    )


def _box_words(pulls: Pulls) -> str:
    """Where a pull box helps most, and what is left with it."""
    if pulls.box_at_m is None:
        return "Fewer bends, or wires in a larger conduit."
    return (
        f"A pull box {spoken(pulls.box_at_m, 'run')} from the array: with it the pull uses "
        f"{pulls.with_box:.0%} of what the wires stand. Or fewer bends, or a listed lubricant."
    )


def pull_checks(pulls: Pulls, pull: Pull, conduit: Conduit, way: str) -> tuple[Check, ...]:
    """Whether the wires stand the pull and the press in bends, and do not wedge."""
    return (
        at_most(
            "trench",
            "tension",
            "The wires stand the pull",
            pulls.easier.tension_n,
            pulls.limits.tension_n,
            "force",
            remedy=_box_words(pulls),
            source=PULLING,
            given=way,
        ),
        at_most(
            "trench",
            "sidewall",
            "Bends do not crush the wires",
            pulls.easier.sidewall_n_per_m,
            pulls.limits.sidewall_n_per_m,
            "line_load",
            remedy=f"Wider sweeps, or: {_box_words(pulls)}",
            source=PULLING,
            given=way,
            # As with bends that add up: a box on the way mends it, and the way stays as it is.
            otherwise="look",
        ),
        *_jam_check(pull, conduit),
    )


def _jam_check(pull: Pull, conduit: Conduit) -> tuple[Check, ...]:
    """Three wires nearly a third of the pipe across lie side by side in a bend, and wedge.

    The bends of the run, and the sweeps at its ends, whose wall is thicker.
    """
    low, high = (constant("common", name).value for name in ("jams_from", "jams_to"))
    insides = (conduit.inside_m2, conduit.riser_inside_m2)
    ratios = [jams(pull, math.sqrt(4 * inside / math.pi)) for inside in insides]
    told = [ratio for ratio in ratios if ratio is not None]
    if not told:
        return ()
    # The one nearest to the middle of what jams.
    worst = min(told, key=lambda ratio: abs(ratio - (low + high) / 2))
    return (
        holds(
            "trench",
            "jam",
            "Three wires do not wedge in a bend",
            not low < worst < high,
            f"{worst:.2f} times across one",
            f"not {low:g} to {high:g}",
            remedy="One size of conduit more, or wires that are drawn in laid together.",
            source=PULLING,
            given="trench.room_for_growth",
            otherwise="look",
        ),
    )
