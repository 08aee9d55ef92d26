"""The ground against analytic surfaces, scipy's interpolation, GEOS' triangles and known solids."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from pyproj import Geod
from scipy.interpolate import LinearNDInterpolator
from scipy.spatial import Delaunay

from openfurrow.core.site.contours import contour_levels_m, contours
from openfurrow.core.site.earthwork import earthwork
from openfurrow.core.site.measure import bearing_deg, by_bearing, by_offset, by_two_tapes
from openfurrow.core.site.surface import surface_through
from openfurrow.exchange.places import from_grid, to_globe
from tests.designs import said_site


def wavy(east: np.ndarray, north: np.ndarray) -> np.ndarray:
    return 12.0 + 0.05 * east - 0.03 * north + 0.4 * np.sin(east / 9.0) * np.cos(north / 7.0)


def draws() -> np.random.Generator:
    """Drawn anew by every test: what one draws does not hang on which ran before it."""
    return np.random.default_rng(7)


def shots(count: int, reach: float = 40.0) -> np.ndarray:
    east, north = np.random.default_rng(11).uniform(-reach, reach, (2, count))
    return np.column_stack((east, north, wavy(east, north)))


def test_heights_agree_with_scipys_linear_interpolation() -> None:
    points = shots(600)
    surface = surface_through(points, None, 1e6)
    east, north = draws().uniform(-30, 30, (2, 4000))
    theirs = LinearNDInterpolator(points[:, :2], points[:, 2])(east, north)
    assert surface.known(east, north).all()
    assert np.abs(surface.level_m(east, north) - theirs).max() < 1e-9


def test_heights_close_in_on_the_analytic_surface_with_the_square_of_the_spacing() -> None:
    """Linear interpolation errs by at most h²/8 times the curvature (any numerical analysis text)."""
    east, north = draws().uniform(-20, 20, (2, 3000))
    errors = []
    for step in (4.0, 2.0, 1.0):
        x, y = np.meshgrid(np.arange(-24, 24.1, step), np.arange(-24, 24.1, step))
        x, y = x.ravel(), y.ravel()
        surface = surface_through(np.column_stack((x, y, wavy(x, y))), None, 1e6)
        errors.append(float(np.abs(surface.level_m(east, north) - wavy(east, north)).max()))
    assert errors[0] / errors[1] == pytest.approx(4.0, rel=0.35)
    assert errors[1] / errors[2] == pytest.approx(4.0, rel=0.35)
    curvature = 0.4 * (1 / 81 + 1 / 49)
    assert errors[2] <= curvature * 2.0 / 8 * 1.05


def test_triangles_are_those_of_geos() -> None:
    """shapely's delaunay_triangles is GEOS' own code; qhull is not asked there."""
    points = shots(200)
    ours = surface_through(points, None, 1e6)
    theirs = shapely.get_parts(shapely.delaunay_triangles(shapely.multipoints(points[:, :2])))
    keys = {tuple(sorted(map(tuple, np.round(shapely.get_coordinates(t)[:3], 6)))) for t in theirs}
    found = {tuple(sorted(map(tuple, np.round(points[t][:, :2], 6)))) for t in ours.triangles}
    assert found <= keys
    # Only slivers of the rim are peeled off.
    assert len(keys - found) < 0.1 * len(keys)
    assert ours.extent.area > 0.95 * shapely.convex_hull(shapely.multipoints(points[:, :2])).area


def test_a_plane_is_met_exactly_everywhere() -> None:
    points = shots(300)
    points[:, 2] = 3.0 + 0.04 * points[:, 0] - 0.07 * points[:, 1]
    surface = surface_through(points, None, 1e6)
    east, north = draws().uniform(-25, 25, (2, 1000))
    assert np.abs(surface.level_m(east, north) - (3 + 0.04 * east - 0.07 * north)).max() < 1e-9
    assert surface.slopes == pytest.approx(np.tile([0.04, -0.07], (len(surface.triangles), 1)))


def test_contours_of_a_cone_are_circles_of_the_right_length() -> None:
    radius, around = np.meshgrid(np.linspace(0, 20, 41), np.radians(np.arange(0, 360, 3)))
    x, y = (radius * np.cos(around)).ravel(), (radius * np.sin(around)).ravel()
    surface = surface_through(np.column_stack((x, y, 10 - 0.5 * np.hypot(x, y))), None, 1e6)
    runs = contours(surface.points_m, surface.triangles, np.array([2.25, 6.25]))
    assert [run.level_m for run in runs] == [2.25, 6.25]
    for run in runs:
        assert np.allclose(run.points_m[0], run.points_m[-1])
        radius_m = (10 - run.level_m) / 0.5
        assert shapely.length(shapely.LineString(run.points_m)) == pytest.approx(
            2 * math.pi * radius_m, rel=2e-3
        )
        assert shapely.area(shapely.Polygon(run.points_m)) == pytest.approx(
            math.pi * radius_m**2, rel=3e-3
        )


def test_contours_lie_on_their_level_by_scipys_count() -> None:
    points = shots(500)
    surface = surface_through(points, None, 1e6)
    theirs = LinearNDInterpolator(Delaunay(points[:, :2]), points[:, 2])
    low, high = points[:, 2].min(), points[:, 2].max()
    for run in contours(surface.points_m, surface.triangles, contour_levels_m(low, high, 0.5)):
        middles = (run.points_m[1:] + run.points_m[:-1]) / 2
        levels = theirs(middles)
        assert np.nanmax(np.abs(levels - run.level_m)) < 1e-9


@pytest.mark.parametrize("level", [10.0, 11.5, 13.0])
def test_volume_of_a_wedge_over_a_level(level: float) -> None:
    """A wedge 20 by 10 m rising from 10 to 14 m: prisms of triangular section, by hand."""
    x, y = np.meshgrid(np.linspace(0, 20, 9), np.linspace(0, 10, 5))
    x, y = x.ravel(), y.ravel()
    surface = surface_through(np.column_stack((x, y, 10 + 0.2 * x)), None, 1e6)
    work = earthwork(surface, shapely.box(0, 0, 20, 10), level)
    assert work
    over = (14 - level) ** 2 / 0.2 / 2 * 10
    under = (level - 10) ** 2 / 0.2 / 2 * 10
    assert (work.cut_m3, work.fill_m3, work.area_m2) == pytest.approx((over, under, 200.0))


def test_cut_and_fill_of_a_cone_balance_and_a_pyramid_has_its_volume() -> None:
    x, y = np.meshgrid(np.linspace(-5, 5, 11), np.linspace(-5, 5, 11))
    x, y = x.ravel(), y.ravel()
    surface = surface_through(np.column_stack((x, y, 5 - np.maximum(abs(x), abs(y)))), None, 1e6)
    whole = earthwork(surface, shapely.box(-5, -5, 5, 5), 0.0)
    assert whole
    # A third of base times height; triangles that cross the pyramid's edges may dig in a little.
    assert whole.cut_m3 == pytest.approx(100 * 5 / 3, rel=0.02)
    assert whole.fill_m3 == pytest.approx(0.0, abs=1e-9)
    even = earthwork(surface, shapely.box(-5, -5, 5, 5))
    assert even and even.cut_m3 == pytest.approx(even.fill_m3)
    assert even.level_m == pytest.approx(5 / 3, rel=0.02)


def test_area_of_the_known_ground_is_that_of_a_disc() -> None:
    angle = np.radians(np.arange(0, 360, 2))
    rim = np.column_stack((15 * np.cos(angle), 15 * np.sin(angle)))
    inner = draws().uniform(-10, 10, (300, 2))
    plan = np.vstack((rim, inner))
    surface = surface_through(np.column_stack((plan, np.zeros(len(plan)))), None, 1e6)
    # A regular polygon of 180 sides.
    assert surface.extent.area == pytest.approx(0.5 * 180 * 15**2 * math.sin(math.radians(2)), rel=0.01)


places = st.tuples(st.floats(-200, 200), st.floats(-200, 200))


@given(places, places, st.floats(5, 250), st.floats(5, 250))
def test_two_tapes_meet_where_the_circles_of_shapely_cross(
    first: tuple[float, float], second: tuple[float, float], a: float, b: float
) -> None:
    base = math.dist(first, second)
    if base < 1 or base > (a + b) * 0.98 or abs(a - b) > base * 0.98:
        return
    found = by_two_tapes(first, a, second, b)
    rims = [shapely.Point(p).buffer(r, quad_segs=2000).exterior for p, r in ((first, a), (second, b))]
    crossings = shapely.get_parts(shapely.intersection(*rims))
    for place in found:
        assert min(shapely.distance(shapely.Point(place), c) for c in crossings) < 0.02 * max(a, b) / 10
        assert math.dist(place, first) == pytest.approx(a)
        assert math.dist(place, second) == pytest.approx(b)
    # The first lies right of the line from first to second, the second is its mirror.
    sides = [
        (second[0] - first[0]) * (p[1] - first[1]) - (second[1] - first[1]) * (p[0] - first[0])
        for p in found
    ]
    assert sides[0] <= 1e-6 and sides[1] >= -1e-6


@settings(max_examples=60)
@given(st.floats(-60, 60), st.floats(-170, 170), st.floats(0, 360), st.floats(1, 800))
def test_bearing_and_distance_agree_with_the_geodesic(
    latitude: float, longitude: float, bearing: float, distance: float
) -> None:
    """pyproj's Geod (Karney 2013) on the ellipsoid; a site is small enough to be flat."""
    site = said_site(latitude_deg=latitude, longitude_deg=longitude)
    east, north = by_bearing((0.0, 0.0), bearing, distance)
    lon, lat, _ = Geod(ellps="WGS84").fwd(longitude, latitude, bearing, distance)
    ours = to_globe(site).transform(east, north)
    assert ours == pytest.approx((lon, lat), abs=2e-8)
    back = from_grid(site, 4326, np.array([lon]), np.array([lat]))
    assert (float(back[0][0]), float(back[1][0])) == pytest.approx((east, north), abs=1e-3)


