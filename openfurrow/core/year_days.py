"""Days of any year, as people say them: 21 Mar. The last of February is the 28th."""

import re

import numpy as np

DAYS = 365
DAYS_OF_MONTH = np.array([31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31])
MONTHS = (
    "january",
    "february",
    "march",
    "april",
    "may",
    "june",
    "july",
    "august",
    "september",
    "october",
    "november",
    "december",
)
SHORT_MONTHS = tuple(month[:3].capitalize() for month in MONTHS)
_SAID = re.compile(
    r"(?:(?P<day>\d{1,2})\.? +(?P<month>[a-z]+)\.?|(?P<name>[a-z]+)\.? +(?P<of>\d{1,2}))"
)


def day_words(day: int) -> str:
    """A day of the year, counted from nought, as people say it."""
    ends = np.cumsum(DAYS_OF_MONTH)
    month = int(np.searchsorted(ends, day, side="right"))
    return f"{day - int(ends[month] - DAYS_OF_MONTH[month]) + 1} {SHORT_MONTHS[month]}"


def day_number(text: str) -> int:
    """The day of the year, counted from nought, that a text names with its month in letters.

    Raises ValueError: of 3/4 nobody knows which is the month.
    """
    found = _SAID.fullmatch(text.strip().lower())
    name = (found["month"] or found["name"]) if found else ""
    months = [
        number for number, month in enumerate(MONTHS) if len(name) >= 3 and month.startswith(name)
    ]
    if not found or not months:
        raise ValueError("is no day of the year: write day and month, 21 Mar")
    (month,), day = months, int(found["day"] or found["of"])
    if not 1 <= day <= DAYS_OF_MONTH[month]:
        last = f"{DAYS_OF_MONTH[month]} {SHORT_MONTHS[month]}"
        raise ValueError(f"is no day of every year: {SHORT_MONTHS[month]} ends on {last}")
    return int(DAYS_OF_MONTH[:month].sum()) + day - 1


def a_day(text: str) -> str:
    """The same day as it is kept. Raises ValueError for none."""
    return day_words(day_number(text))
