"""Wires drawn through a run: the capstan law step by step, from either end, and where a box helps.

Source of the law: closed form of a rope on a rough drum; limits and the crowding of three wires from
memory of IEEE 525 and 576; radii of bends from memory of NEC 2020, Chapter 9, Table 2.
"""

import math
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.plan import Plan, plan
from openfurrow.core.trench.pulling import Piece, Rope, crowding, drawn, pieces_of, turned_round
from tests.designs import changed, plain_larkspur

G, MU, FED_M = 9.80665, 0.35, 10.0
# From memory of NEC 2020, Chapter 9, Table 2, one shot and full shoe benders, in.
RADII_IN = {
    "3/4 in": 4.5,
    "1 in": 5.75,
    "1-1/4 in": 7.25,
    "1-1/2 in": 8.25,
    "2 in": 9.5,
    "2-1/2 in": 10.5,
    "3 in": 13.0,
}


def stepped(pieces: list[tuple[float, float, float]], weight: float, mu: float) -> tuple[float, float]:
    """The pull in small steps of the rope, (length, rise, turn in radians) piece by piece.

    The end, and the greatest that any bend sees.
    """
    tension, most = weight * mu * FED_M, 0.0
    for length, rise, turn in pieces:
        if length:
            level = math.sqrt(max(length**2 - rise**2, 0))
            for _ in range(400):
                tension = max(0.0, tension + weight * (mu * level + rise) / 400)
        for _ in range(4000 if turn else 0):
            # Midpoint rule on dT = mu T d(theta).
            half = tension * (1 + mu * turn / 8000)
            tension += mu * half * turn / 4000
        if turn:
            most = max(most, tension)
    return tension, most


def laid_out(found: Plan) -> list[tuple[float, float, float]]:
    """Down at the array, along the ground, up at the wall: from where the bends lie."""
    route = found.run.route
    points = list(zip(route.east_m, route.north_m, route.level_m, strict=True))
    pieces = []
    for number, (a, b) in enumerate(pairwise(points)):
        pieces.append((math.dist(a, b), float(b[2] - a[2]), 0.0))
        if number + 2 < len(points):
            c = points[number + 2]
            first, second = (math.atan2(q[0] - p[0], q[1] - p[1]) for p, q in ((a, b), (b, c)))
            turn = abs((second - first + math.pi) % (2 * math.pi) - math.pi)
            pieces.append((0.0, 0.0, turn))
    # Wire goes up as far as it does in all, shared by what the box and the wall stand high.
    down, up = 1.2 + route.cover_m, 1.2 + route.cover_m
    ends = (-down, up)
    return [
        (down, ends[0], 0.0),
        (0.0, 0.0, math.pi / 2),
        *(pieces or [(0.0, 0.0, 0.0)]),
        (0.0, 0.0, math.pi / 2),
        (up, ends[1], 0.0),
    ]


ways = st.lists(st.tuples(st.floats(-40, 40), st.floats(8, 60)), min_size=1, max_size=5)


@settings(max_examples=60, deadline=None)
@given(
    way=ways,
    slope=st.floats(0, 0.3),
    toward=st.floats(0, 359),
    together=st.integers(1, 4),
    modules=st.integers(1, 3),
)
def test_the_pull_is_that_of_a_rope_over_every_bend_from_either_end(
    way: list[tuple[float, float]], slope: float, toward: float, together: int, modules: int
) -> None:
    design = changed(plain_larkspur(), "site", route=tuple(way), slope=slope, falls_toward_deg=toward)
    design = changed(design, "trench", strings_per_conduit=together)
    found = plan(changed(design, "rows", rows=modules))
    run, circuit = found.run, found.circuit
    pieces = laid_out(found)
    # Up at a box at hand height, and up to an inverter: as much wire as both ends are said to take.
    assert pieces[0][0] + pieces[-1][0] == pytest.approx(run.route.rises_m)
    lines = 2 * circuit.feed.in_conduit
    weight = G * (lines * circuit.choice.conductor.mass_kg_per_m + circuit.grounding.mass_kg_per_m)
    wire = math.sqrt(4 * circuit.choice.conductor.outside_area_m2 / math.pi)
    inside = math.sqrt(4 * run.conduit.inside_m2 / math.pi)
    mu = MU * (1 + 4 / 3 * (wire / (inside - wire)) ** 2 if lines + 1 == 3 else 1.4)
    there = stepped(pieces, weight, mu)
    back = stepped([(a, -b, c) for a, b, c in reversed(pieces)], weight, mu)
    radius = RADII_IN[run.conduit.label] * 0.0254
    limit = run.pulls.limits

    def used(one: tuple[float, float]) -> float:
        return max(one[0] / limit.tension_n, one[1] / radius / limit.sidewall_n_per_m)

    said = {one.toward: one for one in (run.pulls.easier, run.pulls.harder)}
    for name, (tension, most) in (("the building", there), ("the array", back)):
        assert said[name].tension_n == pytest.approx(tension, rel=2e-3, abs=0.5)
        assert said[name].sidewall_n_per_m == pytest.approx(most / radius, rel=2e-3, abs=5)
    assert used(there if run.pulls.easier.toward == "the building" else back) <= (
        min(used(there), used(back)) * 1.005 + 1e-6
    )
    # 300 lb a foot of radius, and 0.008 lb a circular mil of copper.
    assert limit.sidewall_n_per_m == pytest.approx(300 * 4.44822 / 0.3048, rel=1e-3)
    check = next(c for c in run.checks if c.key == "sidewall")
    assert (check.level == "sound") == (
        run.pulls.easier.sidewall_n_per_m <= limit.sidewall_n_per_m * (1 + 1e-9)
    )
    # A box takes up a bend or stands in the middle of a straight: the place that is named is the best
    # of all, and leaves what is told.
    options, at = [], 0.0
    for number, (length, rise, turn) in enumerate(pieces[2:-2], start=2):
        half = [(length / 2, rise / 2, 0.0)] if length else []
        parts = ([*pieces[:number], *half], [*half, *pieces[number + 1 :]])
        worst = 0.0
        for part in parts:
            flipped = [(a, -b, c) for a, b, c in reversed(part)]
            worst = max(worst, min(used(stepped(one, weight, mu)) for one in (part, flipped)))
        if length or turn:
            options.append((worst, at + length / 2))
        at += length
    assert run.pulls.with_box == pytest.approx(min(options)[0], rel=5e-3, abs=1e-6)
    near = [worst for worst, place in options if abs(place - run.pulls.box_at_m) < 0.01]
    assert near and min(near) <= min(options)[0] * 1.005 + 1e-6
    assert run.pulls.with_box <= run.pulls.used + 1e-9


