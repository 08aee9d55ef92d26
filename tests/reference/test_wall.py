"""Through the wall: holes as points in space, seen from both of its faces; studs by laying them out.

Plane geometry; that a hole falls outward by a fiftieth, and keeps 20 mm off a stud, is common practice,
no published source.
"""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, plan
from openfurrow.demo.designs import DESIGNS
from openfurrow.sheets.drawings.wall import wall_drawing
from tests.designs import changed, plain_larkspur

FALL, PLAY_M, CLEAR_M = 1 / 50, 0.004, 0.020


def walled(**givens: object) -> Design:
    bare = {"bay_from_m": None, "bay_to_m": None, "reference_higher_m": 0.0}
    said = {"wall_kind": "boards on studs", "wall_thick_m": 0.2}
    return changed(plain_larkspur(), "trench", **(bare | said | givens))


def level(found: Plan, key: str) -> str:
    return next((c.level for c in found.trench.checks if c.key == key), "none")


def answered(found: Plan, key: str) -> tuple[str, float]:
    one = next(a for a in found.trench.answers if a.key == key)
    return one.label, float(one.working.value)


@settings(max_examples=60, deadline=None)
@given(
    right=st.floats(-2, 2),
    up=st.floats(-1.5, 1.5),
    thick=st.floats(0.05, 0.8),
    higher=st.floats(-0.1, 0.1),
    together=st.integers(1, 4),
    bay=st.none() | st.tuples(st.floats(-2.5, 2.5), st.floats(0.05, 1.2)),
)
def test_holes_are_the_ends_of_straight_drills_through_the_wall(
    right: float,
    up: float,
    thick: float,
    higher: float,
    together: int,
    bay: tuple[float, float] | None,
) -> None:
    edges = None if bay is None else (bay[0], bay[0] + bay[1])
    design = walled(
        hole_right_m=right,
        hole_up_m=up,
        wall_thick_m=thick,
        reference_higher_m=higher,
        strings_per_conduit=together,
        bay_from_m=None if edges is None else edges[0],
        bay_to_m=None if edges is None else edges[1],
    )
    found = plan(design)
    run, holes = found.run, found.trench.holes
    assert holes is not None and holes.right_m.size == run.conduits
    wide = run.outside_m + PLAY_M
    assert holes.across_m == pytest.approx(wide)
    # East along the face as seen from outside, north into the wall, and up; from the outer corner.
    inner_corner = np.array([0.0, thick, higher])
    cut, closest = False, math.inf
    for number in range(run.conduits):
        outer = np.array([right + number * 2 * wide, 0.0, up])
        inner = outer + np.array([0.0, thick, FALL * thick])
        # Turned round inside, what was right is left.
        seen = inner - inner_corner
        from_inside = -seen[0]
        assert holes.in_up_m == pytest.approx(seen[2])
        if edges is not None:
            # Studs as thick as one likes: everything beyond both edges.
            for edge, side in ((edges[0], -1), (edges[1], 1)):
                off = side * (edge - from_inside) - wide / 2
                closest = min(closest, off)
                cut |= off < CLEAR_M - 1e-12
    label, value = answered(found, "wall_outside")
    assert value == pytest.approx(abs(right)) and ("right" in label) == (right >= 0)
    label, value = answered(found, "wall_inside")
    assert value == pytest.approx(abs(right)) and ("left" in label) == (right >= 0)
    assert answered(found, "wall_inside_up")[1] == pytest.approx(holes.in_up_m)
    if edges is None:
        assert level(found, "wall_studs") == "look"
    else:
        assert holes.clear_m == pytest.approx(closest)
        assert level(found, "wall_studs") == ("stop" if cut else "sound")
    # The drawing has every hole twice, the one beside the other mirrored.
    (drawn,) = wall_drawing(found, "metric")
    drilled = [m for m in drawn.marks if m.layer == "wall-hole"]
    assert len(drilled) == 2 * run.conduits
    middles = [np.mean(m.points, axis=0) for m in drilled]
    crosses = [m for m in drawn.marks if m.layer == "wall-point"]
    outside, inside = crosses[0].points[0][0] + 0.08, crosses[2].points[0][0] + 0.08
    for one, other in zip(middles[: run.conduits], middles[run.conduits :], strict=True):
        assert one[0] - outside == pytest.approx(-(other[0] - inside), abs=2e-3)


def test_edges_that_lie_the_other_way_round_are_asked_about_and_never_sound() -> None:
    found = plan(walled(bay_from_m=0.3, bay_to_m=-0.3))
    check = next(c for c in found.trench.checks if c.key == "wall_studs")
    assert check.level == "look" and "other way round" in str(check.measured)


def test_a_solid_wall_has_no_studs_and_none_is_asked_for() -> None:
    for kind in ("masonry", "concrete", "logs"):
        found = plan(walled(wall_kind=kind))
        assert level(found, "wall_measured") == "sound" and level(found, "wall_studs") == "none"


def test_before_a_wall_was_measured_it_is_not_looked_at() -> None:
    for kind, thick in (("nobody has said", 0.2), ("masonry", None)):
        found = plan(walled(wall_kind=kind, wall_thick_m=thick))
        assert found.trench.holes is None and level(found, "wall_measured") == "look"
        assert wall_drawing(found, "us") == ()
    outside = plan(walled(wall_kind="no wall is passed"))
    assert level(outside, "wall_measured") == "none" and outside.trench.holes is None


@pytest.mark.parametrize("bay", [0.4, 0.12])
def test_data_comes_through_a_hole_of_its_own(bay: float) -> None:
    """One more to the right, as far as two holes are wide; the bay between studs must hold it too."""
    edges = {"bay_from_m": -bay, "bay_to_m": 0.06, "hole_right_m": 0.0, "hole_up_m": 0.3}
    alone, both = (plan(walled(data=data, **edges)) for data in ("none", "in a pipe of its own"))
    one, two = alone.trench.holes, both.trench.holes
    assert one is not None and two is not None and both.trench.data is not None
    assert two.right_m.size == one.right_m.size + 1
    assert (two.for_data, one.for_data) == (True, False)
    assert two.right_m[-1] - two.right_m[-2] == pytest.approx(2 * two.across_m)
    # Seen from inside holes lie to the left: what is left to the further stud.
    free = bay - float(two.right_m[-1]) - two.across_m / 2
    assert (level(both, "wall_studs") == "sound") == (free >= CLEAR_M)
    assert level(alone, "wall_studs") == "sound"


def test_the_demo_s_hole_is_where_a_hand_would_mark_it() -> None:
    """26 in right and 14 in up outside; inside 26 in left, and 14 + 6.5 / 50 - 0.75 = 13.38 in up."""
    found = plan(DESIGNS["larkspur"]())
    inch = 0.0254
    assert answered(found, "wall_inside") == (
        "Hole inside, left of the shared point",
        pytest.approx(26 * inch),
    )
    assert answered(found, "wall_inside_up")[1] == pytest.approx((14 + 6.5 / 50 - 0.75) * inch)
    assert level(found, "wall_studs") == "sound"
