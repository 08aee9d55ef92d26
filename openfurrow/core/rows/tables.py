"""Every table of an array as columns: where it stands, which way it runs, how long it is."""

import math
from dataclasses import dataclass, fields, replace
from functools import cached_property
from typing import Any

import numpy as np
import shapely
from numpy.typing import ArrayLike, NDArray

from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.site.ground import Ground, GroundPlane, plane_through

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

# Grid over the array's footprint through which its own plane is fitted.
GRID = 21
# Of a table that is of no row: its row in the pattern.
NO_ROW = -1


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

    def along_back_m(self, east_m: ArrayLike, north_m: ArrayLike) -> tuple[Floats, Floats]:
        """Local east and north as array coordinates: the other way round."""
        along, back = math.radians(self.along_deg), math.radians(self.facing_deg + 180.0)
        e, n = np.asarray(east_m, dtype=float) - self.east_m, np.asarray(north_m) - self.north_m
        return (
            np.asarray(e * math.sin(along) + n * math.cos(along)),
            np.asarray(e * math.sin(back) + n * math.cos(back)),
        )

    @property
    def clockwise(self) -> float:
        """1 where the way along the rows is clockwise of the way to the back, else -1."""
        return 1.0 if math.sin(math.radians(self.along_deg - self.facing_deg - 180.0)) > 0 else -1.0

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


