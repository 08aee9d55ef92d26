"""Nothing may be dug: conduit over the ground, and back into its trench."""

import pytest
from playwright.sync_api import Browser, expect
from sqlalchemy import Engine

from tests.browser.conftest import opened
from tests.browser.test_hand import violations
from tests.browser.test_screens import answer, field, go, settle, unfold


@pytest.mark.parametrize("size", ["desk", "phone"])
def test_conduit_is_laid_over_the_ground_and_in_again(
    browser: Browser, store: Engine, address: str, size: str
) -> None:
    context, page = opened(browser, address, size, "Larkspur")
    go(page, "trench")
    field(page, "trench.bedding_m").wait_for(state="attached")
    field(page, "trench.laid").select_option("over the ground")
    expect(answer(page, "trench", "supports")).to_contain_text("42")
    expect(answer(page, "trench", "expansions")).to_contain_text("4")
    expect(page.locator("[data-drawing=across]")).to_contain_text("held every")
    # What is asked of digging is asked no more; how high it lies is.
    expect(field(page, "trench.bedding_m")).to_have_count(0)
    unfold(page, "Over the ground")
    settle(page, "trench.expansion_m", "6 in", "6 in")
    expect(answer(page, "trench", "expansions")).to_contain_text("3")
    # The bar of stops may lie over half of a field, which a checker counts against it.
    answer(page, "trench", "supports").evaluate("told => told.scrollIntoView({ block: 'start' })")
    assert violations(page) == []
    go(page, "materials")
    bought = page.locator("[data-table=materials]")
    expect(bought).to_contain_text("Support on the ground")
    expect(bought).not_to_contain_text("Sand")
    go(page, "trench")
    field(page, "trench.laid").select_option("in a trench")
    expect(answer(page, "trench", "depth")).to_be_visible()
    context.close()
