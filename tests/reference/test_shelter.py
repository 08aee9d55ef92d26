"""Shelter by hand: which tables have others all around them, and what a report's share leaves of wind.

No code gives a credit for tables in the shelter of others: only what somebody typed from a report of
a wind tunnel, and whose it is, counts (common practice, no published source). Wind goes with the
square of its speed (physics).
"""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, untried
from openfurrow.core.structures.families import FAMILIES
from tests.core.test_checks import broken
from tests.designs import plain_larkspur


def field(**parts: dict[str, object]) -> Design:
    """Rows of tables on even ground, each footing as its own loads ask for."""
    said: dict[str, dict[str, object]] = {
        "site": {"slope": 0.0},
        "rows": {"rows": 5, "tables_along": 5, "modules_along": 4, "modules_high": 1},
        "structure": {"family": "two post lines", "lines_apart_m": 0.9},
        "footings": {"depths": "each post's own"},
    }
    both = {stage: said.get(stage, {}) | parts.get(stage, {}) for stage in {*said, *parts}}
    return broken(plain_larkspur(), both)


def sheltered_tables(found: Plan) -> set[int]:
    supports, kinds = found.structure.supports, found.structure.posts.kinds
    return set(supports.places.of_table[kinds.sheltered[supports.kind]].tolist())


def holes(designs: st.DrawFn) -> tuple[dict[str, object], ...]:
    """Tables taken out, moved off their row, turned or made shorter."""
    places = st.tuples(st.integers(1, 5), st.integers(1, 5)).map(lambda at: f"{at[0]}.{at[1]}")
    some = designs(st.lists(places, max_size=4, unique=True))
    found: list[dict[str, object]] = []
    for number, place in enumerate(some):
        how = designs(st.sampled_from(["out", "back", "turned", "short"]))
        said: dict[str, object] = {"id": f"t{number}", "place": place}
        said |= {
            "out": {"out": True},
            "back": {"back_m": 0.9},
            "turned": {"turn_deg": 8.0},
            "short": {"modules_along": 2},
        }[how]
        found.append(said)
    return tuple(found)


@settings(max_examples=40, deadline=None)
@given(
    tables=st.composite(holes)(),
    outer=st.integers(1, 2),
    ends=st.integers(1, 2),
)
def test_a_sheltered_table_has_others_wherever_one_looks(
    tables: tuple[dict[str, object], ...], outer: int, ends: int
) -> None:
    """Straight before and behind it, row by row, and beside it: looked for as areas on the plan."""
    design = field(
        rows={"tables": tables},
        structure={
            "shelter_share": 0.6,
            "shelter_report": "made up",
            "outer_rows": outer,
            "end_tables": ends,
        },
    )
    found = untried(design)
    laid = found.rows.tables
    assert laid.count > 1
    inside = sheltered_tables(found)
    in_line = [bool(value) for value in (laid.line == laid.row)]
    gap = laid.gap_m
    # Every row as one band of glass: tables that stand in it, the gaps between neighbours closed.
    bands = {}
    for row in set(laid.row[laid.row >= 0].tolist()):
        boxes = [
            shapely.box(run - long / 2 - gap / 2 - 0.15, 0, run + long / 2 + gap / 2 + 0.15, 1)
            for run, long, own, stands in zip(
                laid.run_m.tolist(), laid.lengths_m.tolist(), laid.row.tolist(), in_line, strict=True
            )
            if own == row and stands
        ]
        bands[row] = shapely.union_all(boxes)
    for table in range(laid.count):
        run, long, row = (
            float(laid.run_m[table]),
            float(laid.lengths_m[table]),
            int(laid.row[table]),
        )
        wants = in_line[table]
        for step in range(1, outer + 1):
            for beside in (row - step, row + step):
                need = shapely.LineString([(run - long / 2 + 0.1, 0.5), (run + long / 2 - 0.1, 0.5)])
                wants = wants and beside in bands and bands[beside].covers(need)
        if wants:
            # So many tables beside it, hand in hand.
            own = [
                part
                for part in getattr(bands[row], "geoms", [bands[row]])
                if part.covers(shapely.Point(run, 0.5))
            ]
            mates = [
                float(laid.run_m[other])
                for other in range(laid.count)
                if in_line[other]
                and int(laid.row[other]) == row
                and own[0].covers(shapely.Point(float(laid.run_m[other]), 0.5))
            ]
            wants = (
                sum(mate < run for mate in mates) >= ends and sum(mate > run for mate in mates) >= ends
            )
        assert (table in inside) is wants, (table, row, run)


