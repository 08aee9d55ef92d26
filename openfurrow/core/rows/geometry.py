"""Geometry of a table in the vertical plane square to its row, and of rows behind each other.

In that plane ``x`` runs level from the sun side to the back and ``z`` up; the lower edge of the
table is the origin. A row that climbs along its length is the same figure sheared upward, and a
shear keeps shadows, so the plane figure serves for it once the sun's height is sheared too.
"""

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import ArrayLike, NDArray

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class TableSection:
    """A table's cross-section; lengths in metres, ``tilt_deg`` from level.

    ``stack_m`` is the depth from the glass to the middle of the inclined beam, square to it.
    ``rise_back`` is the ground's rise per level length toward the back.
    """

    chord_m: float
    tilt_deg: float
    lower_edge_m: float
    stack_m: float
    rise_back: float

    @property
    def level_depth_m(self) -> float:
        """Level distance from lower to upper edge."""
        return self.chord_m * math.cos(math.radians(self.tilt_deg))

    @property
    def rise_m(self) -> float:
        """Height of the upper over the lower edge."""
        return self.chord_m * math.sin(math.radians(self.tilt_deg))

    @property
    def post_x_m(self) -> float:
        """Level distance from lower edge to post line; the post stands under mid-chord's bolt."""
        return self.level_depth_m / 2 + self.stack_m * math.sin(math.radians(self.tilt_deg))

    @property
    def bolt_z_m(self) -> float:
        """Height of the post's bolt over the lower edge."""
        return self.rise_m / 2 - self.stack_m * math.cos(math.radians(self.tilt_deg))

    @property
    def reveal_m(self) -> float:
        """Post above the ground at the post."""
        return self.lower_edge_m + self.bolt_z_m - self.rise_back * self.post_x_m

    def turned(self, tilt_deg: float) -> "TableSection":
        """The same table set to another tilt about its bolt, which stays where it is."""
        now = replace(self, tilt_deg=tilt_deg)
        # The ground below the lower edge lies otherwise than below the bolt.
        lower_m = self.reveal_m + self.rise_back * now.post_x_m - now.bolt_z_m
        return replace(now, lower_edge_m=lower_m)

    @property
    def upper_edge_m(self) -> float:
        """Upper edge above the ground right below it."""
        return self.lower_edge_m + self.rise_m - self.rise_back * self.level_depth_m


def chord_m(modules_high: int, module_up_m: float, gap_up_m: float) -> float:
    """Length of the table up its slope: modules and the gaps between them."""
    return modules_high * module_up_m + (modules_high - 1) * gap_up_m


def table_length_m(modules_along: int, module_along_m: float, gap_along_m: float) -> float:
    """Length of the table's glass along the row."""
    return modules_along * module_along_m + (modules_along - 1) * gap_along_m


def profile_angle_deg(
    altitude_deg: ArrayLike, azimuth_deg: ArrayLike, facing_deg: float, rise_along: float = 0.0
) -> Floats:
    """The sun's height seen square to the row, sheared with a row that climbs ``rise_along``.

    ``rise_along`` is the rise per level length toward the bearing ``facing_deg`` - 90°. Above 90°
    the sun is behind the row. tan p = (tan a - rise · sin(facing - azimuth)) / cos(azimuth - facing).
    """
    altitude, turn = np.radians(altitude_deg), np.radians(np.asarray(azimuth_deg) - facing_deg)
    up = np.sin(altitude) + rise_along * np.cos(altitude) * np.sin(turn)
    return np.asarray(np.degrees(np.arctan2(up, np.cos(altitude) * np.cos(turn))))


def rise_to_the_left(rise_along: float, along_deg: float, facing_deg: float) -> float:
    """A row's climb along ``along_deg`` as `profile_angle_deg` asks for it: toward facing - 90°."""
    left = math.cos(math.radians(along_deg - facing_deg + 90.0)) > 0
    return rise_along if left else -rise_along


def least_pitch_m(section: TableSection, profile_deg: ArrayLike) -> Floats:
    """Level distance between rows at which the upper edge's shadow just reaches the next lower edge.

    From the figure: P (sin g + cos g tan p) = c (sin b + cos b tan p) along ground of slope g, so
    the level pitch is c sin(b + p) cos g / sin(p + g). Infinite where the ground falls away faster
    than the light; zero where the sun is behind the rows.
    """
    profile = np.radians(np.asarray(profile_deg, dtype=float))
    tilt, grade = math.radians(section.tilt_deg), math.atan(section.rise_back)
    over = np.sin(profile + grade)
    with np.errstate(divide="ignore"):
        pitch = section.chord_m * np.sin(tilt + profile) * math.cos(grade) / over
    pitch = np.where(over <= 1e-6, np.inf, pitch)
    return np.asarray(np.where(profile >= math.pi / 2, 0.0, pitch))
