"""A row of modules that climbs off its string: the gap at each of the next clamps that brings it back.

A module is set square to the one before it, turned by what the gap between them is wider at one edge
than at the other. Opened at the upper edge, the next module dips; at the lower edge it climbs:

    turn = (gap below - gap above) / height          climb of the next module = turn so far x step

Over the gaps this is a point that is pushed, with a push that is bounded: it comes to rest on the
string soonest where it is pushed back fully and then held up, and never crosses it.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import Bounds, LinearConstraint, milp

Floats = NDArray[np.float64]

# So near to the string is on it.
ON_STRING_M = 0.0005
# Gaps that are looked at; a row that is further off is set anew.
MOST_GAPS = 60
# Pushes that a metre nearer to the string is worth, at the end of a row that does not reach it.
NEARER = 1e6


@dataclass(frozen=True, kw_only=True)
class Row:
    """A row of modules: how many, from edge to edge, how high, and the gap.

    A gap opens by ``most_m`` at the most, in steps of ``hand_m``, which is what a hand sets it to.
    """

    modules: int
    step_m: float
    height_m: float
    gap_m: float
    most_m: float
    hand_m: float


@dataclass(frozen=True, kw_only=True)
class Corrected:
    """What brings a row back, gap by gap after the last module that is set.

    ``opened_m`` is positive where the gap is wider at the lower edge; ``off_m`` the offset from the
    string at the far end of each module that follows, ``left_alone_m`` what it would be if nothing were
    done. ``comes_back``: it is on the string and along it before the row ends.
    """

    opened_m: Floats
    off_m: Floats
    left_alone_m: Floats
    climb: float
    comes_back: bool

    @property
    def longer_m(self) -> float:
        """How much the row grows by what is opened, in its middle."""
        return float(np.abs(self.opened_m).sum() / 2)


def climb_of(row: Row, first: int, first_off_m: float, last: int, last_off_m: float) -> float:
    """Rise over run between the far ends of two modules; ``first`` 0 is where the row began.

    Raises ValueError unless the second comes after the first, both in the row.
    """
    if not 0 <= first < last <= row.modules:
        raise ValueError(f"the modules are counted from 1 to {row.modules}, the further one second")
    return (last_off_m - first_off_m) / ((last - first) * row.step_m)


def corrected(row: Row, last: int, off_m: float, climb: float) -> Corrected:
    """The gaps after module ``last``, whose far end is ``off_m`` above the string and climbs.

    No gap opens by more than ``row.most_m``, the row never crosses the string on its way back, and it
    comes back in the fewest gaps; where the row ends before, it ends as near as it can.
    """
    sign = -1.0 if off_m < 0 or (off_m == 0 and climb < 0) else 1.0
    left = min(row.modules - last, MOST_GAPS)
    off, slope = sign * off_m, sign * climb
    numbers = np.arange(1, left + 1)
    alone = np.asarray(off_m + climb * row.step_m * numbers, dtype=float)
    if abs(off) <= ON_STRING_M and abs(slope) <= _along_m(row):
        none = np.zeros(left)
        return Corrected(opened_m=none, off_m=alone, left_alone_m=alone, climb=climb, comes_back=True)
    pushes, back = np.zeros(left), False
    # The fewest gaps that can do it.
    for count in range(1, left + 1):
        found = _in_steps(row, off, slope, count, ends=True)
        if found is not None:
            pushes, back = np.concatenate((found, np.zeros(left - count))), True
            break
    if not back and left:
        nearest = _in_steps(row, off, slope, left, ends=False)
        pushes = pushes if nearest is None else nearest
    moved = _path(row, off, slope, pushes)
    return Corrected(
        opened_m=sign * pushes,
        off_m=sign * moved,
        left_alone_m=alone,
        climb=climb,
        comes_back=back,
    )


def _turned(row: Row, count: int) -> Floats:
    """How far each push moves the far end of each module, (modules, gaps)."""
    later = np.subtract.outer(np.arange(1, count + 1), np.arange(count))
    return np.maximum(later, 0) * row.step_m / row.height_m


def _path(row: Row, off: float, slope: float, pushes: Floats) -> Floats:
    count = pushes.size
    straight = off + slope * row.step_m * np.arange(1, count + 1)
    return np.asarray(straight + _turned(row, count) @ pushes)


def _in_steps(row: Row, off: float, slope: float, count: int, *, ends: bool) -> Floats | None:
    """Pushes in steps of a hand that never cross the string, the least in all; None if there are none.

    ``ends``: the row comes to rest on the string in so many gaps; else it comes as near as it can. Of
    each gap there are two unknowns, opened below and opened above, so that their sum is least.
    """
    turned = _turned(row, count) * row.hand_m
    straight = off + slope * row.step_m * np.arange(1, count + 1)
    rows, low, high = [turned], [-straight - ON_STRING_M], [np.full(count, np.inf)]
    least = np.full(count, 1.0)
    if ends:
        rows += [turned[-1:], np.full((1, count), row.hand_m / row.height_m)]
        for wanted, room in ((-straight[-1], ON_STRING_M), (-slope, _along_m(row))):
            low.append(np.array([wanted - room]))
            high.append(np.array([wanted + room]))
        both = np.concatenate((least, least))
    else:
        # A tenth of a millimetre nearer is worth more than any push.
        both = np.concatenate((least + turned[-1] * NEARER, least - turned[-1] * NEARER))
    matrix = np.vstack(rows)
    solved = milp(
        both,
        constraints=LinearConstraint(
            np.hstack((matrix, -matrix)), lb=np.concatenate(low), ub=np.concatenate(high)
        ),
        integrality=np.ones(2 * count, dtype=np.int64),
        bounds=Bounds(0, np.floor(row.most_m / row.hand_m + 1e-9)),
        options={"node_limit": 400},
    )
    if solved.x is None:
        return None
    steps = np.rint(solved.x)
    return np.asarray((steps[:count] - steps[count:]) * row.hand_m)


def _along_m(row: Row) -> float:
    """How little a row may still climb, rise over run: half of what a hand's step turns it by."""
    return row.hand_m / row.height_m / 2
