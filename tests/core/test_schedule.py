"""When what is done: no hold is broken, nothing is earlier than can be, nothing later than must be."""

import itertools
from collections import defaultdict
from datetime import date, timedelta
from typing import Any

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.edits import DesignError, apply
from openfurrow.core.fields import fields, write
from openfurrow.core.plan import plan
from openfurrow.core.schedule.calendar import SLOT_H, Calendar, Hours, Workday, calendar_of
from openfurrow.core.schedule.givens import ScheduleGivens
from openfurrow.core.schedule.holds import marks_of
from openfurrow.core.schedule.plan import SchedulePlan
from openfurrow.core.schedule.solve import Dates, Limit, Work, dated, greedy
from openfurrow.core.schedule.tasks import usual_pace
from openfurrow.core.site.tickets import TicketGivens
from openfurrow.core.sun.spot import Spot
from openfurrow.demo.designs import DESIGNS, larkspur_with_pump_house
from tests.designs import plain_larkspur

MONDAY = date(2026, 4, 20)
Job = tuple[tuple[Work, ...], Calendar, int]


def days_of(*slots: int) -> Calendar:
    """Days of so many half hours each, from seven in the morning."""
    return Calendar(
        tuple(Workday(MONDAY + timedelta(days=k), 7.0, n, 6.0, 20.0) for k, n in enumerate(slots))
    )


def office_days_after(day: date, count: int) -> date:
    """So many office days later, by walking them; what is Saturday counts from Friday."""
    while day.weekday() > 4:
        day -= timedelta(days=1)
    while count:
        day += timedelta(days=1)
        count -= day.weekday() < 5
    return day


def broken(works: tuple[Work, ...], calendar: Calendar, people: int, found: Dates) -> list[str]:
    """What of the rules the dates break, slot by slot, knowing nothing of how they were found."""
    wrong: list[str] = []
    day_at = [k for k, day in enumerate(calendar.days) for _ in range(day.slots)]
    crew: dict[int, int] = defaultdict(int)
    machines: dict[tuple[str, int], int] = defaultdict(int)
    for work in works:
        spans = found.pieces[work.id]
        if sum(end - start for start, end in spans) != work.slots:
            wrong.append(f"{work.id} is not done, or done twice")
        if any(a[1] > b[0] for a, b in itertools.pairwise(spans)):
            wrong.append(f"{work.id} lies over itself")
        for slot in (slot for start, end in spans for slot in range(start, end)):
            crew[slot] += work.people
            machines[work.machine, slot] += 1
            wrong += [
                f"{work.id} on a day that {limit.name} forbids"
                for limit in work.limits
                if not limit.days[day_at[slot]]
            ]
        begins, last = day_at[spans[0][0]], day_at[spans[-1][1] - 1]
        if work.on is not None and begins != work.on:
            wrong.append(f"{work.id} begins on another day")
        if work.in_one and begins != last:
            wrong.append(f"{work.id} is left and taken up again")
        for before, lag in work.after:
            ended = found.pieces[before][-1][1]
            day = calendar.days[day_at[ended - 1]].day
            if spans[0][0] < ended or (lag and calendar.days[begins].day < office_days_after(day, lag)):
                wrong.append(f"{work.id} before {before} is done, or before its notice")
    wrong += [f"{n} people in slot {slot}" for slot, n in crew.items() if n > people]
    wrong += [f"two on {machine}" for (machine, _), n in machines.items() if machine and n > 1]
    return wrong


@st.composite
def jobs(draw: st.DrawFn, most: int = 7) -> Job:
    slots = draw(st.lists(st.integers(1, 6), min_size=2, max_size=7))
    calendar, people = days_of(*slots), draw(st.integers(1, 4))
    works: list[Work] = []
    for number in range(draw(st.integers(1, most))):
        before = draw(st.sets(st.integers(0, number - 1), max_size=2)) if number else set()
        mask = st.lists(st.booleans(), min_size=len(slots), max_size=len(slots))
        works.append(
            Work(
                id=str(number),
                slots=draw(st.integers(1, 10)),
                people=draw(st.integers(0, people)),
                machine=draw(st.sampled_from(("", "", "driver", "digger"))),
                after=tuple((str(one), draw(st.integers(0, 2))) for one in sorted(before)),
                limits=tuple(
                    Limit(f"{number}/{k}", tuple(days))
                    for k, days in enumerate(draw(st.lists(mask, max_size=2)))
                ),
                on=draw(st.none() | st.integers(0, len(slots) - 1)),
                in_one=draw(st.booleans()),
            )
        )
    return tuple(works), calendar, people


