"""A job among others, in Chromium: found, copied, put away, deleted after asking, brought back."""

import re

from playwright.sync_api import Page, expect

from openfurrow.shots import open_job
from tests.browser.test_hand import violations
from tests.browser.test_screens import field, go, settle


def names(page: Page) -> list[str]:
    """The open jobs in the order they stand in."""
    return page.locator("main > ul [data-testid=job] .text-\\[18px\\]").all_inner_texts()


def row(page: Page, name: str):  # type: ignore[no-untyped-def]
    return page.locator("li[data-state]").filter(has_text=name)


def test_a_job_is_copied_put_away_and_taken_out_again(desk: Page) -> None:
    desk.get_by_role("button", name="Copy Larkspur Ferry landing").click()
    name = desk.get_by_label("Name of the copy")
    expect(name).to_be_focused()
    expect(name).to_have_value("Larkspur Ferry landing, copy")
    name.fill("Larkspur, winter")
    desk.get_by_role("button", name="Make the copy").click()
    expect(desk.get_by_role("heading", name="Larkspur, winter")).to_be_visible()
    expect(desk).to_have_title("Larkspur, winter: site · Open Furrow")
    desk.get_by_role("link", name="Open Furrow").click()
    expect(desk).to_have_title("Jobs · Open Furrow")
    desk.get_by_role("button", name="Put away Larkspur, winter").click()
    expect(desk.get_by_text("Put away 1")).to_be_visible()
    expect(row(desk, "Larkspur, winter")).not_to_be_visible()
    desk.get_by_text("Put away 1").click()
    expect(row(desk, "Larkspur, winter")).to_have_attribute("data-state", "archived")
    assert violations(desk) == []
    desk.get_by_role("button", name="Take out again Larkspur, winter").click()
    expect(row(desk, "Larkspur, winter")).to_have_attribute("data-state", "open")


def test_deleting_asks_first_and_can_be_taken_back(desk: Page) -> None:
    desk.get_by_role("button", name="Delete Quillay trout station").click()
    asked = desk.get_by_role("group", name="Delete")
    expect(asked).to_contain_text("for everybody it is shared with")
    asked.get_by_role("button", name="Keep it").click()
    expect(asked).to_have_count(0)
    expect(row(desk, "Quillay")).to_have_attribute("data-state", "open")
    desk.get_by_role("button", name="Delete Quillay trout station").click()
    asked.get_by_role("button", name="Delete it").click()
    gone = desk.locator("details").filter(has_text="Deleted, kept for 30 days")
    gone.locator("summary").click()
    expect(row(desk, "Quillay")).to_have_attribute("data-state", "deleted")
    # It is not opened from there.
    expect(gone.get_by_test_id("job")).to_have_count(0)
    desk.get_by_role("button", name="Bring back Quillay trout station").click()
    expect(row(desk, "Quillay")).to_have_attribute("data-state", "open")
    expect(gone).to_have_count(0)


def test_jobs_are_found_by_a_word_and_put_in_order(desk: Page) -> None:
    desk.get_by_label("Name of the job").fill("Kestrel barn")
    desk.get_by_role("button", name="Begin", exact=True).click()
    expect(desk.locator("[data-shown=site]")).to_be_visible()
    desk.get_by_role("link", name="Open Furrow").click()
    expect(row(desk, "Kestrel barn")).to_be_visible()
    assert names(desk)[0] == "Kestrel barn"
    desk.get_by_label("Order of the jobs").select_option("by name")
    assert names(desk) == sorted(names(desk))
    desk.get_by_label("Order of the jobs").select_option("most to do")
    assert names(desk)[0] == "Kestrel barn"
    desk.get_by_label("Find a job").fill("larks")
    expect(desk.get_by_test_id("job")).to_have_count(1)
    # A place finds it too, and a word that nothing is called finds nothing and says so.
    desk.get_by_label("Find a job").fill("40.6")
    expect(desk.get_by_test_id("job")).to_contain_text(["Quillay"])
    desk.get_by_label("Find a job").fill("nowhere at all")
    expect(desk.get_by_test_id("job")).to_have_count(0)
    expect(desk.locator("main")).to_contain_text("No open job is called so.")


