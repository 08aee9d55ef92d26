"""The posts that are pressed and lifted hardest, and what acts on the table over them then."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.quantities import STANDARD_GRAVITY_M_S2
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.supports import Reactions

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Case:
    """A post so high that carries so much of the row, in one case; its weight per area of the glass."""

    words: str
    reveal_m: float
    row_m: float
    combination: int
    wind: int
    dead_kg_per_m2: float


def worst_cases(posts: Stand, loads: TableLoads, found: Reactions) -> tuple[Case, ...]:
    """The post that is pressed hardest of all, and the one that is lifted hardest if any is.

    ``found`` has nothing but every combination with every wind case, at both heights of a kind.
    """
    said = [("Pressed hardest", int(found.down_n.argmax()))]
    if float(found.down_n.min()) < 0:
        said.append(("Lifted hardest", int(found.down_n.argmin())))
    return tuple(_case(posts, loads, found, words, at) for words, at in said)


def _case(posts: Stand, loads: TableLoads, found: Reactions, words: str, at: int) -> Case:
    kind, column = divmod(at, len(found.names))
    bound, case = divmod(column, len(found.names) // found.bounds)
    combination, wind = divmod(case, len(loads.wind.names))
    kinds = posts.kinds
    return Case(
        words=f"{words}: {found.names[case]}",
        reveal_m=float((kinds.high_m, kinds.low_m)[bound][kind]),
        row_m=float(kinds.tributary_m[kind]),
        combination=combination,
        wind=wind,
        dead_kg_per_m2=float(loads.dead_of_kg_per_m2[kinds.size_of[kind]]),
    )


def acting(section: TableSection, loads: TableLoads, case: Case, shares_m: Floats) -> Floats:
    """To the back, up and turning (places, 3) where the glass is held; each has a share of both halves.

    Weight stands at the glass: it turns what holds it by the stack.
    """
    tilt, combined = math.radians(section.tilt_deg), loads.strength
    found = np.zeros((shares_m.shape[1], 3))
    for share, pressure, snow in zip(
        shares_m * case.row_m,
        (loads.wind.front_pa, loads.wind.back_pa),
        (combined.snow, combined.snow_back),
        strict=True,
    ):
        press = float(combined.wind[case.combination] * pressure[case.wind])
        weight = float(combined.dead[case.combination]) * case.dead_kg_per_m2 * STANDARD_GRAVITY_M_S2
        weight += float(snow[case.combination]) * loads.snow_pa * math.cos(tilt)
        square, down = press * share, weight * share
        found += np.column_stack(
            (
                square * math.sin(tilt),
                -square * math.cos(tilt) - down,
                down * section.stack_m * math.sin(tilt),
            )
        )
    return found


def under_glass_m(section: TableSection, ups_m: Floats) -> Floats:
    """Places up the slope, the stack under the glass: x to the back and z up from the lower edge."""
    tilt = math.radians(section.tilt_deg)
    return np.column_stack(
        (
            ups_m * math.cos(tilt) + section.stack_m * math.sin(tilt),
            ups_m * math.sin(tilt) - section.stack_m * math.cos(tilt),
        )
    )
