"""The day board, driven as a user drives it."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import ON_THE_DESK, at_rest, drag, lowest, open_page, other_plan, saved


def block(page: Page, name: str, day: str) -> Locator:
    return page.get_by_role("button", name=re.compile(f"^{name}, {day},")).first


def on_a_phone(page: Page) -> bool:
    return (page.viewport_size or {"width": 0})["width"] < 640


def pull(page: Page, bar: Locator, by: tuple[float, float], at: float = 0.5) -> None:
    bar.scroll_into_view_if_needed()
    box = at_rest(bar.locator("rect").first)
    assert box is not None
    drag(page, (box["x"] + box["width"] * at, box["y"] + box["height"] / 2), by)


PAGES = ["Trip", "Use", "Box", "Improve", "Log", "Build"]
BELOW = ["Trip", "Use", "Box", "Improve"]
"""At the bottom of a phone; the others are behind "More"."""


def test_the_first_look_answers_the_question(page: Page) -> None:
    expect(page.get_by_test_id("headline")).to_contain_text("It probably will not last")
    expect(page.get_by_test_id("headline")).to_contain_text("First short: ")
    expect(page.get_by_test_id("detail")).to_contain_text("It goes under your reserve on Fri 12.")
    expect(page.get_by_test_id("lowest")).to_have_count(9)
    links = page.get_by_role("navigation").get_by_role("link")
    expect(links).to_have_text(BELOW if on_a_phone(page) else PAGES)


def test_a_page_begins_within_an_inch_and_its_picture_soon_after(page: Page) -> None:
    """The head takes little: header, answer and facts, then the first picture."""
    height = {"header": 48, "head": 120}
    assert at_rest(page.locator("header"))["height"] <= height["header"]
    head = at_rest(page.locator("[data-head]"))
    room = 190 if on_a_phone(page) else height["head"]
    assert head["y"] + head["height"] <= room
    curve = at_rest(page.get_by_test_id("trip-curve"))
    assert curve["y"] <= (250 if on_a_phone(page) else 190)


def test_a_block_is_dragged_onto_another_day(page: Page) -> None:
    drive = block(page, "drive", "Fri 12")
    drive.evaluate("block => block.scrollIntoView({ block: 'center' })")
    box = at_rest(drive.locator("rect").first)
    onto = at_rest(page.get_by_role("button", name=re.compile("^Wed 10: ")))
    start = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    end = (onto["x"] + onto["width"] / 2, onto["y"] + onto["height"] / 2)
    drag(page, start, (end[0] - start[0], end[1] - start[1]))
    saved(page)
    # It went with its hours, and is one step of undo.
    page.get_by_role("button", name=re.compile("^Wed 10: ")).click()
    expect(block(page, "drive", "Wed 10")).to_be_visible()
    expect(block(page, "drive", "Wed 10")).to_have_attribute(
        "aria-label", re.compile("10:00 to 11:30")
    )
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("button", name=re.compile("^drive, Wed 10"))).to_have_count(0)


@ON_THE_DESK
def test_a_block_is_dragged_along_its_lane_and_the_reserve_up(page: Page) -> None:
    before = lowest(page)
    lane = page.locator("[data-lane=vehicle] [data-lane-block]").nth(2)
    box = at_rest(lane)
    day = at_rest(page.locator("[data-column='0']"))["width"]
    drag(page, (box["x"] + box["width"] / 2, box["y"] + 5), (-day, 0))
    saved(page)
    assert lowest(page) != before
    page.get_by_role("button", name=re.compile("^Thu 11: ")).click()
    expect(block(page, "drive", "Thu 11")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    saved(page)
    assert lowest(page) == before
    floor = page.get_by_role("slider", name="Reserve").first
    line = at_rest(floor)
    drag(page, (line["x"] + 300, line["y"] + line["height"] / 2), (0, -20))
    saved(page)
    expect(floor).not_to_have_attribute("aria-valuenow", "20")


@pytest.mark.parametrize("page", ["phone"], indirect=True)
def test_a_day_is_turned_by_a_swipe(page: Page) -> None:
    chosen = page.get_by_role("region", name="The chosen day")
    expect(chosen).to_contain_text("Fri 12")
    figures = page.get_by_test_id("day-figures")
    figures.scroll_into_view_if_needed()
    box = at_rest(figures)
    touch = page.context.new_cdp_session(page)
    y = box["y"] + 8
    for kind, points in (
        ("touchStart", [{"x": 300, "y": y}]),
        ("touchMove", [{"x": 240, "y": y}]),
        ("touchMove", [{"x": 120, "y": y}]),
        ("touchEnd", []),
    ):
        touch.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": points})
    expect(chosen).to_contain_text("Sat 13")


def test_a_drive_dragged_with_the_mouse_moves_the_level_and_can_be_undone(page: Page) -> None:
    before = lowest(page)
    drive = block(page, "drive", "Fri 12")
    label = drive.get_attribute("aria-label")
    # A quarter of a day to the left: from 10:00 to before dawn.
    plot = at_rest(page.locator("[data-plot]").first)
    assert plot is not None
    pull(page, drive, (-plot["width"] / 4, 0))
    expect(drive).not_to_have_attribute("aria-label", label or "")
    saved(page)
    after = lowest(page)
    assert after != before
    page.reload()
    expect(page.get_by_test_id("lowest")).to_have_count(9)
    assert lowest(page) == after
    page.get_by_role("button", name="Undo").click()
    expect(drive).to_have_attribute("aria-label", label or "")
    # The run follows the plan within a tenth of a second or so.
    expect(page.get_by_test_id("lowest")).to_have_text(before)
    page.get_by_role("button", name="Redo").click()
    expect(page.get_by_test_id("lowest")).to_have_text(after)


def test_a_block_stretches_by_its_end(page: Page) -> None:
    open_page(page, "trip?view=days")
    drive = block(page, "drive", "Sun 14")
    box = at_rest(drive.locator("rect").first)
    assert box is not None
    drive.scroll_into_view_if_needed()
    pull(page, drive, (40, 0), at=1.0)
    expect(drive).to_have_attribute("aria-label", re.compile(r"11:00 to 1[4-6]:(?!00)"))


def test_the_floor_moves_by_mouse_and_keyboard(page: Page) -> None:
    floor = page.get_by_role("slider", name="Reserve").first
    expect(floor).to_have_attribute("aria-valuenow", "20")
    floor.scroll_into_view_if_needed()
    box = at_rest(floor)
    assert box is not None
    drag(page, (box["x"] + box["width"] / 2, box["y"] + 4), (0, 6))
    expect(floor).not_to_have_attribute("aria-valuenow", "20")
    floor.focus()
    for _ in range(20):
        page.keyboard.press("ArrowDown")
    expect(page.get_by_test_id("detail")).to_contain_text("Your box lasts all nine days")


@ON_THE_DESK
def test_a_track_is_looked_at_and_taken_and_the_trip_goes_out_as_a_calendar(
    page: Page, tmp_path: Path
) -> None:
    points = "".join(f'<rtept lat="{54.4 + n / 100:.2f}" lon="-2.0"/>' for n in range(91))
    track = tmp_path / "route.gpx"
    track.write_text(f'<gpx version="1.1" creator="hand"><rte>{points}</rte></gpx>')
    page.get_by_role("button", name="Track and calendar").click()
    dialog = page.get_by_role("dialog", name="Track and calendar")
    bad = tmp_path / "bad.gpx"
    bad.write_text("nothing")
    dialog.get_by_label("Read a GPX file").set_input_files(bad)
    expect(dialog.get_by_role("alert")).to_contain_text("The plan stays as it was.")
    dialog.get_by_label("Read a GPX file").set_input_files(track)
    look = page.get_by_test_id("track-look")
    expect(look).to_contain_text("100 km were read as 1 drive")
    look.get_by_label("Pace, km/h").fill("25")
    look.get_by_label("Hours of driving a day").fill("2")
    look.get_by_role("button", name="Read it so").click()
    expect(look).to_contain_text("100 km were read as 2 drives")
    look.get_by_role("button", name="Take these drives and stops").click()
    saved(page)
    with page.expect_download() as download:
        dialog.get_by_role("link", name="Save as a calendar").click()
    calendar = download.value.path().read_bytes()
    assert calendar.count(b"CATEGORIES:DRIVE") >= 2
    page.get_by_role("button", name="Close", exact=True).click()
    page.get_by_role("button", name="Undo").click()
    saved(page)
    page.get_by_role("button", name="Track and calendar").click()
    own = tmp_path / "trip.ics"
    own.write_bytes(calendar)
    dialog.get_by_label("Read a calendar").set_input_files(own)
    expect(page.get_by_test_id("calendar-look")).to_contain_text("on this trip")
    dialog.get_by_role("button", name="Take these entries").click()
    saved(page)


@ON_THE_DESK
def test_a_trip_of_months_has_a_row_a_month_and_a_press_opens_a_fortnight(page: Page) -> None:
    other_plan(page, "gauging-hut")
    page.get_by_role("button", name="all days").click()
    rows = page.get_by_role("group", name=re.compile("level and blocks"))
    expect(rows).to_have_count(14)
    months = page.get_by_role("img", name="9 months, each day's range of the level")
    box = at_rest(months)
    assert box is not None
    # The twelfth of the first month: a name of 92 px, then 31 days in each row of 44 px.
    day_px = (box["width"] - 96) / 31
    months.click(position={"x": 92 + 11.5 * day_px, "y": 22})
    expect(page.get_by_role("button", name=re.compile("^Tue 10 Mar hut"))).to_be_visible()
