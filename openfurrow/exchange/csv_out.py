"""CSV (RFC 4180) that a spreadsheet may open: no cell begins as a formula."""

import csv
import io
import re
from collections.abc import Iterable, Sequence

# What a spreadsheet takes for the beginning of a formula, unless the cell is a number.
FORMULA = ("=", "+", "-", "@", "\t", "\r")
PLAIN_NUMBER = re.compile(r"[-+]?\d+(\.\d+)?([eE][-+]?\d+)?")


def cell(value: object) -> str:
    """A cell's text; an apostrophe keeps what begins as a formula from being one."""
    text = str(value)
    return f"'{text}" if text.startswith(FORMULA) and not PLAIN_NUMBER.fullmatch(text) else text


def without_guard(text: str) -> str:
    """What a cell said before `cell` guarded it."""
    return text[1:] if text[:1] == "'" and text[1:].startswith(FORMULA) else text


def csv_text(head: Sequence[str], rows: Iterable[Sequence[object]]) -> str:
    """A table as CSV."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(head)
    writer.writerows([cell(value) for value in row] for row in rows)
    return out.getvalue()
