"""Glass that follows the sun, about one axis or two, and how much more fixed glass earns the same."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.energy.plane import on_plane
from openfurrow.core.energy.sky import Sky
from openfurrow.core.energy.year import Around, Panel, Upkeep, moved_power
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.mover_shade import axes_of, shaded_shares
from openfurrow.core.rows.shade import evenly
from openfurrow.core.rows.sweep import movers_of

Floats = NDArray[np.float64]

# How far a lying axis turns to either side, and how steep and flat glass on a pole is set.
FURTHEST_DEG, STEEPEST_DEG = 55.0, 75.0


@dataclass(frozen=True)
class Mover:
    """What it is called, and the full hours that a watt on it brings."""

    name: str
    year_h: float


@dataclass(frozen=True)
class Moving:
    """An array that follows the sun: which way it looks, ``normals`` (steps, 3).

    ``shaded`` (looked at, steps) is the share of the tables that are looked at which others shade, and
    ``of`` (tables) the nearest of those for each.
    """

    normals: Floats
    shaded: Floats
    of: NDArray[np.int64]


def moving(sky: Sky, rows: RowsPlan) -> Moving | None:
    """How an array follows the sun, within its limits; None where it stands fixed."""
    if rows.travel is None:
        return None
    tilt, bearing = rows.travel.looks(sky.altitude_deg, sky.azimuth_deg, rows.facing_deg)
    which = evenly(rows.lie.tables.count)
    shaded = shaded_shares(movers_of(rows.steepest.lie), which, tilt, bearing, sky.toward)
    nearest = np.abs(np.arange(rows.lie.tables.count)[:, None] - which).argmin(axis=1)
    return Moving(axes_of(tilt, bearing)[0], shaded, nearest)


def lying_axis_normals(sky: Sky, cover: float) -> Floats:
    """Tubes from north to south at a spacing that the glass covers to ``cover``: (steps, 3).

    The glass turns so that the sun lies square to it seen along the tube; in the morning and the
    evening it turns back until no row shades the next:
    cos(back) = cos(turn) / cover.

    Source: Lorenzo, Narvarte & Munoz, Progress in Photovoltaics 19 (2011).
    """
    toward = sky.toward
    turn = np.arctan2(toward[:, 0], toward[:, 2])
    room = np.abs(np.cos(turn)) / cover
    back = np.where(room < 1, np.arccos(np.clip(room, -1, 1)), 0.0)
    turn = turn - np.sign(turn) * back
    furthest = np.radians(FURTHEST_DEG)
    turn = np.clip(turn, -furthest, furthest)
    return np.stack((np.sin(turn), np.zeros_like(turn), np.cos(turn)), axis=1)


def pole_normals(sky: Sky) -> Floats:
    """Glass on a pole that looks into the sun, no steeper than its drives go: (steps, 3)."""
    azimuth = np.radians(sky.azimuth_deg)
    steep = np.radians(np.minimum(90.0 - np.maximum(sky.altitude_deg, 0.0), STEEPEST_DEG))
    level = np.sin(steep)
    return np.stack((level * np.sin(azimuth), level * np.cos(azimuth), np.cos(steep)), axis=1)


def mover_years(
    sky: Sky, around: Around, panel: Panel, upkeep: Upkeep, cover: float = 0.4
) -> tuple[Mover, Mover]:
    """A lying axis, whose rows turn back from each other, and a pole that stands alone."""
    found = []
    for name, normals in (
        ("lying axis, north to south", lying_axis_normals(sky, cover)),
        ("pole, two axes", pole_normals(sky)),
    ):
        light = on_plane(sky, normals, upkeep.albedo)
        power = moved_power(sky, light, normals, around, panel, upkeep)
        found.append(Mover(name, float(power.sum() * sky.step_h)))
    return found[0], found[1]
