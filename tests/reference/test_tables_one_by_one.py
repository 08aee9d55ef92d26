"""Tables that differ from the pattern, laid out again from outside: places, counts, loads, shade."""

import math
from collections import Counter
from dataclasses import dataclass
from itertools import combinations, pairwise
from typing import Any

import numpy as np
import pytest
import shapely
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from numpy.typing import NDArray

from openfurrow.core.design import Design
from openfurrow.core.design_versions import read_document
from openfurrow.core.plan import Plan, plan
from openfurrow.core.rows.givens import TableGivens
from openfurrow.core.rows.snap import snapped
from tests.core.breaks import grid, shot
from tests.core.test_checks import broken
from tests.designs import changed, plain_larkspur
from tests.rays import corners_of, hidden, suns_of
from tests.reference.test_every_post import shares_m
from tests.strings_laid import Laid as Module
from tests.strings_laid import joined, strings_laid

# A sixteenth of an inch: the finest mark of the tape, to which a saw cuts.
MARK_M = 0.0254 / 16

Floats = NDArray[np.float64]
G = 9.80665
# How far over its own length a module's lead reaches; common practice, no published source.
SPLICE_BOLTS = 4


@dataclass(frozen=True)
class Laid:
    """One table from outside: what it is called, its middle, its turn, its columns, its line."""

    name: str
    along_m: float
    back_m: float
    turn_deg: float
    columns: int
    line: str


def told(draw: Any, rows: int, along: int) -> tuple[TableGivens, ...]:
    """A few tables that differ, each once, and perhaps one of no row."""
    places = draw(
        st.lists(st.tuples(st.integers(1, rows), st.integers(1, along)), max_size=4, unique=True)
    )
    found = [
        TableGivens(
            id=f"t{number}",
            place=f"{row}.{table}",
            out=draw(st.booleans()),
            modules_along=draw(st.none() | st.integers(1, 9)),
            along_m=draw(st.sampled_from([0.0, 0.0, 1.25, -3.0])),
            back_m=draw(st.sampled_from([0.0, 0.0, 2.5, -1.5])),
            turn_deg=draw(st.sampled_from([0.0, 0.0, 12.0, -35.0])),
            lies=draw(st.sampled_from(["as the others", "as the others", "along the ground", "level"])),
        )
        for number, (row, table) in enumerate(places)
    ]
    if draw(st.booleans()):
        found.append(
            TableGivens(
                id="own",
                along_m=draw(st.floats(-30, 30)),
                back_m=draw(st.floats(-30, 30)),
                turn_deg=draw(st.floats(-60, 60)),
                modules_along=draw(st.none() | st.integers(1, 9)),
            )
        )
    return tuple(found)


@st.composite
def jobs(draw: Any, slope: float | None = 0.0) -> Design:
    rows, along = draw(st.integers(1, 3)), draw(st.integers(1, 3))
    design = changed(
        plain_larkspur(),
        "rows",
        rows=rows,
        tables_along=along,
        modules_along=draw(st.integers(2, 6)),
        table_gap_m=draw(st.floats(0, 2)),
        tilt_deg=draw(st.floats(10, 45)),
        turn_deg=draw(st.floats(-40, 40)),
        at_east_m=draw(st.floats(-20, 20)),
        at_north_m=draw(st.floats(-20, 20)),
        follow_ground=draw(st.booleans()),
        tables=told(draw, rows, along),
    )
    design = changed(
        design,
        "site",
        slope=draw(st.floats(0, 0.1)) if slope is None else slope,
        falls_toward_deg=draw(st.floats(0, 360)),
        latitude_deg=draw(st.sampled_from([44.0, -33.0])),
    )
    assume(any(not one.out for one in laid_out(design, 1.0)) or not design.arrays[0].rows.tables)
    return design


def length_m(design: Design, columns: int) -> float:
    modules = design.arrays[0].modules
    return columns * modules.width_m + (columns - 1) * modules.gap_along_m


