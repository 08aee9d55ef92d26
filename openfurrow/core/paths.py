"""Addresses in a design: the one place that splits a path, reads by it and writes by it.

A path is ``stage.field``, ``stage.list.thing`` or ``stage.list.thing.field``; that of an array begins
with ``arrays.id``: ``arrays.1.rows.tilt_deg``; ``arrays.1.name`` is what it is called,
``arrays.1.standing`` whether it stands already, and ``arrays.1.order`` its place among them, which can
be written and not read. Things of lists and arrays are named by their ids, which are never used
again; ``+id`` stands for one that is new.
"""

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any

from pydantic import ValidationError

from openfurrow.core.design import ARRAY_STAGES, JOB_STAGES, ArrayGivens, Design
from openfurrow.core.givens import Givens, Thing

NEW = "+"
ARRAYS = "arrays"


@dataclass(frozen=True)
class Address:
    """A path in its parts; those that it does not go down to are empty.

    ``stage`` is empty for an array's own ``name``, and that too where the array itself is meant.
    """

    stage: str
    name: str
    thing: str = ""
    inner: str = ""
    array: str = ""

    @property
    def pattern(self) -> str:
        """The path of the field, or of the whole list, in any array."""
        return f"{self.stage}.{self.name}" if self.stage else self.name

    @property
    def field_path(self) -> str:
        """The path of the field, or of the whole list, that it lies in."""
        return in_array(self.array, self.pattern)

    @property
    def part(self) -> str:
        """The path of the stage that it lies in."""
        return in_array(self.array, self.stage)

    @property
    def new(self) -> bool:
        """Whether it names an array or a thing that is not there yet."""
        return self.thing.startswith(NEW) or self.array.startswith(NEW)


def in_array(array: str, path: str) -> str:
    """A path of an array's own, as the whole design says it; unchanged for no array."""
    return ".".join(part for part in (f"{ARRAYS}.{array}" if array else "", path) if part)


def address_of(path: str) -> Address:
    """A path's parts. Raises KeyError where it is no path of a design."""
    parts = path.split(".")
    if not all(parts):
        raise KeyError(path)
    if parts[0] != ARRAYS:
        if not 2 <= len(parts) <= 4 or parts[0] not in JOB_STAGES:
            raise KeyError(path)
        return Address(*parts)
    match parts[1:]:
        case [array]:
            return Address("", "", array=array)
        case [array, ("name" | "standing" | "order") as own]:
            return Address("", own, array=array)
        case [array, stage, name, *deeper] if stage in ARRAY_STAGES and len(deeper) <= 2:
            thing, inner = (*deeper, "", "")[:2]
            return Address(stage, name, thing, inner, array)
    raise KeyError(path)


def within(path: str) -> Address | None:
    """The address that a deeper path lies in, as an error names it; None for none of a design."""
    parts = path.split(".")
    try:
        return address_of(".".join(parts[: 6 if parts[0] == ARRAYS else 4]))
    except KeyError:
        return None


def stamped(path: str, array: str) -> str:
    """A path as a stage says it, ``rows.tilt_deg``, with the array that is meant where it is one's."""
    return in_array(array, path) if path.split(".", 1)[0] in ARRAY_STAGES else path


def read(design: Design, at: Address) -> Any:
    """What stands at an address. Raises KeyError where there is no such place."""
    held = _attribute(_holder(design, at), at.name)
    if not at.thing:
        return held
    thing = thing_in(held, at.thing)
    return _attribute(thing, at.inner) if at.inner else thing


def holds(design: Design, path: str) -> bool:
    """Whether something stands at a path."""
    try:
        read(design, address_of(path))
    except KeyError:
        return False
    return True


def _holder(design: Design, at: Address) -> Givens:
    """The stage that an address lies in, or the array where it is of none."""
    root: Givens = design.array(at.array) if at.array else design
    found = _attribute(root, at.stage) if at.stage else root
    assert isinstance(found, Givens)
    return found


def _attribute(givens: Any, name: str) -> Any:
    if name not in type(givens).model_fields:
        raise KeyError(name)
    return getattr(givens, name)


def thing_in(things: Any, thing_id: str) -> Thing:
    """The thing with an id. Raises KeyError."""
    found = (
        next((one for one in things if isinstance(one, Thing) and one.id == thing_id), None)
        if (isinstance(things, tuple))
        else None
    )
    if found is None:
        raise KeyError(thing_id)
    return found


# Makes one error of pydantic's, each with the path of the part it is about.
Wrong = Callable[[list[tuple[ValidationError, str]]], Exception]


