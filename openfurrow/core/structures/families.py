"""The families of structure: each a small set of plain functions, known by the name in the givens."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, Generic, TypeVar

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.structures import rails
from openfurrow.core.structures.ballast_frame import answers as ballast_frame_answers
from openfurrow.core.structures.ballast_frame import family as ballast_frame
from openfurrow.core.structures.ballast_frame import rules as ballast_frame_rules
from openfurrow.core.structures.ballast_frame.members import worst_members as worst_of_frames
from openfurrow.core.structures.bents.worst import worst_members as worst_of_bents
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.members import Members
from openfurrow.core.structures.on_blocks import answers as on_blocks_answers
from openfurrow.core.structures.on_blocks import family as on_blocks
from openfurrow.core.structures.on_blocks import rules as on_blocks_rules
from openfurrow.core.structures.on_blocks.members import worst_members as worst_on_blocks
from openfurrow.core.structures.one_post_line import answers as one_line_answers
from openfurrow.core.structures.one_post_line import family as one_line
from openfurrow.core.structures.one_post_line import rules as one_line_rules
from openfurrow.core.structures.one_post_line.all_members import worst_members as worst_of_one_line
from openfurrow.core.structures.pipe_grid import answers as pipe_grid_answers
from openfurrow.core.structures.pipe_grid import family as pipe_grid
from openfurrow.core.structures.pipe_grid import rules as pipe_grid_rules
from openfurrow.core.structures.single_pole import answers as single_pole_answers
from openfurrow.core.structures.single_pole import family as single_pole
from openfurrow.core.structures.single_pole import rules as single_pole_rules
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.supports import Reactions
from openfurrow.core.structures.told import FamilyName
from openfurrow.core.structures.turning_tube import answers as turning_tube_answers
from openfurrow.core.structures.turning_tube import family as turning_tube
from openfurrow.core.structures.turning_tube import rules as turning_tube_rules
from openfurrow.core.structures.two_post_lines import answers as two_lines_answers
from openfurrow.core.structures.two_post_lines import family as two_lines
from openfurrow.core.structures.two_post_lines import rules as two_lines_rules
from openfurrow.core.structures.under_glass import stack_m, weigh_kg_per_m2
from openfurrow.core.working import Answer

M = TypeVar("M", bound=Members)


@dataclass(frozen=True, kw_only=True)
class Family(Generic[M]):
    """What the plan asks of a structure, in this order.

    ``stack_m`` the depth that its steel adds under the glass, ``stand`` where its supports stand,
    ``weigh_kg_per_m2`` what they carry under each size of table, ``carry`` its members and reactions,
    ``worst`` the members of several positions as those of one, then what it says: its answers of all
    positions at once, its checks of one.
    """

    stack_m: Callable[[StructureGivens, float], float]
    stand: Callable[[SitePlan, RowsPlan, StructureGivens, float], Stand]
    weigh_kg_per_m2: Callable[[Stand, RowsPlan, StructureGivens, float], NDArray[np.float64]]
    carry: Callable[[SitePlan, RowsPlan, Stand, TableLoads, StructureGivens], tuple[M, Reactions]]
    worst: Callable[[Sequence[M]], M]
    answers: Callable[
        [Stand, tuple[TableLoads, ...], Reactions, M, RowsPlan, StructureGivens],
        tuple[Answer, ...],
    ]
    checks: Callable[[Stand, TableLoads, M, TableSection, StructureGivens], tuple[Check, ...]]


FAMILIES: dict[FamilyName, Family[Any]] = {
    "one post line": Family(
        stack_m=stack_m,
        stand=one_line.stand,
        weigh_kg_per_m2=weigh_kg_per_m2,
        carry=one_line.carry,
        worst=worst_of_one_line,
        answers=one_line_answers.answers,
        checks=one_line_rules.checks,
    ),
    "two post lines": Family(
        stack_m=stack_m,
        stand=two_lines.stand,
        weigh_kg_per_m2=weigh_kg_per_m2,
        carry=two_lines.carry,
        worst=worst_of_bents,
        answers=two_lines_answers.answers,
        checks=two_lines_rules.checks,
    ),
    "pipe grid": Family(
        stack_m=rails.stack_m,
        stand=pipe_grid.stand,
        weigh_kg_per_m2=rails.weigh_kg_per_m2,
        carry=pipe_grid.carry,
        worst=worst_of_bents,
        answers=pipe_grid_answers.answers,
        checks=pipe_grid_rules.checks,
    ),
    "ballast frame": Family(
        stack_m=stack_m,
        stand=ballast_frame.stand,
        weigh_kg_per_m2=weigh_kg_per_m2,
        carry=ballast_frame.carry,
        worst=worst_of_frames,
        answers=ballast_frame_answers.answers,
        checks=ballast_frame_rules.checks,
    ),
    "table on blocks": Family(
        stack_m=on_blocks.stack_m,
        stand=on_blocks.stand,
        weigh_kg_per_m2=on_blocks.weigh_kg_per_m2,
        carry=on_blocks.carry,
        worst=worst_on_blocks,
        answers=on_blocks_answers.answers,
        checks=on_blocks_rules.checks,
    ),
    "single pole": Family(
        stack_m=rails.stack_m,
        stand=single_pole.stand,
        weigh_kg_per_m2=rails.weigh_kg_per_m2,
        carry=single_pole.carry,
        worst=single_pole.worst_members,
        answers=single_pole_answers.answers,
        checks=single_pole_rules.checks,
    ),
    "turning tube": Family(
        stack_m=rails.stack_m,
        stand=turning_tube.stand,
        weigh_kg_per_m2=rails.weigh_kg_per_m2,
        carry=turning_tube.carry,
        worst=turning_tube.worst_members,
        answers=turning_tube_answers.answers,
        checks=turning_tube_rules.checks,
    ),
}
