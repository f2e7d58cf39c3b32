"""The Build page, driven as a builder drives it: pick, fix, mend, drag, tick, print."""

from __future__ import annotations

import re
from pathlib import Path

import httpx
import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import (
    ELSEWHERE,
    ON_THE_DESK,
    PATIENCE_MS,
    at_rest,
    drag,
    middle,
    open_page,
    saved,
)
from tests.conftest import EXAMPLES
from tests.serving import Server

SOUND = re.compile("^12 circuits, with nothing against them, and everything fits")


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
def test_a_wire_opens_its_circuit_with_its_sums(page: Page) -> None:
    open_page(page, "build")
    page.get_by_role("button", name="Circuit 4, DC-DC charger, feed").click()
    sheet = page.get_by_role("complementary", name="The chosen circuit")
    expect(sheet.get_by_role("heading", name="4 · DC-DC charger, feed")).to_be_visible()
    sheet.get_by_text("How it was made").click()
    # 2 x 5 m x 0.0172 / 16 mm2 x 33.7 A
    expect(sheet.get_by_test_id("how")).to_contain_text("= 0.30 V, 2.1 % of 14.2 V; 3 % allowed.")
    page.reload()
    expect(sheet.get_by_role("heading", name="4 · DC-DC charger, feed")).to_be_visible()


@ELSEWHERE
@ON_THE_DESK
def test_a_thin_cable_is_a_danger_until_the_remedy_is_pressed(page: Page) -> None:
    open_page(page, "build?circuit=charge-dcdc")
    page.get_by_label("Cable", exact=True).select_option(label="1.5 mm²")
    headline(page, re.compile("Not safe yet: Circuit 5, DC-DC charger, output: a fuse"))
    expect(page.get_by_role("row", name=re.compile("1.5 mm² .fixed by you"))).to_be_visible()
    page.get_by_test_id("judged-fuse-over-cable").get_by_role("button", name="Use 6 mm²").click()
    headline(page, SOUND)
    saved(page)
    page.get_by_role("button", name="Undo").click()
    headline(page, re.compile("Not safe yet"))
    page.get_by_role("button", name="Leave it all to the tool").click()
    headline(page, SOUND)


@ELSEWHERE
@ON_THE_DESK
def test_a_negative_past_the_shunt_is_told_in_the_fault_finder_too(page: Page) -> None:
    open_page(page, "build?circuit=inverter")
    page.get_by_role("radio", name="battery side").click()
    headline(page, re.compile("its negative goes to the battery's side of the shunt"))
    page.get_by_role("radio", name="Fault finder").click()
    page.get_by_role("radio", name="the meter").click()
    finder = page.get_by_role("region", name="Fault finder")
    expect(finder).to_contain_text("circuit 7 does")
    # What is asked shows something else: that is it.
    finder.get_by_role("button", name="No", exact=True).click()
    expect(page.get_by_test_id("found")).to_contain_text("Move it to the load side")
    finder.get_by_role("button", name="That was not it").click()
    expect(finder).to_contain_text("Question 2 of")
    finder.get_by_role("button", name="Back one question").click()
    expect(finder).to_contain_text("Question 1 of")


@ELSEWHERE
@ON_THE_DESK
def test_a_cable_of_no_length_is_refused_where_it_is_typed(page: Page) -> None:
    open_page(page, "build?circuit=charge-mains")
    field = page.get_by_label("Run, one way")
    field.fill("0")
    field.press("Enter")
    expect(page.get_by_role("alert")).to_have_text(
        "0 is too little. Enter 0.05 to 60 m. The plan stays as it was."
    )
    field.fill("2.5")
    field.press("Enter")
    expect(page.get_by_role("row", name=re.compile("Mains charger, output.*2.5 m"))).to_be_visible()
    # Ten amperes over 2.5 m want 4 mm2.
    expect(page.get_by_label("Cable", exact=True)).to_contain_text("tool: 4 mm²")


@ELSEWHERE
@ON_THE_DESK
def test_a_feeds_cable_is_changed_on_the_box(page: Page) -> None:
    open_page(page, "build?circuit=feed-dcdc")
    page.get_by_label("Cable, as on Box").select_option(label="6 mm²")
    expect(page.get_by_test_id("judged-drop-over")).to_be_visible()
    saved(page)
    open_page(page, "box?part=vehicle:dcdc")
    expect(page.get_by_label("Copper").or_(page.get_by_label("Cable size")).first).to_have_value(
        "6"
    )


