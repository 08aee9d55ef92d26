"""A run's ends and fittings, put together piece by piece from the box at the array to the inverter."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, plan, untried
from tests.designs import changed, plain_larkspur, with_inverter

STICK = {"us": 3.048, "metric": 3.0}
# NEC 2020, Tables 352.30, 344.30(B)(2) and 358.30, feet; metric: common practice, no published source.
HELD = {
    "us": {
        "PVC conduit": {"3/4 in": 3, "1 in": 3, "1-1/4 in": 5, "1-1/2 in": 5, "2 in": 5, "2-1/2 in": 6},
        "rigid metal conduit": {
            **{"3/4 in": 10, "1 in": 12, "1-1/4 in": 14, "1-1/2 in": 14, "2 in": 16, "2-1/2 in": 16}
        },
    },
}
TRADE_IN = {"3/4 in": 0.75, "1 in": 1, "1-1/4 in": 1.25, "1-1/2 in": 1.5, "2 in": 2, "2-1/2 in": 2.5}
SOLD_IN = (6, 8, 10, 12, 16, 18, 24, 30, 36)


def job(pack: str, route: tuple[tuple[float, float], ...], **trench: object) -> Design:
    design = changed(plain_larkspur(), "site", rule_pack=pack, route=route)
    return changed(design, "trench", **trench)


def nets(found: Plan) -> dict[str, float]:
    return {line.key: line.net for line in found.materials.lines}


def zigzag(bends: int) -> tuple[tuple[float, float], ...]:
    return tuple((10.0 + 6.0 * (k % 2), 14.0 + 8.0 * k) for k in range(bends + 2))


@settings(max_examples=50, deadline=None)
@given(
    pack=st.sampled_from(["us", "metric"]),
    method=st.sampled_from(["PVC conduit", "rigid metal conduit", "thin-wall metal tubing"]),
    bends=st.integers(0, 5),
    together=st.integers(1, 4),
    box_up=st.floats(0.4, 2.5),
    rise_up=st.floats(0.4, 3.5),
    over=st.booleans(),
)
def test_a_conduit_is_put_together_piece_by_piece(
    pack: str, method: str, bends: int, together: int, box_up: float, rise_up: float, over: bool
) -> None:
    design = job(
        pack,
        zigzag(bends),
        method=method,
        strings_per_conduit=together,
        box_up_m=box_up,
        rise_up_m=rise_up,
        laid="over the ground" if over else "in a trench",
    )
    found = plan(design)
    run, net = found.run, nets(found)
    assert run.conduit is not None and run.fittings is not None
    stick, cover = STICK[pack], max(run.route.cover_m, 0.0)
    line = ["box"]
    rises = math.ceil((box_up + rise_up + 2 * cover) / stick - 1e-9)
    line += ["stick"] * (rises // 2) + ["sweep"]
    line += ["stick"] * math.ceil(run.route.ground_length_m / stick - 1e-9)
    line += ["bend"] * sum(turn >= 20 for turn in run.route.turns_deg)
    line += ["box"] * run.boxes
    line += ["sweep"] + ["stick"] * (rises - rises // 2) + ["box"]
    # Whatever meets a box ends in it; all other meetings are joints of two pieces.
    ends = 2 * (line.count("box") - 1)
    pieces = len(line) - line.count("box")
    meets = pieces - 1 - run.boxes
    fit = run.fittings
    assert fit.terminals == ends and fit.joints == meets + ends
    bent = line.count("sweep") + line.count("bend")
    assert fit.couplings == (meets if method == "thin-wall metal tubing" else bent)
    count = run.conduits
    assert net["terminal"] == ends * count and net["coupling"] == fit.couplings * count
    assert net.get("settling", 0) == (2 * count if method == "PVC conduit" and not over else 0)
    assert net["duct_seal"] == 2 * count
    if method == "PVC conduit":
        litres = (meets + ends) * count * 0.3 * run.conduit.outside_m
        assert net["cement"] == pytest.approx(litres / 0.5)
    else:
        assert "cement" not in net
    if pack == "us" and method in HELD["us"] and run.conduit.label in HELD["us"][method]:
        apart = HELD["us"][method][run.conduit.label] * 0.3048
        straps = 0
        for up in (box_up, rise_up):
            at, own = 0.0, 1
            while at < up - 1e-9:
                at, own = at + apart, own + 1
            straps += own
        assert net["rise_strap"] == straps * count
    # What the wires climb is what the conduit does.
    assert run.route.rises_m == pytest.approx(box_up + rise_up + 2 * run.route.cover_m)


@settings(max_examples=40, deadline=None)
@given(bends=st.integers(3, 9), together=st.integers(1, 5))
def test_a_box_is_as_large_as_the_rule_has_it(bends: int, together: int) -> None:
    """NEC 314.28(A): eight times straight on; round a corner six times and the others of that side."""
    design = job("us", zigzag(bends), strings_per_conduit=together)
    found = plan(design)
    run, net = found.run, nets(found)
    assert run.conduit is not None
    told = [one for one in found.trench.answers if one.key == "box_side"]
    assert len(told) == (1 if run.boxes else 0)
    if not told:
        return
    trade = TRADE_IN[run.conduit.label]
    least = max(8 * trade, 6 * trade + sum(trade for _ in range(run.conduits - 1)))
    assert told[0].value == pytest.approx(least * 0.0254)
    sold = next(side for side in SOLD_IN if side >= least - 1e-9)
    (line,) = [one for one in found.materials.lines if one.key.startswith("pull_box")]
    assert line.item == f"Pull box, {sold} in" and line.net == run.boxes == net["pull_box"]


@settings(max_examples=30, deadline=None)
@given(pack=st.sampled_from(["us", "metric"]), inside=st.floats(0.0, 30.0), together=st.integers(1, 4))
def test_strings_run_on_inside_in_metal_and_are_cut_for_it(
    pack: str, inside: float, together: int
) -> None:
    route = ((10.0, 14.0), (30.0, 30.0))
    without = plan(job(pack, route, strings_per_conduit=together))
    found = plan(job(pack, route, strings_per_conduit=together, inside_m=inside))
    assert found.circuit.one_way_m == pytest.approx(without.circuit.one_way_m + inside)
    assert found.circuit.choice.drop >= without.circuit.choice.drop - 1e-12 or (
        found.circuit.choice.conductor.copper_mm2 > without.circuit.choice.conductor.copper_mm2
    )
    cut = found.answer("wiring", "one_way").value
    step = 0.3048 if pack == "us" else 1.0
    assert cut == pytest.approx(math.ceil(found.circuit.one_way_m / step - 1e-9) * step)
    net, count = nets(found), found.run.conduits
    tube = max(inside - 0.9, 0.0)
    assert net.get("inside_tube", 0) == count * math.ceil(tube / STICK[pack] - 1e-9)
    assert net.get("flexible", 0) == (count if inside else 0)
    if inside:
        (told,) = [one for one in found.trench.answers if one.key == "inside_conduit"]
        fittings = found.run.fittings
        assert fittings is not None and fittings.inside is not None
        wires = found.run.pull.area_m2
        assert wires <= 0.4 * fittings.inside.inside_m2 or not fittings.inside.fits
        many = f", {count} of them" if count > 1 else ""
        assert told.value == fittings.inside.label + many


@settings(max_examples=40, deadline=None)
@given(
    pack=st.sampled_from(["us", "metric"]),
    snow=st.floats(0.0, 6000.0),
    box_up=st.floats(0.3, 2.8),
    rise_up=st.floats(0.3, 2.8),
)
def test_ends_stand_over_the_snow(pack: str, snow: float, box_up: float, rise_up: float) -> None:
    """ASCE/SEI 7-16 (7.7-1): 0.13 p + 14 pcf to 30 pcf; EN 1991-1-3 Annex E: settled, 2 kN/m³."""
    design = job(pack, ((10.0, 14.0), (30.0, 30.0)), box_up_m=box_up, rise_up_m=rise_up)
    found = untried(changed(design, "site", ground_snow_pa=snow))
    pcf = min(0.13 * snow / 47.88 + 14, 30)
    weight = pcf * 157.087 if pack == "us" else 2000.0
    clear = min(box_up, rise_up) - snow / weight
    (check,) = [one for one in found.trench.checks if one.key == "ends_snow"]
    assert check.measured == pytest.approx(clear, abs=0.01)
    if abs(clear - 0.15) > 0.01:
        assert check.level == ("sound" if clear >= 0.15 else "look")
    assert check.given == ("trench.box_up_m" if box_up <= rise_up else "trench.rise_up_m")


def test_a_sleeve_stands_before_the_pour() -> None:
    poured = {"comes_up": "through a pier that is poured"}
    levels = []
    for said in ({}, poured, poured | {"before_pour": "set and braced before"}):
        found = untried(job("us", ((10.0, 14.0),), **said))
        levels.append([one.level for one in found.trench.checks if one.key == "before_pour"])
    assert levels == [[], ["look"], ["sound"]]


@settings(max_examples=30, deadline=None)
@given(
    pack=st.sampled_from(["us", "metric"]),
    method=st.sampled_from(["PVC conduit", "armoured cable"]),
    together=st.integers(1, 4),
    bends=st.integers(0, 3),
)
def test_data_lies_a_foot_of_earth_off_the_power(
    pack: str, method: str, together: int, bends: int
) -> None:
    """NEC 800.47(B), NESC 354: twelve inches. Laid out from one wall of the trench to the other."""
    said = {"method": method, "strings_per_conduit": together, "width_m": 0.1}
    design = job(pack, zigzag(bends), data="in a pipe of its own", **said)
    found = plan(design)
    data, run, net = found.trench.data, found.run, nets(found)
    assert data is not None
    smallest = {"us": ("3/4 in", 1.05 * 0.0254), "metric": ("32 mm", 0.032)}[pack]
    assert (data.label, round(data.outside_m, 5)) == (smallest[0], round(smallest[1], 5))
    wall, edges = 0.05, []
    for _ in range(run.conduits):
        edges.append((wall, wall + run.outside_m))
        wall += 2 * run.outside_m
    pipe = edges[-1][1] + 12 * 0.0254
    assert found.trench.width_m == pytest.approx(pipe + smallest[1] + 0.05)
    long_m = sum(one.stretch.line.ground_length_m for one in found.trench.dug)
    assert net["data_pipe"] == math.ceil(long_m / STICK[pack] - 1e-9) and net["data_sweep"] == 2
    assert net["data_cable"] == pytest.approx(run.route.wire_m + 2 * design.wiring.slack_m)
    without = plan(job(pack, zigzag(bends), **said))
    assert without.trench.data is None and "data_pipe" not in nets(without)
    assert found.trench.loose_m3 > without.trench.loose_m3
    over = plan(job(pack, zigzag(bends), data="in a pipe of its own", laid="over the ground", **said))
    assert over.trench.data is None


@settings(max_examples=20, deadline=None)
@given(pack=st.sampled_from(["us", "metric"]), together=st.integers(1, 4))
def test_lines_and_lubricant_are_bought_for_the_pull(pack: str, together: int) -> None:
    """From memory of makers' rule: 0.0015 gallons a foot and inch of trade size."""
    found = plan(job(pack, ((10.0, 14.0), (30.0, 30.0)), strings_per_conduit=together))
    run, net = found.run, nets(found)
    assert run.conduit is not None
    assert net["pull_line"] == pytest.approx(run.conduits * run.route.wire_m)
    inches = TRADE_IN[run.conduit.label] if pack == "us" else float(run.conduit.label[:-3]) / 25.4
    gallons = 0.0015 * (run.conduits * run.route.wire_m / 0.3048) * inches
    assert net["lubricant"] == pytest.approx(gallons * 3.785, rel=2e-3)


@pytest.mark.parametrize(
    ("method", "inside", "expected"),
    [
        ("direct-buried cable", 4.0, ["stop"]),
        ("direct-buried cable", 0.0, []),
        ("armoured cable", 4.0, []),
        ("PVC conduit", 4.0, []),
    ],
)
def test_bare_wires_do_not_run_on_in_a_building(
    method: str, inside: float, expected: list[str]
) -> None:
    """NEC 690.31(D): metal raceway or metal-clad cable, from memory."""
    found = untried(job("us", ((10.0, 14.0),), method=method, inside_m=inside))
    assert [one.level for one in found.trench.checks if one.key == "inside_metal"] == expected


def test_tubing_for_strings_is_not_bought_where_none_come_to_the_building() -> None:
    """Inverters out at the array: what goes on inside are their outputs, told of elsewhere."""
    design = job("us", ((10.0, 14.0),), inside_m=6.0)
    out = with_inverter(design, stands="at the array")
    assert "inside_tube" in nets(plan(design)) and "flexible" not in nets(plan(out))
    assert not [one for one in plan(out).trench.answers if one.key == "inside_conduit"]
