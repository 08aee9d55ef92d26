"""Tables on ground that climbs along the row: lengths taped through space, places laid out here."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, plan
from tests.core.breaks import grid, shot
from tests.core.test_checks import broken
from tests.designs import changed, plain_larkspur
from tests.rays import corners_of, hidden, suns_of


@st.composite
def climbing(draw: st.DrawFn) -> Design:
    """Tables on an even slope or on rolling ground, following it or level."""
    slope, toward = draw(st.floats(0, 0.14)), draw(st.floats(0, 359))
    tables, along = draw(st.integers(1, 3)), draw(st.integers(3, 14))
    design = changed(
        plain_larkspur(),
        "rows",
        rows=draw(st.integers(1, 2)),
        tables_along=tables,
        modules_along=along,
        table_gap_m=draw(st.floats(0.1, 2.0)),
        follow_ground=draw(st.booleans()),
    )
    if draw(st.booleans()):
        return changed(design, "site", slope=slope, falls_toward_deg=toward)
    lean, bend = draw(st.floats(-0.1, 0.1)), draw(st.floats(-0.002, 0.002))
    return broken(design, {"site": shot(grid(lambda e, n: lean * e + bend * e * e + 0.01 * n, 6, 60))})


def bolts(found: Plan) -> np.ndarray:
    """Where each post's bolt is in space."""
    supports = found.structure.supports
    return np.column_stack(
        (supports.places.east_m, supports.places.north_m, supports.ground_m + supports.reveals_m)
    )


@settings(max_examples=30)
@given(climbing())
def test_a_tape_along_the_purlin_reads_what_the_stakes_say(design: Design) -> None:
    """From bolt to bolt in space: no further apart than the purlin's holes."""
    found = plan(design)
    places, tape = found.places, found.setting_out.stakes.tape_m
    at, line = bolts(found), found.structure.posts.line
    for table in np.unique(places.of_table):
        mine = np.flatnonzero(places.of_table == table)
        apart = np.linalg.norm(np.diff(at[mine], axis=0), axis=1)
        assert apart == pytest.approx(np.diff(line.along_m), abs=1e-4)
        assert np.diff(tape[mine]) == pytest.approx(np.diff(line.along_m), abs=1e-9)
    level = math.hypot(*(at[mine[-1], :2] - at[mine[0], :2]))
    assert level <= line.along_m[-1] - line.along_m[0] + 1e-9


@settings(max_examples=30)
@given(climbing())
def test_the_glass_is_as_long_on_the_slope_as_its_modules_and_keeps_its_gap(design: Design) -> None:
    """Modules and gaps summed; the gap of level length within what two inclines make of it."""
    found = plan(design)
    rows, modules = design.arrays[0].rows, design.arrays[0].modules
    length = rows.modules_along * modules.width_m + (rows.modules_along - 1) * modules.gap_along_m
    corners, rise = found.rows.lie.tables.corners, found.rows.lie.rise_along
    level = np.linalg.norm(corners[:, 1] - corners[:, 0], axis=1)
    assert np.hypot(level, level * rise) == pytest.approx(np.full(len(level), length), abs=1e-4)
    by_row = corners.reshape(rows.rows, rows.tables_along, 4, 2)
    gaps = np.linalg.norm(by_row[:, 1:, 0] - by_row[:, :-1, 1], axis=2)
    share = 1 / np.hypot(1, rise.reshape(rows.rows, -1))
    low = np.minimum(share[:, 1:], share[:, :-1]) * rows.table_gap_m
    assert (gaps >= low - 0.01).all() and (gaps <= rows.table_gap_m + 0.01).all()


def test_nine_percent_over_seventeen_metres_is_sixty_eight_millimetres() -> None:
    """17 m on the slope: 17 / sqrt(1 + 0.09^2) = 16.932 m level."""
    design = changed(plain_larkspur(), "site", slope=0.09, falls_toward_deg=270.0)
    found = plan(design)
    places, line = found.places, found.structure.posts.line
    taped = line.along_m[-1] - line.along_m[0]
    level = places.east_m[-1] - places.east_m[0]
    assert taped - level == pytest.approx(0.068 * taped / 17, rel=0.01)
    answer = found.answer("stakeout", "tape")
    assert answer.value == pytest.approx(float(found.setting_out.stakes.tape_m[-1]))
    assert "Along the purlins" in answer.working.note


@settings(max_examples=30)
@given(st.floats(-1.0, 4.5), st.floats(0.0, 2.5), st.floats(0.4, 1.5), st.floats(5, 40))
def test_a_ridge_under_the_glass_is_found_wherever_it_stands(
    back: float, high: float, wide: float, tilt: float
) -> None:
    """A ridge along the row, below the glass: heights compared along a line up the slope."""

    def ridge(e: float, n: float) -> float:
        return max(0.0, high * (1 - abs(n - back) / wide))

    design = broken(
        plain_larkspur(),
        {
            "site": shot(grid(ridge, 1, 24), survey_reach_m=40.0),
            "rows": {"tilt_deg": tilt, "modules_along": 8},
        },
    )
    found = plan(design)
    check = next(c for c in found.rows.checks if c.key == "face")
    section, lie = found.rows.section, found.rows.lie
    chord = 2 * design.arrays[0].modules.length_m + design.arrays[0].modules.gap_up_m
    up = np.linspace(0, chord * math.cos(math.radians(tilt)), 60)
    lower = float(lie.edge_level_m[0])
    ground = found.site.ground.level_m(np.zeros(60), up - section.post_x_m)
    least = float((lower + up * math.tan(math.radians(tilt)) - ground).min())
    if check.level == "sound":
        assert least > 0.0
    if least < 0.0:
        assert check.level == "stop"


