"""Shots as a table of text: pasted from a field book, a receiver's CSV, columns in any order."""

import csv
import re
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.quantities import FOOT_M, QuantityError, UnitSystem
from openfurrow.core.reading import parse
from openfurrow.exchange.bounds import MOST_COLUMNS, refuse
from openfurrow.exchange.csv_out import without_guard
from openfurrow.exchange.ground_file import GLOBE, MOST_POINTS, GroundFile, HowToRead

ROLES = ("east", "north", "level", "code", "latitude", "longitude")
NAMES = {
    "east": ("e", "east", "easting", "x"),
    "north": ("n", "north", "northing", "y"),
    "level": ("z", "h", "level", "height", "elevation", "elev", "ele", "alt", "altitude", "rl"),
    "code": ("code", "description", "desc", "feature", "note", "name", "what", "d"),
    "latitude": ("lat", "latitude"),
    "longitude": ("lon", "long", "lng", "longitude"),
}
WORDS = {word: role for role, words in NAMES.items() for word in words}
# Lists of a surveyor begin with the point's number and have north before east.
NUMBERED = ("-", "north", "east", "level", "code")
SHOWN_LINES = 4


@dataclass(frozen=True)
class Sheet:
    """Lines as cells; ``decimal_comma``: a comma inside a cell is a decimal mark."""

    rows: list[list[str]]
    decimal_comma: bool


def _split(text: str) -> Sheet:
    """Lines into cells: by the separator that splits the first lines most evenly."""
    lines = [line for line in text.splitlines() if line.strip() and not line.lstrip().startswith("#")]
    sample = lines[:20]
    counts = {mark: [line.count(mark) for line in sample] for mark in ("\t", ";", ",")}
    even = [mark for mark, found in counts.items() if found and min(found) >= 2]
    if even:
        rows = [[cell.strip() for cell in row] for row in csv.reader(lines, delimiter=even[0])]
        return Sheet(rows, even[0] != ",")
    return Sheet([re.split(r"\s+", line.strip()) for line in lines], decimal_comma=True)


def _is_number(cell: str) -> bool:
    return bool(re.match(r"^[-+−]?[\d.,]", cell.strip()))


def numbered(rows: list[list[str]]) -> bool:
    """Whether lines without a head begin with whole numbers, each another, before three numbers."""
    if min(len(row) for row in rows) < len(NUMBERED) - 1:
        return False
    first = [row[0] for row in rows]
    return (
        all(cell.isascii() and cell.isdigit() for cell in first)
        and len(set(first)) == len(first)
        and all(_is_number(cell) for row in rows for cell in row[1:4])
    )


def guessed(header: list[str], width: int, rows: list[list[str]]) -> tuple[str, ...]:
    """What each column is, by its heading; else by its order."""
    if not header:
        order = NUMBERED if numbered(rows) else ("east", "north", "level", "code")
        return tuple((*order, *["-"] * width)[:width])
    roles, taken = [], set()
    for cell in header:
        word = re.split(r"[\s_(\[]", cell.strip().lower())[0]
        role = WORDS.get(word, "-")
        roles.append("-" if role in taken else role)
        taken.add(role)
    if not taken & {"east", "north", "latitude", "longitude"}:
        return guessed([], width, rows)
    return tuple(roles)


