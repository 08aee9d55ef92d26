"""Lines side by side in the ground: counted on the widest stretch, and what they leave each other."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.codes import table
from openfurrow.core.plan import plan, untried
from tests.designs import changed, plain_larkspur
from tests.reference.test_several_arrays import of_two

# IEC 60364-5-52, Tables B.52.19 A (ducts that touch) and B.52.18 (one outside apart); from memory.
DUCTS = {1: 1.0, 2: 0.85, 3: 0.75, 4: 0.70, 5: 0.65, 6: 0.60}
CABLES = {1: 1.0, 2: 0.80, 3: 0.70, 4: 0.60, 5: 0.55, 6: 0.55}
# IEC 60364-5-52, Table B.52.3, D1, XLPE, and its crowding by circuits in one bunch; from memory.
IEC_TWO = {4: 43, 6: 53, 10: 71, 16: 91, 25: 116, 35: 139, 50: 164, 70: 203, 95: 239}
BUNCH = {1: 1.0, 2: 0.8, 3: 0.7, 4: 0.65, 5: 0.6, 6: 0.57, 7: 0.54, 8: 0.52, 9: 0.50, 12: 0.45}


@settings(max_examples=40, deadline=None)
@given(
    pack=st.sampled_from(["us", "metric"]),
    method=st.sampled_from(["PVC conduit", "direct-buried cable"]),
    along=st.integers(4, 12),
    together=st.integers(1, 3),
    hot=st.floats(20, 45),
    over=st.booleans(),
)
def test_wires_carry_theirs_beside_all_that_lies_in_the_widest_stretch(
    pack: str, method: str, along: int, together: int, hot: float, over: bool
) -> None:
    site = {"rule_pack": pack, "hottest_temperature_c": hot, "route": ((20.0, 20.0), (35.0, 20.0))}
    design = of_two((14.0, -20.0), along=along, **site)
    design = changed(design, "trench", method=method, strings_per_conduit=together)
    if over:
        design = changed(design, "trench", laid="over the ground")
    found = untried(design)
    lines = [math.ceil(one.strings.count / together) for one in found.wiring.circuits]
    shared = any(len(piece.stretch.carries) == 2 for piece in found.trench.dug)
    assert shared
    factors = CABLES if method == "direct-buried cable" else DUCTS
    lasting = 1.25 if pack == "us" else 1.0
    for number, circuit in enumerate(found.wiring.circuits):
        feed = circuit.feed
        beside = 1 if over else sum(lines)
        assert feed.beside == beside and found.trench.runs[number].conduits == lines[number]
        assert feed.warmed == factors[beside]
        checks = [one for one in found.wiring.checks if one.key == "warmed"]
        assert len(checks) == (2 if pack == "us" and beside > 1 else 0)
        if pack == "us" or not feed.choice.fits or over:
            continue
        size = int(feed.choice.conductor.size)
        crowd = next(left for most, left in BUNCH.items() if feed.in_conduit <= most)
        carries = IEC_TWO[size] * crowd * factors[beside] * math.sqrt((90 - hot) / 70)
        assert feed.choice.carries_a == pytest.approx(carries)
        assert carries >= lasting * feed.current_a - 1e-6
        inputs = {one.symbol: one.value for one in found.answer("wiring", "conductor").working.inputs}
        assert (inputs.get("f_n"), inputs.get("n")) == (
            (factors[beside], float(beside)) if beside > 1 else (None, None)
        )


def test_the_us_table_of_one_line_is_held_against_what_others_warm() -> None:
    """Three strings in conduits of their own, at the edge: alone enough, beside each other not."""
    design = changed(plain_larkspur(), "trench", strings_per_conduit=1)
    design = changed(design, "site", hottest_temperature_c=58.0)
    for current_a in (14.0, 17.5):
        hot = changed(design, "modules", short_circuit_a=current_a / 1.25)
        found = plan(hot)
        (check,) = [one for one in found.wiring.checks if one.key == "warmed"]
        count = found.circuit.strings.count
        # NEC Table 310.16, 10 AWG copper at 90 °C, two wires alone in each conduit; from memory.
        left = 40 * math.sqrt((90 - 58) / 60) * DUCTS[count]
        assert check.measured == pytest.approx(left)
        assert check.level == ("sound" if left >= current_a else "look")


@pytest.mark.parametrize("column", ["in_conduit", "as_cable"])
def test_what_lines_leave_each_other_is_what_their_heat_says(column: str) -> None:
    """Equal lines in a plane under their mirrors, the middle one the hottest (IEC 60287-2-1, 2.2.3.2).

    At 0.7 m in soil of 2.5 K m/W, on which those tables stand: cables of 30 mm one outside apart,
    their own 0.8 K m/W inside; ducts of 50 mm that touch, 1.6 K m/W in them besides (common practice).
    """
    soil, deep = 2.5, 0.7
    across, apart, inside = {
        "in_conduit": (0.050, 0.055, 2.4),
        "as_cable": (0.030, 0.060, 0.8),
    }[column]
    data = table("common", "beside")
    for lines, told in zip(data.numbers["lines_up_to"], data.numbers[column], strict=True):
        count = int(lines)
        alone = inside + soil / (2 * math.pi) * math.log(4 * deep / across)
        off = (np.arange(count) - count // 2) * apart
        off = off[off != 0.0]
        others = soil / (2 * math.pi) * np.log(np.hypot(2 * deep, off) / np.abs(off)).sum()
        left = math.sqrt(alone / (alone + others))
        # What is told errs to the safe side, more so of many.
        assert (0.90 if count <= 6 else 0.70) * left <= told <= 1.03 * left
    assert (np.diff(data.numbers[column]) <= 0).all()
