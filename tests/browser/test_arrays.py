"""A job of several arrays, at a desk and on a phone: built, copied, moved, joined and undone."""

from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, FloatRect, Locator, Page, expect
from sqlalchemy import Engine

from openfurrow.shots import open_job, sign_in
from tests.browser.saying import say_all
from tests.browser.test_hand import QUIET_MS, violations
from tests.browser.test_screens import answer, field, go, settle, unfold
from tests.browser.test_site import add_plain
from tests.conftest import seeded

SIZES = {"desk": (1280, 800), "phone": (390, 844)}


@pytest.fixture
def demo(browser: Browser, engine: Engine, address: str) -> Iterator[Page]:
    """The demo as it is started: Larkspur with both its arrays, on its rows."""
    seeded(engine)
    context = browser.new_context(viewport={"width": 1280, "height": 800}, reduced_motion="reduce")
    page = context.new_page()
    errors: list[str] = []
    page.on("pageerror", lambda error: errors.append(str(error)))
    sign_in(page, address)
    open_job(page)
    expect(page.locator("[data-shown=rows]")).to_be_visible()
    yield page
    context.close()
    assert errors == []


def undo_all(page: Page) -> None:
    """Press Undo until the job is as it was when it was opened."""
    undo = page.get_by_role("button", name="Undo")
    for _ in range(30):
        page.wait_for_timeout(250)
        if undo.is_disabled():
            return
        undo.click()
    expect(undo).to_be_disabled()


def strip(page: Page) -> Locator:
    return page.get_by_role("navigation", name="Arrays of the job")


@pytest.mark.parametrize("size", SIZES)
def test_two_arrays_from_nothing_on_one_trunk_and_all_of_it_undone(
    browser: Browser, store: Engine, address: str, size: str
) -> None:
    width, height = SIZES[size]
    context = browser.new_context(viewport={"width": width, "height": height}, reduced_motion="reduce")
    page = context.new_page()
    sign_in(page, address)
    page.get_by_label("Name of the job").fill("Two fields")
    page.get_by_label("Rules").select_option("metric")
    page.get_by_role("button", name="Begin").click()
    expect(page.locator("[data-shown=site]")).to_be_visible()
    say_all(page)

    # One array alone: nothing tells of others but the way to add one.
    go(page, "rows")
    expect(strip(page)).to_have_count(0)
    settle(page, "arrays.1.rows.modules_along", "8", "8")
    page.get_by_role("button", name="Another array").click()
    dialog = page.get_by_role("dialog", name="Arrays of the job")
    dialog.get_by_role("button", name="Copy Array", exact=True).click()
    expect(dialog.get_by_label("What array 2 is called")).to_have_value("Array 2")
    name = dialog.get_by_label("What array 2 is called")
    name.fill("By the barn")
    name.press("Enter")
    expect(strip(page).get_by_role("button", name="By the barn 16")).to_be_visible()
    dialog.get_by_role("button", name="Close").click()

    # The copy is open, with givens of its own.
    second = strip(page).locator("[aria-current=true]").get_attribute("data-array")
    assert second and second != "1"
    settle(page, f"arrays.{second}.rows.modules_along", "4", "4")
    expect(strip(page)).to_contain_text("16")
    # A letter so soon after a field is still meant for it.
    page.wait_for_timeout(QUIET_MS)
    page.locator("body").press("[")
    expect(strip(page).locator("[data-array='1']")).to_have_attribute("aria-current", "true")
    expect(field(page, "arrays.1.rows.modules_along")).to_have_value("8")
    page.locator("body").press("]")
    expect(field(page, f"arrays.{second}.rows.modules_along")).to_have_value("4")

    # Moved on the plan, by hand.
    go(page, "site")
    handle = page.locator("[data-handle='array-2']")
    handle.focus()
    handle.press("ArrowRight")
    go(page, "rows")
    expect(field(page, f"arrays.{second}.rows.at_east_m")).to_have_value("0.100 m")

    # One of its tables is made longer, one more is put in and moved by hand.
    page.get_by_role("button", name="Tables from above").click()
    page.get_by_label("Table", exact=True).select_option("1.1")
    page.get_by_role("button", name="One column longer").click()
    expect(strip(page).get_by_role("button", name="By the barn 10")).to_be_visible()
    page.get_by_role("button", name="One more table").click()
    page.locator("svg[data-drawing=tables]").click(position={"x": 150, "y": 60})
    expect(strip(page).get_by_role("button", name="By the barn 18")).to_be_visible()
    page.get_by_label("Table", exact=True).select_option(label="Table extra 1")
    handle = page.locator("[data-handle='table-1']")
    handle.focus()
    before = handle.get_attribute("cy")
    handle.press("ArrowUp")
    expect(handle).not_to_have_attribute("cy", before or "")

    # Its way is taken straight until somebody draws it.
    go(page, "trench")
    expect(page.get_by_label("Answers")).to_contain_text("By the barn: taken straight")
    go(page, "site")
    unfold(page, "Way")
    way = add_plain(page, "site.spurs")
    field(page, f"{way}.array").select_option("By the barn")
    settle(page, f"{way}.points", "6 m, 8 m", "6.000 m, 8.000 m")
    go(page, "trench")
    expect(page.get_by_label("Answers")).not_to_contain_text("taken straight")
    dug = answer(page, "trench", "dug")
    expect(dug).to_be_visible()
    expect(page.locator("[data-drawing=across]")).to_be_visible()
    go(page, "materials")
    page.get_by_role("button", name="At the saw").click()
    expect(page.locator("[data-table=cuts]")).to_contain_text("By the barn, posts")

    # All of it undone: the job is as it began.
    undo_all(page)
    expect(strip(page)).to_have_count(0)
    go(page, "rows")
    expect(field(page, "arrays.1.rows.modules_along")).to_have_value("")
    context.close()


