"""Light on planes, between rows and through the air, against pvlib, rays and measured years.

pvlib is a general library of the field; the core calls it for the sun's place, the clear sky and the
split of dimmed light alone, none of which is what is compared here.
"""

import math
from functools import lru_cache
from pathlib import Path

import numpy as np
import pandas as pd
import pvlib
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.energy.ahead import Ahead, band, of_pattern, sky_left
from openfurrow.core.energy.estimate import Climate, estimated_sky
from openfurrow.core.energy.glass import let_in, let_in_even
from openfurrow.core.energy.ground_light import (
    OverGround,
    RowsOver,
    Strip,
    back_sky_share,
    ground_light,
    ground_seen,
)
from openfurrow.core.energy.heat import cell_c
from openfurrow.core.energy.plane import normal_of, on_plane
from openfurrow.core.energy.sky import Sky
from openfurrow.core.rows.geometry import TableSection

# Typical years that pvlib ships: Greensboro, North Carolina, and Sand Point, Alaska.
YEARS = ("723170TYA.CSV", "703165TY.csv")


@lru_cache
def measured(name: str) -> tuple[pd.DataFrame, pvlib.location.Location]:
    """A measured year at the middles of its hours, and its place."""
    file = Path(pvlib.__file__).parent / "data" / name
    year, about = pvlib.iotools.read_tmy3(file, map_variables=True, coerce_year=2025)
    year.index = year.index - pd.Timedelta("30min")
    place = pvlib.location.Location(about["latitude"], about["longitude"], altitude=about["altitude"])
    return year, place


@lru_cache
def sky_of(name: str) -> tuple[Sky, pd.DataFrame, pd.DataFrame]:
    """The same year as a sky, with the sun where pvlib has it; the hours of light beside."""
    year, place = measured(name)
    sun = place.get_solarposition(year.index)
    # Higher than this pvlib's air mass is a number.
    light = (sun["apparent_elevation"] > 0).to_numpy()
    year, sun = year[light], sun[light]
    sky = Sky(
        source=name,
        estimate=False,
        band=0.0,
        step_h=1.0,
        steps=8760,
        at=np.flatnonzero(light),
        altitude_deg=sun["apparent_elevation"].to_numpy(),
        azimuth_deg=sun["azimuth"].to_numpy(),
        level_w_m2=year["ghi"].to_numpy(float),
        beam_w_m2=year["dni"].to_numpy(float),
        diffuse_w_m2=year["dhi"].to_numpy(float),
        air_c=year["temp_air"].to_numpy(float),
        wind_m_s=year["wind_speed"].to_numpy(float),
    )
    return sky, year, sun


@pytest.mark.parametrize("name", YEARS)
@pytest.mark.parametrize(("tilt", "facing"), [(0, 180), (22, 180), (34, 155), (60, 250), (90, 0)])
def test_light_on_a_plane_is_that_of_perez(name: str, tilt: float, facing: float) -> None:
    """pvlib.irradiance.get_total_irradiance, model perez, hour by hour."""
    sky, year, sun = sky_of(name)
    theirs = pvlib.irradiance.get_total_irradiance(
        tilt,
        facing,
        sun["apparent_zenith"],
        sun["azimuth"],
        year["dni"],
        year["ghi"],
        year["dhi"],
        dni_extra=pvlib.irradiance.get_extra_radiation(year.index.dayofyear, method="spencer"),
        airmass=pvlib.atmosphere.get_relative_airmass(sun["apparent_zenith"]),
        albedo=0.23,
        model="perez",
    )["poa_global"].to_numpy()
    ours = on_plane(sky, normal_of(tilt, facing), 0.23).whole
    # Where there is no diffuse light the ratio of both is not defined; pvlib has nothing then.
    known = np.isfinite(theirs)
    assert known.mean() > 0.9
    assert np.abs(ours[known] - theirs[known]).max() < 1.0
    assert ours[known].sum() == pytest.approx(theirs[known].sum(), rel=1e-3)


