"""How calm the pages are: words on the first screen, its first picture, controls under 44 px.

Counts what is seen without scrolling, at both widths, on the demo plan. Prints a table; a second
server's address as argument puts its figures beside (an older state of the program).
"""

from __future__ import annotations

import sys
import tempfile
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

from tests.browser.conftest import CHROMIUM, FLAGS, SIZES  # noqa: E402
from tests.support.serving import Server  # noqa: E402

PAGES = ("trip", "use", "box", "improve", "log", "build", "today")
COUNT = """() => {
  const seen = (one) => {
    const box = one.getBoundingClientRect();
    const there = box.width > 1 && box.height > 1 && box.top < innerHeight && box.bottom > 0;
    return there && getComputedStyle(one).visibility !== "hidden" && !one.closest(".sr-only");
  };
  const walker = document.createTreeWalker(document.querySelector("main"), NodeFilter.SHOW_TEXT);
  let words = 0;
  while (walker.nextNode()) {
    const parent = walker.currentNode.parentElement;
    if (parent && !parent.closest("title,style,script") && seen(parent))
      words += walker.currentNode.textContent.split(/\\s+/).filter((w) => /\\w/.test(w)).length;
  }
  const pictures = [...document.querySelectorAll("main svg")]
    .filter((one) => seen(one) && one.getBoundingClientRect().width > 160)
    .map((one) => one.getBoundingClientRect().top);
  const controls = [...document.querySelectorAll("button, a, input, [role=button], [role=radio]")];
  const shown = controls.filter(seen);
  const small = shown.filter((one) => one.getBoundingClientRect().height < 43.5);
  return { words, picture: pictures.length ? Math.round(Math.min(...pictures)) : null,
           small: small.length, controls: shown.length };
}"""


def figures(page: Page, url: str, name: str) -> str:
    """One page's figures, as a cell of the table."""
    page.goto(f"{url}/plan/1/{name}")
    page.get_by_test_id("headline").wait_for()
    page.wait_for_timeout(6000 if name == "improve" else 2500)
    got = page.evaluate(COUNT)
    return "{words:4d} words  picture {picture!s:>4}  small {small:3d} of {controls:3d}".format(
        **got
    )


def main() -> None:
    """Each page at both widths, here and where the argument says."""
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as driver:
        server = Server(Path(folder))
        server.start()
        browser = driver.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        for size, (wide, high) in SIZES.items():
            page = browser.new_page(viewport={"width": wide, "height": high})
            page.add_init_script("localStorage.setItem('oddkettle.looked', 'all')")
            for name in PAGES:
                cells = [figures(page, url, name) for url in (server.url, *sys.argv[1:])]
                print(f"{size:6s}{name:8s}", "   |   ".join(cells), flush=True)
        browser.close()
        server.kill()


if __name__ == "__main__":
    main()
