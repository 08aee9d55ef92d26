"""The real interface in Chromium, as a planner uses it."""

import json
import re
from pathlib import Path

import httpx
import pytest
from playwright.sync_api import Browser, Locator, Page, Route, expect
from sqlalchemy import Engine

from openfurrow.core.as_built import as_built
from openfurrow.core.design import PLACES, Design
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import format_value
from openfurrow.demo.seed import CREW_LEAD, PASSWORD
from openfurrow.shots import open_job, sign_in
from tests.browser.saying import say_all


def field(page: Page, path: str) -> Locator:
    return page.locator(f"[data-given='{path}']")


def unfold(page: Page, group: str) -> None:
    """Open a group of givens, where the stage has so many that they are folded."""
    shown = page.locator(f"[data-group='{group}']")
    shown.wait_for()
    if shown.evaluate("group => group.tagName === 'DETAILS' && !group.open"):
        shown.locator("summary").click()


def answer(page: Page, stage: str, key: str) -> Locator:
    return page.get_by_test_id(f"answer-{stage}-{key}")


def go(page: Page, stage: str) -> None:
    page.locator(f"[data-stage={stage}]").click()
    expect(page.locator(f"[data-shown={stage}]")).to_be_visible()


def settle(page: Page, path: str, text: str, shown: str) -> None:
    """Type into a field, leave it, and wait for what the server made of it."""
    field(page, path).fill(text)
    field(page, path).blur()
    expect(field(page, path)).to_have_value(shown)


def test_tilt_moves_pitch_depth_and_materials(page: Page) -> None:
    before = answer(page, "rows", "pitch").inner_text()
    go(page, "footings")
    depth = answer(page, "footings", "depth").inner_text()
    go(page, "rows")
    field(page, "arrays.1.rows.tilt_deg").fill("20")
    moved = page.locator("[data-answer='rows.pitch']")
    expect(moved).to_contain_text(f"was {before}")
    expect(answer(page, "rows", "pitch")).not_to_have_text(before)
    # The other stages say that they moved too.
    expect(page.locator("[data-stage=footings]")).to_contain_text(re.compile(r"\d"))
    go(page, "footings")
    expect(answer(page, "footings", "depth")).not_to_have_text(depth)
    expect(page.locator("[data-answer='footings.depth']")).to_contain_text(f"was {depth}")
    go(page, "materials")
    expect(page.locator("[data-table=materials]")).to_contain_text("Inclined beam")
    expect(page.locator("[data-answer='materials.mass']")).to_contain_text("was ")


def test_typing_keeps_the_focus_and_the_text(page: Page) -> None:
    tilt = field(page, "arrays.1.rows.tilt_deg")
    tilt.click()
    tilt.press("Control+a")
    with page.expect_response(lambda r: r.url.endswith("/edits")):
        tilt.press_sequentially("27.5", delay=40)
    expect(answer(page, "rows", "pitch")).to_have_class(re.compile("moved"))
    expect(tilt).to_be_focused()
    expect(tilt).to_have_value("27.5")
    tilt.blur()
    expect(tilt).to_have_value("27.5°")


@pytest.mark.parametrize(
    ("typed", "shown"), [("5'6\"", "5' 6\""), ("1.68 m", "5' 6 1/8\""), ("66 in", "5' 6\"")]
)
def test_lengths_however_they_are_typed(page: Page, typed: str, shown: str) -> None:
    settle(page, "arrays.1.rows.lower_edge_m", typed, shown)


def test_a_wrong_entry_is_marked_kept_and_harms_nothing(page: Page) -> None:
    before = answer(page, "rows", "pitch").inner_text()
    field(page, "arrays.1.rows.tilt_deg").fill("400")
    wrong = page.get_by_test_id("given-arrays.1.rows.tilt_deg").get_by_role("alert")
    expect(wrong).to_contain_text("above what is allowed")
    expect(wrong).to_contain_text("from 0.0° to 75.0°")
    expect(answer(page, "rows", "pitch")).to_have_text(before)
    # Other fields go on working, and a reload keeps even the wrong text.
    settle(page, "arrays.1.rows.rows", "2", "2")
    page.reload()
    expect(field(page, "arrays.1.rows.tilt_deg")).to_have_value("400")
    expect(page.get_by_test_id("given-arrays.1.rows.tilt_deg").get_by_role("alert")).to_be_visible()
    settle(page, "arrays.1.rows.tilt_deg", "30", "30.0°")
    expect(page.get_by_role("alert")).to_have_count(0)


