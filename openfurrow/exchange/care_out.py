"""The days of care as a calendar (RFC 5545)."""

import hashlib
from datetime import UTC, datetime, time, timedelta

from icalendar import Calendar, Event

from openfurrow.core.as_built import handover_of
from openfurrow.core.design import Design
from openfurrow.core.edits import DesignError, Problem
from openfurrow.core.plan import Plan
from openfurrow.exchange.wanted import Wanted


def care_ics(design: Design, plan: Plan, wanted: Wanted) -> str:
    """A whole day for everything that is looked at. Raises DesignError where no day fits, Lacking."""
    found = handover_of(plan)
    if found.day is None:
        problem = Problem(
            "schedule",
            "Hand-over",
            "has no day yet",
            "a schedule that fits",
            "Care is counted from the day on which all is done.",
        )
        raise DesignError((problem,))
    job = hashlib.sha256(design.name.encode()).hexdigest()[:12]
    out = Calendar()
    out.add("prodid", "-//Open Furrow//Care//EN")
    out.add("version", "2.0")
    out.add("x-wr-calname", f"{design.name}: care")
    for one in found.care:
        event = Event()
        event.add("uid", f"{job}-care-{one.key}-{one.day:%Y%m%d}@open-furrow")
        # The same plan is the same file: the stamp is the day it was handed over.
        event.add("dtstamp", datetime.combine(found.day, time(), UTC))
        event.add("dtstart", one.day)
        event.add("dtend", one.day + timedelta(days=1))
        event.add("summary", one.what)
        event.add("description", f"{design.name}\n{one.why}")
        out.add_component(event)
    return str(out.to_ical(), "utf-8")
