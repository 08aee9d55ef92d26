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
from openfurrow.core.structures.givens import FamilyName, StructureGivens
from openfurrow.core.structures.members import Members
from openfurrow.core.structures.one_post_line import answers, family, rules
from openfurrow.core.structures.one_post_line.all_members import worst_members
from openfurrow.core.structures.stand import Stand, stand
from openfurrow.core.structures.supports import Reactions
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
        stack_m=family.stack_m,
        stand=stand,
        weigh_kg_per_m2=family.weigh_kg_per_m2,
        carry=family.carry,
        worst=worst_members,
        answers=answers.answers,
        checks=rules.checks,
    ),
}
