"""Numbers that small faults got past the other tests with: each laid out again from outside."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.plan import plan
from openfurrow.core.site.features import FeatureGivens
from openfurrow.core.wiring.conductors import choose
from tests.core.test_checks import broken, grid, shot
from tests.core.test_properties import changed
from tests.designs import plain_larkspur

# From memory of NEC 2020, Table 310.16, copper, 75 and 90 °C; 310.15(B)(1) and (C)(1) as formulas.
AMPACITIES = {"10": (35, 40), "8": (50, 55), "6": (65, 75), "4": (85, 95)}


@pytest.mark.parametrize(
    ("loaded", "ambient", "crowd"), [(2, 30.0, 1.0), (6, 40.0, 0.8), (12, 45.0, 0.5), (2, 20.0, 1.0)]
)
def test_what_a_wire_carries_is_the_less_of_its_terminals_and_its_place(
    loaded: int, ambient: float, crowd: float
) -> None:
    """75 °C terminals over 1.25 for a load that lasts; the 90 °C column crowded and hot."""
    found = choose("us", 12.0, 20.0, 0.05, 9.0, 400.0, 0.05, loaded, ambient, 15.0)
    at_75, at_90 = AMPACITIES[found.conductor.size]
    place = at_90 * crowd * math.sqrt((90 - ambient) / 60)
    assert found.carries_a == pytest.approx(min(at_75 / 1.25, place), rel=0.01)


@settings(max_examples=20, deadline=None)
@given(st.integers(1, 4), st.integers(1, 3), st.integers(3, 12), st.floats(0.1, 2))
def test_bare_copper_tours_every_row_and_goes_to_the_building(
    rows: int, tables: int, along: int, gap: float
) -> None:
    """Along each row, from each to the next, and the way in the trench."""
    design = changed(
        plain_larkspur(), "rows", rows=rows, tables_along=tables, modules_along=along, table_gap_m=gap
    )
    found = plan(design)
    modules = design.modules
    table = along * modules.width_m + (along - 1) * modules.gap_along_m
    row = tables * table + (tables - 1) * gap
    route = found.trench.route
    steps = zip(np.diff(route.chainage_m).tolist(), np.diff(route.ground_m).tolist(), strict=True)
    way = sum(math.hypot(*step) for step in steps)
    tour = rows * row + sum(found.rows.pitch_m for _ in range(rows - 1))
    assert found.wiring.circuit.bare_copper_m == pytest.approx(
        tour + way + 2 * design.wiring.slack_m, rel=1e-9
    )


@settings(max_examples=20, deadline=None)
@given(st.floats(-0.12, 0.12), st.floats(-0.004, 0.004), st.integers(1, 3), st.integers(1, 3))
def test_the_upper_edge_is_told_where_it_stands_highest(
    lean: float, bend: float, rows: int, tables: int
) -> None:
    """Upper edges of all tables over the ground straight below, walked along."""

    def ground(e: float, n: float) -> float:
        return lean * e + bend * e * e + 0.02 * n

    design = broken(
        plain_larkspur(),
        {
            "site": shot(grid(ground, 6, 60), survey_reach_m=40.0),
            "rows": {"rows": rows, "tables_along": tables, "modules_along": 8, "tilt_deg": 30.0},
        },
    )
    found = plan(design)
    lie, section = found.rows.lie, found.rows.section
    rise = section.chord_m * math.sin(math.radians(30.0))
    heights = []
    for index, corners in enumerate(lie.tables.corners):
        # From the lower to the upper corners the table keeps its place along the row.
        for share in np.linspace(0, 1, 25):
            lower = corners[0] + share * (corners[1] - corners[0])
            upper = corners[3] + share * (corners[2] - corners[3])
            along = (
                float(np.linalg.norm(lower - corners[0]))
                - float(np.linalg.norm(corners[1] - corners[0])) / 2
            )
            level = float(lie.edge_level_m[index] + lie.rise_along[index] * along) + rise
            below = float(found.site.ground.level_m(upper[:1], upper[1:])[0])
            heights.append(level - below)
    assert found.answer("rows", "upper_edge").value == pytest.approx(max(heights), abs=1e-6)


@pytest.mark.parametrize(
    ("line", "degrees"),
    [
        # The trench goes straight north at the crossing; each line bends before or after it.
        (((-20.0, 20.0), (12.0, 20.0), (14.0, 60.0)), 90.0),
        (((-20.0, 0.0), (20.0, 40.0), (60.0, 40.0)), 45.0),
        (
            ((-30.0, 5.0), (-10.0, 5.0), (5.0, 5.0 + 15.0 * math.tan(math.radians(60))), (40.0, 60.0)),
            30.0,
        ),
    ],
)
def test_the_angle_of_a_crossing_is_that_of_the_stretches_that_meet(
    line: tuple[tuple[float, float], ...], degrees: float
) -> None:
    design: Design = changed(plain_larkspur(), "rows", at_east_m=-40.0)
    gas = FeatureGivens.model_validate(
        {"kind": "buried gas or fuel", "points": line, "depth_m": 1.2, "how_sure": "measured"}
    )
    design = changed(design, "site", features=(gas,), route=((0.0, 2.0), (0.0, 50.0), (30.0, 50.0)))
    crossings = [one for one in plan(design).trench.crossings if one.crossed]
    angles = [one.angle_deg for one in crossings]
    assert any(angle == pytest.approx(degrees, abs=0.6) for angle in angles), angles
