"""Where the job connects: breakers, wires, the bus and the signs, by outside tables and by laying out.

The tables are those of ``test_outputs`` and ``test_wiring_and_trench``, each from memory of its
standard; the rules of the bus from memory of NEC 2020, 705.11 and 705.12(B)(3), and of IEC 60364-5-551,
551.7.2; what panels bear in the worked examples is common practice, no published source.
"""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, plan
from openfurrow.core.wiring.givens import WiringGivens
from openfurrow.core.wiring.inverter_givens import InverterGivens
from openfurrow.demo.designs import DESIGNS
from tests.designs import changed, plain_larkspur
from tests.reference.test_outputs import IEC_RATINGS, IEC_THREE, IEC_TWO, US_BREAKERS
from tests.reference.test_wiring_and_trench import US_WIRES

# From memory of NEC 2020, Table 250.122, copper.
US_GROUND = ((15, "14"), (20, "12"), (60, "10"), (100, "8"), (200, "6"), (300, "4"), (400, "3"))


def level(found: Plan, key: str) -> str:
    return next((c.level for c in found.wiring.checks if c.key == key), "none")


def joined(pack: str, inverters: tuple[InverterGivens, ...], **service: object) -> Design:
    design = changed(plain_larkspur(), "site", rule_pack=pack, hottest_temperature_c=35.0)
    return changed(design, "wiring", inverters=inverters, **service)


def amps_of(one: InverterGivens) -> float:
    return one.inverter_ac_w / one.units / one.ac_v / (3**0.5 if "three" in one.phases else 1)


def carries(pack: str, size: str, three: bool) -> float:
    """One circuit in a conduit of its own at 35 °C: nothing crowds it."""
    if pack == "us":
        at_75, at_90 = US_WIRES[size]
        return min(at_75, at_90 * math.sqrt(55 / 60))
    return (IEC_THREE if three else IEC_TWO)[int(size)] * math.sqrt(55 / 70)


@st.composite
def inverters(draw: st.DrawFn) -> tuple[InverterGivens, ...]:
    volts = draw(st.sampled_from([208.0, 230.0, 240.0, 400.0, 480.0]))
    phases = draw(st.sampled_from(["one phase", "three phases"]))
    found = []
    for number in range(draw(st.integers(1, 3))):
        units = draw(st.integers(1, 3))
        found.append(
            InverterGivens(
                id=f"v{number}",
                units=units,
                inverter_ac_w=units * draw(st.floats(1500, 25_000)),
                ac_v=volts,
                phases=draw(st.sampled_from([phases, phases, phases, "to a battery"])),
                inverter_inputs=9,
            )
        )
    return tuple(found)


