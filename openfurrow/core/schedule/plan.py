"""Schedule: every task on its day, the earliest finish, and what holds it."""

from dataclasses import dataclass, replace
from datetime import date

from openfurrow.core.checks import Check, at_least, holds
from openfurrow.core.lacking import said
from openfurrow.core.quantities import spoken
from openfurrow.core.schedule.calendar import SLOT_H, WEEKDAYS, Calendar, Hours, calendar_of
from openfurrow.core.schedule.crew import Task
from openfurrow.core.schedule.givens import LockGivens, ScheduleGivens
from openfurrow.core.schedule.holds import (
    Hold,
    Marks,
    delivery_holds,
    locate_holds,
    marks_of,
    office_holds,
    weather_holds,
)
from openfurrow.core.schedule.solve import Dates, Work, dated
from openfurrow.core.schedule.tasks import ArrayWork, WayWork, tasks_of
from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.site.tickets import LOCAL_RULE, TicketGivens
from openfurrow.core.sun.spot import Spot, spot_of
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, Answer, Input, Source, Working

SOLVED = Source("OR-Tools CP-SAT: earliest finish, one worker, one seed", "solved")
# Two lift a module, and nobody works at a trench or a driver alone.
LEAST_PEOPLE = 2.0


@dataclass(frozen=True, kw_only=True)
class SchedulePlan:
    """Tasks in the order of the job, when each is worked, and what holds them.

    ``dates`` are in slots of the ``calendar``. Where nothing fits they are empty, and a check says what
    cannot be had together.
    """

    calendar: Calendar
    tasks: tuple[Task, ...]
    holds: tuple[Hold, ...]
    dates: Dates
    answers: tuple[Answer, ...] = ()
    checks: tuple[Check, ...] = ()

    def day(self, slot: int) -> date:
        """The day on which work up to a slot ends; slots are counted from nought."""
        return self.calendar.days[int(self.calendar.day_of[slot - 1])].day

    @property
    def finish(self) -> date | None:
        """The day on which all is done; None where nothing fits, or there is nothing to do."""
        return self.day(self.dates.finish) if self.dates.pieces else None

    @property
    def earliest(self) -> date | None:
        """The day before which nothing can finish."""
        return self.day(max(self.dates.bound, 1)) if self.dates.pieces else None

    def worked(self, task: str) -> list[tuple[date, float, float]]:
        """On which days a task is worked, from when and until when by the clock."""
        return [
            (self.calendar.days[at].day, begin, end)
            for start, stop in self.dates.pieces.get(task, ())
            for at, begin, end in self.calendar.spans(start, stop)
        ]


@dataclass(frozen=True)
class WorkSite:
    """All that the schedule asks of the site: its light, its locate tickets, the day it is opened."""

    spot: Spot
    tickets: tuple[TicketGivens, ...]
    wait_days: int
    life_days: int
    dig_date: date


def work_site(site: SiteGivens) -> WorkSite:
    """What the schedule asks of a site. Raises Lacking for what nobody has said."""
    return WorkSite(
        spot_of(site),
        site.tickets,
        site.ticket_wait_days,
        site.ticket_life_days,
        said("site.dig_date", site.dig_date),
    )


def plan_schedule(
    site: WorkSite,
    givens: ScheduleGivens,
    arrays: tuple[ArrayWork, ...],
    way: WayWork,
    *,
    named: bool,
) -> SchedulePlan:
    """Date everything that is to be built; ``named``: tasks say whose array they are of."""
    start = givens.start_date or site.dig_date
    hours = Hours(givens.day_starts_h, givens.hours_a_day, WEEKDAYS[givens.works_on], givens.off())
    calendar = calendar_of(site.spot, start, hours)
    tasks = tasks_of(arrays, way, givens, named=named)
    marks = marks_of(site.tickets, start, site.wait_days, site.life_days)
    held = (
        *locate_holds(tasks, calendar, marks, site.dig_date),
        *delivery_holds(tasks, calendar, givens),
        *office_holds(tasks, calendar),
        *weather_holds(tasks, calendar, givens),
    )
    locks = {task.id: at for task in tasks for at in _locked(task, givens.locks, calendar)}
    works = tuple(_work(task, held, locks.get(task.id)) for task in tasks)
    dates = (
        dated(works, calendar, givens.people) if calendar.days else Dates(stops=("no day has light",))
    )
    found = SchedulePlan(calendar=calendar, tasks=tasks, holds=held, dates=dates)
    return replace(
        found,
        answers=_answers(found, start),
        checks=(
            *_fit_checks(found, givens),
            *_locate_checks(found, marks),
            *_known_checks(found, givens),
        ),
    )


