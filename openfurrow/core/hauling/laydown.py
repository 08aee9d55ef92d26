"""Pallets of modules: how many stand there at once, what one weighs, and the ground they take."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Glass:
    """The modules of one array that is built: how many, one's weight and its long side."""

    array: str
    count: int
    mass_kg: float
    length_m: float


@dataclass(frozen=True)
class Worked:
    """The mornings on which modules of an array come, and the days and hours in which they are set."""

    comes: tuple[date, ...]
    hours: tuple[tuple[date, float], ...]


@dataclass(frozen=True)
class Laydown:
    """Pallets of all arrays: how many in all, the most at once and on which day, and their ground.

    ``least`` is the fewest modules that any array ever had left: below nought there is work and
    nothing to do it with. ``most_on`` is None where the days are not known.
    """

    pallets: int
    at_once: int
    most_on: date | None
    heaviest_kg: float
    ground_m2: float
    least: float


def stock_of(count: int, worked: Worked, days: Sequence[date]) -> tuple[Floats, Floats]:
    """Modules that stand there on each day: in the morning when they have come, and at its end.

    They come in equal parts, two on one morning where it is named twice, and are set evenly.
    """
    came = np.array([worked.comes.count(day) for day in days]) / max(1, len(worked.comes))
    by_day: dict[date, float] = {}
    for day, some in worked.hours:
        by_day[day] = by_day.get(day, 0.0) + some
    hours = np.array([by_day.get(day, 0.0) for day in days])
    used = hours / max(hours.sum(), 1e-12)
    there, gone = np.cumsum(came), np.cumsum(used)
    return count * (there - (gone - used)), count * (there - gone)


def pallet_m2(length_m: float) -> float:
    """Ground of one pallet, modules on their long edge, with what is left to turn and to reach it."""
    long_m = length_m + constant("common", "pallet_over_m").value
    room = constant("common", "laydown_room").value
    return long_m * constant("common", "pallet_deep_m").value * room


def laydown_of(glass: Sequence[Glass], worked: Sequence[Worked], a_pallet: int) -> Laydown:
    """Of at least one array. A begun pallet takes the ground of a full one; arrays share none."""
    days = sorted({day for one in worked for day in (*one.comes, *(d for d, _ in one.hours))})
    counts = [-(-one.count // a_pallet) for one in glass]
    ground = np.array([pallet_m2(one.length_m) for one in glass])
    at_once, most_on, least = np.array(counts, dtype=float), None, 0.0
    if days and all(one.comes for one in worked):
        stocks = [stock_of(g.count, w, days) for g, w in zip(glass, worked, strict=True)]
        mornings = np.ceil(np.maximum([morning for morning, _ in stocks], 0.0) / a_pallet - 1e-6)
        fullest = int((ground @ mornings).argmax())
        at_once, most_on = mornings[:, fullest], days[fullest]
        least = min(float(end.min()) for _, end in stocks)
    return Laydown(
        pallets=sum(counts),
        at_once=int(at_once.sum()),
        most_on=most_on,
        heaviest_kg=max(min(a_pallet, one.count) * one.mass_kg for one in glass)
        + constant("common", "pallet_kg").value,
        ground_m2=float(ground @ at_once),
        least=least,
    )
