"""Every support from above, shaded by what it carries or by how much of its footing is used."""

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.drawings.overhead import (
    MOST_NUMBERED,
    SHOWN_POSTS,
    glass,
    left_out,
    north_arrow,
)
from openfurrow.sheets.kinds import asked_of, letters
from openfurrow.sheets.marks import Drawing, Mark, bounds, dots, drawing, label

Integers = NDArray[np.int64]
# So many shades, from the least to the most.
SHADES = 4
# Where the shades of what is used end; beyond the last a footing does not hold.
USED = (0.6, 0.8, 0.95, 1.0)


def carried_drawing(plan: Plan, units: UnitSystem) -> Drawing:
    """Every support of the array by the most that it presses or pulls with."""
    asked = asked_of(plan)
    most = np.maximum(asked.press_n, asked.pull_n)
    greatest = float(most.max())
    shade = (
        np.ceil(most / greatest * SHADES).clip(1, SHADES).astype(np.int64)[plan.structure.supports.kind]
    )
    step = greatest / SHADES
    said = tuple(
        f"{_shade_words(number)}: to {format_value(step * number, 'force', units)}"
        for number in range(1, SHADES + 1)
    )
    return _shaded(plan, "carried", "Supports by what they press or pull with, north up", shade, said)


def used_drawing(plan: Plan) -> Drawing:
    """Every support by how much of its depth, or of its weight, is asked for."""
    posts, weights = plan.footings.posts, plan.footings.weights
    used = posts.asked_m / np.maximum(posts.depths_m, 1e-9)
    if weights is not None:
        used = weights.asked_kg / np.maximum(weights.masses_kg, 1e-9)
    shade = np.searchsorted(USED, used - 1e-9) + 1
    said = tuple(
        f"{_shade_words(number)}: to {100 * end:.0f} %" for number, end in enumerate(USED, start=1)
    )
    short = int((shade > SHADES).sum())
    if short:
        said = (f"red: {short} that {'do' if short > 1 else 'does'} not hold", *said)
    what = "weight" if weights is not None else "depth"
    return _shaded(
        plan, "used", f"Supports by how much of their {what} is asked for, north up", shade, said
    )


def _shade_words(number: int) -> str:
    return {1: "lightest", SHADES: "darkest"}.get(number, f"shade {number}")


def _shaded(
    plan: Plan,
    key: str,
    title: str,
    shade: NDArray[np.floating] | NDArray[np.integer],
    said: tuple[str, ...],
) -> Drawing:
    """Supports as dots in their shades, with the letters of their kinds where there are few."""
    supports, places = plan.structure.supports, plan.places
    at = np.column_stack((places.east_m, places.north_m))[:SHOWN_POSTS]
    marks: list[Mark] = glass(plan, "glass-faint")
    for number in range(1, SHADES + 2):
        layer = f"carries-{number}" if number <= SHADES else "post-hit"
        marks += dots(layer, at[shade[: len(at)] == number])
    if len(at) <= MOST_NUMBERED:
        names = letters(plan)
        marks += [
            label(names[kind], (x, y - 0.75), "strong", free=True)
            for (x, y), kind in zip(at.tolist(), supports.kind.tolist(), strict=True)
        ]
    low, high = bounds(marks, 2.2)
    size = max(high[0] - low[0], high[1] - low[1]) * 0.03
    return drawing(
        key,
        title,
        [*marks, *north_arrow((high[0] - 1.5 * size, high[1] - 2.2 * size), size)],
        low=low,
        high=high,
        legend=(*said, *left_out(plan)),
    )
