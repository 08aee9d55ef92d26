"""Frame: how long beams and struts are, where each line of purlins is spliced, and its pieces."""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check, at_least, holds
from openfurrow.core.codes import RulePack
from openfurrow.core.frame.below import Below, below_answers, below_of
from openfurrow.core.frame.bolts import bolt_answers, bolt_checks, bolted, chosen_bolt
from openfurrow.core.frame.cutting import (
    PurlinLine,
    alike_from_both_ends,
    bays_spliced,
    cut_line,
    from_other_end,
)
from openfurrow.core.frame.givens import FrameGivens
from openfurrow.core.frame.growth import growth_answers, growth_checks
from openfurrow.core.frame.mover.answers import mover_answers
from openfurrow.core.frame.mover.arm import Mover, mover_of
from openfurrow.core.frame.mover.rules import mover_checks
from openfurrow.core.frame.mover.tube import TubeDrive, tube_answers, tube_checks, tube_drive_of
from openfurrow.core.frame.slipping import slip_answers, slip_checks, slips_of
from openfurrow.core.frame.tilting import Tilting, tilting_answers, tilting_checks, tilting_of
from openfurrow.core.frame.touching import Touch, pads_of, touches, touching_answer, touching_check
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.stands import named
from openfurrow.core.site.givens import AirBites
from openfurrow.core.structures.members import Stock
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, Answer, Input, Working

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]


@dataclass(frozen=True)
class CutLine:
    """One way to cut a purlin line: how long it is, its pieces, and how many lines are cut so.

    ``tables`` are those that have it, counted from nought; ``turned`` how every other of their lines
    lies that begins at the row's other end, None where all lie alike. ``shared`` bays have splices of
    neighbours.
    """

    length_m: float
    pieces: PurlinLine
    lines: int
    tables: Integers
    turned: PurlinLine | None = None
    shared: int = 0


@dataclass(frozen=True)
class FramePlan:
    """What is cut for every table; ``cuts`` differ by length or by where the posts stand.

    The first is that of the most usual table. ``tilting`` is how tables are set to several tilts,
    ``mover`` what turns them on poles where they follow the sun, ``tube`` what does on lying tubes;
    ``touches`` which unlike metals lie on which and ``pads`` what parts them, ``below`` what covers the
    ground.
    """

    cuts: tuple[CutLine, ...]
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]
    tilting: Tilting | None = None
    mover: Mover | None = None
    tube: TubeDrive | None = None
    touches: tuple[Touch, ...] = ()
    pads: int = 0
    below: Below | None = None

    @property
    def line(self) -> PurlinLine:
        """The pieces of the most usual table's lines."""
        return self.cuts[0].pieces

    @property
    def lines_cut(self) -> tuple[tuple[float, PurlinLine], ...]:
        """How long every kind of line is, and its pieces."""
        return tuple((cut.length_m, cut.pieces) for cut in self.cuts)

    @property
    def purlin_lines(self) -> int:
        """Lines of all tables."""
        return sum(cut.lines for cut in self.cuts)

    @property
    def splices(self) -> int:
        """Splices in all lines."""
        return sum((len(cut.pieces.lengths_m) - 1) * cut.lines for cut in self.cuts)


def plan_frame(
    rows: RowsPlan,
    structure: StructurePlan,
    givens: FrameGivens,
    pack: RulePack,
    air: AirBites = "country or town",
) -> FramePlan:
    """Cut the purlins of every table, hold its bolts against what they get, and part its metals."""
    posts, stock = structure.posts, structure.members.stock
    cuts = []
    for number, line in enumerate(posts.lines):
        tables = np.flatnonzero(posts.line_of == number)
        # Where all tables of a size have posts shifted, none is cut for even ones.
        if tables.size:
            lap = givens.lap_m if stock.laps else 0.0
            pieces = cut_line(line.purlin_m, line.along_m, max(givens.stocks_m), lap)
            cut = CutLine(line.purlin_m, pieces, stock.lines * tables.size, tables)
            cuts.append(_staggered(cut, line.along_m, stock.lines, wanted=givens.staggered))
    cuts.sort(key=lambda cut: -cut.lines)
    plan = FramePlan(tuple(cuts), (), ())
    members, along = structure.members, structure.members.purlin.section.metal
    joints = bolted(members, plan.lines_cut, givens, pack)
    source, slips = chosen_bolt(givens, pack).source, slips_of(joints, givens, pack)
    tilting = tilting_of(rows, structure, posts.givens)
    mover, tube = mover_of(structure, posts.givens), tube_drive_of(structure)
    below = below_of(rows, givens)
    unlike = touches(structure, rows.module_count, givens, pack, air)
    return replace(
        plan,
        tilting=tilting,
        mover=mover,
        tube=tube,
        touches=unlike,
        pads=pads_of(unlike, givens),
        below=below,
        answers=(
            *_answers(plan, rows, structure, givens),
            *growth_answers(posts, stock, along),
            *tilting_answers(tilting, posts.givens),
            *mover_answers(mover, posts.givens),
            *tube_answers(tube, posts.givens),
            *bolt_answers(joints, givens, pack),
            *slip_answers(slips, givens, pack),
            *touching_answer(unlike, givens),
            *below_answers(below, givens),
        ),
        checks=(
            *_checks(plan, structure, givens),
            *growth_checks(rows, posts, stock, along),
            *tilting_checks(tilting, posts.givens),
            *mover_checks(mover, structure, posts.givens),
            *tube_checks(tube, posts.givens, plan.splices),
            *bolt_checks(joints, members.fixings, givens, source),
            *slip_checks(slips, givens, pack),
            touching_check(unlike, givens),
        ),
    )


