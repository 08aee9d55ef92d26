"""A chart drawn like a drawing: a fine grid, a thick foot, ticks with their units, room for words."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.quantities import format_value
from openfurrow.sheets.marks import Drawing, Mark, Point, drawing, label, line

Floats = NDArray[np.float64]

# The sheet of a chart; what is put on it is laid between the axes' ends.
WIDE, HIGH = 160.0, 100.0
LEFT, RIGHT, FOOT, HEAD = 13.0, 6.0, 13.0, 8.0
TICK = 1.4
# From here on four figures are no whole number any more.
WHOLE = 10_000


@dataclass(frozen=True)
class Axis:
    """From one value to another, what it is, and where it has ticks with their words."""

    low: float
    high: float
    title: str
    ticks: tuple[tuple[float, str], ...]

    def share(self, value: float) -> float:
        """Where a value lies between the ends."""
        return (value - self.low) / (self.high - self.low)


@dataclass(frozen=True)
class Chart:
    """Two axes, and the marks on them."""

    across: Axis
    up: Axis

    def at(self, x: float, y: float) -> Point:
        """Where a pair of values lies on the sheet."""
        return WIDE * self.across.share(x), HIGH * self.up.share(y)

    def curve(self, layer: str, x: Floats, y: Floats) -> Mark:
        """A line through pairs of values."""
        return line(layer, *(self.at(*pair) for pair in zip(x.tolist(), y.tolist(), strict=True)))

    def frame(self) -> list[Mark]:
        """Grid, ticks, words and the foot."""
        marks: list[Mark] = []
        for value, words in self.up.ticks:
            _, y = self.at(self.across.low, value)
            marks += [
                line("grid", (0.0, y), (WIDE, y)),
                label(words, (-1.5, y - 1.2), "note", "end"),
            ]
        for value, words in self.across.ticks:
            x, _ = self.at(value, self.up.low)
            marks += [line("axis", (x, 0.0), (x, -TICK)), label(words, (x, -5.5), "note")]
        return [
            *marks,
            line("chart-foot", (0.0, 0.0), (WIDE, 0.0)),
            label(self.up.title, (-LEFT + 1, HIGH + 3.5), "contour-note", "start"),
            label(self.across.title, (WIDE, -11.0), "contour-note", "end"),
        ]

    def drawn(self, key: str, title: str, marks: list[Mark], legend: tuple[str, ...] = ()) -> Drawing:
        """The chart as a drawing."""
        return drawing(
            key,
            title,
            [*self.frame(), *marks],
            low=(-LEFT, -FOOT),
            high=(WIDE + RIGHT, HIGH + HEAD),
            to_scale=False,
        ).model_copy(update={"legend": legend})


def plain(value: float) -> str:
    """A round number as the rest of the sheet writes it."""
    return format_value(value, "count", "metric")


def short(value: float) -> str:
    """A value on an axis, to four figures; of more only whole ones are ticked."""
    return plain(value) if abs(value) >= WHOLE else f"{value + 0.0:.4g}"


def ticks(low: float, high: float, most: int = 6) -> tuple[float, ...]:
    """Round values between two others, at most so many."""
    span = max(high - low, 1e-9)
    step = 10 ** np.floor(np.log10(span / most))
    step = next(step * factor for factor in (1, 2, 2.5, 5, 10) if span / (step * factor) <= most)
    first = np.ceil(low / step - 1e-9)
    return tuple(float(one) for one in np.arange(first, np.floor(high / step + 1e-9) + 1) * step)
