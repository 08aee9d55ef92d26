"""One array's way from its junction box to the wall: bends, length along the ground, cover."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import RulePack, Table, table
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.trench.givens import TrenchGivens

Floats = NDArray[np.float64]

# The ground is asked at least this often along the way.
PROFILE_STEP_M = 0.25


@dataclass(frozen=True)
class Profile:
    """A line over the ground: its bends, and the ground along it.

    ``bends_at_m`` and ``chainage_m`` are level lengths from its beginning.
    """

    east_m: Floats
    north_m: Floats
    bends_at_m: Floats
    profile_east_m: Floats
    profile_north_m: Floats
    chainage_m: Floats
    ground_m: Floats

    @property
    def level_length_m(self) -> float:
        """Length on the map."""
        return float(np.hypot(np.diff(self.east_m), np.diff(self.north_m)).sum())

    @property
    def ground_length_m(self) -> float:
        """Length along the ground."""
        return float(np.hypot(np.diff(self.chainage_m), np.diff(self.ground_m)).sum())


def profile_of(site: SitePlan, points_m: Floats) -> Profile:
    """The ground along a line of bends (n, 2), none of them twice."""
    east, north = points_m[:, 0], points_m[:, 1]
    steps = np.hypot(np.diff(east), np.diff(north))
    bends_at = np.concatenate(([0.0], np.cumsum(steps)))
    chainage = np.union1d(bends_at, np.arange(0.0, bends_at[-1], PROFILE_STEP_M))
    along_e, along_n = np.interp(chainage, bends_at, east), np.interp(chainage, bends_at, north)
    return Profile(
        east, north, bends_at, along_e, along_n, chainage, site.ground.level_m(along_e, along_n)
    )


@dataclass(frozen=True)
class Route:
    """Bends in local metres, from the junction post to the wall.

    The profile follows the ground between them: ``chainage_m`` level from the start, ``ground_m``.
    ``cover_m`` is what lies over the wiring, below nought where it lies over the ground itself,
    ``rises_m`` the wire up and down at both ends.
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


def least_covers_m(pack: RulePack, givens: TrenchGivens, roads: int = 0) -> tuple[float, float]:
    """Least cover in open ground and under wheels, by the method and who drives there.

    One of ``roads`` that are drawn is a dwelling's driveway only where that was said, and it is the
    only one.
    """
    covers = table(pack, "cover")
    row = covers.row("method", givens.method)
    dwelling = givens.under_driveway and givens.of_dwelling and roads <= 1
    wheels = "dwelling_m" if dwelling else "road_m"
    return covers.number("open_ground_m", row), covers.number(wheels, row)


def lay_route(
    site: SitePlan,
    start_post: int,
    points_m: Floats,
    givens: TrenchGivens,
    *,
    roads: int = 0,
) -> Route:
    """The route over ``points_m`` (n, 2), which begin at the post; lengths follow the ground.

    ``roads`` that are drawn lie over this way, or over others that have its depth.
    """
    line = profile_of(site, points_m)
    cover = table(site.rule_pack, "cover")
    open_m, wheels_m = least_covers_m(site.rule_pack, givens, roads)
    # Dug to one depth: what wheels ask for never makes the rest of the way shallower.
    least = max(open_m, wheels_m if givens.under_driveway or roads else 0.0)
    buried = least + givens.extra_depth_m
    if givens.is_over:
        least, buried = 0.0, -givens.over_m
    return Route(
        east_m=line.east_m,
        north_m=line.north_m,
        level_m=np.interp(line.bends_at_m, line.chainage_m, line.ground_m),
        profile_east_m=line.profile_east_m,
        profile_north_m=line.profile_north_m,
        chainage_m=line.chainage_m,
        ground_m=line.ground_m,
        start_post=start_post,
        level_length_m=line.level_length_m,
        ground_length_m=line.ground_length_m,
        turns_deg=turns_deg(line.east_m, line.north_m),
        least_cover_m=least,
        cover_m=buried,
        cover_table=cover,
        rises_m=sum(givens.ups_m) + 2 * buried,
    )
