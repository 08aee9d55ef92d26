"""Bringing a file's ground into a design: which format it is, what it becomes, what is left out."""

import re
import uuid
from dataclasses import dataclass, replace
from typing import get_args

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.design import Design
from openfurrow.core.edits import validated
from openfurrow.core.givens import LONGEST_ID
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.core.site.breaks import BREAK
from openfurrow.core.site.features import MOST_POINTS as MOST_CORNERS
from openfurrow.core.site.features import POINTS_NEEDED, Kind, facts_of
from openfurrow.core.site.survey import MOST_READINGS
from openfurrow.exchange.bounds import MOST_LINES, MOST_TABLE_LINES, check_elements, check_lines, refuse
from openfurrow.exchange.dxf_in import read_dxf
from openfurrow.exchange.geojson_in import read_geojson
from openfurrow.exchange.ground_file import (
    LARGEST_BYTES,
    Format,
    GroundFile,
    HowToRead,
    ShapeRead,
    placed,
    simple_area,
    thinned,
    with_place,
)
from openfurrow.exchange.survey_text import read_survey_text
from openfurrow.exchange.xml_in import read_gpx, read_landxml

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]
Truths = NDArray[np.bool_]

KINDS: tuple[Kind, ...] = get_args(Kind)
SHOTS, NOTHING, BREAK_LINE = "shots", "nothing", f"{BREAK} line"
# Words of a kind that say too little of what a layer is, and what else layers are usually called.
VAGUE = frozenset({"line", "ground", "point", "buried", "known", "old", "or", "path"})
SAME_AS = {
    "property": "boundary",
    "parcel": "boundary",
    "lot": "boundary",
    "house": "building",
    "shed": "building",
    "street": "road",
    "driveway": "road",
    "pond": "water",
    "river": "water",
    "electric": "power",
    "phone": "telecom",
    "fiber": "telecom",
    "fibre": "telecom",
    "sewer": "drain",
    "storm": "drain",
    "sprinkler": "irrigation",
}


def format_of(data: bytes, name: str) -> Format:
    """Which format a file is, by its first bytes, and by its name where they do not tell."""
    head = data[:4000].lstrip(b"\xef\xbb\xbf \t\r\n")
    lowered = name.lower()
    if head.startswith(b"<"):
        return "gpx" if b"<gpx" in data[:4000].lower() or lowered.endswith(".gpx") else "landxml"
    if head.startswith((b"{", b"[")):
        return "geojson"
    if lowered.endswith(".dxf") or (head.startswith((b"0", b"999")) and b"SECTION" in data[:4000]):
        return "dxf"
    return "csv"


def check_size(data: bytes, how: HowToRead) -> Format:
    """A file's format, if it is no larger than what is read; costs next to nothing.

    Raises DesignError for too many bytes, lines, letters in a line or elements.
    """
    if len(data) > LARGEST_BYTES:
        raise refuse(
            f"is {len(data):,} bytes",
            f"at most {LARGEST_BYTES:,} bytes",
            "Thin it: a shot every metre or two says as much of the ground.",
        )
    found = how.format or format_of(data, how.name)
    if found in ("csv", "dxf"):
        check_lines(data, MOST_LINES if found == "dxf" else MOST_TABLE_LINES)
    elif found in ("gpx", "landxml"):
        check_elements(data)
    return found


def read_file(data: bytes, how: HowToRead, units: UnitSystem) -> GroundFile:
    """A file as it is, not yet placed. Raises DesignError saying what is wrong and what to do."""
    found = check_size(data, how)
    if found == "dxf":
        return read_dxf(data)
    if found == "gpx":
        return read_gpx(data)
    if found == "landxml":
        return read_landxml(data)
    text, words = decoded(data)
    if found == "geojson":
        return replace(read_geojson(text), notes=words)
    return replace(read_survey_text(text, how, units), notes=words)


