"""Larkspur through every family of footing and back, at a desk and on a phone."""

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect
from pypdf import PdfReader
from sqlalchemy import Engine

from openfurrow.core.compare.refused import refused_at
from openfurrow.core.compare.risk import odds_of
from openfurrow.core.compare.risk_beside import odds_beside
from openfurrow.core.plan import untried
from openfurrow.core.quantities import format_value
from openfurrow.demo.designs import larkspur
from openfurrow.shots import open_job, sign_in
from tests.browser.conftest import DESK, PHONE, opened
from tests.browser.test_hand import violations
from tests.browser.test_screens import answer, field, go, unfold
from tests.designs import changed

AROUND = ("ground screw", "bored pier", "ballast", "piled blocks", "driven post")
UNDER = {"ballast": "ballast frame", "piled blocks": "table on blocks"}


def at(browser: Browser, address: str, size: str, stage: str) -> tuple[BrowserContext, Page]:
    """Larkspur at a stage, at a desk or on a phone."""
    context, page = opened(browser, address, size)
    go(page, stage)
    return context, page


def side_by_side(page: Page) -> None:
    go(page, "footings")
    page.get_by_role("button", name="Footings side by side").click()
    expect(page.locator("[data-families] li")).to_have_count(5)


@pytest.mark.parametrize("size", ["desk", "phone"])
def test_larkspur_through_all_footings_and_back(
    browser: Browser, store: Engine, address: str, size: str
) -> None:
    context = browser.new_context(**(DESK if size == "desk" else PHONE), service_workers="block")
    page = context.new_page()
    errors: list[str] = []
    page.on("pageerror", lambda error: errors.append(str(error)))
    sign_in(page, address)
    open_job(page)
    side_by_side(page)
    assert violations(page, but="target-size" if size == "phone" else "") == []
    now = page.locator("[data-families] li", has_text="Stands now")
    expect(now).to_contain_text("Driven post")
    # Why ballast is refused where the ground falls, in the list and in words.
    refused = page.locator("main, body").first
    expect(refused).to_contain_text("Ballast, not met")
    structure = "one post line"
    for footing in AROUND:
        page.wait_for_timeout(2100)
        page.get_by_role("button", name=f"Take {footing}").click()
        expect(now).to_contain_text(footing.capitalize())
        expect(field(page, "arrays.1.footings.family")).to_have_value(footing)
        in_ground = structure if structure not in UNDER.values() else "two post lines"
        structure = UNDER.get(footing, in_ground)
        design = changed(changed(larkspur(), "structure", family=structure), "footings", family=footing)
        found = untried(design)
        for stage in ("footings", "stakeout", "materials"):
            if stage != "footings":
                go(page, stage)
            for one in found.shown(stage)[0]:
                if one.headline:
                    shown = format_value(one.value, one.kind, "us")
                    expect(answer(page, stage, one.key)).to_contain_text(shown)
        side_by_side(page)
    # What was typed of another family is kept out of sight, and each step can be taken back.
    undo = page.get_by_role("button", name="Undo")
    for footing in (*AROUND[-2::-1], "driven post"):
        undo.click()
        expect(field(page, "arrays.1.footings.family")).to_have_value(footing)
    expect(undo).to_be_disabled()
    assert errors == []
    context.close()


def test_a_pier_in_its_ground_and_what_it_takes(browser: Browser, store: Engine, address: str) -> None:
    context, page = at(browser, address, "desk", "footings")
    field(page, "arrays.1.footings.family").select_option("bored pier")
    drawing = page.locator("[data-drawing=footings]")
    expect(drawing.locator(".layer-pier").first).to_be_visible()
    expect(drawing.locator(".layer-stone").first).to_be_visible()
    expect(answer(page, "footings", "concrete")).to_contain_text("cu yd")
    # A bore that comes out wider is ordered for, and holds no more.
    design = changed(larkspur(), "footings", family="bored pier", bored_diameter_m=15 * 0.0254)
    unfold(page, "Pier")
    wide = field(page, "arrays.1.footings.bored_diameter_m")
    wide.fill("15 in")
    wide.press("Enter")
    found = untried(design)
    piers = found.footings.piers
    assert piers is not None
    expect(answer(page, "footings", "concrete")).to_contain_text(
        format_value(piers.order_m3, "volume", "us")
    )
    expect(answer(page, "footings", "depth")).to_contain_text(
        format_value(found.footings.posts.depth_m, "tape", "us")
    )
    # Narrower than the auger is a stop that one press clears.
    wide.fill("11 in")
    wide.press("Enter")
    page.get_by_role("button", name="Reckon with what was measured").first.click()
    expect(field(page, "arrays.1.footings.pier_diameter_m")).to_have_value('11"')
    context.close()