def test_glass_lets_in_what_martin_and_ruiz_say() -> None:
    """pvlib.iam.martin_ruiz and martin_ruiz_diffuse."""
    angle = np.linspace(0, 89, 90)
    theirs = pvlib.iam.martin_ruiz(angle, a_r=0.16)
    assert let_in(np.cos(np.radians(angle))) == pytest.approx(theirs, abs=1e-9)
    tilt = np.array([1e-3, 5.0, 20.0, 34.0, 60.0, 90.0])
    ours = let_in_even(tilt)
    for mine, other in zip(ours, pvlib.iam.martin_ruiz_diffuse(tilt, a_r=0.16).values(), strict=True):
        assert mine == pytest.approx(other, abs=2e-4)


def test_cells_are_as_warm_as_faiman_says() -> None:
    """pvlib.temperature.faiman."""
    light, air, wind = (
        np.array([0, 300, 800, 1100.0]),
        np.array([-10, 5, 20, 40.0]),
        np.array([0, 1, 3, 9.0]),
    )
    assert cell_c(air, light, wind) == pytest.approx(pvlib.temperature.faiman(light, air, wind))


TILTS = st.floats(5, 60)
PITCHES = st.floats(1.15, 4.0)
SLOPES = st.floats(-0.12, 0.12)


def section_of(tilt: float, chord: float = 3.5, slope: float = 0.0) -> TableSection:
    return TableSection(chord_m=chord, tilt_deg=tilt, lower_edge_m=0.9, stack_m=0.1, rise_back=slope)


@settings(max_examples=30, deadline=None)
@given(TILTS, PITCHES, SLOPES, st.floats(-40, 40))
def test_bands_of_endless_rows_are_pvlibs(
    tilt: float, pitch_chords: float, slope: float, turn: float
) -> None:
    """pvlib.shading.shaded_fraction1d, rows on a slope square to them."""
    sky, _, _ = sky_of(YEARS[0])
    section, facing = section_of(tilt, slope=slope), 180.0 + turn
    pitch = pitch_chords * section.chord_m
    found = band(of_pattern(section, pitch), section, sky, facing, (facing - 90) % 360)
    theirs = pvlib.shading.shaded_fraction1d(
        90 - sky.altitude_deg,
        sky.azimuth_deg,
        axis_azimuth=(facing - 90) % 360,
        shaded_row_rotation=tilt,
        collector_width=section.chord_m,
        pitch=pitch,
        axis_tilt=0,
        shading_row_rotation=tilt,
        cross_axis_slope=math.degrees(math.atan(slope)),
    )
    before = np.cos(np.radians(sky.azimuth_deg - facing)) > 0.02
    high = sky.altitude_deg > 1.0
    lit = on_plane(sky, normal_of(tilt, facing), 0.2).cosine > 0.01
    both = before & high & lit
    ours = found.height_m[0, both] / section.chord_m
    assert ours == pytest.approx(np.asarray(theirs)[both], abs=2e-3)


