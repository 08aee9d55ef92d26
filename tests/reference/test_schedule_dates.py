"""The light of the days that are worked, and paces, against things outside the project."""

import math
import re
from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo

import ephem
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.plan import plan
from openfurrow.core.quantities import in_words
from openfurrow.core.schedule.calendar import light_h
from openfurrow.core.schedule.crew import usual_pace
from openfurrow.core.sun.spot import Spot
from openfurrow.demo.designs import larkspur_with_pump_house
from openfurrow.exchange.exports import EXPORTS
from openfurrow.exchange.wanted import Wanted

ZONES = {
    -116.0: "America/Boise",
    -7.6: "Europe/Lisbon",
    -72.5: "America/Santiago",
    6.2: "Europe/Amsterdam",
}


@settings(max_examples=120, deadline=None)
@given(
    latitude=st.floats(-60, 60),
    where=st.sampled_from(sorted(ZONES.items())),
    day=st.dates(date(2025, 1, 1), date(2032, 12, 31)),
)
def test_sunrise_and_sunset_by_another_almanac(
    latitude: float, where: tuple[float, str], day: date
) -> None:
    """ephem's upper limb at a horizon of -0:34: within two and a half minutes of the clock."""
    longitude, zone = where
    (rise,), (fall,) = light_h(Spot(latitude, longitude, 0.0, zone), [day])
    watcher = ephem.Observer()
    watcher.lat, watcher.lon = str(latitude), str(longitude)
    watcher.pressure, watcher.horizon = 0, "-0:34"
    local = ZoneInfo(zone)
    midnight = datetime(day.year, day.month, day.day, tzinfo=local).astimezone(UTC)
    watcher.date = ephem.Date(midnight.replace(tzinfo=None))
    for ours, theirs in (
        (rise, watcher.next_rising(ephem.Sun())),
        (fall, watcher.next_setting(ephem.Sun())),
    ):
        at = theirs.datetime().replace(tzinfo=UTC).astimezone(local)
        clock = at.hour + at.minute / 60 + at.second / 3600
        assert abs((ours - clock + 12) % 24 - 12) * 60 < 2.5


@pytest.mark.parametrize(
    ("task", "machine", "done", "hours"),
    [
        # Common practice, no published source. A tracked rig and four: about 300 posts a day.
        ("drive", "tracked rig", 300, (7.0, 10.0)),
        # A small machine with a hammer, two or three people: three to eight posts before midday.
        ("drive", "small machine with a hammer", 6, (2.0, 5.0)),
        # A small excavator: 15 to 20 m an hour in clean ground; by hand 10 to 15 m a day.
        ("dig", "small excavator", 15, (0.7, 1.0)),
        ("dig", "by hand", 12, (6.0, 10.0)),
        # The frame of 24 to 28 modules, and the modules: half a day to a day each, by three.
        ("frame", "by hand", 28, (4.0, 8.0)),
        ("modules", "by hand", 28, (4.0, 8.0)),
        # 16 joints dry fitted and glued: half a day.
        ("conduit", "by hand", 16, (3.0, 5.0)),
        # Four strings through 20 m: an hour.
        ("pull", "by hand", 80, (0.8, 1.2)),
    ],
)
def test_paces_lie_in_the_range_of_the_trade(
    task: str, machine: str, done: float, hours: tuple[float, float]
) -> None:
    low, high = hours
    assert low <= done / usual_pace(task, machine).per_h <= high


def unfolded(text: str) -> list[str]:
    """Content lines of RFC 5545, 3.1: ends are CRLF, a line that begins with a blank goes on."""
    assert text.endswith("\r\n") and "\n" not in text.replace("\r\n", "")
    assert all(len(line.encode()) <= 75 for line in text.split("\r\n"))
    return text.replace("\r\n ", "").replace("\r\n\t", "").split("\r\n")[:-1]


def test_the_calendar_file_holds_every_day_of_every_task() -> None:
    """RFC 5545, read line by line: one event a task and spell, in the site's time with its zone."""
    design = larkspur_with_pump_house()
    found = plan(design)
    lines = unfolded(EXPORTS["schedule.ics"].write(design, found, Wanted(units="us")))
    assert (lines[0], lines[-1]) == ("BEGIN:VCALENDAR", "END:VCALENDAR")
    assert lines.count("BEGIN:VEVENT") == lines.count("END:VEVENT")
    assert any(line == "TZID:America/Boise" for line in lines)
    starts = [line for line in lines if line.startswith("DTSTART;TZID=America/Boise:")]
    told = sorted(re.findall(r"\d{8}T\d{6}", " ".join(starts)))
    wanted = sorted(
        f"{datetime.combine(day, datetime.min.time()) + timedelta(hours=begin):%Y%m%dT%H%M%S}"
        for task in found.schedule.tasks
        for day, begin, _ in found.schedule.worked(task.id)
    )
    assert told == wanted
    uids = [line for line in lines if line.startswith("UID:")]
    assert len(set(uids)) == len(uids) == len(wanted)
    summaries = {
        line.removeprefix("SUMMARY:").rsplit(" (", 1)[0] for line in lines if "SUMMARY" in line
    }
    assert summaries == {task.name for task in found.schedule.tasks}
    # The same plan is the same file.
    again = EXPORTS["schedule.ics"].write(design, plan(design), Wanted(units="us"))
    assert unfolded(again) == lines


def test_hours_of_all_people_are_the_sum_of_their_days() -> None:
    """Laid out by the clock, day by day, and added up."""
    found = plan(larkspur_with_pump_house()).schedule
    people = {task.id: task.people for task in found.tasks}
    hours = sum(
        (end - begin) * people[task.id]
        for task in found.tasks
        for _, begin, end in found.worked(task.id)
    )
    answers = {answer.key: answer for answer in found.answers}
    assert answers["hours"].value == pytest.approx(hours)
    days = {day for task in found.tasks for day, _, _ in found.worked(task.id)}
    assert answers["days"].value == len(days)
    assert answers["finish"].value == max(days).isoformat()
    assert math.isclose(float(answers["gap"].value), 0.0)
    assert "\ue000" not in in_words(answers["hours"].working.note, "us")
