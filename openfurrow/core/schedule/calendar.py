"""The days that are worked, in half hours of daylight, one after the other."""

import math
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from functools import cached_property
from zoneinfo import ZoneInfo

import numpy as np
from numpy.typing import NDArray
from pvlib import spa

from openfurrow.core.site.tickets import working_days_after
from openfurrow.core.sun.spot import Spot

Integers = NDArray[np.int64]
# Work is counted in half hours: no crew plans finer.
SLOT_H = 0.5
# Further ahead nobody plans a job of this kind; a job that does not fit says so.
MOST_DAYS = 400
WEEKDAYS = {"Monday to Friday": 5, "Monday to Saturday": 6, "every day": 7}


@dataclass(frozen=True)
class Workday:
    """One day that is worked: from when by the clock, for how many slots, and when there is light."""

    day: date
    start_h: float
    slots: int
    sunrise_h: float
    sunset_h: float


@dataclass(frozen=True)
class Calendar:
    """Working days in their order. Slots are counted through all of them, nights left out."""

    days: tuple[Workday, ...]

    @cached_property
    def first(self) -> Integers:
        """The first slot of each day, and one past the last: one more than there are days."""
        return np.concatenate(([0], np.cumsum([day.slots for day in self.days]))).astype(np.int64)

    @cached_property
    def day_of(self) -> Integers:
        """Which day each slot lies in."""
        return np.repeat(np.arange(len(self.days)), np.diff(self.first))

    @property
    def slots(self) -> int:
        """How many there are."""
        return int(self.first[-1])

    def clock_h(self, slot: int) -> float:
        """When a slot begins, by the clock."""
        at = int(self.day_of[slot])
        return self.days[at].start_h + (slot - int(self.first[at])) * SLOT_H

    def spans(self, start: int, end: int) -> list[tuple[int, float, float]]:
        """The days that slots from ``start`` to before ``end`` lie on: which, from when, until when."""
        found = []
        for at in range(int(self.day_of[start]), int(self.day_of[end - 1]) + 1):
            low, high = max(start, int(self.first[at])), min(end, int(self.first[at + 1]))
            if high > low:
                found.append((at, self.clock_h(low), self.clock_h(high - 1) + SLOT_H))
        return found

    @cached_property
    def _ordinals(self) -> Integers:
        return np.array([one.day.toordinal() for one in self.days], dtype=np.int64)

    def after_notice(self, at: int, office_days: int) -> int:
        """The first day that is worked so many office days after another; one past the last if none.

        Offices work from Monday to Friday, whatever the crew does; their holidays are not known.
        """
        wanted = working_days_after(self.days[at].day, office_days)
        return int(np.searchsorted(self._ordinals, wanted.toordinal()))


@dataclass(frozen=True)
class Hours:
    """When a crew works: the clock it begins at, hours a day, days a week, days it does not."""

    start_h: float
    a_day: float
    a_week: int
    off: frozenset[date]


def light_h(spot: Spot, days: list[date]) -> tuple[list[float], list[float]]:
    """Sunrise and sunset by the local clock on each day, in hours.

    Source: Reda & Andreas, NREL/TP-560-34302, through pvlib's spa module.
    """
    noons = np.array([datetime(d.year, d.month, d.day, tzinfo=UTC).timestamp() for d in days])
    delta_t = float(spa.calculate_deltat(days[0].year, days[0].month))
    _, rises, sets = spa.transit_sunrise_sunset(
        noons, spot.latitude_deg, spot.longitude_deg, delta_t=delta_t, numthreads=1
    )
    zone = ZoneInfo(spot.time_zone)

    def clock(moment_s: float, day: date) -> float:
        if not math.isfinite(moment_s):
            return math.nan
        local = datetime.fromtimestamp(moment_s, tz=UTC).astimezone(zone)
        return (local.hour + local.minute / 60 + local.second / 3600) % 24

    return (
        [clock(float(moment), day) for moment, day in zip(rises, days, strict=True)],
        [clock(float(moment), day) for moment, day in zip(sets, days, strict=True)],
    )


def calendar_of(spot: Spot, start: date, hours: Hours, count: int = MOST_DAYS) -> Calendar:
    """So many working days from ``start`` on. A day without light for a slot is none."""
    wanted, day = list[date](), start
    while len(wanted) < count:
        if day.weekday() < hours.a_week and day not in hours.off:
            wanted.append(day)
        day += timedelta(days=1)
    found = []
    for day, rise, fall in zip(wanted, *light_h(spot, wanted), strict=True):
        begin = math.ceil(max(hours.start_h, rise) / SLOT_H - 1e-9) * SLOT_H
        end = math.floor(min(hours.start_h + hours.a_day, fall) / SLOT_H + 1e-9) * SLOT_H
        slots = round((end - begin) / SLOT_H) if math.isfinite(rise) and math.isfinite(fall) else 0
        if slots > 0:
            found.append(Workday(day, begin, slots, rise, fall))
    return Calendar(tuple(found))
