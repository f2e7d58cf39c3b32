"""The day board, driven as a user drives it."""

from __future__ import annotations

import re
from pathlib import Path

from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import ON_THE_DESK, at_rest, drag, lowest, saved


def block(page: Page, name: str, day: str) -> Locator:
    return page.get_by_role("button", name=re.compile(f"^{name}, {day},")).first


def pull(page: Page, bar: Locator, by: tuple[float, float], at: float = 0.5) -> None:
    bar.scroll_into_view_if_needed()
    box = at_rest(bar.locator("rect").first)
    assert box is not None
    drag(page, (box["x"] + box["width"] * at, box["y"] + box["height"] / 2), by)


PAGES = ["Use", "Box", "Trip", "Improve", "Log", "Build"]
"""In the order in which people work."""


def test_the_first_look_answers_the_question(page: Page) -> None:
    expect(page.get_by_test_id("headline")).to_contain_text("It probably will not last")
    expect(page.get_by_test_id("headline")).to_contain_text("Fri 12 is the tightest.")
    expect(page.get_by_test_id("detail")).to_contain_text("It goes under your reserve on Fri 12.")
    expect(page.get_by_test_id("lowest")).to_have_count(9)
    expect(page.get_by_role("navigation").get_by_role("link")).to_have_text(PAGES)


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


def test_a_block_has_a_keyboard_twin(page: Page) -> None:
    drive = block(page, "drive", "Tue 9")
    expect(drive).to_have_attribute("aria-label", re.compile("09:30 to 10:45"))
    before = lowest(page)
    drive.focus()
    page.keyboard.press("ArrowRight")
    expect(drive).to_have_attribute("aria-label", re.compile("09:35 to 10:50"))
    for _ in range(12):
        page.keyboard.press("Shift+ArrowRight")
    expect(drive).to_have_attribute("aria-label", re.compile("09:35 to 11:50"))
    assert lowest(page) != before
    page.keyboard.press("ArrowDown")
    moved = block(page, "drive", "Wed 10")
    expect(moved).to_have_attribute("aria-label", re.compile("09:35 to 11:50"))
    moved.focus()
    page.keyboard.press("Delete")
    expect(moved).to_have_count(0)


def test_a_block_stretches_by_its_end(page: Page) -> None:
    drive = block(page, "drive", "Sun 14")
    box = at_rest(drive.locator("rect").first)
    assert box is not None
    drive.scroll_into_view_if_needed()
    pull(page, drive, (40, 0), at=1.0)
    expect(drive).to_have_attribute("aria-label", re.compile(r"11:00 to 1[4-6]:(?!00)"))


def test_times_can_be_typed_and_nonsense_is_refused_where_it_is_typed(page: Page) -> None:
    drive = block(page, "drive", "Tue 9")
    drive.focus()
    page.keyboard.press("Enter")
    end = page.get_by_label("To", exact=True)
    end.fill("08:00")
    end.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text(
        "A drive from 09:30 cannot end at 08:00. Choose an end after 09:30."
    )
    end.fill("26:99")
    end.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("“26:99” is not a time of day")
    end.fill("11:15")
    end.press("Enter")
    expect(drive).to_have_attribute("aria-label", re.compile("09:30 to 11:15"))


def test_the_proposed_drive_is_tried_with_one_click(page: Page) -> None:
    page.get_by_role("button", name=re.compile(r"^Drive \d+ min on Thu 11")).click()
    expect(page.get_by_test_id("detail")).to_contain_text(
        "Your box lasts all nine days, but only just."
    )


def test_a_days_sky_is_changed_with_a_click(page: Page) -> None:
    before = lowest(page)
    page.get_by_role("button", name=re.compile("^Sky on Thu 11: overcast")).click()
    page.get_by_role("menuitemradio", name="clear", exact=True).click()
    expect(page.get_by_role("button", name=re.compile("^Sky on Thu 11: clear"))).to_be_visible()
    saved(page)
    assert lowest(page)[6] != before[6]


def test_days_come_and_go_with_their_blocks(page: Page) -> None:
    page.get_by_role("button", name=re.compile("^Sat 6 .*change the day")).click()
    page.get_by_role("button", name="Add a day after it").click()
    expect(page.get_by_test_id("lowest")).to_have_count(10)
    expect(block(page, "drive", "Wed 10")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Wed 10 .*change the day")).click()
    page.get_by_role("button", name="Remove this day").click()
    expect(page.get_by_test_id("lowest")).to_have_count(9)
    expect(block(page, "drive", "Wed 10")).to_have_count(0)


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


def test_the_cursor_reads_any_moment(page: Page) -> None:
    cursor = page.get_by_role("slider", name="Cursor over the trip")
    first = cursor.get_attribute("aria-valuetext")
    assert first is not None
    numbers = r"Fri 12, \d\d:\d\d: \d+ %, [\d.]+ V, [+−][\d.]+ A, battery at −?\d+ °C"
    assert re.fullmatch(numbers + ", under your reserve", first)
    cursor.focus()
    page.keyboard.press("ArrowUp")
    expect(cursor).to_have_attribute("aria-valuetext", re.compile("^Thu 11, .* h to your reserve"))
    page.keyboard.press("Shift+ArrowRight")
    expect(page.get_by_test_id("cursor")).to_contain_text(re.compile(r"Thu 11, 0[78]:"))


def test_a_block_is_added_by_button_and_by_key(page: Page) -> None:
    page.get_by_role("button", name="drive", exact=True).click()
    expect(block(page, "drive", "Fri 12")).to_be_visible()
    page.get_by_role("slider", name="Cursor over the trip").focus()
    page.keyboard.press("h")
    expect(block(page, "hook-up", "Fri 12")).to_be_visible()


def test_a_days_figures_open_to_their_sum(page: Page) -> None:
    page.get_by_role("button", name=re.compile("^Thu 11, Ah: .*Open the sum")).click()
    sheet = page.get_by_role("dialog")
    for line in ("Roof and folding panel", "Cool box, 28 L", "Lost in the battery", "Out"):
        expect(sheet.get_by_role("rowheader", name=line, exact=False).first).to_be_visible()


def test_the_unit_switch_changes_every_figure(page: Page) -> None:
    figures = page.get_by_role("button", name=re.compile("^Thu 11, Ah: "))
    expect(figures).to_be_visible()
    page.get_by_role("radio", name="Wh").click()
    expect(figures).to_have_count(0)
    expect(page.get_by_role("button", name=re.compile(r"^Thu 11, Wh: in \d{3} "))).to_be_visible()
    page.reload()
    expect(page.get_by_role("radio", name="Wh")).to_be_checked()


def test_a_place_that_cannot_be_is_refused_and_the_plan_stays(page: Page) -> None:
    page.get_by_role("button", name="Place and start").click()
    latitude = page.get_by_label("Latitude")
    latitude.fill("123")
    latitude.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("123 is too much. Enter -90 to 90")
    zone = page.get_by_label("Time zone")
    zone.fill("Moor/Nowhere")
    zone.press("Enter")
    page.get_by_role("button", name="Close").last.click()
    expect(page.get_by_role("alert").first).to_contain_text("no time zone called 'Moor/Nowhere'")
    page.get_by_role("button", name="Place and start").click()
    expect(page.get_by_label("Time zone")).to_have_value("Europe/London")


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