def test_a_rope_round_a_right_angle_pulls_half_as_hard_again_at_0_26() -> None:
    """exp(0.26 * pi / 2) = 1.504, as printed in capstan tables; uphill it is lifted besides."""
    rope = Rope(2.0, 0.26, 0.3)
    level = drawn([Piece(100.0)], rope, "the building").tension_n
    assert level == pytest.approx(2.0 * 0.26 * 110)
    bent = drawn([Piece(100.0), Piece(turn_deg=90.0)], rope, "the building")
    assert bent.tension_n == pytest.approx(level * 1.5044, rel=1e-4)
    assert bent.sidewall_n_per_m == pytest.approx(level * 1.5044 / 0.3, rel=1e-4)
    up = drawn([Piece(50.0, 30.0)], rope, "the building").tension_n
    assert up == pytest.approx(2.0 * (0.26 * 10 + 0.26 * 40 + 30))
    # After a bend it runs downhill and is pulled less: the first bend stays the hardest.
    eased = [Piece(100.0), Piece(turn_deg=90.0), Piece(40.0, -30.0), Piece(turn_deg=20.0)]
    assert drawn(eased, rope, "the building").sidewall_n_per_m == pytest.approx(bent.sidewall_n_per_m)
    # Down a steep one it runs by itself: it is held, never pushed.
    assert drawn([Piece(50.0, -40.0)], rope, "the building").tension_n == 0.0


def test_three_wires_in_a_cradle_rub_by_the_printed_factor() -> None:
    """w_c = 1 + 4/3 (d / (D - d))^2: 2.33 in a pipe of twice their size, 1.33 of three times."""
    assert crowding(3, 10.0, 20.0) == pytest.approx(1 + 4 / 3)
    assert crowding(3, 10.0, 30.0) == pytest.approx(1 + 1 / 3)
    assert crowding(1, 10.0, 30.0) == 1.0 and crowding(5, 10.0, 30.0) == 1.4


def test_three_wires_that_jam_in_the_sweep_alone_are_told() -> None:
    """In the run and in the heavy wall of its sweeps, each by its own inside."""
    told = 0
    for metres in range(60, 700, 40):
        design = changed(plain_larkspur(), "site", route=((0.0, float(metres)),))
        design = changed(design, "trench", strings_per_conduit=1, room_for_growth=False)
        found = plan(design)
        run = found.run
        wire = math.sqrt(4 * found.circuit.choice.conductor.outside_area_m2 / math.pi)
        insides = (run.conduit.inside_m2, run.conduit.riser_inside_m2)
        ratios = [1.05 * math.sqrt(4 * one / math.pi) / wire for one in insides]
        check = next(c for c in run.checks if c.key == "jam")
        assert (check.level == "look") == any(2.8 < ratio < 3.2 for ratio in ratios)
        told += not 2.8 < ratios[0] < 3.2 and 2.8 < ratios[1] < 3.2
    assert told


def test_a_way_turned_round_twice_is_the_same_way() -> None:
    found = plan(plain_larkspur())
    pieces = pieces_of(found.run.route, 1.0, 2.0)
    assert turned_round(turned_round(pieces)) == pieces
    climbs = sum(one.rise_m for one in pieces)
    rise = float(found.run.route.level_m[-1] - found.run.route.level_m[0])
    assert climbs == pytest.approx(rise + 1.0)
    assert np.isfinite(found.run.pulls.used)
