"""The field book: what was measured beside what was planned, and records as devices send them."""

import uuid
from typing import Annotated

from fastapi import APIRouter, Query, Response

from openfurrow.core.design import Design
from openfurrow.core.edits import DesignError, Problem
from openfurrow.core.fieldbook.built import BuiltPost, FieldBook, field_book
from openfurrow.core.fieldbook.ladder import Ladder
from openfurrow.core.fieldbook.records import MEASURED, Record
from openfurrow.core.fields import array_labels
from openfurrow.core.footings.posts import depth_step_m
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import QuantityError, UnitSystem, format_value
from openfurrow.core.reading import parse
from openfurrow.exchange.csv_out import csv_text
from openfurrow.sheets.field import post_words, rung_words
from openfurrow.sheets.write import check_text
from openfurrow.store.field_records import Sent, add_records, records_of
from openfurrow.store.jobs import role_in
from openfurrow.store.revisions import built_from, design_of
from openfurrow.web.context import Asking, Caller, computing, planned
from openfurrow.web.field_models import (
    AddedView,
    FieldView,
    PostView,
    RecordBody,
    RecordsBody,
    RecordView,
    RungView,
)
from openfurrow.web.models import Units
from openfurrow.web.views import as_json

router = APIRouter(prefix="/api/jobs/{job_id}/field", tags=["field"])

# What may be measured at all: beyond it a finger slipped.
BOUNDS = {"depth": (0.0, 15.0), "refusal": (0.0, 15.0), "top": (-6.0, 10.0)}


def _read(number: int, record: RecordBody, units: UnitSystem) -> Sent:
    """A record with its value read as the trade writes it. Raises DesignError naming the record."""
    kind, label = MEASURED[record.kind]
    low, high = BOUNDS[record.kind]
    allowed = f"from {format_value(low, kind, units)} to {format_value(high, kind, units)}"

    def refused(message: str) -> DesignError:
        path = f"records.{number}.typed"
        return DesignError((Problem(path, label, message, allowed, "Read the tape again."),))

    try:
        value = parse(record.typed, kind, units)
    except QuantityError as error:
        raise refused(str(error)) from None
    if not low <= value <= high:
        raise refused(f"'{record.typed}' is outside of what is measured")
    return Sent(
        id=record.id,
        device=record.device,
        kind=record.kind,
        of=record.of,
        value=value,
        typed=record.typed,
        east_m=record.east_m,
        north_m=record.north_m,
        note=record.note,
        settles=tuple(str(one) for one in record.settles),
        device_time=record.device_time,
    )


def _record_view(record: Record) -> RecordView:
    return RecordView(
        id=uuid.UUID(record.id),
        kind=record.kind,
        text=record.typed,
        by=record.by,
        device=record.device,
        at=record.at,
        note=record.note,
    )


def _post(post: BuiltPost, ladder: int, tape_m: float, called: str, units: UnitSystem) -> PostView:
    def text(value: float) -> str:
        return format_value(value, "tape", units)

    return PostView(
        of=post.of,
        array=called,
        name=post.name,
        east_m=post.east_m,
        north_m=post.north_m,
        tape=format_value(tape_m, "run", units),
        planned_m=post.planned_m,
        planned=text(post.planned_m),
        rod_m=post.rod_m,
        rod_top=text(post.rod_m),
        rod_off="" if post.off_m is None else text(post.off_m),
        ladder=ladder,
        depth="" if post.depth_m is None else text(post.depth_m),
        difference="" if post.depth_m is None else text(-post.high_m),
        refused=post.refused,
        verdict=post.verdict,
        words=post_words(post, units),
        records=tuple(_record_view(record) for record in (*post.records, *post.tops)),
    )


def _rungs(book: FieldBook, plan: Plan, units: UnitSystem) -> tuple[tuple[RungView, ...], ...]:
    """Every kind's ladder, arrays in their order."""
    return tuple(
        _ladder(ladder, units)
        for one in plan.each()
        if one.array.id in book.ladders
        for ladder in book.ladders[one.array.id]
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


def _book(caller: Caller, job_id: uuid.UUID) -> tuple[Design, Plan, FieldBook, int, bool, str]:
    with caller.reads() as (session, account):
        role = role_in(session, account, job_id)
        saved = built_from(session, account, job_id)
        design = design_of(session, saved)
        number, issued = saved.number, saved.issued is not None
        records = records_of(session, account, job_id)
    plan = planned(design)
    with computing():
        return design, plan, field_book(plan, records), number, issued, role


def _view(caller: Caller, job_id: uuid.UUID, wanted: Units | None) -> FieldView:
    design, plan, book, number, issued, role = _book(caller, job_id)
    units = wanted or design.site.display_units
    labels, starts, count = array_labels(design.arrays), dict[str, int](), 0
    for array, ladders in book.ladders.items():
        starts[array], count = count, count + len(ladders)
    posts = iter(book.posts)
    shown = [
        _post(
            next(posts),
            starts[one.array.id] + int(one.structure.supports.kind[index]),
            float(one.setting_out.stakes.tape_m[index]),
            labels[one.array.id] if plan.several else "",
            units,
        )
        for one in plan.each()
        if not one.array.standing
        for index in range(one.structure.supports.count)
    ]
    return FieldView(
        id=job_id,
        name=design.name,
        role=role,
        units=units,
        revision=number,
        issued=issued,
        step_m=depth_step_m(design.site.display_units),
        posts=tuple(shown),
        ladders=_rungs(book, plan, units),
        checks=tuple(check_text(check, units) for check in book.checks),
        loose=len(book.loose),
        measured=sum(post.depth_m is not None for post in book.posts),
    )


@router.get("", response_model=FieldView)
def field(job_id: uuid.UUID, caller: Asking, units: Units | None = None) -> Response:
    """What is built, post by post, and what each carries at any depth it may reach."""
    return as_json(_view(caller, job_id, units))


@router.post("/records")
def add(job_id: uuid.UUID, body: RecordsBody, caller: Asking) -> AddedView:
    """Add measurements: each once, however often it is sent; all of them or none.

    Nothing is planned here: what was measured is kept however long that would take.
    """
    sent = [_read(number, record, body.units) for number, record in enumerate(body.records)]
    with caller.writes() as (session, account):
        return AddedView(added=add_records(session, account, job_id, sent), kept=len(sent))


@router.get("/as-built.csv", response_class=Response)
def as_built(
    job_id: uuid.UUID, caller: Asking, units: Annotated[Units | None, Query()] = None
) -> Response:
    """Every post: planned, built, the difference, whether it carries, who measured it and when."""
    view = _view(caller, job_id, units)
    head = ["post", "array", "planned", "built", "difference"]
    head += ["rod_planned", "rod_off", "verdict", "words", "by", "at", "note"]
    text = csv_text(
        head,
        (
            [
                post.name,
                post.array,
                post.planned,
                post.depth,
                post.difference,
                post.rod_top,
                post.rod_off,
                post.verdict,
                post.words,
                "; ".join(record.by for record in post.records),
                "; ".join(record.at.isoformat() for record in post.records),
                "; ".join(record.note for record in post.records if record.note),
            ]
            for post in view.posts
        ),
    )
    return Response(
        text,
        media_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": 'attachment; filename="as-built.csv"'},
    )
