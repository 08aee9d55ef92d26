"""The job's tables as one workbook (Office Open XML): a sheet for each, numbers as numbers."""

import csv
import io
import re
import zipfile
from collections.abc import Callable, Iterator, Mapping
from datetime import date, datetime
from typing import Any

from openpyxl import Workbook, load_workbook
from openpyxl.cell import WriteOnlyCell
from openpyxl.styles import Alignment, Font
from openpyxl.utils import get_column_letter
from openpyxl.utils.exceptions import InvalidFileException

from openfurrow.core.design import Design
from openfurrow.core.edits import DesignError
from openfurrow.core.lacking import Lacking
from openfurrow.core.plan import Plan
from openfurrow.exchange.bounds import refuse
from openfurrow.exchange.csv_out import PLAIN_NUMBER, without_guard
from openfurrow.exchange.wanted import Wanted

Table = Callable[[Design, Plan, Wanted], str]
MEDIA_TYPE = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
# How wide columns are let grow, in letters, and how many lines are looked at for that.
WIDEST, NARROWEST, LOOKED_AT = 60, 8, 200
# A workbook is an archive: what it may grow to when it is opened.
LARGEST_OPENED = 20_000_000
MOST_COLUMNS = 60
# Where a workbook says when it was made, and the first day that an archive can.
CORE, FIRST_DAY = "docProps/core.xml", (1980, 1, 1, 0, 0, 0)
MOMENT = re.compile(rb"<dcterms:(created|modified)\b.*?</dcterms:\1>")


def workbook(design: Design, plan: Plan, wanted: Wanted, tables: Mapping[str, Table]) -> bytes:
    """A sheet for each of ``tables``, by its title; those that nothing is known of yet are left out.

    Raises Lacking, or DesignError, where there is none at all.
    """
    book, why = Workbook(write_only=True), None
    for title, write in tables.items():
        try:
            text = write(design, plan, wanted)
        except (DesignError, Lacking) as error:
            why = error
            continue
        _sheet(book, title, list(csv.reader(io.StringIO(text))))
    if not book.worksheets and why is not None:
        raise why
    out = io.BytesIO()
    book.save(out)
    return _undated(out.getvalue())


def _undated(data: bytes) -> bytes:
    """The same archive without the moment at which it was made: alike jobs give alike files."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as made, zipfile.ZipFile(out, "w") as told:
        for name in made.namelist():
            entry = zipfile.ZipInfo(name, date_time=FIRST_DAY)
            entry.compress_type = zipfile.ZIP_DEFLATED
            told.writestr(entry, MOMENT.sub(rb"", made.read(name)) if name == CORE else made.read(name))
    return out.getvalue()


def _sheet(book: Workbook, title: str, rows: list[list[str]]) -> None:
    sheet = book.create_sheet(title)
    sheet.freeze_panes = "A2"
    for number in range(len(rows[0])):
        longest = max(len(row[number]) for row in rows[:LOOKED_AT] if number < len(row))
        width = min(WIDEST, max(NARROWEST, longest + 2))
        sheet.column_dimensions[get_column_letter(number + 1)].width = width
    for number, row in enumerate(rows):
        sheet.append([_cell(sheet, text, head=number == 0) for text in row])


def _cell(sheet: Any, text: str, *, head: bool) -> Any:
    """A number as a number; anything else as text, whatever it begins with."""
    if head:
        found = WriteOnlyCell(sheet, text.replace("_", " "))
        found.font, found.alignment = Font(bold=True), Alignment(wrap_text=True, vertical="top")
        return found
    if PLAIN_NUMBER.fullmatch(text) and not (text[:1] == "0" and text[1:2].isdigit()):
        return WriteOnlyCell(sheet, float(text) if set(text) & set(".eE") else int(text))
    found = WriteOnlyCell(sheet, without_guard(text))
    found.data_type = "s"
    return found


def is_workbook(data: bytes) -> bool:
    """Whether a file is an archive, as workbooks are."""
    return data[:4] == b"PK\x03\x04"


def read_rows(data: bytes, most: int, named: str = "") -> list[list[str]]:
    """A workbook's sheet of that name, else its first, as text. Raises DesignError."""
    remedy = "Save it as a plain workbook (.xlsx), or as CSV UTF-8."
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            if sum(one.file_size for one in archive.infolist()) > LARGEST_OPENED:
                raise refuse("opens to far more than it is", "20 MB when opened", remedy)
        book = load_workbook(io.BytesIO(data), read_only=True, data_only=True)
        sheets = {sheet.title.casefold(): sheet for sheet in book.worksheets}
        rows = list(_texts(sheets.get(named) or book.worksheets[0], most))
    except DesignError:
        raise
    except (zipfile.BadZipFile, InvalidFileException, KeyError, ValueError, IndexError, TypeError):
        raise refuse("cannot be read as a workbook", "a workbook (.xlsx)", remedy) from None
    return rows


def _texts(sheet: Any, most: int) -> Iterator[list[str]]:
    for number, row in enumerate(sheet.iter_rows(max_col=MOST_COLUMNS, values_only=True)):
        if number > most:
            raise refuse("has too many lines", f"{most}", "Take out what is not needed.")
        yield [_text(value) for value in row]


def _text(value: object) -> str:
    if value is None:
        return ""
    if isinstance(value, datetime):
        return value.date().isoformat()
    if isinstance(value, date):
        return value.isoformat()
    if isinstance(value, float):
        # So many decimals that no point can be taken for a mark between thousands.
        return f"{value:.4f}"
    return str(value).strip()
