"""Points, polylines and 3-D faces of a DXF drawing, layer by layer.

An ASCII DXF is pairs of lines, a group code and its value; entities begin at code 0. The pairs are read
as two columns and places taken out of them by column, since a drawing of a survey is a hundred thousand
points that need no object each. Group codes: the DXF reference, "Entities section".
"""

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.edits import DesignError
from openfurrow.core.quantities import FOOT_M
from openfurrow.exchange.bounds import refuse
from openfurrow.exchange.ground_file import MOST_POINTS, UNIT_M, GroundFile, ShapeRead, shape_of

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]
Words = NDArray[np.object_]

# $INSUNITS of a drawing.
DRAWING_UNITS = {1: UNIT_M["in"], 2: FOOT_M, 4: 0.001, 5: 0.01, 6: 1.0, 21: UNIT_M["us-ft"]}
TYPE, LAYER, FLAGS, ELEVATION, ON_PAPER, NAME = 0, 8, 70, 38, 67, 2
CLOSED, MESHES = 1, 16 | 64
MOST_RUNS = 20_000


def _broken(why: str) -> DesignError:
    return refuse(
        f"is not a DXF drawing that can be read: {why[:120]}",
        "an ASCII DXF, R12 or newer",
        "Export it again as ASCII DXF.",
    )


def _pairs(data: bytes) -> tuple[Integers, Words]:
    """Group codes (n,) and their values (n,) as text."""
    if data.startswith(b"AutoCAD Binary DXF"):
        raise _broken("it is a binary DXF")
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        # Drawings before 2007 are in a code page; layer names may suffer, places do not.
        text = data.decode("cp1252", errors="replace")
    lines = text.replace("\x00", "").split("\n")
    count = len(lines) // 2
    try:
        codes = np.array(lines[: 2 * count : 2], dtype=np.int64)
    except ValueError:
        wrong = next(k for k, line in enumerate(lines[: 2 * count : 2]) if not _is_code(line))
        raise _broken(f"line {2 * wrong + 1} is not a group code") from None
    values = np.array(lines[1 : 2 * count : 2], dtype=object)
    return codes, values


def _is_code(line: str) -> bool:
    try:
        int(line)
    except ValueError:
        return False
    return True


class _Drawing:
    """The pairs of a drawing's entities, with where each entity begins and ends."""

    def __init__(self, codes: Integers, values: Words) -> None:
        self.codes, self.values = codes, values
        self.begins = np.flatnonzero(codes == TYPE)
        if not len(self.begins):
            raise _broken("it holds no entity")
        self.ends = np.append(self.begins[1:], len(codes))
        self.types = np.array([word.strip() for word in values[self.begins]])
        # Which entity each pair belongs to; what stands before the first belongs to it.
        self.of = np.maximum(np.cumsum(codes == TYPE) - 1, 0)

    def first(self, code: int, which: Integers, absent: str) -> list[str]:
        """The first value of a code in each entity (k,)."""
        at = np.flatnonzero(self.codes == code)
        owners, first = np.unique(self.of[at], return_index=True)
        found = dict(zip(owners.tolist(), self.values[at[first]].tolist(), strict=True))
        return [found.get(entity, absent).strip() for entity in which.tolist()]

    def numbers(self, code: int, which: Integers, absent: float) -> Floats:
        """The same as numbers; ``absent`` where an entity has none. Raises DesignError."""
        words = self.first(code, which, "")
        try:
            return np.array([float(word) if word else absent for word in words], dtype=float)
        except ValueError:
            raise _broken(f"group {code} holds what is not a number") from None

    def every(self, code: int, entity: int) -> Floats:
        """All values of a code in one entity, in order; only its own pairs are looked at."""
        part = slice(self.begins[entity], self.ends[entity])
        words = self.values[part][self.codes[part] == code]
        try:
            return np.array(words, dtype=float)
        except ValueError:
            raise _broken(f"group {code} holds what is not a number") from None

    def places(self, which: Integers, corner: int = 0) -> Floats:
        """Places (k, 3) of a corner of entities: codes 10, 20, 30, then 11, 21, 31 and so on."""
        levels = self.numbers(30 + corner, which, 0.0)
        return np.column_stack(
            (self.numbers(10 + corner, which, np.nan), self.numbers(20 + corner, which, np.nan), levels)
        )

    def sections(self) -> dict[str, tuple[int, int]]:
        """First and last entity of each section by its name."""
        starts = np.flatnonzero(self.types == "SECTION")
        stops = np.flatnonzero(self.types == "ENDSEC")
        found = {}
        for start, name in zip(starts.tolist(), self.first(NAME, starts, ""), strict=True):
            after = stops[stops > start]
            found[name] = (start + 1, int(after[0]) if len(after) else len(self.types))
        return found


