"""What each pile under a purlin feels: weight, snow, wind as a whole, along the row and at a corner."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import RulePack
from openfurrow.core.loads.corners import corner
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.quantities import STANDARD_GRAVITY_M_S2
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.purlins import purlin_places_m, purlin_shares_m
from openfurrow.core.structures.supports import Kinds, Reactions

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

CORNER = "gust at a corner"


@dataclass(frozen=True, kw_only=True)
class Shares:
    """How the glass lies on its purlins, front to back.

    ``halves_m`` (2, purlins) is how much of the lower and of the upper half of the chord each carries.
    ``tips`` is what of a newton down the slope each is pressed by more, ``stack_m`` below the glass:
    the lower purlin of a module row takes what the upper one loses.
    """

    halves_m: Floats
    tips: Floats
    tilt_rad: float

    @property
    def whole_m(self) -> Floats:
        """How much of the chord each carries."""
        return np.asarray(self.halves_m.sum(axis=0))


def shares_of(rows: RowsPlan) -> Shares:
    """A module lies on its two purlins; what acts down the slope acts on the glass, above them."""
    places = purlin_places_m(rows)
    apart = places[1::2] - places[::2]
    tips = np.repeat(rows.section.stack_m / apart, 2) * np.tile([1.0, -1.0], apart.size)
    return Shares(
        halves_m=purlin_shares_m(rows), tips=tips, tilt_rad=math.radians(rows.section.tilt_deg)
    )


def _weights(shares: Shares, kinds: Kinds, loads: TableLoads, at: Integers, role: Integers) -> Floats:
    """Weight and snow on a metre of purlin in some combinations ``at``: (kinds, combinations).

    ``role`` is which purlin of its table is meant for each kind.
    """
    combined, cosine = loads.strength, math.cos(shares.tilt_rad)
    dead = loads.dead_of_kg_per_m2[kinds.size_of] * STANDARD_GRAVITY_M_S2 * shares.whole_m[role]
    front, back = (loads.snow_pa * cosine * half[role] for half in shares.halves_m)
    return np.asarray(
        combined.dead[at] * dead[:, None]
        + combined.snow[at] * front[:, None]
        + combined.snow_back[at] * back[:, None]
    )


def _cases(
    shares: Shares, kinds: Kinds, loads: TableLoads, square: Floats, at: Integers
) -> dict[str, Floats]:
    """Down and across of (kinds, cases): weight in combinations ``at``, and wind.

    ``square`` to the glass is what of wind is on a metre of purlin, unfactored.
    """
    own, lower = kinds.role, kinds.role // 2 * 2
    weights, both = (
        sum(_weights(shares, kinds, loads, at, role) for role in roles)
        for roles in ((own,), (lower, lower + 1))
    )
    # What runs down the slope of a module row tips it on its two purlins.
    tipped = both * (shares.tips[own] * math.sin(shares.tilt_rad))[:, None]
    normal = loads.strength.wind[at] * square + tipped
    row_m = kinds.tributary_m[:, None]
    down = (weights + normal * math.cos(shares.tilt_rad)) * row_m
    across = normal * math.sin(shares.tilt_rad) * row_m
    nothing = np.zeros_like(down)
    return {
        "down_n": down,
        "across_n": across,
        "moment_n_m": nothing,
        "along_n": nothing,
        "along_moment_n_m": nothing,
        "twist_n_m": nothing,
    }


def reactions(
    pack: RulePack, rows: RowsPlan, kinds: Kinds, loads: TableLoads, along_n: Floats
) -> Reactions:
    """What each kind of pile is asked for at its top: every combination with every wind case, wind
    along the row, ``along_n`` on a pile of each kind, and gusts at a corner.

    Any pile may stand at one: a corner's gust meets each by itself.
    """
    shares, combined, wind = shares_of(rows), loads.strength, loads.wind
    cases, role = len(wind.names), kinds.role
    every = np.repeat(np.arange(len(combined.names)), cases)
    square = np.tile(
        wind.front_pa * shares.halves_m[0][role, None] + wind.back_pa * shares.halves_m[1][role, None],
        len(combined.names),
    )
    whole = _cases(shares, kinds, loads, square, every)
    windy = np.flatnonzero(combined.wind)
    parts = [whole, _at_corners(pack, rows, kinds, loads, shares)]
    blows = _cases(shares, kinds, loads, np.zeros((kinds.count, windy.size)), windy)
    blows["along_n"] = combined.wind[windy] * along_n[:, None]
    parts.append(blows)
    said = [
        *(
            f"{combined.names[one]}, {CORNER}, {way}"
            for way in ("pressing", "lifting")
            for one in windy
        ),
        *(f"{combined.names[one]}, along the row" for one in windy),
    ]
    lightest = loads.dead_of_kg_per_m2[kinds.size_of] * STANDARD_GRAVITY_M_S2
    return Reactions(
        names=(*loads.case_names(), *said),
        bounds=1,
        dead_n=lightest * shares.whole_m[role] * kinds.least_tributary_m,
        **{name: np.concatenate([part[name] for part in parts], axis=1) for name in whole},
    )


def _at_corners(
    pack: RulePack, rows: RowsPlan, kinds: Kinds, loads: TableLoads, shares: Shares
) -> dict[str, Floats]:
    """A gust that presses, then one that lifts, on what each pile carries: (kinds, 2 x windy)."""
    windy = np.flatnonzero(loads.strength.wind)
    longest = float(rows.tables.lengths_m.max())
    areas = shares.whole_m[kinds.role] * kinds.tributary_m
    found = [corner(pack, rows.section, longest, area) for area in areas.tolist()]
    whole = shares.whole_m[kinds.role] * loads.wind.velocity_pa
    square = np.stack([[one.down for one in found], [one.up for one in found]], axis=1) * whole[:, None]
    return _cases(shares, kinds, loads, np.repeat(square, windy.size, axis=1), np.tile(windy, 2))
