"""Places as a crew measures them: offset and chainage, bearing and distance, two tapes.

All in local level metres; bearings are true degrees, clockwise from north.
"""

import math
from dataclasses import dataclass

Place = tuple[float, float]


class MeasureError(ValueError):
    """Measurements that lead to no place; the text says why and by how much.

    ``{}`` in ``text`` stands for each of ``lengths_m`` in turn, so that they can be told in any unit.
    """

    def __init__(self, text: str, *lengths_m: float) -> None:
        """Keep both; the error's own words are in metres."""
        self.text, self.lengths_m = text, lengths_m
        super().__init__(text.format(*(f"{length:.3f} m" for length in lengths_m)))


@dataclass(frozen=True)
class Found:
    """A place, with the words for how it was come by."""

    east_m: float
    north_m: float
    words: str


def bearing_deg(start: Place, end: Place) -> float:
    """True bearing from one place to another. Raises MeasureError for one and the same place."""
    if math.dist(start, end) < 1e-6:
        raise MeasureError("both ends of the line are the same place")
    return math.degrees(math.atan2(end[0] - start[0], end[1] - start[1])) % 360.0


def by_bearing(start: Place, toward_deg: float, distance_m: float) -> Place:
    """The place at a distance along a bearing."""
    turn = math.radians(toward_deg)
    return start[0] + distance_m * math.sin(turn), start[1] + distance_m * math.cos(turn)


def by_offset(start: Place, end: Place, chainage_m: float, offset_m: float) -> Place:
    """The place ``chainage_m`` along the baseline from ``start``, ``offset_m`` to its right."""
    along = bearing_deg(start, end)
    return by_bearing(by_bearing(start, along, chainage_m), along + 90.0, offset_m)


def by_two_tapes(
    first: Place, first_tape_m: float, second: Place, second_tape_m: float
) -> tuple[Place, Place]:
    """The two places where tapes from two known places meet: right of first to second, then left.

    Tapes that fall short of each other, or of which one lies wholly inside the other's circle, meet
    nowhere: MeasureError says by how much. Within 5 mm of that they meet once, on the line.
    """
    base = math.dist(first, second)
    if base < 1e-6:
        raise MeasureError("both known places are the same")
    short = base - first_tape_m - second_tape_m
    inside = abs(first_tape_m - second_tape_m) - base
    if short > 0.005:
        raise MeasureError(
            "the tapes do not meet: together they are {} shorter than the {} between the two places",
            short,
            base,
        )
    if inside > 0.005:
        raise MeasureError(
            "the tapes do not meet: the longer is {} too long for the shorter and the {} between the "
            "two places",
            inside,
            base,
        )
    along = (first_tape_m**2 - second_tape_m**2 + base**2) / (2 * base)
    aside = math.sqrt(max(first_tape_m**2 - along**2, 0.0))
    return (
        by_offset(first, second, along, aside),
        by_offset(first, second, along, -aside),
    )


def along_from(start: Place, end: Place, place: Place) -> tuple[float, float]:
    """Chainage and offset (right positive) of a place from a baseline: `by_offset` the other way."""
    turn = math.radians(bearing_deg(start, end))
    dx, dy = place[0] - start[0], place[1] - start[1]
    return (
        dx * math.sin(turn) + dy * math.cos(turn),
        dx * math.cos(turn) - dy * math.sin(turn),
    )
