"""Prices and profiles that are brought by file."""

import uuid

from fastapi import APIRouter, Response

from openfurrow.exchange.prices_csv import with_prices
from openfurrow.exchange.profiles_csv import with_profiles
from openfurrow.web.context import FILE_BODY, Asking, Gone, MerchantBody
from openfurrow.web.models import JobView, Units
from openfurrow.web.taken import FileName, file_taken

router = APIRouter(prefix="/api/jobs/{job_id}/materials", tags=["materials"])


@router.put("/prices", response_model=JobView, openapi_extra=FILE_BODY)
def take_prices(
    job_id: uuid.UUID,
    data: MerchantBody,
    caller: Asking,
    gone: Gone,
    units: Units,
    name: FileName = "",
) -> Response:
    """Take a list of prices into the draft, as one step that can be undone."""
    return file_taken(caller, job_id, "materials", with_prices, (data, name), gone, units)


@router.put("/profiles", response_model=JobView, openapi_extra=FILE_BODY)
def take_profiles(
    job_id: uuid.UUID,
    data: MerchantBody,
    caller: Asking,
    gone: Gone,
    units: Units,
    name: FileName = "",
) -> Response:
    """Take a merchant's profiles into the draft, as one step that can be undone."""
    return file_taken(caller, job_id, "materials", with_profiles, (data, name), gone, units)
