"""Every line of the list with the work that begins with it, and what stops where it is missing."""

import re
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from datetime import date
from functools import cache
from zlib import crc32

from openfurrow.core.codes import constant, table
from openfurrow.core.materials.lines import MaterialLine
from openfurrow.core.schedule.calendar import SLOT_H
from openfurrow.core.schedule.crew import Task
from openfurrow.core.schedule.givens import Comes
from openfurrow.core.schedule.plan import SchedulePlan

# Of two lines that share a key the second bears a number.
_NUMBERED = re.compile(r"_\d+$")


@dataclass(frozen=True)
class Stops:
    """What cannot be done without it: tasks, of how many, and the hours that all work at them."""

    tasks: int
    of: int
    hours: float


@dataclass(frozen=True, kw_only=True)
class Part:
    """A line of the list: what it comes with, and the work that begins with it on the ``first`` day.

    ``loose`` things (sand, wet concrete) come on a truck of their own, but for a few bags. ``first`` is
    None where the schedule finds no days.
    """

    line: MaterialLine
    comes: Comes
    loose: bool
    tasks: tuple[str, ...]
    first: date | None
    stops: Stops

    @property
    def of(self) -> str:
        """By what it is known while it stays the same thing: its key, its words and its length."""
        same = f"{self.line.item} {self.line.length_m:.4f}"
        return f"{plain_key(self.line.key)}~{crc32(same.encode()):08x}"

    @property
    def pieces(self) -> int:
        """Into how many it can be parted between loads: what is not counted goes whole."""
        return round(self.line.quantity) if self.line.kind == "count" else 1


def plain_key(key: str) -> str:
    """A line's key without the number that tells it from others of the same key."""
    return _NUMBERED.sub("", key)


@dataclass(frozen=True)
class _Use:
    """``steps`` are tried in their order: those of one that the job has are all meant."""

    comes: Comes
    steps: tuple[tuple[str, ...], ...]
    loose: bool


@cache
def _uses() -> dict[tuple[str, str], _Use]:
    """What each line comes with and is used at, by stage and key; ``*`` is any other of the stage."""
    texts = table("common", "part_use").texts
    rows = zip(*(texts[name] for name in ("stage", "key", "comes", "steps", "loose")), strict=True)
    return {
        (stage, key): _Use(comes, tuple(tuple(one.split("+")) for one in steps.split()), loose == "yes")
        for stage, key, comes, steps, loose in rows
    }


def use_of(line: MaterialLine) -> _Use:
    """How a line of the list is used."""
    uses = _uses()
    return uses.get((line.stage, plain_key(line.key)), uses[line.stage, "*"])


def _step(task: Task) -> str:
    """What is done in a task, whosever it is."""
    return task.id.rsplit(":", 1)[-1]


def followers(tasks: Iterable[Task]) -> Callable[[str], frozenset[str]]:
    """For a task all that cannot be done without it, itself among them."""
    after: dict[str, list[str]] = {}
    for task in tasks:
        for before, _ in task.after:
            after.setdefault(before, []).append(task.id)

    @cache
    def reached(task: str) -> frozenset[str]:
        return frozenset({task}).union(*(reached(one) for one in after.get(task, ())))

    return reached


def parts_of(lines: tuple[MaterialLine, ...], schedule: SchedulePlan) -> tuple[Part, ...]:
    """The lines, each with the tasks that begin with it.

    Of what several arrays share all of it is there for the first that needs it.
    """
    by_step: dict[str, list[str]] = {}
    for task in schedule.tasks:
        by_step.setdefault(_step(task), []).append(task.id)
    reached, slots = followers(schedule.tasks), {t.id: t.slots * t.people for t in schedule.tasks}
    first = {
        task.id: min((day for day, _, _ in schedule.worked(task.id)), default=None)
        for task in schedule.tasks
    }

    @cache
    def stopped(tasks: tuple[str, ...]) -> Stops:
        every = frozenset[str]().union(*map(reached, tasks))
        return Stops(len(every), len(slots), sum(slots[one] for one in every) * SLOT_H)

    def part(line: MaterialLine) -> Part:
        use = use_of(line)
        meant = (tuple(t for step in one for t in by_step.get(step, ())) for one in use.steps)
        # What no work is known of is wanted before any begins.
        tasks = next(filter(None, meant), tuple(slots))
        days = [day for one in tasks if (day := first[one])]
        return Part(
            line=line,
            comes=use.comes,
            loose=use.loose and line.mass_kg >= constant("common", "loose_least_kg").value,
            tasks=tasks,
            first=min(days, default=None),
            stops=stopped(tasks),
        )

    return tuple(map(part, lines))
