"""What stands on each sheet of the set: words in the reader's units, and drawings to be set as SVG."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import datetime
from typing import TypeVar

from openfurrow.core.design import ARRAY_STAGES, BUILT_STAGES, Design
from openfurrow.core.fields import array_labels
from openfurrow.core.labels import label_of
from openfurrow.core.looked import not_looked
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, in_words
from openfurrow.sheets.cautions import cautions
from openfurrow.sheets.drawings.cut import cut
from openfurrow.sheets.marks import Drawing
from openfurrow.sheets.models import AnswerText, CheckText, StageSheet, TableText
from openfurrow.sheets.write import job_sheet, stage_sheet

# Which stages have a sheet, in the order that an inspector leafs through them.
SHEETS = (
    "site",
    "rows",
    "structure",
    "footings",
    "frame",
    "modules",
    "trench",
    "wiring",
    "stakeout",
    "materials",
    "schedule",
    "fieldbook",
    "handover",
)
TITLES = {
    "site": "Site plan",
    "rows": "Rows",
    "structure": "Structure",
    "footings": "Footings",
    "frame": "Frame",
    "modules": "Modules",
    "trench": "Trench",
    "wiring": "Wiring",
    "stakeout": "Stakes",
    "materials": "Materials",
    "schedule": "Days of work",
    "fieldbook": "As built",
    "handover": "Hand-over",
}
# What of a stage is worked out line by line, so that it can be followed with a pencil.
WORKED = ("structure", "footings")
# Stages that are the job's own, but whose screens show the array that is open.
OF_EACH = (*ARRAY_STAGES, "trench", "wiring", "stakeout", "materials")
T = TypeVar("T")
# So many values of practice are named on the cover sheet; the rest are counted.
MOST_NAMED = 40


@dataclass(frozen=True, kw_only=True)
class Issue:
    """Which revision the papers are of, and when they were made; ``issued``: it is built from.

    ``draft``: they are of what somebody is still at work on, begun from that revision.
    """

    revision: int
    saved: datetime
    issued: bool
    made: datetime
    draft: bool = False

    @property
    def words(self) -> str:
        """As it stands on every sheet."""
        if self.draft:
            return f"draft on revision {self.revision}, as of {self.saved:%Y-%m-%d %H:%M} UTC"
        state = "issued" if self.issued else "not issued"
        return f"revision {self.revision}, {state}, saved {self.saved:%Y-%m-%d %H:%M} UTC"


@dataclass(frozen=True, kw_only=True)
class Page:
    """One subject of the set: it may run over several sheets of paper.

    ``workings`` are numbers that are followed line by line. ``drawn_high`` is the share of a sheet's
    height that a drawing may take.
    """

    title: str
    caution: str = ""
    drawings: tuple[Drawing, ...] = ()
    answers: tuple[AnswerText, ...] = ()
    checks: tuple[CheckText, ...] = ()
    tables: tuple[TableText, ...] = ()
    workings: tuple[AnswerText, ...] = ()
    lines: tuple[str, ...] = ()
    drawn_high: float = 1.0


def pages(design: Design, plan: Plan, units: UnitSystem) -> Iterator[Page]:
    """The cover first, then sheet by sheet what was planned, then what was built."""
    yield _cover(design, plan, units)
    labels = array_labels(design.arrays)
    for stage in SHEETS:
        if stage in BUILT_STAGES:
            if stage in plan.built:
                yield _of_stage(stage_sheet(stage, design, plan, units), TITLES[stage])
            continue
        shown = _Shown()
        for one in plan.each() if stage in OF_EACH else (plan,):
            if not one.has(stage):
                continue
            of = f", {labels[one.array.id]}" if stage in OF_EACH and plan.several else ""
            whole = _of_stage(stage_sheet(stage, design, one, units), f"{TITLES[stage]}{of}")
            # What is an array's own stands on its sheet, even where another looks just like it.
            page = whole if stage in ARRAY_STAGES else shown.rest_of(whole)
            if page is None:
                continue
            yield page
            if stage in WORKED:
                yield Page(
                    title=f"{TITLES[stage]}{of}: worked out line by line",
                    workings=tuple(a for a in page.answers if a.working.formula or a.working.note),
                )


class _Shown:
    """What stands on the sheets of a stage already: what all arrays share is shown once."""

    def __init__(self) -> None:
        self._seen: list[object] = []

    def _new(self, items: tuple[T, ...]) -> tuple[T, ...]:
        fresh = tuple(item for item in items if item not in self._seen)
        self._seen += fresh
        return fresh

    def rest_of(self, page: Page) -> Page | None:
        """The page with what is not shown yet; None where that is nothing."""
        rest = replace(
            page,
            drawings=self._new(page.drawings),
            answers=self._new(page.answers),
            checks=self._new(page.checks),
            tables=self._new(page.tables),
        )
        new = rest.drawings or rest.answers or rest.checks or rest.tables
        return rest if new else None


def _of_stage(sheet: StageSheet, title: str) -> Page:
    return Page(
        title=title,
        caution=sheet.caution,
        drawings=sheet.drawings,
        answers=sheet.answers,
        checks=sheet.checks,
        tables=sheet.tables,
    )


def _cover(design: Design, plan: Plan, units: UnitSystem) -> Page:
    """The job from the side, its main numbers, its cautions, and what is not sound or not known."""
    sheet = job_sheet(design, plan, units)
    practice = [label_of(path) for path in not_looked(design)]
    more = len(practice) - MOST_NAMED
    lines = [
        f"{stage.capitalize()}: {in_words(words, units)}" for stage, words in cautions(plan).items()
    ]
    if practice:
        named = ", ".join(dict.fromkeys(practice[:MOST_NAMED]))
        lines.append(
            f"Values of practice that nobody has looked at ({len(practice)}): {named}"
            + (f" and {more} more." if more > 0 else ".")
        )
    headlines = tuple(
        answer
        for stage in SHEETS
        if plan.has(stage)
        for answer in stage_sheet(stage, design, plan, units).answers
        if answer.headline and stage in ("rows", "footings", "trench", "wiring", "schedule")
    )
    return Page(
        title="The job",
        drawings=(cut(plan).drawing,),
        answers=headlines,
        checks=sheet.stops,
        lines=tuple(lines),
    )
