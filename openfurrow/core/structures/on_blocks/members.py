"""Members of a table on blocks: its purlins, and what ties each to its piles."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.structures.members import Fixing, Piece, Stock, Used, purlin_stock
from openfurrow.core.structures.purlins import Purlin, worst_purlin
from openfurrow.core.structures.strain import Strain
from openfurrow.core.working import Answer

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Along:
    """Wind along the row, unfactored: on each table, and on a pile of each kind."""

    table_n: Floats
    pile_n: Floats


@dataclass(frozen=True, kw_only=True)
class Members:
    """The members of the worst table; ``places_m`` is where purlins lie, from the lower edge.

    ``piles`` are those of the whole array. No beam lies on them: modules tie purlin to purlin.
    """

    purlin: Purlin
    places_m: Floats
    along: Along
    sag_limit_m: float
    piles: int
    strains: tuple[Strain, ...]

    @property
    def beam(self) -> None:
        """None: purlins lie on the piles themselves."""

    @property
    def stock(self) -> Stock:
        """Purlins."""
        return purlin_stock(self.places_m.size)

    @property
    def pieces(self) -> tuple[Piece, ...]:
        """Nothing else is cut."""
        return ()

    @property
    def fixings(self) -> tuple[Fixing, ...]:
        """A plate or clip where a purlin lies on a pile, so that it neither slides nor rolls."""
        return (
            Fixing(
                "pile_clip",
                "Clip, purlin on a pile",
                self.piles,
                "One a pile, under its strap or on its anchor; a pad keeps zinc off wet concrete.",
                rated=True,
            ),
        )

    @property
    def used(self) -> tuple[Used, ...]:
        """Purlins alone."""
        return (Used("purlin", self.purlin.section.name, self.purlin.used),)

    @property
    def at_posts(self) -> tuple[str, Floats] | None:
        """Nothing is marked at a pile."""
        return None

    @property
    def cut_answers(self) -> tuple[Answer, ...]:
        """None besides the purlins'."""
        return ()


def worst_members(at: Sequence[Members]) -> Members:
    """Those of a table that is set to several tilts: each as it is used most, in any of them."""
    most = max(at, key=lambda one: float(np.max(one.along.table_n)))
    return replace(most, purlin=worst_purlin([one.purlin for one in at]))