def test_a_draft_outlives_reload_and_closed_tab(page: Page, address: str) -> None:
    settle(page, "arrays.1.rows.tilt_deg", "31", "31.0°")
    expect(page.get_by_test_id("where")).to_contain_text("revision 1, changed")
    page.reload()
    expect(field(page, "arrays.1.rows.tilt_deg")).to_have_value("31.0°")
    other = page.context.new_page()
    page.close()
    other.goto(f"{address}/")
    open_job(other)
    expect(field(other, "arrays.1.rows.tilt_deg")).to_have_value("31.0°")


def test_save_undo_redo_and_history(page: Page) -> None:
    settle(page, "arrays.1.rows.tilt_deg", "29", "29.0°")
    page.get_by_role("button", name="Save…").click()
    page.get_by_label("Why, in a few words").fill("flatter for wind")
    page.get_by_role("dialog").get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_test_id("where")).to_have_text("revision 2")
    settle(page, "arrays.1.rows.rows", "3", "3")
    page.get_by_role("button", name="Undo").click()
    expect(field(page, "arrays.1.rows.rows")).to_have_value("1")
    page.get_by_role("button", name="Redo").click()
    expect(field(page, "arrays.1.rows.rows")).to_have_value("3")
    page.get_by_role("button", name="History").click()
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("flatter for wind")
    dialog.get_by_role("button", name="What it changed").first.click()
    expect(dialog.get_by_label("Comparison")).to_contain_text("34.0°")
    expect(dialog.get_by_label("Comparison")).to_contain_text("rows: Row pitch, level")
    dialog.get_by_role("button", name="revision 1", exact=True).click()
    dialog.get_by_role("button", name="Close").click()
    expect(field(page, "arrays.1.rows.tilt_deg")).to_have_value("34.0°")


def test_files_go_out_and_a_broken_one_changes_nothing(page: Page, tmp_path: Path) -> None:
    page.get_by_role("button", name="Files").click()
    with page.expect_download() as download:
        page.get_by_role("link", name="design.json").click()
    design = json.loads(Path(download.value.path()).read_text())
    assert design["arrays"][0]["rows"]["tilt_deg"] == 34.0
    broken = tmp_path / "broken.json"
    design["arrays"][0]["rows"]["tilt_deg"] = 400
    broken.write_text(json.dumps(design))
    page.get_by_test_id("import-design").set_input_files(broken)
    problem = page.get_by_role("dialog").get_by_role("alert")
    expect(problem).to_contain_text("arrays.0.rows.tilt_deg")
    expect(problem).to_contain_text("from 0.0° to 75.0°")
    expect(problem).to_contain_text("Your draft is as it was")
    expect(field(page, "arrays.1.rows.tilt_deg")).to_have_value("34.0°")
    good = tmp_path / "good.json"
    design["arrays"][0]["rows"]["tilt_deg"] = 22
    good.write_text(json.dumps(design))
    page.get_by_test_id("import-design").set_input_files(good)
    expect(page.get_by_role("dialog").get_by_role("status")).to_contain_text("can be undone")
    page.get_by_role("button", name="Close").click()
    expect(field(page, "arrays.1.rows.tilt_deg")).to_have_value("22.0°")


def test_the_stages_are_walked_by_keyboard(page: Page) -> None:
    for stage in PLACES[PLACES.index("rows") + 1 :]:
        page.keyboard.press("ArrowRight")
        expect(page.locator(f"[data-shown={stage}]")).to_be_visible()
    page.keyboard.press("ArrowRight")
    expect(page.locator("[data-shown=handover]")).to_be_visible()
    for stage in ("fieldbook", "schedule", "stakeout", "materials"):
        page.keyboard.press("ArrowLeft")
        expect(page.locator(f"[data-shown={stage}]")).to_be_visible()
    page.keyboard.press("w")
    expect(page.get_by_test_id("working-materials-lines")).to_be_visible()
    page.keyboard.press("w")
    expect(page.get_by_test_id("working-materials-lines")).to_have_count(0)
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Keys")).to_be_visible()
    page.keyboard.press("Escape")
    go(page, "rows")
    page.keyboard.press("u")
    expect(answer(page, "rows", "pitch")).to_have_text(re.compile(r" m$"))
    page.keyboard.press("u")
    expect(answer(page, "rows", "pitch")).to_have_text(re.compile(r"\"$"))


