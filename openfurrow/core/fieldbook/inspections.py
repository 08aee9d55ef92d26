"""What others have to say before work goes on: asked for, passed or not, who said what and when."""

from collections.abc import Iterable
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from openfurrow.core.checks import MENDED_THERE, Check, holds
from openfurrow.core.fieldbook.places import Known, named
from openfurrow.core.fieldbook.records import MEASURES, Record
from openfurrow.core.planned import Plan
from openfurrow.core.working import COMMON_PRACTICE

InspectionState = Literal["not asked", "asked", "passed", "failed"]


@dataclass(frozen=True, kw_only=True)
class Inspection:
    """One that is held: its last word, and all that was said of it, the oldest first.

    ``holds_up`` is what waits for it.
    """

    of: str
    name: str
    holds_up: str
    last: Record | None = None
    said: tuple[Record, ...] = ()

    @property
    def state(self) -> InspectionState:
        """How it stands."""
        kind = self.last.kind if self.last else "not asked"
        assert kind in ("not asked", "asked", "passed", "failed")
        return kind


TRENCH, WHOLE, SWITCH_ON = (
    Inspection(of="inspection:trench", name="Open trench", holds_up="filling the trench"),
    Inspection(of="inspection:whole", name="The whole", holds_up="asking to switch on"),
    Inspection(of="inspection:switch-on", name="Leave to switch on", holds_up="switching on"),
)


def inspections_of(
    plan: Plan, records: Iterable[Record], known: Known, loose: list[Record]
) -> tuple[Inspection, ...]:
    """Those of this job, with what was said of each."""
    opened = plan.has("trench") and plan.trench.over is None and bool(plan.trench.dug)
    held = (*(TRENCH,) * opened, WHOLE, SWITCH_ON)
    every = sorted(
        {r.id: r for r in records if MEASURES[r.kind].about == "inspection"}.values(),
        key=lambda record: (record.at, record.id),
    )
    loose += [record for record in every if record.of not in {one.of for one in held}]
    return tuple(
        Inspection(
            of=one.of,
            name=one.name,
            holds_up=one.holds_up,
            last=next(iter(known.get((one.of, "inspection"), ())), None),
            said=tuple(record for record in every if record.of == one.of),
        )
        for one in held
    )


def inspection_checks(inspections: tuple[Inspection, ...], begun: bool) -> tuple[Check, ...]:
    """Nothing is said before anything was built or asked for."""
    if not begun:
        return ()
    failed = [one for one in inspections if one.state == "failed"]
    waits = [one for one in inspections if one.state != "passed"]
    # Who asks for a later one before an earlier passed has covered what should have been seen.
    early = [
        later
        for before, later in pairwise(inspections)
        if later.state == "passed" and before.state != "passed"
    ]
    measured = (
        f"not passed: {named(one.name for one in failed)}"
        if failed
        else f"{named(one.name for one in early)} passed before what goes before it"
        if early
        else f"not yet: {named(one.name for one in waits)}"
        if waits
        else f"all {len(inspections)}"
    )
    return (
        holds(
            "fieldbook",
            "inspections",
            "Inspections are passed",
            not waits,
            measured,
            "all, each in its turn",
            remedy="What waits for one is not begun before it is passed: "
            + "; ".join(f"{one.name.lower()} before {one.holds_up}" for one in waits)
            + ". Write down who said what.",
            source=COMMON_PRACTICE,
            given=MENDED_THERE,
            otherwise="stop" if failed or early else "look",
        ),
    )
