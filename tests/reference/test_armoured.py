"""Armoured cable from outside: layer by layer, laid out beside each other, bent along its way."""

import math
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, plan, untried
from openfurrow.core.trench.armoured import armoured
from openfurrow.core.trench.conduit import Pull
from tests.designs import changed, plain_larkspur, with_inverter

# Circles of one size in the smallest circle, middle to rim by Graham, 1968; from memory.
ROUND = {1: 1.0, 2: 2.0, 3: 2.1547, 4: 2.4142, 5: 2.7013, 6: 3.0, 7: 3.0}
# Overall widths of cable after BS 5467 in mm, by cores and mm²; from memory, as makers list them.
LISTED = {(2, 16): 20.4, (3, 4): 15.2, (3, 6): 16.6, (3, 10): 19.5, (3, 16): 21.6, (3, 25): 26.7}
# IEC 60502-1: wires of so many mm round what is so wide under them; from memory.
WIRES_MM = ((10, 0.8), (15, 1.25), (25, 1.6), (35, 2.0), (60, 2.5))


def of(pack: str, cores: int, size: str, line_mm2: float) -> Pull:
    return Pull(cores, 0.0, 0.0, 0.0, 0.0, size, size, line_mm2 * 1e-6)


@pytest.mark.parametrize(("cores", "mm2"), list(LISTED))
def test_it_is_about_as_wide_as_makers_list_it(cores: int, mm2: int) -> None:
    found = armoured("metric", of("metric", cores, str(mm2), mm2))
    assert found.outside_m * 1000 == pytest.approx(LISTED[cores, mm2], rel=0.11)


@given(
    cores=st.integers(2, 5),
    mm2=st.sampled_from([4, 6, 10, 16, 25, 35, 50, 70, 95]),
)
def test_layer_by_layer(cores: int, mm2: int) -> None:
    """Cores in their circle, bedding, a ring of round wires that nearly touch, a sheath."""
    found = armoured("metric", of("metric", cores, str(mm2), mm2))
    # A core: stranded copper a little wider than solid, and a little under a millimetre round it.
    solid = 2 * math.sqrt(mm2 / math.pi)
    assert solid * 1.02 + 1.2 < found.core_m * 1000 < solid * 1.17 + 2.2
    assert found.laid_up_m == pytest.approx(found.core_m * ROUND[cores], rel=1e-4)
    wire = next(one for under, one in WIRES_MM if found.laid_up_m * 1000 + 0.8 <= under + 1e-6)
    assert found.over_m - found.under_m == pytest.approx(2 * wire / 1000)
    assert 0.0019 < found.under_m - found.laid_up_m < 0.0033
    sheath = (found.outside_m - found.over_m) / 2
    assert sheath == pytest.approx(max(0.0018, 0.035 * found.over_m + 0.001))
    # Wire by wire round the ring, a thirtieth of it left open; copper; the rest plastic.
    wires = math.floor(0.97 * math.pi * (found.under_m + wire / 1000) / (wire / 1000))
    steel = wires * math.pi / 4 * (wire / 1000) ** 2 * 7850
    copper = cores * mm2 * 1e-6 * 8960
    rest = math.pi / 4 * found.outside_m**2 - steel / 7850 - copper / 8960
    assert steel + copper + 0.5 * rest * 1000 < found.kg_per_m < 1.06 * (steel + copper + rest * 1400)
    assert found.bend_m == pytest.approx(8 * found.outside_m)


@given(cores=st.integers(2, 5), row=st.integers(0, 10))
def test_the_us_school_weaves_a_strip_round_it(cores: int, row: int) -> None:
    """NEC 330.24(B): seven outsides. Chapter 9, Table 5, THHN in inches; from memory."""
    sizes = ("10", "8", "6", "4", "3", "2", "1", "1/0", "2/0", "3/0", "4/0")
    inches = (0.164, 0.216, 0.254, 0.324, 0.352, 0.384, 0.446, 0.486, 0.532, 0.584, 0.642)
    found = armoured("us", of("us", cores, f"{sizes[row]}", 20.0))
    assert found.core_m == pytest.approx(inches[row] * 0.0254, rel=2e-3)
    assert found.bend_m == pytest.approx(7 * found.outside_m)
    # Strip of 2 mm and more on either side, and 50 mils of jacket.
    assert 0.0066 < found.outside_m - found.laid_up_m < 0.0090


