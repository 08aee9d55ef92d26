"""What people type beyond plain numbers: angles, winds, ratios, times, turning forces, thousands."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.edits import DesignError, apply
from openfurrow.core.fields import fields, fields_of, value_at, write
from openfurrow.core.quantities import QuantityError
from openfurrow.core.reading import parse
from tests.designs import changed, said_job

POUND_FOOT = 0.45359237 * 9.80665 * 0.3048


@given(
    st.integers(0, 89),
    st.integers(0, 59),
    st.integers(0, 59),
    st.sampled_from("NS"),
    st.sampled_from(
        ["{d}°{m}'{s}\"{w}", "{d}° {m}' {s}\" {w}", "{w} {d}°{m}'{s}\"", "{d}º{m}′{s}″{w}"]
    ),
)
def test_degrees_minutes_and_seconds(d: int, m: int, s: int, side: str, written: str) -> None:
    text = written.format(d=d, m=m, s=s, w=side)
    degrees = (d + m / 60 + s / 3600) * (-1 if side == "S" else 1)
    assert parse(text, "coordinate_angle", "us") == pytest.approx(degrees)


@given(st.floats(0, 90), st.sampled_from("NS"), st.sampled_from("EW"))
def test_a_surveyor_s_quadrant_points_where_its_two_parts_do(turn: float, start: str, end: str) -> None:
    """By its parts on the ground: so far along the meridian, so far across it."""
    text = f"{start} {turn:.3f}° {end}"
    bearing = math.radians(parse(text, "bearing", "us"))
    north = math.cos(math.radians(round(turn, 3))) * (1 if start == "N" else -1)
    east = math.sin(math.radians(round(turn, 3))) * (1 if end == "E" else -1)
    assert (math.sin(bearing), math.cos(bearing)) == pytest.approx((east, north), abs=1e-9)


@pytest.mark.parametrize(
    ("text", "kind", "value"),
    [
        ("SE", "bearing", 135),
        ("nnw", "bearing", 337.5),
        ("south-west", "bearing", 225),
        ("N", "bearing", 0),
        ("116.1 W", "coordinate_angle", -116.1),
        ("44.9", "coordinate_angle", 44.9),
        ("12°30'", "angle", 12.5),
        ("8/12", "angle", math.degrees(math.atan2(8, 12))),
        ("4:12", "angle", math.degrees(math.atan2(4, 12))),
        ("34", "angle", 34),
        ("1:8", "ratio", 0.125),
        ("1/8", "ratio", 0.125),
        ("1 in 20", "ratio", 0.05),
        ("12.5 %", "ratio", 0.125),
        ("1:30 pm", "clock", 13.5),
        ("12:15 am", "clock", 0.25),
        ("9 AM", "clock", 9),
        ("1:30", "clock", 1.5),
        ("11 ft-lb", "torque", 11 * POUND_FOOT),
        ("132 in-lb", "torque", 11 * POUND_FOOT),
        ("132 in lbs", "torque", 11 * POUND_FOOT),
        ("15 N m", "torque", 15),
        ("15 Nm", "torque", 15),
        ("15 lb/ft2", "pressure", 15 * 47.88025898),
        ("2.4 kN/m²", "pressure", 2400),
        ("110 pcf", "unit_weight", 110 * 157.0874638),
        ("29½", "tape", 29.5 * 0.0254),
        ("5'6¾\"", "tape", 66.75 * 0.0254),
        ("⅝", "tape", 0.015875),
        ("1 250", "elevation", 1250 * 0.3048),
        ("1 250 mm", "tape", 1.25),
        ("1,250.5 ft", "run", 381.1524),
        ("1.250,5 m", "run", 1250.5),
    ],
)
def test_what_the_trade_writes_is_read(text: str, kind: str, value: float) -> None:
    assert parse(text, kind, "us") == pytest.approx(value, rel=1e-7)


@pytest.mark.parametrize(
    ("text", "kind"),
    [
        ("8/12", "bearing"),
        ("-44 S", "coordinate_angle"),
        ("12°75'", "angle"),
        ("12°30", "angle"),
        ("10:75", "clock"),
        ("13 pm", "clock"),
        ("1,250", "run"),
        ("1:0", "ratio"),
        ("SX", "bearing"),
        ("N 95 E", "bearing"),
        ("15 lb/ft3", "pressure"),
        ("11 ft-kg", "torque"),
        ("5 250 ft 3 m", "run"),
        ("1 25", "run"),
    ],
)
def test_what_is_neither_is_asked_about(text: str, kind: str) -> None:
    with pytest.raises(QuantityError):
        parse(text, kind, "metric")


def test_a_latitude_does_not_end_in_west(plain: Design) -> None:
    with pytest.raises(DesignError, match="ends in N or S"):
        apply(plain, [("site.latitude_deg", "44.9 W")], "us")
    moved = apply(plain, [("site.latitude_deg", "44°54'S"), ("site.longitude_deg", "116.1 W")], "us")
    assert (moved.site.latitude_deg, moved.site.longitude_deg) == pytest.approx((-44.9, -116.1))


# As fine as a place is kept.
NANOMETRES = st.floats(-400, 400).map(lambda metres: round(metres, 9))


@pytest.mark.parametrize("units", ["us", "metric"])
@given(st.lists(st.tuples(NANOMETRES, NANOMETRES), min_size=1, max_size=6), st.data())
def test_a_line_more_rounds_no_other_line(
    units: str, points: list[tuple[float, float]], data: st.DataObject
) -> None:
    """Written, one line added or taken out, and read again: the others are as they were."""
    design = changed(said_job(name="way"), "site", route=tuple(points))
    lines = write(fields()["site.route"], design.site.route, units).splitlines()
    at = data.draw(st.integers(0, len(lines)))
    added = apply(design, [("site.route", "\n".join([*lines[:at], "1 m, 2 m", *lines[at:]]))], units)
    assert added.site.route == (*points[:at], (1.0, 2.0), *points[at:])
    without = apply(added, [("site.route", "\n".join(lines))], units)
    assert without.site.route == tuple(points)


def test_typing_what_stands_there_changes_nothing(demo: Design) -> None:
    for units in ("us", "metric"):
        for path, field in fields_of(demo).items():
            held = value_at(demo, path)
            if field.item is None and field.measured and held is not None:
                again = apply(demo, [(path, write(field, held, units))], units)
                # But that somebody has looked at it.
                assert again.model_copy(update={"looked": demo.looked}) == demo, path


def test_the_rod_is_read_in_feet_beside_readings_in_feet(demo: Design) -> None:
    typed = apply(
        demo, [("site.surveys.0.backsight_m", "4.25"), ("site.surveys.0.readings", "10, 20, 5.5")], "us"
    ).site.surveys[0]
    assert typed.backsight_m == pytest.approx(4.25 * 0.3048)
    assert typed.readings[0][2] == pytest.approx(5.5 * 0.3048)
