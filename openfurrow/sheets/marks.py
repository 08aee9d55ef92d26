"""A drawing as plain marks in metres: lines, labels and dimensions, each on a named layer."""

from collections.abc import Iterable
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ConfigDict

Point = tuple[float, float]
MarkKind = Literal["line", "area", "rings", "dot", "dots", "label", "dimension"]
Anchor = Literal["start", "middle", "end"]


class Mark(BaseModel):
    """One mark; a dimension runs between two points, ``offset`` millimetres of paper aside.

    ``dots`` are alike and many, one at each of ``points``.
    ``rings`` are closed outlines laid one after another in ``points``, ``counts`` of them each; one
    inside another is a hole. A ``free`` label may be moved aside, or left out, where it would hide
    another; those that come first keep their place. ``of`` is the path of the thing that a mark
    draws, so that pointing at it leads there.
    """

    model_config = ConfigDict(frozen=True)

    kind: MarkKind
    layer: str
    points: tuple[Point, ...]
    text: str = ""
    offset: float = 0.0
    anchor: Anchor = "middle"
    counts: tuple[int, ...] = ()
    free: bool = False
    of: str = ""


class LayerGroup(BaseModel):
    """Layers that are shown and hidden together, by their common beginnings."""

    model_config = ConfigDict(frozen=True)

    name: str
    layers: tuple[str, ...]


class Drawing(BaseModel):
    """A drawing; ``to_scale`` means both axes share one scale.

    ``legend`` are lines of words that stand below it, the one that matters most first; what it leaves
    out is said there.
    """

    model_config = ConfigDict(frozen=True)

    key: str
    title: str
    low: Point
    high: Point
    to_scale: bool
    marks: tuple[Mark, ...]
    groups: tuple[LayerGroup, ...] = ()
    legend: tuple[str, ...] = ()


def _rounded(points: Iterable[Point] | NDArray[np.float64]) -> tuple[Point, ...]:
    """To a tenth of a millimetre; all at once, for outlines of hundreds of points are usual."""
    held = points if isinstance(points, np.ndarray) else np.array(list(points), dtype=float)
    return tuple(map(tuple, np.round(held, 4).tolist()))


def line(layer: str, *points: Point) -> Mark:
    """An open line through points."""
    return Mark(kind="line", layer=layer, points=_rounded(points))


def area(layer: str, *points: Point) -> Mark:
    """A closed, filled outline."""
    return Mark(kind="area", layer=layer, points=_rounded(points))


def box(layer: str, x0: float, y0: float, x1: float, y1: float) -> Mark:
    """A filled rectangle."""
    return area(layer, (x0, y0), (x1, y0), (x1, y1), (x0, y1))


def dot(layer: str, at: Point) -> Mark:
    """A small mark at a point."""
    return Mark(kind="dot", layer=layer, points=_rounded((at,)))


# So many alike are still marks of their own, beside which words are placed; more go as one.
MOST_APART = 200


def dots(layer: str, points: NDArray[np.float64]) -> list[Mark]:
    """Small marks at points (n, 2); very many of them as one."""
    if len(points) <= MOST_APART:
        return [dot(layer, (x, y)) for x, y in points.tolist()]
    return [Mark(kind="dots", layer=layer, points=_rounded(points))]


def outlines(layer: str, corners: NDArray[np.float64]) -> list[Mark]:
    """Alike outlines, (n, corners, 2), filled; very many of them as one mark."""
    if len(corners) <= MOST_APART:
        return [area(layer, *map(tuple, one)) for one in corners.tolist()]
    count, of_each = corners.shape[:2]
    return [
        Mark(
            kind="rings",
            layer=layer,
            points=_rounded(corners.reshape(-1, 2)),
            counts=(of_each,) * count,
        )
    ]


def rings(layer: str, outlines: Iterable[Iterable[Point]]) -> Mark:
    """Filled outlines as one mark."""
    kept = [list(outline) for outline in outlines]
    return Mark(
        kind="rings",
        layer=layer,
        points=_rounded(p for ring in kept for p in ring),
        counts=tuple(map(len, kept)),
    )


def owned(marks: Iterable[Mark], of: str) -> list[Mark]:
    """Marks that draw the thing at a path."""
    return [mark.model_copy(update={"of": of}) for mark in marks]


def label(
    text: str, at: Point, layer: str = "note", anchor: Anchor = "middle", free: bool = False
) -> Mark:
    """Words at a point."""
    return Mark(kind="label", layer=layer, points=_rounded((at,)), text=text, anchor=anchor, free=free)


def dimension(text: str, start: Point, end: Point, offset: float = 0.0) -> Mark:
    """A dimension line with ticks; positive ``offset`` pushes it to the left of start to end."""
    return Mark(
        kind="dimension", layer="dimension", points=_rounded((start, end)), text=text, offset=offset
    )


def turned(points: Iterable[Point], at: Point, angle_deg: float) -> tuple[Point, ...]:
    """Points turned about the origin and moved to ``at``."""
    angle = np.radians(angle_deg)
    cosine, sine = float(np.cos(angle)), float(np.sin(angle))
    return tuple((at[0] + x * cosine - y * sine, at[1] + x * sine + y * cosine) for x, y in points)


def bounds(marks: Iterable[Mark], pad: float) -> tuple[Point, Point]:
    """Corners of what the marks cover, and some room."""
    points = np.concatenate([np.array(mark.points) for mark in marks if mark.points])
    low, high = points.min(axis=0) - pad, points.max(axis=0) + pad
    return (float(low[0]), float(low[1])), (float(high[0]), float(high[1]))


def drawing(
    key: str,
    title: str,
    marks: Iterable[Mark],
    *,
    margin: float = 0.0,
    low: Point | None = None,
    high: Point | None = None,
    to_scale: bool = True,
    groups: tuple[LayerGroup, ...] = (),
    legend: tuple[str, ...] = (),
) -> Drawing:
    """A drawing around its marks, or within bounds that are given."""
    kept = tuple(marks)
    if low is None or high is None:
        least, most = bounds(kept, margin)
        low, high = low or least, high or most
    return Drawing(
        key=key,
        title=title,
        low=low,
        high=high,
        to_scale=to_scale,
        marks=kept,
        groups=groups,
        legend=legend,
    )
