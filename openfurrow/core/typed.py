"""What was typed into a field, read as the trade writes it; what cannot be read is refused by name."""

import math
import re
from datetime import date
from typing import Any

from openfurrow.core.fields import LINES, Field, is_number, write
from openfurrow.core.quantities import QuantityError, UnitSystem
from openfurrow.core.reading import kept_or_read, parse
from openfurrow.core.structures.givens import A_POST

Value = float | int | str | bool | None | list[int] | list[list[object]]
TRUTHS = {"yes": True, "no": False, "true": True, "false": False, "y": True, "n": False}


def _lines(text: str) -> list[tuple[str, list[str]]]:
    """Lines that hold something, each with its parts between commas or tabs."""
    lines = (part.strip() for part in text.replace(";", "\n").splitlines())
    return [
        (line, [part.strip() for part in line.replace("\t", ",").split(",") if part.strip()])
        for line in lines
        if line
    ]


def _point(line: str, parts: list[str], units: UnitSystem) -> list[object]:
    if len(parts) != 2:
        raise QuantityError(f"'{line}' is not a point: write east, north")
    return [parse(part, "coordinate", units) for part in parts]


def _reading(line: str, parts: list[str], units: UnitSystem) -> list[object]:
    if len(parts) not in (3, 4):
        raise QuantityError(f"'{line}' is not a reading: write three lengths and a code")
    return [*(parse(part, "coordinate", units) for part in parts[:3]), *(parts[3:] or [""])]


def _layer(line: str, parts: list[str], units: UnitSystem) -> list[object]:
    if len(parts) not in (2, 3):
        raise QuantityError(f"'{line}' is not a layer: write 2 ft, clay or 2 ft, clay, 50 kPa")
    strength = parse(parts[2], "pressure", units) if len(parts) == 3 else None
    return [parse(parts[0], "tape", units), parts[1], strength]


def _held(line: str, parts: list[str], units: UnitSystem) -> list[object]:
    if len(parts) != 2:
        raise QuantityError(f"'{line}' is not a reading: write 4 kN, 3 mm or 900 lb, 1/8 in")
    return [parse(parts[0], "force", units), parse(parts[1], "thickness", units)]


def _shift(line: str, parts: list[str], units: UnitSystem) -> list[object]:
    if len(parts) != 2:
        raise QuantityError(f"'{line}' is not a shift: write the post, a length")
    post = parts[0].replace(" ", "")
    if not re.match(A_POST, post):
        raise QuantityError(
            f"'{parts[0]}' is no post: write its table and its place there, 2.1/3 for the third post "
            "of the first table in the second row"
        )
    return [post, parse(parts[1], "tape", units)]


def _forecast(line: str, parts: list[str], units: UnitSystem) -> list[object]:
    if len(parts) != 3:
        raise QuantityError(f"'{line}' is no day of a forecast: write 2026-04-20, 3 °C, 8 m/s")
    try:
        day = date.fromisoformat(parts[0])
    except ValueError:
        raise QuantityError(f"'{parts[0]}' is not a date: write 2026-04-20") from None
    return [day, parse(parts[1], "temperature", units), parse(parts[2], "speed", units)]


def _read_numbers(text: str) -> list[int]:
    parts = [part.strip() for part in text.replace("\n", ",").split(",") if part.strip()]
    bad = next((part for part in parts if not is_number(part)), None)
    if bad is not None:
        raise QuantityError(f"'{bad}' is not a whole number")
    return [int(part) for part in parts]


_LINE_READERS = {
    "route": _point,
    "readings": _reading,
    "layers": _layer,
    "held": _held,
    "shifts": _shift,
    "forecast": _forecast,
}


def _read_lines(field: Field, text: str, units: UnitSystem, held: Any) -> Value:
    """Every line; one that stands there as it was written keeps what it held, unrounded."""
    if field.kind == "numbers":
        return _read_numbers(text)
    if field.kind not in _LINE_READERS:
        raise QuantityError("is a list: add, change or remove one thing of it at a time")
    before: dict[str, list[list[object]]] = {}
    for value, (_, parts) in zip(
        held or (), _lines(write(field, held, units) if held else ""), strict=True
    ):
        before.setdefault(", ".join(parts), []).append(list(value))
    found: list[list[object]] = []
    for line, parts in _lines(text):
        kept = before.get(", ".join(parts))
        found.append(kept.pop(0) if kept else _LINE_READERS[field.kind](line, parts, units))
    return found


SIDES = {"site.latitude_deg": "NS", "site.longitude_deg": "EW"}


def _on_its_side(field: Field, typed: str) -> None:
    """A latitude ends in N or S, a longitude in E or W."""
    side = typed[-1:].upper() if typed[-1:].isalpha() else typed[:1].upper()
    allowed_sides = SIDES.get(field.path, "")
    if allowed_sides and side in "NSEW" and side not in allowed_sides:
        raise QuantityError(
            f"'{typed}' is not its {field.label.lower()}: that ends in "
            f"{allowed_sides[0]} or {allowed_sides[1]}"
        )


def read(field: Field, text: str, units: UnitSystem, held: Any = None) -> Value:
    """What a person typed, as the field's value in SI.

    What is written as the value that is ``held`` is that value, unrounded. Raises QuantityError with
    what would be read. Bounds are the design's to judge.
    """
    typed = text.strip()
    if not typed and field.optional:
        return None
    if field.kind == "yes_no":
        if typed.lower() not in TRUTHS:
            raise QuantityError(f"'{typed}' is neither yes nor no")
        return TRUTHS[typed.lower()]
    if field.choices or field.kind in ("text", "array"):
        return typed
    if field.kind == "date":
        try:
            return date.fromisoformat(typed).isoformat()
        except ValueError:
            raise QuantityError(f"'{typed}' is not a date: write 2026-04-18") from None
    if field.kind in LINES:
        return _read_lines(field, text, units, held)
    _on_its_side(field, typed)
    number = kept_or_read(typed, field.kind, units, held)
    if not field.whole:
        return number
    if not math.isclose(number, round(number)):
        raise QuantityError(f"'{typed}' is not a whole number")
    return round(number)
