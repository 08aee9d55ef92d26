"""A headless browser on the running application."""

import os
import subprocess
import sys
from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect, sync_playwright
from sqlalchemy import Engine

from openfurrow.shots import CHROMIUM, FLAGS, MAIN_JOB, open_job, sign_in
from tests.conftest import ROOT

expect.set_options(timeout=10_000)


DESK = {"viewport": {"width": 1280, "height": 800}, "reduced_motion": "reduce"}
PHONE = {
    "viewport": {"width": 390, "height": 844},
    "has_touch": True,
    "is_mobile": True,
    "reduced_motion": "reduce",
}


def opened(
    browser: Browser, address: str, size: str, job: str = MAIN_JOB
) -> tuple[BrowserContext, Page]:
    """A job, at a desk or on a phone, for a planner who has signed in."""
    context = browser.new_context(**(DESK if size == "desk" else PHONE), service_workers="block")
    page = context.new_page()
    sign_in(page, address)
    open_job(page, job)
    return context, page


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        yield browser
        browser.close()


@pytest.fixture
def desk(browser: Browser, store: Engine, address: str) -> Iterator[Page]:
    """Signed in at a desk, on the list of jobs; script errors fail the test."""
    # What is kept for a phone is tried by itself; elsewhere it would only be loaded again and again.
    context = browser.new_context(
        viewport={"width": 1280, "height": 800}, reduced_motion="reduce", service_workers="block"
    )
    page = context.new_page()
    errors: list[str] = []
    page.on("pageerror", lambda error: errors.append(str(error)))
    sign_in(page, address)
    yield page
    context.close()
    assert errors == []


@pytest.fixture
def page(desk: Page) -> Page:
    """The demo job, on its rows."""
    open_job(desk)
    expect(desk.locator("[data-shown=rows]")).to_be_visible()
    return desk


@pytest.fixture
def phone(browser: Browser, store: Engine, address: str) -> Iterator[Page]:
    """A phone that is touched."""
    context = browser.new_context(**PHONE, service_workers="block")
    page = context.new_page()
    errors: list[str] = []
    page.on("pageerror", lambda error: errors.append(str(error)))
    # Before anybody has signed in the server says so; where there is no network the browser does.
    expected = ("401", "422", "503", "ERR_INTERNET_DISCONNECTED")
    page.on(
        "console",
        lambda said: (
            errors.append(said.text)
            if said.type == "error" and not any(word in said.text for word in expected)
            else None
        ),
    )
    sign_in(page, address)
    open_job(page)
    yield page
    context.close()
    assert errors == []


@pytest.fixture
def worker(database_url: str) -> Iterator[None]:
    process = subprocess.Popen(
        [sys.executable, "-m", "openfurrow.cli", "work"],
        cwd=ROOT,
        env=os.environ | {"DATABASE_URL": database_url},
    )
    yield
    process.terminate()
    process.wait(timeout=10)
