"""Several arrays on one site, recomputed from outside: shade by rays over triangles, ways by a graph,
trenches and lists by laying out."""

import math
import re
from collections import Counter
from itertools import pairwise

import numpy as np
import pytest
import shapely
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from numpy.typing import NDArray
from scipy.sparse import coo_matrix
from scipy.sparse.csgraph import dijkstra

from openfurrow.core.design import ArrayGivens, Design
from openfurrow.core.plan import plan
from openfurrow.core.quantities import CLOSE, OPEN
from openfurrow.core.site.ways import SpurGivens
from openfurrow.core.wiring.inverters import given_to
from openfurrow.demo.larkspur import larkspur_with_pump_house
from tests.designs import changed, plain_larkspur, with_inverter
from tests.rays import corners_of, hidden, suns_of

Floats = NDArray[np.float64]
places = st.tuples(st.floats(-40, 40), st.floats(-40, 40))
# Common practice, no published source: cells in full sun stand so far over the air.
HEAT_OVER_AIR_C = 30.0


def of_two(
    at: tuple[float, float], turn: float = 0.0, tilt: float = 30.0, along: int = 6, **site: object
) -> Design:
    """The plain demo and a second array of other modules somewhere about it."""
    plain = plain_larkspur()
    first = plain.arrays[0]
    second = ArrayGivens(
        id="2",
        name="Second",
        rows=first.rows.model_copy(
            update={
                "modules_along": along,
                "tilt_deg": tilt,
                "turn_deg": turn,
                "at_east_m": at[0],
                "at_north_m": at[1],
            }
        ),
        structure=first.structure,
        footings=first.footings,
        modules=first.modules.model_copy(update={"length_m": 1.7, "power_w": 330.0}),
    )
    return changed(plain, "site", **site).model_copy(update={"arrays": (first, second)})


@settings(max_examples=20, deadline=None)
@given(st.tuples(st.floats(-14, 14), st.floats(-12, 12)), st.floats(-50, 50), st.floats(5, 60))
def test_the_shade_of_one_array_on_another_is_that_of_rays(
    at: tuple[float, float], turn: float, tilt: float
) -> None:
    found = plan(of_two(at, turn, tilt, along=3))
    one, two = found.each()
    suns = suns_of(found)[::6]
    full = suns_of(found)
    for own, other in ((one, two), (two, one)):
        check = next(c for c in own.shown("rows")[1] if c.key == "shade_other")
        # A few of the moments hide it: then all of them do; none of all: none is said.
        if hidden(corners_of(own), corners_of(other), suns):
            assert check.level == "look"
        elif check.level == "look":
            assert hidden(corners_of(own), corners_of(other), full)


@settings(max_examples=40, deadline=None)
@given(st.tuples(st.floats(-25, 25), st.floats(-25, 25)), st.floats(-60, 60))
def test_arrays_that_stand_too_near_are_stopped(at: tuple[float, float], turn: float) -> None:
    """The clear way is the distance between the outlines from above; 0.6 m to walk and work."""
    found = plan(of_two(at, turn))
    one, two = found.each()
    apart = min(
        shapely.distance(shapely.Polygon(a[:, :2]), shapely.Polygon(b[:, :2]))
        for a in corners_of(one)
        for b in corners_of(two)
    )
    for own in (one, two):
        check = next(c for c in own.shown("rows")[1] if c.key == "apart")
        assert check.measured == pytest.approx(apart, abs=1e-9)
        assert check.level == ("sound" if apart >= 0.6 - 1e-9 else "stop")


def level(points: list[tuple[float, float]]) -> float:
    return sum(math.dist(a, b) for a, b in pairwise(points))


bends = st.lists(places, min_size=1, max_size=3)