@settings(max_examples=300, deadline=None)
@given(job=jobs())
def test_no_hold_is_broken_on_random_jobs_and_what_does_not_fit_says_why(job: Job) -> None:
    works, calendar, people = job
    found = dated(works, calendar, people)
    if found.fits:
        assert broken(works, calendar, people, found) == []
        assert found.finish == max(spans[-1][1] for spans in found.pieces.values())
        assert found.bound <= found.finish
        return
    assert found.pieces == {}
    assert greedy(works, calendar, people) is None
    names = {limit.name for work in works for limit in work.limits}
    names |= {f"{work.id} begins on its day" for work in works if work.on is not None}
    assert set(found.stops) <= names or len(found.stops) == 1


def brute(works: tuple[Work, ...], calendar: Calendar, people: int) -> int | None:
    """The earliest finish by trying every start of every task; None where nothing fits."""
    best: int | None = None
    ranges = [range(calendar.slots - work.slots + 1) for work in works]
    for starts in itertools.product(*ranges):
        pieces = {
            work.id: ((start, start + work.slots),) for work, start in zip(works, starts, strict=True)
        }
        finish = max(end for ((_, end),) in pieces.values())
        if best is not None and finish >= best:
            continue
        if not broken(works, calendar, people, Dates(pieces, finish)):
            best = finish
    return best


def in_one_spell(work: Work, days: int) -> bool:
    """Whether the days on which a task may be worked follow each other without a gap."""
    may = [all(limit.days[k] for limit in work.limits) for k in range(days)]
    return sum(1 for k, day in enumerate(may) if day and (k == 0 or not may[k - 1])) < 2


@settings(max_examples=80, deadline=None)
@given(job=jobs(most=3))
def test_small_jobs_finish_as_early_as_any_order_of_starts(job: Job) -> None:
    works, calendar, people = job
    # Where a task may have to stop between, there is more to try than starts.
    assume(all(in_one_spell(work, len(calendar.days)) for work in works) and calendar.slots <= 18)
    found, tried = dated(works, calendar, people), brute(works, calendar, people)
    assert (found.finish if found.fits else None) == tried
    if tried is not None:
        assert found.bound == found.finish


def test_a_task_stops_for_a_day_that_is_forbidden_and_others_go_on() -> None:
    calendar = days_of(8, 8, 8, 8)
    lift = Work("lift", 16, 2, limits=(Limit("wind", (True, False, True, True)),))
    found = dated((lift, Work("other", 8, 2)), calendar, 2)
    assert found.pieces == {"lift": ((0, 8), (16, 24)), "other": ((8, 16),)}
    assert found.finish == found.bound == 24


def test_what_cannot_be_had_together_is_named_and_nothing_else() -> None:
    calendar = days_of(4, 4, 4)
    late = Limit("posts come on Wednesday", (False, False, True))
    early = Limit("located until Tuesday", (True, True, False))
    idle = Limit("not on Monday", (False, True, True))
    works = (Work("other", 2, 1, limits=(idle,)), Work("drive", 2, 1, limits=(late, early)))
    assert dated(works, calendar, 1).stops == ("located until Tuesday", "posts come on Wednesday")
    held = (Work("drive", 2, 1, limits=(late,), on=0),)
    assert dated(held, calendar, 1).stops == ("drive begins on its day", "posts come on Wednesday")
    much = (Work("much", 13, 1),)
    assert dated(much, calendar, 1).stops == ("the work and the crew: more than 3 working days",)


def test_the_same_tasks_are_dated_the_same() -> None:
    first = plan(larkspur_with_pump_house()).schedule
    works = tuple(
        Work(t.id, t.slots, t.people, t.machine, t.after, in_one=t.inspected) for t in first.tasks
    )
    assert dated(works, first.calendar, 3) == dated(works, first.calendar, 3)


