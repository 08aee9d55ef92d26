"""The schedule as bars: a column a day that is worked with its light, a line a task with its holds."""

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, in_words
from openfurrow.core.schedule.plan import SchedulePlan
from openfurrow.sheets.marks import Drawing, Mark, box, drawing, label, line

# More columns than this are no wider than a pencil: the table and the files have them all.
SHOWN_DAYS = 40
# A column holds this much of the day, by the clock.
FROM_H, UNTIL_H = 4.0, 22.0
# Above so many days a column bears no date but each Monday's.
DATED = 12
BAR = 0.34


def _across(at: int, clock_h: float) -> float:
    """Where a moment stands: days are columns, night is left out."""
    return at + (min(max(clock_h, FROM_H), UNTIL_H) - FROM_H) / (UNTIL_H - FROM_H)


def schedule_drawing(plan: Plan, units: UnitSystem) -> tuple[Drawing, ...]:
    """Bars of every task from the first day worked to the last that there is room for."""
    found = plan.schedule
    if not found.dates.pieces:
        return ()
    last = int(found.calendar.day_of[found.dates.finish - 1])
    days = min(last + 1, SHOWN_DAYS)
    lines = len(found.tasks)
    marks = [mark for at in range(days) for mark in _column(found, at, lines, days)]
    for number, task in enumerate(found.tasks):
        y = -float(number)
        marks += _held(found, task.id, y, days)
        bars = [
            (_across(at, begin), _across(at, end))
            for start, stop in found.dates.pieces[task.id]
            for at, begin, end in found.calendar.spans(start, stop)
            if at < days
        ]
        layer = "task-watched" if task.inspected else "task"
        marks += [box(layer, begin, y - BAR, end, y + BAR) for begin, end in bars]
        if bars:
            marks.append(_name(task.name, bars[0][0], bars[-1][1], y, days))
    left_out = f"{last + 1 - days} more days stand in the table and the files." if last >= days else ""
    notes = tuple(in_words(hold.words, units) for hold in found.holds)
    return (
        drawing(
            "schedule",
            f"From {found.calendar.days[0].day:%d %b %Y} to {found.finish:%d %b %Y}",
            marks,
            low=(0.0, -lines + 0.3),
            high=(float(days), 2.5),
            to_scale=False,
            legend=tuple(filter(None, (left_out, *notes))),
        ),
    )


def _column(found: SchedulePlan, at: int, lines: int, days: int) -> list[Mark]:
    """A day: its light, and its date above."""
    one = found.calendar.days[at]
    low = -lines + 0.5
    marks = [
        box("daylight", _across(at, one.sunrise_h), low, _across(at, one.sunset_h), 0.5),
        line("fine", (float(at), low), (float(at), 0.6)),
    ]
    monday = at == 0 or one.day.isocalendar().week != found.calendar.days[at - 1].day.isocalendar().week
    if days <= DATED:
        marks.append(label(f"{one.day.day}", (at + 0.5, 0.95), "strong"))
    if monday:
        marks += [
            line("axis", (float(at), low), (float(at), 2.4)),
            label(f" {one.day:%a} {one.day.day} {one.day:%b}", (at + 0.05, 1.95), "note", "start"),
        ]
    return marks


def _name(text: str, begins: float, ends: float, y: float, days: int) -> Mark:
    """A task's name on that side of its bars on which there is more room."""
    if begins > days - ends:
        return label(f"{text}\u2002", (begins, y), "note", "end")
    return label(f"\u2002{text}", (ends, y), "note", "start")


def _held(found: SchedulePlan, task: str, y: float, days: int) -> list[Mark]:
    """The days on which a task may not be worked."""
    held = [hold for hold in found.holds if task in hold.tasks]
    return [
        box("hold", float(at), y - BAR, at + 1.0, y + BAR)
        for at in range(days)
        if not all(hold.days[at] for hold in held)
    ]
