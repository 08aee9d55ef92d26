"""Changing a design: typed text goes in, a new valid design or a list of problems comes out."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from openfurrow.core.design import Design
from openfurrow.core.fields import NAME, Field, allowed, field_at, fields, read, value_at, write
from openfurrow.core.quantities import QuantityError, UnitSystem


@dataclass(frozen=True)
class Problem:
    """What is wrong with one field: what was said, what is allowed, what to do."""

    path: str
    label: str
    message: str
    allowed: str
    remedy: str


class DesignError(ValueError):
    """A design that cannot be: the problems name each field."""

    def __init__(self, problems: tuple[Problem, ...]) -> None:
        """Keep the problems; the text joins them."""
        self.problems = problems
        super().__init__("; ".join(f"{p.path}: {p.message}" for p in problems))


def _problem(field: Field | None, path: str, message: str, units: UnitSystem) -> Problem:
    if field is None:
        return Problem(path, path, message, "", "Take it out, or check its spelling.")
    return Problem(path, field.label, message, allowed(field, units), field.where)


def problems_of(error: ValidationError, units: UnitSystem) -> tuple[Problem, ...]:
    """Pydantic's errors in the words and units of the form."""
    problems = []
    for item in error.errors(include_url=False, include_context=False, include_input=False):
        path = ".".join(str(part) for part in item["loc"]) or "design"
        field = field_at(path)
        kind = item["type"]
        message = item["msg"].replace("Input should be", "should be").replace("Value error, ", "")
        if kind == "extra_forbidden":
            message, field = "is not a field of a design", None
        elif field and kind in ("greater_than_equal", "less_than_equal"):
            low = kind == "greater_than_equal"
            bound = field.low if low else field.high
            # A part of a field (a point of the route) has bounds of its own.
            if bound is not None:
                message = f"is {'below' if low else 'above'} what is allowed"
        elif kind == "missing":
            message = "is missing"
        problems.append(_problem(field, path, message, units))
    return tuple(problems)


def validated(data: Mapping[str, Any], units: UnitSystem = "us") -> Design:
    """A design from plain data; DesignError names every field that is wrong."""
    try:
        return Design.model_validate(data)
    except ValidationError as error:
        raise DesignError(problems_of(error, units)) from None


def apply(design: Design, edits: Iterable[tuple[str, str]], units: UnitSystem) -> Design:
    """A new design with what was typed, field by field.

    Raises DesignError where any edit cannot be read or is not allowed; the design is unchanged.
    """
    data = design.model_dump(mode="json")
    problems = []
    for path, text in edits:
        if path == NAME.path:
            data["name"] = text.strip()
            continue
        field = fields().get(path)
        if field is None:
            problems.append(_problem(None, path, "is not a field of a design", units))
            continue
        try:
            value = read(field, text, units)
        except QuantityError as error:
            problems.append(_problem(field, path, str(error), units))
            continue
        data[field.stage][path.split(".")[1]] = value
    if problems:
        raise DesignError(tuple(problems))
    return validated(data, units)


@dataclass(frozen=True)
class Difference:
    """One field that two designs hold differently, written for people."""

    path: str
    label: str
    before: str
    after: str


def differences(before: Design, after: Design, units: UnitSystem) -> tuple[Difference, ...]:
    """Every field in which two designs differ, in the order of the job."""
    found = []
    if before.name != after.name:
        found.append(Difference(NAME.path, NAME.label, before.name, after.name))
    for path, field in fields().items():
        old, new = value_at(before, path), value_at(after, path)
        if old != new:
            found.append(
                Difference(
                    path, field.label,
                    write(field, old, units) or "left to the plan",
                    write(field, new, units) or "left to the plan",
                )
            )
    return tuple(found)


def merged(base: Design, mine: Design, theirs: Design, take_theirs: frozenset[str]) -> Design:
    """Both sides' changes since ``base``; where both changed a field, mine unless taken theirs.

    Raises DesignError where the two together are not a valid design.
    """
    data = theirs.model_dump(mode="json")
    ours = mine.model_dump(mode="json")
    if mine.name != base.name and "name" not in take_theirs:
        data["name"] = ours["name"]
    for path, field in fields().items():
        if value_at(mine, path) != value_at(base, path) and path not in take_theirs:
            name = path.split(".")[1]
            data[field.stage][name] = ours[field.stage][name]
    return validated(data)
