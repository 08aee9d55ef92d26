"""At the saw: sticks drawn and listed, bundles, and a stick that is too short for its pieces."""

import pytest
from playwright.sync_api import Browser, expect
from sqlalchemy import Engine

from tests.browser.conftest import opened
from tests.browser.test_hand import violations
from tests.browser.test_screens import answer, field, go, settle


@pytest.mark.parametrize("size", ["desk", "phone"])
def test_the_saw_says_what_it_cuts_and_what_does_not_fit(
    browser: Browser, store: Engine, address: str, size: str
) -> None:
    context, page = opened(browser, address, size, "Larkspur")
    go(page, "materials")
    page.get_by_role("button", name="At the saw").click()
    first = page.locator("[data-drawing=cutting_a]")
    expect(first).to_be_visible()
    expect(first).to_contain_text("A1")
    sticks = page.locator("[data-table=sticks]")
    expect(sticks).to_contain_text("C 175 x 64 x 2.5")
    # Driven posts come cut; struts are sawn here, each to its own length.
    cuts = page.locator("[data-table=cuts]").get_by_role("row")
    expect(cuts.filter(has_text="I 150 x 100 x 14").first).to_contain_text("comes cut")
    expect(cuts.filter(has_text="pipe 2 in").first).to_contain_text("B1")
    bundles = page.locator("[data-table=bundles]")
    expect(bundles).to_contain_text("9 x A1")
    assert violations(page) == []
    # Beams of 9 ft 5 in do not come from sticks of 8 ft: a stop, and they are ordered cut.
    before = answer(page, "materials", "saw_a").inner_text()
    go(page, "frame")
    settle(page, "arrays.1.frame.other_piece_stock_m", "", "")
    settle(page, "arrays.1.frame.piece_stock_m", "8 ft", "8' 0\"")
    go(page, "materials")
    expect(page.get_by_text("Beams, rails and braces fit their sticks").first).to_be_visible()
    page.get_by_role("button", name="What to buy").click()
    bought = page.locator("[data-table=materials]")
    expect(bought).to_contain_text("Inclined beam, C 175")
    expect(bought).not_to_contain_text("Inclined beam stock")
    # They come cut to length: nothing is wrong any more, and struts are bought as struts.
    go(page, "frame")
    field(page, "arrays.1.frame.pieces_come").select_option("cut to length")
    expect(field(page, "arrays.1.frame.piece_stock_m")).to_have_count(0)
    go(page, "materials")
    expect(page.locator("[data-table=materials]")).to_contain_text("Strut, pipe 2 in")
    assert answer(page, "materials", "saw_a").inner_text() != before
    context.close()
