"""What is asked of all that rests on the ground by its weight: boxes, and piles of blocks."""

import numpy as np

from openfurrow.core.checks import Check, at_least, at_most, holds, within
from openfurrow.core.codes import constant
from openfurrow.core.footings.piles import Piles
from openfurrow.core.footings.weights import Weights
from openfurrow.core.structures.earthquake import QUAKE
from openfurrow.core.structures.stand import Stand
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, Answer, Input, Source, Working

WEIGHT = Source(
    "equilibrium; ASCE/SEI 7-16 2.4.1, 0.6 D + 0.6 W, or EN 1990 A1.2(A), 0.9 G + 1.5 W", "from memory"
)
BEARING = Source("IBC 2018, Table 1806.2, or EN 1997-1, Annex D.4", "from memory")
WIDER = {
    "box": "Wider boxes, more of them, or stone under each.",
    "pile": "A slab under each pile, more piles, or stone under each.",
}
CHOSEN_BY = {"box": "footings.box_side_m", "pile": "footings.pile_on"}
PLURAL = {"box": "boxes", "pile": "piles"}


def rests_answers(weights: Weights | Piles, noun: str) -> tuple[Answer, ...]:
    """What the one that uses most of its ground presses with."""
    return (
        Answer(
            "footings",
            "presses",
            f"A {noun} presses its ground with",
            Working(
                "q",
                "",
                (Input("q_R", f"what {weights.bears_by} bears there", weights.bears_pa, "pressure"),),
                weights.press_pa,
                "pressure",
                BEARING,
                f"Of the {noun} that uses most of it, under weight, snow and wind.",
            ),
        ),
    )


def rests_checks(weights: Weights | Piles, noun: str, quake: float | None) -> tuple[Check, ...]:
    """Whether the ground is even and bears them, whether frost or an earthquake moves them.

    ``quake`` is the share of all weight that an earthquake pushes with, where somebody has said.
    """
    many = PLURAL[noun]
    return (
        within(
            "footings",
            "nearly_flat",
            "The ground is nearly flat",
            weights.fall,
            constant("common", "ballast_slope"),
            "ratio",
            most=True,
            remedy=f"Even the ground under each {noun}: on a slope it creeps with every frost and "
            "rain.",
            given="site.slope",
            otherwise="look",
        ),
        at_most(
            "footings",
            "bears",
            f"The ground bears the {many}",
            weights.press_pa,
            weights.bears_pa,
            "pressure",
            remedy=WIDER[noun],
            source=BEARING,
            given=CHOSEN_BY[noun],
        ),
        holds(
            "footings",
            "frost_rests",
            f"Frost does not lift {many} one by one",
            not weights.frost,
            "fine soil on top" if weights.frost else "none told",
            f"no fine soil under {many}",
            remedy="Take the fine soil off and bring stone: what frost lifts twists the frame.",
            source=COMMON_PRACTICE,
            given="site.fine_soil_top_m",
            otherwise="look",
        ),
        *(() if quake is None else (_quake_check(weights, many, quake),)),
    )


def _quake_check(weights: Weights | Piles, many: str, quake: float) -> Check:
    """Weight pushes as it holds: heavier ones slide no later. Tall piles rock before they slide."""
    held = weights.held.lightest * weights.held.friction
    if isinstance(weights, Piles):
        if not weights.glued:
            held = min(held, weights.held.lightest * weights.joint)
        held = min(held, weights.held.lightest * weights.tips_over_m / (2 * weights.deepest_fill_m))
    return at_most(
        "footings",
        "quake_slides",
        f"An earthquake does not move the {many}",
        quake,
        held,
        "ratio",
        remedy="No weight mends it, for weight pushes too: footings that go into the ground, or an "
        "engineer who lets it slide.",
        source=QUAKE,
        given="site.quake_acceleration",
    )


def apart_check(stand: Stand, side_m: float, key: str, title: str, given: str) -> Check:
    """Whether all of them stand beside each other: line from line, and along every line."""
    between = np.diff([role.back_m for role in stand.roles])
    along = [float(np.diff(line.along_m).min()) for line in stand.lines if line.count > 1]
    return at_least(
        "footings",
        key,
        f"{title} stand beside each other",
        min([float(between.min()), *along]),
        side_m,
        "tape",
        remedy=f"Narrower {title.lower()}, lines further apart, or fewer along a line.",
        source=GEOMETRY,
        given=given,
    )
