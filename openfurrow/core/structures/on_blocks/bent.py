"""A line of piles as it is drawn: what comes down on each, and what pushes it to the back."""

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.strain import Strain
from openfurrow.core.structures.supports import Reactions

Floats = NDArray[np.float64]


def strains(section: TableSection, posts: Stand, found: Reactions) -> tuple[Strain, ...]:
    """The cases that press a line of piles hardest, and lift it hardest if any does.

    Of each line the kind that carries most of the row; all in one case at once.
    """
    kinds, roles = posts.kinds, posts.roles
    most = [
        int(mine[kinds.tributary_m[mine].argmax()])
        for role in range(len(roles))
        if (mine := np.flatnonzero(kinds.role == role)).size
    ]
    down = found.down_n[most].sum(axis=0)
    worst = [("Pressed hardest", int(down.argmax()))]
    if float(down.min()) < 0:
        worst.append(("Lifted hardest", int(down.argmin())))
    heads = np.array(
        [(section.post_x_m + one.back_m, section.bolt_z_m + one.up_m) for one in roles], dtype=float
    )
    feet = heads - np.column_stack((np.zeros(len(roles)), kinds.high_m[most]))
    count = len(roles)
    return tuple(
        Strain(
            words=f"{words}: {found.names[case]}",
            joints_m=np.vstack((feet, heads)),
            ends=np.column_stack((np.arange(count), np.arange(count) + count)),
            pull_n=-found.down_n[most, case],
            moments_n_m=np.zeros((count, 2)),
            feet=tuple(range(count)),
            asked=np.column_stack(
                (found.down_n[most, case], found.across_n[most, case], np.zeros(count))
            ),
            braces=(),
        )
        for words, case in worst
    )
