"""From the strings to the meter: what wires, converters and their limits leave of the power."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Converter:
    """An inverter, or several alike: rated output, and the share that it gives of what it takes.

    ``ac_drop`` is the share lost on the wires behind it at full power.
    """

    ac_w: float
    conversion: float
    ac_drop: float


@dataclass(frozen=True)
class Metered:
    """Powers over the steps at the meter, and the year's energy after each step there.

    ``sums`` are those of the strings, behind the wires to the converter, behind it, held to its limit,
    and at the meter; watt hours.
    """

    power_w: Floats
    sums_wh: tuple[float, ...]


def over_wires(power_w: Floats, rated_w: float, drop: float) -> Floats:
    """What arrives: the share lost grows with the current."""
    return np.asarray(power_w * (1.0 - drop * power_w / max(rated_w, 1e-9)))


def converted(power_w: Floats, ac_w: float, conversion: float) -> Floats:
    """What the converter would give without a limit; weak light costs it more.

    Source: Dobos, PVWatts version 5, NREL/TP-6A20-62641 (2014).
    """
    share = power_w * conversion / ac_w
    with np.errstate(divide="ignore", invalid="ignore"):
        curve = -0.0162 * share - 0.0059 / share + 0.9858
    kept = np.where(share > 0, conversion / 0.9637 * curve, 0.0)
    return np.asarray(np.maximum(kept * power_w, 0.0))


def metered(
    strings_w: Floats, rated_w: float, dc_drop: float, converter: Converter, step_h: float
) -> Metered:
    """One converter's year; ``strings_w`` is what its strings bring, ``rated_w`` all their modules."""
    arrived = over_wires(strings_w, rated_w, dc_drop)
    given = converted(arrived, converter.ac_w, converter.conversion)
    held = np.minimum(given, converter.ac_w)
    out = over_wires(held, converter.ac_w, converter.ac_drop)
    sums = tuple(float(one.sum()) * step_h for one in (strings_w, arrived, given, held, out))
    return Metered(out, sums)
