"""A hilltop from an empty site: shots pasted, things said, and the ground filled past all of them."""

import json
import re

import numpy as np
import shapely
from playwright.sync_api import Page, expect

from openfurrow.core.design_versions import read_document
from openfurrow.core.plan import plan
from openfurrow.demo.grifo import grifo
from tests.browser.saying import SEND, say_all
from tests.browser.test_screens import answer, go, unfold

DESIGN = "async (job) => (await fetch(`/api/jobs/${job}/files/design.json`)).text()"


def typed(job: str, page: Page, *edits: tuple[str, str]) -> None:
    said = [{"path": path, "text": text} for path, text in edits]
    assert page.evaluate(SEND, [job, said]) == 200
    page.reload()
    page.locator("[data-shown]").wait_for()


def fill(page: Page, **said: str) -> None:
    go(page, "rows")
    page.get_by_role("button", name="Fill the ground").click()
    dialog = page.get_by_role("dialog", name="Fill the ground")
    for label, text in said.items():
        dialog.get_by_label(label.replace("_", " ")).fill(text)
    dialog.get_by_role("button", name="Fill", exact=True).click()
    expect(dialog).to_have_count(0, timeout=30_000)


def test_a_hilltop_from_an_empty_site(desk: Page) -> None:
    page, like = desk, grifo()
    page.get_by_label("Name of the job").fill("Hilltop from nothing")
    page.get_by_label("Rules").select_option("metric")
    page.get_by_role("button", name="Begin", exact=True).click()
    expect(page.locator("[data-shown=site]")).to_be_visible()
    say_all(
        page,
        latitude_deg="40.33",
        longitude_deg="-7.60",
        elevation_m="1180 m",
        time_zone="Europe/Lisbon",
        soil_class="crystalline rock",
        frost_depth_m="0.5 m",
        wind_speed_m_s="27 m/s",
        ground_snow_pa="1.5 kPa",
        route="6 m, 10 m\n13 m, 21 m",
        modules_along="10",
    )
    job = page.url.split("/jobs/")[1].split("/")[0]
    # Shots as they come from the receiver, pasted.
    (survey,) = like.site.surveys
    lines = "\n".join(f"{e}, {n}, {z}, {code}" for e, n, z, code in survey.readings)
    unfold(page, "Ground")
    page.get_by_role("button", name="Paste shots").click()
    page.get_by_test_id("paste-shots").fill(f"east, north, level, code\n{lines}")
    page.get_by_role("button", name="Look at them").click()
    page.get_by_test_id("take-ground").click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    expect(answer(page, "site", "shots")).to_have_text("81")
    edits = []
    for number, thing in enumerate(like.site.features[:3]):
        at = f"site.features.f{number}"
        points = "\n".join(f"{east} m, {north} m" for east, north in thing.points)
        edits += [
            (f"site.features.+f{number}", thing.kind),
            (f"{at}.name", thing.name),
            (f"{at}.points", points),
        ]
    rows = (("orientation", "landscape"), ("tilt_deg", "30"), ("lower_edge_m", "0.5 m"))
    edits += [(f"arrays.1.rows.{name}", text) for name, text in rows]
    typed(job, page, *edits)
    fill(page, Modules_wanted="40")
    expect(answer(page, "rows", "modules")).to_have_text("40")
    document = json.loads(page.evaluate(DESIGN, job))
    found = plan(read_document(document))
    assert found.rows.module_count == 40
    # Glass may hang over a slab of rock; posts keep off it.
    land, dome = (shapely.Polygon(thing.points) for thing in like.site.features[:2])

    def clear() -> int:
        made = plan(read_document(json.loads(page.evaluate(DESIGN, job))))
        glass = np.array(made.rows.tables.outlines)
        assert shapely.area(shapely.difference(glass, land)).max() < 1e-3
        assert not shapely.intersects(glass, dome).any()
        return made.rows.module_count

    assert clear() == 40
    # As many as fit, in tables of several lengths; strings come out even.
    fill(page, Modules_wanted="", Shorter_tables="8, 5", Kept_free_inside_every_edge="1 m")
    most = int(re.sub(r"\D", "", answer(page, "rows", "modules").inner_text()))
    assert most == clear() > 80
    go(page, "sun")
    page.get_by_role("group", name="Seen").get_by_role("button", name="The year", exact=True).click()
    expect(page.locator("svg[data-drawing=table_years]")).to_be_visible()
    expect(page.get_by_text("brings least for its size")).to_be_visible()
    # One undo gives back the forty.
    page.get_by_role("button", name="Undo").click()
    go(page, "rows")
    expect(answer(page, "rows", "modules")).to_contain_text("40")
