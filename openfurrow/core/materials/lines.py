"""One line of the list: what the drawing takes, what is lost, what is bought."""

import math
from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Literal

from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, Answer, Input, Working

Loses = Literal["none", "cut", "small", "post"]


@dataclass(frozen=True)
class Take:
    """What a stage takes: ``net`` in ``kind``, bought in multiples of ``pack`` (SI of the kind).

    ``length_m`` is that of a piece that is sold by its length. ``shares`` is how much of it each array
    takes, by its name, none for the whole job; where none are said it is all of one.
    """

    stage: str
    key: str
    item: str
    net: float
    kind: str
    where: str
    loses: Loses = "none"
    pack: float = 1.0
    piece_kg: float = 0.0
    kg_per_unit: float = 0.0
    length_m: float = 0.0
    shares: tuple[tuple[str, float], ...] = ()


def together(takes: Iterable[tuple[str, Take]]) -> tuple[Take, ...]:
    """Alike takes of several arrays as one, before anything is rounded; what differs stays apart.

    Each take comes with its array's name. What shares a key and is not alike (a longer post, another
    module) gets a number after its key, by which its line is known, and says whose it is.
    """
    alike: dict[tuple[str, str, str, float, float, float], list[tuple[str, Take]]] = {}
    for name, take in takes:
        if take.net > 0:
            same = (
                *(take.key, take.item, take.kind),
                *(take.pack, round(take.piece_kg, 3), round(take.length_m, 4)),
            )
            alike.setdefault(same, []).append((name, take))
    of_key = Counter(key for key, *_ in alike)
    count: Counter[str] = Counter()
    told = []
    for (key, *_), own in alike.items():
        count[key] += 1
        _, first = own[0]
        whose = ", ".join(dict.fromkeys(name for name, _ in own if name))
        told.append(
            replace(
                first,
                key=key if count[key] == 1 else f"{key}_{count[key]}",
                net=sum(take.net for _, take in own),
                shares=_shares(own),
                where=f"{whose}: {first.where}" if whose and of_key[key] > 1 else first.where,
            )
        )
    return tuple(told)


def _shares(own: list[tuple[str, Take]]) -> tuple[tuple[str, float], ...]:
    """How much of alike takes each array has."""
    found: dict[str, float] = {}
    for name, take in own:
        for whose, net in take.shares or ((name, take.net),):
            found[whose] = found.get(whose, 0.0) + net
    return tuple(found.items())


@dataclass(frozen=True)
class MaterialLine:
    """A take with its waste; ``quantity`` is what to order, in SI of ``kind``."""

    stage: str
    key: str
    item: str
    net: float
    waste: float
    spare: int
    pack: float
    quantity: float
    kind: str
    where: str
    piece_kg: float
    mass_kg: float
    length_m: float
    shares: tuple[tuple[str, float], ...] = ()

    @classmethod
    def of(cls, take: Take, waste: float, spare: int) -> "MaterialLine":
        """Round a take up: ceil((net × (1 + waste) + spare) / pack) × pack."""
        packs = math.ceil((take.net * (1 + waste) + spare) / take.pack - 1e-9)
        quantity = packs * take.pack
        mass = quantity * (take.kg_per_unit or take.piece_kg)
        return cls(
            take.stage,
            take.key,
            take.item,
            take.net,
            waste,
            spare,
            take.pack,
            quantity,
            take.kind,
            take.where,
            take.piece_kg,
            mass,
            take.length_m,
            take.shares,
        )

    def answer(self) -> Answer:
        """The line as an answer with its working."""
        source = COMMON_PRACTICE if self.waste or self.spare else GEOMETRY
        return Answer(
            "materials",
            self.key,
            self.item,
            Working(
                "q",
                "ceil((n * (1 + w) + s) / p) * p",
                (
                    Input("n", "the drawing takes", self.net, self.kind),
                    Input("w", "lost", self.waste, "ratio"),
                    Input("s", "spare", float(self.spare), "count"),
                    Input("p", "sold in", self.pack, self.kind),
                ),
                self.quantity,
                self.kind,
                source,
                self.where,
            ),
        )
