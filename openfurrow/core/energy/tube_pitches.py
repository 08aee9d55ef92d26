"""What a wider pitch earns rows on turning tubes: nearer, they stand turned back half of the day."""

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant
from openfurrow.core.energy.array import ArrayYear
from openfurrow.core.energy.pitches import PitchCurve, School
from openfurrow.core.energy.plane import on_plane
from openfurrow.core.energy.sky import Sky
from openfurrow.core.energy.year import moved_power
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.mover_shade import axes_of
from openfurrow.core.rows.travel import Beside

Floats = NDArray[np.float64]

PITCHES = 24
# So many widths of glass from tube to tube are looked at; past that hardly anything is left to earn.
WIDEST_CHORDS = 6.0


def tube_curve(sky: Sky, rows: RowsPlan, year: ArrayYear) -> PitchCurve:
    """One row among others as even as the ground under them, all turned back from shade.

    What stands round the array is counted as where it stands, not what neighbours hide of the sky.
    Raises ValueError for rows that lie on no tubes.
    """
    travel, section = rows.travel, rows.section
    if travel is None or not travel.rolls:
        raise ValueError("these rows lie on no tubes")
    chord, rise = section.chord_m, rows.local.rise_toward(rows.facing_deg)
    closest = 2 * travel.reach_m(section) + constant("common", "walk_between_m").value
    widest = max(WIDEST_CHORDS * chord, 1.05 * rows.pitch_m, 1.5 * closest)
    pitches = np.geomspace(min(closest, rows.pitch_m), widest, PITCHES)

    def hours(beside: Beside | None) -> float:
        moves = replace(travel, turns_back=True, beside=beside)
        normals = axes_of(*moves.looks(sky.altitude_deg, sky.azimuth_deg, rows.facing_deg))[0]
        light = on_plane(sky, normals, year.upkeep.albedo)
        power = moved_power(sky, light, normals, year.field.around, year.panel, year.upkeep)
        return float(power.sum() * sky.step_h)

    found = np.array([hours(Beside(chord, one, rise * one)) for one in pitches.tolist()])
    return PitchCurve(
        upright=year.panel.cells.upright,
        pitch_m=pitches,
        per_watt_h=found,
        per_ground_h=found * chord / pitches,
        free_h=hours(None),
    )


def tube_schools(curve: PitchCurve, chord_m: float, accepted: float) -> tuple[School, ...]:
    """So much of a year given for turning back, the usual share of ground, most from the ground."""
    cover = constant("common", "tube_cover").value
    return (
        School(f"gives {accepted * 100:g} %", curve.pitch_for(accepted)),
        School(f"covers {cover * 100:g} % of the ground", chord_m / cover),
        School("most from the ground", curve.most_from_ground_m),
    )
