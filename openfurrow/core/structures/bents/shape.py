"""The bent of two post lines as a plane frame: two posts, the beam hinged on both, a cross brace.

In the plane square to the row, x level to the back and z up from the lower edge of the glass:

    back head o======       the beam reaches past both heads and carries the purlins,
            / |             the brace runs from low on the front post to the back head,
    =====o/   |             each foot is held by the ground or, at worst, turns in it.
         |    |
"""

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes.section import Section
from openfurrow.core.frames import PlaneFrame
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.structures.roles import Role

Floats = NDArray[np.float64]

# The joints before those of the beam.
FRONT_FOOT, BRACE_FOOT, BACK_FOOT, BEAM = 0, 1, 2, 3
# The bars before those of the beam; the brace is the last bar of all.
FRONT_LOW, FRONT_HIGH, BACK = 0, 1, 2
# Unit loads: a pascal on the lower and on the upper half of the glass, of weight, and of snow on each
# half, each over a metre of the row.
UNITS = ("front", "back", "weight", "snow in front", "snow behind")
# What the ground may do with a foot, and what the names of cases end in then: hold it where it enters,
# hold it as far below as a driven post stands as if built in, or let it turn.
Foot = Literal["held", "held below", "turns"]
FEET: dict[Foot, str] = {"held": "", "held below": ", feet held deeper", "turns": ", feet that give"}
# Less than this over the foot of the brace no post is reckoned with.
LEAST_RISE_M = 0.02
# Joints of the beam nearer to each other than this are one.
SAME_M = 1e-6


@dataclass(frozen=True, kw_only=True)
class BentShape:
    """What all bents of a table share: profiles, where the beam is crossed, where posts hold it.

    ``places_m`` are the purlins up the slope from the lower edge of the glass, ``shares_m`` how much of
    the lower and of the upper half each carries. ``brace`` is None where posts alone hold the bent.
    It meets the back post ``brace_under_m`` under its bolt, where that ends below a saddle; the frame
    takes it at the bolt. ``edge_m`` is how thick modules are and ``beam_m`` how long a beam is, seen
    from the end of the row.
    """

    section: TableSection
    roles: tuple[Role, ...]
    places_m: Floats
    shares_m: Floats
    post: Section
    beam: Section
    brace: Section | None
    brace_foot_m: float
    edge_m: float
    beam_m: float
    brace_under_m: float = 0.0

    @property
    def bolts_m(self) -> Floats:
        """Where the heads hold the beam, up the slope from the lower edge of the glass."""
        tilt = math.radians(self.section.tilt_deg)
        return np.array([self.section.chord_m / 2 + one.back_m / math.cos(tilt) for one in self.roles])

    @property
    def joints_m(self) -> Floats:
        """Places of the beam's joints up the slope, each once."""
        every = np.sort(np.concatenate((self.places_m, self.bolts_m)))
        return np.asarray(every[np.concatenate(([True], np.diff(every) > SAME_M))])

    def joint_at(self, places_m: Floats) -> NDArray[np.int64]:
        """The number, among all joints, of the beam's joint at each place up the slope."""
        away = np.abs(np.asarray(places_m)[:, None] - self.joints_m)
        return np.asarray(BEAM + away.argmin(axis=1))

    def level_m(self, up_m: Floats, under_m: float) -> Floats:
        """Places up the slope, so far square under the glass, as x and z from the lower edge."""
        tilt = math.radians(self.section.tilt_deg)
        return np.column_stack(
            (
                up_m * math.cos(tilt) + under_m * math.sin(tilt),
                up_m * math.sin(tilt) - under_m * math.cos(tilt),
            )
        )


def frames_of(
    shape: BentShape, reveals_m: Floats, holds: NDArray[np.bool_], below_m: Floats | float = 0.0
) -> PlaneFrame:
    """The bents whose posts rise ``reveals_m`` (n, 2) to their bolts; their feet hold or turn (n,).

    They do so so far ``below_m`` the ground (n,).

    A post that does not rise over what meets it is stopped by a check; here it is taken higher.
    """
    reveals_m = np.maximum(reveals_m, shape.brace_foot_m + LEAST_RISE_M)
    count, beam_joints = len(reveals_m), shape.level_m(shape.joints_m, shape.section.stack_m)
    heads = shape.joint_at(shape.bolts_m)
    head_m = beam_joints[heads - BEAM]
    joints = np.empty((count, BEAM + len(beam_joints), 2))
    joints[:, BEAM:] = beam_joints
    for foot, role in ((FRONT_FOOT, 0), (BACK_FOOT, 1)):
        joints[:, foot, 0] = head_m[role, 0]
        joints[:, foot, 1] = head_m[role, 1] - reveals_m[:, role] - below_m
    joints[:, BRACE_FOOT] = joints[:, FRONT_FOOT]
    joints[:, BRACE_FOOT, 1] += shape.brace_foot_m + below_m
    first = np.arange(BEAM, BEAM + len(beam_joints) - 1)
    ends = [[FRONT_FOOT, BRACE_FOOT], [BRACE_FOOT, heads[0]], [BACK_FOOT, heads[1]]]
    ends += np.column_stack((first, first + 1)).tolist()
    profiles = [shape.post] * 3 + [shape.beam] * len(first)
    bends = [1.0] * len(ends)
    if shape.brace is not None:
        ends.append([BRACE_FOOT, heads[1]])
        profiles.append(shape.brace)
        bends.append(0.0)
    hinged = np.zeros((len(ends), 2), dtype=bool)
    # One bolt at each head: the beam turns on it.
    hinged[[FRONT_HIGH, BACK], 1] = True
    held = np.zeros((count, joints.shape[1], 3), dtype=bool)
    held[:, [FRONT_FOOT, BACK_FOOT], :2] = True
    held[:, [FRONT_FOOT, BACK_FOOT], 2] = holds[:, None]
    return PlaneFrame(
        joints_m=joints,
        ends=np.array(ends),
        axial_n=np.array([one.elastic_pa * one.area_m2 for one in profiles]),
        bending_n_m2=np.array([one.elastic_pa * one.inertia_m4 for one in profiles]) * np.array(bends),
        hinged=hinged,
        held=held,
    )


def unit_loads(shape: BentShape) -> Floats:
    """The loads of `UNITS` at the joints, (1, units, joints, 3).

    Wind acts square to the glass. Weight and snow act straight down at the glass, which lies over the
    beam by the stack: there each turns the beam by the stack times sin(tilt), its lower end down.
    """
    section, tilt = shape.section, math.radians(shape.section.tilt_deg)
    at = shape.joint_at(shape.places_m)
    square = np.array([math.sin(tilt), -math.cos(tilt), 0.0])
    down = np.array([0.0, -1.0, section.stack_m * math.sin(tilt)])
    front, back = shape.shares_m
    # Snow is given per level area.
    level = math.cos(tilt)
    loads = np.zeros((1, len(UNITS), BEAM + len(shape.joints_m), 3))
    for unit, (share, way) in enumerate(
        (
            (front, square),
            (back, square),
            (front + back, down),
            (front * level, down),
            (back * level, down),
        )
    ):
        np.add.at(loads[0, unit], at, share[:, None] * way)
    return loads
