"""What would stop the job: each rule's outcome, measured against its limit, and what to do."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from openfurrow.core.codes import Constant
from openfurrow.core.working import Source

Level = Literal["sound", "look", "stop"]
LEVELS: tuple[Level, ...] = ("stop", "look", "sound")
# What was built is mended on site: no field of the design does it.
MENDED_THERE = ""


@dataclass(frozen=True)
class Mend:
    """A change that would clear a check: ``edits`` are fields by their paths and what to put in them.

    Texts bear their own unit, so that they read alike in either system.
    """

    words: str
    edits: tuple[tuple[str, str], ...]


@dataclass(frozen=True)
class Check:
    """One rule applied.

    ``relation`` reads *measured relation limit* for the sound outcome. ``given`` is the path of the
    field that most directly mends it, or MENDED_THERE; ``mends`` are changes that can be made at
    once; ``array`` is whose it is, empty for the job.
    """

    stage: str
    key: str
    title: str
    level: Level
    measured: float | str
    relation: Literal["<=", ">=", "is"]
    limit: float | str
    kind: str
    remedy: str
    source: Source
    given: str
    mends: tuple[Mend, ...] = ()
    array: str = ""


def mended_by(check: Check, *mends: Mend) -> Check:
    """The check with what would clear it; one that is sound needs nothing."""
    return check if check.level == "sound" else replace(check, mends=mends)


def told_remedy(check: Check) -> str:
    """What to do, the changes that can be made at once among it."""
    ways = ". Or: ".join(mend.words[:1].lower() + mend.words[1:] for mend in check.mends)
    return f"{check.remedy} At once: {ways}." if ways else check.remedy


def in_metres(length_m: float) -> str:
    """A length as an edit, to a tenth of a millimetre."""
    return f"{length_m:.4f} m"


def at_most(
    stage: str,
    key: str,
    title: str,
    measured: float,
    limit: float,
    kind: str,
    *,
    remedy: str,
    source: Source,
    given: str,
    otherwise: Level = "stop",
) -> Check:
    """A check that is sound while ``measured`` does not exceed ``limit``."""
    level: Level = "sound" if measured <= limit * (1 + 1e-9) + 1e-12 else otherwise
    return Check(stage, key, title, level, measured, "<=", limit, kind, remedy, source, given)


def at_least(
    stage: str,
    key: str,
    title: str,
    measured: float,
    limit: float,
    kind: str,
    *,
    remedy: str,
    source: Source,
    given: str,
    otherwise: Level = "stop",
) -> Check:
    """A check that is sound while ``measured`` does not fall short of ``limit``."""
    level: Level = "sound" if measured >= limit * (1 - 1e-9) - 1e-12 else otherwise
    return Check(stage, key, title, level, measured, ">=", limit, kind, remedy, source, given)


def within(
    stage: str,
    key: str,
    title: str,
    measured: float,
    limit: Constant,
    kind: str,
    *,
    most: bool,
    remedy: str,
    given: str,
    otherwise: Level = "stop",
) -> Check:
    """A check against a limit that is data with its own source; ``most`` False asks for at least."""
    compare = at_most if most else at_least
    return compare(
        stage,
        key,
        title,
        measured,
        limit.value,
        kind,
        remedy=remedy,
        source=limit.source,
        given=given,
        otherwise=otherwise,
    )


def holds(
    stage: str,
    key: str,
    title: str,
    condition: bool,
    measured: str,
    wanted: str,
    *,
    remedy: str,
    source: Source,
    given: str,
    otherwise: Level = "stop",
) -> Check:
    """A check on something that is said rather than measured."""
    level: Level = "sound" if condition else otherwise
    return Check(stage, key, title, level, measured, "is", wanted, "factor", remedy, source, given)


def _room(check: Check) -> float:
    """How far what was measured keeps from its limit, in limits; of words nothing is known."""
    if isinstance(check.measured, str) or isinstance(check.limit, str):
        return 0.0
    over = check.measured - check.limit
    room = -over if check.relation == "<=" else over
    return room / max(abs(check.limit), 1e-12)


def worst_of(cases: Sequence[tuple[str, tuple[Check, ...]]]) -> tuple[Check, ...]:
    """The same rules applied in several cases: of each the worst outcome, with its case's name.

    A rule that comes out alike in all cases names none.
    """
    if len(cases) == 1:
        return cases[0][1]
    of_key: dict[str, list[tuple[str, Check]]] = {}
    for name, checks in cases:
        for check in checks:
            of_key.setdefault(check.key, []).append((name, check))
    found = []
    for told in of_key.values():
        name, worst = min(told, key=lambda one: (LEVELS.index(one[1].level), _room(one[1])))
        alike = len(told) == len(cases) and all(
            (one.level, one.measured, one.limit) == (worst.level, worst.measured, worst.limit)
            for _, one in told
        )
        found.append(worst if alike else replace(worst, title=f"{worst.title}, {name}"))
    return tuple(found)


def worst_first(checks: tuple[Check, ...]) -> tuple[Check, ...]:
    """Checks ordered by how much they matter; ties keep the order of the job."""
    return tuple(sorted(checks, key=lambda check: LEVELS.index(check.level)))
