"""Loads laid out piece by piece, what stops by walking the tasks, pallets by counting modules."""

import math
from collections import Counter
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.fieldbook.book import field_book
from openfurrow.core.fieldbook.loads import Counted
from openfurrow.core.fieldbook.records import Record
from openfurrow.core.hauling.laydown import Glass, Worked, laydown_of
from openfurrow.core.hauling.loads import onto_trucks
from openfurrow.core.materials.givens import MaterialsGivens
from openfurrow.core.plan import Plan, plan
from openfurrow.core.schedule.givens import DeliveryGivens
from openfurrow.demo.designs import DESIGNS, larkspur_with_pump_house, quillay, varnbeck
from openfurrow.sheets.load_tables import counted_words
from tests.designs import changed, designs

FIRST = date(2026, 5, 4)
# What a load weighs is added up in floats.
HAIR_KG = 1e-6


@settings(max_examples=200, deadline=None)
@given(
    st.lists(st.tuples(st.integers(1, 60), st.integers(0, 90)), min_size=1, max_size=12),
    st.integers(60, 2000),
)
def test_pieces_ride_on_the_first_load_that_has_room(
    pieces: list[tuple[int, int]], most_kg: int
) -> None:
    """Laid on one by one: all of them, no load too heavy, none that an earlier one had room for."""
    loads = onto_trucks([(count, float(kg)) for count, kg in pieces], float(most_kg))
    for kind, (count, _) in enumerate(pieces):
        assert sum(load[kind] for load in loads) == count
    weights = [sum(n * kg for n, (_, kg) in zip(load, pieces, strict=True)) for load in loads]
    for load, weight in zip(loads, weights, strict=True):
        # One that is too heavy by itself goes alone, but for what weighs nothing.
        assert weight <= most_kg or sum(n for n, (_, kg) in zip(load, pieces, strict=True) if kg) == 1
    for number, load in enumerate(loads):
        for n, (_, kg) in zip(load, pieces, strict=True):
            if n:
                assert all(weight + kg > most_kg for weight in weights[:number])
    assert onto_trucks([(count, float(kg)) for count, kg in pieces], None) == [[n for n, _ in pieces]]


COMES = ("posts and frame", "modules", "conduit and wire", "inverter", "concrete")


def hauled(design: Design, truck_kg: float | None, unweighed: float, late: dict[str, int]) -> Design:
    """The same with a truck, and with deliveries so many days after the first."""
    begins = design.schedule.start_date or design.site.dig_date
    assert begins is not None
    deliveries = tuple(
        DeliveryGivens(id=str(number), what=what, arrives=begins + timedelta(days=days))  # type: ignore[arg-type]
        for number, (what, days) in enumerate(late.items())
    )
    materials = design.materials.model_copy(update={"truck_kg": truck_kg, "unweighed": unweighed})
    schedule = design.schedule.model_copy(update={"deliveries": deliveries})
    return design.model_copy(update={"materials": materials, "schedule": schedule})


def tasks_that_stop(found: Plan, first: set[str]) -> set[str]:
    """Those and all that come after any of them, by going through the list until nothing is added."""
    stopped = set(first)
    while True:
        more = {
            task.id
            for task in found.schedule.tasks
            if task.id not in stopped and any(before in stopped for before, _ in task.after)
        }
        if not more:
            return stopped
        stopped |= more


