"""The wheel, installed elsewhere and used in the browser."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, expect

from oddkettle import __version__
from tests.serving import Server
from tests.test_package import installed  # noqa: F401 - a fixture


@pytest.fixture
def server_of_the_wheel(installed: Path, tmp_path: Path) -> Iterator[Server]:  # noqa: F811
    server = Server(tmp_path, [str(installed / "bin" / "oddkettle"), "demo"], cwd=installed)
    server.start()
    yield server
    server.kill()


def test_a_wheel_alone_answers_in_the_browser(
    browser: Browser, server_of_the_wheel: Server
) -> None:
    page = browser.new_page()
    errors: list[str] = []
    page.on("pageerror", lambda error: errors.append(str(error)))
    page.goto(server_of_the_wheel.url)
    expect(page.get_by_test_id("headline")).to_be_visible()
    page.get_by_role("link", name="Box").click()
    expect(page.get_by_role("textbox", name="Capacity of one battery")).to_be_visible()
    page.keyboard.press("Control+k")
    page.get_by_role("option", name="Units and habits").click()
    expect(page.get_by_test_id("version")).to_have_text(f"Odd Kettle {__version__}")
    assert page.evaluate("document.fonts.check('16px \"Atkinson Hyperlegible Next Variable\"')")
    page.close()
    assert errors == []
