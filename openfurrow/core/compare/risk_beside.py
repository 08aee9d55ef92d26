"""What may go wrong on each family of footing: hours, concrete and cost, by trials of their own."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.compare.families import OnFamily, footings_of
from openfurrow.core.compare.footings import Comes, comes_to
from openfurrow.core.compare.risk import TRIALS, Odds, Trials, trials_of
from openfurrow.core.design import Design
from openfurrow.core.footings.families import FamilyName
from openfurrow.core.materials.footings import footing_takes
from openfurrow.core.materials.givens import MaterialsGivens
from openfurrow.core.materials.lines import MaterialLine
from openfurrow.core.materials.prices import cost_of

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class FamilyOdds:
    """One family of footing under the array: None of what nobody said a chance, or a price, of.

    Boxes and piles enter nothing: their hours are as they were reckoned in every trial.
    """

    footing: FamilyName
    stopped: Odds | None
    hours: Odds
    concrete: Odds | None
    cost: Odds | None


def odds_beside(design: Design, array: str) -> tuple[FamilyOdds, ...]:
    """Every family that has hours, where somebody has said the chance of a stone; else none.

    Raises KeyError for no such array.
    """
    givens = design.array(array).footings
    if givens.stone_chance_per_m is None:
        return ()
    found = []
    for on in footings_of(design, array):
        comes = comes_to(on, design.materials)
        if comes.hours is None or not on.plan.has("footings"):
            continue
        found.append(_of(on, comes, comes.hours, trials_of(on.plan, givens), design.materials))
    return tuple(found)


def _of(
    on: OnFamily, comes: Comes, planned_h: float, trials: Trials, buying: MaterialsGivens
) -> FamilyOdds:
    hours = np.full(TRIALS, planned_h) if trials.hours is None else trials.hours
    piers = on.plan.footings.piers
    poured, ordered = trials.poured_m3, 0.0 if piers is None else piers.order_m3
    cost = None
    if comes.comes_to is not None and comes.hour_cost is not None:
        values = comes.comes_to + (hours - planned_h) * comes.hour_cost
        if poured is not None:
            values = values + (poured - ordered) * _each_m3(on, buying)
        cost = _odds("cost", "Footings, frame and hours", "price", values, comes.comes_to)
    return FamilyOdds(
        footing=on.footing,
        stopped=None
        if trials.stopped is None
        else _odds("stopped", "Stopped on the way down", "count", trials.stopped, 0.0),
        hours=_odds("hours", "Hours of people", "hours", hours, planned_h),
        concrete=None if poured is None else _odds("concrete", "Concrete", "volume", poured, ordered),
        cost=cost,
    )


def _each_m3(on: OnFamily, buying: MaterialsGivens) -> float:
    """What a cubic metre more costs, in bags or by truck; all of it has a price here."""
    piers = on.plan.footings.piers
    assert piers is not None
    takes = footing_takes(on.plan.footings, on.plan.site.rule_pack)
    take = next(one for one in takes if one.key in ("concrete", "concrete_bag"))
    line = MaterialLine.of(take, buying.waste, 0)
    (priced,) = cost_of((line,), buying.prices).priced
    return (priced.cost or 0.0) / line.quantity / (piers.bag_m3 or 1.0)


def _odds(key: str, title: str, kind: str, values: Floats, planned: float) -> Odds:
    return Odds(key=key, title=title, kind=kind, values=np.sort(values), planned=planned)