def _work(task: Task, held: tuple[Hold, ...], on: int | None) -> Work:
    return Work(
        id=task.id,
        slots=task.slots,
        people=task.people,
        machine=task.machine,
        after=task.after,
        limits=tuple(hold.limit for hold in held if task.id in hold.tasks),
        on=on,
        in_one=task.inspected,
        name=task.name,
    )


def _called(lock: LockGivens, task: Task) -> bool:
    return lock.task.strip().lower() in (task.name.lower(), task.id)


def _locked(task: Task, locks: tuple[LockGivens, ...], calendar: Calendar) -> list[int]:
    """The working day that a task is held to; -1 where that is none."""
    wanted = [one.day for one in locks if one.day is not None and _called(one, task)]
    at = {one.day: number for number, one in enumerate(calendar.days)}
    return [at.get(day, -1) for day in wanted[:1]]


def _answers(found: SchedulePlan, start: date) -> tuple[Answer, ...]:
    hours = sum(task.slots * task.people for task in found.tasks) * SLOT_H
    crew = Answer(
        "schedule",
        "hours",
        "Hours of work, all people together",
        Working(
            "h_all",
            "n_slots * h_slot",
            (
                Input("n_slots", "half hours of everybody in every task", hours / SLOT_H, "count"),
                Input("h_slot", "length of one", SLOT_H, "hours"),
            ),
            hours,
            "hours",
            COMMON_PRACTICE,
            "; ".join(_pace(task) for task in found.tasks) + ".",
        ),
    )
    if found.finish is None or found.earliest is None:
        none = Working("finish", "", (), "no day", "factor", SOLVED, "; ".join(found.dates.stops))
        return (Answer("schedule", "finish", "All is done on", none, True), crew)
    worked = {day for task in found.tasks for day, _, _ in found.worked(task.id)}
    note = f"No order of the same tasks can finish before {found.earliest.isoformat()}: " + (
        "this is the earliest."
        if found.finish == found.earliest
        else "what lies between is not proved."
    )
    return (
        Answer(
            "schedule",
            "finish",
            "All is done on",
            Working("finish", "", (), found.finish.isoformat(), "factor", SOLVED, note),
            True,
        ),
        Answer(
            "schedule",
            "days",
            "Days on site",
            Working(
                "n",
                "",
                (),
                float(len(worked)),
                "count",
                SOLVED,
                f"Days on which anybody works, from {start.isoformat()} on.",
            ),
            True,
        ),
        crew,
        Answer(
            "schedule",
            "gap",
            "Days that could yet be gained",
            Working(
                "g",
                "n_found - n_bound",
                (
                    Input(
                        "n_found",
                        "working day of the finish",
                        _number(found, found.dates.finish),
                        "count",
                    ),
                    Input(
                        "n_bound",
                        "working day of the bound",
                        _number(found, found.dates.bound),
                        "count",
                    ),
                ),
                _number(found, found.dates.finish) - _number(found, found.dates.bound),
                "count",
                GEOMETRY,
                "The bound is the greater of the solver's own and of what crew and order allow.",
            ),
        ),
    )


def _number(found: SchedulePlan, slot: int) -> float:
    """Which working day work up to a slot ends on, from one."""
    return float(found.calendar.day_of[max(slot, 1) - 1]) + 1.0


def _pace(task: Task) -> str:
    much, pace = spoken(task.quantity, task.kind), spoken(task.pace_per_h, task.pace_kind)
    return f"{task.name}: {much} at {pace} by {task.people}"