def test_every_part_of_the_cut_leads_to_its_stage(page: Page) -> None:
    for stage in PLACES:
        page.locator(f"[data-part={stage}]").click()
        expect(page.locator(f"[data-shown={stage}]")).to_be_visible()
        expect(page.locator(f"[data-stage={stage}]")).to_have_attribute("aria-current", "page")


def test_a_working_shows_formula_inputs_and_source(page: Page) -> None:
    page.locator("[data-answer='rows.pitch']").click()
    working = page.get_by_test_id("working-rows-pitch")
    for words in ("P", "ceil", "34.0°", "pvlib.shading", "finest mark on the tape"):
        expect(working).to_contain_text(words)


def test_a_stop_says_what_to_do_and_leads_to_the_field(page: Page) -> None:
    go(page, "footings")
    settle(page, "arrays.1.footings.depth_m", "3 ft", "3' 0\"")
    stops = page.get_by_test_id("stops")
    expect(stops).to_contain_text(re.compile(r"[1-9] stops"))
    expect(page.locator("[data-stage=footings]")).to_contain_text("stops the job")
    go(page, "site")
    stops.click()
    page.get_by_label("Stops").get_by_text("Deep enough against tipping").click()
    expect(field(page, "arrays.1.footings.depth_m")).to_be_focused()
    settle(page, "arrays.1.footings.depth_m", "", "")
    # Only the owner that has not answered is left: for posts, for the trench, for the days.
    expect(stops).to_contain_text("3 stops")


def test_two_people_see_both_sides_of_a_conflict(page: Page, browser: Browser, address: str) -> None:
    settle(page, "arrays.1.rows.tilt_deg", "30", "30.0°")
    with browser.new_context() as context:
        other = context.new_page()
        sign_in(other, address, CREW_LEAD)
        open_job(other)
        settle(other, "arrays.1.rows.tilt_deg", "26", "26.0°")
        other.get_by_role("button", name="Save…").click()
        other.get_by_role("dialog").get_by_role("button", name="Save", exact=True).click()
        expect(other.get_by_test_id("where")).to_have_text("revision 2")
    page.get_by_role("button", name="Save…").click()
    page.get_by_role("dialog").get_by_role("button", name="Save", exact=True).click()
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text(f"Revision 2 was saved by {CREW_LEAD}")
    expect(dialog.get_by_label("30.0°")).to_be_checked()
    dialog.get_by_label("26.0°").check()
    dialog.get_by_role("button", name="Save the two together").click()
    expect(page.get_by_test_id("where")).to_have_text("revision 3")
    expect(field(page, "arrays.1.rows.tilt_deg")).to_have_value("26.0°")


def test_a_job_from_nothing(desk: Page) -> None:
    desk.get_by_label("Name of the job").fill("Upper meadow")
    desk.get_by_label("Rules").select_option("metric")
    desk.get_by_role("button", name="Begin").click()
    expect(desk.locator("[data-shown=site]")).to_be_visible()
    expect(desk.get_by_role("heading", name="Upper meadow")).to_be_visible()
    field(desk, "name").fill("Lower meadow")
    expect(desk.get_by_role("heading", name="Lower meadow")).to_be_visible()
    say_all(desk)
    unfold(desk, "Soil")
    field(desk, "site.soil_class").select_option("clay")
    go(desk, "footings")
    expect(answer(desk, "footings", "depth")).to_have_text(re.compile("mm$"))


