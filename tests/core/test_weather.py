"""Files of weather: read as they are written, refused with a reason, named in every number."""

from pathlib import Path

import numpy as np
import pvlib
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.edits import DesignError, apply
from openfurrow.core.energy.measured import far_m, measured_sky
from openfurrow.core.plan import plan
from openfurrow.core.sun.spot import Spot
from openfurrow.core.sun.weather import HOURS, Hours, WeatherGivens, packed, unpacked
from openfurrow.exchange.design_json import read_design, write_design
from openfurrow.exchange.weather_in import read_weather, with_weather
from tests.designs import plain_larkspur
from tests.weather import STATION, epw, hours_of_station, tmy3


@pytest.fixture(scope="module")
def brought() -> Design:
    return with_weather(plain_larkspur(), epw().encode(), "kettle-bank.epw")[0]


@pytest.mark.parametrize("text", [epw(), tmy3(), "\ufeff" + epw()], ids=["epw", "tmy3", "marked"])
def test_a_year_is_read_as_it_was_written(text: str) -> None:
    found = read_weather(text.encode(), "")
    assert found.name == STATION[0]
    assert (found.latitude_deg, found.longitude_deg, found.elevation_m, found.zone_h) == STATION[1:]
    assert found.steps == HOURS
    for column, told in zip(unpacked(found.packed, HOURS), hours_of_station().T, strict=True):
        assert np.abs(column - told).max() <= 0.51


def test_a_leap_year_and_half_hours_are_years_too() -> None:
    hours = hours_of_station()
    lines = epw().splitlines()
    leap = [line.replace("2025,2,28,", "2025,2,29,", 1) for line in lines[8 + 58 * 24 : 8 + 59 * 24]]
    long = "\n".join([*lines[: 8 + 59 * 24], *leap, *lines[8 + 59 * 24 :]])
    assert np.abs(unpacked(read_weather(long.encode(), "").packed, HOURS)[1] - hours[:, 1]).max() < 0.6
    twice = "\n".join([*lines[:8], *(line for line in lines[8:] for _ in (0, 1))])
    found = read_weather(twice.encode(), "")
    assert found.steps == 2 * HOURS
    sky = measured_sky(found)
    assert sky.step_h == 0.5
    assert sky.by_month(sky.level_w_m2).sum() == pytest.approx(hours[:, 0].sum(), rel=0.01)


@pytest.mark.parametrize("name", ["723170TYA.CSV", "703165TY.csv"])
def test_published_years_are_read_as_pvlib_reads_them(name: str) -> None:
    """Typical years that pvlib ships; the sun stands where pvlib has it in the middle of the hour."""
    file = Path(pvlib.__file__).parent / "data" / name
    found = read_weather(file.read_bytes(), name)
    year, about = pvlib.iotools.read_tmy3(file, map_variables=True, coerce_year=2025)
    assert found.elevation_m == about["altitude"]
    hours = unpacked(found.packed, found.steps)
    assert hours.level_w_m2.sum() == pytest.approx(year["ghi"].sum())
    assert hours.air_c == pytest.approx(year["temp_air"].to_numpy(), abs=0.06)
    sky = measured_sky(found)
    middles = year.index - np.timedelta64(30, "m")
    sun = pvlib.solarposition.get_solarposition(
        middles, about["latitude"], about["longitude"], about["altitude"], temperature=12
    )
    theirs = sun["apparent_elevation"].to_numpy()[sky.at]
    high = theirs > 2
    assert sky.altitude_deg[high] == pytest.approx(theirs[high], abs=0.05)
    assert sky.azimuth_deg[high] == pytest.approx(sun["azimuth"].to_numpy()[sky.at][high], abs=0.05)


def without(text: str, line: int) -> str:
    lines = text.splitlines()
    return "\n".join([*lines[:line], *lines[line + 1 :]])


