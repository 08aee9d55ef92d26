"""Snow on the glass, by hand: sliding, the least on low slopes, the depth below, snow with wind.

From memory of ASCE/SEI 7-16 (7.3-1), 7.3.4, Figure 7.4-1c, (7.7-1); EN 1991-1-3:2003 Tables 5.2 and
E.1; EN 1990:2002 Table A1.1.
"""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, plan
from tests.designs import changed, plain_larkspur

PSF = 47.880259


def snowed(pack: str, tilt: float, lower: float, ground: float, elevation: float = 300.0) -> Design:
    design = changed(
        plain_larkspur(),
        "site",
        rule_pack=pack,
        ground_snow_pa=ground,
        elevation_m=elevation,
        terrain="II",
    )
    return changed(design, "rows", tilt_deg=tilt, lower_edge_m=lower)


def on_table_psf(tilt: float, lower_m: float, ground_pa: float) -> float:
    """In pounds and feet, as the clauses are printed."""
    p_g = ground_pa / PSF
    depth_ft = p_g / min(0.13 * p_g + 14, 30)
    straight_from = 15 if lower_m / 0.3048 > depth_ft else 45
    c_s = 1.0 if tilt <= straight_from else max(0.0, (70 - tilt) / (70 - straight_from))
    p_s = c_s * 0.7 * 1.0 * 1.2 * 1.0 * p_g
    return max(p_s, min(p_g, 20)) if tilt < 15 else p_s


@settings(max_examples=60)
@given(st.floats(0, 72), st.floats(0.3, 2.5), st.floats(0, 6000))
def test_snow_by_the_us_school(tilt: float, lower: float, ground: float) -> None:
    """(7.7-1) is printed rounded: a depth within 2 % of the edge may fall either way."""
    p_g = ground / PSF
    depth = p_g / min(0.13 * p_g + 14, 30) * 0.3048
    if abs(depth / lower - 1) < 0.02:
        return
    found = plan(snowed("us", tilt, lower, ground)).structure.loads_at[0]
    assert found.snow_pa / PSF == pytest.approx(on_table_psf(tilt, lower, ground), rel=2e-4, abs=1e-6)
    assert found.snow.ground_depth_m == pytest.approx(depth, rel=0.02)


@settings(max_examples=40)
@given(st.floats(0, 75), st.floats(0.3, 2.5), st.floats(0, 6000))
def test_snow_by_the_metric_school(tilt: float, lower: float, ground: float) -> None:
    """0.8 to 30 degrees, nothing from 60; where the edge stands in the snow, 0.8 at any slope."""
    shape = 0.8 if tilt <= 30 else max(0.0, 0.8 * (60 - tilt) / 30)
    shape = shape if ground / 2000 < lower else 0.8
    found = plan(snowed("metric", tilt, lower, ground)).structure.loads_at[0]
    assert found.snow_pa == pytest.approx(shape * ground, abs=1e-6)


@pytest.mark.parametrize(("elevation", "psi"), [(0, 0.5), (1000, 0.5), (1001, 0.7), (1800, 0.7)])
def test_above_a_thousand_metres_more_snow_goes_with_the_wind(elevation: float, psi: float) -> None:
    """EN 1990, Table A1.1. The post that is pressed most under leading wind shows which was taken."""
    structure = plan(snowed("metric", 20.0, 1.5, 1600.0, elevation)).structure
    found = structure.loads_at[0]
    area = float(structure.posts.line.tributary_m.max()) * found_chord()
    down = structure.reactions.down_n
    heaviest = down[int(down.max(axis=1).argmax())].tolist()
    wind = dict(zip(structure.reactions.names, heaviest, strict=True))
    leading = max(
        value for name, value in wind.items() if name.startswith("1.35 G + ") and "1.5 W" in name
    )
    alone = max(value for name, value in wind.items() if name.startswith("1.0 G + 1.5 W"))
    dead = 0.35 * found.dead_kg_per_m2 * 9.80665 * area
    snow = leading - alone - dead
    assert snow == pytest.approx(psi * 1.5 * found.snow_pa * area * 0.9396926, rel=1e-3)
    assert len([name for name in found.service.names if not name.endswith("lower half")]) == 3
    assert max(s for s, w in zip(found.service.snow, found.service.wind, strict=True) if w == 1) == psi


def found_chord() -> float:
    """Two modules of the demo up the slope, and the gap."""
    design = plain_larkspur()
    return 2 * design.arrays[0].modules.length_m + design.arrays[0].modules.gap_up_m


def snow_room(found: Plan) -> str:
    return next(check.level for check in found.checks if check.key == "snow_room")


@settings(max_examples=30)
@given(st.floats(16, 50), st.floats(0.4, 2.5), st.floats(100, 4000))
def test_the_heap_in_front_holds_all_that_slid(tilt: float, lower: float, ground: float) -> None:
    """What lies in a heap is what the table held: volumes counted here."""
    found = plan(snowed("metric", tilt, lower, ground))
    loads = found.structure.loads_at[0]
    depth = ground / 2000
    heap = loads.snow.heap_m - depth
    # Cross-section of the heap, a triangle with sides of 30 degrees, of packed snow.
    assert heap * 2 * heap * 3**0.5 / 2 * 3000 == pytest.approx(
        0.8 * ground * found.rows.section.level_depth_m, rel=1e-9
    )
    assert snow_room(found) == ("sound" if depth + heap <= lower else "look")
