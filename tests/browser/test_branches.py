"""Strings swapped for inverters behind every module: jumpers, branches and the trunk."""

import pytest
from playwright.sync_api import Browser, expect
from sqlalchemy import Engine

from tests.browser.conftest import opened
from tests.browser.test_hand import violations
from tests.browser.test_screens import answer, field, go, settle, unfold


@pytest.mark.parametrize("size", ["desk", "phone"])
def test_strings_are_swapped_for_inverters_behind_the_modules(
    browser: Browser, store: Engine, address: str, size: str
) -> None:
    context, page = opened(browser, address, size, "Larkspur")
    go(page, "wiring")
    field(page, "wiring.inverters.1.stands").select_option("behind each module")
    settle(page, "wiring.inverters.1.maximum_dc_v", "60", "60.0 V")
    settle(page, "wiring.inverters.1.start_v", "22", "22.0 V")
    settle(page, "wiring.inverters.1.branch_most", "9", "9")
    # What is asked of one that stands by itself is asked no more.
    expect(field(page, "wiring.inverters.1.inverter_inputs")).to_have_count(0)
    expect(answer(page, "wiring", "strings")).to_contain_text("4 x 9")
    expect(answer(page, "wiring", "branch_a")).to_contain_text("13.12 A")
    # Modules lie against short leads: each wants a jumper to its inverter, or two.
    go(page, "modules")
    unfold(page, "Leads")
    settle(page, "arrays.1.modules.lead_m", "1 ft", "1' 0\"")
    go(page, "wiring")
    unfold(page, "From module to module")
    field(page, "wiring.box_hangs").select_option("the upper purlin")
    expect(answer(page, "wiring", "jumpers")).to_contain_text("72")
    page.get_by_role("button", name="One line").click()
    drawn = page.locator("[data-drawing=one-line]")
    expect(drawn).to_contain_text("branches: 4 x 9")
    expect(drawn).to_contain_text("4 x breaker 20 A")
    assert violations(page) == []
    # Two more on a branch than its trunk bears: a stop that says so.
    settle(page, "wiring.inverters.1.branch_most", "18", "18")
    expect(page.get_by_text("A branch stays within what its trunk").first).to_be_visible()
    settle(page, "wiring.inverters.1.branch_most", "9", "9")
    go(page, "materials")
    bought = page.locator("[data-table=materials]")
    expect(bought).to_contain_text("Trunk cable, by the plug")
    expect(bought).to_contain_text("End cap of the trunk")
    expect(bought).not_to_contain_text("Fuse")
    context.close()
