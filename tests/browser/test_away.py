"""Out of reach: the server is killed, the page opens all the same, and what is noted is sent on."""

from __future__ import annotations

import re
import shutil
import sqlite3
from collections.abc import Iterator
from contextlib import closing
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect

from oddkettle.settings import WEB
from tests import http
from tests.browser.conftest import (
    ELSEWHERE,
    PATIENCE_MS,
    SIZES,
    copied_log,
    open_page,
    saved,
    with_the_demos_plan,
)
from tests.conftest import EXAMPLES
from tests.serving import SERVE, Server
from tests.tiers import NIGHTLY

ON_A_PHONE = pytest.mark.parametrize("page", ["phone"], indirect=True)
INSTALLED = """async () => {
  const ready = await navigator.serviceWorker.ready;
  while (ready.active?.state !== "activated" || !navigator.serviceWorker.controller)
    await new Promise((done) => setTimeout(done, 50));
  return true;
}"""

UPGRADED = """async () => {
  const worker = await navigator.serviceWorker.getRegistration();
  if (worker.installing || worker.waiting || worker.active?.state !== "activated") return false;
  const kept = await Promise.all((await caches.keys()).map(async (name) => {
    const cache = await caches.open(name);
    return (await cache.keys()).map((request) => request.url);
  }));
  return kept.flat().some((url) => /StartPage-.*-newer\\.js/.test(url));
}"""


def upgraded(to: Path) -> Path:
    """The front end as a newer version has it: each script under another name."""
    shutil.copytree(WEB, to)
    scripts = list((to / "assets").glob("*.js"))
    for script in scripts:
        script.rename(script.with_stem(f"{script.stem}-newer"))
    for file in (*to.glob("assets/*.js"), to / "index.html", to / "sw.js"):
        text = file.read_text("utf-8")
        for script in scripts:
            text = text.replace(script.name, f"{script.stem}-newer.js")
        document = r'("index\.html",revision:")\w+'
        file.write_text(re.sub(document, r"\g<1>newer", text), "utf-8")
    return to


def with_a_plan(own: Server) -> None:
    sample = (EXAMPLES / "moth-survey.json").read_bytes()
    http.post(f"{own.url}/api/plans/import", content=sample).raise_for_status()


@pytest.fixture
def own(tmp_path: Path) -> Iterator[Server]:
    server = Server(tmp_path, SERVE)
    server.start()
    yield server
    server.kill()


def phone(browser: Browser) -> Page:
    wide, high = SIZES["phone"]
    context = browser.new_context(viewport={"width": wide, "height": high}, has_touch=True)
    context.add_init_script("localStorage.setItem('oddkettle.looked', 'all')")
    page = context.new_page()
    page.set_default_timeout(PATIENCE_MS)
    return page


def plan_of(page: Page) -> int:
    return int(page.url.split("/plan/")[1].split("/")[0])


def log_of(server: Server, plan: int = 1) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = http.get(f"{server.url}/api/plans/{plan}/log").json()
    return found


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


def key_in(page: Page, figures: str) -> None:
    pad = page.get_by_role("region", name="What do you read?")
    for figure in figures:
        pad.get_by_role("button", name=figure, exact=True).click()
    pad.get_by_role("button", name="Note it").click()


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
    panel.get_by_role("button", name="Did", exact=True).click()
    expect(panel.get_by_text("✓ done (not sent yet)")).to_be_visible()

    # Opened anew without the server: the same day, with its age, and the same two entries.
    page.reload()
    expect(page.get_by_test_id("away")).to_contain_text("out of reach")
    expect(page.get_by_test_id("outbox").get_by_role("listitem")).to_have_count(2)
    expect(panel.get_by_text("✓ done (not sent yet)")).to_be_visible()
    page.get_by_role("button", name="It is full").click()
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
    assert [one["kind"] for one in newest] == ["monitor_percent", "panel_out", "full"]

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


def test_two_tabs_out_of_reach_lose_none_of_each_others_notes(
    browser: Browser, own: Server
) -> None:
    with_a_plan(own)
    first = phone(browser)
    first.goto(f"{own.url}/plan/1/today")
    second = first.context.new_page()
    second.set_default_timeout(PATIENCE_MS)
    second.goto(f"{own.url}/plan/1/today")
    for page in (first, second):
        expect(page.get_by_test_id("headline")).to_be_visible()
    before = len(log_of(own))
    own.kill()
    for page, figures in ((first, "61"), (second, "62"), (first, "63"), (second, "64")):
        key_in(page, figures)
        expect(page.get_by_text(f"Kept on this device: monitor {figures} %")).to_be_visible()
    # Each shows what the other one keeps.
    for page in (first, second):
        expect(page.get_by_test_id("outbox").get_by_role("listitem")).to_have_count(4)
    own.start()
    for page in (first, second):
        expect(page.get_by_test_id("outbox")).to_have_count(0)
    sent = sorted(log_of(own), key=lambda entry: entry["id"])[before:]
    assert [entry["value"] for entry in sent] == [61, 62, 63, 64]
    first.context.close()


