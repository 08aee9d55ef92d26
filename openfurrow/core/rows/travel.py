"""How far glass on a pole goes when it follows the sun: its tilts, where it looks, what it sweeps."""

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
# Sides of a quarter of a circle.
SIDES = 12
# Tilts between the limits at which the reach of a table is looked for.
REACHES = 61


@dataclass(frozen=True)
class Travel:
    """Limits of a mover about one axis or two: its tilts from level, how far it turns to either side.

    ``stow_deg`` is the tilt that it lies at in wind, and ``loop_m`` how far off the pole's middle its
    cable hangs. One that does not turn has no ``turn_deg``; one that never ``tilts`` is `held_at` its
    tilt before its limits are asked for.
    """

    flattest_deg: float
    steepest_deg: float
    turn_deg: float
    stow_deg: float
    loop_m: float
    tilts: bool = True

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
        """How much cable winds round the pole from one end of its turning to the other."""
        return 2 * math.radians(self.turn_deg) * self.loop_m

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
        """
        off = (np.asarray(azimuth_deg, dtype=float) - facing_deg + 180.0) % 360.0 - 180.0
        bearing = facing_deg + np.clip(off, -self.turn_deg, self.turn_deg)
        low, high = self.limits_deg
        altitude = np.asarray(altitude_deg, dtype=float)
        steep = 90.0 - altitude
        if not self.turns:
            level, up = np.cos(np.radians(altitude)), np.sin(np.radians(altitude))
            steep = np.degrees(np.arctan2(np.cos(np.radians(off)) * level, up))
        return np.clip(steep, low, high), bearing

    def reach_m(self, section: TableSection) -> float:
        """Level, from the pole to an edge of the glass, at the tilt at which it is furthest.

        The glass lies the stack before the pole's head: c/2 cos t + s sin t.
        """
        tilts = np.radians(np.linspace(self.flattest_deg, self.steepest_deg, REACHES))
        return float((section.chord_m / 2 * np.cos(tilts) + section.stack_m * np.sin(tilts)).max())

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


def circles_of(lie: Lie, travel: Travel) -> NDArray[np.object_]:
    """What each mover sweeps, as polygons about the circles: (n)."""
    radii = travel.swept_m(lie.tables.section, lie.tables.lengths_m)
    # A polygon of so many sides lies outside its circle where its middles touch it.
    outside = radii / np.cos(np.pi / (4 * SIDES))
    return np.asarray(shapely.buffer(shapely.points(poles_m(lie)[:, :2]), outside, quad_segs=SIDES))
