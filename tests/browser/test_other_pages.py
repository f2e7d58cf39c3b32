"""Use, Box and Log, driven as a user drives them."""

from __future__ import annotations

import json
import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import BEHIND, ELSEWHERE, ON_THE_DESK, at_rest, drag, open_page, saved


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


@ELSEWHERE
def test_hours_have_a_keyboard_twin(page: Page) -> None:
    open_page(page, "use")
    page.get_by_role("button", name=re.compile("^Laptop, 20:30 to 22:30")).focus()
    page.keyboard.press("Shift+ArrowRight")
    page.keyboard.press("ArrowLeft")
    expect(page.get_by_role("button", name=re.compile("^Laptop, 20:25 to 22:30"))).to_be_focused()


@ELSEWHERE
@ON_THE_DESK
def test_watts_and_amps_show_each_other(page: Page) -> None:
    open_page(page, "use")
    page.get_by_role("button", name=re.compile("^Light trap 12 V")).click()
    watts = page.get_by_label("Power while it runs")
    amps = page.get_by_label("or current at the battery")
    was = float(amps.input_value())
    watts.fill("46")
    watts.press("Enter")
    expect(amps).not_to_have_value(str(was))
    assert float(amps.input_value()) == pytest.approx(2 * was, rel=0.05)
    amps.fill("0,5")
    amps.press("Enter")
    expect(watts).to_have_value(re.compile(r"^6\.[3-9]"))


@ELSEWHERE
def test_a_negative_power_is_refused_at_the_field(page: Page) -> None:
    open_page(page, "use")
    headline = page.get_by_test_id("headline").text_content()
    page.get_by_role("button", name=re.compile("^Light trap 12 V")).click()
    watts = page.get_by_label("Power while it runs")
    watts.fill("-5")
    expect(page.get_by_role("alert")).to_contain_text("-5 is too little. Enter 0.001 to 5,000 W.")
    watts.press("Escape")
    expect(page.get_by_role("alert")).to_have_count(0)
    expect(page.get_by_test_id("headline")).to_have_text(headline or "")


@ELSEWHERE
def test_an_appliance_comes_from_the_shelf_and_goes_again(page: Page) -> None:
    open_page(page, "use")
    page.get_by_role("button", name="fan", exact=True).click()
    sheet = page.get_by_role("dialog", name="Fan")
    expect(sheet.get_by_label("Power while it runs")).to_have_value("6")
    sheet.get_by_role("radio", name="measured").click()
    expect(page.get_by_role("button", name=re.compile("^Fan.*measured"))).to_be_attached()
    sheet.get_by_role("button", name="Remove it").click()
    expect(page.get_by_role("button", name=re.compile("^Fan"))).to_have_count(0)


@ELSEWHERE
def test_appliances_change_places_by_keyboard(page: Page) -> None:
    open_page(page, "use")
    page.get_by_role("button", name=re.compile("^Move Laptop")).focus()
    page.keyboard.press("ArrowUp")
    movers = page.get_by_role("button", name=re.compile("^Move "))
    expect(movers.nth(1)).to_have_attribute("aria-label", re.compile("^Move Laptop"))


@ELSEWHERE
def test_a_bigger_battery_lifts_the_lowest_level(page: Page) -> None:
    open_page(page, "box")
    before = page.get_by_test_id("strip-lowest").text_content()
    capacity = page.get_by_role("textbox", name="Capacity of one battery")
    capacity.fill("150")
    capacity.press("Enter")
    expect(page.get_by_test_id("strip-lowest")).not_to_have_text(before or "")
    expect(
        page.get_by_role("button", name=re.compile("^LiFePO4,? 150 Ah.* Battery"))
    ).to_be_visible()


@ELSEWHERE
@ON_THE_DESK
def test_ten_thousand_amp_hours_are_refused(page: Page) -> None:
    open_page(page, "box")
    capacity = page.get_by_role("textbox", name="Capacity of one battery")
    capacity.fill("10000")
    capacity.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text(
        "10000 is too much. Enter 1 to 1,500 Ah. The plan stays as it was."
    )
    expect(
        page.get_by_role("button", name=re.compile("^LiFePO4,? 90 Ah.* Battery"))
    ).to_be_visible()


@ELSEWHERE
@ON_THE_DESK
def test_two_batteries_in_series_on_twelve_volts_are_refused_in_words(page: Page) -> None:
    open_page(page, "box")
    series = page.get_by_role("textbox", name="In series")
    series.fill("2")
    series.press("Enter")
    expect(page.get_by_role("alert").first).to_contain_text(
        "make 24 V, but this box runs at 12 V. Wire them in parallel, or set the box to 24 V."
    )
    expect(series).to_have_value("1")


@ELSEWHERE
def test_each_source_says_what_limits_it(page: Page) -> None:
    open_page(page, "box")
    page.get_by_role("button", name=re.compile("Roof and folding panel: could give")).click()
    expect(page.get_by_test_id("limit")).to_contain_text("the controller passes 8 A")
    limit = page.get_by_role("textbox", name="Controller’s output limit")
    limit.fill("15")
    limit.press("Enter")
    expect(page.get_by_test_id("limit")).to_contain_text("the sun is the limit")


@ELSEWHERE
def test_parts_are_removed_and_added_again(page: Page) -> None:
    open_page(page, "box")
    page.get_by_role("button", name=re.compile("DC-DC charger: could give")).click()
    page.get_by_role("button", name="Remove it").click()
    expect(page.get_by_role("button", name=re.compile("DC-DC charger: could give"))).to_have_count(
        0
    )
    add_part(page, "DC-DC charger")
    expect(page.get_by_role("button", name=re.compile("DC-DC charger: could give"))).to_be_visible()


