"""What is cut and bolted for one post line besides posts and purlins: beams and struts."""

import math

from openfurrow.core.structures.members import (
    Fixing,
    Grip,
    Piece,
    Ply,
    beam_answer,
    beam_piece,
    crossing_bolts,
    in_web,
)
from openfurrow.core.structures.one_post_line.members import Beam, Strut
from openfurrow.core.structures.purlins import Purlin
from openfurrow.core.working import GEOMETRY, Answer, Input, Working

# One pivot, two ends of the strut.
BOLTS_A_POST = 3


def pieces(beam: Beam, strut: Strut) -> tuple[Piece, ...]:
    """A beam and a strut at every post.

    Where tables are set to several tilts a strut is never one plain pipe, whatever travel was said.
    """
    moves = strut.adjustable or strut.travel_m > 0
    return (
        beam_piece(beam, strut.lengths_m.size, "post"),
        Piece(
            key="strut",
            title="Adjustable strut" if moves else "Strut",
            cut="adjustable strut, at its longest" if moves else "strut",
            where="Post foot to beam."
            + (" Holes, a slot or a jack for every tilt, by the structure." if moves else ""),
            profile=strut.section.name,
            mass_kg_per_m=strut.section.mass_kg_per_m,
            lengths_m=strut.lengths_m,
            each="post",
            bolted=True,
            from_stick=not moves,
        ),
    )


def fixings(beam: Beam, strut: Strut, purlin: Purlin, post: Ply) -> tuple[Fixing, ...]:
    """Bolts at every post, and where purlins cross its beam."""
    cotangent = math.sqrt(1 - strut.flattest**2) / strut.flattest
    force_n = max(beam.pivot_n(cotangent), strut.most_n)
    return (
        Fixing(
            "post_bolt",
            "Bolt, post to beam and strut",
            strut.lengths_m.size * BOLTS_A_POST,
            "One pivot and two strut bolts a post, with nut and washers.",
            Grip(force_n, (in_web(beam.section), Ply(strut.section), post)),
        ),
        crossing_bolts(strut.lengths_m.size, beam.places_m.size, purlin, beam.section),
    )


def cut_answers(beam: Beam, strut: Strut, tallest_m: float) -> tuple[Answer, ...]:
    """How long beams and struts are cut."""
    return (
        beam_answer(beam, strut.lengths_m.size),
        Answer(
            "frame",
            "strut",
            "Struts, bolt to bolt",
            Working(
                "L_s",
                "",
                (
                    Input(
                        "x", "strut to post bolt, along the beam", beam.bolt_m - beam.strut_m, "tape"
                    ),
                    Input("h", "lower bolt above ground", strut.foot_m, "tape"),
                    Input("r", "tallest reveal", tallest_m, "tape"),
                    Input(
                        "L_min", "strut of the shortest reveal", float(strut.lengths_m.min()), "tape"
                    ),
                ),
                strut.length_m,
                "tape",
                GEOMETRY,
                "At the tallest post; the saw leaves more past each bolt. Each post's own stands in "
                "the stakes: on uneven ground they differ. "
                f"It meets the beam at {strut.angle_to_beam_deg:.0f}°.",
            ),
            True,
        ),
    )
