"""A site from nothing, as a new planner builds it, and the demo's site looked at from all sides."""

import json
import re
from pathlib import Path

from playwright.sync_api import Browser, Locator, Page, expect
from sqlalchemy import Engine

from openfurrow.core.plan import Plan
from openfurrow.shots import open_job, sign_in
from tests.browser.saying import say_all
from tests.browser.test_screens import answer, field, go, settle, unfold


def stop(page: Page, title: str) -> Locator:
    stops = page.get_by_test_id("stops")
    if stops.get_attribute("aria-expanded") == "false":
        stops.click()
    return page.get_by_label("Stops").get_by_role("button").filter(has_text=title)


def fold_stops(page: Page) -> None:
    """What lies under the open list of stops can be reached again."""
    stops = page.get_by_test_id("stops")
    if stops.get_attribute("aria-expanded") == "true":
        stops.click()


def add(page: Page, path: str, kind: str) -> str:
    """Add a thing to a list and wait until it is open; gives its path."""
    things = page.locator(f"[data-list='{path}']")
    before = things.locator("[data-thing]").count()
    things.get_by_label("What to add").select_option(kind)
    things.locator("[data-add]").click()
    expect(things.locator("[data-thing]")).to_have_count(before + 1)
    added = things.locator("[data-thing]").last
    expect(added).to_have_attribute("aria-expanded", "true")
    return added.get_attribute("data-thing") or ""


def add_plain(page: Page, path: str) -> str:
    """Add a thing to a list that has no kinds, and wait until it is open; gives its path."""
    things = page.locator(f"[data-list='{path}']")
    before = things.locator("[data-thing]").count()
    things.locator("[data-add]").click()
    expect(things.locator("[data-thing]")).to_have_count(before + 1)
    added = things.locator("[data-thing]").last
    expect(added).to_have_attribute("aria-expanded", "true")
    return added.get_attribute("data-thing") or ""


