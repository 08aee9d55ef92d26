"""The one line as a file: SVG to look at and to print, DXF to go on drawing in."""

import io

import ezdxf
import numpy as np
from ezdxf.enums import TextEntityAlignment

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan
from openfurrow.exchange.wanted import Wanted
from openfurrow.sheets.drawings.one_line import one_line_drawing
from openfurrow.sheets.marks import Mark
from openfurrow.sheets.paper.svg import drawing_svg

# Points of a sheet that leaves a hand's breadth of A4 for a title block; and the same in millimetres.
WIDE_PT, HIGH_PT = 540.0, 700.0
WIDE_MM, HIGH_MM = 190.0, 247.0
TEXT_MM, DOT_MM = 3.0, 2.5
MILLIMETRES = 4
COLOURS = {"one-line-dc": 30, "one-line-earth": 3, "one-line-open": 1}
ALIGNED = {
    "start": TextEntityAlignment.MIDDLE_LEFT,
    "middle": TextEntityAlignment.MIDDLE_CENTER,
    "end": TextEntityAlignment.MIDDLE_RIGHT,
}


def one_line_svg(_: Design, plan: Plan, wanted: Wanted) -> str:
    """As it is on the screen by day."""
    return drawing_svg(one_line_drawing(plan, wanted.units), WIDE_PT, HIGH_PT, wanted.units)


def one_line_dxf(_: Design, plan: Plan, wanted: Wanted) -> str:
    """Lines, outlines and words on layers of their own, on a sheet in millimetres."""
    shown = one_line_drawing(plan, wanted.units)
    drawing = ezdxf.new("R2010")  # type: ignore[attr-defined]
    drawing.header["$INSUNITS"] = MILLIMETRES
    space, low = drawing.modelspace(), np.array(shown.low)
    stretch = np.array([WIDE_MM, HIGH_MM]) / (np.array(shown.high) - low)

    def on(mark: Mark) -> dict[str, str]:
        if mark.layer not in drawing.layers:
            drawing.layers.add(mark.layer, color=COLOURS.get(mark.layer, 7))
        return {"layer": mark.layer}

    for mark in shown.marks:
        points = ((np.array(mark.points) - low) * stretch).tolist()
        match mark.kind:
            case "label":
                text = space.add_text(mark.text, height=TEXT_MM, dxfattribs=on(mark))
                text.set_placement(points[0], align=ALIGNED[mark.anchor])
            case "dot":
                space.add_circle(points[0], DOT_MM, dxfattribs=on(mark))
            case _:
                space.add_lwpolyline(points, close=mark.kind == "area", dxfattribs=on(mark))
    out = io.StringIO()
    drawing.write(out)
    return out.getvalue()