def decoded(data: bytes) -> tuple[str, tuple[str, ...]]:
    """A file's text, and what was assumed about its letters."""
    words: tuple[str, ...] = ()
    if data.startswith((b"\xff\xfe", b"\xfe\xff")):
        text = data.decode("utf-16", "replace")
    else:
        try:
            text = data.decode("utf-8-sig")
        except UnicodeDecodeError:
            text = data.decode("cp1252", "replace")
            words = ("its letters are read as Windows-1252: see whether the codes look right",)
    if "\x00" in text or "\ufffd" in text:
        raise refuse(
            "is not a text file",
            "UTF-8, UTF-16 or Windows-1252 text",
            "Check that this is the right file.",
        )
    return text, words


def new_id() -> str:
    """An id for a thing that a file brings; nothing else of any job has it."""
    return uuid.uuid4().hex[:LONGEST_ID]


def guess(layer: str, shape: str) -> str:
    """What a layer of shapes most likely is: the kind of that shape most of whose words it bears."""
    said = re.split(r"[^a-z]+", layer.lower())
    words = {*said, *(word.removesuffix("s") for word in said)}
    words |= {SAME_AS[word] for word in words & SAME_AS.keys()}

    def borne(kind: Kind) -> int:
        if kind.split() == said:
            return len(words) + 1
        return len(words & (set(kind.split()) - VAGUE))

    fitting = [kind for kind in KINDS if facts_of(kind).shape == shape]
    best = max(fitting, key=borne, default=None)
    return best if best and borne(best) else NOTHING


@dataclass(frozen=True)
class LayerRead:
    """A layer of a file: what it holds, and what it becomes unless somebody says otherwise.

    ``bends``: its lines have levels, so that the ground may bend along them.
    """

    name: str
    shots: int
    shapes: int
    shape: str
    becomes: str
    bends: bool = False


def layers_of(file: GroundFile, how: HowToRead) -> tuple[LayerRead, ...]:
    """Layers by name, shots first."""
    found = []
    layers = file.layers or (SHOTS,) * len(file.points)
    for name in dict.fromkeys(layers):
        becomes = how.layers.get(name, SHOTS)
        found.append(LayerRead(name, layers.count(name), 0, "shot", becomes))
    for name in dict.fromkeys(shape.layer for shape in file.shapes):
        these = [shape for shape in file.shapes if shape.layer == name]
        kinds = {shape.shape for shape in these}
        shape = these[0].shape if len(kinds) == 1 else "mixed"
        bends = shape == "line" and all(one.levels is not None for one in these)
        # A file's own triangles keep to its break lines already.
        is_break = bends and BREAK in name.lower() and file.faces is None
        usual = BREAK_LINE if is_break else guess(name, these[0].shape)
        found.append(LayerRead(name, 0, len(these), shape, how.layers.get(name, usual), bends))
    return tuple(found)


@dataclass(frozen=True)
class Taking:
    """What would be taken of a file, and in words what not."""

    survey: dict[str, object] | None
    features: tuple[dict[str, object], ...]
    notes: tuple[str, ...]


def taking(file: GroundFile, how: HowToRead, units: UnitSystem) -> Taking:
    """Shots and features in local metres from a placed file."""
    becomes = {layer.name: layer.becomes for layer in layers_of(file, how)}
    notes = [*file.notes, *([f"not read: {', '.join(file.left_out)}"] if file.left_out else [])]
    layers = file.layers or (SHOTS,) * len(file.points)
    wanted = np.array([becomes[name] == SHOTS for name in layers], dtype=bool)
    bends, bend_codes = _bends([s for s in file.shapes if becomes[s.layer] == BREAK_LINE])
    survey = None
    if wanted.any() or len(bends):
        points = file.points[wanted]
        kept, off = thinned(points, MOST_READINGS - len(bends))
        if len(kept) < len(points):
            notes.append(
                f"thinned from {len(points):,} to {len(kept):,} shots; one left out lies up to "
                f"{format_value(off, 'tape', units)} off the one kept for it"
            )
        every = file.codes or ("",) * len(wanted)
        codes = [code for code, use in zip(every, wanted, strict=True) if use]
        whole = len(kept) == len(points) and not len(bends)
        faces = _faces_of(file, wanted) if whole else None
        if file.faces is not None and faces is None:
            notes.append("its own triangles are not used: the shots are triangulated anew")
        survey = {
            "id": new_id(),
            "name": how.name.strip() or f"{file.format} file",
            "way": "levels",
            "readings": [
                (*place, code)
                for place, code in zip(
                    np.round(np.vstack((points[kept], bends)), 5).tolist(),
                    (*(codes[k] for k in kept.tolist()), *bend_codes),
                    strict=True,
                )
            ],
            "faces": [] if faces is None else faces.tolist(),
        }
    features = []
    for shape in file.shapes:
        kind = becomes[shape.layer]
        if kind in (SHOTS, NOTHING, BREAK_LINE):
            continue
        features.append(_feature(shape, kind))
    return Taking(survey, tuple(features), tuple(notes))


