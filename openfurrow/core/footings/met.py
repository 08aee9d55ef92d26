"""What was met at one footing: it leans, or water stands in its hole; the same rules over that."""

import math
from dataclasses import dataclass, replace

import numpy as np

from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.footings.posts import SizedKind, called_in
from openfurrow.core.footings.sizing import beside, sized
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.site.soil import Soil
from openfurrow.core.structures.supports import Reactions


@dataclass(frozen=True, kw_only=True)
class Met:
    """How far it leans off plumb, whichever way; at what depth water stands, None for none."""

    lean_deg: float = 0.0
    water_m: float | None = None


NOTHING_MET = Met()


def as_met(
    kind: SizedKind, site: SitePlan, givens: FootingsGivens, high_m: float, met: Met
) -> SizedKind:
    """The kind of one support with what was met there; ``high_m`` is its bolt over the ground.

    A head that hangs over by h tan(lean) tips its post by what comes down on it, the worse way.
    """
    loads = leaned(kind.loads, high_m * math.tan(math.radians(met.lean_deg)))
    ground = kind.ground
    if met.water_m is not None:
        soil = as_wet(ground.soil, met)
        called = called_in(site.display_units, givens)
        ground = beside(site, soil, givens, ground.post, called, ground.proved)
    ((needs, _),) = sized(ground, [loads], kind.depth_m)
    return SizedKind(ground=ground, loads=loads, needs=needs, depth_m=kind.depth_m)


def as_wet(soil: Soil, met: Met) -> Soil:
    """The same soil with its water no deeper than where it was met."""
    if met.water_m is None:
        return soil
    known = soil.water_m
    return replace(soil, water_m=met.water_m if known is None else min(known, met.water_m))


def leaned(loads: Reactions, over_m: float) -> Reactions:
    """The same with its head so far off plumb: every moment grows by what comes down or lifts there."""
    more = np.abs(loads.down_n) * over_m
    way = np.where(loads.moment_n_m < 0, -1.0, 1.0)
    return replace(loads, moment_n_m=loads.moment_n_m + way * more)
