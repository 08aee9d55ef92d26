"""Two modules on a pole that follow the sun: stepped through their travel, put together, let fixed."""

import re

import pytest
from playwright.sync_api import Browser, Page, expect
from sqlalchemy import Engine

from tests.browser.conftest import opened
from tests.browser.test_hand import violations
from tests.browser.test_screens import answer, field, go, settle, unfold


def on_a_pole(page: Page) -> None:
    """Larkspur's array made two modules on a mast that follow the sun."""
    go(page, "rows")
    settle(page, "arrays.1.rows.modules_along", "2", "2")
    settle(page, "arrays.1.rows.modules_high", "1", "1")
    go(page, "structure")
    field(page, "arrays.1.structure.family").select_option("single pole")
    unfold(page, "Pole")
    field(page, "arrays.1.structure.pole_section").select_option("pipe 6 in")
    field(page, "arrays.1.structure.moved").select_option("follows the sun")


def holds(page: Page) -> str:
    """What the drawing says that the actuator holds."""
    words = page.locator("[data-tilts] svg text").filter(has_text="holds").first
    return str(words.text_content())


@pytest.mark.parametrize("size", ["desk", "phone"])
def test_a_mover_is_stepped_through_its_travel(
    browser: Browser, store: Engine, address: str, size: str
) -> None:
    context, page = opened(browser, address, size, "Larkspur")
    on_a_pole(page)
    unfold(page, "Mover")
    go(page, "frame")
    page.get_by_role("button", name="At each tilt").click()
    asks = page.locator("[data-tilts]")
    tilt = asks.get_by_role("slider", name="Tilt")
    expect(asks.locator("output")).to_have_text("5°")
    low = holds(page)
    tilt.fill("12")
    expect(asks.locator("output")).to_have_text("60°")
    assert holds(page) != low
    # Its end stands in the list as among the answers.
    rows = page.locator("[data-table=travel]").get_by_role("row")
    steep = answer(page, "frame", "actuator_steep").inner_text()
    expect(rows.filter(has_text=re.compile("^60°"))).to_contain_text(steep)
    assert violations(page) == []
    asks.get_by_role("button", name="Let it move").click()
    expect(asks.locator("output")).not_to_have_text("60°")
    asks.get_by_role("button", name="Hold it").click()
    page.get_by_role("button", name="In order").click()
    steps = page.locator("[data-table=assembly]").get_by_role("row")
    expect(steps.filter(has_text="Set the limit switches")).to_contain_text(steep)
    context.close()


def test_a_weak_actuator_is_told_and_what_stands_fixed_has_one_tilt(
    browser: Browser, store: Engine, address: str
) -> None:
    context, page = opened(browser, address, "desk", "Larkspur")
    on_a_pole(page)
    page.get_by_role("button", name="At each tilt").click()
    page.get_by_role("slider", name="Tilt").fill("3")
    expect(page.locator("[data-tilts] svg")).to_have_count(2)
    unfold(page, "Mover")
    settle(page, "arrays.1.structure.actuator_rated_n", "100 lb", "100 lb")
    go(page, "frame")
    expect(page.get_by_text("The actuator holds a gust on half").first).to_be_visible()
    go(page, "structure")
    unfold(page, "Pole")
    field(page, "arrays.1.structure.moved").select_option("stands fixed")
    expect(page.get_by_role("button", name="At each tilt")).to_have_count(0)
    expect(field(page, "arrays.1.structure.actuator_rated_n")).to_have_count(0)
    context.close()