def _unit_m(codes: Integers, values: Words) -> float | None:
    """The drawing's unit by $INSUNITS; None where it says none."""
    at = np.flatnonzero((codes[:-1] == 9) & (codes[1:] == FLAGS))
    named = next((k for k in at.tolist() if values[k].strip() == "$INSUNITS"), None)
    if named is None:
        return None
    word = values[named + 1].strip()
    return DRAWING_UNITS.get(int(word)) if _is_code(word) else None


def read_dxf(data: bytes) -> GroundFile:
    """Every entity that has places; what is not read is named. Raises DesignError for a broken file."""
    codes, values = _pairs(data)
    if not len(codes):
        raise _broken("it is empty")
    drawing = _Drawing(codes, values)
    if "ENTITIES" not in drawing.sections():
        raise _broken("it has no ENTITIES section")
    first, last = drawing.sections()["ENTITIES"]
    here = np.arange(first, last)
    # What lies on a sheet of paper is not on the ground.
    here = here[drawing.numbers(ON_PAPER, here, 0.0) == 0]
    taken = _Taken(drawing, here)
    points = np.vstack(taken.points) if taken.points else np.empty((0, 3))
    if len(points) > MOST_POINTS:
        raise refuse(
            f"holds more than {MOST_POINTS:,} points",
            f"at most {MOST_POINTS:,}",
            "Thin it, or take fewer layers.",
        )
    finite = all(
        np.isfinite(s.points).all() and (s.levels is None or np.isfinite(s.levels).all())
        for s in taken.shapes
    )
    if not (np.isfinite(points).all() and finite):
        raise refuse("holds a place that is not a number", "finite numbers", "Mend the drawing.")
    return GroundFile(
        "dxf",
        points,
        ("",) * len(points),
        tuple(taken.layers),
        faces=taken.faces,
        shapes=tuple(taken.shapes),
        unit_m=_unit_m(codes, values),
        left_out=tuple(f"{count} {name}" for name, count in sorted(taken.left.items())),
    )


