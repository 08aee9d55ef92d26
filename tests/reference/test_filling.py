"""Filled ground against shapely, by outlines as drawn and not by what the core made of them."""

import itertools
import math
import uuid
from typing import Any

import numpy as np
import pytest
import shapely
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from openfurrow.core import filled as ground
from openfurrow.core.design import Design
from openfurrow.core.filled import equal_strings, turned_along
from openfurrow.core.plan import Plan, plan
from openfurrow.core.rows.givens import PositionGivens, TableGivens
from openfurrow.core.rows.settling import Filled, FillError
from openfurrow.core.rows.strips import Measure, Wanted
from openfurrow.core.site.features import FeatureGivens
from tests.designs import changed, plain_larkspur, with_inverter


def filled(design: Design, before: Plan, array: str, wanted: Wanted) -> tuple[Design, Filled]:
    """The design, and its tables."""
    new, found = ground.filled(design, before, array, wanted)
    return new, found.tables


def wanted_of(**asked: Any) -> Wanted:
    """What is wanted, ids as they come."""
    return Wanted(new_id=lambda: uuid.uuid4().hex[:12], **asked)


MOST = wanted_of(modules=None, edge_m=0.0, shortest=10_000, aisle_every=0, aisle_m=0.0)
Ring = tuple[tuple[float, float], ...]


def ring_of(radii: list[float]) -> Ring:
    """A star of so many corners about the origin."""
    turn = np.linspace(0, 2 * math.pi, len(radii), endpoint=False)
    return tuple(
        (round(r * math.cos(t), 2), round(r * math.sin(t), 2)) for r, t in zip(radii, turn, strict=True)
    )


def site_with(land: Ring, ponds: list[tuple[float, float, float]], **rows: object) -> Design:
    """Larkspur's array on a plane, inside a boundary, with square ponds to keep off."""
    things = [FeatureGivens(id="land", kind="boundary", points=land)]
    for number, (east, north, half) in enumerate(ponds):
        corners = ((-1, -1), (1, -1), (1, 1), (-1, 1))
        points = tuple((east + a * half, north + b * half) for a, b in corners)
        things.append(FeatureGivens(id=f"p{number}", kind="water", points=points))
    design = changed(plain_larkspur(), "site", features=tuple(things), notes=())
    return changed(design, "rows", **{"modules_along": 6, "tables": (), **rows})


LANDS = st.lists(st.floats(25, 70), min_size=4, max_size=9).map(ring_of)
# To a millimetre, as it can be typed: by a shred of that shapely buffers a polygon to nothing.
EDGES = st.integers(0, 3000).map(lambda one: one / 1000)
PONDS = st.lists(st.tuples(st.floats(-45, 45), st.floats(-45, 45), st.floats(1, 9)), max_size=3)


def outlines(design: Design) -> np.ndarray:
    return plan(design).rows.tables.outlines


@settings(max_examples=25, deadline=None)
@given(LANDS, PONDS, st.floats(-25, 25), st.floats(6, 14), EDGES, st.floats(0, 0.12))
def test_no_table_stands_beyond_the_boundary_or_on_what_it_keeps_off(
    land: Ring,
    ponds: list[tuple[float, float, float]],
    turn: float,
    pitch: float,
    edge: float,
    slope: float,
) -> None:
    design = site_with(land, ponds, turn_deg=turn, pitch_m=pitch)
    design = changed(design, "site", slope=slope, falls_toward_deg=160.0)
    shape = shapely.Polygon(land)
    assume(shape.is_valid and shape.area > 500)
    wanted = wanted_of(modules=None, edge_m=edge, shortest=3, aisle_every=0, aisle_m=0.0)
    try:
        new, found = filled(design, plan(design), "1", wanted)
    except FillError as error:
        assert error.field in ("edge", "tables")
        return
    glass = outlines(new)
    assert len(glass) == found.tables
    assert found.modules == plan(new).rows.module_count > 0
    inner = shape.buffer(-edge)
    assert shapely.area(shapely.difference(glass, inner.buffer(1e-3))).max() < 1e-3
    for east, north, half in ponds:
        pond = shapely.box(east - half, north - half, east + half, north + half)
        assert shapely.area(shapely.intersection(glass, pond.buffer(edge - 1e-3))).max() < 1e-3
    for number, one in enumerate(glass[:-1]):
        assert shapely.area(shapely.intersection(one, glass[number + 1 :])).max() < 1e-6
    # Nothing but the tables, where the array begins and posts that were shifted clear was changed.
    was, now = design.arrays[0], new.arrays[0]
    assert now.model_copy(update={"rows": was.rows, "structure": was.structure}) == was
    assert now.structure.model_copy(update={"shifts": ()}) == was.structure
    assert now.rows.tilt_deg == was.rows.tilt_deg


