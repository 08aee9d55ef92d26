"""How the tables lie on the ground: where each stands, how it climbs, what is below its edges."""

import math
from dataclasses import dataclass
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
    """Every table, row by row from the front: its row, its place in the row, its middle along it."""

    setting: Setting
    section: TableSection
    length_m: float
    gap_m: float
    pitch_m: float
    row: Integers
    table: Integers
    middle_m: Floats

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
            self.middle_m[:, None] + ends, self.front_m[:, None] + deep
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


def tables_of(
    setting: Setting, section: TableSection, length_m: float, gap_m: float, along: int, rows: int,
    pitch_m: float,
) -> Tables:
    """``along`` tables in each of ``rows`` rows, each row about the array's middle."""
    row_length = along * length_m + (along - 1) * gap_m
    middles = np.arange(along) * (length_m + gap_m) - row_length / 2 + length_m / 2
    return Tables(
        setting, section, length_m, gap_m, pitch_m,
        np.repeat(np.arange(rows), along), np.tile(np.arange(along), rows), np.tile(middles, rows),
    )


def lay(ground: Ground, tables: Tables, follow: bool) -> Lie:
    """Lay each table on the ground.

    A table is straight: it follows the line that fits the ground below its lower edge best (or is
    level), lifted until its least clearance is the one that was asked for.
    """
    stations = np.linspace(-0.5, 0.5, STATIONS) * tables.length_m
    along = tables.middle_m[:, None] + stations
    below = ground.level_m(*tables.setting.east_north_m(along, tables.front_m[:, None]))
    rise = below @ stations / (stations @ stations) if follow else np.zeros(len(along))
    line = rise[:, None] * stations
    lift = (below - line).max(axis=1) + tables.section.lower_edge_m
    clear = lift[:, None] + line - below
    behind = ground.level_m(*tables.setting.east_north_m(
        along, tables.front_m[:, None] + tables.section.level_depth_m))
    upper = lift[:, None] + line + tables.section.rise_m - behind
    return Lie(
        tables, lift, rise, np.stack((clear.min(axis=1), clear.max(axis=1)), axis=1),
        upper.max(axis=1),
    )

