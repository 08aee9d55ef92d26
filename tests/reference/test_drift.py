"""A row that drifts: modules laid one against the other as rectangles, gap by gap.

Common practice, no published source: gaps are opened by one to two millimetres (1/32 to 1/16 in), at
one edge, and the row comes back slowly; a large correction starts a wave.
"""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from numpy.typing import NDArray

from openfurrow.core.modules.drift import Corrected, Row, climb_of, corrected
from openfurrow.core.plan import plan
from openfurrow.sheets.drift import Sighted, drift_sheet
from tests.core.breaks import pipe_grid
from tests.core.test_checks import broken
from tests.designs import changed, plain_larkspur

Floats = NDArray[np.float64]
MOST_M = 0.0015


def rows(hand_m: float) -> st.SearchStrategy[Row]:
    return st.builds(
        lambda modules, wide, high, gap: Row(
            modules=modules, step_m=wide + gap, height_m=high, gap_m=gap, most_m=MOST_M, hand_m=hand_m
        ),
        st.integers(2, 40),
        st.floats(0.9, 2.4),
        st.floats(0.9, 2.4),
        st.floats(0.01, 0.025),
    )


def laid(row: Row, off_m: float, climb: float, opened: Floats) -> Floats:
    """How far off the string each next module's far lower corner lies, laid rectangle by rectangle.

    ``corner`` is the lower far corner of the module before and ``turn`` how it lies. The gap is held by
    clamps at the lower and at the upper edge: where they differ the next side is not parallel.
    """
    wide = row.step_m - row.gap_m
    corner, turn = np.array([0.0, off_m]), math.atan(climb)
    found = []
    for push in opened.tolist():
        along = np.array([math.cos(turn), math.sin(turn)])
        up = np.array([-math.sin(turn), math.cos(turn)])
        lower = corner + along * (row.gap_m + max(push, 0.0))
        upper = corner + up * row.height_m + along * (row.gap_m + max(-push, 0.0))
        side = (upper - lower) / np.linalg.norm(upper - lower)
        turn = math.atan2(-side[0], side[1])
        corner = lower + wide * np.array([math.cos(turn), math.sin(turn)])
        found.append(corner[1])
    return np.array(found)


def sound(row: Row, off_m: float, climb: float, last: int, found: Corrected) -> None:
    left = min(row.modules - last, 60)
    assert found.opened_m.size == found.off_m.size == left
    # Never more than is allowed, and in steps that a hand sets.
    assert np.abs(found.opened_m).max(initial=0.0) <= MOST_M + 1e-9
    steps = found.opened_m / row.hand_m
    assert np.allclose(steps, np.rint(steps), atol=1e-6)
    # Rectangle by rectangle it lies where it is said to.
    off = laid(row, off_m, climb, found.opened_m)
    assert np.allclose(off, found.off_m, atol=3e-4)
    # No wave: where it comes from one side it never goes far over to the other.
    side = -1.0 if off_m < 0 or (off_m == 0 and climb < 0) else 1.0
    pushed = np.flatnonzero(found.opened_m)
    until = int(pushed[-1]) + 1 if pushed.size else 0
    assert (side * found.off_m[:until] >= -0.0012).all()
    if found.comes_back and until:
        assert abs(off[until - 1]) <= 0.0009
        # And it runs along the string: left so it drifts by less than a step's turn.
        slope = climb + found.opened_m.sum() / row.height_m
        assert abs(slope) <= row.hand_m / row.height_m / 2 + 1e-9
    elif not found.comes_back and left:
        assert side * found.off_m[-1] <= max(side * found.left_alone_m[-1], 0) + 1e-6
    assert found.longer_m == pytest.approx(np.abs(found.opened_m).sum() / 2)


@settings(max_examples=150, deadline=None)
@given(rows(0.0005), st.floats(-0.015, 0.015), st.floats(-0.004, 0.004), st.data())
def test_a_row_that_climbs_comes_back_without_a_wave(
    row: Row, off_m: float, climb: float, data: st.DataObject
) -> None:
    last = data.draw(st.integers(1, row.modules - 1))
    sound(row, off_m, climb, last, corrected(row, last, off_m, climb))


