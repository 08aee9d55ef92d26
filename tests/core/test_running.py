"""Strings that run: their current against the light that was read with it, and against each other."""

from dataclasses import replace

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.fieldbook import strings as built
from openfurrow.core.fieldbook.records import Record
from openfurrow.demo.designs import larkspur_with_pump_house
from tests.core.test_built import book, levels, made

FULL_A = 13.24


def string(
    *currents: tuple[float, float], back: float = 0.0, usual: float | None = None
) -> built.Tested:
    return built.Tested(
        of="1:s1",
        array="1",
        name="S1",
        modules=9,
        volts=450.0,
        coefficient=-0.0025,
        amperes=FULL_A,
        back=back,
        usual=usual,
        currents=tuple(made("current", "1:s1", amps, beside=light) for amps, light in currents),
    )


@given(light=st.floats(401, 1300), off=st.floats(-0.4, 0.4), back=st.sampled_from([0.0, 0.7]))
def test_a_current_is_right_by_its_light_alone(light: float, off: float, back: float) -> None:
    """Amperes go with light, worked here by the rule of three; a back that works may add to it."""
    most = 0.10 + 0.3 * back
    assume(min(abs(off + 0.10), abs(off - most)) > 1e-6)
    read = string((FULL_A * light / 1000 * (1 + off), light), back=back)
    assert (read.runs == "sound") == (-0.10 < off < most)
    assert read.runs in ("sound", "not sound")


@given(light=st.floats(1, 399), amps=st.floats(0, 50))
def test_in_little_light_nothing_is_said(light: float, amps: float) -> None:
    read = string((amps, light))
    assert read.runs == "dim" and read.shares == ()
    # What was read in enough light counts all the same.
    assert string((amps, light), (FULL_A * 0.8, 800)).runs == "sound"


@pytest.mark.parametrize(("usual", "part", "verdict"), [
    (1.0, 0.96, "sound"), (1.0, 0.94, "weak"), (0.95, 0.91, "sound"), (1.05, 0.99, "weak"),
    (None, 0.92, "sound"), (1.0, 1.06, "sound"),
])  # fmt: skip
def test_a_string_that_is_weaker_than_the_others_is_told(
    usual: float | None, part: float, verdict: str
) -> None:
    assert string((FULL_A * part * 0.7, 700), usual=usual).runs == verdict


def test_two_readings_that_differ_are_asked_for_again() -> None:
    assert string((FULL_A * 0.9 * 0.92, 900), (FULL_A * 0.9, 900)).runs == "asked"
    assert string((FULL_A * 0.9 * 0.97, 900), (FULL_A * 0.9, 900)).runs == "sound"


def run(design: Design, parts: dict[str, float], light: float = 820.0) -> list[Record]:
    strings = {one.of: one for one in book(design).strings}
    return [
        made("current", of, strings[of].amperes * light / 1000 * part, beside=light)
        for of, part in parts.items()
    ]


def test_a_job_asks_for_every_string_once_any_was_read() -> None:
    design = larkspur_with_pump_house()
    every = [one.of for one in book(design).strings]
    assert len(every) > 2
    assert "current" not in levels(book(design).checks)
    # An open voltage alone makes it ask.
    one = book(design).strings[0]
    early = book(design, made("voltage", one.of, one.expected_v(20.0), beside=20.0))
    assert levels(early.checks)["current"] == "look"
    assert "not looked at" in str(next(c for c in early.checks if c.key == "current").measured)
    whole = book(design, *run(design, dict.fromkeys(every, 1.0)))
    assert levels(whole.checks)["current"] == "sound"
    least = book(design, *run(design, dict.fromkeys(every[1:], 1.0)))
    assert levels(least.checks)["current"] == "look"
    dim = book(design, *run(design, dict.fromkeys(every, 1.0), light=300.0))
    assert levels(dim.checks)["current"] == "look"
    off = book(design, *run(design, dict.fromkeys(every, 1.0) | {every[0]: 0.6}))
    check = next(c for c in off.checks if c.key == "current")
    assert check.level == "look" and str(check.measured).startswith("otherwise: S1 off")


def test_others_are_those_of_its_own_array() -> None:
    """A median by hand: one weak string does not make the sound ones of another array look strong."""
    design = larkspur_with_pump_house()
    strings = book(design).strings
    arrays = {one.array for one in strings}
    parts = {one.of: 0.99 if one.array == "1" else 0.93 for one in strings}
    found = book(design, *run(design, parts)).strings
    assert len(arrays) > 1 or len(found) > 1
    for one in found:
        alone = sum(other.array == one.array for other in found) == 1
        assert one.usual == (None if alone else pytest.approx(parts[one.of]))
        assert one.runs == "sound"
    weak = next(one for one in found if sum(o.array == one.array for o in found) > 2)
    assert replace(weak, usual=weak.amperes).runs == "weak"


def test_a_record_of_no_string_is_loose() -> None:
    found = book(larkspur_with_pump_house(), made("current", "1:s99", 8.0, beside=800.0))
    assert [one.of for one in found.loose] == ["1:s99"]
