"""A day in the field: what may run at any time is placed; an alarm stands until it was seen."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import ELSEWHERE, open_page, saved
from tests.support import http
from tests.support.serving import Server


@ELSEWHERE
def test_a_laptop_at_any_time_is_placed_and_can_be_fixed(page: Page) -> None:
    open_page(page, "use?open=laptop")
    sheet = page.get_by_role("dialog", name="Laptop")
    sheet.get_by_label("from", exact=True).first.fill("09:00")
    sheet.get_by_label("from", exact=True).first.press("Enter")
    sheet.get_by_role("radio", name="at any time in them").click()
    long = sheet.get_by_label("For so long, in one go")
    long.fill("2000")
    long.press("Enter")
    long.press("Enter")
    expect(sheet.get_by_text("Enter 5 to 1,440 min")).to_be_visible()
    long.fill("900")
    long.press("Enter")
    # More than its hours hold: said with value and remedy, and nothing is lost.
    expect(page.get_by_text(re.compile("is to run 900 min in one go")).first).to_be_visible()
    expect(long).to_have_value("120")
    saved(page)
    page.keyboard.press("Escape")
    bar = page.get_by_role(
        "button", name=re.compile("^Laptop, 120 min at any time, 09:00 to 22:30")
    )
    expect(bar).to_be_visible()
    page.get_by_role("button", name="Find the best hours").click()
    expect(page.get_by_test_id("schedule-says")).to_contain_text("at a better time")
    page.get_by_role("button", name="Use these hours").click()
    saved(page)
    page.get_by_role("button", name="Find the best hours").click()
    expect(page.get_by_test_id("schedule-says")).to_contain_text("What stands is as good")
    open_page(page, "today")
    expect(page.get_by_test_id("things").get_by_text(re.compile("^Laptop, "))).to_be_visible()


def test_an_alarm_stands_on_every_page_until_it_was_seen(page: Page, server: Server) -> None:
    plan = page.url.split("/plan/")[1].split("/")[0]
    entry = {"at": "2026-06-08T22:00", "kind": "monitor_percent", "value": 40}
    http.post(f"{server.url}/api/plans/{plan}/log", json=entry).raise_for_status()
    for where in ("today", "box"):
        open_page(page, where)
        alarm = page.get_by_test_id("alarms").get_by_role("listitem")
        expect(alarm).to_contain_text("It goes under your reserve of 20 %")
        expect(alarm).to_contain_text("Leave Light trap off tonight")
    alarm.get_by_role("button", name="I have seen it").click()
    expect(alarm).to_have_count(0)
    open_page(page, "today")
    expect(page.get_by_test_id("headline")).to_be_visible()
    expect(alarm).to_have_count(0)
