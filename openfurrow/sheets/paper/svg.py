"""A drawing as SVG by itself: its marks with the styles of their layers, its words placed."""

import math
from collections.abc import Iterable
from xml.etree import ElementTree as ET

from openfurrow.core.quantities import FOOT_M, UnitSystem
from openfurrow.sheets.marks import Drawing, Mark, Point
from openfurrow.sheets.paper.scale import Scale, fitted
from openfurrow.sheets.paper.styles import Style, colours, hatches, in_colour, style_of
from openfurrow.sheets.paper.words import on_sheet, placed, width_of

NAMESPACE = "http://www.w3.org/2000/svg"
FONT = {"font-family": "Fira Sans", "font-stretch": "condensed"}
PAD = 14.0
# Millimetres of paper, as dimensions are pushed aside, to points of the sheet.
PAPER = 2.6
WORDS_HIGH = 10.0
# The foot of a sheet, on which its scale bar stands.
FOOT = 24.0
# How long a scale bar may be, and which lengths one reads at a glance, in metres and feet.
BAR = 120.0
LENGTHS = (0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500, 1000)


def _svg(tag: str, parent: ET.Element | None = None, **attributes: object) -> ET.Element:
    named = {
        name.replace("_", "-"): f"{value:.2f}" if isinstance(value, float) else str(value)
        for name, value in attributes.items()
    }
    return ET.Element(tag, named) if parent is None else ET.SubElement(parent, tag, named)


# Properties that only a screen knows.
OF_THE_SCREEN = ("vector-effect", "font-variant-numeric", "font-family", "r")


def _painted(style: Style) -> dict[str, str]:
    """The properties as attributes, colours as they are on paper."""
    known = colours()
    found = {}
    for name, value in style.items():
        if name in OF_THE_SCREEN:
            continue
        if value.startswith("hatch-"):
            value = f"url(#{value})"
        elif value == "transparent":
            value = "none"
        found[name] = known.get(value, value.removesuffix("px"))
    return found


def _path(points: Iterable[Point], scale: Scale, *, closed: bool) -> str:
    steps = [f"{x:.2f} {y:.2f}" for x, y in map(scale.at, points)]
    return f"M{'L'.join(steps)}{'Z' if closed else ''}"


def _rings(mark: Mark, scale: Scale) -> str:
    at, found = 0, []
    for count in mark.counts:
        found.append(_path(mark.points[at : at + count], scale, closed=True))
        at += count
    return "".join(found)


def _radius(style: Style, mark: Mark, scale: Scale) -> float:
    if mark.layer == "sun-disc":
        return 11.0
    return float(style["r"].removesuffix("px")) if "r" in style else (1.6 if scale.across < 4 else 3.6)


def _draw(mark: Mark, scale: Scale, on: ET.Element) -> None:
    if mark.kind == "dimension":
        _dimension(mark, scale, on)
        return
    style = style_of(mark.kind, mark.layer)
    painted = _painted(style)
    match mark.kind:
        case "line" | "area":
            d = _path(mark.points, scale, closed=mark.kind == "area")
            ET.SubElement(on, "path", {"d": d, **painted})
        case "rings":
            ET.SubElement(on, "path", {"d": _rings(mark, scale), "fill-rule": "evenodd", **painted})
        case "dot" | "dots":
            radius = f"{_radius(style, mark, scale):.2f}"
            for x, y in map(scale.at, mark.points):
                where = {"cx": f"{x:.2f}", "cy": f"{y:.2f}", "r": radius}
                ET.SubElement(on, "circle", {**where, **painted})
        case "label":
            # Placed together, see placed().
            return


HALO = ("stroke", "stroke-width", "stroke-linejoin")


def _words(text: str, x: float, y: float, anchor: str, on: ET.Element, style: dict[str, str]) -> None:
    """Words with a halo of paper behind, drawn by themselves: not every reader paints strokes first."""
    where = {"x": f"{x:.2f}", "y": f"{y:.2f}", "text-anchor": anchor, **FONT, **style}
    where.pop("paint-order", None)
    halo = {name: where.pop(name) for name in HALO if name in where}
    if halo.get("stroke", "none") != "none":
        behind = ET.SubElement(on, "text", where | halo | {"fill": halo["stroke"]})
        behind.text = text
    ET.SubElement(on, "text", where).text = text


def _plain_words(layer: str = "note", **but: str) -> dict[str, str]:
    return {**_painted(style_of("label", layer)), **but}


