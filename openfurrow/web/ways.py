"""The way to the building found, as one step of the draft."""

import uuid

from fastapi import APIRouter, Response

from openfurrow.core.design import Design
from openfurrow.core.edits import DesignError, Problem
from openfurrow.core.found_way import found_ways
from openfurrow.core.plan import Plan, untried
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.core.trench.finding import FoundWay, NoWayError
from openfurrow.exchange.read_ground import new_id
from openfurrow.jobs.apart import apart
from openfurrow.web.changing import Change, draft_to_change, keep
from openfurrow.web.context import Asking, Gone
from openfurrow.web.models import FindBody, JobView
from openfurrow.web.views import as_json, job_view

router = APIRouter(prefix="/api/jobs/{job_id}/ways", tags=["ways"])
# More that was gone round makes no sentence.
MOST_NAMED = 4


def way_words(way: FoundWay, units: UnitSystem) -> str:
    """The step in words: how long, how much by hand, and what is gone round at what cost."""

    def run(value: float) -> str:
        return format_value(value, "run", units)

    told = [f"way found: {run(way.length_m)}"]
    if way.by_hand_m > 0:
        told.append(f"{run(way.by_hand_m)} by hand")
    if way.crossings:
        told.append(f"{way.crossings} line{'s' * (way.crossings > 1)} crossed")
    told += [f"{run(long)} through {label}" for label, long in way.dear[:MOST_NAMED]]
    told += [f"round {one.label} for {run(one.costs_m)} more" for one in way.avoided[:MOST_NAMED]]
    if not way.avoided and way.straight_m is not None and way.straight_m > way.cost_m + 0.1:
        told.append(f"{run(way.straight_m - way.cost_m)} cheaper than straight")
    return ", ".join(told)


def find_for(design: Design, units: UnitSystem) -> tuple[Design, str]:
    """The design with the way that was found, and the step in words. Raises DesignError, Lacking."""
    try:
        before = untried(design)
        new, ways = found_ways(design, before, new_id)
    except NoWayError as error:
        problem = Problem(
            "site.route",
            "Way to the building",
            f"is none: {error}",
            "a way that keeps off what must be kept off",
            "Move what is drawn, or ask its owner how near the trench may come.",
        )
        raise DesignError((problem,)) from None
    (_, trunk), *spurs = ways
    words = [way_words(trunk, units)]
    words += [f"from {name}: {way_words(way, units)}" for name, way in spurs]
    return new, "; ".join((*words, *_stops_that_come(before, untried(new))))


def _stops_that_come(before: Plan, after: Plan) -> tuple[str, ...]:
    """What the new way would stop that the old one did not: a shorter way may be harder to pull."""

    def stops(plan: Plan) -> dict[str, None]:
        return dict.fromkeys(check.title for check in plan.checks if check.level == "stop")

    come = [title for title in stops(after) if title not in stops(before)]
    return (f"stops now: {', '.join(come)}",) if come else ()


@router.post("/find", response_model=JobView)
def find(job_id: uuid.UUID, body: FindBody, caller: Asking, gone: Gone) -> Response:
    """Lay the cheapest way from the array to the building, where it ends now or at the nearest wall.

    Worked out in a process of its own: who goes away leaves everything as it was.
    """
    draft = draft_to_change(caller, job_id)
    new, words = apart(find_for, draft.design, body.units, left=gone)
    kept = keep(caller, draft, Change(draft.design, new, words), body.units)
    return as_json(job_view(kept, "trench", body.units, draft.design))
