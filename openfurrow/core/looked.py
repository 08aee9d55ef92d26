"""Which values are practice that nobody has looked at yet, and the book that is kept of it.

A given that only people can say has no value until somebody says it. The others begin with what
practice is under the rules of the job. Such a value is somebody's own once it differs from that, or
once somebody has said so: then its path stands in the design's ``looked``. So it is with what was
taken from another job or from the clock, whatever it is: those paths stand in ``taken``.
"""

from collections.abc import Iterable, Iterator
from typing import Any

from openfurrow.core.codes import RulePack
from openfurrow.core.design import ARRAY_STAGES, Design
from openfurrow.core.fields import Field, fields, item_fields
from openfurrow.core.givens import Givens
from openfurrow.core.paths import Address, holds, in_array

# A pseudo path: what is written to it are paths, one a line, that somebody has looked at.
LOOKED = "looked"


def _is_practice(field: Field, value: Any, pack: RulePack) -> bool:
    """Whether a value is what practice is."""
    return not field.needed and bool(value == field.practice(pack))


def _says_something(field: Field, value: Any) -> bool:
    """Whether there is a value; where there is nothing to choose there is nothing to look at."""
    return not field.item and len(field.choices) != 1 and value not in (None, "", ())


def _stage_fields(stage: str, givens: Givens, pack: RulePack) -> Iterator[tuple[str, Field, Any]]:
    """Path in the stage, field and value of everything that is asked for, things of lists too.

    Of lists only those that a job begins with: what is in the others somebody has put there.
    """
    shown = givens.shown()
    for field in fields().values():
        name = field.path.removeprefix(f"{stage}.")
        if field.stage != stage or field.pack not in (None, pack) or name not in shown:
            continue
        held = getattr(givens, name)
        if not (field.item and field.default):
            yield field.path, field, held
            continue
        for thing in held:
            asked = thing.shown()
            for inner, one in item_fields(field.item).items():
                if inner in asked:
                    yield f"{field.path}.{thing.id}.{inner}", one, getattr(thing, inner)


def not_looked(design: Design) -> tuple[str, ...]:
    """Paths of all that is practice, or taken, and that nobody has looked at, in the job's order."""
    pack, seen, taken = design.site.rule_pack, frozenset(design.looked), frozenset(design.taken)
    stages = dict.fromkeys(field.stage for field in fields().values())
    return tuple(
        whole
        for stage in stages
        for array, holder in (
            [(one.id, one) for one in design.arrays] if stage in ARRAY_STAGES else [("", design)]
        )
        for path, field, value in _stage_fields(stage, getattr(holder, stage), pack)
        if _says_something(field, value)
        and (whole := in_array(array, path)) not in seen
        and (whole in taken or _is_practice(field, value, pack))
    )


def keeps_book_of(at: Address) -> bool:
    """Whether what stands at an address has a value by practice, so that it can be looked at."""
    field = fields()[at.pattern]
    if not at.thing:
        return _says_something(field, field.default)
    return bool(field.item and field.default and at.inner) and _says_something(
        (inner := item_fields(field.item)[at.inner]), inner.default
    )


def looked_at(design: Design, paths: Iterable[str]) -> Design:
    """The same design, these paths looked at too; its book without what is gone."""
    return with_book(
        design, frozenset(path for path in {*design.looked, *paths} if holds(design, path))
    )


def as_of(design: Design, like: str, array: str) -> Design:
    """The same design, where a new array is looked at as the one that it is like."""
    start = f"{in_array(like, '')}."

    def both(paths: Iterable[str]) -> frozenset[str]:
        held = frozenset(paths)
        return held | {in_array(array, p.removeprefix(start)) for p in held if p.startswith(start)}

    return with_book(design, both(design.looked), both(design.taken))


def together(base: Iterable[str], mine: Iterable[str], theirs: Iterable[str]) -> frozenset[str]:
    """Paths after both sides' changes: what either put in, less what one took back."""
    was, ours, others = (frozenset(side) for side in (base, mine, theirs))
    return (others | (ours - was)) - (was - ours)


def with_book(design: Design, looked: frozenset[str], taken: frozenset[str] | None = None) -> Design:
    """The same design with another book of what was looked at, and of what was taken if said."""
    books = {LOOKED: looked} | ({} if taken is None else {"taken": taken})
    new = {name: tuple(sorted(paths)) for name, paths in books.items()}
    return design.model_copy(update={n: p for n, p in new.items() if p != getattr(design, n)})
