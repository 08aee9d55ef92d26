"""Fences set out post by post: common practice, no published source."""

import math
from itertools import pairwise
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.plan import plan, untried
from openfurrow.core.site.features import FeatureGivens
from tests.core.test_checks import find
from tests.designs import changed, plain_larkspur

BAY_M = 3.0


def fence(*points: tuple[float, float], **more: Any) -> FeatureGivens:
    said: dict[str, Any] = {"id": "f", "kind": "fence", "built_here": True, "height_m": 2.0}
    return FeatureGivens(points=points, **(said | more))


def gate(at: tuple[float, float], wide: float | None, number: int = 1, **more: Any) -> FeatureGivens:
    said: dict[str, Any] = {"id": f"g{number}", "kind": "gate", "built_here": True}
    return FeatureGivens(points=(at,), width_m=wide, **(said | more))


def job(*features: FeatureGivens, level: bool = True) -> Design:
    design = changed(plain_larkspur(), "site", features=features, surveys=())
    return changed(design, "site", slope=0.0) if level else design


@settings(max_examples=30, deadline=None)
@given(
    east=st.floats(20, 90),
    north=st.floats(20, 90),
    wide=st.floats(1, 5),
    share=st.floats(0.2, 0.8),
    closed=st.booleans(),
)
def test_every_post_is_set_out_by_hand(
    east: float, north: float, wide: float, share: float, closed: bool
) -> None:
    """A rectangle, or three of its sides, far off; a gate in the first. One walks along and counts."""
    far_e, far_n = 200.0 + east, 200.0 + north
    corners = [(200.0, 200.0), (far_e, 200.0), (far_e, far_n), (200.0, far_n)]
    line = [*corners, corners[0]] if closed else corners
    at = 200.0 + share * east
    found = untried(job(fence(*line), gate((at, 200.0), wide))).site.fence
    assert found is not None
    sides = [math.dist(a, b) for a, b in pairwise(line)]
    # The first side in two, either side of the gate.
    runs = [share * east - wide / 2, (1 - share) * east - wide / 2, *sides[1:]]
    between = 0
    for run in runs:
        bays = 1
        while run / bays > BAY_M + 1e-9:
            bays += 1
        between += bays - 1
    assert found.line_posts == between
    assert found.corner_posts == (4 if closed else 2 + 2) + 2
    assert found.struts == (2 * 4 if closed else 2 + 2 * 2) + 2
    assert found.length_m == pytest.approx(sum(sides), rel=1e-9)
    assert found.mesh_m == pytest.approx(sum(sides) - wide, rel=1e-9)
    assert found.gates == (wide,) and found.unsaid == 0


def test_along_a_slope_it_is_longer_than_on_the_map() -> None:
    """A plane of one in five straight up it: the root of 1.04."""
    design = changed(plain_larkspur(), "site", surveys=(), slope=0.2, falls_toward_deg=180.0)
    up = fence((200.0, 200.0), (200.0, 260.0))
    found = untried(changed(design, "site", features=(up,))).site.fence
    assert found is not None and found.length_m == pytest.approx(60 * math.sqrt(1.04), rel=1e-6)
    across = fence((200.0, 200.0), (260.0, 200.0))
    level = untried(changed(design, "site", features=(across,))).site.fence
    assert level is not None and level.length_m == pytest.approx(60, rel=1e-9)


def test_a_fence_that_stands_is_not_bought() -> None:
    stands = job(fence((200.0, 200.0), (260.0, 200.0), built_here=False))
    found = plan(stands)
    assert found.site.fence is None
    assert not any(line.key.startswith("fence") for line in found.materials.lines)


def test_what_is_built_stands_in_the_list() -> None:
    gates = (gate((220.0, 200.0), 4.0), gate((240.0, 200.0), 1.2, 2), gate((250.0, 200.0), 4.0, 3))
    found = plan(job(fence((200.0, 200.0), (260.0, 200.0)), *gates))
    lines = {line.key: line for line in found.materials.lines}
    fenced = found.site.fence
    assert fenced is not None and fenced.gates == (1.2, 4.0, 4.0)
    assert lines["fence_corner"].net == fenced.corner_posts == 2 + 6
    assert lines["fence_post"].net == fenced.line_posts
    assert lines["fence_mesh"].net == pytest.approx(60 - 9.2)
    assert lines["fence_mesh"].quantity > lines["fence_mesh"].net
    assert sorted(line.net for key, line in lines.items() if key.startswith("fence_gate")) == [1, 2]


