"""GPX tracks of a phone and LandXML surfaces. Entities are refused: no file grows while it is read."""

import math
import re
from collections.abc import Iterator
from xml.etree.ElementTree import Element, ParseError

import numpy as np
from defusedxml import DefusedXmlException
from defusedxml.ElementTree import XMLParser

from openfurrow.core.quantities import FOOT_M
from openfurrow.core.site.breaks import BREAK
from openfurrow.exchange.bounds import BoundedTree, refuse
from openfurrow.exchange.ground_file import MOST_POINTS, UNIT_M, GroundFile, ShapeRead

# How LandXML names its linear units.
LAND_UNITS = {
    "meter": 1.0,
    "foot": FOOT_M,
    "ussurveyfoot": UNIT_M["us-ft"],
    "internationalfoot": FOOT_M,
    "millimeter": 0.001,
    "inch": UNIT_M["in"],
}


def _root(data: bytes, name: str) -> Element:
    try:
        parser = XMLParser(target=BoundedTree(), forbid_dtd=True)
        parser.feed(data)
        root: Element = parser.close()
    except DefusedXmlException:
        raise refuse(
            "declares entities, which can grow without end",
            f"plain {name}",
            "Export it again without a document type.",
        ) from None
    except ParseError as error:
        raise refuse(f"is not well-formed XML: {error}", name, "Export it again.") from None
    except (LookupError, ValueError) as error:
        raise refuse(f"cannot be decoded: {error}", "UTF-8", "Save it again as UTF-8.") from None
    return root


def _local(element: Element) -> str:
    return element.tag.rsplit("}", 1)[-1]


def _all(root: Element, name: str) -> Iterator[Element]:
    return (element for element in root.iter() if _local(element) == name)


def _child(element: Element, name: str) -> Element | None:
    return next((child for child in element if _local(child) == name), None)


def _text(element: Element, name: str) -> str:
    found = _child(element, name)
    return (found.text or "").strip() if found is not None else ""


def read_gpx(data: bytes) -> GroundFile:
    """Waypoints and track points with a height are shots; tracks and routes are lines too."""
    root = _root(data, "GPX")
    if _local(root) != "gpx":
        raise refuse(f"is XML of another kind ({_local(root)})", "GPX", "Export the track as GPX.")
    points: list[tuple[float, float, float]] = []
    codes: list[str] = []
    layers: list[str] = []
    shapes: list[ShapeRead] = []
    without = 0

    def place(element: Element) -> tuple[float, float]:
        try:
            longitude, latitude = float(element.get("lon", "")), float(element.get("lat", ""))
        except ValueError:
            raise refuse(
                "holds a point without latitude and longitude",
                "lat and lon in degrees",
                "Export it again.",
            ) from None
        if not (abs(latitude) <= 90 and abs(longitude) <= 180):
            raise refuse(
                f"holds the place {latitude}, {longitude}",
                "latitude within 90, longitude within 180 degrees",
                "Export it again.",
            )
        return longitude, latitude

    def shot(element: Element, layer: str) -> None:
        nonlocal without
        height = _text(element, "ele")
        try:
            level = float(height)
        except ValueError:
            without += 1
            return
        if not np.isfinite(level):
            raise refuse("holds a height that is not a number", "metres", "Export it again.")
        points.append((*place(element), level))
        codes.append(_text(element, "name")[:40])
        layers.append(layer)

    for waypoint in _all(root, "wpt"):
        shot(waypoint, "waypoints")
    for kind, step in (("trkseg", "trkpt"), ("rte", "rtept")):
        for run in _all(root, kind):
            # Only its own: runs within runs would be read again for each they lie in.
            steps = [child for child in run if _local(child) == step]
            if len(steps) > 1:
                shapes.append(
                    ShapeRead("tracks", _text(run, "name"), "line", np.array([place(s) for s in steps]))
                )
            for element in steps:
                shot(element, "track points")
            if len(points) > MOST_POINTS:
                raise refuse(
                    f"holds more than {MOST_POINTS:,} points",
                    f"at most {MOST_POINTS:,}",
                    "Thin the track first.",
                )
    left = (f"{without} points without a height",) if without else ()
    return GroundFile(
        "gpx",
        np.array(points, dtype=float).reshape(-1, 3),
        tuple(codes),
        tuple(layers),
        shapes=tuple(shapes),
        grid=4326,
        unit_m=1.0,
        left_out=left,
    )


def read_landxml(data: bytes) -> GroundFile:
    """The first surface of the file: its points (north, east, level) and faces.

    Without faces its break lines become shots with a code of their own; faces keep to them already.
    """
    root = _root(data, "LandXML")
    if _local(root) != "LandXML":
        raise refuse(
            f"is XML of another kind ({_local(root)})", "LandXML", "Export the surface as LandXML."
        )
    surfaces = list(_all(root, "Surface"))
    if not surfaces:
        raise refuse("holds no surface", "a Surface with points and faces", "Export the surface.")
    number: dict[str, int] = {}
    points: list[tuple[float, float, float]] = []
    for point in _all(surfaces[0], "P"):
        parts = re.split(r"\s+", (point.text or "").strip())
        try:
            north, east, level = (float(part) for part in parts[:3])
        except ValueError:
            raise refuse(
                f"point {point.get('id', len(points) + 1)} is not three numbers",
                "north, east, level",
                "Export it again.",
            ) from None
        number[point.get("id", str(len(points) + 1))] = len(points)
        points.append((east, north, level))
    if len(points) > MOST_POINTS:
        raise refuse(
            f"holds more than {MOST_POINTS:,} points",
            f"at most {MOST_POINTS:,}",
            "Thin the surface first.",
        )
    faces: list[list[int]] = []
    for face in _all(surfaces[0], "F"):
        # Faces marked invisible are holes.
        if face.get("i") == "1":
            continue
        names = (face.text or "").split()
        if len(names) < 3 or any(name not in number for name in names[:3]):
            raise refuse(
                f"face {len(faces) + 1} names a point that is not there",
                "three point ids",
                "Export it again.",
            )
        faces.append([number[name] for name in names[:3]])
    codes = [""] * len(points)
    for index, line in enumerate([] if faces else _all(surfaces[0], "Breakline")):
        run = _run_of(line, index)
        points += run
        codes += [f"{BREAK} {line.get('name', index + 1)}"[:40]] * len(run)
    left = [f"{len(surfaces) - 1} more surfaces"] if len(surfaces) > 1 else []
    return GroundFile(
        "landxml",
        np.array(points, dtype=float).reshape(-1, 3),
        tuple(codes),
        (surfaces[0].get("name", "surface"),) * len(points),
        faces=np.array(faces, dtype=np.int64) if faces else None,
        unit_m=_land_unit(root),
        left_out=tuple(left),
    )


def _run_of(line: Element, index: int) -> list[tuple[float, float, float]]:
    """East, north and level along one break line (north, east, level in the file)."""
    words = _text(line, "PntList3D").split()
    try:
        values = [float(word) for word in words]
    except ValueError:
        values = [math.nan]
    if len(values) % 3 or not all(map(math.isfinite, values)):
        raise refuse(
            f"break line {index + 1} is not a run of points",
            "north, east, level of each",
            "Export it again.",
        )
    return list(zip(values[1::3], values[0::3], values[2::3], strict=True))


def _land_unit(root: Element) -> float:
    for units in _all(root, "Units"):
        for system in units:
            name = (system.get("linearUnit") or "").lower()
            if name:
                if name not in LAND_UNITS:
                    raise refuse(f"is in {name}", ", ".join(LAND_UNITS), "Export it in metres.")
                return LAND_UNITS[name]
    return 1.0