@settings(max_examples=40, deadline=None)
@given(
    TILTS,
    st.floats(2.0, 9.0),
    st.floats(-0.8, 0.8),
    st.floats(-8, 8),
    st.floats(6, 60),
    st.floats(-70, 70),
    st.floats(-0.08, 0.08),
)
def test_a_band_is_where_rays_meet_the_table_ahead(
    tilt: float,
    gap: float,
    step: float,
    moved: float,
    altitude: float,
    off: float,
    rise: float,
) -> None:
    """Two flat tables in space and a straight ray from each of many places on the rear one."""
    section, length, other = section_of(tilt), 14.0, 9.0
    sky = one_sun(altitude, 180.0 + off)
    over = section.rise_m + step
    ahead = Ahead(
        np.array([[gap]]),
        np.array([[over]]),
        np.array([[moved - other / 2]]),
        np.array([[moved + other / 2]]),
        np.array([length]),
        np.array([rise]),
    )
    # Along is east; the tables face south.
    found = band(ahead, section, sky, 180.0, 90.0)
    along, up = np.meshgrid(np.linspace(-length / 2, length / 2, 281), np.linspace(0, 1, 201))
    level = up * section.level_depth_m
    height = up * section.rise_m + rise * along
    sun = sky.toward[0]
    if sun[1] > -1e-3 or sun[2] / -sun[1] + rise * sun[0] / sun[1] < 0.02:
        return
    # From (along, level back, height) to the upright plane of the other's upper edge, `gap` ahead.
    time = (gap + level) / -sun[1]
    at, z = along + time * sun[0], height + time * sun[2]
    edge = over + rise * at
    # Below the edge: the table ahead, down to its lower edge, which lies `depth` nearer to the sun.
    met = (np.abs(at - moved) <= other / 2) & (z < edge)
    assert found.height_m[0, 0] * found.along[0, 0] / section.chord_m == pytest.approx(
        met.mean(), abs=0.02 + 0.5 * slanted(section, sun, length)
    )


def slanted(section: TableSection, sun: np.ndarray, length: float) -> float:
    """How far a shadow's ends slant up the glass, over the table's length: they are taken square."""
    return abs(section.level_depth_m * sun[0] / sun[1]) / length


def one_sun(altitude: float, azimuth: float, beam: float = 800.0, diffuse: float = 100.0) -> Sky:
    level = beam * math.sin(math.radians(altitude)) + diffuse
    one = np.ones(1)
    return Sky(
        source="",
        estimate=False,
        band=0.0,
        step_h=1.0,
        steps=8760,
        at=np.array([4000]),
        altitude_deg=one * altitude,
        azimuth_deg=one * azimuth,
        level_w_m2=one * level,
        beam_w_m2=one * beam,
        diffuse_w_m2=one * diffuse,
        air_c=one * 10,
        wind_m_s=one,
    )


@settings(max_examples=25, deadline=None)
@given(TILTS, PITCHES)
def test_sky_left_by_the_rows_ahead_is_pvlibs(tilt: float, pitch_chords: float) -> None:
    """The masking angle up the glass, pvlib.shading.masking_angle, averaged as a view of the sky."""
    section = section_of(tilt)
    sky, horizon = sky_left(of_pattern(section, pitch_chords * section.chord_m), section)
    up = (np.arange(200) + 0.5) / 200
    mask = pvlib.shading.masking_angle(tilt, 1 / pitch_chords, up)
    theirs = (1 + np.cos(np.radians(tilt + mask))).mean() / (1 + math.cos(math.radians(tilt)))
    assert sky[0] == pytest.approx(theirs, abs=1e-3)
    assert 0 <= horizon[0] <= 1


@settings(max_examples=25, deadline=None)
@given(st.floats(8, 45), st.floats(1.8, 4.0))
def test_what_the_back_sees_is_what_infinite_sheds_says(tilt: float, pitch_chords: float) -> None:
    """pvlib.bifacial.infinite_sheds: shares of ground and sky in what the back of endless rows sees."""
    section = section_of(tilt, chord=2.2)
    rows = RowsOver(section, 1.2, pitch_chords * section.chord_m)
    theirs = pvlib.bifacial.infinite_sheds.get_irradiance_poa(
        surface_tilt=180 - tilt,
        surface_azimuth=0,
        solar_zenith=90.0,
        solar_azimuth=90.0,
        gcr=1 / pitch_chords,
        height=1.2 + section.rise_m / 2,
        pitch=rows.pitch_m,
        ghi=1.0,
        dhi=1.0,
        dni=0.0,
        albedo=0.0,
    )
    assert back_sky_share(rows) == pytest.approx(
        float(np.squeeze(theirs["poa_sky_diffuse"])), abs=0.003
    )
    _, back = ground_seen(rows)
    share = pvlib.bifacial.utils.vf_row_ground_2d_integ(180 - tilt, 1 / pitch_chords)
    assert back.share == pytest.approx(float(share), abs=0.02)


