"""Modules from above by what shade leaves each of the year, with the way of their strings."""

import numpy as np

from openfurrow.core.compare.string_walks import Walks
from openfurrow.core.plan import Plan
from openfurrow.core.wiring.walks import modules_at
from openfurrow.sheets.drawings.overhead import glass
from openfurrow.sheets.drawings.table_years import CLASSES
from openfurrow.sheets.marks import Drawing, Mark, drawing, line, outlines


def string_shade_drawing(plan: Plan, walks: Walks) -> Drawing:
    """The modules that were looked at, lighter the more each keeps; a line through each string."""
    rows, now = plan.rows, walks.ways[0]
    at, tables = modules_at(rows), rows.lie.tables
    chosen = walks.modules
    share = walks.by_module / max(float(walks.by_module.max()), 1e-9)
    half, flat = rows.module_along_m / 2, np.cos(np.radians(rows.section.tilt_deg))
    low = tables.edge_back_m + rows.lows_m[at.row[chosen]] * flat
    high = low + rows.module_up_m * flat
    along = at.from_middle_m[chosen][:, None] + np.array([-half, half, half, -half])
    back = np.stack((low, low, high, high), axis=1)
    corners = np.stack(tables.east_north_m(at.table[chosen][:, None], along, back), axis=-1)
    marks: list[Mark] = [
        mark for one in plan.each() if one.open != plan.open for mark in glass(one, "glass-faint")
    ]
    for number, least in enumerate(CLASSES):
        most = CLASSES[number + 1] if number + 1 < len(CLASSES) else np.inf
        marks += outlines(f"table-share-{number}", corners[(share >= least) & (share < most)])
    middles, lengths = corners.mean(axis=1), now.circuit.strings.lengths
    ends = np.cumsum(lengths)
    for string in now.looked_at.tolist():
        of = now.circuit.leads.order[ends[string] - lengths[string] : ends[string]]
        way = middles[np.searchsorted(chosen, of)]
        marks.append(line("string-way", *[(x, y) for x, y in way.tolist()]))
    low_m, high_m = corners.reshape(-1, 2).min(axis=0), corners.reshape(-1, 2).max(axis=0)
    worst = float(share.min())
    return drawing(
        "string_shade",
        "What shade leaves each module, and how strings go now",
        marks,
        low=tuple((low_m - 1.0).tolist()),
        high=tuple((high_m + 1.0).tolist()),
        to_scale=True,
    ).model_copy(
        update={
            "legend": (
                f"The most shaded module keeps {worst * 100:.1f} % of what the best keeps.",
                "Lightest: 99 % and more of the best; then 98, 95, 90, 80 %.",
            )
        }
    )
