"""Own profiles as CSV, or in a workbook: a catalogue's measures in, and those of the job out."""

import re
from collections.abc import Iterator
from typing import get_args

from pydantic import ValidationError

from openfurrow.core.codes.metal import grade_names
from openfurrow.core.codes.own_section import MEASURES, Shape
from openfurrow.core.design import Design
from openfurrow.core.materials.own_profiles import MOST_PROFILES, OF_MEASURE, ProfileGivens
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import QuantityError, format_value
from openfurrow.core.reading import parse
from openfurrow.exchange.bounds import refuse
from openfurrow.exchange.csv_out import csv_text, without_guard
from openfurrow.exchange.merchant_file import merchant_rows
from openfurrow.exchange.read_ground import new_id
from openfurrow.exchange.wanted import Wanted

TITLES = {
    "depth_m": "depth",
    "width_m": "width",
    "lip_m": "lip",
    "web_m": "wall",
    "flange_m": "flange wall",
}
HEAD = ("sold as", "shape", *TITLES.values(), "grade")
NEEDED = ("shape", "grade")
SHAPES: dict[str, Shape] = {one.casefold(): one for one in get_args(Shape)}
GRADES = {one.casefold(): one for one in grade_names()}
ALLOWED = (
    "CSV, or a workbook, whose first line names shape, grade, depth, width, lip, wall, flange wall"
)
REMEDY = "Name the columns so, each measure with its unit: depth mm, or 1.5 in."
WITH_UNIT = re.compile(r"(.+?)[ ,(]+(mm|cm|in|inch)\)?")


def profiles_csv(design: Design, plan: Plan, wanted: Wanted) -> str:
    """Every own profile; measures its shape has none of are left open. Of none the titles alone."""
    return csv_text(
        HEAD,
        [
            (
                one.sold_as,
                one.shape,
                *(
                    format_value(getattr(one, OF_MEASURE[name]), "caliper", wanted.units)
                    if name in MEASURES[one.shape]
                    else ""
                    for name in TITLES
                ),
                one.grade,
            )
            for one in design.materials.profiles
        ],
    )


def with_profiles(design: Design, data: bytes, name: str) -> tuple[Design, str]:
    """The design with a file's profiles: those alike in measure and grade are replaced, others stay.

    Raises DesignError naming the line and what is wrong in it; nothing is taken then.
    """
    found = read_profiles(data)
    told = {one.made.name for one in found if one.made}
    kept = tuple(one for one in design.materials.profiles if not one.made or one.made.name not in told)
    if len(kept) + len(found) > MOST_PROFILES:
        raise refuse(
            f"brings the list to {len(kept) + len(found)} profiles",
            f"at most {MOST_PROFILES}",
            "Keep those that the job may be built of.",
        )
    bought = design.materials.model_copy(update={"profiles": (*kept, *found)})
    words = f"{len(found)} profile{'s' * (len(found) != 1)} from {name.strip()[:60] or 'a file'}"
    return design.model_copy(update={"materials": bought}), words


def read_profiles(data: bytes) -> tuple[ProfileGivens, ...]:
    """The profiles of a file. Raises DesignError."""
    rows, titles, _ = merchant_rows(data, NEEDED, ALLOWED, REMEDY)
    columns = {title: _titled(title) for title in titles}
    names = [name for name, _ in columns.values() if name]
    doubled = next((one for one in names if names.count(one) > 1), None)
    if doubled:
        raise refuse(f"has two columns '{doubled}'", "one of each", "Take one of them out.")
    found: dict[str, ProfileGivens] = {}
    for number, row in enumerate(rows[1:], start=2):
        cells = {title: without_guard(cell.strip()) for title, cell in zip(titles, row, strict=False)}
        if not any(cells.values()):
            continue
        one = _read({columns[title]: cell for title, cell in cells.items()}, number)
        assert one.made is not None
        if one.made.name in found:
            raise refuse(
                f"has {one.made.name} a second time in line {number}",
                "each profile once",
                "Take one of the lines out.",
            )
        found[one.made.name] = one
    if not found:
        raise refuse("holds no profile", "at least one line with a shape", REMEDY)
    return tuple(found.values())


def _titled(title: str) -> tuple[str, str]:
    """A title without its unit, and the unit."""
    match = WITH_UNIT.fullmatch(title)
    return (
        (match[1].strip(), match[2]) if match and match[1].strip() in TITLES.values() else (title, "")
    )


def _read(cells: dict[tuple[str, str], str], line: int) -> ProfileGivens:
    said = {name: cell for (name, _), cell in cells.items()}
    shape = SHAPES.get(said.get("shape", "").casefold())
    if shape is None:
        raise refuse(
            f"says '{said.get('shape', '')[:20]}' for a shape in line {line}",
            ", ".join(get_args(Shape)),
            "What has another shape is not reckoned.",
        )
    grade = GRADES.get(said.get("grade", "").casefold())
    if grade is None:
        raise refuse(
            f"says '{said.get('grade', '')[:20]}' for a grade in line {line}",
            ", ".join(GRADES.values()),
            "Of a grade that is not among them the weaker one next to it.",
        )
    measures = dict(_measures(cells, shape, line))
    try:
        one = ProfileGivens(
            id=new_id(),
            sold_as=said.get("sold as", "")[:40],
            shape=shape,
            grade=grade,
            **measures,
        )
        wrong = one.wrong
    except ValidationError as error:
        first = error.errors()[0]
        wrong = f"has a {str(first['loc'][0]).removesuffix('_m')} that is out of range: {first['msg']}"
    if wrong:
        raise refuse(f"has a {shape} in line {line} that {wrong}", "what can be reckoned", REMEDY)
    return one


def _measures(
    cells: dict[tuple[str, str], str], shape: Shape, line: int
) -> Iterator[tuple[str, float]]:
    """The measures that the shape has; one that is not said, or has no unit, is asked for."""
    by_title = {name: (cell, unit) for (name, unit), cell in cells.items()}
    for name in MEASURES[shape]:
        cell, unit = by_title.get(TITLES[name], ("", ""))
        text = f"{cell} {unit}".strip() if cell else ""
        try:
            if not re.search(r"[a-z\"″”]", text, re.IGNORECASE):
                raise QuantityError("write a number with its unit")
            value = parse(text, "caliper", "metric")
        except QuantityError as error:
            raise refuse(
                f"says '{cell[:20]}' for the {TITLES[name]} of a {shape} in line {line}: {error}",
                "a length such as 180 mm or 7-1/16 in",
                REMEDY,
            ) from None
        yield OF_MEASURE[name], value
