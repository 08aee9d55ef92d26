"""Stages know nothing of arrays: here it is said whose their answers and checks are."""

from collections.abc import Iterable
from dataclasses import replace
from typing import TypeVar

from openfurrow.core.checks import Check, Mend
from openfurrow.core.paths import stamped
from openfurrow.core.planned import StagePlan, Told
from openfurrow.core.stakeout.plan import SettingOut
from openfurrow.core.trench.runs import Run
from openfurrow.core.wiring.plan import ArrayWiring
from openfurrow.core.working import Answer

# An array's part of a stage that is the job's.
Part = ArrayWiring | Run | SettingOut
T = TypeVar("T", bound=StagePlan | Part)


def stamped_stage(stage: T, array: str, *, own: bool) -> T:
    """A stage that says whose its answers and checks are, and which array's givens mend them.

    Stages know nothing of arrays. ``own``: it is the array's; else the job's, which speaks of it.
    What says already whose it is keeps that.
    """
    whose = array if own else ""

    def mended(mend: Mend, of: str) -> Mend:
        return replace(mend, edits=tuple((stamped(path, of), text) for path, text in mend.edits))

    return replace(
        stage,
        answers=tuple(replace(answer, array=answer.array or whose) for answer in stage.answers),
        checks=tuple(
            replace(
                check,
                array=check.array or whose,
                given=stamped(check.given, check.array or array),
                mends=tuple(mended(mend, check.array or array) for mend in check.mends),
            )
            for check in stage.checks
        ),
    )


def answers_of(parts: Iterable[Told]) -> tuple[Answer, ...]:
    """Those of several parts, one after the other."""
    return tuple(answer for part in parts for answer in part.answers)


def checks_of(parts: Iterable[Told]) -> tuple[Check, ...]:
    """Those of several parts, one after the other."""
    return tuple(check for part in parts for check in part.checks)
