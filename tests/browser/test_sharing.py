"""Two real devices at two addresses of this machine: one shows a code, the other is let in."""

from __future__ import annotations

import re
import time
from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, Page, expect

from oddkettle.usecases.people.addresses import own_addresses
from tests.browser.away.reach import choices
from tests.browser.conftest import PATIENCE_MS, SIZES, with_the_demos_plan
from tests.support.serving import SERVE, Server

PHRASE = "moth rope stone kettle"
SEND = """async ([method, path, body]) => {
  const headers = { "content-type": "application/json" };
  const got = await fetch(path, { method, headers, body: body && JSON.stringify(body) });
  return [got.status, got.status === 204 ? null : await got.json()];
}"""


@pytest.fixture(scope="module")
def shared(tmp_path_factory: pytest.TempPathFactory, server: Server) -> Iterator[Server]:
    own = Server(tmp_path_factory.mktemp("shared"), SERVE, pass_phrase=PHRASE)
    own.start()
    with_the_demos_plan(own, server)
    yield own
    own.kill()


def opened(browser: Browser, size: str) -> Page:
    wide, high = SIZES[size]
    context = browser.new_context(viewport={"width": wide, "height": high})
    context.add_init_script("localStorage.setItem('oddkettle.looked', 'all')")
    page = context.new_page()
    page.set_default_timeout(PATIENCE_MS)
    return page


def test_a_phone_is_let_in_by_a_code_logs_under_its_name_and_is_sent_away(
    browser: Browser, shared: Server
) -> None:
    # A machine without a network has one more address of its own all the same.
    address = next(iter(own_addresses("0.0.0.0")), "127.0.0.2")
    desk, phone = opened(browser, "desk"), opened(browser, "phone")
    desk.goto(shared.url)
    desk.get_by_role("button", name="Open it on a phone").click()
    dialog = desk.get_by_role("dialog")
    dialog.get_by_text("Guest: reads and logs").click()
    dialog.get_by_role("button", name="Show a code").click()
    code = dialog.get_by_test_id("code").text_content() or ""

    phone.goto(f"http://{address}:{shared.port}/plan/1/today")
    expect(phone.get_by_role("heading", name="Let this device in")).to_be_visible()
    phone.get_by_label("The code, or the pass phrase").fill("not the code")
    phone.get_by_label("What this device is called").fill("Iva's phone")
    phone.get_by_role("button", name="Let me in").click()
    expect(phone.get_by_role("alert")).to_contain_text("5 minutes")
    phone.get_by_label("The code, or the pass phrase").fill(code)
    phone.get_by_role("button", name="Let me in").click()
    expect(phone.get_by_test_id("headline")).to_be_visible()
    assert phone.url.endswith("/plan/1/today")

    # It logs under its name, and cannot delete.
    document = phone.evaluate(SEND, ["GET", "/api/plans/1", None])[1]["document"]
    reading = {"at": f"{document['trip']['start']}T09:00", "kind": "monitor_percent", "value": 71}
    status, entry = phone.evaluate(SEND, ["POST", "/api/plans/1/log", reading])
    assert (status, entry["written_by"]) == (201, "Iva's phone")
    gone = phone.evaluate(SEND, ["DELETE", f"/api/plans/1/log/{entry['id']}", None])
    assert gone[0] == 403

    # The code is used up, the device stands in the list; sent away, it must ask anew.
    expect(dialog.get_by_test_id("code")).to_have_count(0)
    dialog.get_by_role("button", name="Send Iva's phone away").click()
    expect(dialog.get_by_text("No device yet.")).to_be_visible()
    phone.reload()
    expect(phone.get_by_role("heading", name="Let this device in")).to_be_visible()
    for page in (desk, phone):
        page.context.close()


def test_what_one_phone_notes_the_other_shows_within_a_second(
    browser: Browser, shared: Server
) -> None:
    """Both have Today open; one ticks a thing, the other shows who did it."""
    address = next(iter(own_addresses("0.0.0.0")), "127.0.0.2")
    desk, phone = opened(browser, "desk"), opened(browser, "phone")
    phone.goto(f"http://{address}:{shared.port}/plan/1/today")
    phone.get_by_label("The code, or the pass phrase").fill(PHRASE)
    phone.get_by_label("What this device is called").fill("Iva's phone")
    phone.get_by_role("button", name="Let me in").click()
    expect(phone.get_by_test_id("headline")).to_be_visible()
    with desk.expect_response("**/live"):
        desk.goto(f"{shared.url}/plan/1/today")
    thing = desk.get_by_test_id("things").get_by_role("listitem").first
    expect(thing).to_contain_text("brings")
    told: list[float] = []
    desk.on("request", lambda asked: told.append(time.monotonic()) if "/today" in asked.url else 0)
    # One that holds its line a while has heard how it stands.
    desk.wait_for_timeout(1000)
    told.clear()
    with phone.expect_response(lambda got: got.url.endswith("/log") and got.status == 201):
        row = phone.get_by_test_id("things").get_by_role("listitem").first
        choices(row)
        row.get_by_role("button", name=re.compile("Skipped|Not today")).click()
    noted = time.monotonic()
    expect(thing).to_contain_text("skipped (Iva's phone)")
    # It was told and asked within a second; what it then takes to answer hangs on the machine.
    assert min(told) - noted < 1.0
    for page in (desk, phone):
        page.context.close()
