"""The hand: help, Escape, single keys, the folded cut, paper, thumbs, and what is read out."""

from datetime import date
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect

from openfurrow.core.design import PLACES
from tests.browser.test_screens import answer, field, go, unfold

AXE = Path(__file__).resolve().parents[2] / "frontend/node_modules/axe-core/axe.min.js"
# The whole of WCAG 2.2 A and AA that axe can see, and its good practice of landmarks.
RULES = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"]
QUIET_MS = 700


def violations(page: Page, *, but: str = "") -> list[str]:
    """What axe finds, each with the first element it found it on; ``but`` is a rule held elsewhere."""
    if not page.evaluate("() => 'axe' in window"):
        page.evaluate(AXE.read_text())
    found: dict[str, Any] = page.evaluate(
        "rules => axe.run(document, {runOnly: {type: 'tag', values: rules}})", RULES
    )
    return [f"{v['id']}: {v['nodes'][0]['html'][:120]}" for v in found["violations"] if v["id"] != but]


@pytest.mark.parametrize("theme", ["daylight", "dusk"])
def test_axe_finds_nothing_on_any_stage(page: Page, theme: str) -> None:
    if theme == "dusk":
        page.get_by_role("button", name="Dusk").click()
    for stage in PLACES:
        go(page, stage)
        assert violations(page) == [], stage


def test_axe_finds_nothing_on_a_phone(phone: Page) -> None:
    for stage in PLACES:
        go(phone, stage)
        # What scrolls under the strip of stops counts as small; thumbs have a test of their own.
        assert violations(phone, but="target-size") == [], stage


def test_axe_finds_nothing_in_dialogs_lists_and_space(page: Page) -> None:
    for opener in ("History", "Files", "? Keys"):
        page.get_by_role("button", name=opener, exact=True).click()
        expect(page.get_by_role("dialog")).to_be_visible()
        assert violations(page) == [], opener
        page.keyboard.press("Escape")
    go(page, "site")
    unfold(page, "What is there")
    page.locator("[data-thing='site.features.0']").click()
    assert violations(page) == []
    page.get_by_role("button", name="Measure in…").click()
    assert violations(page) == []
    page.keyboard.press("Escape")
    unfold(page, "Ground")
    page.get_by_role("button", name="Paste shots or bring a file").click()
    page.get_by_test_id("paste-shots").fill("1,4.5,3,100\n2,8,7,101\n3,2,6,102")
    page.get_by_role("button", name="Look at them").click()
    # Read in a process of its own, which a busy machine is slow to begin.
    expect(page.get_by_test_id("ground-found")).to_contain_text("Asked", timeout=30_000)
    assert violations(page) == []
    page.keyboard.press("Escape")
    page.get_by_role("button", name="In space").click()
    expect(page.locator("[data-scene] canvas")).to_be_visible()
    assert violations(page) == []


def test_axe_finds_nothing_before_a_job(desk: Page, browser: Browser, address: str) -> None:
    expect(desk.get_by_role("main")).to_be_visible()
    assert violations(desk) == []
    stranger = browser.new_page()
    stranger.goto(address)
    expect(stranger.get_by_role("button", name="Sign in")).to_be_visible()
    assert violations(stranger) == []
    stranger.close()


TOO_SMALL = """() => [...document.querySelectorAll('button, a[href], input, select, textarea, summary')]
  .filter(e => !e.closest('.skip, svg') && e.getClientRects().length)
  .filter(e => getComputedStyle(e).visibility !== 'hidden')
  .map(e => [e.type === "checkbox" ? e.closest("label") : e, e])
  .map(([hit, e]) => [e.outerHTML.slice(0, 90), hit.getBoundingClientRect()])
  .filter(([, r]) => r.height < 43.5 || r.width < 43.5)
  .map(([html, r]) => `${r.width}x${r.height} ${html}`)"""


