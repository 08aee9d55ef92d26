"""Where a table that is moved by hand comes to stand: the nearest place where it can, or why not."""

from dataclasses import dataclass, replace

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.givens import RowsGivens, TableGivens
from openfurrow.core.rows.tables import Tables
from openfurrow.core.site.plan import SitePlan

Floats = NDArray[np.float64]

# A hand places a table to so much; so near to a place where it would stand in line it is meant there.
HAND_M, REACH_M = 0.1, 0.4
# Less ground than this under two tables is rounding, as where they stand end to end.
SHARED_M2 = 1e-6


@dataclass(frozen=True)
class Snapped:
    """How far a table is moved from its place, and why it may not stand there; empty where it may."""

    along_m: float
    back_m: float
    refused: str


def snapped(
    site: SitePlan, rows: RowsPlan, givens: RowsGivens, table_id: str, to_m: tuple[float, float]
) -> Snapped:
    """The table of that id with the middle of its posts at a place (east, north), or nearest to it.

    It comes into line with a row, end to end with its neighbour by the usual gap, or back to its place
    where one of these is near. An id that no table has is one more table, as long as the others.
    """
    index = rows.stands.index_of(table_id)
    own = _own(givens, table_id)
    tables = rows.tables
    if index is None:
        one, share = _usual(rows), 1.0
        base, others = (0.0, 0.0), tables
    else:
        one = tables.take(np.array([index]))
        others = tables.take(np.arange(tables.count) != index)
        # Where it stands less how far it was moved: its place in the pattern, or the array's origin.
        share = _share_of_row(rows, own)
        base = (float(one.middle_m[0]) - own.along_m * share, float(one.back_m[0]) - own.back_m)
    along, back = (float(part) for part in rows.setting.along_back_m(*to_m))
    back = _nearest(back, [base[1], *_rows_back_m(others)])
    along = _nearest(along, [base[0], *_end_to_end_m(one, others, back)])
    moved = replace(one, middle_m=np.array([along]), back_m=np.array([back]))
    refused = (
        _refused(site, rows, replace(moved, section=at), replace(others, section=at), index)
        for at in (position.section for position in rows.positions)
    )
    return Snapped(
        round((along - base[0]) / share, 4) + 0.0,
        round(back - base[1], 4) + 0.0,
        next(filter(None, refused), ""),
    )


def _own(givens: RowsGivens, table_id: str) -> TableGivens:
    """What is told of a table by now."""
    found = next((one for one in givens.tables if table_id in (one.place, one.id)), None)
    return found or TableGivens(place=table_id if "." in table_id else "")


def _share_of_row(rows: RowsPlan, own: TableGivens) -> float:
    """Level metres to a metre along: as the pattern lies there, however its table lies by itself."""
    if not own.place:
        return 1.0
    row, table = (int(part) - 1 for part in own.place.split("."))
    return float(rows.even.tables.level_share[row * rows.even.tables.in_row + table])


def _usual(rows: RowsPlan) -> Tables:
    """A table as most are, turned as the rows."""
    return replace(rows.even.tables.take(np.array([0])), level_share=np.ones(1))


def _nearest(value_m: float, candidates: list[float]) -> float:
    """The candidate that is within reach, else the next that a hand sets."""
    best = min(candidates, key=lambda one: abs(one - value_m))
    return best if abs(best - value_m) <= REACH_M else round(value_m / HAND_M) * HAND_M


def _rows_back_m(tables: Tables) -> list[float]:
    """Every line of posts, and one row more before and behind."""
    rows = np.arange(int(tables.row.max(initial=0)) + 2 + 1) - 1
    return [float(row) * tables.pitch_m for row in rows]


def _end_to_end_m(one: Tables, others: Tables, back_m: float) -> list[float]:
    """Middles at which it would stand by the usual gap beside a table of the line that it is in."""
    beside = (np.abs(others.back_m - back_m) < 1e-6) & (others.turn_deg == one.turn_deg[0])
    mine = float(one.level_share[0] * one.lengths_m[0])
    step = (others.level_share * others.lengths_m + mine) / 2 + others.gap_m
    return [
        float(at) for sign in (-1.0, 1.0) for at in (others.middle_m + sign * step)[beside].tolist()
    ]


def _refused(site: SitePlan, rows: RowsPlan, one: Tables, others: Tables, index: int | None) -> str:
    """Why the glass may not lie there."""
    outline = one.outlines
    shared = shapely.area(shapely.intersection(outline[0], others.outlines))
    over = np.flatnonzero(shared > SHARED_M2)
    if over.size:
        # Counted without the table itself.
        at = int(over[0])
        at += index is not None and at >= index
        return f"it would stand over table {rows.stands.name_of(at)}"
    hits = site.keepouts.shapes_on(outline, "glass")
    if hits:
        return f"it would stand on {hits[0].label}"
    if bool(site.keepouts.shapes_outside(outline).any()):
        return "it would stand beyond the boundary or its setback"
    return ""