def laid_out(design: Design, pitch_m: float) -> list[Any]:
    """Every table on level ground, row by row with a tape from the row's first end."""
    rows = design.arrays[0].rows
    by_place = {one.place: one for one in rows.tables if one.place}
    usual, found = length_m(design, rows.modules_along), []
    whole = rows.tables_along * usual + (rows.tables_along - 1) * rows.table_gap_m
    for row in range(rows.rows):
        tape = -whole / 2
        for table in range(rows.tables_along):
            name = f"{row + 1}.{table + 1}"
            one = by_place.get(name, TableGivens(place=name))
            columns = one.modules_along or rows.modules_along
            middle = tape + length_m(design, columns) / 2
            tape += length_m(design, columns) + rows.table_gap_m
            off = one.back_m or one.turn_deg
            place = Laid(
                name,
                middle + one.along_m,
                row * pitch_m + one.back_m,
                one.turn_deg,
                columns,
                name if off else f"row {row + 1}",
            )
            if not one.out:
                found.append(place)
    beside = [one for one in rows.tables if not one.place and not one.out]
    for number, one in enumerate(beside, start=1):
        columns, name = one.modules_along or rows.modules_along, f"extra {number}"
        found.append(Laid(name, one.along_m, one.back_m, one.turn_deg, columns, name))
    return [Seen(one) for one in found]


class Seen:
    """A table as it stands, never one that is taken out."""

    def __init__(self, laid: Laid) -> None:
        self.laid, self.out = laid, False


def ways_of(found: Plan, turn_deg: float) -> tuple[Floats, Floats]:
    """Level unit vectors along a table and to its back, from the compass alone."""
    facing = math.radians(found.rows.facing_deg + turn_deg)
    back = -np.array([math.sin(facing), math.cos(facing)])
    # Rows run toward the east, whichever way the array looks: the pattern is turned as one.
    unturned = math.radians(found.rows.facing_deg)
    east_is_left = math.sin(unturned - math.pi / 2) >= 0
    along = np.array([math.sin(facing - math.pi / 2), math.cos(facing - math.pi / 2)])
    return (along if east_is_left else -along), back


def places_of(found: Plan, design: Design) -> list[tuple[Laid, Floats, Floats, Floats]]:
    """Each table with the middle of its posts and its two ways, on the site."""
    rows = design.arrays[0].rows
    along, back = ways_of(found, 0.0)
    origin = np.array([rows.at_east_m, rows.at_north_m])
    return [
        (seen.laid, origin + seen.laid.along_m * along + seen.laid.back_m * back, *own)
        for seen in laid_out(design, found.rows.pitch_m)
        for own in (ways_of(found, seen.laid.turn_deg),)
    ]


@settings(max_examples=60, deadline=None)
@given(jobs())
def test_on_level_ground_every_table_and_post_stands_where_tape_and_compass_say(design: Design) -> None:
    found = plan(design)
    section, structure = found.rows.section, design.arrays[0].structure
    tilt, chord = math.radians(section.tilt_deg), section.chord_m
    glass, posts, names = [], [], []
    for laid, middle, along, back in places_of(found, design):
        half = length_m(design, laid.columns) / 2
        low = -(chord / 2 * math.cos(tilt) + section.stack_m * math.sin(tilt))
        deep = chord * math.cos(tilt)
        glass.append(
            [
                middle + u * half * along + v * back
                for u, v in ((-1, low), (1, low), (1, low + deep), (-1, low + deep))
            ]
        )
        purlin = 2 * half + 2 * design.arrays[0].modules.purlin_end_m
        ratio = structure.cantilever_ratio
        spans = max(1, math.ceil(purlin / structure.span_limit_m - 2 * ratio - 1e-9))
        span = purlin / (spans + 2 * ratio)
        posts += [middle + (ratio * span + k * span - purlin / 2) * along for k in range(spans + 1)]
        names += [laid.name] * (spans + 1)
    assert found.rows.tables.corners == pytest.approx(np.array(glass), abs=1e-6)
    places = found.places
    assert np.column_stack((places.east_m, places.north_m)) == pytest.approx(np.array(posts), abs=1e-6)
    stands = found.rows.stands
    assert [stands.name_of(int(k)) for k in places.of_table] == names


