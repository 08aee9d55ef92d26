"""Tilts that a table is set to through the year: all turn about one bolt that stays where it is."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check, holds
from openfurrow.core.codes import RulePack
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.rows.givens import RowsGivens
from openfurrow.core.rows.lie import Lie, turned
from openfurrow.core.rows.placed import Placed
from openfurrow.core.rows.travel import Travel
from openfurrow.core.site.ground import Ground
from openfurrow.core.working import GEOMETRY
from openfurrow.core.year_days import DAYS, day_number, day_words

Integers = NDArray[np.int64]


@dataclass(frozen=True)
class Position:
    """A tilt that the tables are set to, and how they lie at it.

    ``even`` is the pattern alone, ``lie`` the tables as they are built; ``days`` are those of the year,
    from nought, from which it stands: none where it is only how they are put up.
    """

    section: TableSection
    even: Lie
    lie: Lie
    days: tuple[int, ...]

    @property
    def tilt_deg(self) -> float:
        """From level."""
        return self.section.tilt_deg

    @property
    def words(self) -> str:
        """The tilt, with the days from which it stands."""
        days = " and ".join(day_words(day) for day in self.days)
        return f"{self.tilt_deg:g}°" + (f" from {days}" if days else ", put up at")


def tilts_of(givens: RowsGivens, travel: Travel | None, pack: RulePack) -> tuple[float, ...]:
    """Every tilt that counts, the flattest first: of the settings, and that at which it is put up.

    What travels is looked at from limit to limit, and as it is stowed.
    """
    if travel is not None:
        return tuple(sorted({givens.tilt_deg, travel.stow_deg, *travel.tilts_deg(pack)}))
    return tuple(sorted({givens.tilt_deg, *(one.tilt_deg for one in givens.positions)}))


def days_of(givens: RowsGivens, tilt_deg: float) -> tuple[int, ...]:
    """The days from which a tilt stands."""
    return tuple(sorted(day_number(one.day) for one in givens.positions if one.tilt_deg == tilt_deg))


def set_to(
    ground: Ground,
    even: Lie,
    stands: Placed,
    sections: Sequence[TableSection],
    givens: RowsGivens,
    *,
    by_days: bool,
) -> tuple[Position, ...]:
    """The tables at each of their tilts; ``even`` and ``stands`` are as the steepest lies.

    ``by_days`` False: they are set by no day, whatever the settings say.
    """
    found = []
    for section in sections:
        steepest = section.tilt_deg == even.tables.section.tilt_deg
        pattern = even if steepest else turned(ground, even, section)
        alone = stands.lie is even
        lie = pattern if alone else stands.lie if steepest else turned(ground, stands.lie, section)
        days = days_of(givens, section.tilt_deg) if by_days else ()
        found.append(Position(section, pattern, lie, days))
    return tuple(found)


def by_day(positions: Sequence[Position]) -> Integers:
    """Which of the positions stands on each day of the year; the only one where none has a day."""
    changes = sorted((day, number) for number, one in enumerate(positions) for day in one.days)
    if not changes:
        return np.zeros(DAYS, dtype=np.int64)
    days, numbers = np.array(changes).T
    # Before the first change of a year that of the year before stands.
    return np.asarray(numbers[np.searchsorted(days, np.arange(DAYS), side="right") - 1])


def positions_check(givens: RowsGivens) -> tuple[Check, ...]:
    """Whether two settings begin on one day: then nobody knows which stands."""
    if not givens.positions:
        return ()
    days = [day_number(one.day) for one in givens.positions]
    twice = sorted({day for day in days if days.count(day) > 1})
    return (
        holds(
            "rows",
            "positions",
            "Every setting has a day of its own",
            not twice,
            f"two from {', '.join(map(day_words, twice))}" if twice else "each has",
            "one setting from each day",
            remedy="Change the day of one, or take it out.",
            source=GEOMETRY,
            given="rows.positions",
        ),
    )
