"""Use and Box as instruments: judgements, remedies, sums, moments, measuring, habits."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import ELSEWHERE, at_rest, drag, middle, open_page, saved


@ELSEWHERE
def test_a_moment_shows_currents_and_follows_the_strip(page: Page) -> None:
    open_page(page, "box")
    strip = page.get_by_role("slider", name="Moment that is looked at")
    page.get_by_role("radiogroup", name="Show").get_by_role("radio").nth(1).click()
    expect(page.get_by_text("at that moment")).to_be_visible()
    before = strip.get_attribute("aria-valuetext")
    strip.focus()
    for _ in range(6):
        page.keyboard.press("PageDown")
    expect(strip).not_to_have_attribute("aria-valuetext", before or "")
    sun = page.get_by_role("button", name=re.compile("^Roof and"))
    expect(sun).to_have_attribute("aria-label", re.compile(r"= \d+(\.\d+)? A taken"))
    box = at_rest(strip)
    assert box is not None
    page.mouse.click(box["x"] + box["width"] * 0.25, box["y"] + box["height"] / 2)
    expect(strip).to_have_attribute("aria-valuetext", re.compile("Mon 8"))


@ELSEWHERE
def test_what_goes_first_is_dragged_or_moved_by_keys(page: Page) -> None:
    open_page(page, "use")
    page.get_by_text(re.compile("^When the battery is low")).click()
    board = page.get_by_test_id("first-to-go")
    laptop = board.get_by_role("button", name=re.compile("^Laptop"))
    laptop.scroll_into_view_if_needed()
    start = middle(laptop)
    end = middle(board.get_by_role("region", name="Goes first"))
    drag(page, start, (end[0] - start[0], end[1] - start[1]))
    first = board.get_by_role("region", name="Goes first")
    expect(first.get_by_role("button", name=re.compile("^Laptop"))).to_be_visible()
    saved(page)
    first.get_by_role("button", name=re.compile("^Laptop")).press("ArrowRight")
    wanted = board.get_by_role("region", name="Goes if needed")
    expect(wanted.get_by_role("button", name=re.compile("^Laptop"))).to_be_visible()


CAUTIONS = {
    "battery": "Lithium burns when it is abused",
    "mains:mains": "Mains kills",
    "sun:panels": "A panel in light is always live",
    "inverter": "An inverter makes mains",
}
