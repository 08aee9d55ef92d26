"""How long a job's dates take to find, and how near they come to what no order of work can beat.

The peer is the quick list that takes each task in its turn; the bound is the greater of the crew's
hours and of the longest chain of tasks. Run: ./furrow bench schedule
"""

import statistics
import time
from collections.abc import Callable

import numpy as np

from openfurrow.core.schedule.calendar import Calendar, Hours, calendar_of
from openfurrow.core.schedule.solve import Dates, Limit, Work, dated, greedy, least_finish
from openfurrow.core.sun.spot import Spot
from openfurrow.demo.larkspur import WEEK

SPOT = Spot(44.9, -116.1, 1530.0, "America/Boise")
PEOPLE = 6
SIZES = (10, 30, 60, 120)


def job(tasks: int, calendar: Calendar) -> tuple[Work, ...]:
    """So many tasks, half of them in chains of five, with machines and days that are too windy."""
    rng = np.random.default_rng(tasks)
    windy = tuple(bool(day) for day in rng.random(len(calendar.days)) > 0.2)
    return tuple(
        Work(
            id=str(number),
            slots=int(rng.integers(1, 20)),
            people=int(rng.integers(1, 4)),
            machine=("", "", "driver", "digger")[number % 4],
            after=((str(number - 1), 0),) if number % 10 and number % 10 < 5 else (),
            limits=(Limit("wind", windy),) if number % 5 == 0 else (),
        )
        for number in range(tasks)
    )


def _timed(
    find: Callable[[tuple[Work, ...], Calendar, int], Dates | None],
    works: tuple[Work, ...],
    calendar: Calendar,
) -> tuple[float, Dates | None]:
    """The median of three, in seconds, and what was found."""
    times = []
    for _ in range(3):
        began = time.perf_counter()
        found = find(works, calendar, PEOPLE)
        times.append(time.perf_counter() - began)
    return statistics.median(times), found


def main() -> None:
    """Print a line a size."""
    start = WEEK.forecast[0][0]
    calendar = calendar_of(SPOT, start, Hours(7.5, 8.0, 5, frozenset()))
    dated(job(4, calendar), calendar, PEOPLE)
    print("tasks   dates s   quick list s   finish over bound   quick list over bound")
    for tasks in SIZES:
        works = job(tasks, calendar)
        took, found = _timed(dated, works, calendar)
        quick_s, quick = _timed(greedy, works, calendar)
        assert found is not None
        least = max(least_finish(works, calendar, PEOPLE), found.bound)
        assert quick is not None
        print(
            f"{tasks:5}   {took:7.2f}   {quick_s:12.4f}   {found.finish / least:17.3f}"
            f"   {quick.finish / least:21.3f}"
        )


if __name__ == "__main__":
    main()
