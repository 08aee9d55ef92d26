"""Frame: inclined beams on the posts, purlins along the row, a strut to each beam."""

from dataclasses import dataclass, replace

from openfurrow.core.checks import Check, at_least, at_most, holds, within
from openfurrow.core.codes import constant
from openfurrow.core.codes.section import section
from openfurrow.core.footings.posts import Posts
from openfurrow.core.frame.cutting import Pattern, PurlinLine, cut_line, cut_sticks
from openfurrow.core.frame.givens import FrameGivens
from openfurrow.core.frame.members import (
    Beam,
    Bending,
    Purlin,
    Strut,
    moment_at_strut_n_m,
    purlin_places_m,
    size_beam,
    size_purlin,
    size_strut,
)
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, Answer, Input, Source, Working

CONTINUOUS = Source("continuous beam by direct stiffness; AISC Manual diagrams agree", "physics")
STRENGTH = Source("AISC 360-16 F1 and AISI I6.2.1, or EN 1993-1-1 6.2.5", "from memory")
COLUMN = Source("AISC 360-16 E3, or EN 1993-1-1 6.3.1 curve c", "from memory")


@dataclass(frozen=True)
class FramePlan:
    """Members of every table; all tables are alike."""

    beam: Beam
    purlin: Purlin
    strut: Strut
    line: PurlinLine
    purlin_lines: int
    patterns: tuple[Pattern, ...]
    sag_limit_m: float
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]

    @property
    def sticks(self) -> int:
        """Purlin stock to order."""
        return sum(pattern.sticks for pattern in self.patterns)


def plan_frame(
    site: SitePlan, rows: RowsPlan, posts: Posts, givens: FrameGivens, gap_up_m: float
) -> FramePlan:
    """Size the members of one table and cut the purlins of all."""
    pack = site.rule_pack
    strength, service = posts.strength, posts.service
    places = purlin_places_m(rows.modules_high, rows.module_up_m, gap_up_m)
    purlin = size_purlin(rows, posts, section(givens.purlin_section), pack, strength, service)
    beam = size_beam(rows, posts, givens, places, section(givens.beam_section), pack, strength)
    strut = size_strut(
        rows.section, posts.reveals_m, givens, section(givens.strut_section), beam, pack)
    line = cut_line(posts.line.purlin_m, posts.line.along_m, givens.stock_length_m, givens.lap_m)
    lines = places.size * rows.tables_along * rows.rows
    pieces: dict[float, int] = {}
    for length in line.lengths_m:
        # Rounded for the saw, a piece of a whole stick must not come out longer than the stick.
        piece = min(round(length, 4), givens.stock_length_m)
        pieces[piece] = pieces.get(piece, 0) + lines
    patterns = cut_sticks(pieces, givens.stock_length_m)
    limit = purlin.sag_span_m / givens.deflection_divisor
    plan = FramePlan(beam, purlin, strut, line, lines, patterns, limit, (), ())
    return replace(
        plan, answers=_answers(plan, posts, givens), checks=_checks(plan, rows, posts, givens)
    )


def _answers(plan: FramePlan, posts: Posts, givens: FrameGivens) -> tuple[Answer, ...]:
    beam, strut, line = plan.beam, plan.strut, plan.line
    return (
        Answer("frame", "beam", "Cut inclined beams at", Working(
            "L_b", "y_last - y_first + 2 * e",
            (
                Input("y_last", "upper purlin from the lower edge", float(beam.places_m[-1]),
                      "tape"),
                Input("y_first", "lower purlin from the lower edge", float(beam.places_m[0]),
                      "tape"),
                Input("e", "beam beyond the purlin", beam.end_m, "tape"),
            ),
            beam.length_m, "tape", GEOMETRY, f"{posts.posts} of them, {beam.section.name}.",
        ), True),
        Answer("frame", "strut", "Cut struts at", Working(
            "L_s", "", (
                Input("x", "strut to post bolt, along the beam", beam.bolt_m - beam.strut_m,
                      "tape"),
                Input("h", "lower bolt above ground", givens.strut_foot_m, "tape"),
                Input("r", "tallest reveal", posts.reveal_m, "tape"),
                Input("L_min", "strut of the shortest reveal", float(strut.lengths_m.min()), "tape"),
            ),
            strut.length_m, "tape", GEOMETRY,
            "Bolt to bolt, at the tallest post. Each post's own stands in the stakes: on uneven ground "
            f"they differ. It meets the beam at {strut.angle_to_beam_deg:.0f}°.",
        ), True),
        Answer("frame", "purlin_pieces", "Cut each purlin line into", Working(
            "cuts", "", (
                Input("L", "purlin line", posts.line.purlin_m, "run"),
                Input("stock", "stock", givens.stock_length_m, "tape"),
                Input("lap", "splice lap", givens.lap_m, "tape"),
            ),
            float(len(line.lengths_m)), "count", GEOMETRY,
            "Spliced a fifth of a span from a post, where it bends least.",
        )),
        *(
            Answer("frame", f"piece_{index + 1}", f"Piece {index + 1} of each line", Working(
                f"L_{index + 1}", "",
                (Input("start", "starts along the row at", start, "run"),),
                length, "tape", GEOMETRY,
            ))
            for index, (start, length) in enumerate(
                zip(line.starts_m[:6], line.lengths_m[:6], strict=True)
            )
        ),
        Answer("frame", "sticks", "Purlin stock", Working(
            "n", "", (
                Input("lines", "purlin lines", float(plan.purlin_lines), "count"),
                Input("L", "length of each line", posts.line.purlin_m, "run"),
                Input("stock", "stock", givens.stock_length_m, "tape"),
            ),
            float(plan.sticks), "count",
            Source("first-fit decreasing over the cut list, 3 mm a saw cut", "solved"),
        ), True),
        *_member_answers(plan, float(posts.line.tributary_m.max())),
    )


