"""Conduit over the ground: held one by one, grown by the printed table, its sleeves walked through.

Growth: NEC 2020, Table 352.44, 4.06 in on 100 ft for 100 °F; supports: Tables 352.30 and 344.30(B)(2);
heat in the sun: 310.15(B)(2), and the factors of Table 310.15(B)(1); IEC 60364-5-52, Tables B.52.3 and
B.52.5, method B1 (all from memory).
"""

import math
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.as_built import as_built, book_of
from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, plan, untried
from openfurrow.core.trench.over_ground import supports_of
from openfurrow.core.wiring.conductors import conductors, heat_factor
from openfurrow.demo.designs import quillay
from tests.core.test_checks import find
from tests.designs import changed, plain_larkspur

FOOT, INCH = 0.3048, 0.0254


def over(laid: str = "over the ground", **said: object) -> Design:
    return changed(plain_larkspur(), "trench", laid=laid, **said)


@settings(max_examples=200)
@given(st.floats(0.1, 80), st.floats(0.5, 6), st.floats(0.1, 1))
def test_supports_are_set_one_by_one_and_none_is_to_spare(
    long: float, spacing: float, near: float
) -> None:
    """Set as late as each may be: the first so far from the end, the last so near to the other."""
    at = [min(near, long)]
    while at[-1] < long - near - 1e-9:
        # As far on as it may be, but never past where the last must stand.
        at.append(min(at[-1] + spacing, long - near))
    least = len(at)
    told = supports_of(long, spacing, near)
    # A straight of two ends has a support near each, however short it is between them.
    assert told == (max(least, 2) if long > near else 1)


def walked(found: Plan) -> list[float]:
    """From bend to bend over the ground, the profile's steps added up one by one."""
    route = found.run.route
    bends = [0.0]
    for east, north in zip(np.diff(route.east_m), np.diff(route.north_m), strict=True):
        bends.append(bends[-1] + math.hypot(east, north))
    lengths = [0.0] * (len(bends) - 1)
    steps = zip(pairwise(route.chainage_m), pairwise(route.ground_m), strict=True)
    for (x0, x1), (z0, z1) in steps:
        middle = (x0 + x1) / 2
        part = next(k for k in range(len(lengths)) if bends[k] <= middle <= bends[k + 1] + 1e-9)
        lengths[part] += math.hypot(x1 - x0, z1 - z0)
    return lengths


@pytest.mark.parametrize("method", ["PVC conduit", "rigid metal conduit"])
def test_it_grows_as_the_table_prints_and_sleeves_take_it_up(method: str) -> None:
    found = untried(over(method=method, expansion_m=4 * INCH))
    site, told = plain_larkspur().site, found.trench.over
    assert told is not None
    assert told.straights_m == pytest.approx(walked(found), abs=1e-6)
    # 30 °F more than the air in the sun.
    cold_f, hot_f = (1.8 * one + 32 for one in (site.lowest_temperature_c, site.hottest_temperature_c))
    warming_f = hot_f + 30 - cold_f
    per_foot = 4.06 * INCH / 100 / 100 if method == "PVC conduit" else 0.65e-5 * FOOT
    growth = [long / FOOT * warming_f * per_foot for long in walked(found)]
    assert told.growth_m == pytest.approx(growth, rel=2e-3)
    for grows, fittings in zip(growth, told.fittings.tolist(), strict=True):
        if grows < 0.25 * INCH * 0.99:
            assert fittings == 0
        else:
            assert (fittings - 1) * 4 * INCH <= grows * 1.003
            assert fittings * 4 * INCH >= grows * 0.997
    assert told.all_fittings == int(told.fittings.sum()) * found.run.conduits


@settings(max_examples=60, deadline=None)
@given(st.floats(-20, 45), st.floats(0, 1))
def test_a_sleeve_set_on_any_day_never_runs_out(laid_c: float, share: float) -> None:
    """Its opening followed from the day of laying to any other warmth of the conduit."""
    told = OVER.trench.over
    assert told is not None
    now_c = told.coldest_c + share * (told.hottest_c - told.coldest_c)
    laid_c = min(max(laid_c, told.coldest_c), told.hottest_c)
    for long, fittings in zip(told.straights_m.tolist(), told.fittings.tolist(), strict=True):
        if fittings:
            shrinks = long * told.grows_per_k * (laid_c - now_c) / fittings
            opening = told.open_m(laid_c) + shrinks
            assert -1e-9 <= opening <= told.travel_m + 1e-9


OVER = untried(over(method="PVC conduit"))


