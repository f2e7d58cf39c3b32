"""What the tests of a phone out of reach share."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import Browser, Locator, Page, expect

from tests.browser.conftest import PATIENCE_MS, SIZES
from tests.conftest import EXAMPLES
from tests.support import http
from tests.support.serving import Server

INSTALLED = """async () => {
  const ready = await navigator.serviceWorker.ready;
  while (ready.active?.state !== "activated" || !navigator.serviceWorker.controller)
    await new Promise((done) => setTimeout(done, 50));
  return true;
}"""


def phone(browser: Browser) -> Page:
    wide, high = SIZES["phone"]
    context = browser.new_context(viewport={"width": wide, "height": high}, has_touch=True)
    context.add_init_script("localStorage.setItem('oddkettle.looked', 'all')")
    page = context.new_page()
    page.set_default_timeout(PATIENCE_MS)
    return page


def with_a_plan(own: Server) -> None:
    sample = (EXAMPLES / "moth-survey.json").read_bytes()
    http.post(f"{own.url}/api/plans/import", content=sample).raise_for_status()


def log_of(server: Server, plan: int = 1) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = http.get(f"{server.url}/api/plans/{plan}/log").json()
    return found


def open_pad(page: Page) -> Locator:
    """The pad for readings: beside the day on a desk, a sheet over it on a phone."""
    pad = page.get_by_role("region", name="Log a reading")
    opener = page.get_by_role("button", name="Log a reading")
    expect(pad.or_(opener).first).to_be_visible()
    if not pad.is_visible():
        opener.click()
    return pad


def choices(row: Locator) -> None:
    """Open what can be said of a thing, where that is folded."""
    more = row.get_by_role("button", name=re.compile("^More about"))
    if more.is_visible() and more.get_attribute("aria-expanded") == "false":
        more.click()


def done(row: Locator) -> None:
    """Say that a thing was done: a tick on a phone, a word on a desk."""
    row.get_by_role("button", name=re.compile("^Done")).first.click()


def yesterday(page: Page) -> Locator:
    """What is asked of yesterday, unfolded."""
    asked = page.get_by_role("group", name="How was yesterday?")
    asked.locator("summary").click()
    return asked


def key_in(page: Page, figures: str) -> None:
    pad = open_pad(page)
    for figure in figures:
        pad.get_by_role("button", name=figure, exact=True).click()
    pad.get_by_role("button", name="Save", exact=True).click()


def plan_of(page: Page) -> int:
    """The number of the plan that is open."""
    return int(page.url.split("/plan/")[1].split("/")[0])
