"""The rest of the field book: trench, strings, serials, inspections, and what is handed over."""

import itertools
from collections.abc import Iterable
from dataclasses import replace
from datetime import UTC, datetime, timedelta

import numpy as np
import pytest
import shapely
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from openfurrow.core.as_built import as_built, book_of, handover_of
from openfurrow.core.beginning import from_nothing
from openfurrow.core.checks import Check
from openfurrow.core.design import Design
from openfurrow.core.edits import apply
from openfurrow.core.fieldbook.book import FieldBook, field_book
from openfurrow.core.fieldbook.inspections import SWITCH_ON, TRENCH, WHOLE
from openfurrow.core.fieldbook.records import Record, RecordKind, standing
from openfurrow.core.fieldbook.trench import EVERY_M, Station
from openfurrow.core.lacking import Lacking
from openfurrow.core.plan import plan
from openfurrow.core.quantities import format_value
from openfurrow.core.working import evaluate
from openfurrow.demo.designs import grifo, larkspur_with_pump_house, quillay
from openfurrow.sheets.field import post_words
from openfurrow.sheets.tables import stakes_table
from tests.designs import designs, plain_larkspur

NOON = datetime(2026, 5, 4, 18, 0, tzinfo=UTC)
_count = itertools.count()


def made(kind: RecordKind, of: str, value: float = 0.0, **but: object) -> Record:
    number = next(_count)
    record = Record(
        id=f"r{number}",
        kind=kind,
        of=of,
        value=value,
        typed=f"{value}",
        by="Tobin",
        device="phone",
        at=NOON + timedelta(minutes=number),
        east_m=0.0,
        north_m=0.0,
    )
    return replace(record, **but)  # type: ignore[arg-type]


def cover(station: Station, value: float, **but: object) -> Record:
    where = {"east_m": station.east_m, "north_m": station.north_m}
    return made("cover", station.of, value, **(where | but))


def book(design: Design, *records: Record) -> FieldBook:
    return field_book(design, plan(design), records)


def levels(checks: Iterable[Check]) -> dict[str, str]:
    return {check.key: check.level for check in checks}


def test_nothing_is_said_of_what_nobody_measured() -> None:
    for design in (plain_larkspur(), larkspur_with_pump_house(), quillay(), grifo()):
        bare = book(design)
        assert bare.checks == () and bare.records == 0
        assert {one.verdict for one in bare.covers} <= {"not yet"}
        assert {one.verdict for one in bare.strings} == {"not yet"}
        assert {one.state for one in bare.inspections} == {"not asked"}
        assert [answer.value for answer in bare.answers] == [0.0] * len(bare.answers)
        whole = as_built(design, plan(design))
        assert {check.key for check in whole.checks} == {check.key for check in plan(design).checks}


def test_records_that_equal_the_plan_move_no_other_number() -> None:
    design = larkspur_with_pump_house()
    bare = plan(design)
    found = book(design)
    records = [
        made("depth", p.of, p.planned_m, east_m=p.east_m, north_m=p.north_m) for p in found.posts
    ]
    records += [cover(one, one.planned_m) for one in found.covers]
    records += [made("voltage", s.of, s.expected_v(31.0), beside=31.0) for s in found.strings]
    records += [made("insulation", s.of, 3e8) for s in found.strings]
    records += [made("current", s.of, s.expected_a(910.0), beside=910.0) for s in found.strings]
    records += [
        made("serial", of, typed=f"OF-{number:05}")
        for number, of in enumerate(of for grid in found.serials.grids for of in grid.places())
    ]
    for one in (TRENCH, WHOLE, SWITCH_ON):
        records.append(made("passed", one.of, note="the inspector"))
    whole = as_built(design, bare, records)
    assert whole.answers[: len(bare.answers)] == bare.answers
    assert {check.level for check in book_of(whole).checks} == {"sound"}
    assert levels(handover_of(whole).checks)["built"] == "sound"
    assert levels(handover_of(whole).checks)["known"] == "sound"
    for before, after in zip(bare.stages(), whole.stages(), strict=True):
        assert before is after
    # One thing that was not looked at is told, wherever it is.
    for index in range(0, len(records), 7):
        less = records[:index] + records[index + 1 :]
        checks = as_built(design, bare, less).checks
        assert any(c.stage == "fieldbook" and c.level == "look" for c in checks), records[index]


