"""A gust on one bay of a purlin, a pipe or a rail: a small piece takes more than a whole table does."""

import itertools
import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.beams import HAIR_M, continuous_beam
from openfurrow.core.codes import RulePack
from openfurrow.core.loads.corners import Stretches, corner, on_bay
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.quantities import STANDARD_GRAVITY_M_S2
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.working import Source

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Member:
    """What lies on ``supports_m``, ``long_m`` in all, and carries a strip of glass ``wide_m``.

    ``along`` the row, or up the slope. On one support it is a cantilever both ways.
    """

    long_m: float
    supports_m: Floats
    wide_m: float
    along: bool

    @property
    def bays_m(self) -> list[tuple[float, float]]:
        """From support to support, and what hangs past the first and the last."""
        ends = [0.0, *self.supports_m.tolist(), self.long_m]
        return [(first, last) for first, last in itertools.pairwise(ends) if last - first > HAIR_M]


@dataclass(frozen=True)
class Gust:
    """The most bending, pressed and lifted, that a gust on one bay brings, and the bay it is on.

    ``most_n_m`` is the most at each of ``stations_m`` along the member, whichever bay and way.
    """

    pressing_n_m: float
    lifting_n_m: float
    bay_m: float
    zone: str
    source: Source
    stations_m: Floats
    most_n_m: Floats


@dataclass(frozen=True)
class _Acting:
    """Square to the glass, pressing or lifting: combination by combination, Pa.

    ``lies`` is weight and snow, ``wind`` the factor of wind on its pressure ``blows``, ``rest`` what
    it brings to the worse half of a whole table.
    """

    lies: Floats
    wind: Floats
    rest: float


def _acting(rows: RowsPlan, loads: TableLoads, dead_kg_per_m2: float) -> tuple[_Acting, _Acting]:
    combined, cosine = loads.strength, math.cos(math.radians(rows.section.tilt_deg))
    weight = combined.dead * dead_kg_per_m2 * STANDARD_GRAVITY_M_S2 * cosine
    snow_pa = loads.snow_pa * cosine**2
    halves = np.concatenate((loads.wind.front_pa, loads.wind.back_pa))
    snow = np.stack((combined.snow, combined.snow_back))
    return (
        _Acting(weight + snow.max(axis=0) * snow_pa, combined.wind, max(0.0, float(halves.max()))),
        _Acting(weight + snow.min(axis=0) * snow_pa, combined.wind, min(0.0, float(halves.min()))),
    )


def gust_on(
    pack: RulePack, rows: RowsPlan, loads: TableLoads, dead_kg_per_m2: float, member: Member
) -> Gust:
    """Each bay in turn takes the gust; the others nothing of it, or what a whole table has.

    Bending is taken without its sign, as everywhere: what hogs at a support counts like what sags.
    """
    longest, bays = float(rows.tables.lengths_m.max()), member.bays_m
    lies = (member.long_m, member.wide_m, member.along)
    found = [on_bay(pack, rows.section, longest, lies, bay) for bay in bays]
    of_bay = np.repeat(np.arange(len(bays)), [len(one.down) for one in found])
    stations, units = _units(member, found)
    whole = units.sum(axis=0)
    in_bay = np.stack([units[of_bay == bay].sum(axis=0) for bay in range(len(bays))])
    most = []
    for acting, down in zip(_acting(rows, loads, dead_kg_per_m2), (True, False), strict=True):
        coefficients = np.concatenate([one.down if down else one.up for one in found])
        blows = loads.wind.velocity_pa * coefficients
        blown = np.stack([blows[of_bay == bay] @ units[of_bay == bay] for bay in range(len(bays))])
        beside = np.stack((np.zeros_like(blown), acting.rest * (whole - in_bay)))
        # Bays, whether the others feel wind, combinations, stations.
        wind = (blown + beside).swapaxes(0, 1)[:, :, None] * acting.wind[:, None]
        moments = np.abs(acting.lies[:, None] * whole + wind).max(axis=1) * member.wide_m
        # What still presses where wind lifts is no lifting, and the other way about.
        hardest = np.array([(max if down else min)(blows[of_bay == bay]) for bay in range(len(bays))])
        net = acting.lies + hardest[:, None] * acting.wind
        counts = (acting.wind > 0) & ((net > 0) == down)
        most.append(np.where(counts[..., None], moments, 0.0).max(axis=1))
    pressing, lifting = most
    either = np.maximum(pressing, lifting)
    worst = int(either.max(axis=1).argmax())
    first, last = bays[worst]
    return Gust(
        pressing_n_m=float(pressing.max()),
        lifting_n_m=float(lifting.max()),
        bay_m=last - first,
        zone=found[worst].zone,
        source=found[worst].source,
        stations_m=stations,
        most_n_m=either.max(axis=0),
    )


def crossing_n(
    pack: RulePack,
    rows: RowsPlan,
    loads: TableLoads,
    dead_kg_per_m2: float,
    held: tuple[float, Floats],
) -> float:
    """The most that any support is pressed or pulled with by a gust on what it carries.

    ``held`` is how wide a strip of glass the member carries, and how much of the row each support.
    """
    wide_m, row_m = held
    longest = float(rows.tables.lengths_m.max())
    found = [corner(pack, rows.section, longest, wide_m * one) for one in row_m.tolist()]
    most = []
    for acting, way in zip(_acting(rows, loads, dead_kg_per_m2), ("down", "up"), strict=True):
        blows = loads.wind.velocity_pa * np.array([getattr(one, way) for one in found])
        pressure = acting.lies + acting.wind * blows[:, None]
        most.append(np.abs(pressure).max(axis=1) * wide_m * row_m)
    return float(np.max(most))


def _units(member: Member, found: list[Stretches]) -> tuple[Floats, Floats]:
    """Stations, and bending there under a pascal on each stretch, a metre wide: (stretches, n)."""
    edges = sorted({edge for one in found for edge in one.edges_m})
    if member.supports_m.size == 1:
        bolt = float(member.supports_m[0])
        first, last = np.array(edges[:-1]) - bolt, np.array(edges[1:]) - bolt
        # Each side hangs on the bolt by itself.
        arms = np.abs(last**2 - first**2) / 2
        sides = np.where(last <= HAIR_M, arms, 0), np.where(first >= -HAIR_M, arms, 0)
        return np.full(2, bolt), np.stack(sides, axis=1)
    return _on_each(member.long_m, tuple(member.supports_m.tolist()), tuple(edges[1:-1]))


@lru_cache(maxsize=512)
def _on_each(
    long_m: float, supports_m: tuple[float, ...], inner: tuple[float, ...]
) -> tuple[Floats, Floats]:
    """Stretch by stretch on several supports; alike tables have it once, at whatever tilt and wind."""
    beams = [
        continuous_beam(long_m, supports_m, one, 1.0, steps_m=inner) for one in np.eye(len(inner) + 1)
    ]
    return beams[0].stations_m, np.stack([beam.moments_n_m for beam in beams])
