"""What every support carries: from above, shaded by it, with the letter of its kind."""

import numpy as np

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

# So many shades, from the least to the most that any support carries.
SHADES = 4


def carried_drawing(plan: Plan, units: UnitSystem) -> Drawing:
    """Every support of the array by the most that it presses or pulls with."""
    supports, places = plan.structure.supports, plan.places
    asked = asked_of(plan)
    most = np.maximum(asked.press_n, asked.pull_n)
    greatest = float(most.max())
    shade = np.ceil(most / greatest * SHADES).clip(1, SHADES).astype(int)[supports.kind]
    at = np.column_stack((places.east_m, places.north_m))[:SHOWN_POSTS]
    marks: list[Mark] = glass(plan, "glass-faint")
    for number in range(1, SHADES + 1):
        marks += dots(f"carries-{number}", at[shade[: len(at)] == number])
    if len(at) <= MOST_NUMBERED:
        names = letters(plan)
        marks += [
            label(names[kind], (x, y - 0.75), "strong", free=True)
            for (x, y), kind in zip(at.tolist(), supports.kind.tolist(), strict=True)
        ]
    low, high = bounds(marks, 2.2)
    size = max(high[0] - low[0], high[1] - low[1]) * 0.03
    step = greatest / SHADES

    def force(value: float) -> str:
        return format_value(value, "force", units)

    said = tuple(
        f"{'lightest' if number == 1 else 'darkest' if number == SHADES else f'shade {number}'}: "
        f"to {force(step * number)}"
        for number in range(1, SHADES + 1)
    )
    return drawing(
        "carried",
        "Supports by what they press or pull with, north up",
        [*marks, *north_arrow((high[0] - 1.5 * size, high[1] - 2.2 * size), size)],
        low=low,
        high=high,
        legend=(*said, *left_out(plan)),
    )
