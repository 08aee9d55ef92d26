"""Energy as it is asked for: charts of the draft that take longer than an edit may."""

import uuid
from datetime import date, datetime
from typing import Annotated, Literal
from zoneinfo import ZoneInfo

from fastapi import APIRouter, Query, Request, Response

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem
from openfurrow.core.sun.spot import spot_of
from openfurrow.exchange.load_in import with_load
from openfurrow.exchange.weather_in import with_weather
from openfurrow.sheets.drawings.shadows import shadows_drawing
from openfurrow.sheets.energy.around import around_sheet
from openfurrow.sheets.energy.pitch import ACCEPTED, pitch_sheet
from openfurrow.sheets.energy.strings import strings_sheet
from openfurrow.sheets.energy.tilt import tilt_sheet
from openfurrow.sheets.energy.year import year_sheet
from openfurrow.sheets.models import AskedSheet
from openfurrow.web.asked import Asked, Sheet, answered
from openfurrow.web.context import (
    FILE_BODY,
    Asking,
    Gone,
    LoadBody,
    WeatherBody,
)
from openfurrow.web.ground import Place, check_day, place_typed
from openfurrow.web.models import ArrayId, JobView, Units
from openfurrow.web.taken import FileName, file_taken

router = APIRouter(prefix="/api/jobs/{job_id}/energy", tags=["energy"])

SHEETS: dict[str, Sheet] = {"year": year_sheet, "tilt": tilt_sheet, "strings": strings_sheet}
Of = Literal["year", "tilt", "around", "strings"]
Minute = Annotated[int, Query(ge=0, lt=24 * 60, description="Minutes since local midnight")]
Accepted = Annotated[
    float,
    Query(gt=0, le=0.3, allow_inf_nan=False, description="Share of a year that a row may lose"),
]


@router.put("/weather", response_model=JobView, openapi_extra=FILE_BODY)
def take_weather(
    job_id: uuid.UUID, data: WeatherBody, caller: Asking, gone: Gone, units: Units, name: FileName = ""
) -> Response:
    """Take a file's year of weather into the draft, as one step that can be undone."""
    return file_taken(caller, job_id, "sun", with_weather, (data, name), gone, units)


@router.put("/load", response_model=JobView, openapi_extra=FILE_BODY)
def take_load(
    job_id: uuid.UUID, data: LoadBody, caller: Asking, gone: Gone, units: Units, name: FileName = ""
) -> Response:
    """Take a meter's year of use into the draft, as one step that can be undone."""
    return file_taken(caller, job_id, "sun", with_load, (data, name), gone, units)


@router.get("/pitch", response_model=AskedSheet)
def show_pitch(
    job_id: uuid.UUID,
    caller: Asking,
    request: Request,
    units: Units,
    array: ArrayId = "",
    accepted: Accepted = ACCEPTED,
) -> Response:
    """Three schools of the pitch; ``accepted`` is what the second of them lets a row lose."""

    def sheet(design: Design, plan: Plan, shown: UnitSystem) -> AskedSheet:
        return pitch_sheet(design, plan, shown, accepted)

    return answered(caller, request, job_id, Asked("pitch", units, array, (accepted,)), sheet)


@router.get("/shadows", response_model=AskedSheet)
def show_shadows(
    job_id: uuid.UUID,
    caller: Asking,
    request: Request,
    units: Units,
    day: date,
    minute: Minute,
) -> Response:
    """The shade on the ground at a minute of a local day, by the clock there."""
    check_day(day)

    def sheet(design: Design, plan: Plan, shown: UnitSystem) -> AskedSheet:
        spot = spot_of(design.site)
        zone = ZoneInfo(spot.time_zone)
        when = datetime(day.year, day.month, day.day, minute // 60, minute % 60, tzinfo=zone)
        made = shadows_drawing(plan, spot, when, shown)
        return AskedSheet(drawings=(made,), tables=(), takes=(), note="")

    # Shade is of all arrays, whichever is open.
    return answered(caller, request, job_id, Asked("shadows", units, "", (day, minute)), sheet)


@router.get("/{of}", response_model=AskedSheet)
def show_energy(
    job_id: uuid.UUID,
    of: Of,
    caller: Asking,
    request: Request,
    units: Units,
    array: ArrayId = "",
    spot: Place = "",
) -> Response:
    """The year, what tilts bring, what strings lose, or what stands around and the sun over a spot."""
    at = place_typed(spot, "spot", "Spot", units) if spot.strip() else None

    def around(design: Design, plan: Plan, shown: UnitSystem) -> AskedSheet:
        return around_sheet(design, plan, shown, at)

    sheet = around if of == "around" else SHEETS[of]
    return answered(caller, request, job_id, Asked(of, units, array, (at,)), sheet)
