"""Leads that do not reach, read at the desk: strings, modules turned, and boxes behind the modules."""

import pytest
from playwright.sync_api import Browser, expect
from sqlalchemy import Engine

from tests.browser.conftest import opened
from tests.browser.test_hand import violations
from tests.browser.test_screens import answer, field, go, settle, unfold


@pytest.mark.parametrize("size", ["desk", "phone"])
def test_jumpers_are_read_before_the_last_module_is_set(
    browser: Browser, store: Engine, address: str, size: str
) -> None:
    context, page = opened(browser, address, size, "Larkspur")
    go(page, "wiring")
    jumpers = answer(page, "wiring", "jumpers")
    expect(jumpers).to_contain_text("3")
    way = page.locator("[data-drawing=strings]")
    expect(way).to_contain_text("3 jumpers")
    expect(way.locator(".layer-string-jumper").first).to_be_visible()
    # At the head of the answers, so that the bar of stops covers half of none.
    jumpers.evaluate("one => one.scrollIntoView({block: 'start'})")
    assert violations(page) == []
    # The upper row turned half round, its leads leave on the same side: none is left.
    go(page, "modules")
    unfold(page, "Leads")
    field(page, "arrays.1.modules.every_second_turned").select_option("yes")
    go(page, "wiring")
    expect(jumpers).to_contain_text("0")
    expect(way).not_to_contain_text("jumper")
    # Boxes behind the modules, on the purlin, and modules with short leads: two for each of 36.
    unfold(page, "On the way")
    field(page, "wiring.electronics").select_option("by the module")
    unfold(page, "From module to module")
    field(page, "wiring.box_hangs").select_option("the upper purlin")
    go(page, "modules")
    unfold(page, "Leads")
    settle(page, "arrays.1.modules.lead_m", "1 ft", "1' 0\"")
    go(page, "wiring")
    expect(jumpers).to_contain_text("72")
    expect(page.get_by_text("Module leads reach the boxes").first).to_be_visible()
    go(page, "materials")
    bought = page.locator("[data-table=materials]")
    expect(bought).to_contain_text("Jumper, module to its box")
    context.close()
