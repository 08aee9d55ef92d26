"""Whether leads reach: from module to module, from a module to its box, and what bridges the rest."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant
from openfurrow.core.modules.givens import ModulesGivens
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.wiring.givens import Box, Laying, Plugs
from openfurrow.core.wiring.strings import homeruns_m
from openfurrow.core.wiring.walks import ModulesAt, modules_at, strings_of, walked

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]
Truths = NDArray[np.bool_]
ANOTHER: Plugs = "another make"
# Wire that would be saved by less than this is none.
SAME_M = 1e-3


@dataclass(frozen=True, kw_only=True)
class Leads:
    """The order in which strings pass the modules, and every link from one to the next.

    ``order`` are modules as they are counted off. Of the links, which follow each other in that order:
    ``string``, whether it is ``within`` one table, what it asks of two leads in ``need_m``, whether it
    is ``wired`` by a wire of its own, and how long that is in ``wire_m``. ``reach_m`` is what two leads
    have. Of modules with boxes: ``box_need_m`` for each row of modules and either lead, ``box_reach_m``
    what it has, and ``box_short`` the leads that something is made up for. ``sealed`` are plugs of a
    trunk cable that stay empty, farther from box to box than from plug to plug. ``leaves_m`` and
    ``arrives_m`` (modules in that order, 2) are the places of ``plugs_m`` or ``boxes_m`` by which a
    string leaves each of its modules and arrives at it.
    """

    order: Integers
    string: Integers
    within: Truths
    need_m: Floats
    reach_m: float
    wired: Truths
    wire_m: Floats
    box_need_m: Floats
    box_reach_m: float
    box_short: int
    sealed: int
    leaves_m: Floats
    arrives_m: Floats

    @property
    def farthest_m(self) -> float:
        """The most that any link on one table asks; nought where there is none."""
        return float(self.need_m[self.within].max(initial=0.0))

    @property
    def jumpers(self) -> int:
        """Wires between modules, and between modules and their boxes."""
        return int(self.wired.sum()) + self.box_short

    @property
    def box_wire_m(self) -> float:
        """What all leads lack that do not reach their box, together."""
        rows = self.box_need_m.shape[0]
        lacks = np.maximum(self.box_need_m - self.box_reach_m, 0.0).sum()
        return float(lacks) * (self.order.size / rows) if rows else 0.0


def plugs_m(rows: RowsPlan, modules: ModulesGivens) -> Floats:
    """Where the two leads leave the modules of each row, (rows, leads, 2).

    Along from the column's middle, and up from the table's lower edge. A module that stands has the
    side with its box above, one that lies has it before; every second one may be turned half round::

        stands           lies
        +--o  o--+       +---------+
        |        |       o         |
        |        |       o         |
        +--------+       +---------+
    """
    deep, apart = modules.junction_m
    lows = rows.lows_m
    along, up = rows.module_along_m / 2, rows.module_up_m / 2
    # From the middle of a module; the first of its two leads is to the left, or below.
    box = (deep - along, 0.0) if rows.across else (0.0, up - deep)
    half = (0.0, apart / 2) if rows.across else (apart / 2, 0.0)
    leads = np.array([np.subtract(box, half), np.add(box, half)])
    turned = (np.arange(lows.size) % 2 == 1) & modules.every_second_turned
    found = np.where(turned[:, None, None], -leads, leads)
    return np.asarray(found + np.stack((np.zeros_like(lows), lows + up), axis=1)[:, None, :])


def boxes_m(rows: RowsPlan, modules: ModulesGivens, box: Box) -> Floats:
    """Where the box of each row's modules hangs, (rows, 2), as ``plugs_m`` has it."""
    grip, side = rows.clamped_m(rows.module_up_m), rows.module_up_m
    up = {"the upper purlin": side - grip, "the lower purlin": grip}.get(box.hangs)
    ups = plugs_m(rows, modules).mean(axis=1)[:, 1] if up is None else rows.lows_m + up
    middle = plugs_m(rows, modules).mean(axis=1)[:, 0] if up is None else 0.0
    return np.stack((np.full(ups.size, box.aside_m) + middle, ups), axis=1)


def _links(
    at: ModulesAt, order: Integers, leaves_m: Floats, arrives_m: Floats
) -> tuple[Floats, Truths]:
    """What each link from one module to the next asks, and whether it is of one line of tables.

    Where strings leave and arrive at the modules in their order, (modules, 2). Tied along frames and
    purlins: along and up, never slantwise.
    """
    here, there = order[:-1], order[1:]
    same = at.table[here] == at.table[there]
    in_line = same | (at.line[here] == at.line[there])
    along = np.where(
        same,
        at.from_middle_m[there] - at.from_middle_m[here],
        at.along_m[there] - at.along_m[here],
    )
    leaves, arrives = leaves_m[:-1], arrives_m[1:]
    apart = np.abs(along + arrives[:, 0] - leaves[:, 0]) + np.abs(arrives[:, 1] - leaves[:, 1])
    off = np.where(same, 0.0, np.abs(at.back_m[there] - at.back_m[here]))
    return np.asarray(apart + off), np.asarray(in_line)


