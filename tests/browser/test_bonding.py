"""From the modules to the rods: a link that nobody has looked at, and the same said."""

from playwright.sync_api import Page, expect

from tests.browser.test_hand import violations
from tests.browser.test_screens import answer, field, go, unfold


def test_what_hangs_on_splices_is_told_and_said(page: Page) -> None:
    go(page, "modules")
    before = answer(page, "modules", "straps").inner_text()
    unfold(page, "Setting")
    field(page, "arrays.1.modules.steel_bonds").select_option("nobody has looked")
    drawn = page.locator("[data-drawing=modules]")
    expect(drawn).to_contain_text("no known path to the rods from here on")
    expect(page.get_by_text("Every module has a path to the rods").first).to_be_visible()
    page.get_by_role("button", name="Bonding", exact=True).click()
    links = page.locator("[data-table=bonding]").get_by_role("row")
    expect(links.filter(has_text="next purlin")).to_contain_text("nobody has looked")
    assert violations(page) == []
    field(page, "arrays.1.modules.steel_bonds").select_option("a strap over every splice")
    expect(links.filter(has_text="next purlin")).to_contain_text("a strap over each")
    expect(answer(page, "modules", "straps")).to_contain_text(str(int(before) + 12))