@settings(max_examples=20, deadline=None)
@given(LANDS, PONDS, st.floats(7, 13))
def test_never_fewer_than_a_plain_grid(
    land: Ring, ponds: list[tuple[float, float, float]], pitch: float
) -> None:
    """Whole tables on a grid from the south-west corner of what is free."""
    design = site_with(land, ponds, pitch_m=pitch)
    shape = shapely.Polygon(land)
    assume(shape.is_valid and shape.area > 500)
    before = plan(design)
    free = before.site.keepouts.inside
    free = shapely.difference(free, before.site.keepouts.merged("glass"))
    rows = before.rows
    length, depth = rows.table_length_m, rows.section.level_depth_m
    west, south, east, north = free.bounds
    x = np.arange(west, east - length, length + rows.table_gap_m)
    y = np.arange(south, north - depth, pitch)
    boxes = shapely.box(*(part.ravel() for part in grid_of(x, y, length, depth)))
    count = int((shapely.area(shapely.difference(boxes, free)) < 1e-9).sum())
    try:
        _, found = filled(design, before, "1", MOST)
    except FillError:
        assert count == 0
        return
    assert found.tables >= count


def grid_of(x: np.ndarray, y: np.ndarray, length: float, depth: float) -> tuple[np.ndarray, ...]:
    east, north = np.meshgrid(x, y)
    return east, north, east + length, north + depth


LAND: Ring = ((-50.0, -40.0), (50.0, -40.0), (50.0, 45.0), (-50.0, 45.0))


def test_as_many_as_are_wanted_and_no_more() -> None:
    design = site_with(LAND, [])
    for count in (13, 60, 96):
        wanted = wanted_of(modules=count, edge_m=0.0, shortest=1, aisle_every=0, aisle_m=0.0)
        new, found = filled(design, plan(design), "1", wanted)
        # Columns are whole: two modules high, one more at most.
        assert count <= found.modules <= count + 1
        assert plan(new).rows.module_count == found.modules


def test_aisles_are_left_and_short_tables_fill_what_is_left() -> None:
    design = site_with(LAND, [])
    plain = filled(design, plan(design), "1", MOST)[1]
    short = filled(
        design,
        plan(design),
        "1",
        wanted_of(modules=None, edge_m=0.0, shortest=2, aisle_every=0, aisle_m=0.0),
    )[1]
    assert short.modules > plain.modules
    new, _ = filled(
        design,
        plan(design),
        "1",
        wanted_of(modules=None, edge_m=0.0, shortest=10_000, aisle_every=3, aisle_m=5.0),
    )
    glass = outlines(new)
    row = glass[plan(new).rows.tables.row == 0]
    gaps = [row[n].distance(row[n + 1]) for n in range(len(row) - 1)]
    usual = usual_gap = design.arrays[0].rows.table_gap_m
    narrow = wanted_of(modules=None, edge_m=0.0, shortest=10_000, aisle_every=3, aisle_m=0.0)
    touching = outlines(filled(design, plan(design), "1", narrow)[0])
    assert min(a.distance(b) for a, b in itertools.pairwise(touching)) >= usual_gap - 2e-3
    assert gaps == pytest.approx([5.0 if n % 3 == 2 else usual for n in range(len(gaps))], abs=2e-3)


def test_a_table_set_by_hand_stays_and_what_was_laid_is_laid_anew() -> None:
    design = site_with(LAND, [(0.0, 0.0, 5.0)])
    once, first = filled(design, plan(design), "1", MOST)
    assert not any(one.by_hand for one in once.arrays[0].rows.tables)
    ids = [
        {one.id for one in both.arrays[0].rows.tables}
        for both in (once, filled(once, plan(once), "1", MOST)[0])
    ]
    # Another thing has another id, for good.
    assert ids[0] and not ids[0] & ids[1]
    gone = TableGivens(id="root", place="1.1", out=True)
    kept = tuple(one for one in once.arrays[0].rows.tables if one.place != "1.1")
    held_out = changed(once, "rows", tables=(*kept, gone))
    # What was taken out by hand stays out, filled once or twice: its ground is left free.
    ground = plan(held_out).rows.even.tables.outlines[0]
    again = held_out
    for _ in range(2):
        again, found = filled(again, plan(again), "1", MOST)
        assert found.put_back == 0
        assert shapely.area(shapely.intersection(outlines(again), ground)).max() < 1e-3
        assert [one for one in again.arrays[0].rows.tables if one.out and one.by_hand]
    _, second = filled(once, plan(once), "1", MOST)
    assert (second.tables, second.modules) == (first.tables, first.modules)
    by_hand = TableGivens(id="mine", name="by the gate", along_m=-20.0, back_m=3.0, turn_deg=9.0)
    rows = once.arrays[0].rows
    held = changed(once, "rows", tables=(*rows.tables, by_hand))
    where = plan(held).rows
    mine = where.tables.outlines[where.stands.index_of("mine")]
    new, _ = filled(held, plan(held), "1", MOST)
    there = plan(new).rows
    stays = there.tables.outlines[there.stands.index_of("mine")]
    assert stays.symmetric_difference(mine).area < 1e-2
    # So many are wanted in all, the one that stays among them.
    fewer = wanted_of(modules=60, edge_m=0.0, shortest=1, aisle_every=0, aisle_m=0.0)
    assert 60 <= filled(held, plan(held), "1", fewer)[1].modules <= 61
    others = np.delete(there.tables.outlines, there.stands.index_of("mine"))
    assert shapely.distance(others, mine).min() >= rows.table_gap_m - 1e-2