class _Taken:
    """What is read of the entities ``here``: shots, triangles over them, runs of places."""

    def __init__(self, drawing: _Drawing, here: Integers) -> None:
        self.points: list[Floats] = []
        self.layers: list[str] = []
        self.faces: Integers | None = None
        self._met: list[tuple[int, ShapeRead]] = []
        self.left: dict[str, int] = {}
        self._drawing = drawing
        kinds = drawing.types[here]
        self._shots(here[kinds == "POINT"])
        self._triangles(here[kinds == "3DFACE"])
        self._lines(here[kinds == "LINE"], here[kinds == "CIRCLE"])
        runs = here[np.isin(kinds, ("LWPOLYLINE", "POLYLINE"))]
        if len(runs) > MOST_RUNS:
            raise refuse(
                f"holds {len(runs):,} polylines", f"at most {MOST_RUNS:,}", "Take fewer layers."
            )
        vertices = np.flatnonzero(drawing.types == "VERTEX")
        self._vertex = np.full((len(drawing.types) + 1, 3), np.nan)
        self._vertex[vertices] = drawing.places(vertices)
        self._is_vertex = drawing.types == "VERTEX"
        for entity, layer in zip(runs.tolist(), self._names(runs), strict=True):
            self._run(entity, layer)
        # In the order they stand in the drawing.
        self.shapes = [shape for _, shape in sorted(self._met, key=lambda met: met[0])]
        names, counts = np.unique(kinds, return_counts=True)
        read = {"POINT", "3DFACE", "LINE", "CIRCLE", "LWPOLYLINE", "POLYLINE", "VERTEX", "SEQEND"}
        for name, count in zip(names.tolist(), counts.tolist(), strict=True):
            if name not in read:
                self.left[name[:40]] = self.left.get(name[:40], 0) + count

    def _names(self, which: Integers) -> list[str]:
        return [name[:80] for name in self._drawing.first(LAYER, which, "0")]

    def _shots(self, which: Integers) -> None:
        self.points.append(self._drawing.places(which))
        self.layers += self._names(which)

    def _triangles(self, which: Integers) -> None:
        """Corners of faces become shots once, however many faces share them."""
        if not len(which):
            return
        corners = np.stack([self._drawing.places(which, corner) for corner in range(4)], axis=1)
        # A face of three corners names the third twice; an old one may leave the fourth out.
        corners[:, 3] = np.where(np.isnan(corners[:, 3]), corners[:, 2], corners[:, 3])
        flat = corners.reshape(-1, 3)
        _, first, index = np.unique(flat.round(6), axis=0, return_index=True, return_inverse=True)
        # In the order they are met, as a drawing's own points are.
        order = np.argsort(first)
        place = np.empty_like(order)
        place[order] = np.arange(len(order))
        names = self._names(which)
        before = len(self.layers)
        self.points.append(flat[first[order]])
        self.layers += [names[at // 4] for at in first[order].tolist()]
        quads = place[index.ravel()].reshape(-1, 4)
        halves = np.vstack([quads[:, [0, 1, 2]], quads[:, [0, 2, 3]]])
        whole = (
            (halves[:, 0] != halves[:, 1])
            & (halves[:, 1] != halves[:, 2])
            & (halves[:, 0] != halves[:, 2])
        )
        self.faces = before + halves[whole] if whole.any() else None

    def _lines(self, lines: Integers, circles: Integers) -> None:
        ends = np.stack([self._drawing.places(lines, corner) for corner in (0, 1)], axis=1)
        for entity, places, layer in zip(lines.tolist(), ends, self._names(lines), strict=True):
            self._add(entity, places, False, layer)
        middles = self._drawing.places(circles)
        for entity, place, layer in zip(circles.tolist(), middles, self._names(circles), strict=True):
            self._add(entity, place[None], False, layer)

    def _run(self, entity: int, layer: str) -> None:
        drawing = self._drawing
        flags = int(next(iter(drawing.every(FLAGS, entity)), 0))
        if drawing.types[entity] == "LWPOLYLINE":
            east, north = drawing.every(10, entity), drawing.every(20, entity)
            if len(east) != len(north):
                raise _broken("a polyline has places of one number")
            level = next(iter(drawing.every(ELEVATION, entity)), 0.0)
            places = np.column_stack((east, north, np.full(len(east), level)))
        else:
            end = entity + 1
            while end < len(self._is_vertex) and self._is_vertex[end]:
                end += 1
            if flags & MESHES:
                self.left["POLYLINE"] = self.left.get("POLYLINE", 0) + 1
                return
            places = self._vertex[entity + 1 : end]
        self._add(entity, places, bool(flags & CLOSED), layer)

    def _add(self, entity: int, places: Floats, closed: bool, layer: str) -> None:
        if len(places) > 2 and np.allclose(places[0], places[-1]):
            places, closed = places[:-1], True
        if len(places):
            points, levels = places[:, :2], places[:, 2]
            # Drawn flat, a line says nothing of levels.
            self._met.append(
                (
                    entity,
                    ShapeRead(
                        layer, "", shape_of(points, closed), points, levels if levels.any() else None
                    ),
                )
            )
