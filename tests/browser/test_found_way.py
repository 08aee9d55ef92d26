"""The way to the building found by one press, from nothing drawn, and taken back."""

import pytest
from playwright.sync_api import Browser, expect
from sqlalchemy import Engine

from tests.browser.conftest import opened
from tests.browser.test_hand import violations
from tests.browser.test_screens import go, unfold


@pytest.mark.parametrize("size", ["desk", "phone"])
def test_a_way_is_found_round_what_is_buried(
    browser: Browser, store: Engine, address: str, size: str
) -> None:
    context, page = opened(browser, address, size, "Larkspur")
    go(page, "trench")
    unfold(page, "Finding a way")
    find = page.get_by_role("button", name="Find the way to the building")
    find.scroll_into_view_if_needed()
    before = page.locator("[data-drawing=route]").text_content() or ""
    find.click()
    told = page.get_by_role("status").filter(has_text="way found")
    expect(told).to_contain_text("by hand", timeout=30_000)
    expect(told).to_contain_text("1 line crossed")
    expect(page.locator("[data-drawing=route]")).not_to_have_text(before)
    if size == "desk":
        assert violations(page) == []
        page.get_by_role("button", name="Undo").click()
        expect(page.locator("[data-drawing=route]")).to_have_text(before)
    context.close()
