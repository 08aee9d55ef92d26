"""The list of prices as CSV, or in a workbook: out to be filled in by a merchant, and back in."""

import math
import re
from collections.abc import Iterator
from datetime import date
from typing import get_args

from openfurrow.core.design import Design
from openfurrow.core.materials.prices import Per, PriceGivens
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value, in_words
from openfurrow.exchange.bounds import refuse
from openfurrow.exchange.csv_out import csv_text, without_guard
from openfurrow.exchange.merchant_file import merchant_rows
from openfurrow.exchange.read_ground import new_id
from openfurrow.exchange.wanted import Wanted

HEAD = ("item", "price", "per", "currency", "priced on", "from", "order")
NEEDED = ("item", "price")
MOST_PRICES = 400
ALLOWED = "CSV, or a workbook, whose first line names at least item and price"
REMEDY = "Write the list of prices out, fill it in, and bring that back."
# One mark with three figures behind it, and no nought before.
EITHER = re.compile(r"[1-9]\d{0,2}[.,]\d{3}")
PERS: tuple[Per, ...] = get_args(Per)
PER_WORDS: dict[str, Per] = {
    **{per.casefold(): per for per in PERS},
    "": "piece",
    "each": "piece",
    "m3": "m³",
    "foot": "ft",
    "metre": "m",
    "meter": "m",
    "pound": "lb",
    "cuyd": "cu yd",
}


def prices_csv(design: Design, plan: Plan, wanted: Wanted) -> str:
    """Every line of the list with its price, or room for one; then the prices that fit none."""
    bought, told = design.materials, plan.materials.cost.priced
    used = {one.price.id for one in told if one.price}
    rows = [
        (
            in_words(one.line.item, wanted.units),
            *_said(one.price, bought.currency, _usual_per(one.line.kind, wanted.units)),
            format_value(one.line.quantity, one.line.kind, wanted.units),
        )
        for one in told
    ]
    rows += [
        (one.item, *_said(one, bought.currency), "") for one in bought.prices if one.id not in used
    ]
    return csv_text(HEAD, dict.fromkeys(rows))


def _usual_per(kind: str, units: UnitSystem) -> Per:
    """By what a line is ordered, so that a price for each can be laid on it."""
    us = units == "us"
    found: dict[str, Per] = {
        "run": "ft" if us else "m",
        "volume": "cu yd" if us else "m³",
        "haul": "lb" if us else "kg",
    }
    return found.get(kind, "piece")


def _said(
    price: PriceGivens | None, currency: str, per: Per = "piece"
) -> tuple[str, str, str, str, str]:
    if price is None or price.price is None:
        return "", per, currency, "", ""
    day = price.priced_on.isoformat() if price.priced_on else ""
    return f"{price.price:g}", price.per, currency, day, price.quoted_by


def with_prices(design: Design, data: bytes, name: str) -> tuple[Design, str]:
    """The design with a file's prices: those of the same items are replaced, others stay.

    Raises DesignError naming the line and what is wrong in it; nothing is taken then.
    """
    found = read_prices(data, design.materials.currency)
    told = {one.called.casefold() for one in found}
    kept = tuple(one for one in design.materials.prices if one.called.casefold() not in told)
    if len(kept) + len(found) > MOST_PRICES:
        raise refuse(
            f"brings the list to {len(kept) + len(found)} prices",
            f"at most {MOST_PRICES}",
            "Take out what fits nothing, or price by how items begin.",
        )
    bought = design.materials.model_copy(update={"prices": (*kept, *found)})
    words = f"{len(found)} price{'s' * (len(found) != 1)} from {name.strip()[:60] or 'a file'}"
    return design.model_copy(update={"materials": bought}), words


def read_prices(data: bytes, currency: str) -> tuple[PriceGivens, ...]:
    """The prices of a file, CSV or workbook; lines without one are passed over. Raises DesignError."""
    rows, titles, between = merchant_rows(data, NEEDED, ALLOWED, REMEDY, "prices")
    found = tuple(_read(rows, titles, currency, between))
    if not found:
        raise refuse("holds no price", "at least one line with a price", REMEDY)
    return found


def _read(
    rows: list[list[str]], titles: list[str], currency: str, between: str
) -> Iterator[PriceGivens]:
    seen: dict[str, int] = {}
    for number, row in enumerate(rows[1:], start=2):
        cells = {title: without_guard(cell.strip()) for title, cell in zip(titles, row, strict=False)}
        if not cells.get("price") or not any(cells.values()):
            continue
        item = cells["item"]
        if not item:
            raise refuse(f"has a price without an item in line {number}", "its item", REMEDY)
        if len(item) > 120:
            raise refuse(f"has an item of {len(item)} letters in line {number}", "120", REMEDY)
        if (before := seen.setdefault(item.casefold(), number)) != number:
            raise refuse(
                f"prices '{item[:40]}' in line {before} and again in line {number}",
                "one price for each item",
                "Leave the one that is to count.",
            )
        said = cells.get("currency", "")
        if said and said.casefold() != currency.casefold():
            raise refuse(
                f"is in {said[:12]} in line {number}",
                currency,
                "Change the currency of the job, on Materials, or the file: nothing is converted.",
            )
        yield PriceGivens(
            id=new_id(),
            item=item,
            price=_price(cells["price"], number, between),
            per=_per(cells.get("per", ""), number),
            priced_on=_day(cells.get("priced on", ""), number),
            quoted_by=cells.get("from", "")[:80],
        )


def _price(text: str, line: int, between: str) -> float:
    """A price with a point, or with a comma where commas do not divide the columns.

    One that may be thousands or thousandths is not guessed.
    """
    plain = text.replace("\u00a0", "").replace("\u202f", "").replace(" ", "")
    if between != "," and "," in plain and "." not in plain:
        plain = plain.replace(",", ".")
    if EITHER.fullmatch(plain):
        raise refuse(
            f"says '{text[:20]}' for a price in line {line}: thousands, or parts of one",
            "a number that can be read in one way",
            "Write 1200, or 1.20.",
        )
    try:
        price = float(plain)
    except ValueError:
        price = math.nan
    if not (0 <= price <= 1e7):
        raise refuse(
            f"says '{text[:20]}' for a price in line {line}",
            "a number from 0 to 10 000 000",
            "Write it without marks between thousands and without its currency.",
        )
    return price


def _per(text: str, line: int) -> Per:
    per = PER_WORDS.get(text.casefold().strip(" /"))
    if per is None:
        raise refuse(
            f"is priced per '{text[:20]}' in line {line}", ", ".join(PERS), "Write one of these."
        )
    return per


def _day(text: str, line: int) -> date | None:
    try:
        return date.fromisoformat(text) if text else None
    except ValueError:
        raise refuse(
            f"says '{text[:20]}' for a day in line {line}", "a date such as 2026-04-18", REMEDY
        ) from None
