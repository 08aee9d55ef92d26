"""Holes marked on both faces of a wall, and a frame put together in its order; desk and phone."""

import pytest
from playwright.sync_api import Browser, expect
from sqlalchemy import Engine

from tests.browser.conftest import opened
from tests.browser.test_hand import violations
from tests.browser.test_screens import answer, field, go, settle, unfold


@pytest.mark.parametrize("size", ["desk", "phone"])
def test_a_hole_that_would_cut_a_stud_is_moved_before_it_is_drilled(
    browser: Browser, store: Engine, address: str, size: str
) -> None:
    context, page = opened(browser, address, size, "Larkspur")
    go(page, "trench")
    page.get_by_role("button", name="Through the wall").click()
    drawn = page.locator("[data-drawing=wall]")
    expect(drawn).to_contain_text("outside")
    expect(drawn).to_contain_text("inside")
    inside = answer(page, "trench", "wall_inside")
    expect(inside).to_contain_text("2' 2\"")
    # At the head of the answers, so that the bar of stops covers half of none.
    inside.evaluate("one => one.scrollIntoView({block: 'start'})")
    assert violations(page) == []
    unfold(page, "Through the wall")
    settle(page, "trench.hole_right_m", "20 in", "1' 8\"")
    expect(page.get_by_text("Holes miss the studs").first).to_be_visible()
    settle(page, "trench.hole_right_m", "26 in", "2' 2\"")
    expect(page.get_by_text("Holes miss the studs")).to_have_count(0)
    # Where all of it hangs outside nothing of a wall is asked or drawn.
    field(page, "trench.wall_kind").select_option("no wall is passed")
    expect(drawn).to_have_count(0)
    expect(field(page, "trench.wall_thick_m")).to_have_count(0)
    context.close()


@pytest.mark.parametrize("size", ["desk", "phone"])
def test_a_frame_goes_together_in_its_order(
    browser: Browser, store: Engine, address: str, size: str
) -> None:
    context, page = opened(browser, address, size, "Larkspur")
    go(page, "frame")
    page.get_by_role("button", name="In order").click()
    steps = page.locator("[data-table=assembly]")
    expect(steps).to_contain_text("9 x inclined beam")
    expect(steps).to_contain_text("98.9 lb·ft")
    expect(steps).to_contain_text("69' 2\"")
    assert violations(page) == []
    context.close()
