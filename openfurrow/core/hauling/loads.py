"""What rides on what: deliveries, loose things on their own trucks, and loads of one's own truck."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal

from openfurrow.core.hauling.parts import Part
from openfurrow.core.schedule.givens import DeliveryGivens

Rides = Literal["own truck", "delivery", "loose"]
# Weights are added up in floats: a load that is full to the pound is not over.
HAIR = 1e-9


@dataclass(frozen=True, kw_only=True)
class Carried:
    """So many of a part on one load; ``of`` is what it is known by there."""

    of: str
    part: Part
    quantity: float

    @property
    def mass_kg(self) -> float:
        """Its weight; nought where the list knows none."""
        return self.part.line.mass_kg * self.quantity / self.part.line.quantity


@dataclass(frozen=True, kw_only=True)
class Load:
    """What comes together: load ``number`` of ``count`` of a day's own truck, or a delivery.

    ``day`` is None where nobody has said or found one.
    """

    rides: Rides
    day: date | None
    what: str
    number: int
    count: int
    carried: tuple[Carried, ...]

    @property
    def mass_kg(self) -> float:
        """The weight of all on it whose weight is known."""
        return sum(one.mass_kg for one in self.carried)


def onto_trucks(pieces: Sequence[tuple[int, float]], most_kg: float | None) -> list[list[int]]:
    """How many of each go on each load, [loads][kinds]: in their order, on the first that has room.

    ``pieces`` are how many there are and what one weighs. ``most_kg`` is what a load may weigh; None:
    all go at once. One that is heavier by itself goes alone.
    """
    loads: list[list[int]] = []
    rooms: list[float] = []
    for kind, (count, each_kg) in enumerate(pieces):
        left, at = count, 0
        while left:
            if at == len(loads):
                loads.append([0] * len(pieces))
                rooms.append(float("inf") if most_kg is None else most_kg)
            fits = left
            if most_kg is not None and each_kg > 0:
                # One that was too heavy by itself has left less than no room.
                fits = min(left, max(0, int(rooms[at] / each_kg + HAIR)))
                if not fits and not any(loads[at]):
                    fits = 1
            loads[at][kind] += fits
            rooms[at] -= fits * each_kg
            left, at = left - fits, at + 1
    return loads


def _carried(part: Part, pieces: int, ordinal: int) -> Carried:
    quantity = part.line.quantity * pieces / part.pieces
    return Carried(of=f"part:{part.of}/{ordinal}:{quantity:.10g}", part=part, quantity=quantity)


def _worst_first(parts: Sequence[Part]) -> list[Part]:
    """What stops the most where it is missing goes first, of that the heavy before the light."""
    return sorted(parts, key=lambda part: (-part.stops.hours, -part.line.mass_kg))


def _own_loads(day: date | None, parts: Sequence[Part], most_kg: float | None) -> list[Load]:
    """The loads of one day."""
    ordered = _worst_first(parts)
    each = [(part.pieces, part.line.mass_kg / part.pieces) for part in ordered]
    loads = onto_trucks(each, most_kg)
    seen = [0] * len(ordered)
    found = []
    for number, counts in enumerate(loads, start=1):
        carried = []
        for kind, pieces in enumerate(counts):
            if pieces:
                seen[kind] += 1
                carried.append(_carried(ordered[kind], pieces, seen[kind]))
        found.append(
            Load(
                rides="own truck",
                day=day,
                what="Own truck",
                number=number,
                count=len(loads),
                carried=tuple(carried),
            )
        )
    return found


def arrivals(deliveries: Iterable[DeliveryGivens], what: str) -> tuple[date, ...]:
    """The days on which something comes, as far as they were said."""
    return tuple(sorted(one.arrives for one in deliveries if one.what == what and one.arrives))


def loads_of(
    parts: tuple[Part, ...], deliveries: tuple[DeliveryGivens, ...], most_kg: float | None
) -> tuple[Load, ...]:
    """All loads by their days, those without a day last.

    What a delivery was said for comes with it, loose things on the day they are needed, and all else
    on one's own truck that morning.
    """
    together: dict[tuple[Rides, date | None, str], list[Part]] = {}
    for part in parts:
        comes = arrivals(deliveries, part.comes)
        if part.loose:
            key: tuple[Rides, date | None, str] = (
                "loose",
                comes[0] if comes else part.first,
                part.line.item,
            )
        elif comes:
            key = ("delivery", comes[0], part.comes)
        else:
            key = ("own truck", part.first, "")
        together.setdefault(key, []).append(part)
    found: list[Load] = []
    for (rides, day, what), those in together.items():
        if rides == "own truck":
            found += _own_loads(day, those, most_kg)
            continue
        carried = tuple(_carried(part, part.pieces, 1) for part in _worst_first(those))
        found.append(Load(rides=rides, day=day, what=what, number=1, count=1, carried=carried))
    order = {"delivery": 0, "loose": 1, "own truck": 2}
    return tuple(sorted(found, key=lambda load: (load.day or date.max, order[load.rides], load.number)))
