"""Sheets that are worked out when they are asked for: once for a step of a draft, then kept."""

import uuid
from collections.abc import Callable
from dataclasses import dataclass

from fastapi import Request, Response

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem
from openfurrow.sheets.models import AskedSheet
from openfurrow.store.drafts import mark_of
from openfurrow.web.changing import draft_of
from openfurrow.web.context import Caller, computing, planned
from openfurrow.web.kept import KEPT

Sheet = Callable[[Design, Plan, UnitSystem], AskedSheet]


@dataclass(frozen=True)
class Asked:
    """A sheet by its name, in whose units, of which array, and what more is asked of it."""

    of: str
    units: UnitSystem
    array: str
    more: tuple[object, ...] = ()


def answered(
    caller: Caller, request: Request, job_id: uuid.UUID, asked: Asked, sheet: Sheet
) -> Response:
    """A sheet of an array, or of the first where that is gone; worked out once for a step."""
    draft = draft_of(caller, job_id)
    key = (*mark_of(draft), "asked", asked)
    found = KEPT.get(key)
    if found is None:
        plan = planned(draft.design, draft.records)
        if asked.array in {one.id for one in plan.arrays}:
            plan = plan.on(asked.array)
        with computing():
            made = sheet(draft.design, plan, asked.units)
        found = KEPT.keep(key, made.model_dump_json().encode())
    return KEPT.answer(request, key, found)
