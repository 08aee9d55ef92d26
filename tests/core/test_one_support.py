"""One support by itself: the same needs as in the array, and a calculation that is followed by hand."""

from datetime import UTC, datetime
from io import BytesIO
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pypdf import PdfReader

from openfurrow.core.compare.one_support import OF_ALL, on_one_support
from openfurrow.core.design import Design
from openfurrow.core.lacking import Lacking
from openfurrow.core.plan import plan, untried
from openfurrow.core.quantities import format_value
from openfurrow.core.site.load_tests import LoadTestGivens
from openfurrow.core.site.soil import HoleGivens
from openfurrow.demo.designs import DESIGNS
from openfurrow.exchange.papers.calculation import calculation_pages
from openfurrow.exchange.papers.content import Issue
from openfurrow.exchange.papers.write import Setting, write_calculation
from openfurrow.sheets.drawings.carried import used_drawing
from openfurrow.sheets.layers_table import layers_table
from openfurrow.sheets.one_footing import one_footing_sheet
from tests.designs import changed, designs
from tests.reference.test_layers import CELL, Ground, layers, waters

ISSUE = Issue(
    revision=4,
    saved=datetime(2026, 5, 3, 8, 0, tzinfo=UTC),
    issued=False,
    made=datetime(2026, 5, 4, tzinfo=UTC),
    draft=True,
)


@settings(max_examples=25)
@given(design=designs(), pick=st.integers(0, 10_000))
def test_alone_it_asks_for_what_it_asks_for_among_the_others(design: Design, pick: int) -> None:
    found = untried(design)
    if not found.has("footings"):
        return
    index = pick % found.structure.supports.count
    alone = on_one_support(design, found, index)
    whole, own = found.footings.posts, alone.footings.posts
    if whole.masses_kg is not None:
        assert own.masses_kg is not None
        # Alone no heavier one of its line is followed.
        assert own.masses_kg.max() <= whole.masses_kg.max() + 1e-6
        return
    assert own.depths_m.size == 1
    assert own.depths_m[0] == pytest.approx(whole.depths_m[index])
    assert own.lengths_m[0] == pytest.approx(whole.lengths_m[index])
    kind = whole.kinds[int(found.structure.supports.kind[index])]
    np.testing.assert_array_equal(own.kinds[0].loads.down_n, kind.loads.down_n)
    assert own.kinds[0].needs.frost_m == kind.needs.frost_m
    # At one and the same depth each way of failing asks for the same.
    assert own.kinds[0].needs.all_m == pytest.approx(kind.needs.all_m, abs=0.03)
    # What stops it alone stops the whole.
    stops = {check.key for check in alone.footings.checks if check.level == "stop"} - OF_ALL
    assert stops <= {check.key for check in found.footings.checks if check.level == "stop"}


def test_what_was_pulled_stands_in_the_layers_too(plain: Design) -> None:
    test = {"readings": ((9e3, 0.02),), "depth_m": 2.0, "id": "t1"}
    whole, tested = (
        plan(changed(plain, "site", load_tests=tests)).footings.posts
        for tests in ((), (LoadTestGivens.model_validate(test),))
    )
    share = tested.kinds[0].ground.lift.share
    assert share != 1.0
    grips = [
        sum(shown(row[5]) for row in layers_table(posts.kinds[0], 2.0, "metric").rows)
        for posts in (whole, tested)
    ]
    assert grips[1] == pytest.approx(share * grips[0], rel=0.01)
    assert "as tested" in layers_table(tested.kinds[0], 2.0, "metric").note


def shown(text: str) -> float:
    """The number of what is written with its unit."""
    return float("".join(one for one in text if one in "-0123456789."))