@settings(max_examples=40, deadline=None)
@given(bends, bends, places)
def test_ways_are_one_tree_and_what_is_shared_is_dug_once(
    trunk: list[tuple[float, float]], spur: list[tuple[float, float]], at: tuple[float, float]
) -> None:
    """On level ground: every array's way is the shortest along the lines that are drawn, and all that
    is dug is the length of their union, less what leads nowhere."""
    drawn = SpurGivens(id="s", array="2", points=tuple(spur))
    design = of_two(at, turn=35.0, slope=0.0, route=tuple(trunk), spurs=(drawn,))
    design = changed(design, "rows", rows=2, turn_deg=-20.0)
    found = plan(design)
    one, two = found.each()
    first = (one.places.east_m, one.places.north_m)
    post = int(np.argmin(np.hypot(first[0] - trunk[0][0], first[1] - trunk[0][1])))
    line = [(float(first[0][post]), float(first[1][post])), *trunk]
    assume(level(line) > 0.5)
    second = (two.places.east_m, two.places.north_m)
    mine = int(np.argmin(np.hypot(second[0] - spur[0][0], second[1] - spur[0][1])))
    whole = shapely.LineString(line)
    # Of a trunk that passes one place twice it is not said which of the two a spur meets.
    assume(whole.is_simple)
    joins = float(shapely.line_locate_point(whole, shapely.Point(spur[-1])))
    foot = shapely.get_coordinates(shapely.line_interpolate_point(whole, joins))[0]
    branch = [(float(second[0][mine]), float(second[1][mine])), *spur, (foot[0], foot[1])]
    assume(min(math.dist(a, b) for a, b in pairwise(line)) > 1e-3)
    assert found.run.route.ground_length_m == pytest.approx(level(line), abs=1e-6)
    assert two.run.route.ground_length_m == pytest.approx(level(branch) + level(line) - joins, abs=1e-6)
    assert found.trench.ground_length_m == pytest.approx(level(line) + level(branch), abs=1e-6)
    # No shorter way leads from the second's post to the wall along these lines.
    nodes = [*branch, *line]
    edges = [(i, i + 1, math.dist(nodes[i], nodes[i + 1])) for i in range(len(branch) - 1)]
    before = max(i for i in range(len(line)) if level(line[: i + 1]) <= joins + 1e-9)
    base = len(branch)
    edges += [(base + i, base + i + 1, math.dist(*line[i : i + 2])) for i in range(len(line) - 1)]
    after = min(before + 1, len(line) - 1)
    edges += [(base - 1, base + end, math.dist(foot, line[end])) for end in {before, after}]
    ends, others, long = zip(*edges, strict=True)
    graph = coo_matrix((np.maximum(long, 1e-12), (ends, others)), shape=(len(nodes),) * 2)
    shortest = dijkstra(graph, directed=False, indices=0)[len(nodes) - 1]
    assert two.run.route.ground_length_m == pytest.approx(shortest, abs=1e-6)


@settings(max_examples=15, deadline=None)
@given(places, st.integers(2, 14), st.integers(1, 3))
def test_a_shared_trench_takes_all_that_lies_in_it(
    at: tuple[float, float], along: int, strings: int
) -> None:
    """Pipes laid side by side, a pipe's width apart and 50 mm off either wall; spoil box by box."""
    design = changed(
        of_two(at, along=along, route=((20.0, 20.0), (35.0, 20.0))),
        "trench",
        strings_per_conduit=strings,
        width_m=0.1,
    )
    found = plan(design)
    assert any(len(piece.stretch.carries) == 2 for piece in found.trench.dug)
    spoil = 0.0
    for piece in found.trench.dug:
        pipes = []
        for number in piece.stretch.carries:
            run = found.trench.runs[number]
            assert run.conduit is not None
            pipes += [run.conduit.outside_m] * run.conduits
        wall = 0.05
        for outside in pipes:
            wall += outside + max(pipes)
        assert piece.width_m == pytest.approx(wall - max(pipes) + 0.05)
        spoil += piece.width_m * found.trench.depth_m * piece.stretch.line.ground_length_m
        # The thickest too lies under its cover, on its sand.
        over = found.trench.depth_m - design.trench.bedding_m - max(pipes)
        assert over >= found.run.route.cover_m - 1e-9
    assert found.trench.loose_m3 == pytest.approx(spoil * (1 + design.trench.swell))
    assert found.trench.width_m == max(piece.width_m for piece in found.trench.dug)


