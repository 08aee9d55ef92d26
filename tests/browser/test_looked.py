"""Values of practice are thin until somebody has looked at them: in forms, strip, stops, revisions."""

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, Locator, Page, expect

from openfurrow.shots import sign_in
from tests.browser.test_hand import violations
from tests.browser.test_screens import field, go

EDGE = "arrays.1.rows.lower_edge_m"


def begin(page: Page) -> None:
    page.get_by_label("Name of the job").fill("Kestrel barn")
    page.get_by_role("button", name="Begin", exact=True).click()
    expect(page.locator("[data-shown=site]")).to_be_visible()


def weight(one: Locator) -> int:
    return int(one.evaluate("one => getComputedStyle(one).fontWeight"))


def left(page: Page) -> int:
    """How many the stops say that nobody has looked at."""
    told = re.search(r"(\d+) not looked at", page.get_by_test_id("stops").inner_text())
    return int(told[1]) if told else 0


def test_one_press_makes_a_group_ones_own_and_undo_gives_it_back(desk: Page) -> None:
    begin(desk)
    go(desk, "rows")
    edge = field(desk, EDGE)
    thin, whole = weight(edge), left(desk)
    group = desk.locator("fieldset, details").filter(has=edge)
    count = group.locator("[data-practice]").count()
    assert count > 2 and thin < 400
    expect(group).to_contain_text(f"{count} not looked at")
    strip = desk.locator("[data-stage=rows]")
    before = int(re.search(r"(\d+)\s*not looked at", strip.inner_text())[1])  # type: ignore[index]
    group.locator("[data-mine]").click()
    expect(group.locator("[data-practice]")).to_have_count(0)
    assert weight(edge) > thin
    expect(desk.get_by_test_id("stops")).to_contain_text(f"{whole - count} not looked at")
    expect(strip).to_contain_text(f"{before - count} not looked at")
    assert violations(desk) == []
    desk.get_by_role("button", name="Undo").click()
    expect(group.locator("[data-practice]")).to_have_count(count)
    expect(desk.get_by_test_id("stops")).to_contain_text(f"{whole} not looked at")


def test_what_is_typed_or_confirmed_is_thick_at_once(desk: Page) -> None:
    begin(desk)
    go(desk, "rows")
    given = desk.get_by_test_id(f"given-{EDGE}")
    expect(given).to_have_attribute("data-practice", "true")
    edge, whole = field(desk, EDGE), left(desk)
    edge.focus()
    edge.press("Enter")
    expect(given).not_to_have_attribute("data-practice", "true")
    assert edge.input_value() == "3' 0\""
    tilt = desk.get_by_test_id("given-arrays.1.rows.tilt_deg")
    field(desk, "arrays.1.rows.tilt_deg").fill("30")
    expect(tilt).not_to_have_attribute("data-practice", "true")
    # It stays so, and when it is shown anew.
    expect(desk.get_by_test_id("stops")).to_contain_text(f"{whole - 2} not looked at")
    desk.reload()
    expect(field(desk, EDGE)).to_be_visible()
    expect(given).not_to_have_attribute("data-practice", "true")
    expect(tilt).not_to_have_attribute("data-practice", "true")


def test_the_stops_lead_to_what_nobody_has_looked_at(desk: Page) -> None:
    begin(desk)
    desk.get_by_test_id("stops").click()
    told = desk.get_by_test_id("practice")
    assert f"{left(desk)} values are practice" in " ".join(told.inner_text().split())
    told.get_by_role("button", name=re.compile("^9 trench")).click()
    expect(desk.locator("[data-shown=trench]")).to_be_visible()
    expect(desk.locator("[data-given='trench.method']")).to_be_focused()


def test_a_revision_that_is_issued_lists_what_it_takes_for_granted(desk: Page) -> None:
    begin(desk)
    field(desk, "name").fill("Kestrel barn, east")
    expect(desk.get_by_role("heading", name="Kestrel barn, east")).to_be_visible()
    open_ = left(desk)
    desk.get_by_role("button", name="Save…").click()
    dialog = desk.get_by_role("dialog")
    dialog.get_by_test_id("issue").check()
    expect(dialog).to_contain_text("It is not ready to build from: 16 still to say")
    expect(dialog.get_by_role("region", name="Taken for granted")).to_contain_text(f"{open_} values")
    expect(dialog).to_contain_text("structure, posts: Longest span")
    assert violations(desk) == []
    dialog.get_by_role("button", name="Save and issue").click()
    expect(dialog).to_have_count(0)
    desk.get_by_role("button", name="History").click()
    told = desk.get_by_role("region", name="Revisions").get_by_role("listitem").first
    told.get_by_text(f"Issued; {open_} values nobody had looked at").click()
    expect(told).to_contain_text("Longest span")
    expect(told).to_contain_text("8' 6\"")
    # The one it began with was not issued.
    expect(desk.get_by_role("region", name="Revisions").get_by_text("Issued")).to_have_count(1)


@pytest.fixture
def on_site(browser: Browser, address: str, store: object) -> Iterator[Page]:
    """A phone that knows where it is."""
    context = browser.new_context(
        viewport={"width": 390, "height": 844},
        has_touch=True,
        is_mobile=True,
        permissions=["geolocation"],
        geolocation={"latitude": -33.512345, "longitude": 18.9, "accuracy": 7.4},
        timezone_id="Africa/Johannesburg",
    )
    page = context.new_page()
    sign_in(page, address)
    yield page
    context.close()


def test_who_stands_on_the_site_has_its_place_taken(on_site: Page) -> None:
    page = on_site
    begin(page)
    page.get_by_role("button", name="I stand on the site: take its place").click()
    expect(page.get_by_text("Taken, to within 8 m.")).to_be_visible()
    expect(field(page, "site.latitude_deg")).to_have_value("−33.51235°")
    expect(field(page, "site.longitude_deg")).to_have_value("18.90000°")
    expect(field(page, "site.time_zone")).to_have_value("Africa/Johannesburg")
    # Three are said; a phone's height is none over the sea.
    expect(page.locator("main").get_by_test_id("to-say")).to_contain_text("13 still to say")
    expect(field(page, "site.elevation_m")).to_have_value("")