@pytest.mark.parametrize("theme", ["daylight", "dusk"])
def test_text_stands_out_from_its_ground(page: Page, theme: str) -> None:
    """WCAG 2.2 AA: 4.5 to 1 for text, by the standard's own formula."""
    if theme == "dusk":
        page.get_by_role("button", name="Dusk").click()
    script = (Path(__file__).parent / "contrast.js").read_text()
    for stage in PLACES:
        go(page, stage)
        page.keyboard.press("w")
        ratios = page.evaluate(script)
        assert len(ratios) > 40, stage
        assert {text: ratio for text, ratio in ratios if ratio < 4.5} == {}, stage


def test_every_stage_is_usable_on_a_phone(browser: Browser, store: Engine, address: str) -> None:
    context = browser.new_context(viewport={"width": 390, "height": 844}, has_touch=True)
    phone = context.new_page()
    sign_in(phone, address)
    open_job(phone)
    for stage in PLACES:
        go(phone, stage)
        expect(phone.locator(f"[data-shown={stage}] [data-answer]").first).to_be_visible()
        width = phone.evaluate("document.documentElement.scrollWidth")
        assert width <= 390, stage
    go(phone, "rows")
    settle(phone, "arrays.1.rows.tilt_deg", "22", "22.0°")
    context.close()


def test_nothing_is_hidden_without_a_cue_at_a_desk(page: Page) -> None:
    for stage in PLACES:
        go(page, stage)
        assert page.evaluate("document.documentElement.scrollHeight") <= 800, stage
        for name in ("Givens", "Answers"):
            column = page.get_by_role("region", name=name)
            hidden = column.evaluate("e => e.scrollHeight - e.clientHeight")
            cue = column.evaluate(
                "e => getComputedStyle(e).overflowY === 'auto' && "
                "getComputedStyle(e).backgroundImage.includes('gradient')"
            )
            assert hidden == 0 or cue, (stage, name)


def test_the_first_load_is_light_and_asks_no_other_host(
    browser: Browser, store: Engine, address: str
) -> None:
    context = browser.new_context()
    page = context.new_page()
    sizes: list[int] = []
    hosts: set[str] = set()

    def count(response) -> None:  # type: ignore[no-untyped-def]
        hosts.add(response.url.split("/")[2])
        sizes.append(int(response.request.sizes()["responseBodySize"]))

    page.on("requestfinished", lambda request: count(request.response()))
    page.goto(address)
    page.get_by_label("Name").wait_for()
    page.wait_for_load_state("networkidle")
    assert sum(sizes) < 300_000
    assert hosts == {address.split("/")[2]}
    context.close()


def test_a_bend_of_the_trench_is_moved_on_the_drawing(page: Page) -> None:
    go(page, "site")
    route = field(page, "site.route")
    before = route.input_value()
    handle = page.locator("[data-handle='way-2']")
    box = handle.bounding_box()
    assert box
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(box["x"] + 60, box["y"] + 40, steps=4)
    page.mouse.up()
    expect(route).not_to_have_value(before)
    expect(route).to_have_value(re.compile("ft"))
    lines = route.input_value().splitlines()
    assert lines[0] == before.splitlines()[0] and lines[1] != before.splitlines()[1]
    go(page, "trench")
    expect(page.locator("[data-answer='trench.length']")).to_contain_text("was ")
    go(page, "site")
    moved = route.input_value()
    page.locator("[data-handle='way-2']").focus()
    page.keyboard.press("ArrowUp")
    expect(route).not_to_have_value(moved)
    expect(page.locator("[data-shown=site]")).to_be_visible()


def test_a_slow_answer_shows_progress_and_can_be_cancelled(page: Page) -> None:
    before = answer(page, "rows", "pitch").inner_text()
    held: list[Route] = []
    page.route("**/edits", lambda route: held.append(route))
    field(page, "arrays.1.rows.tilt_deg").fill("26")
    working = page.get_by_role("status").filter(has_text="Working")
    expect(working).to_be_visible()
    working.get_by_role("button", name="cancel").click()
    expect(working).to_have_count(0)
    expect(answer(page, "rows", "pitch")).to_have_text(before)
    assert len(held) == 1
    # What was typed is still there, and goes through with the next edit.
    page.unroute("**/edits")
    expect(field(page, "arrays.1.rows.tilt_deg")).to_have_value("26")
    settle(page, "arrays.1.rows.rows", "2", "2")
    expect(field(page, "arrays.1.rows.tilt_deg")).to_have_value("26.0°")


