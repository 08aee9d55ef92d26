"""Shade on glass and ground by straight rays past every table, the core's kinds and polygons unused."""

import math
from dataclasses import replace

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.energy.ahead import band
from openfurrow.core.energy.kinds import ahead_of_tables, kinds_of, normals_of_kinds
from openfurrow.core.plan import plan
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.givens import TableGivens
from openfurrow.core.rows.shade import standing_of
from openfurrow.core.rows.shadows import table_shadows, thing_shadows
from openfurrow.demo.designs import DESIGNS
from tests.designs import changed, plain_larkspur
from tests.reference.test_light import one_sun

Floats = np.ndarray


def glass_of(rows: RowsPlan) -> Floats:
    """The corners of every table in space: lower edge first, then back; (n, 4, 3)."""
    tables, lie = rows.tables, rows.lie
    half = tables.lengths_m / 2
    found = []
    for index, outline in enumerate(tables.corners):
        climb = lie.rise_along[index] * tables.level_share[index] * half[index]
        low, up = lie.edge_level_m[index], rows.section.rise_m
        levels = [low - climb, low + climb, low + climb + up, low - climb + up]
        found.append(np.column_stack((outline, levels)))
    return np.array(found)


def blocked(places: Floats, toward: Floats, quads: Floats) -> Floats:
    """Which of the places (p, 3) have a quad between themselves and the sun."""
    found = np.zeros(len(places), dtype=bool)
    for quad in quads:
        first, second = quad[1] - quad[0], quad[3] - quad[0]
        normal = np.cross(first, second)
        facing = float(normal @ toward)
        if abs(facing) < 1e-12:
            continue
        time = ((quad[0] - places) @ normal) / facing
        at = places + time[:, None] * toward - quad[0]
        inside = np.linalg.solve(
            np.array([[first @ first, first @ second], [first @ second, second @ second]]),
            np.stack((at @ first, at @ second)),
        )
        found |= (time > 1e-6) & (inside >= 0).all(axis=0) & (inside <= 1).all(axis=0)
    return found


def strewn(quad: Floats) -> Floats:
    """Places over the face of a table."""
    u, v = np.meshgrid((np.arange(24) + 0.5) / 24, (np.arange(20) + 0.5) / 20)
    along, up = quad[1] - quad[0], quad[3] - quad[0]
    return (quad[0] + u.ravel()[:, None] * along + v.ravel()[:, None] * up) + 1e-4 * np.cross(along, up)


FIELDS = st.fixed_dictionaries(
    {
        "rows": st.integers(1, 4),
        "tables_along": st.integers(1, 3),
        "modules_along": st.integers(3, 8),
        "tilt_deg": st.floats(10, 50),
        "pitch_m": st.floats(4.5, 9),
        "turn_deg": st.floats(-30, 30),
        "table_gap_m": st.floats(0.2, 2.0),
    }
)


def some_field(rows: dict[str, object], slope: float, moved: bool) -> Design:
    design = changed(plain_larkspur(), "rows", tables=(), **rows)
    if moved:
        # Not into the table beside it: that is another rule's, and no shade of a row before.
        along = 0.5 * float(str(rows["table_gap_m"]))
        one = TableGivens(id="m", place="1.1", along_m=along, back_m=0.6)
        design = changed(design, "rows", tables=(one,))
    return changed(design, "site", slope=slope, falls_toward_deg=150.0)


@settings(max_examples=25, deadline=None)
@given(FIELDS, st.floats(0, 0.12), st.booleans(), st.floats(5, 50), st.floats(-65, 65))
def test_tables_are_shaded_as_rays_past_all_others_say(
    rows: dict[str, object], slope: float, moved: bool, altitude: float, off: float
) -> None:
    """Whole rows stand for their tables and gaps: so the band covers no less than rays find, nearly."""
    found = plan(some_field(rows, slope, moved)).rows
    sky = one_sun(altitude, found.facing_deg + off)
    quads = glass_of(found)
    of, ahead, turned = kinds_of(found.tables, ahead_of_tables(found.lie))
    shade = band(ahead, found.section, sky, found.facing_deg + turned, found.along_deg + turned)
    ours = (shade.height_m * shade.along / found.section.chord_m)[of, 0]
    theirs = np.array(
        [
            blocked(strewn(quad), sky.toward[0], np.delete(quads, index, axis=0)).mean()
            for index, quad in enumerate(quads)
        ]
    )
    # Shade of the table beside in the row is not of rows before; ends slant by the depth of the glass.
    slant = found.section.level_depth_m * abs(math.tan(math.radians(off)))
    slack = 0.06 + slant / found.tables.lengths_m
    step = np.abs(found.ground_rise_along) * found.tables.lengths_m / found.section.chord_m
    assert (ours >= theirs - slack - step).all()
    gaps = found.table_gap_m * max(1, found.tables_along - 1) / found.tables.lengths_m
    assert (ours <= theirs + slack + step + gaps).all()


