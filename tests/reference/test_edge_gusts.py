"""A gust on one bay of a purlin or a rail, by the force method and the printed coefficients.

Coefficients: ASCE/SEI 7-16, Figure 30.7-1 and Section 26.2 (a width of a third of the span at least);
EN 1991-1-4:2005, Table 7.6. From memory of both.
"""

import itertools
import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from numpy.typing import NDArray

from openfurrow.core.beams import continuous_beam
from openfurrow.core.design import Design
from openfurrow.core.plan import untried
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.purlins import Purlin
from tests.designs import changed, plain_larkspur, said_job

Floats = NDArray[np.float64]
G = 9.80665
# Of the figures: (zone 1, zone 2, zone 3) or (A, B, C), down and up, by tilt.
US = {
    15: ((1.8, 2.7, 3.6), (-1.9, -2.9, -3.8)),
    30: ((2.6, 3.9, 5.2), (-2.5, -3.8, -5.0)),
    45: ((2.6, 3.9, 5.2), (-2.3, -3.5, -4.6)),
}
METRIC = {20: ((1.7, 2.9, 2.1), (-2.2, -2.9, -3.0)), 30: ((2.2, 3.2, 2.4), (-3.0, -3.8, -3.6))}


def bent_n_m(long_m: float, supports_m: Floats, load: Floats, at: Floats) -> Floats:
    """Moments under ``load`` at ``at``, an even grid: what sags is positive.

    The outer supports hold it alone; then the inner ones push back what it sags there.
    """
    step = at[1] - at[0]
    weights = np.full(at.size, step)
    weights[[0, -1]] /= 2

    def moments(force: Floats) -> Floats:
        """Of forces at the grid's points, on the outer supports alone."""
        first, last = supports_m[0], supports_m[-1]
        right = (force * (at - first)).sum() / (last - first)
        left = force.sum() - right
        out = np.maximum(at[:, None] - at[None, :], 0.0)
        down = out @ force
        held = left * np.maximum(at - first, 0) + right * np.maximum(at - last, 0)
        return np.asarray(held - down)

    inner = supports_m[1:-1]
    own = moments(load * weights)
    if not inner.size:
        return own
    ones = []
    for place in inner:
        unit = np.zeros(at.size)
        below = min(int(place / step), at.size - 2)
        share = place / step - below
        unit[below], unit[below + 1] = 1 - share, share
        ones.append(moments(unit))
    m = np.stack(ones)
    gives = (m * weights) @ m.T
    pushes = np.linalg.solve(gives, (m * weights) @ own)
    return np.asarray(own - pushes @ m)


def edge_m(rows: RowsPlan) -> float:
    """a of the figure."""
    section = rows.section
    least = min(section.level_depth_m, float(rows.tables.lengths_m.max()))
    high = section.lower_edge_m + section.chord_m * math.sin(math.radians(section.tilt_deg)) / 2
    return max(min(0.1 * least, 0.4 * high), 0.04 * least, 0.9)


def coefficient(
    pack: str,
    rows: RowsPlan,
    way: int,
    bay: tuple[float, float],
    lies: tuple[float, float, bool],
    at: Floats,
) -> Floats:
    """Along the bay, over the width that is carried."""
    long, wide, along = lies
    tilt = round(rows.section.tilt_deg)
    pick = max if way == 0 else min
    if pack == "us":
        area = (bay[1] - bay[0]) * max(wide, (bay[1] - bay[0]) / 3)
        zone = 2 if area <= edge_m(rows) ** 2 else 1 if area <= 4 * edge_m(rows) ** 2 else 0
        return np.full(at.size, 0.85 * US[tilt][way][zone])
    a, b, c = METRIC[tilt][way]
    chord = rows.section.chord_m
    near_end = (at < long / 10) | (at > long - long / 10)
    if not along:
        return np.where(near_end, pick(b, c), b)
    strip = min(chord / 10, wide) / wide
    ends = strip * pick(b, c) + (1 - strip) * b
    inside = pick(strip * c + (1 - strip) * a, a)
    return np.where(near_end, ends, inside)


def most_bent(
    design: Design, lies: tuple[float, float, bool], supports_m: Floats, dead: float
) -> tuple[float, float]:
    """Pressed and lifted."""
    _, pressed, lifted = bent_everywhere(design, lies, supports_m, dead)
    return float(pressed.max()), float(lifted.max())


