"""Two people's changes to one design, put together; lists thing by thing, never silently losing one."""

from openfurrow.core.design import Design
from openfurrow.core.edits import validated
from openfurrow.core.fields import fields, value_at
from openfurrow.core.givens import Givens
from openfurrow.core.things import Things, changes_of


def _one_thing(base: Givens, mine: Givens | None, theirs: Givens | None) -> Givens | None:
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


def merged_things(base: Things, mine: Things, theirs: Things) -> Things | None:
    """Both sides' changes to a list; None where both changed the same of the same thing.

    A thing that only one side changed, put in or took out is as that side has it; what both put in
    alike is there once.
    """
    ours, others = changes_of(base, mine), changes_of(base, theirs)
    found: list[Givens] = []
    for number in range(len(base) + 1):
        found += others.added[number]
        found += [thing for thing in ours.added[number] if thing not in others.added[number]]
        if number == len(base):
            break
        try:
            thing = _one_thing(base[number], ours.now[number], others.now[number])
        except ValueError:
            return None
        if thing is not None:
            found.append(thing)
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
    data = theirs.model_dump(mode="json")
    ours = mine.model_dump(mode="json")
    if mine.name != base.name and "name" not in take_theirs:
        data["name"] = ours["name"]
    for path, field in fields().items():
        was, here, there = (value_at(design, path) for design in (base, mine, theirs))
        if here == was:
            continue
        name = path.split(".")[1]
        both = _together(base, mine, theirs, path) if there != was else None
        if both is not None:
            data[field.stage][name] = [thing.model_dump(mode="json") for thing in both]
        elif path not in take_theirs:
            data[field.stage][name] = ours[field.stage][name]
    return validated(data)