def test_a_site_from_nothing(desk: Page) -> None:
    """Paste points, draw the boundary, tape in a water line, see the array refuse to stand on it."""
    desk.get_by_label("Name of the job").fill("Upper meadow")
    desk.get_by_label("Rules").select_option("metric")
    desk.get_by_role("button", name="Begin").click()
    expect(desk.locator("[data-shown=site]")).to_be_visible()
    say_all(desk)

    # Shots, in an order of their own.
    unfold(desk, "Ground")
    desk.get_by_role("button", name="Paste shots").click()
    shots = "\n".join(
        f"{0.05 * n - 0.02 * e + 50:.3f};{n};{e};grass"
        for e in range(-45, 46, 9)
        for n in range(-30, 51, 8)
    )
    desk.get_by_test_id("paste-shots").fill("level;north;east;code\n" + shots)
    desk.get_by_role("button", name="Look at them").click()
    expect(desk.get_by_test_id("ground-found")).to_contain_text("121 shots")
    desk.get_by_test_id("take-ground").click()
    expect(desk.get_by_role("dialog")).to_have_count(0)
    expect(answer(desk, "site", "shots")).to_have_text("121")
    expect(field(desk, "site.ground")).to_have_value("survey")

    # The boundary, by numbers.
    unfold(desk, "What is there")
    land = add(desk, "site.features", "boundary")
    settle(
        desk,
        f"{land}.points",
        "-40 m, -25 m\n40 m, -25 m\n40 m, 45 m\n-40 m, 45 m",
        "−40.000 m, −25.000 m\n40.000 m, −25.000 m\n40.000 m, 45.000 m\n−40.000 m, 45.000 m",
    )
    expect(answer(desk, "site", "land")).to_contain_text("5\u202f600")

    # A water line: each end by two tapes from two corners of the land.
    main = add(desk, "site.features", "buried water")
    settle(desk, f"{main}.name", "spring line", "spring line")
    desk.get_by_role("button", name="Measure in").click()
    dialog = desk.get_by_role("dialog", name="Measure a place in")

    def tape(first: str, one: str, second: str, two: str, side: str) -> None:
        dialog.locator("[data-measure=start]").fill(first)
        dialog.locator("[data-measure=end]").fill(second)
        dialog.locator("[data-measure=first]").fill(one)
        dialog.locator("[data-measure=second]").fill(two)
        dialog.get_by_role("button", name="Work it out").click()
        found = dialog.get_by_role("listitem")
        expect(found).to_have_count(2)
        found.filter(has_text=side).get_by_role("button", name="Take it").click()
        expect(dialog.get_by_role("status")).to_contain_text("added")

    # (-30, -1) and (30, 1), taped from the south corners.
    corner = "boundary, corner"
    tape(f"{corner} 1", "26 m", f"{corner} 2", "74 m", "left of the line")
    expect(field(desk, f"{main}.points")).to_have_value(re.compile(r"^−30\.000 m, −1\.000 m"))
    tape(f"{corner} 1", "74.673 m", f"{corner} 2", "27.857 m", "left of the line")
    dialog.get_by_role("button", name="Close").click()
    expect(field(desk, f"{main}.points")).to_have_value(re.compile(r"\n30\.\d+ m, 1\.\d+ m"))

    # The posts stand on it: the stop names it, and the shift that clears it.
    refusal = stop(desk, "Posts stand clear of what is there")
    expect(refusal).to_contain_text("spring line: posts 1, 2, 3, 4")
    offer = desk.locator("[data-mend='footings.keep_out']").filter(has_text=re.compile("north|south"))
    words = offer.first.inner_text()
    shift, wind = re.search(r"Shift the array (\d+\.\d+) m (north|south)", words).groups()
    # The stop leads to the field that mends it; doing what it says clears it.
    refusal.click()
    expect(field(desk, "arrays.1.rows.at_east_m")).to_be_focused()
    sign = "" if wind == "north" else "-"
    field(desk, "arrays.1.rows.at_north_m").fill(f"{sign}{shift} m")
    field(desk, "arrays.1.rows.at_north_m").blur()
    expect(stop(desk, "Posts stand clear of what is there")).to_have_count(0)
    desk.get_by_role("button", name="Undo").click()
    expect(stop(desk, "Posts stand clear of what is there")).to_have_count(1)


def test_nothing_that_digs_is_sound_before_every_owner_has_answered(page: Page) -> None:
    go(page, "site")
    late = stop(page, "Buried lines are located").first
    expect(late).to_contain_text("telecom late since 2026-04-15")
    # It leads to the tickets, and folds away so that they can be seen.
    late.click()
    expect(page.locator("[data-list='site.tickets']")).to_be_focused()
    expect(page.get_by_test_id("stops")).to_have_attribute("aria-expanded", "false")
    unfold(page, "Locate")
    page.locator("[data-thing='site.tickets.3']").click()
    field(page, "site.tickets.3.reply").select_option("nothing here")
    field(page, "site.tickets.3.responded").fill("2026-04-17")
    expect(page.get_by_test_id("stops")).to_contain_text("0 stops")
    expect(answer(page, "site", "locate")).to_have_text("located")
    settle(page, "site.dig_date", "2026-06-01", "2026-06-01")
    # Posts, trench, and no day is left on which the marks stand.
    expect(page.get_by_test_id("stops")).to_contain_text("3 stops")
    expect(page.locator("[data-table=tickets]")).to_contain_text("expired 2026-05-12")


def test_layers_go_off_and_on_and_stay_so(page: Page) -> None:
    go(page, "site")
    plan = page.locator("svg[data-drawing=site]")
    expect(plan.locator(".layer-contour").first).to_be_attached()
    toggle = page.get_by_role("button", name="Contours")
    toggle.click()
    expect(toggle).to_have_attribute("aria-pressed", "false")
    expect(plan.locator(".layer-contour")).to_have_count(0)
    expect(plan.locator(".layer-glass").first).to_be_attached()
    page.reload()
    expect(page.locator("svg[data-drawing=site] .layer-contour")).to_have_count(0)
    page.get_by_role("button", name="Contours").click()
    expect(plan.locator(".layer-contour").first).to_be_attached()


