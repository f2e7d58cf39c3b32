"""The evening of day three: what is told counts at once, is asked about, and can be taken back."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.away.reach import choices, key_in, plan_of
from tests.browser.conftest import ELSEWHERE, open_page
from tests.support import http
from tests.support.serving import Server


def log(server: Server, plan: int, at: str, value: float) -> None:
    http.post(
        f"{server.url}/api/plans/{plan}/log",
        json={"at": at, "kind": "monitor_percent", "value": value},
    ).raise_for_status()


@pytest.fixture
def evening(page: Page, server: Server) -> Page:
    """Monday at eight in the evening, with 81 % read the morning before and 70 % now."""
    plan = plan_of(page)
    log(server, plan, "2026-06-07T08:00", 81)
    log(server, plan, "2026-06-08T20:00", 70)
    open_page(page, "today")
    expect(page.get_by_test_id("headline")).to_contain_text("Tonight is")
    return page


@ELSEWHERE
@pytest.mark.parametrize("page", ["phone"], indirect=True)
def test_an_ordinary_day_fits_one_screen_of_a_phone(page: Page, server: Server) -> None:
    """Level, way to dawn, verdict, what is left to do, what a thumb needs: without scrolling."""
    log(server, plan_of(page), "2026-06-08T11:00", 61)
    open_page(page, "today")
    things = page.get_by_test_id("things").get_by_role("listitem")
    expect(things).to_have_count(4)
    bar = page.get_by_role("button", name="Log a reading").bounding_box()
    last = things.last.bounding_box()
    assert bar is not None
    assert last is not None
    assert last["y"] + last["height"] <= bar["y"]
    assert bar["y"] + bar["height"] <= 844 - 64
    assert page.evaluate("scrollY") == 0
    # Whatever is pressed there suits a thumb.
    small = page.evaluate(
        """() => [...document.querySelectorAll("main button, nav a, nav button")]
          .filter((one) => one.getClientRects().length > 0 && !one.closest(".facts"))
          .filter((one) => one.getBoundingClientRect().top < innerHeight)
          .filter((one) => one.getBoundingClientRect().height < 43.5)
          .map((one) => one.textContent)"""
    )
    assert small == []


@ELSEWHERE
def test_a_reading_that_does_not_fit_is_asked_about_where_it_was_typed(evening: Page) -> None:
    page, headline = evening, evening.get_by_test_id("headline")
    before = headline.inner_text()
    key_in(page, "23")
    question = page.get_by_test_id("open-reading")
    expect(question).to_contain_text("23 % was read")
    expect(question).to_contain_text("was expected")
    expect(headline).to_contain_text("not settled")
    expect(headline).not_to_contain_text("is safe")
    # Undo names it and takes it back; the night is as it was.
    undo = page.get_by_role("button", name="Undo", exact=True)
    expect(undo).to_have_attribute("title", re.compile("monitor says 23 %"))
    undo.click()
    expect(question).to_have_count(0)
    expect(headline).to_have_text(before)
    # Typed again, and said to be right: the night goes by it.
    key_in(page, "23")
    question.get_by_role("button", name="The monitor is right").click()
    expect(question).to_have_count(0)
    expect(headline).to_contain_text(re.compile("not safe|Not safe"))
    open_page(page, "log")
    expect(page.get_by_text("Before: monitor says 23 %.")).to_be_visible()


@ELSEWHERE
def test_what_contradicts_the_estimate_asks_first_and_is_taken_back(evening: Page) -> None:
    page = evening
    page.get_by_role("button", name="Power went off").click()
    asked = page.get_by_role("alertdialog")
    expect(asked).to_contain_text("sets it to 2 %")
    asked.get_by_role("button", name="Cancel").click()
    expect(page.get_by_text("Saved:")).to_have_count(0)
    page.get_by_role("button", name="Power went off").click()
    asked.get_by_role("button", name="Yes, set 2 %").click()
    expect(page.get_by_test_id("headline")).to_contain_text("below your reserve of 20 % now")
    page.get_by_role("button", name="Take it back").click()
    expect(page.get_by_test_id("headline")).not_to_contain_text("now")


@ELSEWHERE
def test_the_day_as_it_is_takes_one_press_each(evening: Page) -> None:
    page = evening
    row = page.get_by_test_id("things").get_by_role("listitem").filter(has_text="Light trap")
    choices(row)
    row.get_by_role("button", name="Not today").click()
    expect(row).to_contain_text("skipped")
    row.get_by_role("button", name=re.compile("^Clear what was said")).click()
    expect(row.get_by_role("button", name="Not today")).to_be_visible()
    dull = page.get_by_role("button", name="dull", exact=True)
    dull.click()
    expect(dull).to_have_attribute("aria-pressed", "true")
    page.get_by_role("button", name="as usual", exact=True).click()
    expect(dull).to_have_attribute("aria-pressed", "false")
    page.get_by_role("button", name="We leave now").click()
    expect(page.get_by_text("Nothing more is planned until then.")).to_be_visible()
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(row).to_be_visible()


def tell(server: Server, plan: int, kind: str, at: str, until: str | None = None) -> None:
    http.post(
        f"{server.url}/api/plans/{plan}/log", json={"at": at, "kind": kind, "until": until}
    ).raise_for_status()


def test_the_board_shows_how_each_block_went_and_takes_it_back(page: Page, server: Server) -> None:
    plan = plan_of(page)
    open_page(page, "trip?view=days")
    tell(server, plan, "drove", "2026-06-06T07:00", "2026-06-06T08:10")
    tell(server, plan, "panel_out", "2026-06-07T09:00", "2026-06-07T17:00")
    log(server, plan, "2026-06-08T11:00", 60)
    tell(server, plan, "no_drive", "2026-06-09T09:30")
    # Nobody has to load the page anew: another device's entries are heard on the board.
    block = {key: page.locator(f"[data-block={key}]") for key in ("d1", "p1", "p2", "d2", "d3")}
    expect(block["d2"]).to_have_attribute("data-told", "did_not")
    expect(block["d1"]).to_have_attribute("data-told", "part")
    expect(block["d1"]).to_have_attribute("aria-label", re.compile("partly done, 07:00 to 08:10"))
    expect(block["p1"]).to_have_attribute("data-told", "did")
    expect(block["p2"]).to_have_attribute("data-told", "now")
    expect(block["d3"]).to_have_attribute("data-told", "ahead")
    # What undo takes back is the other device's entry.
    undo = page.get_by_role("button", name="Undo", exact=True)
    expect(undo).to_have_attribute("title", re.compile("did not drive"))
    # On its own sheet it is taken back, and said again.
    before = page.get_by_test_id("headline").inner_text()
    block["d2"].focus()
    page.keyboard.press("Enter")
    sheet = page.get_by_role("dialog", name="Times of this drive")
    expect(sheet.get_by_test_id("went")).to_have_text("How it went: skipped")
    sheet.get_by_role("button", name=re.compile("^Clear what was said")).click()
    expect(sheet.get_by_test_id("went")).to_have_text("Still ahead.")
    expect(block["d2"]).to_have_attribute("data-told", "ahead")
    expect(page.get_by_test_id("headline")).not_to_have_text(before)
    sheet.get_by_role("button", name="It will not be").click()
    expect(block["d2"]).to_have_attribute("data-told", "did_not")
    expect(page.get_by_test_id("headline")).to_have_text(before)


@ELSEWHERE
def test_other_hours_of_what_is_ahead_are_set_on_its_sheet(page: Page, server: Server) -> None:
    log(server, plan_of(page), "2026-06-09T06:00", 60)
    open_page(page, "today")
    row = page.get_by_test_id("things").get_by_role("listitem").filter(has_text="drive")
    choices(row)
    row.get_by_role("button", name="Other hours").click()
    sheet = page.get_by_role("dialog", name="Times of this drive")
    expect(sheet.get_by_label("From")).to_have_value("09:30")
    sheet.get_by_label("To").fill("12:15")
    sheet.get_by_label("To").press("Tab")
    page.keyboard.press("Escape")
    expect(page.locator("[data-block=d2]")).to_have_attribute("aria-label", re.compile("to 12:15"))
    open_page(page, "today")
    expect(row).to_contain_text("09:30 to 12:15")