def test_a_thumb_finds_everything_that_is_pressed(phone: Page) -> None:
    """44 pixels at least, on every stage and in every dialog."""
    for stage in PLACES:
        go(phone, stage)
        phone.evaluate(
            "() => document.querySelectorAll('main details').forEach(d => { d.open = true; })"
        )
        assert phone.evaluate(TOO_SMALL) == [], stage
    for opener in ("History", "Files"):
        phone.get_by_role("button", name=opener, exact=True).click()
        assert phone.evaluate(TOO_SMALL) == [], opener
        phone.keyboard.press("Escape")


OVERLAPS = """() => {
  const words = [...document.querySelectorAll('svg[data-drawing] text')]
    .filter(e => e.textContent.trim());
  const boxes = words.map(e => [e.textContent, e.getBoundingClientRect(), e.closest('svg')]);
  const found = [];
  boxes.forEach(([a, p, s], i) => boxes.slice(i + 1).forEach(([b, q, t]) => {
    const x = Math.min(p.right, q.right) - Math.max(p.left, q.left);
    const y = Math.min(p.bottom, q.bottom) - Math.max(p.top, q.top);
    if (s === t && x > 3 && y > 5) found.push(`${a} / ${b}`);
  }));
  return found;
}"""


@pytest.mark.parametrize("stage", ["footings", "trench"])
def test_words_of_a_drawing_stand_apart_on_a_phone(phone: Page, stage: str) -> None:
    go(phone, stage)
    expect(phone.locator("main svg[data-drawing]").last).to_be_visible()
    assert phone.evaluate(OVERLAPS) == []
    if stage == "footings":
        expect(phone.locator("main figcaption")).to_contain_text("wind lifts it")


COVERED = """() => {
  const fields = [...document.querySelectorAll('main [data-help] [data-given]')]
    .filter(e => e.checkVisibility({contentVisibilityAuto: true}));
  const covered = [];
  fields.slice(0, -1).forEach((here, at) => {
    here.focus();
    const next = fields[at + 1];
    next.scrollIntoView({block: 'nearest'});
    const box = next.getBoundingClientRect();
    const met = document.elementFromPoint(box.left + box.width / 2, box.top + box.height / 2);
    if (met !== next) covered.push(`${here.dataset.given} hides ${next.dataset.given}`);
  });
  return covered;
}"""


def test_help_covers_nothing_that_is_clicked_next(page: Page) -> None:
    """With any field in hand, the next one takes the click in its middle."""
    for stage in PLACES:
        go(page, stage)
        assert page.evaluate(COVERED) == [], stage
    go(page, "rows")
    field(page, "arrays.1.rows.tilt_deg").focus()
    expect(page.get_by_test_id("help")).to_contain_text("Near latitude for winter")


def test_escape_gives_back_what_stood_there(page: Page) -> None:
    tilt, before = field(page, "arrays.1.rows.tilt_deg"), answer(page, "rows", "pitch").inner_text()
    was = tilt.input_value()
    tilt.fill("20")
    expect(answer(page, "rows", "pitch")).not_to_have_text(before)
    tilt.press("Escape")
    expect(tilt).to_have_value(was)
    expect(answer(page, "rows", "pitch")).to_have_text(before)
    # A dialog gives the focus back to what opened it.
    page.get_by_role("button", name="History").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("dialog")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name="History")).to_be_focused()


def test_escape_ends_pointing_and_takes_back_its_places(page: Page) -> None:
    go(page, "site")
    unfold(page, "What is there")
    page.locator("[data-thing='site.features.1']").click()
    points = field(page, "site.features.1.points")
    was = points.input_value()
    page.get_by_role("button", name="Point on plan").click()
    box = page.locator("svg[data-drawing=site]").bounding_box()
    assert box is not None
    page.mouse.click(box["x"] + box["width"] / 2, box["y"] + box["height"] / 3)
    expect(points).not_to_have_value(was)
    page.keyboard.press("Escape")
    expect(points).to_have_value(was)
    expect(page.get_by_role("button", name="Point on plan")).to_be_visible()


