"""Use, Box and Log, driven as a user drives them."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import ELSEWHERE, ON_THE_DESK, at_rest, drag, open_page, saved


def go(page: Page, name: str) -> None:
    page.get_by_role("navigation").get_by_role("link", name=name).click()
    expect(page.get_by_test_id("strip-lowest")).to_be_visible()


def add_part(page: Page, what: str) -> None:
    page.get_by_role("button", name="+ Add a part").click()
    page.get_by_role("menuitem", name=f"+ {what}", exact=True).click()


@ELSEWHERE
def test_hours_are_dragged_on_the_noon_axis(page: Page) -> None:
    open_page(page, "use")
    bar = page.get_by_role("button", name=re.compile("^Laptop, 20:30 to 22:30"))
    box = at_rest(bar.locator("rect").first)
    assert box is not None
    before = page.get_by_test_id("headline").text_content()
    drag(page, (box["x"] + box["width"], box["y"] + box["height"] / 2), (45, 0))
    expect(
        page.get_by_role("button", name=re.compile("^Laptop, 20:30 to (?!22:30)"))
    ).to_be_visible()
    expect(page.get_by_test_id("headline")).not_to_have_text(before or "")
    saved(page)
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_test_id("headline")).to_have_text(before or "")


@ON_THE_DESK
def test_a_new_plan_begins_plain_and_can_be_built_up(page: Page) -> None:
    page.get_by_role("button", name=re.compile("Moth survey")).click()
    page.get_by_role("menuitem", name="New plan, a plain box").click()
    expect(page.get_by_test_id("headline")).to_contain_text("You use")
    go(page, "Box")
    add_part(page, "panel and controller")
    expect(page.get_by_role("button", name=re.compile("Solar panel: could give"))).to_be_visible()
    add_part(page, "mains charger")
    expect(page.get_by_test_id("limit")).to_contain_text("No hook-up on this trip")


@pytest.mark.parametrize("page", ["phone"], indirect=True)
@pytest.mark.parametrize("wide", [390, 320])
def test_no_page_is_wider_than_the_screen(page: Page, wide: int) -> None:
    """320 px are a small phone, and a desk's page at four times its size."""
    page.set_viewport_size({"width": wide, "height": 844})
    for name in ("Use", "Box", "Trip", "Improve", "Log", "Build"):
        link = page.get_by_role("navigation").get_by_role("link", name=name)
        if link.count() == 0:
            page.get_by_role("navigation").get_by_role("button", name=re.compile("page")).click()
            link = page.get_by_role("menuitem", name=name)
        link.click()
        page.wait_for_timeout(400)
        assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth"), name
