"""A plan for machines: every answer and check as JSON, SI values beside what people read."""

import json
import math
from typing import Any

from openfurrow.core.checks import Check
from openfurrow.core.design import Design
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import format_value, in_words
from openfurrow.core.working import Answer
from openfurrow.exchange.wanted import Wanted

# Counted up when a name changes its meaning or goes.
PLAN_VERSION = 1


def _value(value: float | str, wanted: Wanted) -> float | str | None:
    """JSON has no infinity: what is unbounded is null. Words are in the reader's units."""
    if isinstance(value, str):
        return in_words(value, wanted.units)
    return value if math.isfinite(value) else None


def _answer(answer: Answer, wanted: Wanted) -> dict[str, Any]:
    return {
        "array": answer.array,
        "stage": answer.stage,
        "key": answer.key,
        "label": in_words(answer.label, wanted.units),
        "kind": answer.kind,
        "value": _value(answer.value, wanted),
        "shown": format_value(answer.value, answer.kind, wanted.units),
        "headline": answer.headline,
        "source": answer.working.source.text,
    }


def _check(check: Check, wanted: Wanted) -> dict[str, Any]:
    return {
        "array": check.array,
        "stage": check.stage,
        "key": check.key,
        "title": check.title,
        "level": check.level,
        "measured": _value(check.measured, wanted),
        "relation": check.relation,
        "limit": _value(check.limit, wanted),
        "kind": check.kind,
        "remedy": in_words(check.remedy, wanted.units),
        "given": check.given,
        "source": check.source.text,
        "mends": [
            {"words": in_words(mend.words, wanted.units), "edits": [list(edit) for edit in mend.edits]}
            for mend in check.mends
        ],
    }


def plan_json(design: Design, plan: Plan, wanted: Wanted) -> str:
    """Values in SI (degrees for angles), each with the text a reader of ``wanted`` would see."""
    return (
        json.dumps(
            {
                "plan_version": PLAN_VERSION,
                "name": design.name,
                "units": wanted.units,
                "arrays": [{"id": array.id, "name": array.name} for array in design.arrays],
                "answers": [_answer(answer, wanted) for answer in plan.answers],
                "checks": [_check(check, wanted) for check in plan.checks],
            },
            indent=1,
            ensure_ascii=False,
        )
        + "\n"
    )
