"""Cross braces of bents: how they are cut and bolted."""

from openfurrow.core.codes.section import Section
from openfurrow.core.structures.bents.sized import Brace
from openfurrow.core.structures.members import Fixing, Grip, Piece, Ply, in_web
from openfurrow.core.working import GEOMETRY, Answer, Input, Working


def brace_piece(brace: Brace) -> Piece:
    """Cross braces, one a bent."""
    return Piece(
        key="brace",
        title="Cross brace",
        cut="cross brace",
        where="Low on the front post to the head of the back one.",
        profile=brace.section.name,
        mass_kg_per_m=brace.section.mass_kg_per_m,
        lengths_m=brace.lengths_m,
        each="bent",
        bolted=True,
    )


def brace_bolts(brace: Brace, post: Section, count: int) -> Fixing:
    """One bolt at either end of each."""
    return Fixing(
        "brace_bolt",
        "Bolt, cross brace",
        count,
        "Both ends of each brace.",
        Grip(brace.most_n, (Ply(brace.section), in_web(post))),
    )


def brace_answer(brace: Brace) -> Answer:
    """How long cross braces are cut."""
    return Answer(
        "frame",
        "brace",
        "Cross braces, bolt to bolt",
        Working(
            "L_x",
            "",
            (Input("L_min", "at the shortest front post", float(brace.lengths_m.min()), "tape"),),
            float(brace.lengths_m.max()),
            "tape",
            GEOMETRY,
            "At the tallest front post; the saw leaves more past each bolt. Each bent's own stands in "
            "the stakes.",
        ),
        True,
    )
