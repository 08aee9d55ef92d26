"""Views of a job: the open draft, planned and written for one stage's screen."""

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.write import job_sheet, stage_sheet
from openfurrow.store.drafts import OpenDraft
from openfurrow.web.context import planned
from openfurrow.web.models import DraftView, JobView, MovedView, Stage, StepView

SHOWN_STEPS = 60


def moved_answers(before: Plan, after: Plan, units: UnitSystem) -> tuple[MovedView, ...]:
    """Answers that read differently now; one that appears or goes counts as moved."""
    old = {(a.stage, a.key): a for a in before.answers}
    moved = []
    for answer in after.answers:
        was = old.pop((answer.stage, answer.key), None)
        then = format_value(was.value, was.kind, units) if was else "none"
        now = format_value(answer.value, answer.kind, units)
        if then != now:
            moved.append(MovedView(stage=answer.stage, key=answer.key, label=answer.label,
                                   before=then, after=now))
    moved += [
        MovedView(stage=a.stage, key=a.key, label=a.label,
                  before=format_value(a.value, a.kind, units), after="none")
        for a in old.values()
    ]
    return tuple(moved)


def job_view(
    draft: OpenDraft, stage: Stage, units: UnitSystem | None, before: Design | None = None
) -> JobView:
    """The whole screen; ``before`` is the design the answers are compared with."""
    design = draft.design
    shown = units or design.site.display_units
    plan = planned(design)
    moved = moved_answers(planned(before), plan, shown) if before else ()
    return JobView(
        id=draft.row.job_id,
        name=design.name,
        role=draft.role,
        units=shown,
        display_units=design.site.display_units,
        draft=DraftView(
            base=draft.row.base,
            head=draft.head,
            head_author=draft.head_author,
            changed=draft.changed,
            position=draft.row.position,
            steps=tuple(
                StepView(number=s.number, made_at=s.made_at, label=s.label)
                for s in draft.steps[-SHOWN_STEPS:]
            ),
        ),
        sheet=job_sheet(plan, shown),
        stage=stage_sheet(stage, design, plan, shown),
        moved=moved,
    )
