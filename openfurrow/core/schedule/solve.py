"""The earliest finish: tasks on slots, under a crew, machines and the days on which each may be done.

Solved by CP-SAT with one worker, one seed and a limit that no clock decides, so that the same tasks
are dated the same everywhere.
"""

from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray
from ortools.sat.python import cp_model

from openfurrow.core.schedule.calendar import Calendar

Truths = NDArray[np.bool_]
Integers = NDArray[np.int64]
# A task that has to stop on some days is done in pieces of at most half a day.
PIECE_SLOTS = 8
# Work done, not seconds: about a second on a small machine for sixty tasks. More found nothing better.
SEARCH_LIMIT = 0.2
# A task that may begin nowhere makes no valid model.
IMPOSSIBLE = (cp_model.INFEASIBLE, cp_model.MODEL_INVALID)
UNKNOWN = "no dates were found, and none were proved impossible"


@dataclass(frozen=True)
class Limit:
    """On which days a task may be worked, and the name of what says so."""

    name: str
    days: tuple[bool, ...]


@dataclass(frozen=True)
class Work:
    """A task as the solver sees it.

    ``after``: the tasks before it, each with how many office days later it may begin at the earliest
    (nought: at once). ``on``: the day it has to begin. ``in_one``: it is not left and taken up again on
    another day.
    """

    id: str
    slots: int
    people: int
    machine: str = ""
    after: tuple[tuple[str, int], ...] = ()
    limits: tuple[Limit, ...] = ()
    on: int | None = None
    in_one: bool = False
    name: str = ""


@dataclass(frozen=True)
class Dates:
    """From which slot to before which each task is worked, in pieces, and when all of it is done.

    ``bound`` is the slot before which nothing can finish. Where nothing fits there are no pieces, and
    ``stops`` names what cannot be had together.
    """

    pieces: dict[str, tuple[tuple[int, int], ...]] = field(default_factory=dict)
    finish: int = 0
    bound: int = 0
    stops: tuple[str, ...] = ()

    @property
    def fits(self) -> bool:
        """Whether there are dates at all."""
        return not self.stops


def _allowed(work: Work, calendar: Calendar) -> Truths:
    """Which slots a task may be worked in."""
    days = np.ones(len(calendar.days), dtype=bool)
    for limit in work.limits:
        days &= np.array(limit.days, dtype=bool)
    return np.asarray(days[calendar.day_of])