def test_without_a_boundary_there_is_nothing_to_fill() -> None:
    design = changed(site_with(LAND, []), "site", features=())
    with pytest.raises(FillError, match="no boundary") as caught:
        filled(design, plan(design), "1", MOST)
    assert caught.value.remedy
    land = site_with(LAND, [])
    with pytest.raises(FillError, match="no table finds room"):
        filled(
            land,
            plan(land),
            "1",
            wanted_of(modules=None, edge_m=42.0, shortest=1, aisle_every=0, aisle_m=0.0),
        )


def laid_out_m(columns: list[int], measure: Measure) -> float:
    """From the first table's beginning to the last one's end, laid one after the other."""
    wanted, end = measure.wanted, 0.0
    for number, one in enumerate(columns):
        if number:
            aisle = wanted.aisle_every and number % wanted.aisle_every == 0
            end += max(wanted.aisle_m, measure.gap_m) if aisle else measure.gap_m
        end += measure.length_m(one)
    return end


@settings(max_examples=25, deadline=None)
@given(
    st.lists(st.integers(1, 5), min_size=1, max_size=3, unique=True),
    st.lists(st.floats(0.5, 60), min_size=1, max_size=8),
    st.integers(0, 3),
    st.floats(0, 6),
)
def test_tables_of_several_lengths_fill_a_stretch_as_far_as_they_can(
    lengths: list[int], rooms: list[float], every: int, aisle: float
) -> None:
    """Every handful of shorter tables behind any number of whole ones, laid out one by one."""
    rows = plan(site_with(LAND, [])).rows
    wanted = wanted_of(
        modules=None,
        edge_m=0.0,
        shortest=10_000,
        aisle_every=every,
        aisle_m=aisle,
        lengths=tuple(lengths),
    )
    measure = Measure(rows, wanted, 1.0)
    found = measure.filled(np.array(rooms))
    for number, room in enumerate(rooms):
        best = 0
        for whole in range(13):
            for shorter in range(4):
                for some in itertools.combinations_with_replacement(lengths, shorter):
                    columns = [6] * whole + list(some)
                    if laid_out_m(columns, measure) <= room:
                        best = max(best, sum(columns))
        assert found.columns[number] == best
        stands = [6] * int(found.whole[number]) + list(measure.ends[int(found.end[number])])
        assert sum(stands) == best
        assert laid_out_m(stands, measure) <= room + 1e-5


# Equal strings are worth half as many again as the fewest; common practice, no published source.
MORE_STRINGS = 1.5


def equal_lengths(modules: int, shortest: int, longest: int) -> list[int]:
    """Lengths of equal strings, of no more strings than are worth it."""
    most = max(math.floor(MORE_STRINGS * math.ceil(modules / longest)), math.ceil(modules / longest))
    return [
        one for one in range(shortest, longest + 1) if modules % one == 0 and modules // one <= most
    ]


@settings(max_examples=12, deadline=None)
@given(LANDS, PONDS, st.floats(7, 12))
def test_strings_come_out_even_for_as_few_modules_as_can_be(
    land: Ring, ponds: list[tuple[float, float, float]], pitch: float
) -> None:
    design = site_with(land, ponds, pitch_m=pitch)
    assume(shapely.Polygon(land).is_valid and shapely.Polygon(land).area > 800)
    # Inputs enough, so that none stands in the way of equal strings.
    design = with_inverter(design, inverter_inputs=200)
    before = plan(design)
    strings = before.wiring.circuits[0].strings
    shortest, longest = strings.shortest_allowed, strings.longest_allowed
    asked: dict[str, Any] = {
        "modules": None,
        "edge_m": 0.0,
        "shortest": 1,
        "aisle_every": 0,
        "aisle_m": 0.0,
    }
    try:
        most = filled(design, before, "1", wanted_of(**asked))[1].modules
    except FillError:
        return
    even = equal_strings(before, "1")
    new, laid = filled(design, before, "1", wanted_of(even=even, **asked))
    found = laid.modules
    could = [count for count in range(2, most + 1, 2) if equal_lengths(count, shortest, longest)]
    assert found == (max(could) if could else most)
    if could:
        told = plan(new).wiring.circuits[0].strings
        assert told.equal
    for count in range(1, most + 1):
        assert even(count) == bool(equal_lengths(count, shortest, longest))


