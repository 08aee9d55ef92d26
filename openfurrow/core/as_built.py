"""plan(design, records): what was planned, with the field book and the hand-over that records make."""

from collections.abc import Iterable
from dataclasses import replace

from openfurrow.core.design import Design
from openfurrow.core.fieldbook.book import FieldBook, field_book
from openfurrow.core.fieldbook.records import Record
from openfurrow.core.handover.plan import HandOver, plan_handover
from openfurrow.core.planned import Plan, Told


def as_built(design: Design, plan: Plan, records: Iterable[Record] = ()) -> Plan:
    """The plan with its last two stages, as far as what was said goes.

    Nothing of the plan itself is moved by what was measured: it stands beside it.
    """
    if not plan.has("fieldbook"):
        return plan
    built: dict[str, Told] = {}
    book = field_book(design, plan, records)
    built["fieldbook"] = book
    if plan.has("handover"):
        built["handover"] = plan_handover(design, plan, book)
    return replace(plan, built=built)


def book_of(plan: Plan) -> FieldBook:
    """The field book of a plan as built. Raises Lacking where it cannot be written."""
    found = plan.told("fieldbook")
    assert isinstance(found, FieldBook)
    return found


def handover_of(plan: Plan) -> HandOver:
    """The hand-over of a plan as built. Raises Lacking where it cannot be dated."""
    found = plan.told("handover")
    assert isinstance(found, HandOver)
    return found
