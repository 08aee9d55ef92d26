"""Strings joined before the trench, and what an input stands: by hand, over random jobs."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, plan, untried
from openfurrow.demo.larkspur import larkspur_with_pump_house
from tests.designs import changed, plain_larkspur, with_inverter

# NEC 240.6(A) and gPV fuses after IEC 60269-6; from memory.
US_FUSES = (10, 15, 20, 25, 30, 35, 40, 45, 50, 60, 70, 80, 90, 100, 110, 125, 150, 175, 200, 225, 250)
GPV_FUSES = (10, 12, 15, 16, 20, 25, 30, 32, 35, 40, 50, 63, 80, 100, 125, 160, 200, 250)


def job(pack: str, tables: int, joined: int, **inverter: object) -> Design:
    design = changed(plain_larkspur(), "site", rule_pack=pack)
    design = changed(design, "rows", tables_along=tables)
    said = {"joined": joined, "inverter_inputs": 40, "maximum_dc_v": 600.0} | inverter
    return with_inverter(design, **said)


def levels(found: Plan) -> dict[str, str]:
    return {one.key: one.level for one in found.wiring.checks}


@settings(max_examples=50, deadline=None)
@given(
    pack=st.sampled_from(["us", "metric"]),
    tables=st.integers(1, 4),
    joined=st.integers(1, 6),
)
def test_joined_strings_share_the_trench_and_an_input(pack: str, tables: int, joined: int) -> None:
    design = job(pack, tables, joined)
    found = plan(design)
    circuit, modules = found.circuit, design.arrays[0].modules
    strings = circuit.strings.count
    pairs = sum(1 for _ in range(0, strings, joined))
    assert circuit.feed.wires.circuits == circuit.lines == pairs
    # Each string's own share of strong light; the school adds its margin for hours at the terminals.
    own_a = circuit.string_a
    assert circuit.feed.current_a == pytest.approx(joined * own_a)
    wanted = joined * modules.short_circuit_a * (1.25 * 1.25 if pack == "us" else 1.5)
    ratings = US_FUSES if pack == "us" else GPV_FUSES
    if wanted <= max(ratings):
        assert circuit.feed.protection_a >= wanted - 1e-9
        if pack == "us":
            assert circuit.feed.protection_a == next(one for one in ratings if one >= wanted - 1e-9)
    wire = circuit.choice.conductor
    lost_v = joined * modules.maximum_power_a * 2 * circuit.one_way_m * wire.resistance_ohm_per_m
    lost_v += modules.maximum_power_a * circuit.array_ohm
    volts = min(circuit.strings.lengths.tolist()) * modules.maximum_power_v
    assert circuit.choice.drop == pytest.approx(lost_v / volts)
    net = {line.key: line.net for line in found.materials.lines}
    assert net["fuse"] == 2 * strings
    step = 0.3048 if pack == "us" else 1.0
    cut = math.ceil(circuit.one_way_m / step - 1e-9) * step
    assert net["trench_wire"] == pytest.approx(2 * pairs * cut)
    boxes = [one for one in found.materials.lines if one.key == "junction_box"]
    assert boxes[0].net == (pairs if joined > 1 else circuit.conduits)
    assert (f"Combiner, {joined} strings" in boxes[0].item) == (joined > 1)
    # An input for each pair of wires; the energy knows nothing of how they come there.
    assert found.wiring.landed.sum() == pairs and levels(found)["inputs"] == "sound"
    assert ("joined" in levels(found)) == (joined > 1)
    if joined > 1:
        assert levels(found)["joined"] == ("sound" if circuit.strings.equal else "stop")


@settings(max_examples=30, deadline=None)
@given(joined=st.integers(1, 4), inputs=st.integers(1, 6), tables=st.integers(1, 4))
def test_inputs_are_counted_by_what_comes_to_them(joined: int, inputs: int, tables: int) -> None:
    found = untried(job("us", tables, joined, inverter_inputs=inputs))
    strings = found.circuit.strings.count
    left = strings
    for _ in range(inputs):
        left -= min(left, joined)
    assert levels(found)["inputs"] == ("stop" if left else "sound")
    assert found.wiring.landed.sum() == min(math.ceil(strings / joined), inputs)


@settings(max_examples=60, deadline=None)
@given(
    joined=st.integers(1, 3),
    at_work=st.none() | st.floats(5, 60),
    short=st.none() | st.floats(5, 80),
)
def test_an_input_stands_what_is_joined_on_it(
    joined: int, at_work: float | None, short: float | None
) -> None:
    """NEC 690.8(A)(1): short-circuit current times 1.25, for light that is stronger than the test's."""
    design = job("us", 1, joined, input_a=at_work, input_short_a=short)
    found, modules = levels(untried(design)), design.arrays[0].modules
    gives, shorts = joined * modules.maximum_power_a, joined * modules.short_circuit_a * 1.25
    assert found["input_current"] == ("sound" if at_work is not None and gives <= at_work else "look")
    expected = "look" if short is None else "sound" if shorts <= short else "stop"
    assert found["input_short"] == expected


def test_the_weakest_input_of_several_inverters_rules_and_unlike_joining_is_refused() -> None:
    design = larkspur_with_pump_house()
    first, second = (one.model_copy(update={"takes": ()}) for one in design.wiring.inverters)
    weak = second.model_copy(update={"input_short_a": 16.0, "maximum_dc_v": first.maximum_dc_v})
    both = changed(design, "wiring", inverters=(first, weak))
    checks = [one for one in untried(both).wiring.checks if one.key == "input_short"]
    assert [one.limit for one in checks] == [16.0, 16.0]
    assert {one.given for one in checks} == {f"wiring.inverters.{weak.id}.input_short_a"}
    unlike = changed(design, "wiring", inverters=(first.model_copy(update={"joined": 2}), weak))
    assert {one.level for one in untried(unlike).wiring.checks if one.key == "joined"} == {"stop"}


@pytest.mark.parametrize(
    ("pack", "trench", "said", "expected"),
    [
        ("us", {}, "nobody has looked", "look"),
        ("us", {}, "it is not", "look"),
        ("us", {}, "it is listed for it", "sound"),
        # NEC 690.11, exception: buried bare or in metal, and in no building.
        ("us", {"method": "rigid metal conduit"}, "nobody has looked", None),
        ("us", {"method": "direct-buried cable"}, "nobody has looked", None),
        ("us", {"method": "rigid metal conduit", "inside_m": 3.0}, "nobody has looked", "look"),
        ("us", {"method": "armoured cable", "laid": "over the ground"}, "nobody has looked", "look"),
        ("metric", {}, "nobody has looked", None),
    ],
)
def test_arcs_are_asked_for_where_the_rule_does(
    pack: str, trench: dict[str, object], said: str, expected: str | None
) -> None:
    design = changed(job(pack, 1, 1, arc_fault=said), "trench", **trench)
    assert levels(untried(design)).get("arc") == expected