def test_a_gate_without_a_width_takes_no_mesh_off_and_says_so() -> None:
    found = plan(job(fence((200.0, 200.0), (260.0, 200.0)), gate((220.0, 200.0), None)))
    fenced = found.site.fence
    assert fenced is not None and fenced.mesh_m == pytest.approx(60) and fenced.gates == ()
    assert find(found.checks, "site", "gate_widths").level == "look"


@pytest.mark.parametrize(("wide", "level"), [(None, "look"), (2.0, "look"), (3.5, "sound")])
def test_trucks_pass_at_a_gate_as_wide_as_their_path(wide: float | None, level: str) -> None:
    path = FeatureGivens(
        id="t", kind="truck path", width_m=3.0, points=((230.0, 150.0), (230.0, 250.0))
    )
    things = [fence((200.0, 200.0), (260.0, 200.0)), path]
    if wide is not None:
        things.append(gate((230.4, 200.0), wide))
    check = find(plan(job(*things)).checks, "site", "fence_gates")
    assert check.level == level
    # One of unknown width lets nobody through either, however narrow the path.
    narrow = path.model_copy(update={"width_m": None})
    unsaid = job(things[0], narrow, gate((230.4, 200.0), None))
    assert find(plan(unsaid).checks, "site", "fence_gates").level == "look"
    # A gate elsewhere lets nobody through here.
    elsewhere = [*things[:2], gate((245.0, 200.0), 5.0)]
    assert find(plan(job(*elsewhere)).checks, "site", "fence_gates").level == "look"


def test_a_fence_round_nothing_but_bends_has_no_end() -> None:
    """A circle of straight pieces that hardly bend: line posts, and one post where it closes."""
    turns = np.linspace(0, 2 * math.pi, 61)
    points = [(300 + 30 * math.cos(t), 300 + 30 * math.sin(t)) for t in turns]
    found = untried(job(fence(*points))).site.fence
    assert found is not None
    assert (found.corner_posts, found.struts) == (1, 2)
    assert found.line_posts == math.ceil(found.length_m / BAY_M - 1e-9) - 1


@settings(max_examples=10, deadline=None)
@given(east=st.floats(20, 60), north=st.floats(20, 60), beyond=st.floats(0.2, 1.0))
def test_fence_and_cloth_have_their_days(east: float, north: float, beyond: float) -> None:
    """Common practice: cloth when nothing more is dug there, the fence when no truck has to pass."""
    ring = ((-east, -north), (east, -north), (east, north), (-east, north), (-east, -north))
    design = changed(
        job(fence(*ring)), "frame", ground_below="weed cloth under gravel", ground_beyond_m=beyond
    )
    found = plan(design)
    below = found.frame.below
    assert below is not None
    tasks = {task.id: task for task in found.schedule.tasks}
    assert tasks["fence"].quantity == pytest.approx(4 * (east + north))
    assert tasks["cover"].quantity == pytest.approx(below.area_m2)
    # Seven metres of fence an hour by three, 25 m² by two: rounded up to half hours.
    people = design.schedule.people
    for name, pace, hands in (("fence", 7.0, 3), ("cover", 25.0, 2)):
        crew = min(people, hands)
        hours = tasks[name].quantity / (pace * crew / hands)
        assert tasks[name].slots == max(1, math.ceil(2 * hours - 1e-9))
        assert tasks[name].people == crew
    first, last = ({name: found.schedule.worked(name)[at] for name in tasks} for at in (0, -1))
    for name, before in (("fence", ("1:modules", "backfill")), ("cover", ("1:drive", "backfill"))):
        for one in before:
            done = last[one]
            assert (first[name][0], first[name][1]) >= (done[0], done[2])
    paced = untried(changed(design, "schedule", fence_m_per_h=14.0))
    quick = {task.id: task for task in paced.schedule.tasks}["fence"]
    assert quick.slots == pytest.approx(tasks["fence"].slots / 2, abs=1)
    # What is bought for them is missed by them, not by the frame.
    bare = plan(changed(job(), "frame", ground_below="as it is"))
    assert not {"fence", "cover"} & {task.id for task in bare.schedule.tasks}
