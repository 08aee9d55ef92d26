"""Holes at full size: the strokes of the printed sheets, measured in millimetres as a ruler would.

ISO 32000: paths, curves and their transformations; a point is 1/72 inch.
"""

import io
from datetime import UTC, datetime
from typing import Any, Literal

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from numpy.typing import NDArray
from pypdf import PdfReader
from pypdf.generic import ContentStream

from openfurrow.core.edits import DesignError
from openfurrow.core.plan import untried
from openfurrow.core.trench.wall import Holes
from openfurrow.demo.designs import DESIGNS
from openfurrow.exchange.papers.content import Issue
from openfurrow.exchange.papers.template import SHEETS_MM, template_sheets
from openfurrow.exchange.papers.write import Setting, write_template

Floats = NDArray[np.float64]
MM = 25.4 / 72
NOW = datetime(2026, 4, 1, tzinfo=UTC)
ISSUE = Issue(revision=1, saved=NOW, issued=False, made=NOW, draft=True)


def strokes(page: Any, reader: PdfReader) -> tuple[list[Floats], list[Floats]]:
    """Curved outlines and straight strokes as they come to lie on the sheet, in mm."""
    now, kept = np.eye(3), []
    path: list[tuple[float, float]] = []
    curved, curves, lines = False, [], []
    for operands, name in ContentStream(page.get_contents(), reader).operations:
        values = [float(one) for one in operands if isinstance(one, (int, float))]
        match name:
            case b"q":
                kept.append(now)
            case b"Q":
                now = kept.pop()
            case b"cm":
                a, b, c, d, e, f = values
                now = np.array([[a, b, 0], [c, d, 0], [e, f, 1]]) @ now
            case b"m":
                path, curved = [(values[0], values[1])], False
            case b"l":
                path.append((values[0], values[1]))
            case b"c":
                path.append((values[4], values[5]))
                curved = True
            case b"S" | b"s":
                at = np.column_stack((np.array(path), np.ones(len(path)))) @ now
                (curves if curved else lines).append(at[:, :2] * MM)
    return curves, lines


@pytest.mark.parametrize(
    ("name", "paper"), [("varnbeck", "a4"), ("larkspur", "letter"), ("grifo", "a4")]
)
def test_circles_and_bars_are_as_large_on_paper_as_in_the_plan(
    name: str, paper: Literal["letter", "a4"]
) -> None:
    design = DESIGNS[name]()
    found = untried(design)
    holes = found.trench.holes
    assert holes is not None
    units = design.site.display_units
    reader = PdfReader(io.BytesIO(write_template(design, found, ISSUE, Setting(paper, units))))
    assert len(reader.pages) == 2
    for page, sign in zip(reader.pages, (1.0, -1.0), strict=True):
        width, high = (float(one) * MM for one in (page.mediabox.width, page.mediabox.height))
        assert (width, high) == pytest.approx(SHEETS_MM[paper], abs=0.2)
        curves, lines = strokes(page, reader)
        assert len(curves) == holes.right_m.size
        middles = []
        for curve in curves:
            size = np.ptp(curve, axis=0)
            assert size == pytest.approx([holes.across_m * 1e3] * 2, abs=0.05)
            middles.append((curve.max(axis=0) + curve.min(axis=0)) / 2)
        told = np.array(sorted(one[0] for one in middles))
        wanted = np.sort(sign * holes.right_m) * 1e3
        assert np.diff(told) == pytest.approx(np.diff(wanted), abs=0.05)
        # All on one level, and a cross through the middle of each.
        assert np.ptp([one[1] for one in middles]) == pytest.approx(0, abs=0.05)
        for middle in middles:
            through = [one for one in lines if np.abs(one.mean(axis=0) - middle).max() < 0.05]
            assert {bool(np.ptp(one, axis=0)[0] < 0.05) for one in through} == {True, False}
        bar = 101.6 if units == "us" else 100.0
        assert any(np.ptp(one[:, 0]) == pytest.approx(bar, abs=0.05) for one in lines)
        for every in (*curves, *lines):
            assert every.min() >= 5 and (every.max(axis=0) <= np.array([width, high]) - 5).all()


@settings(max_examples=60, deadline=None)
@given(
    first=st.floats(-1.5, 1.5),
    count=st.integers(1, 9),
    across=st.floats(0.012, 0.13),
    out_up=st.floats(-1, 1),
    paper=st.sampled_from(["letter", "a4"]),
)
def test_every_hole_stands_on_a_sheet_in_its_own_place(
    first: float, count: int, across: float, out_up: float, paper: str
) -> None:
    holes = Holes(
        right_m=first + 2 * across * np.arange(count),
        out_up_m=out_up,
        in_up_m=out_up + 0.01,
        across_m=across,
        thick_m=0.2,
        bay_m=None,
    )
    sheets = template_sheets(holes, paper, "metric")
    for face, sign, up in (("outside", 1.0, out_up), ("inside", -1.0, out_up + 0.01)):
        own = [one for one in sheets if one["title"].startswith(f"Holes {face}")]
        places = np.sort(sign * holes.right_m) * 1e3
        seen = 0
        for sheet in own:
            xs = np.array([hole["x"] for hole in sheet["holes"]])
            assert np.diff(xs) == pytest.approx(np.diff(places[seen : seen + xs.size]))
            assert xs.min() - across * 500 >= 11.9 and xs.max() + across * 500 <= sheet["wide"] - 11.9
            if sheet["point"] is not None:
                # The point is where it truly is from the holes: as far aside, and as far up or down.
                assert xs[0] - sheet["point"]["x"] == pytest.approx(places[seen])
                assert sheet["point"]["y"] - sheet["level"] == pytest.approx(up * 1e3)
            seen += xs.size
        assert seen == count


def test_a_job_without_a_wall_says_what_to_measure() -> None:
    design = DESIGNS["quillay"]()
    with pytest.raises(DesignError) as refused:
        write_template(design, untried(design), ISSUE, Setting("a4", "metric"))
    (problem,) = refused.value.problems
    assert problem.path == "trench.wall_thick_m" and "thick" in problem.remedy
