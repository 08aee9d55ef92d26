"""Larkspur through every family of structure and back, at a desk and on a phone."""

import pytest
from playwright.sync_api import Browser, Page, expect
from sqlalchemy import Engine

from openfurrow.core.plan import untried
from openfurrow.core.quantities import format_value
from openfurrow.demo.designs import larkspur
from openfurrow.shots import open_job, sign_in
from tests.browser.conftest import DESK, PHONE
from tests.browser.test_hand import violations
from tests.browser.test_screens import answer, field, go
from tests.designs import changed

SHOWN = ("structure", "footings", "frame", "modules", "stakeout", "materials")
HELD_BY = {"ballast frame": "ballast", "table on blocks": "piled blocks"}
AROUND = (
    "two post lines",
    "pipe grid",
    "ballast frame",
    "table on blocks",
    "single pole",
    "turning tube",
    "one post line",
)


def side_by_side(page: Page) -> None:
    go(page, "structure")
    page.get_by_role("button", name="Families side by side").click()
    expect(page.locator("[data-families] li")).to_have_count(7)


@pytest.mark.parametrize("size", ["desk", "phone"])
def test_larkspur_through_all_families_and_back(
    browser: Browser, store: Engine, address: str, size: str
) -> None:
    context = browser.new_context(**(DESK if size == "desk" else PHONE), service_workers="block")
    page = context.new_page()
    errors: list[str] = []
    page.on("pageerror", lambda error: errors.append(str(error)))
    sign_in(page, address)
    open_job(page)
    side_by_side(page)
    assert violations(page, but="target-size" if size == "phone" else "") == []
    now = page.locator("[data-families] li", has_text="Stands now")
    expect(now).to_contain_text("One post line")
    for family in AROUND:
        expect(page.get_by_role("button", name=f"Take {family}")).to_be_visible()
        # What is put into one field within two seconds is one step.
        page.wait_for_timeout(2100)
        if family == "pipe grid":
            # By pointing at its drawing.
            page.locator("[data-families] li", has_text="Pipe grid").locator(
                "figure, svg"
            ).first.click()
        else:
            page.get_by_role("button", name=f"Take {family}").click()
        expect(now).to_contain_text(family.capitalize())
        expect(field(page, "arrays.1.structure.family")).to_have_value(family)
        # Every number that is shown is the plan's own, on this stage and on those that follow.
        held = HELD_BY.get(family, "driven post")
        design = changed(changed(larkspur(), "structure", family=family), "footings", family=held)
        found = untried(design)
        for stage in SHOWN:
            if stage != "structure":
                go(page, stage)
            for one in found.shown(stage)[0]:
                if one.headline:
                    shown = format_value(one.value, one.kind, "us")
                    expect(answer(page, stage, one.key)).to_contain_text(shown)
        side_by_side(page)
    # Round once: the job is what it was, and each step can be taken back.
    undo = page.get_by_role("button", name="Undo")
    for family in (*AROUND[-2::-1], "one post line"):
        undo.click()
        expect(field(page, "arrays.1.structure.family")).to_have_value(family)
    expect(undo).to_be_disabled()
    assert errors == []
    context.close()


def test_a_support_is_pointed_at_and_says_its_own(
    browser: Browser, store: Engine, address: str
) -> None:
    context = browser.new_context(**DESK, service_workers="block")
    page = context.new_page()
    sign_in(page, address)
    open_job(page)
    go(page, "structure")
    page.get_by_role("group", name="Seen").get_by_role("button", name="Supports from above").click()
    expect(page.get_by_text("Supports that are alike")).to_be_visible()
    box = page.locator("[data-pointed]").bounding_box()
    assert box is not None
    page.locator("[data-pointed]").click(position={"x": box["width"] / 2, "y": box["height"] / 2})
    own = page.locator("[data-support]")
    expect(own).to_contain_text("what it asks of the ground, case by case")
    # Whoever has no pointer types the place: the first post by where it stands.
    places = untried(larkspur()).structure.supports.places
    said = f"{places.east_m[0]:.3f} m, {places.north_m[0]:.3f} m"
    page.get_by_label("The support nearest to").fill(said)
    page.get_by_role("button", name="Look", exact=True).click()
    expect(own).to_contain_text("Post 1, 1.1/1:")
    assert violations(page) == []
    page.get_by_role("button", name="All kinds of supports").click()
    expect(page.get_by_text("Supports that are alike")).to_be_visible()
    context.close()
