"""What is handed over against what stands outside: standards, calendars, tapes."""

from datetime import date

import numpy as np
import pytest
from dateutil.relativedelta import relativedelta
from hypothesis import given, settings
from hypothesis import strategies as st
from icalendar import Calendar

from openfurrow.core.as_built import as_built, handover_of
from openfurrow.core.codes import constant, table
from openfurrow.core.fieldbook.book import field_book
from openfurrow.core.handover.care import care_dates, months_on
from openfurrow.core.plan import plan
from openfurrow.exchange.care_out import care_ics
from openfurrow.exchange.wanted import Wanted
from tests.designs import designs, plain_larkspur


@given(day=st.dates(date(1990, 1, 1), date(2090, 12, 31)), months=st.integers(0, 200))
def test_months_are_counted_as_calendars_count_them(day: date, months: int) -> None:
    # dateutil's relativedelta: the last day of a month where it is too short.
    assert months_on(day, months) == day + relativedelta(months=months)


def test_limits_of_strings_are_those_of_the_standard() -> None:
    # IEC 62446-1, from memory: 1 MΩ at least above 120 V; open voltage within 5 % of what is expected.
    assert constant("common", "least_insulation_ohm").value == 1e6
    assert constant("common", "string_voltage_share").value == 0.05


def test_a_string_by_hand() -> None:
    # Common practice, no published source: the demo's own data sheet by a pocket calculator. Twelve
    # modules of 40.5 V open, -0.27 % a degree, 35 degrees warmer than the sheet says.
    design = plain_larkspur()
    modules = design.arrays[0].modules
    string = field_book(design, plan(design), ()).strings[0]
    one = modules.open_circuit_v + modules.open_circuit_v * modules.voltage_coefficient_per_c * 35
    assert string.expected_v(60.0) == pytest.approx(string.modules * one, rel=1e-12)
    # Warmth takes voltage away, cold adds it.
    assert string.expected_v(-20.0) > string.volts > string.expected_v(60.0)
    assert string.expected_v(25.0) == pytest.approx(string.modules * modules.open_circuit_v)


@settings(max_examples=30)
@given(design=designs(), warm=st.floats(-30, 80))
def test_strings_add_up_to_all_modules_whatever_the_design(design: object, warm: float) -> None:
    found = plan(design)  # type: ignore[arg-type]
    if not found.has("wiring"):
        return
    strings = field_book(design, found, ()).strings  # type: ignore[arg-type]
    given_ = design.arrays[0].modules  # type: ignore[attr-defined]
    # All strings one after the other: as one of all modules.
    whole = found.rows.module_count * given_.open_circuit_v
    whole *= 1 + given_.voltage_coefficient_per_c * (warm - 25)
    assert sum(one.expected_v(warm) for one in strings) == pytest.approx(whole)


@pytest.mark.parametrize("southern", [False, True])
def test_care_falls_in_the_season_it_is_meant_for(southern: bool) -> None:
    # Common practice, no published source: frost is over and grass grows from April and May on in the
    # north, from October and November on in the south.
    for month in range(1, 13):
        handed_over = date(2026, month, 17)
        found = care_dates(handed_over, southern=southern, frost=True, mover=True)
        months = {key: {one.day.month for one in found if one.key == key} for key in ("heave", "mow")}
        assert months == {
            "heave": {10} if southern else {4},
            "mow": {11} if southern else {5},
        }
        assert all(one.day > handed_over for one in found)
        assert [one.day for one in found] == sorted(one.day for one in found)
        # Nothing is put off for more than a year and its own lead.
        care = table("common", "care")
        for row, key in enumerate(care.texts["key"]):
            first = min(one.day for one in found if one.key == key)
            lead = care.number("first_days", row)
            assert lead <= (first - handed_over).days <= lead + 366
            assert sum(one.key == key for one in found) == care.number("times", row)
    # What nothing there asks for is on no day: no frost, nothing that moves.
    without = {one.key for one in care_dates(handed_over, southern=southern, frost=False)}
    assert not without & {"heave", "lay-down", "travel"}


def test_the_calendar_of_care_is_read_as_it_was_written() -> None:
    # RFC 5545, read by icalendar and line by line.
    design = plain_larkspur()
    found = as_built(design, plan(design))
    text = care_ics(design, found, Wanted(units="us"))
    events = Calendar.from_ical(text).walk("VEVENT")
    care = handover_of(found).care
    assert [event.decoded("dtstart") for event in events] == [one.day for one in care]
    assert [str(event["summary"]) for event in events] == [one.what for one in care]
    # A whole day ends where the next begins (RFC 5545, 3.6.1).
    assert {(e.decoded("dtend") - e.decoded("dtstart")).days for e in events} == {1}
    assert len({str(event["uid"]) for event in events}) == len(events)
    lines = text.split("\r\n")
    assert lines[0] == "BEGIN:VCALENDAR" and lines[-2] == "END:VCALENDAR"
    assert max(len(line.encode()) for line in lines) <= 75
    assert sum(line.startswith("DTSTART;VALUE=DATE:") for line in lines) == len(care)


def test_depths_and_covers_are_told_apart_to_the_mark_of_a_tape() -> None:
    # Common practice, no published source: nobody reads a tape closer than a sixteenth of an inch.
    design = plain_larkspur()
    covers = field_book(design, plan(design), ()).covers
    assert {round(one.least_m / 0.0254 * 16) for one in covers} == {18 * 16}
    assert np.ptp([one.planned_m for one in covers]) == 0.0
