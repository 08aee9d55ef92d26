"""What a crew is told of turning tubes: what they take, in which order, which posts hold a drive.

Common practice, no published source.
"""

import itertools
import re

import numpy as np

from openfurrow.core.frame.assembly import steps_of
from openfurrow.core.plan import plan, untried
from openfurrow.sheets.kinds import kinds_table
from openfurrow.sheets.support import support_sheet
from openfurrow.sheets.tables import stakes_table
from tests.reference.test_turning_tube import job


def test_what_it_takes_and_in_which_order() -> None:
    found = plan(job(rows={"rows": 3, "tables_along": 2, "modules_along": 6}))
    posts, tables, rails = found.structure.supports.count, 6, 6 * 6 * 2
    counts = {one.key: one.count for one in found.structure.members.fixings}
    assert counts == {
        "tube_bearing": posts - tables,
        "tube_drive": tables,
        "bond_braid": posts,
        "controller": tables,
        "rail_clamp": 2 * rails,
    }
    assert found.structure.posts.kinds.drives[found.structure.supports.kind].sum() == tables
    order = [one.key for one in steps_of(found.rows, found.structure, found.frame)]
    for first, second in (
        ("heads", "tube_bearings"),
        ("tube_bearings", "tubes"),
        ("tube_drives", "tubes"),
        ("tubes", "rails"),
        ("rails", "tube_travel"),
        ("tube_travel", "tube_limits"),
        ("tube_limits", "tube_polarity"),
        ("tube_polarity", "tube_lies_down"),
        ("tube_lies_down", "bare"),
    ):
        assert order.index(first) < order.index(second)
    limits = next(
        one for one in steps_of(found.rows, found.structure, found.frame) if one.key == "tube_limits"
    )
    assert "58.0 angle" in limits.do
    lines = {line.key for line in found.materials.lines}
    assert {"tube_bearing", "tube_drive", "controller"} <= lines


def test_a_drive_stands_in_the_middle_of_every_tube() -> None:
    """An odd number of posts wherever there are columns for them, and no span longer than was said."""
    for columns, span in itertools.product(range(1, 16), (1.2, 2.5, 3.7, 5.2)):
        found = untried(job(rows={"rows": 1, "modules_along": columns}, span_limit_m=span))
        line, step = found.structure.posts.line, found.rows.column_step_m
        spans = np.diff(line.along_m)
        assert spans.max() <= max(span, step) + 0.02
        drive = found.structure.posts.kinds.drives[found.structure.supports.kind]
        assert drive.sum() == 1
        if line.count % 2:
            assert int(np.flatnonzero(drive)[0]) == line.count // 2
        else:
            assert columns == line.count - 1


def test_the_crew_is_told_which_posts_hold_a_drive() -> None:
    """In the stakes, in the kinds, at the post itself; what rolls stands over its own strip alone."""
    design = job(rows={"rows": 2, "modules_along": 8})
    found = plan(design)
    drives = np.flatnonzero(found.structure.posts.kinds.drives[found.structure.supports.kind]) + 1
    assert drives.size == 2
    words = stakes_table(found, "us").note
    assert f"Under a drive: posts {drives[0]}, {drives[1]}." in words
    told = {row[0]: row[1] for row in kinds_table(found, "us").rows if "drive" in row[0]}
    assert sorted(int(n) for text in told.values() for n in re.findall(r"\d+", text)) == drives.tolist()
    places = found.places
    at = int(drives[0]) - 1
    near = (float(places.east_m[at]), float(places.north_m[at]))
    asked = support_sheet(design, found, "us", near)
    rows = dict(next(one.rows for one in asked.tables if one.key == "support"))
    assert rows["Holds"].startswith("the drive")
    # Tables that roll look to two sides, and stand nowhere else.
    edges = np.concatenate([lie.tables.corners.reshape(-1, 2) for lie in found.rows.lies])
    heads = np.column_stack((places.east_m, places.north_m))
    travel = found.rows.travel
    assert travel is not None
    reach = travel.reach_m(found.rows.section)
    assert np.abs(edges[:, 0, None] - heads[:, 0]).min(axis=1).max() <= reach + 1e-6
