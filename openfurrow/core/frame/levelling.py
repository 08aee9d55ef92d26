"""A post's top that is off its line: which hole, slot, shim, cut or blow puts the frame level again."""

import math
from dataclasses import dataclass
from typing import Literal

from openfurrow.core.codes import constant

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
    tilt = math.radians(tilt_deg)
    return math.hypot(reach_m * math.cos(tilt), drop_m - reach_m * math.sin(tilt))


def tilt_on_strut_deg(drop_m: float, reach_m: float, strut_long_m: float) -> float:
    """The tilt at which a strut of that length holds the beam, by the law of cosines.

    Raises ValueError where the three do not close.
    """
    both = 2 * drop_m * reach_m
    sine = (drop_m**2 + reach_m**2 - strut_long_m**2) / both if both > 0 else math.inf
    if not -1 <= sine <= 1:
        raise ValueError("the strut does not reach from its foot to the beam")
    return math.degrees(math.asin(sine))


def tilt_between_deg(tilt_deg: float, apart_m: float, raised_m: float) -> float:
    """The tilt of a beam on two heads a level ``apart_m``, once the back one is ``raised_m`` higher."""
    rise = math.tan(math.radians(tilt_deg)) * apart_m
    return math.degrees(math.atan2(rise + raised_m, apart_m))
