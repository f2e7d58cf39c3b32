"""Notes kept on a device: by every tab, for their own data file, over an upgrade of the program."""

from __future__ import annotations

import re
import shutil
from pathlib import Path
from typing import Any

from playwright.sync_api import Browser, expect

from oddkettle.settings import WEB
from tests.browser.away.reach import INSTALLED, key_in, log_of, phone, with_a_plan
from tests.browser.conftest import PATIENCE_MS
from tests.support.serving import SERVE, Server

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


def test_a_script_that_did_not_arrive_is_asked_for_again(browser: Browser, own: Server) -> None:
    with_a_plan(own)
    # A profile of its own: nothing lies in a cache, and no worker answers in the network's place.
    page = phone(browser)
    broken: list[str] = []

    def break_off(route: Any) -> None:
        if broken:
            route.continue_()
        else:
            broken.append(route.request.url)
            route.abort()

    page.route("**/assets/PlanMenu-*.js", break_off)
    page.goto(f"{own.url}/plan/1/trip")
    expect(page.get_by_test_id("headline")).to_be_visible()
    expect(page.locator("header button[aria-haspopup=menu]").first).to_be_visible()
    assert len(broken) == 1
    page.context.close()
