"""Shots as a table of text: pasted from a field book, a receiver's CSV, columns in any order."""

import csv
import re

import numpy as np

from openfurrow.core.quantities import QuantityError, UnitSystem
from openfurrow.core.reading import parse
from openfurrow.exchange.bounds import MOST_COLUMNS, refuse
from openfurrow.exchange.csv_out import without_guard
from openfurrow.exchange.ground_file import MOST_POINTS, GroundFile, HowToRead

ROLES = ("east", "north", "level", "code", "latitude", "longitude")
NAMES = {
    "east": ("e", "east", "easting", "x"),
    "north": ("n", "north", "northing", "y"),
    "level": ("z", "h", "level", "height", "elevation", "elev", "ele", "alt", "altitude", "rl"),
    "code": ("code", "description", "desc", "feature", "note", "name", "what"),
    "latitude": ("lat", "latitude"),
    "longitude": ("lon", "long", "lng", "longitude"),
}
WORDS = {word: role for role, words in NAMES.items() for word in words}


def _split(text: str) -> list[list[str]]:
    """Lines into cells: by the separator that splits the first lines most evenly."""
    lines = [line for line in text.splitlines() if line.strip() and not line.lstrip().startswith("#")]
    sample = lines[:20]
    counts = {mark: [line.count(mark) for line in sample] for mark in ("\t", ";", ",")}
    even = [mark for mark, found in counts.items() if found and min(found) >= 2]
    if even:
        return [[cell.strip() for cell in row] for row in csv.reader(lines, delimiter=even[0])]
    return [re.split(r"\s+", line.strip()) for line in lines]


def _is_number(cell: str) -> bool:
    return bool(re.match(r"^[-+−]?[\d.,]", cell.strip()))


def guessed(header: list[str], width: int) -> tuple[str, ...]:
    """What each column is, by its heading; else east, north, level, code in this order."""
    if not header:
        return tuple((*("east", "north", "level", "code"), *["-"] * width)[:width])
    roles, taken = [], set()
    for cell in header:
        word = re.split(r"[\s_(\[]", cell.strip().lower())[0]
        role = WORDS.get(word, "-")
        roles.append("-" if role in taken else role)
        taken.add(role)
    if not taken & {"east", "north", "latitude", "longitude"}:
        return guessed([], width)
    return tuple(roles)


def read_survey_text(text: str, how: HowToRead, units: UnitSystem) -> GroundFile:
    """A table of shots. Raises DesignError naming the line and what is wrong with it."""
    try:
        rows = _split(text)
    except csv.Error as error:
        raise refuse(f"is not a table of text: {error}", "one shot a line",
                     "See whether a quotation mark is left open.") from None
    if not rows:
        raise refuse("holds no line", "one shot a line", "Paste the shots, or choose another file.")
    if len(rows) > MOST_POINTS + 1:
        raise refuse(f"holds {len(rows):,} lines", f"at most {MOST_POINTS:,} shots",
                     "Thin it first: a shot every metre or two says as much of the ground.")
    header = [] if sum(_is_number(cell) for cell in rows[0]) >= 2 else rows[0]
    width = max(len(row) for row in rows)
    if width > MOST_COLUMNS:
        raise refuse(f"has a line of {width} columns", f"at most {MOST_COLUMNS}",
                     "Check that this is the right file.")
    roles = how.columns or guessed(header, width)
    wrong = next((role for role in roles if role not in (*ROLES, "-")), None)
    if wrong is not None:
        raise refuse(f"has no column of {wrong}", f"{', '.join(ROLES)} or -", "Choose again.")
    place = {role: index for index, role in enumerate(roles) if role != "-"}
    globe = "latitude" in place and "longitude" in place
    needed = ("longitude", "latitude", "level") if globe else ("east", "north", "level")
    missing = [role for role in needed if role not in place]
    if missing:
        raise refuse(f"has no column for {', '.join(missing)}", "east, north and level, or latitude, "
                     "longitude and level", "Say which column is which.")
    body = rows[1:] if header else rows
    points, codes = _body(body, place, needed, 2 if header else 1, how, units)
    return GroundFile(
        "csv", points, codes, grid=4326 if globe else 0, unit_m=None if how.unit else 1.0,
        columns=tuple(header) or tuple(f"column {k + 1}" for k in range(width)), roles=tuple(roles),
    )


def _body(
    body: list[list[str]], place: dict[str, int], needed: tuple[str, ...], first_line: int,
    how: HowToRead, units: UnitSystem,
) -> tuple[np.ndarray, tuple[str, ...]]:
    """The numbers and codes. Bare numbers are in the unit that was said; 5'6" and 1.68 m say theirs."""
    points = np.empty((len(body), 3))
    codes = []
    kinds = ["coordinate" if role in ("east", "north", "level") else "" for role in needed]
    for number, row in enumerate(body):
        for column, (role, kind) in enumerate(zip(needed, kinds, strict=True)):
            cell = row[place[role]] if place[role] < len(row) else ""
            try:
                points[number, column] = _number(cell, kind, how, units)
            except (QuantityError, ValueError):
                raise refuse(
                    f"line {number + first_line}: '{cell[:40]}' is not a number for {role}",
                    "a finite number", "Mend that line, or say which column is which.",
                ) from None
        code = place.get("code")
        codes.append(without_guard(row[code])[:40] if code is not None and code < len(row) else "")
    return points, tuple(codes)


def _number(cell: str, kind: str, how: HowToRead, units: UnitSystem) -> float:
    try:
        value = float(cell)
    except ValueError:
        if not kind or how.unit:
            value = float(cell.replace(",", ".").replace("−", "-"))
        else:
            value = parse(cell, kind, units)
    else:
        if kind and not how.unit and units == "us":
            # A bare number of a planner who works in feet is feet.
            value = parse(repr(value), kind, units)
    if not np.isfinite(value):
        raise ValueError("not finite")
    return value