def cable(pack: str, together: int, **trench: object) -> Design:
    design = changed(plain_larkspur(), "site", rule_pack=pack)
    said = {"method": "armoured cable", "circuits_a_cable": together} | trench
    return changed(design, "trench", **said)


def nets(found: Plan) -> dict[str, float]:
    return {line.key: line.net for line in found.materials.lines}


@settings(max_examples=40, deadline=None)
@given(
    pack=st.sampled_from(["us", "metric"]),
    together=st.integers(1, 2),
    tables=st.integers(1, 3),
    plates=st.booleans(),
    bedding=st.floats(0.0, 0.2),
)
def test_pieces_glands_plates_and_sand_are_counted_by_laying_out(
    pack: str, together: int, tables: int, plates: bool, bedding: float
) -> None:
    design = cable(pack, together, plates_over=plates, bedding_m=bedding, width_m=0.15)
    found = plan(changed(design, "rows", tables_along=tables))
    run, circuit, net = found.run, found.circuit, nets(found)
    strings = circuit.strings.count
    pieces = math.ceil(strings / together)
    # A plus and a minus for each string that lies in the fullest, and the ground.
    cores = 2 * min(together, strings) + 1
    assert run.conduit is None and run.cable is not None and run.cable.cores == cores
    step = 0.3048 if pack == "us" else 1.0
    assert net["armoured_cable"] == pytest.approx(
        pieces * math.ceil(circuit.one_way_m / step - 1e-9) * step
    )
    assert "trench_wire" not in net and "grounding_wire" not in net
    assert net["gland"] == 2 * pieces
    assert net["junction_box"] == math.ceil(strings / 10)
    # One outside apart and 50 mm off either wall.
    wide, at = run.cable.outside_m, 0.0
    for _ in range(pieces):
        at += 2 * wide
    taken = at - wide
    width = max(0.15, taken + 0.1)
    assert found.trench.width_m == pytest.approx(width)
    length = found.trench.ground_length_m
    # A box of sand below, one as high as the cable, one over it.
    assert found.trench.bedding_m3 == pytest.approx(length * width * (bedding + wide + bedding))
    across = 0
    while across * 0.25 < taken + 0.1 - 1e-9:
        across += 1
    assert net.get("cover_plate", 0) == (across * math.ceil(length - 1e-9) if plates else 0)
    # It comes up through a sleeve in the us school alone: 53 % of it for one cable.
    assert ("riser" in net) == (run.sleeve is not None) == (pack == "us")
    if run.sleeve is not None and run.sleeve.fits:
        assert math.pi / 4 * wide**2 <= 0.53 * min(run.sleeve.riser_inside_m2, run.sleeve.inside_m2)
        assert net["bushing"] == 4 * pieces
    levels = {check.key: check.level for check in found.trench.checks}
    assert levels["cores"] == ("sound" if cores <= 5 else "stop")
    assert levels["armour_bonded"] == "look" and "long" not in levels and "fill" not in levels
    piece = found.answer("trench", "piece_weighs").value
    assert piece == pytest.approx((circuit.one_way_m - 2 * design.wiring.slack_m) * run.cable.kg_per_m)
    # Its copper is that of the wires chosen, and weighs less than all of it.
    wire = circuit.choice.conductor
    assert run.cable.label.endswith(wire.label)
    copper = cores * wire.copper_mm2 * 1e-6 * 8960
    assert copper < run.cable.kg_per_m < copper + 1400 * math.pi / 4 * wide**2 + 1.5
    assert levels["armoured_lift"] == ("sound" if piece <= 50 else "look")


