"""What may go wrong in the ground, by seeded trials: what is stopped, the hours, the concrete.

Nothing is taken for granted: a chance that nobody has said is not looked at. Trials repeat with their
seed.
"""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtr, ndtri

from openfurrow.core.compare.footings import hours_of
from openfurrow.core.footings.body import circle_m2
from openfurrow.core.footings.bored.bore import Piers, concrete_m3
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.footings.posts import SizedKind
from openfurrow.core.footings.spare import strength_asked
from openfurrow.core.materials.footings import footing_takes
from openfurrow.core.materials.givens import MaterialsGivens
from openfurrow.core.materials.lines import MaterialLine
from openfurrow.core.materials.prices import cost_of
from openfurrow.core.plan import Plan

Floats = NDArray[np.float64]
TRIALS, SEED = 10_000, 1
# No more draws than this: of a field with thousands of bores fewer trials are made.
MOST_DRAWS = 20_000_000
# What an order has to cover.
COVERS = 0.95


@dataclass(frozen=True, kw_only=True)
class Odds:
    """One number over all trials, sorted; ``planned`` is what is ordered or reckoned with.

    ``cheapest`` is the order that costs least on average, where its price and that of running short
    are known.
    """

    key: str
    title: str
    kind: str
    values: Floats
    planned: float
    cheapest: float | None = None

    def at(self, share: float) -> float:
        """The value that so large a share of the trials does not exceed."""
        return float(self.values[max(math.ceil(share * self.values.size) - 1, 0)])

    @property
    def short(self) -> float:
        """The share of trials in which more is asked for than is planned."""
        return float((self.values > self.planned + 1e-9).mean())

    @property
    def left(self) -> float:
        """What is left over on average of what is planned, where it is not short."""
        return float(np.maximum(self.planned - self.values, 0.0).mean())


@dataclass(frozen=True, kw_only=True)
class Trials:
    """What came out trial by trial, each a row of its own; None of what nobody has said a chance of.

    ``weak`` is how many footings hold less than is asked of them, the safety on it counted.
    """

    stopped: Floats | None = None
    hours: Floats | None = None
    weak: Floats | None = None
    poured_m3: Floats | None = None


