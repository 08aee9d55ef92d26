"""A post's top that is off its line: which hole, slot, shim, cut or blow puts the frame level again."""

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from openfurrow.core.codes import constant
from openfurrow.core.frame.givens import FrameGivens
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.one_post_line.members import struts_m, tilts_on_struts_deg
from openfurrow.core.structures.plan import StructurePlan

WayName = Literal[
    "leave it",
    "another hole",
    "inside the slot",
    "another hole, then the slot",
    "a shim",
    "drive it on",
    "turn it",
    "cut it",
]


@dataclass(frozen=True, kw_only=True)
class Head:
    """What a post's head takes up: holes ``step_m`` apart, so many each way, and a slot.

    ``on_top``: the frame lies on the head, so that a shim may go between; else it turns on a bolt.
    """

    step_m: float
    each_way: int
    slot_m: float
    on_top: bool


@dataclass(frozen=True, kw_only=True)
class Way:
    """One way: the head moves ``by_m`` on its post or with it, down is positive; ``left_m`` is left.

    ``holes`` are counted down. ``with_post``: the post itself moves or is cut, and its holes with it.
    """

    name: WayName
    by_m: float
    left_m: float
    holes: int = 0
    with_post: bool = False


def head_of(structure: StructureGivens, frame: FrameGivens) -> Head:
    """What a family's heads take up: one of a pole is clamped where it is, and takes up nothing."""
    if structure.family == "single pole":
        return Head(step_m=0.0, each_way=0, slot_m=0.0, on_top=False)
    return Head(
        step_m=frame.hole_step_m,
        each_way=frame.holes_each_way,
        slot_m=frame.slot_m,
        on_top=structure.family != "one post line",
    )


def ways_to_level(off_m: float, head: Head, *, driven: bool, turned: bool) -> tuple[Way, ...]:
    """Every way for a top ``off_m`` above its line, below where negative; the least work first."""
    found = [Way(name="leave it", by_m=0.0, left_m=off_m)]
    holes = _nearest_hole(off_m, head)
    after = off_m - holes * head.step_m
    if head.step_m and head.each_way:
        found.append(Way(name="another hole", by_m=holes * head.step_m, left_m=after, holes=holes))
    if head.slot_m:
        found.append(_slotted("inside the slot", off_m, 0, head))
        if holes:
            found.append(_slotted("another hole, then the slot", off_m, holes, head))
    if off_m < 0 and head.on_top and -off_m <= constant("common", "shim_most_m").value:
        found.append(Way(name="a shim", by_m=off_m, left_m=0.0))
    if turned:
        found.append(Way(name="turn it", by_m=off_m, left_m=0.0, with_post=True))
    if off_m > 0 and driven:
        found.append(Way(name="drive it on", by_m=off_m, left_m=0.0, with_post=True))
    if off_m > 0:
        found.append(Way(name="cut it", by_m=off_m, left_m=0.0, with_post=True))
    return tuple(found)


def _nearest_hole(off_m: float, head: Head) -> int:
    """How many holes further down; up where negative."""
    if not head.step_m:
        return 0
    return max(-head.each_way, min(head.each_way, round(off_m / head.step_m)))


def _slotted(name: WayName, off_m: float, holes: int, head: Head) -> Way:
    """What a slot takes up, half of it each way from its middle, after the holes."""
    off = off_m - holes * head.step_m
    taken = max(-head.slot_m / 2, min(head.slot_m / 2, off))
    return Way(name=name, by_m=holes * head.step_m + taken, left_m=off - taken, holes=holes)


def strut_m(drop_m: float, reach_m: float, tilt_deg: float) -> float:
    """Strut from its foot, ``drop_m`` under the beam's bolt, to the beam ``reach_m`` from that bolt."""
    return float(struts_m(reach_m, np.array([drop_m]), np.array([tilt_deg]))[0, 0])


def tilt_on_strut_deg(drop_m: float, reach_m: float, strut_long_m: float) -> float:
    """The tilt at which a strut of that length holds the beam.

    Raises ValueError where the three do not close.
    """
    found = float(tilts_on_struts_deg(reach_m, np.array(drop_m), np.array(strut_long_m)))
    if drop_m * reach_m <= 0 or not math.isfinite(found):
        raise ValueError("the strut does not reach from its foot to the beam")
    return found


def tilt_between_deg(tilt_deg: float, apart_m: float, raised_m: float) -> float:
    """The tilt of a beam on two heads a level ``apart_m``, once the back one is ``raised_m`` higher."""
    rise = math.tan(math.radians(tilt_deg)) * apart_m
    return math.degrees(math.atan2(rise + raised_m, apart_m))


def strut_then_m(
    stands: StructurePlan, givens: StructureGivens, tilt_deg: float, index: int, way: Way
) -> float | None:
    """The strut that keeps the tilt with its foot where it is; None where none holds the beam."""
    if givens.family != "one post line":
        return None
    return strut_m(_drop_m(stands, givens, index) - way.by_m, givens.strut_reach_m, tilt_deg)


def tilt_then_deg(
    stands: StructurePlan, givens: StructureGivens, tilt_deg: float, index: int, way: Way
) -> float | None:
    """The tilt of a support's bent after a way, all else as it is; None where it is set by itself.

    One post line holds it by the strut, whose foot moves with the post but not with the bolt; a bent of
    two posts by their heads. A pole's head and an adjustable strut are set anew. NaN where the strut
    does not reach any more.
    """
    roles = stands.posts.bent.roles
    if givens.family == "one post line":
        if givens.strut_travel_m:
            return None
        drop, reach = _drop_m(stands, givens, index), givens.strut_reach_m
        moved = 0.0 if way.with_post else way.by_m
        try:
            return tilt_on_strut_deg(drop - moved, reach, strut_m(drop, reach, tilt_deg))
        except ValueError:
            return math.nan
    if len(roles) < 2:
        return None
    back = int(stands.supports.places.role[index]) == 1
    apart_m = abs(roles[1].back_m - roles[0].back_m)
    return tilt_between_deg(tilt_deg, apart_m, way.left_m if back else -way.left_m)


def _drop_m(stands: StructurePlan, givens: StructureGivens, index: int) -> float:
    """From the beam's bolt down to the strut's on the same post."""
    return float(stands.supports.reveals_m[index]) - givens.strut_foot_m
