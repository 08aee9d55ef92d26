"""The field book as a phone is sent it: each thing with its words, and with what it is looked up in."""

import uuid
from datetime import date
from itertools import groupby

from openfurrow.core.codes import constant
from openfurrow.core.fieldbook.book import FieldBook
from openfurrow.core.fieldbook.loads import Counted
from openfurrow.core.fieldbook.places import ALIKE_M
from openfurrow.core.fieldbook.posts import BuiltPost
from openfurrow.core.fieldbook.records import MEASURES, Record
from openfurrow.core.fieldbook.strings import Tested, share
from openfurrow.core.fieldbook.trench import Station
from openfurrow.core.fields import array_labels
from openfurrow.core.footings.ladder import Ladder
from openfurrow.core.footings.posts import depth_step_m
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value, in_words, shown
from openfurrow.sheets.field import cover_words, post_words, rung_words, string_words, ways_on
from openfurrow.sheets.load_tables import (
    carried_much,
    carried_weight,
    counted_words,
    load_day,
    load_name,
)
from openfurrow.sheets.schedule_tables import day_lines
from openfurrow.sheets.write import check_text
from openfurrow.web.built import Built
from openfurrow.web.field_models import (
    CoverView,
    DayLineView,
    FieldView,
    InspectionView,
    LoadView,
    ModuleGridView,
    PartView,
    PostView,
    RecordView,
    RungView,
    SerialView,
    StringView,
    WarmthView,
)

# How cold and how warm modules are looked up for.
COLDEST_C, WARMEST_C = -40.0, 95.0
MEGOHM = 1e6


def record_view(record: Record, units: UnitSystem) -> RecordView:
    """A record as it was written."""
    return RecordView(
        id=uuid.UUID(record.id),
        kind=record.kind,
        text=record.typed,
        by=record.by,
        device=record.device,
        at=record.at,
        note=record.note,
        beside=""
        if record.beside is None
        else format_value(record.beside, MEASURES[record.kind].beside, units),
        photo=record.photo,
    )


def _records(records: tuple[Record, ...], units: UnitSystem) -> tuple[RecordView, ...]:
    return tuple(record_view(record, units) for record in records)


def _post(post: BuiltPost, ladder: int, tape_m: float, called: str, units: UnitSystem) -> PostView:
    def text(value: float | None, kind: str = "tape") -> str:
        return "" if value is None else format_value(value, kind, units)

    return PostView(
        of=post.of,
        array=called,
        name=post.name,
        east_m=post.east_m,
        north_m=post.north_m,
        tape=text(tape_m, "run"),
        planned_m=post.planned_m,
        planned=text(post.planned_m),
        rod_m=post.rod_m,
        rod_top=text(post.rod_m),
        rod_off=text(post.off_m),
        ladder=ladder,
        depth=text(post.depth_m),
        difference="" if post.depth_m is None else text(-post.high_m),
        leans=text(post.leans_deg, "angle"),
        refused=post.refused,
        ways=f"{ways_on(post).capitalize()}: the engineer decides.",
        verdict=post.verdict,
        asked=post.asked,
        words=post_words(post, units),
        records=_records((*post.records, *post.tops, *post.plumbs), units),
    )


def _posts(built: Built, called: dict[str, str], units: UnitSystem) -> tuple[PostView, ...]:
    starts, count = dict[str, int](), 0
    for array, ladders in built.book.ladders.items():
        starts[array], count = count, count + len(ladders)
    posts = iter(built.book.posts)
    return tuple(
        _post(
            next(posts),
            starts[one.array.id] + int(one.structure.supports.kind[index]),
            float(one.setting_out.stakes.tape_m[index]),
            called[one.array.id],
            units,
        )
        for one in built.plan.each()
        # What stands already has no post to measure here, nor has what stands in weights.
        if one.array.id in starts
        for index in range(one.structure.supports.count)
    )


def _ladder(ladder: Ladder, units: UnitSystem) -> tuple[RungView, ...]:
    depths = [rung * ladder.step_m for rung in range(len(ladder.fails))]
    return tuple(
        RungView(
            depth_m=depth,
            depth=format_value(depth, "tape", units),
            carries=not ladder.fails[rung],
            words=rung_words(ladder, rung, units),
        )
        for rung, depth in enumerate(depths)
    )


def _cover(station: Station, units: UnitSystem) -> CoverView:
    cover = station.cover_m
    return CoverView(
        of=station.of,
        name=f"{station.stretch}, {format_value(station.at_m, 'run', units)}",
        east_m=station.east_m,
        north_m=station.north_m,
        least_m=station.least_m,
        least=format_value(station.least_m, "tape", units),
        as_planned_m=station.planned_m - ALIKE_M,
        planned=format_value(station.planned_m, "tape", units),
        cover="" if cover is None else format_value(cover, "tape", units),
        verdict=station.verdict,
        asked=station.asked,
        words=cover_words(station, units),
        records=_records(station.records, units),
    )