@settings(max_examples=40, deadline=None)
@given(
    designs() | st.sampled_from(sorted(set(DESIGNS) - {"marram"})).map(lambda name: DESIGNS[name]()),
    st.none() | st.floats(150, 3000),
    st.sampled_from([0.0, 0.1, 0.5]),
    st.dictionaries(st.sampled_from(COMES), st.integers(0, 6), max_size=4),
)
def test_every_line_comes_once_and_in_time(
    design: Design, truck_kg: float | None, unweighed: float, late: dict[str, int]
) -> None:
    found = plan(hauled(design, truck_kg, unweighed, late))
    if not found.has("schedule"):
        return
    lines = {line.key: line for line in found.materials.lines}
    come: Counter[str] = Counter()
    for load in found.hauling.loads:
        for one in load.carried:
            come[one.part.line.key] += one.quantity
            assert one.quantity > 0
    assert set(come) == set(lines)
    for key, line in lines.items():
        assert come[key] == pytest.approx(line.quantity, rel=1e-9)
    # A part of a load is known by a name of its own.
    names = [one.of for load in found.hauling.loads for one in load.carried]
    assert len(names) == len(set(names)) and max(map(len, names)) <= 60
    begins = found.schedule.calendar.days[0].day if found.schedule.calendar.days else None
    people = {task.id: task.slots * task.people / 2 for task in found.schedule.tasks}
    for load in found.hauling.loads:
        weight = sum(
            one.part.line.mass_kg / one.part.line.quantity * one.quantity for one in load.carried
        )
        if load.rides == "own truck" and truck_kg is not None:
            weighed = [one for one in load.carried if one.part.line.mass_kg > 0]
            alone = len(weighed) == 1 and (
                weighed[0].quantity == 1.0 or weighed[0].part.line.kind != "count"
            )
            assert weight * (1 + unweighed) <= truck_kg + HAIR_KG or alone
        # On every load what stops the most stands first.
        hours = [one.part.stops.hours for one in load.carried]
        assert hours == sorted(hours, reverse=True)
        for one in load.carried:
            part = one.part
            days = [day for task in part.tasks for day, _, _ in found.schedule.worked(task)]
            assert part.first == min(days, default=None)
            stopped = tasks_that_stop(found, set(part.tasks))
            assert (part.stops.tasks, part.stops.of) == (len(stopped), len(people))
            assert part.stops.hours == pytest.approx(sum(people[task] for task in stopped))
            said = part.comes in late
            assert (load.rides == "delivery") <= said
            if load.rides == "own truck":
                assert not said and load.day == part.first
            elif said and begins:
                assert load.day is not None and load.day == min(
                    d.arrives
                    for d in found_deliveries(design, late)
                    if d.what == part.comes and d.arrives
                )
    check = next(c for c in found.checks if c.key == "in_time")
    after = [
        one
        for load in found.hauling.loads
        for one in load.carried
        if load.day and one.part.first and load.day > one.part.first
    ]
    assert (check.level == "stop") == bool(after)


def found_deliveries(design: Design, late: dict[str, int]) -> tuple[DeliveryGivens, ...]:
    return hauled(design, None, 0.0, late).schedule.deliveries


def test_a_line_waits_for_work_that_takes_it() -> None:
    """Common practice, no published source: what is in hand when which work begins."""
    found = plan(varnbeck())
    tasks = {part.line.key: {one.split(":")[-1] for one in part.tasks} for part in found.hauling.parts}
    assert tasks["post"] == {"stand"} and tasks["concrete_bag"] == {"pour"}
    assert tasks["sticks_purlin"] == tasks["purlin_bolt"] == {"frame"}
    assert tasks["module"] == tasks["end_clamp"] == tasks["strap"] == {"modules"}
    assert tasks["conduit"] == tasks["rod"] == tasks["bare_copper"] == {"lay"}
    assert tasks["trench_wire"] == {"pull"} and tasks["array_wire"] == {"strings"}
    assert tasks["inverter"] == tasks["label_set"] == {"land"}
    weighed = {part.line.key: part for part in plan(quillay()).hauling.parts}
    assert weighed["box"].tasks == weighed["fill_concrete"].tasks == ("1:drive",)
    # A tenth of a cubic metre of stone is bought in bags, sixteen tons of concrete are not.
    assert weighed["fill_concrete"].loose
    assert not next(part for part in found.hauling.parts if part.line.key == "pier_stone").loose


def test_posts_that_are_poured_do_not_wait_for_those_that_are_driven() -> None:
    """One array driven, another in piers: a post is there for whichever of both begins first."""
    found = plan(larkspur_with_pump_house())
    posts = [part for part in found.hauling.parts if part.line.stage == "footings"]
    begins = {task.id.split(":")[-1] for task in found.schedule.tasks}
    assert {"drive", "stand"} <= begins
    for part in posts:
        if part.comes == "posts and frame":
            assert {task.split(":")[-1] for task in part.tasks} == {"drive", "stand"}
            days = [found.schedule.worked(task)[0][0] for task in part.tasks]
            assert part.first == min(days)