@settings(max_examples=150, deadline=None)
@given(
    pack=st.sampled_from(["us", "metric"]),
    those=inverters(),
    long_m=st.one_of(st.none(), st.floats(0, 60)),
    meet=st.sampled_from(["each on its own breaker", "in a panel of their own"]),
    connects=st.sampled_from(
        ["nobody has said", "a breaker in the panel", "ahead of the main breaker"]
    ),
)
def test_every_circuit_in_the_building_is_carried_and_guarded(
    pack: str, those: tuple[InverterGivens, ...], long_m: float | None, meet: str, connects: str
) -> None:
    design = joined(pack, those, inverter_to_panel_m=long_m, outputs_meet=meet, connects=connects)
    found = plan(design)
    service, slack = found.wiring.service, 2 * design.wiring.slack_m
    to_panel = [one for one in those if one.phases != "to a battery"]
    assert [leg.inverter for leg in service.legs] == [one.id for one in to_panel]
    count = sum(one.units for one in to_panel)
    gathers = connects != "nobody has said" and meet.startswith("in a panel") and count > 1
    assert (service.feeder is not None) == gathers
    assert service.amps == pytest.approx(sum(amps_of(one) * one.units for one in to_panel))
    if not to_panel:
        assert level(found, "connects") == "none"
        return
    assert level(found, "ac_length") == ("look" if long_m is None else "sound")
    if level(found, "ac_wire") == "stop":
        return
    circuits = [
        (leg, amps_of(one), slack + (0 if gathers else long_m or 0))
        for leg, one in zip(service.legs, to_panel, strict=True)
    ]
    if gathers:
        circuits.append((service.feeder, service.amps, slack + (long_m or 0)))
    three = "three" in to_panel[0].phases
    for leg, amps, metres in circuits:
        lasting = 1.25 if pack == "us" else 1.0
        ratings = US_BREAKERS if pack == "us" else IEC_RATINGS
        assert leg.breaker_a == next(r for r in ratings if r >= lasting * amps - 1e-9)
        wire = leg.wire.conductor
        bears = carries(pack, wire.size, three)
        assert bears >= amps - 1e-6
        if pack == "us":
            assert US_WIRES[wire.size][0] >= 1.25 * amps - 1e-6
            assert leg.breaker_a <= next(r for r in US_BREAKERS if r >= bears - 1e-9)
            assert leg.breaker_a <= 30 or wire.size != "10"
            at_least = next(size for most, size in US_GROUND if leg.breaker_a <= most)
            # The list begins at 10 AWG.
            assert leg.grounding.size == ("10" if at_least in ("14", "12") else at_least)
        else:
            assert leg.breaker_a <= bears + 1e-6
        # Copper at 75 °C, as in the outputs of the trench.
        ohm = metres / 58 * (1 + 0.00393 * 55) / wire.copper_mm2
        lost = amps * ohm * (math.sqrt(3) if three else 2) / to_panel[0].ac_v
        most = 1.13 if wire.size == "50" else 1.09
        assert lost * 0.98 - 1e-9 <= leg.wire.drop <= min(lost * most, 0.01 + 1e-9)
    # What is lost at the meter: of each inverter its own leg, and the feeder.
    feeder = service.feeder.wire.drop if gathers else 0.0
    assert service.drop == pytest.approx(max(leg.wire.drop for leg in service.legs) + feeder)


@settings(max_examples=200, deadline=None)
@given(
    pack=st.sampled_from(["us", "metric"]),
    those=inverters(),
    bus=st.one_of(st.none(), st.sampled_from([63.0, 100.0, 125.0, 200.0, 225.0, 400.0])),
    main=st.one_of(st.none(), st.sampled_from([40.0, 63.0, 100.0, 150.0, 200.0])),
    other=st.sampled_from([0.0, 0.0, 30.0]),
    place=st.sampled_from(["at the far end of the bus", "anywhere on it"]),
    loads=st.one_of(st.none(), st.floats(50, 400)),
    connects=st.sampled_from(
        ["a breaker in the panel", "ahead of the main breaker", "a transformer of its own"]
    ),
    va=st.one_of(st.none(), st.floats(3000, 100_000)),
)
def test_a_bus_is_said_to_bear_what_a_rule_of_the_book_lets_it(
    pack: str,
    those: tuple[InverterGivens, ...],
    bus: float | None,
    main: float | None,
    other: float,
    place: str,
    loads: float | None,
    connects: str,
    va: float | None,
) -> None:
    found = plan(
        joined(
            pack,
            those,
            connects=connects,
            inverter_to_panel_m=1.0,
            panel_bus_a=bus,
            panel_main_a=main,
            panel_other_a=other,
            panel_place=place,
            panel_loads_a=loads,
            transformer_va=va,
        )
    )
    to_panel = [one for one in those if one.phases != "to a battery"]
    if not to_panel:
        assert level(found, "bus") == "none"
        return
    ratings = US_BREAKERS if pack == "us" else IEC_RATINGS
    lasting = 1.25 if pack == "us" else 1.0
    flows = lands = 0.0
    for one in to_panel:
        for _ in range(one.units):
            flows += lasting * amps_of(one)
            lands += next(r for r in ratings if r >= lasting * amps_of(one) - 1e-9)
    said = level(found, "bus")
    if connects == "a transformer of its own":
        want = sum(one.inverter_ac_w for one in to_panel)
        assert said == ("look" if va is None else "sound" if want <= va * (1 + 1e-9) else "stop")
    elif connects == "ahead of the main breaker":
        unread = main is None
        assert said == ("look" if unread else "sound" if lands + other <= main + 1e-6 else "stop")
    elif bus is None or main is None:
        assert said == "look"
    elif pack == "metric":
        assert said == ("sound" if main + lands + other <= bus + 1e-6 else "stop")
    else:
        by_sum = main + flows + other <= bus + 1e-6
        by_end = place.startswith("at the far end") and main + flows + other <= 1.2 * bus + 1e-6
        by_all = loads is not None and loads + lands + other <= bus + 1e-6
        assert said == ("sound" if by_sum or by_end or by_all else "stop")


