"""Break lines against ground whose level is a formula, ditches of known volume, and GEOS."""

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.site.breaks import bending, break_lines, conformed, crossing_lines
from openfurrow.core.site.earthwork import earthwork
from openfurrow.core.site.outliers import outliers
from openfurrow.core.site.surface import Surface, surface_through
from openfurrow.core.site.survey import SurveyGivens, shots_of

SLANT = 0.3
HALF_WIDTH_M, DEEP_M = 1.5, 1.0


def ditch(east: np.ndarray, north: np.ndarray) -> np.ndarray:
    """A V-shaped ditch through level ground, its bed along north = 0.3 east."""
    return np.minimum(0.0, -DEEP_M + DEEP_M * np.abs(north - SLANT * east) / HALF_WIDTH_M)


def lines_of_the_ditch(step_m: float = 7.0) -> tuple[np.ndarray, ...]:
    """Both tops and the bed, a shot every few metres."""
    east = np.arange(-35.0, 35.1, step_m)
    return tuple(
        np.column_stack((east, SLANT * east + off, ditch(east, SLANT * east + off)))
        for off in (-HALF_WIDTH_M, 0.0, HALF_WIDTH_M)
    )


def strewn(seed: int, count: int = 140) -> np.ndarray:
    east, north = np.random.default_rng(seed).uniform(-30, 30, (2, count))
    return np.column_stack((east, north, ditch(east, north)))


def off_m(surface: Surface, seed: int = 9) -> np.ndarray:
    east, north = np.random.default_rng(seed).uniform(-24, 24, (2, 4000))
    known = surface.known(east, north)
    assert known.mean() > 0.9
    return np.abs(surface.level_m(east, north) - ditch(east, north))[known]


@pytest.mark.parametrize("seed", range(4))
def test_a_ditch_shot_along_its_edges_is_met_exactly(seed: int) -> None:
    """Faces of a V are planes: triangles that keep to its three lines lie in them."""
    lines = lines_of_the_ditch()
    points = np.vstack((strewn(seed), *lines))
    assert off_m(surface_through(points, None, None, lines)).max() < 1e-9
    # Without the lines triangles bridge the ditch by most of its depth.
    assert off_m(surface_through(points)).max() > 0.5 * DEEP_M


def test_the_volume_of_a_ditch_is_half_its_width_by_its_depth() -> None:
    """A V of 3 m by 1 m, 20 m of it square across: 0.5 x 3 x 1 x 20 x the slant's lengthening."""
    lines = lines_of_the_ditch()
    surface = surface_through(np.vstack((strewn(1, 300), *lines)), None, None, lines)
    work = earthwork(surface, shapely.box(-10, -20, 10, 20), 0.0)
    assert work
    # Between two verticals 20 m apart in east the area on plan is 20 x 3, whatever the slant.
    assert work.fill_m3 == pytest.approx(0.5 * 2 * HALF_WIDTH_M * DEEP_M * 20.0, rel=1e-6)
    assert work.cut_m3 == pytest.approx(0.0, abs=1e-9)


bent = st.lists(
    st.tuples(st.floats(-25, 25), st.floats(-3, 3)),
    min_size=2,
    max_size=7,
    unique_by=lambda at: round(at[0]),
)


@settings(max_examples=60, deadline=None)
@given(st.lists(bent, min_size=1, max_size=4), st.integers(0, 99))
def test_every_stretch_of_a_line_is_made_of_edges(
    runs: list[list[tuple[float, float]]], seed: int
) -> None:
    """By GEOS: lines that run west to east, each in its own lane, are covered by the edges."""
    lines = tuple(
        np.array([(x, 8.0 * lane + y, 0.1 * x) for x, y in sorted(run)])
        for lane, run in enumerate(runs)
    )
    loose = np.random.default_rng(seed).uniform(-30, 34, (60, 2))
    points = conformed(np.vstack((np.column_stack((loose, 0 * loose[:, 0])), *lines)), lines)
    surface = surface_through(points, None, 1e6)
    corners = surface.points_m[surface.triangles][:, [0, 1, 1, 2, 2, 0], :2].reshape(-1, 2, 2)
    edges = shapely.buffer(shapely.multilinestrings(shapely.linestrings(corners)), 1e-6)
    inside = shapely.buffer(surface.extent, -0.01)
    for line in lines:
        run = shapely.intersection(shapely.LineString(line[:, :2]), inside)
        missed = shapely.length(shapely.difference(run, edges))
        # What is left is shorter than the least stretch, beside a shot that stands on the line.
        assert missed < 0.25, missed


