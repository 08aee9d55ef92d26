"""What was built from above: posts and trench as they were read, modules as they were written down."""

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.as_built import book_of
from openfurrow.core.fieldbook.posts import BuiltPost
from openfurrow.core.fieldbook.serials import Serials
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.drawings.overhead import MOST_NUMBERED, glass, left_out, north_arrow, ways
from openfurrow.sheets.marks import Drawing, Mark, Point, bounds, dot, drawing, label, line, outlines

Floats = NDArray[np.float64]
# A crossed-out post, half across, by the size of the sheet.
CROSS = 0.009
LAYERS = {"sound": "post-sound", "asked": "post-asked", "not yet": "post-waits"}
COVER_LAYERS = {
    "sound": "post-sound",
    "shallow": "post-asked",
    "asked": "post-asked",
    "not yet": "post-waits",
}


def _crossed(at: Point, size: float) -> list[Mark]:
    """What does not hold is crossed out: it is told by its shape too."""
    x, y = at
    return [
        dot("post-failed", at),
        line("post-fails", (x - size, y - size), (x + size, y + size)),
        line("post-fails", (x - size, y + size), (x + size, y - size)),
    ]


def _post(post: BuiltPost, size: float, numbered: bool, units: UnitSystem) -> list[Mark]:
    at = (post.east_m, post.north_m)
    layer = LAYERS.get(post.verdict)
    marks = [dot(layer, at)] if layer else _crossed(at, size)
    if post.depth_m is not None and numbered:
        depth = format_value(post.depth_m, "tape", units)
        marks.append(label(depth, (at[0], at[1] - 3 * size), "note", free=True))
    return marks


def built_drawing(plan: Plan, units: UnitSystem) -> tuple[Drawing, ...]:
    """Posts and places of the trench: as they should be, crossed out where not, open where not read."""
    book = book_of(plan)
    back = [mark for one in plan.each() for mark in glass(one, "glass-faint")] + ways(plan)
    places = [(post.east_m, post.north_m) for post in book.posts]
    low, high = bounds([*back, *(dot("post-waits", at) for at in places)], 2.5)
    span = max(high[0] - low[0], high[1] - low[1])
    size = CROSS * span
    marks = list(back)
    for station in book.covers:
        at = (station.east_m, station.north_m)
        layer = COVER_LAYERS.get(station.verdict)
        marks += [dot(layer, at)] if layer else _crossed(at, size)
    numbered = len(book.posts) <= MOST_NUMBERED
    for post in book.posts:
        marks += _post(post, size, numbered, units)
    marks += north_arrow((high[0] - 0.045 * span, high[1] - 0.066 * span), 0.03 * span)
    words = "full: as it should be; ring: look again; cross: does not hold; open: not read yet"
    return (
        drawing(
            "built",
            "As built, north up",
            marks,
            low=low,
            high=high,
            legend=(words, *left_out(plan)),
        ),
    )


def _cells(corners: Floats, columns: int, high: int) -> Floats:
    """The modules of one table from above, (columns * high, 4, 2), column by column, upward.

    ``corners`` go round from the low edge's first end: gaps are left out, this is a map.
    """
    first, second, third, fourth = corners
    across, up = np.linspace(0, 1, columns + 1), np.linspace(0, 1, high + 1)

    def at(a: Floats, u: Floats) -> Floats:
        low = first + a[..., None] * (second - first)
        top = fourth + a[..., None] * (third - fourth)
        return np.asarray(low + u[..., None] * (top - low))

    a0, u0 = np.meshgrid(across[:-1], up[:-1], indexing="ij")
    a1, u1 = np.meshgrid(across[1:], up[1:], indexing="ij")
    return np.stack([at(a0, u0), at(a1, u0), at(a1, u1), at(a0, u1)], axis=-2).reshape(-1, 4, 2)


def serial_drawing(plan: Plan) -> Drawing:
    """Every module to be set, filled where its serial is written down."""
    serials = book_of(plan).serials
    written, bare = _written(plan, serials)
    marks = [*outlines("module-bare", bare), *outlines("module-written", written)]
    return drawing(
        "serials",
        "Serials, north up: filled where written down",
        marks,
        margin=1.5,
        legend=(f"{len(written)} of {serials.modules} written down",),
    )


def _written(plan: Plan, serials: Serials) -> tuple[Floats, Floats]:
    """The outlines of modules whose serial is known, and of the others."""
    cells, known = [np.zeros((0, 4, 2))], [np.zeros(0, dtype=bool)]
    grids = iter(serials.grids)
    for one in plan.each():
        if one.array.standing:
            continue
        for corners in one.rows.tables.corners:
            grid = next(grids)
            cells.append(_cells(corners, grid.columns, grid.high))
            known.append(np.array([of in serials.found for of in grid.places()]))
    every, filled = np.concatenate(cells), np.concatenate(known)
    return every[filled], every[~filled]
