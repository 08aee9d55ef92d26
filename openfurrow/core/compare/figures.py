"""The numbers by which designs are chosen between, of a whole plan."""

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
import shapely

from openfurrow.core.plan import Plan
from openfurrow.core.working import Answer

# Stages whose lines are bought.
LISTED = ("footings", "frame", "modules", "trench", "wiring")
NOT_PRICED = "not looked at: nothing has a price yet"


@dataclass(frozen=True)
class Figure:
    """One number; None where the plan lacks what it stands on."""

    label: str
    value: float | str | None
    kind: str


def figures(plan: Plan) -> tuple[Figure, ...]:
    """Of all arrays together, in the order of the job; what lacks stays open."""
    rows = plan.has("rows") and all("rows" in one.made for one in plan.arrays)
    footings = all("footings" in one.made for one in plan.arrays)
    wired = plan.has("wiring")
    posts = [one.footings.posts.depths_m for one in plan.arrays] if footings else []
    levels = [check.level for check in plan.checks]
    return (
        Figure("Modules", _modules(plan) if rows else None, "count"),
        Figure("Power", plan.energy.watts if wired else None, "power"),
        Figure("Energy of a year", plan.energy.year_wh if wired else None, "energy"),
        Figure("For each kilowatt", _over_power(plan) if wired else None, "full_hours"),
        Figure("A day of the least month", _answer(plan, wired, "least_day"), "small_energy"),
        Figure("Of what is used, from the sun", _answer(plan, wired, "own_share"), "ratio"),
        Figure("Ground under and between", ground_m2(plan) if rows else None, "area"),
        Figure("Posts", float(sum(len(one) for one in posts)) if footings else None, "count"),
        Figure("Deepest post", float(max(one.max() for one in posts)) if footings else None, "tape"),
        Figure(
            "All posts in the ground",
            float(sum(one.sum() for one in posts)) if footings else None,
            "run",
        ),
        Figure("Trench", plan.trench.ground_length_m if wired else None, "run"),
        Figure("Stops", float(levels.count("stop")), "count"),
        Figure("To look at", float(levels.count("look")), "count"),
        *_of_work(plan),
        *_cost(plan),
    )


def _of_work(plan: Plan) -> tuple[Figure, ...]:
    """What is carried, and how long it takes."""
    listed = plan.materials.answers if plan.has("materials") else ()
    dates = plan.schedule.answers if plan.has("schedule") else ()
    return (
        Figure("Weight of materials", _told(listed, "mass"), "haul"),
        Figure("Hours of work", _told(dates, "hours"), "hours"),
        Figure("All is done on", _told(dates, "finish"), "text"),
    )


def _told(answers: Iterable[Answer], key: str) -> float | str | None:
    return next((one.value for one in answers if one.key == key), None)


def _cost(plan: Plan) -> tuple[Figure, ...]:
    """What materials cost, tax included, of which stages, and how many lines have no price."""
    told = plan.materials.answers if plan.has("materials") else ()
    known = _told(told, "cost")
    cost = plan.materials.cost if plan.has("materials") else None
    by_stage: list[float | None] = [None] * len(LISTED)
    if isinstance(known, float) and cost is not None and cost.known:
        taxed = known / cost.known
        by_stage = [cost.of_stage(stage).known * taxed for stage in LISTED]
    some = None if known is None or cost is None else float(len(cost.open))
    return (
        Figure("Cost of materials", NOT_PRICED if known is None else known, "price"),
        *(
            Figure(f"Of that {stage}", value, "price")
            for stage, value in zip(LISTED, by_stage, strict=True)
        ),
        Figure("Cost for each watt", _told(told, "cost_per_watt"), "factor"),
        Figure("Lines without a price", some, "count"),
    )


def _modules(plan: Plan) -> float:
    return float(sum(one.rows.module_count for one in plan.arrays))


def _over_power(plan: Plan) -> float:
    return plan.energy.year_wh / plan.energy.watts


def _answer(plan: Plan, wired: bool, key: str) -> float | None:
    found = (a.value for a in plan.energy.answers if a.key == key) if wired else iter(())
    value = next(found, None)
    return value if isinstance(value, float) else None


def ground_m2(plan: Plan) -> float:
    """The ground that the arrays take, each with what lies between its tables."""
    hulls = [
        shapely.convex_hull(shapely.union_all(np.asarray(one.rows.tables.outlines)))
        for one in plan.arrays
    ]
    return float(shapely.union_all(hulls).area)
