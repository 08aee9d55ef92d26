"""Who uses the energy: what goes straight to the load, what a battery carries over, what is left."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant
from openfurrow.core.energy.sky import Sky, steps_of

Floats = NDArray[np.float64]

DAY_FROM_H, DAY_TO_H = 8.0, 18.0


@dataclass(frozen=True)
class Use:
    """Watt hours of a year: wanted, straight used, out of the battery, left over, still bought."""

    wanted_wh: float
    straight_wh: float
    stored_wh: float
    over_wh: float
    bought_wh: float


def load_w(year_wh: float, by_day: bool, step_h: float) -> Floats:
    """What is used, step by step of the year."""
    at = steps_of(step_h) * step_h % 24
    if not by_day:
        return np.full(len(at), year_wh / (len(at) * step_h))
    on = (at >= DAY_FROM_H - 1e-9) & (at < DAY_TO_H - 1e-9)
    return np.where(on, year_wh / (on.sum() * step_h), 0.0)


def in_steps(watts: Floats, steps: int) -> Floats:
    """A year of powers in as many steps as are asked for: the means of shorter ones, or themselves.

    Both are whole numbers of steps an hour.
    """
    per = len(watts) * steps // math.gcd(len(watts), steps)
    return np.asarray(np.repeat(watts, per // len(watts)).reshape(steps, -1).mean(axis=1))


def over_the_year(sky: Sky, power_w: Floats) -> Floats:
    """Powers over the steps with light as powers over all steps."""
    found = np.zeros(sky.steps)
    found[sky.at] = power_w
    return found


def used(brought_w: Floats, wanted_w: Floats, battery_wh: float, step_h: float) -> Use:
    """Follow a battery through the year that begins as it ends."""
    straight = np.minimum(brought_w, wanted_w)
    over, short = (brought_w - straight) * step_h, (wanted_w - straight) * step_h
    kept = constant("common", "battery_kept").value
    if battery_wh > 0:
        filled = filling(over * kept - short, battery_wh)
        change = np.diff(filled)
        into, out = np.maximum(change, 0.0), np.maximum(-change, 0.0)
    else:
        into = out = np.zeros(len(over))
    return Use(
        wanted_wh=float(wanted_w.sum() * step_h),
        straight_wh=float(straight.sum() * step_h),
        stored_wh=float(out.sum()),
        over_wh=float((over - into / kept).sum()),
        bought_wh=float((short - out).sum()),
    )


def filling(moves_wh: Floats, most_wh: float) -> Floats:
    """How full a store is before the first move and after each, never below nought nor above its most.

    A move, held between two bounds, followed by another is again a move held between bounds: so all the
    joined ones are found by doubling. It begins as full as the year leaves it.
    """
    move, low, high = moves_wh.copy(), np.zeros(len(moves_wh)), np.full(len(moves_wh), most_wh)
    reach = 1
    while reach < len(move):
        before = slice(None, -reach), slice(reach, None)
        joined_low = np.clip(low[before[0]] + move[before[1]], low[before[1]], high[before[1]])
        joined_high = np.clip(high[before[0]] + move[before[1]], low[before[1]], high[before[1]])
        joined = move[before[0]] + move[before[1]]
        move[before[1]], low[before[1]], high[before[1]] = joined, joined_low, joined_high
        reach *= 2

    # A year that gains ends each time fuller, until it cannot; one that loses the other way round.
    start = float(high[-1] if move[-1] > 0 else low[-1])
    return np.concatenate(([start], np.clip(start + move, low, high)))
