"""Where posts go that may not stand where they should: all posts of a table found together.

Each post may stand at places along its purlin; from post to post the span may be neither too short nor
too long. The least sum of shifts is found post by post from the purlin's first end: for each place of a
post, the cheapest way to have placed all before it.
"""

import math
from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.structures.layout import LEAST_SPAN_M
from openfurrow.core.structures.stand import Stand

Floats = NDArray[np.float64]
Truths = NDArray[np.bool_]

# How far along the purlin a post is moved at most, and how finely places are tried.
REACH_M, STEP_M = 6.0, 0.02
# Moving one post more is worth so much: crews would rather move one far than many a little.
EACH_M = 0.05
# More tables than this in the way ask for another place of the array, not for shifts.
MOST_TABLES = 12
# Where ground is filled posts are freed table by table, of so many tables.
MOST_LOOKED_AT = 100


@dataclass(frozen=True)
class Spans:
    """What a table allows from post to post and past its end posts."""

    purlin_m: float
    least_m: float
    most_m: float


def least_shifts(even_m: Floats, places_m: list[Floats], spans: Spans) -> Floats | None:
    """Places along the purlin, one a post, that keep the spans; None where there are none.

    ``even_m`` is where each post stands now, ``places_m`` where each may stand.
    """
    cost, came_from = _cost(even_m[0], places_m[0]), [np.empty(0, dtype=np.int64)]
    cost = np.where(places_m[0] <= spans.most_m / 2 + 1e-9, cost, np.inf)
    for before, here, even in zip(places_m[:-1], places_m[1:], even_m[1:].tolist(), strict=True):
        if not here.size or not before.size:
            return None
        apart = here[:, None] - before
        allowed = (apart > spans.least_m) & (apart <= spans.most_m + 1e-9)
        through = np.where(allowed, cost, np.inf)
        best = through.argmin(axis=1)
        cost = through[np.arange(here.size), best] + _cost(even, here)
        came_from.append(best)
    cost = np.where(spans.purlin_m - places_m[-1] <= spans.most_m / 2 + 1e-9, cost, np.inf)
    if not cost.size or not math.isfinite(float(cost.min())):
        return None
    at = int(cost.argmin())
    found = np.empty(len(even_m))
    for post in range(len(even_m) - 1, -1, -1):
        found[post] = places_m[post][at]
        at = int(came_from[post][at]) if post else at
    return found


def _cost(even_m: float, places_m: Floats) -> Floats:
    away = np.abs(places_m - even_m)
    return np.asarray(away + EACH_M * (away > 1e-9))


def freed(posts: Stand, site: SitePlan, rows: RowsPlan) -> list[dict[int, float] | None]:
    """Of each table with posts in the way the shifts that free them, by the first post of each bent.

    None for a table that cannot be freed, and for those past `MOST_LOOKED_AT`.
    """
    places = posts.supports.places
    on = [hit.which for hit in site.keepouts.posts_on(places.east_m, places.north_m)]
    outside = site.keepouts.points_outside(places.east_m, places.north_m)
    bad = sorted({index for which in on for index in which} | set(np.flatnonzero(outside).tolist()))
    found: list[dict[int, float] | None] = []
    for number, table in enumerate(np.unique(places.of_table[bad]).tolist() if bad else []):
        mine = _firsts(posts, table)
        moved = _of_table(posts, site, rows, table, mine) if number < MOST_LOOKED_AT else None
        found.append(None if moved is None else _told(posts, mine, moved))
    return found


def _firsts(posts: Stand, table: int) -> NDArray[np.int64]:
    """The first post of each bent of a table."""
    places = posts.supports.places
    return np.flatnonzero((places.of_table == table) & (places.role == 0))


def _told(posts: Stand, mine: NDArray[np.int64], moved: Floats) -> dict[int, float]:
    """Shifts of a table's bents from their even places; those that stay are not told."""
    return {
        index: float(posts.shift_m[index]) + by_m
        for index, by_m in zip(mine.tolist(), moved.tolist(), strict=True)
        if abs(by_m) > 1e-9
    }


def clearing_shifts(
    posts: Stand, site: SitePlan, rows: RowsPlan, bad: list[int]
) -> dict[int, float] | None:
    """The shift by the first post of each bent (counted from nought) that frees every post, or None.

    ``bad`` are the posts in the way. Each shift counts from the bent's even place, as it is given.
    Bents that stand where they did are not told.
    """
    of_table = posts.supports.places.of_table
    tables = np.unique(of_table[bad])
    if tables.size > MOST_TABLES:
        return None
    shifts: dict[int, float] = {}
    for table in tables.tolist():
        mine = _firsts(posts, table)
        moved = _of_table(posts, site, rows, table, mine)
        if moved is None:
            return None
        shifts |= _told(posts, mine, moved)
    return shifts


def _of_table(
    posts: Stand, site: SitePlan, rows: RowsPlan, table: int, mine: NDArray[np.int64]
) -> Floats | None:
    """How far each bent of one table moves along its purlin."""
    if mine.size < 2:
        # A table on one post has no other to keep it up: the table moves, not the post.
        return None
    purlin_m = posts.lines[posts.line_of[table]].purlin_m
    now = posts.supports.places.from_middle_m[mine] + purlin_m / 2
    steps = np.arange(1, int(REACH_M / STEP_M) + 1) * STEP_M
    around = np.concatenate((-steps[::-1], [0.0], steps))
    allowed = []
    for at in now.tolist():
        tried = at + around
        tried = tried[(tried >= 0) & (tried <= purlin_m)]
        for role in posts.roles:
            which = np.full(tried.size, table)
            places = rows.tables.east_north_m(which, tried - purlin_m / 2, role.back_m)
            tried = tried[_free(site, *places)]
        allowed.append(tried)
    spans = Spans(purlin_m, LEAST_SPAN_M, posts.givens.span_limit_m)
    found = least_shifts(now, allowed, spans)
    return None if found is None else found - now


def _free(site: SitePlan, east_m: Floats, north_m: Floats) -> Truths:
    """Places where a post may stand: clear of what is there, inside the land, on known ground."""
    on = shapely.intersects_xy(site.keepouts.merged("post"), east_m, north_m)
    outside = site.keepouts.points_outside(east_m, north_m)
    return np.asarray(~on & ~outside & site.ground.known(east_m, north_m))
