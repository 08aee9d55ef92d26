"""Panels on the way to the meter, by Kirchhoff's sums and ampacity tables typed again.

NEC 2020, 705.12(B), Table 310.16 and 240.6(A), IEC 60364-5-52, Table B.52.3, from memory.
"""

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.plan import Plan, plan
from openfurrow.core.wiring.panel_givens import PanelGivens
from openfurrow.demo.designs import DESIGNS
from openfurrow.sheets.drawings.one_line import one_line_drawing
from tests.core.test_checks import find
from tests.designs import changed

# Copper at 75 and 90 °C, A; ohms a kilofoot at 75 °C.
US = {
    "8": (50, 55, 0.778),
    "6": (65, 75, 0.491),
    "4": (85, 95, 0.308),
    "3": (100, 115, 0.245),
    "1": (130, 145, 0.154),
    "2/0": (175, 195, 0.0967),
}
BREAKERS = (15, 20, 25, 30, 35, 40, 45, 50, 60, 70, 80, 90, 100, 110, 125, 150, 175, 200, 225, 250)
FOOT_M = 0.3048
# Table 310.15(B)(1), 90 °C: up to so many degrees, so much of it is left.
HEAT = ((30, 1.0), (35, 0.96), (40, 0.91), (45, 0.87), (50, 0.82))


def larkspur(*panels: PanelGivens, **more: Any) -> Plan:
    said: dict[str, Any] = {
        "connects": "a breaker in the panel",
        "panel_bus_a": 200.0,
        "panel_main_a": 100.0,
        "panel_fed_by": "another panel",
        "panels": panels,
    } | more
    return plan(changed(DESIGNS["larkspur"](), "wiring", **said))


def panels() -> st.SearchStrategy[PanelGivens]:
    return st.builds(
        PanelGivens,
        name=st.just("House"),
        bus_a=st.sampled_from([100.0, 125.0, 200.0, 225.0, 400.0]),
        main_a=st.sampled_from([60.0, 100.0, 150.0, 200.0]),
        other_a=st.sampled_from([0.0, 20.0, 40.0]),
        place=st.sampled_from(["at the far end of the bus", "anywhere on it"]),
        loads_a=st.none() | st.floats(40, 300),
        feeds_a=st.sampled_from([40.0, 60.0, 70.0, 100.0, 125.0]),
        feeder_m=st.floats(1, 120),
        feeder_us=st.sampled_from(sorted(US)),
    )


@settings(max_examples=30, deadline=None)
@given(st.lists(panels(), min_size=1, max_size=3), st.sampled_from([0.0, 30.0]))
def test_every_panel_and_feeder_is_asked_by_itself(listed: list[PanelGivens], below_a: float) -> None:
    """Each by hand: 125 % of what comes back, or all breakers, against its bus; wire and breaker."""
    named = [one.model_copy(update={"id": str(n), "name": f"P{n}"}) for n, one in enumerate(listed)]
    found = larkspur(*named, panel_other_a=below_a)
    amps = found.wiring.service.amps
    hottest = DESIGNS["larkspur"]().site.hottest_temperature_c
    assert hottest is not None
    overs, feeders_hold, lost, below = [], True, 0.0, below_a
    for one in named:
        assert one.bus_a and one.main_a and one.feeds_a and one.feeder_m
        lasts = 1.25 * amps + below
        flows = lasts + one.other_a
        ways = [(one.main_a + flows) / one.bus_a]
        if one.place == "at the far end of the bus":
            ways.append((one.main_a + flows) / (1.2 * one.bus_a))
        if one.loads_a is not None:
            ways.append((one.loads_a + one.feeds_a + one.other_a) / one.bus_a)
        overs.append(min(ways))
        warm, hot, ohm = US[one.feeder_us]
        # A conduit of its own, two loaded: nothing taken for crowding, but for the heat of the place.
        able = min(warm, hot * next(share for top, share in HEAT if hottest <= top))
        next_up = min(size for size in BREAKERS if size >= able - 1e-9)
        feeders_hold &= lasts <= one.feeds_a + 1e-9 and lasts <= able + 1e-9
        feeders_hold &= one.feeds_a <= next_up
        below += one.other_a
        lost += 2 * one.feeder_m / FOOT_M / 1000 * ohm * amps / found.wiring.service.legs[0].volts
    bus = find(found.checks, "wiring", "upstream_bus")
    assert (bus.level == "sound") == all(over <= 1 + 1e-9 for over in overs)
    assert (
        float(bus.measured) / float(bus.limit)
        == pytest.approx(max(overs, key=lambda over: over), rel=1e-6)
        or bus.level == "sound"
    )
    feeder = find(found.checks, "wiring", "upstream_feeder")
    assert (feeder.level == "sound") == feeders_hold
    told = {one.key: one.working.value for one in found.wiring.answers}
    # What is shown adds up to what is asked.
    for answer in found.wiring.answers:
        if answer.key.removeprefix("upstream_").isdigit():
            put_in = {part.symbol: part.value for part in answer.working.inputs}
            added = eval(answer.working.formula, {"__builtins__": {}}, put_in)
            assert added == pytest.approx(answer.working.value)
    assert told["upstream_drop"] == pytest.approx(lost, rel=5e-3)
    # It is lost on the way of every output.
    alone = larkspur(panel_fed_by="the meter")
    before = {one.key: one.working.value for one in alone.wiring.answers}["lost_in_all"]
    assert float(told["lost_in_all"]) - float(before) == pytest.approx(lost, rel=5e-3, abs=1e-9)
    assert find(found.checks, "wiring", "fed_by").level == "sound"