def test_no_label_hides_another(page: Page) -> None:
    go(page, "site")
    overlaps = page.locator("svg[data-drawing=site]").evaluate("""svg => {
      const boxes = [...svg.querySelectorAll('text')].filter(t => t.textContent !== 'N')
        .map(t => [t.textContent, t.getBBox()]);
      const found = [];
      for (let i = 0; i < boxes.length; i++) for (let j = i + 1; j < boxes.length; j++) {
        const [a, b] = [boxes[i][1], boxes[j][1]];
        const wide = Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x);
        const tall = Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y);
        if (wide > 2 && tall > 4) found.push([boxes[i][0], boxes[j][0]]);
      }
      return [boxes.length, found];
    }""")
    assert overlaps[0] > 15
    assert overlaps[1] == []


def test_the_plan_is_moved_and_brought_nearer_by_keyboard(page: Page) -> None:
    go(page, "site")
    plan = page.locator("svg[data-drawing=site]")
    bend = page.locator("[data-handle='way-1']")
    first = bend.bounding_box()
    plan.focus()
    page.keyboard.press("+")
    page.keyboard.press("ArrowRight")
    near = bend.bounding_box()
    assert first and near and abs(near["x"] - first["x"]) + abs(near["y"] - first["y"]) > 5
    # The arrow moved the plan, not the stage.
    expect(page.locator("[data-shown=site]")).to_be_visible()
    page.keyboard.press("0")
    assert bend.bounding_box() == first


def test_a_thing_is_pointed_at_and_corrected_by_number(page: Page) -> None:
    go(page, "site")
    unfold(page, "What is there")
    add(page, "site.features", "rock outcrop")
    points = page.locator("[data-given$='.points']").last
    page.get_by_role("button", name="Point on plan").click()
    plan = page.locator("svg[data-drawing=site]")
    box = plan.bounding_box()
    assert box
    for dx, dy in ((120, 60), (150, 60), (140, 90)):
        page.mouse.click(box["x"] + box["width"] / 2 + dx, box["y"] + box["height"] / 2 + dy)
    expect(points).to_have_value(re.compile(r"^.+ft.+\n.+ft.+\n.+ft.+$"))
    page.get_by_role("button", name="Done pointing").click()
    expect(plan.locator(".layer-kind-rock-outcrop")).to_have_count(1)
    points.fill("40 ft, -30 ft\n60 ft, -30 ft\n50 ft, -45 ft")
    points.blur()
    expect(points).to_have_value("40.00 ft, −30.00 ft\n60.00 ft, −30.00 ft\n50.00 ft, −45.00 ft")
    page.get_by_role("button", name="Remove").click()
    expect(plan.locator(".layer-kind-rock-outcrop")).to_have_count(0)


def test_a_section_is_cut_between_two_places(page: Page) -> None:
    go(page, "site")
    page.get_by_role("button", name="Section").click()
    page.get_by_label("From", exact=True).fill("pump house, corner 1")
    page.get_by_label("to", exact=True).fill("-20 m, 5 m")
    page.get_by_role("button", name="Cut", exact=True).click()
    section = page.locator("svg[data-drawing=section]")
    expect(section).to_contain_text("fuel line")
    expect(section).to_contain_text("tile drain")
    expect(section.locator(".layer-ground")).to_have_count(1)


