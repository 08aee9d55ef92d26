"""The open trench: where a tape is put in, what lies over the wiring there, and what is asked."""

import math
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Literal

import numpy as np

from openfurrow.core.checks import MENDED_THERE, Check, holds
from openfurrow.core.fieldbook.places import ALIKE_M, HAIR_M, SAME_PLACE_M, Known, differ, named
from openfurrow.core.fieldbook.records import Record
from openfurrow.core.planned import Plan
from openfurrow.core.quantities import spoken
from openfurrow.core.trench.crossings import Dug
from openfurrow.core.working import COMMON_PRACTICE

# An inspector puts the tape in at several places: no piece of trench longer than this goes unread.
EVERY_M = 10.0
CoverVerdict = Literal["not yet", "sound", "shallow", "not sound", "asked"]


@dataclass(frozen=True, kw_only=True)
class Station:
    """A place where the cover is read: ``at_m`` along its ``stretch``, level; what is asked, planned.

    ``cover_m`` is the least that was measured there. Rules ask for ``least_m``; ``planned_m`` is that
    and what was wished on top of it.
    """

    of: str
    stretch: int
    east_m: float
    north_m: float
    at_m: float
    least_m: float
    planned_m: float
    records: tuple[Record, ...] = ()

    @property
    def name(self) -> str:
        """As it is said: which stretch, and how far along it."""
        return f"{self.stretch}, {spoken(self.at_m, 'run')}"

    @property
    def cover_m(self) -> float | None:
        """The least that was measured; None where nobody has."""
        return min((record.value for record in self.records), default=None)

    @property
    def asked(self) -> bool:
        """Whether two who read it differ, so that somebody has to look again."""
        return differ(self.records, ALIKE_M)

    @property
    def verdict(self) -> CoverVerdict:
        """What may be said of it."""
        if self.cover_m is None:
            return "not yet"
        if self.cover_m < self.least_m - HAIR_M:
            return "not sound"
        if self.asked:
            return "asked"
        return "shallow" if self.cover_m < self.planned_m - ALIKE_M else "sound"


def stations(plan: Plan, known: Known, loose: list[Record]) -> tuple[Station, ...]:
    """Where the tape goes in: both ends and every bend of each stretch, and often enough between.

    A record counts where it was made; one that was made elsewhere is loose.
    """
    route = plan.trench.runs[0].route
    found: dict[str, Station] = {}
    # Over what lies on the ground there is no cover to be read.
    opened = plan.trench.dug if plan.trench.over is None else ()
    for number, dug in enumerate(opened, start=1):
        for east, north, at in _places(dug):
            # By its place it is known for good; where stretches meet it is read once.
            of = f"trench:{east:.2f},{north:.2f}"
            station = Station(
                of=of,
                stretch=number,
                east_m=east,
                north_m=north,
                at_m=at,
                least_m=route.least_cover_m,
                planned_m=route.cover_m,
            )
            found.setdefault(of, station)
    return _with_records(list(found.values()), known, loose)


def _places(dug: Dug) -> list[tuple[float, float, float]]:
    """East, north and chainage of the stations of one stretch."""
    line = dug.stretch.line
    ends = np.unique(line.bends_at_m)
    at = np.unique(
        np.concatenate(
            [
                np.linspace(a, b, math.ceil((b - a) / EVERY_M - 1e-9) + 1)
                for a, b in pairwise(ends.tolist())
            ]
            or [ends]
        )
    )
    east = np.interp(at, line.bends_at_m, line.east_m)
    north = np.interp(at, line.bends_at_m, line.north_m)
    return list(zip(east.tolist(), north.tolist(), at.tolist(), strict=True))


def _with_records(found: list[Station], known: Known, loose: list[Record]) -> tuple[Station, ...]:
    covers = [r for (_, about), those in known.items() if about == "cover" for r in those]
    if not covers or not found:
        loose += covers
        return tuple(found)
    places = np.array([(one.east_m, one.north_m) for one in found])
    own: dict[int, list[Record]] = {}
    for record in covers:
        away = np.hypot(*(places - (record.east_m, record.north_m)).T)
        near = np.flatnonzero(away <= SAME_PLACE_M).tolist()
        for number in near:
            own.setdefault(number, []).append(record)
        loose += [] if near else [record]
    return tuple(replace(one, records=tuple(own.get(number, ()))) for number, one in enumerate(found))


def cover_checks(places: tuple[Station, ...]) -> tuple[Check, ...]:
    """Nothing is said of a trench that nobody has measured."""
    measured = [one for one in places if one.cover_m is not None]
    if not measured:
        return ()
    short = [one for one in measured if one.verdict == "not sound"]
    look = [one for one in measured if one.verdict != "sound"]
    left = len(places) - len(measured)
    least, planned = places[0].least_m, places[0].planned_m
    return (
        holds(
            "fieldbook",
            "cover",
            "Cover over the wiring is what the rules ask for",
            not short,
            f"less at {named(one.name for one in short)}"
            if short
            else f"at all {len(measured)} measured",
            f"at least {spoken(least, 'tape')}",
            remedy="Dig it deeper before anything is laid back: ask the inspector what he takes "
            "instead where rock forbids it.",
            source=COMMON_PRACTICE,
            given=MENDED_THERE,
        ),
        holds(
            "fieldbook",
            "cover-planned",
            "Cover over the wiring is as planned",
            not look,
            f"less, or two differ, at {named(one.name for one in look)}"
            if look
            else f"at all {len(measured)} measured",
            f"{spoken(planned, 'tape')}",
            remedy="More was planned than rules ask for. Measure again where two differ: the shallower "
            "counts until then.",
            source=COMMON_PRACTICE,
            given=MENDED_THERE,
            otherwise="look",
        ),
        holds(
            "fieldbook",
            "cover-read",
            "The tape was put in everywhere",
            not left,
            f"not looked at: {left} of {len(places)} places" if left else f"all {len(places)} places",
            "every end, bend and stretch",
            remedy="Read the others before it is filled: an inspector puts in his own tape.",
            source=COMMON_PRACTICE,
            given=MENDED_THERE,
            otherwise="look",
        ),
    )
