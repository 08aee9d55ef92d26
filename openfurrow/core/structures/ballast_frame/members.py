"""Members of a ballast frame: those of two post lines, and the rail that ties both feet of a bent."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes.section import Section
from openfurrow.core.members.columns import column_limit_n
from openfurrow.core.structures.ballast_frame import cuts
from openfurrow.core.structures.bents.along import Along
from openfurrow.core.structures.bents.worst import worst_members as worst_of_bents
from openfurrow.core.structures.members import Fixing, Piece, Stock, Used
from openfurrow.core.structures.purlins import Purlin
from openfurrow.core.structures.strain import Strain
from openfurrow.core.structures.supports import Reactions
from openfurrow.core.structures.two_post_lines.members import Beam
from openfurrow.core.structures.two_post_lines.members import Members as TwoPostLines
from openfurrow.core.working import Answer

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Base:
    """The rails on the ground that tie the feet of a bent: ``push_n`` on the one that gets most."""

    section: Section
    length_m: float
    push_n: float
    limit_n: float

    @property
    def used(self) -> float:
        """Of what it bears as a column."""
        return self.push_n / self.limit_n


def size_base(base: Section, apart_m: float, found: Reactions, pack: str) -> Base:
    """Feet that turn push sideways, each as it likes: at worst all of it goes through the rail."""
    return Base(
        section=base,
        length_m=apart_m,
        push_n=float(np.abs(found.across_n).max()),
        limit_n=float(column_limit_n(base, apart_m, pack)),
    )


@dataclass(frozen=True, kw_only=True)
class Members:
    """``bents`` are the members of every bent, and of the row, as of two post lines."""

    bents: TwoPostLines
    base: Base

    @property
    def beam(self) -> Beam:
        """Of every bent."""
        return self.bents.beam

    @property
    def purlin(self) -> Purlin:
        """The one that is used most."""
        return self.bents.purlin

    @property
    def along(self) -> Along:
        """Wind along the row."""
        return self.bents.along

    @property
    def places_m(self) -> Floats:
        """Where purlins cross the beam."""
        return self.beam.places_m

    @property
    def stock(self) -> Stock:
        """Purlins."""
        return self.bents.stock

    @property
    def pieces(self) -> tuple[Piece, ...]:
        """Beams, cross braces, cables and base rails."""
        return (*self.bents.pieces, cuts.base_piece(self.base, self.bents.bents))

    @property
    def fixings(self) -> tuple[Fixing, ...]:
        """Those of the bents, and what holds legs to base rails and to their weights."""
        own = cuts.fixings(self.base, self.bents.posts.section, self.bents.bents)
        return (*self.bents.fixings, *own)

    @property
    def used(self) -> tuple[Used, ...]:
        """Purlin, beam, brace, cable and base rail."""
        return (*self.bents.used, Used("base rail", self.base.section.name, self.base.used))

    @property
    def strains(self) -> tuple[Strain, ...]:
        """Bents in the cases that press and lift them hardest."""
        return self.bents.strains

    @property
    def at_posts(self) -> tuple[str, Floats] | None:
        """The cross brace of every leg's bent."""
        return self.bents.at_posts

    @property
    def cut_answers(self) -> tuple[Answer, ...]:
        """How long everything is cut."""
        return (*self.bents.cut_answers, cuts.base_answer(self.base, self.bents.bents))


def worst_members(at: Sequence[Members]) -> Members:
    """Those of a table that is set to several tilts: each as it is used most, in any of them."""
    most = max(at, key=lambda one: one.base.used)
    base = replace(most.base, push_n=max(one.base.push_n for one in at))
    return replace(most, base=base, bents=worst_of_bents([one.bents for one in at]))
