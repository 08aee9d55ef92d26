"""What a wider pitch earns each module, and costs the ground: three schools on one curve."""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.energy.ahead import of_pattern
from openfurrow.core.energy.cells import Cells
from openfurrow.core.energy.ground_light import RowsOver
from openfurrow.core.energy.plane import normal_of
from openfurrow.core.energy.sky import Sky
from openfurrow.core.energy.tilts import Stand, joined
from openfurrow.core.energy.year import Field, light_year

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

    def lost_at(self, pitch_m: float) -> float:
        """At one pitch."""
        return float(np.interp(pitch_m, self.pitch_m, self.lost))

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


def pitch_curve(sky: Sky, stand: Stand, least_m: float, cells: Cells) -> PitchCurve:
    """A row behind others like it, from the closest pitch on that people can walk in."""
    chord = cells.high * cells.up_m + (cells.high - 1) * cells.gap_m
    section = replace(stand.section, chord_m=chord)
    depth = section.level_depth_m
    closest = max(least_m - stand.section.level_depth_m + depth, 1.02 * depth)
    widest = max(WIDEST_DEPTHS * depth, 1.5 * closest)
    pitches = np.geomspace(closest, widest, PITCHES)
    every = np.append(pitches, FREE_DEPTHS * depth + closest)
    half = stand.row_length_m / 2
    field = Field(
        over=tuple(RowsOver(section, section.lower_edge_m, float(one)) for one in every),
        facing_deg=stand.facing_deg,
        along_deg=(stand.facing_deg - 90.0) % 360.0,
        normals=normal_of([section.tilt_deg], [stand.facing_deg]),
        modules=np.ones(len(every)),
        ahead=joined(tuple(of_pattern(section, float(one), half_m=half) for one in every)),
        around=stand.around,
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


def both_ways(sky: Sky, stand: Stand, walk_m: float) -> tuple[PitchCurve, PitchCurve]:
    """The modules as they lie, and laid the other way; ``walk_m`` is the least way between rows."""
    cells, section = stand.panel.cells, stand.section
    closest = section.level_depth_m + walk_m
    other = across(cells, cells.gap_m, section.chord_m)
    return (
        pitch_curve(sky, stand, closest, cells),
        pitch_curve(sky, stand, closest, other),
    )