@dataclass
class Writing:
    """A design being written: only what is touched is copied, and only that is validated again.

    ``wrong`` makes the error that is raised from pydantic's.
    """

    design: Design
    wrong: Wrong
    # By array and stage: the values that are touched.
    _values: dict[tuple[str, str], dict[str, Any]] = field(default_factory=dict)
    # By list and id: the values of things that are touched.
    _things: dict[tuple[str, str], dict[str, Any]] = field(default_factory=dict)
    # Arrays by id, as they are by now; None where none was added or taken out.
    _arrays: list[ArrayGivens] | None = None
    _errors: list[tuple[ValidationError, str]] = field(default_factory=list)

    @property
    def arrays(self) -> tuple[ArrayGivens, ...]:
        """The arrays that are there by now, as they were before any field of theirs was touched."""
        return self.design.arrays if self._arrays is None else tuple(self._arrays)

    def _before(self) -> Design:
        """The design with the arrays that are there by now."""
        return (
            self.design
            if self._arrays is None
            else self.design.model_copy(update={"arrays": tuple(self._arrays)})
        )

    def _of(self, at: Address) -> dict[str, Any]:
        return self._values.setdefault((at.array, at.stage), {})

    def things(self, at: Address) -> list[Thing]:
        """The things of a list as they are by now."""
        values = self._of(at)
        if at.name not in values:
            values[at.name] = list(read(self._before(), Address(at.stage, at.name, array=at.array)))
        return list(values[at.name])

    def _keep(self, at: Address, things: Iterable[Thing]) -> None:
        self._of(at)[at.name] = list(things)

    def held(self, at: Address) -> Any:
        """What stands at an address by now."""
        if not at.thing:
            values = self._values.get((at.array, at.stage), {})
            return values[at.name] if at.name in values else read(self._before(), at)
        thing = thing_in(tuple(self.things(at)), at.thing)
        touched = self._things.get((at.field_path, at.thing), {})
        return touched[at.inner] if at.inner in touched else _attribute(thing, at.inner)

    def put(self, at: Address, value: Any) -> None:
        """Put a value into a field. Raises KeyError where there is no such place."""
        if not at.thing:
            read(self._before(), at)
            self._of(at)[at.name] = value
            return
        thing = thing_in(tuple(self.things(at)), at.thing)
        _attribute(thing, at.inner)
        self._things.setdefault((at.field_path, at.thing), {})[at.inner] = value

    def add(self, at: Address, thing: Thing) -> None:
        """Put a thing at the end of its list."""
        self._keep(at, [*self.things(at), thing])

    def remove(self, at: Address) -> None:
        """Take a thing out. Raises KeyError where it is not there."""
        things = self.things(at)
        thing_in(tuple(things), at.thing)
        self._keep(at, [one for one in things if one.id != at.thing])

    def set_arrays(self, arrays: Iterable[ArrayGivens]) -> None:
        """Other arrays than there were; what was put into one that goes is let go with it."""
        self._arrays = list(arrays)
        left = {one.id for one in self._arrays} | {""}
        self._values = {key: held for key, held in self._values.items() if key[0] in left}
        self._things = {
            key: held for key, held in self._things.items() if address_of(key[0]).array in left
        }

    def done(self) -> Design:
        """The design with everything that was put. Raises what ``wrong`` makes of an invalid part."""
        for (list_path, thing_id), values in self._things.items():
            at = address_of(list_path)
            things = self.things(at)
            self._keep(
                at,
                [
                    # One that is not valid stays as it was: it is told of with all the others.
                    self._validated(type(one), {**one.__dict__, **values}, f"{list_path}.{thing_id}")
                    or one
                    if one.id == thing_id
                    else one
                    for one in things
                ],
            )
        self._stop_at_errors()
        before = self._before()
        job = self._stages_of("", before)
        arrays = [self._array(one) for one in before.arrays]
        self._stop_at_errors()
        if self._arrays is not None or any(
            new is not one for new, one in zip(arrays, before.arrays, strict=True)
        ):
            # Whether so many arrays may stand side by side is a rule of the whole.
            whole = self._validated(Design, {**before.__dict__, **job, ARRAYS: tuple(arrays)}, "")
            self._stop_at_errors()
            assert isinstance(whole, Design)
            return whole
        return self.design.model_copy(update=job)

    def _array(self, one: ArrayGivens) -> ArrayGivens:
        """An array with what was put into its stages and its name."""
        wrong_before = len(self._errors)
        stages = self._stages_of(one.id, one)
        own = self._values.get((one.id, ""), {})
        if len(self._errors) > wrong_before or not (stages or own):
            return one
        found = self._validated(ArrayGivens, {**one.__dict__, **stages, **own}, in_array(one.id, ""))
        return found if isinstance(found, ArrayGivens) else one

    def _stages_of(self, array: str, root: Givens) -> dict[str, Any]:
        """The stages of the job, or of an array, that were touched."""
        return {
            stage: self._validated(
                type(getattr(root, stage)),
                {**getattr(root, stage).__dict__, **values},
                in_array(array, stage),
            )
            for (of, stage), values in self._values.items()
            if of == array and stage
        }

    def _stop_at_errors(self) -> None:
        if self._errors:
            raise self.wrong(self._errors)

    def _validated(self, what: type[Givens], values: Mapping[str, Any], path: str) -> Any:
        try:
            return what.model_validate(values)
        except ValidationError as error:
            self._errors.append((error, path))
            return None