def test_what_is_counted_is_worked_out_and_of_what_there_is() -> None:
    design = plain_larkspur()
    bare = book(design)
    string, *_ = bare.strings
    found = book(
        design,
        cover(bare.covers[0], 0.6),
        made("voltage", string.of, 400.0, beside=20.0),
        made("serial", bare.serials.grids[0].places()[3], typed="A1"),
        *(made("depth", p.of, 2.5, east_m=p.east_m, north_m=p.north_m) for p in bare.posts[:3]),
    )
    assert {a.key: a.value for a in found.answers} == {
        "posts": 3.0,
        "covers": 1.0,
        "strings": 1.0,
        "serials": 1.0,
        "parts": 0.0,
    }
    every = {"posts": len(bare.posts), "covers": len(bare.covers), "strings": len(bare.strings)}
    every["serials"] = plan(design).rows.module_count
    every["parts"] = sum(len(load.carried) for load in plan(design).hauling.loads)
    for answer in found.answers:
        assert evaluate(answer.working) == answer.value
        assert answer.working.inputs[0].value == every[answer.key]


@pytest.mark.parametrize(
    "leans, level", [(0.0, "sound"), (1.0, "sound"), (1.1, "look"), (20.0, "look")]
)
def test_a_post_that_leans_more_than_a_degree_is_told(leans: float, level: str) -> None:
    design = plain_larkspur()
    post = book(design).posts[2]
    where = {"east_m": post.east_m, "north_m": post.north_m}
    found = book(design, made("plumb", post.of, leans, **where))
    assert levels(found.checks)["plumb"] == level
    # Of two who held a level to it the worse counts.
    both = [made("plumb", post.of, one, by=by, **where) for one, by in ((leans, "a"), (0.2, "b"))]
    assert levels(book(design, *both).checks)["plumb"] == level
    # How it leans says nothing of how deep it stands.
    assert found.posts[2].depth_m is None and levels(found.checks)["posts-read"] == "look"
    told = post_words(found.posts[2], "us")
    assert told == f"{leans:.1f}° off plumb" + ("" if level == "sound" else ": pull it straight")


def test_the_stakes_say_how_posts_stand_by_now_once_any_is_measured() -> None:
    design = plain_larkspur()
    bare, found = plan(design), book(design)
    assert "Built" not in {c.title for c in stakes_table(as_built(design, bare), "us").columns}
    sound, short = found.posts[1], found.posts[3]
    records = [
        made("depth", post.of, depth, east_m=post.east_m, north_m=post.north_m)
        for post, depth in ((sound, sound.planned_m), (short, 0.5))
    ]
    table = stakes_table(as_built(design, bare, records), "metric")
    assert table.columns[-1].title == "Built"
    cells = [row[-1] for row in table.rows]
    assert cells[1] == format_value(sound.planned_m, "tape", "metric") and cells[3] == "500 mm !"
    assert set(cells[:1] + cells[2:3] + cells[4:]) == {""}


