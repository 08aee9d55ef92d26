"""A task, how fast it goes, and the crew that does it."""

import math
from dataclasses import dataclass

from openfurrow.core.codes import table
from openfurrow.core.schedule.calendar import SLOT_H
from openfurrow.core.schedule.givens import Comes

BY_HAND = "by hand"


@dataclass(frozen=True, kw_only=True)
class Task:
    """One task: so much of it at a pace, by so many people, in half hours of their work.

    ``pace_per_h`` is this crew's, ``own_pace`` where it said so itself. ``digs``, ``lifts``, ``glues``
    and ``pours`` say what can hold it, ``needs`` what has to be there, ``after`` what is done before
    and how many office days lie between.
    """

    id: str
    array: str
    name: str
    quantity: float
    kind: str
    pace_per_h: float
    people: int
    slots: int
    machine: str = ""
    after: tuple[tuple[str, int], ...] = ()
    needs: tuple[Comes, ...] = ()
    digs: bool = False
    lifts: bool = False
    glues: bool = False
    pours: bool = False
    inspected: bool = False
    own_pace: bool = False

    @property
    def pace_kind(self) -> str:
        """In what its pace is told."""
        return {"run": "pace", "area": "area_pace"}.get(self.kind, "per_hour")


@dataclass(frozen=True)
class Pace:
    """How much so many people do in an hour."""

    per_h: float
    people: int


def slowest(soils: tuple[str, ...], work: str) -> float:
    """What is left of the pace on easy ground, in the worst of the soils."""
    paces = table("common", "soil_pace")
    return min((paces.number(work, paces.row("soil_class", soil)) for soil in soils), default=1.0)


def usual_pace(task: str, machine: str = BY_HAND, soils: tuple[str, ...] = ()) -> Pace:
    """Common practice for a task and a machine; slower in the worst of the soils."""
    rates = table("common", "rate")
    pairs = zip(rates.texts["task"], rates.texts["machine"], strict=True)
    row = next(number for number, pair in enumerate(pairs) if pair == (task, machine))
    share = slowest(soils, task) if task in ("drive", "dig", "bore", "screw") else 1.0
    return Pace(rates.number("rate_per_h", row) * share, round(rates.number("people", row)))


@dataclass(frozen=True)
class Crew:
    """Makes tasks of what a crew of so many has to do."""

    people: int

    def task(self, pace: Pace, said: float | None, *, quantity: float, **facts: object) -> Task:
        """A task at the pace that was said, or else at the usual one; fewer people take longer."""
        people = min(pace.people, self.people)
        per_h = (said if said is not None else pace.per_h) * people / pace.people
        slots = max(1, math.ceil(quantity / per_h / SLOT_H - 1e-9))
        return Task(
            quantity=quantity,
            pace_per_h=per_h,
            people=people,
            slots=slots,
            own_pace=said is not None,
            **facts,  # type: ignore[arg-type]
        )