@settings(max_examples=20, deadline=None)
@given(FIELDS, st.floats(0, 0.12), st.floats(8, 60), st.floats(-60, 60))
def test_looked_along_the_normal_a_table_is_square(
    rows: dict[str, object], slope: float, altitude: float, off: float
) -> None:
    """The normal of each kind is that of its corners in space."""
    found = plan(some_field(rows, slope, moved=False)).rows
    of, ahead, turned = kinds_of(found.tables, ahead_of_tables(found.lie))
    exact = replace(ahead, rise=ahead.rise)
    normals = normals_of_kinds(found, exact.rise, turned)[of]
    for quad, ours in zip(glass_of(found), normals, strict=True):
        square = np.cross(quad[1] - quad[0], quad[3] - quad[0])
        square *= np.sign(square[2]) / np.linalg.norm(square)
        assert float(square @ ours) == pytest.approx(1.0, abs=2e-4)


@settings(max_examples=15, deadline=None)
@given(FIELDS, st.floats(0, 0.12), st.floats(6, 60), st.floats(-80, 80))
def test_shade_on_the_ground_is_where_rays_from_it_meet_glass(
    rows: dict[str, object], slope: float, altitude: float, off: float
) -> None:
    found = plan(some_field(rows, slope, moved=False))
    toward = one_sun(altitude, 180.0 + off).toward[0]
    shade = shapely.union_all(
        shapely.convex_hull(shapely.polygons(table_shadows(found.rows.lie, found.site.ground, toward)))
    )
    west, south, east, north = shapely.total_bounds(found.rows.tables.outlines)
    draw = np.random.default_rng(5)
    at = np.column_stack((draw.uniform(west - 6, east + 6, 3000), draw.uniform(south, north + 9, 3000)))
    places = np.column_stack((at, found.site.ground.level_m(*at.T)))
    theirs = blocked(places, toward, glass_of(found.rows))
    ours = shapely.contains_xy(shade, at[:, 0], at[:, 1])
    near_edge = shapely.distance(shade.boundary, shapely.points(at)) < 0.02
    assert (ours == theirs)[~near_edge].all()


@pytest.mark.parametrize(("altitude", "off"), [(12.0, 25.0), (18.0, -40.0), (10.0, 0.0), (25.0, 30.0)])
def test_a_turned_table_is_shaded_by_its_own_sun(altitude: float, off: float) -> None:
    """A row of two, and one more behind that is turned by thirty degrees: rays from all of its face."""
    one = TableGivens(id="t", name="turned", along_m=0.0, back_m=5.5, turn_deg=30.0)
    design = changed(plain_larkspur(), "rows", modules_along=8, tables_along=2, tables=(one,))
    found = plan(changed(design, "site", slope=0.0)).rows
    sky = one_sun(altitude, found.facing_deg + 30.0 + off)
    quads = glass_of(found)
    mine = found.stands.index_of("t")
    of, ahead, turned = kinds_of(found.tables, ahead_of_tables(found.lie))
    assert turned[of[mine]] == 30.0
    shade = band(ahead, found.section, sky, found.facing_deg + turned, found.along_deg + turned)
    ours = (shade.height_m * shade.along)[of[mine], 0] / found.section.chord_m
    theirs = blocked(strewn(quads[mine]), sky.toward[0], np.delete(quads, mine, axis=0)).mean()
    # Askew to the rows before it counts for wholly behind them.
    assert ours >= theirs - 0.03
    assert ours <= 1.0


def test_things_throw_shade_on_the_ground_too() -> None:
    """A tree's shadow lies away from the sun, as long as it is high over the sun's slope."""
    found = plan(DESIGNS["larkspur"]())
    standing = standing_of(found.site.keepouts, found.site.ground)
    toward = one_sun(40.0, 200.0).toward[0]
    shapes = thing_shadows(standing, found.site.ground, toward)
    assert len(shapes) == len(standing.crowns) + len(standing.walls)
    for crown, (wide, tall), shape in zip(standing.crowns, standing.radii_m, shapes, strict=False):
        top = crown[2] + tall
        foot = float(found.site.ground.level_m(*crown[:2]))
        away = shape.centroid.coords[0] - crown[:2]
        assert math.degrees(math.atan2(away[0], away[1])) % 360 == pytest.approx(20.0, abs=6)
        reach = (top - foot) / math.tan(math.radians(40.0))
        farthest = max(math.dist(crown[:2], at) for at in shape.exterior.coords)
        assert farthest == pytest.approx(reach, rel=0.3)
        assert shape.area > math.pi * wide**2 * 0.9
