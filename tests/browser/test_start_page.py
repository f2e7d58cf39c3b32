"""The home page: a sentence that is completed, and what is kept of boxes and trips."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

import pytest
from playwright.sync_api import BrowserContext, Page, expect

from tests.browser.conftest import ELSEWHERE, ON_THE_DESK, SIZES
from tests.support import http
from tests.support.serving import SERVE, Server
from tests.support.tiers import NIGHTLY

PRESS_S, KEY_S, MAX_S, MAX_PRESSES = 1.5, 0.25, 60.0, 12


@dataclass
class Person:
    """Someone at the home page; counts presses and keys as they are made."""

    page: Page
    presses: int = 0
    keys: int = 0
    part: str = ""
    seconds: list[float] = field(default_factory=list)

    def open(self, part: str) -> None:
        if self.part:
            # Pressing beside a sheet closes it; Escape is one key.
            self.page.keyboard.press("Escape")
            self.keys += 1
        self.page.locator(f"[data-part={part}]").click()
        self.presses += 1
        self.part = part

    def press(self, name: str) -> None:
        sheet = self.page.get_by_role("dialog")
        sheet.get_by_role("button", name=name, exact=True).or_(
            sheet.get_by_role("radio", name=name, exact=True)
        ).first.click()
        self.presses += 1

    def fill(self, label: str, text: str) -> None:
        self.page.get_by_label(label, exact=True).fill(text)
        self.presses += 1
        self.keys += len(text)

    def read(self, text: str) -> None:
        self.page.get_by_label(re.compile("or describe your trip")).fill(text)
        self.page.get_by_role("button", name="Use this").click()
        self.presses += 2
        self.keys += len(text)

    def close(self) -> None:
        if self.part:
            self.page.keyboard.press("Escape")
            self.part = ""

    @property
    def takes_s(self) -> float:
        return PRESS_S * self.presses + KEY_S * self.keys


def camper(p: Person) -> None:
    p.open("bank")
    p.press("AGM")
    p.open("when")
    p.press("Aug")


def overlander(p: Person) -> None:
    p.open("bank")
    p.press("120 Ah")
    p.open("chargers")
    p.press("a folding panel 120 W")
    p.press("a panel on the roof")
    p.press("driving, with a DC-DC charger")
    p.page.get_by_role("dialog").get_by_role("button", name="Every so many days: one more").click(
        click_count=2
    )
    p.presses += 2
    p.open("things")
    p.press("a laptop")


def unit_owner(p: Person) -> None:
    p.open("bank")
    p.press("ready-made unit")
    p.open("chargers")
    p.press("a folding panel 120 W")
    p.press("driving, from the 12 V socket")
    p.open("length")
    p.press("5")
    p.open("things")
    p.press("a cool box")
    p.press("a fan")


def radio_operator(p: Person) -> None:
    p.read("100 Ah LiFePO4, mains before leaving, 50 W radio sending a quarter of 9 hours, weekend")


def breather(p: Person) -> None:
    p.read("100 Ah, 45 W cpap from 22 to 6, two nights, no sun")


def standing_by(p: Person) -> None:
    p.open("shape")
    p.press("backup at home Always on mains, for when that fails.")
    p.open("bank")
    p.press("flooded")
    p.press("80 Ah")
    p.open("chargers")
    p.press("a folding panel 120 W")
    p.press("mains")


def logger_owner(p: Person) -> None:
    p.read("9 Ah AGM, 6 W panel, 1.5 Wh a day, a year at 54 degrees north")


def winter_user(p: Person) -> None:
    p.open("bank")
    p.page.get_by_role("dialog").get_by_role("switch").click()
    p.presses += 1
    p.open("when")
    p.press("Jan")
    p.press("-10 °C")
    p.open("length")
    p.press("4")


def builder(p: Person) -> None:
    p.open("shape")
    p.press("which box do I need? I know only what I run.")
    p.open("things")
    p.press("a laptop")
    p.press("a fan")


PEOPLE = {
    "camper": (camper, "a 100 Ah AGM box charged by a 120 W folding panel"),
    "overlander": (overlander, "a 160 W roof panel and driving (25 A)"),
    "unit": (unit_owner, "a 700 Wh ready-made unit charged by the vehicle's 12 V socket"),
    "radio": (radio_operator, "and nothing to charge it, I spend two nights"),
    "breathing": (breather, "and run a breathing machine."),
    "standby": (standing_by, "With an 80 Ah flooded box kept full by mains (10 A)"),
    "logger": (logger_owner, "I leave it alone for twelve months near 54 degrees north"),
    "winter": (winter_user, "a 100 Ah lithium box with heater pads"),
    "builder": (builder, "Which box do I need?"),
}


@pytest.fixture(params=SIZES)
def person(
    request: pytest.FixtureRequest, contexts: dict[str, BrowserContext], server: Server
) -> Iterator[Person]:
    page = contexts[request.param].new_page()
    errors: list[str] = []
    page.on("pageerror", lambda error: errors.append(str(error)))
    page.goto(f"{server.url}/kettle.svg")
    page.evaluate("localStorage.removeItem('oddkettle.sentence')")
    page.goto(f"{server.url}/")
    expect(page.get_by_test_id("verdict")).to_be_visible()
    yield Person(page)
    page.close()
    assert errors == []


BY_NIGHT = ("overlander", "radio", "standby", "builder", "winter", "logger", "unit")
"""In `make test` the others do; every sentence is read without a browser too."""


@pytest.mark.parametrize(
    "name", [pytest.param(name, marks=[NIGHTLY] if name in BY_NIGHT else []) for name in PEOPLE]
)
def test_nine_people_have_their_answer_within_a_minute(name: str, person: Person) -> None:
    steps, sentence = PEOPLE[name]
    steps(person)
    person.close()
    said = person.page.locator("main p").first
    expect(said).to_contain_text(sentence)
    expect(person.page.locator("main[aria-busy=false]")).to_be_visible()
    expect(person.page.get_by_test_id("verdict")).not_to_be_empty()
    expect(person.page.get_by_label("Not understood")).to_have_count(0)
    assert person.presses <= MAX_PRESSES
    assert person.takes_s <= MAX_S


def test_the_sentence_becomes_a_plan_whose_pages_agree_with_it(person: Person) -> None:
    page = person.page
    verdict = page.get_by_test_id("verdict").inner_text()
    page.get_by_role("button", name="Save and plan this trip").click()
    expect(page.get_by_test_id("headline")).to_have_text(verdict)
    expect(page.get_by_test_id("plan-sentence")).to_contain_text("a 100 Ah lithium box")
    page.get_by_test_id("plan-sentence").locator("[data-part=bank]").click()
    page.get_by_role("link", name="All of the battery’s figures").click()
    expect(page.get_by_label("Capacity of one battery").first).to_have_value("100")


def test_a_change_is_put_in_and_taken_out(person: Person) -> None:
    page = person.page
    person.read("50 Ah lithium, no sun, fridge and laptop, 4 nights, July")
    put = page.get_by_role("button", name="Apply")
    put.click()
    expect(page.get_by_text("The change is in.")).to_be_visible()
    page.get_by_role("button", name="Take it out").click()
    expect(put).to_be_visible()


def test_what_is_not_sure_is_asked_and_what_nobody_said_is_dotted(person: Person) -> None:
    page = person.page
    person.read("100ah agm, 120w, fridge")
    asked = page.get_by_label("Not understood")
    expect(asked).to_contain_text("120w")
    chargers = page.locator("[data-part=chargers]")
    expect(chargers).to_have_text("nothing to charge it (supposed)")
    asked.get_by_role("button", name="a panel on the roof, 120 W").click()
    expect(asked).to_have_count(0)
    expect(chargers).to_have_text("a 120 W roof panel")
    expect(page.locator("[data-part=length]")).to_contain_text("(supposed)")


def test_where_the_cool_box_stands_is_said_and_can_be_pressed(person: Person) -> None:
    page = person.page
    person.read("100ah lithium, fridge, 3 nights in january")
    depends = page.get_by_label("It also depends on")
    expect(page.locator("[data-part=when]")).to_contain_text("January")
    expect(page.locator("main[aria-busy=false]")).to_be_visible()
    expect(depends).to_contain_text("stands where it is heated")
    before = page.get_by_test_id("verdict").inner_text()
    depends.get_by_role("radio", name="in the open air").click()
    expect(depends).to_contain_text("stands in the open air")
    expect(page.get_by_test_id("verdict")).not_to_have_text(before)


@NIGHTLY
def test_words_that_are_not_understood_are_told_and_a_bad_size_changes_nothing(
    person: Person,
) -> None:
    page = person.page
    person.read("100 Ah, xyzzy")
    expect(page.get_by_label("Not understood")).to_contain_text("xyzzy was not understood")
    person.open("bank")
    page.get_by_label("Capacity of one battery, another size").fill("99999")
    expect(page.get_by_role("alert")).to_contain_text("99999 is not between 1 and 1500 Ah")
    expect(page.locator("[data-part=bank]")).to_have_text("a 100 Ah lithium box")


@ON_THE_DESK
def test_the_sentence_is_completed_by_keyboard_alone(page: Page, server: Server) -> None:
    page.goto(f"{server.url}/")
    bank = page.locator("[data-part=bank]")
    bank.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("dialog")).to_be_visible()
    gel = page.get_by_role("button", name="gel", exact=True)
    gel.focus()
    page.keyboard.press("Enter")
    expect(bank).to_contain_text("gel")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)


@pytest.fixture
def empty(tmp_path: Path) -> Iterator[Server]:
    """A server on a store without anything."""
    server = Server(tmp_path, SERVE)
    server.start()
    yield server
    server.kill()


@ELSEWHERE
@ON_THE_DESK
def test_an_empty_store_fills_with_boxes_trips_and_what_is_kept(page: Page, empty: Server) -> None:
    page.goto(f"{empty.url}/")
    page.get_by_role("button", name="Save and plan this trip").click()
    expect(page.get_by_test_id("plan-sentence")).to_be_visible()
    page.get_by_role("link", name=re.compile("boxes and trips")).click()
    card = page.get_by_test_id("box-1")
    expect(card.get_by_role("heading")).to_have_text("100 Ah lithium box")

    card.get_by_role("button", name="More of 100 Ah lithium box").click()
    page.get_by_role("menuitem", name="New trip with this box").click()
    page.get_by_label("Name of the trip").fill("Autumn")
    page.get_by_role("button", name="Make the trip").click()
    expect(page.get_by_test_id("plan-sentence")).to_contain_text("three nights")
    page.go_back()

    expect(card.get_by_role("link", name="Autumn")).to_be_visible()
    card.get_by_role("button", name="More of Autumn").click()
    page.get_by_role("menuitem", name="Delete").click()
    expect(card.get_by_role("link", name="Autumn")).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(card.get_by_role("link", name="Autumn")).to_be_visible()

    card.get_by_role("button", name="More of 100 Ah lithium box").click()
    page.get_by_role("menuitem", name="Its life").click()
    for day, ah in (("2025-05-01", "100"), ("2026-05-01", "88")):
        form = page.get_by_role("dialog").locator("form")
        form.get_by_label("A test found, in Ah").fill(ah)
        form.locator("input[type=date]").fill(day)
        form.get_by_role("button", name="Write it down").click()
        expect(form.get_by_label("A test found, in Ah")).to_have_value("")
    expect(page.get_by_text("Its capacity falls by 12.0 % a year")).to_be_visible()


def test_a_sample_is_opened_as_a_copy_with_its_mistake_told(person: Person) -> None:
    page = person.page
    page.get_by_role("heading", name="Two people count moths").scroll_into_view_if_needed()
    card = page.locator("li.card", has_text="Two people count moths")
    expect(card).to_contain_text("probably lasts")
    card.get_by_text("The mistake in this example").click()
    expect(card).to_contain_text("The inverter idles all day")


@ON_THE_DESK
def test_an_appliance_kept_on_the_shelf_is_there_for_another_plan(
    page: Page, server: Server
) -> None:
    page.goto(page.url.replace("/trip", "/use"))
    page.get_by_role("button", name=re.compile("^Light trap")).first.click()
    page.get_by_role("button", name="Keep in my gear").click()
    expect(page.get_by_text("Light trap is in your gear.")).to_be_visible()
    page.goto(f"{server.url}/plan/3/use")
    page.get_by_role("group", name="From my gear").get_by_role("button", name="Light trap").click()
    http.delete(f"{server.url}/api/shelf/1")


@ON_THE_DESK
def test_first_notes_point_at_things_and_never_return(
    page: Page, server: Server, browser: object
) -> None:
    fresh = page.context.browser.new_context()  # type: ignore[union-attr]
    tab = fresh.new_page()
    note = tab.get_by_role("complementary", name="First look at this page")
    for path in ("use", "box", "improve", "log", "build", "trip"):
        tab.goto(f"{server.url}/plan/3/{path}")
        expect(note).to_contain_text("1 of 3")
        for word in ("Next", "Next", "Done"):
            # It points at a thing of the page, never at itself.
            expect(tab.locator(".looked-at")).to_have_count(1)
            expect(note.locator(".looked-at")).to_have_count(0)
            expect(tab.locator("aside.looked-at[aria-label^=First]")).to_have_count(0)
            note.get_by_role("button", name=word).click()
        expect(note).to_have_count(0)
    tab.reload()
    expect(tab.get_by_test_id("headline")).to_be_visible()
    expect(note).to_have_count(0)
    fresh.close()


def test_help_is_searched_and_practise_remembers(person: Person, server: Server) -> None:
    page = person.page
    page.goto(f"{server.url}/help")
    page.get_by_label("Search in it").fill("rested")
    expect(page.get_by_role("heading", name="Take a rested voltage")).to_be_visible()
    expect(page.get_by_role("heading", name="Clearness")).to_have_count(0)
    page.goto(f"{server.url}/practise")
    page.get_by_role("button", name="Drive for an hour on the third day").click()
    expect(page.get_by_text("Yes.")).to_be_visible()
    page.reload()
    expect(page.get_by_role("button", name=re.compile("A dull Thursday, done"))).to_be_visible()
