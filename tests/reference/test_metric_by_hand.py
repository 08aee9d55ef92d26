"""The metric school by another route: plain arithmetic from the givens, southern hemisphere.

Coefficients from memory of EN 1990, EN 1991-1-3, EN 1991-1-4, EN 1997-1 and Broms (1964).
"""

import math

import pytest

from openfurrow.core.design import Design
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.plan import Plan, plan
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.trench.givens import TrenchGivens
from openfurrow.core.wiring.givens import WiringGivens
from openfurrow.core.wiring.inverter_givens import InverterGivens
from tests.designs import said_job, said_rows, said_site
from tests.reference.test_thin_walls import effective_en

TILT = math.radians(25)
CHORD = 4 * 1.134 + 3 * 0.020
LENGTH = 10 * 1.762 + 9 * 0.020
STACK = 0.030 + 0.150 + 0.175 / 2


def design(soil: str) -> Design:
    return said_job(
        name="by hand",
        site=said_site(
            rule_pack="metric",
            display_units="metric",
            latitude_deg=-40.6,
            longitude_deg=-72.5,
            elevation_m=190,
            time_zone="America/Santiago",
            slope=0.0,
            soil_class=soil,
            fine_soil_top_m=0.0,
            frost_depth_m=0.3,
            wind_speed_m_s=30.0,
            terrain="II",
            ground_snow_pa=800.0,
            lowest_temperature_c=-6.0,
            hottest_temperature_c=30.0,
            route=((0.0, 10.0), (20.0, 30.0)),
        ),
        rows=said_rows(
            orientation="landscape", modules_high=4, modules_along=10, tilt_deg=25.0, lower_edge_m=0.8
        ),
        structure=StructureGivens(span_limit_m=3.0, cantilever_ratio=0.3),
        footings=FootingsGivens(pull_tested=True),
        trench=TrenchGivens(method="direct-buried cable"),
        wiring=WiringGivens(
            inverters=(InverterGivens(id="1", maximum_dc_v=1000.0, inverter_inputs=4),)
        ),
    )


@pytest.fixture(scope="module")
def sand() -> Plan:
    return plan(design("sand"))


def value(found: Plan, stage: str, key: str) -> float:
    answer = found.answer(stage, key).value
    assert isinstance(answer, float)
    return answer


def actions(found: Plan, reveal: float) -> list[tuple[float, float, float]]:
    """Vertical, horizontal and moment at ground of every combination and wind case, N and N·m."""
    z0, height = 0.05, max(0.8 + CHORD * math.sin(TILT) / 2, 2.0)
    mean = 0.19 * (z0 / 0.05) ** 0.07 * math.log(height / z0) * 30.0
    peak = (1 + 7 / math.log(height / z0)) * 0.5 * 1.25 * mean**2
    assert value(found, "structure", "q") == pytest.approx(peak, rel=1e-6)
    trib = value(found, "structure", "tributary")
    dead = value(found, "structure", "dead") * 9.80665 * CHORD * trib
    snow = 0.8 * 800.0 * CHORD * math.cos(TILT) * trib
    found_cases = []
    both = ((1.35, 1.5, 0.9), (1.35, 0.75, 1.5), (1.0, 0, 1.5), (0.9, 0, 1.5))
    # Where snow slides the upper half may lie bare: half of it, a quarter of the level depth ahead.
    lying = [(g, s, w, 0.0) for g, s, w in both]
    lying += [(g, s / 2, w, CHORD * math.cos(TILT) / 4) for g, s, w in both if s]
    for g, s, w, ahead in lying:
        for force in (1.0, -1.6):
            for arm in (-CHORD / 4, CHORD / 4):
                normal = w * force * peak * CHORD * trib
                vertical = g * dead + s * snow + normal * math.cos(TILT)
                push = normal * math.sin(TILT)
                moment = push * reveal + normal * arm - (g * dead + s * snow) * STACK * math.sin(TILT)
                moment -= s * snow * ahead
                found_cases.append((vertical, push, moment))
    return found_cases


def reveal() -> float:
    post = CHORD * math.cos(TILT) / 2 + STACK * math.sin(TILT)
    assert post > 0
    return 0.8 + CHORD * math.sin(TILT) / 2 - STACK * math.cos(TILT)


def bisect(function, low: float = 0.01, high: float = 20.0) -> float:  # type: ignore[no-untyped-def]
    for _ in range(80):
        middle = (low + high) / 2
        low, high = (middle, high) if function(middle) < 0 else (low, middle)
    return low