def bent_everywhere(
    design: Design, lies: tuple[float, float, bool], supports_m: Floats, dead: float
) -> tuple[Floats, Floats, Floats]:
    """Where, and the most there, pressed and lifted: every bay and combination, others windy or not."""
    found = untried(design)
    rows, loads = found.array.rows, found.array.structure.loads_at[0]
    pack, (long, wide, _) = design.site.rule_pack, lies
    at = np.linspace(0, long, 801)
    cosine = math.cos(math.radians(rows.section.tilt_deg))
    whole = np.concatenate((loads.wind.front_pa, loads.wind.back_pa))
    combined, out = loads.strength, [np.zeros(at.size), np.zeros(at.size)]
    ends = [0.0, *supports_m.tolist(), long]
    for bay in itertools.pairwise(ends):
        if bay[1] - bay[0] < 1e-3:
            continue
        inside = (at > bay[0]) & (at < bay[1])
        for way in (0, 1):
            gust = loads.wind.velocity_pa * coefficient(pack, rows, way, bay, lies, at)
            rest = max(0.0, whole.max()) if way == 0 else min(0.0, whole.min())
            for i, share in enumerate(combined.wind):
                snows = (combined.snow[i], combined.snow_back[i])
                snow = (max if way == 0 else min)(snows) * loads.snow_pa * cosine**2
                lies_pa = combined.dead[i] * dead * G * cosine + snow
                hardest = (np.max if way == 0 else np.min)(gust[inside])
                net = lies_pa + share * hardest
                if share == 0 or (net > 0) != (way == 0):
                    continue
                for beside in (0.0, rest):
                    load = (lies_pa + share * np.where(inside, gust, beside)) * wide
                    out[way] = np.maximum(out[way], np.abs(bent_n_m(long, supports_m, load, at)))
    return at, out[0], out[1]


@pytest.mark.parametrize("pack", ["us", "metric"])
@settings(max_examples=8, deadline=None)
@given(data=st.data())
def test_a_gust_on_one_bay_by_the_force_method(pack: str, data: st.DataObject) -> None:
    tilt = data.draw(st.sampled_from(sorted(US if pack == "us" else METRIC)))
    design = changed(
        plain_larkspur(), "rows", tilt_deg=float(tilt), modules_along=data.draw(st.integers(2, 6))
    )
    design = changed(design, "site", rule_pack=pack, wind_speed_m_s=data.draw(st.floats(25, 60)))
    design = changed(design, "structure", cantilever_ratio=data.draw(st.floats(0.05, 0.45)))
    found = untried(design).array
    structure, rows = found.structure, found.rows
    purlin: Purlin = structure.members.purlin
    lies = (purlin.line.purlin_m, rows.section.chord_m / (2 * rows.modules_high), True)
    pressed, lifted = most_bent(design, lies, purlin.line.along_m, structure.loads_at[0].dead_kg_per_m2)
    assert purlin.gust is not None
    assert purlin.gust.pressing_n_m == pytest.approx(pressed, rel=0.015)
    assert purlin.gust.lifting_n_m == pytest.approx(lifted, rel=0.015, abs=1.0)
    bent = max(pressed / purlin.bending.limit_n_m, lifted / purlin.bending.lifting_limit_n_m)
    assert purlin.used >= bent * 0.98
    # What one crossing holds: its own piece of glass under the figure's coefficient for so much.
    if pack == "us":
        for row_m in purlin.line.tributary_m.tolist():
            area = row_m * lies[1]
            zone = 2 if area <= edge_m(rows) ** 2 else 1 if area <= 4 * edge_m(rows) ** 2 else 0
            blows = 0.6 * structure.loads_at[0].wind.velocity_pa * 0.85 * -US[tilt][1][zone]
            weighs = 0.6 * structure.loads_at[0].dead_kg_per_m2 * G * math.cos(math.radians(tilt))
            assert purlin.crossing_n >= (blows - weighs) * area * 0.999


