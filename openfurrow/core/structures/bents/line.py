"""A line of posts seen from behind, as a plane frame with crossed cables that only pull.

head o-----o-----o-----o      purlins push and pull from head to head,
     |     |\\   /|     |      cables cross some bays,
 tie o     o \\ / o     o      they meet posts a little over the ground,
     |     |/   \\|     |      posts bend about their weak axis,
foot o     o     o     o      feet are held, there or deeper, or turn where cables stand.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant, table
from openfurrow.core.codes.section import Section
from openfurrow.core.frames import PlaneFrame, seen_above, solved_with_ties
from openfurrow.core.structures.bents.shape import FEET, Foot

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]
WAYS = tuple(FEET)


@dataclass(frozen=True, kw_only=True)
class Line:
    """Posts in a line: how far along, how high at most and at least, how the heads climb.

    Cables of the kind ``cable`` meet posts ``tie_m`` over the ground and cross the ``bays``; None
    where there are none.
    """

    at_m: Floats
    heights_m: tuple[Floats, Floats]
    rise: float
    post: Section
    tie_m: float
    bays: Integers
    cable: str | None

    @property
    def crossed(self) -> bool:
        """Whether any bay is crossed."""
        return self.cable is not None and self.bays.size > 0

    @property
    def bounds(self) -> tuple[tuple[Floats, Foot], ...]:
        """Heights by what the ground may do with feet."""
        ways = WAYS if self.crossed else WAYS[:2]
        return tuple((height, way) for height in self.heights_m for way in ways)

    @property
    def below_m(self) -> Floats:
        """How far below the ground feet are held, bound by bound."""
        deep = constant("common", "fixity_m").value
        return np.array([deep if way == "held below" else 0.0 for _, way in self.bounds])


@dataclass(frozen=True)
class LineForces:
    """At each foot push, moment and pressing or lifting, the most with feet in each of `WAYS`.

    ``feet`` is (3, ways, posts); ``bending_n_m`` is the most that a post bends over the ground,
    ``pull_n`` that a cable pulls.
    """

    feet: Floats
    bending_n_m: float
    pull_n: float


def frame_of(line: Line) -> PlaneFrame:
    """One frame a bound: feet, then ties, then heads; posts' lower and upper bars, purlins, cables."""
    count = line.at_m.size
    every = np.arange(count)
    foot, tie, head = every, every + count, every + 2 * count
    ends = [*np.column_stack((foot, tie)).tolist(), *np.column_stack((tie, head)).tolist()]
    ends += np.column_stack((head[:-1], head[1:])).tolist()
    posts, bars = 2 * count, len(ends)
    for bay in line.bays.tolist() if line.crossed else ():
        ends += [[int(tie[bay]), int(head[bay + 1])], [int(tie[bay + 1]), int(head[bay])]]
    steel, rope = line.post.elastic_pa, constant("common", "cable_modulus_pa").value
    axial = np.full(len(ends), steel * line.post.area_m2)
    # Purlins are many and stiff beside what they hold up.
    axial[posts:bars] = 10 * steel * line.post.area_m2
    if line.crossed:
        data = table("common", "cable")
        axial[bars:] = rope * data.number("area_m2", data.row("cable", str(line.cable)))
    bends = np.zeros(len(ends))
    bends[:posts] = steel * line.post.weak_inertia_m4
    hinged = np.zeros((len(ends), 2), dtype=bool)
    hinged[count:posts, 1] = True
    held = np.zeros((len(line.bounds), 3 * count, 3), dtype=bool)
    held[:, :count, :2] = True
    held[:, :count, 2] = np.array([way != "turns" for _, way in line.bounds])[:, None]
    return PlaneFrame(
        joints_m=_joints_m(line),
        ends=np.array(ends),
        axial_n=axial,
        bending_n_m2=bends,
        hinged=hinged,
        held=held,
    )


def _joints_m(line: Line) -> Floats:
    """Feet, ties and heads of every bound."""
    heads = np.column_stack((line.at_m, line.rise * line.at_m))

    def under(drop_m: Floats) -> Floats:
        return heads - np.column_stack((np.zeros(heads.shape[0]), drop_m))

    return np.stack(
        [
            np.concatenate((under(height + below), under(height - line.tie_m), heads))
            for (height, _), below in zip(line.bounds, line.below_m.tolist(), strict=True)
        ]
    )


def line_forces(line: Line, head_n: Floats) -> LineForces:
    """What ``head_n`` on the heads does, from either end: the most over both heights."""
    count, frame = line.at_m.size, frame_of(line)
    every, posts, bars = np.arange(count), 2 * count, 3 * count - 1
    loads = np.zeros((1, 2, 3 * count, 3))
    loads[0, 0, 2 * count :, 0], loads[0, 1, 2 * count :, 0] = head_n, -head_n
    whole = solved_with_ties(frame, loads, np.arange(bars, len(frame.ends)))
    _, found = seen_above(frame, whole, (every, every), line.below_m)
    ways = len(line.bounds) // 2
    at_feet = np.abs(found.reactions[:, :, :count]).max(axis=1).reshape(2, ways, count, 3)
    most = at_feet.max(axis=0)
    # Without cables no foot may turn: that way is as the first.
    most = np.concatenate((most, most[: len(WAYS) - ways]))
    return LineForces(
        feet=np.moveaxis(most[..., [0, 2, 1]], -1, 0),
        bending_n_m=float(np.abs(found.moments_n_m[:, :, :posts]).max()),
        pull_n=float(found.pull_n[:, :, bars:].max(initial=0.0)),
    )
