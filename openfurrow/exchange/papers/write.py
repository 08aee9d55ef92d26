"""The set of papers as PDF: drawings as vectors, every sheet with the job, its revision and the day."""

import json
import tempfile
from collections.abc import Callable
from dataclasses import dataclass
from importlib.resources import files
from pathlib import Path
from typing import Any, Literal

import typst

from openfurrow.core.design import Design
from openfurrow.core.edits import DesignError, Problem
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem
from openfurrow.exchange.papers.calculation import calculation_pages
from openfurrow.exchange.papers.content import Issue, Page, pages
from openfurrow.exchange.papers.template import template_sheets
from openfurrow.sheets.marks import Drawing
from openfurrow.sheets.models import TableText
from openfurrow.sheets.paper.styles import colours
from openfurrow.sheets.paper.svg import FOOT, PAD, drawing_svg

Paper = Literal["letter", "a4"]
PAPERS: tuple[Paper, ...] = ("letter", "a4")
# Points of the sheet's drawings: a sheet across, less its margins, and the height that is left.
SIZES: dict[Paper, tuple[float, float]] = {"letter": (960.0, 560.0), "a4": (1020.0, 540.0)}
# A drawing that has no scale leaves numbers and lists some room; one to scale takes what it wants.
SHARE = 0.62
LEAST_SHARE = 0.4
Tell = Callable[[float, str], None]
TYPST_PAPER: dict[Paper, str] = {"letter": "us-letter", "a4": "a4"}


@dataclass(frozen=True)
class Setting:
    """How the papers are wanted."""

    paper: Paper
    units: UnitSystem


def _table(table: TableText) -> dict[str, Any]:
    return {
        "title": table.title,
        "columns": [{"title": one.title, "number": one.number} for one in table.columns],
        "rows": [list(row) for row in table.rows],
        "left_out": table.left_out,
        "note": table.note,
    }


def _height(drawing: Drawing, width: float, most: float) -> float:
    """How high a drawing is set, over the whole width where it can be."""
    if not drawing.to_scale:
        return most * SHARE
    (x0, y0), (x1, y1) = drawing.low, drawing.high
    wanted = (width - 2 * PAD) * (y1 - y0) / max(x1 - x0, 1e-6) + 2 * PAD + FOOT
    return min(most, max(most * LEAST_SHARE, wanted))


def _page(number: int, page: Page, setting: Setting, into: Path) -> dict[str, Any]:
    """A page as the template reads it; its drawings are written beside it."""
    width, height = SIZES[setting.paper]
    height *= page.drawn_high
    drawn = []
    for index, drawing in enumerate(page.drawings):
        name = f"{number}-{index}.svg"
        svg = drawing_svg(drawing, width, _height(drawing, width, height), setting.units)
        (into / name).write_text(svg, encoding="utf-8")
        drawn.append({"file": name, "title": drawing.title, "legend": list(drawing.legend)})
    return {
        "title": page.title,
        "caution": page.caution,
        "lines": list(page.lines),
        "drawings": drawn,
        "answers": [
            {"label": one.label, "text": one.text, "headline": one.headline} for one in page.answers
        ],
        "checks": [one.model_dump() for one in page.checks],
        "tables": [_table(one) for one in page.tables if one.rows],
        "workings": [one.model_dump() for one in page.workings],
    }


@dataclass(frozen=True, kw_only=True)
class Papers:
    """Sheets that are set together: of which job, made from what, and what of it is missing.

    ``cover``: the first has no title but the job's name.
    """

    name: str
    issue: Issue
    missing: int
    pages: tuple[Page, ...]
    cover: bool = False


def write_papers(
    design: Design, plan: Plan, issue: Issue, setting: Setting, tell: Tell = lambda share, words: None
) -> bytes:
    """The set. What could not be planned has no sheet, and the cover says what is missing."""
    every = tuple(pages(design, plan, setting.units))
    papers = Papers(name=design.name, issue=issue, missing=len(plan.missing), pages=every, cover=True)
    return set_papers(papers, setting, tell)


def write_calculation(design: Design, plan: Plan, index: int, issue: Issue, setting: Setting) -> bytes:
    """The calculation of one support of the open array. Raises Lacking."""
    every = calculation_pages(design, plan, index, setting.units)
    return set_papers(Papers(name=design.name, issue=issue, missing=0, pages=every), setting)


def set_papers(papers: Papers, setting: Setting, tell: Tell = lambda share, words: None) -> bytes:
    """Sheets as PDF: drawings as vectors, each sheet with the job, its revision and the day."""
    every, issue = papers.pages, papers.issue
    with tempfile.TemporaryDirectory() as folder:
        into = Path(folder)
        written = []
        for number, page in enumerate(every):
            tell(0.8 * number / len(every), page.title)
            written.append(_page(number, page, setting, into))
        told = {
            "name": papers.name,
            "issue": issue.words,
            "made": f"{issue.made:%Y-%m-%d}",
            "paper": TYPST_PAPER[setting.paper],
            "missing": papers.missing,
            "cover": papers.cover,
            "colours": dict(colours()),
            "pages": written,
        }
        tell(0.85, "setting the sheets")
        return _set(into, "set.typ", told, issue)


def write_template(design: Design, plan: Plan, issue: Issue, setting: Setting) -> bytes:
    """Where the wall is drilled, full size. Raises Lacking, or DesignError where no wall is known."""
    holes = plan.trench.holes
    if holes is None:
        raise DesignError(
            (
                Problem(
                    "trench.wall_thick_m",
                    "The wall",
                    "no wall was measured",
                    "a wall with its thickness",
                    "Say what wall the way passes, how thick it is and where the hole is: on Trench.",
                ),
            )
        )
    told = {
        "name": design.name,
        "issue": issue.words,
        "paper": TYPST_PAPER[setting.paper],
        "sheets": template_sheets(holes, setting.paper, setting.units),
    }
    with tempfile.TemporaryDirectory() as folder:
        return _set(Path(folder), "template.typ", told, issue)


def _set(into: Path, template: str, told: dict[str, Any], issue: Issue) -> bytes:
    """What is said in a template of this package, as PDF."""
    (into / "set.json").write_text(json.dumps(told), encoding="utf-8")
    text = (files(__package__) / template).read_text(encoding="utf-8")
    (into / template).write_text(text, encoding="utf-8")
    return bytes(
        typst.compile(
            str(into / template),
            root=str(into),
            font_paths=[str(files(__package__) / "fonts")],
            ignore_system_fonts=True,
            format="pdf",
            timestamp=int(issue.made.timestamp()),
        )
    )
