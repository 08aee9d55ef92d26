"""Rows on turning tubes under the sun and over the ground: rays over strips, any place of the glass.

Rows that turn back until none shades the next: common practice, no published source. The turn of a
lying axis on a slope, and the light on it: `pvlib` (Anderson & Mikofski, NREL/TP-5K00-76626, 2020; the
core asks pvlib for neither).
"""

import math

import numpy as np
import pvlib
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.energy.tube_pitches import tube_curve, tube_schools
from openfurrow.core.plan import Plan, plan, untried
from openfurrow.core.rows.travel import Beside, Travel
from openfurrow.core.working import evaluate
from tests.core.test_checks import find
from tests.reference.test_turning_tube import job, jobs

# The sun ------------------------------------------------------------------------------------------


def strip(middle: np.ndarray, roll_deg: float, chord: float) -> np.ndarray:
    """Both edges of glass over its tube, seen along the tubes: toward its facing and up, (2, 2)."""
    roll = math.radians(roll_deg)
    along = np.array([math.cos(roll), -math.sin(roll)]) * chord / 2
    return np.array([middle - along, middle + along])


def lit_share(roll_deg: float, sun: np.ndarray, chord: float, away: np.ndarray) -> float:
    """Of fine places on the middle one of five strips those whose ray to the sun meets no other."""
    places = np.linspace(1e-4, 1 - 1e-4, 4000)[:, None]
    own = strip(np.zeros(2), roll_deg, chord)
    at = own[0] + places * (own[1] - own[0])
    free = np.ones(len(places), dtype=bool)
    for number in (-2, -1, 1, 2):
        first, last = strip(number * away, roll_deg, chord)
        side = last - first
        # at + s sun = first + u side
        across = sun[0] * -side[1] + sun[1] * side[0]
        if abs(across) < 1e-12:
            continue
        gap = first - at
        s = (gap[:, 0] * -side[1] + gap[:, 1] * side[0]) / across
        u = (sun[0] * gap[:, 1] - sun[1] * gap[:, 0]) / across
        free &= ~((s > 1e-9) & (u >= 0) & (u <= 1))
    return float(free.mean())


@settings(max_examples=200, deadline=None)
@given(
    st.floats(2, 88),
    st.floats(0, 360),
    st.floats(1, 5),
    st.floats(1.15, 4),
    st.floats(-0.2, 0.2),
)
def test_turned_back_no_row_shades_the_next_and_a_little_further_it_would(
    altitude: float, azimuth: float, chord: float, wide: float, slope: float
) -> None:
    """Rays from the glass to the sun, seen along the tubes; and as pvlib turns them on that slope."""
    apart = wide * chord
    travel = Travel(
        0, 89.9, 0, 0, 0.2, rolls=True, turns_back=True, beside=Beside(chord, apart, slope * apart)
    )
    facing = 90.0
    tilt, bearing = travel.looks(np.array([altitude]), np.array([azimuth]), facing)
    roll = float(tilt[0]) * (1 if bearing[0] == facing else -1)
    up, level = math.sin(math.radians(altitude)), math.cos(math.radians(altitude))
    sun = np.array([level * math.cos(math.radians(azimuth - facing)), up])
    away = np.array([apart, slope * apart])
    true = math.degrees(math.atan2(sun[0], sun[1]))
    # Beneath the plane of all tubes the sun lights nothing.
    over = abs(true - math.degrees(math.atan2(-slope, 1.0)))
    assume(over < 89)
    assert lit_share(roll, sun, chord, away) >= 0.99
    if abs(roll - true) > 3 and abs(roll) < 86:
        nearer = roll + math.copysign(2.0, true - roll)
        assert lit_share(nearer, sun, chord, away) < 1.0
    elif abs(roll) < 86:
        assert roll == pytest.approx(true, abs=3.01)
    # The axis' azimuth is south, so that positive turns look west: ours of the other sign.
    known = pvlib.tracking.singleaxis(
        np.array([90 - altitude]),
        np.array([azimuth]),
        axis_tilt=0,
        axis_azimuth=180,
        max_angle=89.9,
        backtrack=True,
        gcr=chord / apart,
        cross_axis_tilt=math.degrees(math.atan(slope)),
    )
    theirs = float(np.asarray(known["tracker_theta"])[0])
    assert -roll == pytest.approx(theirs, abs=0.02)


def test_it_takes_the_shade_where_that_was_said_and_stops_at_its_limit() -> None:
    found = [untried(job(turns_back=one)).rows for one in ("turns back from shade", "takes the shade")]
    low = np.array([6.0]), np.array([95.0])
    tilts = [float(one.travel.looks(*low, 90.0)[0][0]) for one in found if one.travel]
    assert tilts[0] < 45
    assert tilts[1] == pytest.approx(60.0)
    # Afternoon: the other way round.
    _, bearing = found[0].travel.looks(np.array([30.0]), np.array([250.0]), 90.0)  # type: ignore[union-attr]
    assert float(bearing[0]) % 360 == pytest.approx(270.0)


