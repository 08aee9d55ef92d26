"""Energy against single-diode cells, trackers, brute searches and rules of others.

pvlib is a general library of the field; numbers of the trade are common practice, no published source.
"""

import math
from dataclasses import replace
from functools import lru_cache

import numpy as np
import pvlib
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.energy.ahead import of_pattern
from openfurrow.core.energy.cells import Cells, Electronics, kept_in_patches, kept_power
from openfurrow.core.energy.estimate import Climate, estimated_sky
from openfurrow.core.energy.ground_light import RowsOver
from openfurrow.core.energy.horizon import (
    BEARINGS,
    STEP_DEG,
    FarHorizon,
    bearings_deg,
    behind,
    horizons_deg,
    sky_seen,
)
from openfurrow.core.energy.meter import Converter, metered
from openfurrow.core.energy.pitches import Span, across, pitch_curve
from openfurrow.core.energy.plane import normal_of, on_plane
from openfurrow.core.energy.sky import Sky
from openfurrow.core.energy.sun_map import sky_sums, spots, takes_of_things
from openfurrow.core.energy.tilts import Stand
from openfurrow.core.energy.use import filling, load_w, used
from openfurrow.core.energy.year import Around, Field, Panel, Upkeep, light_year, nothing_around
from openfurrow.core.plan import plan
from openfurrow.core.rows.shade import Standing
from openfurrow.demo.designs import DESIGNS
from tests.reference.test_light import YEARS, section_of, sky_of

HALVED = Cells(True, 2, 1.762, 1.134, 0.02, 3, True)
WHOLE = Cells(True, 2, 1.66, 0.996, 0.02, 3, False)
ELECTRONICS: tuple[Electronics, ...] = ("by the string", "by the module")


def panel_of(cells: Cells, electronics: Electronics = "by the string", back: float = 0.0) -> Panel:
    return Panel(cells=cells, coefficient_per_c=-0.0034, back=back, electronics=electronics)


UPKEEP = Upkeep(albedo=0.2, dirt=0.02, other=0.05, snow_days=0)


@lru_cache
def estimate(latitude: float, longitude: float = 10.0, clear: float = 0.75) -> Sky:
    return estimated_sky(latitude, longitude, 200.0, Climate((clear,) * 12, True, -8.0, 36.0))


def stand(sky: Sky, latitude: float, *, rows: int = 1, pitch: float = 9.0, tilt: float = 30.0) -> Stand:
    return Stand(
        section=section_of(tilt),
        rows=rows,
        pitch_m=pitch,
        row_length_m=60.0,
        facing_deg=180.0 if latitude >= 0 else 0.0,
        around=nothing_around(sky),
        panel=panel_of(HALVED),
        upkeep=UPKEEP,
    )


# --- cells ------------------------------------------------------------------------------------


def volts_of_cells(light: np.ndarray, amps: np.ndarray) -> np.ndarray:
    """Volts of silicon cells in series at currents, one diode each, that break down at -14 V.

    A cell of 9.5 A; pvlib.singlediode.bishop88 along the voltage of the diode.
    """
    total = np.zeros(len(amps))
    diode_v = np.concatenate((np.linspace(-13.9, 0.2, 900), np.linspace(0.2, 0.8, 600)[1:]))
    for share, count in zip(*np.unique(light.round(4), return_counts=True), strict=True):
        current, volts, _ = pvlib.singlediode.bishop88(
            diode_v,
            photocurrent=9.5 * share,
            saturation_current=2e-10,
            resistance_series=0.004,
            resistance_shunt=30.0,
            nNsVth=0.0259 * 1.05,
            breakdown_factor=2e-3,
            breakdown_voltage=-14.0,
            breakdown_exp=3.0,
        )
        total += count * np.interp(amps, current[::-1], volts[::-1])
    return total


