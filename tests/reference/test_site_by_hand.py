"""A small site worked by hand, as a crew would on the tailgate, and what the plan makes of it.

Plain arithmetic on the numbers below; trade facts are common practice, no published source, where no
other source is named. Nothing of the core is asked for the expected values.
"""

import calendar
import math
from datetime import date

import numpy as np
import pytest

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, plan
from openfurrow.core.site.tickets import working_days_after
from openfurrow.sheets.scene import modules_m, scene_of
from tests.designs import changed

FOOT, INCH = 0.3048, 0.0254
ROD_BOOK = (
    # East and north in feet, what the rod read in feet, on a benchmark of 100.00 seen at 4.25.
    (-40.0, -40.0, 6.75),
    (40.0, -40.0, 5.15),
    (40.0, 60.0, 3.15),
    (-40.0, 60.0, 4.75),
    (0.0, 10.0, 4.95),
)


@pytest.fixture(scope="module")
def shot(plain: Design) -> Plan:
    """Five rod readings that lie on one plane: 2 ft in 100 north, 2 ft in 100 east, and no more."""
    readings = tuple((e * FOOT, n * FOOT, rod * FOOT, "") for e, n, rod in ROD_BOOK)
    sitting = {
        "name": "book",
        "way": "rod readings",
        "benchmark_m": 100 * FOOT,
        "backsight_m": 4.25 * FOOT,
        "readings": readings,
    }
    site = Design.model_validate(
        plain.model_dump()
        | {
            "site": plain.site.model_dump()
            | {"ground": "survey", "surveys": (sitting,), "survey_reach_m": 60.0}
        }
    )
    return plan(site)


def test_levels_by_the_rod(shot: Plan) -> None:
    """Benchmark and backsight make the line of sight, 104.25 ft; the rod comes off it."""
    for (e, n, rod), level in zip(ROD_BOOK, shot.site.known.shots.points_m[:, 2], strict=True):
        assert level == pytest.approx((100.0 + 4.25 - rod) * FOOT), (e, n)
    # By the book 20 ft east of the middle the ground is 0.4 ft higher, 30 ft north 0.6 ft.
    ground = shot.site.ground
    middle = float(ground.level_m(0.0, 10 * FOOT))
    assert float(ground.level_m(20 * FOOT, 10 * FOOT)) - middle == pytest.approx(0.4 * FOOT)
    assert float(ground.level_m(0.0, 40 * FOOT)) - middle == pytest.approx(0.6 * FOOT)


def test_the_fall_and_the_levels_under_the_row(shot: Plan) -> None:
    """2 % either way is 2.83 % toward the south-west; along the row it is 2 %."""
    assert shot.answer("site", "fall").value == pytest.approx(10 * math.hypot(0.02, 0.02), rel=1e-6)
    supports = shot.structure.supports
    run = supports.places.east_m[-1] - supports.places.east_m[0]
    assert supports.ground_m[-1] - supports.ground_m[0] == pytest.approx(0.02 * run, rel=1e-6)
    stakes = shot.setting_out.stakes
    # The rod on the low end reads more by as much.
    assert stakes.rod_ground_m[0] - stakes.rod_ground_m[-1] == pytest.approx(0.02 * run, rel=1e-6)


def test_the_upper_edge_stands_over_the_ground_below_it(shot: Plan, plain: Design) -> None:
    """Lower edge plus the rise of the chord, less what the ground rises under it."""
    chord = shot.answer("rows", "chord").value
    tilt = math.radians(plain.arrays[0].rows.tilt_deg)
    by_hand = plain.arrays[0].rows.lower_edge_m + chord * (math.sin(tilt) - 0.02 * math.cos(tilt))
    assert shot.answer("rows", "upper_edge").value == pytest.approx(by_hand, abs=0.002)
    # The lower edge follows the ground along the row, so that the gap below it is even.
    assert np.ptp(shot.rows.lie.clear_m) < 1e-9


def test_who_keeps_off_by_how_much(plain: Design) -> None:
    """A gas line that was marked: 1 ft of doubt and 2 ft of hand digging, and nothing else.

    Common practice: marks are good to about a foot, hands dig two feet either side (18 to 30 in by
    state law).
    """

    def hits(east_off_m: float) -> bool:
        found = plan(plain).places
        at = float(found.east_m[4]) + east_off_m
        line = {"kind": "buried gas or fuel", "how_sure": "marked", "points": ((at, -30), (at, 30))}
        checks = plan(changed(plain, "site", features=(_feature(line),))).checks
        return next(c for c in checks if (c.stage, c.key) == ("footings", "keep_out")).level == "stop"

    reach = 0.3 + 24 * INCH
    assert hits(reach - 0.02) and not hits(reach + 0.02)


