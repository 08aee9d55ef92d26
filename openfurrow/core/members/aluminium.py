"""What an aluminium profile that is not welded resists, artificially aged as profiles of racks are.

Its walls in both schools by EN 1999-1-1 6.1.5, flanges that turn with their lips by EN 1999-1-4 5.5.3.
What its length leaves of it: us by the Aluminum Design Manual 2015, E.2 and F.4, over 1.65; metric by
EN 1999-1-1 6.3, over 1.10. Nothing is taken beyond the proof strength.
"""

import math

import numpy as np
from numpy.typing import ArrayLike, NDArray

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.codes.section import Section
from openfurrow.core.members.buckling import flange_turns_pa, plates_m, pressed_flange_turns_pa
from openfurrow.core.working import Source

Floats = NDArray[np.float64]

LIGHT = Source(
    "walls by EN 1999-1-1 6.1.5, flanges by EN 1999-1-4 5.5.3, length by EN 1999-1-1 6.3 or the "
    "Aluminum Design Manual 2015, E.2 and F.4",
    "from memory",
)
# Of walls of class A without welds: what is left of one is C1 / s - C2 / s^2, s its width over its
# thickness and the root of 250 MPa over its proof strength (EN 1999-1-1, Table 6.3).
BETWEEN, STANDS_OUT = (32.0, 220.0, 22.0), (10.0, 24.0, 6.0)
# A wall that is bent in its own plane counts as so much of its width (6.1.4.3).
BENT_WALL = 0.40
REFERENCE_PA = 250e6


def by(profile: Section, usual: Source) -> Source:
    """By what a profile was reckoned: as steel is ``usual``, or as aluminium."""
    return LIGHT if profile.aluminium else usual


def resistance_factor(pack: str) -> float:
    """What strength is divided by."""
    return constant(_school(pack), "aluminium_factor").value


def bent_share(profile: Section) -> tuple[float, float]:
    """What slender walls, and flanges that turn with their lips, leave of it in bending."""
    if profile.closed:
        return _closed(profile, bent=True), 1.0
    deep, wide, lip, thick = plates_m(profile)
    edges = min(_left(profile, wide / thick, BETWEEN), _left(profile, lip / thick, STANDS_OUT))
    walls = min(edges, _left(profile, BENT_WALL * deep / thick, BETWEEN))
    return walls, edges * _turned_flange(profile, flange_turns_pa(profile))


def turned_share(profile: Section, pack: str, over_pa: ArrayLike) -> Floats:
    """What is left at first yield of one that would turn over, elastic, at a stress of ``over_pa``."""
    stress = np.asarray(over_pa, dtype=float)
    if pack != "us":
        # EN 1999-1-1 6.3.2.2, classes 3 and 4.
        return _bowed(profile, stress, 0.20, 0.40)
    slender = math.pi * np.sqrt(profile.elastic_pa / stress)
    _, _, long = _column_line(profile)
    elastic = stress / profile.yield_pa
    # F.4: a straight line to the elastic curve's own slope.
    short = 1 - slender / long + math.pi**2 * profile.elastic_pa * slender / long**3 / profile.yield_pa
    return np.asarray(np.clip(np.where(slender <= long, short, elastic), 0.0, 1.0))


def pressed_limit_n(profile: Section, pack: str, bows_pa: ArrayLike) -> Floats:
    """What it carries along itself that bows, or bows and twists, elastic, at ``bows_pa``."""
    stress = np.asarray(bows_pa, dtype=float)
    if pack == "us":
        start, falls, long = _column_line(profile)
        slender = math.pi * np.sqrt(profile.elastic_pa / stress)
        bow = constant("us", "aluminium_column_bow").value
        left = bow * np.where(slender < long, start - falls * slender, stress) / profile.yield_pa
        length = np.clip(left, 0.0, 1.0)
    else:
        # Class A where it bows; what bows and twists by Table 6.7.
        length = _bowed(profile, stress, 0.20, 0.10)
        if not profile.closed:
            length = np.minimum(length, _bowed(profile, stress, 0.35, 0.40))
    force = length * _pressed_share(profile) * profile.area_m2 * profile.yield_pa
    return np.asarray(force / resistance_factor(pack))


def _school(pack: str) -> RulePack:
    return "us" if pack == "us" else "metric"


def _left(profile: Section, slender: float, curve: tuple[float, float, float]) -> float:
    """What is left of a wall by EN 1999-1-1 6.1.5."""
    first, second, limit = curve
    ratio = slender / math.sqrt(REFERENCE_PA / profile.yield_pa)
    return 1.0 if ratio <= limit else first / ratio - second / ratio**2


def _closed(profile: Section, *, bent: bool) -> float:
    """Of a box the worst of its walls; of a pipe all, for its walls are thick enough."""
    if profile.shape == "pipe":
        # EN 1999-1-1 6.1.4.3: a round tube counts as 3 sqrt(D / t), and only in what is pressed.
        return _left(profile, 3 * math.sqrt(profile.depth_m / profile.web_m), BETWEEN)
    wide, deep = profile.width_m - 2 * profile.web_m, profile.depth_m - 2 * profile.flange_m
    across = (BENT_WALL if bent else 1.0) * deep
    return min(_left(profile, one / profile.web_m, BETWEEN) for one in (wide, across))


def _pressed_share(profile: Section) -> float:
    if profile.closed:
        return _closed(profile, bent=False)
    deep, wide, lip, thick = plates_m(profile)
    edges = min(_left(profile, wide / thick, BETWEEN), _left(profile, lip / thick, STANDS_OUT))
    turned = edges * _turned_flange(profile, pressed_flange_turns_pa(profile))
    return min(turned, _left(profile, deep / thick, BETWEEN))


def _turned_flange(profile: Section, turns_pa: float) -> float:
    """EN 1999-1-4 5.5.3: what is left of a flange that turns about its corner with its lip."""
    slender = math.sqrt(profile.yield_pa / turns_pa)
    if slender <= 0.25:
        return 1.0
    return 1.155 - 0.62 * slender if slender < 1.04 else 0.53 / slender


def _bowed(profile: Section, stress_pa: Floats, imperfect: float, flat: float) -> Floats:
    """EN 1999-1-1 6.3.1.2: what bowing leaves, with the part that is not straight and the plateau."""
    slender = np.sqrt(profile.yield_pa / stress_pa)
    phi = 0.5 * (1 + imperfect * (slender - flat) + slender**2)
    left = np.sqrt(np.maximum(phi**2 - slender**2, 0.0))
    return np.asarray(np.minimum(1.0, 1 / (phi + left)))


def _column_line(profile: Section) -> tuple[float, float, float]:
    """B_c, D_c and C_c of the Aluminum Design Manual 2015, Table B.4.2, for T5 to T9."""
    start = profile.yield_pa * (
        1 + math.sqrt(profile.yield_pa / constant("us", "aluminium_bc_pa").value)
    )
    falls = start / 10 * math.sqrt(start / profile.elastic_pa)
    return start, falls, 0.41 * start / falls