def curve_of_module(cells: Cells, shade_m: float, low_m: float, diffuse: float) -> list[np.ndarray]:
    """Volts over a grid of amps of each diode's group, from cells laid out one by one."""
    amps = np.linspace(0.01, 9.6, 240)
    short, long = (cells.across_m, cells.up_m) if cells.upright else (cells.up_m, cells.across_m)
    wide = short / (2 * cells.groups)
    count = round(long / wide) * (2 if cells.halved else 1)
    tall = long / count
    found = []
    for group in range(cells.groups):
        halves = []
        for half in range(2 if cells.halved else 1):
            light = []
            for column in (2 * group, 2 * group + 1):
                for row in range(count // (2 if cells.halved else 1)):
                    at = row + half * count // 2
                    low, size = (at * tall, tall) if cells.upright else (column * wide, wide)
                    shaded = min(1.0, max(0.0, (shade_m - low_m - low) / size))
                    light.append(1 - shaded * (1 - diffuse))
            halves.append(np.array(light))
        if not cells.halved:
            found.append(np.maximum(volts_of_cells(halves[0], amps), -0.5))
            continue
        # Halves side by side: at each voltage their currents add; cut cells carry half of it each.
        volts = [volts_of_cells(light, amps) for light in halves]
        grid = np.linspace(-6.0, max(one.max() for one in volts), 600)
        sums = sum(np.interp(grid, one[::-1], amps[::-1], left=9.6, right=0.0) for one in volts) / 2
        found.append(np.maximum(np.interp(amps, sums[::-1], grid[::-1]), -0.5))
    return [np.column_stack((amps, one)) for one in found]


def power_kept(cells: Cells, shade_m: float, share: float, diffuse: float, way: Electronics) -> float:
    """Best power of a string of ten columns of modules, shaded along some, over that without."""
    shaded_columns = round(10 * share)
    amps = np.linspace(0.01, 9.6, 240)
    clear = sum(one[:, 1] for one in curve_of_module(cells, -1.0, 0.0, diffuse))
    tiers = []
    for tier in range(cells.high):
        groups = curve_of_module(cells, shade_m, tier * (cells.up_m + cells.gap_m), diffuse)
        tiers.append(sum(one[:, 1] for one in groups))
    whole = 10 * cells.high * (clear * amps).max()
    if way == "by the module":
        by_module = sum((one * amps).max() for one in tiers)
        bright = cells.high * (clear * amps).max()
        return float((shaded_columns * by_module + (10 - shaded_columns) * bright) / whole)
    volts = shaded_columns * sum(tiers) + (10 - shaded_columns) * cells.high * clear
    return float((volts * amps).max() / whole)


@settings(max_examples=25, deadline=None)
@given(
    st.sampled_from([WHOLE, HALVED]),
    st.booleans(),
    st.floats(0.0, 3.4),
    st.sampled_from([0.3, 0.6, 1.0]),
    st.floats(0.12, 0.9),
    st.sampled_from(ELECTRONICS),
)
def test_shaded_strings_keep_what_single_diode_cells_keep(
    cells: Cells, turned: bool, shade_m: float, along: float, diffuse: float, way: Electronics
) -> None:
    if turned:
        cells = across(cells, cells.gap_m, 2 * cells.up_m + cells.gap_m)
    ours = kept_power(cells, np.array([shade_m]), np.array([along]), np.array([diffuse]), way)[0]
    theirs = power_kept(cells, shade_m, along, diffuse, way)
    assert ours == pytest.approx(theirs, abs=0.07)


@settings(max_examples=200, deadline=None)
@given(st.floats(0, 3.0), st.floats(0, 1), st.floats(0.02, 1), st.sampled_from(ELECTRONICS))
def test_lying_modules_of_whole_cells_lose_no_more_than_upright_ones(
    shade_m: float, along: float, diffuse: float, way: Electronics
) -> None:
    """One module of three groups along its long side under the same share of shade."""
    upright = Cells(True, 1, 1.66, 0.996, 0.02, 3, False)
    lying = Cells(False, 1, 0.996, 1.66, 0.02, 3, False)
    share = min(1.0, shade_m / 3.0)
    kept = [
        kept_power(one, np.array([share * one.up_m]), np.array([along]), np.array([diffuse]), way)[0]
        for one in (upright, lying)
    ]
    assert kept[1] >= kept[0] - 1e-9
    # Nothing is lost without shade, nothing won by it, and diffuse light is left.
    for one in kept:
        assert diffuse * along + (1 - along) - 1e-9 <= one + 1e-9 or way == "by the string"
        assert diffuse - 1e-9 <= one <= 1 + 1e-9
    assert kept_in_patches(np.array([along]), np.array([diffuse]), way)[0] <= 1.0


# --- the whole chain --------------------------------------------------------------------------


@pytest.mark.parametrize("name", YEARS)
@pytest.mark.parametrize(("tilt", "pitch"), [(20.0, 6.0), (35.0, 7.5), (50.0, 12.0)])
def test_a_year_of_a_row_is_that_of_the_same_chain_in_pvlib(
    name: str, tilt: float, pitch: float
) -> None:
    """Perez, shaded_fraction1d, masking_angle, martin_ruiz, faiman; no ground, by the module."""
    sky, year, sun = sky_of(name)
    section, facing = section_of(tilt), 165.0
    field = Field(
        over=(RowsOver(section, 0.9, pitch),),
        facing_deg=facing,
        along_deg=facing - 90.0,
        normals=normal_of([tilt], [facing]),
        turned_deg=np.zeros(1),
        modules=np.ones(1),
        ahead=of_pattern(section, pitch),
        around=nothing_around(sky),
    )
    # One cell as high as the chord: the band takes as much as it covers.
    one = Cells(True, 1, section.chord_m, 2 * section.chord_m, 0.02, 1, False)
    upkeep = Upkeep(albedo=0.0, dirt=0.03, other=0.07, snow_days=0)
    ours = light_year(sky, field, panel_of(one, "by the module"), upkeep).by_kind_h[0]
    parts = pvlib.irradiance.perez(
        tilt,
        facing,
        year["dhi"],
        year["dni"],
        pvlib.irradiance.get_extra_radiation(year.index.dayofyear, method="spencer"),
        sun["apparent_zenith"],
        sun["azimuth"],
        pvlib.atmosphere.get_relative_airmass(sun["apparent_zenith"]),
        return_components=True,
    )
    aoi = pvlib.irradiance.aoi(tilt, facing, sun["apparent_zenith"], sun["azimuth"])
    shaded = pvlib.shading.shaded_fraction1d(
        sun["apparent_zenith"],
        sun["azimuth"],
        axis_azimuth=facing - 90.0,
        shaded_row_rotation=tilt,
        collector_width=section.chord_m,
        pitch=pitch,
    )
    before = np.cos(np.radians(sun["azimuth"] - facing)) > 1e-6
    shaded = np.where(before, shaded, 0.0)
    up = (np.arange(400) + 0.5) / 400
    mask = pvlib.shading.masking_angle(tilt, section.chord_m / pitch, up)
    kept_sky = (1 + np.cos(np.radians(tilt + mask))).mean() / (1 + math.cos(math.radians(tilt)))
    kept_band = np.clip(1 - mask / 6.5, 0, 1).mean()
    beam = year["dni"] * np.maximum(np.cos(np.radians(aoi)), 0) + parts["poa_circumsolar"].fillna(0)
    even = parts["poa_isotropic"].fillna(0) * kept_sky + parts["poa_horizon"].fillna(0) * kept_band
    even = np.maximum(even, 0)
    open_even = parts["poa_isotropic"].fillna(0) + parts["poa_horizon"].fillna(0)
    iam = pvlib.iam.martin_ruiz(aoi, a_r=0.16)
    iam_sky = pvlib.iam.martin_ruiz_diffuse(tilt, a_r=0.16)
    slant = (beam * iam + open_even * next(iter(iam_sky.values()))) / (beam + open_even)
    light = (beam * (1 - shaded) + even) * slant.fillna(1.0)
    warm = pvlib.temperature.faiman(light, year["temp_air"], year["wind_speed"])
    power = light * 0.97 * (1 - 0.0034 * (warm - 25)) * 0.93 / 1000
    assert ours == pytest.approx(float(power.sum()), rel=2e-3)


@settings(max_examples=15, deadline=None)
@given(
    st.floats(8, 55),
    st.floats(-0.1, 0.1),
    st.booleans(),
    st.booleans(),
    st.sampled_from(ELECTRONICS),
)
def test_energy_never_rises_as_rows_come_closer(
    tilt: float, slope: float, halved: bool, turned: bool, way: Electronics
) -> None:
    sky = estimate(47.0)
    cells = HALVED if halved else WHOLE
    if turned:
        cells = across(cells, cells.gap_m, section_of(tilt).chord_m)
    one = Stand(
        section=section_of(tilt, slope=slope),
        rows=4,
        pitch_m=8.0,
        row_length_m=50.0,
        facing_deg=180.0,
        around=nothing_around(sky),
        panel=panel_of(cells, way),
        upkeep=UPKEEP,
    )
    curve = pitch_curve(sky, one, Span(0.6, 8.0), cells)
    steps = np.diff(curve.per_watt_h)
    assert (steps >= -1e-4 * curve.free_h).all()
    assert curve.per_watt_h[-1] <= curve.free_h * (1 + 1e-6)


@settings(max_examples=20, deadline=None)
@given(st.lists(st.floats(-3, 3), min_size=5, max_size=200), st.floats(0.1, 8))
def test_a_battery_is_followed_as_by_hand(moves: list[float], most: float) -> None:
    found = filling(np.array(moves), most)
    full = float(found[0])
    for move, ours in zip(moves, found[1:], strict=True):
        full = min(most, max(0.0, full + move))
        assert ours == pytest.approx(full, abs=1e-9)
    # The year ends as it begins, as far as one more year can tell.
    assert found[0] == pytest.approx(found[-1], abs=1e-9)


def test_what_is_used_comes_from_somewhere_and_what_is_brought_goes_somewhere() -> None:
    sky = estimate(51.0)
    brought = np.zeros(sky.steps)
    brought[sky.at] = on_plane(sky, normal_of(35.0, 180.0), 0.2).whole * 5
    for battery in (0.0, 6000.0, 40000.0):
        for by_day in (False, True):
            wanted = load_w(6e6, by_day, 1.0)
            assert wanted.sum() == pytest.approx(6e6)
            found = used(brought, wanted, battery, 1.0)
            assert found.straight_wh + found.stored_wh + found.bought_wh == pytest.approx(6e6)
            into = brought.sum() - found.straight_wh - found.over_wh
            assert found.stored_wh == pytest.approx(0.9 * into, rel=1e-6, abs=1.0)
            assert found.straight_wh == pytest.approx(np.minimum(brought, wanted).sum())


def test_an_inverter_gives_what_pvwatts_says() -> None:
    """pvlib.inverter.pvwatts; wires in front lose by the square of the current."""
    power = np.linspace(0, 14_000, 57)
    found = metered(power, 12_000.0, 0.0, Converter(ac_w=9_600.0, conversion=0.96, ac_drop=0.0), 1.0)
    theirs = pvlib.inverter.pvwatts(power, 10_000.0, eta_inv_nom=0.96)
    assert found.power_w == pytest.approx(theirs, abs=0.5)
    lossy = metered(
        np.array([6_000.0]), 12_000.0, 0.02, Converter(ac_w=9e9, conversion=0.96, ac_drop=0.0), 1.0
    )
    # Half of the current through the same copper: a quarter of the watts, half of the share.
    assert lossy.sums_wh[1] == pytest.approx(6_000.0 * 0.99)


# --- what stands around -----------------------------------------------------------------------

AT = st.tuples(st.floats(-60, 60), st.floats(-60, 60))


@settings(max_examples=30, deadline=None)
@given(
    st.lists(st.tuples(AT, st.floats(1.5, 8), st.floats(2, 9)), max_size=3),
    st.lists(st.tuples(AT, AT, st.floats(1, 12)), max_size=3),
    st.lists(st.tuples(st.floats(0, 359), st.floats(0, 20)), max_size=4, unique_by=lambda one: one[0]),
)
def test_horizons_are_the_highest_points_that_are_seen(
    trees: list[tuple[tuple[float, float], float, float]],
    walls: list[tuple[tuple[float, float], tuple[float, float], float]],
    hills: list[tuple[float, float]],
) -> None:
    """Thousands of points on crowns and along walls, each looked at from the place."""
    place = np.array([0.0, 0.0, 1.5])
    trees = [one for one in trees if math.hypot(*one[0]) > one[1] + 0.5]
    # One that passes through the place itself is seen straight up: points along it are too few there.
    walls = [one for one in walls if shapely.LineString(one[:2]).distance(shapely.Point(0, 0)) > 0.5]
    standing = standing_of_parts(trees, walls)
    far = FarHorizon(*map(tuple, zip(*sorted(hills), strict=True))) if hills else FarHorizon((), ())
    ours = horizons_deg(standing, far, place[None])[0]
    theirs = np.zeros(BEARINGS)
    if hills:
        bearings = np.array(sorted(hills))
        turn_m = np.array([360.0, 0.0])
        wrapped = np.vstack((bearings - turn_m, bearings, bearings + turn_m))
        theirs = np.interp(bearings_deg(), wrapped[:, 0], wrapped[:, 1])
    spread = np.zeros(BEARINGS)
    turn, rise = np.meshgrid(np.linspace(0, 2 * np.pi, 361), np.linspace(-np.pi / 2, np.pi / 2, 181))
    for (east, north), wide, tall in trees:
        points = np.stack(
            (
                east + wide * np.cos(rise) * np.sin(turn),
                north + wide * np.cos(rise) * np.cos(turn),
                tall + 1.0 + tall * np.sin(rise),
            ),
            axis=-1,
        ).reshape(-1, 3)
        look_at(points - place, theirs, spread)
    for start, end, top in walls:
        share = np.linspace(0, 1, 6_001)[:, None]
        foot = np.array(start) + share * (np.array(end) - np.array(start))
        look_at(np.column_stack((foot, np.full(len(foot), top))) - place, theirs, spread)
    # A sector is judged by its middle; what is seen in it may lie at either side of that.
    assert (ours <= theirs + 0.3).all()
    near = np.minimum.reduce([np.roll(theirs, one) for one in (-1, 0, 1)])
    assert (ours >= near - spread - 0.3).all()


def look_at(gone: np.ndarray, highest: np.ndarray, spread: np.ndarray) -> None:
    away = np.hypot(gone[:, 0], gone[:, 1])
    bearing = np.degrees(np.arctan2(gone[:, 0], gone[:, 1])) % 360
    height = np.degrees(np.arctan2(gone[:, 2], away))
    sector = (bearing // STEP_DEG).astype(int) % BEARINGS
    low = np.full(BEARINGS, np.inf)
    high = np.full(BEARINGS, -np.inf)
    np.minimum.at(low, sector, height)
    np.maximum.at(high, sector, height)
    np.maximum(highest, np.where(np.isfinite(high), high, 0), out=highest)
    seen = np.isfinite(high)
    flat = np.where(seen, high, 0.0)
    steps = [np.where(np.roll(seen, one), np.abs(flat - np.roll(flat, one)), 90.0) for one in (-1, 1)]
    np.maximum(spread, np.where(seen, np.maximum(*steps), 0.0), out=spread)


def standing_of_parts(
    trees: list[tuple[tuple[float, float], float, float]],
    walls: list[tuple[tuple[float, float], tuple[float, float], float]],
) -> Standing:
    names = tuple(f"thing {n}" for n in range(len(trees) + len(walls)))
    return Standing(
        names,
        np.array([one[:2] for one in walls], dtype=float).reshape(-1, 2, 2),
        np.array([one[2] for one in walls], dtype=float),
        np.arange(len(walls)) + len(trees),
        np.array([(*at, tall + 1.0) for at, _, tall in trees], dtype=float).reshape(-1, 3),
        np.array([(wide, tall) for _, wide, tall in trees], dtype=float).reshape(-1, 2),
        np.arange(len(trees)),
        (),
    )


@settings(max_examples=20, deadline=None)
@given(st.floats(0, 70), st.floats(0, 359), st.floats(0, 40), st.floats(0, 40))
def test_sky_seen_over_a_horizon_is_what_evenly_strewn_rays_see(
    tilt: float, facing: float, south: float, north: float
) -> None:
    """Twenty thousand directions of the sky, by their share of the light on the plane."""
    horizon = np.where(np.cos(np.radians(bearings_deg())) < 0, south, north)
    normal = normal_of(tilt, facing)
    ours, _ = sky_seen(horizon[None], normal[None])
    draw = np.random.default_rng(3)
    sine, turn = draw.random(20_000), draw.random(20_000) * 2 * np.pi
    level = np.sqrt(1 - sine**2)
    to = np.column_stack((level * np.sin(turn), level * np.cos(turn), sine))
    weight = np.maximum(to @ normal, 0)
    over = np.degrees(np.arcsin(sine)) > np.where(np.cos(turn) < 0, south, north)
    assert ours[0] == pytest.approx((weight * over).sum() / weight.sum(), abs=0.02)


def test_a_map_keeps_what_hour_by_hour_is_kept() -> None:
    """The year's sky summed once against the sun behind a horizon at each hour."""
    sky = estimate(49.0)
    normal = normal_of(32.0, 180.0)
    horizon = np.where(np.abs(bearings_deg() - 200) < 40, 24.0, 5.0)[None]
    sums = sky_sums(sky, normal, 0.2)
    light = on_plane(sky, normal, 0.2)
    seen, _ = sky_seen(horizon, normal[None])
    beam = (light.beam * ~behind(horizon, sky)[0]).sum()
    by_hour = (beam + ((light.sky + light.horizon) * seen[0] + light.ground).sum()) / 1000
    assert sums.left(horizon)[0] == pytest.approx(by_hour, rel=0.01)
    assert sums.whole == pytest.approx(light.whole[sky.altitude_deg > 0].sum() / 1000, rel=1e-3)
    hours = sums.open_hours(np.zeros((1, BEARINGS)))[0]
    # Half of the year's hours are day, nearly, wherever one stands.
    assert (hours * [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31]).sum() == pytest.approx(
        4380, rel=0.03
    )


def test_a_map_of_any_land_has_some_spots_and_not_too_many() -> None:
    """A sliver, a strip of a few kilometres aslant, a field."""
    sliver = shapely.box(0, 0, 0.2, 0.1)
    strip = shapely.LineString([(0, 0), (4000, 4000)]).buffer(2.0)
    for land in (sliver, strip, shapely.box(0, 0, 300, 200)):
        places, _ = spots(land)
        assert 1 <= len(places) <= 10_000
        assert shapely.contains_xy(land.buffer(1e-9), places[:, 0], places[:, 1]).all()


def test_what_a_tree_takes_is_the_difference_without_it() -> None:
    sky = estimate(45.0)
    sums = sky_sums(sky, normal_of(34.0, 180.0), 0.2)
    places, none = np.array([[0.0, 0.0, 1.5], [6.0, 0.0, 1.5]]), FarHorizon((), ())
    trees = [((-3.0, -14.0), 4.0, 6.0), ((12.0, -20.0), 3.0, 5.0)]
    both = standing_of_parts(trees, [])
    taken = takes_of_things(sums, both, none, places)
    for index in (0, 1):
        rest = standing_of_parts([trees[1 - index]], [])
        gained = sums.left(horizons_deg(rest, none, places)) - sums.left(
            horizons_deg(both, none, places)
        )
        assert taken[index] == pytest.approx(gained.mean() / sums.whole)
        assert taken[index] > 0.005


def test_who_stands_under_a_crown_sees_no_sky_and_beside_it_some() -> None:
    tree = standing_of_parts([((0.0, 0.0), 4.0, 5.0)], [])
    none = FarHorizon((), ())
    under, beside = horizons_deg(tree, none, np.array([[1.0, 0.5, 1.5], [9.0, 0.0, 1.5]]))
    assert under == pytest.approx(90.0)
    # Seen from nine metres it is twice the angle whose sine is 4/9 wide.
    assert np.count_nonzero(beside) * STEP_DEG == pytest.approx(
        2 * math.degrees(math.asin(4 / 9)), abs=2 * STEP_DEG
    )


def test_the_same_modules_the_other_way_come_nearest_to_the_same_chord() -> None:
    """Two of 1.762 m are 3.544 m; three of 1.134 m with their gaps 3.442, four 4.596."""
    lying = across(HALVED, 0.02, 3.544)
    assert (lying.upright, lying.high, lying.up_m, lying.across_m) == (False, 3, 1.134, 1.762)
    assert across(lying, 0.02, 3.442).high == 2


def test_what_stands_around_takes_its_part_of_the_waterfall() -> None:
    """Beam by the hours it is hidden, sky by the share that is seen, the ground's not at all."""
    sky = estimate(48.0)
    hidden = np.zeros((2, len(sky.at)))
    hidden[0, sky.altitude_deg < 20] = 1.0
    around = Around(hidden, np.array([0.9, 0.8]), np.array([0.5, 0.3]))
    one = replace(stand(sky, 48.0), around=around)
    found = light_year(sky, one.field, one.panel, one.upkeep)
    light = on_plane(sky, normal_of(30.0, 180.0), 0.2)
    beam = light.beam * (1 - hidden.mean(axis=0))
    kept = beam + light.sky * 0.85 + light.horizon * 0.4 + light.ground
    assert found.left[0] == pytest.approx(kept.sum() / light.whole.sum())
    assert found.open_h == pytest.approx(light.whole.sum() / 1000)
    assert found.open_month_h.sum() == pytest.approx(found.open_h)
    assert list(found.left[:4]) == sorted(found.left[:4], reverse=True)


def test_strings_of_two_arrays_meet_at_the_meter_through_their_inverters() -> None:
    """Each inverter's strings by the arrays' own hours, wires by the square, pvlib.inverter.pvwatts."""
    design = DESIGNS["larkspur-two"]()
    found = plan(design)
    energy, wiring = found.energy, found.wiring
    total = np.zeros(len(energy.sky.at))
    for number, inverter in enumerate(design.wiring.inverters):
        power, rated, lost = np.zeros(len(total)), 0.0, 0.0
        for one, array, circuit, landed in zip(
            design.arrays, energy.arrays, wiring.circuits, wiring.landed[:, number], strict=True
        ):
            lengths = circuit.strings.lengths
            watts = one.modules.power_w * lengths.sum() * landed / len(lengths)
            power = power + array.light.power * watts
            rated += watts
            lost += circuit.choice.drop * watts
        if rated:
            arrived = power * (1 - lost / rated * power / rated)
            given_w = pvlib.inverter.pvwatts(
                arrived, inverter.inverter_ac_w / inverter.conversion, inverter.conversion
            )
            # Its own wire and the feeder in the building, by the square too.
            leg, feeder = wiring.service.legs[number], wiring.service.feeder
            ac_lost = leg.wire.drop + feeder.wire.drop
            total += given_w * (1 - ac_lost * given_w / inverter.inverter_ac_w)
    assert energy.year_wh == pytest.approx(total.sum(), rel=1e-6)
    assert energy.by_month_wh.sum() == pytest.approx(energy.year_wh)
    assert energy.watts == sum(
        a.modules.power_w * one.rows.module_count
        for a, one in zip(design.arrays, found.arrays, strict=True)
    )
