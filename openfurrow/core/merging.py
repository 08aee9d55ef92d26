"""Two people's changes to one design, put together; lists thing by thing, never silently losing one."""

from typing import Any

from openfurrow.core.design import Design
from openfurrow.core.edits import refusal
from openfurrow.core.fields import fields, value_at
from openfurrow.core.givens import Thing
from openfurrow.core.paths import Writing, address_of

Things = tuple[Thing, ...]


def _one_thing(base: Thing, mine: Thing | None, theirs: Thing | None) -> Thing | None:
    """A thing with both sides' changes. Raises ValueError where they cannot both be had."""
    if mine in (base, theirs):
        return theirs
    if theirs == base:
        return mine
    if mine is None or theirs is None:
        raise ValueError("one took out what the other changed")
    changes = {}
    for name in type(base).model_fields:
        was, ours, others = (getattr(thing, name) for thing in (base, mine, theirs))
        if was not in (ours, others) and ours != others:
            raise ValueError(f"both changed {name}")
        changes[name] = others if ours == was else ours
    return type(base).model_validate(changes)


def _said(thing: Thing) -> dict[str, Any]:
    """Everything of a thing but its id."""
    return {name: value for name, value in thing.__dict__.items() if name != "id"}


def merged_things(base: Things, mine: Things, theirs: Things) -> Things | None:
    """Both sides' changes to a list; None where both changed the same of the same thing.

    A thing that only one side changed, put in or took out is as that side has it; what both put in
    alike is there once. Things stand as in ``theirs``, what I put in after what it stood after.
    """
    before, ours = ({thing.id: thing for thing in side} for side in (base, mine))
    found: list[Thing] = []
    for thing in theirs:
        if thing.id not in before:
            if thing.id in ours and ours[thing.id] != thing:
                return None
            found.append(thing)
            continue
        try:
            one = _one_thing(before[thing.id], ours.get(thing.id), thing)
        except ValueError:
            return None
        if one is not None:
            found.append(one)
    others = {thing.id for thing in theirs}
    alike = [_said(thing) for thing in theirs if thing.id not in before]
    for number, thing in enumerate(mine):
        if thing.id in others:
            continue
        if thing.id in before:
            # They took it out: so be it, unless it was changed here.
            if thing != before[thing.id]:
                return None
            continue
        if _said(thing) in alike:
            alike.remove(_said(thing))
            continue
        after = {one.id for one in mine[:number]}
        place = max((k + 1 for k, one in enumerate(found) if one.id in after), default=0)
        while place < len(found) and found[place].id not in before:
            place += 1
        found.insert(place, thing)
    return tuple(found)


def _together(base: Design, mine: Design, theirs: Design, path: str) -> Things | None:
    """The merged list at a path; None for a field that is no list, or where both cannot be had."""
    if fields()[path].item is None:
        return None
    return merged_things(*(value_at(design, path) for design in (base, mine, theirs)))


def kept_together(base: Design, mine: Design, theirs: Design) -> frozenset[str]:
    """Paths of lists that both sides changed and that keep what both did."""
    return frozenset(
        path for path in fields()
        if value_at(base, path) not in (value_at(mine, path), value_at(theirs, path))
        and _together(base, mine, theirs, path) is not None
    )


def clashing(base: Design, mine: Design, theirs: Design) -> frozenset[str]:
    """Paths of fields that both changed differently and that cannot keep what both did."""
    return frozenset(
        path for path in fields()
        if value_at(base, path) not in (value_at(mine, path), value_at(theirs, path))
        and value_at(mine, path) != value_at(theirs, path)
        and _together(base, mine, theirs, path) is None
    ) | ({"name"} if base.name not in (mine.name, theirs.name) and mine.name != theirs.name else set())


def merged(base: Design, mine: Design, theirs: Design, take_theirs: frozenset[str]) -> Design:
    """Both sides' changes since ``base``.

    Where both changed a list, what both did is kept where it can be; where both changed a field, or
    the same of the same thing, mine unless taken theirs. Raises DesignError where the two together
    are not a valid design.
    """
    writing = Writing(theirs, lambda errors: refusal(errors, "us"))
    for path in fields():
        was, here, there = (value_at(design, path) for design in (base, mine, theirs))
        if here == was:
            continue
        both = _together(base, mine, theirs, path) if there != was else None
        if both is not None:
            writing.put(address_of(path), both)
        elif path not in take_theirs:
            writing.put(address_of(path), here)
    new = writing.done()
    if mine.name != base.name and "name" not in take_theirs:
        new = new.model_copy(update={"name": mine.name})
    return new
