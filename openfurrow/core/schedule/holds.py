"""What keeps a task from a day, and the record that lifts it."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import table
from openfurrow.core.quantities import spoken
from openfurrow.core.schedule.calendar import Calendar
from openfurrow.core.schedule.crew import Task
from openfurrow.core.schedule.givens import ScheduleGivens
from openfurrow.core.schedule.solve import Limit
from openfurrow.core.site.tickets import TicketGivens, working_days_after

Truths = NDArray[np.bool_]
OFFICE_DAYS = 5


@dataclass(frozen=True, kw_only=True)
class Hold:
    """Tasks that may be worked on some days alone.

    ``days`` says on which working days, ``lifted_by`` which record says so, ``given`` where it is
    typed. ``open``: that record is not there yet, and the days are what may be hoped for.
    """

    key: str
    words: str
    tasks: tuple[str, ...]
    days: tuple[bool, ...]
    lifted_by: str
    given: str
    open: bool = False

    @property
    def limit(self) -> Limit:
        """As the solver takes it."""
        return Limit(self.words, self.days)


@dataclass(frozen=True)
class Marks:
    """The days on which the locate answers of all owners stand together.

    ``waits_for`` are owners who have not answered: then ``first`` is the day they may have.
    """

    first: date
    last: date | None
    waits_for: tuple[str, ...]


def marks_of(tickets: tuple[TicketGivens, ...], start: date, wait_days: int, life_days: int) -> Marks:
    """From when until when the ground may be opened as far as the owners of lines go.

    Of several answers of one owner that counts which stands longest.
    """
    firsts, lasts, waiting = [start], list[date](), list[str]()
    asked_of = (*table("common", "utility").texts["utility"], "other")
    for utility in asked_of:
        of = [ticket for ticket in tickets if ticket.utility == utility]
        answered = [t for t in of if t.responded is not None and t.reply != "none yet"]
        if not of and utility == "other":
            continue
        if not answered:
            waiting.append(utility)
            days = [t.requested for t in of if t.requested is not None]
            firsts.append(working_days_after(min(days, default=start), wait_days))
            continue
        until, since = max((_ends(t, life_days), t.responded or start) for t in answered)
        firsts.append(since)
        lasts.append(until)
    return Marks(max(firsts), min(lasts, default=None), tuple(waiting))


def _ends(ticket: TicketGivens, life_days: int) -> date:
    assert ticket.responded is not None
    return ticket.expires or ticket.responded + timedelta(days=life_days)


def _between(calendar: Calendar, first: date | None, last: date | None) -> tuple[bool, ...]:
    return tuple(
        (first is None or one.day >= first) and (last is None or one.day <= last)
        for one in calendar.days
    )


def _said(first: date | None, last: date | None) -> str:
    parts = [f"from {first.isoformat()}" if first else "", f"until {last.isoformat()}" if last else ""]
    return " ".join(filter(None, parts))


def _ids(tasks: Iterable[Task]) -> tuple[str, ...]:
    return tuple(task.id for task in tasks)


def locate_holds(
    tasks: tuple[Task, ...], calendar: Calendar, marks: Marks, dig_date: date
) -> tuple[Hold, ...]:
    """Nothing enters the ground before every owner of lines has answered, nor after an answer ends."""
    first = max(marks.first, dig_date)
    words = (
        f"locate not answered by {', '.join(marks.waits_for)}: hoped for {_said(first, marks.last)}"
        if marks.waits_for
        else f"located {_said(first, marks.last)}"
    )
    return (
        Hold(
            key="locate",
            words=words,
            tasks=_ids(task for task in tasks if task.digs),
            days=_between(calendar, first, marks.last),
            lifted_by="the answer of every owner of buried lines",
            given="site.tickets",
            open=bool(marks.waits_for),
        ),
    )


def delivery_holds(
    tasks: tuple[Task, ...], calendar: Calendar, givens: ScheduleGivens
) -> tuple[Hold, ...]:
    """Nothing begins before what it needs is there, nor goes on when what is hired has gone."""
    found = []
    for what in dict.fromkeys(needed for task in tasks for needed in task.needs):
        said = [one for one in givens.deliveries if one.what == what and (one.arrives or one.leaves)]
        if not said:
            continue
        days = np.zeros(len(calendar.days), dtype=bool)
        for one in said:
            days |= np.array(_between(calendar, one.arrives, one.leaves), dtype=bool)
        spans = " and ".join(_said(one.arrives, one.leaves) for one in said)
        found.append(
            Hold(
                key=f"comes {what}",
                words=f"{what}: there {spans}",
                tasks=_ids(task for task in tasks if what in task.needs),
                days=tuple(days.tolist()),
                lifted_by="its delivery note",
                given=f"schedule.deliveries.{said[0].id}.arrives",
            )
        )
    return tuple(found)


def office_holds(tasks: tuple[Task, ...], calendar: Calendar) -> tuple[Hold, ...]:
    """Inspectors come on an office's days; nothing to say where the crew works on no others."""
    seen = _ids(task for task in tasks if task.inspected)
    days = tuple(one.day.weekday() < OFFICE_DAYS for one in calendar.days)
    if not seen or all(days):
        return ()
    return (
        Hold(
            key="office",
            words="inspectors come from Monday to Friday",
            tasks=seen,
            days=days,
            lifted_by="what the authority says",
            given="schedule.works_on",
        ),
    )


def weather_holds(
    tasks: tuple[Task, ...], calendar: Calendar, givens: ScheduleGivens
) -> tuple[Hold, ...]:
    """No gluing nor pouring in the cold, no lifting in the wind, on days whose forecast is known."""
    cold = {day for day, low_c, _ in givens.forecast if low_c < givens.glue_least_c}
    frosty = {day for day, low_c, _ in givens.forecast if low_c < givens.pour_least_c}
    windy = {day for day, _, wind in givens.forecast if wind > givens.lift_wind_m_s}
    sides = (
        ("cold", cold, "glues", f"no gluing below {spoken(givens.glue_least_c, 'temperature')}"),
        ("frost", frosty, "pours", f"no pouring below {spoken(givens.pour_least_c, 'temperature')}"),
        ("wind", windy, "lifts", f"no lifting above {spoken(givens.lift_wind_m_s, 'speed')}"),
    )
    found = []
    for key, bad, what, words in sides:
        held = _ids(task for task in tasks if getattr(task, what))
        worked = [one.day for one in calendar.days if one.day in bad]
        if not held or not worked:
            continue
        named = ", ".join(day.isoformat() for day in worked[:4]) + (" and more" * (len(worked) > 4))
        found.append(
            Hold(
                key=key,
                words=f"{words}: not on {named}",
                tasks=held,
                days=tuple(one.day not in bad for one in calendar.days),
                lifted_by="the anemometer" if key == "wind" else "the thermometer",
                given="schedule.forecast",
            )
        )
    return tuple(found)
