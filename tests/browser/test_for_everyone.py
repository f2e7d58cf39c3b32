"""For everyone: no serious finding of an accessibility checker on any page, in either scheme."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import open_page

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


@pytest.mark.parametrize("scheme", ["day", "night"])
@pytest.mark.parametrize("name", ["use", "box", "trip", "log"])
def test_nothing_serious_on_any_page(page: Page, name: str, scheme: str) -> None:
    page.evaluate(f"localStorage.setItem('oddkettle.scheme', '{scheme}')")
    open_page(page, name)
    expect(page.locator(f"html[data-scheme={scheme}]")).to_have_count(1)
    assert findings(page) == []


@pytest.mark.parametrize("opened", ["judgements", "commands", "shortcuts", "sum", "appliance"])
def test_nothing_serious_in_any_sheet(page: Page, opened: str) -> None:
    open_page(page, "use?open=laptop" if opened == "appliance" else "use")
    if opened == "judgements":
        page.get_by_test_id("judgement-count").click()
    elif opened == "commands":
        page.keyboard.press("Control+k")
    elif opened == "shortcuts":
        page.keyboard.press("?")
    elif opened == "sum":
        page.get_by_test_id("strip-lowest").click()
    expect(page.get_by_role("dialog")).to_be_visible()
    if opened == "sum":
        expect(page.get_by_role("dialog").get_by_role("table")).to_be_visible()
    assert findings(page) == []
