"""For everyone: no serious finding of an accessibility checker on any page, in either scheme."""

from __future__ import annotations

import json
import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import ELSEWHERE, ON_THE_DESK, copied_log, open_page
from tests.support.serving import Server
from tests.support.tiers import NIGHTLY

AXE = Path(__file__).parents[2] / "web/node_modules/axe-core/axe.min.js"
GRAVE = ("serious", "critical")


def findings(page: Page) -> list[str]:
    """What the checker calls serious or critical, with the first element of each."""
    page.add_script_tag(path=str(AXE))
    found = page.evaluate(
        """async () => {
          const { violations } = await axe.run(document, { resultTypes: ["violations"] });
          return JSON.stringify(violations.map(({ id, impact, nodes }) => ({
            id, impact, count: nodes.length,
            html: nodes.slice(0, 3).map((n) => n.html.slice(0, 160)),
          })));
        }"""
    )
    return [
        f"{one['id']} x{one['count']}: {' | '.join(one['html'])}"
        for one in json.loads(found)
        if one["impact"] in GRAVE
    ]


@ELSEWHERE
@pytest.mark.parametrize("scheme", ["day", "night"])
def test_nothing_serious_on_any_page(page: Page, scheme: str) -> None:
    page.evaluate(f"localStorage.setItem('oddkettle.scheme', '{scheme}')")
    for name in ("use", "box", "trip", "improve", "log"):
        open_page(page, name)
        expect(page.locator(f"html[data-scheme={scheme}]")).to_have_count(1)
        assert findings(page) == [], name


@NIGHTLY
@ELSEWHERE
@pytest.mark.parametrize("scheme", ["day", "night"])
def test_nothing_serious_outside_any_plan(page: Page, server: Server, scheme: str) -> None:
    page.evaluate(f"localStorage.setItem('oddkettle.scheme', '{scheme}')")
    for path in ("/", "/help", "/practise"):
        page.goto(f"{server.url}{path}")
        expect(page.locator(f"html[data-scheme={scheme}]")).to_have_count(1)
        expect(page.get_by_role("heading", level=1)).to_be_visible()
        if path == "/":
            expect(page.get_by_test_id("verdict")).to_be_visible()
        assert findings(page) == [], path
        assert page.evaluate("document.documentElement.scrollWidth <= innerWidth"), path
    page.goto(f"{server.url}/")
    for part in ("bank", "chargers", "length", "place", "when", "things", "shape"):
        page.locator(f"[data-part={part}]").click()
        expect(page.get_by_role("dialog")).to_be_visible()
        page.wait_for_timeout(300)
        assert findings(page) == [], part
        page.keyboard.press("Escape")


@NIGHTLY
@ELSEWHERE
@pytest.mark.parametrize("scheme", ["day", "night"])
def test_nothing_serious_on_any_sheet_of_the_building(page: Page, scheme: str) -> None:
    page.evaluate(f"localStorage.setItem('oddkettle.scheme', '{scheme}')")
    views = ("circuits", "parts", "fit", "faces", "checks", "faults", "print")
    for view in views:
        open_page(page, f"build?view={view}")
        expect(page.locator(f"html[data-scheme={scheme}]")).to_have_count(1)
        assert findings(page) == [], view
        assert page.evaluate("document.documentElement.scrollWidth <= innerWidth"), view


@ELSEWHERE
@pytest.mark.parametrize("scheme", ["day", "night"])
def test_nothing_serious_on_a_trip_under_way(page: Page, server: Server, scheme: str) -> None:
    """The demo's own log: entries, marks, what they say, plan against actual, the live monitor."""
    page.evaluate(f"localStorage.setItem('oddkettle.scheme', '{scheme}')")
    copied_log(page, server)
    views = ("today", "trip", "log", "log?view=learned", "log?view=actual", "log?view=monitor")
    for name in views:
        open_page(page, name)
        expect(page.locator(f"html[data-scheme={scheme}]")).to_have_count(1)
        page.wait_for_timeout(300)
        assert findings(page) == [], name
        assert page.evaluate("document.documentElement.scrollWidth <= innerWidth"), name


def track_and_calendar(page: Page) -> None:
    open_page(page, "trip")
    page.get_by_role("button", name="Track and calendar").click()


@ELSEWHERE
@ON_THE_DESK
def test_nothing_serious_in_any_sheet(page: Page) -> None:
    open_page(page, "use")
    openers = {
        "judgements": lambda: page.get_by_test_id("judgement-count").click(),
        "commands": lambda: page.keyboard.press("Control+k"),
        "shortcuts": lambda: page.keyboard.press("?"),
        "sum": lambda: page.get_by_test_id("strip-lowest").click(),
        "appliance": page.get_by_role("button", name=re.compile("^Laptop")).first.click,
        "track and calendar": lambda: track_and_calendar(page),
    }
    for name, opens in openers.items():
        opens()
        expect(page.get_by_role("dialog")).to_be_visible()
        if name == "sum":
            expect(page.get_by_role("dialog").get_by_role("table")).to_be_visible()
        assert findings(page) == [], name
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog")).to_have_count(0)


@ON_THE_DESK
@ELSEWHERE
def test_nothing_drawn_is_black_on_black_at_night(page: Page) -> None:
    page.evaluate("localStorage.setItem('oddkettle.scheme', 'night')")
    for name in ("use", "box", "trip", "improve", "log", "build"):
        open_page(page, name)
        black = page.evaluate(
            """() => [...document.querySelectorAll("svg text")]
              .filter((text) => text.getClientRects().length > 0)
              .filter((text) => getComputedStyle(text).fill === "rgb(0, 0, 0)")
              .map((text) => text.textContent)"""
        )
        assert black == [], name


@ON_THE_DESK
@ELSEWHERE
def test_a_page_has_its_name_and_is_reached_without_its_header(page: Page) -> None:
    open_page(page, "box")
    expect(page).to_have_title(re.compile("^Box - .+ - Odd Kettle$"))
    page.keyboard.press("Tab")
    link = page.get_by_role("link", name="Skip to the page")
    expect(link).to_be_focused()
    expect(link).to_be_in_viewport()
    page.keyboard.press("Enter")
    expect(page.locator("#main")).to_be_focused()


@ON_THE_DESK
@ELSEWHERE
def test_single_keys_are_switched_off_and_others_go_on(page: Page) -> None:
    open_page(page, "box")
    page.keyboard.press("2")
    expect(page).to_have_url(re.compile("/use$"))
    page.keyboard.press("Control+k")
    page.get_by_role("dialog").get_by_text("Units and habits").click()
    page.get_by_role("switch", name=re.compile("Single keys")).click()
    page.keyboard.press("Escape")
    page.keyboard.press("3")
    page.keyboard.press("Control+k")
    expect(page.get_by_role("dialog")).to_be_visible()
    expect(page).to_have_url(re.compile("/use$"))
