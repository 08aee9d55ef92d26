"""What one edit of a tilt costs on surveys of any size: seeing the draft, keeping the step, its bytes.

The bound is the same edit on a hundred shots. Run: ./furrow bench shots
"""

import statistics
import time
from collections.abc import Callable

import numpy as np
from sqlalchemy import Engine, text
from sqlalchemy.orm import Session

from openfurrow.core.design import Design
from openfurrow.core.edits import apply
from openfurrow.core.site.survey import MOST_READINGS, SurveyGivens
from openfurrow.demo.designs import larkspur
from openfurrow.store.accounts import create_account
from openfurrow.store.cluster import private_cluster, throwaway_home
from openfurrow.store.database import for_reading, migrate, open_database
from openfurrow.store.drafts import open_draft, record
from openfurrow.store.jobs import create_job

SHOTS = (100, 1_000, 10_000, 20_000)
TILT = "arrays.1.rows.tilt_deg"


def surveyed(shots: int) -> Design:
    """The demo on a grid of so many shots, in as many sittings as they take."""
    rng = np.random.default_rng(shots)
    side = int(np.ceil(shots**0.5))
    spacing_m = 160 / side
    at = [(spacing_m * (k % side) - 80, spacing_m * (k // side) - 80) for k in range(shots)]
    readings = tuple(
        (e, n, round(100 - 0.04 * n + float(wave), 3), "")
        for (e, n), wave in zip(at, rng.normal(0, 0.02, shots), strict=True)
    )
    sittings = tuple(
        SurveyGivens(id=f"s{k}", name=f"sitting {k}", readings=readings[k : k + MOST_READINGS])
        for k in range(0, shots, MOST_READINGS)
    )
    design = larkspur()
    return design.model_copy(update={"site": design.site.model_copy(update={"surveys": sittings})})


def _ms(work: Callable[[], object]) -> float:
    began = time.perf_counter()
    work()
    return (time.perf_counter() - began) * 1e3


def edits_ms(engine: Engine, shots: int, edits: int) -> tuple[list[float], float]:
    """Milliseconds of each edit without its plan, and the bytes that a step takes in the database."""
    with Session(engine) as session, session.begin():
        planner = create_account(session, f"planner of {shots}", "a long pass phrase")
        job = create_job(session, planner, surveyed(shots), "")
        session.expunge(planner)

    def edit(number: int) -> None:
        with Session(for_reading(engine)) as session, session.begin():
            seen = open_draft(session, planner, job)
        new = apply(seen.design, [(TILT, str(20 + number / 10))], "us")
        assert new != seen.design
        hash(new)
        with Session(engine) as session, session.begin():
            record(session, seen, "", f"tilt {number}", new)

    times = [_ms(lambda number=number: edit(number)) for number in range(edits)]  # type: ignore[misc]
    with engine.connect() as connection:
        size = connection.scalar(
            text("select avg(pg_column_size(design)) from draft_step where job_id = :job"), {"job": job}
        )
    return times, float(size or 0)


def main(edits: int = 30, shots: tuple[int, ...] = SHOTS) -> None:
    with throwaway_home() as home, private_cluster(home, lasting=False) as url:
        engine = open_database(url)
        migrate(engine)
        found = {count: edits_ms(engine, count, edits) for count in shots}
        engine.dispose()
    bound = statistics.median(found[shots[0]][0])
    print("an edit of one tilt, seen and kept, without its plan")
    for count, (times, size) in found.items():
        middle = statistics.median(times)
        print(
            f"{count:>7,} shots  median {middle:5.1f} ms  {middle / bound:4.2f} x that of {shots[0]}  "
            f"a step takes {size / 1e3:.1f} kB"
        )


if __name__ == "__main__":
    main()
