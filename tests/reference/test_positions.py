"""Tables that are set to several tilts: geometry by turning points, loads and light tilt by tilt.

What one job of many tilts says is held against jobs of one tilt each, whose posts stand as high: those
are held against statics and rays of their own elsewhere. Common practice, no published source.
"""

import math
from datetime import date

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.as_built import as_built, handover_of
from openfurrow.core.checks import LEVELS, at_least, at_most, worst_of
from openfurrow.core.design import Design
from openfurrow.core.handover.care import Setting, setting_dates
from openfurrow.core.plan import Plan, plan, untried
from openfurrow.core.rows.givens import PositionGivens
from openfurrow.core.working import COMMON_PRACTICE
from openfurrow.core.year_days import day_number, day_words
from openfurrow.sheets.drawings.strained import strained_drawings
from tests.core.breaks import NOTE, SEASONS
from tests.core.test_checks import broken
from tests.designs import changed, plain_larkspur

# Tilts far enough apart that none is another's, in whole degrees; the days from which they stand.
SETTINGS = st.lists(
    st.tuples(st.integers(5, 60), st.integers(0, 364)),
    min_size=2,
    max_size=4,
    unique_by=(lambda one: one[0], lambda one: one[1]),
)


def said_settings(told: list[tuple[int, int]]) -> tuple[PositionGivens, ...]:
    return tuple(
        PositionGivens(id=f"s{number}", tilt_deg=float(tilt), day=day_words(day))
        for number, (tilt, day) in enumerate(told)
    )


def job(told: list[tuple[int, int]], slope: float, falls: float, **rows: object) -> Design:
    """A plain job on even ground, put up at the first of its settings."""
    return broken(
        plain_larkspur(),
        {
            "site": {"slope": slope, "falls_toward_deg": falls},
            "rows": {
                "positions": said_settings(told),
                "tilt_deg": float(told[0][0]),
                "pitch_m": 9.0,
                **rows,
            },
        },
    )


def alone_at(design: Design, whole: Plan, tilt: float) -> Plan:
    """The same posts under tables that stand at one tilt for good."""
    lower = next(one.section.lower_edge_m for one in whole.rows.positions if one.tilt_deg == tilt)
    return plan(changed(design, "rows", positions=(), tilt_deg=tilt, lower_edge_m=lower))


@settings(max_examples=15, deadline=None)
@given(SETTINGS, st.floats(0, 0.1), st.floats(0, 360), st.floats(0.6, 1.5))
def test_every_tilt_turns_about_bolts_that_stay(
    told: list[tuple[int, int]], slope: float, falls: float, lower: float
) -> None:
    """Edges of every table at every tilt: points of the steepest turned in their plane by a matrix."""
    found = plan(job(told, slope, falls, rows=2, modules_along=10, lower_edge_m=lower))
    steep = found.rows.steepest
    assert steep.tilt_deg == max(tilt for tilt, _ in told)
    assert steep.section.lower_edge_m == lower
    chord, stack = steep.section.chord_m, steep.section.stack_m
    posts = found.structure.supports
    for one in found.rows.positions:
        b = math.radians(one.tilt_deg)
        turn = np.array([[math.cos(b), -math.sin(b)], [math.sin(b), math.cos(b)]])
        # On the glass, seen from the bolt, before it is tilted.
        low, high = (turn @ np.array([at, stack]) for at in (-chord / 2, chord / 2))
        for index in range(posts.count):
            table = int(posts.places.of_table[index])
            bolt = posts.ground_m[index] + posts.reveals_m[index]
            edge = float(one.lie.edge_at(table, posts.places.from_middle_m[index]))
            assert edge == pytest.approx(bolt + low[1], abs=1e-9)
            assert edge + one.section.rise_m == pytest.approx(bolt + high[1], abs=1e-9)
        assert one.section.post_x_m == pytest.approx(-low[0])
        # What is below the edges, straight down, on an even slope at a table's ends and middle.
        tables = one.lie.tables
        for table in range(tables.count):
            away = np.linspace(-0.5, 0.5, 25) * tables.lengths_m[table]
            for name, at in (("low", low), ("high", high)):
                east, north = tables.east_north_m(np.array([table]), away[None], at[0])
                ground = found.site.ground.level_m(east, north)[0]
                over = one.lie.edge_at(table, away) + (at[1] - low[1]) - ground
                if name == "low":
                    assert one.lie.clear_m[table] == pytest.approx([over.min(), over.max()])
                else:
                    assert one.lie.upper_m[table] == pytest.approx(over.max())


