"""The ground in numbers: triangulation, height queries and contours from 1e3 to 1e6 shots.

Each is printed beside scipy's own in the same run: Delaunay for the triangles, LinearNDInterpolator for
heights on the same triangulation, and for contours the bare cut of every triangle by numpy, which is
what no way of joining the runs can beat. Run: ./furrow bench ground
"""

import statistics
import time
from collections.abc import Callable

import numpy as np
from scipy.interpolate import LinearNDInterpolator
from scipy.spatial import Delaunay

from openfurrow.core.plan import plan
from openfurrow.core.site.contours import contour_levels_m, contours, crossings_m
from openfurrow.core.site.outliers import outliers
from openfurrow.core.site.surface import surface_through
from openfurrow.demo.designs import DESIGNS
from openfurrow.sheets.scene import scene_of

QUERIES = 200_000


def median_s(work: Callable[[], object], runs: int) -> float:
    times = []
    for _ in range(runs):
        began = time.perf_counter()
        work()
        times.append(time.perf_counter() - began)
    return statistics.median(times)


def shots(count: int) -> np.ndarray:
    random = np.random.default_rng(count)
    reach = np.sqrt(count) * 2.0
    east, north = random.uniform(-reach, reach, (2, count))
    level = 0.03 * east + 0.8 * np.sin(east / 30) * np.cos(north / 25)
    return np.column_stack((east, north, level))


def ground(counts: tuple[int, ...] = (1_000, 10_000, 100_000, 1_000_000)) -> None:
    print(
        f"{'shots':>9}{'surface s':>11}{'x Delaunay':>11}{'heights s':>11}{'x scipy':>9}"
        f"{'contours s':>12}{'x bare cut':>11}{'outliers s':>12}"
    )
    for count in counts:
        points = shots(count)
        runs = 5 if count < 100_000 else 1
        surface = surface_through(points)
        ours = median_s(lambda points=points: surface_through(points), runs)
        theirs = median_s(lambda points=points: Delaunay(points[:, :2]), runs)
        random = np.random.default_rng(1)
        reach = np.sqrt(count) * 1.8
        east, north = random.uniform(-reach, reach, (2, QUERIES))
        interpolated = LinearNDInterpolator(Delaunay(points[:, :2]), points[:, 2])
        surface.level_m(east[:10], north[:10])
        interpolated(east[:10], north[:10])
        ask = median_s(lambda s=surface, e=east, n=north: s.level_m(e, n), runs)
        peer = median_s(lambda f=interpolated, e=east, n=north: f(e, n), runs)
        levels = contour_levels_m(points[:, 2].min(), points[:, 2].max(), np.ptp(points[:, 2]) / 15)
        draw = median_s(lambda s=surface, z=levels: contours(s.points_m, s.triangles, z), runs)
        bare = median_s(
            lambda s=surface, z=levels: [
                crossings_m(s.points_m, s.triangles, level) for level in z.tolist()
            ],
            runs,
        )
        wild = median_s(lambda points=points: outliers(points), 1) if count <= 100_000 else np.nan
        print(
            f"{count:>9}{ours:>11.3f}{ours / theirs:>11.2f}{ask:>11.3f}{ask / peer:>9.2f}"
            f"{draw:>12.3f}{draw / bare:>11.2f}{wild:>12.3f}"
        )


def breaks(counts: tuple[int, ...] = (1_000, 10_000, 100_000)) -> None:
    """Keeping to twenty break lines across the ground, beside one bare Delaunay of the same points."""
    print(f"\n{'shots':>9}{'lines':>7}{'added':>7}{'surface s':>11}{'x Delaunay':>11}")
    for count in counts:
        points = shots(count)
        reach = np.sqrt(count) * 1.9
        east = np.linspace(-reach, reach, 60)
        lines = tuple(
            np.column_stack((east, 0.3 * east + off, 0.0 * east))
            for off in np.linspace(-0.6, 0.6, 20) * reach
        )
        every = np.vstack((points, *lines))
        surface = surface_through(every, None, None, lines)
        ours = median_s(lambda p=every, k=lines: surface_through(p, None, None, k), 3)
        theirs = median_s(lambda p=every: Delaunay(p[:, :2]), 3)
        print(
            f"{len(every):>9}{len(lines):>7}{len(surface.points_m) - len(every):>7}{ours:>11.3f}"
            f"{ours / theirs:>11.2f}"
        )


def sites() -> None:
    print("\nplans on surveyed ground, beside the plane of the same site")
    for name in ("larkspur", "grifo"):
        design = DESIGNS[name]()
        plane = design.model_copy(update={"site": design.site.model_copy(update={"ground": "plane"})})
        plan(design)
        plan(plane)
        on, off = (median_s(lambda d=d: plan(d), 9) for d in (design, plane))
        print(f"{name:<12}{on * 1e3:>8.1f} ms{off * 1e3:>8.1f} ms{on / off:>7.2f} x")


def frames() -> None:
    """Frames a second of the view in space with ten thousand modules, in headless Chromium."""
    from pathlib import Path

    from playwright.sync_api import sync_playwright

    from openfurrow.exchange.design_json import write_design
    from openfurrow.shots import CHROMIUM, FLAGS, demo_server, open_job, sign_in

    root = Path(__file__).resolve().parents[1]
    big = DESIGNS["field-10000"]()
    print(
        f"\nview in space, software rendering, 1280 x 800; scene of {big.name} laid out in "
        f"{median_s(lambda: scene_of(plan(big)), 3) * 1e3:.0f} ms"
    )
    flags = [flag for flag in FLAGS if flag != "--disable-gpu"]
    with demo_server(root) as address, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=flags)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        sign_in(page, address)
        made = page.request.post(f"{address}/api/jobs/import", data=write_design(big)).json()
        for name, go in (
            (big.name, lambda: page.goto(f"{address}/jobs/{made['id']}/site")),
            ("Larkspur", lambda: (page.goto(address), open_job(page))),
        ):
            go()
            page.locator("[data-stage=site]").click()
            page.get_by_role("button", name="In space").click()
            page.locator("[data-scene] canvas").wait_for(timeout=60_000)
            page.wait_for_timeout(2_000)
            page.locator("canvas").evaluate("c => c.dispatchEvent(new Event('furrow:measure'))")
            page.locator("[data-rate]").wait_for(timeout=120_000)
            found = page.locator("[data-rate]")
            print(
                f"{name:<28}{found.get_attribute('data-scene'):>7} modules"
                f"{float(found.get_attribute('data-rate') or 0):>8.1f} frames a second"
            )
        browser.close()


if __name__ == "__main__":
    ground()
    breaks()
    sites()
    frames()
