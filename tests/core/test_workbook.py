"""The workbook of a job's tables, read as the archive of XML that it is; and prices brought in one.

ECMA-376, Part 1: SpreadsheetML, from memory: rows of cells, texts shared or in place.
"""

import csv
import io
import zipfile
from datetime import date
from typing import Any
from xml.etree import ElementTree

import pytest
from hypothesis import given
from hypothesis import strategies as st
from openpyxl import Workbook

from openfurrow.core.edits import DesignError
from openfurrow.core.plan import plan
from openfurrow.demo.designs import DESIGNS
from openfurrow.exchange.exports import EXPORTS, SHEETS
from openfurrow.exchange.prices_csv import prices_csv, read_prices, with_prices
from openfurrow.exchange.tables_csv import materials_csv
from openfurrow.exchange.wanted import Wanted
from openfurrow.exchange.workbook import workbook
from tests.designs import changed

NS = {"m": "http://schemas.openxmlformats.org/spreadsheetml/2006/main"}


def cells(archive: zipfile.ZipFile, number: int) -> list[list[str | float]]:
    """A sheet's cells, in its order; numbers are numbers."""
    shared: list[str] = []
    if "xl/sharedStrings.xml" in archive.namelist():
        root = ElementTree.fromstring(archive.read("xl/sharedStrings.xml"))
        shared = ["".join(one.itertext()) for one in root.findall("m:si", NS)]
    root = ElementTree.fromstring(archive.read(f"xl/worksheets/sheet{number}.xml"))
    found = []
    for row in root.iterfind(".//m:row", NS):
        told: list[str | float] = []
        for one in row.findall("m:c", NS):
            assert one.find("m:f", NS) is None, "a formula"
            value, kind = one.findtext("m:v", "", NS), one.get("t", "n")
            if kind == "s":
                told.append(shared[int(value)])
            elif kind == "inlineStr":
                told.append("".join(one.itertext()))
            else:
                told.append(float(value) if value else "")
        found.append(told)
    return found


@pytest.mark.parametrize("name", ["larkspur", "larkspur-two", "quillay"])
def test_every_sheet_says_what_its_table_says(name: str) -> None:
    design = DESIGNS[name]()
    found, wanted = plan(design), Wanted(units="metric")
    data = EXPORTS["tables.xlsx"].write(design, found, wanted)
    assert isinstance(data, bytes)
    archive = zipfile.ZipFile(io.BytesIO(data))
    assert archive.testzip() is None
    book = ElementTree.fromstring(archive.read("xl/workbook.xml"))
    titles = [one.get("name") for one in book.iterfind(".//m:sheet", NS)]
    assert titles == list(SHEETS)
    for number, write in enumerate(SHEETS.values(), start=1):
        told = list(csv.reader(io.StringIO(write(design, found, wanted))))
        seen = cells(archive, number)
        assert len(seen) == len(told)
        assert seen[0] == [head.replace("_", " ") for head in told[0]]
        for line, row in zip(seen[1:], told[1:], strict=True):
            for one, text in zip(line, row, strict=True):
                if isinstance(one, float):
                    assert one == pytest.approx(float(text))
                else:
                    assert one == text or text == f"'{one}"


def test_quantities_are_numbers_and_add_up() -> None:
    """A merchant sums a column: it is the plan's own sum."""
    design = DESIGNS["grifo"]()
    found = plan(design)
    book = workbook(design, found, Wanted(units="metric"), {"Materials": materials_csv})
    head, *rows = cells(zipfile.ZipFile(io.BytesIO(book)), 1)
    at = next(n for n, title in enumerate(head) if str(title).startswith("mass"))
    weighed = [row[at] for row in rows if row[at] != ""]
    assert all(isinstance(one, float) for one in weighed)
    whole = sum(line.mass_kg for line in found.materials.lines)
    assert sum(one for one in weighed if isinstance(one, float)) == pytest.approx(whole, abs=0.5)


@given(text=st.sampled_from(["=", "+", "-", "@"]).flatmap(lambda one: st.just(one + "HYPERLINK(1)")))
def test_nothing_that_was_typed_becomes_a_formula(text: str) -> None:
    design = changed(DESIGNS["quillay"](), "materials", prices=())
    named = design.model_copy(update={"name": text})
    data = workbook(
        named, plan(design), Wanted(units="us"), {"A": lambda one, *_: f"item\r\n'{one.name}\r\n"}
    )
    # `cells` looks at every cell for one.
    assert cells(zipfile.ZipFile(io.BytesIO(data)), 1) == [["item"], [text]]


def quoted(rows: list[list[Any]], title: str = "Sheet") -> bytes:
    book = Workbook()
    sheet = book.active
    assert sheet is not None
    sheet.title = title
    for row in rows:
        sheet.append(row)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


@given(
    amount=st.floats(0, 1e6).map(lambda one: round(one, 4)) | st.integers(0, 10**6),
    per=st.sampled_from(["piece", "m", "kg"]),
    day=st.dates(date(2020, 1, 1), date(2030, 1, 1)),
)
def test_a_price_in_a_cell_is_what_it_says(amount: float, per: str, day: date) -> None:
    """1.125 in a cell is a number that nobody takes for a thousand."""
    (one,) = read_prices(
        quoted([["Item", "Price", "per", "priced on"], ["Module", amount, per, day]]), "USD"
    )
    assert one.price == pytest.approx(amount, abs=1e-4)
    assert (one.item, one.per, one.priced_on) == ("Module", per, day)


def test_the_prices_sheet_filled_in_prices_every_line() -> None:
    design = changed(DESIGNS["quillay"](), "materials", prices=())
    out = list(csv.reader(io.StringIO(prices_csv(design, plan(design), Wanted(units="metric")))))
    rows = [out[0], *([row[0], 3, *row[2:]] for row in out[1:])]
    new, words = with_prices(design, quoted(rows, "Prices"), "yard.xlsx")
    assert plan(new).materials.cost.open == ()
    assert f"{len(rows) - 1} prices from yard.xlsx" == words


def archive_of(**files: bytes) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in files.items():
            archive.writestr(name, data)
    return out.getvalue()


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (archive_of(a=b"no workbook"), "cannot be read as a workbook"),
        (b"PK\x03\x04 and no more", "cannot be read as a workbook"),
        (archive_of(a=bytes(21_000_000)), "opens to far more than it is"),
        (quoted([["what", "how much"], ["Module", 3]]), "no column 'item'"),
        (quoted([["item", "price"], ["Module", "about ten"]]), "'about ten'"),
        (quoted([["item", "price"], ["Module", "1,250"]]), "thousands, or parts of one"),
        (quoted([["item", "price"], *[[f"Part {n}", 1] for n in range(2_100)]]), "too many lines"),
        (quoted([]), "empty"),
    ],
    ids=["archive", "cut off", "bomb", "columns", "words", "either", "long", "empty"],
)
def test_a_workbook_that_cannot_be_taken_says_why(data: bytes, says: str) -> None:
    with pytest.raises(DesignError) as refused:
        read_prices(data, "USD")
    (problem,) = refused.value.problems
    assert says in problem.message and problem.remedy
