"""All members of one post line together, and what they say to the stages that follow."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.structures.cantilevers.along import Along
from openfurrow.core.structures.members import Fixing, Piece, Ply, Stock, Used, purlin_stock
from openfurrow.core.structures.one_post_line import cuts
from openfurrow.core.structures.one_post_line.members import Beam, Strut, worst_beam
from openfurrow.core.structures.purlins import Purlin, worst_purlin
from openfurrow.core.structures.strain import Strain
from openfurrow.core.working import Answer

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Members:
    """The members of the worst table. ``post_limit_n_m`` is the post's moment."""

    beam: Beam
    purlin: Purlin
    strut: Strut
    post: Ply
    sag_limit_m: float
    post_limit_n_m: float
    post_at_strut_n_m: float
    along: Along
    tallest_m: float
    strains: tuple[Strain, ...]

    @property
    def places_m(self) -> Floats:
        """Where purlins cross the beam."""
        return self.beam.places_m

    @property
    def stock(self) -> Stock:
        """Purlins."""
        return purlin_stock(self.beam.places_m.size)

    @property
    def pieces(self) -> tuple[Piece, ...]:
        """Beams and struts."""
        return cuts.pieces(self.beam, self.strut)

    @property
    def fixings(self) -> tuple[Fixing, ...]:
        """Bolts at the posts."""
        return cuts.fixings(self.beam, self.strut, self.purlin, self.post)

    @property
    def used(self) -> tuple[Used, ...]:
        """Purlin, beam and strut."""
        return (
            Used("purlin", self.purlin.section.name, self.purlin.used),
            Used("beam", self.beam.section.name, self.beam.used),
            Used("strut", self.strut.section.name, self.strut.force_n / self.strut.limit_n),
        )

    @property
    def at_posts(self) -> tuple[str, Floats]:
        """The strut of every post."""
        return "strut", self.strut.lengths_m

    @property
    def cut_answers(self) -> tuple[Answer, ...]:
        """How long struts are cut."""
        return cuts.cut_answers(self.beam, self.strut, self.tallest_m)


def worst_members(at: Sequence[Members]) -> Members:
    """Those of a table that is set to several tilts: each as it is used most, in any of them."""
    if len(at) == 1:
        return at[0]
    lengths = np.array([one.strut.lengths_m for one in at])
    furthest = int(np.ptp(lengths, axis=0).argmax())
    return replace(
        at[0],
        beam=worst_beam([one.beam for one in at]),
        purlin=worst_purlin([one.purlin for one in at]),
        strut=replace(
            max((one.strut for one in at), key=lambda one: one.force_n / one.limit_n),
            flattest=min(one.strut.flattest for one in at),
            most_n=max(one.strut.most_n for one in at),
            lengths_m=lengths.max(axis=0),
            travel_m=float(np.ptp(lengths[:, furthest])),
            travels_from_m=float(lengths[:, furthest].max()),
        ),
        post_at_strut_n_m=max(one.post_at_strut_n_m for one in at),
        along=max((one.along for one in at), key=lambda one: float(one.table_n.max())),
    )
