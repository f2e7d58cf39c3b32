"""The log, driven as people drive it: on a phone in the dark, corrected, live, from a file."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import (
    ELSEWHERE,
    LIVE_PLAN,
    ON_THE_DESK,
    at_rest,
    copied_log,
    open_page,
    saved,
)
from tests.serving import Server

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
    expect(page.get_by_test_id("headline")).to_contain_text("It stands at about 6")
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
    expect(page.get_by_test_id("headline")).to_contain_text("Fri 12 is the tightest")


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
@ON_A_PHONE
def test_nonsense_is_refused_at_the_field_and_nothing_is_lost(page: Page) -> None:
    open_page(page, "log")
    page.get_by_label("Note, if you like").fill("by torch")
    log_percent(page, "140", "Mon 8", "25:00")
    expect(page.get_by_text("140 is too much. Enter 0 to 100 %.")).to_be_visible()
    expect(page.get_by_text("is not a time of day")).to_be_visible()
    page.get_by_label("The monitor says").fill("40")
    page.get_by_label("Time", exact=True).fill("21.15")
    page.get_by_role("button", name="Log it").click()
    expect(page.get_by_text("by torch")).to_be_visible()


@ELSEWHERE
@ON_A_PHONE
def test_what_was_done_is_told_with_its_end(page: Page) -> None:
    open_page(page, "log")
    page.get_by_role("radio", name="we did").click()
    page.get_by_role("radio", name="left off").click()
    page.get_by_label("Which appliance").select_option(label="Light trap")
    page.get_by_label("Day", exact=True).select_option(label="Sun 7")
    page.get_by_label("From").fill("21:00")
    page.get_by_role("button", name="Log it").click()
    expect(page.get_by_role("alert")).to_contain_text("Nothing is typed here")
    page.get_by_label("Until").fill("4:00")
    page.get_by_role("button", name="Log it").click()
    expect(page.get_by_role("listitem").get_by_text("Light trap off")).to_be_visible()
    page.get_by_role("radio", name="we saw").click()
    page.get_by_label("How it was").select_option(label="overcast")
    page.get_by_role("button", name="Log it").click()
    expect(page.get_by_role("listitem").get_by_text("the sky was overcast")).to_be_visible()


@ELSEWHERE
@ON_THE_DESK
def test_an_entry_is_corrected_deleted_and_put_back(page: Page) -> None:
    open_page(page, "log")
    log_percent(page, "64", "Tue 9", "22:15")
    page.get_by_role("button", name="Correct the entry of Tue 9, 22:15").click()
    form = page.get_by_role("form", name="Correct an entry")
    expect(form.get_by_label("The monitor says")).to_have_value("64")
    form.get_by_label("The monitor says").fill("46")
    form.get_by_role("button", name="Correct it").click()
    listed = page.get_by_role("listitem")
    expect(listed.get_by_text("monitor says 46 %")).to_be_visible()
    expect(listed.get_by_text("monitor says 64 %")).to_have_count(0)
    expect(page.get_by_text(re.compile("^corrected 20"))).to_be_visible()
    page.get_by_role("button", name="Take it back").click()
    expect(listed.get_by_text("monitor says 64 %")).to_be_visible()
    expect(listed.get_by_text("monitor says 46 %")).to_have_count(0)
    page.get_by_role("button", name="Delete the entry of Tue 9, 22:15").click()
    expect(listed.get_by_text("monitor says 64 %")).to_have_count(0)
    page.get_by_role("button", name="Put it back").click()
    expect(listed.get_by_text("monitor says 64 %")).to_be_visible()


@ELSEWHERE
@ON_THE_DESK
def test_a_wrong_reading_is_seen_to_be_set_aside(page: Page) -> None:
    open_page(page, "log")
    log_percent(page, "6", "Sun 7", "07:00")
    expect(page.get_by_text("Set aside:").first).to_be_visible()
    expect(page.get_by_text("1 reading, 1 set aside")).to_be_visible()


@ELSEWHERE
@ON_THE_DESK
def test_what_the_readings_say_is_taken_over_as_measured(page: Page, server: Server) -> None:
    copied_log(page, server)
    open_page(page, "log?view=learned")
    key = page.get_by_role("button", name=re.compile("W as measured")).first
    key.click()
    expect(page.get_by_role("button", name="Undo")).to_have_attribute(
        "title", re.compile("took over .* as measured")
    )


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


@ELSEWHERE
@ON_THE_DESK
def test_from_here_a_drive_is_sought_that_is_enough(page: Page, server: Server) -> None:
    copied_log(page, server)
    open_page(page, "trip")
    expect(page.get_by_test_id("mend-onward")).to_contain_text(re.compile("driving on"))
    page.get_by_role("link", name="What is enough from here?").click()
    expect(page.get_by_role("radio", name="from now on")).to_have_attribute("data-state", "on")
    page.get_by_label("Be this sure").fill("60")
    page.get_by_label("on", exact=True).select_option(label="every day")
    page.get_by_role("button", name="Seek").click()
    expect(page.get_by_test_id("headline")).to_contain_text(
        re.compile("min of driving on every day")
    )


@ELSEWHERE
@ON_THE_DESK
def test_what_helps_from_here_needs_no_shop(page: Page, server: Server) -> None:
    copied_log(page, server)
    open_page(page, "improve")
    text = page.get_by_text(re.compile("^From where it stands now, it lasts in"))
    expect(text).to_contain_text("Only what needs no shop is weighed.")
    rows = page.get_by_test_id("changes")
    expect(rows).to_contain_text("Without light trap")
    expect(rows).not_to_contain_text("The same battery once more")
    page.get_by_role("radio", name="the whole plan").click()
    expect(page.get_by_text(re.compile("^As it is, it lasts in"))).to_be_visible()
    expect(rows).to_contain_text("The same battery once more")


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


@ON_THE_DESK
def test_a_ragged_table_is_shown_put_right_and_stored(page: Page, tmp_path: Path) -> None:
    file = tmp_path / "box.csv"
    file.write_text(RAGGED)
    open_page(page, "log?view=monitor")
    page.get_by_label("Choose a CSV file").set_input_files(file)
    rows = page.get_by_test_id("first-rows").get_by_role("row")
    expect(rows).to_have_count(4)
    expect(rows.nth(1)).to_contain_text("13.21")
    expect(rows.nth(1)).to_contain_text("-3.2")
    expect(page.get_by_text("3 rows can be read, 3 of them lie on the trip")).to_be_visible()
    expect(page.get_by_text("line 5:")).to_be_visible()
    page.get_by_label("A positive current discharges").click()
    expect(rows.nth(1)).not_to_contain_text("-3.2")
    page.get_by_label("A positive current discharges").click()
    page.get_by_role("button", name="Store 3 samples").click()
    expect(page.get_by_test_id("import-done")).to_contain_text("Stored 3 samples")
    expect(page.get_by_test_id("import-done")).to_contain_text("2 were not taken")
    expect(page.get_by_test_id("stored")).to_contain_text("3 samples stored")
    damaged = tmp_path / "picture.csv"
    damaged.write_bytes(b"\x89PNG\r\n\x1a\n\x00")
    page.get_by_label("Choose a CSV file").set_input_files(damaged)
    expect(page.get_by_role("alert")).to_contain_text("Export it from the monitor as CSV")


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
@ON_THE_DESK
def test_forecasts_are_scored_and_a_capacity_test_is_guided(page: Page, server: Server) -> None:
    copied_log(page, server)
    open_page(page, "log?view=learned")
    expect(page.get_by_test_id("score")).to_contain_text("lay in the band")
    expect(page.get_by_role("img", name=re.compile("foreseen .* came"))).to_be_visible()
    page.get_by_text("A capacity test: what the battery really holds").click()
    expect(page.get_by_text("set the counter of your monitor to nought")).to_be_visible()
    page.get_by_label("Went out since full").fill("30")
    page.get_by_label("Rested voltage at the end").fill("13.3")
    page.get_by_label("Rested voltage at the end").press("Enter")
    page.get_by_role("button", name="What does it hold?").click()
    expect(page.get_by_role("alert")).to_contain_text("too full to tell")
    expect(page.get_by_label("Went out since full")).to_have_value("30")
    page.get_by_label("Went out since full").fill("58")
    page.get_by_label("Rested voltage at the end").fill("12.85")
    page.get_by_label("Rested voltage at the end").press("Enter")
    page.get_by_role("button", name="What does it hold?").click()
    expect(page.get_by_test_id("capacity-found")).to_contain_text("% of its label")
    page.get_by_role("button", name=re.compile("^Take .* Ah over")).click()
    saved(page)
    expect(page.get_by_role("button", name="Undo", exact=True)).to_be_enabled()


@ELSEWHERE
def test_a_reading_is_noted_with_one_thumb_and_a_thing_is_ticked(
    page: Page, server: Server
) -> None:
    copied_log(page, server)
    open_page(page, "today")
    expect(page.get_by_role("link", name="Today")).to_be_visible()
    asked = page.get_by_role("region", name="How was yesterday?")
    asked.get_by_role("button", name="Did", exact=True).click()
    expect(page.get_by_text("Noted: panel out until")).to_be_visible()
    expect(asked).to_have_count(0)
    pad = page.get_by_role("region", name="What do you read?")
    for figure in ("4", "8"):
        pad.get_by_role("button", name=figure, exact=True).click()
    expect(pad.get_by_label("The figure")).to_have_text("48 %")
    pad.get_by_role("button", name="Note it").click()
    expect(page.get_by_text("Noted: monitor says 48 %")).to_be_visible()
    pad.get_by_role("button", name="Ah out").click()
    expect(pad.get_by_label("The figure")).to_have_text("70.8 Ah")
    for figure in ("7", "5"):
        pad.get_by_role("button", name=figure, exact=True).click()
    pad.get_by_role("button", name="Note it").click()
    expect(page.get_by_text("Noted: counted 75 Ah out")).to_be_visible()
    pad.get_by_role("button", name="monitor %").click()
    for figure in ("9", "9", "9"):
        pad.get_by_role("button", name=figure, exact=True).click()
    pad.get_by_role("button", name="Note it").click()
    expect(pad.get_by_role("alert")).to_contain_text("100")


@ELSEWHERE
@ON_THE_DESK
def test_a_broker_is_set_refused_where_it_stands_and_left_again(page: Page) -> None:
    open_page(page, "log?view=monitor")
    section = page.get_by_role("region", name="MQTT broker")
    section.get_by_text("An MQTT broker of your own").click()
    section.get_by_label("Its address").fill("nowhere")
    section.get_by_label("The topic").fill("van/battery")
    section.get_by_label("Volts stand at").fill("$.volts")
    section.get_by_role("button", name="Use this broker").click()
    expect(section.get_by_role("alert")).to_contain_text("Write it like 127.0.0.1:1883.")
    section.get_by_label("Its address").fill("127.0.0.1:9")
    section.get_by_role("button", name="Use this broker").click()
    expect(section.get_by_text("MQTT broker at 127.0.0.1:9")).to_be_visible()
    expect(section.get_by_test_id("broker-says")).to_contain_text("The broker is away")
    expect(section.get_by_label("Volts stand at")).to_have_value("$.volts")
    section.get_by_role("button", name="Use none").click()
    expect(section.get_by_text("An MQTT broker of your own")).to_be_visible()
