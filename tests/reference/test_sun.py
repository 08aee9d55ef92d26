"""Sun and compass against things outside the project."""

import math
from datetime import UTC, date, datetime, timedelta, timezone
from zoneinfo import ZoneInfo

import ephem
import numpy as np
import ppigrf
import pytest

from openfurrow.core.design import Design
from openfurrow.core.plan import plan
from openfurrow.core.sun.givens import SunGivens
from openfurrow.core.sun.magnetic import declination
from openfurrow.core.sun.plan import plan_sun
from openfurrow.core.sun.position import altitude_azimuth_deg, local_noon, sun_at
from openfurrow.core.sun.shadow import from_string_deg
from openfurrow.core.sun.spot import spot_of
from tests.designs import changed, said_site

# Six places on both halves of the globe, one near the tropics, one above 60°.
PLACES = [
    (44.90, -116.10, "America/Boise"),
    (40.33, -7.60, "Europe/Lisbon"),
    (-40.60, -72.50, "America/Santiago"),
    (53.10, 6.20, "Europe/Amsterdam"),
    (24.5, 77.0, "Asia/Kolkata"),
    (64.1, -21.9, "Atlantic/Reykjavik"),
]
DAYS = [date(2026, 1, 20), date(2026, 4, 18), date(2026, 7, 9), date(2026, 10, 30)]


def observer(latitude_deg: float, longitude_deg: float) -> ephem.Observer:
    place = ephem.Observer()
    place.lat, place.lon = str(latitude_deg), str(longitude_deg)
    place.pressure = 0
    return place


def test_the_published_example_of_the_solar_position_algorithm() -> None:
    """Reda & Andreas, NREL/TP-560-34302 (rev. 2008), worked example."""
    when = datetime(2003, 10, 17, 12, 30, 30, tzinfo=timezone(timedelta(hours=-7)))
    altitude, azimuth = sun_at(
        39.742476, -105.1786, 1830.14, when, pressure_mbar=820, air_c=11, delta_t_s=67
    )
    assert 90 - altitude == pytest.approx(50.11162, abs=1e-4)
    assert azimuth == pytest.approx(194.34024, abs=1e-4)


@pytest.mark.parametrize(("latitude", "longitude", "zone"), PLACES)
def test_the_sun_stands_where_ephem_puts_it(latitude: float, longitude: float, zone: str) -> None:
    """ephem (VSOP87 by libastro) shares no code with pvlib."""
    for day in DAYS:
        for hour in (9, 12, 15):
            when = datetime(day.year, day.month, day.day, hour, tzinfo=ZoneInfo(zone))
            place = observer(latitude, longitude)
            place.date = ephem.Date(when.astimezone(UTC).replace(tzinfo=None))
            sun = ephem.Sun(place)
            altitude, azimuth = sun_at(latitude, longitude, 0.0, when, pressure_mbar=0.0)
            if altitude < 3:
                continue
            assert altitude == pytest.approx(math.degrees(sun.alt), abs=0.02)
            assert azimuth == pytest.approx(math.degrees(sun.az), abs=0.03)


@pytest.mark.parametrize(("latitude", "longitude", "zone"), PLACES)
def test_solar_noon_is_when_ephem_sees_the_transit(
    latitude: float, longitude: float, zone: str
) -> None:
    for day in DAYS:
        noon = local_noon(latitude, longitude, zone, day)
        place = observer(latitude, longitude)
        place.date = ephem.Date(noon.astimezone(UTC).replace(tzinfo=None) - timedelta(hours=6))
        transit = place.next_transit(ephem.Sun()).datetime().replace(tzinfo=UTC)
        assert abs((noon - transit).total_seconds()) < 10
        assert noon.date() == day
        # A plumb pole's shadow then lies true north and south.
        _, azimuth = sun_at(latitude, longitude, 0.0, noon)
        assert min(azimuth % 180, 180 - azimuth % 180) < 0.1


def test_summer_time_moves_noon_by_an_hour() -> None:
    winter = local_noon(44.9, -116.1, "America/Boise", date(2026, 2, 1))
    summer = local_noon(44.9, -116.1, "America/Boise", date(2026, 6, 1))
    assert winter.utcoffset() == timedelta(hours=-7)
    assert summer.utcoffset() == timedelta(hours=-6)
    assert 12.5 < winter.hour + winter.minute / 60 < 13.2 < summer.hour + summer.minute / 60


@pytest.mark.parametrize(
    ("hour", "altitude", "from_south"),
    [(8, 5.5, 53.0), (9, 14.0, 41.9), (10, 20.7, 29.4), (11, 25.0, 15.2), (12, 26.6, 0.0)],
)
def test_the_winter_table_for_40_north(hour: float, altitude: float, from_south: float) -> None:
    """From memory of the ASHRAE-style table for 40° N on 21 December, solar time."""
    found, azimuth = altitude_azimuth_deg(40.0, -23.45, [hour])
    assert float(found[0]) == pytest.approx(altitude, abs=0.06)
    assert 180 - float(azimuth[0]) == pytest.approx(from_south, abs=0.06)


