"""Two ways to ask whether a record still speaks of what is planned: where it was made, who made it."""

import math
from collections.abc import Iterable

from openfurrow.core.fieldbook.records import Record

# What is planned further away than this by now is another place.
SAME_PLACE_M = 0.3
# Lengths that differ by less are the same to whoever reads a tape.
ALIKE_M = 0.006
# Less than any tape shows.
HAIR_M = 1e-6
# More than this make no sentence.
MOST_NAMED = 8

Known = dict[tuple[str, str], tuple[Record, ...]]


def here(those: tuple[Record, ...], at: tuple[float, float], loose: list[Record]) -> tuple[Record, ...]:
    """Those that were measured at this place; the others are loose."""
    if not those:
        return ()
    near = tuple(r for r in those if math.dist(at, (r.east_m, r.north_m)) <= SAME_PLACE_M)
    loose += [record for record in those if record not in near]
    return near


def differ(those: tuple[Record, ...], by: float) -> bool:
    """Whether two who measured the same read otherwise, so that somebody has to look again."""
    values = [record.value for record in those]
    return bool(values) and max(values) - min(values) > by


def named(names: Iterable[str]) -> str:
    """The first names, and how many more there are."""
    every = list(names)
    more = f" and {len(every) - MOST_NAMED} more" if len(every) > MOST_NAMED else ""
    return ", ".join(every[:MOST_NAMED]) + more