def test_the_list_is_that_of_each_array_alone_but_for_what_is_shared() -> None:
    """Counted array by array; sand, tape and copper follow what is dug, once."""
    design = larkspur_with_pump_house()
    found = plan(design)
    ours: Counter[str] = Counter()
    for line in found.materials.lines:
        # How long the posts come differs from array to array, what they are does not.
        ours[re.sub(f", {OPEN}.*{CLOSE} long$", "", line.item)] += round(line.net, 6)
    shared = {"Sand, stone-free", "Warning tape", "Bare copper 6 AWG"}
    alone: Counter[str] = Counter()
    for one in found.each():
        count = one.structure.supports.count
        own = next(cut for cut in found.materials.sawing.arrays if cut.array == one.array.id)
        here = sum(cut.count for cut in own.cuts if cut.key == "post" and cut.stocks_m)
        alone[f"Post, {one.footings.posts.post.name}, galvanised"] += count - here
        given = design.array(one.array.id).modules
        alone[f"Module, {given.power_w:.0f} W"] += one.rows.module_count
        alone["End clamp"] += one.modules.end_clamps
        alone["Mid clamp"] += one.modules.mid_clamps
        alone[f"Conduit, {one.run.conduit.label}"] += one.run.sticks
        alone[f"Fuse {one.circuit.fuse_a:.0f} A, DC"] += 2 * one.circuit.strings.count
    for item, net in alone.items():
        assert item not in shared and ours[item] == net, item
    dug = sum(piece.stretch.line.ground_length_m for piece in found.trench.dug)
    assert ours["Warning tape"] == pytest.approx(dug)
    rows = sum(
        one.rows.row_length_m * one.rows.rows + (one.rows.rows - 1) * one.rows.pitch_m
        for one in found.each()
    )
    assert ours["Bare copper 6 AWG"] == pytest.approx(rows + dug + 2 * 2 * design.wiring.slack_m)
    # Each line is known by its key, and says whose it is where the same thing comes twice.
    keys = [line.key for line in found.materials.lines]
    assert len(keys) == len(set(keys))
    modules = [line for line in found.materials.lines if line.item.startswith("Module")]
    assert [line.where.split(":")[0] for line in modules] == ["River bench", "Pump house"]


@settings(max_examples=25, deadline=None)
@given(st.floats(0, 0.1), st.floats(0, 360), places)
def test_stakes_of_both_arrays_are_read_from_one_benchmark(
    slope: float, toward: float, at: tuple[float, float]
) -> None:
    """On an even slope: a rod reads the line of sight less what the ground has risen since the first
    post of the first array."""
    design = of_two(at, slope=slope, falls_toward_deg=toward)
    found = plan(design)
    first = found.places
    fall = np.array([math.sin(math.radians(toward)), math.cos(math.radians(toward))]) * slope
    for one in found.each():
        risen = -(
            (one.places.east_m - first.east_m[0]) * fall[0]
            + (one.places.north_m - first.north_m[0]) * fall[1]
        )
        stakes = one.setting_out.stakes
        assert stakes.rod_ground_m == pytest.approx(
            design.stakeout.instrument_height_m - risen, abs=1e-9
        )
        assert stakes.rod_ground_m - stakes.rod_top_m == pytest.approx(
            one.structure.supports.reveals_m + one.structure.posts.givens.post_top_m
        )


@settings(max_examples=40, deadline=None)
@given(st.integers(1, 12), st.integers(1, 12), st.integers(1, 12))
def test_strings_of_all_arrays_have_inputs_or_it_is_stopped(one: int, two: int, inputs: int) -> None:
    """Strings counted by hand: none longer than the cold allows, each module in one, an input each."""
    design = of_two((0.0, 20.0), along=two)
    design = with_inverter(changed(design, "rows", modules_along=one), inverter_inputs=inputs)
    found = plan(design)
    strings = 0
    fewest = 0
    for array in found.each():
        lengths = array.circuit.strings.lengths
        assert lengths.sum() == array.rows.module_count
        longest = array.circuit.strings.longest_allowed
        assert lengths.max() <= longest and np.ptp(lengths) <= 1
        strings += lengths.size
        fewest += math.ceil(array.rows.module_count / longest)
    check = next(c for c in found.wiring.checks if c.key == "inputs")
    assert check.measured == strings
    assert check.level == ("sound" if strings <= inputs else "stop")
    # Where the fewest strings all have an input, none is taken for more of them than there are.
    if fewest <= inputs:
        assert strings <= inputs


def test_a_way_that_nobody_drew_is_the_shortest_and_is_told() -> None:
    design = of_two((0.0, 25.0), route=((20.0, 10.0), (40.0, 10.0)))
    found = plan(design)
    one, two = found.each()
    trunk = shapely.LineString(
        [*zip(one.run.route.east_m.tolist(), one.run.route.north_m.tolist(), strict=True)]
    )
    posts = shapely.points(two.places.east_m, two.places.north_m)
    way = shapely.LineString(
        [*zip(two.run.route.east_m[:2].tolist(), two.run.route.north_m[:2].tolist(), strict=True)]
    )
    assert shapely.length(way) == pytest.approx(float(shapely.distance(trunk, posts).min()))
    check = next(c for c in found.trench.checks if c.key == "drawn")
    assert check.level == "look" and "Second" in str(check.measured)