def _warmth(string: Tested, units: UnitSystem) -> tuple[WarmthView, ...]:
    """Every whole degree; between them nobody reads a module."""
    how = shown("temperature", units)

    def degree(celsius: float) -> int:
        return round(celsius / how.si_per_unit + how.offset)

    def celsius(whole: int) -> float:
        return (whole - how.offset) * how.si_per_unit

    found = []
    for whole in range(degree(COLDEST_C), degree(WARMEST_C) + 1):
        volts = string.expected_v(celsius(whole))
        found.append(
            WarmthView(
                warm=whole,
                expected_v=round(volts, 1),
                low_v=round(volts * (1 - share()), 3),
                high_v=round(volts * (1 + share()), 3),
            )
        )
    return tuple(found)


def _strings(
    built: Built, called: dict[str, str], units: UnitSystem
) -> tuple[tuple[StringView, ...], tuple[tuple[WarmthView, ...], ...]]:
    """The strings, and for each that differs from the others what it gives at any warmth."""
    alike: dict[tuple[float, float], int] = {}
    lists: list[tuple[WarmthView, ...]] = []
    views = []
    for string in built.book.strings:
        key = (string.volts, string.coefficient)
        if key not in alike:
            alike[key] = len(lists)
            lists.append(_warmth(string, units))
        last = string.records[-1] if string.records else None
        drier = min((one.value for one in string.insulation), default=None)
        views.append(
            StringView(
                of=string.of,
                array=called[string.array],
                name=string.name,
                modules=string.modules,
                warmth=alike[key],
                volts="" if last is None else format_value(last.value, "voltage", units),
                insulation="" if drier is None else format_value(drier, "insulation", units),
                verdict=string.verdict,
                running=""
                if not string.currents
                else format_value(string.currents[-1].value, "current", units),
                low_a=string.amperes * string.bounds[0],
                high_a=string.amperes * string.bounds[1],
                asked=string.asked or string.runs == "asked",
                words=string_words(string, units),
                records=_records((*string.records, *string.insulation, *string.currents), units),
            )
        )
    return tuple(views), tuple(lists)


def _serials(book: FieldBook) -> tuple[SerialView, ...]:
    asked = {*book.serials.asked}
    return tuple(
        SerialView(of=of, text=those[-1].typed, by=those[-1].by, asked=of in asked)
        for of, those in book.serials.found.items()
    )


def _part(one: Counted, units: UnitSystem) -> PartView:
    line = one.carried.part.line
    return PartView(
        of=one.carried.of,
        item=in_words(line.item, units),
        much=carried_much(one.carried, units),
        pieces=round(one.carried.quantity) if line.kind == "count" else None,
        weight=carried_weight(one.carried, units),
        where=line.where,
        verdict=one.verdict,
        words=counted_words(one, units),
        records=_records((one.last,) if one.last else (), units),
    )


def _loads(counted: tuple[Counted, ...], units: UnitSystem) -> tuple[LoadView, ...]:
    """The loads in their order, each with its parts."""
    return tuple(
        LoadView(
            key=f"{load.day}/{load.rides}/{load.what}/{load.number}",
            name=load_name(load, units),
            day=load.day,
            when=load_day(load),
            weight=format_value(load.mass_kg, "haul", units) if load.mass_kg else "",
            parts=tuple(_part(one, units) for one in those),
        )
        # Equal loads are the same ones: those of a plan follow each other.
        for load, those in groupby(counted, key=lambda one: one.load)
    )


def _days(plan: Plan, units: UnitSystem) -> tuple[DayLineView, ...]:
    """The day sheets, so that a phone without a network has tomorrow's too."""
    if not plan.has("schedule"):
        return ()
    return tuple(
        DayLineView(
            day=date.fromisoformat(on.split()[-1]),
            begins=begins,
            ends=ends,
            what=what,
            people=people,
            first=first,
        )
        for on, begins, ends, what, people, first in day_lines(plan.schedule, units)
    )


def field_view(built: Built, wanted: UnitSystem | None) -> FieldView:
    """All of it, in the reader's units."""
    design, plan, book = built.design, built.plan, built.book
    units = wanted or design.site.display_units
    labels = array_labels(design.arrays)
    called = labels if plan.several else dict.fromkeys(labels, "")
    strings, warmths = _strings(built, called, units)
    return FieldView(
        id=built.job_id,
        name=design.name,
        role=built.role,
        units=units,
        revision=built.revision,
        issued=built.issued,
        step_m=depth_step_m(design.site.display_units),
        posts=_posts(built, called, units),
        ladders=tuple(
            _ladder(ladder, units) for ladders in book.ladders.values() for ladder in ladders
        ),
        covers=tuple(_cover(station, units) for station in book.covers),
        strings=strings,
        warmths=warmths,
        warm_unit=shown("temperature", units).unit,
        least_light_w_m2=constant("common", "least_light_w_m2").value,
        least_insulation_mohm=constant("common", "least_insulation_ohm").value / MEGOHM,
        grids=tuple(
            ModuleGridView(
                of=grid.of,
                array=called[grid.array],
                name=grid.name,
                columns=grid.columns,
                high=grid.high,
            )
            for grid in book.serials.grids
        ),
        serials=_serials(book),
        inspections=tuple(
            InspectionView(
                of=one.of,
                name=one.name,
                state=one.state,
                holds_up=one.holds_up,
                records=_records(one.said, units),
            )
            for one in book.inspections
        ),
        loads=_loads(book.counted, units),
        days=_days(plan, units),
        checks=tuple(check_text(check, units) for check in book.checks),
        loose=len(book.loose),
        measured=sum(post.depth_m is not None for post in book.posts),
    )