def _feature(facts: dict[str, object]) -> object:
    from openfurrow.core.site.features import FeatureGivens

    return FeatureGivens.model_validate(facts)


def test_which_footings_a_truck_reaches(plain: Design) -> None:
    """A path square to the row at its west end: posts within 5 m of it, by their running tape."""
    places = plan(plain).places
    west = float(places.east_m[0])
    path = _feature({"kind": "truck path", "points": ((west - 1.0, -20.0), (west - 1.0, 20.0))})
    found = plan(changed(plain, "site", features=(path,)))
    away = [float(e) - west + 1.0 for e in places.east_m]
    assert found.answer("footings", "chute").value == f"{sum(a <= 5.0 for a in away)} of 9"
    assert found.answer("footings", "pump").value == "9 of 9"
    longer = plan(changed(plain, "site", features=(path,), chute_reach_m=8.0))
    assert longer.answer("footings", "chute").value == f"{sum(a <= 8.0 for a in away)} of 9"


def test_a_trench_across_a_gas_line(plain: Design) -> None:
    """The way runs north from the middle post; the line crosses it at 60 degrees, 12 m out.

    By the sine: band and hand-dig zone of 0.05 + 0.6096 m either side are 2 x 0.6596 / sin 60 of
    trench, dug by hand.
    """
    east = float(plan(plain).places.east_m[4])
    slant = math.tan(math.radians(30.0))
    line = _feature(
        {
            "kind": "buried gas or fuel",
            "how_sure": "measured",
            "depth_m": 1.5,
            "points": ((east - 20.0, 12.0 - 20.0 * slant), (east + 20.0, 12.0 + 20.0 * slant)),
        }
    )
    found = plan(changed(plain, "site", features=(line,), route=((east, 25.0),)))
    (crossing,) = found.run.crossings
    assert crossing.angle_deg == pytest.approx(60.0, abs=0.5)
    assert crossing.length_m == pytest.approx(2 * 0.6596 / math.sin(math.radians(60)), rel=0.01)
    start = float(found.run.route.north_m[0])
    assert (crossing.from_m + crossing.to_m) / 2 == pytest.approx(12.0 - start, abs=0.05)


@pytest.mark.parametrize("asked", [date(2026, 4, day) for day in range(6, 20)])
@pytest.mark.parametrize("days", [0, 1, 3, 5])
def test_working_days_by_the_calendar(asked: date, days: int) -> None:
    """Counted day by day with Python's own calendar; a request on a weekend counts from Friday."""
    day, left = asked, days
    while calendar.weekday(day.year, day.month, day.day) > 4:
        day = date.fromordinal(day.toordinal() - 1)
    while left:
        day = date.fromordinal(day.toordinal() + 1)
        left -= calendar.weekday(day.year, day.month, day.day) < 5
    assert working_days_after(asked, days) == day


def test_modules_of_the_scene_lie_in_one_plane_at_the_tilt(plain: Design) -> None:
    """Its normal by a plane through the middles of all modules (least squares)."""
    found = plan(plain)
    modules = modules_m(found)
    assert len(modules) == 36
    terms = np.column_stack((modules[:, :2], np.ones(len(modules))))
    (east, north, _), off, *_ = np.linalg.lstsq(terms, modules[:, 2], rcond=None)
    assert off.size == 0 or float(off[0]) < 1e-12
    # It rises to the north, away from the sun, by the tangent of the tilt; along the row it follows
    # ground that falls by 4 % toward 205 degrees.
    assert north == pytest.approx(math.tan(math.radians(34.0)), rel=1e-6)
    assert east == pytest.approx(-0.04 * math.sin(math.radians(205.0)), abs=1e-6)


def test_posts_of_the_scene_reach_from_their_tip_to_their_top(plain: Design) -> None:
    found = plan(plain)
    scene = scene_of(found)
    posts = np.array(scene.arrays[0].posts).reshape(-1, 4)
    stakes = found.setting_out.stakes
    assert posts[:, 3] - posts[:, 2] == pytest.approx(stakes.length_m, abs=2e-3)
    assert posts[:, 0] == pytest.approx(found.places.east_m, abs=1e-3)
    # Every triangle of the ground turns the same way, so that light falls on its upper side.
    corners = np.array(scene.ground.positions).reshape(-1, 3)[
        np.array(scene.ground.triangles).reshape(-1, 3)
    ]
    normal = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    assert (np.abs(normal[:, 2]) > 0).all()
