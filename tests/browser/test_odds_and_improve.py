"""Odds on the board, places and forecasts, and the Improve page, as a user works them."""

from __future__ import annotations

import re
from pathlib import Path

import pvlib
import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import (
    ELSEWHERE,
    ON_THE_DESK,
    at_rest,
    drag,
    lowest,
    open_page,
    other_plan,
    saved,
)
from tests.browser.test_for_everyone import findings
from tests.support.tiers import NIGHTLY

YEARS = Path(pvlib.__file__).parent / "data"


def test_the_board_shows_the_band_and_each_days_chance(page: Page) -> None:
    open_page(page, "trip?view=days")
    expect(page.get_by_test_id("band")).to_have_count(9)
    expect(page.get_by_test_id("odds")).to_contain_text("Lowest level: probably between")
    expect(page.get_by_test_id("day-odds").last).to_be_visible()
    expect(page.get_by_test_id("cursor")).to_contain_text("in 8 of 10 tries")
    page.get_by_test_id("day-odds").last.click()
    expect(page.get_by_test_id("sum")).to_contain_text("How often it lasts, Sun 14")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="the odds").click()
    sheet = page.get_by_test_id("sum")
    expect(sheet).to_contain_text("trips tried")
    expect(sheet).to_contain_text("200")
    expect(sheet).to_contain_text("the same weather meets every variant".capitalize()[1:])


@ON_THE_DESK
def test_worst_and_best_of_ten_are_shown_with_their_own_figures(page: Page) -> None:
    expected = lowest(page)
    page.get_by_role("radio", name="dull").click()
    detail = page.get_by_test_id("detail")
    expect(detail).to_contain_text("In dull weather, the worst trip of ten:")
    worst = lowest(page)
    assert worst != expected
    page.get_by_role("button", name=re.compile("^Fri 12, Ah: .* in, .* out")).click()
    expect(page.get_by_test_id("sum")).to_be_visible()
    page.keyboard.press("Escape")
    page.get_by_role("radio", name="bright").click()
    expect(detail).to_contain_text("In bright weather, the best trip of ten:")
    best = [int(text.split()[0]) for text in lowest(page)]
    assert sum(best) > sum(int(text.split()[0]) for text in worst)
    page.get_by_role("radio", name="usual").click()
    expect(page.get_by_test_id("lowest")).to_have_text(expected)


@ELSEWHERE
def test_a_change_is_weighed_tried_put_back_and_kept(page: Page) -> None:
    open_page(page, "improve")
    expect(page.get_by_test_id("headline")).to_contain_text("becomes")
    helps = page.get_by_role("region", name="Helps, not enough").get_by_role("listitem")
    expect(helps.nth(5)).to_be_visible()
    expect(helps.first).to_contain_text("The same battery once more")
    page.get_by_role("button", name=re.compile("of 100: The same battery once more")).click()
    sheet = page.get_by_test_id("sum")
    expect(sheet).to_contain_text("come through only with the change")
    expect(sheet).to_contain_text("McNemar")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Try: The same battery once more, in parallel").click()
    trial = page.get_by_test_id("trial")
    expect(trial).to_contain_text("The same battery once more")
    expect(page.get_by_test_id("trial-says")).to_contain_text("probably lasts")
    expect(page.get_by_role("button", name="Undo", exact=True)).to_be_disabled()
    trial.get_by_role("button", name="Put it back").click()
    expect(trial).to_have_count(0)
    before = page.get_by_test_id("headline").inner_text()
    page.get_by_role("button", name="Apply: The same battery once more, in parallel").click()
    saved(page)
    expect(page.get_by_test_id("headline")).not_to_have_text(before)
    expect(page.get_by_role("button", name="Undo", exact=True)).to_be_enabled()


