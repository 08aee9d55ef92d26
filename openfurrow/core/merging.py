"""Two people's changes to one design, put together; lists thing by thing, never silently losing one."""

from typing import Any

from openfurrow.core.design import ArrayGivens, Design
from openfurrow.core.edits import refusal
from openfurrow.core.fields import field_at, fields_of, value_at
from openfurrow.core.givens import Thing
from openfurrow.core.looked import LOOKED, together, with_book
from openfurrow.core.paths import Writing, address_of, in_array

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
    field = field_at(path)
    if field is None or field.item is None:
        return None
    return merged_things(*(value_at(design, path) for design in (base, mine, theirs)))


def _shared(*designs: Design) -> list[str]:
    """Paths of the fields that all designs have: those of the job, and of arrays that none lacks."""
    return [
        path
        for path in fields_of(designs[0])
        if all(path in fields_of(design) for design in designs[1:])
    ]


def _both_changed(base: Design, mine: Design, theirs: Design) -> list[str]:
    return [
        path
        for path in _shared(base, mine, theirs)
        if value_at(base, path) not in (value_at(mine, path), value_at(theirs, path))
    ]


def kept_together(base: Design, mine: Design, theirs: Design) -> frozenset[str]:
    """Paths of lists that both sides changed and that keep what both did; the book of looks is one."""
    return frozenset(
        path
        for path in _both_changed(base, mine, theirs)
        if _together(base, mine, theirs, path) is not None
    ) | ({LOOKED} if base.looked not in (mine.looked, theirs.looked) else set())


def _taken_out_and_changed(base: Design, mine: Design, theirs: Design) -> frozenset[str]:
    """Arrays that one side took out and the other changed, and new ones of one id that differ."""
    ours, others = ({one.id: one for one in side.arrays} for side in (mine, theirs))
    before = {one.id: one for one in base.arrays}
    found = {
        array
        for array, was in before.items()
        if (array not in ours and array in others and others[array] != was)
        or (array not in others and array in ours and ours[array] != was)
    }
    found |= {
        array for array in ours.keys() & others.keys() - before.keys() if ours[array] != others[array]
    }
    return frozenset(in_array(array, "") for array in found)


def clashing(base: Design, mine: Design, theirs: Design) -> frozenset[str]:
    """Paths of what both changed differently and that cannot keep what both did."""
    return (
        frozenset(
            path
            for path in _both_changed(base, mine, theirs)
            if value_at(mine, path) != value_at(theirs, path)
            and _together(base, mine, theirs, path) is None
        )
        | _taken_out_and_changed(base, mine, theirs)
        | (
            {"name"}
            if base.name not in (mine.name, theirs.name) and mine.name != theirs.name
            else set()
        )
    )


def _arrays(
    base: Design, mine: Design, theirs: Design, take_theirs: frozenset[str]
) -> tuple[ArrayGivens, ...]:
    """The arrays of both: theirs in their order, then what I put in; gone is what one took out."""
    ours = {one.id: one for one in mine.arrays}
    before = {one.id: one for one in base.arrays}
    clashes = _taken_out_and_changed(base, mine, theirs)

    def mine_counts(array: str) -> bool:
        path = in_array(array, "")
        return path not in clashes or path not in take_theirs

    found = []
    for one in theirs.arrays:
        if one.id in before and one.id not in ours and mine_counts(one.id):
            continue
        new_in_both = one.id not in before and one.id in ours and mine_counts(one.id)
        found.append(ours[one.id] if new_in_both else one)
    kept = {one.id for one in theirs.arrays}
    for one in mine.arrays:
        theirs_took_it_out = one.id in before and (one == before[one.id] or not mine_counts(one.id))
        if one.id not in kept and not theirs_took_it_out:
            found.append(one)
    return _in_order(tuple(found), base, mine, theirs)


def _in_order(
    arrays: tuple[ArrayGivens, ...], base: Design, mine: Design, theirs: Design
) -> tuple[ArrayGivens, ...]:
    """In my order where I alone put them in another; else in theirs."""
    shared = set.intersection(*({one.id for one in side.arrays} for side in (base, mine, theirs)))
    was, here, there = (
        [one.id for one in side.arrays if one.id in shared] for side in (base, mine, theirs)
    )
    if here == was or there != was:
        return arrays
    place = {one.id: number for number, one in enumerate(mine.arrays)}
    return tuple(sorted(arrays, key=lambda one: place.get(one.id, len(place))))


def merged(base: Design, mine: Design, theirs: Design, take_theirs: frozenset[str]) -> Design:
    """Both sides' changes since ``base``.

    Where both changed a list, what both did is kept where it can be; where both changed a field, or
    the same of the same thing, mine unless taken theirs. Raises DesignError where the two together
    are not a valid design.
    """
    writing = Writing(theirs, lambda errors: refusal(errors, "us"))
    arrays = _arrays(base, mine, theirs, take_theirs)
    if arrays != theirs.arrays:
        writing.set_arrays(arrays)
    left = {one.id for one in arrays}
    for path in _shared(base, mine, theirs):
        was, here, there = (value_at(design, path) for design in (base, mine, theirs))
        if here == was or address_of(path).array not in left | {""}:
            continue
        both = _together(base, mine, theirs, path) if there != was else None
        if both is not None:
            writing.put(address_of(path), both)
        elif path not in take_theirs:
            writing.put(address_of(path), here)
    new = writing.done()
    if mine.name != base.name and "name" not in take_theirs:
        new = new.model_copy(update={"name": mine.name})
    return with_book(
        new,
        together(base.looked, mine.looked, theirs.looked),
        together(base.taken, mine.taken, theirs.taken),
    )
