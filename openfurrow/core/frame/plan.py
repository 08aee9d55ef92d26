"""Frame: what is cut for inclined beams, purlins and struts, and from how many sticks."""

from dataclasses import dataclass, replace

from openfurrow.core.checks import Check, at_least, holds
from openfurrow.core.frame.cutting import Pattern, PurlinLine, cut_line, cut_sticks
from openfurrow.core.frame.givens import FrameGivens
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.one_post_line.layout import PostLine
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, Answer, Input, Source, Working


@dataclass(frozen=True)
class FramePlan:
    """What is cut for every table; all tables are alike."""

    line: PurlinLine
    purlin_lines: int
    patterns: tuple[Pattern, ...]
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]

    @property
    def sticks(self) -> int:
        """Purlin stock to order."""
        return sum(pattern.sticks for pattern in self.patterns)


def plan_frame(rows: RowsPlan, structure: StructurePlan, givens: FrameGivens) -> FramePlan:
    """Cut the purlins of every table."""
    posts, beam = structure.posts.line, structure.members.beam
    line = cut_line(posts.purlin_m, posts.along_m, givens.stock_length_m, givens.lap_m)
    lines = beam.places_m.size * rows.tables_along * rows.rows
    pieces: dict[float, int] = {}
    for length in line.lengths_m:
        # Rounded for the saw, a piece of a whole stick must not come out longer than the stick.
        piece = min(round(length, 4), givens.stock_length_m)
        pieces[piece] = pieces.get(piece, 0) + lines
    patterns = cut_sticks(pieces, givens.stock_length_m)
    plan = FramePlan(line, lines, patterns, (), ())
    return replace(plan, answers=_answers(plan, structure, givens), checks=_checks(plan, posts, givens))


def _answers(plan: FramePlan, structure: StructurePlan, givens: FrameGivens) -> tuple[Answer, ...]:
    beam, strut = structure.members.beam, structure.members.strut
    line, posts, supports = plan.line, structure.posts.line, structure.supports
    return (
        Answer(
            "frame",
            "beam",
            "Cut inclined beams at",
            Working(
                "L_b",
                "y_last - y_first + 2 * e",
                (
                    Input(
                        "y_last", "upper purlin from the lower edge", float(beam.places_m[-1]), "tape"
                    ),
                    Input(
                        "y_first", "lower purlin from the lower edge", float(beam.places_m[0]), "tape"
                    ),
                    Input("e", "beam beyond the purlin", beam.end_m, "tape"),
                ),
                beam.length_m,
                "tape",
                GEOMETRY,
                f"{supports.count} of them, {beam.section.name}.",
            ),
            True,
        ),
        Answer(
            "frame",
            "strut",
            "Cut struts at",
            Working(
                "L_s",
                "",
                (
                    Input(
                        "x", "strut to post bolt, along the beam", beam.bolt_m - beam.strut_m, "tape"
                    ),
                    Input("h", "lower bolt above ground", strut.foot_m, "tape"),
                    Input("r", "tallest reveal", supports.tallest_m, "tape"),
                    Input(
                        "L_min", "strut of the shortest reveal", float(strut.lengths_m.min()), "tape"
                    ),
                ),
                strut.length_m,
                "tape",
                GEOMETRY,
                "Bolt to bolt, at the tallest post. Each post's own stands in the stakes: on uneven "
                f"ground they differ. It meets the beam at {strut.angle_to_beam_deg:.0f}°.",
            ),
            True,
        ),
        Answer(
            "frame",
            "purlin_pieces",
            "Cut each purlin line into",
            Working(
                "cuts",
                "",
                (
                    Input("L", "purlin line", posts.purlin_m, "run"),
                    Input("stock", "stock", givens.stock_length_m, "tape"),
                    Input("lap", "splice lap", givens.lap_m, "tape"),
                ),
                float(len(line.lengths_m)),
                "count",
                GEOMETRY,
                "Spliced a fifth of a span from a post, where it bends least.",
            ),
        ),
        *(
            Answer(
                "frame",
                f"piece_{index + 1}",
                f"Piece {index + 1} of each line",
                Working(
                    f"L_{index + 1}",
                    "",
                    (Input("start", "starts along the row at", start, "run"),),
                    length,
                    "tape",
                    GEOMETRY,
                ),
            )
            for index, (start, length) in enumerate(
                zip(line.starts_m[:6], line.lengths_m[:6], strict=True)
            )
        ),
        Answer(
            "frame",
            "sticks",
            "Purlin stock",
            Working(
                "n",
                "",
                (
                    Input("lines", "purlin lines", float(plan.purlin_lines), "count"),
                    Input("L", "length of each line", posts.purlin_m, "run"),
                    Input("stock", "stock", givens.stock_length_m, "tape"),
                ),
                float(plan.sticks),
                "count",
                Source("first-fit decreasing over the cut list, 3 mm a saw cut", "solved"),
            ),
            True,
        ),
    )


def _checks(plan: FramePlan, line: PostLine, givens: FrameGivens) -> tuple[Check, ...]:
    return (
        at_least(
            "frame",
            "stock",
            "A stick of purlin reaches over a span",
            givens.stock_length_m - givens.lap_m,
            line.longest_span_m,
            "tape",
            remedy="Longer stock, or posts closer together: between two posts a splice would hang.",
            source=COMMON_PRACTICE,
            given="frame.stock_length_m",
        ),
        holds(
            "frame",
            "splices",
            "Splices sit where purlins bend least",
            plan.line.splices_in_place,
            "in place" if plan.line.splices_in_place else "between",
            "in place",
            remedy="Longer stock, or posts closer together, so that each piece reaches a post.",
            source=COMMON_PRACTICE,
            given="frame.stock_length_m",
            otherwise="look",
        ),
    )