@settings(max_examples=10, deadline=None)
@given(SETTINGS, st.floats(0, 0.08), st.floats(0, 360))
def test_what_carries_carries_the_worst_of_every_tilt(
    told: list[tuple[int, int]], slope: float, falls: float
) -> None:
    """Reactions are those of all tilts, members and posts as the most demanding one asks."""
    design = job(told, slope, falls, rows=1, modules_along=10)
    whole = plan(design)
    alone = [alone_at(design, whole, float(tilt)) for tilt, _ in sorted(told)]
    found = whole.structure
    for name in ("down_n", "across_n", "moment_n_m"):
        mine = np.sort(getattr(found.reactions, name), axis=1)
        theirs = np.concatenate([getattr(one.structure.reactions, name) for one in alone], axis=1)
        assert mine == pytest.approx(np.sort(theirs, axis=1), rel=1e-9, abs=1e-6)
    # Each case keeps its name and its height: the same at the same place.
    count = len(found.reactions.names) // 2
    for at, one in enumerate(alone):
        other = one.structure.reactions
        per = len(other.names) // 2
        for half in (0, 1):
            mine = slice(half * count + at * per, half * count + (at + 1) * per)
            theirs = slice(half * per, (half + 1) * per)
            assert found.reactions.moment_n_m[:, mine] == pytest.approx(
                other.moment_n_m[:, theirs], rel=1e-9, abs=1e-6
            )
            assert all(
                said == f"{bare}, at {one.rows.section.tilt_deg:g}°"
                for said, bare in zip(found.reactions.names[mine], other.names[theirs], strict=True)
            )
    members = [one.structure.members for one in alone]
    assert found.members.beam.bending.used == pytest.approx(max(m.beam.bending.used for m in members))
    assert found.members.purlin.bending.used == pytest.approx(
        max(m.purlin.bending.used for m in members)
    )
    assert found.members.strut.force_n / found.members.strut.limit_n == pytest.approx(
        max(m.strut.force_n / m.strut.limit_n for m in members)
    )
    assert found.members.post_at_strut_n_m == pytest.approx(max(m.post_at_strut_n_m for m in members))
    assert whole.footings.posts.needs_m == pytest.approx(
        [max(needs) for needs in zip(*(one.footings.posts.needs_m for one in alone), strict=True)],
        rel=1e-6,
    )
    # Glass and clamps too.
    for name in ("press_pa", "lift_pa", "clamp_pull_n"):
        assert getattr(whole.modules, name) == pytest.approx(
            max(getattr(one.modules, name) for one in alone)
        )
    # A strut is as long at every tilt as from its foot to where it meets the beam.
    reach = found.posts.givens.strut_reach_m
    drop = found.supports.reveals_m - found.posts.givens.strut_foot_m
    lengths = np.array(
        [
            [math.dist((0.0, 0.0), (reach * math.cos(b), fall - reach * math.sin(b))) for fall in drop]
            for b in (math.radians(tilt) for tilt, _ in told)
        ]
    )
    assert found.members.strut.lengths_m == pytest.approx(lengths.max(axis=0))
    assert found.members.strut.travel_m == pytest.approx((lengths.max(0) - lengths.min(0)).max())
    travel = next(c for c in whole.checks if c.key == "strut_travel")
    assert travel.level == "stop" and travel.limit == pytest.approx(found.members.strut.travel_m)
    set_over = plan(changed(design, "structure", strut_travel_m=found.members.strut.travel_m + 1e-6))
    assert next(c for c in set_over.checks if c.key == "strut_travel").level == "sound"


@settings(max_examples=6, deadline=None)
@given(SETTINGS, st.floats(0, 0.06))
def test_the_year_is_that_of_each_tilt_on_its_days(told: list[tuple[int, int]], slope: float) -> None:
    """Day by day the power is that of a job that stands so for good."""
    design = job(told, slope, 180.0, rows=2, modules_along=10)
    whole = plan(design)
    changes = sorted((day, tilt) for tilt, day in told)
    stands = []
    for day in range(365):
        before = [tilt for change, tilt in changes if change <= day]
        stands.append(before[-1] if before else changes[-1][1])
    sky = whole.energy.sky
    wanted, by_table = np.zeros(len(sky.at)), 0.0
    for tilt, _ in told:
        year = alone_at(design, whole, float(tilt)).energy.arrays[0]
        on = np.array(stands)[sky.day] == tilt
        wanted[on] = year.light.power[on]
        by_table += float(year.light.power[on].sum()) * sky.step_h
    found = whole.energy.arrays[0]
    assert found.light.power == pytest.approx(wanted, abs=1e-9)
    assert found.by_table_h @ whole.rows.tables.columns == pytest.approx(
        by_table * whole.rows.tables.columns.sum()
    )
    left = found.light.open_h * found.light.left[-1]
    assert left == pytest.approx(by_table, rel=1e-9)
    assert found.light.open_month_h.sum() == pytest.approx(found.light.open_h)


