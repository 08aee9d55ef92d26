"""The list as a tree: the job, its arrays, their stages, what is put together there, its parts.

What is ordered together is shared out by what each array takes of it; shares add up to the order.
"""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import cache

from openfurrow.core.codes import table
from openfurrow.core.materials.prices import Priced

WHOLE_JOB = "for the whole job"


@dataclass(frozen=True, kw_only=True)
class Branch:
    """One line of the tree, ``level`` 0 for the job down to 4 for a part.

    Of a part ``quantity`` is its share of the order in ``kind``; ``mass_kg`` and ``cost`` are of all
    that hangs on it, ``unpriced`` how many of its parts have no price.
    """

    level: int
    name: str
    quantity: float | None
    kind: str
    mass_kg: float
    cost: float
    unpriced: int


@dataclass(frozen=True)
class _Leaf:
    array: str
    stage: str
    assembly: str
    item: str
    quantity: float
    kind: str
    mass_kg: float
    cost: float | None


@cache
def assembly_of(stage: str, key: str) -> str:
    """What a part belongs to: the first row of the table that its key begins as."""
    parts = table("common", "assembly_part").texts
    for of, begins, assembly in zip(parts["stage"], parts["key"], parts["assembly"], strict=True):
        if of == stage and key.startswith(begins.rstrip("*")):
            return assembly
    return stage


def tree_of(priced: Iterable[Priced], arrays: tuple[str, ...]) -> tuple[Branch, ...]:
    """All branches, each before what hangs on it; ``arrays`` by their names, in their order."""
    leaves = [leaf for one in priced for leaf in _leaves(one)]
    names = (*dict.fromkeys(arrays), WHOLE_JOB)
    order = {name: number for number, name in enumerate(names)}
    leaves.sort(key=lambda leaf: order.get(leaf.array, len(order)))
    return tuple(_branches("The job", leaves, 0))


def _leaves(one: Priced) -> Iterator[_Leaf]:
    line = one.line
    whole = sum(net for _, net in line.shares)
    for name, net in line.shares:
        share = net / whole
        yield _Leaf(
            array=name or WHOLE_JOB,
            stage=line.stage,
            assembly=assembly_of(line.stage, line.key),
            item=line.item,
            quantity=line.quantity * share,
            kind=line.kind,
            mass_kg=line.mass_kg * share,
            cost=None if one.cost is None else one.cost * share,
        )


# By what a level is divided.
DIVIDES = ("array", "stage", "assembly", "item")


def _branches(name: str, leaves: list[_Leaf], level: int) -> Iterator[Branch]:
    part = level == len(DIVIDES)
    yield Branch(
        level=level,
        name=name,
        quantity=sum(leaf.quantity for leaf in leaves) if part else None,
        kind=leaves[0].kind if part and leaves else "count",
        mass_kg=sum(leaf.mass_kg for leaf in leaves),
        cost=sum(leaf.cost for leaf in leaves if leaf.cost is not None),
        unpriced=sum(leaf.cost is None for leaf in leaves),
    )
    if part:
        return
    below: dict[str, list[_Leaf]] = {}
    for leaf in leaves:
        below.setdefault(getattr(leaf, DIVIDES[level]), []).append(leaf)
    for of, those in below.items():
        yield from _branches(of, those, level + 1)
