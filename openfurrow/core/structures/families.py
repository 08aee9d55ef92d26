"""The families of structure: each a small set of plain functions, known by the name in the givens."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.one_post_line import answers, family, rules, stand
from openfurrow.core.structures.one_post_line.members import Members
from openfurrow.core.structures.one_post_line.stand import Stand
from openfurrow.core.structures.supports import Reactions
from openfurrow.core.working import Answer


@dataclass(frozen=True, kw_only=True)
class Family:
    """What the plan asks of a structure, in this order.

    ``stack_m`` the depth that its steel adds under the glass, ``stand`` where its supports stand,
    ``weigh_kg_per_m2`` what they carry under each size of table, ``carry`` its members and reactions,
    then what it says.
    """

    stack_m: Callable[[StructureGivens, float], float]
    stand: Callable[[SitePlan, RowsPlan, StructureGivens, float], Stand]
    weigh_kg_per_m2: Callable[[Stand, RowsPlan, StructureGivens, float], NDArray[np.float64]]
    carry: Callable[[SitePlan, RowsPlan, Stand, TableLoads, StructureGivens], tuple[Members, Reactions]]
    answers: Callable[
        [Stand, TableLoads, Reactions, Members, RowsPlan, StructureGivens], tuple[Answer, ...]
    ]
    checks: Callable[[Stand, TableLoads, Members, TableSection, StructureGivens], tuple[Check, ...]]


FAMILIES = {
    "one post line": Family(
        stack_m=family.stack_m,
        stand=stand.stand,
        weigh_kg_per_m2=family.weigh_kg_per_m2,
        carry=family.carry,
        answers=answers.answers,
        checks=rules.checks,
    ),
}