@settings(max_examples=40, deadline=None)
@given(jobs(slope=None))
def test_on_a_slope_glass_gaps_and_spans_are_as_long_as_their_tape(design: Design) -> None:
    """In space, along what climbs: tables, the gaps of a row, the posts' running tape."""
    found = plan(design)
    quads, tables = corners_of(found), found.rows.tables
    rows = design.arrays[0].rows
    for index, quad in enumerate(quads):
        own = length_m(design, int(tables.columns[index]))
        assert math.dist(quad[0], quad[1]) == pytest.approx(own, abs=1e-6)
    if not rows.follow_ground:
        return
    moved = {
        one.place
        for one in rows.tables
        if one.out or one.along_m or one.back_m or one.turn_deg or one.lies == "level"
    }
    names = [found.rows.stands.name_of(index) for index in range(tables.count)]
    for (name, quad), (after, other) in pairwise(zip(names, quads, strict=True)):
        same_row = name.split(".")[0] == after.split(".")[0]
        if same_row and not {name, after} & moved and "extra" not in name + after:
            between = int(after.split(".")[1]) - int(name.split(".")[1])
            if between == 1:
                assert math.dist(quad[1], other[0]) == pytest.approx(rows.table_gap_m, abs=1e-6)
    # What is moved along its row is moved so far along the tape.
    for one in rows.tables:
        if one.place in names and one.along_m and not (one.back_m or one.turn_deg):
            others = tuple(other for other in rows.tables if other is not one)
            there = one.model_copy(update={"along_m": 0.0})
            before = plan(changed(design, "rows", tables=(*others, there)))
            at = corners_of(before)[names.index(one.place)]
            assert math.dist(quads[names.index(one.place)][0], at[0]) == pytest.approx(
                abs(one.along_m), abs=1e-6
            )
    # The first end of a row stays where it was, whatever becomes of the tables after it.
    plain = plan(changed(design, "rows", tables=()))
    for row in range(1, rows.rows + 1):
        first = f"{row}.1"
        if first in names and first not in moved:
            at = corners_of(plain)[(row - 1) * rows.tables_along][0]
            assert quads[names.index(first)][0] == pytest.approx(at, abs=1e-6)
    stakes, places = found.setting_out.stakes, found.places
    top = np.column_stack((places.east_m, places.north_m, stakes.top_m))
    for index in range(1, places.line.size):
        if places.of_table[index] == places.of_table[index - 1]:
            run = stakes.tape_m[index] - stakes.tape_m[index - 1]
            assert math.dist(top[index], top[index - 1]) == pytest.approx(run, abs=1e-6)
    for line in set(places.line.tolist()):
        assert min(stakes.tape_m[places.line == line]) == 0.0


@settings(max_examples=40, deadline=None)
@given(jobs())
def test_all_is_counted_by_laying_it_out(design: Design) -> None:
    """Modules, clamps, straps, posts, pieces of purlin, splices, jumpers and wire, one by one."""
    found = plan(design)
    tables = [seen.laid for seen in laid_out(design, found.rows.pitch_m)]
    rows, modules = design.arrays[0].rows, design.arrays[0].modules
    high = rows.modules_high
    lines = [line for line in found.materials.lines]
    net = {line.key: line.net for line in lines}
    assert net["module"] == sum(high * one.columns for one in tables)
    ends = sum(4 * high for _ in tables)
    mids = sum(2 * high * (one.columns - 1) for one in tables)
    assert (net["end_clamp"], net.get("mid_clamp", 0)) == (ends, mids)
    straps = sum(2 * high for _ in tables) + (0 if modules.clamps_bond else net["module"])
    assert net["strap"] == straps
    assert net["post"] == found.places.line.size
    cuts = found.materials.sawing.arrays[0].cuts
    assert sum(cut.count for cut in cuts if cut.key == "beam") == net["post"]
    # Every line of purlin: its pieces less the laps are its length; all pieces come from the sticks.
    pieces: Counter[float] = Counter()
    splices = 0
    lap, stock = design.arrays[0].frame.lap_m, design.arrays[0].frame.stock_length_m
    cut = {
        found.rows.stands.name_of(int(table)): one for one in found.frame.cuts for table in one.tables
    }
    for one in tables:
        of = cut[one.name].pieces.lengths_m
        whole = sum(of) - lap * (len(of) - 1)
        purlin = length_m(design, one.columns) + 2 * modules.purlin_end_m
        assert whole == pytest.approx(purlin, abs=1e-6)
        for length in of:
            pieces[min(round(length / MARK_M), round(stock / MARK_M, 3))] += 2 * high
        splices += 2 * high * (len(of) - 1)
    sawn: Counter[float] = Counter()
    (bar,) = (one for one in found.materials.sawing.bars if one.key == "purlin")
    for pattern in bar.nest.patterns:
        assert sum(pattern.pieces_m) <= stock + 1e-6
        for piece in pattern.pieces_m:
            sawn[round(piece / MARK_M, 3)] += pattern.sticks
    assert sawn == pieces
    assert net.get("splice_bolt", 0) == splices * SPLICE_BOLTS
    # Strings in the order of the tables, from module to module.
    step = modules.width_m + modules.gap_along_m
    at = [
        Module(
            laid.along_m + math.cos(turn) * away,
            laid.back_m - clockwise * math.sin(turn) * away,
            table,
            laid.line,
            column,
            up,
        )
        for table, laid in enumerate(tables)
        for turn in (math.radians(laid.turn_deg),)
        for clockwise in (1.0 if found.rows.facing_deg < 270 and found.rows.facing_deg > 90 else -1.0,)
        for column in range(laid.columns)
        for away in (column * step + modules.width_m / 2 - length_m(design, laid.columns) / 2,)
        for up in range(high)
    ]
    box = found.run.route.start_post
    box_at = float(found.places.along_m[box]), float(found.places.back_m[box])
    lengths = found.circuit.strings.lengths.tolist()
    strings = strings_laid(at, lengths, design.wiring.string_walk, box_at)
    links = joined(design, design.arrays[0], strings, step)
    assert links.jumpers == found.circuit.jumpers
    wire = links.wire_m
    for string in strings:
        for one in (string.passes[0], string.passes[-1]):
            wire += abs(one.x - box_at[0]) + abs(one.y - box_at[1])
    slack = 2 * found.circuit.strings.count * design.wiring.slack_m
    assert found.circuit.array_wire_m == pytest.approx(wire + slack, abs=1e-6)


