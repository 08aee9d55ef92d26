"""Tilts that are changed by hand a few times a year: which, and on which days.

A year is a ring. Each setting stands from one change to the next; the best tilt of every stretch
between two possible days is known from running sums, and the best way round follows from those.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.energy.tilts import Curve
from openfurrow.core.year_days import DAYS

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

# Days on which a change may fall: every fifth. Weather between is smoothed, for no year is another.
EVERY_DAYS, SMOOTHED_DAYS = 5, 41
# The middle one of three lies no further from the best fixed tilt.
MIDDLE_WITHIN_DEG = 12.0
# The trade's own: flat in summer, steep in winter, between them twice.
TRADE_DEG = (55.0, 35.0, 15.0, 35.0)


@dataclass(frozen=True)
class Setting:
    """A tilt and the day of the year, from nought, from which it stands."""

    tilt_deg: float
    from_day: int


@dataclass(frozen=True)
class SeasonPlan:
    """Settings in the order of the year, and the full hours that they bring."""

    settings: tuple[Setting, ...]
    year_h: float

    @property
    def changes(self) -> int:
        """How often a year the tilt is changed."""
        return len(self.settings)

    def on(self, day: int) -> Setting:
        """Which stands on a day."""
        before = [one for one in self.settings if one.from_day <= day]
        return before[-1] if before else self.settings[-1]


class _Ring:
    """Running sums of every tilt over the possible days, and the best of every stretch."""

    def __init__(self, curve: Curve) -> None:
        fine = curve.by_degree()
        self.tilts = fine.at_deg
        width = SMOOTHED_DAYS // 2
        padded = np.concatenate((fine.by_day_h[:, -width:], fine.by_day_h, fine.by_day_h[:, :width]), 1)
        runs = np.cumsum(np.concatenate((np.zeros((len(padded), 1)), padded), axis=1), axis=1)
        smooth = (runs[:, SMOOTHED_DAYS:] - runs[:, :-SMOOTHED_DAYS]) / SMOOTHED_DAYS
        whole = np.concatenate((np.zeros((len(smooth), 1)), np.cumsum(smooth, axis=1)), axis=1)
        self.days = np.arange(0, DAYS, EVERY_DAYS)
        start = whole[:, self.days]
        # From each day to each other, over the end of the year where it lies before.
        sums = start[:, None, :] - start[:, :, None]
        wraps = self.days[None, :] <= self.days[:, None]
        self.between = sums + wraps[None] * whole[:, -1][:, None, None]
        self.best = self.between.max(axis=0)
        self.best_tilt = self.tilts[self.between.argmax(axis=0)]

    def at(self, tilt_deg: float) -> Floats:
        return np.asarray(self.between[int(np.abs(self.tilts - tilt_deg).argmin())])


def _round(stretches: Sequence[Floats], days: Integers) -> tuple[float, tuple[int, ...]]:
    """The best way round the ring through all stretches: what it brings, and the days of change.

    Changes come in order: where stretches would go round twice they bring more than a year has.
    """
    count = len(days)
    order = np.arange(count)
    best, found = -np.inf, (0,) * len(stretches)
    for first in range(count):
        # From here on the days come in their order, and the last stretch leads back.
        turned = [np.roll(one, (-first, -first), axis=(0, 1)) for one in stretches]
        ahead = order[None, :] > order[:, None]
        reach = np.where(order > 0, turned[0][0], -np.inf)
        back: list[Integers] = []
        for stretch in turned[1:-1]:
            ways = np.where(ahead, reach[:, None] + stretch, -np.inf)
            back.append(ways.argmax(axis=0))
            reach = ways.max(axis=0)
        ends = np.where(order > 0, reach + turned[-1][:, 0], -np.inf)
        last = int(ends.argmax())
        if ends[last] > best:
            best, at = float(ends[last]), [last]
            for way in reversed(back):
                at.append(int(way[at[-1]]))
            found = tuple(int((first + one) % count) for one in (0, *reversed(at)))
    return best, tuple(int(days[one]) for one in found)


def plan_of(curve: Curve, tilts: Sequence[float], days: Sequence[int]) -> SeasonPlan:
    """Settings as they are, by the days as they were, not as they were smoothed."""
    fine = curve.by_degree()
    settings = sorted(
        (Setting(float(tilt), int(day)) for tilt, day in zip(tilts, days, strict=True)),
        key=lambda one: one.from_day,
    )
    plan = SeasonPlan(tuple(settings), 0.0)
    rows = [int(np.abs(fine.at_deg - plan.on(day).tilt_deg).argmin()) for day in range(DAYS)]
    return SeasonPlan(plan.settings, float(fine.by_day_h[rows, np.arange(DAYS)].sum()))


def season_plan(curve: Curve, count: int) -> SeasonPlan:
    """The best of two, three or four settings; of three the middle one stands twice a year."""
    ring = _Ring(curve)
    if count == 3:
        ways = []
        near = np.abs(ring.tilts - curve.best[0]) <= MIDDLE_WITHIN_DEG
        for tilt in ring.tilts[near][::2]:
            middle = ring.at(float(tilt))
            value, days = _round((ring.best, middle, ring.best, middle), ring.days)
            ways.append((value, float(tilt), days))
        _, tilt, days = max(ways)
        found = [_tilt_between(ring, days, 0), tilt, _tilt_between(ring, days, 2), tilt]
        return plan_of(curve, found, days)
    _, days = _round((ring.best,) * count, ring.days)
    return plan_of(curve, [_tilt_between(ring, days, one) for one in range(count)], days)


def trade_plan(curve: Curve) -> SeasonPlan:
    """The trade's own angles, on the days that suit them best."""
    ring = _Ring(curve)
    _, days = _round([ring.at(tilt) for tilt in TRADE_DEG], ring.days)
    return plan_of(curve, TRADE_DEG, days)


def _tilt_between(ring: _Ring, days: Sequence[int], number: int) -> float:
    at = [int(np.flatnonzero(ring.days == day)[0]) for day in days]
    return float(ring.best_tilt[at[number], at[(number + 1) % len(at)]])
