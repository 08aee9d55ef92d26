"""A thousand pieces nested in sticks, few lengths and many, beside CP-SAT over the same patterns' task.

For each: sticks over the bound that no way of cutting beats, what first fit takes, and the time as a
share of what OR-Tools' CP-SAT is given for the same pieces (counts of each length on each stick, the
same bound known to it). Run: ./furrow bench nesting
"""

import time

import numpy as np
from ortools.sat.python import cp_model

from openfurrow.core.materials.nesting import nested, offcut_share
from openfurrow.core.materials.patterns import sticks_at_least

STOCK_M, KERF_M, PIECES, GIVEN_S = 6.0, 0.003, 1000, 20.0


def by_cp_sat(pieces: dict[float, int], most: int, least: int) -> tuple[int | None, float]:
    """Sticks that CP-SAT finds in its time, and how long it took."""
    model = cp_model.CpModel()
    lengths = list(pieces)
    counts = [
        [model.new_int_var(0, pieces[length], f"{stick}.{one}") for one, length in enumerate(lengths)]
        for stick in range(most)
    ]
    used = [model.new_bool_var(f"u{stick}") for stick in range(most)]
    room = round((STOCK_M + KERF_M) * 1e4)
    weights = [round((length + KERF_M) * 1e4) for length in lengths]
    for stick in range(most):
        taken = sum(weight * count for weight, count in zip(weights, counts[stick], strict=True))
        model.add(taken <= room * used[stick])
        if stick:
            model.add_implication(used[stick], used[stick - 1])
    for one, length in enumerate(lengths):
        model.add(sum(counts[stick][one] for stick in range(most)) == pieces[length])
    model.add(sum(used) >= least)
    model.minimize(sum(used))
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = GIVEN_S
    begun = time.perf_counter()
    status = solver.solve(model)
    found = status in (cp_model.OPTIMAL, cp_model.FEASIBLE)
    return round(solver.objective_value) if found else None, time.perf_counter() - begun


def main() -> None:
    """Print a line for each kind of job."""
    random = np.random.default_rng(7)
    print("lengths  pieces  sticks  bound  first fit  CP-SAT  own s  of CP-SAT's time")
    for kinds, low, high in ((6, 500, 3200), (20, 500, 3200), (60, 900, 3200), (150, 1500, 2600)):
        lengths = np.unique(random.integers(low, high, kinds)) / 1000
        each = random.multinomial(PIECES, np.full(lengths.size, 1 / lengths.size))
        pieces = {
            float(length): int(count) for length, count in zip(lengths, each, strict=True) if count
        }
        begun = time.perf_counter()
        nest = nested(pieces, (STOCK_M,), KERF_M)
        took = time.perf_counter() - begun
        least = sticks_at_least(nest.bound_m, STOCK_M)
        whole = sum(length * count for length, count in pieces.items())
        plain = round(whole / (1 - offcut_share(pieces, (STOCK_M,), KERF_M)) / STOCK_M)
        other, long = by_cp_sat(pieces, plain, least)
        print(
            f"{len(pieces):7} {sum(pieces.values()):7} {nest.sticks:7} {least:6} {plain:10} "
            f"{'none' if other is None else other:>7} {took:6.2f} {took / long:10.3f}"
        )


if __name__ == "__main__":
    main()
