"""Out of reach: the server is killed, the page opens all the same, and what is noted is sent on."""

from __future__ import annotations

import re
import sqlite3
from contextlib import closing
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.browser.away.reach import (
    INSTALLED,
    choices,
    done,
    key_in,
    log_of,
    open_pad,
    phone,
    plan_of,
    yesterday,
)
from tests.browser.conftest import (
    ELSEWHERE,
    copied_log,
    open_page,
    saved,
    with_the_demos_plan,
)
from tests.support import http
from tests.support.serving import Server
from tests.support.tiers import NIGHTLY

ON_A_PHONE = pytest.mark.parametrize("page", ["phone"], indirect=True)


def at_a_desk(server: Server, plan: int, entries: list[dict[str, Any]]) -> int:
    """A copy of a plan with the same entries written in their order; its number."""
    document = http.get(f"{server.url}/api/plans/{plan}").json()["document"]
    copy = int(http.post(f"{server.url}/api/plans", json=document).json()["id"])
    for one in sorted(entries, key=lambda entry: int(entry["id"])):
        told = {k: v for k, v in one["detail"].items() if v is not None}
        entry = {"at": one["at_local"], "kind": one["kind"], "value": one["value"], **told}
        answer = http.post(f"{server.url}/api/plans/{copy}/log", json=entry)
        assert answer.status_code == 201, answer.text
    return copy


@ON_A_PHONE
@ELSEWHERE
def test_the_browser_can_install_it(page: Page, server: Server) -> None:
    page.goto(server.url)
    link = page.locator("link[rel=manifest]").get_attribute("href")
    manifest = http.get(f"{server.url}{link}")
    assert manifest.headers["content-type"].startswith("application/manifest+json")
    told = manifest.json()
    assert (told["display"], told["start_url"]) == ("standalone", "/")
    for icon in told["icons"]:
        picture = http.get(f"{server.url}{icon['src']}").content
        assert picture.startswith(b"\x89PNG")
        # Width and height of a PNG stand at its 16th byte.
        sides = {int.from_bytes(picture[at : at + 4], "big") for at in (16, 20)}
        assert {f"{side}x{side}" for side in sides} == {icon["sizes"]}
    assert page.evaluate(INSTALLED)


def test_a_day_out_of_reach_is_noted_and_sent_on_once_in_its_order(
    browser: Browser, own: Server, server: Server
) -> None:
    with_the_demos_plan(own, server)
    page = phone(browser)
    page.goto(f"{own.url}/plan/1/today")
    expect(page.get_by_test_id("headline")).to_be_visible()
    assert page.evaluate(INSTALLED)
    before = len(log_of(own))
    own.kill()

    # Still on the page: what is noted waits.
    key_in(page, "48")
    expect(page.get_by_text("Kept on this device: monitor 48 %")).to_be_visible()
    panel = page.get_by_test_id("things").get_by_role("listitem").filter(has_text="Folding panel")
    # It has not begun: only that it will not be can be said.
    expect(panel.get_by_role("button", name="Done", exact=True)).to_have_count(0)
    choices(panel)
    panel.get_by_role("button", name="Not today").click()
    expect(panel.get_by_text("skipped (not sent yet)")).to_be_visible()

    # Opened anew without the server: the same day, with its age, and the same two entries.
    page.reload()
    expect(page.get_by_test_id("away")).to_contain_text("out of reach")
    expect(page.get_by_test_id("outbox").get_by_role("listitem")).to_have_count(2)
    expect(panel.get_by_text("skipped (not sent yet)")).to_be_visible()
    page.get_by_role("button", name="It is full").click()
    # It contradicts what was known: it is asked first.
    page.get_by_role("button", name="Yes, set 99 %").click()
    expect(page.get_by_test_id("outbox").get_by_role("listitem")).to_have_count(3)
    page.goto(own.url)
    expect(page.get_by_role("heading", name="Odd Kettle is out of reach")).to_be_visible()
    page.get_by_role("link", name=re.compile("Moth survey")).click()
    expect(page.get_by_test_id("outbox").get_by_role("listitem")).to_have_count(3)

    own.start()
    expect(page.get_by_test_id("outbox")).to_have_count(0)
    expect(page.get_by_role("navigation")).to_be_visible()
    expect(page.get_by_test_id("away")).to_have_count(0)
    sent = log_of(own)
    assert len(sent) == before + 3
    newest = sorted(sent, key=lambda entry: entry["id"])[-3:]
    assert [one["kind"] for one in newest] == ["monitor_percent", "panel_in", "full"]

    # The same noted at a desk, on a copy of the plan, leads to the same figures.
    copy = at_a_desk(own, 1, sent)
    levels = [
        http.get(f"{own.url}/api/plans/{plan}/track/today").json()["level"] for plan in (1, copy)
    ]
    assert levels[0] == pytest.approx(levels[1])
    page.context.close()


