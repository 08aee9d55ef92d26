"""A merchant's list: out with room for every price, back in, and what the job costs then."""

import csv
import io

import pytest
from openpyxl import Workbook
from playwright.sync_api import Browser, expect
from sqlalchemy import Engine

from openfurrow.exchange.workbook import MEDIA_TYPE
from tests.browser.conftest import opened
from tests.browser.test_hand import violations
from tests.browser.test_screens import answer, field, go, unfold

QUILLAY = "Quillay"


@pytest.mark.parametrize("size", ["desk", "phone"])
def test_a_list_goes_out_is_filled_in_and_comes_back(
    browser: Browser, store: Engine, address: str, size: str
) -> None:
    context, page = opened(browser, address, size, QUILLAY)
    go(page, "materials")
    # Nothing has a price: no sum, and no rule that asks for one.
    expect(answer(page, "materials", "cost")).to_have_count(0)
    expect(page.get_by_role("button", name="What it costs")).to_have_count(0)
    job = page.url.split("/jobs/")[1].split("/")[0]
    out = page.request.get(f"{address}/api/jobs/{job}/files/prices.csv?units=metric").text()
    rows = list(csv.DictReader(io.StringIO(out)))
    assert all(not row["price"] for row in rows)
    unfold(page, "Prices")
    file = page.locator("input[type=file][aria-label='Prices from a file']")

    def bring(text: str) -> None:
        file.set_input_files({"name": "yard.csv", "mimeType": "text/csv", "buffer": text.encode()})

    bring("item,price\nModule,about ten\n")
    expect(
        page.get_by_role("alert").filter(has_text="'about ten' for a price in line 2")
    ).to_be_visible()
    expect(page.get_by_text("Nothing was changed.")).to_be_visible()
    # Every line at two each, of the day that it was asked for; one is left open.
    filled = io.StringIO()
    write = csv.DictWriter(filled, rows[0].keys())
    write.writeheader()
    for row in rows[:-1]:
        write.writerow(row | {"price": "2", "priced on": "2026-06-01", "from": "yard"})
    if size == "desk":
        bring(filled.getvalue())
    else:
        # A merchant sends it back as a workbook.
        book = Workbook()
        for line in csv.reader(io.StringIO(filled.getvalue())):
            book.active.append(line)
        sent = io.BytesIO()
        book.save(sent)
        file.set_input_files({"name": "yard.xlsx", "mimeType": MEDIA_TYPE, "buffer": sent.getvalue()})
    expect(page.get_by_text("one line not priced")).to_be_visible()
    page.get_by_role("button", name="What it costs").click()
    expect(page.get_by_role("row", name="All 34")).to_be_visible()
    assert violations(page) == []
    # Tax comes on top at once.
    before = answer(page, "materials", "cost").inner_text()
    tax = field(page, "materials.tax")
    tax.fill("25 %")
    tax.press("Enter")
    expect(page.get_by_role("row", name="Tax ")).to_be_visible()
    assert answer(page, "materials", "cost").inner_text() != before
    # Undone, the sum is that without tax; undone again, nothing has a price.
    for _ in range(2):
        page.get_by_role("button", name="Undo").first.click()
        page.wait_for_timeout(300)
    expect(answer(page, "materials", "cost")).to_have_count(0)
    context.close()
