"""Views of a job: the open draft, planned and written for one stage's screen."""

from typing import Any

from fastapi import Response
from pydantic import BaseModel

from openfurrow.core.checks import Level
from openfurrow.core.design import Design
from openfurrow.core.plan import ArrayPlan, Plan
from openfurrow.core.quantities import UnitSystem, format_value, in_words
from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.unsaid import KEY as UNSAID
from openfurrow.sheets.drawings.cut import cut
from openfurrow.sheets.write import answer_text, job_sheet, stage_sheet
from openfurrow.store.drafts import OpenDraft
from openfurrow.web.context import computing, planned
from openfurrow.web.models import ArrayView, DraftView, JobSummary, JobView, MovedView, Stage, StepView

SHOWN_STEPS = 60
# Of each stage the first of these that it answers.
LIST_HEADLINES = (("rows", "pitch"), ("footings", "depth", "all_weight"), ("trench", "length"))


def as_json(view: BaseModel) -> Response:
    """A view that is valid by how it was made is written once and not checked again."""
    return Response(view.model_dump_json(), media_type="application/json")


def moved_answers(before: Plan, after: Plan, units: UnitSystem) -> tuple[MovedView, ...]:
    """Answers that read differently now; one that appears or goes counts as moved."""
    old = {(a.array, a.stage, a.key): a for a in before.answers}
    moved = []
    for answer in after.answers:
        was = old.pop((answer.array, answer.stage, answer.key), None)
        then = format_value(was.value, was.kind, units) if was else "none"
        now = format_value(answer.value, answer.kind, units)
        if then != now:
            moved.append(
                MovedView(
                    array=answer.array,
                    stage=answer.stage,
                    key=answer.key,
                    label=in_words(answer.label, units),
                    before=then,
                    after=now,
                )
            )
    moved += [
        MovedView(
            array=a.array,
            stage=a.stage,
            key=a.key,
            label=in_words(a.label, units),
            before=format_value(a.value, a.kind, units),
            after="none",
        )
        for a in old.values()
    ]
    return tuple(moved)


def _place(site: SiteGivens) -> str:
    """Where a job is, once somebody has said so."""
    if site.latitude_deg is None or site.longitude_deg is None:
        return ""
    north, east = site.latitude_deg, site.longitude_deg
    sides = "N" if north >= 0 else "S", "E" if east >= 0 else "W"
    return f"{abs(north):.2f}° {sides[0]}, {abs(east):.2f}° {sides[1]}"


def _modules(array: ArrayPlan) -> int | None:
    """How many modules an array has, once its tables are laid out."""
    return array.rows.module_count if "rows" in array.made else None


def summary_of(design: Design) -> dict[str, Any]:
    """What the list shows of a design's plan, as it is kept beside a revision."""
    plan = planned(design)
    units = design.site.display_units
    # What lacks is counted once, not once for every stage that waits for it.
    levels: list[Level] = [check.level for check in plan.checks if check.key != UNSAID]
    counts = [_modules(array) or 0 for array in plan.arrays]
    watts = sum(
        count * array.modules.power_w for count, array in zip(counts, design.arrays, strict=True)
    )
    with computing():
        drawing = cut(plan).drawing
    return JobSummary(
        modules=sum(counts),
        power=format_value(watts, "power", units),
        missing=len(plan.missing),
        place=_place(design.site),
        stops=levels.count("stop"),
        looks=levels.count("look"),
        headlines=tuple(
            answer_text(answer, units)
            for stage, *keys in LIST_HEADLINES
            if plan.has(stage)
            for answer in [one for one in plan.shown(stage)[0] if one.key in keys][:1]
        ),
        cut=drawing,
    ).model_dump(mode="json")


def job_view(
    draft: OpenDraft,
    stage: Stage,
    units: UnitSystem | None,
    before: Design | None = None,
    array: str = "",
) -> JobView:
    """The whole screen, on an array or, where that is gone, on the first.

    ``before`` is the design the answers are compared with.
    """
    design = draft.design
    shown = units or design.site.display_units
    plan = planned(design, draft.records)
    if array in {one.id for one in design.arrays}:
        plan = plan.on(array)
    moved = moved_answers(planned(before, draft.records), plan, shown) if before else ()
    with computing():
        sheets = job_sheet(design, plan, shown), stage_sheet(stage, design, plan, shown)
    return JobView(
        id=draft.job_id,
        name=design.name,
        role=draft.role,
        units=shown,
        display_units=design.site.display_units,
        draft=DraftView(
            base=draft.stand.base,
            head=draft.head,
            head_author=draft.head_author,
            changed=draft.changed,
            position=draft.stand.position,
            steps=tuple(
                StepView(number=s.number, made_at=s.made_at, label=s.label)
                for s in draft.steps[-SHOWN_STEPS:]
            ),
        ),
        arrays=tuple(
            ArrayView(id=one.id, name=one.name, modules=_modules(one), standing=one.standing)
            for one in plan.arrays
        ),
        array=plan.array.id,
        sheet=sheets[0],
        stage=sheets[1],
        moved=moved,
    )
