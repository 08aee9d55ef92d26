"""What things cost: prices as a merchant quotes them, laid on the lines of the list."""

from dataclasses import dataclass
from datetime import date
from typing import Literal

from openfurrow.core.givens import Thing, given
from openfurrow.core.materials.lines import MaterialLine
from openfurrow.core.quantities import CUBIC_YARD_M3, FOOT_M, POUND_KG, UnitSystem, in_words

Per = Literal["piece", "m", "ft", "kg", "lb", "m³", "cu yd"]
# What is measured in each, and how much of it in SI one is.
MEASURED: dict[Per, tuple[str, float]] = {
    "piece": ("count", 1.0),
    "m": ("length", 1.0),
    "ft": ("length", FOOT_M),
    "kg": ("weight", 1.0),
    "lb": ("weight", POUND_KG),
    "m³": ("volume", 1.0),
    "cu yd": ("volume", CUBIC_YARD_M3),
}
BOTH: tuple[UnitSystem, ...] = ("us", "metric")


class PriceGivens(Thing):
    """What one item of the list costs, or everything whose name begins so."""

    item: str = given(
        "",
        "Item",
        "text",
        "As it stands in the list, for that item alone; or how items begin there, for all of them that "
        "have no price of their own.",
        "The list of materials.",
        length=120,
    )
    price: float | None = given(
        None,
        "Price",
        "price",
        "Without tax, in the currency of the job. Left empty: it has none yet.",
        "The merchant's quotation.",
        low=0,
        high=1e7,
    )
    per: Per = given(
        "piece",
        "For each",
        "choice",
        "Steel is often sold by weight: what the plan knows the weight of.",
        "The merchant's quotation.",
    )
    priced_on: date | None = given(
        None, "Priced on", "date", "The day of the quotation.", "The merchant's quotation."
    )
    quoted_by: str = given(
        "", "From", "text", "Who quoted it, or where it was read.", "The quotation.", length=80
    )

    @property
    def called(self) -> str:
        """The item."""
        return self.item.strip()

    def fits(self, names: frozenset[str]) -> bool:
        """Whether an item of the list, by its names, begins so, word by word."""
        mine = self.name
        return bool(mine) and any(
            name.startswith(mine) and not name[len(mine) : len(mine) + 1].isalnum() for name in names
        )

    @property
    def name(self) -> str:
        """The item as it is compared."""
        return self.item.strip().casefold()


def names_of(item: str) -> frozenset[str]:
    """How an item of the list is written in either way of measuring, as it is compared."""
    return frozenset(in_words(item, units).strip().casefold() for units in BOTH)


@dataclass(frozen=True)
class Priced:
    """A line of the list with its price; ``cost`` None where it has none, ``why`` in words."""

    line: MaterialLine
    price: PriceGivens | None
    cost: float | None
    why: str = ""


@dataclass(frozen=True)
class Cost:
    """What lines come to: ``known`` of those that have a price; ``open`` are those that have none."""

    priced: tuple[Priced, ...]

    @property
    def known(self) -> float:
        """All that is known, without tax."""
        return sum(one.cost for one in self.priced if one.cost is not None)

    @property
    def open(self) -> tuple[Priced, ...]:
        """Lines that nobody knows the cost of."""
        return tuple(one for one in self.priced if one.cost is None)

    @property
    def undated(self) -> int:
        """Prices that say no day."""
        return len({one.price.id for one in self.priced if one.price and one.price.priced_on is None})

    @property
    def oldest(self) -> date | None:
        """The day of the oldest price that was used."""
        days = [one.price.priced_on for one in self.priced if one.price and one.price.priced_on]
        return min(days, default=None)

    def of_stage(self, stage: str) -> "Cost":
        """The same of one stage's lines."""
        return Cost(tuple(one for one in self.priced if one.line.stage == stage))


def cost_of(lines: tuple[MaterialLine, ...], prices: tuple[PriceGivens, ...]) -> Cost:
    """Every line with its own price, else with that of the longest beginning of its name.

    What is the whole name of one line is the price of no other: a merchant who leaves the heavy kind
    open does not sell it at the price of the light one.
    """
    names = [names_of(line.item) for line in lines]
    whole = frozenset().union(*names)
    said = [one for one in prices if one.price is not None]
    own = {one.name: one for one in reversed(said) if one.name in whole}
    begun = sorted((one for one in said if one.name not in whole), key=lambda one: -len(one.name))
    return Cost(
        tuple(
            _priced(
                line,
                next((own[name] for name in of if name in own), None)
                or next((one for one in begun if one.fits(of)), None),
            )
            for line, of in zip(lines, names, strict=True)
        )
    )


def _priced(line: MaterialLine, price: PriceGivens | None) -> Priced:
    if price is None or price.price is None:
        return Priced(line, None, None, "no price")
    measured, si = MEASURED[price.per]
    amount = _amount(line, measured)
    if amount is None:
        return Priced(
            line, None, None, f"priced by the {price.per}, but its {measured} is not in the list"
        )
    return Priced(line, price, price.price * amount / si)


def _amount(line: MaterialLine, measured: str) -> float | None:
    """How much of a line is ordered by what is measured; None where that is not known."""
    if measured == "weight":
        return line.mass_kg or (line.quantity if line.kind == "haul" else None)
    if measured == "length" and line.length_m:
        return line.quantity * line.length_m
    kinds = {"count": "count", "length": "run", "volume": "volume"}
    return line.quantity if line.kind == kinds[measured] else None