@pytest.mark.parametrize("falls", [60.0, 135.0, 290.0])
@pytest.mark.parametrize("latitude", [44.9, -33.0])
def test_the_slope_from_tube_to_tube_is_that_of_their_heads(falls: float, latitude: float) -> None:
    """The front row stands east of the next: rays over both as they stand, from low suns to high."""
    site = {"slope": 0.09, "falls_toward_deg": falls, "latitude_deg": latitude}
    site |= {"time_zone": "Etc/GMT+8"} if latitude < 0 else {}
    found = untried(job(site=site, rows={"rows": 2, "lower_edge_m": 1.1}))
    travel, places = found.rows.travel, found.places
    assert travel is not None and travel.beside is not None
    heads = found.structure.supports.ground_m + found.structure.supports.reveals_m
    front, back = (np.flatnonzero(places.of_table == table) for table in (0, 1))
    apart = float(places.east_m[front].mean() - places.east_m[back].mean())
    rise = float(heads[front].mean() - heads[back].mean())
    assert apart == pytest.approx(travel.beside.apart_m) and apart > 0
    assert rise == pytest.approx(travel.beside.rise_m, abs=1e-6) and abs(rise) > 0.05
    away, chord = np.array([apart, rise]), found.rows.section.chord_m
    for azimuth in (95.0, 120.0, 245.0, 265.0):
        for altitude in (8.0, 15.0, 25.0):
            tilt, bearing = travel.looks(np.array([altitude]), np.array([azimuth]), 90.0)
            roll = float(tilt[0]) * (1 if bearing[0] == 90.0 else -1)
            level = math.cos(math.radians(altitude)) * math.cos(math.radians(azimuth - 90.0))
            sun = np.array([level, math.sin(math.radians(altitude))])
            assert lit_share(roll, sun, chord, away) >= 0.99


def test_every_working_of_a_tube_gives_its_own_number() -> None:
    """Formulas are reckoned again from what stands beside them."""
    found = plan(job(rows={"rows": 3}))
    seen = set()
    for stage in ("rows", "structure", "frame"):
        for one in found.shown(stage)[0]:
            if one.working.formula:
                assert evaluate(one.working) == pytest.approx(one.value, rel=1e-6), one.key
                seen.add(one.key)
    assert {"swept", "turns_back", "drive_holds", "tube_drive", "tube_switches", "cable_slack"} <= seen


@pytest.mark.parametrize("latitude", [47.0, -33.0])
def test_tubes_lie_from_north_to_south_on_either_half_of_the_globe(latitude: float) -> None:
    site = {"latitude_deg": latitude} | ({"time_zone": "Etc/GMT+8"} if latitude < 0 else {})
    found = untried(job(site=site))
    assert found.rows.facing_deg == 90.0
    east, north = found.places.east_m, found.places.north_m
    row = found.places.line == found.places.line[0]
    assert np.ptp(east[row]) == pytest.approx(0.0, abs=1e-6)
    assert np.ptp(north[row]) > 3
    # Turned from that, clockwise from above.
    turned = untried(job(site=site, rows={"turn_deg": 10.0}))
    assert turned.rows.facing_deg == pytest.approx(100.0)


# On the ground ------------------------------------------------------------------------------------


@settings(max_examples=20, deadline=None)
@given(jobs(), st.floats(-1, 1), st.floats(-1, 1), st.floats(-1, 1))
def test_glass_never_comes_nearer_to_ground_or_neighbour_than_is_told(
    design: Design, turn: float, along: float, up: float
) -> None:
    """Any place of the glass or the rails at any turn to either side, over the plane that was said."""
    found = untried(design)
    site, supports = design.site, found.structure.supports
    table, reach = found.rows.section, found.rows.travel.reach_m(found.rows.section)  # type: ignore[union-attr]
    told = {
        one.key: float(one.working.value) for one in found.rows.answers if one.key.startswith("swept")
    }
    roll = math.radians(turn * 60.0)
    x = up * table.chord_m / 2
    for stack in (0.0, table.stack_m):
        east = x * math.cos(roll) + stack * math.sin(roll)
        level = -x * math.sin(roll) + stack * math.cos(roll)
        assert abs(east) <= told["swept"] + 1e-3
        for index in (0, supports.count - 1):
            ground = -site.slope * math.cos(math.radians(site.falls_toward_deg))
            fall = -site.slope * math.sin(math.radians(site.falls_toward_deg))
            head = supports.ground_m[index] + supports.reveals_m[index]
            # Level along: from post to post the head keeps its height, the ground does not.
            below = supports.ground_m[index] + fall * east
            assert head + level - below >= told["swept_clear"] - 2e-3
            assert abs(ground) <= 0.11
    apart = [one for one in found.rows.answers if one.key == "movers_apart"]
    assert float(apart[0].working.value) == pytest.approx(found.rows.pitch_m - 2 * reach, abs=1e-6)


