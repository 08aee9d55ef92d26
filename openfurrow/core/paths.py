"""Addresses in a design: the one place that splits a path, reads by it and writes by it.

A path is ``stage.field``, ``stage.list.thing`` or ``stage.list.thing.field``, where a thing of a list
is named by its id, which is never used again. ``stage.list.+id`` stands for a thing that is new.
"""

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any

from pydantic import ValidationError

from openfurrow.core.design import STAGES, Design
from openfurrow.core.givens import Givens, Thing

NEW = "+"


@dataclass(frozen=True)
class Address:
    """A path in its parts; ``thing`` and ``inner`` are empty where it goes no deeper."""

    stage: str
    name: str
    thing: str = ""
    inner: str = ""

    @property
    def field_path(self) -> str:
        """The path of the field, or of the whole list, that it lies in."""
        return f"{self.stage}.{self.name}"

    @property
    def new(self) -> bool:
        """Whether it names a thing that is not there yet."""
        return self.thing.startswith(NEW)


def address_of(path: str) -> Address:
    """A path's parts. Raises KeyError where it is no path of a design."""
    parts = path.split(".")
    if not 2 <= len(parts) <= 4 or not all(parts) or parts[0] not in STAGES:
        raise KeyError(path)
    return Address(*parts)


def within(path: str) -> Address | None:
    """The address that a deeper path lies in, as an error names it; None for none of a design."""
    try:
        return address_of(".".join(path.split(".")[:4]))
    except KeyError:
        return None


def read(design: Design, at: Address) -> Any:
    """What stands at an address. Raises KeyError where there is no such place."""
    held = _attribute(_attribute(design, at.stage), at.name)
    if not at.thing:
        return held
    thing = thing_in(held, at.thing)
    return _attribute(thing, at.inner) if at.inner else thing


def _attribute(givens: Any, name: str) -> Any:
    if name not in type(givens).model_fields:
        raise KeyError(name)
    return getattr(givens, name)


def thing_in(things: Any, thing_id: str) -> Thing:
    """The thing with an id. Raises KeyError."""
    found = next((one for one in things if isinstance(one, Thing) and one.id == thing_id), None) if (
        isinstance(things, tuple)) else None
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
    _values: dict[str, dict[str, Any]] = field(default_factory=dict)
    # By list and id: the values of things that are touched.
    _things: dict[tuple[str, str], dict[str, Any]] = field(default_factory=dict)
    _errors: list[tuple[ValidationError, str]] = field(default_factory=list)

    def _of(self, stage: str) -> dict[str, Any]:
        return self._values.setdefault(stage, {})

    def things(self, at: Address) -> list[Thing]:
        """The things of a list as they are by now."""
        values = self._of(at.stage)
        if at.name not in values:
            values[at.name] = list(read(self.design, Address(at.stage, at.name)))
        return list(values[at.name])

    def _keep(self, at: Address, things: Iterable[Thing]) -> None:
        self._of(at.stage)[at.name] = list(things)

    def held(self, at: Address) -> Any:
        """What stands at an address by now."""
        if not at.thing:
            values = self._values.get(at.stage, {})
            return values[at.name] if at.name in values else read(self.design, at)
        thing = thing_in(tuple(self.things(at)), at.thing)
        touched = self._things.get((at.field_path, at.thing), {})
        return touched[at.inner] if at.inner in touched else _attribute(thing, at.inner)

    def put(self, at: Address, value: Any) -> None:
        """Put a value into a field. Raises KeyError where there is no such place."""
        if not at.thing:
            read(self.design, at)
            self._of(at.stage)[at.name] = value
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

    def done(self) -> Design:
        """The design with everything that was put. Raises what ``wrong`` makes of an invalid part."""
        for (list_path, thing_id), values in self._things.items():
            at = address_of(list_path)
            things = self.things(at)
            self._keep(at, [
                # One that is not valid stays as it was: it is told of with all the others.
                self._validated(type(one), {**one.__dict__, **values}, f"{list_path}.{thing_id}") or one
                if one.id == thing_id else one for one in things])
        self._stop_at_errors()
        stages = {
            stage: self._validated(
                type(getattr(self.design, stage)), {**getattr(self.design, stage).__dict__, **values},
                stage)
            for stage, values in self._values.items()
        }
        self._stop_at_errors()
        return self.design.model_copy(update=stages)

    def _stop_at_errors(self) -> None:
        if self._errors:
            raise self.wrong(self._errors)

    def _validated(self, what: type[Givens], values: Mapping[str, Any], path: str) -> Any:
        try:
            return what.model_validate(values)
        except ValidationError as error:
            self._errors.append((error, path))
            return None
