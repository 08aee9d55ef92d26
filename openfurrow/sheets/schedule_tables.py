"""The schedule as lists: what each day brings, and every task with what holds it."""

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value, in_words
from openfurrow.core.schedule.calendar import SLOT_H
from openfurrow.core.schedule.crew import Task
from openfurrow.core.schedule.plan import SchedulePlan
from openfurrow.sheets.models import Column, TableText
from openfurrow.sheets.tables import SHOWN_ROWS

DayLine = tuple[str, str, str, str, str, str]


def how_much(task: Task, units: UnitSystem) -> str:
    """What there is of a task."""
    return format_value(task.quantity, task.kind, units)


def pace(task: Task, units: UnitSystem) -> str:
    """How fast this crew does it."""
    return format_value(task.pace_per_h, task.pace_kind, units)


def day_lines(found: SchedulePlan, units: UnitSystem) -> list[DayLine]:
    """One line a task and day: day, from, until, task, people, and what to see to first."""
    lines = []
    for task in found.tasks:
        holds = [hold for hold in found.holds if task.id in hold.tasks]
        words = "; ".join(f"{in_words(hold.words, units)}: {hold.lifted_by}" for hold in holds)
        spans: dict[str, list[float]] = {}
        for day, begin, end in found.worked(task.id):
            spans.setdefault(f"{day:%a} {day.isoformat()}", []).extend((begin, end))
        for on, clocks in spans.items():
            from_, until = (format_value(pick(clocks), "clock", units) for pick in (min, max))
            lines.append((on, from_, until, task.name, str(task.people), words))
    return sorted(lines, key=lambda one: (one[0][4:], one[1]))


def days_table(plan: Plan, units: UnitSystem) -> TableText:
    """The day sheets, one after the other."""
    lines = day_lines(plan.schedule, units)
    titles = (
        ("Day", False),
        ("From", True),
        ("Until", True),
        ("What", False),
        ("People", True),
        ("First see to", False),
    )
    return TableText(
        key="days",
        title="Day by day",
        columns=tuple(Column(title=title, number=number) for title, number in titles),
        rows=tuple(lines[:SHOWN_ROWS]),
        left_out=max(0, len(lines) - SHOWN_ROWS),
        note="",
    )


def tasks_table(plan: Plan, units: UnitSystem) -> TableText:
    """Every task in the order of the job."""
    found = plan.schedule
    titles = (
        ("Task", False),
        ("How much", True),
        ("Pace", True),
        ("People", True),
        ("Hours", True),
        ("Begins", True),
        ("Ends", True),
    )
    rows = []
    for task in found.tasks:
        worked = found.worked(task.id)
        ends = (worked[0][0].isoformat(), worked[-1][0].isoformat()) if worked else ("", "")
        hours = format_value(task.slots * SLOT_H, "hours", units)
        much = how_much(task, units), pace(task, units)
        rows.append((task.name, *much, str(task.people), hours, *ends))
    return TableText(
        key="tasks",
        title="Tasks",
        columns=tuple(Column(title=title, number=number) for title, number in titles),
        rows=tuple(rows[:SHOWN_ROWS]),
        left_out=max(0, len(rows) - SHOWN_ROWS),
        note="The pace is this crew's: where fewer do it than is usual it takes longer.",
    )
