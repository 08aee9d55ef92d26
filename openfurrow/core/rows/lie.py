"""How the tables lie on the ground: where each stands, how it climbs, what is below its edges."""

import math
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
import shapely
from numpy.typing import ArrayLike, NDArray

from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.site.ground import Ground, GroundPlane, plane_through

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

# Stations along a table's edges at which the ground is asked: about one a metre on a long table.
STATIONS = 25
# Grid over the array's footprint through which its own plane is fitted.
GRID = 21


@dataclass(frozen=True)
class Setting:
    """Where the array stands and looks: its origin is the middle of the front row's post line."""

    east_m: float
    north_m: float
    along_deg: float
    facing_deg: float

    def east_north_m(self, along_m: ArrayLike, back_m: ArrayLike) -> tuple[Floats, Floats]:
        """Array coordinates (along the row, toward the back) as local east and north."""
        along, back = math.radians(self.along_deg), math.radians(self.facing_deg + 180.0)
        a, b = np.asarray(along_m, dtype=float), np.asarray(back_m, dtype=float)
        return (
            np.asarray(self.east_m + a * math.sin(along) + b * math.sin(back), dtype=float),
            np.asarray(self.north_m + a * math.cos(along) + b * math.cos(back), dtype=float),
        )

    def plane_of(
        self, ground: Ground, row_length_m: float, front_m: float, back_m: float
    ) -> GroundPlane:
        """The plane that fits the ground under the array best."""
        if isinstance(ground, GroundPlane):
            return ground
        along, back = np.meshgrid(
            np.linspace(-row_length_m / 2, row_length_m / 2, GRID), np.linspace(front_m, back_m, GRID)
        )
        east, north = self.east_north_m(along.ravel(), back.ravel())
        return plane_through(east, north, ground.level_m(east, north))


@dataclass(frozen=True)
class Tables:
    """Every table, row by row from the front: its row and its place in the row.

    Lengths along the row are those of the purlins. A table that climbs covers less of the level:
    ``middle_m`` is measured level along the row, ``level_share`` is level length over purlin.
    """

    setting: Setting
    section: TableSection
    length_m: float
    gap_m: float
    pitch_m: float
    row: Integers
    table: Integers
    middle_m: Floats
    level_share: Floats

    def along_m(self, index: ArrayLike, from_middle_m: ArrayLike) -> Floats:
        """Level place along the row of places on a table, measured along it from its middle."""
        i = np.asarray(index)
        return np.asarray(self.middle_m[i] + self.level_share[i] * np.asarray(from_middle_m))

    @property
    def starts_m(self) -> Floats:
        """Where the glass of each table in a row begins along the purlins, from the row's middle."""
        return _starts_m(self.in_row, self.length_m, self.gap_m)

    @property
    def in_row(self) -> int:
        """Tables in each row."""
        return int(self.table.max()) + 1

    @property
    def front_m(self) -> Floats:
        """Level distance of each lower edge behind the front row's posts (the first: negative)."""
        return np.asarray(self.row * self.pitch_m - self.section.post_x_m, dtype=float)

    @cached_property
    def corners(self) -> Floats:
        """Outlines of the glass from above, (n, 4, 2): lower edge first, then back."""
        ends = np.array([-0.5, 0.5, 0.5, -0.5]) * self.length_m
        deep = np.array([0.0, 0.0, 1.0, 1.0]) * self.section.level_depth_m
        east, north = self.setting.east_north_m(
            self.along_m(np.arange(len(self.row))[:, None], ends), self.front_m[:, None] + deep
        )
        return np.asarray(np.stack((east, north), axis=2), dtype=float)

    @cached_property
    def outlines(self) -> NDArray[np.object_]:
        """The same as polygons."""
        return np.asarray(shapely.polygons(self.corners))


@dataclass(frozen=True)
class Lie:
    """One entry a table. Levels are those of the ground's datum.

    ``edge_level_m`` is the lower edge at the table's middle, ``rise_along`` its climb along the row.
    ``clear_m`` (n, 2) least and most clearance below the lower edge, ``upper_m`` the highest that the
    upper edge stands over the ground straight below it.
    """

    tables: Tables
    edge_level_m: Floats
    rise_along: Floats
    clear_m: Floats
    upper_m: Floats

    def edge_at(self, index: ArrayLike, along_m: ArrayLike) -> Floats:
        """Level of the lower edge of tables at places along their row."""
        i = np.asarray(index)
        away = np.asarray(along_m, dtype=float) - self.tables.middle_m[i]
        return np.asarray(self.edge_level_m[i] + self.rise_along[i] * away)