def with_cell(column: int, value: str) -> str:
    lines = epw().splitlines()
    cells = lines[500].split(",")
    cells[column] = value
    return "\n".join([*lines[:500], ",".join(cells), *lines[501:]])


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "no weather file"),
        ("east,north,level\n1,2,3\n", "no weather file"),
        ("LOCATION,x", "cannot be read as EPW"),
        ("a\nGHI (W/m^2)\n1\n", "cannot be read as TMY3"),
        (without(epw(), 700), "8,759 steps"),
        (with_cell(13, "9999"), "lacks light on level ground in 1 steps"),
        (with_cell(6, "99.9"), "lacks air temperature in 1 steps, the first being number 493"),
        (with_cell(1, "7"), "January to December"),
        (epw().replace("44.7", "144.7", 1), "says it was measured at 144.7"),
        (tmy3().replace("DHI (W/m^2)", "DHI", 1), "has no column for dhi"),
    ],
)
def test_what_is_no_year_is_refused_with_the_reason(text: str, said: str) -> None:
    with pytest.raises(DesignError) as caught:
        read_weather(text.encode(), "a file")
    (problem,) = caught.value.problems
    assert said in problem.message
    assert problem.allowed
    assert problem.remedy


@settings(max_examples=30, deadline=None)
@given(st.integers(0, 10_000))
def test_hours_unpack_as_they_were_packed(seed: int) -> None:
    draw = np.random.default_rng(seed)
    hours = Hours(
        draw.integers(0, 1800, HOURS).astype(float),
        draw.integers(0, 1500, HOURS).astype(float),
        draw.integers(0, 1200, HOURS).astype(float),
        draw.integers(-800, 650, HOURS) / 10,
        draw.integers(0, 800, HOURS) / 10,
    )
    for before, after in zip(hours, unpacked(packed(hours), HOURS), strict=True):
        assert after == pytest.approx(before)


@pytest.mark.parametrize("wrong", ["!", "AAAA", packed(Hours(*np.zeros((5, 24))))])
def test_hours_that_are_none_are_refused(wrong: str) -> None:
    with pytest.raises(ValueError, match="year of weather"):
        WeatherGivens(id="w", packed=wrong)


def test_the_file_is_named_in_every_number_that_used_it(brought: Design) -> None:
    used = [
        a for a in plan(brought).energy.answers if a.kind in ("energy", "full_hours", "small_energy")
    ]
    assert len(used) >= 4
    for answer in used:
        assert "kettle-bank.epw" in answer.working.note
        assert "estimate" not in answer.working.note
    levels = {c.key: c.level for c in plan(brought).energy.checks}
    assert levels["weather"] == levels["station"] == "sound"


def test_without_the_file_the_year_is_an_estimate_again(brought: Design) -> None:
    (one,) = brought.sun.weather
    bare = apply(brought, [(f"sun.weather.{one.id}", "")], "us")
    assert bare.sun.weather == ()
    assert "estimate" in plan(bare).energy.answers[0].working.note
    assert plan(bare).energy.year_wh == plan(plain_larkspur()).energy.year_wh
    assert "station" not in {c.key for c in plan(bare).energy.checks}


def test_a_file_of_another_place_is_looked_at(brought: Design) -> None:
    (one,) = brought.sun.weather
    for change in ({"latitude_deg": 41.0}, {"elevation_m": 40.0}):
        sun = brought.sun.model_copy(update={"weather": (one.model_copy(update=change),)})
        found = plan(brought.model_copy(update={"sun": sun})).energy.checks
        assert {c.key: c.level for c in found}["station"] == "look"


def test_distances_over_the_globe_are_those_of_a_tape_round_it() -> None:
    """A quarter of the equator is 10,007 km; half of the globe twice that."""
    here = Spot(0.0, 10.0, 0.0, "UTC")
    for east, north, km in ((100.0, 0.0, 10_007.5), (10.0, 45.0, 5_003.8), (-170.0, 0.0, 20_015.1)):
        there = WeatherGivens(latitude_deg=north, longitude_deg=east)
        assert far_m(here, there) == pytest.approx(1000 * km, rel=1e-3)


def test_a_design_file_carries_the_year(brought: Design) -> None:
    assert read_design(write_design(brought).encode()) == brought
