"""What the rows stage finds: the array as it stands on the ground."""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check
from openfurrow.core.codes import constant
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.rows.lie import Lie, turned
from openfurrow.core.rows.placed import Placed
from openfurrow.core.rows.positions import Position
from openfurrow.core.rows.tables import Setting, Tables
from openfurrow.core.rows.travel import ALL_ROUND_DEG, TO_BOTH_SIDES_DEG, Travel, looking, swept_ground
from openfurrow.core.site.ground import Ground, GroundPlane
from openfurrow.core.working import Answer, Source

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

SHADOW_FIGURE = Source("derived from the shadow figure; checked against pvlib.shading", "geometry")


@dataclass(frozen=True)
class ModuleSize:
    """A module's frame and the gaps around it, metres; how far in from a corner clamps grip it."""

    length_m: float
    width_m: float
    gap_along_m: float
    gap_up_m: float
    clamps_in_m: float | None = None


@dataclass(frozen=True)
class RowsPlan:
    """The array on the ground.

    ``along_deg`` is the true bearing along which the rows run from their first post, and
    ``rise_along`` the row's own rise that way (nought for a level row), both over the ``local``
    plane that fits the ground under the array. ``even`` is each table of the pattern on the ground
    itself, ``stands`` the tables as they are built: with those that differ. Lengths and counts of a
    table are those of the pattern. ``positions`` are the tilts that they are set to, the flattest
    first: ``section``, ``even`` and ``stands`` are as they are put up. ``travel`` is how far tables go
    that follow the sun: those of its tilts that are looked at are the positions then.
    """

    setting: Setting
    local: GroundPlane
    even: Lie
    stands: Placed
    positions: tuple[Position, ...]
    section: TableSection
    facing_deg: float
    along_deg: float
    ground_rise_along: float
    rise_along: float
    module_up_m: float
    module_along_m: float
    gap_up_m: float
    gap_along_m: float
    table_length_m: float
    row_length_m: float
    tables_along: int
    table_gap_m: float
    rows: int
    modules_high: int
    modules_along: int
    pitch_m: float
    least_pitch_m: float
    profile_deg: float
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]
    clamps_in_m: float | None = None
    travel: Travel | None = None

    def clamped_m(self, side_m: float) -> float:
        """How far from a corner clamps grip a side: as typed, inside it; or about a fifth of it."""
        if self.clamps_in_m is None:
            return constant("common", "clamp_zone").value * side_m
        return min(self.clamps_in_m, constant("common", "clamps_apart_least").value * side_m)

    @property
    def moves(self) -> bool:
        """Whether the tables are set to more than one tilt."""
        return len(self.positions) > 1

    @property
    def steepest(self) -> Position:
        """That of the greatest tilt."""
        return self.positions[-1]

    @property
    def lies(self) -> tuple[Lie, ...]:
        """The tables at each of their tilts; what follows the sun at both limits, as it may look."""
        if self.travel is None:
            return tuple(one.lie for one in self.positions)
        limits = self.positions[0].lie, self.positions[-1].lie
        turns = TO_BOTH_SIDES_DEG if self.travel.rolls else ALL_ROUND_DEG
        return tuple(looking(lie, turn) for lie in limits for turn in turns)

    @property
    def taken(self) -> tuple[NDArray[np.object_], ...]:
        """The ground that glass lies over at each of the tilts, or that movers sweep: polygons."""
        if self.travel is not None:
            return (swept_ground(self.lie, self.travel),)
        return tuple(one.lie.tables.outlines for one in self.positions)

    def at(self, position: Position) -> "RowsPlan":
        """The array set to one of its tilts."""
        if not self.moves:
            return self
        stands = replace(self.stands, lie=position.lie)
        return replace(self, section=position.section, even=position.even, stands=stands)

    def under(self, ground: Ground, altitude_deg: float, azimuth_deg: float) -> Lie:
        """The tables as they lie under a sun: those that follow it tilted and turned to it."""
        if self.travel is None:
            return self.lie
        tilt, bearing = self.travel.looks(altitude_deg, azimuth_deg, self.facing_deg)
        lie = turned(ground, self.steepest.lie, self.steepest.section.turned(float(tilt)))
        return looking(lie, float(bearing) - self.facing_deg)

    @property
    def lie(self) -> Lie:
        """Each table that is built, on the ground."""
        return self.stands.lie

    @property
    def tables(self) -> Tables:
        """Every table that is built."""
        return self.stands.lie.tables

    @property
    def alike(self) -> bool:
        """Whether every table is built, as the pattern has it."""
        return self.stands.lie is self.even

    @property
    def module_count(self) -> int:
        """Modules in the whole array."""
        return self.modules_high * int(self.tables.columns.sum())

    @property
    def across(self) -> bool:
        """Whether modules lie with their long side along the row."""
        return self.module_along_m > self.module_up_m

    @property
    def column_step_m(self) -> float:
        """From one module's edge to the next one's along the row."""
        return self.module_along_m + self.gap_along_m

    @property
    def columns_m(self) -> Floats:
        """Left edges of the modules of a table of the pattern, from the first."""
        return np.asarray(np.arange(self.modules_along) * self.column_step_m)

    @property
    def each_column(self) -> tuple[Integers, Integers, Floats]:
        """Every column of modules: its table, its number in it, its middle from the table's middle."""
        tables = self.tables
        of = np.repeat(np.arange(tables.count), tables.columns)
        first = np.cumsum(tables.columns) - tables.columns
        number = np.arange(of.size) - first[of]
        from_end = number * self.column_step_m + self.module_along_m / 2
        return of, number, np.asarray(from_end - tables.lengths_m[of] / 2)

    @property
    def lows_m(self) -> Floats:
        """Lower edges of the modules of a table, up its slope from its lower edge."""
        return np.asarray(np.arange(self.modules_high) * (self.module_up_m + self.gap_up_m))

    @property
    def footprint_depth_m(self) -> float:
        """Level depth of the array from the first lower edge to the last upper edge, set flattest."""
        return (self.rows - 1) * self.pitch_m + self.positions[0].section.level_depth_m