BOISE = Spot(44.9, -116.1, 1530.0, "America/Boise")


def test_days_off_and_weekends_are_not_worked_and_darkness_ends_the_day() -> None:
    off = frozenset({date(2026, 12, 22)})
    found = calendar_of(BOISE, date(2026, 12, 18), Hours(7.0, 12.0, 5, off), count=4)
    assert [one.day.day for one in found.days] == [18, 21, 23, 24]
    for one in found.days:
        end = one.start_h + one.slots * SLOT_H
        assert one.sunrise_h <= one.start_h < one.sunrise_h + SLOT_H
        assert one.sunset_h - SLOT_H < end <= one.sunset_h
    summer = calendar_of(BOISE, date(2026, 6, 22), Hours(7.0, 8.0, 6, frozenset()), count=6)
    assert {one.slots for one in summer.days} == {16}
    assert [one.day.isoweekday() for one in summer.days] == [1, 2, 3, 4, 5, 6]


def test_slots_and_clocks_are_each_others_image() -> None:
    calendar = days_of(3, 0, 5)
    assert calendar.slots == 8 and calendar.day_of.tolist() == [0, 0, 0, 2, 2, 2, 2, 2]
    assert [calendar.clock_h(slot) for slot in (0, 2, 3)] == [7.0, 8.0, 7.0]
    assert calendar.spans(1, 5) == [(0, 7.5, 8.5), (2, 7.0, 8.0)]


def answer(utility: str, day: date | None, **givens: Any) -> TicketGivens:
    reply = "none yet" if day is None else "marked"
    return TicketGivens(utility=utility, responded=day, reply=reply, **givens)  # type: ignore[arg-type]


ALL = ("power", "gas or fuel", "water", "telecom", "sewer")


def test_the_ground_is_open_from_the_last_answer_until_the_first_that_ends() -> None:
    tickets = tuple(answer(name, MONDAY + timedelta(days=k)) for k, name in enumerate(ALL))
    found = marks_of(tickets, MONDAY, 3, 28)
    assert (found.first, found.last) == (MONDAY + timedelta(days=4), MONDAY + timedelta(days=28))
    assert found.waits_for == ()
    # Asked anew, the newer answer of an owner counts; its own last day before any rule.
    late = answer("power", MONDAY + timedelta(days=20), expires=MONDAY + timedelta(days=90))
    renewed = marks_of((*tickets, late), MONDAY, 3, 28)
    assert renewed.first == MONDAY + timedelta(days=20)
    assert renewed.last == MONDAY + timedelta(days=29)


def test_an_owner_who_has_not_answered_is_hoped_for_and_named() -> None:
    tickets = (*(answer(name, MONDAY) for name in ALL[1:]), answer("power", None, requested=MONDAY))
    found = marks_of(tickets, MONDAY, 3, 28)
    assert found.waits_for == ("power",)
    assert found.first == date(2026, 4, 23)
    # Of whom nobody was asked the first day counts, and a week's end is not waited in.
    assert marks_of((), date(2026, 4, 23), 3, 28).first == date(2026, 4, 28)


def plain() -> Design:
    """The demo job, of whose schedule nobody has said anything."""
    return plain_larkspur().model_copy(update={"schedule": ScheduleGivens()})


def changed(design: Design, *edits: tuple[str, str]) -> SchedulePlan:
    return plan(apply(design, edits, "metric")).schedule


@pytest.mark.parametrize("name", ["larkspur", "larkspur-two", "grifo", "quillay"])
def test_every_demo_is_dated_or_says_why_and_breaks_no_hold(name: str) -> None:
    design = DESIGNS[name]()
    found = plan(design).schedule
    worked = [one.day for one in found.calendar.days]
    for hold in found.holds:
        days = {day for day, may in zip(worked, hold.days, strict=True) if may}
        for task in hold.tasks:
            assert {day for day, _, _ in found.worked(task)} <= days, (hold.words, task)
    if not found.dates.fits:
        return
    assert {task.id for task in found.tasks} == set(found.dates.pieces)
    for task in found.tasks:
        first = found.worked(task.id)[0]
        for before, lag in task.after:
            last = found.worked(before)[-1]
            assert (last[0], last[2]) <= (first[0], first[1]), (task.name, before)
            assert not lag or first[0] >= office_days_after(last[0], lag)
        assert task.people <= design.schedule.people


