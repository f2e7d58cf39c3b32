"""Building: how long the report and the booklet take, against one run of the same plan.

Prints medians in milliseconds and ratios to the run, then what a dragged part waits for in the
browser, from the pointer's move to the frame after the answer. `python -m bench.build [rounds]`.
"""

from __future__ import annotations

import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
from playwright.sync_api import sync_playwright

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

from tests.browser.conftest import CHROMIUM, FLAGS  # noqa: E402
from tests.support.serving import Server  # noqa: E402

from oddkettle.formats.plan_json import parse_plan  # noqa: E402
from oddkettle.usecases.build.prints import print_document  # noqa: E402
from oddkettle.usecases.build.work import report_build, work_out  # noqa: E402
from oddkettle.usecases.simulate.run_cache import run_plan  # noqa: E402

MOVES = 60
# From a move to the frame after a part's drawing has changed, which only a new answer does.
WATCH = """() => {
  window.redraws = [];
  let since = null;
  addEventListener("pointermove", () => { since ??= performance.now(); }, true);
  new MutationObserver(() => {
    if (since === null) return;
    const begin = since;
    since = null;
    requestAnimationFrame(() => window.redraws.push(performance.now() - begin));
  }).observe(document.querySelector("[aria-label='The box from above']"),
             { subtree: true, attributes: true, attributeFilter: ["x", "y"] });
}"""


def median_ms(work: Callable[[], object], rounds: int) -> float:
    work()
    spent = []
    for _ in range(rounds):
        begin = time.perf_counter()
        work()
        spent.append(1000 * (time.perf_counter() - begin))
    return float(np.median(spent))


def drag() -> list[float]:
    """Drag the battery about; one redraw is awaited for each move."""
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as driver:
        server = Server(Path(folder))
        server.start()
        browser = driver.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"{server.url}/plan/1/build?view=fit")
        part = page.get_by_role("group", name="The box from above").get_by_role("button").first
        part.wait_for()
        page.wait_for_timeout(3000)
        page.evaluate(WATCH)
        box = part.bounding_box()
        assert box is not None
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        for n in range(1, MOVES + 1):
            page.mouse.move(x + 30 + 2 * (n % 20), y + (n % 7))
            page.wait_for_function("n => window.redraws.length >= n", arg=n, timeout=5000)
        page.mouse.up()
        redraws: list[float] = page.evaluate("window.redraws")
        browser.close()
        server.kill()
    return redraws


def main() -> None:
    rounds = int(sys.argv[1]) if len(sys.argv) > 1 else 20
    for name in ("moth-survey", "radio-hill"):
        plan = parse_plan((ROOT / f"examples/plans/{name}.json").read_bytes())
        run = median_ms(lambda plan=plan: run_plan(plan), rounds)
        print(f"{name}: one run {run:.0f} ms")
        for text, work in (
            ("circuits to faults, run kept", lambda plan=plan: work_out(plan)),
            ("report", lambda plan=plan: report_build(plan).model_dump_json()),
            ("booklet", lambda plan=plan: print_document(plan, "booklet.pdf")),
        ):
            spent = median_ms(work, rounds if text != "booklet" else 5)
            print(f"  {text:30s} {spent:7.0f} ms   {spent / run:5.1f} x a run")
    redraws = drag()
    middle, high = np.percentile(redraws, [50, 95])
    print(f"drag of a part: median {middle:.0f} ms, p95 {high:.0f} ms, n {len(redraws)}")


if __name__ == "__main__":
    main()
