"""The path from every module's frame to the rods, link by link, and which modules it does not reach.

module, clamp or strap, purlin, splice, purlin, strap, steel of the table; on rails there is a strap
from rail to pipe between, and the pipe is what is spliced. From the steel a lug, bare copper, the rods.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check, holds
from openfurrow.core.frame.plan import FramePlan
from openfurrow.core.modules.givens import ModulesGivens
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.working import Source

Floats = NDArray[np.float64]
Truths = NDArray[np.bool_]

BONDED = Source("NEC 250.136, 690.43 and 690.47; IEC 60364-7-712, 712.54", "from memory")


@dataclass(frozen=True)
class Link:
    """From one thing to the next, by what, how many of them, and whether it is known to bond."""

    start: str
    end: str
    by: str
    count: int
    known: bool

    @property
    def words(self) -> str:
        """From where to where, and by what."""
        return f"{self.start} to {self.end}, {self.by}"


@dataclass(frozen=True)
class Bonding:
    """``links`` from the modules on; ``reached`` (columns of every table, one after the other).

    ``straps`` are all that are to be bought, ``lugs`` one a table.
    """

    links: tuple[Link, ...]
    reached: Truths
    straps: int
    lugs: int
    cut_off: int


def bonding_of(
    rows: RowsPlan, structure: StructurePlan, frame: FramePlan, givens: ModulesGivens
) -> Bonding:
    """Each line has a strap on the piece that it begins with; the others hang on their splices.

    A module is reached where any clamp of its lies on a piece that is: frames of modules are no path,
    for each may be taken out.
    """
    stock, members = structure.members.stock, structure.members
    spliced = givens.steel_bonds != "nobody has looked"
    reached = spliced | _on_first_piece(rows, structure, frame, givens)
    lines = stock.lines * rows.tables.count
    rails = sum(piece.lengths_m.size for piece in members.pieces if piece.key == "rail")
    bridged = frame.splices if givens.steel_bonds == "a strap over every splice" else 0
    own = 0 if givens.clamps_bond else rows.module_count
    parted = [one.cut_off for one in frame.touches if frame.pads and one.cut_off[1]]
    held = ("rail" if stock.under_rails else stock.word, stock.word)
    links = [
        Link(
            "module",
            held[0],
            "clamps that bond" if givens.clamps_bond else "a strap each",
            rows.module_count,
            True,
        )
    ]
    if stock.under_rails:
        links.append(Link("rail", stock.word, "a strap each", rails, True))
    if frame.splices:
        by = {
            "nobody has looked": "laps and bolts" if stock.laps else "couplers",
            "its joints are listed to bond": "joints that are listed",
            "a strap over every splice": "a strap over each",
        }[givens.steel_bonds]
        links.append(Link(stock.word, f"next {stock.word}", by, frame.splices, spliced))
    links += [Link(piece, "post", "a strap over its pads", count, True) for piece, count in parted]
    links += [
        Link(stock.word, "post", "a strap on the first piece of each line", lines, True),
        Link("table", "bare copper", "a lug", rows.tables.count, True),
    ]
    across = sum(count for _, count in parted)
    return Bonding(
        links=tuple(links),
        reached=reached,
        straps=own + (rails if stock.under_rails else 0) + lines + bridged + across,
        lugs=rows.tables.count,
        cut_off=rows.modules_high * int((~reached).sum()),
    )


def _on_first_piece(
    rows: RowsPlan, structure: StructurePlan, frame: FramePlan, givens: ModulesGivens
) -> Truths:
    """Of every column of modules of every table whether it is clamped to the first piece of its lines.

    Purlins hold a module at both edges, rails at theirs: the nearer to the line's beginning counts. Of
    the two purlins under a module every other is turned round: it begins at the row's other end. On
    rails nobody knows to which pipe each is strapped: the one that is not turned counts.
    """
    of, number, _ = rows.each_column
    ends, turned = np.zeros(rows.tables.count), np.full(rows.tables.count, np.inf)
    for cut in frame.cuts:
        ends[cut.tables] = cut.pieces.lengths_m[0]
        if cut.turned is not None:
            turned[cut.tables] = cut.turned.starts_m[-1]
    rails = structure.posts.line.rails_m if structure.members.stock.under_rails else None
    # Two rails under each column, in order from the first.
    nearer = givens.purlin_end_m + number * rows.column_step_m
    if rails is not None:
        nearer = nearer + (float(rails[0]) - givens.purlin_end_m)
        return np.asarray(nearer <= ends[of] + 1e-9)
    further = nearer + rows.module_along_m
    return np.asarray((nearer <= ends[of] + 1e-9) | (further >= turned[of] - 1e-9))


def bonding_check(found: Bonding, modules: int) -> Check:
    """Whether every module has a path to the rods of which each link is known to bond."""
    return holds(
        "modules",
        "bond_path",
        "Every module has a path to the rods",
        not found.cut_off,
        f"{found.cut_off} of {modules} hang on splices that nobody has looked at"
        if found.cut_off
        else "link by link",
        "every link known to bond",
        remedy="Say that the joints are listed to bond, or put a strap over every splice: paint and "
        "slotted holes are no path.",
        source=BONDED,
        given="modules.steel_bonds",
        otherwise="look",
    )
