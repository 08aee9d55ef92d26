"""Structures as they are asked for: families side by side."""

import uuid

from fastapi import APIRouter, Request, Response

from openfurrow.sheets.families import families_sheet
from openfurrow.sheets.models import AskedSheet
from openfurrow.web.asked import Asked, answered
from openfurrow.web.context import Asking
from openfurrow.web.models import ArrayId, Units

router = APIRouter(prefix="/api/jobs/{job_id}/structure", tags=["structure"])


@router.get("/families", response_model=AskedSheet)
def show_families(
    job_id: uuid.UUID, caller: Asking, request: Request, units: Units, array: ArrayId = ""
) -> Response:
    """An array on every family of structure, each as it would stand on this ground."""
    return answered(caller, request, job_id, Asked("families", units, array), families_sheet)
