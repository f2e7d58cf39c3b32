"""Take the pictures in docs/screenshots/ from fresh demo data."""

from __future__ import annotations

import re
import sys
import tempfile
from pathlib import Path

from playwright.sync_api import sync_playwright
from tests.support import http

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

from tests.browser.conftest import CHROMIUM, FLAGS  # noqa: E402
from tests.support.serving import Server  # noqa: E402

SHOTS = {
    "start": ("/", 1280, 800),
    "practise": ("/practise", 1280, 800),
    "help": ("/help", 390, 844),
    "trip": ("1/trip", 1280, 800),
    "use": ("1/use", 1280, 800),
    "box": ("1/box", 1280, 800),
    "log": ("1/log", 1280, 800),
    "months": ("2/trip", 1280, 800),
    "trip-phone": ("1/trip", 390, 844),
    "sum": ("1/trip", 1280, 800),
    "night": ("1/use", 390, 844),
    "improve": ("1/improve", 1280, 800),
    "sizes": ("1/improve?view=buy&from=all", 1280, 800),
    "today": ("1/today", 390, 844),
    "log-phone": ("1/log", 390, 844),
    "monitor": ("1/log?view=monitor", 1280, 800),
    "build": ("1/build", 1280, 800),
    "build-fit": ("1/build?view=fit", 1280, 800),
    "judgements": ("spoilt/box?part=sun:panels", 1280, 800),
}
CLICKS = {
    "practise": "Drive for an hour",
    "sum": "Fri 12, Ah:",
    "judgements": "[0-9]+ problem",
}
"""What is clicked first."""
WAITS = {"start": "verdict", "improve": "mends", "sizes": "sizes", "monitor": "live-faces"}
"""What is to be there before the picture is taken."""


def spoilt(server: Server) -> int:
    """The demo plan with three usual mistakes; its id."""
    document = http.get(f"{server.url}/api/plans/1").json()["document"]
    document["name"] = "Moth survey, as first built"
    document["box"] |= {"key": None, "name": "Moth box, as first built"}
    document["box"]["battery"]["absorption_v"] = 14.8
    document["box"]["sun"][0]["controller"]["limit_a"] = 5
    document["box"]["inverter"]["idle_w"] = 12
    return int(http.post(f"{server.url}/api/plans", json=document).json()["id"])


def main() -> None:
    """One server, one picture a view; with arguments only those that they name."""
    wanted = sys.argv[1:] or list(SHOTS)
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as driver:
        server = Server(Path(folder), [sys.executable, "-m", "oddkettle.cli", "demo"])
        server.start()
        browser = driver.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        mistaken = str(spoilt(server))
        for name in wanted:
            page_name, wide, high = SHOTS[name]
            page = browser.new_page(viewport={"width": wide, "height": high})
            if name == "night":
                page.add_init_script("localStorage.setItem('oddkettle.scheme', 'night')")
            page.add_init_script("localStorage.setItem('oddkettle.looked', 'all')")
            if page_name.startswith("/"):
                page.goto(f"{server.url}{page_name}")
                page.locator("h1").wait_for()
            else:
                page.goto(f"{server.url}/plan/{page_name.replace('spoilt', mistaken)}")
                page.get_by_test_id("headline").wait_for()
            if name in CLICKS:
                page.get_by_role("button", name=re.compile(f"^{CLICKS[name]}")).first.click()
            if name in WAITS:
                page.get_by_test_id(WAITS[name]).wait_for()
            page.wait_for_timeout(2500)
            page.screenshot(path=ROOT / "docs" / "screenshots" / f"{name}.png")
            page.close()
        browser.close()
        server.kill()


if __name__ == "__main__":
    main()
