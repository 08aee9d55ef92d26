"""Changing a design: typed text goes in, a new valid design or a list of problems comes out."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Any

from pydantic import ValidationError

from openfurrow.core.codes import RulePack
from openfurrow.core.design import MOST_ARRAYS, ArrayGivens, Design
from openfurrow.core.fields import (
    ARRAY_NAME,
    ARRAY_STANDING,
    LINES,
    NAME,
    Field,
    allowed,
    array_labels,
    field_at,
    fields,
    fields_of,
    is_number,
    item_fields,
    title_of,
    value_at,
    what_it_is,
    write,
)
from openfurrow.core.givens import LONGEST_ID, Thing
from openfurrow.core.labels import named
from openfurrow.core.looked import LOOKED, as_of, keeps_book_of, looked_at, not_looked
from openfurrow.core.own_words import own_words
from openfurrow.core.paths import NEW, Address, Writing, address_of, holds, in_array
from openfurrow.core.paths import read as read_at
from openfurrow.core.quantities import QuantityError, UnitSystem, in_words
from openfurrow.core.rows.beginning import set_behind
from openfurrow.core.typed import read

# More than a person would mend one by one.
MOST_TOLD = 50
SPURS = Address("site", "spurs")
RULE_PACK, WIND = Address("site", "rule_pack"), Address("site", "wind_speed_m_s")


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
    return Problem(path, field.label, message, allowed(field, units), in_words(field.where, units))


def problems_of(error: ValidationError, units: UnitSystem, under: str = "") -> tuple[Problem, ...]:
    """Pydantic's errors in the words and units of the form; ``under`` is the path of what was wrong."""
    problems = []
    told = error.errors(include_url=False, include_input=False)
    for item in told[:MOST_TOLD]:
        path = ".".join([*([under] if under else []), *map(str, item["loc"])]) or "design"
        field = field_at(path)
        kind = item["type"]
        message = own_words(item)
        if kind == "extra_forbidden":
            field = None
        elif field and kind in ("greater_than_equal", "less_than_equal"):
            low = kind == "greater_than_equal"
            bound = field.low if low else field.high
            # A part of a field (a point of the route) has bounds of its own.
            if bound is not None:
                message = f"is {'below' if low else 'above'} what is allowed"
        problems.append(_problem(field, path, message, units))
    return tuple(problems)


def validated(data: Mapping[str, Any], units: UnitSystem = "us") -> Design:
    """A design from plain data; DesignError names every field that is wrong."""
    try:
        return Design.model_validate(data)
    except ValidationError as error:
        raise DesignError(problems_of(error, units)) from None


def apply(design: Design, edits: Iterable[tuple[str, str]], units: UnitSystem) -> Design:
    """A new design with what was typed, field by field; things of lists are named by their ids.

    Under other rules the design wind is another figure: unless it is typed too it is asked for anew,
    and what is practice and nobody has looked at is what those rules have for it. What was typed has
    been looked at, and so have the paths that are written to ``looked``.
    Raises DesignError where any edit cannot be read or is not allowed; the design is unchanged.
    """
    edits = tuple(edits)
    name, writing = design.name, Writing(design, lambda errors: refusal(errors, units))
    problems, typed, said, like = [], list[str](), list[str](), list[tuple[str, str]]()
    for path, text in edits:
        if path == NAME.path:
            name = text.strip()
            continue
        if path == LOOKED:
            said += text.split()
            continue
        try:
            _edit(writing, path, text, units)
            at = address_of(path)
            if at.new and at.array:
                like.append((text.strip(), at.array.removeprefix(NEW)))
            elif at.stage and (path in design.taken or keeps_book_of(at)):
                typed.append(path)
        except KeyError:
            problems.append(_problem(None, path, "is not a field of a design", units))
        except QuantityError as error:
            problems.append(_problem(field_at(path), path, str(error), units))
    if problems:
        raise DesignError(tuple(problems))
    if writing.held(RULE_PACK) != design.site.rule_pack and WIND.pattern not in dict(edits):
        # A gust of three seconds is not a mean of ten minutes: it is asked for anew.
        writing.put(WIND, None)
        _as_practised(writing, design, frozenset(path for path, _ in edits))
    new = _with_looks(writing.done(), typed, said, like)
    if name == design.name:
        return new
    try:
        Design.model_validate({"name": name})
    except ValidationError as error:
        raise DesignError(problems_of(error, units)) from None
    return new.model_copy(update={"name": name})


def _as_practised(writing: Writing, design: Design, typed: frozenset[str]) -> None:
    """Give what is practice, and nobody's yet, the value that it has under the new rules."""
    for path in not_looked(design):
        field, at = field_at(path), address_of(path)
        assert field is not None
        was, practice = field.practice(design.site.rule_pack), field.practice(writing.held(RULE_PACK))
        # Of an array or a thing that these edits take out there is nothing to say.
        if was != practice and path not in typed and _held(writing, at) == was:
            writing.put(at, practice)


def _held(writing: Writing, at: Address) -> Any:
    """What stands there by now; None for what is gone."""
    try:
        return writing.held(at)
    except KeyError:
        return None