def test_a_letter_that_was_meant_for_a_field_does_nothing_else(page: Page) -> None:
    units = page.get_by_role("button", name="Units")
    before = units.inner_text()
    field(page, "arrays.1.rows.tilt_deg").fill("30")
    field(page, "arrays.1.rows.tilt_deg").blur()
    page.keyboard.press("u")
    expect(units).to_have_text(before)
    page.wait_for_timeout(QUIET_MS)
    page.keyboard.press("u")
    expect(units).not_to_have_text(before)


def test_the_cut_folds_by_a_key_and_stays_so(page: Page) -> None:
    high = page.locator("[data-shown=rows]").bounding_box()
    page.keyboard.press("c")
    expect(page.locator("[data-cut=folded]")).to_be_visible()
    page.reload()
    expect(page.locator("[data-cut=folded]")).to_be_visible()
    higher = page.locator("[data-shown=rows]").bounding_box()
    assert high is not None and higher is not None and higher["height"] > high["height"] + 140
    page.get_by_role("button", name="Open the cut").click()
    expect(page.locator("[data-cut=open] svg[data-drawing=cut]")).to_be_visible()


def test_the_focus_goes_on_after_a_thing_is_removed(page: Page) -> None:
    go(page, "site")
    unfold(page, "What is there")
    page.locator("[data-thing='site.features.0']").click()
    page.get_by_role("button", name="Remove").click()
    expect(page.locator("[data-thing='site.features.1']")).to_be_focused()
    page.get_by_role("button", name="In space").click()
    expect(page.get_by_role("application", name="The job in space")).to_be_focused()
    page.get_by_role("button", name="Back to the plan").click()
    expect(page.get_by_role("button", name="In space")).to_be_focused()


def test_the_stage_is_a_skip_away(page: Page) -> None:
    page.reload()
    expect(page.locator("[data-shown=rows]")).to_be_visible()
    page.keyboard.press("Tab")
    skip = page.get_by_role("link", name="Skip to the stage")
    expect(skip).to_be_focused()
    skip.press("Enter")
    expect(page.get_by_role("main")).to_be_focused()


def test_one_page_answers_for_all_owners_that_have_not(page: Page) -> None:
    go(page, "site")
    unfold(page, "Locate")
    while page.locator("[data-list='site.tickets'] [data-thing]").count() < 7:
        count = page.locator("[data-list='site.tickets'] [data-thing]").count()
        page.locator("[data-add='site.tickets']").click()
        expect(page.locator("[data-list='site.tickets'] [data-thing]")).to_have_count(count + 1)
    form = page.get_by_role("form", name="One answer for all owners")
    expect(form).to_contain_text("One page answers for all 3")
    form.get_by_label("Answered on").fill("2026-04-16")
    form.get_by_role("button", name="Answer for all 3").click()
    expect(form).to_have_count(0)
    lines = page.locator("[data-table=tickets] tbody tr")
    expect(lines.filter(has_text="telecom").first).to_contain_text("nothing here")
    # One step, and undone as one.
    page.get_by_role("button", name="Undo").click()
    expect(form).to_be_visible()


@pytest.mark.parametrize("stage", PLACES)
def test_every_stage_prints_as_sheets(page: Page, stage: str) -> None:
    """Big figures and the drawing, no buttons, and what the sheet is of."""
    go(page, stage)
    page.set_viewport_size({"width": 720, "height": 1000})
    page.emulate_media(media="print")
    head = page.locator(".print-head")
    expect(head).to_contain_text(stage)
    expect(head).to_contain_text("Larkspur Ferry landing, revision 1")
    expect(head).to_contain_text(date.today().isoformat())
    # What only a hand at the screen wants is not on paper: buttons, the zoom, what could be added.
    only_by_hand = page.locator(
        ".btn, .layer-toggle, [aria-label='Nearer'], [aria-label^='What to add'], form"
    )
    assert [one for one in only_by_hand.all() if one.is_visible()] == []
    expect(page.locator("main svg[data-drawing]").first).to_be_visible()
    first = page.locator("main [data-answer] .figure").first
    assert float(first.evaluate("e => parseFloat(getComputedStyle(e).fontSize)")) > 30
    # Nothing is cut off by a column that scrolls.
    cut = page.locator("main .scroll-cue").evaluate_all(
        "all => all.filter(e => e.scrollHeight > e.clientHeight + 2).length"
    )
    assert cut == 0
    assert page.pdf(format="A4")[:4] == b"%PDF"
    margin = page.locator("style").evaluate_all("all => all.map(e => e.textContent).join('')")
    assert f"Larkspur Ferry landing, {stage}" in margin and "counter(page)" in margin


