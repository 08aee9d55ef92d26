"""Structures and footings as they are asked for: families side by side, and one support."""

import uuid
from datetime import UTC, datetime
from typing import Annotated

from fastapi import APIRouter, Query, Request, Response

from openfurrow.core.design import Design
from openfurrow.core.footings.met import Met
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem
from openfurrow.exchange.package import file_stem
from openfurrow.exchange.papers.content import Issue
from openfurrow.exchange.papers.write import Paper, Setting, write_calculation, write_template
from openfurrow.jobs.apart import apart
from openfurrow.sheets.choosing import choosing_sheet
from openfurrow.sheets.families import families_sheet
from openfurrow.sheets.models import AskedSheet
from openfurrow.sheets.odds import odds_sheet
from openfurrow.sheets.one_footing import one_footing_sheet
from openfurrow.sheets.refusal import refusal_sheet
from openfurrow.sheets.support import nearest, support_sheet
from openfurrow.store.drafts import OpenDraft
from openfurrow.web.asked import Asked, answered
from openfurrow.web.changing import draft_of
from openfurrow.web.context import Asking, Gone, planned
from openfurrow.web.ground import Place, depth_typed, lean_typed, place_typed, support_numbered
from openfurrow.web.models import ArrayId, Units

SupportNumber = Annotated[int, Query(ge=1, le=1_000_000)]
router = APIRouter(prefix="/api/jobs/{job_id}", tags=["structure"])


@router.get("/footings/families", response_model=AskedSheet)
def show_footings(
    job_id: uuid.UUID, caller: Asking, request: Request, units: Units, array: ArrayId = ""
) -> Response:
    """An array on every family of footing, what each comes to, and which is advised."""
    return answered(caller, request, job_id, Asked("footings", units, array), choosing_sheet)


@router.get("/footings/stopped", response_model=AskedSheet)
def show_stopped(
    job_id: uuid.UUID,
    caller: Asking,
    request: Request,
    units: Units,
    support: SupportNumber,
    reached: Annotated[str, Query(max_length=40)],
    leans: Annotated[str, Query(max_length=40)] = "",
    water: Annotated[str, Query(max_length=40)] = "",
    array: ArrayId = "",
) -> Response:
    """A support, by its number in the stakes, that reached so deep: every way on with its number.

    It may lean, and water may stand so deep below the ground in its hole.
    """
    reached_m = depth_typed(reached, "reached", "Depth reached", units)
    met = Met(
        lean_deg=lean_typed(leans, "leans", "Leans by", units) if leans.strip() else 0.0,
        water_m=depth_typed(water, "water", "Water at", units) if water.strip() else None,
    )

    def sheet(design: Design, plan: Plan, shown: UnitSystem) -> AskedSheet:
        return refusal_sheet(design, plan, shown, _numbered(plan, support), reached_m, met)

    asked = Asked("stopped", units, array, (support, reached_m, met.lean_deg, met.water_m))
    return answered(caller, request, job_id, asked, sheet)


@router.get("/footings/support", response_model=AskedSheet)
def show_footing(
    job_id: uuid.UUID,
    caller: Asking,
    request: Request,
    units: Units,
    support: SupportNumber | None = None,
    at: Place = "",
    array: ArrayId = "",
) -> Response:
    """What holds a support, by its number in the stakes, or the nearest to a place where none is said:
    it in its layers, and what each holds.
    """
    place = None if support else place_typed(at, "at", "Support at", units)

    def sheet(design: Design, plan: Plan, shown: UnitSystem) -> AskedSheet:
        index = (
            nearest(plan, place) if place and plan.has("structure") else _numbered(plan, support or 1)
        )
        return one_footing_sheet(design, plan, shown, index)

    return answered(caller, request, job_id, Asked("footing", units, array, (support, place)), sheet)


@router.get("/footings/calculation.pdf", response_class=Response)
def show_calculation(
    job_id: uuid.UUID,
    caller: Asking,
    gone: Gone,
    support: SupportNumber,
    array: ArrayId = "",
    paper: Paper = "letter",
    units: Units | None = None,
) -> Response:
    """The calculation of a support of the draft as it stands, to be followed line by line, as PDF."""
    draft = draft_of(caller, job_id)
    setting = Setting(paper, units or draft.design.site.display_units)
    content = apart(_calculation, draft.design, array, support, _issue(draft), setting, left=gone)
    return _pdf(content, f"{file_stem(draft.design)}-support-{support}.pdf")


@router.get("/trench/template.pdf", response_class=Response)
def show_template(
    job_id: uuid.UUID,
    caller: Asking,
    gone: Gone,
    array: ArrayId = "",
    paper: Paper = "letter",
    units: Units | None = None,
) -> Response:
    """Where the draft's wall is drilled, at full size, as PDF: sheets to be held against both faces."""
    draft = draft_of(caller, job_id)
    setting = Setting(paper, units or draft.design.site.display_units)
    content = apart(_template, draft.design, array, _issue(draft), setting, left=gone)
    return _pdf(content, f"{file_stem(draft.design)}-wall.pdf")


def _issue(draft: OpenDraft) -> Issue:
    return Issue(
        revision=draft.stand.base,
        saved=draft.present.made_at,
        issued=False,
        made=datetime.now(UTC),
        draft=True,
    )


def _pdf(content: bytes, name: str) -> Response:
    named = f'attachment; filename="{name}"'
    return Response(content, media_type="application/pdf", headers={"Content-Disposition": named})


def _of_array(design: Design, array: str) -> Plan:
    plan = planned(design)
    return plan.on(array) if array in {one.id for one in plan.arrays} else plan


def _calculation(design: Design, array: str, support: int, issue: Issue, setting: Setting) -> bytes:
    plan = _of_array(design, array)
    return write_calculation(design, plan, _numbered(plan, support), issue, setting)


def _template(design: Design, array: str, issue: Issue, setting: Setting) -> bytes:
    return write_template(design, _of_array(design, array), issue, setting)


def _numbered(plan: Plan, support: int) -> int:
    """The index of a support by its number; where nothing stands yet, what lacks is told later."""
    return support_numbered(
        support, plan.structure.supports.count if plan.has("structure") else support
    )


@router.get("/footings/odds", response_model=AskedSheet)
def show_odds(
    job_id: uuid.UUID, caller: Asking, request: Request, units: Units, array: ArrayId = ""
) -> Response:
    """What may go wrong with the footings of an array, by seeded trials."""
    return answered(caller, request, job_id, Asked("odds", units, array), odds_sheet)


@router.get("/structure/families", response_model=AskedSheet)
def show_families(
    job_id: uuid.UUID, caller: Asking, request: Request, units: Units, array: ArrayId = ""
) -> Response:
    """An array on every family of structure, each as it would stand on this ground."""
    return answered(caller, request, job_id, Asked("families", units, array), families_sheet)


@router.get("/structure/support", response_model=AskedSheet)
def show_support(
    job_id: uuid.UUID,
    caller: Asking,
    request: Request,
    units: Units,
    at: Place,
    array: ArrayId = "",
) -> Response:
    """The support of an array that stands nearest to a place, and what it asks for case by case."""
    place = place_typed(at, "at", "Support at", units)

    def sheet(design: Design, plan: Plan, shown: UnitSystem) -> AskedSheet:
        return support_sheet(design, plan, shown, place)

    return answered(caller, request, job_id, Asked("support", units, array, (place,)), sheet)
