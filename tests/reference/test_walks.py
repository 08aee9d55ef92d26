"""Walks laid out one by one, and axles by statics: common practice where no source is named."""

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.edits import apply
from openfurrow.core.hauling.axles import Axles, middle_m, on_axles, reach_m
from openfurrow.core.hauling.walks import walks_of
from openfurrow.core.plan import plan, untried
from openfurrow.demo.designs import DESIGNS
from openfurrow.sheets.write import stage_sheet
from tests.core.breaks import WEIGHED
from tests.designs import changed, plain_larkspur

LANE_M = 1.5


@settings(max_examples=40, deadline=None)
@given(
    rows=st.integers(1, 3),
    tables=st.integers(1, 3),
    along=st.integers(1, 12),
    high=st.integers(1, 3),
    turn=st.floats(-40, 40),
    a_pallet=st.integers(1, 40),
)
def test_every_module_is_walked_once_from_its_own_pallet(
    rows: int, tables: int, along: int, high: int, turn: float, a_pallet: int
) -> None:
    """Laid out by hand: back and forth along the rows, each column up, pallet after pallet."""
    design = changed(
        plain_larkspur(),
        "rows",
        rows=rows,
        tables_along=tables,
        modules_along=along,
        modules_high=high,
        turn_deg=turn,
        follow_ground=False,
    )
    found = untried(design)
    walks, lie = walks_of(found.rows, a_pallet), found.rows.tables
    # Where one stands before each column, in the order in which they are set.
    order = []
    for row in range(rows):
        own = [(row * tables + table, column) for table in range(tables) for column in range(along)]
        order += own if row % 2 == 0 else own[::-1]
    places = []
    for table, column in order:
        from_middle = (column + 0.5) * found.rows.module_along_m + column * (
            found.rows.column_step_m - found.rows.module_along_m
        )
        from_middle -= lie.lengths_m[table] / 2
        east, north = lie.east_north_m(table, from_middle, lie.edge_back_m - LANE_M)
        places += [(float(east), float(north), table, column)] * high
    batches = [places[at : at + a_pallet] for at in range(0, len(places), a_pallet)]
    assert walks.count == len(batches) == math.ceil(rows * tables * along * high / a_pallet)
    assert walks.modules.tolist() == [len(batch) for batch in batches]
    for number, batch in enumerate(batches):
        stands = batch[(len(batch) - 1) // 2]
        assert walks.east_north_m[number] == pytest.approx(stands[:2], abs=1e-6)
        far = [math.dist(stands[:2], one[:2]) + LANE_M for one in batch]
        assert walks.furthest_m[number] == pytest.approx(max(far))
        assert walks.walked_m[number] == pytest.approx(sum(far))
        ends = walks.tables[number].tolist(), walks.columns[number].tolist()
        assert ends == ([batch[0][2], batch[-1][2]], [batch[0][3], batch[-1][3]])


def test_a_pallet_in_the_middle_of_a_row_is_walked_less_than_one_at_its_end() -> None:
    """The reason for it: half the way on average, as on any straight line."""
    found = untried(changed(plain_larkspur(), "rows", modules_along=20, modules_high=1))
    own = walks_of(found.rows, 20)
    step = found.rows.column_step_m
    at_its_end = sum(LANE_M + step * column for column in range(20))
    assert own.walked_m.sum() < 0.65 * at_its_end


def test_what_is_listed_is_what_is_walked() -> None:
    design = DESIGNS["larkspur-two"]()
    found = plan(design)
    (table,) = (
        one
        for one in stage_sheet("materials", design, found, "metric").tables
        if one.key == "load-pallets"
    )
    assert sum(int(row[3]) for row in table.rows) == sum(one.rows.module_count for one in found.arrays)


def test_arrays_that_share_a_name_keep_their_own_tables() -> None:
    """The second has tables that the first has not."""
    design = DESIGNS["larkspur-two"]()
    first, second = design.arrays
    rows = second.rows.model_copy(update={"tables_along": 3})
    renamed = second.model_copy(update={"name": first.name, "rows": rows})
    same = design.model_copy(update={"arrays": (first, renamed)})
    (table,) = (
        one
        for one in stage_sheet("materials", same, plan(same), "metric").tables
        if one.key == "load-pallets"
    )
    assert any(f"{first.name} (2)" in row[1] and "1.3" in row[1] for row in table.rows)


TRUCKS = st.builds(
    Axles,
    st.floats(2, 6),
    st.floats(0, 3),
    st.floats(1.5, 7),
    st.tuples(st.floats(500, 3000), st.floats(400, 3000)),
    st.tuples(st.floats(1000, 5000), st.floats(1000, 8000)),
    st.sampled_from([0.2, 0.05]),
)


@given(truck=TRUCKS, mass=st.floats(50, 6000), behind=st.floats(-1, 8))
def test_axles_balance(truck: Axles, mass: float, behind: float) -> None:
    """Forces and moments about the rear axle solved as two equations."""
    found = on_axles(truck, mass, behind)
    at = truck.bed_m + behind
    sides = np.array([[1.0, 1.0], [0.0, truck.apart_m]])
    front, rear = np.linalg.solve(sides, [mass, mass * at])
    assert found.front_kg == pytest.approx(truck.empty_kg[0] + front, abs=1e-6)
    assert found.rear_kg == pytest.approx(truck.empty_kg[1] + rear, abs=1e-6)


@given(truck=TRUCKS, mass=st.floats(50, 6000))
def test_where_a_load_may_lie_is_where_both_axles_bear_it(truck: Axles, mass: float) -> None:
    """Tried every centimetre: within the range all holds, beyond it something does not."""
    low, high = reach_m(truck, mass)
    for at in np.arange(-2, 10, 0.05).tolist():
        found = on_axles(truck, mass, at)
        bears = (
            found.front_kg <= truck.limits_kg[0]
            and found.rear_kg <= truck.limits_kg[1]
            and found.front_kg >= truck.stays * (found.front_kg + found.rear_kg)
        )
        if min(abs(at - low), abs(at - high)) > 1e-6:
            assert bears == (low < at < high)


def test_the_rule_follows_what_was_weighed() -> None:
    """By hand: long sticks against the front wall hang out behind and lift the front axle."""
    design = changed(plain_larkspur(), "schedule", deliveries=())
    design = changed(design, "materials", **WEIGHED)
    found = plan(design)
    checks = {one.key: one for one in found.hauling.checks}
    shares = []
    for load in found.hauling.own:
        mass = load.mass_kg * (1 + design.materials.unweighed)
        moments = [
            one.mass_kg * max(one.part.line.length_m, WEIGHED["truck_bed_m"]) / 2
            for one in load.carried
        ]
        middle = sum(moments) / load.mass_kg if load.mass_kg else WEIGHED["truck_bed_m"] / 2
        assert middle_m(load, WEIGHED["truck_bed_m"]) == pytest.approx(middle)
        rear = WEIGHED["empty_rear_kg"] + mass * (WEIGHED["bed_begins_m"] + middle) / 3.3
        front = WEIGHED["empty_front_kg"] + mass - (rear - WEIGHED["empty_rear_kg"])
        shares.append(max(rear / 2000, front / 1600))
    assert checks["axles"].measured == pytest.approx(max(shares))
    assert (checks["axles"].level == "sound") == (max(shares) <= 1)


@pytest.mark.parametrize("left_out", sorted(WEIGHED))
def test_an_axle_that_nobody_weighed_is_not_looked_at(left_out: str) -> None:
    design = changed(plain_larkspur(), "schedule", deliveries=())
    said: dict[str, Any] = WEIGHED | {left_out: None}
    checks = {one.key: one for one in plan(changed(design, "materials", **said)).hauling.checks}
    assert checks["axles"].level == "look" and checks["axles"].measured == "not looked at"
    assert "steers" not in checks


def test_of_a_trailer_a_twentieth_on_the_coupling_is_enough() -> None:
    """Common practice, no published source: a fifth on what steers, a twentieth on a coupling."""
    design = changed(plain_larkspur(), "schedule", deliveries=())
    told = {}
    for rides in ("a truck", "a trailer"):
        said: dict[str, Any] = WEIGHED | {"bed_begins_m": 2.3, "loads_ride_on": rides}
        found = plan(changed(design, "materials", **said))
        told[rides] = {one.key: one for one in found.hauling.checks}["steers"]
    assert [told[rides].level for rides in told] == ["stop", "sound"]
    assert told["a truck"].measured == told["a trailer"].measured


def test_axles_are_told_as_the_trade_writes_them() -> None:
    edits = (("materials.axles_apart_m", "11 ft 2 in"), ("materials.rear_axle_kg", "4400 lb"))
    told = apply(plain_larkspur(), edits, "us").materials
    assert told.axles_apart_m == pytest.approx(11 * 0.3048 + 2 * 0.0254)
    assert told.rear_axle_kg == pytest.approx(4400 * 0.45359237)
