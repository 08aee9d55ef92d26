"""The ground, what is there and the array as a drawing: layers with colours, line types and words."""

import io

import ezdxf
import numpy as np
from ezdxf.document import Drawing
from ezdxf.enums import TextEntityAlignment
from ezdxf.layouts.layout import Modelspace
from numpy.typing import NDArray

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan
from openfurrow.core.site.features import FeatureGivens
from openfurrow.exchange.wanted import DRAWING_UNITS, Scale, Wanted, scale_for

Floats = NDArray[np.float64]

SHOTS, SURFACE, TABLES, POSTS, TRENCH = "shots", "surface", "tables", "posts", "trench"
BREAKS, POST_NUMBERS, WORDS = "break lines", "post numbers", "words"
# Colour by the drawing's index and line type of each layer; kinds of features by what they are.
LOOKS: dict[str, tuple[int, str]] = {
    SHOTS: (8, "CONTINUOUS"),
    SURFACE: (9, "CONTINUOUS"),
    BREAKS: (30, "DASHDOT"),
    TABLES: (5, "CONTINUOUS"),
    POSTS: (7, "CONTINUOUS"),
    POST_NUMBERS: (7, "CONTINUOUS"),
    TRENCH: (6, "DASHED"),
    WORDS: (8, "CONTINUOUS"),
}
BY_LIE: dict[str, tuple[int, str]] = {
    "buried": (1, "DASHED"),
    "overhead": (1, "DASHDOT"),
    "standing": (3, "CONTINUOUS"),
}
OTHER: tuple[int, str] = (8, "CONTINUOUS")
TEXT_M = 0.35


class Sheet:
    """A drawing being made: adds to layers that it makes when they are first used."""

    def __init__(self, scale: Scale) -> None:
        """An empty drawing in the scale's unit."""
        self.drawing: Drawing = ezdxf.new("R2010", setup=["linetypes"])  # type: ignore[attr-defined]
        self.drawing.header["$INSUNITS"] = DRAWING_UNITS[scale.length]
        # Line types are drawn in metres; other units stretch them.
        self.drawing.header["$LTSCALE"] = 1 / scale.unit_m
        self.space: Modelspace = self.drawing.modelspace()
        self.scale = scale

    def on(self, name: str, look: tuple[int, str] | None = None) -> dict[str, str]:
        """The attributes of something on a layer."""
        if name not in self.drawing.layers:
            color, line_type = look or LOOKS.get(name, OTHER)
            self.drawing.layers.add(name, color=color, linetype=line_type)
        return {"layer": name}

    def at(self, points_m: Floats) -> list[list[float]]:
        """Places with levels (n, 3), or without (n, 2), in the drawing's unit."""
        places = self.scale.places(points_m[:, 0], points_m[:, 1])
        if points_m.shape[1] == 3:
            places = np.column_stack((places, self.scale.long(points_m[:, 2])))
        return places.tolist()  # type: ignore[no-any-return]

    def write(self, words: str, at: list[float], layer: str, height_m: float = TEXT_M) -> None:
        """Words beside a place."""
        high = height_m / self.scale.unit_m
        text = self.space.add_text(words, height=high, dxfattribs=self.on(layer))
        text.set_placement((at[0] + high, at[1] + high / 2), align=TextEntityAlignment.LEFT)


def site_dxf(design: Design, plan: Plan, wanted: Wanted) -> str:
    """Shots, surface, features, tables, posts with their numbers, and the trench."""
    sheet = Sheet(scale_for(design.site, wanted))
    _ground(sheet, plan)
    for feature in design.site.features:
        if feature.complete:
            _feature(sheet, feature)
    for one in plan.each():
        _array(sheet, one)
    for piece in plan.trench.dug if plan.has("trench") else ():
        line = piece.stretch.line
        sheet.space.add_polyline3d(
            sheet.at(np.column_stack((line.profile_east_m, line.profile_north_m, line.ground_m))),
            dxfattribs=sheet.on(TRENCH),
        )
    out = io.StringIO()
    sheet.drawing.write(out)
    return out.getvalue()


def _ground(sheet: Sheet, plan: Plan) -> None:
    shots = plan.site.known.shots
    for place, code in zip(sheet.at(shots.points_m), shots.codes, strict=True):
        sheet.space.add_point(place, dxfattribs=sheet.on(SHOTS))
        if code:
            sheet.write(code, place, WORDS, TEXT_M / 2)
    surface = plan.site.known.surface
    if surface is not None:
        at = np.array(sheet.at(surface.points_m))
        for corners in at[surface.triangles].tolist():
            sheet.space.add_3dface([*corners, corners[2]], dxfattribs=sheet.on(SURFACE))
    for _, run in plan.site.known.breaks:
        sheet.space.add_polyline3d(sheet.at(run), dxfattribs=sheet.on(BREAKS))


def _feature(sheet: Sheet, feature: FeatureGivens) -> None:
    points = sheet.at(np.array(feature.points, dtype=float))
    layer = sheet.on(feature.kind, BY_LIE.get(feature.facts.lies, OTHER))
    if feature.facts.shape == "point":
        radius = (feature.width_m or 0.5) / 2 / sheet.scale.unit_m
        sheet.space.add_circle(points[0], radius, dxfattribs=layer)
    else:
        sheet.space.add_lwpolyline(points, close=feature.facts.shape == "area", dxfattribs=layer)
    sheet.write(feature.label, points[0], WORDS)


def _array(sheet: Sheet, plan: Plan) -> None:
    if not plan.has("rows"):
        return
    for corners in plan.rows.lie.tables.corners:
        sheet.space.add_lwpolyline(sheet.at(corners), close=True, dxfattribs=sheet.on(TABLES))
    if plan.has("structure"):
        supports = plan.structure.supports
        feet = np.column_stack((supports.places.east_m, supports.places.north_m, supports.ground_m))
        for number, place in enumerate(sheet.at(feet), start=1):
            sheet.space.add_point(place, dxfattribs=sheet.on(POSTS))
            sheet.write(str(number), place, POST_NUMBERS)
    if plan.several:
        setting = plan.rows.setting
        (place,) = sheet.at(np.array([[setting.east_m, setting.north_m]]))
        sheet.write(plan.array.name, place, WORDS)