def _with_looks(
    design: Design, typed: list[str], said: list[str], like: list[tuple[str, str]]
) -> Design:
    """The design with what was typed or said to be looked at; new arrays as those they are like.

    Raises DesignError for a path that is said and holds nothing.
    """
    for model, array in like:
        design = as_of(design, model, array)
    unknown = [path for path in said if not holds(design, path)]
    if unknown:
        raise DesignError(
            tuple(
                Problem(path, path, "is not a value of this design", "", "Look at the form again.")
                for path in unknown[:MOST_TOLD]
            )
        )
    return looked_at(design, (*typed, *said))


def refusal(errors: list[tuple[ValidationError, str]], units: UnitSystem) -> DesignError:
    """One error of many of pydantic's, each with the path of the part that it is about."""
    return DesignError(
        tuple(problem for error, under in errors for problem in problems_of(error, units, under))
    )


def _edit(writing: Writing, path: str, text: str, units: UnitSystem) -> None:
    """Put what was typed in its place. Raises QuantityError, or KeyError for no such place."""
    at = address_of(path)
    if at.array and not at.stage:
        _edit_array(writing, at, text)
        return
    field = fields()[at.pattern]
    if not at.thing:
        writing.put(at, read(field, text, units, writing.held(at)))
    elif field.item is None:
        raise KeyError(path)
    elif at.inner:
        inner = item_fields(field.item)[at.inner]
        writing.put(at, _inner_value(writing, at, inner, text, units))
    elif at.new:
        pack = writing.held(RULE_PACK)
        writing.add(at, _new_thing(field.item, text, at.thing.removeprefix(NEW), pack))
    elif text.strip():
        # A thing of a list is changed field by field; said to be nothing, it goes.
        raise QuantityError("is changed field by field, or removed by leaving it empty")
    else:
        writing.remove(at)


def _edit_array(writing: Writing, at: Address, text: str) -> None:
    """Name an array, give it another place in the order, take it out, or put one in.

    A new one is like the one that ``text`` names, behind it; or a plain one.
    """
    arrays = writing.arrays
    if at.name == "name":
        writing.put(at, text.strip())
    elif at.name == ARRAY_STANDING.path:
        writing.put(at, read(ARRAY_STANDING, text, "metric"))
    elif at.name:
        _order(writing, at.array, text)
    elif at.new:
        _add_array(writing, at.array.removeprefix(NEW), text.strip())
    elif text.strip():
        raise QuantityError("is changed field by field, or removed by leaving it empty")
    elif at.array not in {one.id for one in arrays}:
        raise KeyError(at.array)
    elif len(arrays) == 1:
        raise QuantityError("is the only array of the job: it is changed, not removed")
    else:
        writing.set_arrays(one for one in arrays if one.id != at.array)
        # Its way into the trunk goes with it.
        for spur in writing.things(SPURS):
            if getattr(spur, "array", "") == at.array:
                writing.remove(replace(SPURS, thing=spur.id))


def _order(writing: Writing, array_id: str, text: str) -> None:
    """Put an array at a place in the order, counted from one."""
    arrays = list(writing.arrays)
    moved = next((one for one in arrays if one.id == array_id), None)
    if moved is None:
        raise KeyError(array_id)
    if not is_number(text.strip()) or not 1 <= int(text) <= len(arrays):
        raise QuantityError(f"is no place in the order: a number from 1 to {len(arrays)}")
    arrays.remove(moved)
    arrays.insert(int(text) - 1, moved)
    writing.set_arrays(arrays)


def _add_array(writing: Writing, array_id: str, like_id: str) -> None:
    arrays = writing.arrays
    like = {one.id: one for one in arrays}.get(like_id)
    if like_id and like is None:
        raise QuantityError("there is no such array to copy")
    if len(arrays) >= MOST_ARRAYS:
        raise QuantityError(f"is one array more than the {MOST_ARRAYS} that a job may hold")
    model, name = like or ArrayGivens(), (like or ArrayGivens()).name
    taken = {one.name for one in arrays}
    stem = name.rstrip("0123456789 ") or name
    called = next(
        said for number in range(2, MOST_ARRAYS + 3) if (said := f"{stem[:36]} {number}") not in taken
    )
    rows = set_behind(
        model.rows,
        (model.modules.length_m, model.modules.width_m),
        tuple(one.rows for one in arrays),
        # Where nobody has said on which half of the globe it is, any way is as good.
        writing.design.site.latitude_deg or 1.0,
    )
    try:
        new = ArrayGivens.model_validate(
            {**model.__dict__, "id": array_id, "name": called, "rows": rows, "standing": False}
        )
    except ValidationError:
        raise _no_id(array_id) from None
    writing.set_arrays((*arrays, new))


def _inner_value(writing: Writing, at: Address, inner: Field, text: str, units: UnitSystem) -> Any:
    """What was typed into a field of a thing; arrays are named as the job calls them."""
    if inner.kind == "array":
        return _array_called(writing, text)
    if inner.kind == "arrays":
        named = (_array_called(writing, line) for line in text.splitlines() if line.strip())
        return tuple(dict.fromkeys(named))
    return read(inner, text, units, writing.held(at))


