"""Materials: the sticks of purlin stock and how each is cut."""

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.marks import Drawing, Mark, box, drawing, label


def cutting_drawing(plan: Plan, stock_m: float, units: UnitSystem) -> tuple[Drawing, ...]:
    """One bar a cutting pattern; the last, pale part is offcut."""
    marks: list[Mark] = []
    height, step = stock_m * 0.035, stock_m * 0.075
    for number, pattern in enumerate(plan.frame.patterns[:10]):
        y = -number * step
        marks.append(label(f"{pattern.sticks} x", (-stock_m * 0.015, y + height * 0.3), "strong",
                           "end"))
        x = 0.0
        for piece in pattern.pieces_m:
            marks += [box("purlin", x, y, x + piece, y + height),
                      label(format_value(piece, "tape", units), (x + piece / 2, y + height * 0.28),
                            "on-steel")]
            x += piece + 0.003
        if stock_m - x > 0.02:
            marks.append(box("offcut", x, y, stock_m, y + height))
    title = f"Purlin sticks of {format_value(stock_m, 'tape', units)} and their cuts"
    return (drawing("cutting", title, marks, low=(-stock_m * 0.09, -step * len(
        plan.frame.patterns[:10]) + height * 0.6), high=(stock_m * 1.01, height * 2)),)
