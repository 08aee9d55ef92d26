"""What other tilts and turns of the same rows would bring, at the pitch that they have."""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import CubicSpline

from openfurrow.core.energy.ahead import Ahead, of_pattern
from openfurrow.core.energy.ground_light import RowsOver
from openfurrow.core.energy.plane import normal_of
from openfurrow.core.energy.sky import Sky
from openfurrow.core.energy.year import Around, Field, Panel, Upkeep, light_year
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.year_days import DAYS

Floats = NDArray[np.float64]

STEEPEST_DEG, STEP_DEG = 75.0, 2.5
FURTHEST_TURN_DEG, TURN_STEP_DEG = 60.0, 7.5


@dataclass(frozen=True, kw_only=True)
class Stand:
    """Alike rows on a slope, as far as the light goes: what is compared is a change of one of these.

    ``rows`` stand one behind the other at ``pitch_m``, the first before nothing.
    """

    section: TableSection
    rows: int
    pitch_m: float
    row_length_m: float
    facing_deg: float
    around: Around
    panel: Panel
    upkeep: Upkeep

    @property
    def field(self) -> Field:
        """The first row and those behind it."""
        section, behind = self.section, self.rows - 1
        half = self.row_length_m / 2
        inner = of_pattern(section, self.pitch_m, half_m=half)
        alone = replace(inner, before_m=np.full((1, 1), np.inf))
        ahead = joined((alone, inner) if behind else (alone,))
        pitch = self.pitch_m if behind else None
        return self.field_of(
            section,
            over=(RowsOver(section, section.lower_edge_m, pitch),),
            ahead=ahead,
            modules=np.array([1.0, float(behind)] if behind else [1.0]),
        )

    def field_of(
        self, section: TableSection, over: tuple[RowsOver, ...], ahead: Ahead, modules: Floats
    ) -> Field:
        """Rows that face as these do, of a section, by what stands before them."""
        return Field(
            over=over,
            facing_deg=self.facing_deg,
            along_deg=(self.facing_deg - 90.0) % 360.0,
            normals=normal_of([section.tilt_deg], [self.facing_deg]),
            turned_deg=np.zeros(1),
            modules=modules,
            ahead=ahead,
            around=self.around,
        )

    def tilted(self, tilt_deg: float) -> "Stand":
        """The same rows at another tilt."""
        return replace(self, section=replace(self.section, tilt_deg=tilt_deg))


def joined(parts: tuple[Ahead, ...]) -> Ahead:
    """Kinds side by side."""
    return Ahead(
        *(
            np.concatenate([getattr(part, name) for part in parts])
            for name in ("before_m", "over_m", "from_m", "to_m", "length_m", "rise")
        )
    )


@dataclass(frozen=True)
class Curve:
    """Full hours a day, (values, days), at tilts or turns ``at_deg``; before wires and inverters."""

    at_deg: Floats
    by_day_h: Floats

    @property
    def year_h(self) -> Floats:
        """Over the whole year."""
        return np.asarray(self.by_day_h.sum(axis=1))

    @property
    def best(self) -> tuple[float, float]:
        """The value that brings most, between the computed ones, and what it brings."""
        fine = np.linspace(self.at_deg[0], self.at_deg[-1], 601)
        along = CubicSpline(self.at_deg, self.year_h)(fine)
        top = int(np.argmax(along))
        return float(fine[top]), float(along[top])

    def year_at(self, value_deg: float) -> float:
        """What a value brings."""
        return float(CubicSpline(self.at_deg, self.year_h)(value_deg))

    def by_degree(self) -> "Curve":
        """The same at whole degrees."""
        fine = np.arange(np.ceil(self.at_deg[0]), np.floor(self.at_deg[-1]) + 1)
        return Curve(fine, np.maximum(CubicSpline(self.at_deg, self.by_day_h)(fine), 0.0))


def by_day(sky: Sky, power: Floats) -> Floats:
    """Watts a watt over the steps as full hours by day."""
    return np.asarray(np.bincount(sky.day, power, minlength=DAYS) * sky.step_h)


def tilt_curve(sky: Sky, stand: Stand) -> Curve:
    """Tilts from flat on, at the pitch that the rows have."""
    tilts = np.arange(0.0, STEEPEST_DEG + 1e-9, STEP_DEG)
    return Curve(tilts, np.array([_days(sky, stand.tilted(float(tilt))) for tilt in tilts]))


def turn_curve(sky: Sky, stand: Stand, equator_deg: float) -> Curve:
    """Turns from the equator, clockwise: where hills or trees take half of the day one is best."""
    turns = np.arange(-FURTHEST_TURN_DEG, FURTHEST_TURN_DEG + 1e-9, TURN_STEP_DEG)
    facings = ((equator_deg + turn) % 360.0 for turn in turns.tolist())
    return Curve(turns, np.array([_days(sky, replace(stand, facing_deg=to)) for to in facings]))


def _days(sky: Sky, stand: Stand) -> Floats:
    return by_day(sky, light_year(sky, stand.field, stand.panel, stand.upkeep).power)
