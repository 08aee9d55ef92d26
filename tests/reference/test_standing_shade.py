"""Shade of walls and crowns against trigonometry, shapely's crossings and ephem's sun."""

import math

import ephem
import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.plan import plan
from openfurrow.core.rows.shade import (
    Standing,
    glass_places_m,
    reached,
    shaded_by,
    standing_of,
    toward_sun,
)
from openfurrow.core.site.features import FeatureGivens
from openfurrow.core.site.ground import GroundPlane
from openfurrow.core.site.keepouts import keep_outs
from tests.designs import changed
from tests.rays import corners_of

LEVEL = GroundPlane(0.0, 0.0)
EYE = np.zeros((1, 3))


def standing(*features: dict[str, object]) -> Standing:
    return standing_of(keep_outs([FeatureGivens.model_validate(f) for f in features], 0.6, None), LEVEL)


def in_shade(things: Standing, altitude: float, azimuth: float, places: np.ndarray = EYE) -> bool:
    return bool(shaded_by(things, places, toward_sun(np.array([altitude]), np.array([azimuth]))).any())


@pytest.mark.parametrize("away", [5.0, 12.0, 40.0])
@pytest.mark.parametrize("azimuth", [150.0, 180.0, 205.0])
def test_a_wall_shades_below_the_angle_of_its_top(away: float, azimuth: float) -> None:
    """A fence 3 m high, square to south: the sun clears it above atan(3 cos(turn) / away)."""
    fence = standing({"kind": "fence", "height_m": 3.0, "points": ((-90, -away), (90, -away))})
    edge = math.degrees(math.atan2(3.0 * math.cos(math.radians(azimuth - 180.0)), away))
    assert in_shade(fence, edge - 0.01, azimuth)
    assert not in_shade(fence, edge + 0.01, azimuth)
    # The sun behind the back is not taken by it.
    assert not in_shade(fence, 2.0, (azimuth + 180.0) % 360)


@settings(max_examples=120)
@given(st.floats(2.5, 60), st.floats(0, 360), st.floats(1, 85), st.floats(0, 360))
def test_a_round_crown_shades_within_the_angle_of_its_radius(
    away: float, bearing: float, altitude: float, azimuth: float
) -> None:
    """A ball of radius r at distance d hides directions within asin(r / d) of its middle."""
    # Crowns begin a quarter of the way up: of a tree 8/3 r high the crown is a ball.
    radius = 1.5
    height = 2 * radius / 0.75
    turn = math.radians(bearing)
    tree = standing(
        {
            "kind": "tree",
            "height_m": height,
            "width_m": 2 * radius,
            "points": ((away * math.sin(turn), away * math.cos(turn)),),
        }
    )
    middle = np.array([away * math.sin(turn), away * math.cos(turn), height - radius])
    far = float(np.linalg.norm(middle))
    sun = toward_sun(np.array([altitude]), np.array([azimuth]))[0]
    between = math.degrees(math.acos(np.clip(sun @ middle / far, -1, 1)))
    reach = math.degrees(math.asin(radius / far))
    if abs(between - reach) > 1e-6:
        assert in_shade(tree, altitude, azimuth) == (between < reach)


@settings(max_examples=100)
@given(st.floats(-25, 25), st.floats(-25, 25), st.floats(1, 80), st.floats(0, 360), st.floats(0.5, 9))
def test_a_building_shades_where_shapelys_ray_enters_it_below_its_eaves(
    east: float, north: float, altitude: float, azimuth: float, height: float
) -> None:
    outline = [(4.0, 3.0), (11.0, 1.0), (12.0, 8.0), (5.0, 9.0)]
    house = shapely.Polygon(outline)
    if house.distance(shapely.Point(east, north)) < 0.1:
        return
    turn = math.radians(azimuth)
    far = (east + 200 * math.sin(turn), north + 200 * math.cos(turn))
    ray = shapely.LineString([(east, north), far])
    met = shapely.intersection(ray, house)
    entry = shapely.distance(shapely.Point(east, north), met) if not met.is_empty else math.inf
    if met.is_empty is False and shapely.length(met) < 1e-6:
        return
    level = entry * math.tan(math.radians(altitude))
    if abs(level - height) < 1e-6:
        return
    things = standing({"kind": "building", "height_m": height, "points": outline})
    assert in_shade(things, altitude, azimuth, np.array([[east, north, 0.0]])) == (level < height)


