"""What is cut and clamped for a pipe grid besides posts and pipes: rails and cross braces."""

from openfurrow.core.codes.section import Section
from openfurrow.core.structures.bents.cuts import brace_answer, brace_bolts, brace_piece
from openfurrow.core.structures.bents.sized import Brace
from openfurrow.core.structures.members import Fixing, Piece, Stock
from openfurrow.core.structures.rails import Rail, rail_piece
from openfurrow.core.working import GEOMETRY, Answer, Input, Working

STOCK = Stock(
    lines=2,
    word="pipe",
    title="Pipe stock",
    cut="pipe piece",
    laps=False,
    under_rails=True,
    splice_key="coupler",
    splice="Coupler, pipe to pipe",
    parts=1,
    where="One a joint.",
)


def pieces(rail: Rail, rails: int, brace: Brace | None) -> tuple[Piece, ...]:
    """Two rails a column of modules, a cross brace at every pair of posts."""
    found = rail_piece(rail, rails)
    return (found,) if brace is None else (found, brace_piece(brace))


def fixings(pairs: int, rails: int, brace: Brace | None, post: Section) -> tuple[Fixing, ...]:
    """What holds pipes on posts and rails on pipes."""
    found = [
        Fixing("saddle", "Saddle, pipe on post", 2 * pairs, "One on each post's head.", rated=True),
        Fixing("rail_clamp", "U-bolt, rail to pipe", 2 * rails, "One at each pipe.", rated=True),
    ]
    if brace is not None:
        found.append(brace_bolts(brace, post, 2 * pairs))
    return tuple(found)


def cut_answers(rail: Rail, rails: int, brace: Brace | None) -> tuple[Answer, ...]:
    """How long rails and braces are cut."""
    own = Answer(
        "frame",
        "rail",
        "Cut rails at",
        Working(
            "L_r",
            "c + 2 * e",
            (
                Input("c", "lower to upper edge of the glass", rail.length_m - 2 * rail.end_m, "tape"),
                Input("e", "rail beyond the glass, for the end clamp", rail.end_m, "tape"),
                Input("y_1", "lower pipe from the lower edge", float(rail.places_m[0]), "tape"),
                Input("y_2", "upper pipe from the lower edge", float(rail.places_m[1]), "tape"),
            ),
            rail.length_m,
            "tape",
            GEOMETRY,
            f"{rails} of them, {rail.section.name}.",
        ),
        True,
    )
    return (own,) if brace is None else (own, brace_answer(brace))