@dataclass(frozen=True, kw_only=True)
class Tables:
    """One entry a table: those of the pattern row by row from the front, then those of no row.

    ``row`` and ``table`` are its place in the pattern, counted from nought; of a table of no row
    ``row`` is ``NO_ROW`` and ``table`` its place among such. ``line`` says which tables have their
    posts in one straight line: it is the row, or a number of its own for one that stands off its row.
    ``lengths_m`` is the glass and ``run_m`` the middle along the line's purlins, from the row's middle;
    a table that climbs covers less of the level: ``middle_m`` and ``back_m`` are the middle of its post
    line in array coordinates, ``level_share`` is level length over purlin. ``turn_deg`` is how far the
    table is turned from the rows, clockwise from above; ``columns`` are its modules along.
    """

    setting: Setting
    section: TableSection
    gap_m: float
    pitch_m: float
    row: Integers
    table: Integers
    line: Integers
    columns: Integers
    lengths_m: Floats
    run_m: Floats
    middle_m: Floats
    back_m: Floats
    turn_deg: Floats
    level_share: Floats

    @property
    def count(self) -> int:
        """How many tables there are."""
        return int(self.row.size)

    @property
    def in_row(self) -> int:
        """Tables in each row, where all are of the pattern."""
        return int(self.table.max()) + 1

    @property
    def edge_back_m(self) -> float:
        """Level distance of the lower edge behind the posts: it lies before them, so below nought."""
        return -self.section.post_x_m

    def at_array_m(
        self, index: ArrayLike, from_middle_m: ArrayLike, back_m: ArrayLike
    ) -> tuple[Floats, Floats]:
        """Array coordinates of places on tables, level.

        ``from_middle_m`` is measured along the purlin from the table's middle, ``back_m`` level and
        square to it behind its posts.
        """
        i = np.asarray(index)
        turn = np.radians(self.turn_deg[i])
        cosine, sine = np.cos(turn), self.setting.clockwise * np.sin(turn)
        level, behind = self.level_share[i] * np.asarray(from_middle_m), np.asarray(back_m)
        return (
            np.asarray(self.middle_m[i] + cosine * level + sine * behind),
            np.asarray(self.back_m[i] - sine * level + cosine * behind),
        )

    def east_north_m(
        self, index: ArrayLike, from_middle_m: ArrayLike, back_m: ArrayLike
    ) -> tuple[Floats, Floats]:
        """The same from the site's origin."""
        return self.setting.east_north_m(*self.at_array_m(index, from_middle_m, back_m))

    def on_table_m(
        self, index: ArrayLike, east_m: ArrayLike, north_m: ArrayLike
    ) -> tuple[Floats, Floats]:
        """Places as one stands on a table: along its purlin from its middle, and behind its posts."""
        i = np.asarray(index)
        along, back = self.setting.along_back_m(east_m, north_m)
        turn = np.radians(self.turn_deg[i])
        cosine, sine = np.cos(turn), self.setting.clockwise * np.sin(turn)
        a, b = along - self.middle_m[i], back - self.back_m[i]
        return (
            np.asarray((cosine * a - sine * b) / self.level_share[i]),
            np.asarray(sine * a + cosine * b),
        )

    def along_lines_m(self, index: ArrayLike, from_middle_m: ArrayLike) -> tuple[Floats, Floats]:
        """Along the purlins of the rows and back, as a wire is clipped to them.

        Of a table off its row the way along is that of the rows, counted by its purlin's length.
        """
        i, away = np.asarray(index), np.asarray(from_middle_m)
        turn = np.radians(self.turn_deg[i])
        return (
            np.asarray(
                np.where(self.in_line[i], self.run_m[i], self.middle_m[i]) + np.cos(turn) * away
            ),
            np.asarray(self.back_m[i] - self.setting.clockwise * np.sin(turn) * away),
        )

    @property
    def in_line(self) -> NDArray[np.bool_]:
        """Which tables have their posts in the line of their row."""
        return np.asarray(self.line == self.row)

    @cached_property
    def corners(self) -> Floats:
        """Outlines of the glass from above, (n, 4, 2): lower edge first, then back."""
        ends = np.array([-0.5, 0.5, 0.5, -0.5]) * self.lengths_m[:, None]
        deep = self.edge_back_m + np.array([0.0, 0.0, 1.0, 1.0]) * self.section.level_depth_m
        east, north = self.east_north_m(np.arange(self.count)[:, None], ends, deep)
        return np.asarray(np.stack((east, north), axis=2), dtype=float)

    @cached_property
    def outlines(self) -> NDArray[np.object_]:
        """The same as polygons."""
        return np.asarray(shapely.polygons(self.corners))

    def take(self, which: NDArray[np.bool_] | Integers) -> "Tables":
        """Some of the tables."""
        columns: dict[str, Any] = {name: getattr(self, name)[which] for name in COLUMNS}
        return replace(self, **columns)

    def joined(self, others: "Tables") -> "Tables":
        """These tables and others after them."""
        columns: dict[str, Any] = {
            name: np.concatenate((getattr(self, name), getattr(others, name))) for name in COLUMNS
        }
        return replace(self, **columns)


COLUMNS = tuple(one.name for one in fields(Tables))[4:]


def tables_of(
    setting: Setting,
    section: TableSection,
    length_m: float,
    columns: int,
    gap_m: float,
    along: int,
    rows: int,
    pitch_m: float,
) -> Tables:
    """``along`` alike tables in each of ``rows`` rows, each row about the array's middle."""
    row = np.repeat(np.arange(rows), along)
    whole = along * length_m + (along - 1) * gap_m
    middles = np.arange(along) * (length_m + gap_m) - whole / 2 + length_m / 2
    count = len(row)
    return Tables(
        setting=setting,
        section=section,
        gap_m=gap_m,
        pitch_m=pitch_m,
        row=row,
        table=np.tile(np.arange(along), rows),
        line=row,
        columns=np.full(count, columns),
        lengths_m=np.full(count, length_m),
        run_m=np.tile(middles, rows),
        middle_m=np.tile(middles, rows),
        back_m=np.asarray(row * pitch_m, dtype=float),
        turn_deg=np.zeros(count),
        level_share=np.ones(count),
    )


def named_place(row: int, table: int) -> str:
    """What a table of the pattern is called, and known by: ``2.3``, the third of the second row."""
    return f"{row + 1}.{table + 1}"
