"""Larkspur's rows laid on turning tubes: stepped from side to side, put together, told its wind."""

import pytest
from playwright.sync_api import Browser, Page, expect
from sqlalchemy import Engine

from tests.browser.conftest import opened
from tests.browser.test_hand import violations
from tests.browser.test_movers import holds
from tests.browser.test_screens import answer, field, go, settle, unfold


def on_tubes(page: Page) -> None:
    """One module across, put up level, on a tube that is known by its bore."""
    go(page, "rows")
    settle(page, "arrays.1.rows.modules_high", "1", "1")
    settle(page, "arrays.1.rows.tilt_deg", "0", "0")
    go(page, "structure")
    field(page, "arrays.1.structure.family").select_option("turning tube")
    unfold(page, "Rails")
    field(page, "arrays.1.structure.pipe_section").select_option("pipe 5 in")
    expect(answer(page, "structure", "drive_holds")).to_contain_text("lb")


@pytest.mark.parametrize("size", ["desk", "phone"])
def test_a_tube_is_stepped_from_side_to_side(
    browser: Browser, store: Engine, address: str, size: str
) -> None:
    context, page = opened(browser, address, size, "Larkspur")
    on_tubes(page)
    go(page, "frame")
    page.get_by_role("button", name="At each tilt").click()
    asks = page.locator("[data-tilts]")
    tilt = asks.get_by_role("slider", name="Tilt")
    expect(asks.locator("output")).to_have_text("\N{MINUS SIGN}60°")
    expect(asks).to_contain_text("At 60°, looking west")
    evening = holds(page)
    tilt.fill("6")
    expect(asks.locator("output")).to_have_text("0°")
    assert holds(page) != evening
    tilt.fill("12")
    expect(asks).to_contain_text("At 60°, looking east")
    # What is as steep to the other side holds as much.
    assert holds(page) == evening
    rows = page.locator("[data-table=travel]").get_by_role("row")
    expect(rows).to_have_count(14)
    assert violations(page) == []
    page.get_by_role("button", name="In order").click()
    steps = page.locator("[data-table=assembly]").get_by_role("row")
    switches = answer(page, "frame", "tube_switches").inner_text()
    expect(steps.filter(has_text="limit switches")).to_contain_text(switches)
    context.close()


def test_nobody_has_looked_whether_it_flutters_until_somebody_says_so(page: Page) -> None:
    on_tubes(page)
    strip = page.get_by_label("Stops")
    words = "The tube was shown not to flutter in the design wind"
    strip.get_by_test_id("stops").click()
    told = strip.get_by_role("listitem").filter(has_text=words)
    expect(told).to_contain_text("not looked at")
    # Straight to where it is said.
    told.get_by_role("button").first.click()
    given = field(page, "arrays.1.structure.tube_steady_m_s")
    expect(given).to_be_focused()
    settle(page, "arrays.1.structure.tube_steady_m_s", "60", "60")
    strip.get_by_test_id("stops").click()
    expect(told).to_contain_text("at most 60 mph")
    strip.get_by_test_id("stops").click()
    settle(page, "arrays.1.structure.tube_steady_m_s", "150", "150")
    strip.get_by_test_id("stops").click()
    expect(told).to_have_count(0)


def test_a_wider_pitch_is_weighed_and_held(page: Page) -> None:
    on_tubes(page)
    go(page, "rows")
    settle(page, "arrays.1.rows.rows", "3", "3")
    page.get_by_role("group", name="Seen").get_by_role("button", name="Pitch").click()
    schools = page.locator("[data-table=schools]").get_by_role("row")
    now = schools.filter(has_text="as it is")
    expect(now).to_contain_text(answer(page, "rows", "pitch").inner_text())
    most = schools.filter(has_text="most from the ground").get_by_role("cell").nth(1).inner_text()
    page.get_by_role("button", name=f"Hold {most}").click()
    expect(answer(page, "rows", "pitch")).to_have_text(most)
    expect(now).to_contain_text(most)
