"""Tables that see the same before them are of one kind: a field of thousands has a few dozen."""

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.energy.ahead import Ahead
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.lie import Lie
from openfurrow.core.rows.tables import Tables

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

# Rows ahead that are looked past, and how far ahead a table is looked for at all.
LOOKED_PAST, LOOKED_AHEAD_M = 2, 60.0
# What is beyond a table's end by more than this shades it at dawn and dusk alone.
ALONG_M = 25.0
MOST_KINDS = 48
# How long a table counts that stands askew, and how near at the nearest.
LONG_M, LEAST_BEFORE_M = 1000.0, 0.05
# Steps in which distances, heights, ends and climbs count as alike; coarser where kinds are too many.
STEPS = np.array([0.05, 0.02, 1.0, 1.0, 0.01])


def _before(tables: Tables) -> NDArray[np.object_]:
    """The strip of ground before each table, as wide as it is, in which others are looked for."""
    ends = np.array([-0.5, 0.5, 0.5, -0.5]) * tables.lengths_m[:, None]
    deep = tables.edge_back_m - np.array([0.05, 0.05, LOOKED_AHEAD_M, LOOKED_AHEAD_M])
    places = tables.east_north_m(np.arange(tables.count)[:, None], ends, deep[None, :])
    return np.asarray(shapely.polygons(np.stack(places, axis=2)))


def _pairs(tables: Tables) -> tuple[Integers, Integers]:
    own, other = shapely.STRtree(tables.outlines).query(_before(tables), predicate="intersects")
    apart = own != other
    return own[apart], other[apart]


def ahead_of_tables(lie: Lie) -> Ahead:
    """Of every table the two nearest rows ahead: each counts as high as its highest part there."""
    tables = lie.tables
    own, other = _pairs(tables)
    section = tables.section
    upper = tables.edge_back_m + section.level_depth_m
    middle = tables.east_north_m(other, 0.0, upper)
    along, back = tables.on_table_m(own, *middle)
    before = tables.edge_back_m - back
    # Where on the other's edge the own middle looks, within the other.
    half = tables.lengths_m[other] / 2
    place = np.clip(-along, -half, half)
    level = lie.edge_at(other, place) + section.rise_m
    over = level - lie.edge_level_m[own]
    ends = _ends_of_lines(tables)
    # Askew to each other they count for as near as the nearer end, and for long: no less is shaded.
    askew = tables.turn_deg[own] != tables.turn_deg[other]
    for end in (-half, half):
        _, at = tables.on_table_m(own, *tables.east_north_m(other, end, upper))
        before = np.where(askew, np.minimum(before, tables.edge_back_m - at), before)
    before = np.where(askew, np.maximum(before, LEAST_BEFORE_M), before)
    plain = ~askew & (tables.turn_deg[own] == 0)
    aside = np.where(plain, tables.middle_m[own], 0.0)
    from_m = np.where(plain, ends[0][other] - aside, np.where(askew, -LONG_M, along - half))
    to_m = np.where(plain, ends[1][other] - aside, np.where(askew, LONG_M, along + half))
    nearest = before > 1e-6
    own, before, over = own[nearest], before[nearest], over[nearest]
    from_m, to_m = from_m[nearest], to_m[nearest]
    # Tables of one line ahead are one thing: as near, as high, as long as any of them.
    key = own.astype(np.int64) * (int(tables.line.max()) + 2) + tables.line[other[nearest]]
    unique, index = np.unique(key, return_inverse=True)
    joined = np.full((4, len(unique)), np.inf)
    for number, column in enumerate((before, -over, from_m, -to_m)):
        np.minimum.at(joined[number], index, column)
    of = (unique // (int(tables.line.max()) + 2)).astype(np.int64)
    return _columns(tables, lie, of, joined)


def _ends_of_lines(tables: Tables) -> tuple[Floats, Floats]:
    """Where the line of each table's posts begins and ends, along; a table off its row by itself."""
    half = tables.lengths_m * tables.level_share / 2
    _, of = np.unique(tables.line, return_inverse=True)
    low, high = np.full(of.max() + 1, np.inf), np.full(of.max() + 1, -np.inf)
    np.minimum.at(low, of, tables.middle_m - half)
    np.maximum.at(high, of, tables.middle_m + half)
    return low[of], high[of]


def _columns(tables: Tables, lie: Lie, of: Integers, joined: Floats) -> Ahead:
    """The nearest of each table side by side."""
    order = np.lexsort((joined[0], of))
    of, joined = of[order], joined[:, order]
    starts = np.searchsorted(of, np.arange(tables.count))
    rank = np.arange(len(of)) - starts[of]
    kept = rank < LOOKED_PAST
    shape = (tables.count, LOOKED_PAST)

    def column(values: Floats, none: float) -> Floats:
        found = np.full(shape, none)
        found[of[kept], rank[kept]] = values[kept]
        return found

    return Ahead(
        before_m=column(joined[0], np.inf),
        over_m=column(-joined[1], 0.0),
        from_m=column(joined[2], 0.0),
        to_m=column(-joined[3], 0.0),
        length_m=tables.lengths_m.copy(),
        rise=lie.rise_along.copy(),
    )


def kinds_of(tables: Tables, ahead: Ahead) -> tuple[Integers, Ahead, Floats]:
    """The kind of each table, what stands before each kind, and how each kind is turned, degrees.

    Rounded so that a kind is shaded no less than any of its tables.
    """
    steps = STEPS.copy()
    while True:
        rounded = _rounded(ahead, steps)
        turned = np.round(tables.turn_deg, 1)
        columns = np.column_stack(
            (
                *(part.reshape(tables.count, -1) for part in _parts(rounded)),
                np.round(tables.lengths_m, 2),
                turned,
            )
        )
        # Infinity is itself: it sorts, and equals itself.
        _, first, of = np.unique(columns, axis=0, return_index=True, return_inverse=True)
        if len(first) <= MOST_KINDS or steps[0] > 2.0:
            return of.ravel(), rounded.take(first), turned[first]
        steps = steps * 2


def _parts(ahead: Ahead) -> tuple[Floats, ...]:
    return ahead.before_m, ahead.over_m, ahead.from_m, ahead.to_m, ahead.rise


def _rounded(ahead: Ahead, steps: Floats) -> Ahead:
    before, over, low, high, climb = steps
    half = ahead.length_m[:, None] / 2

    def down(value: Floats, step: float) -> Floats:
        return np.asarray(np.floor(value / step + 1e-6) * step)

    return Ahead(
        np.maximum(down(ahead.before_m, before), 0.0),
        -down(-ahead.over_m, over),
        down(np.maximum(ahead.from_m, -half - ALONG_M), low),
        -down(-np.minimum(ahead.to_m, half + ALONG_M), high),
        ahead.length_m,
        np.round(ahead.rise / climb) * climb,
    )


def normals_of_kinds(rows: RowsPlan, rise: Floats, turned_deg: Floats) -> Floats:
    """Directions square to the glass of each kind: it leans back, and climbs along the row."""
    setting = rows.setting
    along = np.radians(setting.along_deg + turned_deg)
    back = np.radians(setting.facing_deg + 180.0 + turned_deg)
    slope = np.tan(np.radians(rows.section.tilt_deg))
    east = -rise * np.sin(along) - slope * np.sin(back)
    north = -rise * np.cos(along) - slope * np.cos(back)
    found = np.stack((east, north, np.ones_like(east)), axis=1)
    return np.asarray(found / np.linalg.norm(found, axis=1)[:, None])