def test_how_long_it_takes_by_hand() -> None:
    """Posts at 1.5 an hour on easy ground, by three; sandy gravel leaves 0.8 of it."""
    found = plan(plain()).schedule
    drive = next(task for task in found.tasks if task.id.endswith(":drive"))
    posts = plan(plain()).structure.supports.count
    assert drive.quantity == posts
    assert drive.pace_per_h == pytest.approx(1.2)
    assert drive.slots == -(-posts * 20 // 12)
    # Two, where three are usual, take half as long again; what a crew says has its soil in it.
    two = changed(plain(), ("schedule.people", "2"))
    assert next(t for t in two.tasks if t.id == drive.id).pace_per_h == pytest.approx(0.8)
    own = changed(plain(), ("schedule.drive_per_h", "4"))
    assert next(t for t in own.tasks if t.id == drive.id).pace_per_h == pytest.approx(4.0)


def test_the_slowest_of_the_soils_sets_the_pace_and_hand_work_is_what_the_crossings_are() -> None:
    alone = {soil: usual_pace("drive", "tracked rig", (soil,)).per_h for soil in ("sand", "clay")}
    both = usual_pace("drive", "tracked rig", ("sand", "clay")).per_h
    assert alone["clay"] < alone["sand"] and both == alone["clay"]
    assert usual_pace("frame", soils=("clay",)) == usual_pace("frame")
    found = plan(larkspur_with_pump_house())
    tasks = {task.id: task for task in found.schedule.tasks}
    met = sum(c.to_m - c.from_m for piece in found.trench.dug for c in piece.crossings)
    assert met > 0 and tasks["hand"].quantity == pytest.approx(met)
    assert tasks["dig"].quantity == pytest.approx(found.trench.ground_length_m - met)
    assert tasks["backfill"].quantity == pytest.approx(found.trench.ground_length_m)


def test_inspectors_keep_an_offices_week_whatever_the_crew_does() -> None:
    """Seven days a week, three days' notice: what is ready on a Thursday is seen on a Tuesday."""
    for notice in (0, 1, 3):
        edits = [("schedule.works_on", "every day"), ("schedule.notice_days", str(notice))]
        found = changed(plain(), *edits)
        assert any(day.weekday() > 4 for t in found.tasks for day, _, _ in found.worked(t.id))
        for seen, ready in (("inspect", "lay"), ("final", "land")):
            (day, _, _), *others = found.worked(seen)
            assert others == [] and day.weekday() < 5
            done = found.worked(ready)[-1][0]
            assert day >= (office_days_after(done, notice) if notice else done)
    kinds = {hold.key for hold in changed(plain(), ("schedule.works_on", "every day")).holds}
    assert "office" in kinds and "office" not in {hold.key for hold in plan(plain()).schedule.holds}


def test_wind_frost_and_deliveries_move_the_days() -> None:
    base = plan(plain()).schedule
    first, glued = base.worked("1:frame")[0][0], base.worked("lay")[0][0]
    windy = changed(plain(), ("schedule.forecast", f"{first.isoformat()}, 10 C, 14 m/s"))
    assert first not in {day for day, _, _ in windy.worked("1:frame")}
    assert windy.dates.finish >= base.dates.finish
    frosty = changed(plain(), ("schedule.forecast", f"{glued.isoformat()}, -2 C, 1 m/s"))
    assert glued not in {day for day, _, _ in frosty.worked("lay")}
    # At the limit itself it may be done.
    at_limit = changed(plain(), ("schedule.forecast", f"{first.isoformat()}, 4 C, 9 m/s"))
    assert at_limit.dates.pieces == base.dates.pieces
    warm_enough = changed(plain(), ("schedule.forecast", f"{glued.isoformat()}, 4 C, 9 m/s"))
    assert warm_enough.dates.pieces == base.dates.pieces
    arrives = [("schedule.deliveries.+m", "modules"), ("schedule.deliveries.m.arrives", "2026-05-04")]
    assert changed(plain(), *arrives).worked("1:modules")[0][0] == date(2026, 5, 4)


def test_cable_is_laid_and_neither_glued_nor_pulled() -> None:
    cable = changed(plain(), ("trench.method", "direct-buried cable"))
    assert "pull" not in [task.id for task in cable.tasks]
    assert not any(task.glues for task in cable.tasks)
    metal = changed(plain(), ("trench.method", "rigid metal conduit"))
    assert "pull" in [t.id for t in metal.tasks] and not any(t.glues for t in metal.tasks)


def test_what_stands_already_is_not_dated() -> None:
    two = larkspur_with_pump_house()
    found = changed(two, ("arrays.2.standing", "yes"))
    assert {task.array for task in found.tasks} == {"1", ""}
    alone = changed(two, ("arrays.2.standing", "yes"), ("arrays.1.standing", "yes"))
    assert {task.array for task in alone.tasks} == {""}


def test_a_task_is_held_to_its_day_by_its_name() -> None:
    lock = [("schedule.locks.+a", ""), ("schedule.locks.a.task", "set the MODULES ")]
    found = changed(plain(), *lock, ("schedule.locks.a.day", "2026-05-06"))
    assert found.worked("1:modules")[0][0] == date(2026, 5, 6)
    sunday = changed(plain(), *lock, ("schedule.locks.a.day", "2026-05-03"))
    assert sunday.dates.stops == ("Set the modules begins on its day",)


def test_what_is_said_of_days_is_never_left_out_silently() -> None:
    def told(*edits: tuple[str, str]) -> dict[str, str]:
        return {c.key: f"{c.level}: {c.measured}" for c in changed(plain(), *edits).checks}

    # Two days for one task: only one can be kept, and that is told.
    two = [("schedule.locks.+a", ""), ("schedule.locks.a.task", "Build the frame")]
    two += [("schedule.locks.a.day", "2026-04-24"), ("schedule.locks.+b", "")]
    two += [("schedule.locks.b.task", "1:frame"), ("schedule.locks.b.day", "2026-04-28")]
    assert told(*two)["locks"] == "stop: two days for Build the frame"
    # One pace of a crew's own does not make all of them so.
    one = told(("schedule.drive_per_h", "2"))["rates"]
    assert one.startswith("look: common practice for ") and told()["rates"].startswith("look")
    off = [("schedule.days_off.+x", ""), ("schedule.days_off.x.last", "2026-04-21")]
    assert date(2026, 4, 21) not in {one.day for one in changed(plain(), *off).calendar.days}
    for last in ("2026-04-19", "2028-04-20"):
        with pytest.raises(DesignError, match="before the first day, or more than"):
            changed(
                plain(),
                ("schedule.days_off.+x", ""),
                ("schedule.days_off.x.first", "2026-04-20"),
                ("schedule.days_off.x.last", last),
            )


def test_arrays_of_one_name_have_tasks_of_two() -> None:
    two = larkspur_with_pump_house()
    alike = [(f"arrays.{one.id}.name", "Field") for one in two.arrays]
    names = [task.name for task in changed(two, *alike).tasks]
    assert len(set(names)) == len(names)


def test_a_forecast_is_read_as_it_is_pasted_and_said_back() -> None:
    text = "2026-04-21, 40 F, 20 mph\n2026-04-20\t3 °C\t8 m/s"
    design = apply(plain(), [("schedule.forecast", text)], "us")
    first, second = design.schedule.forecast
    assert first == (MONDAY, pytest.approx(3.0), pytest.approx(8.0))
    assert second[1:] == (pytest.approx(4.444, abs=1e-3), pytest.approx(8.9408))
    field = fields()["schedule.forecast"]
    said = write(field, design.schedule.forecast, "metric").splitlines()
    assert said[0] == "2026-04-20, 3 °C, 8.0 m/s"
    for wrong, word in (
        ("2026-04-20, 3 C", "no day of a forecast"),
        ("20 April, 3 C, 8 m/s", "not a date"),
        ("2026-04-20, 3 C, 8 m/s\n2026-04-20, 4 C, 8 m/s", "comes twice"),
    ):
        with pytest.raises(DesignError) as refused:
            apply(plain(), [("schedule.forecast", wrong)], "metric")
        assert word in refused.value.problems[0].message
