"""One bent in one case: where its joints are, what its bars feel and what its feet ask for."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.frames import FrameForces, PlaneFrame

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]


@dataclass(frozen=True, kw_only=True)
class Strain:
    """A bent as it is drawn; x level to the back and z up from the lower edge of the glass.

    ``moments_n_m`` (bars, 2) are positive where the left side of a bar, seen from its start, is
    pressed. ``feet`` are joints, ``asked`` (feet, 3) what each asks of the ground: down, to the back,
    and the moment that tips its head to the back. ``braces`` are bars that only push and pull.
    """

    words: str
    joints_m: Floats
    ends: Integers
    pull_n: Floats
    moments_n_m: Floats
    feet: tuple[int, ...]
    asked: Floats
    braces: tuple[int, ...]


def strain_of(
    words: str, frame: PlaneFrame, forces: FrameForces, which: tuple[int, int], feet: tuple[int, ...]
) -> Strain:
    """One frame under one load; ``which`` are their numbers."""
    at, load = which
    held = forces.reactions[at, load, list(feet)]
    return Strain(
        words=words,
        joints_m=frame.joints_m[at],
        ends=frame.ends,
        pull_n=forces.pull_n[at, load],
        moments_n_m=forces.moments_n_m[at, load],
        feet=feet,
        # What holds a foot is what it asks for, turned about.
        asked=np.column_stack((held[:, 1], -held[:, 0], held[:, 2])),
        braces=tuple(np.flatnonzero(frame.bending_n_m2 == 0).tolist()),
    )
