"""What a year brings, as it is asked for on the sun and the rows stage."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.test_hand import violations
from tests.browser.test_screens import settle, unfold
from tests.weather import epw


def see(page: Page, stage: str, what: str) -> None:
    page.locator(f"[data-stage={stage}]").click()
    page.locator(f"[data-shown={stage}]").wait_for()
    page.get_by_role("group", name="Seen").get_by_role("button", name=what, exact=True).click()
    page.locator("[data-energy]").wait_for()


def cells(page: Page, table: str) -> list[list[str]]:
    rows = page.locator(f"table[data-table={table}] tbody tr")
    rows.first.wait_for()
    return [row.locator("td").all_inner_texts() for row in rows.all()]


def kwh(text: str) -> float:
    return float(text.split(" kWh")[0].replace("\u202f", "").replace("\u2212", "-"))


def test_the_year_is_shown_as_bars_losses_and_a_list(page: Page) -> None:
    see(page, "sun", "The year")
    for name in ("months", "losses"):
        expect(page.locator(f"svg[data-drawing={name}]")).to_be_visible()
    months = cells(page, "months")
    assert [row[0] for row in months][::11] == ["January", "December"]
    answer = page.locator("[data-answer='sun.energy']")
    total = sum(kwh(row[2]) for row in months)
    assert kwh(answer.inner_text().split("\n")[-1]) == pytest.approx(total, abs=8)
    assert violations(page) == []


def test_a_better_tilt_is_taken_by_one_press_and_given_back(page: Page) -> None:
    see(page, "sun", "Tilt")
    settings = cells(page, "settings")
    assert [row[0] for row in settings][:2] == ["as it is", "best fixed"]
    assert len(settings) == 6
    assert kwh(settings[5][2]) >= kwh(settings[1][2])
    movers = cells(page, "movers")
    assert int(movers[1][4]) > 0
    take = page.get_by_role("button", name="Take ")
    best = take.inner_text().removeprefix("Take ").removesuffix(", fixed")
    take.click()
    expect(page.locator("table[data-table=settings] tbody tr").first).to_contain_text(best)
    expect(take).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("button", name=f"Take {best}")).to_be_visible()


def test_settings_of_the_year_are_taken_and_every_stage_knows_them(page: Page) -> None:
    """Three settings, the middle one twice a year: put up at that of midwinter, carried at each."""
    see(page, "sun", "Tilt")
    three = next(row for row in cells(page, "settings") if row[0] == "three")
    tilts = [int(one) for one in re.findall(r"(\d+)°", three[1])]
    page.get_by_role("button", name="Set it so: three").click()
    expect(page.locator("table[data-table=settings] tbody tr").first).to_contain_text(three[1][:10])
    as_it_is = cells(page, "settings")[0]
    assert as_it_is[1] == three[1]
    page.locator("[data-stage=rows]").click()
    page.locator("[data-shown=rows]").wait_for()
    told = page.locator("[data-answer='rows.positions']")
    expect(told).to_contain_text(", ".join(f"{one}°" for one in sorted(set(tilts))))
    things = page.locator("[data-list='arrays.1.rows.positions'] [data-thing]")
    expect(things).to_have_count(4)
    drawing = page.locator("svg[data-drawing=rows]")
    for tilt in sorted(set(tilts))[:2]:
        expect(drawing.get_by_text(f"{tilt}°", exact=True)).to_be_visible()
    page.locator("[data-stage=structure]").click()
    page.locator("[data-shown=structure]").wait_for()
    expect(page.locator("[data-answer='structure.strut_travel']")).to_be_visible()
    travel = page.get_by_label("Strut's length is set over")
    travel.fill("4 ft")
    travel.blur()
    page.locator("[data-stage=rows]").click()
    page.locator("[data-shown=rows]").wait_for()
    # A day is typed as it is said, and what is none is refused by name.
    things.first.click()
    day = page.locator("[data-list='arrays.1.rows.positions'] [data-given$='.day']")
    day.fill("3/4")
    day.blur()
    expect(page.get_by_role("alert")).to_contain_text("21 Mar")
    day.fill("April 2")
    day.blur()
    expect(day).to_have_value("2 Apr")
    assert violations(page) == []
    page.locator("[data-list='arrays.1.rows.positions']").get_by_role("button", name="Remove").click()
    expect(things).to_have_count(3)


def test_a_spot_is_pointed_at_on_the_map(page: Page) -> None:
    see(page, "sun", "What stands around")
    page.locator("svg[data-drawing=sun_map]").click(position={"x": 300, "y": 240})
    expect(page.get_by_role("heading", name="Hours of open sun at")).not_to_contain_text("glass")
    spot = page.get_by_label("Hours of sun at")
    assert re.fullmatch(r"-?\d+\.\d m, -?\d+\.\d m", spot.input_value())
    expect(page.locator("svg[data-drawing=sun_map]")).to_contain_text("asked here")


def test_the_map_the_turn_and_what_each_tree_takes(page: Page) -> None:
    see(page, "sun", "What stands around")
    expect(page.locator("svg[data-drawing=sun_map]")).to_be_visible()
    taken = cells(page, "takes")
    assert "cottonwood" in taken[0][0]
    shares = [float(row[1].removesuffix(" %")) for row in taken]
    assert shares == sorted(shares, reverse=True)
    assert shares[0] > 1
    hours = cells(page, "open_hours")
    assert len(hours) == 12
    for row in hours:
        there, free = (float(cell.removesuffix(" h")) for cell in row[1:])
        assert there <= free
    spot = page.get_by_label("Hours of sun at")
    spot.fill("somewhere")
    spot.press("Enter")
    expect(page.get_by_text("east, north").first).to_be_visible()
    expect(page.locator("table[data-table=open_hours]")).to_have_count(0)
    # Among the cottonwoods there is less of it.
    spot.fill("-19 m, -14 m")
    spot.press("Enter")
    expect(page.get_by_role("heading", name="Hours of open sun at")).to_contain_text("\u2212")
    under = cells(page, "open_hours")
    assert float(under[0][1].removesuffix(" h")) < float(hours[0][1].removesuffix(" h"))
    assert violations(page) == []


def test_three_schools_agree_in_chart_section_and_energy(page: Page) -> None:
    """What the winter window asks for is the pitch of the section, and its mark on the chart."""
    see(page, "rows", "Pitch")
    schools = {row[0]: row for row in cells(page, "schools")}
    assert schools["as it is"][1] == schools["winter window"][1]
    pitch = page.locator("[data-answer='rows.pitch']").inner_text().split("\n")[-1]
    assert schools["as it is"][1] == pitch
    assert schools["loses 3 %"][2] == "3.0 %"
    field = page.get_by_label("A row may lose")
    field.fill("40")
    expect(page.get_by_role("alert")).to_contain_text("0.1 to 30")
    field.fill("6")
    row = page.locator("table[data-table=schools] tbody tr").nth(2)
    expect(row).to_contain_text("loses 6 %")
    expect(row).to_contain_text("6.0 %")
    closer = row.locator("td").nth(1).inner_text()
    page.get_by_role("button", name=f"Hold {closer}").click()
    expect(page.locator("table[data-table=schools] tbody tr").first).to_contain_text(closer)
    expect(page.locator("[data-answer='rows.pitch']")).to_contain_text(closer)
    expect(page.locator("table[data-table=schools] tbody tr").first).to_contain_text("6.0 %")
    page.get_by_role("group", name="Seen").get_by_role("button", name="Across the rows").click()
    expect(page.locator("svg[data-drawing=rows]")).to_be_visible()


def test_the_ground_is_filled_as_one_step_and_given_back(page: Page) -> None:
    """Errors name the field; a fill that is stopped leaves everything as it was."""
    before = page.locator("[data-answer='rows.modules']").inner_text().split("\n")[-1]
    page.get_by_role("button", name="Fill the ground").click()
    dialog = page.get_by_role("dialog", name="Fill the ground")
    dialog.get_by_label("Kept free inside every edge").fill("seven")
    dialog.get_by_role("button", name="Fill", exact=True).click()
    expect(dialog.get_by_role("alert")).to_contain_text("Kept free inside every edge")
    dialog.get_by_label("Kept free inside every edge").fill("6 ft")
    dialog.get_by_label("Shortest table").fill("6")
    assert violations(page) == []
    # The answer is held back, so that there is time to stop.
    page.route("**/tables/fill", lambda route: None)
    dialog.get_by_role("button", name="Fill", exact=True).click()
    dialog.get_by_role("button", name="Stop").click()
    expect(dialog.get_by_role("button", name="Fill", exact=True)).to_be_enabled()
    page.unroute("**/tables/fill")
    expect(page.locator("[data-answer='rows.modules']")).to_contain_text(before)
    dialog.get_by_role("button", name="Fill", exact=True).click()
    # It is worked out in a process of its own, which plans the whole first.
    expect(dialog).to_have_count(0, timeout=30_000)
    expect(page.locator("[data-answer='rows.modules']")).to_contain_text(f"was {before}")
    page.get_by_role("group", name="Seen").get_by_role("button", name="Tables from above").click()
    page.locator("svg[data-drawing]").first.wait_for()
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("[data-answer='rows.modules']")).to_contain_text(f"{before}was")


def test_a_weather_file_is_brought_named_and_taken_out(page: Page, tmp_path: Path) -> None:
    page.locator("[data-stage=sun]").click()
    page.locator("[data-shown=sun]").wait_for()
    unfold(page, "Weather")
    before = page.locator("[data-answer='sun.energy']").inner_text().split("\n")[-1]
    file = tmp_path / "kettle-bank.epw"
    file.write_text("no weather at all")
    page.get_by_label("Weather file").set_input_files(file)
    expect(page.get_by_role("alert")).to_contain_text(
        "no weather file that is known here", timeout=30_000
    )
    file.write_text(epw())
    page.get_by_label("Weather file").set_input_files(file)
    expect(page.locator("[data-list='sun.weather']")).to_contain_text("kettle-bank.epw", timeout=30_000)
    expect(page.locator("[data-answer='sun.energy']")).to_contain_text(f"was {before}")
    page.locator("[data-list='sun.weather'] [data-thing]").click()
    page.locator("[data-list='sun.weather']").get_by_role("button", name="Remove").click()
    expect(page.locator("[data-answer='sun.energy']")).to_contain_text(f"{before}was")


def test_a_meters_year_is_brought_and_rules_over_the_figure(page: Page, tmp_path: Path) -> None:
    page.locator("[data-stage=sun]").click()
    page.locator("[data-shown=sun]").wait_for()
    unfold(page, "Who uses it")
    figure = page.locator("[data-given='sun.load_wh']")
    expect(figure).to_be_visible()
    file = tmp_path / "pump.csv"
    file.write_text("when;used\n1;2\n")
    page.get_by_label("Meter's file").set_input_files(file)
    expect(page.get_by_role("alert")).to_contain_text("names no unit", timeout=30_000)
    file.write_text("when;kWh\n" + "".join(f"{hour};{hour % 24 / 10:.1f}\n" for hour in range(8760)))
    page.get_by_label("Meter's file").set_input_files(file)
    expect(page.locator("[data-list='sun.loads']")).to_contain_text("pump.csv", timeout=30_000)
    expect(figure).to_have_count(0)
    expect(page.locator("[data-answer='sun.own_share']")).to_contain_text("was")
    assert violations(page) == []
    page.get_by_role("button", name="Undo").click()
    expect(figure).to_be_visible()


def test_rows_are_filled_along_a_line_in_tables_of_several_lengths(page: Page) -> None:
    turn = page.locator("[data-given='arrays.1.rows.turn_deg']")
    turn.fill("12")
    turn.blur()
    expect(turn).to_have_value(re.compile("12"))
    page.get_by_role("button", name="Fill the ground").click()
    dialog = page.get_by_role("dialog", name="Fill the ground")
    dialog.get_by_label("Shorter tables").fill("12; six")
    dialog.get_by_role("button", name="Fill", exact=True).click()
    expect(dialog.get_by_role("alert")).to_contain_text("Shorter tables")
    dialog.get_by_label("Shorter tables").fill("12, 6")
    dialog.get_by_label("Rows run along").select_option("tile drain")
    dialog.get_by_role("button", name="Fill", exact=True).click()
    # It runs north: rows along it would look east or west.
    expect(dialog.get_by_role("alert")).to_contain_text("from the equator", timeout=30_000)
    dialog.get_by_label("Rows run along").select_option("ferry road")
    dialog.get_by_role("button", name="Fill", exact=True).click()
    expect(dialog).to_have_count(0, timeout=30_000)
    expect(page.locator("[data-answer='rows.modules']")).to_contain_text("was")
    # The road runs due east: rows along it look straight to the equator again.
    expect(turn).to_have_value(re.compile(r"^0(\.0)?°?$"))


def test_on_a_phone_charts_fit_and_are_read_as_lists(phone: Page) -> None:
    for what in ("The year", "Tilt", "What stands around"):
        see(phone, "sun", what)
        phone.locator("svg[data-drawing]").last.wait_for()
        assert phone.evaluate("document.documentElement.scrollWidth") <= 390
    assert violations(phone) == []


def test_shade_on_the_ground_follows_the_hour(page: Page) -> None:
    page.get_by_role("group", name="Seen").get_by_role("button", name="Shade").click()
    drawing = page.locator("svg[data-drawing=shadows]")
    expect(drawing).to_be_visible()
    expect(page.get_by_text("12-21 10:00: the sun stands")).to_be_visible()
    hour = page.get_by_label("Hour")
    hour.focus()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_text("12-21 10:15: the sun stands")).to_be_visible()
    page.get_by_role("button", name="21 June").click()
    expect(page.get_by_text("06-21 10:15: the sun stands")).to_be_visible()
    hour.fill("240")
    expect(page.get_by_text("the sun is down")).to_be_visible()
    assert violations(page) == []


def test_a_step_and_a_revision_stand_beside_the_draft(page: Page) -> None:
    settle(page, "arrays.1.rows.tilt_deg", "22", "22.0°")
    expect(page.locator("[data-answer='rows.pitch']")).to_contain_text("was")
    page.get_by_role("button", name="History").click()
    dialog = page.get_by_role("dialog", name="Steps and revisions")
    dialog.get_by_label("Put revision 1 beside the draft").check()
    table = dialog.locator("table[data-table=variants]")
    expect(table.locator("thead")).to_contain_text("Revision 1")
    rows = {row[0]: row[1:] for row in cells(page, "variants")}
    assert rows["Modules"][0] == rows["Modules"][1]
    assert kwh(rows["Energy of a year"][0]) != kwh(rows["Energy of a year"][1])
    expect(dialog.get_by_text("Revision 1 differs in: Tilt 34.0°")).to_be_visible()
    assert violations(page) == []


def test_strings_go_the_way_that_shade_asks_for(page: Page) -> None:
    """Rows pushed close shade each other's lower modules: whole rows are offered, and taken."""
    settle(page, "arrays.1.rows.rows", "2", "2")
    settle(page, "arrays.1.rows.pitch_m", "14 ft", "14' 0\"")
    see(page, "wiring", "Shade")
    ways = cells(page, "walks")
    assert ways[0][0] == "row by row, as now" and len(ways) == 4
    mixed = {row[0].removesuffix(", as now"): float(row[2].removesuffix(" %")) for row in ways}
    assert mixed["whole rows"] < mixed["row by row"]
    assert violations(page) == []
    page.get_by_role("button", name="Strings go whole rows").click()
    expect(page.locator("table[data-table=walks] tbody tr").first).to_contain_text("whole rows, as now")
    expect(page.get_by_role("button", name="Strings go")).to_have_count(0)
