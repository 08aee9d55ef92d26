"""Drawings and papers: marks to scale, words on the sheet and apart, nothing left out silently."""

import io
import math
import re
from datetime import UTC, date, datetime
from xml.etree import ElementTree as ET

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pypdf import PdfReader

from openfurrow.core.as_built import as_built
from openfurrow.core.beginning import from_nothing
from openfurrow.core.design import ARRAY_STAGES, Design
from openfurrow.core.plan import Plan, plan
from openfurrow.core.quantities import FOOT_M
from openfurrow.demo.designs import grifo, larkspur_with_pump_house, quillay
from openfurrow.exchange.papers.content import Issue, pages
from openfurrow.exchange.papers.write import PAPERS, SIZES, Setting, write_papers
from openfurrow.sheets.marks import Drawing, box, dimension, drawing, label, line
from openfurrow.sheets.paper.scale import fitted
from openfurrow.sheets.paper.svg import FOOT, PAD, drawing_svg
from openfurrow.sheets.paper.words import EDGE, placed, width_of
from openfurrow.sheets.write import stage_sheet
from tests.designs import plain_larkspur

SVG = "{http://www.w3.org/2000/svg}"
ISSUE = Issue(
    revision=4,
    saved=datetime(2026, 4, 1, 9, 30, tzinfo=UTC),
    issued=True,
    made=datetime(2026, 4, 2, tzinfo=UTC),
)


def whole(design: Design) -> Plan:
    return as_built(design, plan(design))


def every_drawing(design: Design) -> list[Drawing]:
    units = design.site.display_units
    return [one for page in pages(design, whole(design), units) for one in page.drawings]


@pytest.mark.parametrize("made", [plain_larkspur, larkspur_with_pump_house, grifo, quillay])
def test_every_drawing_stands_on_its_sheet_in_plain_svg(made: object) -> None:
    design = made()  # type: ignore[operator]
    width, height = SIZES["letter"]
    for one in every_drawing(design):
        root = ET.fromstring(drawing_svg(one, width, height, design.site.display_units))
        assert root.tag == f"{SVG}svg" and root.get("viewBox") == f"0 0 {width:.2f} {height:.2f}"
        patterns = {f"url(#{element.get('id')})" for element in root.iter(f"{SVG}pattern")}
        for element in root.iter():
            for name in ("fill", "stroke"):
                value = element.get(name, "none")
                assert re.fullmatch(r"none|#[0-9a-f]{3}|#[0-9a-f]{6}", value) or value in patterns
            # Nothing is fetched, nothing runs.
            assert not any("href" in name or name.startswith("on") for name in element.attrib)
            assert "var(" not in " ".join(element.attrib.values())
        for words in root.iter(f"{SVG}text"):
            x = float(words.get("x", "nan"))
            if "transform" not in words.attrib:
                assert 0 <= x <= width


@pytest.mark.parametrize("made", [larkspur_with_pump_house, grifo])
def test_words_that_may_move_hide_no_others(made: object) -> None:
    design = made()  # type: ignore[operator]
    for one in every_drawing(design):
        found = placed(one.marks, fitted(one, *SIZES["letter"], PAD))
        boxes = []
        for words in found:
            wide = width_of(words.mark.text)
            left = words.x - {"start": 0.0, "middle": wide / 2, "end": wide}[words.mark.anchor]
            assert left >= EDGE - 1e-6 or wide > SIZES["letter"][0]
            boxes.append((left, words.y - 13, left + wide, words.y, words.mark.free))
        for number, (l0, t0, r0, b0, free) in enumerate(boxes):
            if free:
                for l1, t1, r1, b1, _ in boxes[:number]:
                    assert not (l0 < r1 and l1 < r0 and t0 < b1 and t1 < b0)
        # What must be said is said.
        kept = {id(words.mark) for words in found}
        assert all(id(m) in kept for m in one.marks if m.kind == "label" and not m.free)


