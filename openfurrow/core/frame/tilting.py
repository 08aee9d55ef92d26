"""Setting tables to another tilt: how long every strut is then, which hole, how many turns."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check, at_least, within
from openfurrow.core.codes import constant
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.one_post_line.members import struts_m, tilts_on_struts_deg
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, Answer, Input, Working

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]


@dataclass(frozen=True, kw_only=True)
class Tilting:
    """Struts at each tilt, flattest first: ``lengths_m`` (tilts, posts), bolt to bolt.

    Struts come alike, each at its longest as long as the longest that is asked for. Held by holes:
    ``holes`` counted in from that, and the tilts ``holds_deg`` that come of them.
    Held by a jack: ``turns`` from each tilt to the next steeper, (tilts - 1, posts). Else, or where
    nobody said that they can be set, neither.
    """

    tilts_deg: tuple[float, ...]
    lengths_m: Floats
    holes: Integers | None
    holds_deg: Floats | None
    turns: Floats | None

    @property
    def range_m(self) -> float:
        """From the longest that any post asks at any tilt to the shortest."""
        return float(np.ptp(self.lengths_m))

    @property
    def worst_off_deg(self) -> float:
        """The most that any hole is off its tilt."""
        if self.holds_deg is None:
            return 0.0
        return float(np.abs(self.holds_deg - np.array(self.tilts_deg)[:, None]).max())


def tilting_of(rows: RowsPlan, structure: StructurePlan, givens: StructureGivens) -> Tilting | None:
    """How tables are set to each of their tilts; None where they have one, or no strut holds them."""
    if givens.family != "one post line" or not rows.moves:
        return None
    tilts = np.array([one.tilt_deg for one in rows.positions])
    drops = structure.supports.reveals_m - givens.strut_foot_m
    reach = givens.strut_reach_m
    lengths = struts_m(reach, drops, tilts)
    holes = holds = turns = None
    held = givens.strut_held_by if givens.strut_travel_m else None
    if held == "a bolt in holes":
        longest = lengths.max()
        holes = np.rint((longest - lengths) / givens.strut_hole_m).astype(np.int64)
        holds = tilts_on_struts_deg(reach, drops, longest - holes * givens.strut_hole_m)
    elif held == "a jack":
        turns = -np.diff(lengths, axis=0) / givens.strut_turn_m
    return Tilting(
        tilts_deg=tuple(tilts.tolist()), lengths_m=lengths, holes=holes, holds_deg=holds, turns=turns
    )


def rounds_of(turns: Floats) -> tuple[int, float]:
    """In how many rounds the jacks of a table are turned, and how far the farthest goes in each.

    So many turns at once and no more, one jack after the other, or the frame twists.
    """
    most = float(np.abs(turns).max(initial=0.0))
    rounds = max(1, math.ceil(most / constant("common", "jack_round_turns").value - 1e-9))
    return rounds, most / rounds


def tilting_answers(found: Tilting | None, givens: StructureGivens) -> tuple[Answer, ...]:
    """From the flattest to the steepest: shorter by how much, how many turns, in how many rounds."""
    if found is None:
        return ()
    low, high = found.tilts_deg[0], found.tilts_deg[-1]
    shorter = found.lengths_m[0] - found.lengths_m[-1]
    answers = [
        Answer(
            "frame",
            "strut_shorter",
            f"Struts get shorter from {low:g}° to {high:g}° by",
            Working(
                "dL",
                "",
                (
                    Input("L_0", "the longest, flattest", float(found.lengths_m[0].max()), "tape"),
                    Input("L_1", "the shortest, steepest", float(found.lengths_m[-1].min()), "tape"),
                ),
                float(np.abs(shorter).max()),
                "tape",
                GEOMETRY,
                "Each post's own length at each tilt stands in the list: on uneven ground they differ. "
                "Two people, no wind, a hand on the table until its bolts are in; half an hour for a "
                "small array. Checked with a square at the beam and a level along the row.",
            ),
            True,
        )
    ]
    if found.turns is not None and found.turns.size:
        each = int(np.abs(found.turns).max(axis=1).argmax())
        rounds, turned = rounds_of(found.turns[each])
        answers.append(
            Answer(
                "frame",
                "jack_turns",
                f"Turns of a jack from {found.tilts_deg[each]:g}° to {found.tilts_deg[each + 1]:g}°",
                Working(
                    "n",
                    "dL / p",
                    (
                        Input("p", "one turn", givens.strut_turn_m, "thickness"),
                        Input("r", "rounds from jack to jack", float(rounds), "count"),
                        Input("n_r", "turns in each round", turned, "factor"),
                    ),
                    float(np.abs(found.turns[each]).max()),
                    "factor",
                    COMMON_PRACTICE,
                    "One jack after the other, no more than a dozen turns or so each, and round again: "
                    "the frame does not twist. Handles are locked against winding back in gusts.",
                ),
                True,
            )
        )
    return tuple(answers)


def tilting_checks(found: Tilting | None, givens: StructureGivens) -> tuple[Check, ...]:
    """Whether struts that are alike suit every post, and holes come near enough to the tilts."""
    if found is None or not givens.strut_travel_m:
        return ()
    reaches = at_least(
        "frame",
        "strut_range",
        "Struts that come alike suit every post at every tilt",
        givens.strut_travel_m,
        found.range_m,
        "tape",
        remedy="Struts that are set over more, or ordered for high and for low posts apart.",
        source=GEOMETRY,
        given="structure.strut_travel_m",
    )
    if found.holds_deg is None:
        return (reaches,)
    off = found.worst_off_deg
    return (
        reaches,
        within(
            "frame",
            "tilt_holes",
            "Holes come near enough to every tilt",
            off if math.isfinite(off) else 90.0,
            constant("common", "tilt_off_deg"),
            "angle",
            most=True,
            remedy="Holes nearer to each other, a slot beside them, a jack, or tilts that the holes "
            "give: the list says which.",
            given="structure.strut_hole_m",
            otherwise="look",
        ),
    )
