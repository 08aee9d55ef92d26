"""The bent of one post line as a plane frame: a post in the ground, the beam on its bolt, the strut.

The statics of post, beam and strut follow from equilibrium alone; the frame draws how they bend.
"""

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.frames import PlaneFrame, solved
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.cantilevers.worst import Case, acting, under_glass_m, worst_cases
from openfurrow.core.structures.one_post_line.members import Beam, Strut
from openfurrow.core.structures.purlins import purlin_shares_m
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.strain import Strain, strain_of
from openfurrow.core.structures.supports import Reactions

Floats = NDArray[np.float64]

FOOT, STRUT_FOOT, BEAM = 0, 1, 2


def strains(
    rows: RowsPlan,
    posts: Stand,
    loads: TableLoads,
    members: tuple[Beam, Strut],
    found: Reactions,
) -> tuple[Strain, ...]:
    """The bent that is pressed hardest of all, and the one that is lifted hardest if any is."""
    return tuple(
        _strain(rows, posts, loads, members, case) for case in worst_cases(posts, loads, found)
    )


def _strain(
    rows: RowsPlan, posts: Stand, loads: TableLoads, members: tuple[Beam, Strut], case: Case
) -> Strain:
    """One post with its beam and strut in one case."""
    (beam, strut), section = members, rows.section
    # Joints of the beam up the slope from the lower edge of the glass, in its axis under the glass.
    bolt, head = beam.start_m + beam.bolt_m, beam.start_m + beam.strut_m
    ups = np.unique(np.concatenate((beam.places_m, [bolt, head])).round(9))
    axis = under_glass_m(section, ups)

    def joint(up: float) -> int:
        return int(BEAM + np.abs(ups - up).argmin())

    foot = axis[joint(bolt) - BEAM] - np.array([0.0, case.reveal_m])
    joints = np.vstack((foot, foot + np.array([0.0, strut.foot_m]), axis))
    first = np.arange(BEAM, BEAM + ups.size - 1)
    ends = [
        [FOOT, STRUT_FOOT],
        [STRUT_FOOT, joint(bolt)],
        *np.column_stack((first, first + 1)).tolist(),
    ]
    ends.append([STRUT_FOOT, joint(head)])
    profiles = [posts.post] * 2 + [beam.section] * first.size + [strut.section]
    hinged = np.zeros((len(ends), 2), dtype=bool)
    hinged[1, 1] = True
    held = np.zeros((len(joints), 3), dtype=bool)
    held[FOOT] = True
    bends = np.array([one.elastic_pa * one.inertia_m4 for one in profiles])
    bends[-1] = 0.0
    frame = PlaneFrame(
        joints_m=joints[None],
        ends=np.array(ends),
        axial_n=np.array([one.elastic_pa * one.area_m2 for one in profiles]),
        bending_n_m2=bends,
        hinged=hinged,
        held=held,
    )
    on_joints = np.zeros((1, 1, len(joints), 3))
    at = [joint(up) for up in beam.places_m.tolist()]
    np.add.at(on_joints[0, 0], at, acting(section, loads, case, purlin_shares_m(rows)))
    return strain_of(case.words, frame, solved(frame, on_joints), (0, 0), (FOOT,))
