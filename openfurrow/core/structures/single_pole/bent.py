"""A single pole as a plane frame: built into the ground, the rails over its head as one beam."""

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes.section import Section
from openfurrow.core.frames import PlaneFrame, solved
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.structures.cantilevers.worst import Case, acting, under_glass_m, worst_cases
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.strain import Strain, strain_of
from openfurrow.core.structures.supports import Reactions

Floats = NDArray[np.float64]

FOOT, RAIL = 0, 1
# Rails carry modules along all of their length: in so many places of each half of the chord.
PLACES = 8


def strains(
    table: TableSection,
    posts: Stand,
    loads: TableLoads,
    rail: Section,
    found: Reactions,
    *,
    turns: bool = False,
) -> tuple[Strain, ...]:
    """The pole that is pressed hardest of all, and the one that is lifted hardest if any is.

    Where what lies on it ``turns`` in a bearing those are looked for that hold no drive.
    """
    if turns:
        found = replace(found, down_n=np.where(posts.kinds.drives[:, None], 0.0, found.down_n))
    cases = worst_cases(posts, loads, found)
    return tuple(_strain(table, posts, loads, rail, case, turns=turns) for case in cases)


def _strain(
    table: TableSection, posts: Stand, loads: TableLoads, rail: Section, case: Case, *, turns: bool
) -> Strain:
    """One pole in one case: its head holds the rails, which turn with it, or a tube holds them."""
    half = table.chord_m / 2 / PLACES
    places = (np.arange(2 * PLACES) + 0.5) * half
    ups = np.insert(places, PLACES, table.chord_m / 2)
    axis = under_glass_m(table, ups)
    joints = np.vstack((axis[PLACES] - np.array([0.0, case.reveal_m]), axis))
    first = np.arange(RAIL, RAIL + 2 * PLACES)
    rails = [[FOOT, RAIL + PLACES], *np.column_stack((first, first + 1)).tolist()]
    many = posts.line.rails_m.size if posts.line.rails_m is not None else 1
    profiles = [(posts.post, 1)] + [(rail, many)] * first.size
    held = np.zeros((len(joints), 3), dtype=bool)
    held[FOOT] = True
    hinged = np.zeros((len(rails), 2), dtype=bool)
    if turns:
        held[RAIL + PLACES, 2] = hinged[0, 1] = True
    frame = PlaneFrame(
        joints_m=joints[None],
        ends=np.array(rails),
        axial_n=np.array([count * one.elastic_pa * one.area_m2 for one, count in profiles]),
        bending_n_m2=np.array([count * one.elastic_pa * one.inertia_m4 for one, count in profiles]),
        hinged=hinged,
        held=held,
    )
    shares = np.zeros((2, 2 * PLACES))
    shares[0, :PLACES] = shares[1, PLACES:] = half
    on_joints = np.zeros((1, 1, len(joints), 3))
    at = np.delete(np.arange(RAIL, RAIL + ups.size), PLACES)
    on_joints[0, 0, at] = acting(table, loads, case, shares)
    return strain_of(case.words, frame, solved(frame, on_joints), (0, 0), (FOOT,))
