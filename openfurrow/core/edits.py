"""Changing a design: typed text goes in, a new valid design or a list of problems comes out."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from openfurrow.core.design import Design
from openfurrow.core.fields import (
    LINES,
    NAME,
    Field,
    allowed,
    field_at,
    fields,
    is_number,
    item_fields,
    read,
    title_of,
    value_at,
    write,
)
from openfurrow.core.givens import Givens
from openfurrow.core.quantities import QuantityError, UnitSystem
from openfurrow.core.things import changes_of

# More than a person would mend one by one.
MOST_TOLD = 50


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
        super().__init__("; ".join(f"{p.path}: {p.message}" for p in problems[:MOST_TOLD]))


def _problem(field: Field | None, path: str, message: str, units: UnitSystem) -> Problem:
    if field is None:
        return Problem(path, path, message, "", "Take it out, or check its spelling.")
    return Problem(path, field.label, message, allowed(field, units), field.where)


def problems_of(error: ValidationError, units: UnitSystem) -> tuple[Problem, ...]:
    """Pydantic's errors in the words and units of the form."""
    problems = []
    told = error.errors(include_url=False, include_context=False, include_input=False)
    for item in told[:MOST_TOLD]:
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


def _place(data: dict[str, Any], path: str) -> tuple[Field, list[Any] | dict[str, Any], Any] | None:
    """Where a path's value stands in plain data: its field, what holds it, and its key there.

    A path ends in a field of a stage, a thing of a list (site.features.2, or + for a new one), or a
    field of such a thing. None where there is no such place.
    """
    parts = path.split(".")
    field = fields().get(".".join(parts[:2]))
    if field is None:
        return None
    holder, name = data[field.stage], parts[1]
    if len(parts) == 2:
        return field, holder, name
    things = holder[name]
    if field.item is None or not (parts[2] == "+" or is_number(parts[2])):
        return None
    if parts[2] == "+":
        return (field, things, len(things)) if len(parts) == 3 else None
    number = int(parts[2])
    if number >= len(things) or len(parts) > 4:
        return None
    if len(parts) == 3:
        return field, things, number
    inner = item_fields(field.item).get(parts[3])
    return None if inner is None else (inner, things[number], parts[3])


def _edit(data: dict[str, Any], path: str, text: str, units: UnitSystem) -> None:
    """Put what was typed in its place. Raises QuantityError, or KeyError for no such place."""
    place = _place(data, path)
    if place is None:
        raise KeyError(path)
    field, holder, key = place
    if isinstance(holder, list):
        assert field.item is not None
        if key < len(holder):
            # A thing of a list is changed field by field; said to be nothing, it goes.
            if text.strip():
                raise QuantityError("is changed field by field, or removed by leaving it empty")
            del holder[key]
            return
        holder.append(_new_item(field.item, text).model_dump(mode="json"))
        return
    holder[key] = read(field, text, units, holder.get(key))


def _new_item(item: type[Givens], text: str) -> Givens:
    """A new thing of a list; ``text`` is its first choice (a kind, a topic) where it has one."""
    first = next((n for n, f in item_fields(item).items() if f.choices), None)
    choices = item_fields(item)[first].choices if first else ()
    if first and text.strip() in choices:
        return item.model_validate({first: text.strip()})
    return item()


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
        try:
            _edit(data, path, text, units)
        except KeyError:
            problems.append(_problem(None, path, "is not a field of a design", units))
        except QuantityError as error:
            problems.append(_problem(field_at(path), path, str(error), units))
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
            was, now = (
                _list_words(field, old, new, units) if field.item
                else (write(field, old, units), write(field, new, units))
            )
            empty = "none" if field.kind in LINES else "left to the plan"
            found.append(Difference(path, field.label, was or empty, now or empty))
    return tuple(found)


def _list_words(
    field: Field, old: tuple[Givens, ...], new: tuple[Givens, ...], units: UnitSystem
) -> tuple[str, str]:
    """Both sides of a list in words: only the things, and of them only the fields, that differ."""
    assert field.item is not None
    before: list[str] = []
    after: list[str] = []
    changes = changes_of(old, new)
    for number, (was, now) in enumerate(zip(old, changes.now, strict=True)):
        title = title_of(was, number)
        if now is None:
            before.append(title)
            continue
        for name, inner in item_fields(field.item).items():
            values = getattr(was, name), getattr(now, name)
            if values[0] != values[1]:
                for side, value in zip((before, after), values, strict=True):
                    side.append(f"{title}, {inner.label.lower()}: {_short(inner, value, units)}")
    after += [title_of(thing, new.index(thing)) for added in changes.added for thing in added]
    return "\n".join(before), "\n".join(after)


def _short(field: Field, value: Any, units: UnitSystem) -> str:
    text = write(field, value, units)
    lines = text.splitlines()
    return f"{len(lines)} lines" if len(lines) > 3 else "; ".join(lines) or "empty"