@ELSEWHERE
def test_a_chosen_day_shows_its_own_flows(page: Page) -> None:
    open_page(page, "box")
    page.get_by_role("radio", name="Thu 11").click()
    expect(
        page.get_by_role("button", name=re.compile("DC-DC charger: could give 0.0 = 0.0 Ah"))
    ).to_be_visible()


@ON_THE_DESK
def test_plans_are_switched_and_files_come_in(page: Page, tmp_path: Path) -> None:
    page.get_by_role("button", name=re.compile("Moth survey")).click()
    page.get_by_role("menuitem", name="Family coast weekend, 24 V box").click()
    expect(page.get_by_test_id("lowest")).to_have_count(4)
    damaged = tmp_path / "damaged.json"
    damaged.write_text('{"name": "half a pl')
    page.get_by_label("Plan file").set_input_files(damaged)
    expect(page.get_by_role("alert")).to_contain_text("breaks off")
    newer = tmp_path / "newer.json"
    newer.write_text(json.dumps({"version": 9}))
    page.get_by_label("Plan file").set_input_files(newer)
    expect(page.get_by_role("alert")).to_contain_text("newer program (version 9)")
    expect(page.get_by_test_id("lowest")).to_have_count(4)


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


@ELSEWHERE
@ON_THE_DESK
def test_another_chemistry_brings_its_own_voltages(page: Page) -> None:
    open_page(page, "box")
    expect(page.get_by_label("Absorption", exact=True)).to_have_value("14.2")
    page.get_by_role("radio", name="AGM lead-acid").click()
    expect(page.get_by_label("Absorption", exact=True)).to_have_value("14.4")
    expect(page.get_by_label("Float", exact=True)).to_have_value("13.6")
    saved(page)
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_label("Absorption", exact=True)).to_have_value("14.2")


@ELSEWHERE
@ON_THE_DESK
def test_a_hundredth_of_a_volt_is_kept_and_shown(page: Page) -> None:
    open_page(page, "box")
    absorption = page.get_by_label("Absorption", exact=True)
    absorption.fill("14,25")
    absorption.press("Enter")
    saved(page)
    page.reload()
    expect(page.get_by_label("Absorption", exact=True)).to_have_value("14.25")


@ELSEWHERE
def test_a_slider_moves_the_strip_before_it_is_let_go(page: Page) -> None:
    open_page(page, "box")
    before = page.get_by_test_id("strip-lowest").text_content() or ""
    thumb = page.get_by_role("slider", name="Capacity of one battery")
    thumb.focus()
    # What is only tried stays behind the plan for as long as the thumb is held.
    page.remove_locator_handler(page.locator(BEHIND))
    for _ in range(8):
        page.keyboard.press("ArrowRight")
    expect(page.get_by_role("textbox", name="Capacity of one battery")).to_have_value("130")
    expect(page.get_by_test_id("strip-lowest")).not_to_have_text(before)


@ON_THE_DESK
def test_a_drive_in_the_hour_that_the_clocks_skip_is_refused(page: Page) -> None:
    page.get_by_role("button", name=re.compile("Moth survey")).click()
    page.get_by_role("menuitem", name="Family coast weekend, 24 V box").click()
    expect(page.get_by_test_id("lowest")).to_have_count(4)
    page.get_by_role("slider", name="Cursor over the trip").focus()
    label = page.get_by_role("slider", name="Cursor over the trip")
    while "Sun 29" not in (label.get_attribute("aria-valuetext") or ""):
        page.keyboard.press("ArrowDown")
        if "Mon 30" in (label.get_attribute("aria-valuetext") or ""):
            page.keyboard.press("ArrowUp")
    page.get_by_role("button", name="panel out", exact=True).click()
    block = page.get_by_role("button", name=re.compile("^panel out, Sun 29"))
    expect(block).to_be_visible()
    saved(page)
    block.focus()
    page.keyboard.press("Enter")
    start = page.get_by_label("From", exact=True)
    start.fill("02:30")
    start.press("Enter")
    expect(page.get_by_text("02:30 does not exist on Sun 29 Mar")).to_be_visible()
    expect(block).to_have_attribute("aria-label", re.compile("09:00 to 17:00"))
    saved(page)
    page.get_by_role("button", name="Undo").click()


@pytest.mark.parametrize("page", ["phone"], indirect=True)
def test_no_page_is_wider_than_the_screen(page: Page) -> None:
    for name in ("Use", "Box", "Trip", "Improve", "Log"):
        page.get_by_role("navigation").get_by_role("link", name=name).click()
        page.wait_for_timeout(400)
        assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth"), name


@ELSEWHERE
def test_a_saved_state_is_named_looked_at_and_gone_back_to(page: Page) -> None:
    open_page(page, "use")
    page.get_by_role("button", name=re.compile("^Laptop, 20:30 to 22:30")).focus()
    page.keyboard.press("Shift+ArrowRight")
    saved(page)
    page.locator("header button[aria-haspopup=menu]").click()
    page.get_by_role("menuitem", name="What was saved").click()
    past = page.get_by_role("dialog").get_by_role("listitem")
    oldest = past.filter(has_text="Name it").last
    oldest.get_by_role("button", name="Name it").click()
    page.get_by_label("Its name").fill("As it came")
    page.get_by_role("button", name="Keep the name").click()
    named = past.filter(has_text="As it came")
    expect(named).to_be_visible()
    named.get_by_role("button", name="Go back to it").click()
    expect(page.get_by_role("button", name=re.compile("^Laptop, 20:30 to 22:30"))).to_be_visible()