def _staggered(cut: CutLine, supports_m: Floats, lines: int, *, wanted: bool) -> CutLine:
    """Every other line turned round, where that keeps neighbours from being spliced in one bay."""
    bays = bays_spliced(cut.pieces, supports_m)
    if lines < 2 or not bays:
        return cut
    if wanted and alike_from_both_ends(supports_m, cut.length_m):
        turned = from_other_end(cut.pieces, cut.length_m)
        shared = len(bays & bays_spliced(turned, supports_m))
        if shared < len(bays):
            return replace(cut, turned=turned, shared=shared)
    return replace(cut, shared=len(bays))


def _answers(
    plan: FramePlan, rows: RowsPlan, structure: StructurePlan, givens: FrameGivens
) -> tuple[Answer, ...]:
    return (
        *structure.members.cut_answers,
        *_purlin_answers(plan, rows, structure.members.stock, givens),
    )


def _purlin_answers(
    plan: FramePlan, rows: RowsPlan, stock: Stock, givens: FrameGivens
) -> tuple[Answer, ...]:
    usual, line = plan.cuts[0], plan.line
    return (
        Answer(
            "frame",
            "purlin_pieces",
            f"Cut each {stock.word} line into",
            Working(
                "cuts",
                "",
                (
                    Input("L", f"{stock.word} line", usual.length_m, "run"),
                    Input("stock", "stock", max(givens.stocks_m), "tape"),
                    Input("lap", "splice lap", givens.lap_m if stock.laps else 0.0, "tape"),
                ),
                float(len(line.lengths_m)),
                "count",
                GEOMETRY,
                "Spliced a fifth of a span from a post, where it bends least."
                + (" Every other line begins at the row's other end." if usual.turned else "")
                + (" Tables that differ stand below." if len(plan.cuts) > 1 else ""),
            ),
        ),
        *_pieces(plan.line),
        *_other_cuts(plan, rows),
        Answer(
            "frame",
            "lines",
            f"{stock.word.capitalize()} lines to cut",
            Working(
                "n",
                "k * t",
                (
                    Input("k", "lines of a table", float(stock.lines), "count"),
                    Input("t", "tables", float(rows.tables.count), "count"),
                ),
                float(plan.purlin_lines),
                "count",
                GEOMETRY,
                "How many sticks they take stands with the materials, where the saw cuts for the whole "
                "job.",
            ),
            True,
        ),
    )


def _pieces(line: PurlinLine) -> tuple[Answer, ...]:
    """The first pieces of a line, one by one."""
    return tuple(
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
        for index, (start, length) in enumerate(zip(line.starts_m[:6], line.lengths_m[:6], strict=True))
    )


# Ways to cut a line that are shown one by one; the list of cuts has them all.
SHOWN_CUTS = 6


def _other_cuts(plan: FramePlan, rows: RowsPlan) -> tuple[Answer, ...]:
    """How the lines of tables that differ are cut, which tables those are."""
    shown = plan.cuts[1 : 1 + SHOWN_CUTS]
    left = len(plan.cuts) - 1 - len(shown)
    return tuple(
        Answer(
            "frame",
            f"cut_{number}",
            f"Lines of {named(tuple(cut.tables.tolist()), 'table', rows.stands.name_of)}",
            Working(
                "L",
                "",
                tuple(
                    Input(f"L_{index + 1}", f"piece {index + 1}", length, "tape")
                    for index, length in enumerate(cut.pieces.lengths_m[:6])
                ),
                cut.length_m,
                "run",
                GEOMETRY,
                f"{len(cut.pieces.lengths_m)} to a line, {cut.lines} lines."
                + (
                    f" {left} more ways stand in the list of cuts."
                    if left and number == len(shown)
                    else ""
                ),
            ),
        )
        for number, cut in enumerate(shown, start=1)
    )


def _checks(plan: FramePlan, structure: StructurePlan, givens: FrameGivens) -> tuple[Check, ...]:
    stock = structure.members.stock
    in_place = all(cut.pieces.splices_in_place for cut in plan.cuts)
    return (
        at_least(
            "frame",
            "stock",
            f"A stick of {stock.word} reaches over a span",
            max(givens.stocks_m) - (givens.lap_m if stock.laps else 0.0),
            max(line.longest_span_m for line in structure.posts.lines),
            "tape",
            remedy="Longer stock, or posts closer together: between two posts a splice would hang.",
            source=COMMON_PRACTICE,
            given="frame.stock_length_m",
        ),
        holds(
            "frame",
            "splices",
            f"Splices sit where {stock.word}s bend least",
            in_place,
            "in place" if in_place else "between",
            "in place",
            remedy="Longer stock, or posts closer together, so that each piece reaches a post.",
            source=COMMON_PRACTICE,
            given="frame.stock_length_m",
            otherwise="look",
        ),
        *_staggered_check(plan, stock, givens),
    )


def _staggered_check(plan: FramePlan, stock: Stock, givens: FrameGivens) -> tuple[Check, ...]:
    """Whether lines that lie side by side are spliced in different bays; where several are at all."""
    if stock.lines < 2 or not plan.splices:
        return ()
    shared = sum(cut.shared for cut in plan.cuts)
    why = "Say so, or other stock" if not givens.staggered else "Other stock, or even posts"
    return (
        holds(
            "frame",
            "staggered",
            f"{stock.word.capitalize()}s side by side are spliced in different bays",
            not shared,
            f"in one bay at {shared} places of a table" if shared else "every other is turned round",
            "never two in one bay",
            remedy=f"{why}: where all lines end in one bay the table is softest there.",
            source=COMMON_PRACTICE,
            given="frame.stock_length_m" if givens.staggered else "frame.staggered",
            otherwise="look",
        ),
    )
