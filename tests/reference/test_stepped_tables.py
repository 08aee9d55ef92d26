"""Tables that stand in steps or on rough ground: rays through a model of the glass, drawn here."""

import math
from dataclasses import dataclass

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from numpy.typing import NDArray

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, plan
from tests.designs import changed, plain_larkspur

Floats = NDArray[np.float64]
LATITUDE = 45.0


@dataclass(frozen=True)
class Glass:
    """Parallelograms from above: a corner, the edge along the row and the edge up the slope."""

    corner: Floats
    along: Floats
    up: Floats
    row: NDArray[np.int64]


def suns(start_h: float, end_h: float) -> Floats:
    """Directions to the sun at the winter solstice, by rotating the sky rather than by formula."""
    hour, dec, lat = (
        np.radians(15 * (np.linspace(start_h, end_h, 49) - 12)),
        math.radians(-23.44),
        math.radians(LATITUDE),
    )
    equatorial = np.stack(
        (np.cos(dec) * np.cos(hour), -np.cos(dec) * np.sin(hour), np.full(hour.shape, math.sin(dec)))
    )
    south_up = (
        np.array([[math.sin(lat), 0, -math.cos(lat)], [0, 1, 0], [math.cos(lat), 0, math.sin(lat)]])
        @ equatorial
    )
    return np.column_stack((south_up[1], -south_up[0], south_up[2]))


def level_tables(design: Design, pitch_m: float) -> Glass:
    """Level tables facing south, each lifted to clear the highest ground below its lower edge."""
    rows, modules, site = design.arrays[0].rows, design.arrays[0].modules, design.site
    long, short = modules.length_m, modules.width_m
    chord = rows.modules_high * long + (rows.modules_high - 1) * modules.gap_up_m
    length = rows.modules_along * short + (rows.modules_along - 1) * modules.gap_along_m
    tilt = math.radians(rows.tilt_deg)
    down = math.radians(site.falls_toward_deg)
    fall = site.slope * np.array([math.sin(down), math.cos(down)])
    corners, row_of = [], []
    for row in range(rows.rows):
        for table in range(rows.tables_along):
            west = table * (length + rows.table_gap_m)
            at = np.array([[west, row * pitch_m], [west + length, row * pitch_m]])
            corners.append([west, row * pitch_m, (-at @ fall).max() + rows.lower_edge_m])
            row_of.append(row)
    up = np.array([0.0, chord * math.cos(tilt), chord * math.sin(tilt)])
    return Glass(np.array(corners), np.array([length, 0.0, 0.0]), up, np.array(row_of))


def shaded(glass: Glass, toward: Floats, *, same_row: bool) -> bool:
    """Whether any ray from the glass toward a sun passes through the glass of another table."""
    a, b = np.meshgrid(np.linspace(0, 1, 15), np.linspace(0, 1, 6))
    from_table = (
        glass.corner[:, None] + a.ravel()[:, None] * glass.along + b.ravel()[:, None] * glass.up
    )
    for index in range(len(glass.corner)):
        others = np.flatnonzero(
            (glass.row == glass.row[index]) if same_row else (glass.row != glass.row[index])
        )
        others = others[others != index]
        for sun in toward:
            turned = np.linalg.inv(np.column_stack((glass.along, glass.up, -sun)))
            hit = (from_table[index][None] - glass.corner[others][:, None]) @ turned.T
            inside = (
                (hit[..., 0] > 1e-6)
                & (hit[..., 0] < 1 - 1e-6)
                & (hit[..., 1] > 1e-6)
                & (hit[..., 1] < 1 - 1e-6)
                & (hit[..., 2] > 1e-6)
            )
            if inside.any():
                return True
    return False


def levels(found: Plan) -> dict[str, str]:
    """How each check on the rows stands."""
    return {check.key: check.level for check in found.rows.checks}