@given(st.floats(0, 360), st.sampled_from([47.0, -33.0]), st.booleans())
@settings(max_examples=30, deadline=None)
def test_rows_run_along_the_line_that_was_chosen(bearing: float, latitude: float, bent: bool) -> None:
    to = (40 * math.sin(math.radians(bearing)), 40 * math.cos(math.radians(bearing)))
    line = ((0.0, 0.0), to, (to[0] + 9.0, to[1] - 4.0)) if bent else ((0.0, 0.0), to)
    design = site_with(LAND, [])
    things = (*design.site.features, FeatureGivens(id="lane", kind="fence", points=line))
    design = changed(design, "site", features=things, latitude_deg=latitude)
    try:
        turned = turned_along(design, "1", "lane")
    except ValueError as error:
        # East and west of the equator's line by more than 60 degrees.
        assert "from the equator" in str(error)
        assert abs((bearing % 180) - 90) > 59.9
        return
    rows = plan(turned).rows
    apart = (rows.along_deg - bearing) % 180
    assert min(apart, 180 - apart) < 0.02
    equator = 180.0 if latitude > 0 else 0.0
    assert abs((rows.facing_deg - equator + 180) % 360 - 180) <= 60.01
    with pytest.raises(KeyError):
        turned_along(design, "1", "nothing")


def test_glass_of_every_tilt_stays_inside() -> None:
    """Tables that are set through the year reach furthest where they lie flattest."""
    seasons = (
        PositionGivens(id="a", tilt_deg=5.0, day="3 May"),
        PositionGivens(id="b", tilt_deg=60.0, day="3 Oct"),
    )
    design = site_with(LAND, [(0.0, 0.0, 5.0)], positions=seasons, tilt_deg=60.0, pitch_m=9.0)
    new, found = filled(design, plan(design), "1", MOST)
    rows = plan(new).rows
    assert found.tables == rows.tables.count
    for one in rows.positions:
        glass = one.lie.tables.outlines
        assert shapely.area(shapely.difference(glass, shapely.Polygon(LAND))).max() < 1e-3
        assert shapely.area(shapely.intersection(glass, shapely.box(-5, -5, 5, 5))).max() < 1e-3
    kept = [c.level for c in rows.checks if c.key in ("boundary", "keep_out")]
    assert kept == ["sound", "sound"]


@settings(max_examples=15, deadline=None)
@given(st.floats(-20, 20), st.floats(-35, 35), st.floats(8, 13))
def test_posts_are_shifted_inside_their_spans_off_a_line_or_told(
    east: float, lean: float, pitch: float
) -> None:
    """A drain through the field: no post stands on it but those of tables that are told."""
    away = math.tan(math.radians(lean))
    drain = ((east - 45 * away, -45.0), (east + 45 * away, 45.0))
    design = site_with(LAND, [], pitch_m=pitch)
    things = (*design.site.features, FeatureGivens(id="drain", kind="drain", points=drain))
    design = changed(design, "site", features=things)
    # A shift of the table that bore this name before is not one of the table that bears it now.
    design = changed(design, "structure", shifts=(("1.1/2", 0.4),))
    new, found = ground.filled(design, plan(design), "1", MOST)
    made = plan(new)
    places = made.structure.supports.places
    line = shapely.LineString(drain)
    keep_off = made.site.keepouts.merged("post")
    posts = shapely.points(places.east_m, places.north_m)
    on = shapely.intersects(keep_off, posts)
    assert len(set(places.of_table[on].tolist())) <= found.stuck
    assert found.shifted == len(new.arrays[0].structure.shifts)
    if not found.stuck:
        assert shapely.distance(line, posts).min() > 0.1
    limit = new.arrays[0].structure.span_limit_m
    for table in range(found.tables.tables):
        mine = np.sort(places.from_middle_m[places.of_table == table])
        assert np.diff(mine).max(initial=0) <= limit + 1e-6
        assert np.abs(mine).max() <= made.rows.tables.lengths_m[table] / 2 + 0.2
    assert not [c for c in made.structure.checks if c.key == "shifted" and c.level == "stop"]
