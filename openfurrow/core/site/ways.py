"""Ways to the building as they are drawn: one trunk, and spurs from other arrays that run into it."""

import math
from itertools import pairwise
from typing import Annotated

from pydantic import AfterValidator, Field

from openfurrow.core.givens import Thing, given
from openfurrow.core.site.features import Coordinate

LONGEST_WAY_M = 10_000.0
MOST_BENDS = 500

Bends = tuple[tuple[float, float], ...]


def within_reach(bends: Bends) -> Bends:
    """The same bends. Raises ValueError where the way is longer than any that is dug."""
    length_m = sum(math.dist(start, end) for start, end in pairwise(bends))
    if length_m > LONGEST_WAY_M:
        raise ValueError(
            f"the way is {length_m / 1000:,.0f} km long, at most "
            f"{LONGEST_WAY_M / 1000:.0f} km: see whether its bends are in order"
        )
    return bends


class SpurGivens(Thing):
    """The way of one array's wires into the trunk, or into a spur that stands before it."""

    array: str = given(
        "",
        "From",
        "array",
        "The array whose wires it takes.",
        "The first array without one has the trunk.",
        length=12,
    )
    points: Annotated[
        tuple[tuple[Coordinate, Coordinate], ...],
        Field(max_length=MOST_BENDS),
        AfterValidator(within_reach),
    ] = given(
        (),
        "Bends",
        "route",
        "East and north of each bend, from the array on. It runs into the nearest way from the last.",
        "Draw it, or two tapes from what is known.",
    )
    note: str = given(
        "",
        "Note",
        "text",
        "Anything the next one should know.",
        "Whoever told you.",
        length=300,
    )
