"""Parts that people have: a load output, a socket's inverter, a unit's inputs, outlets of mains."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import ELSEWHERE, ON_THE_DESK, open_page, saved
from tests.browser.test_every_part import other_plan
from tests.browser.test_other_pages import go

pytestmark = ON_THE_DESK


def type_in(page: Page, label: str, value: str) -> None:
    field = page.get_by_role("textbox", name=label, exact=True)
    field.fill(value)
    field.press("Enter")


@ELSEWHERE
def test_a_lamp_hangs_on_the_controllers_load_output(page: Page) -> None:
    open_page(page, "box")
    page.get_by_role("button", name=re.compile("Roof and folding panel: could give")).click()
    page.get_by_text("Its load output", exact=True).click()
    page.get_by_role("button", name="Something hangs on its load output").click()
    page.get_by_role("switch", name="12 V kettle hangs on it").click()
    saved(page)
    # Its 140 W are more than the 10 A that such an output gives.
    expect(
        page.get_by_text(re.compile(r"On the controller’?'?s load output 1\d\.\d A"))
    ).to_be_visible()
    type_in(page, "comes back above", "11.0")
    expect(page.get_by_role("alert").first).to_contain_text("it would chatter")
    type_in(page, "comes back above", "12.6")
    saved(page)
    page.get_by_role("button", name="Nothing hangs on it").click()
    expect(page.get_by_role("button", name="Something hangs on its load output")).to_be_visible()


@ELSEWHERE
def test_an_inverter_in_a_socket_is_bound_by_its_fuse(page: Page) -> None:
    open_page(page, "box")
    page.get_by_role("button", name=re.compile(r"^Inverter, \d+ W")).click()
    type_in(page, "Plugged into a 12 V socket fused for", "10")
    saved(page)
    expect(
        page.get_by_text(re.compile("through a socket fused for 10 A it gives 78 W"))
    ).to_be_visible()


@ELSEWHERE
def test_a_charger_has_a_second_absorption_and_a_refresh(page: Page) -> None:
    open_page(page, "box")
    page.get_by_role("button", name=re.compile("Mains charger: could give")).press("Enter")
    # The sheet of another part stands there until then, with a fold of the same name.
    expect(page.get_by_role("heading", name="From the mains")).to_be_visible()
    page.get_by_text("Voltages and noise", exact=True).click()
    page.get_by_role("switch", name="It has voltages of its own").click()
    type_in(page, "Second absorption", "15.2")
    saved(page)
    expect(page.get_by_text(re.compile("15.2 V in a second absorption")).first).to_be_visible()
    type_in(page, "Charges anew after", "14")
    saved(page)


def test_a_units_input_holds_its_panel(page: Page) -> None:
    other_plan(page, "coast-unit")
    go(page, "Box")
    page.get_by_role("button", name=re.compile("^Ready-made, 1000 Wh")).click()
    page.get_by_role("button", name="Add an input with a limit of its own").click()
    page.get_by_role("switch", name="Folding panel goes in here").click()
    type_in(page, "Takes at most", "20")
    saved(page)
    page.get_by_role("button", name=re.compile("Folding panel: could give")).click()
    expect(page.get_by_test_id("limit")).to_contain_text("the input takes 20 W")


@ELSEWHERE
def test_an_outlet_of_mains_is_named_bought_and_left_to_licensed_people(page: Page) -> None:
    open_page(page, "build?view=circuits")
    outlets = page.get_by_role("region", name="Mains outlets")
    outlets.get_by_role("button", name="Add a mains outlet").click()
    expect(outlets).to_contain_text("licensed work")
    name = outlets.get_by_role("textbox", name="Outlet’s name")
    name.fill("Desk")
    name.press("Enter")
    saved(page)
    open_page(page, "build?view=parts")
    expect(page.get_by_role("row", name=re.compile("Mains outlet, Desk"))).to_be_visible()
    expect(page.get_by_role("row", name=re.compile("Residual-current device"))).to_be_visible()


@ELSEWHERE
def test_the_price_of_a_unit_in_the_shop_is_what_it_is_compared_with(page: Page) -> None:
    open_page(page, "build?view=parts")
    aside = page.get_by_role("complementary", name="What it comes to")
    aside.get_by_role("button", name="Type the price of one you have in mind").click()
    type_in(page, "Its price", "777")
    type_in(page, "On its label", "900")
    saved(page)
    expect(aside.get_by_test_id("ready-made")).to_contain_text("of 900 Wh: € 777 and")
    aside.get_by_role("button", name="Compare with a usual one").click()
    expect(aside.get_by_test_id("ready-made")).to_contain_text("as much as this box")
