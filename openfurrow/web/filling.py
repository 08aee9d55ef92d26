"""Filling the ground with an array's tables, as one step of the draft."""

import uuid
from dataclasses import dataclass, replace

from fastapi import APIRouter, Response

from openfurrow.core.design import Design
from openfurrow.core.edits import DesignError, Problem
from openfurrow.core.filled import equal_strings, filled, turned_along
from openfurrow.core.plan import untried
from openfurrow.core.quantities import QuantityError, UnitSystem, either, in_words, spoken
from openfurrow.core.reading import parse
from openfurrow.core.rows.settling import FillError
from openfurrow.core.rows.strips import Wanted
from openfurrow.exchange.read_ground import new_id
from openfurrow.jobs.apart import apart
from openfurrow.web.changing import Change, draft_to_change, keep
from openfurrow.web.context import Asking, Gone
from openfurrow.web.models import FillBody, JobView
from openfurrow.web.views import as_json, job_view

router = APIRouter(prefix="/api/jobs/{job_id}/tables", tags=["tables"])

# What each field is called, and what may be asked for.
LABELS = {
    "modules": "Modules wanted",
    "edge": "Kept free inside every edge",
    "shortest": "Shortest table",
    "lengths": "Shorter tables",
    "along": "Rows run along",
    "aisle_every": "Aisle after so many tables",
    "aisle": "Aisle",
    "boundary": "Boundary",
    "tables": "Tables",
    "array": "Array",
}
MOST_COUNT, MOST_M = 200_000, 100.0
MOST_COLUMNS, MOST_LENGTHS = 200, 4


def _refused(field: str, message: str, allowed: str, remedy: str) -> DesignError:
    return DesignError((Problem(field, LABELS[field], message, allowed, remedy),))


def _count(body: FillBody, field: str, least: int) -> int | None:
    text = str(getattr(body, field)).strip()
    if not text:
        return None
    if not (text.isascii() and text.isdigit() and least <= int(text[:10]) <= MOST_COUNT):
        allowed = f"a whole number, {least} to {MOST_COUNT}"
        raise _refused(field, f"{text} is none", allowed, "Write a number, or leave it empty.")
    return int(text)


def _length_m(body: FillBody, field: str) -> float:
    text = str(getattr(body, field)).strip()
    if not text:
        return 0.0
    try:
        found = parse(text, "run", body.units)
    except QuantityError as error:
        remedy = in_words(f"Write {either('10 ft', '3 m')}.", body.units)
        raise _refused(field, str(error), "a length", remedy) from None
    if not 0 <= found <= MOST_M:
        allowed = in_words(f"0 to {spoken(MOST_M, 'run')}", body.units)
        raise _refused(field, f"{text} is not that", allowed, "Write a length between.")
    return found


def _lengths(body: FillBody) -> tuple[int, ...]:
    """Counts of columns, as a list."""
    parts = [one.strip() for one in body.lengths.replace(";", ",").split(",") if one.strip()]
    for one in parts:
        if not (one.isascii() and one.isdigit() and 1 <= int(one[:10]) <= MOST_COLUMNS):
            allowed = f"whole numbers, 1 to {MOST_COLUMNS}, with commas between"
            raise _refused("lengths", f"{one} is none", allowed, "Write columns: 12, 8, 6.")
    if len(set(parts)) > MOST_LENGTHS:
        allowed = f"at most {MOST_LENGTHS} lengths"
        raise _refused("lengths", "are too many", allowed, "Name those that are built.")
    return tuple(sorted({int(one) for one in parts}, reverse=True))


def _wanted(body: FillBody) -> Wanted:
    every, aisle_m = _count(body, "aisle_every", 1) or 0, _length_m(body, "aisle")
    if every and not aisle_m:
        raise _refused("aisle", "is not said", "how wide it is", "Write a width, or ask for no aisle.")
    return Wanted(
        modules=_count(body, "modules", 1),
        edge_m=_length_m(body, "edge"),
        shortest=_count(body, "shortest", 1) or 10_000,
        aisle_every=every,
        aisle_m=aisle_m,
        new_id=new_id,
        lengths=_lengths(body),
    )


@dataclass(frozen=True)
class Asked:
    """Whose tables fill the ground, along what of the site's (empty: as they face), by what strings."""

    array: str
    along: str
    even: bool


def fill_design(design: Design, asked: Asked, wanted: Wanted, units: UnitSystem) -> tuple[Design, str]:
    """The design whose array fills the ground, and the step in words. Raises DesignError."""
    array = asked.array
    if array not in {one.id for one in design.arrays}:
        raise _refused("array", "is none of this job", "an array of this job", "Show the job anew.")
    turned = _turned(design, asked)
    try:
        plan = untried(turned)
        even = equal_strings(plan, array) if asked.even else None
        new, ground = filled(turned, plan, array, replace(wanted, even=even))
    except FillError as error:
        allowed = in_words(error.allowed, units)
        raise _refused(error.field, str(error), allowed, error.remedy) from None
    found = ground.tables
    words = f"filled: {found.modules} modules in {found.tables} tables, {found.rows} rows"
    if found.uneven:
        words += f"; {found.uneven} left out on uneven ground"
    if ground.shifted:
        words += f"; {ground.shifted} posts shifted clear"
    if ground.stuck:
        words += f"; posts of {ground.stuck} tables stand in the way of something"
    if even is not None and wanted.modules is None and not even(found.modules):
        words += "; strings do not come out even"
    if found.put_back:
        words += f"; {found.put_back} that were taken out by hand are not kept"
    return new, words


def _turned(design: Design, asked: Asked) -> Design:
    """With its rows along what was chosen."""
    if not asked.along:
        return design
    allowed = "a line or an outline of this site that looks to the equator within 60°"
    try:
        return turned_along(design, asked.array, asked.along)
    except KeyError:
        message, remedy = "is no line of this site", "Show the job anew, and choose again."
    except ValueError as error:
        message, remedy = str(error), "Choose another line, or turn the rows by hand."
    raise _refused("along", message, allowed, remedy)


@router.post("/fill", response_model=JobView)
def fill_ground(job_id: uuid.UUID, body: FillBody, caller: Asking, gone: Gone) -> Response:
    """Lay an array's tables over all the ground inside the boundary.

    Worked out in a process of its own: who goes away leaves everything as it was.
    """
    draft = draft_to_change(caller, job_id)
    asked = Asked(body.array, body.along, body.even)
    new, words = apart(fill_design, draft.design, asked, _wanted(body), body.units, left=gone)
    kept = keep(caller, draft, Change(draft.design, new, words), body.units)
    return as_json(job_view(kept, "rows", body.units, draft.design, body.array))