@pytest.mark.parametrize("family", ["pipe grid", "single pole"])
@pytest.mark.parametrize("pack", ["us", "metric"])
@settings(max_examples=8, deadline=None)
@given(data=st.data())
def test_a_gust_on_a_rail(family: str, pack: str, data: st.DataObject) -> None:
    tilt = data.draw(st.sampled_from(sorted(US if pack == "us" else METRIC)))
    design = changed(plain_larkspur(), "rows", tilt_deg=float(tilt), modules_along=4)
    design = changed(design, "site", rule_pack=pack, wind_speed_m_s=data.draw(st.floats(25, 55)))
    design = changed(design, "structure", family=family)
    found = untried(design).array
    rows, structure = found.rows, found.structure
    rail: Any = structure.members.beam
    row_m = max(line.rail_m for line in structure.posts.lines)
    chord = rows.section.chord_m
    lies = (chord, row_m, False)
    dead = structure.loads_at[0].dead_kg_per_m2
    if family == "pipe grid":
        pressed, lifted = most_bent(design, lies, rail.places_m, dead)
    else:
        pressed, lifted = cantilevered(design, lies, chord / 2, dead)
    assert rail.gust.pressing_n_m == pytest.approx(pressed, rel=0.015)
    assert rail.gust.lifting_n_m == pytest.approx(lifted, rel=0.015, abs=1.0)
    limits = rail.gust_bending
    assert rail.used >= pressed / limits.limit_n_m * 0.98
    assert rail.used >= lifted / limits.lifting_limit_n_m * 0.98


def cantilevered(
    design: Design, lies: tuple[float, float, bool], reach: float, dead: float
) -> tuple[float, float]:
    """The moment at the middle, of what lies and blows on one side of it."""
    found = untried(design)
    rows, loads = found.array.rows, found.array.structure.loads_at[0]
    at = np.linspace(0, reach, 4001)
    cosine = math.cos(math.radians(rows.section.tilt_deg))
    combined, out = loads.strength, [0.0, 0.0]
    for way in (0, 1):
        # From the lower edge to the middle; the other side is its mirror.
        gust = loads.wind.velocity_pa * coefficient(
            design.site.rule_pack, rows, way, (0.0, reach), lies, at
        )
        for i, share in enumerate(combined.wind):
            snows = (combined.snow[i], combined.snow_back[i])
            snow = (max if way == 0 else min)(snows) * loads.snow_pa * cosine**2
            weighs = combined.dead[i] * dead * G * cosine + snow
            net = weighs + share * (np.max if way == 0 else np.min)(gust)
            if share and (net > 0) == (way == 0):
                load = (weighs + share * gust) * lies[1]
                out[way] = max(out[way], abs(float(np.trapezoid(load * (reach - at), at))))
    return out[0], out[1]


@given(
    spans=st.lists(st.floats(0.6, 4.0), min_size=2, max_size=5),
    cuts=st.lists(st.floats(0.05, 0.95), min_size=1, max_size=3, unique=True),
    data=st.data(),
)
def test_a_load_that_changes_along_a_beam(
    spans: list[float], cuts: list[float], data: st.DataObject
) -> None:
    """Against the force method, and its own reactions against the load."""
    supports = np.concatenate(([0.4], 0.4 + np.cumsum(spans)))
    long = float(supports[-1]) + 0.6
    steps = np.sort(np.array(cuts)) * long
    loads = np.array(
        data.draw(st.lists(st.floats(-900, 900), min_size=len(cuts) + 1, max_size=len(cuts) + 1))
    )
    found = continuous_beam(long, supports, loads, 1.0, steps_m=steps)
    at = np.linspace(0, long, 1201)
    load = loads[np.searchsorted(steps, at)]
    by_hand = bent_n_m(long, supports, load, at)
    scale = np.abs(loads).max() * max(spans) ** 2
    assert np.interp(at, found.stations_m, found.moments_n_m) == pytest.approx(
        by_hand, abs=0.01 * scale + 1e-6
    )
    pieces = np.diff(np.concatenate(([0.0], steps, [long])))
    assert found.reactions_n.sum() == pytest.approx(
        float((loads * pieces).sum()), abs=1e-6 * (1 + scale)
    )


def test_said_jobs_have_a_gust_in_every_family_with_purlins() -> None:
    """Nothing is left out by a family of its own."""
    for family in ("one post line", "two post lines", "ballast frame", "table on blocks", "pipe grid"):
        design = changed(said_job("a job"), "structure", family=family)
        purlin = untried(design).array.structure.members.purlin
        assert purlin.gust is not None
        assert purlin.gust.pressing_n_m > 0
        keys = {answer.key for answer in untried(design).array.structure.answers}
        assert keys & {"purlin_gust", "pipe_gust"}
