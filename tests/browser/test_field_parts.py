"""The other parts of the field book on a phone: trench, strings, modules, inspections, no network."""

import time
from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, Route, expect
from sqlalchemy import Engine, text

from openfurrow.core.quantities import INCH_M
from openfurrow.demo.designs import field
from openfurrow.demo.seed import CREW_LEAD
from openfurrow.shots import open_job, sign_in
from tests.browser.conftest import PHONE
from tests.browser.test_field import open_book, part, tap
from tests.browser.test_hand import violations
from tests.conftest import seeded


def kept(store: Engine) -> list[tuple[str, str, float, float | None, str]]:
    """Every record: its kind, of what, its value, what was read beside it, as it was typed."""
    with store.connect() as connection:
        rows = connection.execute(
            text("select kind, of, value, beside, typed from field_record order by server_time, id")
        )
        return [tuple(row) for row in rows]  # type: ignore[misc]


def eventually(store: Engine, count: int) -> list[tuple[str, str, float, float | None, str]]:
    """The records, once so many have come: they are sent behind the hand's back."""
    deadline = time.monotonic() + 15
    while len(found := kept(store)) < count and time.monotonic() < deadline:
        time.sleep(0.1)
    assert len(found) == count, found
    return found


def digits(page: Page, number: str) -> None:
    for digit in number:
        page.get_by_role("group", name="Pad").get_by_role("button", name=digit, exact=True).click()


def sound_here(page: Page) -> None:
    assert violations(page) == []
    assert page.evaluate("document.documentElement.scrollWidth") <= 390


def test_the_trench_is_read_place_by_place_against_what_is_asked(phone: Page, store: Engine) -> None:
    open_book(phone)
    part(phone, "Trench")
    places = phone.locator("[data-thing]")
    expect(places.first).to_contain_text("at least 1' 6\"")
    sound_here(phone)
    places.first.click()
    verdict = phone.get_by_test_id("verdict")
    expect(verdict).to_contain_text("down to the top of the pipe")
    tap(phone, "1", "5", "15")
    expect(verdict).to_contain_text("too shallow: 1' 6\" is asked for")
    sound_here(phone)
    phone.get_by_role("button", name="Keep it").click()
    # The next place is open; what this one needs is told in the list and by the server.
    phone.get_by_role("button", name="All", exact=True).click()
    expect(places.first).to_contain_text('dig 1/16" deeper')
    ((kind, _, value, _, _),) = eventually(store, 1)
    assert kind == "cover" and value == pytest.approx((17 + 15 / 16) * INCH_M)


def test_a_string_is_read_against_its_warmth_before_it_is_kept(phone: Page, store: Engine) -> None:
    open_book(phone)
    part(phone, "Strings")
    phone.locator("[data-thing]").first.click()
    keep = phone.get_by_role("button", name="Keep it")
    expect(keep).to_be_disabled()
    numbers = phone.get_by_role("group", name="Numbers").get_by_role("button")
    digits(phone, "95")
    numbers.nth(1).click()
    digits(phone, "410.5")
    verdict = phone.get_by_test_id("verdict")
    expect(verdict).to_contain_text("as if 1 module fewer")
    sound_here(phone)
    phone.get_by_role("button", name="minus on the meter").click()
    expect(verdict).to_contain_text("a plug is reversed")
    keep.click()
    # The next string: its modules are as warm, and what was read of the last one is not offered.
    expect(phone.get_by_role("heading", level=2)).to_contain_text("S2")
    expect(numbers.first).to_contain_text("95")
    expect(numbers.nth(1)).to_contain_text("–")
    phone.get_by_role("button", name="To earth").click()
    digits(phone, "0.4")
    expect(verdict).to_contain_text("not insulated")
    keep.click()
    assert [(kind, of, value) for kind, of, value, _, _ in eventually(store, 2)] == [
        ("voltage", "1:s1", -410.5),
        ("insulation", "1:s2", 4e5),
    ]
    assert kept(store)[0][3] == pytest.approx(35.0)
    part(phone, "Today")
    expect(phone.locator("main")).to_contain_text("otherwise: S1 reversed")
    expect(phone.locator("main")).to_contain_text("too little on S2")