@settings(max_examples=40, deadline=None)
@given(jobs())
def test_bare_copper_reaches_every_line_of_posts(design: Design) -> None:
    """Never shorter than the shortest tree that joins all lines, and all of each line is walked."""
    found = plan(design)
    by_line: dict[str, list[Floats]] = {}
    for laid, middle, along, _ in places_of(found, design):
        half = length_m(design, laid.columns) / 2
        by_line.setdefault(laid.line, []).extend((middle - half * along, middle + half * along))
    # The two ends of a line that stand furthest apart.
    lines = [
        shapely.LineString(max(combinations(ends, 2), key=lambda pair: math.dist(*pair)))
        for ends in by_line.values()
    ]
    walked = sum(line.length for line in lines)
    joined, left = [lines[0]], lines[1:]
    while left:
        apart = [min(one.distance(other) for other in joined) for one in left]
        nearest = int(np.argmin(apart))
        walked += apart[nearest]
        joined.append(left.pop(nearest))
    own = found.circuit.bare_copper_m - found.run.route.ground_length_m - 2 * design.wiring.slack_m
    assert own >= walked - 1e-6
    # And not so long that somebody would carry home a reel.
    rows = design.arrays[0].rows
    apart_m = 2 * math.hypot(60, 60) * len(rows.tables)
    assert own <= walked + apart_m + rows.rows * found.rows.pitch_m


@settings(max_examples=40, deadline=None)
@given(jobs())
def test_each_post_bears_its_own_table(design: Design) -> None:
    """Weight and share of the row by the table that it stands under: long, short, one module alone."""
    found = plan(design)
    structure, posts = found.structure, found.footings.posts
    purlin, beam = structure.members.purlin.section, structure.members.beam.section
    high, chord = found.rows.modules_high, found.rows.section.chord_m
    index = 0
    for seen in laid_out(design, found.rows.pitch_m):
        columns = seen.laid.columns
        glass = length_m(design, columns)
        whole = glass + 2 * design.arrays[0].modules.purlin_end_m
        ratio = design.arrays[0].structure.cantilever_ratio
        limit = design.arrays[0].structure.span_limit_m
        spans = max(1, math.ceil(whole / limit - 2 * ratio - 1e-9))
        span = whole / (spans + 2 * ratio)
        shares = shares_m([ratio * span + k * span for k in range(spans + 1)], whole)
        # Per area of the glass: its modules, two purlins a module row, a beam a span.
        dead = (
            design.arrays[0].modules.mass_kg * high * columns / (chord * glass)
            + 2 * high * purlin.mass_kg_per_m / chord
            + beam.mass_kg_per_m / span
        )
        for share in shares:
            assert structure.supports.tributary_m[index] == pytest.approx(share, rel=1e-6)
            kind = posts.kinds[int(structure.supports.kind[index])]
            weight = dead * G * chord * share
            assert float(kind.loads.dead_n[0]) <= weight + 1e-6
            tilt = math.radians(found.rows.section.tilt_deg)
            loads = structure.loads_at[0]
            most, least = -math.inf, math.inf
            for d, s, w in zip(
                loads.strength.dead, loads.strength.snow_whole, loads.strength.wind, strict=True
            ):
                still = d * weight + s * loads.snow_pa * chord * math.cos(tilt) * share
                for front, back in zip(loads.wind.front_pa, loads.wind.back_pa, strict=True):
                    blown = w * float(front + back) / 2 * chord * share * math.cos(tilt)
                    most, least = max(most, still + blown), min(least, still + blown)
            assert kind.loads.down_n.max() >= most - 1e-3
            assert kind.loads.down_n.min() <= least + 1e-3
            # Alike within a tenth of a metre of row: no kind is loaded by another's table.
            assert kind.loads.down_n.max() <= most * (1 + 0.11 / share) + 1e-3 or least < 0
            index += 1
    assert index == structure.supports.count