@settings(max_examples=15)
@given(found=layers, water=waters, pack=st.sampled_from(["us", "metric"]), depth=st.floats(1.0, 4.0))
def test_layers_sum_to_what_the_ground_grips(
    plain: Design, found: tuple, water: float | None, pack: str, depth: float
) -> None:
    """Cell by cell from outside: pressure, grip and hold of each stretch, and the grip in all."""
    hole = HoleGivens(name="h", layers=found, water_m=water)
    design = changed(plain, "site", rule_pack=pack, test_holes=(hole,), terrain="II")
    posts = plan(changed(design, "footings", depth_m=depth)).footings.posts
    table = layers_table(posts.kinds[0], depth, "metric")
    ground, frost = Ground(hole, depth + 1), max(0.3, design.site.frost_depth_m or 0.0)
    force = sum(
        ground.friction_pa(k) * posts.post.perimeter_m * CELL
        for k, z in enumerate(ground.middle)
        if frost < z < depth
    )
    said = sum(shown(row[5]) * 1e3 for row in table.rows)
    assert said == pytest.approx(force, rel=0.02, abs=60.0)
    # Stretches follow each other down to the depth.
    ends = [(shown(row[1]) / 1e3, shown(row[2]) / 1e3) for row in table.rows]
    assert ends[0][0] == 0 and ends[-1][1] == pytest.approx(depth, abs=1e-3)
    assert all(above[1] == below[0] for above, below in pairwise(ends))
    # Where grip begins is an edge of its own: above it nothing is credited.
    assert frost >= depth or any(abs(top - frost) < 1e-3 for top, _ in ends)
    assert all(
        shown(row[5]) == 0 for (_, end), row in zip(ends, table.rows, strict=True) if end <= frost
    )
    for (top, bottom), row in zip(ends, table.rows, strict=True):
        middle = (top + bottom) / 2
        k = min(int(middle / CELL), len(ground.middle) - 1)
        near = min(abs(middle - layer[0]) for layer in found)
        if near < 0.02 or (water is not None and abs(middle - water) < 0.02):
            continue
        pressure = shown(row[3]) * 1e3
        assert pressure == pytest.approx(ground.pressure[k], rel=0.02, abs=150)


@pytest.mark.parametrize("name", ["larkspur-two", "grifo", "quillay", "varnbeck", "marram"])
@pytest.mark.parametrize("units", ["us", "metric"])
def test_every_demo_has_a_calculation_of_its_last_support(name: str, units: str) -> None:
    design = DESIGNS[name]()
    for one in plan(design).each()[:2]:
        index = one.structure.supports.count - 1
        pages = calculation_pages(design, one, index, units)  # type: ignore[arg-type]
        assert [page.title[0] for page in pages] == ["1", "2", "3", "4", "5"]
        lines = [text.label.split()[0] for page in pages for text in page.workings]
        assert len(lines) == len(set(lines)) and lines[0] == "2.1"
        for page in (pages[1], pages[3]):
            assert all(text.working.source for text in page.workings)
        # Every rule of the footing has its clause or says that it is common practice.
        assert pages[4].checks and all(check.source for check in pages[4].checks)
        sheet = one_footing_sheet(design, one, units, index)  # type: ignore[arg-type]
        assert f"{index + 1}, " in sheet.drawings[0].title or one.footings.weights is not None


def test_the_pdf_says_what_was_reckoned() -> None:
    design = DESIGNS["larkspur"]()
    found = plan(design)
    content = write_calculation(design, found, 3, ISSUE, Setting("letter", "us"))
    text = " ".join(page.extract_text() for page in PdfReader(BytesIO(content)).pages)
    flat = " ".join(text.split())
    posts = found.footings.posts
    kind = posts.kinds[int(found.structure.supports.kind[3])]
    assert "draft on revision 4, as of 2026-05-03 08:00 UTC" in flat
    assert "Calculation of post 4" in flat
    for need in kind.needs.all_m:
        assert format_value(need, "tape", "us") in flat
    # The pull that governs and its safety, and the clause that is looked at.
    assert format_value(kind.needs.uplift_n, "force", "us") in flat
    assert "F = 3.000" in flat and "IBC 2018, 1807.3.2.1" in flat
    assert f"4.{len(calculation_pages(design, found, 3, 'us')[3].workings)} " in flat


def test_a_job_without_footings_has_no_calculation(plain: Design) -> None:
    bare = changed(plain, "site", frost_depth_m=None)
    with pytest.raises(Lacking):
        calculation_pages(bare, untried(bare), 0, "us")


@settings(max_examples=15)
@given(design=designs())
def test_supports_are_shaded_by_what_is_asked_of_what_is_there(design: Design) -> None:
    found = untried(design)
    if not found.has("footings"):
        return
    drawn = used_drawing(found)
    posts, weights = found.footings.posts, found.footings.weights
    if weights is not None:
        used = weights.asked_kg / weights.masses_kg
    else:
        used = posts.asked_m / posts.depths_m
    shades: dict[str, set[tuple[float, float]]] = {}
    for mark in drawn.marks:
        if mark.kind in ("dot", "dots"):
            shades.setdefault(mark.layer, set()).update(mark.points)
    places = found.places
    for index in range(min(used.size, 40)):
        at = tuple(np.round((places.east_m[index], places.north_m[index]), 4).tolist())
        ends = (0.6, 0.8, 0.95, 1.0)
        number = next((k for k, end in enumerate(ends, 1) if used[index] <= end + 1e-6), 5)
        wanted = f"carries-{number}" if number < 5 else "post-hit"
        near = {k for k, end in enumerate(ends, 1) if abs(used[index] - end) < 1e-6}
        drawn_in = {layer for layer, points in shades.items() if at in points}
        assert drawn_in & ({wanted} | {f"carries-{k}" for k in near}), (used[index], at, shades)
