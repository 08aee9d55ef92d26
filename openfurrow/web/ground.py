"""The ground: files read in, places measured, sections, the scene in three dimensions."""

import uuid
from datetime import date
from typing import Annotated

from fastapi import APIRouter, Query, Response
from pydantic import ValidationError

from openfurrow.core.checks import in_metres
from openfurrow.core.edits import DesignError, Problem, problems_of
from openfurrow.core.fields import fields
from openfurrow.core.givens import LONGEST_ID
from openfurrow.core.quantities import QuantityError, UnitSystem, format_value
from openfurrow.core.reading import parse
from openfurrow.core.rows.snap import snapped
from openfurrow.core.site.measure import Found, MeasureError, by_bearing, by_offset, by_two_tapes
from openfurrow.core.sun.position import sun_through_day
from openfurrow.core.sun.spot import spot_of
from openfurrow.core.typed import read
from openfurrow.exchange.ground_file import HowToRead
from openfurrow.exchange.places import grids_at
from openfurrow.exchange.read_ground import check_size
from openfurrow.jobs.apart import apart
from openfurrow.sheets.drawings.section import section_drawing
from openfurrow.sheets.scene import Scene, scene_of
from openfurrow.web.changing import Change, draft_of, draft_to_change, keep
from openfurrow.web.context import FILE_BODY, Asking, Gone, GroundBody, computing, planned
from openfurrow.web.files_read import SHOWN_GRIDS, look_at, take
from openfurrow.web.models import (
    FoundView,
    GridView,
    GroundFileView,
    JobView,
    MeasureBody,
    SectionView,
    SnappedView,
    SunView,
    Text,
    Units,
)
from openfurrow.web.views import as_json, job_view

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["ground"])

How = Annotated[str, Query(max_length=20_000, description="HowToRead as JSON")]
Place = Annotated[Text, Query(max_length=80)]
SUN_STEP_MIN = 5
# No footing of an array goes deeper.
DEEPEST_TYPED_M = 12.0
Metres = Annotated[float, Query(ge=-5000, le=5000, allow_inf_nan=False)]


def _how(text: str) -> HowToRead:
    try:
        return HowToRead.model_validate_json(text or "{}")
    except ValidationError as error:
        raise DesignError(problems_of(error, "us")) from None


def _refused(path: str, label: str, message: str, allowed: str, remedy: str) -> DesignError:
    return DesignError((Problem(path, label, message, allowed, remedy),))


@router.post("/ground/look", openapi_extra=FILE_BODY)
def look_at_file(
    job_id: uuid.UUID, data: GroundBody, caller: Asking, gone: Gone, units: Units, how: How = ""
) -> GroundFileView:
    """What a file of the ground holds, and what would become of it; nothing is changed."""
    wanted = _how(how)
    # Here and not in the reading process: what is far too large need not be carried there.
    check_size(data, wanted)
    return apart(look_at, draft_of(caller, job_id).design, data, wanted, units, left=gone)


@router.get("/ground/grids")
def grids(
    job_id: uuid.UUID, caller: Asking, words: Annotated[Text, Query(max_length=80)] = ""
) -> tuple[GridView, ...]:
    """Map grids that reach the site, by words of their names or by their number."""
    found = grids_at(draft_of(caller, job_id).design.site, words)
    return tuple(GridView(epsg=one.epsg, name=one.name, unit=one.unit) for one in found[:SHOWN_GRIDS])


@router.put("/ground", response_model=JobView, openapi_extra=FILE_BODY)
def take_file(
    job_id: uuid.UUID, data: GroundBody, caller: Asking, gone: Gone, units: Units, how: How = ""
) -> Response:
    """Take a file's shots and shapes into the draft, as one step that can be undone."""
    wanted = _how(how)
    draft = draft_to_change(caller, job_id)
    check_size(data, wanted)
    new, words = apart(take, draft.design, data, wanted, units, left=gone)
    kept = keep(caller, draft, Change(draft.design, new, words), units)
    return as_json(job_view(kept, "site", units, draft.design))


def place_typed(text: str, path: str, label: str, units: UnitSystem) -> tuple[float, float]:
    """East and north as they are typed. Raises DesignError for what is not one place."""
    try:
        points = read(fields()["site.route"], text, units)
    except QuantityError as error:
        raise _refused(path, label, str(error), "east, north", "Point at it, or type it.") from None
    if not isinstance(points, list) or len(points) != 1 or not isinstance(points[0], list):
        raise _refused(path, label, "is not one place", "east, north", "Point at it, or type it.")
    return float(points[0][0]), float(points[0][1])  # type: ignore[arg-type]


def _number(text: str, kind: str, path: str, label: str, units: UnitSystem) -> float:
    try:
        return parse(text, kind, units)
    except QuantityError as error:
        raise _refused(
            path, label, str(error), "a length or an angle", "Read the tape again."
        ) from None


def length_typed(
    text: str, path: str, label: str, units: UnitSystem, most_m: float, kind: str = "tape"
) -> float:
    """A length from nought to ``most_m`` as it is typed. Raises DesignError for what is none."""
    value_m = _number(text, kind, path, label, units)
    if not 0 <= value_m <= most_m:
        most = format_value(most_m, kind, units)
        raise _refused(path, label, f"{text} is not that", f"0 to {most}", "Read the tape again.")
    return value_m


def depth_typed(text: str, path: str, label: str, units: UnitSystem) -> float:
    """A depth below the ground as it is typed. Raises DesignError for what no footing reaches."""
    return length_typed(text, path, label, units, DEEPEST_TYPED_M)


