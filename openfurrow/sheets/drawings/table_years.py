"""The tables from above by what each brings in a year: who stands in whose shade."""

import numpy as np

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.drawings.overhead import SHOWN_TABLES, glass
from openfurrow.sheets.marks import Drawing, Mark, drawing, label, outlines

# Classes by what a table brings for its size, over that of the best, the darkest first.
CLASSES = (0.0, 0.8, 0.9, 0.95, 0.98, 0.99)
# So few tables have room for what each brings.
MOST_NUMBERED = 24


def tables_drawing(plan: Plan, units: UnitSystem) -> Drawing:
    """Each table of the array that is open, lighter the more it brings for its size."""
    year, rows = plan.energy.arrays[plan.open], plan.rows
    hours = year.by_table_h
    share = hours / max(float(hours.max()), 1e-9)
    corners = rows.tables.corners
    marks: list[Mark] = [
        mark for one in plan.each() if one.open != plan.open for mark in glass(one, "glass-faint")
    ]
    shown = np.arange(len(hours)) < SHOWN_TABLES
    for number, low in enumerate(CLASSES):
        high = CLASSES[number + 1] if number + 1 < len(CLASSES) else np.inf
        marks += outlines(f"table-share-{number}", corners[shown & (share >= low) & (share < high)])
    if len(hours) <= MOST_NUMBERED:
        each_w = year.watts / year.modules * rows.modules_high
        middles = corners.mean(axis=1)
        for index, at in enumerate(middles.tolist()):
            wh = hours[index] * each_w * int(rows.tables.columns[index])
            words = f"{rows.stands.name_of(index)}: {format_value(wh, 'energy', units)}"
            marks.append(label(words, (at[0], at[1]), "table-note", free=True))
    low_m, high_m = corners.reshape(-1, 2).min(axis=0), corners.reshape(-1, 2).max(axis=0)
    worst = int(hours.argmin())
    return drawing(
        "table_years",
        "What each table brings",
        marks,
        low=tuple((low_m - 2.0).tolist()),
        high=tuple((high_m + 2.0).tolist()),
        to_scale=True,
    ).model_copy(
        update={
            "legend": (
                f"Table {rows.stands.name_of(worst)} brings least for its size: "
                f"{share[worst] * 100:.1f} % of the best.",
                "Lightest: 99 % and more of the best; then 98, 95, 90, 80 %. Before wires and "
                "inverters; what stands around is shared by all tables.",
            )
        }
    )