def test_a_string_that_runs_is_read_against_its_light(phone: Page, store: Engine) -> None:
    open_book(phone)
    part(phone, "Strings")
    phone.locator("[data-thing]").first.click()
    phone.get_by_role("button", name="Running", exact=True).click()
    expect(phone.locator("main")).to_contain_text("Never pull a plug that carries current")
    numbers = phone.get_by_role("group", name="Numbers").get_by_role("button")
    verdict, keep = phone.get_by_test_id("verdict"), phone.get_by_role("button", name="Keep it")
    digits(phone, "300")
    numbers.nth(1).click()
    digits(phone, "3.97")
    expect(verdict).to_contain_text("too little light to tell: wait for 400 W/m²")
    keep.click()
    # What is measured stays chosen; light does not.
    expect(phone.get_by_role("heading", level=2)).to_contain_text("S2")
    expect(numbers.first).to_contain_text("–")
    expect(keep).to_be_disabled()
    digits(phone, "800")
    numbers.nth(1).click()
    digits(phone, "6.2")
    expect(verdict).to_contain_text("look for shade, dirt, an open plug")
    sound_here(phone)
    keep.click()
    assert [(kind, of, value) for kind, of, value, _, _ in eventually(store, 2)] == [
        ("current", "1:s1", 3.97),
        ("current", "1:s2", 6.2),
    ]
    assert [one[3] for one in kept(store)] == [300.0, 800.0]
    part(phone, "Today")
    expect(phone.locator("main")).to_contain_text("otherwise: S2 off")


def test_serials_are_scanned_up_each_column_and_a_double_is_told(phone: Page, store: Engine) -> None:
    open_book(phone)
    part(phone, "Modules")
    field_ = phone.get_by_placeholder("scan or type")
    for number in range(3):
        field_.fill(f"OF 24{number:03}")
        # As a scanner does.
        phone.keyboard.press("Enter")
        expect(field_).to_have_value("")
    sound_here(phone)
    field_.fill("of24001")
    expect(phone.get_by_role("alert")).to_contain_text("written down at 1.2 already")
    assert {(of, typed) for _, of, _, _, typed in eventually(store, 3)} == {
        ("1:1.1/c1.1", "OF 24000"),
        ("1:1.1/c1.2", "OF 24001"),
        ("1:1.1/c2.1", "OF 24002"),
    }
    expect(phone.locator("[data-module='1:1.1/c2.1']")).to_contain_text("4002")


def test_an_inspection_passes_only_with_the_name_of_who_said_so(phone: Page, store: Engine) -> None:
    open_book(phone)
    part(phone, "Asked")
    trench = phone.locator("[data-inspection='inspection:trench']")
    expect(trench.get_by_role("button", name="Passed", exact=True)).to_be_disabled()
    trench.get_by_role("button", name="Asked for").click()
    trench.get_by_label("Note").fill("Rowan Vale: two places read")
    trench.get_by_role("button", name="Passed", exact=True).click()
    expect(trench).to_contain_text("Rowan Vale: two places read")
    assert [kind for kind, *_ in eventually(store, 2)] == ["asked", "passed"]
    sound_here(phone)


def test_a_photo_is_made_smaller_kept_and_sent_before_what_it_is_of(phone: Page, store: Engine) -> None:
    open_book(phone)
    part(phone, "Trench")
    phone.locator("[data-thing]").first.click()
    # A picture as a camera makes it, far larger than is sent.
    picture = phone.evaluate(
        """async () => {
          const sheet = new OffscreenCanvas(3000, 2000);
          const pen = sheet.getContext("2d");
          pen.fillStyle = "#6b4f3a";
          pen.fillRect(0, 0, 3000, 2000);
          const blob = await sheet.convertToBlob({ type: "image/png" });
          return [...new Uint8Array(await blob.arrayBuffer())];
        }"""
    )
    phone.locator("input[type=file]").set_input_files(
        {"name": "tape.png", "mimeType": "image/png", "buffer": bytes(picture)}
    )
    expect(phone.get_by_text("A photo goes with it")).to_be_visible()
    tap(phone, "1", "8")
    # A thumb that comes down twice writes one.
    phone.get_by_role("button", name="Keep it").dblclick()
    eventually(store, 1)
    with store.connect() as connection:
        row = connection.execute(
            text(
                "select p.media_type, p.content, f.photo from field_photo p "
                "join field_record f on f.photo = p.hash and f.job_id = p.job_id"
            )
        ).one()
    assert row.media_type == "image/jpeg" and bytes(row.content)[:3] == b"\xff\xd8\xff"
    phone.get_by_role("button", name="Place before").click()
    shown = phone.get_by_role("link", name="photo")
    address = shown.get_attribute("href")
    assert address
    size = phone.evaluate(
        """async (address) => {
          const picture = await createImageBitmap(await (await fetch(address)).blob());
          return [picture.width, picture.height];
        }""",
        address,
    )
    assert size == [1600, 1067]


