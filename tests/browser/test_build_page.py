"""The Build page, driven as a builder drives it: pick, fix, mend, drag, tick, print."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import (
    ELSEWHERE,
    ON_THE_DESK,
    at_rest,
    drag,
    middle,
    open_page,
    saved,
)

SOUND = re.compile("^12 circuits, no problems found, and everything fits")


def headline(page: Page, text: str | re.Pattern[str]) -> None:
    expect(page.get_by_test_id("headline")).to_have_text(text)


def shape(page: Page, group: str, name: str) -> Locator:
    return page.get_by_role("group", name=group).get_by_role("button", name=name)


def test_the_demo_box_is_answered_first(page: Page) -> None:
    page.get_by_role("navigation").get_by_role("link", name="Build").click()
    headline(page, SOUND)
    expect(page.get_by_role("group", name="Wiring drawing, batteries and sources")).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= page.viewport_size["width"]  # type: ignore[index]


@ELSEWHERE
@pytest.mark.parametrize("page", ["phone"], indirect=True)
def test_on_a_phone_a_pressed_circuit_comes_into_sight_and_the_list_again(page: Page) -> None:
    open_page(page, "build")
    listed = page.get_by_role("button", name="Mains charger, output", exact=True)
    listed.click()
    heading = page.get_by_role("heading", name="6 · Mains charger, output")
    expect(heading).to_be_in_viewport()
    expect(listed).not_to_be_in_viewport()
    page.get_by_role("button", name="↑ all circuits").click()
    expect(page.get_by_role("columnheader", name="Circuit", exact=True)).to_be_in_viewport()


@ELSEWHERE
@ON_THE_DESK
def test_a_part_that_is_dragged_shows_what_it_hits_and_can_be_placed_anew(page: Page) -> None:
    open_page(page, "build?view=fit")
    plan = "The box from above"
    x, y = middle(shape(page, plan, "3 DC-DC charger"))
    goal = middle(shape(page, plan, "5 Inverter"))
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move((x + goal[0]) / 2, y, steps=4)
    # While it is held already: what it hits is told.
    expect(page.get_by_test_id("clashes")).to_contain_text("DC-DC charger, 30 A")
    page.mouse.up()
    expect(page.get_by_test_id("clashes")).to_contain_text("overlap by")
    headline(page, re.compile("does not fit yet"))
    saved(page)
    page.get_by_role("button", name="Place everything anew").click()
    headline(page, SOUND)


@ELSEWHERE
@ON_THE_DESK
def test_a_part_is_moved_and_turned_by_keys(page: Page) -> None:
    open_page(page, "build?view=fit")
    shunt = page.get_by_role("group", name="The box from above").get_by_role("button", name="Shunt")
    before = int(re.findall(r"(\d+) mm from", shunt.get_attribute("aria-label") or "")[0])
    shunt.focus()
    shunt.press("ArrowLeft")
    expect(shunt).to_have_attribute("aria-label", re.compile(f"{before - 5} mm from the left"))
    box = at_rest(shunt)
    shunt.press("t")
    page.wait_for_function(
        "wide => document.querySelector('[aria-label*=\"Shunt\"] rect:nth-of-type(2)')"
        ".getBoundingClientRect().width < wide",
        arg=(box or {"width": 0})["width"],
    )


@ELSEWHERE
@ON_THE_DESK
def test_fittings_that_come_too_close_are_told(page: Page) -> None:
    open_page(page, "build?view=faces")
    expect(page.get_by_test_id("face-faults")).to_contain_text("13 fittings, each with room")
    x, y = middle(shape(page, "The front", "8, Cool box"))
    goal = middle(shape(page, "The front", "10, 12 V outlet"))
    drag(page, (x, y), (0.5 * (goal[0] - x), 0))
    expect(page.get_by_test_id("face-faults")).to_contain_text("At least 46 mm between")
    page.get_by_label("Hole, by its sheet").fill("28.5")
    page.get_by_label("Hole, by its sheet").press("Enter")
    expect(page.get_by_role("list", name="On the front")).to_contain_text("28.5 mm")
    saved(page)
    page.get_by_role("button", name="Reset layout").click()
    expect(page.get_by_test_id("face-faults")).to_contain_text("13 fittings, each with room")
