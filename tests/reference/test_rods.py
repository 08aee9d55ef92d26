"""Rods to earth: Dwight's formulas, printed factors, rods cut into many pieces; what is asked."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from openfurrow.core.checks import Check
from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, plan
from openfurrow.core.wiring.earthing import rods_ohm
from openfurrow.demo.designs import larkspur_with_pump_house, quillay


def dwight(soil: float, length: float, across: float) -> float:
    """Dwight, Calculation of Resistances to Ground (1936); IEEE 142, Table 4-5: one rod."""
    return soil / (2 * math.pi * length) * (math.log(4 * length / (across / 2)) - 1)


def dwight_two(soil: float, length: float, across: float, apart: float) -> float:
    """The same table: two rods further apart than they are long."""
    ratio = length / apart
    series = 1 - ratio**2 / 3 + 2 * ratio**4 / 5
    return dwight(soil, length, across) / 2 + soil / (4 * math.pi * apart) * series


def by_pieces(soil: float, length: float, across: float, apart: float, count: int) -> float:
    """Rods as short pieces that give off what keeps all at one potential, mirrored at the ground."""
    parts = 60
    piece = length / parts
    depth = (np.arange(parts) + 0.5) * piece
    x, z = (one.ravel() for one in np.meshgrid(np.arange(count) * apart, depth, indexing="ij"))
    aside = np.abs(x[:, None] - x) + across / 2 * (x[:, None] == x)

    def raised(up: np.ndarray) -> np.ndarray:
        """The mean over a piece of one over the way to it: a line, seen from beside."""
        return (np.arcsinh((up + piece / 2) / aside) - np.arcsinh((up - piece / 2) / aside)) / piece

    matrix = soil / (4 * math.pi) * (raised(z[:, None] - z) + raised(z[:, None] + z))
    return float(1 / np.linalg.solve(matrix, np.ones(x.size)).sum())


soils = st.floats(5, 5000)
lengths = st.floats(1.2, 6)
acrosses = st.floats(0.01, 0.04)


@given(soil=soils, length=lengths, across=acrosses)
def test_one_rod_by_the_printed_formula(soil: float, length: float, across: float) -> None:
    assert rods_ohm(soil, length, across, 1.0, 1) == pytest.approx(
        dwight(soil, length, across), rel=2e-3
    )


@given(soil=soils, length=lengths, across=acrosses, times=st.floats(1.5, 6))
def test_two_rods_by_the_printed_series(
    soil: float, length: float, across: float, times: float
) -> None:
    found = rods_ohm(soil, length, across, times * length, 2)
    assert found == pytest.approx(dwight_two(soil, length, across, times * length), rel=0.02)


@pytest.mark.parametrize(("count", "factor"), [(2, 1.16), (3, 1.29), (4, 1.36), (8, 1.68)])
def test_several_rods_by_the_printed_factors(count: int, factor: float) -> None:
    """IEEE 142, Table 4-6: so many rods one length apart have their share of one, times a factor."""
    one = rods_ohm(100, 3.0, 0.016, 3.0, 1)
    assert rods_ohm(100, 3.0, 0.016, 3.0, count) == pytest.approx(one / count * factor, rel=0.12)


@pytest.mark.parametrize("count", [1, 2, 5])
@pytest.mark.parametrize("apart", [0.6, 2.4, 6.0])
def test_rods_by_many_small_pieces(count: int, apart: float) -> None:
    """Current that leaves evenly gives a little more than current that finds its own way."""
    ours = rods_ohm(100, 2.4, 0.016, apart, count)
    other = by_pieces(100, 2.4, 0.016, apart, count)
    assert other <= ours * 1.001 and ours <= other * 1.04


@given(soil=soils, length=lengths, across=acrosses, apart=st.floats(0.3, 20), n=st.integers(1, 10))
def test_more_longer_and_further_is_never_worse(
    soil: float, length: float, across: float, apart: float, n: int
) -> None:
    def ohm(length_m: float, apart_m: float, count: int) -> float:
        return rods_ohm(soil, length_m, across, apart_m, count)

    here = ohm(length, apart, n)
    assert 0 < ohm(length, apart, n + 1) < here
    assert ohm(length * 1.1, apart, n) < here
    assert ohm(length, apart * 1.1, n) <= here * (1 + 1e-9)
    # However near, two are at least as good as one; however far, never better than half of it.
    assert ohm(length, apart, 1) / n <= here * (1 + 1e-9)


def wired(design: Design, **given: float | None) -> Plan:
    said = design.model_dump()
    said["wiring"].update(given)
    return plan(Design.model_validate(said))


def check(found: Plan, key: str) -> Check:
    return next(one for one in found.wiring.checks if one.key == key)


@pytest.mark.parametrize(
    ("rods", "read", "level"),
    [
        (1, None, "look"),
        (1, 25.0, "sound"),
        (1, 25.1, "stop"),
        (2, None, "sound"),
        (2, 400.0, "sound"),
    ],
)
def test_one_rod_of_25_ohms_or_two(rods: int, read: float | None, level: str) -> None:
    """From memory of NEC 250.53(A)(2): a second rod unless one has 25 ohms or less."""
    found = wired(larkspur_with_pump_house(), rods=rods, rods_ohm=read)
    one = check(found, "rods")
    assert one.level == level
    if level != "sound":
        assert [mend.edits for mend in one.mends] == [(("wiring.rods", "2"),)]
    line = next(one for one in found.materials.lines if one.key == "rod")
    assert line.net == rods * len(found.arrays)


@pytest.mark.parametrize(("read", "level"), [(None, "look"), (166.0, "sound"), (168.0, "stop")])
def test_a_metric_job_is_measured_however_many_it_has(read: float | None, level: str) -> None:
    """From memory of IEC 60364-4-41: no more than 50 V while 300 mA leak away."""
    assert check(wired(quillay(), rods=3, rods_ohm=read), "rods").level == level


def test_rods_are_long_enough_and_apart() -> None:
    design = larkspur_with_pump_house()
    for but, key in (({"rod_m": 2.3}, "rod_long"), ({"rods_apart_m": 1.7}, "rods_apart")):
        assert check(wired(design, **but), key).level == "stop"
    found = wired(design)
    assert check(found, "rod_long").level == check(found, "rods_apart").level == "sound"
    # Of one nothing is asked of what lies between.
    assert "rods_apart" not in {one.key for one in wired(design, rods=1).wiring.checks}


def test_what_is_expected_is_told_once_the_soil_is() -> None:
    design = larkspur_with_pump_house()
    bare = {one.key for one in wired(design).wiring.answers}
    assert "rods" in bare and "rod_alone" not in bare
    said = wired(design, soil_ohm_m=80.0, rods=3, rod_m=2.4384, rods_apart_m=2.4384)
    told = {one.key: one.working.value for one in said.wiring.answers}
    across = said.wiring.given.rod_across_m
    assert told["rod_alone"] == pytest.approx(dwight(80.0, 2.4384, across), rel=2e-3)
    assert told["rods_together"] == pytest.approx(by_pieces(80.0, 2.4384, across, 2.4384, 3), rel=0.04)
