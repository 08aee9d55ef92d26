"""The field book on a phone: tapped, read at once, kept without a network, sent once."""

import re

import pytest
from playwright.sync_api import BrowserContext, Page, expect
from sqlalchemy import Engine, text

from openfurrow.core.quantities import INCH_M
from openfurrow.shots import open_job
from tests.browser.test_hand import violations


def open_book(page: Page) -> None:
    page.get_by_role("link", name="Field book", exact=True).click()
    part(page, "Posts")
    expect(page.get_by_label("Posts on the string")).to_be_visible()


def part(page: Page, name: str) -> None:
    """One of the book's parts."""
    page.get_by_role("navigation", name="Field book").get_by_role("button", name=name).click()


def tap(page: Page, feet: str, inches: str = "", sixteenths: str = "") -> None:
    for name, digits in (("ft", feet), ("in", inches), ("16", sixteenths)):
        page.get_by_role("group", name="Length").get_by_role(
            "button", name=re.compile(rf"{name}$")
        ).click()
        for digit in digits:
            page.get_by_role("group", name="Pad").get_by_role("button", name=digit, exact=True).click()


def keep(page: Page, *length: str) -> None:
    """Tap a length at the post that is open, and keep it; the next post is open then."""
    before = page.get_by_role("heading", level=2).inner_text()
    tap(page, *length)
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_role("heading", level=2)).not_to_have_text(before)


def values(store: Engine) -> dict[str, float]:
    with store.connect() as connection:
        rows = connection.execute(text("select of, value from field_record"))
        return {one.of: one.value for one in rows}


def test_a_refusal_is_read_at_once_and_told_again_by_the_server(phone: Page) -> None:
    open_book(phone)
    expect(phone.get_by_text("0 of 9 posts measured")).to_be_visible()
    phone.locator("[data-thing='1:1.1/3']").click()
    verdict = phone.get_by_test_id("verdict")
    expect(verdict).to_contain_text("Tap the depth")
    phone.get_by_role("button", name="It stopped here").click()
    tap(phone, "7", "2")
    expect(verdict).to_contain_text("not sound: wind tips it")
    expect(verdict).to_contain_text("not cut before it carries")
    expect(verdict).to_contain_text("bore and set it in concrete")
    assert violations(phone) == []
    for button in phone.get_by_role("group", name="Pad").get_by_role("button").all():
        box = button.bounding_box()
        assert box is not None and min(box["width"], box["height"]) >= 48
    phone.get_by_role("button", name="Keep it").click()
    phone.get_by_role("button", name="All", exact=True).click()
    row = phone.locator("[data-thing='1:1.1/3']")
    expect(row).to_contain_text("it stopped: drill")
    assert violations(phone) == []
    part(phone, "Today")
    expect(phone.locator("main")).to_contain_text("1 of 1 measured do not: 1.1/3")
    assert violations(phone) == []
    assert phone.evaluate("document.documentElement.scrollWidth") <= 390


def test_a_stop_of_the_book_leads_to_the_book_beside_the_plan(phone: Page, desk: Page) -> None:
    open_book(phone)
    phone.locator("[data-thing='1:1.1/3']").click()
    keep(phone, "3", "2")
    expect(phone.get_by_test_id("waiting")).to_have_text("all sent")
    open_job(desk)
    desk.get_by_role("button", name=re.compile("^[0-9]+ stop")).click()
    desk.get_by_role("button", name=re.compile("field book.*Posts carry at the depth")).click()
    expect(desk.locator("[data-shown=fieldbook]")).to_be_visible()
    expect(desk.get_by_role("region", name="Answers")).to_contain_text("1 of 1 measured do not: 1.1/3")
    expect(desk.locator("svg[data-drawing=built] .layer-post-fails").first).to_be_visible()
    assert violations(desk) == []


def test_the_rod_is_read_post_after_post_and_says_what_to_cut(phone: Page, store: Engine) -> None:
    open_book(phone)
    phone.locator("[data-thing='1:1.1/1']").click()
    phone.get_by_role("button", name="Rod on top").click()
    expect(phone.get_by_test_id("verdict")).to_contain_text("Tap what the rod on its top reads")
    tap(phone, "1", "2", "9")
    expect(phone.get_by_test_id("verdict")).to_contain_text(
        re.compile("not cut before|too low|as planned")
    )
    phone.get_by_role("button", name="over the line").click()
    phone.get_by_role("button", name="Keep it").click()
    expect(phone.get_by_role("heading", level=2)).to_contain_text("1.1/2")
    # The next thing is the next rod.
    expect(phone.get_by_role("button", name="Rod on top")).to_have_attribute("aria-pressed", "true")
    expect(phone.get_by_test_id("waiting")).to_have_text("all sent")
    assert values(store) == {"1:1.1/1": pytest.approx(-(14 + 9 / 16) * INCH_M)}
    assert violations(phone) == []


def test_what_is_measured_without_a_network_outlives_the_tab_and_is_sent_once(
    phone: Page, store: Engine
) -> None:
    context: BrowserContext = phone.context
    open_book(phone)
    address = phone.url
    phone.locator("[data-thing='1:1.1/1']").click()
    context.set_offline(True)
    lengths = [("9", "4"), ("9", "5"), ("8", "11", "9"), ("9", "4")]
    for length in lengths:
        keep(phone, *length)
    expect(phone.get_by_test_id("waiting")).to_have_text("4 not yet sent, no network")
    assert values(store) == {}
    phone.get_by_role("button", name="All", exact=True).click()
    expect(phone.locator("[data-thing='1:1.1/3']")).to_contain_text("8' 11 9/16\"")
    expect(phone.locator("[data-thing='1:1.1/3']")).to_contain_text("not yet sent")
    # The tab is killed; another is opened where there is a network, and a third at the same time.
    phone.close()
    context.set_offline(False)
    tabs = [context.new_page(), context.new_page()]
    for tab in tabs:
        tab.goto(address)
    for tab in tabs:
        expect(tab.get_by_test_id("waiting")).to_have_text("all sent", timeout=20_000)
    expect(tabs[0].get_by_text("4 of 9 posts measured")).to_be_visible()
    expected = [
        (int(f) * 12 + int(i) + int(s or 0) / 16) * INCH_M
        for f, i, s in ((*one, "")[:3] for one in lengths)
    ]
    found = values(store)
    assert [found[f"1:1.1/{k + 1}"] for k in range(4)] == pytest.approx(expected, abs=1e-9)
    with store.connect() as connection:
        assert connection.execute(text("select count(*) from field_record")).scalar_one() == 4


def test_a_server_that_fails_is_asked_again(phone: Page, store: Engine) -> None:
    open_book(phone)
    busy = {"title": "Busy", "status": 503, "detail": ""}
    phone.route("**/field/records", lambda route: route.fulfill(status=503, json=busy))
    phone.locator("[data-thing='1:1.1/2']").click()
    keep(phone, "9", "6")
    expect(phone.get_by_test_id("waiting")).to_contain_text("1 not yet sent")
    phone.unroute("**/field/records")
    expect(phone.get_by_test_id("waiting")).to_have_text("all sent", timeout=15_000)
    assert list(values(store)) == ["1:1.1/2"]