def _lengths(work: Work, allowed: Truths) -> list[int]:
    """The pieces that a task is done in: one, unless it may have to stop between."""
    spells = int(np.count_nonzero(np.diff(np.concatenate(([0], allowed.astype(np.int8)))) == 1))
    if work.in_one or spells < 2:
        return [work.slots]
    count = -(-work.slots // PIECE_SLOTS)
    return [work.slots // count + (number < work.slots % count) for number in range(count)]


def _starts(work: Work, length: int, allowed: Truths, calendar: Calendar, *, first: bool) -> Truths:
    """Slots at which a piece may begin: all that it covers are allowed."""
    total = calendar.slots
    if length > total:
        return np.zeros(total, dtype=bool)
    runs = np.convolve(allowed, np.ones(length, dtype=np.int64))[length - 1 :]
    found = np.zeros(total, dtype=bool)
    found[: total - length + 1] = runs[: total - length + 1] == length
    if work.in_one:
        last = np.minimum(np.arange(total) + length - 1, total - 1)
        found &= calendar.day_of == calendar.day_of[last]
    if first and work.on is not None:
        found &= calendar.day_of == work.on
    return found


def release(calendar: Calendar, end: int, lag_days: int) -> int:
    """The first slot at which something may begin that follows, so many days of an office later."""
    if not lag_days:
        return end
    return int(calendar.first[calendar.after_notice(int(calendar.day_of[end - 1]), lag_days)])


def longest_first(works: tuple[Work, ...]) -> tuple[Work, ...]:
    """The same tasks, those first after which most is still to be done; each after what it follows."""
    tails: dict[str, int] = {}
    for work in reversed(works):
        own = tails.get(work.id, 0) + work.slots
        tails[work.id] = own
        for before, _ in work.after:
            tails[before] = max(tails.get(before, 0), own)
    return tuple(sorted(works, key=lambda work: -tails[work.id]))


def greedy(works: tuple[Work, ...], calendar: Calendar, people: int) -> Dates | None:
    """Each task in its turn as early as it goes: quick, and what the search begins with.

    Tasks stand after those they follow. None where one finds no place.
    """
    busy = np.zeros(calendar.slots, dtype=np.int64)
    machines: dict[str, Truths] = {}
    pieces: dict[str, tuple[tuple[int, int], ...]] = {}
    for work in works:
        allowed = _allowed(work, calendar)
        at = max((release(calendar, pieces[id_][-1][1], lag) for id_, lag in work.after), default=0)
        taken = machines.setdefault(work.machine, np.zeros(calendar.slots, dtype=bool))
        found: list[tuple[int, int]] = []
        for length in _lengths(work, allowed):
            free = allowed & (busy + work.people <= people)
            if work.machine:
                free &= ~taken
            starts = np.flatnonzero(_starts(work, length, free, calendar, first=not found)[at:])
            if not starts.size:
                return None
            start = at + int(starts[0])
            at = start + length
            found.append((start, at))
            busy[start:at] += work.people
            if work.machine:
                taken[start:at] = True
        pieces[work.id] = tuple(found)
    finish = max((spans[-1][1] for spans in pieces.values()), default=0)
    return Dates(pieces, finish, 0)


def dated(works: tuple[Work, ...], calendar: Calendar, people: int) -> Dates:
    """When each task is worked so that all are done as early as can be.

    Tasks stand after those they follow; none asks for more people than there are.
    """
    if not works:
        return Dates()
    tried = (greedy(order, calendar, people) for order in (works, longest_first(works)))
    quick = min((one for one in tried if one), key=lambda one: one.finish, default=None)
    horizon = quick.finish if quick else calendar.slots
    least = least_finish(works, calendar, people)
    if quick and quick.finish == least:
        # As early as can be: there is nothing to look for.
        return replace(quick, bound=least)
    model = _Model(works, calendar, people, horizon)
    if quick:
        model.hint(quick)
    solver = _solver()
    status = solver.solve(model.model)
    if status in IMPOSSIBLE:
        return Dates(stops=_stops(works, calendar, people))
    if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return replace(quick, bound=least) if quick else Dates(stops=(UNKNOWN,))
    return model.read(solver, max(round(solver.best_objective_bound), least))


def least_finish(works: tuple[Work, ...], calendar: Calendar, people: int) -> int:
    """The slot before which nothing can finish: nobody does two things at once, nor any too early.

    The greater of what the crew takes for all of it and of the longest chain of tasks.
    """
    together = -(-sum(work.slots * work.people for work in works) // people)
    ends: dict[str, int] = {}
    for work in works:
        allowed = np.flatnonzero(_allowed(work, calendar))
        ready = max((release(calendar, ends[id_], lag) for id_, lag in work.after), default=0)
        later = allowed[allowed >= ready]
        # So many slots that are allowed have to pass at least.
        ends[work.id] = int(later[work.slots - 1]) + 1 if later.size >= work.slots else calendar.slots
    return max(together, *ends.values())


def _solver() -> cp_model.CpSolver:
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = 1
    solver.parameters.random_seed = 0
    solver.parameters.max_deterministic_time = SEARCH_LIMIT
    return solver


def _stops(works: tuple[Work, ...], calendar: Calendar, people: int) -> tuple[str, ...]:
    """What cannot be had together: of all that holds, so few that they leave no dates."""
    alone = next((found for work in works if (found := _alone(work, calendar))), ())
    if alone:
        return alone
    if not _fits(works, calendar, people, frozenset()):
        return (f"the work and the crew: more than {len(calendar.days)} working days",)
    model = _Model(works, calendar, people, calendar.slots, named=True)
    solver = _solver()
    if solver.solve(model.model) not in IMPOSSIBLE:
        return (UNKNOWN,)
    core = solver.sufficient_assumptions_for_infeasibility()
    names = {literal.index: name for name, literal in model.names.items()}
    kept = [names[index] for index in core if index in names]
    # The solver's set may hold more than it must: what can be left out is.
    for name in tuple(kept):
        fewer = [one for one in kept if one != name]
        if fewer and not _fits(works, calendar, people, frozenset(fewer)):
            kept = fewer
    return tuple(sorted(kept)) or (UNKNOWN,)


def _begin_on(work: Work) -> str:
    """What it is called that a task is held to a day."""
    return f"{work.name or work.id} begins on its day"


def _alone(work: Work, calendar: Calendar) -> tuple[str, ...]:
    """What leaves a task no place whatever the others do: so few of its limits, and its day."""

    def place(kept: tuple[str, ...]) -> bool:
        held = replace(
            work,
            limits=tuple(limit for limit in work.limits if limit.name in kept),
            on=work.on if _begin_on(work) in kept else None,
        )
        allowed = _allowed(held, calendar)
        begins, *others = _lengths(held, allowed)
        starts = np.flatnonzero(_starts(held, begins, allowed, calendar, first=True))
        # What is done in pieces has to find room for the rest of them after the first.
        return bool(starts.size) and int(allowed[starts[0] + begins :].sum()) >= sum(others)

    kept = (
        *(limit.name for limit in work.limits),
        *((_begin_on(work),) if work.on is not None else ()),
    )
    if place(kept) or not place(()):
        return ()
    for name in kept:
        fewer = tuple(one for one in kept if one != name)
        if not place(fewer):
            kept = fewer
    return tuple(sorted(kept))


def _fits(works: tuple[Work, ...], calendar: Calendar, people: int, names: frozenset[str]) -> bool:
    """Whether there are dates where only what is named holds."""
    model = _Model(works, calendar, people, calendar.slots, named=True, holding=names)
    return _solver().solve(model.model) not in IMPOSSIBLE


class _Model:
    """CP-SAT's model; ``named``: what holds can be told apart, and only ``holding`` is asked for."""

    def __init__(
        self,
        works: tuple[Work, ...],
        calendar: Calendar,
        people: int,
        horizon: int,
        *,
        named: bool = False,
        holding: frozenset[str] | None = None,
    ) -> None:
        self.model, self.names = cp_model.CpModel(), dict[str, cp_model.IntVar]()
        self._works, self._calendar, self._horizon = works, calendar, horizon
        self._starts: dict[str, list[cp_model.IntVar]] = {}
        self._sizes: dict[str, list[int]] = {}
        intervals, needs = [], []
        machines: dict[str, list[cp_model.IntervalVar]] = {}
        for work in works:
            for interval in self._task(work, named):
                intervals.append(interval)
                needs.append(work.people)
                if work.machine:
                    machines.setdefault(work.machine, []).append(interval)
        self.model.add_cumulative(intervals, needs, people)
        for taken in machines.values():
            self.model.add_no_overlap(taken)
        for work in works:
            for before, lag in work.after:
                self._follow(work, before, lag)
        finish = self.model.new_int_var(0, horizon, "finish")
        for work in works:
            self.model.add(finish >= self._starts[work.id][-1] + self._sizes[work.id][-1])
        if not named:
            self.model.minimize(finish)
        else:
            wanted = self.names.keys() if holding is None else holding & self.names.keys()
            self.model.add_assumptions([self.names[name] for name in wanted])

    def _name(self, name: str) -> cp_model.IntVar:
        if name not in self.names:
            self.names[name] = self.model.new_bool_var(name)
        return self.names[name]

    def _task(self, work: Work, named: bool) -> list[cp_model.IntervalVar]:
        calendar, whole = self._calendar, _allowed(work, self._calendar)
        free = np.ones(calendar.slots, dtype=bool)
        starts, sizes, intervals = list[cp_model.IntVar](), _lengths(work, whole), []
        for number, length in enumerate(sizes):
            first = number == 0
            mask = _starts(
                Work(work.id, work.slots, work.people, in_one=work.in_one) if named else work,
                length,
                free if named else whole,
                calendar,
                first=first,
            )
            mask[self._horizon - length + 1 :] = False
            start = self.model.new_int_var_from_domain(_domain(mask), f"{work.id} {number}")
            if named:
                self._named(work, length, start, first=first)
            if starts:
                self.model.add(start >= starts[-1] + sizes[number - 1])
            starts.append(start)
            intervals.append(
                self.model.new_fixed_size_interval_var(start, length, f"{work.id} {number}")
            )
        self._starts[work.id], self._sizes[work.id] = starts, sizes
        return intervals

    def _named(self, work: Work, length: int, start: cp_model.IntVar, *, first: bool) -> None:
        """Each limit by itself, where its name holds."""
        calendar = self._calendar
        for limit in work.limits:
            alone = Work(work.id, work.slots, work.people, limits=(limit,))
            mask = _starts(alone, length, _allowed(alone, calendar), calendar, first=False)
            self._within(start, mask, self._name(limit.name))
        if first and work.on is not None:
            self._within(start, calendar.day_of == work.on, self._name(_begin_on(work)))

    def _within(self, start: cp_model.IntVar, mask: Truths, name: cp_model.IntVar) -> None:
        """A piece begins where a mask is true, if what is named holds; true nowhere, it cannot hold."""
        if mask.any():
            self.model.add_linear_expression_in_domain(start, _domain(mask)).only_enforce_if(name)
        else:
            self.model.add(name == 0)

    def _follow(self, work: Work, before: str, lag: int) -> None:
        start, last = self._starts[work.id][0], self._starts[before][-1]
        end = last + self._sizes[before][-1]
        if not lag:
            self.model.add(start >= end)
            return
        of_day = [
            int(self._calendar.first[self._calendar.after_notice(at, lag)])
            for at in range(len(self._calendar.days))
        ]
        table = [of_day[self._calendar.day_of[max(end, 1) - 1]] for end in range(self._horizon + 1)]
        free = self.model.new_int_var(0, self._calendar.slots, f"{work.id} after {before}")
        self.model.add_element(end, table, free)
        self.model.add(start >= free)

    def hint(self, dates: Dates) -> None:
        """Begin the search with dates that are known."""
        for id_, spans in dates.pieces.items():
            for variable, (start, _) in zip(self._starts[id_], spans, strict=True):
                self.model.add_hint(variable, start)

    def read(self, solver: cp_model.CpSolver, bound: int) -> Dates:
        """The dates that were found."""
        pieces = {
            work.id: tuple(
                (value := solver.value(start), value + size)
                for start, size in zip(self._starts[work.id], self._sizes[work.id], strict=True)
            )
            for work in self._works
        }
        return Dates(pieces, max(spans[-1][1] for spans in pieces.values()), bound)


def _domain(mask: Truths) -> cp_model.Domain:
    """The places at which a mask is true; none where it is true nowhere."""
    edges = np.flatnonzero(np.diff(np.concatenate(([0], mask.astype(np.int8), [0]))))
    return cp_model.Domain.from_intervals(
        [[int(a), int(b) - 1] for a, b in zip(edges[::2], edges[1::2], strict=True)]
    )
