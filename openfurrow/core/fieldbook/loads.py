"""What was counted onto a truck or off it: part by part, and what stops where one is missing."""

from dataclasses import dataclass, replace
from typing import Literal

from openfurrow.core.checks import MENDED_THERE, Check, holds
from openfurrow.core.fieldbook.places import Known, named
from openfurrow.core.fieldbook.records import Record
from openfurrow.core.hauling.loads import Carried, Load
from openfurrow.core.materials.lines import MaterialLine
from openfurrow.core.planned import Plan
from openfurrow.core.quantities import spoken
from openfurrow.core.working import COMMON_PRACTICE

# Quantities are added up in floats.
HAIR = 1e-9
LoadVerdict = Literal["not yet", "there", "short", "changed"]


@dataclass(frozen=True, kw_only=True)
class Counted:
    """A part on its load, and what was said of it last.

    ``of_other``: that was of another number of the same part, so that it has to be counted again.
    ``covered``: all that is missing of its line, on every load, is no more than is spare of it.
    """

    load: Load
    carried: Carried
    last: Record | None = None
    of_other: bool = False
    covered: bool = True

    @property
    def missing(self) -> float:
        """How much of it is not there, as far as anybody said; of what is not counted all of it.

        What was missing of another number is missing until it is counted again.
        """
        if self.last is None or self.last.kind != "short":
            return 0.0
        whole = self.carried.quantity
        return min(self.last.value, whole) if self.carried.part.line.kind == "count" else whole

    @property
    def verdict(self) -> LoadVerdict:
        """What may be said of it."""
        if self.last is None:
            return "not yet"
        if self.of_other:
            return "changed"
        return "there" if self.last.kind == "loaded" else "short"


def _part(of: str) -> str:
    """What a part is known by whatever its number: ``part:post~1a2b3c4d/1:10`` without the 10."""
    return of.rpartition(":")[0]


def counted_of(plan: Plan, known: Known, loose: list[Record]) -> tuple[Counted, ...]:
    """Every part of every load with what was said of it; what was said of no part of them is loose."""
    said = {of: those[-1] for (of, about), those in known.items() if about == "load"}
    if not plan.has("schedule"):
        loose += said.values()
        return ()
    # Of several numbers of one part the newest word.
    by_part: dict[str, Record] = {}
    for of, record in sorted(said.items(), key=lambda one: (one[1].at, one[1].id)):
        by_part[_part(of)] = record
    found = []
    for load in plan.hauling.loads:
        for carried in load.carried:
            exact, other = said.get(carried.of), by_part.get(_part(carried.of))
            last = exact or other
            found.append(
                Counted(
                    load=load,
                    carried=carried,
                    last=last,
                    of_other=last is not None and exact is None,
                )
            )
    here = {_part(one.carried.of) for one in found}
    loose += [record for of, record in said.items() if _part(of) not in here]
    missing: dict[str, float] = {}
    for one in found:
        key = one.carried.part.line.key
        missing[key] = missing.get(key, 0.0) + one.missing

    def covered(line: MaterialLine) -> bool:
        return missing[line.key] <= line.quantity - line.net + HAIR

    return tuple(replace(one, covered=covered(one.carried.part.line)) for one in found)


def load_checks(counted: tuple[Counted, ...]) -> tuple[Check, ...]:
    """Nothing is said before anything was counted."""
    if not any(one.last for one in counted):
        return ()
    short = sorted(
        (one for one in counted if one.missing), key=lambda one: -one.carried.part.stops.hours
    )
    wanted = [one for one in short if not one.covered]
    again = [one for one in counted if one.verdict == "changed"]
    return (
        holds(
            "fieldbook",
            "parts",
            "No part is missing that work waits for",
            not wanted,
            _told(wanted)
            if wanted
            else f"{len(short)} short, within what is spare"
            if short
            else "none",
            "none beyond what is spare",
            remedy="Fetch it before the work that begins with it: the worst is named first.",
            source=COMMON_PRACTICE,
            given=MENDED_THERE,
        ),
        holds(
            "fieldbook",
            "parts-counted",
            "What was counted is what is planned now",
            not again,
            f"counted before the plan was changed: {named(one.carried.part.line.item for one in again)}"
            if again
            else "all of it",
            "all of it",
            remedy="Count these again: the plan takes another number of them now.",
            source=COMMON_PRACTICE,
            given=MENDED_THERE,
            otherwise="look",
        ),
    )


def _told(short: list[Counted]) -> str:
    """What is missing, and what it stops, the worst first."""
    return named(
        f"{spoken(one.missing, one.carried.part.line.kind)} of {one.carried.part.line.item}, "
        f"stops {one.carried.part.stops.tasks} of {one.carried.part.stops.of} tasks"
        for one in short
    )
