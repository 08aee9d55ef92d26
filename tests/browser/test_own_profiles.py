"""A merchant's catalogue brought in, one of its profiles chosen, and bought by the merchant's name."""

from playwright.sync_api import Browser, expect
from sqlalchemy import Engine

from tests.browser.conftest import opened
from tests.browser.test_hand import violations
from tests.browser.test_screens import answer, field, go, unfold

CATALOGUE = """sold as,shape,depth mm,width mm,lip mm,wall mm,grade
ZP 18,Z,180,64,20,1.8,S350GD
ZL 18,Z,180,64,20,1.8,6082-T6
"""
STEEL, LIGHT = "Z 180 x 64 x 20 x 1.8 S350GD", "Z 180 x 64 x 20 x 1.8 6082-T6"


def test_a_catalogue_is_brought_and_a_purlin_of_it_is_chosen(
    browser: Browser, store: Engine, address: str
) -> None:
    context, page = opened(browser, address, "desk", "Larkspur")
    go(page, "materials")
    unfold(page, "Own profiles")
    file = page.locator("input[type=file][aria-label='Profiles from a file']")

    def bring(text: str) -> None:
        file.set_input_files({"name": "yard.csv", "mimeType": "text/csv", "buffer": text.encode()})

    bring(CATALOGUE.replace("64,20,1.8,S350GD", "64,,1.8,S350GD"))
    expect(page.get_by_role("alert").filter(has_text="for the lip of a Z in line 2")).to_be_visible()
    bring(CATALOGUE)
    expect(page.get_by_text("serves as purlin").first).to_be_visible()
    assert violations(page) == []
    go(page, "structure")
    purlin = field(page, "arrays.1.structure.purlin_section")
    used = answer(page, "structure", "sag").inner_text()
    purlin.select_option(STEEL)
    expect(answer(page, "structure", "sag")).not_to_have_text(used)
    steel = answer(page, "structure", "sag").inner_text()
    purlin.select_option(LIGHT)
    expect(answer(page, "structure", "sag")).not_to_have_text(steel)
    go(page, "materials")
    line = page.get_by_role("row", name=f"Purlin stock, {LIGHT}")
    expect(line).to_contain_text("Sold as ZL 18")
    context.close()
