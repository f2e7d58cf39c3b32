"""Every kind of battery, source, load and trip, reached from the pages as a user reaches it."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import (
    ELSEWHERE,
    ON_THE_DESK,
    at_rest,
    open_page,
    other_plan,
    saved,
)
from tests.browser.test_other_pages import add_part, go

pytestmark = ON_THE_DESK


def figure(page: Page, test_id: str) -> str:
    return page.get_by_test_id(test_id).text_content() or ""


def choose(page: Page, name: str) -> None:
    page.get_by_role("radio", name=name, exact=True).click()


@ELSEWHERE
def test_lead_of_any_kind_moves_the_level(page: Page) -> None:
    open_page(page, "box")
    as_lithium = figure(page, "strip-lowest")
    for chemistry in ("AGM lead-acid", "Gel lead-acid", "Flooded lead-acid"):
        choose(page, chemistry)
        saved(page)
        assert figure(page, "strip-lowest") != as_lithium
        expect(page.get_by_text(re.compile("Half of it is usable"))).to_be_visible()


@ELSEWHERE
def test_cells_that_do_not_make_the_boxes_voltage_are_refused_and_nothing_is_lost(
    page: Page,
) -> None:
    open_page(page, "box")
    choose(page, "Li-ion (NMC)")
    saved(page)
    page.get_by_text("Charging ends, cells").click()
    cells = page.get_by_label("Cells in one battery")
    cells.fill("2")
    cells.press("Enter")
    expect(page.get_by_role("alert").first).to_contain_text("make 7.4 V")
    expect(page.get_by_text("3 to 4 cells").or_(page.get_by_text("Use 4 cells"))).to_be_visible()
    page.reload()
    go(page, "Box")
    expect(page.get_by_role("radio", name="Li-ion (NMC)")).to_have_attribute("data-state", "on")


@ELSEWHERE
def test_a_relay_a_socket_and_a_trickle_charger_can_be_added_and_ordered(page: Page) -> None:
    open_page(page, "box")
    add_part(page, "voltage-sensitive relay")
    expect(page.get_by_test_id("limit")).to_contain_text("h of drives")
    page.get_by_role("button", name="earlier").click()
    expect(page.get_by_text("let in 2. of 4")).to_be_visible()
    saved(page)
    add_part(page, "trickle charger")
    expect(page.get_by_label("Absorption", exact=True)).to_have_value("13.7")
    page.get_by_role("button", name=re.compile("Each charger by itself")).click()
    order = page.get_by_role("list", name="Order in which sources are let in")
    expect(order.get_by_role("listitem")).to_have_count(5)


@ELSEWHERE
def test_one_combined_charger_holds_sun_and_alternator_to_one_limit(page: Page) -> None:
    open_page(page, "box")
    page.get_by_role("button", name="Each charger by itself").click()
    choose(page, "one combined charger")
    limit = page.get_by_label("Its one output limit")
    limit.fill("6")
    limit.press("Enter")
    saved(page)
    held = page.get_by_role("button", name=re.compile("Roof and folding panel: could give"))
    expect(held).to_have_attribute("aria-label", re.compile(r"− [1-9]\d* held back"))
    expect(page.get_by_test_id("strip-lowest")).not_to_have_text("11 %")


@ELSEWHERE
def test_a_selector_keeps_one_source_away_while_another_gives(page: Page) -> None:
    open_page(page, "box")
    page.get_by_role("button", name="Each charger by itself").click()
    choose(page, "a selector switch")
    panel = page.get_by_role("button", name=re.compile("Roof and folding panel: could give"))
    expect(panel).to_have_attribute("aria-label", re.compile("kept away"))


@ELSEWHERE
def test_a_thin_feed_cable_starves_the_charger_and_says_so(page: Page) -> None:
    open_page(page, "box")
    page.get_by_role("button", name=re.compile("DC-DC charger: could give")).click()
    page.get_by_text("Cable and alternator").click()
    for label, value in (("Copper", "2.5"), ("Cable, one way", "9")):
        field = page.get_by_label(label)
        field.fill(value)
        field.press("Enter")
    expect(page.get_by_test_id("limit")).to_contain_text(
        "able, the fuse or the alternator passes as little as"
    )
    expect(page.get_by_text(re.compile("its input is held down"))).to_be_visible()


def test_frost_bars_charging_until_pads_warm_the_battery(page: Page) -> None:
    other_plan(page, "winter-caravan")
    go(page, "Box")
    page.get_by_role("button", name=re.compile("^Warmth")).click()
    expect(page.get_by_test_id("warmth")).not_to_contain_text("bars charging")
    page.get_by_role("button", name="Remove the pads").click()
    expect(page.get_by_test_id("warmth")).to_contain_text("Cold bars charging for")
    saved(page)
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_test_id("warmth")).not_to_contain_text("bars charging")


@ELSEWHERE
def test_a_panels_label_is_checked_where_it_is_typed(page: Page) -> None:
    open_page(page, "box")
    page.get_by_role("button", name=re.compile("Roof and folding panel: could give")).click()
    page.get_by_label("Enter its whole label").first.click()
    vmp = page.get_by_label("Vmp", exact=True)
    expect(vmp).to_have_value("18")
    vmp.fill("24")
    vmp.press("Enter")
    expect(page.get_by_role("alert").first).to_contain_text("not below Voc")


@ELSEWHERE
def test_a_fridge_set_colder_takes_more(page: Page) -> None:
    open_page(page, "use")
    page.get_by_role("button", name=re.compile("^Cool box, 28 L")).first.click()
    before = figure(page, "strip-lowest")
    colder = page.get_by_label("Set to")
    colder.fill("-12")
    colder.press("Enter")
    expect(page.get_by_test_id("strip-lowest")).not_to_have_text(before)


@ELSEWHERE
def test_what_goes_first_is_shed_and_counted(page: Page) -> None:
    open_page(page, "use")
    page.get_by_text("First to go when the level falls, and quiet hours").click()
    for shelf, value in (("Goes first", "60"), ("Goes when it must", "50")):
        field = page.get_by_role("region", name=shelf).get_by_label("off below")
        field.fill(value)
        field.press("Enter")
    saved(page)
    page.get_by_role("navigation").get_by_role("link", name="Trip").click()
    expect(page.get_by_test_id("headline")).to_contain_text("by switching things off")


def test_an_outage_answers_how_long_the_box_lasts(page: Page) -> None:
    other_plan(page, "canal-standby")
    headline = page.get_by_test_id("headline")
    expect(headline).to_contain_text("Without mains your box lasts 76 h")
    outages = page.get_by_role("button", name=re.compile("^outage,"))
    expect(outages).to_have_count(2)
    outages.first.press("Delete")
    expect(outages).to_have_count(0)
    expect(headline).not_to_contain_text("76 h")
    page.get_by_role("button", name="outage", exact=True).click()
    expect(outages.first).to_be_visible()


def test_a_trip_of_months_has_a_row_a_month_and_a_press_opens_a_fortnight(page: Page) -> None:
    other_plan(page, "gauging-hut")
    rows = page.get_by_role("group", name=re.compile("level and blocks"))
    expect(rows).to_have_count(14)
    months = page.get_by_role("img", name="9 months, each day's range of the level")
    box = at_rest(months)
    assert box is not None
    # The twelfth of the first month: a name of 92 px, then 31 days in each row of 44 px.
    day_px = (box["width"] - 96) / 31
    months.click(position={"x": 92 + 11.5 * day_px, "y": 22})
    expect(page.get_by_role("button", name=re.compile("^Tue 10 Mar hut"))).to_be_visible()


def test_the_months_are_walked_by_keyboard(page: Page) -> None:
    other_plan(page, "gauging-hut")
    slider = page.get_by_role("slider", name="First day on the board")
    slider.focus()
    slider.press("Home")
    expect(page.get_by_role("button", name=re.compile("^Tue 10 Mar hut"))).to_be_visible()


def test_a_frosty_day_is_typed_into_its_menu(page: Page) -> None:
    page.get_by_role("button", name=re.compile("^Mon 8 .*change the day")).click()
    low = page.get_by_label("Coldest")
    low.fill("-11")
    low.press("Enter")
    expect(page.get_by_text("−11 to 11°")).to_be_visible()


def test_the_cursor_says_how_long_the_box_lasts_alone(page: Page) -> None:
    cursor = page.get_by_role("slider", name="Cursor over the trip")
    for _ in range(4):
        cursor.press("ArrowUp")
    expect(cursor).to_have_attribute("aria-valuetext", re.compile(r"without any source \d"))


@ELSEWHERE
def test_a_generator_has_hours_of_its_own_and_a_place_where_it_must_not_stand(page: Page) -> None:
    open_page(page, "box")
    add_part(page, "fuel generator")
    sheet = page.get_by_role("complementary", name="Sheet of the chosen part")
    expect(sheet.get_by_role("heading", name="From a fuel generator")).to_be_visible()
    expect(sheet.get_by_text("No run of the generator on this trip")).to_be_visible()
    choose(page, "inside")
    expect(sheet.get_by_text("Its exhaust holds carbon monoxide")).to_be_visible()
    choose(page, "in the open")
    expect(sheet.get_by_text("Its exhaust holds carbon monoxide")).to_have_count(0)
    # The usual caution stands there whatever its place is.
    expect(sheet.get_by_text("Exhaust kills without a smell")).to_be_visible()
    saved(page)
    page.get_by_role("navigation").get_by_role("link", name="Trip").click()
    page.get_by_role("button", name="generator", exact=True).click()
    expect(page.get_by_role("button", name=re.compile("^generator, "))).to_have_count(1)
    saved(page)
    go(page, "Box")
    page.get_by_role("button", name=re.compile("^Generator")).press("Enter")
    expect(sheet.get_by_text(re.compile("On this trip it put in"))).to_be_visible()
    expect(sheet.get_by_text(re.compile("runs 2.0 h on this trip"))).to_be_visible()


@ELSEWHERE
def test_a_battery_gets_a_curve_of_its_own(page: Page) -> None:
    open_page(page, "box")
    page.get_by_text("Its own voltage curve").click()
    box = page.get_by_role("textbox", name=re.compile("A level in % and volts"))
    box.fill("20 13.4\n90 12.9")
    page.get_by_role("button", name="Read the curve").click()
    expect(page.get_by_role("alert")).to_contain_text("falls from 13.40 V at 20 %")
    expect(box).to_have_value("20 13.4\n90 12.9")
    box.fill("90 13.36\n50 13.20\n20 12.90")
    page.get_by_role("button", name="Read the curve").click()
    expect(page.get_by_test_id("curve-says")).to_contain_text("3 points between 20 and 90 %")
    expect(page.get_by_role("img", name=re.compile("Rested volts by level"))).to_be_visible()
    saved(page)
    page.get_by_role("button", name="Leave the curve out").click()
    expect(page.get_by_role("img", name=re.compile("Rested volts by level"))).to_have_count(0)
    page.get_by_text("in a steady discharge").click()
    page.get_by_role("button", name="Read the curve").click()
    expect(page.get_by_role("alert")).to_contain_text("current of the discharge is missing")