@settings(max_examples=60, deadline=None)
@given(pack=st.sampled_from(["us", "metric"]), those=inverters(), long_m=st.floats(0, 40))
def test_wires_and_breakers_in_the_building_are_laid_one_by_one(
    pack: str, those: tuple[InverterGivens, ...], long_m: float
) -> None:
    design = joined(
        pack, those, connects="a breaker in the panel", inverter_to_panel_m=long_m, slack_m=1.0
    )
    found = plan(design)
    lines = found.materials.lines
    step = 0.3048 if pack == "us" else 1.0
    wires = grounds = breakers = 0.0
    for one in those:
        if one.phases == "to a battery":
            continue
        for _ in range(one.units):
            each = math.ceil((long_m + 2.0) / step - 1e-9) * step
            wires += each * (4 if "three" in one.phases else 3)
            grounds += each
            breakers += 1

    def net(key: str) -> float:
        return sum(x.net for x in lines if x.key == key or x.key.startswith(f"{key}_"))

    assert net("ac_wire") == pytest.approx(wires)
    assert net("ac_ground") == pytest.approx(grounds)
    assert net("ac_breaker") == breakers
    # Each output goes past a switch of its own to its own breaker.
    assert net("shut_off") == breakers


def test_a_panel_of_200_amperes_bears_40_amperes_from_its_far_end_alone() -> None:
    """120 % of 200 A is 240: beside a main of 200 there is room for 40, an output of 32 A.

    From memory of NEC 2020, 705.12(B)(3)(2), as it is worked in handbooks.
    """
    for watts, far, beside in ((32 * 240.0, "sound", "stop"), (32.1 * 240, "stop", "stop")):
        one = (InverterGivens(id="1", inverter_ac_w=watts),)
        for place, said in (("at the far end of the bus", far), ("anywhere on it", beside)):
            panel = {"panel_bus_a": 200.0, "panel_main_a": 200.0, "panel_place": place}
            found = plan(joined("us", one, connects="a breaker in the panel", **panel))
            assert level(found, "bus") == said


def test_signs_are_those_of_what_is_there_and_say_no_less_than_there_may_be() -> None:
    plain = changed(
        plain_larkspur(),
        "wiring",
        connects="a breaker in the panel",
        panel_bus_a=200.0,
        panel_main_a=125.0,
        strings_inside="yes",
        rapid_shutdown=True,
    )
    found = plan(plain)
    signs = {one.key: one for one in found.wiring.signs}
    # 125 A and 65.1 A are within 200 A: nothing hangs on the far end.
    assert "not_moved" not in signs and "gathered" not in signs and "rapid" in signs
    volts = float(signs["most_volts"].text.split()[-2])
    assert volts - 1 < found.circuit.coldest_string_v <= volts
    far = changed(plain, "wiring", panel_main_a=175.0)
    keys = [one.key for one in plan(far).wiring.signs]
    assert "not_moved" in keys and "sum_of_all" not in keys
    # Two pairs of strings of unlike volts: each inverter says its own.
    two = plan(DESIGNS["larkspur-two"]())
    own = [one for one in two.wiring.signs if one.key == "most_volts"]
    coldest = [one.coldest_string_v for one in two.wiring.circuits]
    assert sum(one.count for one in own) == 2
    assert all(any(v <= float(s.text.split()[-2]) < v + 1 for v in coldest) for s in own)


