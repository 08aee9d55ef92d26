"""Shade on modules by rays, and what strings make of it by trying every current."""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from numpy.typing import NDArray

from openfurrow.core.compare.string_walks import Walks, walks_of
from openfurrow.core.design import Design
from openfurrow.core.energy.cells import Cells
from openfurrow.core.energy.horizon import NO_HILLS
from openfurrow.core.energy.string_shade import best_of, module_shade
from openfurrow.core.plan import Plan, plan
from openfurrow.core.quantities import UnitSystem
from openfurrow.core.rows.shade import standing_of
from openfurrow.core.site.features import FeatureGivens
from openfurrow.sheets.energy.strings import strings_sheet
from tests.designs import changed, plain_larkspur
from tests.rays import corners_of

Floats = NDArray[np.float64]
TREE = FeatureGivens(id="t", kind="tree", points=((6.0, -9.0),), height_m=8.0, width_m=5.0)


def shaded(**rows: object) -> Design:
    """Two rows close behind each other, a tree before one end."""
    design = changed(plain_larkspur(), "site", features=(TREE,))
    design = changed(design, "sun", horizon=())
    return changed(design, "rows", **({"rows": 2, "pitch_m": 5.0} | rows))


@given(
    lit=st.lists(st.sampled_from([0.0, 0.5, 1.0]), min_size=1, max_size=40),
    even=st.floats(0.0, 1.0),
)
def test_a_string_runs_at_the_current_that_gives_most(lit: list[float], even: float) -> None:
    """Every current is tried: those that have less of it are let past and give nothing."""
    has = [even + (1 - even) * one for one in lit]
    best = max(
        current * sum(one >= current - 1e-12 for one in has) / len(has)
        for current in np.unique([*has, *np.linspace(0.01, 1.0, 100)]).tolist()
    )
    told = best_of(np.array(lit, dtype=np.float32).reshape(-1, 1, 1), np.array([even]))
    assert told[0, 0] == pytest.approx(best, abs=1e-9)


def _ray(place: Floats, altitude: float, azimuth: float, found: Plan, own: int) -> bool:
    """Whether an upper edge or the crown stands between a place and a sun."""
    a, z = math.radians(altitude), math.radians(azimuth)
    way = np.array([math.cos(a) * math.sin(z), math.cos(a) * math.cos(z), math.sin(a)])
    for index, quad in enumerate(corners_of(found)):
        if index == own:
            continue
        start, end = quad[3], quad[2]
        run, gap = end[:2] - start[:2], start[:2] - place[:2]
        turn = way[0] * run[1] - way[1] * run[0]
        if abs(turn) < 1e-9:
            continue
        along = (gap[0] * run[1] - gap[1] * run[0]) / turn
        share = (gap[0] * way[1] - gap[1] * way[0]) / turn
        top = start[2] + share * (end[2] - start[2])
        if along > 0 and 0 <= share <= 1 and place[2] + along * way[2] < top:
            return True
    ((east, north),) = TREE.points
    ground = float(found.site.ground.level_m(east, north))
    # Its crown: an ellipsoid down to where common practice has its foot, and shut from there down.
    foot = 0.25 * TREE.height_m
    middle = np.array([east, north, ground + (foot + TREE.height_m) / 2])
    size = np.array([TREE.width_m / 2, TREE.width_m / 2, (TREE.height_m - foot) / 2])
    for lower in np.linspace(0.0, 6.0, 25):
        from_, to = (place - middle + [0, 0, lower]) / size, way / size
        b, c = float(from_ @ to), float(from_ @ from_) - 1
        if b < 0 and b * b >= float(to @ to) * c:
            return True
    return False