def test_what_another_tab_changes_appears_by_itself(page: Page) -> None:
    other = page.context.new_page()
    other.goto(page.url)
    expect(field(other, "arrays.1.rows.tilt_deg")).to_have_value("34.0°")
    settle(page, "arrays.1.rows.tilt_deg", "28", "28.0°")
    expect(other.get_by_test_id("news")).to_contain_text("changed elsewhere")
    expect(field(other, "arrays.1.rows.tilt_deg")).to_have_value("28.0°")
    expect(other.get_by_test_id("news")).to_have_count(0)
    other.close()


def test_a_revision_is_gone_back_to_after_asking(desk: Page) -> None:
    open_job(desk)
    settle(desk, "arrays.1.rows.tilt_deg", "28", "28.0°")
    desk.get_by_role("button", name="History").click()
    dialog = desk.get_by_role("dialog")
    dialog.get_by_role("button", name="Go back to it…").click()
    dialog.get_by_role("button", name="Stay").click()
    expect(dialog.get_by_role("group", name="Go back")).to_have_count(0)
    dialog.get_by_role("button", name="Go back to it…").click()
    dialog.get_by_role("button", name="Go back", exact=True).click()
    expect(dialog).to_contain_text("back to revision 1")
    dialog.get_by_role("button", name="Close").click()
    expect(field(desk, "arrays.1.rows.tilt_deg")).to_have_value("34.0°")


def test_other_rules_ask_for_the_wind_anew(page: Page) -> None:
    go(page, "site")
    field(page, "site.rule_pack").select_option("metric")
    expect(page.locator("main").get_by_test_id("to-say")).to_contain_text("Design wind")
    go(page, "footings")
    expect(page.locator("main")).to_contain_text(re.compile("design wind.*still to be said"))
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("main [data-answer]").first).to_be_visible()


def test_a_job_is_begun_with_the_arrays_of_a_usual(desk: Page) -> None:
    desk.get_by_role("button", name="Make it a usual Larkspur Ferry landing").click()
    expect(row(desk, "Larkspur Ferry landing")).to_contain_text("a usual, to begin others from")
    arrays = desk.get_by_label("Arrays", exact=True)
    usuals = arrays.locator("optgroup[label=Usuals] option")
    expect(usuals).to_have_text(["the arrays of Larkspur Ferry landing"])
    desk.get_by_label("Name of the job").fill("Kestrel barn")
    arrays.select_option(label="the arrays of Larkspur Ferry landing")
    expect(desk.get_by_role("region", name="New job")).to_contain_text(
        "Place, ground, weather and the way do not"
    )
    desk.get_by_role("button", name="Begin", exact=True).click()
    expect(desk.locator("[data-shown=site]")).to_be_visible()
    expect(desk.locator("main").get_by_test_id("to-say")).to_contain_text("14 still to say")
    # Its rows were laid for another place: they are to be looked at, its modules are not.
    go(desk, "rows")
    expect(field(desk, "arrays.1.rows.tilt_deg")).to_have_value("34.0°")
    expect(desk.get_by_test_id("given-arrays.1.rows.tilt_deg")).to_have_attribute(
        "data-practice", "true"
    )
    go(desk, "structure")
    expect(field(desk, "arrays.1.structure.post_section")).to_have_value("I 150 x 100 x 14")
    expect(desk.locator("main [data-practice]")).to_have_count(0)
    desk.get_by_role("link", name="Open Furrow").click()
    desk.get_by_role("button", name="No longer a usual Larkspur Ferry landing").click()
    expect(usuals).to_have_count(0)