def _dimension(mark: Mark, scale: Scale, on: ET.Element) -> None:
    (ax, ay), (bx, by) = map(scale.at, mark.points)
    length = math.hypot(bx - ax, by - ay)
    if length < 1:
        return
    ux, uy = (bx - ax) / length, (by - ay) / length
    # Left of start to end, on a sheet whose y runs down.
    nx, ny = uy, -ux
    away = mark.offset * PAPER
    feet = ((ax, ay), (bx, by)) if away else ()
    ax, ay, bx, by = ax + nx * away, ay + ny * away, bx + nx * away, by + ny * away
    ink = {"stroke": colours()["ink"], "stroke-width": "0.7"}
    beyond = math.copysign(3.0, away) if away else 0.0
    for (x, y), (ex, ey) in zip(feet, ((ax, ay), (bx, by)), strict=bool(feet)):
        _svg("line", on, x1=x, y1=y, x2=ex + nx * beyond, y2=ey + ny * beyond, **ink)
    _svg("line", on, x1=ax, y1=ay, x2=bx, y2=by, **ink)
    for x, y in ((ax, ay), (bx, by)):
        tick = ink | {"stroke-width": "1.6"}
        _svg("line", on, x1=x - 4, y1=y + 4, x2=x + 4, y2=y - 4, **tick)
    angle = math.degrees(math.atan2(by - ay, bx - ax))
    side = 1
    if angle > 89.5 or angle < -90.5:
        angle, side = angle + 180, -1
    strong = _plain_words(**{"font-weight": "500", "font-size": "14"})
    middle = (ax + bx) / 2, (ay + by) / 2
    if length > width_of(mark.text):
        # Words stand on the far side of the line from what it measures.
        far = int(math.copysign(1, away)) if away else side
        clear = 6.0 if far * side > 0 else 6.0 + WORDS_HIGH
        x, y = middle[0] + nx * clear * far, middle[1] + ny * clear * far
        turned = {"transform": f"rotate({angle:.2f} {x:.2f} {y:.2f})", **strong}
        _words(mark.text, x, y, "middle", on, turned)
        return
    anchor = "end" if nx < -0.5 else "start" if nx > 0.5 else "middle"
    x = on_sheet(middle[0] + nx * 8, mark.text, anchor, scale.width)  # type: ignore[arg-type]
    _words(mark.text, x, middle[1] + ny * 8 + 4, anchor, on, strong)


def _bar(scale: Scale, units: UnitSystem, on: ET.Element) -> None:
    """How long a metre or a foot is on this sheet."""
    unit_m, name = (FOOT_M, "ft") if units == "us" else (1.0, "m")
    fit = [length for length in LENGTHS if length * unit_m * scale.across <= BAR]
    if not fit:
        return
    long = fit[-1] * unit_m * scale.across
    right, y = scale.width - 12.0, scale.height + FOOT - 7.0
    ink = {"stroke": colours()["ink"], "stroke-width": "1.6"}
    _svg("line", on, x1=right - long, y1=y, x2=right, y2=y, **ink)
    for x in (right - long, right):
        _svg("line", on, x1=x, y1=y - 5, x2=x, y2=y + 1, **ink)
    _words(f"{fit[-1]:g} {name}", right - long - 6, y + 1, "end", on, _plain_words())


def drawing_svg(drawing: Drawing, width: float, height: float, units: UnitSystem) -> str:
    """A drawing on a sheet of so many points, by day; with a scale bar where it is to scale."""
    foot = FOOT if drawing.to_scale else 0.0
    scale = fitted(drawing, width, height - foot, PAD)
    root = _svg(
        "svg", xmlns=NAMESPACE, width=width, height=height, viewBox=f"0 0 {width:.2f} {height:.2f}"
    )
    patterns = ET.fromstring(in_colour(hatches()).replace(f' xmlns="{NAMESPACE}"', ""))
    defined = _svg("defs", root)
    clip = _svg("clipPath", defined, id="sheet")
    _svg("rect", clip, x=0.0, y=0.0, width=width, height=height)
    defined.extend(patterns)
    group = _svg("g", root, clip_path="url(#sheet)")
    for mark in drawing.marks:
        _draw(mark, scale, group)
    for one in placed(drawing.marks, scale):
        style = _painted(style_of("label", one.mark.layer))
        _words(one.mark.text, one.x, one.y, one.mark.anchor, group, style)
    if drawing.to_scale:
        _bar(scale, units, root)
    return ET.tostring(root, encoding="unicode")