@st.composite
def banks(draw: st.DrawFn) -> tuple[tuple[int, ...], tuple[tuple[int, ...], ...], tuple[int, ...]]:
    """Strings of some arrays, the inverters each may go to, and the inputs of each inverter."""
    inverters = draw(st.integers(1, 4))
    strings = tuple(draw(st.lists(st.integers(1, 9), min_size=1, max_size=4)))
    taking = tuple(
        tuple(sorted(draw(st.sets(st.integers(0, inverters - 1), min_size=1)))) for _ in strings
    )
    return strings, taking, tuple(draw(st.integers(1, 9)) for _ in range(inverters))


@settings(max_examples=200, deadline=None)
@given(banks())
def test_strings_land_where_they_may_and_none_twice(
    bank: tuple[tuple[int, ...], tuple[tuple[int, ...], ...], tuple[int, ...]],
) -> None:
    """String by string: on an inverter that takes its array, no input twice, and evenly."""
    strings, taking, inputs = bank
    landed = given_to(strings, taking, inputs)
    for n in range(len(inputs)):
        assert landed[:, n].sum() <= inputs[n]
    for array, count in enumerate(strings):
        assert landed[array].sum() <= count
        for n in range(len(inputs)):
            assert landed[array, n] == 0 or n in taking[array]
    # Nothing is left over while an inverter that takes it has room.
    for array, count in enumerate(strings):
        if landed[array].sum() < count:
            assert all(landed[:, n].sum() == inputs[n] for n in taking[array])
    if len(strings) == 1 and strings[0] <= sum(inputs[n] for n in taking[0]):
        share = [landed[0, n] / inputs[n] for n in taking[0]]
        assert max(share) - min(share) <= 1 / min(inputs[n] for n in taking[0]) + 1e-9


@settings(max_examples=25, deadline=None)
@given(st.floats(250, 1000), st.floats(250, 1000), st.booleans(), st.floats(20, 200))
def test_every_string_keeps_to_the_volts_of_the_inverter_that_takes_it(
    one: float, two: float, apart: bool, start: float
) -> None:
    """The coldest morning, from the data sheet by hand, against the least limit it can be landed on."""
    design = of_two((0.0, 25.0))
    base = design.wiring.inverters[0]
    inverters = (
        base.model_copy(update={"maximum_dc_v": one, "start_v": start, "inverter_inputs": 9}),
        base.model_copy(
            update={
                "id": "2",
                "maximum_dc_v": two,
                "start_v": 20.0,
                "inverter_inputs": 9,
                "takes": ("2",) if apart else (),
            }
        ),
    )
    found = plan(changed(design, "wiring", inverters=inverters))
    for number, given_array in enumerate(design.arrays):
        module = given_array.modules
        cold = module.open_circuit_v * (
            1 + module.voltage_coefficient_per_c * (design.site.lowest_temperature_c - 25)
        )
        limit = (one, two)[number] if apart else min(one, two)
        lengths = found.wiring.circuits[number].strings.lengths
        assert lengths.max() * cold <= limit + 1e-6
        hot = module.maximum_power_v * (
            1
            + module.power_coefficient_per_c
            * (design.site.hottest_temperature_c + HEAT_OVER_AIR_C - 25)
        )
        least = (start, 20.0)[number] if apart else max(start, 20.0)
        assert found.wiring.circuits[number].strings.shortest_allowed == math.ceil(least / hot - 1e-9)
        assert found.wiring.circuits[number].strings.longest_allowed == math.floor(limit / cold + 1e-9)
    if apart:
        # Each to its own: what each carries, by hand.
        for number, given_array in enumerate(design.arrays):
            watts = found.each()[number].rows.module_count * given_array.modules.power_w
            key = f"ratio_{inverters[number].id}"
            assert found.answer("wiring", key).value == pytest.approx(
                watts / inverters[number].inverter_ac_w
            )
            assert found.wiring.landed[number, 1 - number] == 0


