"""The schedule on a screen: bars, a day at a time, a task held to its day, a forecast that moves it."""

import re

from playwright.sync_api import Page, expect

from tests.browser.test_hand import violations
from tests.browser.test_screens import answer, field, go


def test_every_task_has_its_bar_and_every_day_its_sheet(page: Page) -> None:
    go(page, "schedule")
    bars = page.locator("svg[data-drawing=schedule]")
    expect(bars.get_by_text("Drive the posts")).to_be_visible()
    tasks = page.locator("[data-table=tasks] tbody tr")
    assert bars.locator(".layer-task, .layer-task-watched").count() >= tasks.count() > 10
    # The windy day and the frosty one are hatched on the lines of those who wait for them.
    assert bars.locator(".layer-hold").count() > 4
    day = page.get_by_label("Day", exact=True)
    expect(day).to_have_value("Mon 2026-04-20")
    sheet = page.locator("[data-table=day] tbody tr")
    expect(sheet.first).to_contain_text("Set out the posts")
    expect(sheet.first).to_contain_text("07:30")
    page.get_by_role("button", name="Day after").click()
    expect(day).to_have_value("Tue 2026-04-21")
    expect(page.locator("[data-table=day]")).not_to_contain_text("Set out the posts")
    assert violations(page) == []


def test_a_task_is_held_to_a_day_and_let_go(page: Page) -> None:
    go(page, "schedule")
    done = answer(page, "schedule", "finish")
    before = done.inner_text()
    form = page.get_by_role("form", name="Hold a task to a day")
    form.get_by_label("Task").select_option("Land and test the inverters")
    form.get_by_label("Begins on").fill("2026-05-05")
    form.get_by_role("button", name="Hold it to that day").click()
    expect(done).not_to_have_text(before)
    row = page.locator("[data-table=tasks] tbody tr").filter(has_text="Land and test the inverters")
    expect(row).to_contain_text("2026-05-05")
    # A day that is no working day fits nowhere, and it is told what stands in the way.
    page.get_by_role("button", name="Undo").click()
    expect(done).to_have_text(before)
    form.get_by_label("Task").select_option("Land and test the inverters")
    form.get_by_label("Begins on").fill("2026-05-03")
    form.get_by_role("button", name="Hold it to that day").click()
    told = page.get_by_role("region", name="Answers")
    expect(told).to_contain_text("Land and test the inverters begins on its day")
    expect(page.locator("svg[data-drawing=schedule]")).to_have_count(0)
    expect(page.locator("[data-stage=schedule]")).to_contain_text("no day")


def test_a_forecast_that_is_pasted_moves_the_days(page: Page) -> None:
    go(page, "schedule")
    row = page.locator("[data-table=tasks] tbody tr").filter(has_text="Set the modules")
    expect(row).to_contain_text("2026-04-23")
    forecast = field(page, "schedule.forecast")
    assert re.match(r"2026-04-20, 43 °F, 9 mph", forecast.input_value())
    forecast.fill(
        forecast.input_value() + "\n2026-04-23, 50 F, 30 mph".replace("2026-04-23", "2026-04-29")
    )
    expect(row).to_contain_text("2026-04-23")
    forecast.fill("2026-04-23, 50 F, 30 mph")
    expect(row).not_to_contain_text("2026-04-23")
    forecast.fill("tomorrow, 50 F, 30 mph")
    expect(page.get_by_test_id("given-schedule.forecast").get_by_role("alert")).to_contain_text(
        "'tomorrow' is not a date"
    )


def test_the_day_sheet_fits_a_phone(phone: Page) -> None:
    go(phone, "schedule")
    phone.get_by_role("button", name="Day after").scroll_into_view_if_needed()
    box = phone.get_by_role("button", name="Day after").bounding_box()
    assert box is not None and box["width"] >= 48 and box["height"] >= 48
    wide = phone.evaluate("document.documentElement.scrollWidth")
    assert wide <= 390
    assert violations(phone) == []