def test_nothing_is_dug_filled_or_read_with_a_tape() -> None:
    design = over(method="rigid metal conduit")
    found, dug = plan(design), plan(changed(design, "trench", laid="in a trench"))
    assert (found.trench.depth_m, found.trench.spoil_m3, found.trench.bedding_m3) == (0.0, 0.0, 0.0)
    names = {task.name for task in found.schedule.tasks}
    assert not any("rench" in name for name in names)
    assert {"Lay the conduit", "What is laid is inspected", "Pull the wires"} <= names
    keys = {line.key for line in found.materials.lines}
    assert not keys & {"sand", "warning_tape"}
    lines = {line.key: line for line in found.materials.lines}
    told = found.trench.over
    assert told is not None
    assert lines["ground_support"].net == told.supports
    assert lines["expansion"].net == told.all_fittings
    assert {"sand", "warning_tape"} <= {line.key for line in dug.materials.lines}
    book = book_of(as_built(design, found))
    assert book.covers == ()
    assert "Open trench" not in {one.name for one in book.inspections}
    # Each wire is shorter by what it does not go down and up, at both ends.
    buried = dug.run.route.cover_m
    shorter = dug.run.route.wire_m - found.run.route.wire_m
    assert shorter == pytest.approx(2 * (buried + design.trench.over_m))


def test_wires_are_drawn_into_the_heavy_wall_that_is_bought() -> None:
    """Schedule 80 of 1 in has 0.688 sq in inside, schedule 40 0.832: NEC Chapter 9, Table 4."""
    conduit = OVER.run.conduit
    assert conduit is not None
    assert conduit.inside_m2 == pytest.approx(0.688 * INCH**2, rel=2e-3)
    assert conduit.fill == conduit.riser_fill
    buried = untried(over(method="PVC conduit", laid="in a trench")).run.conduit
    assert buried is not None
    assert buried.inside_m2 == pytest.approx(0.832 * INCH**2, rel=2e-3)


def test_every_straight_has_its_supports_in_a_job_of_one_way() -> None:
    found = OVER
    told = found.trench.over
    assert told is not None
    # PVC of 1 in is held every 3 ft, and within 3 ft of each end.
    assert found.run.conduit is not None and found.run.conduit.label == "1 in"
    expected = sum(supports_of(long, 3 * FOOT, 3 * FOOT) for long in walked(found))
    assert told.supports == expected
    steel = untried(over(method="rigid metal conduit"))
    assert steel.trench.over is not None
    assert steel.run.conduit is not None and steel.run.conduit.label == "1 in"
    assert steel.trench.over.spacing_m == pytest.approx(12 * FOOT)


def test_in_the_sun_near_the_ground_wires_are_reckoned_for_33_k_more() -> None:
    site = plain_larkspur().site
    lying, held, dug = (
        untried(one).wiring.circuits[0].feed.ambient_c
        for one in (over(over_m=0.0), over(over_m=0.1), plain_larkspur())
    )
    assert lying == pytest.approx(site.hottest_temperature_c + 33)
    assert held == dug == pytest.approx(site.hottest_temperature_c)
    # Table 310.15(B)(1), 90 °C: 0.58 to 70 °C, 0.50 to 75, 0.41 to 80.
    for top, printed in ((70, 0.58), (75, 0.50), (80, 0.41)):
        assert heat_factor("us", top) == pytest.approx(printed, abs=0.006)
    metric = changed(changed(over(over_m=0.1), "site", rule_pack="metric"), "site", wind_speed_m_s=27.0)
    warm = untried(metric).wiring.circuits[0].feed.ambient_c
    assert warm == pytest.approx(site.hottest_temperature_c + 15)


def test_the_grounds_column_in_hot_air_is_never_more_than_that_of_conduit_in_air() -> None:
    """Metric wires over the ground go by method D1 at the air's warmth: less than B1 at 30 °C gives."""
    two = {4: 42, 6: 54, 10: 75, 16: 100, 25: 133, 35: 164, 50: 198, 70: 253, 95: 306}
    three = {4: 37, 6: 48, 10: 66, 16: 88, 25: 117, 35: 144, 50: 175, 70: 222, 95: 269}
    for wire in conductors("metric"):
        size = round(wire.copper_mm2)
        for air in (20.0, 35.0, 50.0, 65.0):
            in_air = math.sqrt((90 - air) / 60)
            assert wire.ampacity_90_a * heat_factor("metric", air) <= two[size] * in_air * 1.001
            assert wire.ampacity_three_a * heat_factor("metric", air) <= three[size] * in_air * 1.001


def test_what_may_not_lie_there_is_a_stop() -> None:
    checks = untried(over(under_driveway=True, method="direct-buried cable")).checks
    assert find(checks, "trench", "over_wheels").level == "stop"
    assert find(checks, "trench", "over_bare").level == "stop"
    assert find(checks, "trench", "over_trodden").level == "look"
    keys = {check.key for check in checks if check.stage == "trench"}
    assert not keys & {"cover", "locate", "crossings", "width"}


def test_where_nothing_may_be_dug_nothing_is() -> None:
    """The station on its terrace: boxes, and conduit over the gravel."""
    found = plan(quillay())
    assert found.footings.weights is not None
    assert found.trench.over is not None
    assert not any(task.digs for task in found.schedule.tasks if not task.array)
