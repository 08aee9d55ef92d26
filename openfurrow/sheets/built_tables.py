"""What was built as lists: posts, trench, strings, inspections, and the days of care."""

from collections.abc import Iterable

from openfurrow.core.as_built import book_of, handover_of
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.field import cover_words, post_words, string_words
from openfurrow.sheets.models import Column, TableText
from openfurrow.sheets.tables import SHOWN_ROWS

Titles = tuple[tuple[str, bool], ...]
Rows = Iterable[tuple[str, ...]]


def _table(key: str, title: str, titles: Titles, rows: Rows, note: str = "") -> TableText:
    lines = list(rows)
    return TableText(
        key=key,
        title=title,
        columns=tuple(Column(title=name, number=number) for name, number in titles),
        rows=tuple(lines[:SHOWN_ROWS]),
        left_out=max(0, len(lines) - SHOWN_ROWS),
        note=note,
    )


def posts_table(plan: Plan, units: UnitSystem) -> TableText:
    """Every post: planned, built, and what is said of it."""

    def text(value: float | None) -> str:
        return "" if value is None else format_value(value, "tape", units)

    titles = (("Post", False), ("Planned", True), ("Built", True), ("Off", True), ("Verdict", False))
    rows = (
        (
            post.of.split(":", 1)[1] if not plan.several else post.of,
            text(post.planned_m),
            text(post.depth_m),
            text(None if post.depth_m is None else -post.high_m),
            ": ".join(filter(None, (post.verdict, post_words(post, units)))),
        )
        for post in book_of(plan).posts
    )
    return _table("posts", "Posts", titles, rows, "Off: how much deeper than planned, or less.")


def covers_table(plan: Plan, units: UnitSystem) -> TableText:
    """Every place where the tape goes into the trench."""
    titles = (("Stretch", True), ("Along", True), ("Asked", True), ("Planned", True), ("Read", True))
    rows = (
        (
            str(one.stretch),
            format_value(one.at_m, "run", units),
            format_value(one.least_m, "tape", units),
            format_value(one.planned_m, "tape", units),
            "" if one.cover_m is None else format_value(one.cover_m, "tape", units),
            ": ".join(filter(None, (one.verdict, cover_words(one, units)))),
        )
        for one in book_of(plan).covers
    )
    return _table("covers", "Cover over the wiring", (*titles, ("Verdict", False)), rows)


def strings_table(plan: Plan, units: UnitSystem) -> TableText:
    """Every string: what it read and should have read, its insulation, how it runs."""
    titles = (("String", False), ("Modules", True), ("Read", True), ("At", True), ("Should be", True))
    rows = []
    for one in book_of(plan).strings:
        last = one.records[-1] if one.records else None
        warm = last.beside if last else None
        ran = one.currents[-1] if one.currents else None
        lit = ran.beside if ran else None
        drier = min((record.value for record in one.insulation), default=None)
        rows.append(
            (
                f"{one.array} {one.name}" if plan.several else one.name,
                str(one.modules),
                "" if last is None else format_value(last.value, "voltage", units),
                "" if warm is None else format_value(warm, "temperature", units),
                "" if warm is None else format_value(one.expected_v(warm), "voltage", units),
                "" if drier is None else format_value(drier, "insulation", units),
                "" if ran is None else format_value(ran.value, "current", units),
                "" if lit is None else format_value(lit, "irradiance", units),
                "" if lit is None else format_value(one.expected_a(lit), "current", units),
                ": ".join(filter(None, (one.verdict, string_words(one, units)))),
            )
        )
    running = (("Runs at", True), ("In light of", True), ("Should run at", True))
    ends = (("To earth", True), *running, ("Verdict", False))
    return _table("strings", "Strings", (*titles, *ends), rows)


def inspections_table(plan: Plan) -> TableText:
    """Every word that was said of every inspection."""
    rows: list[tuple[str, ...]] = []
    for one in book_of(plan).inspections:
        rows += [
            (one.name, record.kind, f"{record.at:%Y-%m-%d}", record.by, record.note)
            for record in one.said
        ] or [(one.name, "not asked", "", "", "")]
    titles = ("Inspection", "Said", "Day", "Written by", "Who said what")
    return _table("inspections", "Inspections", tuple((t, False) for t in titles), rows)


def care_table(plan: Plan) -> TableText:
    """What is looked at when, from the day it is handed over."""
    found = handover_of(plan)
    rows = ((one.day.isoformat(), one.what, one.why) for one in found.care)
    counted = "" if found.passed else "Counted from the day that is planned. "
    titles = (("Day", True), ("What", False), ("Why", False))
    return _table("care", "Care", titles, rows, f"{counted}What the makers ask for goes before these.")
