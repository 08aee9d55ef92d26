"""A top 14 mm high: the hole read off, at the desk and on a phone."""

import pytest
from playwright.sync_api import Browser, expect
from sqlalchemy import Engine

from tests.browser.conftest import opened
from tests.browser.test_hand import violations
from tests.browser.test_screens import go


@pytest.mark.parametrize("size", ["desk", "phone"])
def test_a_high_top_is_levelled_by_a_hole(
    browser: Browser, store: Engine, address: str, size: str
) -> None:
    context, page = opened(browser, address, size, "Grifo")
    go(page, "frame")
    page.get_by_role("button", name="A top off its line").click()
    asks = page.locator("[data-top]")
    press = asks.get_by_role("button", name="What levels it?")
    expect(press).to_be_disabled()
    asks.get_by_label("its top is off by").fill("14 mm")
    press.click()
    rows = page.locator("[data-table=level]").get_by_role("row")
    expect(rows.filter(has_text="Leave it")).to_contain_text("more than 13.0 mm off")
    hole = rows.filter(has_text="1 hole down, 25.0 mm")
    expect(hole).to_contain_text("11.0 mm below")
    expect(hole).to_contain_text("accepted")
    assert violations(page) == []
    # Low it goes up; a number that no support has is refused with those that are.
    asks.get_by_label("Which side of the line").select_option("below")
    press.click()
    expect(rows.filter(has_text="1 hole up")).to_be_visible()
    asks.get_by_role("spinbutton").fill("999")
    press.click()
    expect(asks.get_by_role("alert")).to_contain_text("1 to")
    context.close()