@given(places, places, st.floats(-100, 100), st.floats(-100, 100))
def test_offset_and_chainage_agree_with_shapelys_line(
    start: tuple[float, float], end: tuple[float, float], chainage: float, offset: float
) -> None:
    if math.dist(start, end) < 1:
        return
    place = by_offset(start, end, chainage, offset)
    turn = math.radians(bearing_deg(start, end))
    far = [
        (start[0] + s * 1000 * math.sin(turn), start[1] + s * 1000 * math.cos(turn)) for s in (-1, 1)
    ]
    line = shapely.LineString(far)
    assert shapely.distance(line, shapely.Point(place)) == pytest.approx(abs(offset), abs=1e-6)
    assert shapely.line_locate_point(line, shapely.Point(place)) - 1000 == pytest.approx(
        chainage, abs=1e-6
    )


@settings(max_examples=60)
@given(
    st.floats(-0.2, 0.2),
    st.floats(-0.2, 0.2),
    st.floats(0.01, 0.99),
    st.floats(0.5, 60),
    st.sampled_from(["west", "east", "south", "north"]),
)
def test_off_the_survey_the_level_is_that_of_the_nearest_place_on_its_rim(
    lean: float, fall: float, along: float, away: float, side: str
) -> None:
    """Of a plane over a rectangle: square out from a side it is the level of the side there."""
    east, north = np.meshgrid(np.arange(0.0, 41.0, 10.0), np.arange(0.0, 31.0, 10.0))
    level = 100.0 + lean * east + fall * north
    surface = surface_through(np.column_stack((east.ravel(), north.ravel(), level.ravel())), None, 50.0)
    x, y = 40 * along, 30 * along
    place, rim = {
        "west": ((-away, y), (0.0, y)),
        "east": ((40 + away, y), (40.0, y)),
        "south": ((x, -away), (x, 0.0)),
        "north": ((x, 30 + away), (x, 30.0)),
    }[side]
    found = float(surface.level_m(np.array([place[0]]), np.array([place[1]]))[0])
    assert found == pytest.approx(100.0 + lean * rim[0] + fall * rim[1], abs=1e-6)