@ELSEWHERE
def test_an_outlet_is_added_filled_and_given_back(page: Page) -> None:
    open_page(page, "build")
    page.get_by_role("button", name="Add a 12 V outlet").click()
    headline(page, re.compile("^13 circuits, with nothing against them"))
    sheet = page.get_by_role("complementary", name="The chosen circuit")
    expect(sheet.get_by_role("heading", name="12 · Spare 12 V outlet")).to_be_visible()
    # Five amperes foreseen want the next fuse from 6.25 A.
    expect(sheet.get_by_label("Rating")).to_contain_text("tool: 7.5 A")
    name = sheet.get_by_label("Outlet’s name")
    name.fill("Tailgate")
    name.press("Enter")
    expect(page.get_by_role("button", name="Circuit 12, Tailgate")).to_be_visible()
    saved(page)
    open_page(page, "build?circuit=shared-1")
    sheet.get_by_label("Plug of Light trap").select_option(label="at 12, Tailgate")
    expect(sheet.get_by_label("Plug of Light trap")).to_have_count(0)
    saved(page)
    open_page(page, "build?circuit=own-1")
    expect(sheet.get_by_label("Plug of Light trap")).to_be_visible()
    sheet.get_by_role("button", name="Leave this outlet to the tool").click()
    headline(page, SOUND)


@ELSEWHERE
@ON_THE_DESK
def test_awg_sizes_are_chosen_for_those_who_buy_them(page: Page) -> None:
    open_page(page, "build")
    page.get_by_role("radio", name="AWG").click()
    expect(page.get_by_role("row", name=re.compile("^1 Battery .* AWG"))).to_be_visible()


@ELSEWHERE
@ON_THE_DESK
def test_a_price_of_ones_own_beats_the_guess_and_is_owned(page: Page) -> None:
    open_page(page, "build?view=parts")
    page.get_by_role("button", name="Price, weight and size of Inverter, 300 W").click()
    page.get_by_label("Price of one").fill("80")
    page.get_by_label("Price of one").press("Enter")
    row = page.get_by_role("row", name=re.compile("Inverter, 300 W"))
    expect(row).to_contain_text("80")
    expect(row).not_to_contain_text(" to ")
    page.keyboard.press("Escape")
    aside = page.get_by_role("complementary", name="What it comes to")
    before = aside.get_by_role("heading").inner_text()
    page.get_by_role("checkbox", name="Have Inverter, 300 W").click()
    expect(aside.get_by_role("heading")).not_to_have_text(before)
    against = aside.get_by_test_id("ready-made")
    expect(against).to_contain_text("panels apart in both")
    expect(against).to_contain_text(re.compile(r"this box lasts in \d+ of 100, the unit in \d+"))


@ELSEWHERE
@ON_THE_DESK
def test_prices_come_from_a_table_and_a_bad_one_changes_nothing(page: Page, tmp_path: Path) -> None:
    open_page(page, "build?view=parts")
    good, bad = tmp_path / "prices.csv", tmp_path / "bad.csv"
    good.write_text("part,euro_each,owned\nshunt,61,yes\nflux,1,no\n")
    bad.write_text("part,euro_each\nshunt,cheap\n")
    page.get_by_label("Prices from a CSV").set_input_files(good)
    expect(page.get_by_role("status")).to_have_text("1 parts read. 1 are not of this box: flux.")
    expect(page.get_by_role("row", name=re.compile("Shunt with monitor"))).to_contain_text("61")
    page.get_by_label("Prices from a CSV").set_input_files(bad)
    expect(page.get_by_role("alert")).to_contain_text("Line 2 says 'cheap' under euro_each.")
    expect(page.get_by_role("row", name=re.compile("Shunt with monitor"))).to_contain_text("61")


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
    headline(page, re.compile("does not go in yet"))
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
def test_a_box_smaller_than_the_battery_is_told_by_the_millimetre(page: Page) -> None:
    open_page(page, "build?view=fit")
    for label, value in (("Inner length", "300"), ("Inner width", "200"), ("Inner height", "230")):
        page.get_by_label(label).fill(value)
        page.get_by_label(label).press("Enter")
        saved(page)
    # 215 mm of battery and 40 above it in 230.
    expect(page.get_by_test_id("fit-verdict")).to_contain_text(
        "does not fit by 36 mm in length, even by itself"
    )
    expect(page.get_by_test_id("fit-verdict")).to_contain_text("The smallest usual box")


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
    page.get_by_role("button", name="Lay everything anew").click()
    expect(page.get_by_test_id("face-faults")).to_contain_text("13 fittings, each with room")