@ON_A_PHONE
@ELSEWHERE
def test_an_answer_that_was_lost_does_not_write_twice(page: Page, server: Server) -> None:
    plan = plan_of(page)
    copied_log(page, server)
    open_page(page, "today")
    before = len(log_of(server, plan))
    lost: list[str] = []

    def lose(route: Any) -> None:
        """The server writes it, and its answer never arrives."""
        if route.request.method == "POST" and not lost:
            lost.append(route.request.headers["idempotency-key"])
            route.fetch()
            route.abort()
        else:
            route.continue_()

    page.route(f"**/api/plans/{plan}/log", lose)
    key_in(page, "52")
    expect(page.get_by_text("Kept on this device: monitor 52 %")).to_be_visible()
    assert len(log_of(server, plan)) == before + 1
    expect(page.get_by_test_id("outbox")).to_have_count(0)
    assert len(lost) == 1
    assert len(log_of(server, plan)) == before + 1


@ON_A_PHONE
@ELSEWHERE
def test_what_is_refused_later_is_told_and_holds_up_nothing(page: Page, server: Server) -> None:
    plan = plan_of(page)
    copied_log(page, server)
    open_page(page, "today")
    page.context.set_offline(True)
    key_in(page, "47")
    page.get_by_role("button", name="It is full").click()
    # It contradicts what was known: it is asked first.
    page.get_by_role("button", name="Yes, set 99 %").click()
    expect(page.get_by_test_id("outbox").get_by_role("listitem")).to_have_count(2)
    # Meanwhile somebody moved the trip: what was noted lies outside it now.
    opened = http.get(f"{server.url}/api/plans/{plan}").json()
    opened["document"]["trip"]["start"] = "2026-07-06"
    http.put(
        f"{server.url}/api/plans/{plan}",
        json={"document": opened["document"], "did": "moved", "base_revision": opened["revision"]},
    ).raise_for_status()
    page.context.set_offline(False)
    expect(page.get_by_text("▲ Not taken")).to_be_visible()
    refused = page.get_by_test_id("outbox").get_by_role("alert").get_by_role("listitem")
    expect(refused).to_have_count(2)
    expect(refused.first).to_contain_text("outside the trip")
    refused.first.get_by_role("button", name="Drop it").click()
    expect(refused).to_have_count(1)
    refused.first.get_by_role("button", name="Drop it").click()
    expect(page.get_by_test_id("outbox")).to_have_count(0)


@NIGHTLY
def test_some_days_of_a_trip_on_a_phone_from_the_sentence_to_the_return(  # noqa: PLR0915
    browser: Browser, own: Server
) -> None:
    """Planned on the home page, under way by the clock, a stretch out of reach, and back."""
    page = phone(browser)
    page.goto(own.url)
    expect(page.get_by_test_id("verdict")).to_be_visible()
    page.get_by_role("button", name="Save and plan this trip").click()
    expect(page.get_by_test_id("headline")).to_be_visible()
    plan = int(page.url.split("/plan/")[1].split("/")[0])
    page.get_by_role("button", name="Place and start").click()
    begun = datetime.now(UTC).date() - timedelta(days=1)
    page.get_by_label("First day").fill(begun.isoformat())
    page.get_by_label("First day").blur()
    page.get_by_role("button", name="Close", exact=True).click()
    saved(page)
    page.reload()
    page.get_by_role("navigation").get_by_role("link", name="Today").click()
    expect(page.get_by_test_id("headline")).to_be_visible()
    asked = yesterday(page).get_by_role("listitem")
    while asked.count():
        before = asked.count()
        done(asked.first)
        expect(asked).to_have_count(before - 1)
    key_in(page, "71")
    expect(page.get_by_text("Saved: monitor says 71 %")).to_be_visible()
    assert page.evaluate(INSTALLED)

    own.kill()
    open_pad(page).get_by_role("button", name="rested V").click()
    key_in(page, "13.1")
    expect(page.get_by_text("Kept on this device: rested 13.1 V")).to_be_visible()
    page.reload()
    expect(page.get_by_test_id("away")).to_be_visible()
    for thing in page.get_by_test_id("things").get_by_role("listitem").all():
        choices(thing)
        thing.get_by_role("button", name=re.compile("Skipped|Not today")).click()
    key_in(page, "69")
    waiting = page.get_by_test_id("outbox").get_by_role("listitem")
    expect(waiting.last).to_contain_text("monitor 69 %")
    count = waiting.count()

    known = len(log_of_stopped(own, plan))
    own.start()
    expect(page.get_by_test_id("outbox")).to_have_count(0)
    sent = log_of(own, plan)
    assert len(sent) == known + count
    desk = browser.new_page()
    copy = at_a_desk(own, plan, sent)
    shown = []
    for number, where in ((plan, page), (copy, desk)):
        where.add_init_script("localStorage.setItem('oddkettle.looked', 'all')")
        where.goto(f"{own.url}/plan/{number}/today")
        level = where.get_by_role("region", name="The level").get_by_role("listitem").first
        shown.append(level.get_by_text("%").first.text_content())
    assert shown[0] == shown[1]
    desk.close()
    page.context.close()


def log_of_stopped(server: Server, plan: int) -> list[object]:
    """The plan's entries as they lie in the file, with nobody to ask."""
    with closing(sqlite3.connect(server.data / "oddkettle.sqlite3")) as file:
        return file.execute("SELECT id FROM log_entry WHERE plan_id = ?", (plan,)).fetchall()
