"""The sentence as the handle of a plan, labels that are pasted, long questions."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import BEHIND, ELSEWHERE, ON_THE_DESK, open_page, saved
from tests.support import http
from tests.support.serving import Server

BATTERY = "12.8V 105Ah LiFePO4 BMS 100A max charge 50A\nCCA 600A"
PANEL = "Pmax 400W, Vmp 18V, Imp 5.56A, Voc 21.6V, Isc 5.9A\nMaximum system voltage 600 V"


def plan_of(page: Page, server: Server) -> dict:
    plan = page.url.split("/plan/")[1].split("/")[0]
    return http.get(f"{server.url}/api/plans/{plan}").json()["document"]


@ELSEWHERE
def test_the_plans_sentence_opens_the_same_pickers_and_changes_that_alone(
    page: Page, server: Server
) -> None:
    open_page(page, "trip")
    before = plan_of(page, server)
    sentence = page.get_by_test_id("plan-sentence")
    sentence.locator("[data-part=bank]").click()
    sheet = page.get_by_role("dialog", name="What is the box?")
    sheet.get_by_label("Capacity of one battery, another size").fill("150")
    expect(sentence).to_contain_text("150 Ah lithium box")
    saved(page)
    after = plan_of(page, server)
    assert after["box"]["battery"].pop("capacity_ah") == 150
    assert before["box"]["battery"].pop("capacity_ah") == 90
    assert after == before
    page.keyboard.press("Escape")
    # One press takes the whole size back, however many keys it took.
    page.get_by_role("button", name="Undo").click()
    expect(sentence).to_contain_text("90 Ah lithium box")


@ELSEWHERE
def test_a_thing_is_ticked_and_said_by_its_day_on_a_plans_page(page: Page, server: Server) -> None:
    open_page(page, "trip")
    page.get_by_test_id("plan-sentence").locator("[data-part=things]").click()
    sheet = page.get_by_role("dialog", name="What do you run?")
    sheet.get_by_role("button", name="a fan", exact=True).click()
    expect(sheet.get_by_label("What Fan takes", exact=True)).to_be_visible()
    sheet.get_by_label("What Fan takes", exact=True).fill("3")
    saved(page)
    page.wait_for_timeout(600)
    saved(page)
    fan = next(a for a in plan_of(page, server)["use"]["appliances"] if a["name"] == "Fan")
    daily = fan["power_w"] * 24 * fan.get("duty_percent", 100) / 100
    assert 3 * 12 < daily < 3 * 14
    if page.viewport_size and page.viewport_size["width"] < 600:
        # The sheet covers the answer, so that it stands in the sheet.
        expect(sheet.get_by_role("button", name="Done")).to_be_in_viewport()


@ON_THE_DESK
@ELSEWHERE
def test_a_label_is_read_beside_the_battery_and_taken_over(page: Page, server: Server) -> None:
    open_page(page, "box?part=battery")
    page.get_by_text("Read its label").first.click()
    page.get_by_label("What stands on its label").fill(BATTERY)
    read = page.get_by_role("table", name="What was read")
    expect(read.get_by_role("row", name="105Ah")).to_contain_text("Capacity of one battery: 105 Ah")
    expect(read.get_by_role("row", name="600A")).to_contain_text("says nothing of capacity")
    page.get_by_role("button", name="Take it over").click()
    expect(page.get_by_label("Capacity of one battery").first).to_have_value("105")
    saved(page)
    battery = plan_of(page, server)["box"]["battery"]
    assert (battery["capacity_ah"], battery["datasheet"]["charge_limit_a"]) == (105, 50)


@ON_THE_DESK
def test_a_label_pasted_into_the_sentence_is_asked_about_where_it_disagrees(
    page: Page, server: Server
) -> None:
    page.goto(server.url)
    page.get_by_label(re.compile("or describe your trip")).evaluate(
        """(field, text) => {
            const data = new DataTransfer();
            data.setData("text", text);
            field.dispatchEvent(new ClipboardEvent("paste",
                { clipboardData: data, bubbles: true, cancelable: true }));
        }""",
        PANEL,
    )
    sheet = page.get_by_role("dialog", name="Read a label")
    expect(sheet).to_contain_text("Vmp x Imp is 100 W, but the label says 400 W")
    expect(sheet.get_by_role("button", name=re.compile("^Take"))).to_have_count(0)
    sheet.get_by_label("What stands on its label").fill(PANEL.replace("400W", "100W"))
    sheet.get_by_role("button", name="Take 100 W of panels").click()
    expect(page.locator("[data-part=chargers]")).to_contain_text("100 W folding panel")


@ON_THE_DESK
def test_a_year_is_answered_coarsely_first_and_says_so(page: Page, server: Server) -> None:
    held: list = []
    page.goto(server.url)
    expect(page.get_by_test_id("verdict")).to_be_visible()
    page.route(re.compile(r"/api/preview\?.*odds=full"), lambda route: held.append(route))  # noqa: PLW0108
    page.get_by_label(re.compile("or describe your trip")).fill(
        "9 Ah AGM, 6 W panel, logger, left alone 12 months"
    )
    page.get_by_role("button", name="Use this").click()
    expect(page.get_by_test_id("first-look")).to_be_visible()
    expect(page.locator("[data-part=length]")).to_contain_text("months")
    for route in held:
        route.continue_()
    expect(page.get_by_test_id("first-look")).to_have_count(0)
    expect(page.get_by_test_id("verdict")).to_be_visible()


@ON_THE_DESK
def test_figures_of_before_are_marked_while_a_plan_is_worked_out(
    page: Page, server: Server
) -> None:
    open_page(page, "trip")
    # Here the busy page is what is looked at.
    page.remove_locator_handler(page.locator(BEHIND))
    held: list = []
    let_go = False
    page.route(
        re.compile("/api/preview"),
        lambda route: route.continue_() if let_go else held.append(route),
    )
    page.get_by_test_id("plan-sentence").locator("[data-part=bank]").click()
    page.get_by_role("dialog").get_by_role("radio", name="200 Ah").click()
    expect(page.get_by_role("status").filter(has_text="Working it out")).to_be_visible()
    let_go = True
    for route in held:
        route.continue_()
    expect(page.get_by_role("status").filter(has_text="Working it out")).to_have_count(0)