def test_rows_face_north_and_keep_the_winter_window(sand: Plan) -> None:
    assert sand.rows.facing_deg == 0.0
    latitude, sun, hour = (math.radians(x) for x in (40.6, -23.44, 30.0))
    height = math.asin(
        math.sin(latitude) * math.sin(sun) + math.cos(latitude) * math.cos(sun) * math.cos(hour)
    )
    aside = math.asin(math.cos(sun) * math.sin(hour) / math.cos(height))
    pitch = CHORD * math.cos(TILT) + CHORD * math.sin(TILT) * math.cos(aside) / math.tan(height)
    assert value(sand, "rows", "pitch") == pytest.approx(pitch, abs=1e-3)


def test_depth_in_sand_by_broms(sand: Plan) -> None:
    phi = math.atan(math.tan(math.radians(32)) / 1.25)
    passive = math.tan(math.pi / 4 + phi / 2) ** 2

    def depth(push: float, moment: float) -> float:
        return bisect(lambda d: 0.5 * 18e3 * 0.1 * d**3 * passive - abs(push) * d - abs(moment))

    needed = max(depth(push, moment) for _, push, moment in actions(sand, reveal()))
    assert value(sand, "footings", "d_lateral") == pytest.approx(needed, rel=1e-4)


def test_depth_in_clay_by_broms() -> None:
    found = plan(design("clay"))
    strength, width = 50e3 / 1.4, 0.1
    needed = 0.0
    for _, push, moment in actions(found, reveal()):
        turn = abs(push) / (9 * strength * width)
        largest = abs(moment) + abs(push) * (1.5 * width + 0.5 * turn)
        lowest = math.sqrt(largest / (2.25 * strength * width))
        needed = max(needed, 1.5 * width + turn + lowest)
    assert value(found, "footings", "d_lateral") == pytest.approx(needed, rel=1e-6)


def test_depth_against_lift_and_under_weight(sand: Plan) -> None:
    """Safety 2 with a pull test, of which 1.5 stands on the action: 1.333 on the soil."""
    loads = actions(sand, reveal())
    perimeter, tip = 0.5, 0.15 * 0.1
    friction = 0.8 * math.tan(math.radians(32 * 2 / 3)) * 18e3
    up, down = -min(v for v, _, _ in loads), max(v for v, _, _ in loads)

    def shaft(depth: float) -> float:
        return perimeter * friction * max(depth**2 - 0.3**2, 0) / 2

    lift = bisect(lambda d: shaft(d) - up * 4 / 3)
    assert value(sand, "footings", "d_uplift") == pytest.approx(lift, rel=1e-4)
    phi = math.radians(32)
    n_q = math.exp(math.pi * math.tan(phi)) * math.tan(math.pi / 4 + phi / 2) ** 2
    weight = bisect(lambda d: shaft(d) + n_q * 18e3 * d * tip - down * 4 / 3)
    assert value(sand, "footings", "d_bearing") == pytest.approx(weight, rel=1e-4)


def test_purlin_bending_and_resistance(sand: Plan) -> None:
    """EN 1993-1-3 by effective widths when pressed; wL²/10 bounds a continuous purlin."""
    purlin = sand.structure.members.purlin
    assert 0.78 <= purlin.bending.limit_n_m / effective_en(purlin.section) <= 1.03
    assert purlin.bending.limit_n_m < 2.92230e-5 * 350e6
    span = sand.structure.posts.line.span_m
    assert 0.07 < purlin.bending.pressing_n_m / (purlin.load_n_per_m * span**2) < 0.125


def test_cable_in_sand_and_its_size(sand: Plan) -> None:
    """Direct-buried at 600 mm in sand above and below; protective conductor as the line."""
    trench, run, circuit = sand.trench, sand.run, sand.circuit
    assert run.route.least_cover_m == 0.6
    assert run.conduit is None and run.sticks == 0
    level = math.hypot(20, 20) + 10
    assert run.route.ground_length_m == pytest.approx(level, abs=0.6)
    sand_m3 = run.route.ground_length_m * trench.width_m * (0.1 * 2 + run.outside_m)
    assert trench.bedding_m3 == pytest.approx(sand_m3)
    assert circuit.choice.drop <= 0.02
    assert circuit.grounding == circuit.choice.conductor
    cold = 38.6 * (1 + 0.0025 * 31)
    assert circuit.strings.longest_allowed == math.floor(1000 / cold)
    # 1.5 x 14 A = 21 A: the next gPV fuse is 25 A.
    assert value(sand, "wiring", "fuse") == 25.0
