"""A year of use from a meter's file: CSV with one line a step, its unit in the first."""

import csv
import io
import re

import numpy as np
from numpy.typing import NDArray
from pydantic import ValidationError

from openfurrow.core.design import Design
from openfurrow.core.sun.load import MOST_W, LoadGivens, packed
from openfurrow.core.sun.weather import HOURS, MOST_STEPS
from openfurrow.core.year_days import DAYS
from openfurrow.exchange.bounds import check_lines, refuse
from openfurrow.exchange.read_ground import new_id

Floats = NDArray[np.float64]

LARGEST_BYTES = 8_000_000
# A year of quarters of an hour, a leap day, and the first line.
MOST_LINES = MOST_STEPS + MOST_STEPS // DAYS + 2
LONGEST_LINE = 400
ALLOWED = "CSV: a first line that names the unit (kWh, Wh, kW or W), then one line a step of a year"
REMEDY = "Export a whole year from the meter, by the hour, half hour or quarter."
# How many watt hours, or watts, one of them is; energies are of a step.
ENERGIES, POWERS = {"kwh": 1000.0, "wh": 1.0}, {"kw": 1000.0, "w": 1.0}
_UNIT = re.compile(r"(?<![a-z])(kwh|wh|kw|w)(?![a-z])")
# The twenty-ninth of February, counted from nought.
LEAP_DAY = 59


def read_load(data: bytes, name: str) -> LoadGivens:
    """What a meter's file says, as a thing of the design. Raises DesignError for what is no year."""
    if len(data) > LARGEST_BYTES:
        raise refuse("is too large", f"at most {LARGEST_BYTES // 1_000_000} MB", REMEDY)
    if not data.strip():
        raise refuse("is empty", ALLOWED, REMEDY)
    check_lines(data, MOST_LINES, LONGEST_LINE)
    text = data.decode("utf-8", errors="replace").lstrip("\ufeff")
    first, _, rest = text.partition("\n")
    between = next((one for one in (";", "\t") if one in first), ",")
    titles = next(csv.reader([first.strip()], delimiter=between))
    column, unit = _column(titles)
    found = _numbers(rest, between, column, len(titles))
    steps = len(found)
    if steps % (DAYS + 1) == 0 and steps % 24 == 0:
        day = np.arange(steps) // (steps // (DAYS + 1))
        found = found[day != LEAP_DAY]
        steps = len(found)
    if steps % HOURS or not HOURS <= steps <= MOST_STEPS:
        raise refuse(f"holds {steps:,} steps", f"a whole year: {HOURS:,}, or a multiple of it", REMEDY)
    watts = found * (POWERS[unit] if unit in POWERS else ENERGIES[unit] * (steps // HOURS))
    wrong = (watts < 0) | (watts > MOST_W)
    if wrong.any():
        at = int(wrong.argmax())
        raise refuse(
            f"says {found[at]:g} {unit} in step {at + 1:,}",
            f"nothing less than nought, nor over {MOST_W // 1_000_000:,} MW",
            "Take what is used, not what is fed back; or mend that line.",
        )
    if not watts.any():
        raise refuse("uses nothing all year", ALLOWED, REMEDY)
    try:
        return LoadGivens(
            id=new_id(), name=(name.strip() or "meter")[:80], steps=steps, packed=packed(watts)
        )
    except ValidationError:
        raise refuse("is too restless to be kept", ALLOWED, REMEDY) from None


def with_load(design: Design, data: bytes, name: str) -> tuple[Design, str]:
    """The design with the file's year of use in the place of any other, and the step in words."""
    found = read_load(data, name)
    sun = design.sun.model_copy(update={"loads": (found,)})
    return design.model_copy(update={"sun": sun}), f"what is used, by {found.name}"


def _column(titles: list[str]) -> tuple[int, str]:
    """Which column is used, the only one whose title names a unit, and the unit."""
    found = [
        (number, match[1])
        for number, title in enumerate(titles)
        if (match := _UNIT.search(title.lower()))
    ]
    if not found:
        raise refuse(
            "names no unit in its first line", ALLOWED, "Write kWh, Wh, kW or W over the column."
        )
    if len(found) > 1:
        named = ", ".join(titles[number].strip()[:30] for number, _ in found[:4])
        raise refuse(f"has several columns with a unit: {named}", "one", "Take the others out.")
    return found[0]


def _numbers(text: str, between: str, column: int, columns: int) -> Floats:
    """The column's numbers; where columns are divided by commas a comma is no decimal mark."""
    found, marks = [], set[str]()
    for number, row in enumerate(csv.reader(io.StringIO(text), delimiter=between)):
        if not any(cell.strip() for cell in row):
            continue
        if len(row) != columns:
            raise refuse(
                f"has {len(row)} columns in line {number + 2:,}, and {columns} in its first",
                "as many in every line",
                "Where a comma is the decimal mark, divide the columns by semicolons.",
            )
        said = row[column].strip()
        marks |= {mark for mark in ".," if mark in said}
        if len(marks) > 1:
            raise refuse(
                f"has points and commas in its numbers (line {number + 2:,})",
                "one mark, the decimal one",
                "Export it without marks between thousands.",
            )
        try:
            found.append(float(said if between == "," else said.replace(",", ".")))
        except ValueError:
            found.append(float("nan"))
        if not np.isfinite(found[-1]):
            said = f"says '{said[:20]}'" if said else "says nothing"
            raise refuse(f"{said} in line {number + 2:,}", "a number in every line", "Mend that line.")
    return np.array(found)
