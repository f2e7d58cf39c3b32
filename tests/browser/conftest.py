"""Real Chromium on the real app: a fresh server and a fresh page for every test."""

from __future__ import annotations

import os
import shutil
from collections.abc import Iterator
from pathlib import Path
from urllib.parse import urlsplit

import pytest
from playwright.sync_api import (
    Browser,
    BrowserContext,
    FloatRect,
    Locator,
    Page,
    expect,
    sync_playwright,
)

from oddkettle.usecases.people.addresses import own_addresses
from tests.conftest import EXAMPLES
from tests.support import http
from tests.support.patience import PATIENCE_S
from tests.support.serving import SERVE, Server
from tests.support.tiers import SLOW

CHROMIUM = shutil.which("chromium") or "/usr/bin/chromium"
HEADLESS = shutil.which("chromium-headless-shell") or CHROMIUM
"""The same engine without a window's frame: the tests take two thirds of the time in it."""
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
SIZES = {"desk": (1280, 800), "phone": (390, 844)}
PATIENCE_MS = int(1000 * PATIENCE_S)


LIVE_PLAN = 1
"""The demo's own plan, on which the simulated monitor sits."""
BEHIND = "main[aria-busy=true]"
"""A page whose figures are not yet those of the plan, or are tried only."""
ON_THE_DESK = pytest.mark.parametrize("page", ["desk"], indirect=True)
"""What does not hang on the width is tried at one."""
ELSEWHERE = pytest.mark.elsewhere
"""It opens another page at once: the board is not loaded before. A little picture stands there."""


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Nothing in here is quick."""
    here = Path(__file__).parent
    for item in items:
        if here in item.path.parents:
            item.add_marker(SLOW)


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    # What the tests ask of 127.0.0.1 must not be sent to a proxy.
    os.environ["no_proxy"] = ",".join(["127.0.0.1", "127.0.0.2", *own_addresses("0.0.0.0")])
    expect.set_options(timeout=PATIENCE_MS)
    with sync_playwright() as driver:
        browser = driver.chromium.launch(executable_path=HEADLESS, args=FLAGS)
        yield browser
        browser.close()


@pytest.fixture(scope="session")
def server(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Server]:
    server = Server(tmp_path_factory.mktemp("demo"))
    server.start()
    yield server
    server.kill()


@pytest.fixture
def own(tmp_path: Path) -> Iterator[Server]:
    server = Server(tmp_path, SERVE)
    server.start()
    yield server
    server.kill()


@pytest.fixture(scope="session")
def contexts(browser: Browser) -> Iterator[dict[str, BrowserContext]]:
    """One profile a size, kept over the tests, so that scripts are read and compiled once."""
    found = {
        size: browser.new_context(
            viewport={"width": wide, "height": high},
            has_touch=size == "phone",
            # The accessibility checker is put into the page as a script.
            bypass_csp=True,
        )
        for size, (wide, high) in SIZES.items()
    }
    for context in found.values():
        # The first notes on each page have a test of their own.
        context.add_init_script("localStorage.setItem('oddkettle.looked', 'all')")
    yield found
    for context in found.values():
        context.close()


@pytest.fixture(params=SIZES)
def page(
    request: pytest.FixtureRequest, contexts: dict[str, BrowserContext], server: Server
) -> Iterator[Page]:
    """A page at either size on a plan of its own; any error in its console fails the test."""
    sample = (EXAMPLES / "moth-survey.json").read_bytes()
    answer = http.post(f"{server.url}/api/plans/import", content=sample)
    plan = answer.json()
    page = contexts[request.param].new_page()
    page.set_default_timeout(PATIENCE_MS)
    # What is pressed while an answer is on its way may move before the button is up again.
    page.add_locator_handler(page.locator(BEHIND), lambda: at_ease(page), no_wait_after=True)
    errors: list[str] = []
    page.on("pageerror", lambda error: errors.append(str(error)))
    if request.node.get_closest_marker("elsewhere"):
        page.goto(f"{server.url}/kettle.svg#/plan/{plan['id']}/")
    else:
        page.goto(f"{server.url}/plan/{plan['id']}/trip")
        expect(page.get_by_test_id("headline")).to_be_visible()
    yield page
    page.evaluate("localStorage.clear()")
    page.close()
    assert errors == []


def open_page(page: Page, path: str) -> None:
    """Go to another page of the plan that is open."""
    plan = page.url.split("/plan/")[1].split("/")[0]
    page.goto(f"http://{urlsplit(page.url).netloc}/plan/{plan}/{path}")
    expect(page.get_by_test_id("headline")).to_be_visible()
    # The strip of the whole trip comes above what is there already, and moves it.
    saved(page)


def other_plan(page: Page, sample: str) -> None:
    """A sample box of this test's own, on its trip's page."""
    server = f"http://{urlsplit(page.url).netloc}"
    data = (EXAMPLES / f"{sample}.json").read_bytes()
    answer = http.post(f"{server}/api/plans/import", content=data)
    page.goto(f"{server}/plan/{answer.json()['id']}/trip")
    expect(page.get_by_test_id("headline")).to_be_visible()


def at_rest(shape: Locator) -> FloatRect:
    """Where a shape is, once it has come to rest: answers on their way may move it."""
    saved(shape.page)
    box = shape.bounding_box()
    for _ in range(100):
        shape.page.wait_for_timeout(100)
        now = shape.bounding_box()
        if now is not None and now == box:
            return now
        box = now
    raise AssertionError(f"{shape} does not come to rest")


def middle(shape: Locator) -> tuple[float, float]:
    """Where to press a shape at rest."""
    box = at_rest(shape)
    return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2


def drag(page: Page, start: tuple[float, float], by: tuple[float, float]) -> None:
    """Press, move in small steps, let go."""
    page.mouse.move(*start)
    page.mouse.down()
    for step in range(1, 11):
        page.mouse.move(start[0] + by[0] * step / 10, start[1] + by[1] * step / 10)
    page.mouse.up()


def at_ease(page: Page) -> None:
    """Wait until the figures are those of the plan: looked at with every frame, for an assertion
    looks again only after half a second, and this is waited for many hundred times."""
    page.wait_for_function("() => document.querySelector('main[aria-busy=false]') !== null")


def saved(page: Page) -> None:
    """Wait until nothing is being saved and the figures are those of the plan."""
    page.wait_for_function(
        """() => {
          const marks = document.querySelectorAll("header span, header button");
          const saving = [...marks].some((mark) => mark.textContent.trim() === "…");
          return !saving && document.querySelector("main[aria-busy=false]") !== null;
        }"""
    )


def lowest(page: Page) -> list[str]:
    """Each day's lowest level, as it is shown once the figures are those of the plan."""
    saved(page)
    return page.get_by_test_id("lowest").all_text_contents()


def copied_log(page: Page, server: Server) -> None:
    """The demo's own log, on the plan of this test."""
    plan = int(page.url.split("/plan/")[1].split("/")[0])
    copy_log(server, f"http://{urlsplit(page.url).netloc}", plan)


def copy_log(demo: Server, url: str, plan: int) -> None:
    """The log of the demo's own plan, on a plan of any server."""
    for entry in http.get(f"{demo.url}/api/plans/{LIVE_PLAN}/log").json():
        new = {key: value for key, value in entry["detail"].items() if value is not None}
        body = new | {"at": entry["at_local"], "kind": entry["kind"], "value": entry["value"]}
        http.post(f"{url}/api/plans/{plan}/log", json=body).raise_for_status()


def with_the_demos_plan(own: Server, demo: Server) -> None:
    """The demo's plan as the first of an empty store, with its log."""
    sample = (EXAMPLES / "moth-survey.json").read_bytes()
    http.post(f"{own.url}/api/plans/import", content=sample).raise_for_status()
    copy_log(demo, own.url, 1)
