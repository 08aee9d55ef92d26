"""The list as a tree: every branch is the sum of what hangs on it, and all of it is the list."""

from collections import Counter

import pytest

from openfurrow.core.materials.tree import WHOLE_JOB, Branch, assembly_of, tree_of
from openfurrow.core.plan import Plan, plan
from openfurrow.demo.designs import DESIGNS
from openfurrow.sheets.write import stage_sheet
from tests.designs import changed

DEMOS = ["larkspur-two", "grifo", "quillay", "varnbeck", "marram"]


def grown(name: str) -> tuple[Plan, tuple[Branch, ...], tuple[str, ...]]:
    design = DESIGNS[name]()
    found = plan(design)
    arrays = tuple(one.name for one in design.arrays)
    return found, tree_of(found.materials.cost.priced, arrays), arrays


@pytest.mark.parametrize("name", DEMOS)
def test_all_of_it_is_the_list(name: str) -> None:
    found, branches, _ = grown(name)
    parts = [one for one in branches if one.level == 4]
    ordered: Counter[tuple[str, str]] = Counter()
    for one in parts:
        ordered[one.name, one.kind] += one.quantity or 0.0
    wanted: Counter[tuple[str, str]] = Counter()
    for line in found.materials.lines:
        wanted[line.item, line.kind] += line.quantity
    assert ordered.keys() == wanted.keys()
    for key, quantity in wanted.items():
        assert ordered[key] == pytest.approx(quantity)
    root = branches[0]
    assert root.mass_kg == pytest.approx(sum(line.mass_kg for line in found.materials.lines))
    assert root.cost == pytest.approx(found.materials.cost.known)


@pytest.mark.parametrize("name", DEMOS)
def test_every_branch_is_what_hangs_on_it(name: str) -> None:
    _, branches, arrays = grown(name)
    assert [one.level for one in branches].count(0) == 1
    for at, one in enumerate(branches):
        if one.level == 4:
            continue
        below = []
        for other in branches[at + 1 :]:
            if other.level <= one.level:
                break
            if other.level == one.level + 1:
                below.append(other)
        assert below
        assert one.mass_kg == pytest.approx(sum(other.mass_kg for other in below))
        assert one.cost == pytest.approx(sum(other.cost for other in below))
        assert one.unpriced == sum(other.unpriced for other in below)
        assert len({other.name for other in below}) == len(below)
    told = [one.name for one in branches if one.level == 1]
    assert told == [one for one in (*arrays, WHOLE_JOB) if one in told]


def test_an_array_has_of_what_is_ordered_together_what_it_takes_alone() -> None:
    """Each array planned by itself takes of clamps and straps what its branch says, before waste."""
    design = DESIGNS["larkspur-two"]()
    found = plan(design)
    lines = {line.key: line for line in found.materials.lines}
    for number, array in enumerate(design.arrays):
        own = found.arrays[number].modules
        for key, wanted in (
            ("end_clamp", own.end_clamps),
            ("mid_clamp", own.mid_clamps),
            ("strap", own.bonding_straps),
        ):
            assert dict(lines[key].shares)[array.name] == wanted
        assert sum(net for _, net in lines["end_clamp"].shares) == lines["end_clamp"].net


def test_sticks_are_shared_by_what_is_cut_of_them() -> None:
    """Two arrays of one profile: by the metres of each, counted from their own cuts."""
    design = DESIGNS["marram"]()
    found = plan(design)
    line = next(one for one in found.materials.lines if one.key.startswith("sticks_purlin"))
    metres = {
        one.name: sum(cut.length_m * cut.count for cut in one.cuts if cut.key == "purlin")
        for one in found.materials.sawing.arrays
    }
    assert dict(line.shares) == pytest.approx(metres)


@pytest.mark.parametrize("name", DEMOS)
def test_every_part_belongs_to_something_of_its_stage(name: str) -> None:
    found, _, _ = grown(name)
    for line in found.materials.lines:
        assert assembly_of(line.stage, line.key) != line.stage or line.stage in ("frame", "footings")


def test_the_tree_is_a_table_with_costs_where_there_are_prices() -> None:
    design = DESIGNS["larkspur-two"]()
    for priced in (True, False):
        job = design if priced else changed(design, "materials", prices=())
        (table,) = (
            one for one in stage_sheet("materials", job, plan(job), "us").tables if one.key == "tree"
        )
        assert len(table.columns) == (5 if priced else 3)
        assert table.rows[0][0] == "The job"
        assert {row[0].count("\u2003") for row in table.rows} == {0, 1, 2, 3, 4}