@settings(max_examples=25, deadline=None)
@given(jobs())
def test_members_are_judged_by_the_table_that_uses_them_most(design: Design) -> None:
    """As the worst of arrays that have nothing but tables of one of the lengths."""
    found = plan(design)
    lengths = {seen.laid.columns for seen in laid_out(design, found.rows.pitch_m)}
    alone = [
        plan(changed(design, "rows", modules_along=columns, tables=())).structure for columns in lengths
    ]
    members = found.structure.members
    assert members.purlin.bending.used == pytest.approx(
        max(one.members.purlin.bending.used for one in alone), rel=1e-6
    )
    assert members.beam.bending.used == pytest.approx(
        max(one.members.beam.bending.used for one in alone), rel=1e-6
    )
    assert members.beam.strut_pull_n == pytest.approx(
        max(one.members.beam.strut_pull_n for one in alone), rel=1e-6
    )
    over = max(one.members.purlin.sag_m / one.members.sag_limit_m for one in alone)
    assert members.purlin.sag_m / members.sag_limit_m == pytest.approx(over, rel=1e-6)


def level_of(found: Plan, key: str) -> str:
    return next((one.level for one in found.rows.checks if one.key == key), "none")


def wider(quad: Floats) -> Floats:
    """A table a hand's breadth larger all round."""
    middle = quad.mean(axis=0)
    out = quad - middle
    return np.asarray(middle + out * (1 + 0.1 / np.linalg.norm(out, axis=1, keepdims=True)))


@settings(max_examples=30, deadline=None)
@given(jobs(slope=None))
def test_who_shades_whom_is_said_where_rays_say_so(design: Design) -> None:
    found = plan(design)
    plain = plan(changed(design, "rows", tables=()))
    quads, stands = corners_of(found), found.rows.stands
    names = [stands.name_of(index) for index in range(len(quads))]
    before = dict(
        zip(
            [plain.rows.stands.name_of(k) for k in range(plain.rows.tables.count)],
            corners_of(plain),
            strict=True,
        )
    )
    differs = [
        name not in before or np.abs(quad - before[name]).max() > 1e-6
        for name, quad in zip(names, quads, strict=True)
    ]
    suns = suns_of(found)[::6]
    met = any(
        hidden([own], [other], suns)
        for a, own in enumerate(quads)
        for b, other in enumerate(quads)
        if a != b and (differs[a] or differs[b])
    )
    if met:
        assert level_of(found, "shade_tables") == "look"
    elif level_of(found, "shade_tables") == "look":
        # A shadow that only just touches may pass between the rays: to a hand's breadth it is there.
        fine = suns_of(found)
        assert any(
            hidden([own], [wider(other)], fine)
            for a, own in enumerate(quads)
            for b, other in enumerate(quads)
            if a != b and (differs[a] or differs[b])
        )


@settings(max_examples=60, deadline=None)
@given(jobs())
def test_glass_over_glass_is_a_stop_and_too_little_room_is_told(design: Design) -> None:
    found = plan(design)
    outlines = [shapely.Polygon(quad[:, :2]) for quad in corners_of(found)]
    laid = [seen.laid for seen in laid_out(design, found.rows.pitch_m)]
    plain = {seen.laid for seen in laid_out(changed(design, "rows", tables=()), found.rows.pitch_m)}
    over, least = False, math.inf
    for a, one in enumerate(outlines):
        for b in range(a):
            if laid[a] in plain and laid[b] in plain:
                continue
            shared = one.intersection(outlines[b]).area
            over = over or shared > 1e-4
            if laid[a].line != laid[b].line and shared < 1e-9:
                least = min(least, one.distance(outlines[b]))
    if not design.arrays[0].rows.tables:
        assert level_of(found, "tables_over") == "none"
        return
    if over:
        assert level_of(found, "tables_over") == "stop"
    if least < 0.59:
        assert level_of(found, "tables_room") == "look"
    if not over and least > 0.61 and level_of(found, "tables_over") != "none":
        assert level_of(found, "tables_over") == "sound"
        assert level_of(found, "tables_room") == "sound"


