"""Take the pictures in docs/screenshots/ from fresh demo data."""

from __future__ import annotations

import sys
import tempfile
from pathlib import Path

from playwright.sync_api import sync_playwright

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

from tests.browser.conftest import CHROMIUM, FLAGS  # noqa: E402
from tests.serving import Server  # noqa: E402

SHOTS = {
    "trip": ("trip", 1280, 800),
    "use": ("use", 1280, 800),
    "box": ("box", 1280, 800),
    "log": ("log", 1280, 800),
    "trip-phone": ("trip", 390, 844),
    "box-phone": ("box", 390, 844),
}


def main() -> None:
    """One server, one picture a view."""
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as driver:
        server = Server(Path(folder))
        server.start()
        browser = driver.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        for name, (page_name, wide, high) in SHOTS.items():
            page = browser.new_page(viewport={"width": wide, "height": high})
            page.goto(f"{server.url}/plan/1/{page_name}")
            page.get_by_test_id("headline").wait_for()
            page.wait_for_timeout(700)
            page.screenshot(path=ROOT / "docs" / "screenshots" / f"{name}.png")
            page.close()
        browser.close()
        server.kill()


if __name__ == "__main__":
    main()