# Further over nobody lets a post stand.
MOST_LEAN_DEG = 30.0


def lean_typed(text: str, path: str, label: str, units: UnitSystem) -> float:
    """How far something leans, as it is typed. Raises DesignError for what is no such angle."""
    lean_deg = _number(text, "angle", path, label, units)
    if not 0 <= lean_deg <= MOST_LEAN_DEG:
        most = format_value(MOST_LEAN_DEG, "angle", units)
        raise _refused(path, label, f"{text} is not that", f"0 to {most}", "Read the level again.")
    return lean_deg


def support_numbered(number: int, count: int) -> int:
    """A support by its number in the stakes, counted from nought. Raises DesignError for none such."""
    if number > count:
        raise _refused(
            "support",
            "Support",
            f"there is no {number}",
            f"1 to {count}",
            "Its number stands in the stakes.",
        )
    return number - 1


@router.post("/measure")
def measure(job_id: uuid.UUID, body: MeasureBody, caller: Asking) -> list[FoundView]:
    """One place, or with two tapes both, from what was measured; nothing is changed."""
    draft_of(caller, job_id)
    try:
        found = _measured(body)
    except MeasureError as error:
        said = error.text.format(
            *(format_value(length, "coordinate", body.units) for length in error.lengths_m)
        )
        raise _refused(
            "measure",
            "Measured",
            said,
            "measurements that meet",
            "Read both again, and see that they are from the places that are named.",
        ) from None
    return [
        FoundView(
            text=", ".join(
                format_value(part, "coordinate", body.units) for part in (place.east_m, place.north_m)
            ),
            east_m=place.east_m,
            north_m=place.north_m,
            words=place.words,
        )
        for place in found
    ]


def _measured(body: MeasureBody) -> list[Found]:
    units = body.units

    def told(length_m: float) -> str:
        return format_value(length_m, "run", units)

    start = place_typed(body.start, "start", "From", units)
    if body.way == "coordinates":
        return [Found(*start, "by coordinates")]
    if body.way == "bearing":
        toward = _number(body.first, "bearing", "first", "Bearing", units)
        distance = _number(body.second, "run", "second", "Distance", units)
        return [Found(*by_bearing(start, toward, distance), f"{told(distance)} toward {toward:.1f}°")]
    end = place_typed(body.end, "end", "To", units)
    first = _number(body.first, "run", "first", "First tape", units)
    second = _number(body.second, "run", "second", "Second tape", units)
    if body.way == "offset":
        return [
            Found(
                *by_offset(start, end, first, second),
                f"chainage {told(first)}, {told(abs(second))} "
                f"{'right' if second >= 0 else 'left'} of the baseline",
            )
        ]
    right, left = by_two_tapes(start, first, end, second)
    return [
        Found(*right, "right of the line between them"),
        Found(*left, "left of the line between them"),
    ]


@router.get("/section")
def section(job_id: uuid.UUID, caller: Asking, units: Units, start: Place, end: Place) -> SectionView:
    """A section of the draft between two places, typed as east, north."""
    plan = planned(draft_of(caller, job_id).design)
    ends = place_typed(start, "start", "From", units), place_typed(end, "end", "To", units)
    try:
        with computing():
            return SectionView(drawing=section_drawing(plan, *ends, units), ends=ends)
    except ValueError as error:
        raise _refused("end", "To", str(error), "two places apart", "Point further away.") from None


@router.get("/tables/snap")
def snap_table(
    job_id: uuid.UUID,
    caller: Asking,
    array: Annotated[Text, Query(max_length=LONGEST_ID)],
    table: Annotated[Text, Query(max_length=LONGEST_ID)],
    east_m: Metres,
    north_m: Metres,
) -> SnappedView:
    """Where a table comes to stand that is moved to a place by hand; nothing is changed.

    A table that is not there is one more, as long as the others.
    """
    design = draft_of(caller, job_id).design
    plan = planned(design)
    if array not in {one.id for one in design.arrays}:
        allowed = "an array of this job"
        raise _refused("array", "Array", "is none of this job", allowed, "Show the job anew.")
    one = plan.on(array)
    found = snapped(plan.site, one.rows, design.array(array).rows, table, (east_m, north_m))
    return SnappedView(
        along=in_metres(found.along_m), back=in_metres(found.back_m), refused=found.refused
    )


@router.get("/scene", response_model=Scene)
def scene(job_id: uuid.UUID, caller: Asking) -> Response:
    """The draft in three dimensions."""
    plan = planned(draft_of(caller, job_id).design)
    with computing():
        return as_json(scene_of(plan))


def check_day(day: date) -> None:
    """Raise DesignError for a day that no almanac here reaches."""
    if not 1950 <= day.year <= 2099:
        raise _refused(
            "day", "Day", f"{day.isoformat()} is too far away", "1950 to 2099", "Choose another day."
        )


@router.get("/sun")
def sun_on(job_id: uuid.UUID, caller: Asking, day: date) -> SunView:
    """Where the sun stands over the site through a local day."""
    check_day(day)
    spot = spot_of(draft_of(caller, job_id).design.site)
    clock, altitude, azimuth = sun_through_day(
        spot.latitude_deg, spot.longitude_deg, spot.elevation_m, spot.time_zone, day, SUN_STEP_MIN
    )
    return SunView(
        clock_h=tuple(clock.tolist()),
        altitude_deg=tuple(altitude.round(3).tolist()),
        azimuth_deg=tuple(azimuth.round(3).tolist()),
    )
