"""What footings are chosen by: hours, concrete, what is brought and dug, how long it waits."""

from dataclasses import dataclass

import numpy as np

from openfurrow.core.checks import Check
from openfurrow.core.compare.families import OnFamily
from openfurrow.core.footings.body import circle_m2
from openfurrow.core.footings.bored.bore import Piers
from openfurrow.core.materials.givens import MaterialsGivens
from openfurrow.core.materials.plan import bought
from openfurrow.core.materials.prices import Cost, cost_of
from openfurrow.core.plan import Plan

NO_COST = Cost(())
# Tasks of the schedule that put footings in.
PUTS_IN = ("stake", "drive", "bore", "stand", "pour")
# What stops each on a day, and whether it comes out again: common practice, no published source.
WEATHER = {
    "driven post": "soft ground, for the rig",
    "ground screw": "soft ground, for the machine",
    "bored pier": "frost, and rain that fills bores",
    "ballast": "soft ground for the truck; frost where concrete is poured",
    "piled blocks": "soft ground for the barrow",
}
COMES_OUT = {
    "driven post": "pulled by machine",
    "ground screw": "turned out and used again",
    "bored pier": "dug out, or cut off below the ground",
    "ballast": "lifted away",
    "piled blocks": "carried away and used again",
}
MACHINES = {
    "driven post": "post driver",
    "ground screw": "loader with a drive head",
    "bored pier": "auger, and a truck or a mixer",
    "ballast": "what lifts boxes, and a truck",
    "piled blocks": "a barrow",
}


@dataclass(frozen=True, kw_only=True)
class Comes:
    """What one family of footings comes to; None where the plan lacks what it stands on.

    ``hours`` are all people's together, ``dug_m3`` what is bored out as it lay, ``stopped`` how many
    stand where a test hole met something above their foot, ``stones`` how many a stone stops on
    average, None while nobody has said a chance.
    """

    on: OnFamily
    hours: float | None
    concrete_m3: float | None
    ballast_kg: float | None
    dug_m3: float
    wait_days: int
    stopped: int | None
    cost: Cost = NO_COST
    hour_cost: float | None = None
    stones: float | None = None

    @property
    def comes_to(self) -> float | None:
        """What footings, frame and the hours that put footings in cost; None unless all has a price."""
        if self.hours is None or self.hour_cost is None or not self.cost.priced or self.cost.open:
            return None
        return self.cost.known + self.hours * self.hour_cost


def hours_of(plan: Plan) -> float | None:
    """Hours of all people that put in the footings of the array that is open."""
    if not plan.has("schedule"):
        return None
    mine = {f"{plan.array.id}:{key}" for key in PUTS_IN}
    tasks = [task for task in plan.schedule.tasks if task.id in mine]
    return sum(task.quantity / task.pace_per_h * task.people for task in tasks)


def comes_to(on: OnFamily, buying: MaterialsGivens, chance_per_m: float | None = None) -> Comes:
    """What putting in such footings comes to, by the prices of the job.

    ``chance_per_m`` is that of a stone, for each metre that a footing goes down.
    """
    plan, hours = on.plan, hours_of(on.plan)
    if not plan.has("footings"):
        return Comes(
            on=on,
            hours=hours,
            concrete_m3=None,
            ballast_kg=None,
            dug_m3=0.0,
            wait_days=0,
            stopped=None,
        )
    footings, site = plan.footings, plan.site
    piers, weights = footings.piers, footings.weights
    stops_m = np.array([np.inf if one.refusal_m is None else one.refusal_m for one in site.soils])
    short = stops_m[plan.structure.supports.soil_of] < footings.posts.ends_m - 1e-9
    return Comes(
        on=on,
        hours=hours,
        concrete_m3=piers.order_m3 if piers else None,
        ballast_kg=weights.total_kg if weights else None,
        dug_m3=_dug_m3(piers) if piers else 0.0,
        wait_days=piers.cure_days if piers else 0,
        stopped=0 if weights else int(short.sum()),
        cost=cost_of(bought(buying, on.takes), buying.prices),
        hour_cost=buying.hour_cost,
        stones=None
        if chance_per_m is None
        else 0.0
        if weights
        else float((1 - (1 - chance_per_m) ** footings.posts.ends_m).sum()),
    )


def _dug_m3(piers: Piers) -> float:
    """What comes out of the bores, as it lay in the ground."""
    above = circle_m2(piers.bored_m) * piers.top_m * piers.depths_m.size
    return piers.order_m3 - above + piers.stone_m3


def stops_of(on: OnFamily) -> list[Check]:
    """What speaks against it as a footing: not what is a matter of the day it is dug."""
    return [check for check in on.stops if check.key != "locate"]


def recommended(every: tuple[Comes, ...]) -> Comes | None:
    """Of those without a stop the one that costs least, where all of each has a price; else the one
    that takes fewest hours of people, then least time to wait; else none.
    """
    can = [one for one in every if not stops_of(one.on) and one.hours is not None]
    if priced(every):
        return min(can, key=lambda one: (one.comes_to or 0.0, one.wait_days), default=None)
    return min(can, key=lambda one: (one.hours or 0.0, one.wait_days), default=None)


def priced(every: tuple[Comes, ...]) -> bool:
    """Whether all that is possible is priced down to its last line."""
    can = [one for one in every if not stops_of(one.on) and one.hours is not None]
    return bool(can) and all(one.comes_to is not None for one in can)
