"""The ground and what is there as open files: GeoJSON, DXF with named layers, LandXML, CSV."""

import io
import json
import re
from typing import Any
from xml.etree.ElementTree import Element, SubElement, indent, tostring

import ezdxf
import numpy as np
from ezdxf.layouts.layout import Modelspace
from numpy.typing import NDArray

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan
from openfurrow.core.site.features import FeatureGivens
from openfurrow.exchange.csv_out import csv_text
from openfurrow.exchange.places import to_globe

Floats = NDArray[np.float64]

# Nine decimals of a degree are a tenth of a millimetre.
DEGREE_DECIMALS = 9
METRES = 6  # $INSUNITS of a drawing in metres
SHOTS, SURFACE, TABLES, POSTS, TRENCH = "shots", "surface", "tables", "posts", "trench"
BREAKS = "break lines"
LANDXML = "http://www.landxml.org/schema/LandXML-1.2"


def _shots(plan: Plan) -> tuple[Floats, tuple[str, ...]]:
    shots = plan.site.known.shots
    return shots.points_m, shots.codes


def site_geojson(design: Design, plan: Plan) -> str:
    """Shots (with level) and features in longitude and latitude (RFC 7946)."""
    globe = to_globe(design.site)

    def places(east: Floats, north: Floats) -> list[list[float]]:
        longitude, latitude = globe.transform(east, north)
        return np.round(np.column_stack((longitude, latitude)), DEGREE_DECIMALS).tolist()  # type: ignore[no-any-return]

    found: list[dict[str, Any]] = []
    points, codes = _shots(plan)
    for place, level, code in zip(places(points[:, 0], points[:, 1]), points[:, 2].tolist(), codes,
                                  strict=True):
        found.append({
            "type": "Feature", "properties": {"layer": SHOTS, "code": code},
            "geometry": {"type": "Point", "coordinates": [*place, round(level, 5)]},
        })
    for feature in design.site.features:
        if feature.complete:
            found.append(_feature(feature, places))
    return json.dumps({"type": "FeatureCollection", "name": design.name, "features": found})


def _feature(feature: FeatureGivens, places: Any) -> dict[str, Any]:
    at = np.array(feature.points, dtype=float)
    shape = feature.facts.shape
    if shape == "area":
        ring = at if _anticlockwise(at) else at[::-1]
        coordinates: Any = [places(*np.vstack((ring, ring[:1])).T)]
    else:
        coordinates = places(*at.T)
        coordinates = coordinates[0] if shape == "point" else coordinates
    said = {key: value for key, value in {
        "depth_m": feature.depth_m, "height_m": feature.height_m, "width_m": feature.width_m,
        "setback_m": feature.setback_m, "note": feature.note,
    }.items() if value not in (None, "")}
    facts = {"kind": feature.kind, "name": feature.name, "how_sure": feature.how_sure}
    return {
        "type": "Feature", "properties": facts | said,
        "geometry": {"type": {"area": "Polygon", "line": "LineString", "point": "Point"}[shape],
                     "coordinates": coordinates},
    }


def _anticlockwise(ring: Floats) -> bool:
    x, y = ring[:, 0] - ring[0, 0], ring[:, 1] - ring[0, 1]
    return bool(np.sum(x * np.roll(y, -1) - np.roll(x, -1) * y) > 0)


def site_dxf(design: Design, plan: Plan) -> str:
    """Shots, surface, features, tables, posts and trench on layers of their names, in metres."""
    drawing = ezdxf.new("R2010", setup=False)  # type: ignore[attr-defined]
    drawing.header["$INSUNITS"] = METRES
    space = drawing.modelspace()

    def layer(name: str) -> dict[str, str]:
        if name not in drawing.layers:
            drawing.layers.add(name)
        return {"layer": name}

    points, _ = _shots(plan)
    for point in points.tolist():
        space.add_point(point, dxfattribs=layer(SHOTS))
    surface = plan.site.known.surface
    if surface is not None:
        for corners in surface.points_m[surface.triangles].tolist():
            space.add_3dface([*corners, corners[2]], dxfattribs=layer(SURFACE))
    for _, run in plan.site.known.breaks:
        space.add_polyline3d(run.tolist(), dxfattribs=layer(BREAKS))
    for feature in design.site.features:
        if feature.complete:
            _draw(space, feature, layer(feature.kind))
    for corners in plan.rows.lie.tables.corners.tolist():
        space.add_lwpolyline(corners, close=True, dxfattribs=layer(TABLES))
    posts = plan.footings.posts
    for east, north, level in zip(posts.places.east_m.tolist(), posts.places.north_m.tolist(),
                                  posts.ground_m.tolist(), strict=True):
        space.add_point((east, north, level), dxfattribs=layer(POSTS))
    route = plan.trench.route
    way = np.column_stack((route.profile_east_m, route.profile_north_m, route.ground_m))
    space.add_polyline3d(way.tolist(), dxfattribs=layer(TRENCH))
    out = io.StringIO()
    drawing.write(out)
    return out.getvalue()


def _draw(space: Modelspace, feature: FeatureGivens, layer: dict[str, str]) -> None:
    if feature.facts.shape == "point":
        space.add_circle(feature.points[0], (feature.width_m or 0.5) / 2, dxfattribs=layer)
    else:
        space.add_lwpolyline(feature.points, close=feature.facts.shape == "area", dxfattribs=layer)


def surface_xml(design: Design, plan: Plan) -> str:
    """The surface as LandXML 1.2: points (north, east, level) and faces, metres."""
    surface = plan.site.known.surface
    points = [] if surface is None else surface.points_m.tolist()
    faces = [] if surface is None else surface.triangles.tolist()
    root = Element("LandXML", xmlns=LANDXML, version="1.2")
    SubElement(SubElement(root, "Units"), "Metric", areaUnit="squareMeter", linearUnit="meter",
               volumeUnit="cubicMeter", temperatureUnit="celsius", pressureUnit="mmHG")
    named = SubElement(SubElement(root, "Surfaces"), "Surface", name=_xml_text(design.name))
    definition = SubElement(named, "Definition", surfType="TIN")
    at, between = SubElement(definition, "Pnts"), SubElement(definition, "Faces")
    for number, (east, north, level) in enumerate(points):
        SubElement(at, "P", id=str(number + 1)).text = f"{north:.5f} {east:.5f} {level:.5f}"
    for corners in faces:
        SubElement(between, "F").text = " ".join(str(corner + 1) for corner in corners)
    indent(root, "")
    return tostring(root, encoding="unicode", xml_declaration=True) + "\n"


def _xml_text(text: str) -> str:
    """Text without the control characters that no XML document may hold."""
    return re.sub(r"[\x00-\x08\x0b\x0c\x0e-\x1f\ufffe\uffff]", "", text)


def shots_csv(design: Design, plan: Plan) -> str:
    """Every shot that is used, in metres from the site's origin, with its sitting and number."""
    shots = plan.site.known.shots
    names = [survey.name for survey in design.site.surveys]
    return csv_text(["east_m", "north_m", "level_m", "code", "sitting", "number"], (
        [*(f"{value:.4f}" for value in point), code, names[sitting], number]
        for point, code, sitting, number in zip(
            shots.points_m.tolist(), shots.codes, shots.sitting.tolist(), shots.number.tolist(),
            strict=True)
    ))
