"""Designs side by side: each number is that of its own plan, and what differs is named."""

import numpy as np
import pytest
import shapely

from openfurrow.core.compare.figures import figures, ground_m2
from openfurrow.core.edits import apply
from openfurrow.core.plan import plan
from openfurrow.demo.designs import DESIGNS
from openfurrow.sheets.side_by_side import side_by_side
from tests.designs import changed, plain_larkspur


def test_every_number_is_that_of_its_own_plan() -> None:
    design = DESIGNS["larkspur-two"]()
    found = plan(design)
    told = {one.label: one.value for one in figures(found)}
    assert told["Modules"] == 36 + 12
    assert told["Energy of a year"] == found.energy.year_wh
    depths = np.concatenate([one.footings.posts.depths_m for one in found.arrays])
    assert told["Posts"] == len(depths)
    assert told["Deepest post"] == depths.max()
    assert told["All posts in the ground"] == pytest.approx(depths.sum())
    assert told["Stops"] == sum(check.level == "stop" for check in found.checks)
    # Two arrays apart: each one's hull, by its corners.
    hulls = [
        shapely.MultiPoint(one.rows.tables.corners.reshape(-1, 2)).convex_hull for one in found.arrays
    ]
    assert ground_m2(found) == pytest.approx(sum(hull.area for hull in hulls))
    assert told["Weight of materials"] == sum(line.mass_kg for line in found.materials.lines)
    assert told["All is done on"] == found.schedule.answers[0].value
    cost = told["Cost of materials"]
    if found.materials.cost.known:
        assert cost == pytest.approx(found.materials.cost.known)
    else:
        assert cost == "not looked at: nothing has a price yet"


def test_what_differs_is_named_and_what_lacks_stays_open() -> None:
    first = plain_larkspur()
    other = apply(first, [("arrays.1.rows.tilt_deg", "25"), ("wiring.slack_m", "9 ft")], "us")
    bare = changed(first, "site", latitude_deg=None)
    table = side_by_side(
        [(name, one, plan(one)) for name, one in (("Now", first), ("A", other), ("B", bare))], "us"
    )
    assert [column.title for column in table.columns] == ["Of all arrays", "Now", "A", "B"]
    rows = {row[0]: row[1:] for row in table.rows}
    assert rows["Modules"] == ("36", "36", "")
    assert rows["Energy of a year"][0] != rows["Energy of a year"][1]
    assert rows["Energy of a year"][2] == ""
    own, bare_words = table.note.split("B differs in: ")
    assert "A differs in: " in own
    assert "Tilt 25.0°" in own and "Slack at each end" in own
    assert bare_words.startswith("Latitude not said yet.")
    same = side_by_side([("Now", first, plan(first)), ("A", first, plan(first))], "metric")
    assert same.note.startswith("A differs in: nothing.")
