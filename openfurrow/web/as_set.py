"""What is set on posts as it is read: a top off its line, a row of modules off its string."""

import uuid
from typing import Annotated, Literal

from fastapi import APIRouter, Query, Request, Response

from openfurrow.core.design import Design
from openfurrow.core.edits import DesignError, Problem
from openfurrow.core.lacking import Lacking
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem
from openfurrow.sheets.drift import Sighted, drift_sheet
from openfurrow.sheets.levelling import levelling_sheet
from openfurrow.sheets.models import AskedSheet
from openfurrow.sheets.travel import bents_sheet, travel_sheet
from openfurrow.web.asked import Asked, Sheet, answered
from openfurrow.web.context import Asking
from openfurrow.web.ground import length_typed, support_numbered
from openfurrow.web.models import ArrayId, Units

Number = Annotated[int, Query(ge=1, le=100_000)]
Offset = Annotated[str, Query(max_length=40)]
Side = Literal["above", "below"]
Stepped = Literal["structure", "frame"]
STEPPED: dict[str, Sheet] = {"structure": bents_sheet, "frame": travel_sheet}
# A row that is further off is set anew.
FURTHEST_M = 0.1

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["modules"])


@router.get("/frame/top", response_model=AskedSheet)
def show_top(
    job_id: uuid.UUID,
    caller: Asking,
    request: Request,
    units: Units,
    support: Number,
    off: Offset,
    side: Side,
    array: ArrayId = "",
) -> Response:
    """Every way to level a support, by its number in the stakes, whose top is so far off its line."""
    off_m = _offset(off, side, "off", "Off the line", units)

    def sheet(design: Design, plan: Plan, shown: UnitSystem) -> AskedSheet:
        if not plan.has("structure"):
            raise Lacking(plan.lacking("structure"))
        index = support_numbered(support, plan.structure.supports.count)
        return levelling_sheet(design, plan, shown, index, off_m)

    return answered(caller, request, job_id, Asked("top", units, array, (support, off_m)), sheet)


@router.get("/{stage}/tilts", response_model=AskedSheet)
def show_tilts(
    job_id: uuid.UUID,
    caller: Asking,
    request: Request,
    units: Units,
    stage: Stepped,
    array: ArrayId = "",
) -> Response:
    """An array at each of its tilts: its bents with their forces, or its frame with what tilts it."""
    return answered(caller, request, job_id, Asked(f"{stage} tilts", units, array), STEPPED[stage])


@router.get("/modules/drift", response_model=AskedSheet)
def show_drift(
    job_id: uuid.UUID,
    caller: Asking,
    request: Request,
    units: Units,
    last: Number,
    off: Offset,
    side: Side,
    first: Annotated[int, Query(ge=0, le=100_000)] = 0,
    first_off: Offset = "",
    first_side: Side = "above",
    table: Number = 1,
    array: ArrayId = "",
) -> Response:
    """The gaps that bring a row back, whose lower edge is so far off its string after two modules.

    ``first`` is the module before the nearer place, nought where the row begins, and ``last`` the last
    that is set.
    """
    off_m = _offset(off, side, "off", "Off the string at the last module", units)
    first_off_m = _offset(first_off or "0", first_side, "first_off", "Off it there", units)

    def sheet(design: Design, plan: Plan, shown: UnitSystem) -> AskedSheet:
        index = _within(table, plan.rows.tables.count, "table", "Table") if plan.has("rows") else 0
        modules = int(plan.rows.tables.columns[index]) if plan.has("rows") else last
        _within(last, modules, "last", "Last module that is set")
        if first >= last:
            raise _refused(
                "first", "The one before", f"{first} is not before {last}", f"0 to {last - 1}"
            )
        return drift_sheet(design, plan, shown, Sighted(index, first, first_off_m, last, off_m))

    more = (table, first, first_off_m, last, off_m)
    return answered(caller, request, job_id, Asked("drift", units, array, more), sheet)


def _refused(path: str, label: str, message: str, allowed: str) -> DesignError:
    remedy = "Modules are counted from where the row began, tables row by row."
    return DesignError((Problem(path, label, message, allowed, remedy),))


def _within(number: int, most: int, path: str, label: str) -> int:
    """A number counted from nought. Raises DesignError for none such."""
    if number > most:
        raise _refused(path, label, f"there is no {number}", f"1 to {most}")
    return number - 1


def _offset(text: str, side: Side, path: str, label: str, units: UnitSystem) -> float:
    """How far off as it is typed, its side said apart: no sign is read from it."""
    value_m = length_typed(text, path, label, units, FURTHEST_M, "thickness")
    return value_m if side == "above" else -value_m
