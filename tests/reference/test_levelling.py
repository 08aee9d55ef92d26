"""A top off its line: holes tried one by one, and the tilt by triangles laid out point by point."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.frame.levelling import (
    Head,
    strut_m,
    tilt_between_deg,
    tilt_on_strut_deg,
    ways_to_level,
)
from openfurrow.core.plan import Plan, plan
from openfurrow.demo.grifo import grifo
from openfurrow.sheets.levelling import levelling_sheet
from tests.core.breaks import single_pole
from tests.core.test_checks import broken
from tests.designs import changed, plain_larkspur

HEADS = st.builds(
    Head,
    step_m=st.just(0.0) | st.floats(0.01, 0.06),
    each_way=st.integers(0, 6),
    slot_m=st.just(0.0) | st.floats(0.005, 0.08),
    on_top=st.booleans(),
)


@settings(max_examples=300, deadline=None)
@given(st.floats(-0.15, 0.15), HEADS, st.booleans(), st.booleans())
def test_no_hole_leaves_less_and_all_that_moves_is_counted(
    off_m: float, head: Head, driven: bool, turned: bool
) -> None:
    ways = {way.name: way for way in ways_to_level(off_m, head, driven=driven, turned=turned)}
    for way in ways.values():
        assert way.left_m == pytest.approx(off_m - way.by_m, abs=1e-12)
    holes = [abs(off_m - k * head.step_m) for k in range(-head.each_way, head.each_way + 1)]
    if "another hole" in ways:
        assert abs(ways["another hole"].left_m) == pytest.approx(min(holes), abs=1e-9)
        assert abs(ways["another hole"].holes) <= head.each_way
    else:
        assert not head.step_m or not head.each_way
    if head.slot_m:
        inside = ways["inside the slot"]
        assert abs(inside.left_m) == pytest.approx(max(abs(off_m) - head.slot_m / 2, 0), abs=1e-12)
    assert ("drive it on" in ways) == (driven and off_m > 0)
    assert ("turn it" in ways) == turned
    assert ("cut it" in ways) == (off_m > 0)
    # Nothing that is let down is shimmed, and nothing that turns on a bolt.
    assert ("a shim" in ways) == (head.on_top and -0.02 <= off_m < 0)


@given(st.floats(0.3, 2.5), st.floats(0.2, 1.5), st.floats(2, 75))
def test_a_strut_holds_the_tilt_that_it_was_cut_for(drop: float, reach: float, tilt: float) -> None:
    """Foot at nought, bolt above it, the beam down from the bolt: the distance is the strut."""
    down = (
        reach * math.cos(math.radians(tilt)),
        drop - reach * math.sin(math.radians(tilt)),
    )
    assert strut_m(drop, reach, tilt) == pytest.approx(math.dist((0, 0), down), rel=1e-12)
    if math.dist((0, 0), down) > 1e-3:
        assert tilt_on_strut_deg(drop, reach, strut_m(drop, reach, tilt)) == pytest.approx(tilt)
    with pytest.raises(ValueError, match="does not reach"):
        tilt_on_strut_deg(drop, reach, drop + reach + 0.01)
    with pytest.raises(ValueError, match="does not reach"):
        tilt_on_strut_deg(0.0, reach, reach)


@given(st.floats(0, 60), st.floats(0.5, 4), st.floats(-0.05, 0.05))
def test_a_raised_back_post_steepens(tilt: float, apart: float, raised: float) -> None:
    found = tilt_between_deg(tilt, apart, raised)
    assert math.tan(math.radians(found)) * apart == pytest.approx(
        math.tan(math.radians(tilt)) * apart + raised, abs=1e-9
    )
    assert (found > tilt) == (raised > 0) or abs(raised) < 1e-9


def row_of(found: Plan, **frame: float) -> dict[str, tuple[str, ...]]:
    design = changed(plain_larkspur(), "frame", **frame)
    sheet = levelling_sheet(design, found, "metric", 1, 0.014)
    return {row[0].split(",")[0]: row for row in sheet.tables[0].rows}


def test_a_top_14_mm_high_on_the_demo_by_hand() -> None:
    """Common practice: within 13 mm (1/2 in) of the line, within half a degree of the tilt."""
    found = plan(plain_larkspur())
    structure = plain_larkspur().arrays[0].structure
    drop = float(found.structure.supports.reveals_m[1]) - structure.strut_foot_m
    reach, tilt = structure.strut_reach_m, math.radians(found.rows.section.tilt_deg)
    # The strut as the plan cuts it, bolt to bolt.
    (strut,) = (one for one in found.structure.members.pieces if one.key == "strut")
    assert strut_m(drop, reach, math.degrees(tilt)) == pytest.approx(float(strut.lengths_m[1]))
    rows = row_of(found, hole_step_m=0.005, holes_each_way=3)
    assert rows["Leave it"][3] == "more than 13.0 mm off"
    # Three holes of 5 mm: 1 mm below; the beam, still on its strut, lies flatter.
    lower, long_m = drop - 0.015, float(strut.lengths_m[1])
    sine = (lower**2 + reach**2 - long_m**2) / (2 * lower * reach)
    flatter = math.degrees(math.asin(sine))
    assert rows["3 holes down"][1] == "1.0 mm below"
    assert rows["3 holes down"][2] == f"{flatter:.1f}°"
    off = math.degrees(tilt) - flatter
    assert rows["3 holes down"][3] == ("accepted" if off <= 0.5 else f"tilt off by {off:.1f}°")
    # A slot of 4 mm takes 2 of the 14.
    assert row_of(found, slot_m=0.004)["Inside the slot"][1] == "12.0 mm above"
    assert rows["Drive it on"][1] == rows["Cut it"][1] == "on the line"


def told(design: Design, index: int, off_m: float) -> dict[str, tuple[str, ...]]:
    sheet = levelling_sheet(design, plan(design), "metric", index, off_m)
    return {row[0].split(",")[0]: row for row in sheet.tables[0].rows}


def test_two_lines_lie_as_their_two_heads_say() -> None:
    """Grifo, 30 degrees: a front top 14 mm high takes 14 mm of the rise, a back one adds them."""
    design = grifo()
    found = plan(design)
    apart, tilt = design.arrays[0].structure.lines_apart_m, math.radians(found.rows.section.tilt_deg)
    roles = found.places.role
    front, back = int((roles == 0).argmax()), int((roles == 1).argmax())
    for index, more in ((front, -0.014), (back, 0.014)):
        lies = math.degrees(math.atan((math.tan(tilt) * apart + more) / apart))
        row = told(design, index, 0.014)["Leave it"]
        assert row[2] == f"{lies:.1f}°"
        off = abs(lies - math.degrees(tilt))
        assert ("tilt off" in row[3]) == (off > 0.5)


def test_heads_that_take_up_nothing_are_offered_nothing() -> None:
    """A pole's head is clamped where it is; an adjustable strut is set anew: no tilt is told."""
    pole = broken(plain_larkspur(), single_pole())
    ways = told(pole, 0, 0.014)
    assert not [way for way in ways if "hole" in way or "slot" in way or "shim" in way]
    assert all(row[2] == "" for row in ways.values())
    moves = changed(plain_larkspur(), "structure", strut_travel_m=0.6)
    assert all(row[2] == "" for row in told(moves, 1, 0.014).values())


def test_a_strut_that_does_not_reach_any_more_is_no_way() -> None:
    """The foot close under the bolt and a hole far down: the triangle does not close."""
    design = changed(plain_larkspur(), "frame", hole_step_m=0.1, holes_each_way=1)
    reveal = float(plan(design).structure.supports.reveals_m[1])
    near = changed(design, "structure", strut_foot_m=reveal - 0.09)
    row = told(near, 1, 0.1)["1 hole down"]
    assert row[2] == "" and row[3] == "the strut does not reach"
