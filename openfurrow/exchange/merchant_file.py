"""Lines of a merchant's list, CSV or a workbook, under the titles that stand in its first line."""

import csv
import io

from openfurrow.exchange.bounds import check_lines, refuse
from openfurrow.exchange.workbook import is_workbook, read_rows

LARGEST_BYTES, MOST_LINES, LONGEST_LINE = 1_000_000, 2_000, 1_000


def merchant_rows(
    data: bytes, needed: tuple[str, ...], allowed: str, remedy: str, sheet: str = ""
) -> tuple[list[list[str]], list[str], str]:
    """All lines with the first, its titles in small letters, and the mark between columns.

    Raises DesignError where it is no such list, or lacks a title that is ``needed``.
    """
    if len(data) > LARGEST_BYTES:
        raise refuse("is too large", f"at most {LARGEST_BYTES // 1_000_000} MB", remedy)
    if not data.strip():
        raise refuse("is empty", allowed, remedy)
    # In a workbook nothing stands between cells; a comma there is a mark in a number.
    between = ";"
    if is_workbook(data):
        rows = read_rows(data, MOST_LINES, sheet)
    else:
        check_lines(data, MOST_LINES, LONGEST_LINE)
        try:
            text = data.decode("utf-8-sig")
        except UnicodeDecodeError:
            raise refuse("is not written in UTF-8", "UTF-8", "Save it as CSV UTF-8.") from None
        first, _, _ = text.partition("\n")
        between = max(",;\t", key=first.count)
        rows = list(csv.reader(io.StringIO(text), delimiter=between))
    if not rows:
        raise refuse("is empty", allowed, remedy)
    titles = [cell.strip().casefold() for cell in rows[0]]
    missing = [one for one in needed if one not in titles]
    if missing:
        raise refuse(f"has no column '{missing[0]}'", allowed, remedy)
    doubled = next((one for one in titles if one and titles.count(one) > 1), None)
    if doubled:
        raise refuse(f"has two columns '{doubled[:30]}'", "one of each", "Take one of them out.")
    return rows, titles, between
