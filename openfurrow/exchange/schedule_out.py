"""The schedule as a calendar (RFC 5545) and as CSV."""

import hashlib
from datetime import datetime, time, timedelta
from zoneinfo import ZoneInfo

from icalendar import Calendar, Event

from openfurrow.core.design import Design
from openfurrow.core.edits import DesignError, Problem
from openfurrow.core.lacking import said
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import format_value, in_words
from openfurrow.core.schedule.calendar import SLOT_H
from openfurrow.core.schedule.plan import SchedulePlan
from openfurrow.exchange.csv_out import csv_text
from openfurrow.exchange.wanted import Wanted


def _dated(plan: Plan) -> SchedulePlan:
    """The schedule. Raises DesignError where nothing fits, Lacking where too little is known."""
    found = plan.schedule
    if not found.dates.fits:
        raise DesignError(
            (
                Problem(
                    "schedule",
                    "Schedule",
                    f"does not fit: {'; '.join(found.dates.stops)}",
                    "days for every task",
                    "Move a delivery, a hire or a promised day, or ask for the locate anew.",
                ),
            )
        )
    return found


def schedule_csv(design: Design, plan: Plan, wanted: Wanted) -> str:
    """One line a task: how much, by whom, from when until when, what holds it and who lifts that."""
    found = _dated(plan)
    head = ["task", "quantity", "people", "hours", "begins", "ends", "holds", "lifted_by"]

    def row(number: int) -> list[object]:
        task = found.tasks[number]
        worked = found.worked(task.id)
        holds = [hold for hold in found.holds if task.id in hold.tasks]
        (first, begin, _), (last, _, end) = worked[0], worked[-1]
        return [
            task.name,
            format_value(task.quantity, task.kind, wanted.units),
            task.people,
            f"{task.slots * SLOT_H:.1f}",
            f"{first.isoformat()} {format_value(begin, 'clock', wanted.units)}",
            f"{last.isoformat()} {format_value(end, 'clock', wanted.units)}",
            "; ".join(in_words(hold.words, wanted.units) for hold in holds),
            "; ".join(hold.lifted_by for hold in holds),
        ]

    return csv_text(head, (row(number) for number in range(len(found.tasks))))


def schedule_ics(design: Design, plan: Plan, wanted: Wanted) -> str:
    """An event for every task on every day that it is worked, in the site's own time."""
    found = _dated(plan)
    zone = ZoneInfo(said("site.time_zone", design.site.time_zone))
    job = hashlib.sha256(design.name.encode()).hexdigest()[:12]
    out = Calendar()
    out.add("prodid", "-//Open Furrow//Schedule//EN")
    out.add("version", "2.0")
    out.add("x-wr-calname", design.name)
    for task in found.tasks:
        holds = [hold for hold in found.holds if task.id in hold.tasks]
        words = [f"{in_words(h.words, wanted.units)} (lifted by {h.lifted_by})" for h in holds]
        for day, begin, end in found.worked(task.id):
            midnight = datetime.combine(day, time())
            start = (midnight + timedelta(hours=begin)).replace(tzinfo=zone)
            event = Event()
            event.add("uid", f"{job}-{task.id.replace(':', '-')}-{start:%Y%m%dT%H%M}@open-furrow")
            # The same plan is the same file: the stamp is the plan's own first day.
            event.add("dtstamp", datetime.combine(found.calendar.days[0].day, time(), ZoneInfo("UTC")))
            event.add("dtstart", start)
            event.add("dtend", (midnight + timedelta(hours=end)).replace(tzinfo=zone))
            event.add("summary", f"{task.name} ({task.people})")
            event.add("description", "\n".join((f"{design.name}", *words)))
            out.add_component(event)
    out.add_missing_timezones()
    return str(out.to_ical(), "utf-8")