@settings(max_examples=60)
@given(
    wide=st.floats(0.5, 400),
    tall=st.floats(0.5, 400),
    units=st.sampled_from(["us", "metric"]),
)
def test_the_scale_bar_is_as_long_as_it_says_and_both_ways_have_one_scale(
    wide: float, tall: float, units: str
) -> None:
    made = drawing("x", "x", [box("soil", 0.0, 0.0, wide, tall)], low=(0.0, 0.0), high=(wide, tall))
    root = ET.fromstring(drawing_svg(made, 960.0, 560.0, units))  # type: ignore[arg-type]
    (outline,) = (p for p in root.iter(f"{SVG}path") if p.get("fill") == "url(#hatch-soil)")
    corners = [tuple(map(float, xy)) for xy in re.findall(r"([\d.-]+) ([\d.-]+)", outline.get("d", ""))]
    across = (corners[1][0] - corners[0][0]) / wide
    up = (corners[0][1] - corners[3][1]) / tall
    assert across == pytest.approx(up, rel=2e-2 + 0.02 / min(wide, tall))
    bars = [line_ for line_ in root.findall(f"{SVG}line") if line_.get("y1") == line_.get("y2")]
    said = [t.text for t in root.findall(f"{SVG}text") if t.text and t.text.split()[-1] in ("ft", "m")]
    if not bars:
        assert not said
        return
    long = float(bars[0].get("x2", "0")) - float(bars[0].get("x1", "0"))
    number, unit = said[-1].split()
    metres = float(number) * (FOOT_M if unit == "ft" else 1.0)
    assert unit == ("ft" if units == "us" else "m")
    assert long / metres == pytest.approx(across, rel=1e-2)


@settings(max_examples=60)
@given(
    angle=st.floats(-180, 180),
    long=st.floats(0.3, 8),
    offset=st.sampled_from([0.0, 7.0, -7.0]),
)
def test_a_dimension_runs_beside_what_it_measures_as_long_as_that_is(
    angle: float, long: float, offset: float
) -> None:
    a = (5.0, 5.0)
    b = (5.0 + long * math.cos(math.radians(angle)), 5.0 + long * math.sin(math.radians(angle)))
    made = drawing(
        "x",
        "x",
        [line("post", a, b), dimension("1' 2\"", a, b, offset)],
        low=(-5.0, -5.0),
        high=(15.0, 15.0),
    )
    scale = fitted(made, 600.0, 600.0 - FOOT, PAD)
    root = ET.fromstring(drawing_svg(made, 600.0, 600.0, "metric"))
    drawn = [
        tuple(float(one.get(name, "nan")) for name in ("x1", "y1", "x2", "y2"))
        for one in root.find(f"{SVG}g").iter(f"{SVG}line")  # type: ignore[union-attr]
    ]
    same = [
        one
        for one in drawn
        if math.dist(one[:2], one[2:]) == pytest.approx(long * scale.across, abs=0.05)
    ]
    assert same
    # So far aside, to the left of start to end where it is positive.
    (ax, ay), (bx, by) = scale.at(a), scale.at(b)
    found = max(same, key=lambda one: -abs(abs(_aside(one, (ax, ay), (bx, by))) - abs(offset) * 2.6))
    assert _aside(found, (ax, ay), (bx, by)) == pytest.approx(offset * 2.6, abs=0.05)


def _aside(found: tuple[float, ...], start: tuple[float, float], end: tuple[float, float]) -> float:
    """How far a line lies to the left of another, on a sheet whose y runs down."""
    ux, uy = end[0] - start[0], end[1] - start[1]
    size = math.hypot(ux, uy)
    return (uy * (found[0] - start[0]) - ux * (found[1] - start[1])) / size


def test_no_scale_is_drawn_where_there_is_none() -> None:
    made = drawing("x", "x", [line("post", (0, 0), (1, 90))], to_scale=False)
    root = ET.fromstring(drawing_svg(made, 600.0, 400.0, "us"))
    assert root.findall(f"{SVG}line") == [] and root.findall(f"{SVG}text") == []


def test_words_are_words_whatever_stands_in_them() -> None:
    told = '<b onload="x">&amp; 5\' < 6"'
    made = drawing("x", "x", [label(told, (0.5, 0.5))], low=(0, 0), high=(1, 1))
    root = ET.fromstring(drawing_svg(made, 600.0, 400.0, "us"))
    assert told in {words.text for words in root.iter(f"{SVG}text")}