@pytest.mark.parametrize("size", [(320, 480), (240, 300), (700, 260)])
def test_no_drawing_is_made_of_negative_lengths(page: Page, size: tuple[int, int]) -> None:
    said: list[str] = []
    page.on("console", lambda message: said.append(message.text) if message.type == "error" else None)
    page.set_viewport_size({"width": size[0], "height": size[1]})
    for stage in PLACES:
        page.locator(f"[data-stage={stage}]").click()
        expect(page.locator(f"[data-shown={stage}]")).to_be_attached()
    page.wait_for_timeout(300)
    assert said == []


PLACE_UNDER = """([x, y]) => {
  const svg = document.querySelector('svg.plan');
  const [a, b] = [...svg.querySelectorAll('[data-handle^=way-]')].map((h) => h.getBoundingClientRect());
  const middle = (r) => [r.x + r.width / 2, r.y + r.height / 2];
  const [p, q] = [middle(a), middle(b)];
  return {apart: Math.hypot(p[0] - q[0], p[1] - q[1]), east: (x - p[0]) / (q[0] - p[0]),
          north: (y - p[1]) / (q[1] - p[1])};
}"""


def test_two_fingers_bring_the_plan_nearer_about_what_they_hold(phone: Page) -> None:
    """By the touches themselves: what lay under the middle of the fingers lies there still."""
    go(phone, "site")
    plan = phone.locator("svg.plan")
    plan.scroll_into_view_if_needed()
    box = plan.bounding_box()
    assert box
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    before = phone.evaluate(PLACE_UNDER, [x, y])
    touch = phone.context.new_cdp_session(phone)

    def fingers(kind: str, *places: tuple[float, float]) -> None:
        points = [{"x": px, "y": py, "id": k} for k, (px, py) in enumerate(places)]
        touch.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": points})

    def pinch(from_px: float, to_px: float, aside: float = 0.0) -> None:
        fingers("touchStart", (x - from_px, y))
        fingers("touchStart", (x - from_px, y), (x + from_px, y))
        for k in range(1, 9):
            half, moved = from_px + (to_px - from_px) * k / 8, aside * k / 8
            fingers("touchMove", (x - half + moved, y), (x + half + moved, y))
        fingers("touchEnd")

    pinch(25, 75)
    nearer = phone.evaluate(PLACE_UNDER, [x, y])
    assert nearer["apart"] == pytest.approx(3 * before["apart"], rel=0.1)
    assert (nearer["east"], nearer["north"]) == pytest.approx(
        (before["east"], before["north"]), abs=0.02
    )
    pinch(75, 37.5, aside=30)
    further = phone.evaluate(PLACE_UNDER, [x + 30, y])
    assert further["apart"] == pytest.approx(nearer["apart"] / 2, rel=0.1)
    assert (further["east"], further["north"]) == pytest.approx(
        (before["east"], before["north"]), abs=0.02
    )
    # One finger takes the plan along, and the page stays where it is.
    scrolled = phone.evaluate("scrollY")
    held = phone.evaluate(PLACE_UNDER, [x, y])
    fingers("touchStart", (x, y))
    for k in range(1, 6):
        fingers("touchMove", (x + 8 * k, y - 5 * k))
    fingers("touchEnd")
    taken = phone.evaluate(PLACE_UNDER, [x + 40, y - 25])
    assert taken["apart"] == pytest.approx(held["apart"])
    assert (taken["east"], taken["north"]) == pytest.approx((held["east"], held["north"]), abs=0.02)
    assert phone.evaluate("scrollY") == scrolled