def test_a_server_that_is_away_loses_nothing(page: Page) -> None:
    page.route("**/edits", lambda route: route.abort())
    field(page, "arrays.1.rows.tilt_deg").fill("24")
    expect(page.get_by_role("alert")).to_contain_text("does not answer")
    page.unroute("**/edits")
    # It is sent again by itself.
    field(page, "arrays.1.rows.tilt_deg").blur()
    expect(field(page, "arrays.1.rows.tilt_deg")).to_have_value("24.0°")
    expect(page.get_by_role("alert")).to_have_count(0)


def test_units_belong_to_the_job_and_follow_what_it_is_written_in(page: Page) -> None:
    page.keyboard.press("u")
    expect(answer(page, "rows", "pitch")).to_have_text(re.compile(r" m$"))
    page.reload()
    expect(answer(page, "rows", "pitch")).to_have_text(re.compile(r" m$"))
    go(page, "site")
    field(page, "site.display_units").select_option("metric")
    field(page, "site.display_units").select_option("us")
    expect(answer(page, "site", "frost")).to_have_text(re.compile('"$'))
    # A job written in metres is not read in another job's feet.
    page.get_by_role("link", name="Open Furrow").click()
    page.get_by_label("Name of the job").fill("Metric")
    page.get_by_label("Rules").select_option("metric")
    page.get_by_role("button", name="Begin").click()
    expect(page.get_by_role("heading", name="Metric")).to_be_visible()
    say_all(page)
    expect(answer(page, "site", "frost")).to_have_text(re.compile("mm$"))


def test_a_field_says_where_its_value_comes_from_without_moving_the_page(page: Page) -> None:
    below = field(page, "arrays.1.rows.lower_edge_m")
    before = below.bounding_box()
    field(page, "arrays.1.rows.tilt_deg").focus()
    expect(page.get_by_test_id("help")).to_contain_text("Where from: Near latitude")
    page.wait_for_timeout(100)
    box = below.bounding_box()
    assert box and before
    scrolled = page.locator(".givens-list").evaluate("e => e.scrollTop")
    assert box["y"] + scrolled == pytest.approx(before["y"], abs=1)


def test_every_stage_shows_the_plans_own_numbers(page: Page, demo: Design, demo_plan: Plan) -> None:
    whole = as_built(demo, demo_plan)
    for stage in PLACES:
        go(page, stage)
        for found in whole.shown(stage)[0]:
            if found.headline:
                text = format_value(found.value, found.kind, "us")
                expect(answer(page, stage, found.key)).to_have_text(text)


def test_every_working_can_be_opened_and_names_its_source(page: Page) -> None:
    for stage in ("footings", "frame", "wiring"):
        go(page, stage)
        lines = page.locator("[data-answer]")
        for index in range(lines.count()):
            lines.nth(index).click()
            shown = page.locator("[data-testid^=working-]")
            expect(shown).to_have_count(1)
            assert len(shown.inner_text()) > 20
            expect(lines.nth(index)).to_have_attribute("aria-expanded", "true")


def test_an_inspector_reads_and_cannot_change(page: Page, browser: Browser, address: str) -> None:
    with httpx.Client(base_url=f"{address}/api") as client:
        client.post("/accounts", json={"name": "Inspector", "password": PASSWORD})
    page.get_by_role("button", name="Files").click()
    people = page.get_by_role("region", name="People")
    people.get_by_label("Name of the person").fill("Inspector")
    people.get_by_label("What they may do").select_option("viewer")
    people.get_by_role("button", name="Share").click()
    expect(people).to_contain_text("Inspector viewer")
    people.get_by_label("Name of the person").fill("Nobody Known")
    people.get_by_role("button", name="Share").click()
    expect(people.get_by_role("alert")).to_contain_text("Nobody is called")
    with browser.new_context() as context:
        reader = context.new_page()
        sign_in(reader, address, "Inspector")
        open_job(reader)
        expect(reader.get_by_test_id("where")).to_contain_text("for reading")
        expect(field(reader, "arrays.1.rows.tilt_deg")).to_be_disabled()
        expect(reader.get_by_role("button", name="Save…")).to_have_count(0)
        expect(reader.get_by_role("button", name="Undo")).to_be_disabled()
        go(reader, "site")
        expect(reader.locator("[data-handle]")).to_have_count(0)
        # Things can be opened and read, but not taken hold of.
        unfold(reader, "What is there")
        reader.locator("[data-thing='site.features.2']").click()
        expect(field(reader, "site.features.2.name")).to_be_disabled()
        expect(reader.locator("[data-handle]")).to_have_count(0)
        expect(reader.get_by_role("button", name="Remove")).to_have_count(0)


