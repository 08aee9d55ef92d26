"""Filling the ground: rows of tables inside the boundary, past all that glass must keep off."""

from collections.abc import Callable

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.quantities import spoken
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.givens import RowsGivens, TableGivens
from openfurrow.core.rows.settling import Filled, FillError, held_free, settled
from openfurrow.core.rows.strips import Measure, Wanted, best_rows, come_out_even, no_more_than
from openfurrow.core.site.plan import SitePlan

Floats = NDArray[np.float64]


def fill(
    site: SitePlan,
    rows: RowsPlan,
    givens: RowsGivens,
    wanted: Wanted,
    laid_by: Callable[[RowsGivens], RowsPlan],
    others: tuple[shapely.Geometry, ...] = (),
) -> Filled:
    """Lay the array's tables over the ground inside the boundary. Raises FillError.

    ``rows`` is the array as it stands: its tilt, pitch and table are kept, and so are tables that were
    moved by hand. ``laid_by`` plans rows; ``others`` are outlines of other arrays.
    """
    locked = _locked(rows, givens)
    held = held_free(rows, givens)
    free = _free(site, rows, wanted, locked, (*others, *held))
    measure = Measure(rows, wanted, float(rows.even.tables.level_share.mean()))
    found = best_rows(free, measure)
    of_locked = [index for _, index in locked]
    standing = rows.modules_high * int(rows.tables.columns[of_locked].sum())
    if wanted.modules is not None:
        found = no_more_than(found, max(0, wanted.modules - standing), measure)
    elif wanted.even is not None:
        found = come_out_even(found, standing, measure, wanted.even)
    if not found:
        raise FillError(
            "edge",
            "no table finds room inside the boundary",
            f"a free stretch {spoken(rows.table_length_m, 'run')} long and "
            f"{spoken(measure.depth_m, 'run')} deep",
            "Shorten the table, lower the edge that is kept free, or look at the setbacks.",
        )
    return settled(found, rows, givens, measure, locked, (free, held), laid_by)


def _locked(rows: RowsPlan, givens: RowsGivens) -> list[tuple[TableGivens, int]]:
    """Tables that were set by hand, and their numbers among those that stand."""
    found = []
    for one in givens.tables:
        index = rows.stands.index_of(one.place or one.id)
        if one.by_hand and not one.out and index is not None:
            found.append((one, index))
    return found


def _free(
    site: SitePlan,
    rows: RowsPlan,
    wanted: Wanted,
    locked: list[tuple[TableGivens, int]],
    others: tuple[shapely.Geometry, ...],
) -> shapely.Geometry:
    """The ground for glass in array coordinates: x along, y back from the front row's posts."""
    inside = site.keepouts.inside
    if inside is None or inside.is_empty:
        raise FillError(
            "boundary",
            "there is no boundary to fill",
            "an outline of the land on Site",
            "Draw the boundary, or bring it by a file.",
        )
    taken = [site.keepouts.merged("glass"), *others]
    kept = [lie.tables.outlines[index] for _, index in locked for lie in rows.lies]
    taken += [shapely.buffer(one, rows.table_gap_m, join_style="mitre") for one in kept]
    if site.known.surface is not None:
        # Where nobody has shot the ground nobody knows how a table would stand.
        inside = shapely.intersection(inside, site.known.surface.extent)
    ground = shapely.difference(inside, shapely.union_all(taken))
    if wanted.edge_m:
        ground = shapely.buffer(ground, -wanted.edge_m)

    def in_array(at: Floats) -> Floats:
        return np.column_stack(rows.setting.along_back_m(at[:, 0], at[:, 1]))

    return shapely.transform(ground, in_array)