def test_a_note_for_one_data_file_never_lands_in_another_at_the_same_address(
    browser: Browser, own: Server, tmp_path: Path
) -> None:
    with_a_plan(own)
    page = phone(browser)
    page.goto(f"{own.url}/plan/1/today")
    expect(page.get_by_test_id("headline")).to_be_visible()
    assert page.evaluate(INSTALLED)
    own.kill()
    key_in(page, "58")
    expect(page.get_by_text("Kept on this device: monitor 58 %")).to_be_visible()

    other = Server(tmp_path / "other", SERVE, port=own.port)
    other.start()
    with_a_plan(other)
    page.goto(f"{own.url}/plan/1/today")
    kept = page.get_by_test_id("elsewhere")
    expect(kept).to_contain_text("Moth survey")
    expect(kept).to_contain_text("monitor 58 %")
    assert [entry["value"] for entry in log_of(other)] == []
    other.kill()

    # Neither is its day shown as that of the other.
    page.goto(f"{own.url}/plan/1/today")
    expect(page.get_by_test_id("away")).to_be_visible()
    own.start()
    page.reload()
    expect(page.get_by_test_id("headline")).to_be_visible()
    expect(page.get_by_test_id("outbox")).to_have_count(0)
    assert [entry["value"] for entry in log_of(own)] == [58]
    page.context.close()


def test_pages_open_out_of_reach_after_an_upgrade_too(
    browser: Browser, own: Server, tmp_path: Path
) -> None:
    """Every script of the new version has another name, as after a build of changed code."""
    with_a_plan(own)
    page = phone(browser)
    for path in ("today", "log"):
        page.goto(f"{own.url}/plan/1/{path}")
        expect(page.get_by_test_id("headline")).to_be_visible()
    assert page.evaluate(INSTALLED)
    own.stop()

    newer = Server(
        own.data, SERVE, port=own.port, settings={"ODDKETTLE_WEB": str(upgraded(tmp_path / "web"))}
    )
    newer.start()
    page.goto(f"{own.url}/plan/1/today")
    expect(page.get_by_test_id("headline")).to_be_visible()
    page.wait_for_function(UPGRADED)
    newer.kill()
    # One that was not opened since, and one that was.
    for path in ("log", "today"):
        page.goto(f"{own.url}/plan/1/{path}")
        expect(page.get_by_test_id("away")).to_be_visible()
    page.context.close()


@ELSEWHERE
def test_a_script_that_did_not_arrive_is_asked_for_again(page: Page) -> None:
    broken: list[str] = []

    def break_off(route: Any) -> None:
        if broken:
            route.continue_()
        else:
            broken.append(route.request.url)
            route.abort()

    page.route("**/assets/PlanMenu-*.js", break_off)
    open_page(page, "trip")
    expect(page.get_by_role("navigation")).to_be_visible()
    assert len(broken) == 1


@NIGHTLY
def test_some_days_of_a_trip_on_a_phone_from_the_sentence_to_the_return(
    browser: Browser, own: Server
) -> None:
    """Planned on the home page, under way by the clock, a stretch out of reach, and back."""
    page = phone(browser)
    page.goto(own.url)
    expect(page.get_by_test_id("verdict")).to_be_visible()
    page.get_by_role("button", name="Make it mine").click()
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
    asked = page.get_by_role("region", name="How was yesterday?").get_by_role("listitem")
    while asked.count():
        before = asked.count()
        asked.first.get_by_role("button", name="Did", exact=True).click()
        expect(asked).to_have_count(before - 1)
    key_in(page, "71")
    expect(page.get_by_text("Noted: monitor says 71 %")).to_be_visible()
    assert page.evaluate(INSTALLED)

    own.kill()
    page.get_by_role("button", name="rested V").click()
    key_in(page, "13.1")
    expect(page.get_by_text("Kept on this device: rested 13.1 V")).to_be_visible()
    page.reload()
    expect(page.get_by_test_id("away")).to_be_visible()
    for thing in page.get_by_test_id("things").get_by_role("listitem").all():
        thing.get_by_role("button", name="Did not").click()
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
