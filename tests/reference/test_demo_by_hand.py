"""The demo's figures by another route: plain arithmetic from its givens, in feet and pounds.

Nothing of the core is called here but the plan that is checked. Coefficients are those of
references named in the other files of this folder, from memory.
"""

import math
from itertools import pairwise

import numpy as np
import pytest
from Pynite import FEModel3D

from openfurrow.core.plan import Plan

FOOT, POUND, PSF = 0.3048, 4.4482216, 47.880259
CHORD = (2 * 1.762 + 0.020) / FOOT
TILT = math.radians(34)
SPAN = (18 * 1.134 + 17 * 0.020 + 2 * 0.075) / (8 + 2 * 0.35) / FOOT
# The row climbs to the east; what is taped along its purlins covers less of the level.
CLIMB = -0.04 * math.sin(math.radians(205))
LEVEL = math.cos(math.atan(CLIMB))
SLOPE_BACK = 0.04 * math.cos(math.radians(25))
Q_PSF = 0.00256 * 0.85 * 0.85 * math.exp(-0.0000362 * 1530 / FOOT) * (47 / 0.44704) ** 2


def value(plan: Plan, stage: str, key: str) -> float:
    found = plan.answer(stage, key).value
    assert isinstance(found, float)
    return found


@pytest.fixture(scope="module")
def reactions() -> list[float]:
    """Feet of row on each of nine posts, by PyNiteFEA."""
    import warnings

    model = FEModel3D()
    model.add_material("m", 29e6, 11e6, 0.3, 0.28)
    model.add_section("s", 1, 10, 10, 1)
    end = 8 * SPAN + 0.7 * SPAN
    places = [0.0, *(0.35 * SPAN + k * SPAN for k in range(9)), end]
    for number, x in enumerate(places):
        model.add_node(f"n{number}", x, 0, 0)
    model.add_member("m", "n0", "n10", "m", "s")
    for number in range(1, 10):
        model.def_support(f"n{number}", number == 1, True, True, True, False, False)
    model.add_member_dist_load("m", "Fy", -1, -1, 0, end)
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        model.analyze(check_statics=False)
    return [model.nodes[f"n{number}"].RxnFY["Combo 1"] for number in range(1, 10)]


@pytest.fixture(scope="module")
def tributary(reactions: list[float]) -> float:
    """Feet of row on the busiest post."""
    return max(reactions)


def test_rows(plain_plan: Plan) -> None:
    assert value(plain_plan, "rows", "chord") == pytest.approx(CHORD * FOOT)
    top = 0.9 / FOOT + CHORD * math.sin(TILT) - SLOPE_BACK * CHORD * math.cos(TILT)
    assert value(plain_plan, "rows", "upper_edge") == pytest.approx(top * FOOT, abs=1e-6)
    # Sun at 10 h and 14 h on the solstice: height, and angle from south, by the spherical triangle.
    latitude, sun, hour = (math.radians(x) for x in (44.9, -23.44, 30.0))
    height = math.asin(
        math.sin(latitude) * math.sin(sun) + math.cos(latitude) * math.cos(sun) * math.cos(hour)
    )
    aside = math.asin(math.cos(sun) * math.sin(hour) / math.cos(height))
    # The row climbs 0.04 sin 25° to the west: seen from the row, the afternoon sun is that much lower.
    climb = 0.04 * math.sin(math.radians(25))
    lower = min(math.tan(height) + s * climb * math.sin(aside) for s in (-1, 1)) / math.cos(aside)
    gap = CHORD * (math.sin(TILT) + math.cos(TILT) * lower) / (lower + SLOPE_BACK)
    assert value(plain_plan, "rows", "pitch") == pytest.approx(gap * FOOT, abs=FOOT / 12 / 16)


def test_wind_snow_and_weight(plain_plan: Plan) -> None:
    assert value(plain_plan, "structure", "q") / PSF == pytest.approx(Q_PSF, rel=3e-3)
    snow = (1 - (34 - 15) / 55) * 0.7 * 1.2 * 2400 / PSF
    assert value(plain_plan, "structure", "snow") / PSF == pytest.approx(snow)
    pounds = 36 * 22.0 * 2.2046226
    steel = (4 * 3.863 / 1.4881639 * CHORD / CHORD) / CHORD + 6.457 / 1.4881639 / SPAN
    weight = pounds / (CHORD * (18 * 1.134 + 17 * 0.02) / FOOT) + steel
    assert value(plain_plan, "structure", "dead") * 9.80665 / PSF == pytest.approx(weight, rel=1e-3)