def test_what_two_loads_lack_together_is_held_against_what_is_spare_once() -> None:
    """Legs for 24 feet and three spare, on loads of 26 and one: three and one are too many."""
    design = quillay()
    bought = design.materials.model_copy(update={"truck_kg": 300.0, "spare_posts": 3})
    design = design.model_copy(update={"materials": bought})
    book = field_book(design, plan(design), ())
    legs = [one.carried for one in book.counted if one.carried.part.line.key == "post"]
    assert [one.quantity for one in legs] == [26, 1]
    first, last = (said(leg.of, "short", lack) for leg, lack in zip(legs, (3.0, 1.0), strict=True))
    for records, level in (([first], "sound"), ([last], "sound"), ([first, last], "stop")):
        again = field_book(design, plan(design), records)
        (check,) = (c for c in again.checks if c.key == "parts")
        assert check.level == level
        own = [one for one in again.counted if one.carried.part.line.key == "post" and one.missing]
        assert {one.covered for one in own} == {level == "sound"}
        assert all(("spare" in counted_words(one, "us")) == (level == "sound") for one in own)


def test_what_is_ordered_is_an_inverter_of_each_that_takes_what_is_built() -> None:
    """None is bought for an array that stands and is on its own."""
    design = larkspur_with_pump_house()
    found = plan(design)
    bought = sum(line.net for line in found.materials.lines if line.key.startswith("inverter"))
    assert bought == sum(one.units for one in design.wiring.inverters)
    first, *others = design.arrays
    standing = design.model_copy(
        update={"arrays": (first.model_copy(update={"standing": True}), *others)}
    )
    after = plan(standing).materials.lines
    # The one that names nothing takes what no other names: the first array alone.
    assert [one.takes for one in design.wiring.inverters] == [(), ("2",)]
    still = sum(one.units for one in design.wiring.inverters if one.takes)
    assert sum(line.net for line in after if line.key.startswith("inverter")) == still


SETTING = st.lists(st.tuples(st.integers(0, 12), st.integers(1, 16)), min_size=1, max_size=8)


@settings(max_examples=150, deadline=None)
@given(
    st.lists(
        st.tuples(st.integers(1, 400), st.lists(st.integers(0, 10), min_size=1, max_size=4), SETTING),
        min_size=1,
        max_size=3,
    ),
    st.integers(5, 40),
)
def test_pallets_are_counted_module_by_module(
    arrays: list[tuple[int, list[int], list[tuple[int, int]]]], a_pallet: int
) -> None:
    """Each module by the morning on which it comes and the half hour in which it is set."""
    glass, worked, mornings, least = [], [], Counter[tuple[int, int]](), 0.0
    for number, (count, comes, setting) in enumerate(arrays):
        glass.append(Glass(str(number), count, 22.0, 1.7 + number / 10))
        days = sorted({day for day, _ in setting})
        hours = [(day, sum(h for d, h in setting if d == day)) for day in days]
        worked.append(
            Worked(
                tuple(FIRST + timedelta(days=one) for one in comes),
                tuple((FIRST + timedelta(days=day), float(h)) for day, h in hours),
            )
        )
        there, every = 0.0, sum(h for _, h in hours)
        for day in range(15):
            there += sum(count / len(comes) for one in comes if one == day)
            mornings[number, day] = there  # type: ignore[assignment]
            there -= sum(count * h / every for one, h in hours if one == day)
            least = min(least, there)
    found = laydown_of(glass, worked, a_pallet)
    ground = [
        sum(
            math.ceil(max(mornings[number, day], 0.0) / a_pallet - 1e-6)
            * (one.length_m + 0.1)
            * 1.15
            * 2
            for number, one in enumerate(glass)
        )
        for day in range(15)
    ]
    assert found.ground_m2 == pytest.approx(max(ground))
    assert found.pallets == sum(math.ceil(one.count / a_pallet) for one in glass)
    assert found.least == pytest.approx(least, abs=1e-9)
    fullest = max(min(a_pallet, one.count) for one in glass)
    assert found.heaviest_kg == pytest.approx(fullest * 22.0 + 40.0)


def test_the_loads_of_quillay_by_hand() -> None:
    """24 modules of 22 kg on one pallet, and loads under 1,100 kg with a tenth added."""
    found = plan(quillay())
    laid = found.hauling.laydown
    assert laid is not None and (laid.pallets, laid.at_once) == (1, 1)
    assert laid.heaviest_kg == 24 * 22 + 40
    own = found.hauling.own
    assert sum(len({load.day}) for load in own) == len(own) == 5
    assert max(load.mass_kg for load in own) * 1.1 <= 1100
    frame = [load for load in own if load.day == date(2026, 10, 12)]
    assert [(load.number, load.count) for load in frame] == [(1, 2), (2, 2)]
    # What the frame's day takes is more than once the truck and less than twice.
    assert 1100 < sum(load.mass_kg for load in frame) * 1.1 < 2200


