"""What a support is within its bent: the posts that stand side by side under one inclined beam."""

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from openfurrow.core.codes.section import Section
from openfurrow.core.structures.layout import PostLine

Stands = Literal["in the ground", "in boxes", "on piles"]


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


@dataclass(frozen=True, kw_only=True)
class Bent:
    """What stands at every place along a table.

    ``roles`` are its posts, front to back, and ``post`` the profile of each, chosen by the field
    ``post_given``; None where purlins lie on piles of blocks. A post ends ``top_m`` over its bolt;
    below nought where what lies along the row is saddled on its head. Where ``foot_m`` is said it
    stands on the ground in a weight, begins so far over the ground, and is not driven. ``spaced``
    says where bents stand along a table of so many columns and of such a length; else in the fewest
    equal spans. Where a tube turns over them ``drive_of`` says which of a line holds its drive.
    """

    post: Section | None
    top_m: float
    post_given: str = "structure.post_section"
    roles: tuple[Role, ...] = ONE_LINE
    foot_m: float | None = None
    spaced: Callable[[int, float], PostLine] | None = None
    drive_of: Callable[[PostLine], int] | None = None

    @property
    def stands(self) -> Stands:
        """In what: only weight holds what stands on the ground."""
        if self.post is None:
            return "on piles"
        return "in the ground" if self.foot_m is None else "in boxes"


POSTS = ("front post", "back post")


def two_lines(apart_m: float, tilt_deg: float, names: tuple[str, str] = POSTS) -> tuple[Role, Role]:
    """A short post on the side of the lower edge and a long one behind, as far from the middle."""
    half = apart_m / 2
    rise = half * math.tan(math.radians(tilt_deg))
    front, back = names
    return Role(front, "f", -half, -rise), Role(back, "b", half, rise)
