"""Row pitch against pvlib.shading, and against rays drawn in three dimensions."""

import math

import numpy as np
import pytest
from pvlib.shading import shaded_fraction1d

from openfurrow.core.design import Design
from openfurrow.core.plan import plan
from openfurrow.core.rows.geometry import TableSection, least_pitch_m, profile_angle_deg
from openfurrow.core.sun.position import altitude_azimuth_deg, winter_declination_deg
from tests.designs import changed, said_job, said_rows, said_site


def job(latitude: float, tilt: float, slope: float, turn: float = 0.0) -> Design:
    """Two rows on ground that rises (or, negative, falls) square to them, away from the sun."""
    equator = 180.0 if latitude >= 0 else 0.0
    down = equator + turn if slope >= 0 else equator + turn + 180.0
    return said_job(
        name="two rows",
        site=said_site(latitude_deg=latitude, slope=abs(slope), falls_toward_deg=down % 360),
        rows=said_rows(rows=2, tilt_deg=tilt, turn_deg=turn),
    )


def shaded(design: Design, pitch_m: float, hours: np.ndarray) -> np.ndarray:
    """pvlib's shaded fraction of the second row at solar times of the winter solstice."""
    found = plan(design)
    latitude = design.site.latitude_deg
    altitude, azimuth = altitude_azimuth_deg(latitude, winter_declination_deg(latitude), hours)
    facing = found.rows.facing_deg
    # The axis whose right-handed turn by the tilt looks at the sun side.
    return np.asarray(
        shaded_fraction1d(
            90 - altitude,
            azimuth,
            axis_azimuth=(facing - 90) % 360,
            shaded_row_rotation=design.arrays[0].rows.tilt_deg,
            collector_width=found.rows.section.chord_m,
            pitch=pitch_m,
            cross_axis_slope=math.degrees(math.atan(found.rows.section.rise_back)),
        )
    )


CASES = [
    (44.9, 34.0, 0.0, 0.0),
    (44.9, 34.0, 0.04, 0.0),
    (44.9, 34.0, -0.03, 0.0),
    (37.0, 55.0, 0.0, 0.0),
    (51.0, 22.0, 0.02, 0.0),
    (-40.6, 30.0, 0.0, 0.0),
    (-40.6, 30.0, 0.05, 0.0),
    (44.9, 34.0, 0.0, 20.0),
    (30.0, 25.0, 0.03, -15.0),
]


@pytest.mark.parametrize(("latitude", "tilt", "slope", "turn"), CASES)
def test_no_shade_inside_the_window_and_some_just_outside(
    latitude: float, tilt: float, slope: float, turn: float
) -> None:
    """pvlib.shading.shaded_fraction1d (Anderson & Jensen 2024) knows nothing of our formula."""
    design = job(latitude, tilt, slope, turn)
    least = plan(design).rows.least_pitch_m
    inside = shaded(design, least, np.linspace(10.0, 14.0, 81))
    assert inside.max() <= 1e-3
    # A turned array has its worst hour at one end only.
    outside = shaded(design, least, np.array([9.8, 14.2]))
    assert outside.max() > 1e-3
    assert shaded(design, least * 0.98, np.array([10.0, 14.0])).max() > 1e-3


@pytest.mark.parametrize("rise_along", [0.0, 0.05, -0.08])
@pytest.mark.parametrize("rise_back", [0.0, 0.06, -0.04])
@pytest.mark.parametrize("turn", [0.0, 25.0])
def test_the_shadow_of_the_upper_edge_on_a_plane_that_falls_any_way(
    rise_along: float, rise_back: float, turn: float
) -> None:
    """A ray traced in three dimensions: from the upper edge of the front row along the light to
    the plane of the lower edges of the next. No formula of the core is used."""
    facing = 180.0 + turn
    altitude, azimuth = altitude_azimuth_deg(44.9, -23.44, [10.0, 11.0, 13.0, 14.0])
    section = TableSection(3.544, 34.0, 0.9, 0.25, rise_back)
    profile = profile_angle_deg(altitude, azimuth, facing, rise_along)
    ours = least_pitch_m(section, profile)
    left, back = math.radians(facing - 90), math.radians(facing + 180)
    for index in range(4):
        a, z = math.radians(float(altitude[index])), math.radians(float(azimuth[index]))
        light = -np.array([math.cos(a) * math.sin(z), math.cos(a) * math.cos(z), math.sin(a)])
        along = np.array([math.sin(left), math.cos(left), rise_along])
        behind = np.array([math.sin(back), math.cos(back), rise_back])
        up = np.array(
            [
                3.544 * math.cos(math.radians(34)) * math.sin(back),
                3.544 * math.cos(math.radians(34)) * math.cos(back),
                3.544 * math.sin(math.radians(34)),
            ]
        )
        # up + t·light = s·along + p·behind: where the ray meets the sheet of lower edges.
        _, _, pitch = np.linalg.solve(np.column_stack((light, -along, -behind)), -up)
        assert float(ours[index]) == pytest.approx(pitch, rel=1e-9)


def test_a_shallow_tilt_at_a_close_pitch_near_51_north() -> None:
    """Common practice, no published source: 22° tilt at an 8 m pitch near 51° N accepts winter
    shade. Four landscape modules high, the window 10 to 14 h would ask for more than 8 m."""
    design = job(51.0, 22.0, 0.0)
    design = changed(design, "rows", orientation="landscape", modules_high=4, pitch_m=8.0)
    found = plan(design)
    assert found.rows.least_pitch_m > 8.0
    assert [c.level for c in found.rows.checks if c.key == "shade"] == ["look"]
