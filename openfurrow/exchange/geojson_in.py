"""Shots and shapes from GeoJSON (RFC 7946), in longitude and latitude."""

import json
from typing import Any, NoReturn

import numpy as np

from openfurrow.exchange.bounds import refuse
from openfurrow.exchange.ground_file import MOST_POINTS, GroundFile, ShapeRead


def _no_constant(name: str) -> NoReturn:
    raise ValueError(f"{name} is not a number a place can have")


def read_geojson(text: str) -> GroundFile:
    """Points with a height are shots, those without single places; lines and areas are shapes."""
    try:
        document = json.loads(text, parse_constant=_no_constant)
    except json.JSONDecodeError as error:
        raise refuse(
            f"is not JSON: line {error.lineno}, column {error.colno}: {error.msg}",
            "GeoJSON",
            "Export it again, or mend that line.",
        ) from None
    except (ValueError, RecursionError) as error:
        raise refuse(f"is not GeoJSON: {error}", "finite numbers", "Export it again.") from None
    features = _features(document)
    points: list[list[float]] = []
    codes: list[str] = []
    layers: list[str] = []
    shapes: list[ShapeRead] = []
    left: set[str] = set()
    for number, feature in enumerate(features):
        facts = feature.get("properties")
        facts = facts if isinstance(facts, dict) else {}
        kind = _said(facts.get("kind") or facts.get("layer") or "no layer", 80)
        name = _said(facts.get("name"), 80)
        try:
            for geometry in _parts(feature.get("geometry")):
                _take(geometry, kind, name, facts, points, codes, layers, shapes, left)
        except (TypeError, ValueError, KeyError, IndexError, AttributeError, OverflowError):
            raise refuse(
                f"feature {number + 1}: its coordinates are not places",
                "numbers for longitude and latitude",
                "Mend that feature.",
            ) from None
        if len(points) > MOST_POINTS:
            raise refuse(
                f"holds more than {MOST_POINTS:,} shots", f"at most {MOST_POINTS:,}", "Thin it first."
            )
    return GroundFile(
        "geojson",
        np.array(points, dtype=float).reshape(-1, 3),
        tuple(codes),
        tuple(layers),
        shapes=tuple(shapes),
        grid=4326,
        unit_m=1.0,
        left_out=tuple(sorted(left)),
    )


def _said(value: Any, longest: int) -> str:
    """A property as text of the file's own; what is not text is written as JSON would."""
    text = value if isinstance(value, str) else "" if value is None else json.dumps(value)[:longest]
    return text.replace("\x00", "").encode("utf-8", "replace").decode()[:longest]


def _features(document: Any) -> list[dict[str, Any]]:
    if isinstance(document, dict):
        if document.get("type") == "FeatureCollection" and isinstance(document.get("features"), list):
            return [f for f in document["features"] if isinstance(f, dict)]
        if document.get("type") == "Feature":
            return [document]
        if "coordinates" in document:
            return [{"geometry": document}]
    raise refuse("is JSON, but not GeoJSON", "a FeatureCollection", "Export it as GeoJSON.")


def _parts(geometry: Any) -> list[dict[str, Any]]:
    """A geometry, or those it is a collection of."""
    if not isinstance(geometry, dict):
        return []
    if geometry.get("type") == "GeometryCollection":
        return [part for part in geometry.get("geometries", []) if isinstance(part, dict)]
    single = {"MultiPoint": "Point", "MultiLineString": "LineString", "MultiPolygon": "Polygon"}
    kind = geometry.get("type")
    if kind in single:
        return [{"type": single[kind], "coordinates": c} for c in geometry.get("coordinates", [])]
    return [geometry]


def _take(
    geometry: dict[str, Any],
    kind: str,
    name: str,
    facts: dict[str, Any],
    points: list[list[float]],
    codes: list[str],
    layers: list[str],
    shapes: list[ShapeRead],
    left: set[str],
) -> None:
    coordinates = geometry["coordinates"]
    match geometry.get("type"):
        case "Point":
            place = [float(part) for part in coordinates[:3]]
            if len(place) < 2:
                raise ValueError("a place has two numbers at least")
            if len(place) == 3:
                points.append(place)
                codes.append(_said(facts.get("code"), 40))
                layers.append(kind)
            else:
                shapes.append(ShapeRead(kind, name, "point", np.array([place])))
        case "LineString":
            line = np.array([[float(p[0]), float(p[1])] for p in coordinates])
            levels = [float(p[2]) for p in coordinates if len(p) > 2]
            shapes.append(
                ShapeRead(
                    kind, name, "line", line, np.array(levels) if len(levels) == len(line) else None
                )
            )
        case "Polygon":
            ring = np.array([[float(p[0]), float(p[1])] for p in coordinates[0]])
            if len(coordinates) > 1:
                left.add("holes in areas")
            closed = np.allclose(ring[0], ring[-1])
            shapes.append(ShapeRead(kind, name, "area", ring[:-1] if closed else ring))
        case other:
            left.add(_said(other, 40))
