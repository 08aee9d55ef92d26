"""What a support is within its bent: the posts that stand side by side under one inclined beam."""

import math
from dataclasses import dataclass


@dataclass(frozen=True)
class Role:
    """One post of every bent.

    ``letter`` stands before its number in the name of a support. ``back_m`` is how far it stands,
    level, behind the line under the table's own bolt, and ``up_m`` how far its bolt lies over that one.
    """

    name: str
    letter: str = ""
    back_m: float = 0.0
    up_m: float = 0.0


ONE_LINE = (Role("post"),)


def two_lines(apart_m: float, tilt_deg: float) -> tuple[Role, Role]:
    """A short post on the side of the lower edge and a long one behind, as far from the middle."""
    half = apart_m / 2
    rise = half * math.tan(math.radians(tilt_deg))
    return Role("front post", "f", -half, -rise), Role("back post", "b", half, rise)
