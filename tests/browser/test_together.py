"""Two tabs on one draft, and work in the background, as people see them."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect
from sqlalchemy import Engine, text

ROOT = Path(__file__).resolve().parents[2]


@pytest.fixture
def other(page: Page) -> Iterator[Page]:
    """A second tab of the same person on the same job."""
    second = page.context.new_page()
    second.goto(page.url)
    expect(second.locator("[data-shown=rows]")).to_be_visible()
    yield second
    second.close()


def test_the_same_field_in_two_tabs_is_told_and_not_overwritten(page: Page, other: Page) -> None:
    page.locator("[data-given='arrays.1.rows.tilt_deg']").fill("30")
    expect(page.locator("[data-given='arrays.1.rows.tilt_deg']")).to_have_value("30")
    expect(page.get_by_role("button", name="Undo")).to_be_enabled()
    other.locator("[data-given='arrays.1.rows.tilt_deg']").fill("22")
    expect(other.get_by_text("was changed in another tab in between: it is now 30.0°")).to_be_visible()
    # Typed again, knowing that, it is taken.
    other.locator("[data-given='arrays.1.rows.tilt_deg']").fill("23")
    expect(other.get_by_text("was changed in another tab")).to_have_count(0)
    page.reload()
    expect(page.locator("[data-given='arrays.1.rows.tilt_deg']")).to_have_value("23.0°")


def test_different_fields_in_two_tabs_are_both_kept(page: Page, other: Page) -> None:
    page.locator("[data-given='arrays.1.rows.tilt_deg']").fill("30")
    expect(page.get_by_role("button", name="Undo")).to_be_enabled()
    other.locator("[data-given='arrays.1.rows.rows']").fill("2")
    expect(other.locator("[data-given='arrays.1.rows.tilt_deg']")).to_have_value("30.0°")
    expect(other.locator("[data-given='arrays.1.rows.rows']")).to_have_value("2")


def test_all_files_come_in_one_archive(page: Page, worker: None) -> None:
    page.get_by_role("button", name="Files").click()
    page.get_by_role("button", name="All of them in one archive").click()
    link = page.get_by_test_id("archive").get_by_role("link")
    expect(link).to_contain_text("archive.zip", timeout=60_000)
    with page.expect_download() as download:
        link.click()
    assert download.value.suggested_filename == "larkspur-ferry-landing.zip"


def test_an_archive_nobody_makes_yet_can_be_stopped(page: Page, store: Engine) -> None:
    page.get_by_role("button", name="Files").click()
    page.get_by_role("button", name="All of them in one archive").click()
    expect(page.get_by_test_id("archive").get_by_role("status")).to_have_text("waiting for a worker")
    page.get_by_role("button", name="Stop", exact=True).click()
    expect(page.get_by_test_id("archive")).to_contain_text("Not made: stopped")
    with store.connect() as connection:
        assert connection.execute(text("select state from work")).scalar_one() == "cancelled"