@ELSEWHERE
@ON_THE_DESK
def test_sizes_are_searched_picked_out_and_taken(page: Page) -> None:
    open_page(page, "improve?view=buy")
    expect(page.get_by_test_id("headline")).to_have_text(
        re.compile(r"^Take \d+ Ah, .*: 9\d of 100, about € \d+\.$")
    )
    assert findings(page) == []
    plot = page.get_by_role("img", name=re.compile("mixes by price and certainty"))
    plot.scroll_into_view_if_needed()
    box = at_rest(plot)
    across = (box["width"] * 0.15, 100)
    drag(page, (box["x"] + box["width"] * 0.3, box["y"] + 20), across)
    expect(page.get_by_role("button", name="Show all")).to_be_visible()
    for text in page.get_by_test_id("sizes").get_by_role("listitem").all_inner_texts():
        euro = re.search(r"€ (\d+) to (\d+)", text)
        assert euro is not None
        # From .7 to 1.4 of the typical price, by which they are picked out.
        low, high = (int(one) for one in euro.groups())
        assert 900 < low / 0.7 < 1500
        assert 900 < high / 1.4 < 1500
    page.get_by_role("button", name="Show all").click()
    listed = page.get_by_test_id("sizes").get_by_role("listitem")
    cheap = listed.first.inner_text()
    least = page.get_by_label("Sure at least").first
    least.fill("98")
    least.press("Enter")
    expect(listed.first).not_to_have_text(cheap)
    listed.first.get_by_role("button", name=re.compile("^Try ")).click()
    expect(page.get_by_test_id("trial")).to_contain_text("Ah")
    page.get_by_role("button", name="Keep it").click()
    saved(page)
    expect(page.get_by_role("button", name="Undo", exact=True)).to_be_enabled()


def test_a_forecast_is_asked_for_and_taken_over(page: Page) -> None:
    before = lowest(page)
    page.get_by_role("button", name="Forecast").click()
    text = page.get_by_test_id("forecast-says")
    expect(text).to_have_text("No forecast has been taken yet.")
    page.get_by_role("button", name="Ask the service").click()
    expect(text).to_have_text(re.compile(r"^Taken .*, for 9 of the trip's 9 days\.$"))
    page.get_by_role("button", name="Take it over").click()
    expect(page.get_by_role("button", name="Forecast ✓")).to_be_visible()
    saved(page)
    expect(page.get_by_test_id("lowest")).not_to_have_text(before)
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(page.get_by_test_id("lowest")).to_have_text(before)


@ELSEWHERE
@ON_THE_DESK
@pytest.mark.parametrize("view", ["buy", "beside"])
def test_nothing_serious_on_the_ways_to_improve(page: Page, view: str) -> None:
    open_page(page, f"improve?view={view}")
    if view == "buy":
        page.get_by_role("button", name="Seek").click()
        expect(page.get_by_role("img", name=re.compile("^How often it lasts"))).to_be_visible()
    assert findings(page) == []


@NIGHTLY
@ELSEWHERE
@ON_THE_DESK
def test_long_work_shows_its_progress_and_stops_when_told(page: Page) -> None:
    open_page(page, "improve?view=buy")
    progress = page.get_by_role("progressbar", name="Search")
    expect(page.get_by_role("img", name=re.compile("mixes by price"))).to_be_visible()
    page.get_by_role("button", name="Stop").click()
    expect(progress).to_have_count(0)
    page.wait_for_timeout(1500)
    expect(page.get_by_test_id("sizes")).to_have_count(0)
    page.get_by_role("button", name="Search again").click()
    expect(page.get_by_test_id("sizes")).to_be_visible()


@ELSEWHERE
@ON_THE_DESK
def test_the_cheapest_mend_is_found_tried_and_kept(page: Page) -> None:
    """On a box that is nearly sure: the search itself has tests of its own."""
    other_plan(page, "radio-hill")
    open_page(page, "improve")
    headline = page.get_by_test_id("headline")
    expect(headline).to_contain_text(re.compile(r"Logging laptop half as long: .* becomes \d+"))
    page.get_by_role("button", name=re.compile("^never change")).click()
    page.get_by_role("switch", name="Logging laptop").click()
    page.keyboard.press("Escape")
    expect(headline).to_contain_text(re.compile(r"Drive \d+ min more.* becomes 9\d"))
    changes = page.get_by_test_id("changes")
    expect(changes).not_to_contain_text("Logging laptop")
    page.get_by_role("button", name=re.compile("^Try: Drive")).first.click()
    expect(page.get_by_test_id("trial")).to_contain_text("Only a trial")
    page.get_by_role("button", name="Put it back").click()
    page.get_by_role("button", name="Apply", exact=True).click()
    expect(headline).to_contain_text(re.compile(r"It lasts in \d+ of 100: that is as sure"))
