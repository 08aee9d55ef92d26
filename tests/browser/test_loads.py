"""What is loaded: lists at the desk, and parts counted onto the truck on a phone without a network."""

from playwright.sync_api import Browser, expect
from sqlalchemy import Engine

from tests.browser.conftest import opened
from tests.browser.test_field import part
from tests.browser.test_field_parts import digits, eventually, sound_here
from tests.browser.test_hand import violations
from tests.browser.test_screens import go, settle, unfold


def test_the_truck_is_counted_off_on_a_phone(browser: Browser, store: Engine, address: str) -> None:
    context, page = opened(browser, address, "phone", "Quillay")
    page.get_by_role("link", name="Field book", exact=True).click()
    part(page, "Truck")
    page.get_by_label("Load", exact=True).select_option("Mon 2026-10-12: Own truck, load 1 of 2")
    status = page.get_by_role("region", name="Loads").get_by_role("status")
    expect(status).to_contain_text("0 of")
    parts = page.locator("[data-part]")
    # What stops the most stands first, and says so before it is missing.
    expect(parts.first).to_contain_text("stops 5 of 10 tasks")
    sound_here(page)
    tick = parts.first.get_by_role("button", name="All 9 there")
    tick.click()
    expect(tick).to_have_attribute("aria-pressed", "true")
    expect(parts.first).to_contain_text("all of it there")
    (first,) = eventually(store, 1)
    assert first[0] == "loaded" and first[1].startswith("part:sticks_purlin~") and first[4] == "9"
    # Without a network a beam is missing: it is kept here, told here, and sent when there is one.
    context.set_offline(True)
    beam = parts.filter(has_text="Inclined beam stock")
    beam.get_by_role("button", expanded=False).click()
    keep = page.get_by_role("button", name="Keep it")
    digits(page, "3")
    expect(page.get_by_role("alert")).to_contain_text("A whole number from 1 to 2")
    expect(keep).to_be_disabled()
    page.get_by_role("button", name="Take the last digit back").click()
    digits(page, "1")
    sound_here(page)
    keep.click()
    expect(beam).to_contain_text("1 missing")
    expect(beam).to_contain_text("not yet sent")
    expect(status).to_contain_text("1 short")
    context.set_offline(False)
    found = eventually(store, 2)
    assert found[1][0] == "short" and found[1][2] == 1.0
    expect(beam).to_contain_text("1 missing: stops 5 of 10 tasks", timeout=15_000)
    part(page, "Today")
    expect(page.get_by_role("region", name="What does not hold")).to_contain_text(
        "No part is missing that work waits for"
    )
    # It turned up after all.
    part(page, "Truck")
    page.get_by_label("Load", exact=True).select_option("Mon 2026-10-12: Own truck, load 1 of 2")
    beam.get_by_role("button", name="All 2 there").click()
    eventually(store, 3)
    expect(status).not_to_contain_text("short", timeout=15_000)
    context.close()


def test_loads_follow_the_truck_and_the_deliveries(
    browser: Browser, store: Engine, address: str
) -> None:
    context, page = opened(browser, address, "desk", "Quillay")
    go(page, "materials")
    page.get_by_role("button", name="On the truck").click()
    second = page.locator("[data-table=load-4]")
    expect(second).to_contain_text("Module, 430 W")
    loads = page.locator("[data-table^=load-]")
    before = loads.count()
    assert violations(page) == []
    unfold(page, "On the truck")
    settle(page, "materials.truck_kg", "560 kg", "560 kg")
    expect(loads).not_to_have_count(before)
    settle(page, "materials.truck_bed_m", "4 m", "4.00 m")
    expect(page.get_by_text("The longest piece goes on the own truck").first).to_be_visible()
    context.close()
