"""An array as a stand of alike rows, for what other tilts, turns and pitches of it would bring."""

from dataclasses import dataclass, replace

from openfurrow.core.energy.array import ArrayYear
from openfurrow.core.energy.seasons import SeasonPlan
from openfurrow.core.energy.tilts import Stand
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.geometry import (
    TableSection,
    least_pitch_m,
    profile_angle_deg,
    rise_to_the_left,
)
from openfurrow.core.sun.plan import SunPlan


def stand_of(rows: RowsPlan, year: ArrayYear) -> Stand:
    """The pattern of an array; tables that differ from it are not compared."""
    return Stand(
        section=said_section(rows),
        rows=rows.rows,
        pitch_m=rows.pitch_m,
        row_length_m=rows.row_length_m,
        facing_deg=rows.facing_deg,
        around=year.field.around,
        panel=year.panel,
        upkeep=year.upkeep,
    )


def watts_per_row_m(rows: RowsPlan, year: ArrayYear) -> float:
    """Rated power of a metre of glass along a row, over all tables as they stand."""
    return year.watts / float(rows.tables.lengths_m.sum())


@dataclass(frozen=True)
class Reach:
    """How glass that is set to several tilts about one bolt reaches down, up and out, metres.

    ``needed_pitch_m`` is what the winter window asks for at the tilt that stands in midwinter.
    """

    lower_edge_m: float
    upper_edge_m: float
    depth_m: float
    needed_pitch_m: float


def said_section(rows: RowsPlan) -> TableSection:
    """The table at the tilt at which it is put up, with its lower edge as it is said."""
    return replace(rows.steepest.section, tilt_deg=rows.section.tilt_deg)


def about_the_bolt(section: TableSection, steepest_deg: float, tilt_deg: float) -> TableSection:
    """A table set to a tilt whose bolt stays where the steepest one has its lower edge as given."""
    return replace(section, tilt_deg=steepest_deg).turned(tilt_deg)


def reach_of(rows: RowsPlan, plan: SeasonPlan, sun: SunPlan, midwinter: int) -> Reach:
    """The least and the most of all settings."""
    section, facing = said_section(rows), rows.facing_deg
    tilts = {one.tilt_deg for one in plan.settings}
    set_to = [about_the_bolt(section, max(tilts), tilt) for tilt in tilts]
    winter = about_the_bolt(section, max(tilts), plan.on(midwinter).tilt_deg)
    profile = profile_angle_deg(
        sun.window_altitude_deg,
        sun.window_azimuth_deg,
        facing,
        rise_to_the_left(rows.rise_along, rows.along_deg, facing),
    )
    return Reach(
        lower_edge_m=min(one.lower_edge_m for one in set_to),
        upper_edge_m=max(one.upper_edge_m for one in set_to),
        depth_m=max(one.level_depth_m for one in set_to),
        needed_pitch_m=float(least_pitch_m(winter, profile).max()),
    )