def test_stops_say_whose_they_are_and_lead_there(demo: Page) -> None:
    demo.locator("[data-array='2']").click()
    settle(demo, "arrays.2.rows.lower_edge_m", "6 in", '6"')
    demo.locator("[data-array='1']").click()
    demo.get_by_test_id("stops").click()
    told = demo.get_by_label("Stops").get_by_role("button").filter(has_text="Pump house")
    told.filter(has_text="Grass, snow and tools").click()
    expect(demo.locator("[data-array='2']")).to_have_attribute("aria-current", "true")
    expect(field(demo, "arrays.2.rows.lower_edge_m")).to_be_focused()
    # What every array says alike is told once.
    demo.get_by_test_id("stops").click()
    located = demo.get_by_label("Stops").get_by_role("button").filter(has_text="Buried lines are")
    expect(located.filter(has_text="footings")).to_have_count(1)


def test_arrays_that_overlap_are_stopped_and_the_order_is_changed(demo: Page) -> None:
    demo.locator("[data-array='2']").click()
    settle(demo, "arrays.2.rows.at_north_m", "1 ft", "1.00 ft")
    settle(demo, "arrays.2.rows.at_east_m", "0", "0.00 ft")
    expect(demo.get_by_label("Answers")).to_contain_text("Move it off River bench")
    demo.get_by_role("button", name="Arrays…").click()
    dialog = demo.get_by_role("dialog", name="Arrays of the job")
    assert violations(demo) == []
    dialog.get_by_role("button", name="Pump house one up").click()
    expect(dialog.get_by_label("What array 1 is called")).to_have_value("Pump house")
    dialog.get_by_role("button", name="Remove River bench").click()
    expect(dialog.get_by_role("button", name="Remove Pump house")).to_be_disabled()
    dialog.get_by_role("button", name="Close").click()
    expect(strip(demo)).to_have_count(0)
    undo_all(demo)
    expect(strip(demo).get_by_role("button")).to_have_count(3)


@pytest.mark.parametrize("stage", ["sun", "structure", "trench", "wiring", "materials", "stakeout"])
def test_each_stage_is_shown_for_the_array_that_is_open(demo: Page, stage: str) -> None:
    go(demo, stage)
    first = demo.locator("#stage").inner_text()
    demo.locator("[data-array='2']").click()
    expect(demo.locator("[data-array='2']")).to_have_attribute("aria-current", "true")
    # On paper too it is told whose it is.
    expect(demo.locator(".print-head")).to_contain_text("Larkspur Ferry landing: Pump house")
    if stage not in ("sun", "materials"):
        assert demo.locator("#stage").inner_text() != first
    assert violations(demo) == []


def test_an_inverter_is_given_the_arrays_it_takes(demo: Page) -> None:
    go(demo, "wiring")
    expect(answer(demo, "wiring", "landed_1")).to_have_text("3")
    expect(answer(demo, "wiring", "landed_2")).to_have_text("1")
    # Taking nothing of its own, the second shares what is there with the first.
    demo.locator("[data-thing='wiring.inverters.2']").click()
    taken = field(demo, "wiring.inverters.2.takes").get_by_role("button", name="Pump house")
    expect(taken).to_have_attribute("aria-pressed", "true")
    taken.click()
    expect(taken).to_have_attribute("aria-pressed", "false")
    # One string of the bench has landed on it, in the place of the pump house's.
    expect(answer(demo, "wiring", "ratio_2")).to_have_text("1.290")
    assert violations(demo) == []
    taken.click()
    expect(answer(demo, "wiring", "ratio_2")).to_have_text("1.200")
    # A stop leads into the inverter that asks for it, folded away as it is.
    settle(demo, "wiring.inverters.2.inverter_ac_w", "1 kW", "1.00 kW")
    demo.locator("[data-thing='wiring.inverters.1']").click()
    demo.get_by_test_id("stops").click()
    told = demo.get_by_label("Stops").get_by_role("button").filter(has_text="Modules suit")
    told.click()
    expect(field(demo, "wiring.inverters.2.inverter_ac_w")).to_be_focused()