@settings(max_examples=15, deadline=None)
@given(SETTINGS, st.floats(0, 0.06), st.sampled_from([0.0, 180.0]))
def test_the_pitch_keeps_the_window_free_at_every_tilt(
    told: list[tuple[int, int]], slope: float, falls: float
) -> None:
    """A ray from each lower edge toward every sun of the window passes over the row before."""
    found = plan(job(told, slope, falls, rows=2, modules_along=10, pitch_m=None))
    rows, sun = found.rows, found.sun
    if not math.isfinite(rows.least_pitch_m):
        return
    over = []
    for one in rows.positions:
        b, chord = math.radians(one.tilt_deg), one.section.chord_m
        rise = one.section.rise_back
        for altitude, azimuth in zip(sun.window_altitude_deg, sun.window_azimuth_deg, strict=True):
            off = math.radians(azimuth - rows.facing_deg)
            if altitude <= 0 or math.cos(off) <= 1e-6:
                continue
            steep = math.tan(math.radians(altitude)) / math.cos(off)
            # From the lower edge behind, a pitch on and as much higher, to over the upper edge.
            way = rows.pitch_m - chord * math.cos(b)
            over.append(rows.pitch_m * rise + way * steep - chord * math.sin(b))
    assert min(over) >= -1e-6
    walk = rows.pitch_m - max(one.section.level_depth_m for one in rows.positions)
    assert walk >= 0.6 - 1e-9
    # And not much more than is asked: the finest mark of a tape, or room to walk.
    assert min(over) < 0.01 or walk < 0.61


def test_height_room_and_snow_are_looked_at_at_every_tilt() -> None:
    """Each of these falls at one tilt only, and says at which."""
    told = [(10, 100), (55, 280)]
    design = job(told, 0.0, 180.0, rows=2, modules_along=10, lower_edge_m=0.5)
    steep = max(plan(design).rows.positions[-1].lie.upper_m)
    limit = {"topic": "height limit", "limit_m": float(steep) - 0.05, **NOTE}
    limited = broken(design, {"site": {"notes": (limit,)}})
    stop = next(c for c in plan(limited).checks if c.key == "height_limit")
    assert stop.level == "stop" and stop.title.endswith("at 55°")
    flat = max(plan(limited).rows.positions[0].lie.upper_m)
    assert flat < steep - 0.5
    room = next(c for c in plan(changed(design, "rows", pitch_m=4.0)).checks if c.key == "overlap")
    assert room.level == "stop" and room.title.endswith("at 10°")
    chord = plan(design).rows.section.chord_m
    assert room.measured == pytest.approx(4.0 - chord * math.cos(math.radians(10)))
    twice = changed(design, "rows", positions=said_settings([(10, 100), (55, 100)]))
    check = next(c for c in plan(twice).checks if c.key == "positions")
    assert check.level == "stop" and "11 Apr" in str(check.measured)


def test_days_of_change_and_the_strut_reach_the_crew() -> None:
    """In the calendar of care twice each; on the lists an adjustable strut, else a plain one."""
    design = job([(15, 120), (50, 280)], 0.0, 180.0, rows=1, modules_along=10)
    found = as_built(design, plan(design))
    care = [one for one in handover_of(found).care if one.key.startswith("set-")]
    assert [one.what for one in care].count("Set the tables to 15°") == 2
    assert {(one.day.month, one.day.day) for one in care} == {(5, 1), (10, 8)}
    names = [line.item for line in found.materials.lines]
    assert any(name.startswith("Adjustable strut") for name in names)
    fixed = plan(changed(design, "rows", positions=()))
    assert not any("djustable" in line.item for line in fixed.materials.lines)


def test_wires_reach_wherever_the_table_turns() -> None:
    """The farthest that a place near the bolt is carried, by points on its circle."""
    design = job([(10, 100), (50, 280)], 0.0, 180.0, rows=1, modules_along=10)
    found = plan(design)
    arm = math.hypot(found.rows.section.stack_m, found.rows.module_up_m / 2)
    ends = [
        (arm * math.cos(math.radians(tilt)), arm * math.sin(math.radians(tilt))) for tilt in (10, 50)
    ]
    check = next(c for c in found.checks if c.key == "turning_slack")
    assert check.limit == pytest.approx(math.dist(*ends))
    short = changed(design, "wiring", slack_m=0.3)
    assert next(c for c in plan(short).checks if c.key == "turning_slack").level == "stop"
    assert not [c for c in plan(plain_larkspur()).checks if c.key == "turning_slack"]