@pytest.mark.parametrize("size", ["desk", "phone"])
def test_one_that_stopped_and_a_way_on_taken(
    browser: Browser, store: Engine, address: str, size: str
) -> None:
    context, page = at(browser, address, size, "footings")
    page.get_by_role("button", name="One that stopped").click()
    page.get_by_role("spinbutton", name="Support").fill("4")
    page.get_by_role("textbox", name="stopped at").fill("3 ft 6 in")
    page.get_by_role("button", name="What now?").click()
    ways = page.locator("[data-stopped]")
    design = larkspur()
    told = refused_at(design, untried(design), 3, 42 * 0.0254)
    assert told.next_m is not None
    expect(ways).to_contain_text("Support 4, 1.1/4: stopped at 3' 6\"")
    expect(ways).to_contain_text(format_value(told.next_m, "tape", "us"))
    assert violations(page, but="target-size" if size == "phone" else "") == []
    # What is no depth is told with what it may be; no such support, too.
    page.get_by_role("textbox", name="stopped at").fill("90 ft")
    page.get_by_role("button", name="What now?").click()
    expect(ways.get_by_role("alert")).to_contain_text("0 to")
    page.get_by_role("textbox", name="stopped at").fill("3 ft 6 in")
    page.get_by_role("spinbutton", name="Support").fill("900")
    page.get_by_role("button", name="What now?").click()
    expect(ways.get_by_role("alert")).to_contain_text("there is no 900")
    # It leans too, and water stands in its hole.
    page.get_by_role("spinbutton", name="Support").fill("4")
    page.get_by_role("textbox", name="leans by").fill("3")
    page.get_by_role("textbox", name="water at").fill("3 ft")
    page.get_by_role("button", name="What now?").click()
    expect(page.get_by_role("row", name="Pull it straight")).to_contain_text("leans too far")
    expect(page.get_by_role("row", name="Water in the hole")).to_contain_text("3' 0\"")
    page.get_by_role("textbox", name="leans by").fill("70")
    page.get_by_role("button", name="What now?").click()
    expect(ways.get_by_role("alert")).to_contain_text("0 to 30")
    page.get_by_role("textbox", name="leans by").fill("")
    page.get_by_role("textbox", name="water at").fill("")
    # Written down at the desk, it stands in the field book, and its chance is offered to the odds.
    page.get_by_role("spinbutton", name="Support").fill("4")
    page.get_by_role("textbox", name="stopped at").fill("5 ft 3 in")
    page.get_by_role("button", name="What now?").click()
    page.get_by_role("button", name="Write into the field book").click()
    expect(ways.get_by_role("status")).to_contain_text("Written down")
    page.get_by_role("button", name="What may go wrong").click()
    page.get_by_role("button", name="Take what the field book met").click()
    expect(field(page, "arrays.1.footings.stone_chance_per_m")).not_to_have_value("")
    go(page, "fieldbook")
    expect(page.get_by_role("row").filter(has_text="5' 3\"").first).to_be_visible()
    context.close()


def test_odds_are_drawn_once_a_chance_is_typed(browser: Browser, store: Engine, address: str) -> None:
    context, page = at(browser, address, "desk", "footings")
    page.get_by_role("button", name="What may go wrong").click()
    expect(page.get_by_text("Nobody has said any chance")).to_be_visible()
    chance = field(page, "arrays.1.footings.stone_chance_per_m")
    chance.fill("10 %")
    chance.press("Enter")
    expect(page.locator("[data-charts=odds] [data-drawing=stopped]")).to_be_visible()
    design = changed(larkspur(), "footings", stone_chance_per_m=0.1)
    first = design.arrays[0]
    (stopped, *_) = odds_of(untried(design), first.footings, design.materials)
    # Each family by trials of its own: curves, and a row of hours for it.
    expect(page.locator("[data-charts=odds] [data-drawing=hours_beside]")).to_be_visible()
    posts = next(one for one in odds_beside(design, first.id) if one.footing == "driven post")
    own = page.get_by_role("row", name="Driven post").first
    expect(own).to_contain_text(format_value(posts.hours.at(0.95), "hours", "us"))
    # The ground's own spread is typed, and weak ones are drawn.
    spread = field(page, "arrays.1.footings.strength_spread")
    spread.fill("30 %")
    spread.press("Enter")
    expect(page.locator("[data-charts=odds] [data-drawing=weak]")).to_be_visible()
    row = page.get_by_role("row", name="Stopped on the way down")
    expect(row).to_contain_text(f"{100 * stopped.short:.0f} of 100 jobs")
    assert violations(page) == []
    context.close()