def test_a_drawing_is_mapped_layer_by_layer_and_a_broken_one_changes_nothing(
    page: Page, tmp_path: Path
) -> None:
    go(page, "site")
    unfold(page, "Ground")
    shots = answer(page, "site", "shots").inner_text()
    page.get_by_role("button", name="Paste shots").click()
    broken = tmp_path / "broken.dxf"
    broken.write_text("0\nSECTION\n2\nENTITIES\n0\nLINE\n10\nx\n")
    page.get_by_test_id("ground-file").set_input_files(broken)
    problem = page.get_by_role("dialog").get_by_role("alert")
    expect(problem).to_contain_text("DXF")
    expect(problem).to_contain_text("The site is as it was")
    line = {
        "type": "Feature",
        "properties": {"layer": "ditch"},
        "geometry": {"type": "LineString", "coordinates": [[-116.1003, 44.9], [-116.1003, 44.9003]]},
    }
    good = tmp_path / "ditch.geojson"
    good.write_text(json.dumps({"type": "FeatureCollection", "features": [line]}))
    page.get_by_test_id("ground-file").set_input_files(good)
    page.get_by_label("Layer ditch").select_option("drain")
    page.get_by_test_id("take-ground").click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    expect(answer(page, "site", "shots")).to_have_text(shots)
    unfold(page, "What is there")
    expect(page.locator("[data-list='site.features'] [data-thing]").last).to_contain_text("ditch")
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("[data-list='site.features'] [data-thing]").last).not_to_contain_text("ditch")


def test_the_job_in_space_and_the_sun_moved_over_it(page: Page) -> None:
    go(page, "site")
    loaded: list[str] = []
    page.on("response", lambda response: loaded.append(response.url))
    page.get_by_role("button", name="In space").click()
    expect(page.locator("[data-scene='36'] canvas")).to_be_visible(timeout=20_000)
    # The heavy part of the program is fetched only now.
    assert any("SceneView" in url for url in loaded)
    stands = page.get_by_test_id("sun-stands")
    expect(stands).to_contain_text("up, at")
    noon = stands.inner_text()
    hour = page.get_by_label("Hour")
    hour.focus()
    for _ in range(12):
        page.keyboard.press("ArrowRight")
    expect(stands).not_to_have_text(noon)
    page.get_by_label("Day", exact=True).fill("2026-06-21")
    expect(stands).to_contain_text(re.compile(r"sun [5-7]\d\.\d° up"))
    page.get_by_role("button", name="Back to the plan").click()
    expect(page.locator("svg[data-drawing=site]")).to_be_visible()


def test_the_slip_of_shadows_is_read_and_printed(page: Page, demo_plan: Plan) -> None:
    go(page, "sun")
    slip = page.locator("[data-table=shadows]")
    expect(slip.get_by_role("row")).to_have_count(1 + demo_plan.sun.slip.clock_h.size)
    settle(page, "sun.shadow_at_h", "10:40", "10:40")
    expect(page.locator("[data-answer='sun.shadow']")).to_contain_text("Shadow of a pole at 10:40")
    expect(page.locator("svg[data-drawing=string]")).to_contain_text("10:40: shadow at")
    bearing = answer(page, "sun", "shadow").inner_text()
    row = slip.get_by_role("row").filter(has_text="10:40")
    expect(row).to_contain_text(bearing)
    # The slip's own button prints the slip alone.
    page.evaluate("() => { window.print = () => undefined; }")
    page.get_by_role("button", name="Print").click()
    page.emulate_media(media="print")
    visible = page.evaluate("""() => ['Givens', 'Answers'].map(name =>
        getComputedStyle(document.querySelector(`[aria-label=${name}]`)).visibility)""")
    assert visible == ["hidden", "hidden"]
    expect(slip).to_be_visible()


def test_the_slip_fits_a_phone(browser: Browser, store: Engine, address: str) -> None:
    context = browser.new_context(viewport={"width": 390, "height": 844}, has_touch=True)
    phone = context.new_page()
    sign_in(phone, address)
    open_job(phone)
    go(phone, "sun")
    expect(phone.locator("[data-table=shadows]")).to_be_visible()
    assert phone.evaluate("document.documentElement.scrollWidth") <= 390
    context.close()