def nearer_ends(
    at: ModulesAt, lengths: Integers, laying: Laying, box_m: tuple[float, float], *, one_end: bool
) -> tuple[Integers, Truths]:
    """The order in which strings pass their modules, and of each whether it begins at the far end.

    Each begins at the end from which less wire goes to ``box_m``, along and back: from both its ends,
    or, ``one_end``, from the nearer alone.
    """
    plain, far = (walked(at, lengths, laying.walk, from_far=one) for one in (False, True))
    ways = [homeruns_m(at, order, lengths, box_m) for order in (plain, far)]
    wire = [np.minimum(*ends) if one_end else np.add(*ends) for ends in ways]
    turned = np.asarray(wire[1] < wire[0] - SAME_M)
    # Whichever way they go, each string passes the same modules.
    return np.where(turned[strings_of(lengths)], far, plain), turned


def lead_on(
    rows: RowsPlan,
    modules: ModulesGivens,
    lengths: Integers,
    laying: Laying,
    box_m: tuple[float, float],
) -> tuple[ModulesAt, Leads]:
    """Lay the strings from module to module. Which pole leads is chosen so that most leads reach."""
    at, box = modules_at(rows), laying.box
    one_end = box is not None and box.trunk_m is not None
    order, turned = nearer_ends(at, lengths, laying, box_m, one_end=one_end)
    ease = constant("common", "lead_ease_m").value
    plugs = plugs_m(rows, modules)
    hung = None if box is None else boxes_m(rows, modules, box)
    # A box has both its ends at one place.
    ends = plugs if hung is None else np.repeat(hung[:, None, :], 2, axis=1)
    trunk_m = None if box is None else box.trunk_m
    reach = 2 * (modules.lead_m if box is None else box.output_m) if trunk_m is None else trunk_m
    strings = strings_of(lengths)
    of = strings[:-1]
    joined = strings[:-1] == strings[1:]

    row = at.row[order]

    def best(mine: Truths) -> int:
        """Of some strings the pole that leads."""

        def lacking(out: int) -> tuple[int, float]:
            asked, _ = _links(at, order, ends[row, out], ends[row, 1 - out])
            asked = np.where(joined & mine[of], asked + ease, 0.0)
            # Ways that are as long by symmetry are not told apart by how they are summed.
            return int((asked > reach + 1e-9).sum()), round(float(asked.sum()), 6)

        return min((1, 0), key=lacking)

    # Where strings go the other way the other pole leads.
    out = np.where(turned, best(turned), best(~turned))[strings]
    leaves, arrives = ends[row, out], ends[row, 1 - out]
    needs, in_line = _links(at, order, leaves, arrives)
    # What hangs on a trunk cable has a tail of its own for that.
    need = np.where(joined, needs + (ease if trunk_m is None else 0.0), 0.0)
    # A trunk cable goes on to its next plug but one; only to another line another piece begins.
    short = (need > reach + 1e-9) if trunk_m is None else np.zeros_like(joined)
    wired = joined & (~in_line | short)
    plugs_on = np.ceil(need[joined & in_line] / reach - 1e-9) if trunk_m is not None else np.ones(0)
    # Where it goes over to another line it is a wire from end to end; else it bridges what is missing.
    wire = np.where(wired, np.where(in_line, need - reach, needs), 0.0)
    asked = np.empty((0, 2)) if hung is None else np.abs(plugs - hung[:, None, :]).sum(axis=2) + ease
    has = 0.0 if box is None else modules.lead_m + box.input_m
    # Where plugs do not fit each other a made-up wire stands between, reach or not.
    unfit = asked > (-1.0 if box is not None and box.plugs == ANOTHER else has + 1e-9)
    return at, Leads(
        order=order,
        string=of,
        within=joined & (at.table[order[:-1]] == at.table[order[1:]]),
        need_m=need,
        reach_m=reach,
        wired=wired,
        wire_m=wire,
        leaves_m=leaves,
        arrives_m=arrives,
        box_need_m=asked,
        box_reach_m=has,
        sealed=int(np.maximum(plugs_on - 1, 0).sum()),
        box_short=int(unfit.sum()) * (order.size // max(1, len(asked))),
    )
