"""What is given away: every import declared, and a wheel that is the whole product."""

from __future__ import annotations

import ast
import os
import shutil
import subprocess
import sys
import sysconfig
import tomllib
from importlib.metadata import packages_distributions
from pathlib import Path

import pytest
from packaging.requirements import Requirement

from oddkettle import __version__
from tests.conftest import EXAMPLES
from tests.tiers import SLOW

ROOT = Path(__file__).resolve().parents[1]
PROJECT = tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]


def imported() -> set[str]:
    """Top-level packages of others that the program imports anywhere."""
    found: set[str] = set()
    for path in (ROOT / "src").rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Import):
                found |= {name.name.split(".")[0] for name in node.names}
            elif isinstance(node, ast.ImportFrom) and node.module and node.level == 0:
                found.add(node.module.split(".")[0])
    return found - set(sys.stdlib_module_names) - {"oddkettle"}


def test_every_import_is_declared() -> None:
    declared = {
        Requirement(line).name.lower().replace("_", "-") for line in PROJECT["dependencies"]
    }
    owners = packages_distributions()
    missing = {
        name
        for name in imported()
        if not declared & {owner.lower().replace("_", "-") for owner in owners.get(name, [name])}
    }
    assert missing == set()


def test_every_declared_package_is_in_the_lock_at_a_version_that_suits() -> None:
    lock = dict(line.split("==") for line in (ROOT / "requirements.lock").read_text().split())
    locked = {name.lower().replace("_", "-"): version for name, version in lock.items()}
    for line in PROJECT["dependencies"]:
        wanted = Requirement(line)
        assert wanted.specifier.contains(locked[wanted.name.lower().replace("_", "-")]), line


def test_the_version_stands_in_one_place() -> None:
    assert "version" in PROJECT["dynamic"]
    assert f"## {__version__} " in (ROOT / "CHANGELOG.md").read_text()
    others = [
        path
        for path in (*ROOT.glob("*.toml"), ROOT / "web/package.json", ROOT / "setup.py")
        if __version__ in path.read_text()
    ]
    assert others == []


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


@SLOW
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


@SLOW
def test_the_installed_command_runs_a_plan(installed: Path, tmp_path: Path) -> None:
    assert run(installed, "--version") == f"oddkettle {__version__}\n"
    where = run(installed, "simulate", str(EXAMPLES / "moth-survey.json"))
    assert "falls below your floor on Fri 12" in where
    booklet = tmp_path / "booklet.pdf"
    run(installed, "print", str(EXAMPLES / "moth-survey.json"), str(booklet))
    assert booklet.read_bytes().startswith(b"%PDF")