@pytest.mark.parametrize("family", sorted(set(FAMILIES) - {"single pole"}))
@pytest.mark.parametrize("pack", ["us", "metric"])
def test_in_shelter_wind_counts_as_one_that_is_slower_and_outside_as_it_blows(
    family: str, pack: str
) -> None:
    """Wind across the row by the report's share is the wind of a speed whose square is that share."""
    share, wind = 0.49, 40.0
    site = {"rule_pack": pack, "wind_speed_m_s": wind}
    footings = {"table on blocks": "piled blocks", "ballast frame": "ballast"}
    common = {
        "rows": {"tilt_deg": 10.0, "lower_edge_m": 1.0},
        "footings": {"family": footings.get(family, "driven post")},
    }
    structure = {"family": family}
    counted = {"shelter_share": share, "shelter_report": "made up"}
    whole = untried(field(site=site, structure=structure, **common)).structure
    slow_site = site | {"wind_speed_m_s": wind * math.sqrt(share)}
    slow = untried(field(site=slow_site, structure=structure, **common)).structure
    lee = untried(field(site=site, structure=structure | counted, **common)).structure
    kind, inside = lee.supports.kind, lee.posts.kinds.sheltered[lee.supports.kind]
    assert inside.any() and not inside.all()
    # A gust at a corner is the site's own wind's; wind along the row stays whole.
    names = [
        name for name in lee.reactions.names if "along the row" not in name and "corner" not in name
    ]
    for name in names:
        for forces in ("down_n", "across_n", "moment_n_m"):
            own, bare, calm = (
                getattr(one.reactions, forces)[one.supports.kind, one.reactions.names.index(name)]
                for one in (lee, whole, slow)
            )
            scale = float(np.abs(bare).max()) + 1.0
            assert own[~inside] == pytest.approx(bare[~inside], abs=1e-9 * scale)
            assert own[inside] == pytest.approx(calm[inside], abs=1e-6 * scale)
    along = [name for name in lee.reactions.names if "along the row" in name]
    for name in along:
        own, bare = (
            one.reactions.along_n[one.supports.kind, one.reactions.names.index(name)]
            for one in (lee, whole)
        )
        assert own == pytest.approx(bare)
    assert kind.size == whole.supports.kind.size
    # Members stay those of a table that meets all of it.
    assert [one.share for one in lee.members.used] == pytest.approx(
        [one.share for one in whole.members.used]
    )


def test_posts_in_shelter_may_be_shorter_and_no_others_are() -> None:
    bare = untried(field()).footings.posts.depths_m
    counted = {"shelter_share": 0.5, "shelter_report": "made up"}
    lee = untried(field(structure=counted))
    inside = lee.structure.posts.kinds.sheltered[lee.structure.supports.kind]
    depths = lee.footings.posts.depths_m
    assert (depths[~inside] == bare[~inside]).all()
    # Where snow or frost asks for more than wind nothing is won.
    assert (depths[inside] <= bare[inside]).all()
    assert (depths[inside] < bare[inside]).any()
    # While its neighbours are not there it stands less: wind goes with the square root of what held.
    plain, early = (untried(one).structure for one in (field(), field(structure=counted)))
    stood = [
        next(one.value for one in found.answers if one.key == "half_glazed") for found in (plain, early)
    ]
    assert stood[1] < stood[0]
    # A table that is whole and alone meets all of the wind on footings that are sized for less.
    kinds, light = early.posts.kinds.sheltered, 0.6 * early.reactions.dead_n
    lift = [np.maximum(-one.reactions.down_n, 0.0).max(axis=1) for one in (plain, early)]
    alone = [
        float(lift[0][one]) + float(light[two])
        for one, two in zip(plain.supports.kind, early.supports.kind, strict=True)
        if kinds[two]
    ]
    sized = [float(lift[1][two]) + float(light[two]) for two in early.supports.kind if kinds[two]]
    over = max(one / two for one, two in zip(alone, sized, strict=True))
    wind = float(plain.loads_at[0].wind.working.inputs[-1].value)
    assert over > 1.0 and stood[1] <= wind / math.sqrt(over) * (1 + 1e-9)
    assert stood[1] <= plain.loads_at[0].wind.working.inputs[-1].value * math.sqrt(0.62)


def test_a_share_without_its_report_is_a_stop_and_one_that_counts_for_nothing_is_said() -> None:
    silent = untried(field(structure={"shelter_share": 0.6}))
    assert [one.level for one in silent.checks if one.key == "shelter"] == ["stop"]
    alone = untried(
        field(rows={"rows": 2}, structure={"shelter_share": 0.6, "shelter_report": "made up"})
    )
    assert [one.level for one in alone.checks if one.key == "in_shelter"] == ["look"]
    assert not alone.structure.posts.kinds.sheltered.any()
    none = untried(field())
    assert not [one for one in none.checks if "shelter" in one.key]
