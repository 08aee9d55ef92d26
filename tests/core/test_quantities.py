"""What people type on a tape, read and written."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from openfurrow.core.fields import fields
from openfurrow.core.quantities import INCH_M, KINDS, QuantityError, format_value, round_up, tape_step_m
from openfurrow.core.reading import parse


@pytest.mark.parametrize(
    ("text", "metres"),
    [
        ("5'6\"", 1.6764),
        ("5' 6", 1.6764),
        ("66 in", 1.6764),
        ("66", 1.6764),
        ("1.68 m", 1.68),
        ("5 ft 6 1/2 in", 1.6891),
        ("5'6 1/2\"", 1.6891),
        ("1680 mm", 1.68),
        ("168cm", 1.68),
        ("3/4 in", 0.01905),
        ("-1'3\"", -0.381),
        ("5′6″", 1.6764),
        ("1,68 m", 1.68),
        ("1\u202f764 mm", 1.764),
    ],
)
def test_tape_lengths_are_read_however_they_are_written(text: str, metres: float) -> None:
    assert parse(text, "tape", "us") == pytest.approx(metres)


def test_a_bare_number_takes_the_unit_that_is_shown() -> None:
    assert parse("1680", "tape", "metric") == pytest.approx(1.68)
    assert parse("90", "speed", "us") == pytest.approx(40.2336)
    assert parse("2", "ratio", "us") == pytest.approx(0.02)
    assert parse("-24", "temperature", "us") == pytest.approx(-31.11, abs=0.01)
    assert parse("-31 C", "temperature", "us") == pytest.approx(-31)


@pytest.mark.parametrize(
    "text", ["", "abc", "5'6'", "6 in 5 ft", "1,234", "1/0 in", "5 kg", "nan", "inf", "5 6", "--3"]
)
def test_what_could_mean_two_things_or_none_is_refused(text: str) -> None:
    with pytest.raises(QuantityError):
        parse(text, "tape", "us")


@given(st.floats(0.0, 90.0))
def test_sixteenths_come_back_within_half_a_sixteenth(metres: float) -> None:
    written = format_value(metres, "tape", "us")
    assert abs(parse(written, "tape", "us") - metres) <= INCH_M / 32 + 1e-9


@given(st.floats(0.1, 500.0), st.sampled_from(["us", "metric"]))
def test_every_kind_a_field_has_reads_what_it_writes(value: float, system: str) -> None:
    for kind in {field.kind for field in fields().values() if field.measured}:
        shown = getattr(KINDS[kind], system)
        # A value of the size the kind is usually written in.
        si = value * shown.si_per_unit
        if shown.style == "clock":
            si %= 24  # a clock begins again
        again = parse(format_value(si, kind, system), kind, system)
        if shown.style == "clock":
            assert abs((again - si + 12) % 24 - 12) <= 1 / 120 + 1e-9
            continue
        step = {"sixteenths": INCH_M / 16, "inches": INCH_M}.get(
            shown.style, shown.si_per_unit * 10.0**-shown.decimals
        )
        assert abs(again - si) <= step * 0.51 + 1e-12, kind


def test_fractions_are_reduced_and_zero_is_written() -> None:
    assert format_value(0.0254 * 66.5, "tape", "us") == "5' 6 1/2\""
    assert format_value(0.0254 / 8, "tape", "us") == '1/8"'
    assert format_value(0.0, "tape", "us") == '0"'
    assert format_value(-0.00001, "tape", "metric") == "0 mm"
    assert format_value(math.inf, "run", "us") == "none"


@given(st.floats(0.001, 50.0), st.sampled_from(["us", "metric"]))
def test_rounding_up_never_falls_short_nor_goes_a_step_too_far(value: float, system: str) -> None:
    step = tape_step_m(system)
    up = round_up(value, step)
    assert value - step * 1e-6 <= up < value + step


FEET = st.integers(0, 60)
INCHES = st.integers(0, 11)
PARTS = st.sampled_from(["", " 1/2", "-1/2", " 3/8", "-15/16"])


@given(
    FEET,
    INCHES,
    PARTS,
    st.sampled_from(
        ["{f}'-{i}{p}\"", "{f}-{i}{p}", "{f}' - {i}{p}\"", "{f} ft-{i}{p} in", "{f}'{i}{p}\""]
    ),
    st.sampled_from(["tape", "run", "coordinate"]),
)
def test_a_hyphen_between_feet_and_inches_is_never_a_minus(
    feet: int, inches: int, part: str, written: str, kind: str
) -> None:
    text = written.format(f=feet, i=inches, p=part)
    top, bottom = (int(n) for n in part.strip(" -").split("/")) if part else (0, 1)
    metres = (feet * 12 + inches + top / bottom) * 0.0254
    assert parse(text, kind, "us") == pytest.approx(metres, abs=1e-9)


@pytest.mark.parametrize(
    ("text", "kind", "metres"),
    [
        ("-6", "run", -6 * 0.3048),
        ("-10'6\"", "run", -10.5 * 0.3048),
        ("−2.5 m", "tape", -2.5),
        ("-10'-6\"", "coordinate", -10.5 * 0.3048),
        ("5-1/2", "tape", 5.5 * 0.0254),
    ],
)
def test_a_minus_stands_before_a_number_alone(text: str, kind: str, metres: float) -> None:
    assert parse(text, kind, "us") == pytest.approx(metres)


@pytest.mark.parametrize(("text", "system"), [("5-6", "metric"), ("5-18", "us"), ("1-2-3", "us")])
def test_a_hyphen_that_could_mean_two_things_is_asked_about(text: str, system: str) -> None:
    with pytest.raises(QuantityError):
        parse(text, "run", system)