def _bends(lines: list[ShapeRead]) -> tuple[Floats, list[str]]:
    """Shots along break lines (n, 3), each line with a code of its own."""
    points, codes = [np.empty((0, 3))], []
    for number, line in enumerate(lines):
        if line.levels is None:
            raise refuse(
                f"a line on layer {line.layer} has no levels",
                "east, north and level of each point",
                "Choose another kind for that layer.",
            )
        points.append(np.column_stack((line.points[:, :2], line.levels)))
        codes += [f"{BREAK} {number + 1} {line.name or line.layer}"[:40]] * len(line.points)
    if len(codes) > MOST_READINGS // 2:
        raise refuse(
            f"has {len(codes):,} points on break lines",
            f"at most {MOST_READINGS // 2:,}",
            "Simplify them first.",
        )
    return np.vstack(points), codes


def _faces_of(file: GroundFile, wanted: Truths) -> Integers | None:
    """The file's own triangles over the shots that are taken, where each of these is on one."""
    if file.faces is None:
        return None
    faces = file.faces[wanted[file.faces].all(axis=1)]
    used = np.zeros(len(wanted), dtype=bool)
    used[faces] = True
    if not len(faces) or (wanted & ~used).any():
        return None
    return np.asarray((np.cumsum(wanted) - 1)[faces])


def _feature(shape: ShapeRead, kind: str) -> dict[str, object]:
    if kind not in KINDS:
        raise refuse(
            f"layer {shape.layer} cannot become {kind}",
            f"{SHOTS}, {NOTHING}, {BREAK_LINE} or a kind of feature",
            "Choose again.",
        )
    wanted = facts_of(kind).shape
    points = shape.points
    if len(points) < POINTS_NEEDED[wanted]:
        raise refuse(
            f"a {shape.shape} on layer {shape.layer} is too short for {kind}",
            f"{POINTS_NEEDED[wanted]} points",
            "Choose another kind for that layer.",
        )
    if len(points) > MOST_CORNERS:
        raise refuse(
            f"a {shape.shape} on layer {shape.layer} has {len(points):,} points",
            f"at most {MOST_CORNERS}",
            "Simplify it first.",
        )
    if wanted == "area" and not simple_area(points):
        raise refuse(
            f"an area on layer {shape.layer} crosses itself",
            "sides that do not cross",
            "Mend it where it was drawn.",
        )
    if wanted == "point":
        points = points[:1]
    return {
        "id": new_id(),
        "kind": kind,
        "name": shape.name or ("" if shape.layer == "no layer" else shape.layer)[:80],
        "points": np.round(points[:, :2], 5).tolist(),
        "how_sure": "from a plan",
    }


def with_ground(design: Design, taken: Taking, instead: bool, units: UnitSystem) -> Design:
    """The design with what was taken added, or in place of what was there. All of it or none."""
    if taken.survey is None and not taken.features:
        raise refuse("nothing of it was chosen", "a layer at least", "Say what its layers are.")
    data = design.model_dump(mode="json")
    site = data["site"]
    if taken.survey is not None:
        site["surveys"] = [*([] if instead else site["surveys"]), taken.survey]
        site["ground"] = "survey"
    if taken.features:
        site["features"] = [*([] if instead else site["features"]), *taken.features]
    return validated(data, units)


def read_into(design: Design, data: bytes, how: HowToRead, units: UnitSystem) -> tuple[Design, Taking]:
    """Read a file and put it into a design."""
    file = read_file(data, how, units)
    site = with_place(file, how, design.site)
    taken = taking(placed(file, how, site), how, units)
    return with_ground(design.model_copy(update={"site": site}), taken, how.replace, units), taken