@st.composite
def rolling(draw: st.DrawFn) -> Design:
    """Two rows of short tables that follow rolling ground, under a window that opens early."""
    lean, bend = draw(st.floats(-0.08, 0.08)), draw(st.floats(-0.003, 0.003))
    twist = draw(st.floats(-0.002, 0.002))
    design = changed(
        plain_larkspur(),
        "rows",
        rows=2,
        tables_along=draw(st.integers(2, 4)),
        modules_along=draw(st.integers(2, 5)),
        table_gap_m=draw(st.floats(0.1, 1.5)),
        turn_deg=draw(st.floats(-40, 40)),
        follow_ground=True,
    )
    design = changed(design, "sun", window_start_h=draw(st.sampled_from([9.0, 10.0])))
    return broken(
        design, {"site": shot(grid(lambda e, n: lean * e + bend * e * e + twist * e * n, 6, 60))}
    )


@settings(max_examples=15, deadline=None)
@given(rolling(), st.floats(-1.5, 1.5))
def test_rows_on_rolling_ground_shade_each_other_where_rays_say_so(
    design: Design, closer: float
) -> None:
    """Every table climbs its own way: rays from the glass of the row behind to the row in front."""
    pitch = max(3.0, plan(design).rows.pitch_m - closer)
    found = plan(changed(design, "rows", pitch_m=pitch))
    quads = corners_of(found)
    row = found.rows.lie.tables.row
    behind = [quad for quad, number in zip(quads, row, strict=True) if number == 1]
    front = [quad for quad, number in zip(quads, row, strict=True) if number == 0]
    check = next(c for c in found.rows.checks if c.key == "shade_ground")
    met = hidden(behind, front, suns_of(found)[::8])
    if met:
        assert check.level == "look"
    elif check.level == "look" and float(check.limit) > pitch + 0.15:
        # Said to be shaded by more than a hand: then a finer look finds it.
        assert hidden(behind, front, suns_of(found))


@pytest.mark.parametrize("turn", [15.0, 25.0, 35.0, 45.0, 55.0])
def test_a_row_that_the_sun_passes_between_tables_asks_for_no_pitch(turn: float) -> None:
    """Single modules far apart: at noon every ray from one may pass between those in front."""
    design = changed(
        plain_larkspur(),
        "rows",
        rows=2,
        tables_along=3,
        modules_along=1,
        modules_high=1,
        table_gap_m=6.0,
        turn_deg=turn,
        pitch_m=9.0,
    )
    design = changed(design, "sun", window_start_h=11.75, window_end_h=12.25)
    found = plan(broken(design, {"site": shot(grid(lambda e, n: 0.02 * e + 0.0004 * e * n, 6, 60))}))
    check = next(c for c in found.rows.checks if c.key == "shade_ground")
    quads, row = corners_of(found), found.rows.lie.tables.row
    front, behind = ([q for q, r in zip(quads, row, strict=True) if r == which] for which in (0, 1))
    assert (check.level == "look") == bool(hidden(behind, front, suns_of(found)))
    assert math.isfinite(check.limit)


@settings(max_examples=20, deadline=None)
@given(climbing())
def test_glass_lies_over_the_posts_of_its_own_table(design: Design) -> None:
    """From above: a row's glass about the array's middle, each table's posts under its own glass."""
    found = plan(design)
    along = math.radians(found.rows.along_deg)
    way = np.array([math.sin(along), math.cos(along)])
    at = np.array([found.rows.setting.east_m, found.rows.setting.north_m])
    ends = (np.array(corners_of(found))[:, :2, :2] - at) @ way
    for row in np.unique(found.rows.lie.tables.row):
        of_row = ends[found.rows.lie.tables.row == row]
        assert of_row.min() == pytest.approx(-of_row.max(), abs=1e-6)
    places = found.places
    stand = (np.column_stack((places.east_m, places.north_m)) - at) @ way
    for table in np.unique(places.of_table):
        mine = stand[places.of_table == table]
        assert ends[table].min() - 0.2 <= mine.min() and mine.max() <= ends[table].max() + 0.2


@pytest.mark.parametrize(("rows", "bend"), [(1, 0.004), (2, 0.002), (3, -0.001)])
def test_the_plane_of_the_array_is_that_of_the_ground_under_it(rows: int, bend: float) -> None:
    """Ground that bends toward the back: least squares, by numpy, over the ground below the rows."""
    design = changed(plain_larkspur(), "rows", rows=rows, pitch_m=8.0, modules_along=6)
    found = plan(broken(design, {"site": shot(grid(lambda e, n: 0.02 * n + bend * n * n, 4, 48))}))
    deep = found.rows.section.level_depth_m
    east, north = np.meshgrid(
        np.linspace(-0.5, 0.5, 41) * found.rows.row_length_m,
        np.linspace(-deep / 2, (rows - 0.5) * 8.0, 81),
    )
    level = found.site.ground.level_m(east.ravel(), north.ravel())
    sides = np.column_stack((east.ravel(), north.ravel(), np.ones(east.size)))
    (_, rise, _), *_ = np.linalg.lstsq(sides, level, rcond=None)
    back = found.rows.local.rise_toward(found.rows.facing_deg + 180.0)
    assert back == pytest.approx(float(rise), abs=0.0015)
