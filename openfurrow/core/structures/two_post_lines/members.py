"""Members of two post lines: how much of beam, posts, brace and cables is used."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant
from openfurrow.core.codes.section import Section
from openfurrow.core.members.bending import bending_limits, bends, web_shear_limit_n
from openfurrow.core.members.columns import column_limit_n
from openfurrow.core.structures.bents.along import Along
from openfurrow.core.structures.bents.carry import Bents, under_loads
from openfurrow.core.structures.bents.shape import BACK, BentShape
from openfurrow.core.structures.bents.sized import Brace, Strained, worst_of
from openfurrow.core.structures.members import Fixing, Piece, Stock, Used, purlin_stock
from openfurrow.core.structures.purlins import Purlin
from openfurrow.core.structures.strain import Strain
from openfurrow.core.structures.two_post_lines import cuts
from openfurrow.core.working import Answer

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Beam:
    """The inclined beam of one bent.

    ``start_m``, ``places_m`` and ``bolts_m`` are measured from the lower edge of the glass; ``end_m``
    is the beam past the outer purlins.
    """

    section: Section
    start_m: float
    end_m: float
    length_m: float
    places_m: Floats
    bolts_m: Floats
    strained: Strained

    @property
    def used(self) -> float:
        """How much of it is used."""
        return self.strained.used


def size_beam(shape: BentShape, bents: Bents, acting: Floats, pack: str) -> Beam:
    """Bent as it is from joint to joint; its upper flange is held by purlins, its lower one is free."""
    beam, end = shape.beam, constant("common", "beam_end_m").value
    start, last = shape.places_m[0] - end, shape.places_m[-1] + end
    bars = slice(BACK + 1, BACK + len(shape.joints_m))
    pull, moments = _forces(bents, acting, bars)
    apart = float(np.diff(shape.places_m).max())
    held, free = bending_limits(beam, pack, apart)
    longest = float(np.diff(shape.bolts_m).max(initial=shape.bolts_m[0]))
    columns = column_limit_n(beam, longest, pack, apart)
    limit = np.where(moments >= 0, held, free)
    shear = np.abs(moments[..., 1] - moments[..., 0]) / np.diff(shape.joints_m)
    return Beam(
        section=beam,
        start_m=float(start),
        end_m=end,
        length_m=float(last - start),
        places_m=shape.places_m,
        bolts_m=shape.bolts_m,
        strained=worst_of(
            beam,
            pull[..., None],
            moments,
            columns,
            limit,
            bends(beam, pack, apart).words,
            (shear[..., None], web_shear_limit_n(beam, pack)),
        ),
    )


def _forces(bents: Bents, acting: Floats, bars: slice) -> tuple[Floats, Floats]:
    """Pull (kinds, bounds, cases, bars) and moments at both ends (..., 2) under all cases."""
    return (
        under_loads(bents, acting, bents.forces.pull_n[:, :, bars]),
        under_loads(bents, acting, bents.forces.moments_n_m[:, :, bars]),
    )


@dataclass(frozen=True, kw_only=True)
class Members:
    """The members of the worst table; ``brace_at_posts_m`` is that of each post's bent.

    ``head_n`` is what the bolt at any head holds at worst, over which a post runs on ``post_top_m``.
    """

    beam: Beam
    purlin: Purlin
    posts: Strained
    brace: Brace | None
    along: Along
    sag_limit_m: float
    bents: int
    head_n: float
    post_top_m: float
    strains: tuple[Strain, ...]
    brace_at_posts_m: Floats | None

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
        """Beams, cross braces and cables."""
        return cuts.pieces(self)

    @property
    def fixings(self) -> tuple[Fixing, ...]:
        """Bolts at the heads and the braces, grips and turnbuckles of cables."""
        return cuts.fixings(self)

    @property
    def used(self) -> tuple[Used, ...]:
        """Purlin, beam, brace and cable."""
        found = [
            Used("purlin", self.purlin.section.name, self.purlin.used),
            Used("beam", self.beam.section.name, self.beam.used),
        ]
        if self.brace is not None:
            share = self.brace.push_n / self.brace.limit_n
            found.append(Used("brace", self.brace.section.name, share))
        if self.along.cable is not None:
            cable = self.along.cable
            found.append(Used("cable", cable.name, cable.pull_n / cable.limit_n))
        return tuple(found)

    @property
    def at_posts(self) -> tuple[str, Floats] | None:
        """The cross brace of every post's bent."""
        return None if self.brace_at_posts_m is None else ("brace", self.brace_at_posts_m)

    @property
    def cut_answers(self) -> tuple[Answer, ...]:
        """How long braces and cables are cut."""
        return cuts.cut_answers(self)