# --- the trench --------------------------------------------------------------------------------
@settings(max_examples=40)
@given(design=designs())
def test_the_tape_goes_in_at_both_ends_and_every_bend_and_never_far_apart(design: Design) -> None:
    found = plan(design)
    assume(found.has("trench", "wiring"))
    stations = book(design).covers
    if found.trench.over is not None:
        # Nothing covers what lies over the ground.
        assert stations == ()
        return
    places = np.array([(one.east_m, one.north_m) for one in stations])
    for dug in found.trench.dug:
        line = shapely.LineString(np.column_stack((dug.stretch.line.east_m, dug.stretch.line.north_m)))
        for corner in shapely.get_coordinates(line):
            assert np.hypot(*(places - corner).T).min() < 0.01
        # Wherever one stands over the pipe, a place that was read is not far.
        for at in np.arange(0.0, line.length, 0.25):
            here = shapely.get_coordinates(line.interpolate(at))[0]
            assert np.hypot(*(places - here).T).min() <= EVERY_M / 2 + 0.01
    for one in stations:
        own = found.trench.dug[one.stretch - 1].stretch.line
        line = shapely.LineString(np.column_stack((own.east_m, own.north_m)))
        # As a tape laid from its beginning reads.
        there = line.interpolate(one.at_m)
        assert (there.x, there.y) == pytest.approx((one.east_m, one.north_m), abs=1e-6)
    assert len({one.of for one in stations}) == len(stations)


@pytest.mark.parametrize(
    "off_m, verdict, level",
    [
        (-0.001, "not sound", "stop"),
        (0.0, "shallow", "sound"),
        (0.02, "shallow", "sound"),
        (0.0508, "sound", "sound"),
        (0.3, "sound", "sound"),
    ],
)
def test_a_cover_is_held_against_what_is_asked_and_what_is_planned(
    off_m: float, verdict: str, level: str
) -> None:
    # Two inches more than is asked for are planned.
    design = apply(plain_larkspur(), [("trench.extra_depth_m", "2 in")], "us")
    first = book(design).covers[0]
    assert first.planned_m - first.least_m == pytest.approx(0.0508)
    found = book(design, cover(first, first.least_m + off_m))
    assert found.covers[0].verdict == verdict
    told = levels(found.checks)
    assert told["cover"] == level
    assert told["cover-planned"] == ("sound" if verdict == "sound" else "look")
    # One of many is read: the others are not looked at.
    assert told["cover-read"] == "look"


def test_a_cover_of_a_way_that_was_moved_since_is_loose() -> None:
    design = plain_larkspur()
    at = book(design).covers[1]
    near = cover(at, 0.6, east_m=at.east_m + 0.25)
    far = cover(at, 0.6, east_m=at.east_m + 0.35)
    assert [len(one.records) for one in book(design, near).covers].count(1) == 1
    loose = book(design, far)
    assert not any(one.records for one in loose.covers) and loose.loose == (far,)
    assert levels(loose.checks)["loose"] == "look"


def test_of_two_who_read_a_cover_the_shallower_counts_and_both_are_asked() -> None:
    design = plain_larkspur()
    one = book(design).covers[0]
    deep = one.planned_m + 0.1
    found = book(design, cover(one, deep), cover(one, deep - 0.05, by="Wren")).covers[0]
    assert (found.cover_m, found.verdict) == (pytest.approx(deep - 0.05), "asked")
    short = book(design, cover(one, deep), cover(one, one.least_m - 0.05, by="Wren")).covers[0]
    assert short.verdict == "not sound"


# --- strings -----------------------------------------------------------------------------------
def test_every_string_of_every_array_is_there_with_its_modules() -> None:
    for design in (plain_larkspur(), larkspur_with_pump_house(), grifo()):
        found = plan(design)
        strings = book(design).strings
        assert sum(one.modules for one in strings) == sum(a.rows.module_count for a in found.arrays)
        assert len(strings) == sum(c.strings.count for c in found.wiring.circuits)


@pytest.mark.parametrize("missing", [-2, -1, 1, 2])
def test_a_module_too_few_or_too_many_is_found_and_told(missing: int) -> None:
    design = plain_larkspur()
    string = book(design).strings[0]
    warm = 47.0
    read = string.expected_v(warm) * (string.modules - missing) / string.modules
    found = book(design, made("voltage", string.of, read, beside=warm))
    assert found.strings[0].verdict == "not sound"
    check = next(check for check in found.checks if check.key == "voltage")
    assert check.level == "stop"
    assert f"as if {abs(missing)} {'fewer' if missing > 0 else 'more'}" in str(check.measured)