def test_outputs_of_unlike_volts_are_never_told_to_be_borne() -> None:
    """Ten kilowatts at 480 V are 21 A, at the panel's 240 V twice that: no sum of both is one."""
    both = (
        InverterGivens(id="1", inverter_ac_w=5000.0, ac_v=240.0),
        InverterGivens(id="2", inverter_ac_w=10_000.0, ac_v=480.0),
    )
    panel = {"panel_bus_a": 400.0, "panel_main_a": 200.0}
    found = plan(joined("us", both, connects="a breaker in the panel", **panel))
    assert level(found, "bus") == level(found, "ac_alike") == "look"
    assert found.wiring.service.rules == ()


def test_strings_inside_are_looked_at_by_the_rules_that_are_known_alone() -> None:
    one = (InverterGivens(id="1"),)
    for pack, inside, said in (
        ("us", "yes", "sound"),
        ("metric", "yes", "look"),
        ("metric", "no", "sound"),
        ("us", "nobody has looked", "look"),
    ):
        assert level(plan(joined(pack, one, strings_inside=inside)), "inside") == said


def test_nothing_is_bought_for_a_place_that_nobody_named() -> None:
    nobody = {"connects": "nobody has said", "strings_inside": "nobody has looked"}
    found = plan(changed(plain_larkspur(), "wiring", **nobody))
    assert not any(line.key.startswith(("ac_", "shut_off")) for line in found.materials.lines)
    assert level(found, "connects") == level(found, "inside") == "look"


def test_an_inverter_far_from_its_trench_loses_what_runs_on_in_the_building() -> None:
    """Outputs that come through the trench run on: their wire is as long as both together."""
    out = InverterGivens(id="1", stands="at the array", inverter_inputs=6)
    for metres in (0.0, 25.0):
        design = changed(plain_larkspur(), "wiring", inverters=(out,), inverter_to_panel_m=metres)
        found = plan(design)
        route, slack = found.run.route, design.wiring.slack_m
        long_m = route.ground_length_m + route.rises_m + 2 * slack + metres
        assert found.circuit.one_way_m == pytest.approx(long_m)
        assert found.wiring.service.drop == 0.0


def test_what_the_building_takes_is_taken_from_the_year() -> None:
    near = changed(DESIGNS["larkspur"](), "wiring", inverter_to_panel_m=0.0, slack_m=0.0)
    far = changed(near, "wiring", inverter_to_panel_m=60.0, ac_drop_limit=0.05)
    one, other = plan(near), plan(far)
    assert one.wiring.service.drop == 0.0
    lost = 1 - other.energy.year_wh / one.energy.year_wh
    # Over a year less than at full power.
    assert 0.2 * other.wiring.service.drop < lost < other.wiring.service.drop


@pytest.mark.parametrize("name", ["larkspur", "larkspur-two", "grifo", "quillay", "varnbeck", "marram"])
def test_demos_are_connected_and_nothing_of_it_is_unread(name: str) -> None:
    found = plan(DESIGNS[name]())
    assert level(found, "bus") == "sound" and level(found, "ac_wire") in ("sound", "none")
    assert WiringGivens().connects == "nobody has said"


@pytest.mark.parametrize(
    ("pack", "panel"),
    [
        # 63 + 25 are within 100; with 30 more from an older array they are not.
        ("metric", {"panel_bus_a": 100.0, "panel_main_a": 63.0}),
        # All breakers: 120 of loads and 30 of this one within 170; with 30 more they are not.
        ("us", {"panel_bus_a": 170.0, "panel_main_a": 200.0, "panel_loads_a": 120.0}),
        # By sum: 100 and 1.25 x 20 within 150; with 30 more they are not.
        ("us", {"panel_bus_a": 150.0, "panel_main_a": 100.0, "panel_place": "anywhere on it"}),
    ],
)
def test_what_feeds_the_bus_already_is_added(pack: str, panel: dict[str, object]) -> None:
    one = (InverterGivens(id="1", inverter_ac_w=240.0 * 20, ac_v=240.0),)
    for other, said in ((0.0, "sound"), (30.0, "stop")):
        design = joined(pack, one, connects="a breaker in the panel", panel_other_a=other, **panel)
        assert level(plan(design), "bus") == said