# --- counted off ------------------------------------------------------------------------------

MORNING = datetime(2026, 10, 12, 11, 0, tzinfo=UTC)


def said(of: str, kind: str, value: float = 0.0, minute: int = 0, **but: object) -> Record:
    made = Record(
        id=f"{of} {kind} {minute}",
        kind=kind,  # type: ignore[arg-type]
        of=of,
        value=value,
        typed=f"{value:.0f}",
        by="Tobin",
        device="phone",
        at=MORNING + timedelta(minutes=minute),
        east_m=0.0,
        north_m=0.0,
    )
    return replace(made, **but)  # type: ignore[arg-type]


def counted(design: Design, *records: Record) -> tuple[dict[str, Counted], dict[str, str]]:
    """Parts by their line's key, as far as each rides on one load; checks of parts by their key."""
    book = field_book(design, plan(design), records)
    return (
        {one.carried.part.line.key: one for one in book.counted},
        {check.key: check.level for check in book.checks if check.key.startswith("parts")},
    )


def test_what_is_ticked_is_there_until_the_plan_takes_another_number() -> None:
    design = quillay()
    parts, checks = counted(design)
    assert {one.verdict for one in parts.values()} == {"not yet"} and checks == {}
    every = [said(one.carried.of, "loaded") for one in parts.values()]
    parts, checks = counted(design, *every)
    assert {one.verdict for one in parts.values()} == {"there"}
    assert set(checks.values()) == {"sound"}
    more = changed(design, "materials", spare_fasteners=0.4)
    parts, checks = counted(more, *every)
    again = {key for key, one in parts.items() if one.verdict == "changed"}
    assert {"purlin_bolt", "end_clamp"} <= again and "post" not in again
    assert checks["parts-counted"] == "look"
    # What was counted of a part that is gone by now is shown and never applied.
    other = changed(design, "structure", beam_section="C 175 x 64 x 2.5")
    book = field_book(other, plan(other), every)
    beams = next(one for one in book.counted if one.carried.part.line.key == "sticks_beam")
    assert beams.verdict == "not yet" and any("sticks_beam" in one.of for one in book.loose)


def test_a_missing_part_stops_the_job_where_none_is_spare() -> None:
    design = quillay()
    parts, _ = counted(design)
    beam, bolt = parts["sticks_beam"].carried, parts["purlin_bolt"].carried
    spare = round(bolt.part.line.quantity - bolt.part.line.net)
    assert spare >= 1
    # One bolt short of what is spare does no harm; one more does.
    parts, checks = counted(design, said(bolt.of, "short", float(spare)))
    assert parts["purlin_bolt"].missing == spare and checks["parts"] == "sound"
    _, checks = counted(design, said(bolt.of, "short", spare + 1.0))
    assert checks["parts"] == "stop"
    # The last word counts, whoever says it.
    first = said(beam.of, "short", 1.0, by="Tobin")
    parts, checks = counted(design, first, said(beam.of, "loaded", minute=9, by="Ada"))
    assert parts["sticks_beam"].verdict == "there" and checks["parts"] == "sound"
    # What was missing stays so where the plan takes another number: it is counted again, not forgiven.
    more = changed(design, "materials", spare_fasteners=0.4)
    parts, checks = counted(more, said(bolt.of, "short", 40.0))
    assert parts["purlin_bolt"].verdict == "changed" and checks["parts"] == "stop"
    # More than there are cannot be missing.
    parts, _ = counted(design, said(beam.of, "short", 900.0))
    assert parts["sticks_beam"].missing == beam.quantity


def test_a_load_is_told_heavy_only_with_what_is_allowed_on_top() -> None:
    """A single piece over the truck's load stops; the same just under it does not."""
    design = quillay()
    piece = max(
        one.part.line.mass_kg / one.part.pieces
        for load in plan(design).hauling.own
        for one in load.carried
    )
    for truck_kg, level in ((piece * 2 + 0.5, "sound"), (piece * 2 - 0.5, "stop")):
        heavy = design.model_copy(
            update={"materials": MaterialsGivens(truck_kg=truck_kg, unweighed=1.0)}
        )
        check = next(c for c in plan(heavy).checks if c.key == "truck_load")
        assert check.level == level