def test_a_reversed_string_stops_the_job_however_right_its_voltage_is() -> None:
    design = plain_larkspur()
    string = book(design).strings[0]
    found = book(design, made("voltage", string.of, -string.expected_v(20.0), beside=20.0))
    assert found.strings[0].verdict == "reversed"
    assert levels(found.checks)["voltage"] == "stop"


@settings(max_examples=60)
@given(warm=st.floats(-30, 80), off=st.floats(-0.2, 0.2))
def test_a_string_is_sound_just_within_its_share(warm: float, off: float) -> None:
    assume(abs(abs(off) - 0.05) > 1e-6)
    string = book(plain_larkspur()).strings[0]
    read = replace(
        string, records=(made("voltage", "x", string.expected_v(warm) * (1 + off), beside=warm),)
    )
    assert (read.verdict == "sound") == (abs(off) < 0.05)


def test_wet_wires_stop_the_job_and_unmeasured_ones_are_told() -> None:
    design = plain_larkspur()
    one, *others = book(design).strings
    wet = book(design, made("insulation", one.of, 0.9e6))
    assert levels(wet.checks)["insulation"] == "stop" and wet.strings[0].insulated is False
    dry = book(design, made("insulation", one.of, 1e6))
    assert levels(dry.checks)["insulation"] == ("look" if others else "sound")
    # Of two who read it the worse counts.
    both = book(design, made("insulation", one.of, 5e8), made("insulation", one.of, 1e5, by="Wren"))
    assert both.strings[0].insulated is False


# --- serials -----------------------------------------------------------------------------------
def test_a_serial_in_two_places_or_two_ways_is_told_and_one_of_no_module_is_loose() -> None:
    design = plain_larkspur()
    places = [of for grid in book(design).serials.grids for of in grid.places()]
    assert len(places) == len(set(places)) == plan(design).rows.module_count
    sound = book(design, *(made("serial", of, typed=f"A {n}") for n, of in enumerate(places)))
    assert levels(sound.checks)["serials"] == levels(sound.checks)["serials-read"] == "sound"
    # A label is read with its gaps, or without.
    twice = book(
        design, made("serial", places[0], typed="AB 12"), made("serial", places[5], typed="ab12")
    )
    assert levels(twice.checks)["serials"] == "look" and twice.serials.doubles == ("AB12",)
    two = book(
        design, made("serial", places[0], typed="A1"), made("serial", places[0], typed="A2", by="Wren")
    )
    assert two.serials.asked == (places[0],) and levels(two.checks)["serials"] == "look"
    gone = book(design, made("serial", "1:9.9/c1.1", typed="A1"))
    assert len(gone.loose) == 1 and not gone.serials.found


# --- inspections -------------------------------------------------------------------------------
@settings(max_examples=80)
@given(
    said=st.lists(
        st.tuples(st.sampled_from(["asked", "passed", "failed"]), st.sampled_from(["Wren", "Tobin"])),
        max_size=6,
    ),
    order=st.randoms(use_true_random=False),
)
def test_the_last_word_of_an_inspection_counts_whoever_said_it_and_in_whatever_order_it_comes(
    said: list[tuple[RecordKind, str]], order: object
) -> None:
    design = plain_larkspur()
    records = [made(kind, WHOLE.of, by=by, note="x") for kind, by in said]
    mixed = [*records, *records]
    order.shuffle(mixed)  # type: ignore[attr-defined]
    found = next(one for one in book(design, *mixed).inspections if one.of == WHOLE.of)
    assert found.state == (said[-1][0] if said else "not asked")
    assert [record.id for record in found.said] == [record.id for record in records]