@settings(max_examples=40, deadline=None)
@given(jobs(), st.integers(1, 3), st.floats(-0.2, 0.2))
def test_a_shift_stays_with_its_post_whatever_becomes_of_other_tables(
    design: Design, post: int, by_m: float
) -> None:
    """Known by its table and its place in it: the post of that table moves, and no other."""
    assume(abs(by_m) > 0.01)
    found = plan(design)
    names = [seen.laid for seen in laid_out(design, found.rows.pitch_m)]
    last = names[-1]
    known_by = "own" if last.name == "extra 1" else last.name
    told_so = changed(design, "structure", shifts=((f"{known_by}/{post}", by_m),))
    moved = plan(told_so)
    check = next(one for one in moved.structure.checks if one.key == "shifted")
    away = np.hypot(
        moved.places.east_m - found.places.east_m, moved.places.north_m - found.places.north_m
    )
    own = np.flatnonzero(found.places.of_table == len(names) - 1)
    if post > own.size:
        assert check.level == "stop" and not away.any()
        return
    if check.level == "stop":
        assert not away.any()
        return
    which = np.flatnonzero(away > 1e-9).tolist()
    assert which == [int(own[post - 1])]
    assert float(away.max()) == pytest.approx(abs(by_m), abs=1e-9)
    others = np.setdiff1d(np.arange(away.size), own)
    assert moved.structure.supports.tributary_m[others] == pytest.approx(
        found.structure.supports.tributary_m[others]
    )
    places = [float(found.places.from_middle_m[k]) for k in own]
    places[post - 1] += by_m
    purlin = length_m(design, last.columns) + 2 * design.arrays[0].modules.purlin_end_m
    shares = shares_m([one + purlin / 2 for one in places], purlin)
    assert moved.structure.supports.tributary_m[own] == pytest.approx(shares, rel=1e-6)


@settings(max_examples=80, deadline=None)
@given(
    st.integers(1, 9),
    st.integers(1, 3),
    st.integers(1, 3),
    st.floats(1.5, 6),
    st.floats(0, 0.5),
    st.integers(1, 40),
)
def test_a_shift_by_number_of_version_6_is_the_same_post_now(
    columns: int, along: int, rows: int, limit: float, ratio: float, number: int
) -> None:
    old = plain_larkspur().model_dump(mode="json") | {"schema_version": 6}
    array = old["arrays"][0]
    array["rows"] |= {"modules_along": columns, "tables_along": along, "rows": rows}
    del array["rows"]["tables"]
    array["structure"] |= {"span_limit_m": limit, "cantilever_ratio": ratio, "shifts": [[number, 0.01]]}
    design = read_document(old)
    ((post, by_m),) = design.arrays[0].structure.shifts
    assert by_m == 0.01
    shifted, even = plan(design), plan(changed(design, "structure", shifts=()))
    moved = np.flatnonzero(np.abs(shifted.places.from_middle_m - even.places.from_middle_m) > 1e-9)
    check = next(one for one in shifted.structure.checks if one.key == "shifted")
    if number > even.places.line.size:
        assert check.level == "stop" and post in str(check.measured)
    elif check.level == "sound":
        assert moved.tolist() == [number - 1]