def test_what_cannot_be_read_is_told_and_keeps_nothing_else_from_being_sent(
    phone: Page, store: Engine
) -> None:
    def refuse(route: Route) -> None:
        if "OF-BAD" in (route.request.post_data or ""):
            said = {"title": "Not valid", "status": 422, "detail": "OF-BAD cannot be read."}
            route.fulfill(status=422, json=said)
        else:
            route.continue_()

    open_book(phone)
    part(phone, "Modules")
    phone.route("**/field/records", refuse)
    phone.context.set_offline(True)
    entry = phone.get_by_placeholder("scan or type")
    for serial in ("OF-1", "OF-BAD", "OF-2", "OF-3"):
        entry.fill(serial)
        phone.keyboard.press("Enter")
        expect(entry).to_have_value("")
    phone.context.set_offline(False)
    expect(phone.get_by_test_id("waiting")).to_have_text("1 not yet sent", timeout=20_000)
    assert sorted(typed for *_, typed in eventually(store, 3)) == ["OF-1", "OF-2", "OF-3"]
    expect(phone.get_by_role("alert")).to_contain_text("OF-BAD cannot be read")


# --- without a network -------------------------------------------------------------------------
@pytest.fixture
def device(browser: Browser, engine: Engine, address: str) -> Iterator[BrowserContext]:
    """A phone that may keep the page, on a field with more modules than are scanned in an hour."""
    seeded(engine, (field(200),))
    context = browser.new_context(**PHONE)
    yield context
    context.close()


def opened(context: BrowserContext, address: str, name: str) -> Page:
    page = context.new_page()
    sign_in(page, address, name)
    open_job(page, "Field of")
    page.get_by_role("link", name="Field book", exact=True).click()
    part(page, "Modules")
    return page


def scanned(page: Page, serials: list[str]) -> None:
    """A whole table after the other, as it is walked."""
    entry = page.get_by_placeholder("scan or type")
    tables = page.get_by_label("Table").locator("option").count()
    each = len(serials) // tables
    for table in range(tables):
        page.get_by_label("Table").select_option(index=table)
        for serial in serials[table * each : (table + 1) * each]:
            entry.fill(serial)
            page.keyboard.press("Enter")
            expect(entry).to_have_value("")


def test_two_hundred_records_outlive_a_killed_tab_and_a_lost_answer_and_are_kept_once(
    device: BrowserContext, browser: Browser, engine: Engine, address: str
) -> None:
    page = opened(device, address, CREW_LEAD)
    here = page.url
    page.evaluate("navigator.serviceWorker.ready.then(() => null)")
    expect(page.get_by_test_id("waiting")).to_have_text("all sent")
    device.set_offline(True)
    count = page.evaluate("document.querySelectorAll('select[aria-label=Table] option').length")
    modules = count * 24
    serials = [f"OF-{number:04}" for number in range(modules)]
    scanned(page, serials)
    assert modules >= 190
    expect(page.get_by_test_id("waiting")).to_contain_text(f"{modules} not yet sent")
    # The tab is killed, and opened again where there is still no network.
    page.close()
    page = device.new_page()
    answer = page.goto(here)
    assert answer is not None and answer.from_service_worker
    expect(page.get_by_test_id("waiting")).to_contain_text(f"{modules} not yet sent")
    assert kept(engine) == []
    # The first answer is lost on its way: what it was of is kept already, and comes again.
    lost: list[int] = []

    def lose_one(route: Route) -> None:
        if lost:
            route.continue_()
            return
        lost.append(route.fetch().status)
        route.abort()

    page.route("**/field/records", lose_one)
    device.set_offline(False)
    expect(page.get_by_test_id("waiting")).to_have_text("all sent", timeout=60_000)
    assert lost == [200]
    # Another device wrote three of them down too, one otherwise.
    other = browser.new_context(**PHONE, service_workers="block")
    second = opened(other, address, "Wren Alder")
    entry = second.get_by_placeholder("scan or type")
    for serial in (serials[0], serials[1], "OF-9999"):
        entry.fill(serial)
        second.keyboard.press("Enter")
        expect(entry).to_have_value("")
    eventually(engine, modules + 3)
    part(second, "Today")
    expect(second.locator("main")).to_contain_text("twice, or two ways")
    other.close()
    found = kept(engine)
    assert sorted(typed for *_, typed in found) == sorted([*serials, *serials[:2], "OF-9999"])


def test_who_is_told_that_they_are_not_signed_in_is_nobody_even_on_their_own_phone(
    device: BrowserContext, address: str
) -> None:
    page = opened(device, address, CREW_LEAD)
    here = page.url
    device.clear_cookies()
    page.goto(here)
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()