@pytest.mark.parametrize(
    ("upright", "halved"), [(True, False), (True, True), (False, False)], ids=["whole", "cut", "lies"]
)
def test_modules_are_lit_where_rays_reach_all_their_cells(upright: bool, halved: bool) -> None:
    design = shaded(orientation="portrait" if upright else "landscape")
    found = plan(design)
    rows, sky = found.rows, found.energy.sky
    cells = replace(found.energy.arrays[0].panel.cells, halved=halved)
    assert isinstance(cells, Cells) and cells.upright == upright
    count = rows.module_count
    rng = np.random.default_rng(7)
    chosen = np.sort(rng.choice(count, 14, replace=False))
    standing = standing_of(found.site.keepouts, found.site.ground)
    shade = module_shade(sky, rows, chosen, cells, (standing, (), NO_HILLS), 0.2)
    # Steps in which it is light on the glass, and the sun high enough that sectors tell.
    own = np.flatnonzero(sky.beam_w_m2 + sky.diffuse_w_m2 > 0)
    assert shade.lit.shape[2] == own.size
    bright = np.flatnonzero(sky.altitude_deg[own] > 3)
    quads, compared, differs = corners_of(found), 0, 0
    high, width = rows.modules_high, rows.module_along_m + rows.gap_along_m
    for at in range(len(chosen)):
        column, row = divmod(int(chosen[at]), high)
        table, place = divmod(column, int(rows.tables.columns[0]))
        quad = quads[table]
        across = (place * width + rows.module_along_m / 2) / float(rows.tables.lengths_m[table])
        foot, head = (quad[a] + across * (quad[b] - quad[a]) for a, b in ((0, 1), (3, 2)))
        for step in rng.choice(bright, 25).tolist():
            altitude, azimuth = float(sky.altitude_deg[own][step]), float(sky.azimuth_deg[own][step])
            facing = math.cos(math.radians(azimuth - rows.facing_deg))
            tilt = math.radians(rows.section.tilt_deg)
            rise = math.sin(math.radians(altitude)) * math.cos(tilt)
            if rise + math.cos(math.radians(altitude)) * math.sin(tilt) * facing < 0.1:
                continue
            told = []
            for part in range(shade.lit.shape[1]):
                # The lowest and the highest cells of what one diode, or half a module, takes.
                short = cells.across_m if upright else cells.up_m
                cell = short / (2 * cells.groups)
                if not upright:
                    ends = [[(2 * part + 0.5) * cell, (2 * part + 1.5) * cell]]
                elif halved:
                    half = cells.up_m / 2
                    ends = [[cell / 4, half - cell / 4], [half + cell / 4, cells.up_m - cell / 4]]
                else:
                    ends = [[cell / 2, cells.up_m / 2, cells.up_m - cell / 2]]
                states = []
                for nudge in ((0.0, 0.0), (1.5, 0.0), (-1.5, 0.0), (0.0, 1.5), (0.0, -1.5)):
                    free = []
                    for one in ends:
                        ups = [(float(rows.lows_m[row]) + up) / rows.section.chord_m for up in one]
                        free.append(
                            not any(
                                _ray(
                                    foot + up * (head - foot),
                                    altitude + nudge[0],
                                    azimuth + nudge[1],
                                    found,
                                    table,
                                )
                                for up in ups
                            )
                        )
                    states.append(sum(free) / len(free))
                told.append(states)
            for part, states in enumerate(told):
                if len(set(states)) == 1:
                    compared += 1
                    differs += abs(float(shade.lit[at, part, step]) - states[0]) > 1e-6
    assert compared > 150 and differs <= compared // 400


@settings(max_examples=8, deadline=None)
@given(
    along=st.integers(3, 9),
    pitch=st.floats(4.2, 9.0),
    walk=st.sampled_from(["row by row", "whole rows", "column by column", "every other and back"]),
)
def test_each_string_is_summed_up_over_its_own_modules(along: int, pitch: float, walk: str) -> None:
    design = changed(shaded(modules_along=along, pitch_m=pitch), "wiring", string_walk=walk)
    found = plan(design)
    walks = walks_of(design, found)
    assert isinstance(walks, Walks) and walks.ways[0].walk == walk and len(walks.ways) == 4
    count = found.rows.module_count
    # A small array is followed whole, and every way takes each module once.
    assert walks.modules.tolist() == list(range(count))
    standing = standing_of(found.site.keepouts, found.site.ground)
    cells = found.energy.arrays[0].panel.cells
    shade = module_shade(
        found.energy.sky,
        found.rows,
        walks.modules,
        cells,
        (standing, (), NO_HILLS),
        found.energy.arrays[0].upkeep.albedo,
    )
    whole = float(shade.whole.sum())
    currents = shade.even + (1 - shade.even) * shade.lit
    for way in walks.ways:
        order, start = way.circuit.leads.order, 0
        assert sorted(order.tolist()) == list(range(count))
        for string, length in enumerate(way.circuit.strings.lengths.tolist()):
            parts = currents[order[start : start + length]].reshape(-1, shade.whole.size)
            ranked = -np.sort(-parts, axis=0)
            # The n strongest run at the n-th one's current.
            share = np.arange(1, len(ranked) + 1)[:, None] / len(ranked)
            keeps = float((ranked * share).max(axis=0) @ shade.whole) / whole
            assert way.keeps[string] == pytest.approx(keeps, abs=1e-6)
            assert way.keeps[string] <= way.alone[string] + 1e-9
            start += length
    assert walks.best.kept == pytest.approx(max(one.kept for one in walks.ways), abs=2e-6)


def test_winter_shade_on_the_lower_row_alone_wants_whole_rows() -> None:
    """Common practice: rows that shade each other in winter are strung row by row of modules."""
    bare = changed(shaded(pitch_m=4.4, modules_along=12), "site", features=())
    found = walks_of(bare, plan(bare))
    assert found is not None
    by_name = {one.walk: one for one in found.ways}
    assert by_name["whole rows"].mixing < by_name["row by row"].mixing * 0.9
    assert found.best.walk == "whole rows"


@pytest.mark.parametrize("units", ["us", "metric"])
def test_the_sheet_offers_what_saves_and_nothing_else(units: UnitSystem) -> None:
    bare = changed(shaded(pitch_m=4.4, modules_along=12), "site", features=())
    sheet = strings_sheet(bare, plan(bare), units)
    (offered,) = sheet.takes
    assert [(one.path, one.text) for one in offered.edits] == [("wiring.string_walk", "whole rows")]
    ways, each = sheet.tables
    assert ways.rows[0][0] == "row by row, as now" and len(ways.rows) == 4
    assert len(each.rows) == plan(bare).circuit.strings.count
    taken = changed(bare, "wiring", string_walk="whole rows")
    assert not strings_sheet(taken, plan(taken), units).takes
