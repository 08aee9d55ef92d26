"""Glass that follows the sun, about one axis or two, and how much more fixed glass earns the same."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.energy.plane import on_plane
from openfurrow.core.energy.sky import Sky
from openfurrow.core.energy.year import Around, Panel, Upkeep, moved_power

Floats = NDArray[np.float64]

# How far a lying axis turns to either side, and how steep and flat glass on a pole is set.
FURTHEST_DEG, STEEPEST_DEG = 55.0, 75.0


@dataclass(frozen=True)
class Mover:
    """What it is called, and the full hours that a watt on it brings."""

    name: str
    year_h: float


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