# Places over the face of a table at which the ground below is asked: along it and up its slope.
FACE = (9, 5)


def least_under_face_m(ground: Ground, lie: Lie) -> float:
    """The least height of the glass over the ground straight below it, anywhere on its face."""
    tables = lie.tables
    every = np.arange(len(tables.row))[:, None, None]
    along = tables.along_m(every, np.linspace(-0.5, 0.5, FACE[0])[None, :, None] * tables.length_m)
    up = np.linspace(0.0, 1.0, FACE[1])[None, None, :]
    places = np.broadcast_arrays(
        along, tables.front_m[:, None, None] + up * tables.section.level_depth_m
    )
    below = ground.level_m(*tables.setting.east_north_m(*places))
    return float((lie.edge_at(every, along) + up * tables.section.rise_m - below).min())


def tables_of(
    setting: Setting,
    section: TableSection,
    length_m: float,
    gap_m: float,
    along: int,
    rows: int,
    pitch_m: float,
) -> Tables:
    """``along`` tables in each of ``rows`` rows, each row about the array's middle."""
    row = np.repeat(np.arange(rows), along)
    middles = np.tile(_starts_m(along, length_m, gap_m) + length_m / 2, rows)
    return Tables(
        setting,
        section,
        length_m,
        gap_m,
        pitch_m,
        row,
        np.tile(np.arange(along), rows),
        middles,
        np.ones(len(row)),
    )


def _starts_m(along: int, length_m: float, gap_m: float) -> Floats:
    whole = along * length_m + (along - 1) * gap_m
    return np.asarray(np.arange(along) * (length_m + gap_m) - whole / 2)


def _climbing(tables: Tables, rise: Floats) -> Tables:
    """The tables pushed together until purlins and gaps are as long on the slope as was said."""
    share = 1.0 / np.sqrt(1.0 + rise**2)
    by_row = share.reshape(-1, tables.in_row)
    between = (by_row[:, 1:] + by_row[:, :-1]) / 2 * (tables.length_m + tables.gap_m)
    middles = np.concatenate((np.zeros((len(by_row), 1)), np.cumsum(between, axis=1)), axis=1)
    # The row stays about the array's middle, end to end.
    ends = by_row[:, [0, -1]] * tables.length_m / 2
    middles -= ((middles[:, -1] + ends[:, 1] - ends[:, 0]) / 2)[:, None]
    return replace(tables, middle_m=middles.ravel(), level_share=share)


# Laid again with what the last laying found, so that each table is as long on the slope as it is.
LAYINGS = 2


def lay(ground: Ground, tables: Tables, follow: bool) -> Lie:
    """Lay each table on the ground.

    A table is straight: it follows the line that fits the ground below its lower edge best (or is
    level), lifted until its least clearance is the one that was asked for.
    """
    stations = np.linspace(-0.5, 0.5, STATIONS) * tables.length_m
    every = np.arange(len(tables.row))[:, None]

    def laid() -> tuple[Floats, Floats]:
        along = tables.along_m(every, stations)
        return along, ground.level_m(*tables.setting.east_north_m(along, tables.front_m[:, None]))

    rise = np.zeros(len(tables.row))
    for _ in range(LAYINGS if follow else 0):
        _, below = laid()
        rise = below @ stations / (stations @ stations) / tables.level_share
        tables = _climbing(tables, rise)
    along, below = laid()
    line = (rise * tables.level_share)[:, None] * stations
    lift = (below - line).max(axis=1) + tables.section.lower_edge_m
    clear = lift[:, None] + line - below
    behind = ground.level_m(
        *tables.setting.east_north_m(along, tables.front_m[:, None] + tables.section.level_depth_m)
    )
    upper = lift[:, None] + line + tables.section.rise_m - behind
    return Lie(
        tables,
        lift,
        rise,
        np.stack((clear.min(axis=1), clear.max(axis=1)), axis=1),
        upper.max(axis=1),
    )
