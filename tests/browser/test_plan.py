"""The site's plan as something to take hold of: things opened, moved and cut by pointing at them."""

import re

from playwright.sync_api import Browser, Locator, Page, expect

from openfurrow.demo.seed import CREW_LEAD
from openfurrow.shots import open_job, sign_in
from tests.browser.test_screens import answer, field, go, settle, unfold
from tests.browser.test_site import add, fold_stops, stop


def handles(page: Page, of: str = "thing") -> Locator:
    return page.locator(f"[data-handle^='{of}-']")


def middle(part: Locator) -> tuple[float, float]:
    box = part.bounding_box()
    assert box
    return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2


def point_at(page: Page, name: str) -> None:
    """Click on the plan where a thing's first point lies, by way of its handles."""
    page.locator("[data-thing]", has_text=name).first.click()
    at = middle(handles(page).first)
    page.locator("[data-thing]", has_text=name).first.click()
    page.mouse.click(*at)


def drag(page: Page, part: Locator, by: tuple[float, float]) -> None:
    x, y = middle(part)
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + by[0], y + by[1], steps=4)
    page.mouse.up()


def test_pointing_at_a_thing_opens_it_and_its_corners_are_moved(page: Page) -> None:
    go(page, "site")
    expect(handles(page, "way")).to_have_count(3)
    unfold(page, "What is there")
    point_at(page, "charging shed")
    shed = page.locator("[data-thing='site.features.2']")
    expect(shed).to_be_focused()
    expect(shed).to_have_attribute("aria-expanded", "true")
    # The open thing's corners take the place of the way's bends.
    expect(handles(page)).to_have_count(4)
    expect(handles(page, "way")).to_have_count(0)
    points = field(page, "site.features.2.points")
    before = points.input_value().splitlines()
    # A press that does not move is no change.
    drag(page, handles(page).nth(1), (1, 1))
    expect(page.get_by_role("button", name="Undo")).to_be_disabled()
    drag(page, handles(page).nth(1), (30, -10))
    expect(points).not_to_have_value("\n".join(before))
    expect(points).to_have_value(re.compile(r"^.+ ft, .+ ft\n"))
    after = points.input_value().splitlines()
    assert [k for k in range(4) if before[k] != after[k]] == [1]
    page.get_by_role("button", name="Undo").click()
    expect(points).to_have_value("\n".join(before))


def test_a_line_is_bent_straightened_and_moved_by_keyboard(page: Page) -> None:
    go(page, "site")
    unfold(page, "What is there")
    page.locator("[data-thing='site.features.5']").click()
    points = field(page, "site.features.5.points")
    assert len(points.input_value().splitlines()) == 3
    handles(page).first.focus()
    page.keyboard.press("Insert")
    expect(handles(page)).to_have_count(4)
    lines = [
        [float(re.sub(r"[^\d.\-]", "", part.replace("−", "-"))) for part in line.split(",")]
        for line in points.input_value().splitlines()
    ]
    for axis in (0, 1):
        assert abs(lines[1][axis] - (lines[0][axis] + lines[2][axis]) / 2) < 0.02
    handles(page).nth(1).focus()
    before = points.input_value()
    page.keyboard.press("ArrowLeft")
    expect(points).not_to_have_value(before)
    # The arrow moved the point, not the stage.
    expect(page.locator("[data-shown=site]")).to_be_visible()
    handles(page).nth(1).focus()
    page.keyboard.press("Delete")
    expect(handles(page)).to_have_count(3)


def test_a_drain_dragged_under_a_post_is_a_stop_and_undo_clears_it(page: Page) -> None:
    go(page, "site")
    unfold(page, "What is there")
    page.locator("[data-thing='site.features.5']").click()
    expect(stop(page, "Posts stand clear of what is there")).to_have_count(0)
    fold_stops(page)
    drain = handles(page).nth(1)
    post = page.locator("svg[data-drawing=site] .dot.layer-post").nth(4)
    (x, y), (to_x, to_y) = middle(drain), middle(post)
    drag(page, drain, (to_x - x, to_y - y))
    expect(stop(page, "Posts stand clear of what is there")).to_contain_text("tile drain")
    page.get_by_role("button", name="Undo").click()
    expect(stop(page, "Posts stand clear of what is there")).to_have_count(0)


def test_what_a_stop_offers_is_done_by_one_press_and_undone(page: Page) -> None:
    # Spans with room for a post to be shifted: eight posts, the fifth 1.35 m east of the middle.
    go(page, "structure")
    settle(page, "arrays.1.structure.span_limit_m", "10 ft", "10' 0\"")
    go(page, "site")
    unfold(page, "What is there")
    page.locator("[data-thing='site.features.5']").click()
    points = field(page, "site.features.5.points")
    points.fill("1.8 m, 22 m\n1.8 m, 0 m\n1.8 m, -20 m")
    points.blur()
    held = stop(page, "Posts stand clear of what is there")
    expect(held).to_contain_text("tile drain: post 5")
    offers = page.locator("[data-mend='footings.keep_out']")
    expect(offers).to_have_count(2)
    offers.filter(has_text="Shift post 5 by").click()
    expect(held).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(held).to_have_count(1)
    # The same is offered beside the numbers of its own stage.
    fold_stops(page)
    go(page, "footings")
    page.get_by_label("Answers").locator("[data-mend='footings.keep_out']").filter(
        has_text="Shift the array"
    ).click()
    expect(held).to_have_count(0)
    fold_stops(page)
    go(page, "rows")
    expect(field(page, "arrays.1.rows.at_east_m")).not_to_have_value("0.00 ft")