def test_posts_and_their_depth_against_tipping(plain_plan: Plan, tributary: float) -> None:
    assert value(plain_plan, "structure", "spacing") == pytest.approx(SPAN * FOOT)
    assert value(plain_plan, "structure", "tributary") == pytest.approx(tributary * FOOT, rel=1e-4)
    # Glass to mid-beam: module 30, purlin 150, half a beam 87.5 mm.
    stack = 0.2675 / FOOT
    post = CHORD * math.cos(TILT) / 2 + stack * math.sin(TILT)
    reveal = 0.9 / FOOT + CHORD * math.sin(TILT) / 2 - stack * math.cos(TILT) - SLOPE_BACK * post
    dead = value(plain_plan, "structure", "dead") * 9.80665 / PSF * CHORD * tributary
    snow = value(plain_plan, "structure", "snow") / PSF * CHORD * math.cos(TILT) * tributary
    # 30° and 37.5° of the figure, interpolated to 34°: lower half, upper half.
    share = 4 / 7.5
    cases = {
        "lift A": (-1.8, -1.8),
        "lift B": (-0.5 - 0.1 * share, -2.5 + 0.1 * share),
        "press A": (2.1, 2.1 + 0.1 * share),
        "press B": (2.6 + 0.1 * share, 1.0 + 0.1 * share),
    }
    depths = []
    for d, s, w in ((1, 1, 0), (1, 0, 0.6), (1, 0.75, 0.45), (0.6, 0, 0.6)):
        for front, back in cases.values():
            half = Q_PSF * 0.85 * CHORD / 2 * tributary * w
            push = (front + back) * half * math.sin(TILT)
            moment = push * reveal + (back - front) * half * CHORD / 4
            moment -= (d * dead + s * snow) * stack * math.sin(TILT)
            if push == 0:
                continue
            depth = 6.0
            for _ in range(200):
                stress = 2 * 200 * min(depth, 12) / 3
                a = 2.34 * abs(push) / (stress * 0.1 / FOOT)
                depth = 0.5 * a * (1 + math.sqrt(1 + 4.36 * abs(moment / push) / a))
            depths.append(depth)
    assert value(plain_plan, "footings", "d_lateral") == pytest.approx(max(depths) * FOOT, rel=3e-3)
    assert value(plain_plan, "footings", "depth") >= max(depths) * FOOT * (1 - 3e-3)


def test_depth_against_lift_and_frost(plain_plan: Plan, reactions: list[float]) -> None:
    """Friction by integrating K tan(2/3 phi) gamma z down the box; frost lifts the lightest post."""
    perimeter = 2 * (0.15 + 0.1)
    friction = math.tan(math.radians(24.0)) * 20e3 * perimeter
    z = np.arange(0.9, 6.0, 0.0005)
    gained = np.cumsum(friction * z * 0.0005)
    wanted = 3 * value(plain_plan, "structure", "uplift")
    assert value(plain_plan, "footings", "d_uplift") == pytest.approx(
        float(z[np.searchsorted(gained, wanted)]), abs=0.002
    )
    dead = value(plain_plan, "structure", "dead") * 9.80665 * 3.544
    heave = 100e3 * perimeter * 0.15 - dead * min(reactions) * FOOT
    assert value(plain_plan, "footings", "d_heave") == pytest.approx(
        float(z[np.searchsorted(gained, heave)]), abs=0.002
    )


def test_trench_and_wire(plain_plan: Plan) -> None:
    posts = [LEVEL * (-8.7 / 2 * SPAN * FOOT + (0.35 + k) * SPAN * FOOT) for k in range(9)]
    start = (min(posts, key=lambda x: math.hypot(x - 4, 7)), 0.0)
    way = [start, (4.0, 7.0), (19.0, 21.0), (30.0, 27.5)]
    fall = (math.sin(math.radians(205)), math.cos(math.radians(205)))
    length = 0.0
    for (x0, y0), (x1, y1) in pairwise(way):
        level = math.hypot(x1 - x0, y1 - y0)
        rise = -0.04 * ((x1 - x0) * fall[0] + (y1 - y0) * fall[1])
        length += math.hypot(level, rise)
    assert value(plain_plan, "trench", "length") == pytest.approx(length, abs=1e-6)
    depth = 0.4572 + 0.05 + 0.033401 + 0.1
    assert value(plain_plan, "trench", "depth") == pytest.approx(depth, abs=0.0016)
    assert value(plain_plan, "trench", "fill") == pytest.approx(7 * 0.0211 / 0.832, rel=1e-3)
    wire = length + 1.2 + 1.2 + 2 * (0.4572 + 0.05) + 2 * 1.5
    assert value(plain_plan, "wiring", "one_way") == pytest.approx(wire, abs=FOOT)
    # 10 AWG, 1.24 ohm per 1000 ft, there and back, 13.24 A of 12 x 32.5 V; the array adds a little.
    drop = 13.24 * 2 * wire / FOOT / 1000 * 1.24 / (12 * 32.5)
    assert drop <= value(plain_plan, "wiring", "drop") <= drop * 1.35
    assert plain_plan.answer("wiring", "strings").value == "3 x 12"


def test_counts(plain_plan: Plan) -> None:
    quantity = plain_plan.materials.quantity
    # 9 posts and a spare; 2 x 2 module rows' purlin lines in 4 pieces; clamps and 5 % more.
    assert quantity("post") == 10
    assert quantity("sticks_purlin") == 14
    assert quantity("mid_clamp") == math.ceil(2 * 17 * 2 * 1.05)
    assert quantity("end_clamp") == math.ceil(8 * 1.05)
    assert quantity("purlin_bolt") == math.ceil(9 * 4 * 2 * 1.05)


def test_stakes_on_the_slope(plain_plan: Plan) -> None:
    stakes = plain_plan.setting_out.stakes
    rise = CLIMB * LEVEL * SPAN * FOOT
    assert np.diff(stakes.ground_m) == pytest.approx(np.full(8, rise), abs=1e-9)
    assert value(plain_plan, "stakeout", "tape") == pytest.approx(8 * SPAN * FOOT)
    assert value(plain_plan, "stakeout", "diagonal") == pytest.approx(
        math.hypot(8 * SPAN * FOOT * LEVEL, 3.0)
    )
