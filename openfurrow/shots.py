"""Pictures of the main views, taken from the demo data."""

import threading
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING

import uvicorn
from fastapi import FastAPI
from sqlalchemy.orm import Session

from openfurrow.core.design import PLACES
from openfurrow.demo.seed import PASSWORD, PLANNER, seed
from openfurrow.store.cluster import free_port, private_cluster, throwaway_home
from openfurrow.store.database import migrate, open_database
from openfurrow.web.app import create_app

if TYPE_CHECKING:
    from playwright.sync_api import Page

CHROMIUM = "/usr/bin/chromium"
# Keeps a headless browser on this machine: it asks nobody for updates.
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-quic",
    "--no-first-run",
    # The view in space is drawn in software.
    "--enable-unsafe-swiftshader",
]
MAIN_JOB = "Larkspur"
# The first frame of the view in space, drawn in software.
SCENE_MS = 4_000
DESK, PHONE = (1280, 800), (390, 844)


@contextmanager
def demo_server(root: Path) -> Iterator[str]:
    """The application on fresh demo data and a throwaway cluster; gives its address."""
    with throwaway_home() as home, private_cluster(home, lasting=False) as url:
        engine = open_database(url)
        migrate(engine)
        with Session(engine) as session, session.begin():
            seed(session)
        with served(create_app(engine, root / "frontend" / "dist")) as address:
            yield address
        engine.dispose()


@contextmanager
def served(app: FastAPI) -> Iterator[str]:
    """An application on a free loopback port, in a thread of this process."""
    port = free_port()
    server = uvicorn.Server(uvicorn.Config(app, host="127.0.0.1", port=port, log_level="warning"))
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    while not server.started:
        thread.join(0.02)
    try:
        yield f"http://127.0.0.1:{port}"
    finally:
        server.should_exit = True
        thread.join(10)


def sign_in(page: "Page", address: str, name: str = PLANNER) -> None:
    """Sign in as a demo person and wait for the list of jobs."""
    page.goto(address)
    page.get_by_label("Name").fill(name)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_test_id("job").first.wait_for()


def open_job(page: "Page", name: str = MAIN_JOB) -> None:
    """From the list of jobs into one of them."""
    page.get_by_test_id("job").filter(has_text=name).click()
    page.locator("[data-shown]").wait_for()


def take_shots(root: Path, target: Path) -> int:
    """One picture of each main view at desk size, one on a phone, one at dusk."""
    from playwright.sync_api import sync_playwright

    target.mkdir(parents=True, exist_ok=True)
    with demo_server(root) as address, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        for (width, height), views in (
            (DESK, ("jobs", *PLACES, "space", "dusk", "nothing")),
            (PHONE, ("phone-field",)),
        ):
            page = browser.new_page(viewport={"width": width, "height": height})
            sign_in(page, address)
            for view in views:
                _open(page, view)
                page.screenshot(path=target / f"{view}.png")
                print(target / f"{view}.png")
            page.close()
        browser.close()
    return 0


def _open(page: "Page", view: str) -> None:
    if view == "jobs":
        return
    if view == "nothing":
        page.get_by_role("link", name="Open Furrow").click()
        page.get_by_label("Name of the job").fill("Kestrel barn")
        page.get_by_role("button", name="Begin").click()
        page.get_by_test_id("to-say").first.wait_for()
        return
    if view == "phone-field":
        open_job(page)
        page.get_by_role("link", name="Field book", exact=True).click()
        page.get_by_role("navigation", name="Field book").get_by_role("button", name="Posts").click()
        page.locator("[data-thing]").nth(2).click()
        return
    stage = {"dusk": "sun", "space": "site"}.get(view, view.removeprefix("phone-"))
    if page.url.count("/jobs/") == 0:
        open_job(page)
    if view == "dusk":
        page.get_by_role("button", name="Dusk").click()
    page.locator(f"[data-stage={stage}]").click()
    page.locator(f"[data-shown={stage}]").wait_for()
    ways = {"materials": "At the saw", "wiring": "One line"}
    if view in ways:
        page.get_by_role("button", name=ways[view]).click()
    page.locator("svg[data-drawing]").last.wait_for()
    if view == "dusk":
        page.get_by_role("button", name="The year").click()
        page.locator("[data-energy] svg[data-drawing]").last.wait_for()
    if view == "space":
        page.get_by_role("button", name="In space").click()
        page.locator("[data-scene] canvas").wait_for()
        page.wait_for_timeout(SCENE_MS)
    page.mouse.move(2, 2)
