"""Structures as they are asked for: families side by side, and one support."""

import uuid

from fastapi import APIRouter, Request, Response

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem
from openfurrow.sheets.families import families_sheet
from openfurrow.sheets.models import AskedSheet
from openfurrow.sheets.support import support_sheet
from openfurrow.web.asked import Asked, answered
from openfurrow.web.context import Asking
from openfurrow.web.ground import Place, place_typed
from openfurrow.web.models import ArrayId, Units

router = APIRouter(prefix="/api/jobs/{job_id}/structure", tags=["structure"])


@router.get("/families", response_model=AskedSheet)
def show_families(
    job_id: uuid.UUID, caller: Asking, request: Request, units: Units, array: ArrayId = ""
) -> Response:
    """An array on every family of structure, each as it would stand on this ground."""
    return answered(caller, request, job_id, Asked("families", units, array), families_sheet)


@router.get("/support", response_model=AskedSheet)
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
