"""How far glass goes when it follows the sun: its tilts, where it looks, what it sweeps."""

import math
from dataclasses import dataclass, replace

import numpy as np
import shapely
from numpy.typing import ArrayLike, NDArray

from openfurrow.core.codes import RulePack, table
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.rows.lie import Lie

Floats = NDArray[np.float64]

# The figures of wind by the tilt: between their own tilts coefficients run straight.
WIND_FIGURES: dict[RulePack, str] = {"us": "wind_monoslope", "metric": "wind_canopy"}
# Beyond the figure loads, edges and forces are looked at no further apart than this.
BEYOND_STEP_DEG = 10.0
# Turns from its facing at which a mover may throw its shade on what stands around.
ALL_ROUND_DEG = tuple(np.arange(-180.0, 180.0, 45.0).tolist())
# Those of one that rolls over to the other side.
TO_BOTH_SIDES_DEG = (0.0, 180.0)
# Sides of a quarter of a circle.
SIDES = 12
# Tilts between the limits at which the reach of a table is looked for.
REACHES = 61


@dataclass(frozen=True)
class Beside:
    """The next lying tube on the side that glass faces: its glass, how far off, how much higher."""

    chord_m: float
    apart_m: float
    rise_m: float

    def turned_back_deg(self, turn_deg: Floats) -> Floats:
        """From square to the sun back until no row shades the next, seen along the tubes.

        Tubes D apart throw shadows D cos(a - b) apart, where b is the turn at which all glass lies in
        one plane; glass that is turned off the sun by x catches c cos(x) of that.
        """
        level = math.degrees(math.atan2(-self.rise_m, self.apart_m))
        off = turn_deg - level
        room = math.hypot(self.apart_m, self.rise_m) * np.cos(np.radians(off)) / self.chord_m
        back = np.degrees(np.arccos(np.clip(room, 0.0, 1.0)))
        # A sun under the plane of the tubes lights nothing: all lie in it.
        return np.where(room <= 0, level, turn_deg - np.sign(off) * back)