@pytest.mark.parametrize("size", ["desk", "phone"])
def test_posts_that_were_tested_are_written_down_and_read(
    browser: Browser, store: Engine, address: str, size: str
) -> None:
    context, page = at(browser, address, size, "site")
    unfold(page, "Soil")
    page.locator("[data-add='site.load_tests']").click()
    path = page.locator("[data-thing^='site.load_tests.']").get_attribute("data-thing")
    assert path is not None
    readings = field(page, f"{path}.readings")
    # A load that is no more than the one before is refused by name.
    readings.fill("2000 lb, 1/16 in\n1500 lb, 1/8 in")
    readings.blur()
    expect(page.get_by_text("each load must be more than the one before")).to_be_visible()
    readings.fill("2000 lb, 1/16 in\n4000 lb, 3/8 in\n4400 lb, 3/4 in")
    readings.blur()
    expect(page.get_by_text("each load must be more than the one before")).to_have_count(0)
    expect(page.locator("[data-drawing=site] .layer-load-test")).to_have_count(1)
    go(page, "footings")
    # By hand: 3/8 to 3/4 in is 400 lb, and a half is a third of the way.
    page.get_by_role("button", name="What was tested").click()
    row = page.get_by_role("row").filter(has_text="gave way")
    expect(row).to_contain_text("4 133 lb")
    expect(page.locator("[data-charts=tested] [data-drawing=tested-pulled]")).to_be_visible()
    expect(answer(page, "footings", "untested")).to_contain_text("9' 4")
    expect(page.get_by_text("Enough posts were pulled, near enough")).to_be_visible()
    assert violations(page) == []
    # Taken out again, the tables are back.
    go(page, "site")
    unfold(page, "Soil")
    thing = page.locator(f"[data-thing='{path}']")
    if thing.get_attribute("aria-expanded") == "false":
        thing.click()
    page.get_by_role("button", name="Remove").click()
    go(page, "footings")
    expect(answer(page, "footings", "untested")).to_have_count(0)
    expect(page.get_by_role("button", name="What was tested")).to_have_count(0)
    context.close()


@pytest.mark.parametrize("size", ["desk", "phone"])
def test_one_support_in_its_layers_and_its_calculation_page_by_page(
    browser: Browser, store: Engine, address: str, size: str
) -> None:
    context, page = at(browser, address, size, "footings")
    page.get_by_role("button", name="One support").click()
    number = page.get_by_role("spinbutton", name="Support")
    number.fill("99")
    expect(page.get_by_text("there is no 99")).to_be_visible()
    number.fill("4")
    drawing = page.locator("[data-drawing=in_layers]")
    expect(drawing.locator(".layer-fine-soil").first).to_be_visible()
    expect(page.get_by_role("row").filter(has_text="sandy gravel")).not_to_have_count(0)
    assert violations(page) == []
    # From above: the one in the middle is pointed at, and its number stands in the field.
    above = page.locator("[data-drawing=used]")
    above.scroll_into_view_if_needed()
    expect(above.locator("[class*=layer-carries-]").first).to_be_visible()
    above.click()
    expect(number).to_have_value("5")
    expect(page.get_by_text("Post 5, 1.1/5 in its layers")).to_be_visible()
    number.fill("4")
    with page.expect_download() as download:
        page.get_by_role("link", name="Letter").click()
    sheets = [one.extract_text() for one in PdfReader(download.value.path()).pages]
    assert "Calculation of post 4, 1.1/4" in sheets[0] and "draft on revision" in sheets[0]
    posts = untried(larkspur()).footings.posts
    tape = format_value(float(posts.depths_m[3]), "tape", "us")
    assert tape in " ".join(sheets[0].split())
    assert "line by line" in sheets[1]
    for sheet in sheets:
        assert "Local code and licensed people decide" in sheet
    context.close()
