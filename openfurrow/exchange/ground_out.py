"""The ground and what is there as open files: GeoJSON, LandXML, CSV."""

import json
import re
from typing import Any
from xml.etree.ElementTree import Element, SubElement, indent, tostring

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan
from openfurrow.core.site.features import FeatureGivens
from openfurrow.exchange.bounds import refuse
from openfurrow.exchange.csv_out import csv_text
from openfurrow.exchange.places import to_globe
from openfurrow.exchange.wanted import Length, Wanted, scale_for

Floats = NDArray[np.float64]

# Nine decimals of a degree are a tenth of a millimetre.
DEGREE_DECIMALS = 9
SHOTS = "shots"
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
    for place, level, code in zip(
        places(points[:, 0], points[:, 1]), points[:, 2].tolist(), codes, strict=True
    ):
        found.append(
            {
                "type": "Feature",
                "properties": {"kind": "shot", "layer": SHOTS, "code": code},
                "geometry": {"type": "Point", "coordinates": [*place, round(level, 5)]},
            }
        )
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
    said = {
        key: value
        for key, value in {
            "depth_m": feature.depth_m,
            "height_m": feature.height_m,
            "width_m": feature.width_m,
            "setback_m": feature.setback_m,
            "note": feature.note,
        }.items()
        if value not in (None, "")
    }
    facts = {"kind": feature.kind, "name": feature.name, "how_sure": feature.how_sure}
    return {
        "type": "Feature",
        "properties": facts | said,
        "geometry": {
            "type": {"area": "Polygon", "line": "LineString", "point": "Point"}[shape],
            "coordinates": coordinates,
        },
    }


def _anticlockwise(ring: Floats) -> bool:
    x, y = ring[:, 0] - ring[0, 0], ring[:, 1] - ring[0, 1]
    return bool(np.sum(x * np.roll(y, -1) - np.roll(x, -1) * y) > 0)


def surface_xml(design: Design, plan: Plan, wanted: Wanted) -> str:
    """The surface as LandXML 1.2: points (north, east, level) and faces. Raises DesignError."""
    surface = plan.site.known.surface
    if surface is None:
        raise refuse(
            "there is no surface to write",
            "shots that make one",
            "Shoot the ground first; an even slope has no points.",
        )
    scale = scale_for(design.site, wanted)
    east, north = scale.places(*surface.points_m[:, :2].T).T
    points = np.column_stack((east, north, scale.long(surface.points_m[:, 2]))).tolist()
    faces = surface.triangles.tolist()
    root = Element("LandXML", xmlns=LANDXML, version="1.2")
    _say_units(SubElement(root, "Units"), scale.length)
    if scale.grid:
        SubElement(root, "CoordinateSystem", epsgCode=str(scale.grid))
    named = SubElement(SubElement(root, "Surfaces"), "Surface", name=_xml_text(design.name))
    definition = SubElement(named, "Definition", surfType="TIN")
    at, between = SubElement(definition, "Pnts"), SubElement(definition, "Faces")
    for number, (east, north, level) in enumerate(points):
        SubElement(at, "P", id=str(number + 1)).text = f"{north:.5f} {east:.5f} {level:.5f}"
    for corners in faces:
        SubElement(between, "F").text = " ".join(str(corner + 1) for corner in corners)
    indent(root, "")
    return tostring(root, encoding="unicode", xml_declaration=True) + "\n"


LINEAR = {"m": "meter", "ft": "foot", "us_ft": "USSurveyFoot", "in": "inch"}


def _say_units(units: Element, length: Length) -> None:
    if length == "m":
        SubElement(
            units,
            "Metric",
            areaUnit="squareMeter",
            linearUnit="meter",
            volumeUnit="cubicMeter",
            temperatureUnit="celsius",
            pressureUnit="mmHG",
        )
    else:
        SubElement(
            units,
            "Imperial",
            areaUnit="squareFoot",
            linearUnit=LINEAR[length],
            volumeUnit="cubicFeet",
            temperatureUnit="fahrenheit",
            pressureUnit="inHG",
        )


def _xml_text(text: str) -> str:
    """Text without the control characters that no XML document may hold."""
    return re.sub(r"[\x00-\x08\x0b\x0c\x0e-\x1f\ufffe\uffff]", "", text)


def shots_csv(design: Design, plan: Plan, wanted: Wanted) -> str:
    """Every shot that is used, with its sitting and number, in the unit that the heads name."""
    shots = plan.site.known.shots
    scale = scale_for(design.site, wanted)
    names = [survey.name for survey in design.site.surveys]
    places, levels = scale.places(*shots.points_m[:, :2].T), scale.long(shots.points_m[:, 2])
    return csv_text(
        [
            f"east_{scale.length}",
            f"north_{scale.length}",
            f"level_{scale.length}",
            "code",
            "sitting",
            "number",
        ],
        (
            [*(f"{value:.4f}" for value in (*place, level)), code, names[sitting], number]
            for place, level, code, sitting, number in zip(
                places.tolist(),
                levels.tolist(),
                shots.codes,
                shots.sitting.tolist(),
                shots.number.tolist(),
                strict=True,
            )
        ),
    )