def trials_of(plan: Plan, givens: FootingsGivens) -> Trials:
    """Trials of the open array as it is planned; of weights, which enter nothing, none."""
    footings = plan.footings
    if footings.weights is not None:
        return Trials()
    depths = footings.posts.ends_m
    trials = max(min(TRIALS, MOST_DRAWS // depths.size), 1)
    draw = np.random.default_rng(SEED)
    shared = draw.standard_normal(trials)
    stopped = hours = weak = poured = None
    if givens.stone_chance_per_m is not None:
        stopped = stopped_in(draw, shared, depths, givens.stone_chance_per_m, givens.alike_share)
        planned = hours_of(plan)
        hours = None if planned is None else planned + stopped * givens.stone_hours
    piers = footings.piers
    if piers is not None and givens.bore_spread_m is not None and not piers.formed:
        poured = concrete_in(draw, shared, piers, givens.bore_spread_m, givens.alike_share)
    if givens.strength_spread is not None:
        fails = fails_in(plan, givens.strength_spread)
        # What is stonier is no weaker: the ground's strength has a luck of its own.
        luck = draw.standard_normal(trials)
        weak = counted_in(draw, luck, fails, givens.alike_share)
    return Trials(stopped=stopped, hours=hours, weak=weak, poured_m3=poured)


def odds_of(plan: Plan, givens: FootingsGivens, ordered: MaterialsGivens) -> tuple[Odds, ...]:
    """The odds of the open array as it is planned; none of what nobody has said a chance of."""
    trials, footings = trials_of(plan, givens), plan.footings
    found: list[Odds] = []
    if trials.stopped is not None:
        found.append(
            Odds(
                key="stopped",
                title="Stopped on the way down",
                kind="count",
                values=np.sort(trials.stopped),
                planned=float(ordered.spare_posts if footings.piers is None else 0),
            )
        )
    if trials.hours is not None:
        found.append(_hours(trials.hours, hours_of(plan) or 0.0))
    if trials.weak is not None:
        found.append(
            Odds(
                key="weak",
                title="Hold less than is asked, safety on it",
                kind="count",
                values=np.sort(trials.weak),
                planned=0.0,
            )
        )
    if trials.poured_m3 is not None and footings.piers is not None:
        found.append(_ordered(footings.piers, plan, trials.poured_m3, ordered))
    return tuple(found)


def _hours(values: Floats, planned: float) -> Odds:
    return Odds(
        key="hours",
        title="Hours of people for them all",
        kind="hours",
        values=np.sort(values),
        planned=planned,
    )


def fails_in(plan: Plan, spread: float) -> Floats:
    """Of each footing the chance that the ground where it stands is weaker than it can do with.

    Strength spreads about its mean: what is planned with, or, where tests were made in that soil, as
    much more as their mean is over what of them is taken.
    """
    kinds = plan.footings.posts.kinds
    asked = np.array([strength_asked(kind) for kind in kinds])
    mean = np.array([_mean_over_taken(kind) for kind in kinds])
    return np.asarray(ndtr((asked / mean - 1) / spread)[plan.structure.supports.kind])


def _mean_over_taken(kind: SizedKind) -> float:
    """The least of any kind of test: one that speaks for pulls says nothing of a push."""
    proved = kind.ground.proved
    tests = [one for one in (proved.pulled, proved.pressed, proved.sideways) if one is not None]
    return min((one.mean / one.taken for one in tests), default=1.0)


def stopped_in(
    draw: np.random.Generator, shared: Floats, depths_m: Floats, per_m: float, alike: float
) -> Floats:
    """How many of the footings something stops, trial by trial (trials,): each metre stops one with a
    chance.
    """
    return counted_in(draw, shared, 1 - (1 - per_m) ** depths_m.round(6), alike)


def counted_in(draw: np.random.Generator, shared: Floats, chances: Floats, alike: float) -> Floats:
    """How many of the footings something befalls, each with a chance of its own (trials,).

    What is alike in all of a job moves all chances together (a normal copula of correlation
    ``alike``). Those of one chance are drawn at once.
    """
    found = np.zeros(shared.size)
    for chance, count in zip(*np.unique(chances.round(12), return_counts=True), strict=True):
        threshold = ndtri(min(max(float(chance), 1e-12), 1 - 1e-12))
        at = ndtr((threshold - math.sqrt(alike) * shared) / math.sqrt(1 - alike))
        found += draw.binomial(int(count), at)
    return found


def concrete_in(
    draw: np.random.Generator, shared: Floats, piers: Piers, spread_m: float, alike: float
) -> Floats:
    """Concrete in all bores, trial by trial: widths spread about what they come out at.

    No bore is narrower than its auger. Bells and what stands above the ground stay as they are drawn.
    """
    own = draw.standard_normal((shared.size, piers.depths_m.size))
    apart = math.sqrt(alike) * shared[:, None] + math.sqrt(1 - alike) * own
    wide = np.maximum(piers.bored_m + spread_m * apart, piers.diameter_m)
    straight = math.pi / 4 * (wide**2 @ (piers.depths_m + piers.top_m))
    # What a bell holds besides the shaft through it.
    drawn = concrete_m3(piers.bored_m, piers.bell_m, piers.depths_m, piers.top_m)
    bells = drawn - circle_m2(piers.bored_m) * (piers.depths_m + piers.top_m)
    return np.asarray(straight + float(bells.sum()))


def _ordered(piers: Piers, plan: Plan, poured_m3: Floats, ordered: MaterialsGivens) -> Odds:
    """The concrete against what would be ordered of it for this array alone."""
    takes = footing_takes(plan.footings, plan.site.rule_pack)
    take = next(one for one in takes if one.key in ("concrete", "concrete_bag"))
    bags = piers.bag_m3 is not None
    values = np.sort(np.ceil(poured_m3 / piers.bag_m3) if piers.bag_m3 else poured_m3)
    line = MaterialLine.of(take, ordered.waste, 0)
    cost = cost_of((line,), ordered.prices).priced[0].cost
    each = None if cost is None else cost / line.quantity
    return Odds(
        key="concrete",
        title="Bags of concrete" if bags else "Concrete",
        kind=take.kind,
        values=values,
        planned=line.quantity,
        cheapest=None
        if each is None or ordered.short_cost is None
        else cheapest_order(values, take.pack, each, ordered.short_cost),
    )


def cheapest_order(values: Floats, pack: float, each: float, short: float) -> float:
    """The order, in multiples of ``pack``, that costs least on average over trials that are sorted.

    What is ordered costs ``each`` whether it is used or left over; where it runs short, what lacks is
    bought as well, and costs ``short`` once.
    """
    first, last = math.floor(values[0] / pack), math.ceil(values[-1] / pack - 1e-9)
    orders = np.arange(max(first, 0), last + 1) * pack
    enough = np.searchsorted(values, orders + 1e-9, side="right")
    # What is bought in all, order by order: the order where it is enough, else what it comes to.
    beyond = values.sum() - np.concatenate(([0.0], np.cumsum(values)))[enough]
    buys = (orders * enough + beyond) / values.size
    return float(orders[int((each * buys + short * (1 - enough / values.size)).argmin())])
