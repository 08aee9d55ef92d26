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
        "As it stands in the list, or how it begins there: of several the longest that fits counts.",
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

    def fits(self, item: str) -> bool:
        """Whether an item of the list begins so, word by word."""
        mine = self.item.strip().casefold()
        if not mine:
            return False
        for units in BOTH:
            told = in_words(item, units).casefold()
            if told.startswith(mine) and not told[len(mine) : len(mine) + 1].isalnum():
                return True
        return False


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
    """Every line with the price that fits it best: the longest beginning of its name that has one."""
    said = sorted(
        (one for one in prices if one.price is not None), key=lambda one: -len(one.item.strip())
    )
    return Cost(tuple(_priced(line, said) for line in lines))


def _priced(line: MaterialLine, longest_first: list[PriceGivens]) -> Priced:
    price = next((one for one in longest_first if one.fits(line.item)), None)
    if price is None or price.price is None:
        return Priced(line, None, None, "no price")
    measured, si = MEASURED[price.per]
    amount = _amount(line, measured)
    if amount is None:
        return Priced(line, None, None, f"priced by the {price.per}, and its {measured} is not known")
    return Priced(line, price, price.price * amount / si)


def _amount(line: MaterialLine, measured: str) -> float | None:
    """How much of a line is ordered by what is measured; None where that is not known."""
    if measured == "weight":
        return line.mass_kg or (line.quantity if line.kind == "haul" else None)
    kinds = {"count": "count", "length": "run", "volume": "volume"}
    return line.quantity if line.kind == kinds[measured] else None
