"""The bent of one post line as a plane frame: a post in the ground, the beam on its bolt, the strut.

The statics of post, beam and strut follow from equilibrium alone; the frame draws how they bend.
"""

import math

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant
from openfurrow.core.frames import PlaneFrame, solved
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.quantities import STANDARD_GRAVITY_M_S2
from openfurrow.core.rows.array import RowsPlan
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
    up = found.down_n
    told = [_strain(rows, posts, loads, members, ("Pressed hardest", found, int(up.argmax())))]
    if float(up.min()) < 0:
        told.append(_strain(rows, posts, loads, members, ("Lifted hardest", found, int(up.argmin()))))
    return tuple(told)


def _strain(
    rows: RowsPlan,
    posts: Stand,
    loads: TableLoads,
    members: tuple[Beam, Strut],
    said: tuple[str, Reactions, int],
) -> Strain:
    """One post with its beam and strut in one case, which is said by its place in the reactions."""
    (beam, strut), section, (words, found, at) = members, rows.section, said
    tilt = math.radians(section.tilt_deg)
    kind, column = divmod(at, len(found.names))
    bound, case = divmod(column, len(found.names) // found.bounds)
    kinds = posts.kinds
    reveal = float((kinds.high_m, kinds.low_m)[bound][kind])
    row_m = float(kinds.tributary_m[kind])
    # Joints of the beam up the slope from the lower edge of the glass, in its axis under the glass.
    bolt, head = beam.start_m + beam.bolt_m, beam.start_m + beam.strut_m
    ups = np.unique(np.concatenate((beam.places_m, [bolt, head])).round(9))
    axis = np.column_stack(
        (
            ups * math.cos(tilt) + section.stack_m * math.sin(tilt),
            ups * math.sin(tilt) - section.stack_m * math.cos(tilt),
        )
    )

    def joint(up: float) -> int:
        return int(BEAM + np.abs(ups - up).argmin())

    foot = axis[joint(bolt) - BEAM] - np.array([0.0, reveal])
    joints = np.vstack((foot, foot + np.array([0.0, strut.foot_m]), axis))
    first = np.arange(BEAM, BEAM + ups.size - 1)
    ends = [
        [FOOT, STRUT_FOOT],
        [STRUT_FOOT, joint(bolt)],
        *np.column_stack((first, first + 1)).tolist(),
    ]
    ends.append([STRUT_FOOT, joint(head)])
    profiles = [posts.post] * 2 + [beam.section] * first.size + [strut.section]
    modulus = constant("common", "steel_modulus_pa").value
    hinged = np.zeros((len(ends), 2), dtype=bool)
    hinged[1, 1] = True
    held = np.zeros((len(joints), 3), dtype=bool)
    held[FOOT] = True
    bends = np.array([one.inertia_m4 for one in profiles])
    bends[-1] = 0.0
    frame = PlaneFrame(
        joints_m=joints[None],
        ends=np.array(ends),
        axial_n=modulus * np.array([one.area_m2 for one in profiles]),
        bending_n_m2=modulus * bends,
        hinged=hinged,
        held=held,
    )
    acting = np.zeros((1, 1, len(joints), 3))
    combined, winds = loads.strength, len(loads.wind.front_pa)
    combination, wind = divmod(case, winds)
    dead = float(combined.dead[combination] * loads.dead_of_kg_per_m2[kinds.size_of[kind]])
    for share, pressure, snow in zip(
        purlin_shares_m(rows) * row_m,
        (loads.wind.front_pa, loads.wind.back_pa),
        (combined.snow, combined.snow_back),
        strict=True,
    ):
        press = float(combined.wind[combination] * pressure[wind])
        weight = dead * STANDARD_GRAVITY_M_S2
        weight += float(snow[combination]) * loads.snow_pa * math.cos(tilt)
        for up, part in zip(beam.places_m.tolist(), share.tolist(), strict=True):
            # Weight stands at the glass: it turns the beam by the stack.
            acting[0, 0, joint(up)] += part * np.array(
                [
                    press * math.sin(tilt),
                    -press * math.cos(tilt) - weight,
                    weight * section.stack_m * math.sin(tilt),
                ]
            )
    said_words = f"{words}: {found.names[case]}"
    return strain_of(said_words, frame, solved(frame, acting), (0, 0), (FOOT,))