def test_signing_in_wrong_and_making_an_account(browser: Browser, store: Engine, address: str) -> None:
    with browser.new_context() as context:
        page = context.new_page()
        page.goto(f"{address}/jobs/anything/rows")
        page.get_by_label("Name").fill("Sage Rowe")
        page.get_by_label("Password").fill("short")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("alert")).to_contain_text("do not match")
        page.get_by_role("button", name="Make an account").click()
        expect(page.get_by_role("alert")).to_contain_text("at least 8")
        page.get_by_label("Password").fill("long enough")
        page.get_by_role("button", name="Make an account").click()
        expect(page.get_by_text("This job cannot be opened")).to_be_visible()
        page.get_by_role("link", name="All jobs").click()
        expect(page.get_by_text("No job yet")).to_be_visible()
        page.get_by_role("button", name="Sign out").click()
        expect(page.get_by_role("button", name="Sign in")).to_be_visible()


def test_a_broken_file_makes_no_job_and_says_why(desk: Page, tmp_path: Path) -> None:
    broken = tmp_path / "broken.json"
    broken.write_text('{"schema_version": 2, "name": "x", "trench": {"width_m": 90}}')
    desk.get_by_test_id("import-job").set_input_files(broken)
    problem = desk.get_by_role("alert")
    expect(problem).to_contain_text("trench.width_m")
    expect(problem).to_contain_text("No job was made")
    expect(desk.get_by_test_id("job")).to_have_count(3)


def test_dusk_is_remembered_and_the_list_of_keys_opens(page: Page) -> None:
    page.get_by_role("button", name="Dusk").click()
    page.reload()
    expect(page.locator("html")).to_have_attribute("data-theme", "dusk")
    page.get_by_role("button", name="Keys").click()
    expect(page.get_by_role("dialog", name="Keys")).to_contain_text("along the cut")


def test_a_whole_change_by_keyboard_alone(page: Page) -> None:
    field(page, "arrays.1.rows.tilt_deg").focus()
    page.keyboard.type("29")
    page.keyboard.press("Tab")
    expect(field(page, "arrays.1.rows.lower_edge_m")).to_be_focused()
    expect(field(page, "arrays.1.rows.tilt_deg")).to_have_value("29.0°")
    page.keyboard.press("Control+s")
    dialog = page.get_by_role("dialog")
    expect(dialog).to_be_visible()
    page.keyboard.type("by keyboard")
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("where")).to_have_text("revision 2")
    # A letter right after typing would still have been meant for the text.
    page.wait_for_timeout(700)
    page.locator("body").press("h")
    expect(page.get_by_role("dialog")).to_contain_text("by keyboard")
    page.keyboard.press("Escape")
    page.locator("body").press("z")
    expect(field(page, "arrays.1.rows.tilt_deg")).to_have_value("34.0°")


def test_the_stages_are_read_out_as_links_with_their_state(page: Page) -> None:
    links = page.get_by_role("navigation", name="Stages of the job").get_by_role("link")
    expect(links).to_have_count(len(PLACES))
    assert [link.get_attribute("data-stage") for link in links.all()] == list(PLACES)
    names = dict(zip(PLACES, links.all_inner_texts(), strict=True))
    # Before anything is built the book says nothing.
    assert "nothing yet" in names.pop("fieldbook") and "nothing yet" in names.pop("handover")
    assert all("sound" in name or "look here" in name or "stops" in name for name in names.values())
