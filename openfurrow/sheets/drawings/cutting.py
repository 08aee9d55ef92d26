"""Materials: the sticks of each profile and how each is cut."""

from openfurrow.core.materials.sawing import Bar
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.marks import Drawing, Mark, box, drawing, label

SHOWN_PATTERNS = 12
# A piece shorter than this share of the stick has room for its mark alone, on a phone.
ROOM_FOR_WORDS = 0.22
BAR_HIGH = 0.78


def cutting_drawings(plan: Plan, units: UnitSystem) -> tuple[Drawing, ...]:
    """One drawing a profile, one stick a pattern; the last, pale part is offcut."""
    return tuple(_bar(bar, units) for bar in plan.materials.sawing.bars)


def stocks_words(bar: Bar, units: UnitSystem) -> str:
    """How many sticks of each length: 14 of 24 ft."""
    return " and ".join(
        f"{count} of {format_value(stock, 'tape', units)}"
        for stock, count in bar.nest.of_stock().items()
    )


def _bar(bar: Bar, units: UnitSystem) -> Drawing:
    marks: list[Mark] = []
    longest = max(bar.stocks_m)
    shown = bar.nest.patterns[:SHOWN_PATTERNS]
    for number, pattern in enumerate(shown):
        y, x = -float(number), 0.0
        middle = y + BAR_HIGH / 2
        marks.append(label(f"{pattern.sticks} x", (-longest * 0.015, middle), "strong", "end"))
        for piece in pattern.pieces_m:
            words = bar.marks[piece]
            if piece > ROOM_FOR_WORDS * longest:
                words = f"{words}  {format_value(piece, 'tape', units)}"
            marks += [
                box("purlin", x, y, x + piece, y + BAR_HIGH),
                label(words, (x + piece / 2, middle), "on-steel"),
            ]
            x += piece + bar.saw_m
        if pattern.stock_m - x > 0.02:
            marks.append(box("offcut", x, y, pattern.stock_m, y + BAR_HIGH))
    left = len(bar.nest.patterns) - len(shown)
    waste = 1 - bar.nest.cut_m / bar.nest.bought_m
    least = format_value(bar.nest.bound_m, "run", units)
    legend = [
        f"{format_value(waste, 'ratio', units)} of what is bought is offcut; no way of cutting these "
        f"pieces buys less than {least}."
    ]
    if left:
        legend.append(f"{left} more ways to cut a stick stand in the list below.")
    return drawing(
        f"cutting_{bar.letter.lower()}",
        f"{bar.letter}: {bar.profile}, {stocks_words(bar, units)}",
        marks,
        low=(-longest * 0.07, -len(shown) + 0.9),
        high=(longest * 1.01, 1.0),
        to_scale=False,
        legend=tuple(legend),
    )