def sent_out(
    rows: RowsOver, *, back: bool, sun: np.ndarray, count: int = 6000, looks: int = 61
) -> tuple[float, float]:
    """Shares of a face's view that are sunlit ground, and ground times the sky it sees, by rays.

    Rays leave evenly over the chord and evenly in the sine of their angle off square, in the section
    square to the rows; what of them meets the ground looks to the sun and all over the sky.
    """
    section, pitch = rows.section, rows.pitch_m or 1e9
    tilt = math.radians(section.tilt_deg)
    draw = np.random.default_rng(7)
    up = draw.random(count) * section.chord_m
    x, z = up * math.cos(tilt), rows.low_m + up * math.sin(tilt)
    across = np.array([-math.sin(tilt), math.cos(tilt)]) * (-1 if back else 1)
    along = np.array([math.cos(tilt), math.sin(tilt)])
    sine = draw.random(count) * 2 - 1
    way = np.sqrt(1 - sine**2)[:, None] * across + sine[:, None] * along
    free = ~meets(rows, x, z, way[:, 0], way[:, 1], own=False)
    down = free & (way[:, 1] < 0)
    far = np.where(down, -z / np.where(way[:, 1] == 0, 1, way[:, 1]), 0)
    ground = x + far * way[:, 0]
    near = down & (np.abs(ground) < min(6 * pitch, 200))
    lit = near & ~meets(rows, ground, 0 * ground, sun[0] + 0 * ground, sun[1] + 0 * ground, own=True)
    angle = (np.arange(looks) + 0.5) / looks * math.pi
    seen = np.zeros(count)
    for one in angle:
        open_to = ~meets(
            rows, ground, 0 * ground, math.cos(one) + 0 * x, math.sin(one) + 0 * x, own=True
        )
        seen += open_to * math.sin(one) * math.pi / looks / 2
    brighter = np.ones(count)
    if rows.strip is not None:
        # Under which rows a ray may have ended, one after the other.
        behind = ground - section.post_x_m
        brighter = np.where(
            sum(
                (behind - number * (rows.pitch_m or 0.0) >= -rows.strip.front_m)
                & (behind - number * (rows.pitch_m or 0.0) <= rows.strip.back_m)
                for number in ([0] if rows.pitch_m is None else range(-60, 61))
            )
            > 0,
            rows.strip.times,
            1.0,
        )
    return float((lit * brighter).mean()), float((down * seen * brighter).mean())


def meets(
    rows: RowsOver, x: np.ndarray, z: np.ndarray, way_x: np.ndarray, way_z: np.ndarray, *, own: bool
) -> np.ndarray:
    """Whether rays meet a row: each row a stretch of a line."""
    section, met = rows.section, np.zeros(len(x), dtype=bool)
    numbers = [0] if rows.pitch_m is None else range(-60, 61)
    for number in numbers:
        if number == 0 and not own:
            continue
        from_x = number * (rows.pitch_m or 0.0)
        cross = way_x * section.rise_m - way_z * section.level_depth_m
        safe = np.where(np.abs(cross) < 1e-12, np.inf, cross)
        gone_x, gone_z = from_x - x, rows.low_m - z
        time = (gone_x * section.rise_m - gone_z * section.level_depth_m) / safe
        share = (gone_x * way_z - gone_z * way_x) / safe
        met |= (time > 1e-9) & (share >= 0) & (share <= 1)
    return met


