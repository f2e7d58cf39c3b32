"""The wheel is the whole product: installed elsewhere, run there, used in the browser."""

from __future__ import annotations

import os
import subprocess
import zipfile
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, expect

from oddkettle import __version__
from tests.conftest import EXAMPLES
from tests.support.serving import Server
from tests.support.tiers import NIGHTLY
from tests.support.wheel import ROOT, built_wheel, fresh_with


@pytest.fixture(scope="module")
def wheel(tmp_path_factory: pytest.TempPathFactory) -> Path:
    return built_wheel(tmp_path_factory.mktemp("wheel"))


@pytest.fixture(scope="module")
def installed(wheel: Path, tmp_path_factory: pytest.TempPathFactory) -> Path:
    return fresh_with(wheel, tmp_path_factory.mktemp("installed"))


def run(fresh: Path, *words: str) -> str:
    """What the installed command says, run from a folder that has nothing of ours."""
    environment = {k: v for k, v in os.environ.items() if k != "PYTHONPATH"}
    command = [str(fresh / "bin" / "oddkettle"), *words]
    done = subprocess.run(
        command, cwd=fresh, env=environment, check=True, capture_output=True, text=True
    )
    return done.stdout


def test_the_wheel_is_the_whole_product(wheel: Path) -> None:
    held = {Path(name) for name in zipfile.ZipFile(wheel).namelist()}
    sources = (ROOT / "src" / "oddkettle").rglob("*.py")
    assert {
        Path("oddkettle") / one.relative_to(ROOT / "src" / "oddkettle") for one in sources
    } <= held
    shipped = Path("oddkettle") / "shipped"
    assert shipped / "web" / "index.html" in held
    assert [one for one in held if one.match("shipped/web/assets/*.woff2")]
    plans = {shipped / "examples" / path.name for path in EXAMPLES.glob("*.json")}
    assert {one for one in held if one.parent == shipped / "examples"} == plans
    assert [one for one in held if one.match("formats/booklet/fonts/*.ttf")]
    assert [one for one in held if one.match("*.dist-info/licenses/LICENSE")]
    assert [one for one in held if one.match("*.dist-info/licenses/THIRD-PARTY.md")]


@NIGHTLY
def test_the_installed_command_runs_a_plan(installed: Path, tmp_path: Path) -> None:
    assert run(installed, "--version") == f"oddkettle {__version__}\n"
    where = run(installed, "simulate", str(EXAMPLES / "moth-survey.json"))
    assert "goes under your reserve on Fri 12" in where
    booklet = tmp_path / "booklet.pdf"
    run(installed, "print", str(EXAMPLES / "moth-survey.json"), str(booklet))
    assert booklet.read_bytes().startswith(b"%PDF")


@pytest.fixture
def server_of_the_wheel(installed: Path, tmp_path: Path) -> Iterator[Server]:
    server = Server(tmp_path, [str(installed / "bin" / "oddkettle"), "demo"], cwd=installed)
    server.start()
    yield server
    server.kill()


@NIGHTLY
def test_a_wheel_alone_answers_in_the_browser(
    browser: Browser, server_of_the_wheel: Server
) -> None:
    page = browser.new_page()
    errors: list[str] = []
    page.on("pageerror", lambda error: errors.append(str(error)))
    page.add_init_script("localStorage.setItem('oddkettle.looked', 'all')")
    page.goto(server_of_the_wheel.url)
    expect(page.get_by_test_id("verdict")).to_be_visible()
    page.get_by_role("link", name="Practise").click()
    expect(page.get_by_role("heading", name="A dull Thursday")).to_be_visible()
    page.goto(f"{server_of_the_wheel.url}/plan/1/trip")
    page.get_by_role("link", name="Box", exact=True).click()
    expect(page.get_by_role("textbox", name="Capacity of one battery")).to_be_visible()
    page.keyboard.press("Control+k")
    page.get_by_role("option", name="Units and habits").click()
    expect(page.get_by_test_id("version")).to_have_text(f"Odd Kettle {__version__}")
    assert page.evaluate("document.fonts.check('16px \"Atkinson Hyperlegible Next Variable\"')")
    page.close()
    assert errors == []
