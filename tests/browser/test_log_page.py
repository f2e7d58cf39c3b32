"""The log, driven as people drive it: on a phone in the dark, corrected, live, from a file."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.away.reach import done, open_pad, yesterday
from tests.browser.conftest import (
    ELSEWHERE,
    LIVE_PLAN,
    ON_THE_DESK,
    at_rest,
    copied_log,
    open_page,
)
from tests.support.serving import Server

ON_A_PHONE = pytest.mark.parametrize("page", ["phone"], indirect=True)


def log_percent(page: Page, percent: str, day: str, clock: str) -> None:
    page.get_by_label("The monitor says").fill(percent)
    page.get_by_label("Day", exact=True).select_option(label=day)
    page.get_by_label("Time", exact=True).fill(clock)
    page.get_by_role("button", name="Log it").click()


@ELSEWHERE
def test_a_reading_moves_the_level_and_the_rest_of_the_trip(page: Page) -> None:
    open_page(page, "log")
    expect(page.get_by_test_id("headline")).to_have_text("Nothing is logged yet.")
    log_percent(page, "64", "Tue 9", "22:15")
    expect(page.get_by_text("monitor says 64 %")).to_be_visible()
    expect(page.get_by_test_id("headline")).to_contain_text("About 6")
    expect(page.get_by_test_id("ahead")).to_contain_text("From here it")
    expect(page.get_by_test_id("now-line")).to_be_visible()
    page.get_by_role("button", name="how it is known").click()
    expect(page.get_by_test_id("sum")).to_contain_text("Tue 9 22:15, monitor's percent 64 %")
    page.keyboard.press("Escape")
    page.get_by_role("navigation").get_by_role("link", name="Trip").click()
    expect(page.locator("[data-reading]")).to_have_count(1)
    expect(page.get_by_test_id("now-mark")).to_have_count(1)
    expect(page.get_by_test_id("headline")).to_contain_text("Tue 9 22:15: From here it")
    page.get_by_role("radio", name="the plan").click()
    expect(page.get_by_test_id("now-mark")).to_have_count(0)
    expect(page.get_by_test_id("headline")).to_contain_text("First short: ")


@ELSEWHERE
@ON_A_PHONE
def test_a_reading_is_entered_with_few_taps(page: Page) -> None:
    """Open the page, type a figure, press the key: the time is already there."""
    open_page(page, "log")
    field = page.get_by_label("The monitor says")
    field.fill("58")
    box = at_rest(field)
    assert box is not None
    assert box["height"] >= 40
    assert box["y"] < 844
    page.get_by_role("button", name="Log it").click()
    expect(page.get_by_text("monitor says 58 %")).to_be_visible()
    wide = page.evaluate("document.documentElement.scrollWidth")
    assert wide <= 390


@ELSEWHERE
@ON_THE_DESK
def test_plan_and_actual_stand_side_by_side_and_print(page: Page, server: Server) -> None:
    copied_log(page, server)
    open_page(page, "log?view=actual")
    expect(page.get_by_test_id("report-headline")).to_contain_text("After three days")
    expect(page.get_by_test_id("by-day").get_by_role("row")).to_have_count(4)
    expect(page.get_by_test_id("by-part")).to_contain_text("Cool box, 28 L")
    page.emulate_media(media="print")
    expect(page.get_by_role("heading", name="The log")).to_be_visible()
    expect(page.get_by_role("button", name="Print it")).to_be_hidden()
    page.emulate_media(media="screen")


@ON_THE_DESK
def test_live_samples_show_as_they_come(page: Page, server: Server) -> None:
    """The simulated monitor speaks once a second; its face moves with it."""
    page.goto(f"{server.url}/plan/{LIVE_PLAN}/log?view=monitor")
    expect(page.get_by_test_id("monitor-says")).to_contain_text(re.compile("on the line|away"))
    face = page.get_by_test_id("live-at")
    expect(face).to_contain_text("by the monitor’s clock")
    page.evaluate(
        """() => {
            window.seen = [];
            const watched = document.querySelector("[data-testid=live-at]");
            new MutationObserver(() => window.seen.push(watched.textContent))
              .observe(watched, {subtree: true, characterData: true, childList: true});
        }"""
    )
    page.wait_for_function("new Set(window.seen).size >= 4")


@ELSEWHERE
@ON_THE_DESK
def test_a_monitor_that_is_not_there_is_told(page: Page) -> None:
    open_page(page, "log?view=monitor")
    expect(page.get_by_test_id("monitor-says")).to_have_text("No monitor is set.")
    page.get_by_label("Its address on your network").fill("nowhere")
    page.get_by_role("button", name="Listen to it").click()
    expect(page.get_by_role("alert")).to_contain_text("Write it like 127.0.0.1:8770")
    page.get_by_label("Its address on your network").fill("127.0.0.1:9")
    page.get_by_role("button", name="Listen to it").click()
    expect(page.get_by_test_id("monitor-says")).to_contain_text("away: it cannot be reached")
    page.get_by_role("button", name="Stop listening").click()
    expect(page.get_by_test_id("monitor-says")).to_have_text("No monitor is set.")


RAGGED = (
    "Box log 7;;;\n"
    "Zeit;Spannung;Strom;SOC\n"
    "08.06.2026 07:00;13,21;3,2;64,0\n"
    "08.06.2026 07:15;13,20\n"
    "heute;13,2;3,1;63\n"
    "08.06.2026 07:45;13,18;3,4;62,0;zu;viel\n"
    "08.06.2026 08:00;;;\n"
)


@ELSEWHERE
@ON_THE_DESK
def test_a_plan_with_its_log_leaves_and_comes_back_as_one_file(page: Page, tmp_path: Path) -> None:
    open_page(page, "log")
    log_percent(page, "64", "Tue 9", "22:15")
    expect(page.get_by_text("monitor says 64 %")).to_be_visible()
    open_page(page, "log?view=monitor")
    with page.expect_download() as leaving:
        page.get_by_role("link", name="The plan with its log, as one file").click()
    file = tmp_path / "trip.zip"
    leaving.value.save_as(file)
    was = page.url
    page.get_by_label("Open such a file").set_input_files(file)
    expect(page).not_to_have_url(was)
    expect(page.get_by_text("monitor says 64 %")).to_be_visible()


@ELSEWHERE
def test_a_reading_is_noted_with_one_thumb_and_a_thing_is_ticked(
    page: Page, server: Server
) -> None:
    copied_log(page, server)
    open_page(page, "today")
    expect(page.get_by_role("link", name="Today").first).to_be_visible()
    asked = yesterday(page)
    done(asked)
    expect(page.get_by_text("Saved: panel out until")).to_be_visible()
    expect(asked).to_have_count(0)
    pad = open_pad(page)
    for figure in ("4", "8"):
        pad.get_by_role("button", name=figure, exact=True).click()
    expect(pad.get_by_label("The figure")).to_have_text("48 %")
    pad.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_text("Saved: monitor says 48 %")).to_be_visible()
    open_pad(page)
    pad.get_by_role("button", name="Ah out").click()
    # What was read last is a hint, and not entered again by itself.
    expect(pad.get_by_label("The figure")).to_have_text("– Ah")
    expect(pad.get_by_text("last time 70.8 Ah")).to_be_visible()
    expect(pad.get_by_role("button", name="Save", exact=True)).to_be_disabled()
    for figure in ("7", "5"):
        pad.get_by_role("button", name=figure, exact=True).click()
    pad.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_text("Saved: counted 75 Ah out")).to_be_visible()
    open_pad(page)
    pad.get_by_role("button", name="monitor %").click()
    for figure in ("9", "9", "9"):
        pad.get_by_role("button", name=figure, exact=True).click()
    pad.get_by_role("button", name="Save", exact=True).click()
    expect(pad.get_by_role("alert")).to_contain_text("100")
