"""From a key pressed to the answer on the screen, in headless Chromium on the demo.

Printed beside two bounds of the same run: the bare round trip to the server, and the plan itself.
Run: ./furrow bench edits
"""

import statistics
import time
from pathlib import Path

from playwright.sync_api import sync_playwright

from openfurrow.core.plan import plan
from openfurrow.demo.designs import larkspur
from openfurrow.shots import CHROMIUM, FLAGS, demo_server, sign_in

EDITS = 25
WATCH = """(text) => new Promise((done) => {
  const field = document.querySelector("[data-given='rows.tilt_deg']");
  const began = performance.now();
  const answer = () => document.querySelector("[data-testid='answer-rows-pitch']").textContent;
  const before = answer();
  new MutationObserver((_, observer) => {
    if (answer() !== before) { observer.disconnect(); done(performance.now() - began); }
  }).observe(document.body, {subtree: true, childList: true, characterData: true});
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;
  set.call(field, text);
  field.dispatchEvent(new Event('input', {bubbles: true}));
})"""
PING = """async () => { const began = performance.now(); await fetch('/api/health');
  return performance.now() - began; }"""


def main() -> None:
    with demo_server(Path(__file__).resolve().parents[1]) as address, sync_playwright() as play:
        browser = play.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        sign_in(page, address)
        page.get_by_test_id("job").click()
        page.locator("[data-shown=rows]").wait_for()
        times = []
        for number in range(EDITS + 3):
            times.append(page.evaluate(WATCH, str(20 + number * 0.5)))
            page.wait_for_timeout(120)
        kept = sorted(times[3:])
        ping = statistics.median(page.evaluate(PING) for _ in range(20))
        browser.close()
    design = larkspur()
    plan(design)
    began = time.perf_counter()
    plan(design)
    alone = (time.perf_counter() - began) * 1e3
    middle = statistics.median(kept)
    print(f"{EDITS} edits, key to answer: median {middle:.0f} ms, worst {kept[-1]:.0f} ms; of it a "
          f"pause of 30 ms for typing on")
    print(f"bare round trip {ping:.1f} ms (ratio {middle / ping:.0f}), plan alone {alone:.1f} ms "
          f"(ratio {middle / alone:.1f})")


if __name__ == "__main__":
    main()
