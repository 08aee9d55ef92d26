"""Points, polylines and 3-D faces of a DXF drawing, layer by layer."""

import io
from collections.abc import Iterable

import numpy as np
from ezdxf import filemanagement
from ezdxf.entities.dxfentity import DXFEntity
from ezdxf.lldxf.const import DXFError
from ezdxf.math import Vec3

from openfurrow.core.quantities import FOOT_M
from openfurrow.exchange.ground_file import (
    MOST_POINTS,
    UNIT_M,
    GroundFile,
    ShapeRead,
    refuse,
    shape_of,
)

# $INSUNITS of a drawing.
DRAWING_UNITS = {1: UNIT_M["in"], 2: FOOT_M, 4: 0.001, 5: 0.01, 6: 1.0, 21: UNIT_M["us-ft"]}
READ = ("POINT", "LINE", "LWPOLYLINE", "POLYLINE", "3DFACE", "CIRCLE")


def read_dxf(data: bytes) -> GroundFile:
    """Every entity that has places; what is not read is named. Raises DesignError for a broken file."""
    try:
        text = data.decode("utf-8", errors="strict")
    except UnicodeDecodeError:
        # Drawings before 2007 are in a code page; layer names may suffer, places do not.
        text = data.decode("cp1252", errors="replace")
    try:
        drawing = filemanagement.read(io.StringIO(text))
    except (DXFError, ValueError, IndexError, KeyError, TypeError, AttributeError) as error:
        raise refuse(f"is not a DXF drawing that can be read: {str(error)[:120]}",
                     "an ASCII DXF, R12 or newer", "Export it again as ASCII DXF.") from None
    taken = _Taken()
    for entity in drawing.modelspace():
        taken.take(entity)
        if len(taken.points) > MOST_POINTS:
            raise refuse(f"holds more than {MOST_POINTS:,} points", f"at most {MOST_POINTS:,}",
                         "Thin it, or take fewer layers.")
    points = np.array(taken.points, dtype=float).reshape(-1, 3)
    faces = np.array(taken.faces, dtype=np.int64) if taken.faces else None
    finite = all(np.isfinite(s.points).all() and (s.levels is None or np.isfinite(s.levels).all())
                 for s in taken.shapes)
    if not (np.isfinite(points).all() and finite):
        raise refuse("holds a place that is not a number", "finite numbers", "Mend the drawing.")
    return GroundFile(
        "dxf", points, ("",) * len(points), tuple(taken.layers), faces=faces,
        shapes=tuple(taken.shapes), unit_m=DRAWING_UNITS.get(drawing.header.get("$INSUNITS", 0)),
        left_out=tuple(f"{count} {name}" for name, count in sorted(taken.left.items())),
    )


class _Taken:
    """What has been read so far; corners of faces become shots once, however many faces share them."""

    def __init__(self) -> None:
        self.points: list[tuple[float, float, float]] = []
        self.layers: list[str] = []
        self.faces: list[tuple[int, int, int]] = []
        self.shapes: list[ShapeRead] = []
        self.left: dict[str, int] = {}
        self._corner: dict[tuple[float, float, float], int] = {}

    def take(self, entity: DXFEntity) -> None:
        kind, layer = entity.dxftype(), str(entity.dxf.layer)[:80]
        match kind:
            case "POINT":
                self._point(entity.dxf.location, layer)
            case "3DFACE":
                self._face([entity.dxf.vtx0, entity.dxf.vtx1, entity.dxf.vtx2, entity.dxf.vtx3], layer)
            case "LINE":
                self._run([entity.dxf.start, entity.dxf.end], False, layer)
            case "LWPOLYLINE":
                at = entity.dxf.elevation
                self._run([Vec3(x, y, at) for x, y in entity.get_points("xy")],  # type: ignore[attr-defined]
                          bool(entity.closed), layer)  # type: ignore[attr-defined]
            case "POLYLINE" if not entity.is_poly_face_mesh and not entity.is_polygon_mesh:  # type: ignore[attr-defined]
                self._run([v.dxf.location for v in entity.vertices],  # type: ignore[attr-defined]
                          bool(entity.is_closed), layer)  # type: ignore[attr-defined]
            case "CIRCLE":
                self._run([entity.dxf.center], False, layer)
            case _:
                self.left[kind] = self.left.get(kind, 0) + 1

    def _point(self, at: Vec3, layer: str) -> int:
        self.points.append((at.x, at.y, at.z))
        self.layers.append(layer)
        return len(self.points) - 1

    def _face(self, corners: list[Vec3], layer: str) -> None:
        index = []
        for corner in corners:
            key = (round(corner.x, 6), round(corner.y, 6), round(corner.z, 6))
            if key not in self._corner:
                self._corner[key] = self._point(corner, layer)
            index.append(self._corner[key])
        a, b, c, d = index
        if len({a, b, c}) == 3:
            self.faces.append((a, b, c))
        if len({a, c, d}) == 3:
            self.faces.append((a, c, d))

    def _run(self, run: Iterable[Vec3], closed: bool, layer: str) -> None:
        places = np.array([(v.x, v.y, v.z) for v in run], dtype=float).reshape(-1, 3)
        if len(places) > 2 and np.allclose(places[0], places[-1]):
            places, closed = places[:-1], True
        if len(places):
            points, levels = places[:, :2], places[:, 2]
            # Drawn flat, a line says nothing of levels.
            self.shapes.append(ShapeRead(layer, "", shape_of(points, closed), points,
                                         levels if levels.any() else None))
