"""What is cut and bolted for a ballast frame besides its bents: base rails and what holds feet."""

from typing import TYPE_CHECKING

import numpy as np

from openfurrow.core.codes.section import Section
from openfurrow.core.structures.members import Fixing, Grip, Piece, Ply, in_web
from openfurrow.core.working import GEOMETRY, Answer, Input, Working

if TYPE_CHECKING:
    from openfurrow.core.structures.ballast_frame.members import Base


def base_piece(base: "Base", bents: int) -> Piece:
    """One from foot to foot of every bent."""
    return Piece(
        key="base_rail",
        title="Base rail",
        cut="base rail",
        where="On the ground, from the front leg to the back one.",
        profile=base.section.name,
        mass_kg_per_m=base.section.mass_kg_per_m,
        lengths_m=np.full(bents, base.length_m),
        each="bent",
        bolted=True,
    )


def fixings(base: "Base", leg: Section, bents: int) -> tuple[Fixing, ...]:
    """Bolts of base rails, and the bars that keep feet in what is poured around them."""
    return (
        Fixing(
            "base_bolt",
            "Bolt, leg to base rail",
            2 * bents,
            "One at each foot.",
            Grip(base.push_n, (Ply(base.section), in_web(leg))),
        ),
        Fixing("foot_bar", "Bar through a foot", 2 * bents, "So that it cannot be pulled out."),
    )


def base_answer(base: "Base", bents: int) -> Answer:
    """How long base rails are cut."""
    return Answer(
        "frame",
        "base_rail",
        "Base rails, bolt to bolt",
        Working(
            "L_g",
            "a",
            (Input("a", "front line to back line", base.length_m, "tape"),),
            base.length_m,
            "tape",
            GEOMETRY,
            f"{bents} of them, {base.section.name}, bolt to bolt.",
        ),
    )
