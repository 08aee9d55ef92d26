"""The way from the array's junction box to the wall: bends, length along the ground, cover."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import Table, constant, table
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.structures.supports import SupportPlaces
from openfurrow.core.trench.givens import TrenchGivens

Floats = NDArray[np.float64]

# The ground is asked at least this often along the way.
PROFILE_STEP_M = 0.25


@dataclass(frozen=True)
class Route:
    """Bends in local metres, from the junction post to the wall.

    The profile follows the ground between them: ``chainage_m`` level from the start, ``ground_m``.
    ``cover_m`` is what lies over the wiring, ``rises_m`` the wire up and down at both ends.
    """

    east_m: Floats
    north_m: Floats
    level_m: Floats
    profile_east_m: Floats
    profile_north_m: Floats
    chainage_m: Floats
    ground_m: Floats
    start_post: int
    level_length_m: float
    ground_length_m: float
    turns_deg: tuple[float, ...]
    least_cover_m: float
    cover_m: float
    cover_table: Table
    rises_m: float

    @property
    def wire_m(self) -> float:
        """One conductor from junction box to inverter, without slack."""
        return self.ground_length_m + self.rises_m


def turns_deg(east_m: Floats, north_m: Floats) -> tuple[float, ...]:
    """Change of direction at each inner bend, 0 to 180°."""
    bearing = np.arctan2(np.diff(east_m), np.diff(north_m))
    change = (np.diff(bearing) + math.pi) % (2 * math.pi) - math.pi
    return tuple(float(turn) for turn in np.degrees(np.abs(change)))


def lay_route(site: SitePlan, posts: SupportPlaces, givens: TrenchGivens) -> Route:
    """The route from the post nearest its first bend; lengths follow the ground."""
    bends = np.array(site.route_m, dtype=float).reshape(-1, 2)
    if not bends.size:
        bends = np.array([[posts.east_m[0], posts.north_m[0]]])
    reach = np.hypot(posts.east_m - bends[0, 0], posts.north_m - bends[0, 1])
    start = int(reach.argmin())
    east = np.concatenate(([posts.east_m[start]], bends[:, 0]))
    north = np.concatenate(([posts.north_m[start]], bends[:, 1]))
    steps = np.hypot(np.diff(east), np.diff(north))
    # A bend given twice, or on the post itself, is no bend.
    keep = np.concatenate(([True], steps > 1e-6))
    east, north = east[keep], north[keep]
    steps = np.hypot(np.diff(east), np.diff(north))
    bends_at = np.concatenate(([0.0], np.cumsum(steps)))
    chainage = np.union1d(bends_at, np.arange(0.0, bends_at[-1], PROFILE_STEP_M))
    along_e, along_n = np.interp(chainage, bends_at, east), np.interp(chainage, bends_at, north)
    profile = site.ground.level_m(along_e, along_n)
    cover = table(site.rule_pack, "cover")
    row = cover.row("method", givens.method)
    # Dug to one depth: what wheels ask for never makes the rest of the way shallower.
    wheels = "dwelling_m" if givens.of_dwelling else "road_m"
    least = max(cover.number("open_ground_m", row),
                cover.number(wheels, row) if givens.under_driveway else 0.0)
    buried = least + givens.extra_depth_m
    ends = constant("common", "junction_height_m").value + constant("common", "building_rise_m").value
    return Route(
        east_m=east,
        north_m=north,
        level_m=np.interp(bends_at, chainage, profile),
        profile_east_m=along_e,
        profile_north_m=along_n,
        chainage_m=chainage,
        ground_m=profile,
        start_post=start,
        level_length_m=float(steps.sum()),
        ground_length_m=float(np.hypot(np.diff(chainage), np.diff(profile)).sum()),
        turns_deg=turns_deg(east, north),
        least_cover_m=least,
        cover_m=buried,
        cover_table=cover,
        rises_m=ends + 2 * buried,
    )