def test_a_test_hole_is_put_where_a_hand_points(page: Page) -> None:
    go(page, "site")
    unfold(page, "Soil")
    holes = page.locator("[data-list='site.test_holes']")
    holes.locator("[data-add]").click()
    expect(holes.locator("[data-thing]")).to_have_count(3)
    page.get_by_role("button", name="Point on plan").click()
    plan = page.locator("svg[data-drawing=site]")
    x, y = middle(plan)
    page.mouse.click(x - 140, y + 20)
    hole = holes.locator("[data-thing]").last.get_attribute("data-thing")
    expect(field(page, f"{hole}.east_m")).to_have_value(re.compile("^−.+ft$"))
    expect(page.get_by_role("button", name="Point on plan")).to_have_attribute("aria-pressed", "false")
    expect(handles(page)).to_have_count(1)
    # Within a finger's reach: a named place nearby is taken instead.
    assert abs(middle(handles(page))[0] - (x - 140)) <= 12
    expect(plan.locator(".dot.layer-hole")).to_have_count(3)


def test_a_section_that_was_typed_is_drawn_on_the_plan(page: Page) -> None:
    go(page, "site")
    page.get_by_role("button", name="Section").click()
    page.get_by_label("From", exact=True).fill("0 m, -28 m")
    page.get_by_label("to", exact=True).fill("pump house, corner 1")
    page.get_by_role("button", name="Cut", exact=True).click()
    ends = page.locator("svg[data-drawing=site] circle.layer-pointed")
    expect(ends).to_have_count(2)
    (x0, y0), (x1, y1) = middle(ends.nth(0)), middle(ends.nth(1))
    assert x1 > x0 + 40 and y1 < y0 - 40
    section = page.locator("svg[data-drawing=section]")
    expect(section).to_contain_text("100' 0\"")
    page.get_by_role("button", name="Section").click()
    expect(ends).to_have_count(0)


def test_a_bank_is_pasted_as_break_lines_and_seen(page: Page) -> None:
    go(page, "site")
    unfold(page, "Ground")
    plan = page.locator("svg[data-drawing=site]")
    expect(plan.locator(".layer-bend")).to_have_count(2)
    page.get_by_role("button", name="Paste shots").click()
    page.get_by_test_id("paste-shots").fill(
        "east, north, level, code\n"
        + "\n".join(f"{e} m, {30 + e / 40:.2f} m, 31.5 m, break road edge" for e in range(-25, 36, 10))
    )
    page.get_by_role("button", name="Look at them").click()
    expect(page.get_by_test_id("ground-found")).to_contain_text("7 shots")
    page.get_by_test_id("take-ground").click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    expect(plan.locator(".layer-bend")).to_have_count(3)
    expect(answer(page, "site", "shots")).to_have_text("139")
    page.locator("[data-answer='site.shots']").click()
    expect(page.get_by_label("Answers")).to_contain_text("keep to 3 break lines")


def test_two_who_add_things_find_both_in_the_list(page: Page, browser: Browser, address: str) -> None:
    go(page, "site")
    unfold(page, "What is there")
    fence = add(page, "site.features", "fence")
    settle(page, f"{fence}.name", "deer fence", "deer fence")
    with browser.new_context(viewport={"width": 1280, "height": 800}) as context:
        other = context.new_page()
        sign_in(other, address, CREW_LEAD)
        open_job(other)
        go(other, "site")
        unfold(other, "What is there")
        rock = add(other, "site.features", "rock outcrop")
        settle(other, f"{rock}.name", "boulders", "boulders")
        other.get_by_role("button", name="Save…").click()
        other.get_by_role("dialog").get_by_role("button", name="Save", exact=True).click()
        expect(other.get_by_test_id("where")).to_have_text("revision 2")
    page.get_by_role("button", name="Save…").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="Save", exact=True).click()
    expect(dialog).to_contain_text("deer fence kept")
    expect(dialog).to_contain_text("boulders kept")
    expect(dialog.get_by_role("radio")).to_have_count(0)
    dialog.get_by_role("button", name="Save the two together").click()
    expect(page.get_by_test_id("where")).to_have_text("revision 3")
    things = page.locator("[data-list='site.features'] [data-thing]")
    expect(things).to_have_count(19)
    expect(things.nth(17)).to_contain_text("boulders")
    expect(things.nth(18)).to_contain_text("deer fence")