@pytest.mark.parametrize(
    ("takes", "key", "level"),
    [
        ((("1",), ("2",)), "taken", "sound"),
        ((("1",), ("gone",)), "taken", "stop"),
        ((("1",), ("1",)), "taken", "stop"),
        (((), ("2",)), "taken", "sound"),
        ((("1", "2"), ()), "idle", "look"),
    ],
)
def test_an_array_that_no_inverter_takes_is_a_stop(
    takes: tuple[tuple[str, ...], ...], key: str, level: str
) -> None:
    design = of_two((0.0, 25.0))
    base = design.wiring.inverters[0]
    inverters = tuple(
        base.model_copy(update={"id": str(number + 1), "takes": those, "inverter_inputs": 9})
        for number, those in enumerate(takes)
    )
    found = plan(changed(design, "wiring", inverters=inverters))
    levels = {c.key: c.level for c in found.wiring.checks}
    assert levels.get(key, "sound") == level


@settings(max_examples=15, deadline=None)
@given(st.lists(st.tuples(st.floats(-300, 300), st.floats(-300, 300)), min_size=3, max_size=6))
def test_of_many_arrays_the_nearest_is_found(spots: list[tuple[float, float]]) -> None:
    """However far the others stand: the least distance to any other outline, all pairs looked at."""
    plain = plain_larkspur()
    first = plain.arrays[0]
    arrays = tuple(
        ArrayGivens(
            id=f"k{number}",
            name=f"Array {number}",
            rows=first.rows.model_copy(
                update={
                    "modules_along": 2 + number,
                    "at_east_m": east,
                    "at_north_m": north,
                    "turn_deg": 7.0 * number,
                }
            ),
            structure=first.structure,
        )
        for number, (east, north) in enumerate(spots)
    )
    found = plan(plain.model_copy(update={"arrays": arrays}))
    outlines = [
        shapely.union_all([shapely.Polygon(quad[:, :2]) for quad in corners_of(one)])
        for one in found.each()
    ]
    for number, one in enumerate(found.each()):
        least = min(
            shapely.distance(outlines[number], other)
            for other in outlines[:number] + outlines[number + 1 :]
        )
        check = next(c for c in one.shown("rows")[1] if c.key == "apart")
        assert check.measured == pytest.approx(least, abs=1e-9)


def test_a_spur_may_run_into_a_spur_and_each_line_is_dug_once() -> None:
    """Three arrays on level ground: what is dug is the length of all lines together, by shapely."""
    base = of_two((0.0, 20.0), slope=0.0, route=((10.0, 4.0), (40.0, 4.0)))
    third = base.arrays[1].model_copy(
        update={
            "id": "3",
            "name": "Third",
            "rows": base.arrays[1].rows.model_copy(update={"at_east_m": 25.0, "at_north_m": 32.0}),
        }
    )
    spurs = (
        SpurGivens(id="a", array="2", points=((8.0, 18.0), (20.0, 12.0))),
        SpurGivens(id="b", array="3", points=((24.0, 26.0), (16.0, 15.0))),
    )
    design = changed(base, "site", spurs=spurs).model_copy(update={"arrays": (*base.arrays, third)})
    found = plan(design)
    lines = [
        shapely.LineString(list(zip(one.run.route.east_m, one.run.route.north_m, strict=True)))
        for one in found.each()
    ]
    assert found.trench.tree.ways[2].into == 1
    together = shapely.union_all([shapely.set_precision(one, 1e-6) for one in lines])
    assert found.trench.ground_length_m == pytest.approx(shapely.length(together), abs=1e-4)
    # By stretch: the last is passed by all three, that of the second's spur after the join by two.
    carried = sorted(len(piece.stretch.carries) for piece in found.trench.dug)
    assert carried == [1, 1, 1, 2, 3]
    assert [piece.stretch.at_wall for piece in found.trench.dug].count(True) == 1


def test_a_far_array_up_the_hill_is_looked_at_though_others_stand_nearer() -> None:
    """Ground that falls away from the sun: the upper array throws a long shadow, the lower none."""
    base = of_two((0.0, 26.0), along=3, slope=0.3, falls_toward_deg=0.0)
    base = changed(base, "rows", modules_along=3)
    beside = tuple(
        base.arrays[1].model_copy(
            update={
                "id": of,
                "name": of,
                "rows": base.arrays[1].rows.model_copy(
                    update={"at_east_m": -12.0, "at_north_m": north}
                ),
            }
        )
        for of, north in (("p", 0.0), ("q", 26.0))
    )
    found = plan(base.model_copy(update={"arrays": (*base.arrays, *beside)}))
    upper, lower = found.each()[:2]
    assert hidden(corners_of(lower), corners_of(upper), suns_of(found)[::8])
    check = next(c for c in lower.shown("rows")[1] if c.key == "shade_other")
    assert check.level == "look" and "Array" in str(check.measured)
