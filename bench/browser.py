"""What a user waits for in the browser: the first answer, and the redraw while dragging.

Uses the tests' server and Chromium. Prints medians and 95th percentiles in milliseconds, and the
redraw as a ratio to the preview call alone in the same run.
"""

from __future__ import annotations

import gzip
import re
import sys
import tempfile
import time
from pathlib import Path

import numpy as np
from playwright.sync_api import Locator, Page, sync_playwright
from tests.support import http

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

from tests.browser.conftest import CHROMIUM, FLAGS  # noqa: E402
from tests.support.serving import Server  # noqa: E402

MOVES = 200
# From a pointer's move to the frame after the first change of a level line, which only a new
# run can cause.
WATCH = """(where) => {
  window.redraws = [];
  let since = null;
  addEventListener("pointermove", () => { since ??= performance.now(); }, true);
  new MutationObserver((seen) => {
    const run = seen.some((m) => m.attributeName === "d" && !m.target.closest("[data-block]"));
    if (!run || since === null) return;
    const begin = since;
    since = null;
    requestAnimationFrame(() => window.redraws.push(performance.now() - begin));
  }).observe(document.querySelector(where),
             { subtree: true, attributes: true, attributeFilter: ["d"] });
}"""


def spread(name: str, values: list[float]) -> None:
    middle, high = np.percentile(values, [50, 95])
    print(f"  {name:38s} median {middle:7.1f} ms   p95 {high:7.1f} ms   n {len(values)}")


CURVE = "[data-testid='trip-curve']"
BOARD = "[aria-label='Day board']"
STRIP = "[aria-label='Battery level over the whole trip']"


def drag(page: Page, shape: Locator, watched: str, step: float) -> list[float]:
    """Drag a shape to and fro; one redraw of the level is awaited for each move."""
    page.evaluate(WATCH, watched)
    shape.scroll_into_view_if_needed()
    page.wait_for_timeout(300)
    box = shape.bounding_box()
    assert box is not None
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    for n in range(MOVES):
        # A triangle of steps, each wide enough to pass the shape's snap.
        page.mouse.move(x + step * (20 - abs(n % 40 - 20)) + step, y)
        page.wait_for_timeout(30)
        page.wait_for_function("n => window.redraws.length >= n", arg=n - 2, timeout=3000)
    page.mouse.up()
    return page.evaluate("window.redraws")


def script_kilobytes() -> tuple[float, float]:
    """(what the page loads before anything else, all of it), gzipped as it would travel [kB]."""
    dist = ROOT / "web" / "dist"
    named = re.findall(r'(?:src|href)="/([^"]+\.js)"', (dist / "index.html").read_text())
    first = [dist / name for name in named]
    every = list((dist / "assets").glob("*.js"))
    return tuple(
        sum(len(gzip.compress(p.read_bytes())) for p in ps) / 1000 for ps in (first, every)
    )


def calls_of(client: http.Client, path: str, plan: object, count: int) -> list[float]:
    """What so many calls took, each from its sending to its last byte [ms]."""
    took = []
    for _ in range(count):
        begin = time.perf_counter()
        client.post(path, json=plan).read()
        took.append(1e3 * (time.perf_counter() - begin))
    return took


def main() -> None:
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as driver:
        server = Server(Path(folder))
        print("in the browser, demo plan, nine days")
        first, every = script_kilobytes()
        print(f"  scripts, gzipped: first {first:.0f} kB of {every:.0f} kB")
        cold = server.start()
        server.kill()
        warm = server.start()
        print(f"  ready after first start                {1e3 * cold:7.0f} ms")
        print(f"  ready after a later start              {1e3 * warm:7.0f} ms")
        plan = http.get(f"{server.url}/api/plans/1").json()["document"]
        with http.Client(base_url=server.url) as client:
            client.post("/api/preview", json=plan)
            calls = calls_of(client, "/api/preview?advice=false", plan, 60)
            spread("preview call, end to end", calls)
            spread("preview call with advice", calls_of(client, "/api/preview", plan, 20))
        browser = driver.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        firsts, answers = [], []
        for _ in range(5):
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            begin = time.perf_counter()
            page.goto(f"{server.url}/plan/1/trip", wait_until="commit")
            page.get_by_test_id("headline").wait_for()
            answers.append(1e3 * (time.perf_counter() - begin))
            paint = "performance.getEntriesByName('first-contentful-paint')[0]?.startTime ?? 0"
            firsts.append(page.evaluate(paint))
            page.close()
        spread("first contentful paint", firsts)
        spread("answer on screen", answers)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        # The first notes on a page would lie over what is dragged.
        page.add_init_script("localStorage.setItem('oddkettle.looked', 'all')")
        for name, path, watched, step in (
            ("drag a drive to the curve's redraw", "trip", CURVE, 6.0),
            ("drag a drive among all days", "trip?view=days", BOARD, 6.0),
            ("drag an appliance's hours on Use", "use", STRIP, 6.0),
            ("drag the battery's size on Box", "box?part=battery", STRIP, 10.0),
        ):
            page.goto(f"{server.url}/plan/1/{path}")
            page.get_by_test_id("headline").wait_for()
            shapes = {
                "trip": page.get_by_role("button", name="drive, Fri 12").locator("rect").first,
                "trip?view=days": page.get_by_role("button", name="drive, Tue 9")
                .locator("rect")
                .first,
                "use": page.get_by_role("button", name="Laptop, 20:30").locator(".grab"),
                "box?part=battery": page.get_by_role("slider", name="Capacity of one battery"),
            }
            page.locator(watched).wait_for()
            redraws = drag(page, shapes[path], watched, step)
            spread(name, redraws)
            ratio = np.median(redraws) / np.median(calls)
            print(f"    that is {ratio:.1f} x the preview call")
        browser.close()
        server.kill()


if __name__ == "__main__":
    main()
