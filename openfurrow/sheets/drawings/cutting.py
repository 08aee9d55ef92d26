"""Materials: the sticks of purlin stock and how each is cut."""

from openfurrow.core.frame.cutting import SAW_CUT_M
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.marks import Drawing, Mark, box, drawing, label

SHOWN_PATTERNS = 10


def cutting_drawing(plan: Plan, stock_m: float, units: UnitSystem) -> tuple[Drawing, ...]:
    """One bar a cutting pattern; the last, pale part is offcut."""
    marks: list[Mark] = []
    for number, pattern in enumerate(plan.frame.patterns[:SHOWN_PATTERNS]):
        y = -float(number)
        marks.append(label(f"{pattern.sticks} x", (-stock_m * 0.015, y + 0.4), "strong", "end"))
        x = 0.0
        for piece in pattern.pieces_m:
            marks += [
                box("purlin", x, y, x + piece, y + 0.84),
                label(format_value(piece, "tape", units), (x + piece / 2, y + 0.4), "on-steel"),
            ]
            x += piece + SAW_CUT_M
        if stock_m - x > 0.02:
            marks.append(box("offcut", x, y, stock_m, y + 0.84))
    of = f"{plan.array.name}: purlin" if plan.several else "Purlin"
    title = f"{of} sticks of {format_value(stock_m, 'tape', units)} and their cuts"
    lines = max(3, min(len(plan.frame.patterns), SHOWN_PATTERNS))
    return (
        drawing(
            "cutting",
            title,
            marks,
            low=(-stock_m * 0.07, -lines + 0.9),
            high=(stock_m * 1.01, 1.0),
            to_scale=False,
        ),
    )
