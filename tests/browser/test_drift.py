"""A row off its string: read in at the modules, the next gaps read off, at the desk and on a phone."""

import pytest
from playwright.sync_api import Browser, expect
from sqlalchemy import Engine

from tests.browser.conftest import opened
from tests.browser.test_hand import violations
from tests.browser.test_screens import go


@pytest.mark.parametrize("size", ["desk", "phone"])
def test_a_row_that_climbs_is_brought_back(
    browser: Browser, store: Engine, address: str, size: str
) -> None:
    context, page = opened(browser, address, size, "Larkspur")
    go(page, "modules")
    page.get_by_role("button", name="Off the string").click()
    asks = page.locator("[data-drift]")
    press = asks.get_by_role("button", name="Which gaps?")
    expect(press).to_be_disabled()
    last = asks.get_by_role("group", name="The last that is set is module")
    last.get_by_label("off by").fill("a bit")
    press.click()
    expect(asks.get_by_role("alert")).to_contain_text("a bit")
    last.get_by_label("off by").fill("1/4 in")
    press.click()
    expect(asks.get_by_role("status")).to_contain_text("Back on the string after")
    gaps = page.locator("[data-table=drift]").get_by_role("row")
    # It climbs: the upper edge is opened first, by no more than three sixty-fourths.
    expect(gaps.nth(1).get_by_role("cell").nth(0)).to_have_text("4")
    expect(gaps.nth(1).get_by_role("cell").nth(1)).to_have_text("as usual")
    expect(gaps.nth(1).get_by_role("cell").nth(2)).to_have_text("+ 3/64 in")
    expect(page.locator("[data-drawing=drift]")).to_be_visible()
    assert violations(page) == []
    # Below the string the other edge.
    last.get_by_label("The last that is set is module: which side").select_option("below")
    press.click()
    expect(gaps.nth(1).get_by_role("cell").nth(1)).to_have_text("+ 3/64 in")
    last.get_by_role("spinbutton").fill("99")
    press.click()
    expect(asks.get_by_role("alert")).to_contain_text("1 to 18")
    context.close()
