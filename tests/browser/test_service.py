"""Where the job connects, read at the desk and on a phone: one line, the list, the signs, the bus."""

import pytest
from playwright.sync_api import Browser, expect
from sqlalchemy import Engine

from tests.browser.conftest import opened
from tests.browser.test_hand import violations
from tests.browser.test_screens import answer, field, go, settle, unfold


@pytest.mark.parametrize("size", ["desk", "phone"])
def test_a_panel_that_does_not_bear_it_is_found_before_it_is_opened(
    browser: Browser, store: Engine, address: str, size: str
) -> None:
    context, page = opened(browser, address, size, "Larkspur")
    go(page, "wiring")
    page.get_by_role("button", name="One line").click()
    drawn = page.locator("[data-drawing=one-line]")
    expect(drawn).to_contain_text("breaker 70 A")
    expect(drawn).to_contain_text("panel, bus 225 A")
    expect(drawn).to_contain_text("beside the meter")
    assert violations(page) == []
    # A smaller bus, read off the label inside the door: from its far end no more than 240 A.
    unfold(page, "Point of connection")
    settle(page, "wiring.panel_bus_a", "200", "200.00 A")
    expect(page.get_by_text("What it connects to bears it").first).to_be_visible()
    expect(answer(page, "wiring", "bus")).to_contain_text("265.10")
    # With a smaller main breaker it does.
    settle(page, "wiring.panel_main_a", "150", "150.00 A")
    expect(page.get_by_text("What it connects to bears it")).to_have_count(0)
    expect(drawn).to_contain_text("at the far end of the bus")
    page.get_by_role("button", name="Signs", exact=True).click()
    signs = page.locator("[data-table=signs]")
    expect(signs).to_contain_text("DO NOT RELOCATE THIS OVERCURRENT DEVICE")
    expect(signs).to_contain_text("RATED AC OUTPUT 52.08 A")
    page.get_by_role("button", name="Wires", exact=True).click()
    wires = page.locator("[data-table=wires]")
    expect(wires).to_contain_text("Output of inverter 1")
    # What scrolls under the strip of stops counts as small.
    small = "target-size" if size == "phone" else ""
    assert violations(page, but=small) == []
    # Before anybody has said where it connects nothing of that is bought, and it is said.
    field(page, "wiring.connects").select_option("nobody has said")
    expect(page.get_by_text("Somebody has said where it connects").first).to_be_visible()
    go(page, "materials")
    expect(page.locator("[data-table=materials]")).not_to_contain_text("Breaker, AC")
    context.close()


@pytest.mark.parametrize("size", ["desk", "phone"])
def test_one_rod_is_measured_or_a_second_is_driven_and_readings_stand_on_paper(
    browser: Browser, store: Engine, address: str, size: str
) -> None:
    context, page = opened(browser, address, size, "Larkspur")
    go(page, "wiring")
    page.get_by_role("button", name="Readings", exact=True).click()
    volts, amps = (page.locator(f"[data-table=readings-{one}]") for one in ("open", "running"))
    expect(volts).to_contain_text("80 °F")
    expect(amps).to_contain_text("10.59 A")
    # What scrolls under the strip of stops counts as small.
    small = "target-size" if size == "phone" else ""
    assert violations(page, but=small) == []
    unfold(page, "Earth")
    settle(page, "wiring.soil_ohm_m", "100", "100 Ω·m")
    expect(answer(page, "wiring", "rod_alone")).to_contain_text("Ω")
    settle(page, "wiring.rods", "1", "1")
    settle(page, "wiring.rods_ohm", "40", "40.0 Ω")
    expect(page.get_by_text("Rods reach earth").first).to_be_visible()
    page.get_by_role("button", name="Drive a second rod").first.click()
    expect(field(page, "wiring.rods")).to_have_value("2")
    expect(page.get_by_text("Rods reach earth")).to_have_count(0)
    assert violations(page, but=small) == []
    context.close()