@settings(max_examples=60, deadline=None)
@given(
    st.lists(st.tuples(st.floats(-3, 3), st.floats(0.1, 3)), min_size=1, max_size=4),
    st.sampled_from(["us", "metric"]),
)
def test_it_bends_no_tighter_than_it_may(steps: list[tuple[float, float]], pack: str) -> None:
    """Arcs of that radius laid into every bend: they touch the straights where no other arc begins."""
    places = np.cumsum([(10.0, 20.0), *steps], axis=0)
    design = cable(pack, 1)
    route = tuple((round(float(a), 3), round(float(b), 3)) for a, b in places)
    found = untried(changed(design, "site", route=route))
    assert found.run.cable is not None
    way = np.column_stack((found.run.route.east_m, found.run.route.north_m))
    radius = found.run.cable.bend_m
    # A bend's middle lies so far from both straights; what it takes of them is where it touches.
    takes = [radius]
    for before, at, after in zip(way, way[1:], way[2:], strict=False):
        back, on = before - at, after - at
        back, on = back / np.hypot(*back), on / np.hypot(*on)
        half = math.acos(float(np.clip(back @ on, -1, 1))) / 2
        takes.append(radius / math.tan(max(half, math.radians(0.5))))
    takes.append(radius)
    spare = min(
        math.dist(a, b) - first - second
        for (a, b), (first, second) in zip(pairwise(way), pairwise(takes), strict=True)
    )
    assume(abs(spare) > 1e-6)
    (check,) = [one for one in found.trench.checks if one.key == "armoured_bends"]
    assert check.level == ("sound" if spare >= 0 else "look")
    assert check.measured == pytest.approx(spare, abs=1e-6)


@pytest.mark.parametrize(("pack", "apart"), [("us", 1.8288), ("metric", 0.45)])
def test_over_the_ground_it_is_clipped_and_snakes(pack: str, apart: float) -> None:
    """NEC 330.30(B), 6 ft; 0.45 m after BS 7671. No sleeve takes up what it grows by."""
    found = untried(cable(pack, 1, laid="over the ground"))
    assert found.trench.over is not None
    assert found.trench.over.spacing_m == apart and found.trench.over.all_fittings == 0
    levels = {check.key: check.level for check in found.trench.checks}
    assert levels["over_bare"] == "sound"
    assert found.trench.over.supports >= found.run.route.ground_length_m / apart
    assert not [one for one in found.trench.answers if one.key in ("grows", "expansions")]
    assert found.run.sleeve is None and found.trench.plates == 0


@pytest.mark.parametrize("pack", ["us", "metric"])
def test_two_strings_in_one_cable_warm_each_other(pack: str) -> None:
    """NEC 310.15(C)(1): four wires that carry leave 0.8; IEC 60364-5-52, B.52.17: two circuits, 0.8."""
    one, two = (untried(cable(pack, count)) for count in (1, 2))
    told = [
        {given.symbol: given.value for given in found.answer("wiring", "conductor").working.inputs}
        for found in (one, two)
    ]
    assert told[0]["f_b"] == 1.0 and told[1]["f_b"] == 0.8


def test_bare_wires_come_up_through_a_sleeve_too() -> None:
    """NEC 300.5(D): direct-buried wires are protected where they come up; nothing told of it before."""
    for pack in ("us", "metric"):
        found = plan(cable(pack, 1, method="direct-buried cable"))
        assert found.run.sleeve is not None and nets(found)["riser"] >= 1
        wires = 2 * found.circuit.feed.in_conduit * found.circuit.choice.conductor.outside_area_m2
        assert wires <= 0.4 * found.run.sleeve.riser_inside_m2


@settings(max_examples=40, deadline=None)
@given(
    pack=st.sampled_from(["us", "metric"]),
    method=st.sampled_from(["PVC conduit", "direct-buried cable", "armoured cable"]),
    most=st.sampled_from([400.0, 600.0, 1000.0, 1500.0]),
    jacket=st.sampled_from([None, 600.0, 1000.0, 2000.0]),
    cold=st.floats(-30, 10),
)
def test_wires_are_listed_for_the_string_on_the_coldest_morning(
    pack: str, method: str, most: float, jacket: float | None, cold: float
) -> None:
    """Building wire 600 V (NEC 310.4(A)); solar cable 1.5 kV (EN 50618); 0.6/1 kV 0.9 kV to earth."""
    design = changed(plain_larkspur(), "site", rule_pack=pack, lowest_temperature_c=cold)
    design = with_inverter(design, maximum_dc_v=most)
    found = untried(changed(design, "trench", method=method, wire_listed_v=jacket))
    modules = design.arrays[0].modules
    one = modules.open_circuit_v * (1 + modules.voltage_coefficient_per_c * (cold - 25))
    volts = one * max(found.circuit.strings.lengths.tolist())
    usual = 600.0 if pack == "us" else 900.0 if method == "armoured cable" else 1500.0
    (check,) = [one for one in found.wiring.checks if one.key == "wire_volts"]
    assert check.level == ("sound" if volts <= (jacket or usual) + 1e-9 else "stop")
