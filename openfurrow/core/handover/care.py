"""Care from the day it is handed over: what is looked at when."""

from dataclasses import dataclass
from datetime import date, timedelta

from openfurrow.core.codes import table
from openfurrow.core.working import Source

MONTHS = 12
# The other half of the year, on the other half of the globe.
HALF = 6


@dataclass(frozen=True, kw_only=True)
class CareDate:
    """A day on which something is looked at, and why."""

    key: str
    day: date
    what: str
    why: str


def care_source() -> Source:
    """Where the list comes from."""
    return table("common", "care").source


def months_on(day: date, months: int) -> date:
    """So many months later; the last of a month where it is too short."""
    at = day.year * MONTHS + day.month - 1 + months
    year, month = divmod(at, MONTHS)
    after = date(year + (month == MONTHS - 1), (month + 1) % MONTHS + 1, 1)
    return min(date(year, month + 1, 1) + timedelta(days=day.day - 1), after - timedelta(days=1))


def _first(handed_over: date, days: int, month: int, southern: bool) -> date:
    """The first time: so many days on, in the next such month at the soonest."""
    soonest = handed_over + timedelta(days=days)
    if not month:
        return soonest
    wanted = (month - 1 + HALF * southern) % MONTHS + 1
    if soonest.month == wanted:
        return soonest
    year = soonest.year + (soonest.month > wanted)
    return date(year, wanted, 1)


# Settings are written down for so many years.
YEARS_OF_SETTINGS = 2
# Days of the year are counted in one without a leap day.
PLAIN_YEAR = 2025


@dataclass(frozen=True)
class Setting:
    """Tables that are set to a tilt on a day of the year, counted from nought; ``whose`` they are."""

    day: int
    tilt: str
    whose: str


def setting_dates(handed_over: date, settings: tuple[Setting, ...]) -> tuple[CareDate, ...]:
    """When tables are set to another tilt, year after year."""
    found = []
    for one in settings:
        plain = date(PLAIN_YEAR, 1, 1) + timedelta(days=one.day)
        first = handed_over.year + (plain.replace(year=handed_over.year) <= handed_over)
        found += [
            CareDate(
                key=f"set-{one.whose}-{one.day}",
                day=plain.replace(year=first + year),
                what=f"Set {one.whose} to {one.tilt}",
                why="In calm, two to a table: on its bolts alone the glass swings. Pin the strut, then "
                "look at the wires.",
            )
            for year in range(YEARS_OF_SETTINGS)
        ]
    return tuple(found)


def care_dates(
    handed_over: date, *, southern: bool, frost: bool, mover: bool = False
) -> tuple[CareDate, ...]:
    """Every day of care, the soonest first.

    ``frost``: the ground freezes, so what it grips is read. ``mover``: something follows the sun.
    """
    care = table("common", "care")
    there = {"always": True, "frost": frost, "mover": mover}
    found = []
    for row, key in enumerate(care.texts["key"]):
        if not there[care.texts["when"][row]]:
            continue
        days, month, every, times = (
            round(care.number(column, row))
            for column in ("first_days", "month", "every_months", "times")
        )
        first = _first(handed_over, days, month, southern)
        found += [
            CareDate(
                key=key,
                day=months_on(first, every * number),
                what=care.texts["what"][row],
                why=care.texts["why"][row],
            )
            for number in range(times)
        ]
    return tuple(sorted(found, key=lambda one: (one.day, one.key)))