def test_two_rows_that_meet_are_never_sound() -> None:
    """Over pitches from far too near to wide: what is left is the pitch without both reaches."""
    for pitch in np.arange(1.0, 3.0, 0.1).round(2).tolist():
        found = plan(job(rows={"pitch_m": pitch}))
        reach = found.rows.travel.reach_m(found.rows.section)  # type: ignore[union-attr]
        check = find(found.checks, "rows", "swept_apart")
        assert (check.level == "sound") == (pitch - 2 * reach >= -1e-9)
        assert check.measured == pytest.approx(pitch - 2 * reach, abs=0.02)


@pytest.mark.parametrize("along", [1, 3])
def test_rows_of_two_lengths_meet_as_deep_as_they_do(along: int) -> None:
    """One table of the front row is short: the band that both share is as deep beside it."""
    short = {"id": "a", "place": "1.1", "modules_along": 3}
    rows = {"tables_along": along, "pitch_m": 1.6, "tables": (short,)}
    found = plan(job(rows=rows))
    travel = found.rows.travel
    assert travel is not None
    deep = 2 * travel.reach_m(found.rows.section) - 1.6
    assert deep > 0.1
    check = find(found.checks, "rows", "swept_apart")
    assert check.measured == pytest.approx(-deep, abs=1e-6)
    assert check.level == "stop"


# The year -----------------------------------------------------------------------------------------


def test_a_years_light_is_that_of_pvlibs_axis_and_a_fifth_more_than_fixed() -> None:
    """pvlib's turns and its Perez sky, hour by hour; 10 to 28 % more than fixed: common practice."""
    found = plan(job(rows={"rows": 2, "pitch_m": 40.0}, site={"slope": 0.0}))
    year = found.energy.arrays[0]
    assert year.light.open_h == pytest.approx(light_kwh(found), rel=0.01)
    fixed = plan(job(family="one post line", rows={"rows": 1, "tilt_deg": 34.0, "lower_edge_m": 0.9}))
    gain = year.light.open_h / fixed.energy.arrays[0].light.open_h
    assert 1.10 <= gain <= 1.28


def light_kwh(found: Plan, cover: float | None = None) -> float:
    """What falls on a square metre of glass in a year as pvlib turns it, back from shade or not."""
    sky, year = found.energy.sky, found.energy.arrays[0]
    zenith, azimuth = 90.0 - np.asarray(sky.altitude_deg), np.asarray(sky.azimuth_deg)
    turned = pvlib.tracking.singleaxis(
        zenith,
        azimuth,
        axis_tilt=0,
        axis_azimuth=180,
        max_angle=60,
        backtrack=cover is not None,
        gcr=cover or 0.1,
    )
    up = zenith < 90
    tilt = np.where(up, np.nan_to_num(np.asarray(turned["surface_tilt"])), 0.0)
    looks = np.where(up, np.nan_to_num(np.asarray(turned["surface_azimuth"])), 90.0)
    light = pvlib.irradiance.get_total_irradiance(
        tilt,
        looks,
        zenith,
        azimuth,
        np.asarray(sky.beam_w_m2),
        np.asarray(sky.level_w_m2),
        np.asarray(sky.diffuse_w_m2),
        dni_extra=pvlib.irradiance.get_extra_radiation(np.asarray(sky.day) + 1),
        airmass=pvlib.atmosphere.get_relative_airmass(zenith),
        albedo=year.upkeep.albedo,
        model="perez",
    )
    return float(np.nansum(light["poa_global"])) * sky.step_h / 1000


def test_what_rows_give_for_turning_back_is_what_pvlib_says() -> None:
    """Light beside one row alone, by how much of the ground glass covers."""
    found = plan(job(rows={"rows": 4}, site={"slope": 0.0}))
    rows, year = found.rows, found.energy.arrays[0]
    curve, chord = tube_curve(found.energy.sky, rows, year), rows.section.chord_m
    free = light_kwh(found)
    for cover in (0.25, 0.33, 0.4, 0.55):
        lost = curve.lost_at(chord / cover)
        assert lost == pytest.approx(1 - light_kwh(found, cover) / free, abs=0.006), cover
    assert (np.diff(curve.per_watt_h) > 0).all()
    # As it stands, the array's own year.
    here = curve.hours_at(rows.pitch_m)
    assert here == pytest.approx(float(year.light.by_kind_h.mean()), rel=5e-3)
    fewer = tube_schools(curve, chord, 0.03)
    assert curve.lost_at(fewer[0].pitch_m or 0.0) == pytest.approx(0.03, abs=1e-6)
    assert fewer[1].pitch_m == pytest.approx(chord / 0.4)