@dataclass(frozen=True)
class Travel:
    """Limits of a mover about one axis or two: its tilts from level, how far it turns to either side.

    ``stow_deg`` is the tilt that it lies at in wind, and ``loop_m`` how far off the pole's middle its
    cable hangs. One that does not turn has no ``turn_deg``; one that never ``tilts`` is `held_at` its
    tilt before its limits are asked for. One that ``rolls`` lies on a tube and goes over level to as
    steep on the other side; it turns back from the shade of those ``beside`` it, where there are some.
    """

    flattest_deg: float
    steepest_deg: float
    turn_deg: float
    stow_deg: float
    loop_m: float
    tilts: bool = True
    rolls: bool = False
    turns_back: bool = False
    beside: Beside | None = None

    def held_at(self, tilt_deg: float) -> "Travel":
        """The same, clamped at a tilt where it never leaves it."""
        if self.tilts:
            return self
        return replace(self, flattest_deg=tilt_deg, steepest_deg=tilt_deg, stow_deg=tilt_deg)

    @property
    def turns(self) -> bool:
        """Whether it turns about its pole."""
        return self.turn_deg > 0

    @property
    def wound_m(self) -> float:
        """How much cable winds round pole or tube from one end of its turning to the other."""
        rolled = self.limits_deg[1] if self.rolls else 0.0
        return 2 * math.radians(self.turn_deg + rolled) * self.loop_m

    @property
    def limits_deg(self) -> tuple[float, float]:
        """The flattest and the steepest, whichever was said to be which."""
        low, high = sorted((self.flattest_deg, self.steepest_deg))
        return low, high

    def tilts_deg(self, pack: RulePack) -> tuple[float, ...]:
        """Both limits, and between them every tilt at which the wind's figure has a corner."""
        low, high = self.limits_deg
        known = table(pack, WIND_FIGURES[pack]).numbers["tilt_deg"].tolist()
        beyond = np.arange(max(known) + BEYOND_STEP_DEG, high, BEYOND_STEP_DEG).tolist()
        return tuple(sorted({low, high, *(one for one in (*known, *beyond) if low < one < high)}))

    def looks(
        self, altitude_deg: ArrayLike, azimuth_deg: ArrayLike, facing_deg: float
    ) -> tuple[Floats, Floats]:
        """Tilt and bearing under suns, each as near to the sun as its own limits let it.

        ``facing_deg`` is the middle of its turning, where it looks at noon. What does not turn is
        square to the sun as that is seen along its pipe: tan(tilt) = cos(off) / tan(altitude).
        What rolls looks the other way past level.
        """
        off = (np.asarray(azimuth_deg, dtype=float) - facing_deg + 180.0) % 360.0 - 180.0
        altitude = np.asarray(altitude_deg, dtype=float)
        if self.rolls:
            rolled = self._rolled_deg(altitude, off)
            return np.abs(rolled), facing_deg + np.where(rolled < 0, 180.0, 0.0)
        bearing = facing_deg + np.clip(off, -self.turn_deg, self.turn_deg)
        low, high = self.limits_deg
        steep = 90.0 - altitude
        if not self.turns:
            level, up = np.cos(np.radians(altitude)), np.sin(np.radians(altitude))
            steep = np.degrees(np.arctan2(np.cos(np.radians(off)) * level, up))
        return np.clip(steep, low, high), bearing

    def _rolled_deg(self, altitude_deg: Floats, off_deg: Floats) -> Floats:
        """Turn about a lying tube toward the way that it faces, below nought to the other side."""
        altitude = np.radians(altitude_deg)
        toward = np.cos(altitude) * np.cos(np.radians(off_deg))
        turn = np.degrees(np.arctan2(toward, np.sin(altitude)))
        if self.turns_back and self.beside is not None:
            turn = self.beside.turned_back_deg(turn)
        _, high = self.limits_deg
        return np.asarray(np.clip(turn, -high, high))

    def reach_m(self, section: TableSection) -> float:
        """Level, from the pole to an edge of the glass, at the tilt at which it is furthest.

        The glass lies the stack before the pole's head: c/2 cos t + s sin t.
        """
        tilts = np.radians(np.linspace(self.flattest_deg, self.steepest_deg, REACHES))
        return float((section.chord_m / 2 * np.cos(tilts) + section.stack_m * np.sin(tilts)).max())

    def turns_back_past_deg(self) -> float | None:
        """The turn past which rows on level ground would shade each other; None where none do."""
        if self.beside is None or self.beside.chord_m >= self.beside.apart_m:
            return None
        return math.degrees(math.acos(self.beside.chord_m / self.beside.apart_m))

    def swept_m(self, section: TableSection, lengths_m: ArrayLike) -> Floats:
        """Radius about the pole of all that corners of tables so long ever stand over, level."""
        return np.hypot(np.asarray(lengths_m, dtype=float) / 2, self.reach_m(section))


def looking(lie: Lie, turn_deg: float) -> Lie:
    """The tables turned about their poles, clockwise from above."""
    tables = lie.tables
    return replace(lie, tables=replace(tables, turn_deg=tables.turn_deg + turn_deg))


def poles_m(lie: Lie) -> Floats:
    """Heads of the poles: east, north, level (n, 3); the same at every tilt."""
    tables, section = lie.tables, lie.tables.section
    east, north = tables.east_north_m(np.arange(tables.count), 0.0, 0.0)
    return np.column_stack((east, north, lie.edge_level_m + section.bolt_z_m))


def swept_ground(lie: Lie, travel: Travel) -> NDArray[np.object_]:
    """What each mover sweeps, as polygons: circles about poles, strips along tubes: (n)."""
    if travel.rolls:
        return _strips(lie, travel)
    radii = travel.swept_m(lie.tables.section, lie.tables.lengths_m)
    # A polygon of so many sides lies outside its circle where its middles touch it.
    outside = radii / np.cos(np.pi / (4 * SIDES))
    return np.asarray(shapely.buffer(shapely.points(poles_m(lie)[:, :2]), outside, quad_segs=SIDES))


def _strips(lie: Lie, travel: Travel) -> NDArray[np.object_]:
    """Along each tube, as far to both sides as its glass ever reaches."""
    tables = lie.tables
    every, half = np.arange(tables.count), tables.lengths_m / 2
    reach = travel.reach_m(tables.section)
    corners = [
        tables.east_north_m(every, along * half, side * reach)
        for along, side in ((-1, -1), (1, -1), (1, 1), (-1, 1))
    ]
    return np.asarray(shapely.polygons(np.stack([np.column_stack(one) for one in corners], axis=1)))
