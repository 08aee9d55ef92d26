"""Opened ground: how it is put back is asked, told, bought and dated."""

from playwright.sync_api import Browser, expect
from sqlalchemy import Engine

from openfurrow.core.plan import untried
from openfurrow.core.quantities import format_value
from openfurrow.demo.designs import larkspur
from tests.browser.test_footings import at
from tests.browser.test_hand import violations
from tests.browser.test_screens import answer, field, go, unfold


def test_how_the_ground_is_put_back_is_said_and_follows_to_list_and_days(
    browser: Browser, store: Engine, address: str
) -> None:
    context, page = at(browser, address, "desk", "trench")
    unfold(page, "Putting back")
    expect(field(page, "trench.strip_m")).to_have_count(0)
    field(page, "trench.put_back").select_option("seeded grass")
    design = larkspur()
    trench = design.trench.model_copy(update={"put_back": "seeded grass"})
    found = untried(design.model_copy(update={"trench": trench}))
    worn = format_value(float(found.answer("trench", "put_back").value), "area", "us")
    expect(answer(page, "trench", "put_back")).to_contain_text(worn)
    expect(answer(page, "trench", "topsoil")).to_be_visible()
    expect(field(page, "trench.strip_m")).to_be_visible()
    assert violations(page) == []
    go(page, "materials")
    expect(page.get_by_text("Grass seed").first).to_be_visible()
    go(page, "schedule")
    expect(page.get_by_role("row", name="Put the ground back").first).to_contain_text("sq ft/h")
    context.close()
