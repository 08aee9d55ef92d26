"""The order in which a frame is put together: what goes on before what closes an end, and how many."""

import math
from dataclasses import dataclass

import numpy as np

from openfurrow.core.codes import table
from openfurrow.core.frame.plan import FramePlan
from openfurrow.core.quantities import spoken
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.structures.told import FamilyName

SHORT: dict[FamilyName, str] = {
    "one post line": "one_line",
    "two post lines": "two_lines",
    "pipe grid": "grid",
    "ballast frame": "ballast",
    "table on blocks": "blocks",
    "single pole": "pole",
    "turning tube": "tube",
}


# A pole that follows the sun is put together otherwise than one that is clamped.
MOVER = "mover"
TURNED = "; every other line begins at the other end of the row"


@dataclass(frozen=True)
class Step:
    """What is done, what it takes of what (title and count), and what is to be minded."""

    key: str
    do: str
    takes: tuple[tuple[str, int], ...]
    mind: str


def _counts(structure: StructurePlan, frame: FramePlan) -> dict[str, tuple[str, int]]:
    """Everything that is put together, by its key: what it is called and how many there are."""
    members = structure.members
    stock = members.stock
    pieces = sum(len(cut.pieces.lengths_m) * cut.lines for cut in frame.cuts)
    found = {piece.key: (piece.title, piece.lengths_m.size) for piece in members.pieces}
    found |= {one.key: (one.title, one.count) for one in members.fixings}
    found["purlin"] = (stock.cut, pieces)
    found["pad"] = ("pad", frame.pads)
    found["cloth_pin"] = ("Pin for cloth", 0 if frame.below is None else frame.below.pins)
    found["splice"] = (stock.splice, frame.splices * stock.parts)
    return found


def steps_of(rows: RowsPlan, structure: StructurePlan, frame: FramePlan) -> tuple[Step, ...]:
    """The steps of the family that stands there, one after the other.

    A step all of whose takes there are none of is left out.
    """
    family = MOVER if frame.mover is not None else SHORT[structure.posts.givens.family]
    counts, texts = _counts(structure, frame), table("common", "assembly").texts
    filled = {
        "tilt": " or ".join(spoken(one.tilt_deg, "angle") for one in rows.positions),
        "square": spoken(square_m(structure), "run"),
        "torque": _torque(frame),
        "turned": TURNED if any(cut.turned for cut in frame.cuts) else "",
    } | _limits(frame)
    found = []
    left_out, besides = _by_axes(frame)
    for row, key in enumerate(texts["key"]):
        families, takes = texts["families"][row].split(), texts["takes"][row].split()
        of_family = family in families or families == ["all"] or key in besides
        if not of_family or key in left_out:
            continue
        some = tuple(counts[name] for name in takes if name in counts and counts[name][1])
        if takes and not some:
            continue
        found.append(
            Step(key, texts["do"][row].format(**filled), some, texts["mind"][row].format(**filled))
        )
    return tuple(found)


def _by_axes(frame: FramePlan) -> tuple[frozenset[str], frozenset[str]]:
    """Steps that a mover about one axis alone leaves out, and those of a clamped pole that it has."""
    mover = frame.mover
    if mover is None or mover.tilts:
        return frozenset(), frozenset()
    return frozenset({"limits", "lies_down"}), frozenset({"tilted_pole"})


def _limits(frame: FramePlan) -> dict[str, str]:
    """Where switches stop a mover: how long its actuator is then, or how far a tube is turned."""
    if frame.tube is not None:
        switches = next(one for one in frame.answers if one.key == "tube_switches")
        return {"switch": spoken(float(switches.working.value), "angle")}
    if frame.mover is None:
        return {}
    low, high = (spoken(float(frame.mover.lengths_m[at]), "tape") for at in (0, -1))
    return {"flat": low, "steep": high}


def square_m(structure: StructurePlan) -> float:
    """From outer corner to outer corner of the most usual table: of purlins, or of rails on pipes."""
    beam, line = structure.members.beam, structure.posts.line
    if beam is not None and structure.members.stock.under_rails and line.rails_m is not None:
        return math.hypot(float(np.ptp(line.rails_m)), beam.length_m)
    return math.hypot(line.purlin_m, float(np.ptp(structure.members.places_m)))


def _torque(frame: FramePlan) -> str:
    """As the bolts of this frame are tightened; where a clamp is rated its own sheet says."""
    own = next((answer for answer in frame.answers if answer.key == "bolt_torque"), None)
    if own is None:
        return "As the sheets of heads, clamps and saddles say"
    tight = spoken(float(own.working.value), "torque")
    return f"{own.label} {tight}; clamps and saddles by their own sheets"