def test_what_was_not_passed_or_passed_out_of_turn_stops_the_job() -> None:
    design = plain_larkspur()

    def level(*said: tuple[RecordKind, str]) -> str:
        records = (made(kind, of, note="the inspector") for kind, of in said)
        return levels(book(design, *records).checks)["inspections"]

    assert level(("asked", TRENCH.of)) == "look"
    assert level(("failed", TRENCH.of)) == "stop"
    assert level(("failed", TRENCH.of), ("passed", TRENCH.of)) == "look"
    # Who passes the whole before the open trench was seen has passed what nobody can see any more.
    assert level(("passed", WHOLE.of)) == "stop"
    assert level(("passed", TRENCH.of), ("passed", SWITCH_ON.of)) == "stop"
    assert level(("passed", TRENCH.of), ("passed", WHOLE.of), ("passed", SWITCH_ON.of)) == "sound"


def test_an_inspection_of_nothing_is_loose() -> None:
    found = book(plain_larkspur(), made("passed", "inspection:roof", note="x"))
    assert len(found.loose) == 1


# --- hand-over ---------------------------------------------------------------------------------
def test_it_is_handed_over_on_the_day_on_which_the_whole_was_passed_by_the_clock_there() -> None:
    design = plain_larkspur()
    planned = handover_of(as_built(design, plan(design)))
    assert not planned.passed and planned.day == plan(design).schedule.finish
    # A quarter past nine in the evening there is the next day at Greenwich already.
    late = made("passed", WHOLE.of, at=datetime(2026, 7, 2, 3, 15, tzinfo=UTC), note="x")
    found = handover_of(as_built(design, plan(design), [late]))
    assert found.passed and str(found.day) == "2026-07-01"
    assert min(one.day for one in found.care) > found.day


def test_what_does_not_hold_in_the_field_book_is_told_at_the_hand_over() -> None:
    design = plain_larkspur()
    string = book(design).strings[0]
    whole = as_built(design, plan(design), [made("voltage", string.of, -400.0, beside=20.0)])
    check = next(check for check in handover_of(whole).checks if check.key == "built")
    assert check.level == "stop" and "strings give" in str(check.measured)


def test_nothing_is_built_of_what_cannot_be_planned() -> None:
    design = from_nothing("Kestrel barn", "us", NOON.date())
    found = as_built(design, plan(design))
    assert not found.built
    with pytest.raises(Lacking):
        book_of(found)
    with pytest.raises(Lacking):
        handover_of(found)


def test_who_settles_a_depth_settles_nothing_else_and_what_was_short_can_be_settled() -> None:
    design = plain_larkspur()
    post = book(design).posts[0]
    where = {"east_m": post.east_m, "north_m": post.north_m}
    short = made("refusal", post.of, 0.5, by="Tobin", **where)
    top = made("top", post.of, post.rod_m, by="Tobin", **where)
    deep = made("depth", post.of, post.planned_m, by="Wren", **where)
    both = book(design, short, top, deep).posts[0]
    # The shallower counts, and that two differ is known all the same.
    assert both.verdict == "not sound" and both.asked
    again = made(
        "depth", post.of, post.planned_m, by="Wren", settles=(short.id, top.id, deep.id), **where
    )
    after = book(design, short, top, deep, again).posts[0]
    assert after.verdict == "sound" and not after.asked and after.off_m == 0.0
    # So of a string whose plug was turned, and of a wire that was mended.
    string = book(design).strings[0]
    turned = made("voltage", string.of, -400.0, beside=20.0)
    right = made("voltage", string.of, string.expected_v(20.0), beside=20.0, by="Wren")
    assert book(design, turned, right).strings[0].asked
    wet, dry = made("insulation", string.of, 1e5), made("insulation", string.of, 3e8, by="Wren")
    assert book(design, wet, dry).strings[0].asked
    assert not book(design, dry, made("insulation", string.of, 9e8)).strings[0].asked


def test_records_come_in_any_order_and_twice_and_nothing_is_lost() -> None:
    design = plain_larkspur()
    one = book(design).strings[0]
    first = made("voltage", one.of, 400.0, beside=20.0)
    again = made("voltage", one.of, 410.0, beside=21.0)
    for records in itertools.permutations([first, again, first]):
        assert standing(records)[one.of, "voltage"] == (again,)
