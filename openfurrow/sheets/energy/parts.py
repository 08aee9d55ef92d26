"""What the sheets of energy share: lists of numbers, changes with their sign, what can be taken."""

from openfurrow.core.paths import stamped
from openfurrow.core.plan import Plan
from openfurrow.sheets.models import Column, EditText, MendText, TableText


def number_table(
    key: str,
    title: str,
    columns: tuple[str, ...],
    rows: tuple[tuple[str, ...], ...],
    note: str,
    *,
    words: int = 1,
) -> TableText:
    """A list whose first columns, so many, are words and whose others are numbers."""
    return TableText(
        key=key,
        title=title,
        columns=tuple(Column(title=one, number=number >= words) for number, one in enumerate(columns)),
        rows=rows,
        left_out=0,
        note=note,
    )


def percent(share: float) -> str:
    """A change with its sign."""
    text = f"{share * 100:+.1f} %".replace("-", "−")
    return text if text.strip("+−0. %") else "0.0 %"


def standing_note(plan: Plan) -> str:
    """That what is compared stands fixed, where the tables follow the sun."""
    if plan.rows.travel is None:
        return ""
    if plan.rows.travel.rolls:
        return (
            "These tables roll after the sun: what is drawn here are the same ones standing fixed, as "
            "they look in the morning. Ones that face the equator stand beside them on Structure. "
        )
    return "These tables follow the sun: what is drawn here are the same ones standing fixed. "


def take(plan: Plan, words: str, field: str, text: str) -> MendText:
    """A field of the array that is open, and what to put in it."""
    return MendText(words=words, edits=(EditText(path=stamped(field, plan.array.id), text=text),))


def at_meter(plan: Plan) -> float:
    """What of the strings' energy comes to the meter."""
    sums = plan.energy.sums_wh
    return sums[-1] / sums[0] if sums[0] else 0.0