def _fit_checks(found: SchedulePlan, givens: ScheduleGivens) -> tuple[Check, ...]:
    names = [task.name for task in found.tasks]
    unknown = [one.task for one in givens.locks if not any(_called(one, t) for t in found.tasks)]
    unsaid = [one for one in givens.locks if one.day is None]
    twice = [
        task.name
        for task in found.tasks
        if sum(one.day is not None and _called(one, task) for one in givens.locks) > 1
    ]
    wrong = (
        f"no task is called {', '.join(unknown)}" if unknown else "",
        f"{len(unsaid)} without a day" if unsaid else "",
        f"two days for {', '.join(twice)}" if twice else "",
    )
    checks = [
        holds(
            "schedule",
            "fits",
            "The job fits its days",
            found.dates.fits,
            "; ".join(found.dates.stops) or "every task has its days",
            "days for every task",
            remedy="These cannot be had together: move a delivery, a hire or a promised day, ask for "
            "the locate anew, or begin on another day.",
            source=SOLVED,
            given="schedule.start_date",
        ),
        at_least(
            "schedule",
            "crew",
            "Nobody lifts alone",
            float(givens.people),
            LEAST_PEOPLE,
            "count",
            remedy="Two to lift a module or a beam, and nobody alone at a driver or in a trench.",
            source=COMMON_PRACTICE,
            given="schedule.people",
        ),
    ]
    if givens.locks:
        checks.append(
            holds(
                "schedule",
                "locks",
                "What is held to a day is known",
                not any(wrong),
                "; ".join(filter(None, wrong)) or "all known",
                "a task of this job and one day",
                remedy=f"Tasks are called: {', '.join(names[:12])}.",
                source=COMMON_PRACTICE,
                given="schedule.locks",
            )
        )
    return tuple(checks)


def _locate_checks(found: SchedulePlan, marks: Marks) -> tuple[Check, ...]:
    if not any(task.digs for task in found.tasks):
        return ()
    waiting = f"no answer from {', '.join(marks.waits_for)}" if marks.waits_for else ""
    return (
        holds(
            "schedule",
            "locate",
            "Nothing enters the ground before it is located",
            not marks.waits_for,
            waiting or "all answered",
            "an answer of every owner",
            remedy="The days here are hoped for. Do not dig, drive or stake before every owner has "
            "answered.",
            source=LOCAL_RULE,
            given="site.tickets",
        ),
    )


def _known_checks(found: SchedulePlan, givens: ScheduleGivens) -> tuple[Check, ...]:
    """What is not known of the days that are planned: told, never taken for granted."""
    forecast = {day for day, _, _ in givens.forecast}
    weathered = sorted(
        {day for t in found.tasks if t.lifts or t.glues or t.pours for day, _, _ in found.worked(t.id)}
    )
    blind = [day for day in weathered if day not in forecast]
    wanted = dict.fromkeys(what for task in found.tasks for what in task.needs)
    unsaid = [w for w in wanted if not any(d.what == w and d.arrives for d in givens.deliveries)]
    paced = [task for task in found.tasks if not task.inspected]
    guessed = [task for task in paced if not task.own_pace]
    return (
        holds(
            "schedule",
            "forecast",
            "Wind and cold are known for the days of lifting, gluing and pouring",
            not blind,
            f"not looked at on {len(blind)} of {len(weathered)} days"
            + (f", first on {blind[0].isoformat()}" if blind else ""),
            "a forecast of each",
            remedy="Type or paste the forecast when it is known: a windy or frosty day moves the rest.",
            source=COMMON_PRACTICE,
            given="schedule.forecast",
            otherwise="look",
        ),
        holds(
            "schedule",
            "deliveries",
            "It is said when everything comes",
            not unsaid,
            f"not said: {', '.join(unsaid)}" if unsaid else "all said",
            "a day for each",
            remedy="What is not said is taken to be there on the first day.",
            source=COMMON_PRACTICE,
            given="schedule.deliveries",
            otherwise="look",
        ),
        holds(
            "schedule",
            "rates",
            "The paces are the crew's own",
            not guessed,
            f"common practice for {len(guessed)} of {len(paced)} tasks" if guessed else "all said",
            "what the crew knows of itself",
            remedy="Common practice is a start: a crew that is new to it takes twice as long.",
            source=COMMON_PRACTICE,
            given="schedule.drive_per_h",
            otherwise="look",
        ),
    )
