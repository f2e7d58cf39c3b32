"""The wheel is the whole product: installed elsewhere, run there, used in the browser."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import sysconfig
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, expect

from oddkettle import __version__
from tests.conftest import EXAMPLES
from tests.serving import Server

ROOT = Path(__file__).resolve().parents[2]


@pytest.fixture(scope="module")
def installed(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A fresh environment with the wheel alone of ours; what it needs is lent by this one.

    A path in a `.pth` file lends its packages, but not what this environment itself runs from.
    """
    folder = tmp_path_factory.mktemp("wheel")
    tree = folder / "tree"
    for name in ("src", "web/dist", "examples/plans"):
        shutil.copytree(ROOT / name, tree / name, ignore=shutil.ignore_patterns("*.egg-info"))
    for name in ("pyproject.toml", "setup.py", "README.md", "LICENSE", "THIRD-PARTY.md"):
        shutil.copy(ROOT / name, tree)
    pip = [sys.executable, "-m", "pip", "--quiet", "--disable-pip-version-check"]
    wheel = [*pip, "wheel", "--no-deps", "--no-build-isolation", "--wheel-dir", str(folder)]
    subprocess.run([*wheel, str(tree)], check=True, capture_output=True)
    fresh = folder / "fresh"
    subprocess.run([sys.executable, "-m", "venv", "--without-pip", str(fresh)], check=True)
    site = next(fresh.glob("lib/python*/site-packages"))
    (site / "lent.pth").write_text(sysconfig.get_path("purelib"))
    built = next(folder.glob("oddkettle-*.whl"))
    python = str(fresh / "bin" / "python")
    install = [*pip, "--python", python, "install", "--no-deps", "--no-index", "--force-reinstall"]
    subprocess.run([*install, str(built)], check=True, capture_output=True)
    return fresh


def run(fresh: Path, *words: str) -> str:
    """What the installed command says, run from a folder that has nothing of ours."""
    environment = {k: v for k, v in os.environ.items() if k != "PYTHONPATH"}
    command = [str(fresh / "bin" / "oddkettle"), *words]
    done = subprocess.run(
        command, cwd=fresh, env=environment, check=True, capture_output=True, text=True
    )
    return done.stdout


def test_the_wheel_is_the_whole_product(installed: Path) -> None:
    site = next(installed.glob("lib/python*/site-packages"))
    shipped = site / "oddkettle" / "shipped"
    assert (shipped / "web" / "index.html").is_file()
    assert list((shipped / "web" / "assets").glob("*.woff2"))
    plans = {path.name for path in EXAMPLES.glob("*.json")}
    assert {path.name for path in (shipped / "examples").glob("*.json")} == plans
    assert list((site / "oddkettle" / "formats" / "booklet" / "fonts").glob("*.ttf"))
    about = next(site.glob("oddkettle-*.dist-info"))
    assert (about / "licenses" / "LICENSE").is_file()
    assert (about / "licenses" / "THIRD-PARTY.md").is_file()


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
