"""Structures and footings as they are asked for: families side by side, and one support."""

import uuid
from typing import Annotated

from fastapi import APIRouter, Query, Request, Response

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem
from openfurrow.sheets.choosing import choosing_sheet
from openfurrow.sheets.families import families_sheet
from openfurrow.sheets.models import AskedSheet
from openfurrow.sheets.odds import odds_sheet
from openfurrow.sheets.refusal import refusal_sheet
from openfurrow.sheets.support import support_sheet
from openfurrow.web.asked import Asked, answered
from openfurrow.web.context import Asking
from openfurrow.web.ground import Place, depth_typed, place_typed, support_numbered
from openfurrow.web.models import ArrayId, Units

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
    support: Annotated[int, Query(ge=1, le=1_000_000)],
    reached: Annotated[str, Query(max_length=40)],
    array: ArrayId = "",
) -> Response:
    """A support, by its number in the stakes, that reached so deep: every way on with its number."""
    reached_m = depth_typed(reached, "reached", "Depth reached", units)

    def sheet(design: Design, plan: Plan, shown: UnitSystem) -> AskedSheet:
        count = plan.structure.supports.count if plan.has("structure") else support
        return refusal_sheet(design, plan, shown, support_numbered(support, count), reached_m)

    asked = Asked("stopped", units, array, (support, reached_m))
    return answered(caller, request, job_id, asked, sheet)


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