def test_the_last_table_stays_and_what_is_told_of_none_is_a_stop() -> None:
    rows = {"tables_along": 2, "rows": 1, "modules_along": 3}
    out = tuple(TableGivens(id=f"o{k}", place=f"1.{k}", out=True) for k in (1, 2))
    found = plan(changed(plain_larkspur(), "rows", **rows, tables=out))
    assert found.rows.tables.count == 1 and level_of(found, "tables") == "stop"
    beside = (*out, TableGivens(id="own", along_m=5.0))
    found = plan(changed(plain_larkspur(), "rows", **rows, tables=beside))
    assert found.rows.module_count == 3 * found.rows.modules_high
    assert level_of(found, "tables") == "sound"
    for tables, word in (
        ((TableGivens(id="a", place="2.1", turn_deg=3.0),), "no table 2.1"),
        ((TableGivens(id="a", place="1.3"),), "no table 1.3"),
        ((TableGivens(id="a", place="1.1"), TableGivens(id="b", place="1.1", out=True)), "twice"),
    ):
        found = plan(changed(plain_larkspur(), "rows", **rows, tables=tables))
        check = next(one for one in found.rows.checks if one.key == "tables")
        assert check.level == "stop" and word in str(check.measured)
        assert found.rows.tables.count == 2


def off_mark(value_m: float) -> float:
    """How far from a whole decimetre."""
    return abs(value_m - round(value_m, 1))


@settings(max_examples=80, deadline=None)
@given(jobs(slope=None), st.data())
def test_a_table_moved_by_hand_stands_where_it_can_or_is_refused(design: Design, data: Any) -> None:
    """Within half a metre of the hand, over no other glass; refused only where glass is met."""
    found = plan(design)
    laid = places_of(found, design)
    number = data.draw(st.integers(0, len(laid)))
    rows = design.arrays[0].rows
    at = (data.draw(st.floats(-25, 25)), data.draw(st.floats(-25, 25)))
    to = (rows.at_east_m + at[0], rows.at_north_m + at[1])
    if number == len(laid):
        known_by, own = "new", TableGivens(id="new")
    else:
        name = laid[number][0].name
        known_by = "own" if name == "extra 1" else name
        told_of = {one.place or one.id: one for one in rows.tables}
        own = told_of[known_by] if known_by in told_of else TableGivens(id="new", place=known_by)
    answer = snapped(found.site, found.rows, rows, known_by, to)
    put = own.model_copy(update={"along_m": answer.along_m, "back_m": answer.back_m})
    others = tuple(one for one in rows.tables if one.id != own.id)
    after = plan(changed(design, "rows", tables=(*others, put)))
    index = after.rows.stands.index_of(known_by)
    assert index is not None
    mine = np.flatnonzero(after.places.of_table == index)[[0, -1]]
    middle = [float(one[mine].mean()) for one in (after.places.east_m, after.places.north_m)]
    # To the decimetre where the hand let go, else at most 0.4 m aside: in line with a row, end to end
    # with another table by the usual gap, or where it stood in the pattern.
    along, back = ways_of(found, 0.0)
    away = np.array(middle) - np.array(to)
    assert abs(away @ along) <= 0.401 and abs(away @ back) <= 0.401
    beside, behind = (
        float((np.array(middle) - np.array([rows.at_east_m, rows.at_north_m])) @ way)
        for way in (along, back)
    )
    off_row = (behind + found.rows.pitch_m / 2) % found.rows.pitch_m - found.rows.pitch_m / 2
    assert abs(off_row) < 1e-3 or answer.back_m == 0.0 or off_mark(behind) < 1e-3
    if off_mark(beside) > 1e-3 and answer.along_m != 0.0:
        quads = corners_of(after)
        ends = [(quads[index][k], other[1 - k]) for other in quads for k in (0, 1)]
        # On the level: tables that are end to end climb alike, or nearly.
        gaps = [math.dist(one[:2], other[:2]) for one, other in ends]
        assert any(abs(gap - rows.table_gap_m) < 0.01 for gap in gaps)
    outline = after.rows.tables.outlines[index]
    over = [
        k
        for k, other in enumerate(after.rows.tables.outlines)
        if k != index and shapely.intersection(outline, other).area > 1e-5
    ]
    if answer.refused.startswith("it would stand over"):
        assert over
    elif not answer.refused:
        assert not over


def test_a_table_comes_into_line_and_end_to_end() -> None:
    """Near its row's line and its neighbour's end it snaps to both; near its place it goes back."""
    rows = {"tables_along": 2, "rows": 2, "modules_along": 3, "table_gap_m": 0.5, "turn_deg": 0.0}
    design = changed(plain_larkspur(), "rows", **rows)
    design = changed(design, "site", slope=0.0)
    found = plan(design)
    usual = length_m(design, 3)
    # One more, a little off the end of the second row.
    end = 1.5 * usual + 0.75
    at = (end + 0.2, found.rows.pitch_m - 0.3)
    said = snapped(found.site, found.rows, design.arrays[0].rows, "new", at)
    assert (said.along_m, said.back_m) == pytest.approx((end, found.rows.pitch_m), abs=1e-3)
    assert said.refused == ""
    # The first table of the second row, let go a hand from where it stands.
    at = (-usual / 2 - 0.25 + 0.1, found.rows.pitch_m + 0.2)
    said = snapped(found.site, found.rows, design.arrays[0].rows, "2.1", at)
    assert (said.along_m, said.back_m) == (0.0, 0.0)
    said = snapped(found.site, found.rows, design.arrays[0].rows, "2.1", (0.0, found.rows.pitch_m))
    assert said.refused == "it would stand over table 2.2"