@pytest.mark.parametrize("back", [False, True])
@pytest.mark.parametrize("pitch", [None, 3.6, 5.0, 8.0])
@pytest.mark.parametrize("tilt", [10.0, 30.0, 60.0])
def test_of_the_ground_a_face_sees_what_no_neighbour_hides(
    tilt: float, pitch: float | None, back: bool
) -> None:
    """The share of rays, even in the sine off square, that meet the ground before any other row."""
    section = section_of(tilt, chord=2.2)
    rows = RowsOver(section, 0.8, pitch)
    lean, draw = math.radians(tilt), np.random.default_rng(11)
    up = draw.random(40_000) * section.chord_m
    x, z = up * math.cos(lean), rows.low_m + up * math.sin(lean)
    sine = draw.random(up.size) * 2 - 1
    square = np.sqrt(1 - sine**2) * (-1 if back else 1)
    way_x = -math.sin(lean) * square + math.cos(lean) * sine
    way_z = math.cos(lean) * square + math.sin(lean) * sine
    free = ~meets(rows, x, z, way_x, way_z, own=False) & (way_z < 0)
    assert ground_seen(rows)[int(back)].share == pytest.approx(free.mean(), abs=0.012)


@settings(max_examples=12, deadline=None)
@given(
    st.floats(8, 50),
    st.one_of(st.none(), st.floats(1.6, 4.0)),
    st.floats(0.5, 1.6),
    st.floats(8, 80),
    st.floats(-50, 50),
    st.booleans(),
    st.none() | st.builds(Strip, st.floats(0.3, 2.5), st.floats(0.3, 2.5), st.floats(0.3, 3)),
)
def test_light_from_the_ground_is_what_rays_find(
    tilt: float,
    pitch_chords: float | None,
    low: float,
    altitude: float,
    off: float,
    back: bool,
    strip: Strip | None,
) -> None:
    """Thousands of rays from either face to the ground, and from there to the sun and the sky.

    Where a strip of light stone lies under each row, rays that end on it bring so much more.
    """
    section = section_of(tilt, chord=2.2)
    pitch = None if pitch_chords is None else pitch_chords * section.chord_m
    rows = RowsOver(section, low, pitch, strip)
    sky = one_sun(altitude, 180.0 + off)
    face = ground_seen(rows)[int(back)]
    ours = float(ground_light([rows], [face], OverGround.of(sky, 180.0), 0.3)[0, 0])
    square, up = math.cos(math.radians(altitude)) * math.cos(math.radians(off)), sky.toward[0, 2]
    # The sun stands before the rows, where x is below nought.
    lit, seen = sent_out(rows, back=back, sun=np.array([-square, up]))
    beam = float(sky.level_w_m2[0] - sky.diffuse_w_m2[0])
    theirs = 0.3 * (beam * lit + float(sky.diffuse_w_m2[0]) * seen)
    assert ours == pytest.approx(theirs, rel=0.05, abs=0.012 * 0.3 * (beam + 100))


@pytest.mark.parametrize("name", YEARS)
@pytest.mark.parametrize("tilt", [0, 20, 35, 50, 70])
def test_an_estimate_by_months_is_near_the_measured_year(name: str, tilt: float) -> None:
    """A clear year dimmed by the months of a measured one, on a plane, beside that year itself."""
    year, place = measured(name)
    clear = place.get_clearsky(year.index)["ghi"]
    months = year.index.month
    clearness = (year["ghi"].groupby(months).sum() / clear.groupby(months).sum()).tolist()
    climate = Climate(tuple(clearness), True, -12.0, 37.0)
    ours = estimated_sky(place.latitude, place.longitude, place.altitude, climate)
    on_ours = on_plane(ours, normal_of(tilt, 180.0), 0.2).whole.sum()
    sky, _, _ = sky_of(name)
    on_theirs = on_plane(sky, normal_of(tilt, 180.0), 0.2).whole.sum()
    assert ours.level_w_m2.sum() == pytest.approx(sky.level_w_m2.sum(), rel=0.01)
    assert on_ours == pytest.approx(on_theirs, rel=0.015)
    assert ours.diffuse_w_m2.sum() == pytest.approx(sky.diffuse_w_m2.sum(), rel=0.06)
