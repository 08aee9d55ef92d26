"""A job from nothing, typed as a person types: down the list of what is still to say."""

import re
from collections.abc import Iterator
from dataclasses import dataclass, field

import pytest
from playwright.sync_api import Browser, Page, expect
from sqlalchemy import Engine

from openfurrow.shots import sign_in
from tests.browser.test_screens import answer, go

DESK, PHONE = (1280, 800), (390, 844)
# A plain job, two modules high and fourteen along, on soil that is known.
MOST_GIVENS = 30


@dataclass
class Place:
    """What a planner knows of one place, by the labels of the form."""

    pack: str
    said: dict[str, str]
    modules: str = "14"
    typed: list[str] = field(default_factory=list)


PLACES = {
    "feet": Place(
        "us",
        {
            "Latitude": "41.2 N",
            "Longitude": "96.0 W",
            "Elevation": "1050 ft",
            "Time zone": "America/Chicago",
            "Slope of the ground": "1:50",
            "Falls toward": "170",
            "Design wind": "109 mph",
            "Ground snow": "25 psf",
            "Soil at depth": "sand",
            "Frost depth": "3' 6\"",
            "Way to the building": "10 ft, 15 ft\n60 ft, 80 ft",
            "Lowest temperature": "-9 F",
            "Hottest temperature": "97 F",
            "Digging starts": "2027-05-03",
        },
    ),
    "metres": Place(
        "metric",
        {
            "Latitude": "48.1",
            "Longitude": "11.9",
            "Elevation": "520",
            "Time zone": "Europe/Berlin",
            "Slope of the ground": "3 %",
            "Falls toward": "200",
            "Design wind": "22.5 m/s",
            "Ground snow": "1.3 kPa",
            "Soil at depth": "sandy gravel",
            "Frost depth": "0.8",
            "Way to the building": "4, 6\n20, 25",
            "Lowest temperature": "-18",
            "Hottest temperature": "34",
            "Digging starts": "2027-05-03",
        },
    ),
    "south": Place(
        "metric",
        {
            "Latitude": "33.5 S",
            "Longitude": "18.9 E",
            "Elevation": "120 m",
            "Time zone": "Africa/Johannesburg",
            "Slope of the ground": "0",
            "Design wind": "28 m/s",
            "Ground snow": "0",
            "Soil at depth": "clay",
            "Frost depth": "0",
            "Way to the building": "4 m, -6 m\n20 m, -25 m",
            "Lowest temperature": "1 C",
            "Hottest temperature": "39 C",
            "Digging starts": "2027-09-06",
        },
    ),
}


@pytest.fixture(params=[DESK, PHONE], ids=["desk", "phone"])
def screen(
    request: pytest.FixtureRequest, browser: Browser, store: Engine, address: str
) -> Iterator[Page]:
    """Signed in, at a desk or with a phone; script errors fail the test."""
    width, height = request.param
    touched = {"has_touch": True, "is_mobile": True} if request.param == PHONE else {}
    context = browser.new_context(
        viewport={"width": width, "height": height}, reduced_motion="reduce", **touched
    )
    page = context.new_page()
    errors: list[str] = []
    page.on("pageerror", lambda error: errors.append(str(error)))
    sign_in(page, address)
    yield page
    context.close()
    assert errors == []


def say(page: Page, place: Place, label: str) -> None:
    """Press the first line of the list, and type into what the hand is led to."""
    text = {"Modules along": place.modules, "An array stands there already": "no"}.get(
        label, place.said.get(label, "")
    )
    page.locator("main").get_by_test_id("to-say").get_by_role("button").first.click()
    given = page.locator("[data-given]:focus")
    expect(given).to_have_count(1)
    assert (
        page.locator(f"[data-testid='given-{given.get_attribute('data-given')}']")
        .get_by_text(label, exact=True)
        .count()
    )
    if given.evaluate("one => one.tagName") == "SELECT":
        given.select_option(text)
    else:
        given.fill(text)
        given.blur()
    place.typed.append(label)


def first_of_list(page: Page) -> str:
    words: str = page.locator("main").get_by_test_id("to-say").get_by_role("button").first.inner_text()
    return words.split("\n")[0].strip()


