"""Ground under the tables: its area by laying squares, what is bought by hand, and what it brings."""

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.plan import plan, untried
from openfurrow.demo.designs import DESIGNS
from tests.designs import changed, plain_larkspur

LIGHT, GRAVEL = "weed cloth under light stone", "weed cloth under gravel"


@settings(max_examples=20, deadline=None)
@given(
    rows=st.integers(1, 3),
    tables=st.integers(1, 2),
    along=st.integers(1, 8),
    tilt=st.floats(0, 60),
    turn=st.floats(-40, 40),
    beyond=st.floats(0, 2),
)
def test_ground_is_covered_once_under_and_around_every_table(
    rows: int, tables: int, along: int, tilt: float, turn: float, beyond: float
) -> None:
    """Points thrown over the field: those within reach of a corner rectangle are counted."""
    design = changed(
        plain_larkspur(),
        "rows",
        rows=rows,
        tables_along=tables,
        modules_along=along,
        tilt_deg=tilt,
        turn_deg=turn,
        follow_ground=False,
        pitch_m=5.0,
    )
    design = changed(design, "frame", ground_below=GRAVEL, ground_beyond_m=beyond)
    found = untried(design)
    below, lie = found.frame.below, found.rows.tables
    assert below is not None
    # In each table's own measures it is a rectangle, so much wider all round.
    section = found.rows.section
    outlines = shapely.union_all(lie_outlines(found))
    west, south, east, north = shapely.bounds(outlines)
    draw, count = np.random.default_rng(3), 60_000
    pad = 2.5 + beyond
    x = draw.uniform(west - pad, east + pad, count)
    y = draw.uniform(south - pad, north + pad, count)
    inside = np.zeros(count, dtype=bool)
    for table in range(lie.count):
        at, back = lie.on_table_m(table, x, y)
        half = lie.lengths_m[table] / 2
        level = lie.level_share[table]
        inside |= (
            (np.abs(at) * level <= half * level + beyond)
            & (back >= -section.post_x_m - beyond)
            & (back <= section.level_depth_m - section.post_x_m + beyond)
        )
    whole = (east - west + 2 * pad) * (north - south + 2 * pad)
    assert below.area_m2 == pytest.approx(inside.mean() * whole, rel=0.05, abs=0.6)


def lie_outlines(found: object) -> list[shapely.Polygon]:
    """The glass of all tables seen from above."""
    return list(np.concatenate(found.rows.taken))  # type: ignore[attr-defined]


def test_what_is_bought_for_it_by_hand() -> None:
    """Cloth with a seventh for laps and waste, three pins to two square metres, stone by its depth."""
    design = changed(
        plain_larkspur(), "frame", ground_below=LIGHT, stone_deep_m=0.05, ground_beyond_m=0.4
    )
    found = plan(design)
    area = found.frame.below.area_m2 if found.frame.below else 0.0
    lines = {one.key: one for one in found.materials.lines}
    assert lines["weed_cloth"].net == pytest.approx(1.15 * area)
    assert lines["weed_cloth"].quantity >= lines["weed_cloth"].net
    assert abs(lines["cloth_pin"].net - 1.5 * area) <= 1
    assert lines["ground_stone"].net == pytest.approx(0.05 * area)
    assert lines["ground_stone"].mass_kg == pytest.approx(1600 * lines["ground_stone"].quantity)
    bare = {one.key for one in plan(plain_larkspur()).materials.lines}
    assert not bare & {"weed_cloth", "cloth_pin", "ground_stone"}


def hours(name: str, **frame: object) -> float:
    """Full hours of a year."""
    design = changed(DESIGNS[name](), "modules", back_share=0.8)
    found = plan(changed(design, "frame", **frame))
    return next(float(one.working.value) for one in found.energy.answers if one.key == "yield")


@pytest.mark.parametrize("name", ["larkspur", "grifo"])
def test_light_ground_brings_more_and_never_more_than_if_all_of_it_were_light(name: str) -> None:
    """Bounds that hold whatever is computed between: none of it light, and all of it."""
    as_it_is, stone = hours(name), hours(name, ground_below=LIGHT)
    wide = hours(name, ground_below=LIGHT, ground_beyond_m=3.0)
    all_light = plan(changed(changed(DESIGNS[name](), "modules", back_share=0.8), "sun", albedo=0.45))
    most = next(float(one.working.value) for one in all_light.energy.answers if one.key == "yield")
    # What slants in is shared out by the ground that lies open: a few thousandths apart.
    assert as_it_is < stone < wide <= most * 1.004
    # As light as the rest it changes nothing.
    same = hours(name, ground_below=LIGHT, stone_throws=DESIGNS[name]().sun.albedo)
    assert same == pytest.approx(as_it_is, rel=1e-9)


def test_a_closed_back_gains_little() -> None:
    """The front sees little of the ground under its own row."""
    design = changed(DESIGNS["larkspur"](), "modules", back_share=0.0)
    told = []
    for below in ("as it is", LIGHT):
        found = plan(changed(design, "frame", ground_below=below))
        told.append(
            next(float(one.working.value) for one in found.energy.answers if one.key == "yield")
        )
    assert 1.0 <= told[1] / told[0] < 1.01
