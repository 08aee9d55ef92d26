"""How the tables lie on the ground: how each climbs, what is below its edges."""

from dataclasses import dataclass, fields, replace

import numpy as np
from numpy.typing import ArrayLike, NDArray

from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.rows.tables import Tables
from openfurrow.core.site.ground import Ground

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

# Stations along a table's edges at which the ground is asked: about one a metre on a long table.
STATIONS = 25


@dataclass(frozen=True)
class Lie:
    """One entry a table. Levels are those of the ground's datum.

    ``edge_level_m`` is the lower edge at the table's middle, ``rise_along`` its climb per level length
    along it. ``clear_m`` (n, 2) least and most clearance below the lower edge, ``upper_m`` the highest
    that the upper edge stands over the ground straight below it.
    """

    tables: Tables
    edge_level_m: Floats
    rise_along: Floats
    clear_m: Floats
    upper_m: Floats

    def edge_at(self, index: ArrayLike, from_middle_m: ArrayLike) -> Floats:
        """Level of the lower edge of tables, at places along the purlin from their middles."""
        i = np.asarray(index)
        away = self.tables.level_share[i] * np.asarray(from_middle_m, dtype=float)
        return np.asarray(self.edge_level_m[i] + self.rise_along[i] * away)

    def take(self, which: NDArray[np.bool_] | Integers) -> "Lie":
        """That of some of the tables."""
        return Lie(self.tables.take(which), *(getattr(self, name)[which] for name in COLUMNS))

    def joined(self, others: "Lie") -> "Lie":
        """That of these tables and of others after them."""
        return Lie(
            self.tables.joined(others.tables),
            *(np.concatenate((getattr(self, name), getattr(others, name))) for name in COLUMNS),
        )


COLUMNS = tuple(one.name for one in fields(Lie))[1:]

# Places over the face of a table at which the ground below is asked: along it and up its slope.
FACE = (9, 5)


def least_under_face_m(ground: Ground, lie: Lie) -> float:
    """The least height of the glass over the ground straight below it, anywhere on its face."""
    tables, section = lie.tables, lie.tables.section
    every = np.arange(tables.count)[:, None, None]
    along = np.linspace(-0.5, 0.5, FACE[0])[None, :, None] * tables.lengths_m[:, None, None]
    up = np.linspace(0.0, 1.0, FACE[1])[None, None, :]
    places = tables.east_north_m(every, along, tables.edge_back_m + up * section.level_depth_m)
    below = ground.level_m(*places)
    return float((lie.edge_at(every, along) + up * section.rise_m - below).min())


def _climbing(tables: Tables, rise: Floats, usual_m: float) -> Tables:
    """The rows pushed together until purlins and gaps are as long on the slope as was said.

    Each row begins where it would with all of its tables ``usual_m`` long, about the array's middle.
    """
    share = 1.0 / np.sqrt(1.0 + rise**2)
    by_row, lengths = share.reshape(-1, tables.in_row), tables.lengths_m.reshape(-1, tables.in_row)
    halves = by_row * lengths / 2
    gaps = (by_row[:, 1:] + by_row[:, :-1]) / 2 * tables.gap_m
    between = halves[:, 1:] + halves[:, :-1] + gaps
    middles = np.concatenate((np.zeros((len(by_row), 1)), np.cumsum(between, axis=1)), axis=1)
    whole = by_row.sum(axis=1) * usual_m + gaps.sum(axis=1)
    middles += (halves[:, 0] - whole / 2)[:, None]
    return replace(tables, middle_m=middles.ravel(), level_share=share)


# Laid again with what the last laying found, so that each table is as long on the slope as it is.
LAYINGS = 2


def _stations_m(tables: Tables) -> Floats:
    return np.asarray(np.linspace(-0.5, 0.5, STATIONS) * tables.lengths_m[:, None])


def _ground_below(ground: Ground, tables: Tables, back_m: float) -> Floats:
    """The ground along a line of each table that runs ``back_m`` behind its posts, (n, stations)."""
    every = np.arange(tables.count)[:, None]
    return ground.level_m(*tables.east_north_m(every, _stations_m(tables), back_m))


def _rise(ground: Ground, tables: Tables) -> Floats:
    """The climb of the line that fits the ground below each lower edge best."""
    stations = _stations_m(tables)
    below = _ground_below(ground, tables, tables.edge_back_m)
    return np.asarray((below * stations).sum(axis=1) / (stations**2).sum(axis=1) / tables.level_share)


def lay(ground: Ground, tables: Tables, follow: bool, usual_m: float) -> Lie:
    """Lay whole rows of tables on the ground, end to end along what they climb.

    A table is straight: it follows the line that fits the ground below its lower edge best (or is
    level), lifted until its least clearance is the one that was asked for. ``usual_m`` is the length of
    a table of the pattern.
    """
    rise = np.zeros(tables.count)
    for _ in range(LAYINGS if follow else 0):
        rise = _rise(ground, tables)
        tables = _climbing(tables, rise, usual_m)
    return _lifted(ground, tables, rise)


def lay_in_place(ground: Ground, tables: Tables, follow: bool) -> Lie:
    """Lay tables on the ground each by itself, its middle where it is."""
    rise = np.zeros(tables.count)
    if not follow:
        # A level one in a row that climbs is seen from above as long as it is.
        tables = replace(tables, level_share=np.ones(tables.count))
    for _ in range(LAYINGS if follow else 0):
        rise = _rise(ground, tables)
        tables = replace(tables, level_share=1.0 / np.sqrt(1.0 + rise**2))
    return _lifted(ground, tables, rise)


def _lifted(ground: Ground, tables: Tables, rise: Floats) -> Lie:
    """Each table lifted until its least clearance is the one that was asked for."""
    section = tables.section
    line = (rise * tables.level_share)[:, None] * _stations_m(tables)
    below = _ground_below(ground, tables, tables.edge_back_m)
    return _seen(ground, tables, rise, (below - line).max(axis=1) + section.lower_edge_m)


def turned(ground: Ground, lie: Lie, section: TableSection) -> Lie:
    """The same tables set to the tilt of ``section`` about their bolts, which stay where they are."""
    before = lie.tables.section
    lift = lie.edge_level_m + before.bolt_z_m - section.bolt_z_m
    return _seen(ground, replace(lie.tables, section=section), lie.rise_along, lift)


def _seen(ground: Ground, tables: Tables, rise: Floats, lift: Floats) -> Lie:
    """Tables at levels ``lift`` of their lower edges' middles, and what is below their edges."""
    section = tables.section
    line = (rise * tables.level_share)[:, None] * _stations_m(tables)
    below = _ground_below(ground, tables, tables.edge_back_m)
    clear = lift[:, None] + line - below
    behind = _ground_below(ground, tables, tables.edge_back_m + section.level_depth_m)
    upper = lift[:, None] + line + section.rise_m - behind
    return Lie(
        tables,
        lift,
        rise,
        np.stack((clear.min(axis=1), clear.max(axis=1)), axis=1),
        upper.max(axis=1),
    )
