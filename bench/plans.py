"""How long a plan takes and how much memory, and how both grow with the number of modules.

Each time is the median of several runs. It is printed beside a bound measured in the same run: the
bare numpy work of laying the same posts on a grid, which no plan can beat. Beams are compared with
PyNiteFEA on the same purlin. Run: ./furrow bench
"""

import math
import statistics
import time
import tracemalloc
from collections.abc import Callable

import numpy as np
from Pynite import FEModel3D

from openfurrow.core.beams import continuous_beam
from openfurrow.core.design import STAGES, Design
from openfurrow.core.edits import apply
from openfurrow.core.plan import MEMO, Plan, plan
from openfurrow.demo.designs import field, larkspur
from openfurrow.demo.marram import marram
from openfurrow.sheets.scene import scene_of
from openfurrow.sheets.write import job_sheet, stage_sheet

RUNS, DRAWN_RUNS = 9, 3


def median_s(work: Callable[[], object], runs: int = RUNS) -> float:
    work()
    times = []
    for _ in range(runs):
        began = time.perf_counter()
        work()
        times.append(time.perf_counter() - began)
    return statistics.median(times)


def peak_mib(work: Callable[[], object]) -> float:
    tracemalloc.start()
    work()
    _, peak = tracemalloc.get_traced_memory()
    tracemalloc.stop()
    return peak / 2**20


def cold(design: Design) -> Plan:
    """A plan with nothing remembered."""
    MEMO.forget()
    return plan(design)


# An edit of each kind, and what it says in turn.
EDITS = {
    "wiring": ("wiring.slack_m", ("6 ft", "7 ft")),
    "materials": ("materials.waste", ("4 %", "6 %")),
    "trench": ("trench.width_m", ("14 in", "15 in")),
    "footings": ("arrays.1.footings.pull_tested", ("yes", "no")),
    "structure": ("arrays.1.structure.span_limit_m", ("2.2 m", "2.3 m")),
    "rows": ("arrays.1.rows.tilt_deg", ("31", "29")),
    "site": ("site.frost_depth_m", ("0.82 m", "0.84 m")),
}


def edits() -> None:
    """What an edit computes again, and how long that takes beside a plan with nothing remembered."""
    print(f"{'edit of':<12}{'design':<28}{'ms':>8}{'x cold':>8}{'computed again':>16}")
    for design in (larkspur(), field(10000), marram()):
        whole = median_s(lambda design=design: cold(design))
        MEMO.made = []
        cold(design)
        stages = len(MEMO.made)
        for kind, (of_first, texts) in EDITS.items():
            times, computed = [], 0
            path = of_first.replace("arrays.1.", f"arrays.{design.arrays[0].id}.")
            for number in range(RUNS):
                # Each edit is made on the design as it was, with nothing else remembered.
                cold(design)
                edited = apply(design, [(path, texts[number % 2])], "us")
                MEMO.made = []
                began = time.perf_counter()
                plan(edited)
                times.append(time.perf_counter() - began)
                computed = len(MEMO.made)
            seconds = statistics.median(times)
            print(
                f"{kind:<12}{design.name:<28}{seconds * 1e3:>8.2f}{seconds / whole:>8.2f}"
                f"{computed / stages:>15.0%}"
            )
    MEMO.made = None


def bare_grid_s(found: Plan) -> float:
    """East, north and ground of the same posts by numpy alone."""
    along = found.structure.posts.line.along_m
    rows, tables = found.rows.rows, found.rows.tables_along

    def lay() -> object:
        grid = np.add.outer(np.arange(rows) * 8.0, np.add.outer(np.arange(tables) * 20.0, along))
        east, north = grid * 0.99, grid * 0.01
        return east * 0.02 + north * 0.03

    return median_s(lay, 99)


def plans(modules: tuple[int, ...] = (100, 1000, 10000)) -> None:
    print(
        f"{'design':<28}{'modules':>8}{'posts':>7}{'plan ms':>9}{'screen ms':>10}{'peak MiB':>9}"
        f"{'x demo':>8}{'x bound':>9}"
    )
    designs: list[Design] = [larkspur(), *map(field, modules)]
    base, sizes = 0.0, []
    for design in designs:
        found = plan(design)
        seconds = median_s(lambda design=design: cold(design))
        base = base or seconds
        screen = median_s(
            lambda design=design, found=found: (
                job_sheet(design, found, "us"),
                stage_sheet("stakeout", design, found, "us"),
            )
        )
        print(
            f"{design.name:<28}{found.rows.module_count:>8}{found.structure.supports.count:>7}"
            f"{seconds * 1e3:>9.2f}{screen * 1e3:>10.2f}"
            f"{peak_mib(lambda design=design: cold(design)):>9.2f}"
            f"{seconds / base:>8.2f}{seconds / bare_grid_s(found):>9.0f}"
        )
        sizes.append((found.rows.module_count, seconds))
    (first, slow), (last, fast) = sizes[1], sizes[-1]
    print(
        f"growth from {first} to {last} modules: time ~ modules^"
        f"{math.log(fast / slow) / math.log(last / first):.2f}"
    )


def drawn(modules: tuple[int, ...] = (1000, 10000, 100000)) -> None:
    """Every sheet and the view in space of growing fields, and how each grows between the last two."""
    sizes, times = [], []
    for design in map(field, modules):
        found = plan(design)
        work: dict[str, Callable[[], object]] = {
            "plan": lambda design=design: cold(design),
            "job": lambda design=design, found=found: job_sheet(design, found, "metric"),
            "scene": lambda found=found: scene_of(found),
        }
        for stage in STAGES:
            work[stage] = lambda design=design, found=found, stage=stage: stage_sheet(
                stage, design, found, "metric"
            )
        sizes.append(found.rows.module_count)
        times.append({name: median_s(one, DRAWN_RUNS) for name, one in work.items()})
    print(f"{'ms':<12}" + "".join(f"{size:>10}" for size in sizes) + f"{'modules^':>10}")
    for name in times[0]:
        taken = [one[name] for one in times]
        growth = math.log(taken[-1] / taken[-2]) / math.log(sizes[-1] / sizes[-2])
        print(f"{name:<12}" + "".join(f"{one * 1e3:>10.1f}" for one in taken) + f"{growth:>10.2f}")


def pynite_beam(length: float, supports: list[float]) -> FEModel3D:
    model = FEModel3D()
    model.add_material("steel", 200e9, 77e9, 0.3, 7850)
    model.add_section("s", 1e-3, 2e-6, 2e-6, 1e-6)
    for x in sorted({0.0, length, *supports}):
        model.add_node(f"n{x}", x, 0, 0)
    model.add_member("m", "n0.0", f"n{length}", "steel", "s")
    for number, x in enumerate(supports):
        model.def_support(f"n{x}", number == 0, True, True, True, False, False)
    model.add_member_dist_load("m", "Fy", -1000, -1000, 0, length)
    model.analyze(check_statics=False)
    return model


def beams() -> None:
    line = plan(larkspur()).structure.posts.line
    supports = line.along_m.tolist()
    ours = median_s(lambda: continuous_beam(line.purlin_m, line.along_m, 1000.0, 4e5), 49)
    theirs = median_s(lambda: pynite_beam(line.purlin_m, supports), 5)
    print(
        f"purlin on {line.count} posts: {ours * 1e3:.2f} ms, PyNiteFEA {theirs * 1e3:.2f} ms, "
        f"ratio {theirs / ours:.0f}"
    )


if __name__ == "__main__":
    plans()
    drawn()
    edits()
    beams()