def test_the_wall_is_in_the_way_when_ephem_says_the_sun_is_low(plain: Design) -> None:
    """Winter solstice at the demo, ephem's own sun: the hour a wall's shade leaves the lower edge."""
    found = plan(plain)
    place = glass_places_m(found.rows.lie, np.array([0]))[1:2]
    wall = standing({"kind": "fence", "height_m": 9.0, "points": ((-60, -22.0), (60, -22.0))})
    observer = ephem.Observer()
    observer.lat, observer.lon = str(plain.site.latitude_deg), str(plain.site.longitude_deg)
    observer.elevation, observer.pressure = plain.site.elevation_m, 0
    rise = 9.0 - float(place[0, 2])
    level = float(place[0, 1]) + 22.0
    for minute in range(0, 600, 10):
        observer.date = ephem.Date(ephem.Date("2026/12/21 15:00:00") + minute * ephem.minute)
        sun = ephem.Sun(observer)
        altitude, azimuth = math.degrees(sun.alt), math.degrees(sun.az)
        if altitude < 1:
            continue
        clears = math.degrees(math.atan2(rise * -math.cos(math.radians(azimuth)), level))
        if abs(altitude - clears) > 0.05:
            assert in_shade(wall, altitude, azimuth, place) == (altitude < clears)


def test_things_without_a_height_are_named_and_not_counted() -> None:
    things = standing(
        {"kind": "tree", "name": "ash", "points": ((0, -9),)},
        {"kind": "building", "name": "shed", "height_m": 3.0, "points": ((5, 5), (9, 5), (9, 9))},
        {"kind": "drain", "points": ((0, 0), (1, 1))},
    )
    assert things.no_height == ("ash",) and things.names == ("shed",)
    # Where nobody taped the crown, it is two fifths as wide as the tree is high (common practice, no
    # published source), from a quarter of the way up.
    tree = standing({"kind": "tree", "height_m": 10.0, "points": ((0, -9),)})
    assert tree.radii_m.tolist() == [[2.0, 3.75]]
    assert tree.crowns.tolist() == [[0.0, -9.0, 6.25]]


def test_what_has_no_height_leaves_the_window_open_to_doubt(plain: Design) -> None:
    """Neither clear nor left out: a tree that nobody measured is named, with or beside others."""
    ash = FeatureGivens.model_validate({"kind": "tree", "name": "ash", "points": ((0, -20),)})
    (check,) = [
        c for c in plan(changed(plain, "site", features=(ash,))).checks if c.key == "standing_shade"
    ]
    assert check.level == "look" and check.measured == "no height said of ash"
    assert check.given == "site.features" and "clinometer" in check.remedy
    far = FeatureGivens.model_validate({"kind": "tree", "height_m": 9.0, "points": ((0, 60),)})
    both = plan(changed(plain, "site", features=(far, ash)))
    assert "ash" in str(next(c for c in both.checks if c.key == "standing_shade").measured)
    assert "Not counted" in both.answer("rows", "standing_shade").working.note


def test_many_walls_at_once_are_each_walls_own(monkeypatch: pytest.MonkeyPatch) -> None:
    """Worked out in one go, in small parts, or thing by thing: the same shade."""
    random = np.random.default_rng(4)
    houses = [
        {
            "kind": "building",
            "height_m": float(random.uniform(2, 9)),
            "points": tuple((east + dx, north + dy) for dx, dy in ((0, 0), (6, 1), (7, 5), (1, 6))),
        }
        for east, north in random.uniform(-40, 40, (12, 2)).tolist()
    ]
    places = np.column_stack((random.uniform(-50, 50, (9, 2)), np.full(9, 1.0)))
    sun = toward_sun(random.uniform(2, 60, 30), random.uniform(0, 360, 30))
    whole = shaded_by(standing(*houses), places, sun)
    assert 0 < whole.mean() < 0.5
    monkeypatch.setattr("openfurrow.core.rows.shade.RAYS_AT_ONCE", 7 * 30 * 9)
    assert (shaded_by(standing(*houses), places, sun) == whole).all()
    alone = [shaded_by(standing(house), places, sun)[0] for house in houses]
    assert (np.array(alone) == whole).all()


def test_the_check_names_who_takes_the_window_and_when(plain: Design) -> None:
    """A lone poplar due south of the middle takes the sun about noon, alike before and after."""
    poplar = FeatureGivens.model_validate(
        {"kind": "tree", "name": "poplar", "height_m": 16.0, "width_m": 3.0, "points": ((0, -20),)}
    )
    found = plan(changed(plain, "site", features=(poplar,)))
    check = next(c for c in found.checks if c.key == "standing_shade")
    assert check.level == "look"
    first, last = (
        sum(int(part) / scale for part, scale in zip(word.split(":"), (1, 60), strict=True))
        for word in str(check.measured).split()
        if ":" in word
    )
    assert 10.0 <= first < 12.0 < last <= 14.0
    assert first + last == pytest.approx(24.0, abs=0.2)
    assert str(check.measured).startswith("poplar")
    # North of the array nothing that stands takes the winter's sun.
    behind = FeatureGivens.model_validate(
        {"kind": "tree", "height_m": 16.0, "width_m": 3.0, "points": ((0, 25),)}
    )
    clear = plan(changed(plain, "site", features=(behind,)))
    assert next(c for c in clear.checks if c.key == "standing_shade").level == "sound"