@settings(max_examples=60, deadline=None)
@given(rows(0.0254 / 64), st.floats(0, 0.012), st.floats(-0.003, 0.003))
def test_in_sixty_fourths_of_an_inch_too(row: Row, off_m: float, climb: float) -> None:
    sound(row, off_m, climb, 1, corrected(row, 1, off_m, climb))


@settings(max_examples=80, deadline=None)
@given(rows(0.0005), st.floats(0.0, 0.01), st.floats(-0.002, 0.003))
def test_what_is_mirrored_is_corrected_at_the_other_edge(row: Row, off_m: float, climb: float) -> None:
    up, down = corrected(row, 1, off_m, climb), corrected(row, 1, -off_m, -climb)
    assert np.allclose(up.off_m, -down.off_m, atol=1e-9) or off_m == 0
    assert up.comes_back == down.comes_back


def test_fewer_gaps_cannot_do_it() -> None:
    """All pushes in three steps, tried one by one: none brings it back sooner."""
    row = Row(modules=12, step_m=1.15, height_m=1.75, gap_m=0.02, most_m=MOST_M, hand_m=0.0005)
    found = corrected(row, 4, 0.004, 0.0015)
    until = int(np.flatnonzero(found.opened_m)[-1]) + 1
    choices = np.arange(-3, 4) * 0.0005
    fewer = until - 1
    grid = np.stack(np.meshgrid(*[choices] * fewer, indexing="ij"), axis=-1).reshape(-1, fewer)
    slopes = 0.0015 + np.cumsum(grid, axis=1) / row.height_m
    off = 0.004 + np.cumsum(slopes, axis=1) * row.step_m
    at_rest = np.abs(slopes[:, -1]) <= 0.0005 / row.height_m / 2
    assert not (at_rest & (np.abs(off[:, -1]) <= 0.0005) & (off >= -0.0005).all(axis=1)).any()


def test_a_row_on_its_string_is_left_alone_and_places_are_told_apart() -> None:
    row = Row(modules=18, step_m=1.154, height_m=1.762, gap_m=0.02, most_m=MOST_M, hand_m=0.0005)
    quiet = corrected(row, 4, 0.0, 0.0)
    assert not quiet.opened_m.any() and quiet.comes_back
    assert climb_of(row, 0, 0.0, 4, 0.006) == pytest.approx(0.006 / (4 * 1.154))
    assert climb_of(row, 2, 0.006, 4, 0.0) == pytest.approx(-0.006 / (2 * 1.154))
    for first, last in ((4, 4), (5, 4), (-1, 3), (3, 19)):
        with pytest.raises(ValueError, match="counted from 1 to 18"):
            climb_of(row, first, 0.0, last, 0.0)
    # It climbs, so the upper edge is opened first.
    assert corrected(row, 4, 0.006, 0.0013).opened_m[0] < 0


def test_the_end_that_is_told_is_that_of_the_whole_row() -> None:
    """A row longer than the gaps that are looked at: 5 mm after 4 modules are 125 mm after 100."""
    design = changed(plain_larkspur(), "rows", modules_along=100)
    seen = Sighted(table=0, first=0, first_off_m=0.0, last=4, last_off_m=0.005)
    sheet = drift_sheet(design, plan(design), "metric", seen)
    assert "Left alone the row would end 125.0 mm above." in sheet.note
    assert sheet.tables[0].title.startswith("Table 1.1")


def test_on_rails_no_clamp_stands_between_columns() -> None:
    design = broken(plain_larkspur(), pipe_grid())
    sheet = drift_sheet(design, plan(design), "us", Sighted(0, 0, 0.0, 2, 0.005))
    assert sheet.tables == () and "rails of its own" in sheet.note


def test_a_row_that_takes_the_end_clamps_room_says_so() -> None:
    design = changed(plain_larkspur(), "modules", purlin_end_m=0.0508)
    seen = Sighted(table=0, first=0, first_off_m=0.0, last=4, last_off_m=0.006)
    assert "less than it wants" in drift_sheet(design, plan(design), "metric", seen).note
