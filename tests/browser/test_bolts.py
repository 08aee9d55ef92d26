"""Bolts of the frame: what a joint brings and bears, and a size that does not hold."""

import pytest
from playwright.sync_api import Browser, expect
from sqlalchemy import Engine

from tests.browser.conftest import opened
from tests.browser.test_hand import violations
from tests.browser.test_screens import answer, field, go, unfold


@pytest.mark.parametrize("size", ["desk", "phone"])
def test_a_bolt_that_is_too_thin_stops_the_job(
    browser: Browser, store: Engine, address: str, size: str
) -> None:
    context, page = opened(browser, address, size, "Larkspur")
    go(page, "frame")
    holds = answer(page, "frame", "holds_post_bolt")
    expect(holds).to_contain_text("lb")
    holds.click()
    told = page.get_by_text("bears by the wall around it").first
    expect(told).to_be_visible()
    expect(page.get_by_text("5/8 in, A325").first).to_be_visible()
    unfold(page, "Bolts")
    field(page, "arrays.1.frame.bolt_us").select_option("3/8")
    expect(page.get_by_text("Bolts of the frame hold what they get").first).to_be_visible()
    expect(answer(page, "frame", "bolt_torque")).to_contain_text("lb·ft")
    if size == "desk":
        assert violations(page) == []
    context.close()
