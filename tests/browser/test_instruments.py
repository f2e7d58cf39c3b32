"""Use and Box as instruments: judgements, remedies, sums, moments, measuring, habits."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import ELSEWHERE, ON_THE_DESK, at_rest, drag, middle, open_page, saved


def fill(page: Page, label: str, text: str) -> None:
    field = page.get_by_role("textbox", name=label, exact=True)
    field.fill(text)
    field.press("Enter")


@ELSEWHERE
def test_a_mistake_is_counted_listed_mended_by_a_button_and_undone(page: Page) -> None:
    open_page(page, "box?part=battery")
    count = page.get_by_test_id("judgement-count")
    expect(count).to_have_attribute("aria-label", re.compile("^2 to mend"))
    fill(page, "Absorption", "15")
    expect(count).to_have_attribute("aria-label", re.compile("^3 to mend"))
    saved(page)
    count.click()
    first = page.get_by_role("dialog").get_by_test_id("judged-profile-mismatch").first
    expect(first).to_contain_text("must never be above 14.6 V")
    expect(first.get_by_role("img", name="danger")).to_be_visible()
    first.get_by_role("button", name="Set absorption to 14.2 V").click()
    expect(page.get_by_test_id("judged-profile-mismatch")).to_have_count(0)
    page.keyboard.press("Escape")
    expect(page.get_by_label("Absorption", exact=True)).to_have_value("14.2")
    saved(page)
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(page.get_by_label("Absorption", exact=True)).to_have_value("15")
    expect(count).to_have_attribute("aria-label", re.compile("^3 to mend"))


@ELSEWHERE
@ON_THE_DESK
def test_a_judgement_stands_beside_its_part(page: Page) -> None:
    open_page(page, "box?part=warmth")
    page.get_by_role("switch", name="The box’s walls conduct").click()
    page.get_by_role("switch", name="Posts are covered").click()
    beside = page.get_by_role("complementary").get_by_test_id("judged-conductive-enclosure")
    expect(beside).to_contain_text("A lid or a spanner across them")
    beside.get_by_role("button", name="The posts are capped now").click()
    expect(beside).to_have_count(0)
    expect(page.get_by_role("switch", name="Posts are covered")).to_be_checked()


@ELSEWHERE
def test_a_figure_opens_to_its_sum_and_leads_on(page: Page) -> None:
    open_page(page, "use")
    page.get_by_role("button", name="65 Ah a day", exact=True).click()
    sheet = page.get_by_test_id("sum")
    expect(sheet).to_contain_text("Use a day")
    sheet.get_by_role("button", name="Laptop").click()
    expect(sheet).to_contain_text("lost in its converter")
    expect(sheet).to_contain_text("12 V to USB [textbook]")
    sheet.get_by_role("button", name="Back").click()
    expect(sheet).to_contain_text("Light trap")
    page.keyboard.press("Escape")
    expect(sheet).to_have_count(0)


@ELSEWHERE
def test_a_moment_shows_currents_and_follows_the_strip(page: Page) -> None:
    open_page(page, "box")
    strip = page.get_by_role("slider", name="Moment that is looked at")
    page.get_by_role("radiogroup", name="Show").get_by_role("radio").nth(1).click()
    expect(page.get_by_text("at that moment")).to_be_visible()
    before = strip.get_attribute("aria-valuetext")
    strip.focus()
    for _ in range(6):
        page.keyboard.press("PageDown")
    expect(strip).not_to_have_attribute("aria-valuetext", before or "")
    sun = page.get_by_role("button", name=re.compile("^Roof and"))
    expect(sun).to_have_attribute("aria-label", re.compile(r"= \d+(\.\d+)? A taken"))
    box = at_rest(strip)
    assert box is not None
    page.mouse.click(box["x"] + box["width"] * 0.25, box["y"] + box["height"] / 2)
    expect(strip).to_have_attribute("aria-valuetext", re.compile("Mon 8"))


@ELSEWHERE
def test_a_panel_left_at_home_and_another_charger(page: Page) -> None:
    open_page(page, "box?part=sun:panels")
    lowest = page.get_by_test_id("strip-lowest").text_content() or ""
    page.get_by_role("switch", name="It comes along").nth(1).click()
    expect(page.get_by_test_id("strip-lowest")).not_to_have_text(lowest)
    page.get_by_role("switch", name="It is there").click()
    expect(page.get_by_text("It is off: it does nothing in this plan.")).to_be_visible()
    expect(page.get_by_role("button", name="Roof and folding panel, off")).to_be_visible()
    saved(page)
    open_page(page, "box?part=mains:mains")
    page.get_by_role("button", name="Duplicate it").click()
    expect(page.get_by_label("Name", exact=True)).to_have_value("Mains charger, another")
    expect(page).to_have_url(re.compile("part=mains"))


@ELSEWHERE
@ON_THE_DESK
def test_what_another_choice_would_cost_can_be_tried(page: Page) -> None:
    open_page(page, "box?part=battery")
    page.get_by_text("What another choice would cost").click()
    school = page.get_by_test_id("school")
    expect(school).to_contain_text("Lead or lithium?")
    expect(school).to_contain_text(re.compile(r"about € \d+, \d+(\.\d)? kg, lasts \d+ years"))
    school.get_by_role("button", name="Try AGM lead-acid").click()
    expect(page.get_by_role("radio", name="AGM lead-acid")).to_have_attribute("data-state", "on")


@ELSEWHERE
@ON_THE_DESK
def test_two_readings_replace_a_guess(page: Page) -> None:
    open_page(page, "use?open=laptop")
    page.get_by_text("Measure it", exact=True).click()
    fill(page, "First reading", "3")
    fill(page, "Second reading", "2")
    fill(page, "Hours between", "2,5")
    expect(page.get_by_role("dialog").get_by_role("alert")).to_contain_text("it must rise")
    fill(page, "Second reading", "13")
    expect(page.get_by_test_id("measured")).to_contain_text("On average it took 51.2 W")
    page.get_by_role("button", name="Put it in the guess’s place").click()
    expect(page.get_by_role("radio", name="measured")).to_have_attribute("data-state", "on")
    expect(page.get_by_label("Power while it runs")).to_have_value("45.06")


@ELSEWHERE
def test_days_can_differ(page: Page) -> None:
    open_page(page, "use?open=trap")
    page.keyboard.press("Escape")
    page.get_by_role("radio", name=re.compile("^rest days")).click()
    page.get_by_role("button", name=re.compile("^Light trap")).first.click()
    page.get_by_role("switch", name="As on site").click()
    hours = page.get_by_role("button", name=re.compile("^Remove the hours"))
    hours.click()
    expect(page.get_by_text("It does not run on such days.")).to_be_visible()
    saved(page)
    open_page(page, "trip")
    out = page.get_by_role("button", name=re.compile("^Thu 11, Ah:"))
    before = out.text_content()
    page.get_by_role("button", name=re.compile("^Thu 11.*change the day$")).click()
    page.get_by_role("radio", name="rest day").click()
    expect(out).not_to_have_text(before or "")


@ELSEWHERE
def test_what_goes_first_is_dragged_or_moved_by_keys(page: Page) -> None:
    open_page(page, "use")
    page.get_by_text(re.compile("^First to go")).click()
    board = page.get_by_test_id("first-to-go")
    laptop = board.get_by_role("button", name=re.compile("^Laptop"))
    laptop.scroll_into_view_if_needed()
    start = middle(laptop)
    end = middle(board.get_by_role("region", name="Goes first"))
    drag(page, start, (end[0] - start[0], end[1] - start[1]))
    first = board.get_by_role("region", name="Goes first")
    expect(first.get_by_role("button", name=re.compile("^Laptop"))).to_be_visible()
    saved(page)
    first.get_by_role("button", name=re.compile("^Laptop")).press("ArrowRight")
    wanted = board.get_by_role("region", name="Goes when it must")
    expect(wanted.get_by_role("button", name=re.compile("^Laptop"))).to_be_visible()


@ELSEWHERE
@ON_THE_DESK
def test_habits_change_what_is_shown_and_read_and_are_kept(page: Page) -> None:
    open_page(page, "box?part=vehicle:dcdc")
    page.keyboard.press("Control+k")
    page.get_by_placeholder("Type a few letters").fill("habits")
    page.keyboard.press("Enter")
    for name in ("°F", "AWG", "lb", "12 h"):
        page.get_by_role("dialog").get_by_role("radio", name=name).click()
    page.keyboard.press("Escape")
    page.get_by_text("Cable and alternator").click()
    fill(page, "Copper", "2/0")
    saved(page)
    page.reload()
    page.get_by_text("Cable and alternator").click()
    expect(page.get_by_label("Copper", exact=True)).to_have_value("-1")
    fill(page, "Copper", "99")
    expect(page.get_by_role("alert").first).to_contain_text("99 is too much. Enter -3")
    expect(page.get_by_text(re.compile(r"Fri 12 6:55 am"))).to_be_visible()
    page.keyboard.press("Escape")
    open_page(page, "box?part=warmth")
    expect(page.get_by_test_id("warmth")).to_contain_text("°F")


@ON_THE_DESK
def test_keys_reach_everything(page: Page) -> None:
    page.keyboard.press("2")
    expect(page).to_have_url(re.compile("/box"))
    page.keyboard.press("u")
    unit = page.get_by_role("radio", name="Wh", exact=True)
    expect(unit).to_have_attribute("data-state", "on")
    page.keyboard.press("n")
    expect(page.locator("html[data-scheme=night]")).to_have_count(1)
    page.keyboard.press("?")
    expect(page.get_by_role("dialog")).to_contain_text("Ctrl+K")
    page.keyboard.press("Escape")
    page.keyboard.press("Control+k")
    page.get_by_placeholder("Type a few letters").fill("laptop")
    page.keyboard.press("Enter")
    expect(page.get_by_role("dialog", name="Laptop")).to_be_visible()


CAUTIONS = {
    "battery": "Lithium burns when it is abused",
    "mains:mains": "Mains kills",
    "sun:panels": "A panel in light is always live",
    "inverter": "An inverter makes mains",
}


@ON_THE_DESK
def test_a_caution_stands_where_the_decision_is_made(page: Page) -> None:
    for part, caution in CAUTIONS.items():
        open_page(page, f"box?part={part}")
        page.get_by_test_id("cautions").get_by_text(caution).click()
        expect(page.get_by_test_id("cautions")).to_contain_text("textbook]")


@ELSEWHERE
@ON_THE_DESK
def test_a_label_is_explained_and_watt_hours_are_caught(page: Page) -> None:
    open_page(page, "box?part=battery")
    page.get_by_text("Which of these numbers do I type where?").click()
    expect(page.get_by_text("CCA 600 A, EN")).to_be_visible()
    fill(page, "Capacity of one battery", "1280")
    page.get_by_role("button", name="Make it 100 Ah").click()
    expect(page.get_by_label("Capacity of one battery").first).to_have_value("100")