def _bending_answer(key: str, label: str, member: Bending, source: Source) -> Answer:
    return Answer("frame", key, label, Working(
        "U", "max(M_p / R_p, M_l / R_l)",
        (
            Input("M_p", "bending when pressed", member.pressing_n_m, "moment"),
            Input("R_p", "resistance when pressed", member.limit_n_m, "moment"),
            Input("M_l", "bending when lifted", member.lifting_n_m, "moment"),
            Input("R_l", "resistance when lifted, outer flange free", member.lifting_limit_n_m,
                  "moment"),
        ),
        member.used, "ratio", source,
        "Gross section; local buckling of thin webs is for the maker's table to confirm.",
    ))


def _member_answers(plan: FramePlan, tributary_m: float) -> tuple[Answer, ...]:
    beam, purlin, strut = plan.beam, plan.purlin, plan.strut
    load = Input("w", "load on one purlin", purlin.load_n_per_m, "line_load")
    return (
        _bending_answer("purlin_use", "Purlin, used", purlin.bending, STRENGTH),
        _bending_answer("beam_use", "Inclined beam, used", beam.bending, STRENGTH),
        Answer("frame", "sag", "Purlin sags", Working(
            "f", "", (
                load,
                Input("I", "inertia", purlin.section.inertia_m4, "inertia"),
                Input("s", "span, twice the overhang", purlin.sag_span_m, "tape"),
            ),
            purlin.sag_m, "thickness", CONTINUOUS,
        )),
        Answer("frame", "reaction", "A purlin on its busiest beam", Working(
            "R", "w * t",
            (load, Input("t", "row carried there", tributary_m, "tape")),
            purlin.load_n_per_m * tributary_m, "force", CONTINUOUS,
            "What the two bolts of a crossing hold.",
        )),
        Answer("frame", "strut_force", "Push or pull in a strut", Working(
            "N_s", "R_s / sin(alpha)",
            (
                Input("R_s", "beam's reaction at the strut", beam.strut_pull_n, "force"),
                Input("alpha", "strut to beam", strut.angle_to_beam_deg, "angle"),
            ),
            strut.force_n, "force", CONTINUOUS,
        )),
    )


def _checks(
    plan: FramePlan, rows: RowsPlan, posts: Posts, givens: FrameGivens
) -> tuple[Check, ...]:
    beam, purlin, strut = plan.beam, plan.purlin, plan.strut
    return (
        at_most(
            "frame", "purlin", "Purlins carry the load", purlin.bending.used, 1.0, "ratio",
            remedy="A deeper purlin, or posts closer together.", source=STRENGTH,
            given="frame.purlin_section",
        ),
        at_most(
            "frame", "beam", "Inclined beams carry the load", beam.bending.used, 1.0, "ratio",
            remedy="A deeper beam, posts closer together, or a strut that reaches further.",
            source=STRENGTH, given="frame.beam_section",
        ),
        at_most(
            "frame", "sag", "Purlins stay straight enough", purlin.sag_m, plan.sag_limit_m,
            "thickness", remedy="A deeper purlin, or posts closer together.",
            source=COMMON_PRACTICE, given="frame.purlin_section", otherwise="look",
        ),
        at_most(
            "frame", "strut", "Struts do not buckle", strut.force_n, strut.limit_n, "force",
            remedy="A wider pipe, or a longer reach along the beam.", source=COLUMN,
            given="frame.strut_section",
        ),
        at_most(
            "frame", "post_at_strut", "The post stands the strut's push",
            moment_at_strut_n_m(posts, givens.strut_foot_m), posts.bending_limit_n_m, "moment",
            remedy="A lower strut foot, a heavier post, or posts closer together.",
            source=STRENGTH, given="frame.strut_foot_m",
        ),
        at_least(
            "frame", "strut_reach", "The strut meets the beam, not the air",
            beam.bolt_m - givens.strut_reach_m, 0.0, "tape",
            remedy="Shorten the reach: the beam ends before it.", source=GEOMETRY,
            given="frame.strut_reach_m",
        ),
        within(
            "frame", "strut_foot", "The strut rises to the beam",
            float(posts.reveals_m.min()) - givens.strut_foot_m, constant("common", "strut_rise_m"),
            "tape", most=False, remedy="Lower the strut's foot or raise the table.",
            given="frame.strut_foot_m",
        ),
        at_least(
            "frame", "stock", "A stick of purlin reaches over a span",
            givens.stock_length_m - givens.lap_m, posts.line.longest_span_m, "tape",
            remedy="Longer stock, or posts closer together: between two posts a splice would hang.",
            source=COMMON_PRACTICE, given="frame.stock_length_m",
        ),
        holds(
            "frame", "splices", "Splices sit where purlins bend least", plan.line.splices_in_place,
            "in place" if plan.line.splices_in_place else "between", "in place",
            remedy="Longer stock, or posts closer together, so that each piece reaches a post.",
            source=COMMON_PRACTICE, given="frame.stock_length_m", otherwise="look",
        ),
    )