def test_the_solar_time_figure_agrees_with_ephem_on_the_solstice() -> None:
    place = observer(44.9, -116.1)
    place.date = ephem.Date("2026/12/21 12:00")
    noon = place.next_transit(ephem.Sun()).datetime().replace(tzinfo=UTC)
    altitude, azimuth = altitude_azimuth_deg(44.9, -23.44, np.array([10.0, 14.0]))
    for index, shift in ((0, -2), (1, 2)):
        place.date = ephem.Date((noon + timedelta(hours=shift)).replace(tzinfo=None))
        sun = ephem.Sun(place)
        assert float(altitude[index]) == pytest.approx(math.degrees(sun.alt), abs=0.05)
        assert float(azimuth[index]) == pytest.approx(math.degrees(sun.az), abs=0.05)


@pytest.mark.parametrize(("latitude", "longitude", "zone"), PLACES)
def test_shadows_of_a_whole_day_fall_where_ephem_has_them(
    latitude: float, longitude: float, zone: str
) -> None:
    """Six places on both halves of the globe, one near the tropic, one above 60°."""
    for day in DAYS:
        site = said_site(
            latitude_deg=latitude, longitude_deg=longitude, elevation_m=0.0, time_zone=zone
        )
        slip = plan_sun(spot_of(site), SunGivens(walk_date=day), 0.0).slip
        assert slip.clock_h.size > (0 if abs(latitude) > 60 else 30)
        place = observer(latitude, longitude)
        # The air bends light by a sixth of a degree at 5°: ephem is given air too.
        place.pressure = 1013.25
        for k in range(0, slip.clock_h.size, 5):
            hour = float(slip.clock_h[k])
            when = datetime(
                day.year, day.month, day.day, int(hour), round(hour % 1 * 60), tzinfo=ZoneInfo(zone)
            )
            place.date = ephem.Date(when.astimezone(UTC).replace(tzinfo=None))
            sun = ephem.Sun(place)
            assert float(slip.altitude_deg[k]) == pytest.approx(math.degrees(sun.alt), abs=0.06)
            away = (float(slip.shadow_deg[k]) - math.degrees(sun.az)) % 360
            # High up a hair of height is many hairs of bearing.
            assert away == pytest.approx(180.0, abs=0.06 / math.cos(sun.alt))
            assert float(slip.length[k]) == pytest.approx(1 / math.tan(sun.alt), rel=0.02)


def test_the_string_lies_square_to_what_the_array_faces() -> None:
    """Facing south the string runs east-west: a shadow toward 80° lies 10° anticlockwise of it."""
    assert from_string_deg(np.array([80.0, 90.0, 260.0, 271.0, 0.0]), 180.0) == pytest.approx(
        [-10, 0, -10, 1, -90]
    )
    assert from_string_deg(np.array([45.0]), 135.0) == pytest.approx([0.0])


@pytest.mark.parametrize(
    ("latitude", "longitude", "degrees_east"), [(80, 0, 1.28), (0, 120, -0.16), (-80, 240, 68.78)]
)
def test_declination_at_the_models_own_test_points(
    latitude: float, longitude: float, degrees_east: float
) -> None:
    """From memory of the test values issued with WMM2025, 2025.0, at sea level."""
    found = declination(latitude, longitude, 0.0, date(2025, 1, 1)).degrees
    assert found == pytest.approx(degrees_east, abs=0.006)


@pytest.mark.parametrize(("latitude", "longitude", "zone"), PLACES)
def test_declination_agrees_with_the_other_world_model(
    latitude: float, longitude: float, zone: str
) -> None:
    """IGRF-14 through ppigrf: other coefficients, other code."""
    east, north, _ = ppigrf.igrf(longitude, latitude, 0.5, datetime(2026, 4, 18))
    other = math.degrees(math.atan2(float(east.squeeze()), float(north.squeeze())))
    ours = declination(latitude, longitude, 500.0, date(2026, 4, 18)).degrees
    assert ours == pytest.approx(other, abs=0.25)


def test_declination_near_37_north_113_west() -> None:
    """Common practice, no published source: about +10.6° in late 2025."""
    trade = declination(37.0, -113.0, 900.0, date(2025, 11, 15)).degrees
    assert trade == pytest.approx(10.6, abs=0.15)


@pytest.mark.parametrize("hour", [8.0, 9.5, 11.0, 13.5, 15.0, 16.0])
@pytest.mark.parametrize("turn", [-20.0, 0.0, 15.0])
def test_the_string_turned_as_the_words_say_lies_on_the_shadow(
    plain: Design, hour: float, turn: float
) -> None:
    """Clockwise adds to a bearing, anticlockwise takes off; a string has two ends."""
    found = plan(changed(changed(plain, "sun", shadow_at_h=hour), "rows", turn_deg=turn))
    words = str(found.answer("sun", "shadow_string").value)
    by, side = words.split("° ")
    string = 180.0 + turn - 90.0
    turned = string + float(by) * {"clockwise": 1, "anticlockwise": -1}[side]
    shadow = float(found.answer("sun", "shadow").value)
    off = (turned - shadow + 90.0) % 180.0 - 90.0
    assert abs(off) < 0.06