@settings(max_examples=20, deadline=None)
@given(st.floats(0.01, 0.12), st.floats(0, 360), st.booleans(), st.booleans())
def test_a_table_lies_as_it_is_told_and_the_others_as_they_do(
    slope: float, falls: float, follow: bool, own: bool
) -> None:
    """On even ground one lies along it where its lower edge is as high over it all along."""
    said = [
        TableGivens(id="a", place="1.1", lies="along the ground"),
        TableGivens(id="b", place="1.2", lies="level"),
    ]
    if own:
        said.append(TableGivens(id="c", back_m=-20.0, turn_deg=20.0, lies="level"))
    design = changed(
        plain_larkspur(),
        "rows",
        rows=1,
        tables_along=3,
        modules_along=6,
        follow_ground=follow,
        tables=tuple(said),
    )
    design = changed(design, "site", slope=slope, falls_toward_deg=falls)
    found = plan(design).rows
    lie = found.lie
    follows = [True, False, follow, *([False] if own else [])]
    away = math.radians(falls)
    for index, along in enumerate(follows):
        half = lie.tables.lengths_m[index] / 2
        ends = [float(lie.edge_at(index, at)) for at in (-half, half)]
        east, north = lie.tables.east_north_m(index, np.array([-half, half]), lie.tables.edge_back_m)
        ground = -slope * (math.sin(away) * east + math.cos(away) * north)
        over = np.array(ends) - ground
        if along:
            assert over[0] == pytest.approx(over[1], abs=1e-6)
        else:
            assert ends[0] == pytest.approx(ends[1], abs=1e-9)
        assert np.ptp(lie.clear_m[index]) == pytest.approx(abs(over[1] - over[0]), abs=1e-6)
    # What filling laid and nobody told otherwise is still its own.
    laid = TableGivens(id="d", place="1.3", along_m=1.0)
    laid = laid.model_copy(update={"laid": laid.told})
    assert not laid.by_hand
    assert laid.model_copy(update={"lies": "level"}).by_hand


def test_grading_is_what_a_plane_under_each_table_cuts() -> None:
    """Volumes on a fine grid against the plane of least squares by numpy; cut is fill."""
    bumps = broken(
        plain_larkspur(),
        {
            "site": shot(grid(lambda e, n: 0.3 * math.sin(e / 3) + 0.02 * n + 0.004 * e * n, 8, 60)),
            "rows": {"rows": 2, "tables_along": 2, "modules_along": 8, "pitch_m": 9.0},
        },
    )
    found = plan(bumps)
    told = next(a for a in found.answers if a.key == "grading")
    lie, section = found.rows.lie, found.rows.section
    cut = fill = 0.0
    for index in range(lie.tables.count):
        a, b = np.meshgrid(
            (np.arange(200) + 0.5) / 200 - 0.5, (np.arange(60) + 0.5) / 60, indexing="ij"
        )
        a, b = a.ravel() * lie.tables.lengths_m[index], b.ravel() * section.level_depth_m
        east, north = lie.tables.east_north_m(index, a, lie.tables.edge_back_m + b)
        ground = found.site.ground.level_m(east, north)
        design = np.column_stack((np.ones(a.size), a, b))
        off = ground - design @ np.linalg.lstsq(design, ground, rcond=None)[0]
        area = lie.tables.lengths_m[index] * lie.tables.level_share[index] * section.level_depth_m
        cut += float(np.maximum(off, 0).mean()) * area
        fill -= float(np.minimum(off, 0).mean()) * area
    assert cut == pytest.approx(fill)
    assert told.working.value == pytest.approx(cut, rel=0.02)
    assert told.working.value > 0.5
    level = broken(plain_larkspur(), {"rows": {"rows": 2}})
    assert not [a for a in plan(level).answers if a.key == "grading"]