def read_survey_text(text: str, how: HowToRead, units: UnitSystem) -> GroundFile:
    """A table of shots. Raises DesignError naming the line and what is wrong with it.

    Where it is the columns that are in doubt, the file comes without shots and asks.
    """
    sheet = _sheet(text)
    rows = sheet.rows
    header = [] if sum(_is_number(cell) for cell in rows[0]) >= 2 else rows[0]
    width = max(len(row) for row in rows)
    if width > MOST_COLUMNS:
        raise refuse(
            f"has a line of {width} columns",
            f"at most {MOST_COLUMNS}",
            "Check that this is the right file.",
        )
    body = rows[1:] if header else rows
    roles = how.columns or guessed(header, width, body or rows)
    wrong = next((role for role in roles if role not in (*ROLES, "-")), None)
    if wrong is not None:
        raise refuse(f"has no column of {wrong}", f"{', '.join(ROLES)} or -", "Choose again.")
    roles = (*roles, *["-"] * width)[:width]
    place = {role: index for index, role in enumerate(roles) if role != "-"}
    globe = "latitude" in place and "longitude" in place
    needed = ("longitude", "latitude", "level") if globe else ("east", "north", "level")
    asks = _asks(place, needed, unsaid=not (how.columns or header) and numbered(body))
    table = GroundFile(
        "csv",
        np.empty((0, 3)),
        grid=GLOBE if globe else 0,
        columns=tuple(header) or tuple(f"column {k + 1}" for k in range(width)),
        roles=tuple(roles),
        first=tuple(tuple(row) for row in body[:SHOWN_LINES]),
        asks=asks,
        usual_m=FOOT_M if units == "us" else 1.0,
    )
    if any(role not in place for role in needed):
        return table
    points, own_unit, codes = _body(sheet, body, place, needed, 2 if header else 1)
    return GroundFile(
        **vars(table) | {"points": points, "codes": codes, "unit_m": 1.0 if own_unit else None}
    )


def _sheet(text: str) -> Sheet:
    try:
        sheet = _split(text)
    except csv.Error as error:
        raise refuse(
            f"is not a table of text: {error}",
            "one shot a line",
            "See whether a quotation mark is left open.",
        ) from None
    if not sheet.rows:
        raise refuse("holds no line", "one shot a line", "Paste the shots, or choose another file.")
    if len(sheet.rows) > MOST_POINTS + 1:
        raise refuse(
            f"holds {len(sheet.rows):,} lines",
            f"at most {MOST_POINTS:,} shots",
            "Thin it first: a shot every metre or two says as much of the ground.",
        )
    return sheet


def _asks(place: dict[str, int], needed: tuple[str, ...], *, unsaid: bool) -> tuple[str, ...]:
    missing = [role for role in needed if role not in place]
    if missing:
        return (f"which column is {', '.join(missing)}?",)
    if unsaid:
        return (
            "it has no head and each line begins with the point's number: is north before east, "
            "as surveyors have it?",
        )
    return ()


def _body(
    sheet: Sheet, body: list[list[str]], place: dict[str, int], needed: tuple[str, ...], first_line: int
) -> tuple[NDArray[np.float64], bool, tuple[str, ...]]:
    """The numbers, whether they bear units (and then are metres), and the codes."""
    points = np.empty((len(body), 3))
    bare = np.ones((len(body), 3), dtype=bool)
    codes = []
    for number, row in enumerate(body):
        for column, role in enumerate(needed):
            cell = row[place[role]] if place[role] < len(row) else ""
            try:
                points[number, column], bare[number, column] = _number(cell, role, sheet.decimal_comma)
            except (QuantityError, ValueError):
                raise refuse(
                    f"line {number + first_line}: '{cell[:40]}' is not a number for {role}",
                    "a finite number",
                    "Mend that line, or say which column is which.",
                ) from None
        code = place.get("code")
        codes.append(without_guard(row[code])[:40] if code is not None and code < len(row) else "")
    lengths = bare[:, [role not in ("latitude", "longitude") for role in needed]]
    if lengths.any() and not lengths.all():
        line = first_line + int(np.flatnonzero((lengths != lengths[0, 0]).any(axis=1))[0])
        raise refuse(
            f"line {line}: some numbers bear a unit and some do not",
            "one or the other",
            "Write the unit everywhere, or nowhere.",
        )
    return points, not lengths.any(), tuple(codes)


def _number(cell: str, role: str, decimal_comma: bool) -> tuple[float, bool]:
    """A number, and whether it is bare; one with a unit of its own is in metres."""
    text = cell.replace("−", "-")
    if decimal_comma and text.count(",") == 1 and "." not in text:
        text = text.replace(",", ".")
    try:
        value, bare = float(text), True
    except ValueError:
        if role in ("latitude", "longitude"):
            value, bare = parse(text, "coordinate_angle", "metric"), True
        else:
            value, bare = parse(text, "coordinate", "metric"), not re.search(r"[A-Za-z'\"′″]", text)
    if not np.isfinite(value):
        raise ValueError("not finite")
    return value, bare
