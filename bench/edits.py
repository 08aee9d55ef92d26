"""From a key pressed to the answer on the screen, in headless Chromium on the demo.

Two edits: the tilt, which moves every stage after it, and the frost depth on the site's own screen,
which draws the whole surveyed plan anew. Printed beside two bounds of the same run: the bare round
trip to the server, and the plan itself. Run: ./furrow bench edits
"""

import statistics
import time
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from openfurrow.core.plan import plan
from openfurrow.demo.designs import larkspur
from openfurrow.shots import CHROMIUM, FLAGS, demo_server, open_job, sign_in

EDITS = 25
# Stage, field, answer that follows, and the texts to type.
WATCHED = (
    ("rows", "arrays.1.rows.tilt_deg", "answer-rows-pitch", lambda number: str(20 + number * 0.5)),
    ("site", "site.frost_depth_m", "answer-site-frost", lambda number: f"{20 + number} in"),
)
WATCH = """([path, key, text]) => new Promise((done) => {
  const field = document.querySelector(`[data-given='${path}']`);
  const began = performance.now();
  const answer = () => document.querySelector(`[data-testid='${key}']`).textContent;
  const before = answer();
  new MutationObserver((_, observer) => {
    if (answer() !== before) { observer.disconnect(); done(performance.now() - began); }
  }).observe(document.body, {subtree: true, childList: true, characterData: true});
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;
  set.call(field, text);
  field.dispatchEvent(new Event('input', {bubbles: true}));
})"""
PING = """async () => { const began = performance.now(); await fetch('/healthz');
  return performance.now() - began; }"""


def edits_ms(page: Page, stage: str, path: str, key: str, texts: list[str]) -> list[float]:
    """Milliseconds from each text typed to the answer it moves."""
    page.locator(f"[data-stage={stage}]").click()
    page.locator(f"[data-shown={stage}]").wait_for()
    times = []
    for text in texts:
        times.append(page.evaluate(WATCH, [path, key, text]))
        page.wait_for_timeout(120)
    return times


def main(edits: int = EDITS, warm: int = 3) -> None:
    with demo_server(Path(__file__).resolve().parents[1]) as address, sync_playwright() as play:
        browser = play.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        sign_in(page, address)
        open_job(page)
        found = {
            path: sorted(
                edits_ms(page, stage, path, key, [text(n) for n in range(edits + warm)])[warm:]
            )
            for stage, path, key, text in WATCHED
        }
        ping = statistics.median(page.evaluate(PING) for _ in range(20))
        browser.close()
    design = larkspur()
    plan(design)
    began = time.perf_counter()
    plan(design)
    alone = (time.perf_counter() - began) * 1e3
    print(
        f"{edits} edits each, key to answer, of it a pause of 30 ms for typing on; bare round trip "
        f"{ping:.1f} ms, plan alone {alone:.1f} ms"
    )
    for path, kept in found.items():
        middle = statistics.median(kept)
        print(
            f"{path:<22} median {middle:.0f} ms, worst {kept[-1]:.0f} ms, {middle / ping:.0f} x "
            f"round trip, {middle / alone:.1f} x plan"
        )


if __name__ == "__main__":
    main()