def test_points_added_lie_on_the_line_and_take_its_level() -> None:
    line = np.array([(-20.0, 0.0, 0.0), (20.0, 0.0, 4.0)])
    loose = np.column_stack((np.random.default_rng(2).uniform(-20, 20, (80, 2)), np.zeros(80)))
    given_points = np.vstack((loose, line))
    points = conformed(given_points, (line,))
    assert np.array_equal(points[:82], given_points)
    added = points[82:]
    assert len(added) > 2
    assert added[:, 1] == pytest.approx(0.0)
    assert added[:, 2] == pytest.approx((added[:, 0] + 20.0) / 10.0)
    assert bending(points, (line,), 82).tolist() == [False] * 80 + [True] * (2 + len(added))


@settings(max_examples=40, deadline=None)
@given(st.integers(0, 60), st.floats(0.7, 3) | st.floats(-3, -0.7), st.integers(0, 139))
def test_ditches_blame_no_shot_and_hide_no_misread_rod(seed: int, by_m: float, which: int) -> None:
    lines = lines_of_the_ditch()
    shot = np.vstack((strewn(seed), *lines))

    def found(points: np.ndarray) -> list[int]:
        mesh = surface_through(points, None, None, lines).points_m
        return outliers(mesh, bending(mesh, lines, len(points)))[0].tolist()

    assert found(shot) == []
    # At the rim a shot's neighbours stand all on one side.
    inside = np.flatnonzero(np.abs(shot[:140, :2]).max(axis=1) < 20)
    misread = int(inside[which % len(inside)])
    shot[misread, 2] += by_m
    assert misread in found(shot)


def test_lines_are_joined_by_code_and_sitting_in_the_order_of_the_book() -> None:
    one = SurveyGivens(
        readings=(
            (0.0, 0.0, 1.0, "Break bank"),
            (5.0, 9.0, 1.0, "grass"),
            (9.0, 0.0, 1.0, "break bank "),
            (0.0, 2.0, 1.0, "break toe"),
            (4.0, 0.0, 1.0, "break bank"),
            (9.0, 2.0, 1.0, "break toe"),
            (3.0, 3.0, 1.0, "break alone"),
            (3.0, 5.0, 1.0, "windbreak"),
        )
    )
    lines = break_lines(shots_of([one, one]))
    assert [code for code, _ in lines] == ["break bank", "break toe"] * 2
    assert lines[0][1][:, 0].tolist() == [0.0, 9.0, 4.0]


def test_crossing_lines_are_named_and_touching_ones_are_not() -> None:
    wall = ("break wall", np.array([(-5.0, 0.0, 0.0), (5.0, 0.0, 0.0)]))
    across = ("break ditch", np.array([(0.0, -5.0, 1.0), (0.0, 5.0, 1.0)]))
    meets = ("break toe", np.array([(5.0, 0.0, 0.0), (8.0, 4.0, 0.0)]))
    loop = (
        "break loop",
        np.array([(0.0, 9.0, 0.0), (4.0, 12.0, 0.0), (4.0, 9.0, 0.0), (0.0, 12.0, 0.0)]),
    )
    assert crossing_lines((wall, across, meets)) == (("break wall", "break ditch"),)
    assert crossing_lines((wall, meets)) == ()
    assert crossing_lines((loop,)) == (("break loop", "break loop"),)
    # No surface holds both, but one is made all the same and the search ends.
    points = np.vstack((strewn(3), wall[1], across[1]))
    assert len(conformed(points, (wall[1], across[1]))) < len(points) + 200