def test_hours_taken_grow_with_the_tree_and_end_with_the_day(plain: Design) -> None:
    def winter_h(height: float) -> float:
        tree = FeatureGivens.model_validate(
            {"kind": "tree", "height_m": height, "points": ((-6, -15),)}
        )
        value = str(
            plan(changed(plain, "site", features=(tree,))).answer("rows", "standing_shade").value
        )
        taken, _, day, _ = value.split()
        # 8.7 h of sun at 44.9 N on the shortest day, by arccos(-tan(lat) tan(dec)) / 7.5.
        arc = math.acos(math.tan(math.radians(44.9)) * math.tan(math.radians(23.44)))
        assert float(day) == pytest.approx(math.degrees(arc) / 7.5, abs=0.15)
        return float(taken)

    hours = [winter_h(height) for height in (1.5, 6.0, 12.0, 20.0)]
    assert hours == sorted(hours) and hours[0] == 0.0 and hours[-1] > 0.5


@pytest.mark.parametrize(
    ("east", "north", "height", "shades"),
    [
        (37.0, 10.0, 5.0, True),
        (-37.0, 10.0, 5.0, True),
        (0.0, 31.0, 4.0, True),
        (0.0, -25.0, 3.0, False),
    ],
)
def test_a_thing_beside_any_one_table_of_many_is_found(
    plain: Design, east: float, north: float, height: float, shades: bool
) -> None:
    """Sixty tables; a narrow tree close before one of them, met by rays from that one alone."""
    design = changed(plain, "rows", rows=6, tables_along=10, modules_along=6, pitch_m=8.0)
    tree = FeatureGivens.model_validate(
        {"kind": "tree", "points": ((east, north),), "height_m": height, "width_m": 1.0}
    )
    found = plan(changed(design, "site", features=(tree,), slope=0.0))
    check = next(c for c in found.rows.checks if c.key == "standing_shade")
    corners = found.rows.lie.tables.corners
    level = float(found.rows.lie.edge_level_m[0])
    window = found.sun
    seen = False
    for lower in corners[:, [0, 1]].reshape(-1, 2).tolist() + corners[:, :2].mean(axis=1).tolist():
        # The crown as a ball of its half height about its middle: a coarser body, met by the same rays.
        middle = np.array([east - lower[0], north - lower[1], height * 0.625 - level])
        for altitude, azimuth in zip(
            window.window_altitude_deg.tolist(), window.window_azimuth_deg.tolist(), strict=True
        ):
            a, z = math.radians(altitude), math.radians(azimuth)
            ray = np.array([math.cos(a) * math.sin(z), math.cos(a) * math.cos(z), math.sin(a)])
            along = float(middle @ ray)
            off = middle - along * ray
            seen = seen or (
                along > 0 and np.hypot(off[0], off[1]) < 0.45 and abs(off[2]) < 0.3 * height
            )
    assert seen == shades
    assert (check.level == "look") == shades


@pytest.mark.parametrize("away", [12.0, 18.0, 24.0, 30.0])
def test_a_wall_with_one_high_end_is_looked_at_as_far_as_that_end_reaches(
    plain: Design, away: float
) -> None:
    """A wall up a bank: its shadow is as long as its highest corner makes it, over the lowest glass."""
    wall = FeatureGivens.model_validate(
        {
            "kind": "fence",
            "height_m": 2.0,
            "points": ((-40.0, -away), (-10.0, -away - 3), (20.0, -away)),
        }
    )
    design = changed(plain, "site", features=(wall,), slope=0.15, falls_toward_deg=90.0)
    design = changed(design, "rows", modules_along=2, tables_along=6)
    found = plan(design)
    standing = standing_of(found.site.keepouts, found.site.ground)
    lie = found.rows.lie
    lowest = float(found.sun.window_altitude_deg.min())
    (near,) = reached(standing, lie, lowest)
    low = float(min(corners[:, 2].min() for corners in corners_of(found)))
    half = math.hypot(float(lie.tables.lengths_m[0]), lie.tables.section.level_depth_m) / 2
    for index, corners in enumerate(corners_of(found)):
        middle = shapely.Point(*corners[:, :2].mean(axis=0))
        for ends, top in zip(standing.walls, standing.tops_m, strict=True):
            shadow = (float(top) - low) / math.tan(math.radians(lowest))
            if shapely.distance(shapely.LineString(ends), middle) <= shadow - half:
                assert index in near
