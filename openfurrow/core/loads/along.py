"""Wind along a row: it rubs on both faces of the glass and pushes on all that is seen from the end."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.working import Source

Floats = NDArray[np.float64]

DRAG = Source("ASCE/SEI 7-16, Figure 29.4-2, or EN 1991-1-4, 7.5 to 7.9", "from memory")


@dataclass(frozen=True)
class SeenAlong:
    """What wind along a row meets, square metres; one entry a table, or a post.

    ``rubbed_m2`` both faces of the glass, ``flat_m2`` sharp-edged sections and edges of modules seen
    from the end, ``round_m2`` pipes. None stands in the shelter of another.
    """

    rubbed_m2: Floats
    flat_m2: Floats
    round_m2: Floats


def along_n(pack: RulePack, velocity_pa: float, seen: SeenAlong) -> Floats:
    """The force on each, unfactored; metric pressures are peaks already.

    Friction on ribbed faces, for frames stand below the glass; drag of flat and of round members.
    """
    rub, flat, pipe = (
        constant("common", name).value for name in ("ribbed_friction", "flat_member_drag", "pipe_drag")
    )
    gust = constant(pack, "gust_factor").value if pack == "us" else 1.0
    area = rub * seen.rubbed_m2 + flat * seen.flat_m2 + pipe * seen.round_m2
    return np.asarray(velocity_pa * gust * area)
