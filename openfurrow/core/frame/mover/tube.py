"""What turns a row on its lying tube: the drive's moment through the travel, its joints, its cable."""

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check, at_most
from openfurrow.core.frame.mover.answers import BALANCE, slack_answer
from openfurrow.core.frame.mover.rules import rated
from openfurrow.core.loads.gusts import with_halves
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.structures.turning_tube.carry import row_heads
from openfurrow.core.structures.turning_tube.line import twisting
from openfurrow.core.working import GEOMETRY, GIVEN, Answer, Input, Working

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class TubeDrive:
    """A tube's drive through its travel, from level to its limit (steps); to the other side alike.

    ``turning_n_m`` is the most that it holds at each of ``tilts_deg``, of the longest table;
    ``passed_n_m`` the most that a joint beside it passes on. ``row_m`` is how much of the row it turns,
    ``winds_m`` how far a cable goes with it.
    """

    tilts_deg: Floats
    turning_n_m: Floats
    row_m: float
    passed_n_m: float
    winds_m: float

    @property
    def worst(self) -> int:
        """The step at which it holds most."""
        return int(self.turning_n_m.argmax())

    @property
    def most_n_m(self) -> float:
        """What it holds there."""
        return float(self.turning_n_m.max())


def tube_drive_of(structure: StructurePlan) -> TubeDrive | None:
    """Through the whole travel; None where what stands there lies on no tube."""
    posts = structure.posts
    travel = posts.givens.travel
    if travel is None or not travel.rolls:
        return None
    sizes = [twisting(size) for size in posts.sizes]
    found = []
    for table, loads in structure.travel_at:
        gusts = replace(loads, wind=with_halves(loads.wind))
        on_row = [
            float(np.abs(row_heads(table, gusts, dead).turning_n_m).max())
            for dead in loads.dead_of_kg_per_m2.tolist()
        ]
        found.append(
            [
                max(turns * row for turns, row in zip(on_row, rows_m, strict=True))
                for rows_m in ([one.row_m for one in sizes], [one.longest_m for one in sizes])
            ]
        )
    turning, passed = np.array(found).T
    return TubeDrive(
        tilts_deg=np.array([table.tilt_deg for table, _ in structure.travel_at]),
        turning_n_m=turning,
        row_m=max(size.row_m for size in sizes),
        passed_n_m=float(passed.max()),
        winds_m=travel.wound_m,
    )


def tube_answers(found: TubeDrive | None, givens: StructureGivens) -> tuple[Answer, ...]:
    """The drive at worst, where its switches stop it, and the slack of a cable."""
    if found is None:
        return ()
    return (
        Answer(
            "frame",
            "tube_drive",
            "The drive holds, at worst",
            Working(
                "T",
                "t * L",
                (
                    Input("t", "turns a metre of the row", found.most_n_m / found.row_m, "force"),
                    Input("L", "row that one drive holds", found.row_m, "run"),
                    Input("a", "turned by then", float(found.tilts_deg[found.worst]), "angle"),
                ),
                found.most_n_m,
                "moment",
                BALANCE,
                "A gust on the upper or the lower half alone, all along the row, weight and snow: it "
                "stands while it holds, or gives, and every row behind it goes over.",
            ),
            True,
        ),
        Answer(
            "frame",
            "tube_switches",
            "Limit switches, to each side of level",
            Working(
                "a",
                "a_l - p",
                (
                    Input("a_l", "steepest that it may ever stand", givens.steepest_deg, "angle"),
                    Input("p", "runs on past a limit", givens.past_limit_deg, "angle"),
                ),
                givens.steepest_deg - givens.past_limit_deg,
                "angle",
                GEOMETRY,
                "By a level on a rail beside the drive, run by hand from a battery, before the "
                "controller is connected.",
            ),
            True,
        ),
        slack_answer(givens.cable_loop_m, 2 * math.radians(givens.steepest_deg), found.winds_m),
    )


def tube_checks(found: TubeDrive | None, givens: StructureGivens, splices: int) -> tuple[Check, ...]:
    """The drive by its rating, the joints by theirs where there are some, the switches."""
    if found is None:
        return ()
    return (
        rated(
            "tube_drive",
            "The drive holds a gust on half of its row",
            found.most_n_m,
            givens.tube_drive_n_m,
            "moment",
            "structure.tube_drive_n_m",
            "A stronger drive, or less row to each.",
        ),
        *(
            (
                rated(
                    "tube_joint",
                    "Joints of the tube pass its twist on",
                    found.passed_n_m,
                    givens.tube_coupler_n_m,
                    "moment",
                    "structure.tube_coupler_n_m",
                    "A coupler that is pinned through both tubes, or less row to a drive.",
                ),
            )
            if splices
            else ()
        ),
        at_most(
            "frame",
            "tube_stow",
            "Its switches let it come to where it is stowed",
            givens.stow_deg,
            givens.steepest_deg - givens.past_limit_deg,
            "angle",
            remedy="Stow it flatter, or let its limit lie further out.",
            source=GIVEN,
            given="structure.stow_deg",
        ),
    )
