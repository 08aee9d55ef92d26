"""The trench stretch by stretch: what passes over each part, what is met, and what that asks for."""

from collections.abc import Iterable
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import shapely

from openfurrow.core.checks import Check, holds
from openfurrow.core.codes import RulePack
from openfurrow.core.site.keepouts import KeepOuts
from openfurrow.core.trench.crossings import Dug, way_of
from openfurrow.core.trench.givens import TrenchGivens
from openfurrow.core.trench.route import Profile, Route, least_covers_m
from openfurrow.core.working import COMMON_PRACTICE

# What is driven on for good, and what only while the job is built.
ROADS, TRUCKS = frozenset({"road"}), frozenset({"truck path"})
OPEN = "open ground"
HAIR_M = 1e-6


@dataclass(frozen=True, kw_only=True)
class Section:
    """A part of one stretch all along which the same is so; level lengths from the stretch's beginning.

    ``over`` is what lies over it, ``by_hand`` the lines for which it is dug by hand. Rules ask for
    ``least_m`` of cover there, and ``cover_m`` is what it gets: the whole trench has one depth.
    """

    stretch: int
    name: str
    from_m: float
    to_m: float
    over: str
    wheels: bool
    trucks: str
    by_hand: str
    least_m: float
    cover_m: float
    width_m: float


@dataclass(frozen=True)
class _Span:
    from_m: float
    to_m: float
    label: str

    def holds(self, at_m: float) -> bool:
        return self.from_m - HAIR_M <= at_m <= self.to_m + HAIR_M


def roads_met(keepouts: KeepOuts, lines: Iterable[Route | Profile]) -> tuple[str, ...]:
    """Roads that are drawn and that ways pass under, wherever in their bands they lie."""
    found = (span.label for line in lines for span in _spans(keepouts, line, ROADS))
    return tuple(dict.fromkeys(found))


def sections_of(
    keepouts: KeepOuts, dug: tuple[Dug, ...], givens: TrenchGivens, route: Route, pack: RulePack
) -> tuple[Section, ...]:
    """Every stretch divided where what lies over it, or how it is dug, changes."""
    # A driveway that was said and not drawn lies anywhere: all of it is taken to be under wheels.
    drawn = roads_met(keepouts, (piece.stretch.line for piece in dug))
    anywhere = givens.under_driveway and not drawn
    open_m, wheels_m = least_covers_m(pack, givens, len(drawn))
    found = []
    for number, piece in enumerate(dug, start=1):
        line = piece.stretch.line
        roads, trucks = _spans(keepouts, line, ROADS), _spans(keepouts, line, TRUCKS)
        hands = [_Span(one.from_m, one.to_m, one.zone.feature.label) for one in piece.crossings]
        long = line.level_length_m
        spans = (*roads, *trucks, *hands)
        ends = [0.0, long, *(one.from_m for one in spans), *(one.to_m for one in spans)]
        marks = np.unique(np.round(np.clip(ends, 0.0, long), 6)).tolist()
        for start, end in pairwise(marks):
            middle = (start + end) / 2
            road, truck, hand = (
                ", ".join(dict.fromkeys(one.label for one in those if one.holds(middle)))
                for those in (roads, trucks, hands)
            )
            said = anywhere and not road
            wheels = bool(road) or said
            found.append(
                Section(
                    stretch=number,
                    name=piece.stretch.name,
                    from_m=start,
                    to_m=end,
                    over=road or ("a driveway, somewhere" if said else OPEN),
                    wheels=wheels,
                    trucks=truck,
                    by_hand=hand,
                    least_m=max(open_m, wheels_m) if wheels else open_m,
                    cover_m=route.cover_m,
                    width_m=piece.width_m,
                )
            )
    return tuple(found)


def _spans(keepouts: KeepOuts, line: Route | Profile, kinds: frozenset[str]) -> list[_Span]:
    """Where a way lies in the bands of such things; one that only touches a band is not in it."""
    way = way_of(line)
    if len(way) < 2:
        return []
    path, found = shapely.LineString(way), []
    for zone in keepouts.zones:
        if zone.feature.kind not in kinds:
            continue
        for part in shapely.get_parts(shapely.intersection(path, zone.band)):
            at = shapely.line_locate_point(path, shapely.points(shapely.get_coordinates(part)))
            if at.size and float(np.ptp(at)) > HAIR_M:
                found.append(_Span(float(at.min()), float(at.max()), zone.feature.label))
    return found


def section_checks(sections: tuple[Section, ...]) -> tuple[Check, ...]:
    """No truck falls into an open trench. Cover follows from what lies over it, by `lay_route`."""
    trucks = list(dict.fromkeys(one.trucks for one in sections if one.trucks))
    if not trucks:
        return ()
    return (
        holds(
            "trench",
            "trucks",
            "Trucks pass before the trench is opened, or over plates",
            False,
            f"crosses {', '.join(trucks[:3])}",
            "never open where they drive",
            remedy="Dig there last, fill and tamp it the same day, or lay steel plates a foot past "
            "both edges; the concrete truck knows it.",
            source=COMMON_PRACTICE,
            given="site.route",
            otherwise="look",
        ),
    )
