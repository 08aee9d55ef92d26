"""The hand-over at a desk: papers made in the background, and links for who only looks."""

import io
import re

import httpx
import pytest
from playwright.sync_api import Browser, Page, expect
from pypdf import PdfReader
from sqlalchemy import Engine, text

from tests.browser.test_hand import violations


@pytest.fixture
def handover(page: Page) -> Page:
    page.locator("[data-stage=handover]").click()
    expect(page.locator("[data-shown=handover]")).to_be_visible()
    return page


def linked(page: Page, whom: str) -> str:
    """The path of a link that is made for somebody."""
    form = page.get_by_role("region", name="Who may look")
    form.get_by_label("For whom").fill(whom)
    form.get_by_role("button", name="Make a link").click()
    found = re.search(r"/look/[\w-]+$", form.get_by_label("The link").input_value())
    assert found
    return found[0]


def test_the_papers_are_made_in_the_background_and_fetched(handover: Page, worker: None) -> None:
    papers = handover.get_by_role("region", name="Papers")
    papers.get_by_role("button", name="A4").click()
    papers.get_by_role("button", name="Make the papers").click()
    link = papers.get_by_role("link")
    expect(link).to_contain_text("papers.pdf", timeout=40_000)
    assert violations(handover) == []
    with handover.expect_download() as download:
        link.click()
    path = download.value.path()
    reader = PdfReader(path)
    assert download.value.suggested_filename == "larkspur-ferry-landing.pdf"
    assert "Larkspur Ferry landing" in reader.pages[0].extract_text()
    assert {round(float(page.mediabox.width)) for page in reader.pages} == {842}


def test_a_link_is_followed_without_an_account_until_it_is_taken_back(
    handover: Page, browser: Browser, address: str
) -> None:
    path = linked(handover, "the inspector")
    assert violations(handover) == []
    context = browser.new_context(viewport={"width": 390, "height": 844}, service_workers="block")
    guest = context.new_page()
    guest.goto(address + path)
    expect(guest.get_by_role("heading", level=1)).to_have_text("Larkspur Ferry landing")
    expect(guest.get_by_role("region", name="As built")).to_be_visible()
    expect(guest.get_by_text("revision 1, not issued")).to_be_visible()
    guest.locator("svg[data-drawing]").last.wait_for()
    assert violations(guest) == []
    assert guest.evaluate("document.documentElement.scrollWidth") <= 390
    guest.get_by_role("button", name="in metres").click()
    expect(guest.get_by_role("button", name="in feet")).to_be_visible()
    # It leads to nothing else.
    assert guest.evaluate("fetch('/api/jobs').then((answer) => answer.status)") == 401
    handover.get_by_role("button", name="Take back").click()
    expect(handover.get_by_text("Nobody has a link.")).to_be_visible()
    guest.reload()
    expect(guest.get_by_text("has run out or was taken back")).to_be_visible()
    context.close()


def test_a_link_that_has_run_out_is_refused(
    handover: Page, browser: Browser, address: str, store: Engine
) -> None:
    path = linked(handover, "the customer")
    with store.begin() as connection:
        connection.execute(text("update look_link set expires_at = now() - interval '1 minute'"))
    context = browser.new_context(service_workers="block")
    guest = context.new_page()
    guest.goto(address + path)
    expect(guest.get_by_text("has run out or was taken back")).to_be_visible()
    context.close()


def test_who_has_a_link_gets_the_papers_too(handover: Page, address: str) -> None:
    path = linked(handover, "the customer")
    answer = httpx.get(f"{address}/api{path}/papers.pdf", params={"paper": "letter"}, timeout=60)
    assert answer.status_code == 200 and answer.headers["cache-control"] == "no-store"
    reader = PdfReader(io.BytesIO(answer.content))
    assert {round(float(page.mediabox.width)) for page in reader.pages} == {792}
