"""The trench stretch by stretch, the list as a tree, and panels on the way to the meter, on screen."""

import pytest
from playwright.sync_api import Browser, expect
from sqlalchemy import Engine

from tests.browser.conftest import opened
from tests.browser.test_hand import violations
from tests.browser.test_screens import answer, field, go, unfold


@pytest.mark.parametrize("size", ["desk", "phone"])
def test_the_trench_is_read_stretch_by_stretch(
    browser: Browser, store: Engine, address: str, size: str
) -> None:
    context, page = opened(browser, address, size, "Larkspur")
    go(page, "trench")
    page.get_by_role("button", name="Stretch by stretch").click()
    table = page.locator("[data-table=sections]")
    expect(table.get_by_role("row").filter(has_text="by hand: fuel line")).to_have_count(1)
    if size == "desk":
        assert violations(page) == []
    context.close()


@pytest.mark.parametrize("size", ["desk", "phone"])
def test_the_list_is_read_as_a_tree(browser: Browser, store: Engine, address: str, size: str) -> None:
    context, page = opened(browser, address, size, "Larkspur")
    go(page, "materials")
    page.get_by_role("button", name="As a tree").click()
    table = page.locator("[data-table=tree]")
    for name in ("The job", "For the whole job", "Sticks for the saw", "Module, 430 W"):
        expect(table.get_by_role("row").filter(has_text=name).first).to_be_attached()
    if size == "desk":
        assert violations(page) == []
    context.close()


def test_a_panel_on_the_way_is_listed_and_asked(browser: Browser, store: Engine, address: str) -> None:
    context, page = opened(browser, address, "desk", "Quillay")
    go(page, "wiring")
    asked = answer(page, "wiring", "upstream_1")
    expect(asked).to_contain_text("103.00 A")
    unfold(page, "Point of connection")
    page.locator("[data-thing='wiring.panels.1']").click()
    bus = field(page, "wiring.panels.1.bus_a")
    bus.fill("100 A")
    bus.press("Enter")
    expect(page.get_by_text("Every panel on the way to the meter bears it").first).to_be_visible()
    context.close()
