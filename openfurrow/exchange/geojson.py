"""The plan as GeoJSON (RFC 7946): tables, posts and trench in longitude and latitude."""

import json
from typing import Any

import numpy as np
from numpy.typing import NDArray
from pyproj import Transformer

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan
from openfurrow.core.structures.supports import support_id
from openfurrow.exchange.places import to_globe

Floats = NDArray[np.float64]


def _places(globe: Transformer, east: Floats, north: Floats) -> list[list[float]]:
    longitude, latitude = globe.transform(east, north)
    return np.round(np.column_stack((longitude, latitude)), 8).tolist()  # type: ignore[no-any-return]


def _feature(geometry: str, coordinates: object, **properties: object) -> dict[str, Any]:
    return {
        "type": "Feature",
        "geometry": {"type": geometry, "coordinates": coordinates},
        "properties": properties,
    }


def plan_geojson(design: Design, plan: Plan) -> str:
    """Every table (polygon), post (point) and the trench (line) with what a map would show."""
    globe = to_globe(design.site)
    features = [feature for one in plan.each() for feature in _array(globe, one)]
    trench = plan.trench
    for piece in trench.dug:
        line = piece.stretch.line
        named = {"way": piece.stretch.name} if plan.several else {}
        features.append(
            _feature(
                "LineString",
                _places(globe, line.east_m, line.north_m),
                kind="trench",
                depth_m=round(trench.depth_m, 3),
                length_m=round(line.ground_length_m, 3),
                **named,
            )
        )
    return json.dumps({"type": "FeatureCollection", "name": design.name, "features": features})


def _array(globe: Transformer, plan: Plan) -> list[dict[str, Any]]:
    """Tables and posts of the array that is open; where there are several each says whose it is."""
    rows, section, stakes = plan.rows, plan.rows.section, plan.setting_out.stakes
    whose = {"array": plan.array.name} if plan.several else {}
    features = []
    tables = rows.tables
    for index, corners in enumerate(tables.corners):
        outline = _places(globe, *np.vstack((corners, corners[:1])).T)
        if _clockwise(outline):
            outline.reverse()
        features.append(
            _feature(
                "Polygon",
                [outline],
                kind="table",
                row=rows.stands.place_of(index)[0],
                table=rows.stands.place_of(index)[1],
                modules=rows.modules_high * int(tables.columns[index]),
                tilt_deg=section.tilt_deg,
                facing_deg=(rows.facing_deg + float(tables.turn_deg[index])) % 360.0,
                **whose,
            )
        )
    posts = _places(globe, stakes.places.east_m, stakes.places.north_m)
    for index, place in enumerate(posts):
        features.append(
            _feature(
                "Point",
                place,
                kind="post",
                post=index + 1,
                row=rows.stands.place_of(int(stakes.places.of_table[index]))[0],
                support=support_id(rows, stakes.places, index),
                embedment_m=round(float(stakes.depth_m[index]), 3),
                length_m=round(float(stakes.length_m[index]), 3),
                **whose,
            )
        )
    return features


def _clockwise(ring: list[list[float]]) -> bool:
    points = np.array(ring)
    x, y = points[:, 0] - points[0, 0], points[:, 1] - points[0, 1]
    return bool(np.sum(x[:-1] * y[1:] - x[1:] * y[:-1]) < 0)
