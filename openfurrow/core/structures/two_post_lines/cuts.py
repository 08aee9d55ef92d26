"""What is cut and bolted for two post lines besides posts and purlins: beams, cross braces, cables."""

from typing import TYPE_CHECKING

from openfurrow.core.codes import constant
from openfurrow.core.structures.bents.cuts import brace_answer, brace_bolts, brace_piece
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
from openfurrow.core.working import COMMON_PRACTICE, Answer, Input, Working

if TYPE_CHECKING:
    from openfurrow.core.structures.two_post_lines.members import Members

BOLTS_A_BRACE, BOLTS_A_CABLE, GRIPS_A_CABLE = 2, 2, 6


def pieces(members: "Members") -> tuple[Piece, ...]:
    """A beam and a cross brace at every bent, two cables to every crossed bay of each line."""
    found = [beam_piece(members.beam, members.bents, "bent")]
    if (brace := members.brace) is not None:
        found.append(brace_piece(brace))
    if (cable := members.along.cable) is not None:
        found.append(
            Piece(
                key="cable",
                title="Cross cable",
                cut="cable, its ends laid back",
                where="Two to a crossed bay, front and back.",
                profile=cable.name,
                mass_kg_per_m=cable.mass_kg_per_m,
                lengths_m=cable.lengths_m + constant("common", "cable_ends_m").value,
                each="cable",
                from_stick=False,
            )
        )
    return tuple(found)


def fixings(members: "Members") -> tuple[Fixing, ...]:
    """Bolts at heads and braces; of every cable its eye bolts, its grips and what tightens it."""
    bents = members.bents
    found = [
        Fixing(
            "post_bolt",
            "Bolt, post to beam",
            2 * bents,
            "One at each head, with nut.",
            Grip(
                members.head_n,
                (in_web(members.beam.section), Ply(members.posts.section, members.post_top_m)),
            ),
        ),
        crossing_bolts(bents, members.beam.places_m.size, members.purlin, members.beam.section),
    ]
    if members.brace is not None:
        found.append(brace_bolts(members.brace, members.posts.section, BOLTS_A_BRACE * bents))
    if (cable := members.along.cable) is not None:
        count = cable.lengths_m.size
        found += [
            Fixing(
                "eye_bolt",
                "Eye bolt, cable",
                BOLTS_A_CABLE * count,
                "Both ends of each cable.",
                rated=True,
            ),
            Fixing(
                "cable_grip",
                f"Grip for {cable.name}",
                GRIPS_A_CABLE * count,
                "Three an end.",
                rated=True,
            ),
            Fixing(
                "turnbuckle",
                f"Turnbuckle for {cable.name}",
                count,
                "One a cable, locked.",
                rated=True,
            ),
        ]
    return tuple(found)


def cut_answers(members: "Members") -> tuple[Answer, ...]:
    """How long beams, braces and cables are cut."""
    found = [beam_answer(members.beam, members.bents)]
    if (brace := members.brace) is not None:
        found.append(brace_answer(brace))
    if (cable := members.along.cable) is not None:
        ends = constant("common", "cable_ends_m")
        found.append(
            Answer(
                "frame",
                "cable",
                "Cut cables at",
                Working(
                    "L_c",
                    "L + e",
                    (
                        Input("L", "longest, bolt to bolt", float(cable.lengths_m.max()), "tape"),
                        Input("e", "laid back at both ends", ends.value, "tape"),
                    ),
                    float(cable.lengths_m.max()) + ends.value,
                    "tape",
                    COMMON_PRACTICE,
                    f"{cable.lengths_m.size} of them, {cable.name}. The turnbuckle takes up what "
                    "they differ.",
                ),
            )
        )
    return tuple(found)