@ELSEWHERE
@ON_THE_DESK
def test_a_tick_is_dated_and_stands_in_the_log(page: Page) -> None:
    open_page(page, "build?view=checks")
    torque = page.get_by_role("checkbox", name=re.compile("Every stud and screw"))
    torque.check()
    expect(page.get_by_text(re.compile(r"ticked \w+ \d+ 20\d\d-"))).to_have_count(1)
    expect(page.get_by_text("1 of 27 done")).to_be_visible()
    page.reload()
    expect(torque).to_be_checked()
    page.get_by_role("button", name="Begin this list anew").click()
    expect(torque).not_to_be_checked()
    expect(page.get_by_text(re.compile(r"last \w+ \d+ 20\d\d-"))).to_have_count(1)
    open_page(page, "log")
    expect(page.get_by_text("Before first power: Every stud and screw")).to_be_visible()
    expect(page.get_by_test_id("headline")).to_have_text("Nothing is logged yet.")


@ELSEWHERE
@ON_THE_DESK
def test_a_tick_that_cannot_be_kept_is_taken_back_and_said(page: Page) -> None:
    open_page(page, "build?view=checks")
    torque = page.get_by_role("checkbox", name=re.compile("Every stud and screw"))
    page.route("**/ticks", lambda route: route.abort())
    torque.click()
    expect(page.get_by_role("alert")).to_contain_text("the tick was not kept")
    expect(torque).not_to_be_checked()
    page.unroute("**/ticks")
    torque.check()
    expect(page.get_by_text("1 of 27 done")).to_be_visible()
    expect(page.get_by_role("alert")).to_have_count(0)


@ELSEWHERE
@ON_THE_DESK
def test_expected_readings_come_from_the_model_of_this_plan(page: Page) -> None:
    open_page(page, "build?view=checks")
    line = page.get_by_role("listitem").filter(has_text="Mains charger on, battery at 60 %")
    expect(line).to_contain_text("expect 13.2 to 13.3 V, 9.0 to 10.0 A in")


@ELSEWHERE
@ON_THE_DESK
def test_sheets_are_printed_from_their_links(page: Page) -> None:
    open_page(page, "build?view=print")
    for sheet in ("booklet.pdf", "template.pdf", "schematic.svg", "parts.csv"):
        link = page.locator(f"a[href$='/print/{sheet}']")
        answer = page.request.get(page.url.split("/plan/")[0] + (link.get_attribute("href") or ""))
        assert answer.ok, sheet
        assert len(answer.body()) > 1000, sheet
    expect(page.get_by_text("A battery never switches off")).to_be_visible()


@ELSEWHERE
@ON_THE_DESK
def test_every_judgement_leads_to_its_circuit(page: Page) -> None:
    open_page(page, "build?circuit=outlet-kettle")
    page.get_by_label("Protection").select_option(label="nothing")
    saved(page)
    open_page(page, "use")
    page.keyboard.press("j")
    card = page.get_by_test_id("judged-circuit-unfused")
    card.get_by_role("link", name="show the part").click()
    expect(page.get_by_role("heading", name="9 · 12 V kettle")).to_be_visible()


@ELSEWHERE
@ON_THE_DESK
def test_a_ready_made_unit_is_not_built(page: Page, server: Server) -> None:
    sample = (EXAMPLES / "coast-unit.json").read_bytes()
    plan = httpx.post(
        f"{server.url}/api/plans/import", content=sample, timeout=PATIENCE_MS / 1000
    ).json()
    page.goto(f"{server.url}/plan/{plan['id']}/build")
    headline(page, re.compile("Nothing is built inside; 2 leads go to the unit"))
    expect(page.get_by_text("A ready-made unit is never opened")).to_be_visible()
    expect(page.get_by_role("region", name="What goes in")).to_contain_text("Folding panel")
    expect(page.get_by_role("radio", name="Box fit")).to_have_count(0)
