"""What a wider pitch earns each module, and costs the ground: three schools on one curve."""

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.energy.ahead import of_pattern
from openfurrow.core.energy.cells import Cells
from openfurrow.core.energy.ground_light import RowsOver
from openfurrow.core.energy.sky import Sky
from openfurrow.core.energy.tilts import Stand, joined
from openfurrow.core.energy.year import light_year

Floats = NDArray[np.float64]

PITCHES = 40
WIDEST_DEPTHS = 4.5
# So far apart rows take nothing from each other that anybody would measure.
FREE_DEPTHS = 30.0


@dataclass(frozen=True)
class PitchCurve:
    """What a row behind others brings, by pitch.

    ``per_watt_h`` are full hours of a watt of modules, ``per_ground_h`` the same over the level ground
    that a row with its way takes, for each square metre of glass; ``free_h`` is that of a row that
    nothing stands before.
    """

    upright: bool
    pitch_m: Floats
    per_watt_h: Floats
    per_ground_h: Floats
    free_h: float

    @property
    def lost(self) -> Floats:
        """Share of a free row's year that the rows before take."""
        return np.asarray(1.0 - self.per_watt_h / self.free_h)

    def hours_at(self, pitch_m: float) -> float | None:
        """Full hours of a watt at one pitch; None where it lies beyond the curve."""
        if not self.pitch_m[0] - 1e-9 <= pitch_m <= self.pitch_m[-1] + 1e-9:
            return None
        return float(np.interp(pitch_m, self.pitch_m, self.per_watt_h))

    def lost_at(self, pitch_m: float) -> float | None:
        """Share of a free row's year lost at one pitch; None where it lies beyond the curve."""
        hours = self.hours_at(pitch_m)
        return None if hours is None else 1.0 - hours / self.free_h

    @property
    def most_from_ground_m(self) -> float:
        """The pitch at which the ground brings most."""
        return float(self.pitch_m[int(np.argmax(self.per_ground_h))])

    def pitch_for(self, lost: float) -> float | None:
        """The least pitch at which no more is lost; None where even the widest loses more."""
        enough = self.lost <= lost
        if not enough[-1]:
            return None
        first = int(np.argmax(enough))
        if first == 0:
            return float(self.pitch_m[0])
        low, high = self.lost[first], self.lost[first - 1]
        share = (high - lost) / (high - low)
        step = self.pitch_m[first] - self.pitch_m[first - 1]
        return float(self.pitch_m[first - 1] + share * step)


def across(cells: Cells, gap_m: float, chord_m: float) -> Cells:
    """The same modules laid the other way, as many high as come nearest to the same chord."""
    high = max(1, round((chord_m + gap_m) / (cells.across_m + gap_m)))
    return replace(
        cells, upright=not cells.upright, up_m=cells.across_m, across_m=cells.up_m, high=high
    )


@dataclass(frozen=True)
class Span:
    """Between which pitches a curve lies: people walk in ``walk_m``, ``upto_m`` is asked for."""

    walk_m: float
    upto_m: float


def pitch_curve(sky: Sky, stand: Stand, span: Span, cells: Cells) -> PitchCurve:
    """A row behind others like it, from the closest pitch on that people can walk in."""
    chord = cells.high * cells.up_m + (cells.high - 1) * cells.gap_m
    section = replace(stand.section, chord_m=chord)
    depth = section.level_depth_m
    closest = depth + span.walk_m
    widest = max(WIDEST_DEPTHS * depth, 1.5 * closest, 1.05 * span.upto_m)
    pitches = np.geomspace(closest, widest, PITCHES)
    every = np.append(pitches, FREE_DEPTHS * depth + widest).tolist()
    field = stand.field_of(
        section,
        over=tuple(RowsOver(section, section.lower_edge_m, one) for one in every),
        ahead=joined(tuple(of_pattern(section, one, half_m=stand.row_length_m / 2) for one in every)),
        modules=np.ones(len(every)),
    )
    panel = replace(stand.panel, cells=cells)
    hours = light_year(sky, field, panel, stand.upkeep).by_kind_h
    return PitchCurve(
        upright=cells.upright,
        pitch_m=pitches,
        per_watt_h=hours[:-1],
        per_ground_h=hours[:-1] * chord / pitches,
        free_h=float(hours[-1]),
    )


def both_ways(sky: Sky, stand: Stand, span: Span) -> tuple[PitchCurve, PitchCurve]:
    """The modules as they lie, and laid the other way."""
    cells = stand.panel.cells
    other = across(cells, cells.gap_m, stand.section.chord_m)
    return pitch_curve(sky, stand, span, cells), pitch_curve(sky, stand, span, other)


@dataclass(frozen=True)
class School:
    """A way to choose the pitch, and what it comes to; none where it cannot be had."""

    name: str
    pitch_m: float | None


def schools_of(curve: PitchCurve, window_m: float, accepted: float) -> tuple[School, ...]:
    """No shade in the winter window, so much of a year accepted, most from the ground.

    ``window_m`` is what the window asks for, infinite where no pitch does; people walk in each of them.
    """
    window = max(window_m, float(curve.pitch_m[0])) if math.isfinite(window_m) else None
    return (
        School("winter window", window),
        School(f"loses {accepted * 100:g} %", curve.pitch_for(accepted)),
        School("most from the ground", curve.most_from_ground_m),
    )