# --- the set -----------------------------------------------------------------------------------
def read(design: Design, setting: Setting) -> list[str]:
    """What stands on each sheet, in one line."""
    content = write_papers(design, whole(design), ISSUE, setting)
    return [" ".join(p.extract_text().split()) for p in PdfReader(io.BytesIO(content)).pages]


@pytest.mark.parametrize("paper", PAPERS)
def test_every_number_of_every_stage_stands_in_the_set(paper: str) -> None:
    design = larkspur_with_pump_house()
    setting = Setting(paper, design.site.display_units)  # type: ignore[arg-type]
    sheets = read(design, setting)
    every = " ".join(sheets)
    for page in pages(design, whole(design), setting.units):
        assert page.title in every
        for answer in page.answers:
            words = " ".join(answer.text.split())
            assert answer.label in every and words in every, (page.title, answer.label, answer.text)
        for check in page.checks:
            assert check.title in every
    for number, sheet in enumerate(sheets, start=1):
        assert f"sheet {number} of {len(sheets)}" in sheet
        assert "revision 4, issued, saved 2026-04-01 09:30 UTC" in sheet
        assert "Made 2026-04-02" in sheet


def test_every_array_stands_in_the_set_with_its_stakes_its_strings_and_its_way() -> None:
    design = larkspur_with_pump_house()
    found = whole(design)
    sheets = read(design, Setting("letter", "us"))
    every = " ".join(sheets)
    for one in found.each():
        for stage in (*ARRAY_STAGES, "trench", "wiring", "stakeout", "materials"):
            sheet = stage_sheet(stage, design, one, "us")
            for answer in sheet.answers:
                assert answer.label in every and " ".join(answer.text.split()) in every
        name = one.array.name
        for title in ("Stakes", "Wiring", "Trench", "Footings"):
            assert any(f"{title}, {name}, sheet" in sheet for sheet in sheets), (title, name)
        # Every stake's line, number for number.
        (stakes,) = stage_sheet("stakeout", design, one, "us").tables
        own = " ".join(sheet for sheet in sheets if f"Stakes, {name}, sheet" in sheet)
        assert stakes.left_out == 0 and len(stakes.rows) == one.places.line.size
        for row in stakes.rows:
            assert " ".join(" ".join(cell.split()) for cell in row if cell) in own
    # What all of them share is shown once.
    titles = [page.title for page in pages(design, found, "us")]
    assert len(titles) == len(set(titles))
    materials = [page for page in pages(design, found, "us") if page.title.startswith("Materials")]
    assert sum(table.key == "materials" for page in materials for table in page.tables) == 1


def test_arrays_that_are_alike_have_each_their_own_drawings() -> None:
    design = plain_larkspur()
    (first,) = design.arrays
    twin = first.model_copy(
        update={
            "id": "twin",
            "name": "Twin",
            "rows": first.rows.model_copy(update={"at_north_m": 40.0}),
        }
    )
    both = design.model_copy(update={"arrays": (first, twin)})
    found = list(pages(both, whole(both), "us"))
    for title in ("Rows", "Structure", "Footings", "Frame", "Modules"):
        own = [page for page in found if page.title.startswith(f"{title}, ") and page.drawings]
        assert len(own) == 2, title


def test_a_name_is_no_program() -> None:
    name = '#panic("x") *bold* $x^2$ _a_ \\ <b> "5\' @ref // https://x'
    design = plain_larkspur().model_copy(update={"name": name})
    first = read(design, Setting("a4", "metric"))[0]
    assert " ".join(name.split()) in first


def test_a_job_from_nothing_has_a_cover_that_says_what_is_missing() -> None:
    design = from_nothing("Kestrel barn", "us", date(2026, 5, 4))
    sheets = read(design, Setting("letter", "us"))
    assert f"{len(plan(design).missing)} values have still to be said" in sheets[0]
    assert not any("Footings" in sheet for sheet in sheets)
    assert len(sheets) < 6


def test_the_same_plan_makes_the_same_papers() -> None:
    design, setting = plain_larkspur(), Setting("letter", "us")
    one, other = (write_papers(design, whole(design), ISSUE, setting) for _ in range(2))
    assert one == other