def stepped(slope: float, toward: float, along: int, tables: int, gap: float) -> Design:
    """Three rows of level tables across a slope at 45 degrees north."""
    base = changed(
        plain_larkspur(), "site", latitude_deg=LATITUDE, slope=slope, falls_toward_deg=toward
    )
    base = changed(base, "sun", window_start_h=9.5, window_end_h=14.5)
    return changed(
        base,
        "rows",
        rows=3,
        tables_along=tables,
        modules_along=along,
        table_gap_m=gap,
        turn_deg=0.0,
        follow_ground=False,
        pitch_m=None,
        orientation="portrait",
    )


def held_at(design: Design, pitch_m: float) -> Design:
    """The same with its pitch held."""
    return changed(design, "rows", pitch_m=pitch_m)


@settings(max_examples=12, deadline=None)
@given(
    st.floats(0.0, 0.12),
    st.floats(0.0, 359.0),
    st.integers(3, 14),
    st.integers(2, 4),
    st.floats(0.05, 3.0),
)
def test_no_ray_from_the_glass_meets_another_row_s_glass(
    slope: float, toward: float, along: int, tables: int, gap: float
) -> None:
    """The pitch that the plan gives is free of shade, whatever way the tables step."""
    design = stepped(slope, toward, along, tables, gap)
    found = plan(design)
    assert levels(found).get("shade_ground", "sound") == "sound"
    if levels(found)["shade"] == "sound":
        assert not shaded(level_tables(design, found.rows.pitch_m), suns(9.5, 14.5), same_row=False)


@pytest.mark.parametrize("slope", [0.01, 0.04])
def test_a_cross_fall_asks_for_more_than_the_even_slope_and_no_more_than_it_must(slope: float) -> None:
    """Tables of 10 m step down to the west: in the morning the higher neighbour's shade is longer."""
    design = stepped(slope, 270.0, 9, 3, 0.5)
    found = plan(design)
    even = plan(stepped(0.0, 270.0, 9, 3, 0.5)).rows.pitch_m
    assert found.rows.pitch_m > even + 0.05
    asked = found.rows.pitch_m
    # The working says which of the two it was.
    assert "Opened beyond" in found.answer("rows", "pitch").working.note
    on_the_level = plan(stepped(0.0, 270.0, 9, 3, 0.5)).answer("rows", "pitch").working
    assert on_the_level.formula and "Opened" not in on_the_level.note
    for pitch, level in ((even, "look"), (asked - 0.05, "look"), (asked, "sound")):
        held = plan(held_at(design, pitch))
        assert levels(held)["shade_ground"] == level
        assert shaded(level_tables(design, pitch), suns(9.5, 14.5), same_row=False) == (level == "look")


@settings(max_examples=12, deadline=None)
@given(st.floats(0.01, 0.2), st.sampled_from([90.0, 270.0]), st.floats(0.05, 1.0), st.integers(4, 14))
def test_a_step_in_a_row_shades_the_neighbour_where_it_is_said(
    slope: float, toward: float, gap: float, along: int
) -> None:
    """Rays along the row, past the end of the table that stands a step higher."""
    design = stepped(slope, toward, along, 2, gap)
    found = plan(design)
    glass = level_tables(design, found.rows.pitch_m)
    if levels(found)["shade_beside"] == "sound":
        assert not shaded(glass, suns(9.5, 14.5), same_row=True)
    over = next(check for check in found.rows.checks if check.key == "shade_beside").measured
    if float(over) > 0.3:
        assert shaded(glass, suns(9.5, 14.5), same_row=True)


def test_rows_that_follow_an_even_slope_ask_for_the_figure_s_pitch() -> None:
    """Sheared alike, tables in one plane step over nothing: the figure and the rays agree."""
    design = stepped(0.05, 250.0, 9, 3, 0.5)
    follows = changed(design, "rows", follow_ground=True)
    found = plan(follows)
    assert "shade_ground" not in levels(found)
    assert levels(found)["shade_beside"] == "sound"
