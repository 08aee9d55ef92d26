"""Changes that checks offer are tried before they are offered: one that stops something else is not."""

from collections.abc import Callable
from dataclasses import replace

from openfurrow.core.checks import LEVELS, Check, Mend
from openfurrow.core.design import Design
from openfurrow.core.edits import DesignError, apply

# Each trial is a whole plan: so many at most.
MOST_TRIALS = 6
Name = tuple[str, str, str]


def with_mends_that_hold(
    design: Design, checks: tuple[Check, ...], checks_of: Callable[[Design], tuple[Check, ...]]
) -> tuple[Check, ...]:
    """The checks with those mends alone that better them and stop nothing that was not stopped.

    ``checks_of`` are the checks of another design, with whatever mends.
    """
    stopped = _stopped(checks)
    after: dict[tuple[tuple[str, str], ...], dict[Name, Check] | None] = {}

    def holds(check: Check, mend: Mend) -> bool:
        if mend.edits not in after:
            if len(after) == MOST_TRIALS:
                return False
            after[mend.edits] = _tried(design, mend, checks_of)
        found = after[mend.edits]
        if found is None or _stopped(tuple(found.values())) - stopped:
            return False
        now = found.get(_name(check))
        return now is None or LEVELS.index(now.level) > LEVELS.index(check.level)

    return tuple(
        replace(check, mends=tuple(mend for mend in check.mends if holds(check, mend)))
        if check.mends
        else check
        for check in checks
    )


def _name(check: Check) -> Name:
    return check.array, check.stage, check.key


def _tried(
    design: Design, mend: Mend, checks_of: Callable[[Design], tuple[Check, ...]]
) -> dict[Name, Check] | None:
    try:
        changed = apply(design, mend.edits, design.site.display_units)
    except DesignError:
        return None
    return {_name(check): check for check in checks_of(changed)}


def _stopped(checks: tuple[Check, ...]) -> set[Name]:
    return {_name(check) for check in checks if check.level == "stop"}