def _array_called(writing: Writing, text: str) -> str:
    """The id of the array that is named, or that has what was typed as its id; empty for none."""
    said = text.strip()
    labels = array_labels(writing.arrays)
    found = next((one for one, label in labels.items() if said in (one, label)), None)
    if said and found is None:
        raise QuantityError(f"'{said[:40]}' is no array of this job: {', '.join(labels.values())}")
    return found or ""


def _new_thing(item: type[Thing], text: str, thing_id: str, pack: RulePack) -> Thing:
    """A new thing of a list as practice has it under a rule pack; ``text`` is its first choice (a
    kind, a topic) where it has one.
    """
    first = what_it_is(item)
    said = {first.path: text.strip()} if first and text.strip() in first.choices else {}
    practice = {name: one.practice(pack) for name, one in item_fields(item).items() if one.by_pack}
    try:
        return item.model_validate(practice | said | {"id": thing_id})
    except ValidationError:
        raise _no_id(thing_id) from None


def _no_id(text: str) -> QuantityError:
    return QuantityError(f"{text[:20]!r} is no id: small letters and digits, {LONGEST_ID} at most")


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
    known, now_known = fields_of(before), fields_of(after)
    for one, other in ((before, after), (after, before)):
        gone = [array for array in one.arrays if array.id not in {kept.id for kept in other.arrays}]
        found += [
            Difference(
                in_array(array.id, ""),
                ARRAY_NAME.label,
                *((array.name, "none") if one is before else ("none", array.name)),
            )
            for array in gone
        ]
    shared = {one.id for one in before.arrays} & {one.id for one in after.arrays}
    was_in, now_in = ([one for one in side.arrays if one.id in shared] for side in (before, after))
    if [one.id for one in was_in] != [one.id for one in now_in]:
        orders = (", ".join(one.name for one in order) for order in (was_in, now_in))
        found.append(Difference("arrays", "Order of arrays", *orders))
    called = array_labels({one.id: one for one in (*before.arrays, *after.arrays)}.values())
    for path, field in known.items():
        if path not in now_known:
            continue
        old, new = value_at(before, path), value_at(after, path)
        if old != new:
            was, now = (
                _list_words(field, old, new, units, called)
                if field.item
                else (write(field, old, units), write(field, new, units))
            )
            empty = "none" if field.kind in LINES else _empty(field)
            found.append(Difference(path, _label(field, path, after), was or empty, now or empty))
    return (*found, *_looks(before, after))


def _empty(field: Field) -> str:
    """What it says where nothing stands: the plan has a value of its own for it, or nobody has."""
    return "not said yet" if field.needed else "left to the plan"


def _looks(before: Design, after: Design) -> list[Difference]:
    """What holds the same in both and was looked at in one of them alone."""
    words = "nobody has looked", "looked at"
    sides = (before, after, words), (after, before, words[::-1])
    found = []
    for blind, seeing, said in sides:
        seen = frozenset(seeing.looked)
        paths = tuple(
            path
            for path in not_looked(blind)
            if path in seen and _stands(blind, path) == _stands(seeing, path)
        )
        if paths:
            found.append(Difference(LOOKED, f"Practice: {named(paths)}", *said))
    return found


def _stands(design: Design, path: str) -> Any:
    """What stands at a path, in a thing too; None for what is not there."""
    return read_at(design, address_of(path)) if holds(design, path) else None


def _label(field: Field, path: str, design: Design) -> str:
    """What a field is called; with the array's name where there are several."""
    array = address_of(path).array
    if not array or len(design.arrays) == 1:
        return field.label
    return f"{design.array(array).name}: {field.label}"


def _list_words(
    field: Field,
    old: tuple[Thing, ...],
    new: tuple[Thing, ...],
    units: UnitSystem,
    arrays: dict[str, str],
) -> tuple[str, str]:
    """Both sides of a list in words: only the things, and of them only the fields, that differ."""
    assert field.item is not None
    before: list[str] = []
    after: list[str] = []
    now = {thing.id: thing for thing in new}
    for number, was in enumerate(old):
        title, after_it = title_of(was, number), now.get(was.id)
        if after_it is None:
            before.append(title)
            continue
        for name, inner in item_fields(field.item).items():
            values = getattr(was, name), getattr(after_it, name)
            if values[0] != values[1]:
                for side, value in zip((before, after), values, strict=True):
                    said = _short(inner, value, units)
                    if inner.kind in ("array", "arrays"):
                        ids = [value] if inner.kind == "array" else value
                        said = ", ".join(arrays.get(one, "one that is gone") for one in ids if one) or (
                            "none"
                        )
                    side.append(f"{title}, {inner.label.lower()}: {said}")
    known = {thing.id for thing in old}
    after += [title_of(thing, number) for number, thing in enumerate(new) if thing.id not in known]
    return "\n".join(before), "\n".join(after)


def _short(field: Field, value: Any, units: UnitSystem) -> str:
    text = write(field, value, units)
    lines = text.splitlines()
    return f"{len(lines)} lines" if len(lines) > 3 else "; ".join(lines) or "empty"