@given(st.dates(date(2023, 1, 1), date(2023, 12, 31)))
def test_days_of_the_year_are_read_as_they_are_said(day: date) -> None:
    number = day.timetuple().tm_yday - 1
    assert day_words(number) == f"{day.day} {day:%b}"
    for said in (f"{day:%d %B}", f"{day.day}. {day:%b}", f"{day:%B} {day.day}", f"{day:%b}. {day:%d}"):
        assert day_number(said) == number
        assert day_number(said.upper()) == number


@pytest.mark.parametrize(
    "said", ["", "3/4", "2026-03-04", "30 Feb", "29 Feb", "0 Mar", "31 June", "21 M"]
)
def test_what_is_no_day_of_every_year_is_refused(said: str) -> None:
    with pytest.raises(ValueError, match="is no day"):
        day_number(said)


@settings(max_examples=40)
@given(st.dates(date(2026, 1, 1), date(2032, 12, 31)), st.integers(0, 364))
def test_settings_are_written_down_for_two_years(handed_over: date, number: int) -> None:
    dates = setting_dates(handed_over, (Setting(number, "55°", "upper field"),))
    assert len(dates) == 2
    first, second = (one.day for one in dates)
    assert handed_over < first and (first - handed_over).days <= 366
    assert (first.month, first.day) == (second.month, second.day) and second.year == first.year + 1
    assert f"{first.day} {first:%b}" == day_words(number)
    assert dates[0].what == "Set upper field to 55°"


@settings(max_examples=60)
@given(
    st.lists(
        st.tuples(st.floats(0.1, 9), st.floats(0.1, 9), st.sampled_from(["stop", "look"])),
        min_size=1,
        max_size=5,
    ),
    st.booleans(),
)
def test_of_several_cases_the_worst_is_told(cases: list[tuple[float, float, str]], most: bool) -> None:
    """Worse is a worse level; of one level what keeps least room, by its limit."""
    said = {
        "remedy": "Do something about it.",
        "source": COMMON_PRACTICE,
        "given": "rows.tilt_deg",
    }
    compare = at_most if most else at_least
    told = [
        (f"case {number}", (compare("rows", "one", "It holds", m, top, "tape", **said, otherwise=o),))
        for number, (m, top, o) in enumerate(cases)
    ]
    (found,) = worst_of(told)
    checks = [one for _, (one,) in told]
    assert LEVELS.index(found.level) == min(LEVELS.index(one.level) for one in checks)
    same = [
        (m / top, c) for (m, top, _), c in zip(cases, checks, strict=True) if c.level == found.level
    ]
    ratio = found.measured / found.limit
    extreme = max(r for r, _ in same) if most else min(r for r, _ in same)
    assert ratio == pytest.approx(extreme)
    alike = len({(c.level, c.measured, c.limit) for c in checks}) == 1
    assert (found.title == "It holds") == alike


@pytest.mark.parametrize("family", ["one post line", "two post lines", "single pole"])
def test_the_bent_that_is_drawn_at_a_tilt_is_bent_at_that_tilt(family: str) -> None:
    """The steel of the frame lies along the glass that is drawn over it, at each tilt and as put up."""
    few = {"modules_high": 1, "modules_along": 2} if family == "single pole" else {}
    parts: dict[str, dict[str, object]] = {
        "rows": SEASONS["rows"] | few,
        "structure": {"family": family, "pipe_section": "pipe 3 in"},
    }
    found = untried(broken(plain_larkspur(), parts))
    tilts = [one.tilt_deg for one in found.rows.positions]
    assert tilts == [15.0, 34.0, 55.0]
    for tilt, strains in zip(tilts, found.structure.strains_at, strict=True):
        for strain in strains:
            back, up = strain.joints_m[-1] - strain.joints_m[-2]
            assert math.degrees(math.atan2(up, back)) == pytest.approx(tilt)
    drawn = strained_drawings(found, "us")
    glass = [mark for mark in drawn[0].marks if mark.layer == "glass"]
    (x0, z0), (x1, z1) = glass[0].points[:2]
    assert math.degrees(math.atan2(z1 - z0, x1 - x0)) == pytest.approx(34.0, abs=0.1)
    # What bends the beam is drawn along it: its foot lies on the steel, under the glass.
    feet = [(m.points[0], m.points[-1]) for m in drawn[0].marks if m.layer == "moment"]
    slopes = [math.degrees(math.atan2(b[1] - a[1], b[0] - a[0])) for a, b in feet]
    assert any(abs(slope - 34.0) < 0.5 for slope in slopes)
