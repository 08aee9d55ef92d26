"""Numbers that small faults got past the other tests with: each laid out again from outside."""

import math
from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from numpy.typing import NDArray

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, plan
from openfurrow.core.site.features import FeatureGivens
from openfurrow.core.trench.crossings import Dug, meetings_of
from openfurrow.core.wiring.conductors import Way, choose
from tests.core.breaks import grid, shot
from tests.core.test_checks import broken
from tests.designs import changed, plain_larkspur

Floats = NDArray[np.float64]

# From memory of NEC 2020, Table 310.16, copper, 75 and 90 °C; 310.15(B)(1) and (C)(1) as formulas.
AMPACITIES = {"10": (35, 40), "8": (50, 55), "6": (65, 75), "4": (85, 95)}


def dug_along(found: Plan, east: Floats, north: Floats, width: float) -> tuple[Dug, ...]:
    """The demo's trench as if it ran along other bends."""
    (dug,) = found.trench.dug
    line = replace(dug.stretch.line, east_m=east, north_m=north)
    return (replace(dug, width_m=width, stretch=replace(dug.stretch, line=line)),)


@pytest.mark.parametrize(
    ("loaded", "ambient", "crowd"), [(2, 30.0, 1.0), (6, 40.0, 0.8), (12, 45.0, 0.5), (2, 20.0, 1.0)]
)
def test_what_a_wire_carries_is_the_less_of_its_terminals_and_its_place(
    loaded: int, ambient: float, crowd: float
) -> None:
    """75 °C terminals over 1.25 for a load that lasts; the 90 °C column crowded and hot."""
    found = choose("us", 12.0, Way(20.0, 2.0, 0.05, 9.0, 400.0), 0.05, loaded, ambient, 15.0)
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
    modules = design.arrays[0].modules
    table = along * modules.width_m + (along - 1) * modules.gap_along_m
    row = tables * table + (tables - 1) * gap
    route = found.run.route
    steps = zip(np.diff(route.chainage_m).tolist(), np.diff(route.ground_m).tolist(), strict=True)
    way = sum(math.hypot(*step) for step in steps)
    tour = rows * row + sum(found.rows.pitch_m for _ in range(rows - 1))
    assert found.circuit.bare_copper_m == pytest.approx(
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
    crossings = [one for one in plan(design).run.crossings if one.crossed]
    angles = [one.angle_deg for one in crossings]
    assert any(angle == pytest.approx(degrees, abs=0.6) for angle in angles), angles


def over_supports(span: float, count: int, end: float) -> list[float]:
    """Moments of a purlin over its supports under a unit load, overhangs alike, by three moments."""
    row, right = np.zeros((count, count)), np.zeros(count)
    row[0, 0] = row[-1, -1] = 1.0
    right[0] = right[-1] = -(end**2) / 2
    for at in range(1, count - 1):
        row[at, at - 1 : at + 2] = span, 4 * span, span
        right[at] = -(span**3) / 2
    return [float(one) for one in np.linalg.solve(row, right)]


def own_purlin(
    span: float, count: int, end: float, load: float, stiffness: float
) -> tuple[float, float]:
    """Largest sag inside the spans and at the tips, by three moments and by adding up curvature."""
    moments = [load * one for one in over_supports(span, count + 1, end)]
    x = np.linspace(0.0, span, 2001)
    step, inside, slopes = x[1], 0.0, []
    for first, last in pairwise(moments):
        bend = first + (last - first) * x / span + load * x * (span - x) / 2
        slope = np.concatenate(([0.0], np.cumsum((bend[1:] + bend[:-1]) / 2) * step))
        drop = np.concatenate(([0.0], np.cumsum((slope[1:] + slope[:-1]) / 2) * step))
        # Down is positive, and both ends of the span stay where they are.
        start = drop[-1] / span
        inside = max(inside, float(np.abs(start * x - drop).max()))
        slopes.append(start)
    tip = load * end**4 / 8 - float(slopes[0]) * end
    return inside / stiffness, abs(tip) / stiffness


@settings(max_examples=40, deadline=None)
@given(st.floats(0.05, 0.6), st.floats(1.6, 4.0), st.integers(5, 20))
def test_a_purlin_sags_most_for_its_span_where_a_beam_laid_out_by_hand_does(
    ratio: float, limit: float, along: int
) -> None:
    """A tip over twice its overhang against a span's middle over the span: the worse is shown."""
    found = plan(
        broken(
            plain_larkspur(),
            {
                "rows": {"modules_along": along, "tables_along": 1},
                "structure": {"cantilever_ratio": ratio, "span_limit_m": limit},
            },
        )
    )
    line, purlin = found.structure.posts.line, found.structure.members.purlin
    stiffness = 200e9 * purlin.section.inertia_m4
    unit = own_purlin(line.span_m, line.count - 1, line.overhang_m, 1.0, stiffness)
    # The load by the drawing's curve, sampled at a twentieth of a span.
    load = float(np.abs(purlin.shape_sag_m).max()) / max(unit)
    sag = [load * one for one in unit]
    over = sag[0] / line.span_m, sag[1] / (2 * line.overhang_m)
    assert purlin.sag_m / purlin.sag_span_m == pytest.approx(max(over), rel=6e-3)
    if abs(over[0] / over[1] - 1) > 0.02:
        governs = line.span_m if over[0] > over[1] else 2 * line.overhang_m
        assert purlin.sag_span_m == pytest.approx(governs)
        assert purlin.sag_m == pytest.approx(sag[0] if over[0] > over[1] else sag[1], rel=6e-3)


@settings(max_examples=60, deadline=None)
@given(st.floats(0, 359), st.floats(-3.9, 3.9), st.floats(0.2, 0.6))
def test_the_told_shift_of_a_trench_clears_the_ground_and_little_less_does_not(
    bearing: float, aside: float, width: float
) -> None:
    """Both ends go sideways as told: the ditch between them is then off the zone, just."""
    toward = np.array([math.sin(math.radians(bearing)), math.cos(math.radians(bearing))])
    across = np.array([toward[1], -toward[0]])
    start, end = np.zeros(2), 40.0 * toward
    corners = 20.0 * toward + aside * across + np.array([[-3, -2], [3, -2], [3, 2], [-3, 2]])
    field = FeatureGivens.model_validate(
        {"kind": "septic field", "points": corners.tolist(), "how_sure": "measured"}
    )
    design = changed(plain_larkspur(), "site", features=(field,))
    found = plan(design)
    zones = found.site.keepouts
    zone = next(one for one in zones.zones if one.feature.kind == "septic field")
    keep_off = shapely.Polygon(shapely.get_coordinates(zone.shapes["trench"]))
    east, north = (np.array(pair) for pair in zip(start, end, strict=True))
    (meeting,) = meetings_of(zones, dug_along(found, east, north, width))
    side = math.radians(meeting.toward_deg)
    way = np.array([math.sin(side), math.cos(side)])

    def covered(shift: float) -> float:
        moved = shapely.LineString([start + shift * way, end + shift * way])
        return float(
            shapely.area(
                shapely.intersection(shapely.buffer(moved, width / 2, cap_style="flat"), keep_off)
            )
        )

    assert covered(meeting.shift_m) < 1e-6
    assert covered(meeting.shift_m - math.copysign(0.1, meeting.shift_m)) > 1e-3
    # The other way round is no shorter.
    assert covered(-meeting.shift_m + math.copysign(0.1, meeting.shift_m)) > 1e-3


@settings(max_examples=30, deadline=None)
@given(st.floats(10, 45), st.floats(30, 60), st.floats(0, 3000))
def test_purlins_are_pressed_and_lifted_by_the_worst_half_of_the_glass(
    tilt: float, wind: float, snow: float
) -> None:
    """Every combination with every case on either half, laid on a beam of three moments."""
    found = plan(
        broken(
            plain_larkspur(),
            {"rows": {"tilt_deg": tilt}, "site": {"wind_speed_m_s": wind, "ground_snow_pa": snow}},
        )
    )
    loads, line, rows = found.structure.loads_at[0], found.structure.posts.line, found.rows
    cosine = math.cos(math.radians(tilt))
    share = rows.section.chord_m / (2 * rows.modules_high)
    on_metre = [
        share
        * (
            dead * loads.dead_kg_per_m2 * 9.80665 * cosine
            + cover * loads.snow_pa * cosine**2
            + gust * float(pressure)
        )
        for dead, below, above, gust in zip(
            loads.strength.dead,
            loads.strength.snow,
            loads.strength.snow_back,
            loads.strength.wind,
            strict=True,
        )
        for cover, half in ((below, loads.wind.front_pa), (above, loads.wind.back_pa))
        for pressure in half
    ]
    over = over_supports(line.span_m, line.count, line.overhang_m)
    fields = [
        first + (last - first) * x + line.span_m**2 * x * (1 - x) / 2
        for first, last in pairwise(over)
        for x in np.linspace(0, 1, 201).tolist()
    ]
    unit = max(abs(one) for one in (*over, *fields))
    bending = found.structure.members.purlin.bending
    assert bending.pressing_n_m == pytest.approx(max(on_metre) * unit, rel=3e-3)
    assert bending.lifting_n_m == pytest.approx(max(0.0, -min(on_metre)) * unit, rel=3e-3)


@settings(max_examples=60, deadline=None)
@given(st.floats(0.2, 0.8), st.floats(-0.3, 0.3), st.booleans())
def test_a_trench_that_only_just_clears_is_not_stopped_and_one_that_touches_is(
    width: float, spare: float, left: bool
) -> None:
    """The ditch is as wide as it is dug: half of it either side of its line."""
    # Its setback, and what a measured thing may lie off by.
    keep_off = 1.5 + 0.05
    aside = 2.0 + keep_off + width / 2 + spare
    field = FeatureGivens.model_validate(
        {
            "kind": "septic field",
            "points": [[-2, 10], [2, 10], [2, 30], [-2, 30]],
            "how_sure": "measured",
        }
    )
    found = plan(changed(plain_larkspur(), "site", features=(field,)))
    east = np.full(2, -aside if left else aside)
    met = meetings_of(found.site.keepouts, dug_along(found, east, np.array([0.0, 40.0]), width))
    if abs(spare) > 0.02:
        assert bool(met) == (spare < 0)


def test_what_bears_below_the_tip_is_shown_as_it_is_counted() -> None:
    """Friction and tip at the depth that is asked for carry F times the weight, put together here."""
    found = plan(plain_larkspur())
    working = found.answer("footings", "d_bearing").working
    said = {one.symbol: float(one.value) for one in working.inputs if not isinstance(one.value, str)}
    depth = float(working.value)
    friction = said["u"] * said["k"] * (max(depth, said["z_0"]) ** 2 - said["z_0"] ** 2) / 2
    assert friction + said["Q_tip"] == pytest.approx(said["F"] * said["N"], rel=1e-6)
