"""Where the words of a drawing stand: each where it hides no other, nor a dot that a crew looks for."""

from collections.abc import Iterable
from dataclasses import dataclass

from openfurrow.sheets.marks import Anchor, Mark
from openfurrow.sheets.paper.scale import Scale

# Condensed figures are about so wide and tall at the size that drawings use, in points of the sheet.
LETTER, HEIGHT = 6.4, 15.0
EDGE, DOT, DROP = 6.0, 5.0, 4.0
# Where a label that may move is tried, from where it would stand.
ASIDE = ((0, 0), (0, -16), (0, 16), (26, -9), (-26, -9), (26, 9), (-26, 9), (0, -32), (0, 32))
LOOKED_FOR = (
    *("post", "post-hit", "hole", "load-test", "way-crossing", "shot-off"),
    *("post-sound", "post-asked", "post-waits", "post-failed"),
)
# Who gives way last, by layer.
FIRST = ("array-note", "way-note", "kind-note", "hole-note")

Box = tuple[float, float, float, float]


@dataclass(frozen=True)
class Placed:
    """A label and where its words stand on the sheet."""

    mark: Mark
    x: float
    y: float


def width_of(words: str) -> float:
    """About how wide words are."""
    return len(words) * LETTER


def on_sheet(x: float, words: str, anchor: Anchor, width: float) -> float:
    """Where words may be anchored so that they stay on a sheet so wide."""
    long = width_of(words)
    before = {"start": 0.0, "middle": long / 2, "end": long}[anchor]
    return max(EDGE + before, min(x, width - EDGE - (long - before)))


def _meet(one: Box, other: Box) -> bool:
    return one[0] < other[2] and other[0] < one[2] and one[1] < other[3] and other[1] < one[3]


def _box(x: float, y: float, mark: Mark) -> Box:
    wide = width_of(mark.text)
    left = x - {"start": 0.0, "middle": wide / 2, "end": wide}[mark.anchor]
    return left - 2, y - HEIGHT, left + wide + 2, y + 2


def _rank(mark: Mark) -> int:
    return FIRST.index(mark.layer) if mark.layer in FIRST else len(FIRST)


def _tried(mark: Mark, scale: Scale) -> list[tuple[float, float]]:
    """The places where a label may stand, the best first; none beyond the sheet."""
    x, y = scale.at(mark.points[0])
    y += DROP
    if not mark.free:
        return [(on_sheet(x, mark.text, mark.anchor, scale.width), y)]
    if not (-40 <= x <= scale.width + 40 and -10 <= y <= scale.height + 10):
        return []
    return [
        (
            on_sheet(x + aside, mark.text, mark.anchor, scale.width),
            max(HEIGHT, min(y + down, scale.height - DROP)),
        )
        for aside, down in ASIDE
    ]


def placed(marks: Iterable[Mark], scale: Scale) -> list[Placed]:
    """Those that stay first, then those that may be moved aside, or left out."""
    every = list(marks)
    labels = [mark for mark in every if mark.kind == "label"]
    dots = [
        (x - DOT, y - DOT, x + DOT, y + DOT)
        for mark in every
        if mark.kind == "dot" and mark.layer in LOOKED_FOR
        for x, y in (scale.at(mark.points[0]),)
    ]
    taken: list[Box] = []
    found: list[Placed] = []
    free = sorted((mark for mark in labels if mark.free), key=_rank)
    for mark in (*(mark for mark in labels if not mark.free), *free):
        tried = [(x, y, _box(x, y, mark)) for x, y in _tried(mark, scale)]
        if mark.free:
            tried = [one for one in tried if not any(_meet(one[2], other) for other in taken)]
        if not tried:
            continue
        clear = [one for one in tried if not any(_meet(one[2], dot) for dot in dots)]
        x, y, box = (clear or tried)[0] if mark.free else tried[0]
        taken.append(box)
        found.append(Placed(mark, x, y))
    return found