@pytest.mark.parametrize("left_out", ["bus_a", "main_a"])
def test_a_label_that_nobody_read_is_not_sound(left_out: str) -> None:
    said: dict[str, Any] = {"id": "1", "bus_a": 200.0, "main_a": 100.0} | {left_out: None}
    found = larkspur(PanelGivens(**said, feeds_a=100.0, feeder_m=10.0, feeder_us="3"))
    check = find(found.checks, "wiring", "upstream_bus")
    assert check.level == "look" and "panel 1" in str(check.measured)


@pytest.mark.parametrize("left_out", ["feeds_a", "feeder_m", "feeder_us"])
def test_a_feeder_that_nobody_looked_at_is_not_sound(left_out: str) -> None:
    said: dict[str, Any] = {"feeds_a": 100.0, "feeder_m": 10.0, "feeder_us": "3"}
    said |= {left_out: "nobody has looked" if left_out == "feeder_us" else None}
    found = larkspur(PanelGivens(id="1", name="House", bus_a=400.0, main_a=100.0, **said))
    assert find(found.checks, "wiring", "upstream_bus").level == "sound"
    check = find(found.checks, "wiring", "upstream_feeder")
    assert check.level == "look" and "House" in str(check.measured)


def test_fed_by_another_panel_that_nobody_listed_is_not_sound() -> None:
    found = larkspur()
    assert find(found.checks, "wiring", "fed_by").level == "look"
    assert not found.wiring.service.upstream


def test_in_metric_sources_and_main_stay_within_the_bus() -> None:
    """By hand on Quillay: 63 A main and a 40 A output on a bus of 125 A; 16 mm2 of 1.15 ohm/km."""
    # Copper at 75 °C over 20 °C: 0.393 % a kelvin.
    warm = 1 + 0.00393 * 55
    found = plan(DESIGNS["quillay"]())
    (one,) = found.wiring.service.upstream
    assert (one.rules[0].asked, one.rules[0].bears) == (63 + 40, 125)
    volts, amps = found.wiring.service.legs[0].volts, found.wiring.service.amps
    times = 2 if found.wiring.service.legs[0].lines == 2 else 3**0.5
    assert one.drop == pytest.approx(times * 23 * 1.15e-3 * warm * amps / volts, rel=2e-3)
    words = [mark.text for mark in one_line_drawing(found, "metric").marks if mark.kind == "label"]
    assert "Farmhouse, bus 125 A" in words and any(
        text.startswith("feeder 50 A, 16 mm²") for text in words
    )


def test_each_panel_on_the_way_has_its_sign() -> None:
    two = (
        PanelGivens(id="1", name="Barn", bus_a=200.0, main_a=100.0),
        PanelGivens(id="2", name="House", bus_a=200.0, main_a=100.0),
    )
    signs = {one.key: one for one in larkspur(*two).wiring.signs}
    assert signs["two_sources_on"].count == 2
    assert "two_sources_on" not in {one.key for one in larkspur(panel_fed_by="the meter").wiring.signs}


def test_other_sources_below_come_back_through_all_above() -> None:
    """By hand on Quillay: 16 A of an older array on the lower panel; the feeder's breaker bounds it."""
    design = DESIGNS["quillay"]()
    (panel,) = design.wiring.panels
    for feeds, asked in ((63.0, 63 + 40 + 16), (50.0, 63 + 50)):
        told = panel.model_copy(update={"feeds_a": feeds})
        (one,) = plan(
            changed(design, "wiring", panel_other_a=16.0, panels=(told,))
        ).wiring.service.upstream
        assert one.rules[0].asked == asked
        assert one.asked_a == pytest.approx(34.7826 + 16, rel=1e-4)


def test_outputs_of_unlike_volts_are_not_looked_at_above_either() -> None:
    good = PanelGivens(
        id="1", name="House", bus_a=400.0, main_a=100.0, feeds_a=125.0, feeder_m=9.0, feeder_us="2/0"
    )
    first = DESIGNS["larkspur"]().wiring.inverters[0]
    other = first.model_copy(update={"id": "9", "ac_v": 208.0, "takes": ()})
    found = larkspur(good, inverters=(first, other))
    assert not found.wiring.service.one_voltage
    for key in ("upstream_bus", "upstream_feeder"):
        assert find(found.checks, "wiring", key).level == "look"
