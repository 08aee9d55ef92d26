"""Posts that were tested: how each moved under its load, to where it gave way."""

import numpy as np

from openfurrow.core.footings.tested import KINDS, Tested
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, shown
from openfurrow.core.site.load_tests import Loaded
from openfurrow.sheets.drawings.chart import Axis, Chart, short, ticks
from openfurrow.sheets.marks import Drawing, Mark, dot, label, line

TITLES: dict[Loaded, str] = {
    "pulled": "Posts that were pulled: load, and how far each moved",
    "pressed": "Posts that were pressed: load, and how far each moved",
    "pushed sideways": "Posts that were pushed sideways: load, and how far each moved",
}


def tested_drawings(plan: Plan, moved_m: float, units: UnitSystem) -> tuple[Drawing, ...]:
    """A chart for each way of testing; ``moved_m`` is where a post counts as having given way."""
    return tuple(
        _drawn(loaded, alike, moved_m, units)
        for loaded in KINDS
        if (alike := [one for one in plan.footings.posts.tests if one.test.loaded == loaded])
    )


def _drawn(loaded: Loaded, tests: list[Tested], moved_m: float, units: UnitSystem) -> Drawing:
    """Movement to the right, load up: what gives way lies down."""
    length, force = shown("thickness", units), shown("force", units)
    far = 1.12 * max(moved_m, *(moved for one in tests for _, moved in one.test.readings))
    most = 1.12 * max(load for one in tests for load, _ in one.test.readings)
    chart = Chart(
        Axis(0.0, far, f"moved, {length.unit}", _ticks(far, length.si_per_unit)),
        Axis(0.0, most, f"load, {force.unit}", _ticks(most, force.si_per_unit)),
    )
    marks: list[Mark] = [
        line("chart-use", chart.at(moved_m, 0.0), chart.at(moved_m, most)),
        label("gives way", _beside(chart, moved_m, most), "note", "start"),
    ]
    for one in tests:
        load, moved = np.array([(0.0, 0.0), *one.test.readings]).T
        marks.append(chart.curve("chart-module-1" if one.counts else "chart-now", moved, load))
        marks.append(label(one.test.called, _beside(chart, moved[-1], load[-1]), "note", "start"))
        at = moved_m if one.gave_way else float(moved[-1])
        marks.append(dot("chart-dot", chart.at(at, one.held_n)))
    return chart.drawn(f"tested-{loaded.split()[0]}", TITLES[loaded], marks)


def _ticks(most: float, scale: float) -> tuple[tuple[float, str], ...]:
    return tuple((at * scale, short(at)) for at in ticks(0.0, most / scale))


def _beside(chart: Chart, x: float, y: float) -> tuple[float, float]:
    across, up = chart.at(x, y)
    return across + 1.2, up - 3.0
