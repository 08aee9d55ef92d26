"""Hand-over: when, what is still open, and what the owner looks at from then on."""

from dataclasses import dataclass
from datetime import date
from zoneinfo import ZoneInfo

from openfurrow.core.checks import MENDED_THERE, Check, holds
from openfurrow.core.design import Design
from openfurrow.core.fieldbook.book import FieldBook
from openfurrow.core.fieldbook.inspections import WHOLE
from openfurrow.core.fieldbook.places import named
from openfurrow.core.fields import array_labels
from openfurrow.core.handover.care import CareDate, Setting, care_dates, care_source, setting_dates
from openfurrow.core.looked import not_looked
from openfurrow.core.planned import Plan
from openfurrow.core.schedule.plan import SOLVED
from openfurrow.core.working import COMMON_PRACTICE, Answer, Source, Working

WRITTEN = Source("written down on site", "given")


@dataclass(frozen=True, kw_only=True)
class HandOver:
    """The day it is handed over: that on which the whole was passed, or is planned to be.

    ``passed`` says which of the two. ``day`` is None where no day fits.
    """

    day: date | None
    passed: bool
    care: tuple[CareDate, ...]
    answers: tuple[Answer, ...] = ()
    checks: tuple[Check, ...] = ()


def plan_handover(design: Design, plan: Plan, book: FieldBook) -> HandOver:
    """What is handed over with the job. Raises Lacking while it cannot be dated."""
    finish = plan.schedule.finish
    whole = next(one for one in book.inspections if one.of == WHOLE.of)
    passed = whole.last is not None and whole.state == "passed"
    day = finish
    if whole.last is not None and passed:
        # The day on the clock that hangs there, not that of Greenwich.
        day = whole.last.at.astimezone(ZoneInfo(str(design.site.time_zone))).date()
    care = (
        care_dates(
            day,
            southern=(design.site.latitude_deg or 0.0) < 0,
            frost=(plan.site.known_frost_m or 0.0) > 0,
            mover=any(one.rows.travel is not None for one in plan.arrays),
        )
        + setting_dates(day, _settings(design, plan))
        if day
        else ()
    )
    care = tuple(sorted(care, key=lambda one: (one.day, one.key)))
    return HandOver(
        day=day,
        passed=passed,
        care=care,
        answers=_answers(day, passed, care),
        checks=_checks(design, book),
    )


def _settings(design: Design, plan: Plan) -> tuple[Setting, ...]:
    """What every array is set to through the year."""
    called = array_labels(design.arrays)
    return tuple(
        Setting(day, f"{position.tilt_deg:g}°", called[one.id] if len(called) > 1 else "the tables")
        for one in plan.arrays
        for position in one.rows.positions
        for day in position.days
    )


def _answers(day: date | None, passed: bool, care: tuple[CareDate, ...]) -> tuple[Answer, ...]:
    note = (
        "The day on which the whole was passed."
        if passed
        else "As planned: the day on which the last task is done."
    )
    source = WRITTEN if passed else SOLVED
    text = day.isoformat() if day else "no day"
    told = [
        Answer(
            "handover",
            "day",
            "Handed over on" if passed else "To be handed over on",
            Working("d", "", (), text, "factor", source, note),
            True,
        )
    ]
    if care:
        told.append(
            Answer(
                "handover",
                "first-care",
                "First looked at again on",
                Working(
                    "d_care", "", (), care[0].day.isoformat(), "factor", care_source(), care[0].what
                ),
                True,
            )
        )
    return tuple(told)


def _checks(design: Design, book: FieldBook) -> tuple[Check, ...]:
    """Nothing is said before anything was built."""
    if not book.records:
        return ()
    stops = [check.title.lower() for check in book.checks if check.level == "stop"]
    unread = [check.title.lower() for check in book.checks if check.level == "look"]
    practice = len(not_looked(design))
    return (
        holds(
            "handover",
            "built",
            "What was built may be handed over",
            not stops,
            f"does not hold: {named(stops)}" if stops else "nothing in the field book stops it",
            "nothing that stops it",
            remedy="The field book says where, and what to do.",
            source=COMMON_PRACTICE,
            given=MENDED_THERE,
        ),
        holds(
            "handover",
            "known",
            "All that is handed over was looked at",
            not unread,
            f"not yet: {named(unread)}" if unread else "all of it",
            "every post, string and inspection",
            remedy="What nobody has looked at is handed over as not looked at: the papers say so.",
            source=COMMON_PRACTICE,
            given=MENDED_THERE,
            otherwise="look",
        ),
        holds(
            "handover",
            "practice",
            "Somebody has looked at what it was planned with",
            not practice,
            f"{practice} values are practice that nobody has looked at" if practice else "all of it",
            "every value somebody's own",
            remedy="Look at them, one press a group: the list of them goes with the papers.",
            source=COMMON_PRACTICE,
            given=MENDED_THERE,
            otherwise="look",
        ),
    )
