"""What was built and written down on site as CSV, list by list."""

from collections.abc import Callable

from openfurrow.core.as_built import book_of
from openfurrow.core.design import Design
from openfurrow.core.fieldbook.records import Record
from openfurrow.core.fields import array_labels
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import format_value
from openfurrow.exchange.csv_out import csv_text
from openfurrow.exchange.wanted import Wanted
from openfurrow.sheets.field import cover_words, post_words, string_words

BY = ("by", "at", "note")


def _by(records: tuple[Record, ...]) -> tuple[str, str, str]:
    """Who measured, when, and what they noted."""
    return (
        "; ".join(record.by for record in records),
        "; ".join(record.at.isoformat() for record in records),
        "; ".join(record.note for record in records if record.note),
    )


def as_built_csv(design: Design, plan: Plan, wanted: Wanted) -> str:
    """Every post: planned, built, the difference, whether it carries, who measured it and when."""
    labels = array_labels(design.arrays)

    def text(value: float | None, kind: str = "tape") -> str:
        return "" if value is None else format_value(value, kind, wanted.units)

    head = ("post", "array", "planned", "built", "difference", "rod_planned", "rod_off")
    return csv_text(
        (*head, "off_plumb", "verdict", "words", *BY),
        (
            (
                post.name,
                labels[post.array] if plan.several else "",
                text(post.planned_m),
                text(post.depth_m),
                text(None if post.depth_m is None else -post.high_m),
                text(post.rod_m),
                text(post.off_m),
                text(post.leans_deg, "angle"),
                post.verdict,
                post_words(post, wanted.units),
                *_by((*post.records, *post.tops, *post.plumbs)),
            )
            for post in book_of(plan).posts
        ),
    )


def covers_csv(design: Design, plan: Plan, wanted: Wanted) -> str:
    """Every place of the trench: what is asked for, planned and measured."""
    return csv_text(
        ("stretch", "along", "asked", "planned", "measured", "verdict", "words", *BY),
        (
            (
                one.stretch,
                format_value(one.at_m, "run", wanted.units),
                format_value(one.least_m, "tape", wanted.units),
                format_value(one.planned_m, "tape", wanted.units),
                "" if one.cover_m is None else format_value(one.cover_m, "tape", wanted.units),
                one.verdict,
                cover_words(one, wanted.units),
                *_by(one.records),
            )
            for one in book_of(plan).covers
        ),
    )


def strings_csv(design: Design, plan: Plan, wanted: Wanted) -> str:
    """Every string: its modules, what was read and at which warmth, what it should have been."""
    labels = array_labels(design.arrays)

    def read(records: tuple[Record, ...], kind: str) -> str:
        return "; ".join(format_value(record.value, kind, wanted.units) for record in records)

    def beside(
        records: tuple[Record, ...], kind: str, of: Callable[[float], float] | None = None
    ) -> str:
        return "; ".join(
            format_value(of(r.beside) if of else r.beside, kind, wanted.units)
            for r in records
            if r.beside is not None
        )

    head = ("string", "array", "modules", "volts", "modules_at", "expected")
    return csv_text(
        (*head, "insulation", "amperes", "light", "expected_amperes", "verdict", "words", *BY),
        (
            (
                one.name,
                labels[one.array],
                one.modules,
                read(one.records, "voltage"),
                beside(one.records, "temperature"),
                beside(one.records, "voltage", one.expected_v),
                read(one.insulation, "insulation"),
                read(one.currents, "current"),
                beside(one.currents, "irradiance"),
                beside(one.currents, "current", one.expected_a),
                one.verdict,
                string_words(one, wanted.units),
                *_by((*one.records, *one.insulation, *one.currents)),
            )
            for one in book_of(plan).strings
        ),
    )


def serials_csv(design: Design, plan: Plan, wanted: Wanted) -> str:
    """Every module: its table, column and place up the slope, and the serial that sits there."""
    labels, serials = array_labels(design.arrays), book_of(plan).serials
    return csv_text(
        ("array", "table", "column", "up", "serial", *BY),
        (
            (
                labels[grid.array],
                grid.name,
                column,
                up,
                "; ".join(dict.fromkeys(record.typed for record in found)),
                *_by(found),
            )
            for grid in serials.grids
            for column in range(1, grid.columns + 1)
            for up in range(1, grid.high + 1)
            for found in (serials.found.get(grid.place(column, up), ()),)
        ),
    )


def inspections_csv(design: Design, plan: Plan, wanted: Wanted) -> str:
    """Everything that was said of every inspection, the oldest first."""
    return csv_text(
        ("inspection", "said", "by", "at", "who_said_what"),
        (
            (one.name, record.kind, record.by, record.at.isoformat(), record.note)
            for one in book_of(plan).inspections
            for record in one.said
        ),
    )