@pytest.mark.parametrize("where", PLACES)
def test_from_nothing_to_materials_and_stakes(
    screen: Page, where: str, record_property: pytest.FixtureRequest
) -> None:
    place = PLACES[where]
    place.typed = ["Name", "Rules"]
    page = screen
    page.get_by_label("Name of the job").fill("Kestrel barn")
    page.get_by_label("Rules").select_option(place.pack)
    page.get_by_role("button", name="Begin", exact=True).click()
    expect(page.locator("[data-shown=site]")).to_be_visible()
    list_of = page.locator("main").get_by_test_id("to-say")
    left = 16
    expect(list_of).to_contain_text(f"{left} still to say")
    # Before anything is said no stage but the site has a number.
    for stage in ("rows", "footings", "materials", "stakeout"):
        go(page, stage)
        expect(page.locator("main [data-answer]")).to_have_count(0)
        expect(page.locator("main")).to_contain_text("Nothing is drawn or counted here yet")
        assert page.locator("main svg.drawing").count() == 0
    go(page, "site")
    while left:
        label = first_of_list(page)
        say(page, place, label)
        left -= 1
        # Level ground falls nowhere: two are answered at once.
        left -= label == "Slope of the ground" and place.said[label] == "0"
        if left:
            expect(list_of).to_contain_text(f"{left} still to say")
    expect(list_of).to_have_count(0)
    print(f"{where}: {len(place.typed)} givens typed from nothing to materials and stakes")
    assert len(place.typed) <= MOST_GIVENS
    go(page, "rows")
    expect(answer(page, "rows", "modules")).to_have_text("28")
    go(page, "materials")
    expect(page.locator("[data-table=materials]")).to_contain_text("Module")
    go(page, "stakeout")
    expect(page.locator("[data-table=stakes] tbody tr").first).to_be_visible()
    # The array looks to the equator.
    go(page, "sun")
    facing = page.locator("main svg[data-drawing=sun]").get_by_text(re.compile(r"faces \d+"))
    expect(facing).to_have_text("faces 0° true" if where == "south" else "faces 180° true")
    # It is kept, and undone step by step like the rest.
    page.get_by_role("button", name="Undo").click()
    expect(list_of).to_contain_text("1 still to say")


def test_what_was_said_can_be_left_open_again(screen: Page) -> None:
    page = screen
    page.get_by_label("Name of the job").fill("Kestrel barn")
    page.get_by_role("button", name="Begin", exact=True).click()
    expect(page.locator("[data-shown=site]")).to_be_visible()
    list_of = page.locator("main").get_by_test_id("to-say")
    say(page, PLACES["feet"], "An array stands there already")
    expect(list_of).to_contain_text("15 still to say")
    say(page, PLACES["feet"], "Latitude")
    expect(list_of).to_contain_text("14 still to say")
    latitude = page.locator("[data-given='site.latitude_deg']")
    latitude.fill("")
    latitude.blur()
    expect(list_of).to_contain_text("15 still to say")
    expect(latitude).to_have_attribute("placeholder", "not said yet")


def test_a_new_job_among_others_tells_how_much_is_still_to_say(screen: Page) -> None:
    page = screen
    page.get_by_label("Name of the job").fill("Kestrel barn")
    page.get_by_role("button", name="Begin", exact=True).click()
    expect(page.locator("[data-shown=site]")).to_be_visible()
    page.get_by_role("link", name="Open Furrow").click()
    line = page.get_by_test_id("job").filter(has_text="Kestrel barn")
    expect(line).to_contain_text("16 still to say")
    expect(line).not_to_contain_text("modules")


def test_a_file_that_cannot_be_written_yet_says_what_is_missing(screen: Page) -> None:
    page = screen
    page.get_by_label("Name of the job").fill("Kestrel barn")
    page.get_by_role("button", name="Begin", exact=True).click()
    page.get_by_role("button", name="Files").click()
    page.get_by_role("link", name="stakes.csv").click()
    told = page.get_by_role("dialog").get_by_role("alert")
    expect(told).to_contain_text("Latitude")
    expect(told).to_contain_text("is not said yet")