def at_rest(thing: Locator) -> FloatRect:
    """Where a thing lies once it has lain there for a while."""
    before = thing.bounding_box()
    for _ in range(40):
        thing.page.wait_for_timeout(250)
        now = thing.bounding_box()
        if now and now == before:
            return now
        before = now
    raise AssertionError("it never comes to rest")


def test_a_table_is_taken_hold_of_moved_refused_taken_out_and_put_back(demo: Page) -> None:
    settle(demo, "arrays.1.rows.tables_along", "3", "3")
    settle(demo, "arrays.1.rows.modules_along", "6", "6")
    demo.get_by_role("button", name="Tables from above").click()
    sheet = demo.locator("svg[data-drawing=tables]")
    # Pressed on the drawing it is chosen; its posts' middle is its handle.
    demo.get_by_label("Table", exact=True).select_option("1.3")
    # What is told of it takes its room from the drawing: measured once what was typed is drawn.
    expect(demo.locator("[data-held='1.3']")).to_be_visible()
    expect(demo.get_by_text("6 along", exact=True)).to_be_visible()
    handle = demo.locator("[data-handle='table-1']")
    box = at_rest(handle)
    demo.get_by_label("Table", exact=True).select_option("1.1")
    expect(demo.locator("[data-held='1.1']")).to_be_visible()
    at_rest(handle)
    demo.mouse.click(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    expect(demo.locator("[data-held='1.3']")).to_be_visible()

    def drag(dx: float, dy: float) -> None:
        at = handle.bounding_box()
        assert at
        x, y = at["x"] + at["width"] / 2, at["y"] + at["height"] / 2
        demo.mouse.move(x, y)
        demo.mouse.down()
        demo.mouse.move(x + dx, y + dy, steps=6)
        demo.mouse.up()

    # Over its neighbour it may not stand, and says so; nothing is changed.
    drag(-70, 0)
    expect(demo.get_by_role("alert")).to_contain_text(
        "stays where it is: it would stand over table 1.2"
    )
    drag(0, -60)
    expect(demo.get_by_role("alert")).to_have_count(0)
    told = demo.locator("[data-list='arrays.1.rows.tables'] [data-thing]")
    expect(told).to_have_count(1)
    expect(told).to_contain_text("Table 1.3")
    expect(told).to_contain_text("back")
    assert violations(demo) == []

    demo.get_by_role("button", name="Take out").click()
    expect(strip(demo).get_by_role("button", name="River bench 24")).to_be_visible()
    expect(told).to_contain_text("taken out")
    demo.get_by_role("button", name="Put back").click()
    expect(strip(demo).get_by_role("button", name="River bench 36")).to_be_visible()
    demo.get_by_role("button", name="By number…").click()
    path = told.get_attribute("data-thing")
    settle(demo, f"{path}.turn_deg", "8", "8.0°")
    expect(sheet).to_be_visible()
    demo.get_by_role("button", name="As the others").click()
    expect(told).to_have_count(0)
    undo_all(demo)
    expect(field(demo, "arrays.1.rows.tables_along")).to_have_value("1")


def test_an_inverter_stands_out_at_its_array_and_its_output_lies_in_the_trench(demo: Page) -> None:
    go(demo, "wiring")
    demo.locator("[data-array='2']").click()
    demo.locator("[data-thing='wiring.inverters.2']").click()
    # What its output is, is asked for wherever it stands: it is connected in the building too.
    expect(field(demo, "wiring.inverters.2.ac_v")).to_have_value("240.0 V")
    field(demo, "wiring.inverters.2.stands").select_option("at the array")
    expect(field(demo, "wiring.inverters.2.ac_v")).to_have_value("240.0 V")
    expect(answer(demo, "wiring", "output")).to_have_text("16.67 A")
    expect(answer(demo, "wiring", "breaker")).to_have_text("25.00 A")
    field(demo, "wiring.inverters.2.phases").select_option("three phases")
    expect(answer(demo, "wiring", "output")).to_have_text("9.62 A")
    expect(answer(demo, "wiring", "breaker")).to_have_text("15.00 A")
    expect(demo.locator("[data-thing='wiring.inverters.2']")).to_contain_text("1 at the array")
    assert violations(demo) == []
    go(demo, "materials")
    expect(demo.locator("[data-table=materials]")).to_contain_text("Breaker 15 A")
    # It stands at one array: taking another too is a stop, and says so.
    go(demo, "wiring")
    demo.locator("[data-thing='wiring.inverters.2']").click()
    taken = field(demo, "wiring.inverters.2.takes").get_by_role("button", name="River bench")
    taken.click()
    expect(demo.get_by_label("Answers")).to_contain_text("stands at one array and takes 2")
